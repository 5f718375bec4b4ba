package ledger

import (
	"bytes"
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/tank"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
)

// TankRead is the kind of entry that says what was read of a tank: one that is filled when it is
// set up has such an entry, too.
const TankRead = "reading"

// Tank is a tank as its books say.
type Tank struct {
	ID       uuid.UUID
	Place    uuid.UUID
	Name     string
	Position int        // of a jar: the number of its port, from 1
	Water    *uuid.UUID // it is filled with; nil: nobody said
	Spec     tank.Spec
	State    tank.State
}

// Tanks reads every tank, by place and position there.
func Tanks(ctx context.Context, tx *store.Tx) (out []Tank, err error) {
	all, err := store.KeepEach(ctx, tx, "tanks", []string{"tank"}, func(ids []uuid.UUID) (store.Each[Tank], error) {
		rows, err := tx.ListTanks(ctx, ids)
		each := store.Each[Tank]{}
		for _, r := range rows {
			if each[r.ID], err = tankOf(ctx, tx, r); err != nil {
				return nil, err
			}
		}
		return each, err
	})
	for _, t := range all {
		out = append(out, t)
	}
	slices.SortFunc(out, func(a, b Tank) int {
		return cmp.Or(bytes.Compare(a.Place[:], b.Place[:]), cmp.Compare(a.Position, b.Position), bytes.Compare(a.ID[:], b.ID[:]))
	})
	return out, err
}

// TanksOfPlace reads those that stand in one place.
func TanksOfPlace(ctx context.Context, tx *store.Tx, place uuid.UUID) ([]Tank, error) {
	all, err := Tanks(ctx, tx)
	return slices.DeleteFunc(all, func(t Tank) bool { return t.Place != place }), err
}

// tankOf reads a row; a state that an older version kept is folded from the facts.
func tankOf(ctx context.Context, tx *store.Tx, r db.Tank) (Tank, error) {
	t, err := blankTank(r)
	if err != nil || string(r.State) == "{}" {
		return t, err
	}
	if err := json.Unmarshal(r.State, &t.State); err != nil {
		return t, fmt.Errorf("tank %s: %w", r.Name, err)
	}
	if t.State.V < tank.StateVersion {
		t, _, err = FoldTank(ctx, tx, r.ID)
	}
	return t, err
}

// blankTank is a tank before anything was read or added.
func blankTank(r db.Tank) (Tank, error) {
	t := Tank{ID: r.ID, Place: r.PlaceID, Name: r.Name, Position: r.Position, Water: r.WaterID}
	if err := json.Unmarshal(r.Spec, &t.Spec); err != nil {
		return t, fmt.Errorf("tank %s: %w", r.Name, err)
	}
	return t, nil
}

// LockTank reads a tank and holds it until the transaction ends.
func LockTank(ctx context.Context, tx *store.Tx, id uuid.UUID) (Tank, error) {
	row, err := tx.LockTank(ctx, id)
	if err != nil {
		return Tank{}, err
	}
	return tankOf(ctx, tx, row)
}

// OnTank records a reading or a treatment of a tank that is locked, and
// returns the tank as it stands then. The same id twice is one entry.
func OnTank(ctx context.Context, tx *store.Tx, t Tank, f Fact) (Tank, error) {
	f.About, f.Names = []uuid.UUID{t.ID, t.Place}, t.Name
	if f.HappenedAt.IsZero() {
		f.HappenedAt = tx.Now
	}
	f.HappenedAt = f.HappenedAt.UTC().Truncate(time.Microsecond) // as the database will give it back
	if again, err := Write(ctx, tx, f); again || err != nil {
		return t, err
	}
	// What happened before something that is known already changes what followed.
	if f.HappenedAt.Before(t.knownTo()) {
		return refoldTank(ctx, tx, t.ID)
	}
	data, err := json.Marshal(f.Data)
	if err != nil {
		return t, err
	}
	k, err := kindOf(f.Kind)
	if err != nil {
		return t, err
	}
	if _, err := k.tank(&t, &Past{At: f.HappenedAt}, data); err != nil {
		return t, err
	}
	return t, putTank(ctx, tx, t)
}

// knownTo is when the last fact of the tank happened: a reading is remembered by
// when it was read, a treatment by the level it left.
func (t Tank) knownTo() (last time.Time) {
	for _, at := range []*time.Time{t.State.ReadAt, t.State.LevelAt} {
		if at != nil && at.After(last) {
			last = *at
		}
	}
	return last
}

func putTank(ctx context.Context, tx *store.Tx, t Tank) error {
	state, err := json.Marshal(t.State)
	if err != nil {
		return err
	}
	return tx.SetTankState(ctx, db.SetTankStateParams{ID: t.ID, State: state})
}

// Past is one fact about a tank.
type Past struct {
	ID      uuid.UUID
	At      time.Time
	Reading *tank.Reading
	Treat   *tank.Treatment
}

// FoldTank replays what is known of a tank, in the order it happened.
func FoldTank(ctx context.Context, tx *store.Tx, id uuid.UUID) (Tank, []Past, error) {
	return foldTank(ctx, tx, id, uuid.Nil)
}

// TankBefore is a tank as it stood before one of its entries.
func TankBefore(ctx context.Context, tx *store.Tx, id, entry uuid.UUID) (Tank, error) {
	t, _, err := foldTank(ctx, tx, id, entry)
	return t, err
}

func foldTank(ctx context.Context, tx *store.Tx, id, until uuid.UUID) (Tank, []Past, error) {
	row, err := tx.GetTank(ctx, id)
	if err != nil {
		return Tank{}, nil, err
	}
	t, err := blankTank(row)
	if err != nil {
		return t, nil, err
	}
	facts, err := tx.FactsAbout(ctx, []uuid.UUID{id})
	if err != nil {
		return t, nil, err
	}
	var past []Past
	for _, f := range facts {
		if f.ID == until {
			break
		}
		p := Past{ID: f.ID, At: f.HappenedAt.UTC()}
		k, err := kindOf(f.Kind)
		if err != nil {
			return t, nil, err
		}
		folds, err := k.tank(&t, &p, f.Data)
		if err != nil {
			return t, nil, fmt.Errorf("entry %s: %w", f.ID, err)
		}
		if !folds {
			continue
		}
		past = append(past, p)
	}
	return t, past, nil
}

// Refold replays what is known of a tank whose measures were changed.
func Refold(ctx context.Context, tx *store.Tx, id uuid.UUID) error {
	_, err := refoldTank(ctx, tx, id)
	return err
}

func refoldTank(ctx context.Context, tx *store.Tx, id uuid.UUID) (Tank, error) {
	t, _, err := FoldTank(ctx, tx, id)
	if err != nil {
		return t, err
	}
	return t, putTank(ctx, tx, t)
}
