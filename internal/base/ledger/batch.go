package ledger

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
)

// batchBooks are what the facts about a batch come to.
type batchBooks struct {
	state  *batch.State
	latest Latest
	last   time.Time // when the last of them happened
}

// foldBatch replays what is known of a batch, in the order it happened.
func foldBatch(ctx context.Context, tx *store.Tx, id uuid.UUID) (batchBooks, error) {
	return foldBatchUntil(ctx, tx, id, nil)
}

// foldBatchUntil replays what happened up to a moment; nil is all of it.
func foldBatchUntil(ctx context.Context, tx *store.Tx, id uuid.UUID, until *time.Time) (batchBooks, error) {
	b := batchBooks{state: batch.New()}
	facts, err := tx.FactsAbout(ctx, []uuid.UUID{id})
	if err != nil {
		return b, err
	}
	var acts []batch.Act
	for _, f := range facts {
		if until != nil && f.HappenedAt.After(*until) {
			break
		}
		b.last = f.HappenedAt
		k, err := kindOf(f.Kind)
		if err != nil {
			return b, err
		}
		if !k.act() {
			continue
		}
		var a batch.Act
		if err := json.Unmarshal(f.Data, &a); err != nil {
			return b, fmt.Errorf("entry %s: %w", f.ID, err)
		}
		acts = append(acts, a)
		b.latest.See(a, f.HappenedAt, someID(f.Place))
	}
	if b.state, err = batch.Fold(acts); err != nil {
		return b, unfit{err}
	}
	return b, nil
}

// Happened is an act on a batch, and when it was.
type Happened struct {
	Batch uuid.UUID
	At    time.Time
	Act   batch.Act
}

// ActsOn are all acts on some batches, in the order they happened.
func ActsOn(ctx context.Context, tx *store.Tx, batches []uuid.UUID) (out []Happened, err error) {
	facts, err := tx.FactsAbout(ctx, batches)
	if err != nil {
		return nil, err
	}
	for _, f := range facts {
		k, err := kindOf(f.Kind)
		if err != nil {
			return nil, err
		}
		if !k.act() {
			continue
		}
		x := Happened{Batch: f.ThingID, At: f.HappenedAt}
		if err := json.Unmarshal(f.Data, &x.Act); err != nil {
			return nil, fmt.Errorf("entry %s: %w", f.ID, err)
		}
		out = append(out, x)
	}
	return out, nil
}

// refoldBatch keeps what the facts come to after one of them changed, or arrived late. It
// refuses when what followed is not possible any more. Where an entry was taken back, the pots that it
// filled were never used, and those that it emptied are in use again.
func refoldBatch(ctx context.Context, tx *store.Tx, id uuid.UUID, before *batch.State, takenBack bool) error {
	after, err := foldBatch(ctx, tx, id)
	if errors.As(err, &unfit{}) {
		return field.Refuse("entry", "Something written down later depends on this (%s). Undo that first.", say.Why(err))
	}
	if err != nil {
		return err
	}
	if err := putBatch(ctx, tx, id, before, after); err != nil {
		return err
	}
	return emptied(ctx, tx, before, after.state, takenBack)
}

// unfit is the error of facts that do not follow from one another.
type unfit struct{ error }

// BatchAct is one act on a batch, about to be recorded.
type BatchAct struct {
	ID         uuid.UUID
	Batch      uuid.UUID
	Place      *uuid.UUID
	HappenedAt time.Time
	Act        batch.Act
	Uses       []uuid.UUID // what is taken for it beside: the packet
	// Check looks at the books before the act, under the lock; nil asks nothing.
	Check func(*batch.State) error
}

// someID is an id, or nil for none.
func someID(id uuid.UUID) *uuid.UUID {
	if id == uuid.Nil {
		return nil
	}
	return &id
}

// withPlace is what an act is about: the batch, and the place where it happened.
func withPlace(batch uuid.UUID, place *uuid.UUID) []uuid.UUID {
	if place == nil {
		return []uuid.UUID{batch}
	}
	return []uuid.UUID{batch, *place}
}

