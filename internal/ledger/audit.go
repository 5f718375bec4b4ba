package ledger

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"ulpa/core/batch"
	"ulpa/core/solution"
	"ulpa/internal/store"
)

// Audit rebuilds the present state from the facts and names every place where
// the tables say otherwise. Nothing is changed.
func Audit(ctx context.Context, tx *store.Tx) ([]string, error) {
	var wrong []string
	say := func(format string, args ...any) { wrong = append(wrong, fmt.Sprintf(format, args...)) }
	rows, err := tx.Conn().Query(ctx, "SELECT id, code FROM batch")
	if err != nil {
		return nil, err
	}
	codes := map[uuid.UUID]string{}
	for rows.Next() {
		var id uuid.UUID
		var code string
		if err := rows.Scan(&id, &code); err != nil {
			return nil, err
		}
		codes[id] = code
	}
	if rows.Err() != nil {
		return nil, rows.Err()
	}
	for id, code := range codes {
		want, err := foldBatch(ctx, tx, id)
		if err != nil {
			say("%s does not fold: %v", code, err)
			continue
		}
		if err := want.state.Balance(); err != nil {
			say("%s: %v", code, err)
		}
		got, err := storedBatch(ctx, tx, id)
		if err != nil {
			return nil, err
		}
		if want.state.Closed {
			want.state.Cells = map[batch.Spot]batch.Cell{}
		}
		if !reflect.DeepEqual(want, got) {
			say("%s: facts say %+v, tables say %+v", code, want, got)
		}
	}
	trays, err := auditTrays(ctx, tx)
	if err != nil {
		return nil, err
	}
	wrong = append(wrong, trays...)
	tanks, err := tx.ListReservoirs(ctx)
	if err != nil {
		return nil, err
	}
	for _, r := range tanks {
		want, _, err := FoldTank(ctx, tx, r.ID)
		if err != nil {
			return nil, err
		}
		var got, back solution.State
		b, _ := json.Marshal(want.State)
		if json.Unmarshal(b, &back) != nil || json.Unmarshal(r.State, &got) != nil || got.V == back.V && !reflect.DeepEqual(back, got) {
			say("%s: facts say %s, the table says %s", r.Name, b, r.State)
		}
	}
	return wrong, nil
}

// auditTrays compares what is kept of each batch in each tray with the cells.
func auditTrays(ctx context.Context, tx *store.Tx) (wrong []string, err error) {
	rows, err := tx.Conn().Query(ctx, `SELECT coalesce(k.tray_id, c.tray_id)::text || ' of ' || coalesce(k.batch_id, c.batch_id)::text
		FROM tray_part k FULL JOIN (SELECT tray_id, batch_id, count(*) FILTER (WHERE state = 'sown') AS waiting,
			count(*) FILTER (WHERE state IN ('sprouted', 'thinned')) AS standing, count(*) AS used FROM cell GROUP BY 1, 2) c
		USING (tray_id, batch_id) WHERE (k.waiting, k.standing, k.used) IS DISTINCT FROM (c.waiting, c.standing, c.used)`)
	if err != nil {
		return nil, err
	}
	trays, err := pgx.CollectRows(rows, pgx.RowTo[string])
	for _, t := range trays {
		wrong = append(wrong, "tray "+t+": what is kept of it is not what its cells say")
	}
	return wrong, err
}

// storedBatch reads a batch's state from the tables beside the facts.
func storedBatch(ctx context.Context, tx *store.Tx, id uuid.UUID) (b batchBooks, err error) {
	s := batch.New()
	b.state = s
	row, err := tx.GetBatch(ctx, id)
	if err != nil {
		return b, err
	}
	if err := errors.Join(json.Unmarshal(row.State, s), json.Unmarshal(row.Latest, &b.latest)); err != nil {
		return b, err
	}
	cells, err := tx.CellsOfBatches(ctx, []uuid.UUID{id})
	if err != nil {
		return b, err
	}
	for _, c := range cells {
		at := batch.Spot{Kind: batch.InCell, In: c.TrayID.String(), Row: c.Row, Col: c.Col}
		s.Cells[at] = batch.Cell{State: batch.CellState(c.State), Cause: c.Cause}
	}
	ports, err := tx.PortsOfBatches(ctx, []uuid.UUID{id})
	if err != nil {
		return b, err
	}
	for _, p := range ports {
		s.Ports[batch.Spot{Kind: batch.InPort, In: p.PlaceID.String(), Row: p.Tier, Col: p.Col}] = true
	}
	stands, err := tx.StandsOfBatches(ctx, []uuid.UUID{id})
	for _, x := range stands {
		s.Stands[x.PlaceID.String()] = x.Plants
	}
	return b, err
}
