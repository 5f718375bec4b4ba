package ledger

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"ulpa/core/batch"
	"ulpa/core/tank"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
)

// Fault is something kept beside the facts that is not what they come to. What it is about
// is the batch or the tank that Mend takes; a fault of the facts themselves has neither.
type Fault struct {
	Batch, Tank uuid.UUID
	Says        string
}

// Audit rebuilds the present state from the facts and names every place where
// the tables say otherwise. Nothing is changed.
func Audit(ctx context.Context, tx *store.Tx) (wrong []Fault, err error) {
	rows, err := tx.Conn().Query(ctx, "SELECT id, code FROM batch ORDER BY code")
	if err != nil {
		return nil, err
	}
	type one struct {
		id   uuid.UUID
		code string
	}
	batches, err := pgx.CollectRows(rows, func(r pgx.CollectableRow) (b one, err error) { return b, r.Scan(&b.id, &b.code) })
	if err != nil {
		return nil, err
	}
	for _, b := range batches {
		says, can, err := auditBatch(ctx, tx, b.id)
		if err != nil {
			return nil, err
		}
		f := Fault{Says: b.code + ": " + says}
		if can {
			f.Batch = b.id
		}
		if says != "" {
			wrong = append(wrong, f)
		}
	}
	tanks, err := tx.ListTanks(ctx, nil)
	if err != nil {
		return nil, err
	}
	for _, r := range tanks {
		want, _, err := FoldTank(ctx, tx, r.ID)
		if err != nil {
			return nil, err
		}
		kept, err := sameTank(want, r)
		if err != nil {
			return nil, err
		}
		if !kept {
			wrong = append(wrong, Fault{Tank: r.ID, Says: fmt.Sprintf("%s: the facts say %s, the table says %s", r.Name, asKept(want.State), r.State)})
		}
	}
	return wrong, nil
}

// auditBatch says what of a batch is not as the facts have it, and whether that can be
// mended: facts that do not follow from one another cannot.
func auditBatch(ctx context.Context, tx *store.Tx, id uuid.UUID) (says string, can bool, err error) {
	want, err := foldBatch(ctx, tx, id)
	var no unfit
	if errors.As(err, &no) {
		return fmt.Sprintf("does not fold: %v", err), false, nil
	} else if err != nil {
		return "", false, err
	}
	if err := want.state.Balance(); err != nil {
		return err.Error(), false, nil
	}
	got, err := storedBatch(ctx, tx, id)
	if err != nil {
		return "", false, err
	}
	if want.state.Closed {
		want.state.Cells = map[batch.Spot]batch.Cell{}
	}
	if !reflect.DeepEqual(want.state, got.state) || !reflect.DeepEqual(want.latest, got.latest) {
		return "the facts say " + want.said() + ", the tables say " + got.said(), true, nil
	}
	if parts := Parts(want.state.Cells); !reflect.DeepEqual(parts, got.parts) {
		return fmt.Sprintf("its cells come to %v by tray, kept is %v", parts, got.parts), true, nil
	}
	return "", false, nil
}

func sameTank(want Tank, r db.Tank) (bool, error) {
	var got, back tank.State
	if err := errors.Join(json.Unmarshal([]byte(asKept(want.State)), &back), json.Unmarshal(r.State, &got)); err != nil {
		return false, err
	}
	// One before anything was read or added is kept as nothing at all.
	return reflect.DeepEqual(back, got) || string(r.State) == "{}" && reflect.DeepEqual(want.State, tank.State{}), nil
}

// asKept is a value as the tables have it, for people to compare.
func asKept(v any) string {
	b, err := json.Marshal(v)
	if err != nil {
		return err.Error()
	}
	return string(b)
}

func (b batchBooks) said() string {
	var where []string
	for at, c := range b.state.Cells {
		where = append(where, fmt.Sprintf("%v %s%s", at, c.State, c.Cause))
	}
	for at := range b.state.Ports {
		where = append(where, fmt.Sprint(at))
	}
	slices.Sort(where)
	return fmt.Sprint(asKept(b.state), " ", asKept(b.latest), " ", where, " ", asKept(b.state.Stands))
}

// Mend keeps what the facts come to in place of what was kept.
func Mend(ctx context.Context, tx *store.Tx, f Fault) error {
	if f.Tank != uuid.Nil {
		if _, err := tx.LockTank(ctx, f.Tank); err != nil {
			return err
		}
		_, err := refoldTank(ctx, tx, f.Tank)
		return err
	}
	if _, err := tx.LockBatch(ctx, f.Batch); err != nil {
		return err
	}
	want, err := foldBatch(ctx, tx, f.Batch)
	if err != nil {
		return err
	}
	got, err := storedBatch(ctx, tx, f.Batch)
	if err != nil {
		return err
	}
	if err := putBatch(ctx, tx, f.Batch, got.state, want); err != nil {
		return err
	}
	return putTrayParts(ctx, tx, f.Batch, standing(want.state))
}

// keptBatch is what the tables beside the facts hold of a batch.
type keptBatch struct {
	batchBooks
	parts map[string]Part
}

func storedBatch(ctx context.Context, tx *store.Tx, id uuid.UUID) (b keptBatch, err error) {
	s := batch.New()
	b.state, b.parts = s, map[string]Part{}
	row, err := store.One(tx.GetBatches(ctx, []uuid.UUID{id}))
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
		s.Cells[at] = CellOf(c.State, c.Cause, c.Open, c.Waits, c.Plants, c.Done)
	}
	ports, err := tx.PortsOfBatches(ctx, []uuid.UUID{id})
	if err != nil {
		return b, err
	}
	for _, p := range ports {
		s.Ports[batch.Spot{Kind: batch.InPort, In: p.PlaceID.String(), Row: p.Tier, Col: p.Col}] = true
	}
	stands, err := tx.StandsOfBatches(ctx, []uuid.UUID{id})
	if err != nil {
		return b, err
	}
	for _, x := range stands {
		s.Stands[batch.StandKey(x.PlaceID.String(), idOrNone(x.PotID))] = x.Plants
	}
	rows, err := tx.Conn().Query(ctx, "SELECT tray_id::text, waiting, standing, used FROM tray_part WHERE batch_id = $1", id)
	if err != nil {
		return b, err
	}
	var in string
	var p Part
	_, err = pgx.ForEachRow(rows, []any{&in, &p.Waiting, &p.Standing, &p.Used}, func() error { b.parts[in] = p; return nil })
	return b, err
}

func idOrNone(id *uuid.UUID) string {
	if id == nil {
		return ""
	}
	return id.String()
}
