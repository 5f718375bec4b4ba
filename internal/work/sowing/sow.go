// Package sowing is how a batch begins: how much seed it takes, what is sown into which cells, and
// what grows already and is entered.
//
//	sown, err := sowing.Sow(ctx, store, who, sowing.SowRequest{ID: id, Lot: lot, Tray: tray, Cells: cells, Wanted: 24, SeedsPerCell: 1})
package sowing

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/seed"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
	"ulpa/internal/work/trays"
)

// SowQuestion asks how much to sow.
type SowQuestion struct {
	Lot          uuid.UUID
	Wanted       int
	Confidence   float64 // 0: 0.9
	CellsPerTray int
	Open         bool     // the tray is open: every seed is on its own
	TempC        *float64 // of the place where the tray stands, when it is chosen
}

// SowAnswer is the sum, and the lot it rests on.
type SowAnswer struct {
	Lot      seeds.Packet
	Crop     crop.Crop
	Rate     seed.RateAnswer
	Learned  seed.Learned // what is thought of the seed, by all that was tried of it
	AgeYears int          // since the seed was packed
	TempC    *float64
	Open     bool    // for an open tray: every seed on its own
	ComesUp  bool    // at that temperature
	Share    float64 // of the good seed that comes there
}

// Old tells whether the seed is older than such seed usually keeps.
func (a SowAnswer) Old() bool { return a.AgeYears > a.Crop.SeedYears }

// HowMuch answers how many seeds, cells and trays reach the plants wanted, where the
// tray stands.
func HowMuch(ctx context.Context, s *store.Store, w who.Who, q SowQuestion) (a SowAnswer, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		shelf, err := seeds.Read(ctx, tx)
		if err != nil {
			return err
		}
		lot, known := shelf.Lot(q.Lot)
		if !known {
			return field.Refuse("lot", "choose a seed lot")
		}
		a.Lot, a.Crop, a.AgeYears, a.Learned = lot.Packet, lot.Crop, lot.Age, lot.Own
		a.TempC, a.ComesUp, a.Share, a.Open = q.TempC, true, 1, q.Open
		if q.TempC != nil {
			a.ComesUp, a.Share = seed.PaceOf(a.Crop)(*q.TempC) > 0, a.Crop.Shares.At(*q.TempC)
		}
		if q.Confidence == 0 {
			q.Confidence = 0.9
		}
		a.Rate, err = seed.Rate(seed.RateInput{
			PlantsWanted: q.Wanted, Confidence: q.Confidence, Germination: germination(lot, a.Share),
			Survival: a.Crop.Survival, MaxSeedsPerCell: mostSeeds(a), CellsPerTray: q.CellsPerTray, SeedsOnHand: a.Lot.SeedsLeft,
		})
		if err == nil && a.Crop.Clump && !a.Open {
			a.Rate = a.Rate.Clumps(a.Crop.SeedsCell)
		}
		return err
	})
	return a, err
}

// trayRecord is from how many seeds on a packet's sowings tell what comes in trays here.
const trayRecord = 20

// germination is what comes of a packet at a tray's warmth: as it did in trays here, where enough
// was sown of it, else all that is thought of it, less what that warmth takes.
func germination(lot seeds.Lot, share float64) seed.Germination {
	if lot.InTrays.Rests >= trayRecord {
		return lot.InTrays.Germination()
	}
	return lot.Own.Germination().Times(share)
}

// SowRequest is a sowing done.
type SowRequest struct {
	ID           uuid.UUID // of the entry; the batch takes it too
	Lot          uuid.UUID
	Wanted       int
	ReadyBy      *calendar.Day
	Purpose      string
	SeedsPerCell int
	Tray         uuid.UUID
	Cells        []tray.Cell
	Planned      *uuid.UUID // the planned sowing that this is
	At           time.Time  // zero: now
	Hands        []string   `json:",omitempty"` // crews or initials, who share the cells in this order
}

// mostHands sow one batch at a time.
const mostHands = 8

// Sown is a batch's new name.
type Sown struct {
	Batch uuid.UUID
	Code  string
}

// Sow records a sowing and gives the batch its code.
func Sow(ctx context.Context, s *store.Store, w who.Who, r SowRequest) (out Sown, err error) {
	if err := w.Must(who.Sow); err != nil {
		return out, err
	}
	var e field.Errors
	e.Require(len(r.Cells) > 0, "cells", "choose the cells on the tray, or type them")
	e.Require(r.Wanted >= 1 && r.Wanted <= 100_000, "wanted", "must be 1 to 100,000 plants")
	r.Purpose = name.Line(&e, "purpose", r.Purpose, 200)
	e.Require(len(r.Hands) <= mostHands, "hands", "must be at most %d", mostHands)
	for i := range r.Hands {
		r.Hands[i] = name.Take(&e, "hands", r.Hands[i], 20)
	}
	if err := e.Err(); err != nil {
		return out, err
	}
	sent := ledger.Sent{ID: r.ID, Verb: "nursery.Sow", What: r}
	return Begin(ctx, s, w, sent, func(tx *store.Tx) (Sown, error) { return sow(ctx, tx, r) })
}

