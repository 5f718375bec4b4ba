package sowing

import (
	"context"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
)

// AdoptRequest is what grows already: a batch as it stands today. Plants stand in cells of a
// tray, in ports of a place, or as so many in a place.
type AdoptRequest struct {
	ID      uuid.UUID // of the entry; the batch takes it too
	Crop    string
	Variety string // made when new
	Purpose string
	Since   calendar.Day // since about when it grows
	Plants  int
	Place   uuid.UUID
	Ports   []tray.Cell // where the place has ports; none: those that are free, from the bottom
	Tray    uuid.UUID   // instead of a place
	Cells   []tray.Cell
	Start   string       `json:",omitempty"` // one of batch.Starts
	Signs   []batch.Sign `json:",omitempty"` // of a delivery
	Dead    int          `json:",omitempty"` // when it came
	Rooted  bool         `json:",omitempty"` // cuttings and the like that have rooted already
	Lot     uuid.UUID    `json:",omitzero"`  // of a seed test's seedlings
	Test    uuid.UUID    `json:",omitzero"`
	Sure    bool         `json:"-"` // what speaks against its place was read
}

// longAgo is how many days before today something may have begun to grow.
const longAgo = 20 * 366

// Adopt enters a batch as it stands and gives it its code.
func Adopt(ctx context.Context, s *store.Store, w who.Who, r AdoptRequest) (out Sown, err error) {
	if err := w.Must(who.Plan); err != nil {
		return out, err
	}
	var e field.Errors
	if r.Lot == uuid.Nil {
		r.Variety = name.Take(&e, "variety", r.Variety, 60)
	}
	r.Purpose = name.Line(&e, "purpose", r.Purpose, 200)
	today := w.Day(s.Now())
	e.Require(r.Since > 0 && r.Since <= today && r.Since > today-longAgo, "since", "must be a day up to today")
	if r.Tray == uuid.Nil {
		e.Require(r.Plants >= 1 && r.Plants <= 100_000, "plants", "must be 1 to 100,000 plants")
	} else {
		e.Require(len(r.Cells) > 0, "cells", "choose the cells on the tray, or type them")
	}
	e.Require(r.Dead >= 0 && r.Dead <= 100_000, "dead", "must be 0 to 100,000 plants")
	return Begin(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "nursery.Adopt", What: r}, func(tx *store.Tx) (Sown, error) {
		if r.Lot != uuid.Nil {
			lot, err := seeds.GetPacket(ctx, tx, r.Lot)
			if err != nil {
				return Sown{}, store.Missing(err, "lot", "choose a seed lot")
			}
			r.Crop, r.Variety, r.Start = lot.Crop, lot.Variety, batch.FromTest
		}
		book, err := crops.Load(ctx, tx)
		if err != nil {
			return Sown{}, err
		}
		e.Require(book.Has(r.Crop), "crop", "choose a crop")
		if err := e.Err(); err != nil {
			return Sown{}, err
		}
		return adopt(ctx, tx, book.Find(r.Crop), r)
	})
}

func adopt(ctx context.Context, tx *store.Tx, c crop.Crop, r AdoptRequest) (Sown, error) {
	act := batch.Act{Kind: batch.Adopt, Start: r.Start, Signs: r.Signs, Dead: r.Dead}
	act.Waiting = !r.Rooted && r.Tray != uuid.Nil && (r.Start == batch.Struck || r.Start == batch.Planted)
	place, err := standingIn(ctx, tx, r, &act)
	if err != nil {
		return Sown{}, err
	}
	if !r.Sure {
		if err := outOfDoors(ctx, tx, c, place); err != nil {
			return Sown{}, err
		}
	}
	variety, err := seeds.VarietyOf(ctx, tx, c.ID, r.Variety)
	if err != nil {
		return Sown{}, err
	}
	code, err := NextCode(ctx, tx, c.Letters)
	if err != nil {
		return Sown{}, err
	}
	var lot *uuid.UUID
	since := r.Since.At(12, 0, tx.Who.Zone)
	if r.Test != uuid.Nil {
		lot = &r.Lot
		out := seeds.Pricked{Lot: r.Lot, Test: r.Test, Batch: r.ID, Plants: batch.PlantsIn(act.To)}
		if since, err = seeds.PrickedOut(ctx, tx, out, tx.Now); err != nil {
			return Sown{}, err
		}
	}
	if since.After(tx.Now) {
		since = tx.Now
	}
	if err := tx.AddBatch(ctx, db.AddBatchParams{
		SchoolID: tx.Who.School, ID: r.ID, Code: code, Crop: c.ID, VarietyID: variety, SeedLotID: lot, Purpose: r.Purpose,
		Wanted: max(1, batch.PlantsIn(act.To)), SownAt: since.UTC().Truncate(time.Microsecond),
	}); err != nil {
		return Sown{}, err
	}
	_, err = ledger.OnBatch(ctx, tx, ledger.BatchAct{ID: r.ID, Batch: r.ID, Place: &place, Act: act})
	return Sown{r.ID, code}, err
}

// outOfDoors asks about plants that are entered straight into a bed or a frame, as about those that
// are moved there: nobody knows that they are hardened off.
func outOfDoors(ctx context.Context, tx *store.Tx, c crop.Crop, place uuid.UUID) error {
	p, err := site.GetPlace(ctx, tx, place)
	if err != nil {
		return err
	}
	against, err := site.Against(ctx, tx, c, 0, p.Kind)
	if err != nil || len(against) == 0 {
		return err
	}
	says := say.T("Have they been outside before, and hardened off?")
	return ledger.Doubted{Says: say.Join(" ", append([]say.Text{says}, against...)...)}
}

// standingIn says where each plant stands, and at which place that is.
func standingIn(ctx context.Context, tx *store.Tx, r AdoptRequest, act *batch.Act) (uuid.UUID, error) {
	if r.Tray != uuid.Nil {
		if err := tx.HoldTray(ctx, r.Tray); err != nil {
			return uuid.Nil, err
		}
		t, err := site.GetTray(ctx, tx, r.Tray)
		if err != nil {
			return uuid.Nil, store.Missing(err, "tray", "choose a tray")
		}
		each, rest := 0, 0
		if t.Open() && len(r.Cells) > 0 {
			if each, rest = r.Plants/len(r.Cells), r.Plants%len(r.Cells); each < 1 {
				return uuid.Nil, field.Refuse("plants", "enter how many plants grow in these sections")
			}
		}
		for i, cell := range r.Cells {
			if cell.Row >= t.Rows || cell.Col >= t.Columns || cell.Row < 0 || cell.Col < 0 {
				return uuid.Nil, field.Refuse("cells", "%s is outside this tray", cell.Name())
			}
			at := batch.Spot{Kind: batch.InCell, In: t.ID.String(), Row: cell.Row, Col: cell.Col}
			if t.Open() { // they are shared out among its sections
				at.Kind, at.N = batch.InOpen, each
				if i < rest {
					at.N++
				}
			}
			act.To = append(act.To, at)
		}
		return t.Place, nil
	}
	p, err := site.Hold(ctx, tx, r.Place)
	if err != nil {
		return uuid.Nil, err
	}
	if !p.HasPorts() {
		act.To = []batch.Spot{{Kind: batch.InStand, In: p.ID.String(), N: r.Plants}}
		return p.ID, nil
	}
	ports, err := site.ChoosePorts(ctx, tx, p, r.Ports, r.Plants, len(r.Ports) == 0)
	for _, c := range ports {
		act.To = append(act.To, batch.Spot{Kind: batch.InPort, In: p.ID.String(), Row: c.Row, Col: c.Col})
	}
	return p.ID, err
}