// OnBatch records an act and keeps cells, ports, stands and counts beside it,
// or refuses it when the records do not allow it. The same id twice is one act.
func OnBatch(ctx context.Context, tx *store.Tx, b BatchAct) (*batch.State, error) {
	row, err := tx.LockBatch(ctx, b.Batch) // acts on a batch come one after another
	if err != nil {
		return nil, err
	}
	books, err := foldBatch(ctx, tx, b.Batch)
	if err != nil {
		return nil, err
	}
	if again, err := Known(ctx, tx, b.ID); again || err != nil {
		return books.state, err
	}
	if err := b.Act.Check(); err != nil {
		return nil, err
	}
	if b.HappenedAt.IsZero() {
		b.HappenedAt = tx.Now
	}
	b.HappenedAt = b.HappenedAt.UTC().Truncate(time.Microsecond) // as the database will give it back
	then, late := books, b.HappenedAt.Before(books.last)
	if late { // it is judged by what was so when it happened
		if then, err = foldBatchUntil(ctx, tx, b.Batch, &b.HappenedAt); err != nil {
			return nil, err
		}
	}
	if b.Check != nil {
		if err := b.Check(then.state); err != nil {
			return nil, err
		}
	}
	if b.Act.Kind == batch.Count && then.state.Start == batch.Struck {
		b.Act.Start = batch.Struck // which the entry says
	}
	if b.Act.From, err = then.state.Choose(b.Act.From); err != nil {
		return nil, err
	}
	after := batchBooks{state: then.state.Clone(), latest: books.latest}
	if err := after.state.Apply(b.Act); err != nil {
		return nil, err
	}
	after.latest.See(b.Act, b.HappenedAt, b.Place)
	again, err := Write(ctx, tx, Fact{
		ID: b.ID, Kind: string(b.Act.Kind), HappenedAt: b.HappenedAt, About: withPlace(b.Batch, b.Place), Uses: b.Uses, Data: b.Act,
		Names: row.Code + " " + row.Crop,
	})
	if again || err != nil { // stored meanwhile, for another batch
		return books.state, err
	}
	if late {
		return after.state, refoldBatch(ctx, tx, b.Batch, books.state, false)
	}
	if err := putBatch(ctx, tx, b.Batch, books.state, after); err != nil {
		return after.state, err
	}
	return after.state, emptied(ctx, tx, books.state, after.state, false)
}

// standing is what the tables hold of a state: a closed batch's cells are
// washed and free again.
func standing(s *batch.State) map[batch.Spot]batch.Cell {
	if s.Closed {
		return nil
	}
	return s.Cells
}

// putBatch writes the difference between two states to the tables beside the facts.
func putBatch(ctx context.Context, tx *store.Tx, id uuid.UUID, before *batch.State, books batchBooks) error {
	after := books.state
	var drop, put, set cellRows
	was, is := standing(before), standing(after)
	for at, c := range was {
		if now, ok := is[at]; !ok {
			drop.add(at, c)
		} else if now != c {
			set.add(at, now)
		}
	}
	for at, c := range is {
		if _, ok := was[at]; !ok {
			put.add(at, c)
		}
	}
	var dropPorts, putPorts cellRows
	for at := range before.Ports {
		if !after.Ports[at] {
			dropPorts.add(at, batch.Cell{})
		}
	}
	for at := range after.Ports {
		if !before.Ports[at] {
			putPorts.add(at, batch.Cell{})
		}
	}
	if err := errors.Join(drop.err, put.err, set.err, dropPorts.err, putPorts.err); err != nil {
		return err
	}
	school := tx.Who.School
	steps := []struct {
		n int
		f func() error
	}{
		{len(drop.in), func() error {
			return tx.DropCells(ctx, db.DropCellsParams{Trays: drop.in, Rows: drop.rows, Cols: drop.cols, BatchID: id})
		}},
		{len(set.in), func() error {
			return tx.SetCells(ctx, db.SetCellsParams{
				Trays: set.in, Rows: set.rows, Cols: set.cols, States: set.states, Causes: set.causes,
				Opens: set.opens, Waits: set.waits, Plants: set.plants, Dones: set.dones, BatchID: id,
			})
		}},
		{len(put.in), func() error {
			return tx.PutCells(ctx, db.PutCellsParams{
				SchoolID: school, Trays: put.in, Rows: put.rows, Cols: put.cols, States: put.states, Causes: put.causes,
				Opens: put.opens, Waits: put.waits, Plants: put.plants, Dones: put.dones, BatchID: id,
			})
		}},
		{len(dropPorts.in), func() error {
			return tx.DropPorts(ctx, db.DropPortsParams{Places: dropPorts.in, Tiers: dropPorts.rows, Cols: dropPorts.cols, BatchID: id})
		}},
		{len(putPorts.in), func() error {
			return tx.PutPorts(ctx, db.PutPortsParams{SchoolID: school, Places: putPorts.in, Tiers: putPorts.rows, Cols: putPorts.cols, BatchID: id})
		}},
		{len(drop.in) + len(set.in) + len(put.in), func() error { return putTrayParts(ctx, tx, id, is) }},
		{1, func() error { return putStands(ctx, tx, id, before, after) }},
	}
	for _, s := range steps {
		if s.n == 0 {
			continue
		}
		if err := s.f(); err != nil {
			return err
		}
	}
	state, err := json.Marshal(after)
	if err != nil {
		return err
	}
	latest, err := json.Marshal(books.latest)
	if err != nil {
		return err
	}
	return tx.SetBatchState(ctx, db.SetBatchStateParams{ID: id, State: state, Closed: after.Closed || after.Never(), Latest: latest})
}

