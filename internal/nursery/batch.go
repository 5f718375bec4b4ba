package nursery

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/ready"
	"ulpa/core/seed"
	"ulpa/internal/crops"
	"ulpa/internal/ledger"
	"ulpa/internal/store"
	"ulpa/internal/store/db"
	"ulpa/internal/who"
)

// Look records true leaves and height as seen.
func Look(ctx context.Context, s *store.Store, w who.Who, id, batchID uuid.UUID, leaves int, heightCM float64, at time.Time) error {
	return act(ctx, s, w, who.Record, ledger.BatchAct{ID: id, Batch: batchID, HappenedAt: at,
		Act: batch.Act{Kind: batch.Look, Leaves: leaves, HeightCM: heightCM}})
}

// Lose records plants that are gone, and why.
func Lose(ctx context.Context, s *store.Store, w who.Who, id, batchID uuid.UUID, from []batch.Spot, cause string, at time.Time) error {
	if len(from) == 0 {
		return field.Refuse("from", "say which plants")
	}
	return act(ctx, s, w, who.Record, ledger.BatchAct{ID: id, Batch: batchID, HappenedAt: at,
		Act: batch.Act{Kind: batch.Lose, From: from, Cause: cause}})
}

// Close ends a batch. What still waits in its cells is then empty; what stands
// must have gone somewhere first.
func Close(ctx context.Context, s *store.Store, w who.Who, id, batchID uuid.UUID, at time.Time) error {
	return act(ctx, s, w, who.Plan, ledger.BatchAct{ID: id, Batch: batchID, HappenedAt: at, Act: batch.Act{Kind: batch.Close}})
}

func act(ctx context.Context, s *store.Store, w who.Who, need who.Ability, b ledger.BatchAct) error {
	if err := w.Must(need); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		_, err := ledger.OnBatch(ctx, tx, b)
		return err
	})
}

// Batch is all there is to know of a batch at a glance.
type Batch struct {
	Row     db.GetBatchRow
	Crop    crop.Crop
	Sown    calendar.Day
	Today   calendar.Day
	State   *batch.State
	Cells   []db.CellsOfBatchRow
	Ports   []db.PortsOfBatchRow
	Stands  []db.StandsOfBatchRow
	Facts   []db.Entry
	Verdict ready.Verdict
	TempC   float64
	Curve   Curve
}

// Curve is germination as counted beside what was to be expected.
type Curve struct {
	Known      bool // the crop germinates at this temperature by the table
	DaysToHalf float64
	Rate       float64 // share of cells expected to fill in the end
	Counts     []CountPoint
	Expected   []ExpectedPoint
	Sown       int
	Sprouted   int
	// Judgement for today: how many would be usual, with nine in ten trays between.
	Low, Mid, High float64
	Day            int
}

// CountPoint is how many had sprouted by a day.
type CountPoint struct {
	Day      float64
	Sprouted int
}

// ExpectedPoint is how many are expected by a day, and the usual range.
type ExpectedPoint struct{ Day, Low, Mid, High float64 }

// Behind tells whether fewer are up than nine in ten such trays would show.
func (c Curve) Behind() bool { return c.Known && float64(c.Sprouted) < c.Low }

// Get reads a batch with its verdict and its curve.
func Get(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (b Batch, err error) {
	err = s.InSchool(ctx, w, func(tx *store.Tx) error {
		b, err = get(ctx, tx, id)
		return err
	})
	return b, err
}

func get(ctx context.Context, tx *store.Tx, id uuid.UUID) (Batch, error) {
	var b Batch
	var err error
	if b.Row, err = tx.GetBatch(ctx, id); err != nil {
		return b, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return b, err
	}
	b.Crop = book.Find(b.Row.Crop)
	b.Sown, b.Today = tx.Who.Day(b.Row.SownAt), tx.Who.Day(tx.Now)
	b.State = batch.New()
	if err := json.Unmarshal(b.Row.State, b.State); err != nil {
		return b, err
	}
	if b.Cells, err = tx.CellsOfBatch(ctx, id); err != nil {
		return b, err
	}
	for _, c := range b.Cells {
		b.State.Cells[batch.Spot{Kind: batch.InCell, In: c.TrayID.String(), Row: c.Row, Col: c.Col}] = batch.Cell{State: batch.CellState(c.State), Cause: c.Cause}
	}
	if b.Ports, err = tx.PortsOfBatch(ctx, id); err != nil {
		return b, err
	}
	for _, p := range b.Ports {
		b.State.Ports[batch.Spot{Kind: batch.InPort, In: p.PlaceID.String(), Row: p.Tier, Col: p.Col}] = true
	}
	if b.Stands, err = tx.StandsOfBatch(ctx, id); err != nil {
		return b, err
	}
	for _, x := range b.Stands {
		b.State.Stands[x.PlaceID.String()] = x.Plants
	}
	if b.Facts, err = tx.FactsOfBatch(ctx, &id); err != nil {
		return b, err
	}
	b.Verdict = ready.Judge(b.Crop.Ready, b.Sown, b.Today, b.seen(tx))
	b.TempC = 20
	if places, err := tx.ListPlaces(ctx); err == nil {
		for _, p := range places {
			if len(b.Facts) > 0 && b.Facts[0].PlaceID != nil && p.ID == *b.Facts[0].PlaceID {
				b.TempC = p.TemperatureC
			}
		}
	}
	b.Curve = b.curve(tx)
	return b, nil
}

func (b Batch) seen(tx *store.Tx) ready.Seen {
	var seen ready.Seen
	for _, f := range b.Facts {
		if f.Kind == string(batch.Look) {
			seen = ready.Seen{Leaves: b.State.Leaves, HeightCM: b.State.HeightCM, On: tx.Who.Day(f.HappenedAt)}
		}
	}
	return seen
}

// curve replays the counts day by day beside the expectation.
func (b Batch) curve(tx *store.Tx) Curve {
	c := Curve{Sown: b.State.Sown, Sprouted: b.State.Sprouted, Day: int(b.Today - b.Sown)}
	g := germination(b.Row.LabelRate, b.Row.Tested, b.Row.TestSprouted)
	perCell := 1
	s := batch.New()
	for _, f := range b.Facts {
		var a batch.Act
		if json.Unmarshal(f.Data, &a) != nil || s.Apply(a) != nil {
			continue
		}
		if a.Kind == batch.Sow {
			perCell = a.SeedsPerCell
		}
		if a.Kind == batch.Count {
			c.Counts = append(c.Counts, CountPoint{f.HappenedAt.Sub(b.Row.SownAt).Hours() / 24, s.Sprouted})
		}
	}
	c.Rate = g.CellFill(perCell)
	t, err := seed.GerminationOf(b.Crop, b.TempC)
	if err != nil || !t.Germinates {
		return c
	}
	c.Known, c.DaysToHalf = true, t.DaysToHalf
	days := max(2*t.DaysToHalf, 6)
	for i := range 25 {
		d := days * float64(i) / 24
		low, mid, high := seed.Band(c.Sown, c.Rate*seed.ExpectedShare(d, t.DaysToHalf))
		c.Expected = append(c.Expected, ExpectedPoint{d, low, mid, high})
	}
	c.Low, c.Mid, c.High = seed.Band(c.Sown, c.Rate*seed.ExpectedShare(tx.Now.Sub(b.Row.SownAt).Hours()/24, t.DaysToHalf))
	return c
}
