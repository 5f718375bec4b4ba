// Package sprouts is seed that is soaked and rinsed to be eaten young, weekends too.
//
//	sown, err := sprouts.Soak(ctx, store, who, sprouts.SoakRequest{ID: id, Lot: lot, Place: place, Vessels: 2, Grams: 40})
package sprouts

import (
	"context"
	"math"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/core/sprout"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/season"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sowing"
)

// SoakQuestion asks what a run of sprouts would be like.
type SoakQuestion struct {
	Lot     uuid.UUID
	Vessels int
	AreaCM2 float64 // of one
}

// SoakAnswer is how much seed it takes, and what each day asks for.
type SoakAnswer struct {
	Crop    crop.Crop
	Way     sprout.Way
	Grams   float64      // of dry seed, for all vessels
	Run     []sprout.Day // soaked today
	Better  calendar.Day // leaves fewer days to somebody who would have to come in; 0: none does
	Missing []calendar.Day
	Treated bool
	lot     seeds.Packet
}

// AskSoak answers it. Only what is eaten as a sprout or shoot is soaked.
func AskSoak(ctx context.Context, s *store.Store, w who.Who, q SoakQuestion) (a SoakAnswer, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		a, err = askSoak(ctx, tx, q)
		return err
	})
	return a, err
}

func askSoak(ctx context.Context, tx *store.Tx, q SoakQuestion) (a SoakAnswer, err error) {
	lot, err := seeds.GetPacket(ctx, tx, q.Lot)
	if err != nil {
		return a, store.Missing(err, "lot", "choose a seed lot")
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return a, err
	}
	a.lot, a.Crop, a.Treated = lot, book.Find(lot.Crop), lot.Treated
	var e field.Errors
	e.Require(a.Crop.Sprout(), "lot", "is not of a crop eaten as a sprout or shoot")
	e.Require(q.Vessels >= 1 && q.Vessels <= 200, "vessels", "must be 1 to 200")
	e.Require(q.AreaCM2 == 0 || q.AreaCM2 >= 1 && q.AreaCM2 <= 20_000, "area", "must be the area of one, up to 2 m²")
	if err := e.Err(); err != nil {
		return a, err
	}
	school, err := season.Calendar(ctx, tx)
	if err != nil {
		return a, err
	}
	today := tx.Who.Day(tx.Now)
	a.Way = sprout.WayOf(a.Crop)
	a.Grams = sprout.Seed(a.Crop.SowGM2, q.AreaCM2, q.Vessels)
	a.Run = sprout.Ahead(a.Way, today, school)
	a.Missing = sprout.Missing(a.Run)
	best := sprout.Start(a.Way, today, school)
	if len(sprout.Missing(sprout.Ahead(a.Way, best, school))) < len(a.Missing) {
		a.Better = best
	}
	return a, nil
}

// SoakRequest is a run that is begun: its seed is in water, or on its mat.
type SoakRequest struct {
	ID      uuid.UUID // of the entry; the batch takes it too
	Lot     uuid.UUID
	Place   uuid.UUID
	Vessels int // jars or trays
	Grams   float64
	Purpose string
	At      time.Time // zero: now
	Sure    bool      `json:"-"` // what speaks against it was read
}

// Soak begins a run of sprouts and gives it its code. Seed that is treated, and days on which
// nobody is there, are asked about first.
func Soak(ctx context.Context, s *store.Store, w who.Who, r SoakRequest) (out sowing.Sown, err error) {
	if err := w.Must(who.Sow); err != nil {
		return out, err
	}
	var e field.Errors
	r.Purpose = name.Line(&e, "purpose", r.Purpose, 200)
	e.Require(r.Grams > 0 && r.Grams <= 100_000, "grams", "must be grams of dry seed if it is soaked")
	if err := e.Err(); err != nil {
		return out, err
	}
	sent := ledger.Sent{ID: r.ID, Verb: "nursery.Soak", What: r}
	return sowing.Begin(ctx, s, w, sent, func(tx *store.Tx) (sowing.Sown, error) { return soak(ctx, tx, r) })
}