// Begin begins a batch, once however often it is sent: what was kept before is answered again.
func Begin(ctx context.Context, s *store.Store, w who.Who, sent ledger.Sent, begin func(*store.Tx) (Sown, error)) (out Sown, err error) {
	err = ledger.Once(ctx, s, w, sent, func(tx *store.Tx) error {
		out, err = begin(tx)
		return err
	})
	if err != nil || out.Code != "" {
		return out, err
	}
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		b, err := tx.GetThing(ctx, sent.ID)
		out = Sown{sent.ID, b.Name}
		return err
	})
	return out, err
}

func sow(ctx context.Context, tx *store.Tx, r SowRequest) (Sown, error) {
	lot, err := seeds.GetPacket(ctx, tx, r.Lot)
	if err != nil {
		return Sown{}, store.Missing(err, "lot", "choose a seed lot")
	}
	c, ok := crop.Of(lot.Crop)
	if !ok {
		return Sown{}, field.Refuse("lot", "is of a crop the catalogue does not know")
	}
	if lot.Treated && c.Kind == "sprout" {
		return Sown{}, field.Refuse("lot", "is treated seed, which is poisonous: use seed sold for sprouting")
	}
	if err := tx.HoldTray(ctx, r.Tray); err != nil {
		return Sown{}, err
	}
	t, err := site.GetTray(ctx, tx, r.Tray)
	if err != nil {
		return Sown{}, store.Missing(err, "tray", "choose a tray")
	}
	at := r.At
	if at.IsZero() {
		at = tx.Now
	}
	code, err := NextCode(ctx, tx, c.Letters)
	if err != nil {
		return Sown{}, err
	}
	row := db.AddBatchParams{
		SchoolID: tx.Who.School, ID: r.ID, Code: code, Crop: c.ID, VarietyID: lot.VarietyID, SeedLotID: &lot.ID,
		Purpose: r.Purpose, Wanted: r.Wanted, SownAt: at,
	}
	if r.ReadyBy != nil {
		d := r.ReadyBy.UTC()
		row.ReadyBy = &d
	}
	if err := tx.AddBatch(ctx, row); err != nil {
		return Sown{}, err
	}
	act := batch.Act{Kind: batch.Sow, SeedsPerCell: r.SeedsPerCell, Open: t.Open(), Hands: r.Hands}
	if most := mostSown(t); r.SeedsPerCell < 1 || r.SeedsPerCell > most {
		return Sown{}, field.Refuse("seeds", "must be 1 to %d seeds", most)
	}
	for _, cell := range r.Cells {
		if cell.Row >= t.Rows || cell.Col >= t.Columns || cell.Row < 0 || cell.Col < 0 {
			return Sown{}, field.Refuse("cells", "%s is outside this tray", cell.Name())
		}
		act.Cells = append(act.Cells, batch.Spot{Kind: batch.InCell, In: t.ID.String(), Row: cell.Row, Col: cell.Col})
	}
	if act.Reserved, err = trays.FillGaps(ctx, tx, t.ID, r.Cells); err != nil {
		return Sown{}, err
	}
	act.TakeSeed(lot.ID.String(), lot.SeedsLeft, len(r.Cells)*r.SeedsPerCell)
	_, err = ledger.OnBatch(ctx, tx, ledger.BatchAct{ID: r.ID, Batch: r.ID, Place: &t.Place, HappenedAt: at, Act: act, Uses: []uuid.UUID{lot.ID}})
	if err != nil {
		return Sown{}, err
	}
	if r.Planned != nil {
		if err := tx.SettlePlanned(ctx, db.SettlePlannedParams{ID: *r.Planned, Batch: &r.ID}); err != nil {
			return Sown{}, err
		}
	}
	return Sown{r.ID, code}, tx.UseSeed(ctx, db.UseSeedParams{ID: lot.ID, Seeds: len(r.Cells) * r.SeedsPerCell})
}

// mostSown is how many seeds go into one cell of a tray at most, or into a section of an open one.
func mostSown(t site.Tray) int {
	if t.Open() {
		return batch.MostInSection
	}
	return 20
}

// NextCode counts on within the crop's letters: BAS-05, BAS-06.
func NextCode(ctx context.Context, tx *store.Tx, letters string) (string, error) {
	if err := tx.LockCodes(ctx, tx.Who.School.String()+letters); err != nil {
		return "", err
	}
	last, err := tx.LastCode(ctx, letters)
	return fmt.Sprintf("%s-%02d", letters, last+1), err
}

// mostSeeds in a cell that are thought of: a pellet goes alone, and a seed in an open tray.
func mostSeeds(a SowAnswer) int {
	if a.Lot.Pelleted || a.Open {
		return 1
	}
	return max(3, a.Crop.SeedsCell)
}