// Part is what a batch has in one tray: places that wait, plants, and all cells it uses.
type Part struct{ Waiting, Standing, Used int }

// CellOf is a cell as it is kept.
func CellOf(state, cause string, open bool, waits, plants int, done bool) batch.Cell {
	return batch.Cell{State: batch.CellState(state), Cause: batch.Cause(cause), Open: open, Waits: waits, Plants: plants, Over: done}
}

// Parts counts a batch's cells by tray.
func Parts(cells map[batch.Spot]batch.Cell) map[string]Part {
	out := map[string]Part{}
	for at, c := range cells {
		p := out[at.In]
		p.Used++
		p.Waiting, p.Standing = p.Waiting+c.Waiting(), p.Standing+c.Standing()
		out[at.In] = p
	}
	return out
}

func putTrayParts(ctx context.Context, tx *store.Tx, id uuid.UUID, cells map[batch.Spot]batch.Cell) error {
	if err := tx.DropTrayParts(ctx, id); err != nil {
		return err
	}
	for in, p := range Parts(cells) {
		trayID, err := uuid.Parse(in)
		if err != nil {
			return err
		}
		if err := tx.PutTrayPart(ctx, db.PutTrayPartParams{
			SchoolID: tx.Who.School, TrayID: trayID, BatchID: id, Waiting: p.Waiting, Standing: p.Standing,
			Used: p.Used,
		}); err != nil {
			return err
		}
	}
	return nil
}

func putStands(ctx context.Context, tx *store.Tx, id uuid.UUID, before, after *batch.State) error {
	same := len(before.Stands) == len(after.Stands)
	for p, n := range after.Stands {
		same = same && before.Stands[p] == n
	}
	if same {
		return nil
	}
	if err := tx.DropStands(ctx, id); err != nil {
		return err
	}
	for key, n := range after.Stands {
		in, of := batch.SplitStand(key)
		place, err := uuid.Parse(in)
		if err != nil {
			return err
		}
		row := db.PutStandParams{SchoolID: tx.Who.School, PlaceID: place, BatchID: id, Plants: n}
		if of != "" {
			pot, err := uuid.Parse(of)
			if err != nil {
				return err
			}
			row.PotID = &pot
		}
		if err := tx.PutStand(ctx, row); err != nil {
			return err
		}
	}
	return nil
}

// cellRows are spots as columns, the way they go to PostgreSQL in one statement.
type cellRows struct {
	in             []uuid.UUID
	rows, cols     []int
	states, causes []string
	opens, dones   []bool
	waits, plants  []int
	err            error
}

func (r *cellRows) add(at batch.Spot, c batch.Cell) {
	id, err := uuid.Parse(at.In)
	if err != nil {
		r.err = err
	}
	r.in, r.rows, r.cols = append(r.in, id), append(r.rows, at.Row), append(r.cols, at.Col)
	r.states, r.causes = append(r.states, string(c.State)), append(r.causes, string(c.Cause))
	r.opens, r.waits, r.plants, r.dones = append(r.opens, c.Open), append(r.waits, c.Waits), append(r.plants, c.Plants), append(r.dones, c.Over)
}

// emptied puts pots that plants have left among those to wash, in the order of their ids so
// that two never wait for each other; where an entry was taken back, those that it put there are not.
func emptied(ctx context.Context, tx *store.Tx, before, after *batch.State, takenBack bool) error {
	left := map[string]int{}
	for key, n := range before.Stands {
		_, pot := batch.SplitStand(key)
		left[pot] += n
	}
	for key, n := range after.Stands {
		_, pot := batch.SplitStand(key)
		left[pot] -= n
	}
	delete(left, "")
	for _, pot := range slices.Sorted(maps.Keys(left)) {
		if left[pot] == 0 || left[pot] > 0 == takenBack {
			continue
		}
		id, err := uuid.Parse(pot)
		if err != nil {
			return err
		}
		if err := tx.DirtyPots(ctx, db.DirtyPotsParams{ID: id, Many: left[pot]}); err != nil {
			return err
		}
	}
	return nil
}
