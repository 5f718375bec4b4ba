package ledger

import (
	"context"
	"encoding/json"
	"fmt"
	"reflect"

	"github.com/google/uuid"

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
		if err := want.Balance(); err != nil {
			say("%s: %v", code, err)
		}
		got, err := storedBatch(ctx, tx, id)
		if err != nil {
			return nil, err
		}
		if want.Closed {
			want.Cells = map[batch.Spot]batch.Cell{}
		}
		if !reflect.DeepEqual(want, got) {
			say("%s: facts say %+v, tables say %+v", code, want, got)
		}
	}
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
		if json.Unmarshal(b, &back) != nil || json.Unmarshal(r.State, &got) != nil || !reflect.DeepEqual(back, got) {
			say("%s: facts say %s, the table says %s", r.Name, b, r.State)
		}
	}
	return wrong, nil
}

// storedBatch reads a batch's state from the tables beside the facts.
func storedBatch(ctx context.Context, tx *store.Tx, id uuid.UUID) (*batch.State, error) {
	s := batch.New()
	row, err := tx.GetBatch(ctx, id)
	if err != nil {
		return nil, err
	}
	if err := json.Unmarshal(row.State, s); err != nil {
		return nil, err
	}
	cells, err := tx.CellsOfBatches(ctx, []uuid.UUID{id})
	if err != nil {
		return nil, err
	}
	for _, c := range cells {
		at := batch.Spot{Kind: batch.InCell, In: c.TrayID.String(), Row: c.Row, Col: c.Col}
		s.Cells[at] = batch.Cell{State: batch.CellState(c.State), Cause: c.Cause}
	}
	ports, err := tx.PortsOfBatches(ctx, []uuid.UUID{id})
	if err != nil {
		return nil, err
	}
	for _, p := range ports {
		s.Ports[batch.Spot{Kind: batch.InPort, In: p.PlaceID.String(), Row: p.Tier, Col: p.Col}] = true
	}
	stands, err := tx.StandsOfBatches(ctx, []uuid.UUID{id})
	for _, x := range stands {
		s.Stands[x.PlaceID.String()] = x.Plants
	}
	return s, err
}
