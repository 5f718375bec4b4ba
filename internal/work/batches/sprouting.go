package batches

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/sprout"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/work/crops"
)

// Run is what is known of something that is eaten young.
type Run struct {
	crop   crop.Crop
	sownAt time.Time
	soaked bool
	Latest ledger.Latest
}

// RunOf reads it of a batch.
func RunOf(ctx context.Context, tx *store.Tx, id uuid.UUID) (r Run, err error) {
	row, err := store.One(tx.GetBatches(ctx, []uuid.UUID{id}))
	if err != nil {
		return r, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return r, err
	}
	state := batch.New()
	r.crop, r.sownAt = book.Find(row.Crop), row.SownAt
	err = errors.Join(json.Unmarshal(row.State, state), json.Unmarshal(row.Latest, &r.Latest))
	r.soaked = state.Start == batch.Soaked
	return r, err
}

// Condemned tells whether it was food no more at a time.
func (r Run) Condemned(tx *store.Tx, at time.Time) bool {
	sown, today := tx.Who.Day(r.sownAt), tx.Who.Day(at)
	if !r.soaked {
		return sprout.Beyond(r.crop, sown, today)
	}
	care := careOf(r.sownAt, sown, r.Latest)
	care.Today = today
	return slices.Contains(sprout.Due(sprout.WayOf(r.crop), care, at), sprout.Discard)
}

// Condemned tells whether a batch of what is eaten young was food no more at a time.
func Condemned(ctx context.Context, tx *store.Tx, id uuid.UUID, at time.Time) (bool, error) {
	r, err := RunOf(ctx, tx, id)
	return err == nil && r.Condemned(tx, at), err
}

// Condemned tells whether a batch of what is eaten young is food no more.
func (l Line) Condemned(tx *store.Tx) bool {
	return Run{crop: l.Crop, sownAt: l.sownAt, soaked: l.Care != nil, Latest: l.last}.Condemned(tx, tx.Now)
}

func careOf(sownAt time.Time, sown calendar.Day, last ledger.Latest) sprout.Care {
	return sprout.Care{Soaked: sownAt, Rinsed: last.Rinsed, Watered: last.Watered, Lit: last.Lit, Waterings: last.Water, SoakedOn: sown}
}

// sprouting works out what a run of sprouts asks for now, from what was done to it.
func (b *Batch) sprouting(tx *store.Tx, last ledger.Latest) {
	if b.State.Start != batch.Soaked || b.Closed {
		return
	}
	care := careOf(b.SownAt, b.Sown, last)
	care.Today = b.Today
	b.Due = sprout.Due(sprout.WayOf(b.Crop), care, tx.Now)
	if i := slices.Index(b.Due, sprout.Drain); i >= 0 {
		b.Due[i] = sprout.Rinse // it is one act
	}
}