func soak(ctx context.Context, tx *store.Tx, r SoakRequest) (sowing.Sown, error) {
	a, err := askSoak(ctx, tx, SoakQuestion{Lot: r.Lot, Vessels: r.Vessels})
	if err != nil {
		return sowing.Sown{}, err
	}
	if a.Treated {
		return sowing.Sown{}, field.Refuse("lot", "is treated seed, which is poisonous: use seed sold for sprouting")
	}
	if len(a.Missing) > 0 && !r.Sure {
		return sowing.Sown{}, ledger.Doubted{Says: a.Nobody()}
	}
	p, err := site.Hold(ctx, tx, r.Place)
	if err != nil {
		return sowing.Sown{}, err
	}
	if p.HasPorts() || !site.Indoors(p.Kind) {
		return sowing.Sown{}, field.Refuse("place", "is not for sprouts: put them on a bench or shelf indoors")
	}
	code, err := sowing.NextCode(ctx, tx, a.Crop.Letters)
	if err != nil {
		return sowing.Sown{}, err
	}
	at := r.At
	if at.IsZero() {
		at = tx.Now
	}
	if err := tx.AddBatch(ctx, db.AddBatchParams{
		SchoolID: tx.Who.School, ID: r.ID, Code: code, Crop: a.Crop.ID, VarietyID: a.lot.VarietyID, SeedLotID: &a.lot.ID, Purpose: r.Purpose,
		Wanted: r.Vessels, SownAt: at.UTC().Truncate(time.Microsecond),
	}); err != nil {
		return sowing.Sown{}, err
	}
	act := batch.Act{
		Kind: batch.Adopt, Start: batch.Soaked, SeedG: r.Grams,
		To: []batch.Spot{{Kind: batch.InStand, In: p.ID.String(), N: r.Vessels}},
	}
	n := 0
	if a.Crop.SeedG > 0 {
		n = int(math.Min(1e7, math.Round(r.Grams*1000/a.Crop.SeedG)))
	}
	act.TakeSeed(a.lot.ID.String(), a.lot.SeedsLeft, n)
	if _, err := ledger.OnBatch(ctx, tx, ledger.BatchAct{ID: r.ID, Batch: r.ID, Place: &p.ID, HappenedAt: at, Act: act, Uses: []uuid.UUID{a.lot.ID}}); err != nil {
		return sowing.Sown{}, err
	}
	return sowing.Sown{Batch: r.ID, Code: code}, tx.UseSeed(ctx, db.UseSeedParams{ID: a.lot.ID, Seeds: n})
}

// Nobody says on which days somebody must come although nobody is there; nil: on none.
func (a SoakAnswer) Nobody() say.Text {
	if len(a.Missing) == 0 {
		return nil
	}
	var days []say.Text
	for _, d := range a.Missing {
		days = append(days, d.Short())
	}
	says := say.T(
		"Sprouts cannot wait over a weekend: started today they need somebody on %s, and nobody is here. Sprouts left a day without rinsing are not "+
			"safe to eat.", say.List(days...),
	)
	if a.Better != 0 {
		says = say.T("%s Start on %s instead, and fewer such days fall within it.", says, a.Better.Long())
	}
	return says
}

// TendRequest is what was done to sprouts: of batch.Tendings.
type TendRequest struct {
	ID, Batch uuid.UUID
	Did       []string
	At        time.Time // zero: now
	Sure      bool      `json:"-"` // it was really rinsed then, although it was to be thrown away
}

// Tend records what was done to sprouts. A rinse that is written down later and makes food
// again of what was to be thrown away is asked about.
func Tend(ctx context.Context, s *store.Store, w who.Who, r TendRequest) error {
	if err := w.Must(who.Record); err != nil {
		return err
	}
	a := batch.Act{Kind: batch.Tend, Did: r.Did}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "nursery.tend", What: []any{r.Batch, r.At, a}}, func(tx *store.Tx) error {
		if !r.At.IsZero() && !r.Sure {
			run, err := batches.RunOf(ctx, tx, r.Batch)
			if err != nil {
				return err
			}
			if run.Condemned(tx, tx.Now) {
				run.Latest.See(a, r.At, nil)
				if !run.Condemned(tx, tx.Now) {
					return ledger.Doubted{Says: say.T("They were to be thrown away, because nobody wrote down this rinse. Only if it was really done then are they food.")}
				}
			}
		}
		_, err := ledger.OnBatch(ctx, tx, ledger.BatchAct{ID: r.ID, Batch: r.Batch, HappenedAt: r.At, Act: a})
		return err
	})
}
