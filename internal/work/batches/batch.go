package batches

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/potting"
	"ulpa/core/ready"
	"ulpa/core/seed"
	"ulpa/core/sprout"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
)

// Looks is what somebody saw of a batch.
type Looks struct {
	Leaves   int // true ones on most plants
	HeightCM float64
	Roots    string // of batch.Roots; "": nobody knocked one out
}

// Look records what was seen.
func Look(ctx context.Context, s *store.Store, w who.Who, r ledger.Act, x Looks) error {
	return act(ctx, s, w, who.Measure, ledger.BatchAct{
		ID: r.ID, Batch: r.On, HappenedAt: r.At,
		Act: batch.Act{Kind: batch.Look, Leaves: x.Leaves, HeightCM: x.HeightCM, Roots: x.Roots},
	})
}

// Lose records plants that are gone, and why.
func Lose(ctx context.Context, s *store.Store, w who.Who, r ledger.Act, from []batch.Spot, cause batch.Cause) error {
	if len(from) == 0 {
		return field.Refuse("from", "enter which plants")
	}
	return act(ctx, s, w, who.Record, ledger.BatchAct{
		ID: r.ID, Batch: r.On, HappenedAt: r.At,
		Act: batch.Act{Kind: batch.Lose, From: from, Cause: cause},
	})
}

// HandOver records plants that others grow now: they are no losses.
func HandOver(ctx context.Context, s *store.Store, w who.Who, r ledger.Act, from []batch.Spot, way batch.Way) error {
	return act(ctx, s, w, who.Record, ledger.BatchAct{ID: r.ID, Batch: r.On, HappenedAt: r.At, Act: batch.Act{Kind: batch.HandOver, From: from, Way: way}})
}

// Close ends a batch. What still waits in its cells is then empty; what stands
// must have gone somewhere first.
func Close(ctx context.Context, s *store.Store, w who.Who, r ledger.Act) error {
	return act(ctx, s, w, who.Close, ledger.BatchAct{ID: r.ID, Batch: r.On, HappenedAt: r.At, Act: batch.Act{Kind: batch.Close}})
}

func act(ctx context.Context, s *store.Store, w who.Who, need who.Ability, b ledger.BatchAct) error {
	if err := w.Must(need); err != nil {
		return err
	}
	return ledger.Once(
		ctx,
		s,
		w,
		ledger.Sent{ID: b.ID, Verb: "nursery." + string(b.Act.Kind), What: []any{b.Batch, b.HappenedAt, b.Act}},
		func(tx *store.Tx) error {
			_, err := ledger.OnBatch(ctx, tx, b)
			return err
		},
	)
}

// Batch is all there is to know of a batch at a glance.
type Batch struct {
	ID                     uuid.UUID
	Code, Variety, Purpose string
	Wanted                 int
	ReadyBy                *time.Time
	SownAt                 time.Time
	Closed                 bool
	Crop                   crop.Crop
	LotID                  uuid.UUID // zero: it was entered as it stood
	LotName                string
	Packed                 int // the year its seed was packed
	Lot                    Lot
	Sown                   calendar.Day
	Today                  calendar.Day
	State                  *batch.State
	Cells                  []Cell
	Ports                  []Port
	Stands                 []Stand
	Verdict                ready.Verdict
	TempC                  float64
	Curve                  Curve
	Story                  Story        // of one that was asked for alone
	Due                    []sprout.Job // of sprouts, when it was read
	Hands                  []Hand       // who sowed which cells of which tray

	facts  []db.FactsAboutRow
	places []site.Place // all of the school's
}

// Cell is a cell that the batch was sown in.
type Cell struct {
	TrayID   uuid.UUID
	Tray     string
	Row, Col int
	batch.Cell
}

// Port is a port that a plant of the batch stands in.
type Port struct {
	PlaceID   uuid.UUID
	Place     string
	Tier, Col int
}

// Stand is how many plants of the batch stand at a place without ports.
type Stand struct {
	PlaceID     uuid.UUID
	Place, Kind string
	Plants      int
	PotID, Pot  string        // the size of pot they stand in; "": none
	Verdict     ready.Verdict // of those in pots
	days        int
}

// Curve is germination as counted beside what was to be expected.
type Curve struct {
	Known    bool // the crop comes up where it stands
	Share    float64
	Counts   []CountPoint
	Expected []ExpectedPoint
	Sown     int
	Sprouted int
	Day      int // today
	// The judgement is of the last count, at the moment of it: what has come up since
	// nobody knows. Without a count it is for now.
	JudgedDay int
	Age       float64 // days from the sowing to that moment
	By        seed.Expected
}

// CountPoint is how many had sprouted by a day.
type CountPoint struct {
	Day      float64
	Sprouted int
}

// ExpectedPoint is how many are expected by a day, and the usual range.
type ExpectedPoint struct{ Day, Low, Mid, High float64 }

// Counted tells whether anybody has counted yet.
func (c Curve) Counted() bool { return len(c.Counts) > 0 }

// Behind tells whether fewer were up when they were counted than nine in ten such
// sowings would have shown, at a time when that says something.
func (c Curve) Behind() bool { return c.Known && c.By.Verdict == seed.Behind }

// Get reads a batch with its verdict and its curve.
func Get(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (b Batch, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		key := fmt.Sprint("batch ", id, w.Day(tx.Now), tx.Hour())
		b, err = store.Keep(ctx, tx, key, func() (Batch, error) { return get(ctx, tx, id) })
		return err
	})
	return b, err
}

func get(ctx context.Context, tx *store.Tx, id uuid.UUID) (Batch, error) {
	all, err := Load(ctx, tx, []uuid.UUID{id})
	if err != nil {
		return Batch{}, err
	}
	b := all[0]
	b.Story = b.story(tx) // which a tray's page does not tell of each of its batches
	return b, nil
}

// Load reads batches in the order of their ids, with as many statements for many
// as for one; ErrNotFound when one is not there.
func Load(ctx context.Context, tx *store.Tx, ids []uuid.UUID) ([]Batch, error) {
	rows, err := tx.GetBatches(ctx, ids)
	if err != nil {
		return nil, err
	}
	cells, err := tx.CellsOfBatches(ctx, ids)
	if err != nil {
		return nil, err
	}
	ports, err := tx.PortsOfBatches(ctx, ids)
	if err != nil {
		return nil, err
	}
	stands, err := tx.StandsOfBatches(ctx, ids)
	if err != nil {
		return nil, err
	}
	facts, err := tx.FactsAbout(ctx, ids)
	if err != nil {
		return nil, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return nil, err
	}
	places, err := site.Places(ctx, tx)
	if err != nil {
		return nil, err
	}
	tested, err := seeds.Tested(ctx, tx)
	if err != nil {
		return nil, err
	}
	var out []Batch
	for _, id := range ids {
		i := slices.IndexFunc(rows, func(r db.GetBatchesRow) bool { return r.ID == id })
		if i < 0 {
			return nil, store.ErrNotFound
		}
		r := rows[i]
		b := Batch{
			ID: id, Code: r.Code, Variety: r.Variety, Purpose: r.Purpose, Wanted: r.Wanted, ReadyBy: r.ReadyBy, SownAt: r.SownAt, Closed: r.Closed,
			Crop: book.Find(r.Crop), LotName: r.Lot, Packed: r.Packed,
			Lot:  lotOf(tested, r.SeedLotID, r.LabelRate, r.SownAt, r.Packed),
			Sown: tx.Who.Day(r.SownAt), Today: tx.Who.Day(tx.Now), State: batch.New(),
			facts: only(facts, func(f db.FactsAboutRow) bool { return f.ThingID == id }), places: places,
		}
		if r.SeedLotID != nil {
			b.LotID = *r.SeedLotID
		}
		if err := json.Unmarshal(r.State, b.State); err != nil {
			return nil, err
		}
		for _, c := range only(cells, func(c db.CellsOfBatchesRow) bool { return c.BatchID == id }) {
			b.Cells = append(b.Cells, Cell{c.TrayID, c.Tray, c.Row, c.Col, ledger.CellOf(c.State, c.Cause, c.Open, c.Waits, c.Plants, c.Done)})
		}
		for _, p := range only(ports, func(p db.PortsOfBatchesRow) bool { return p.BatchID == id }) {
			b.Ports = append(b.Ports, Port{p.PlaceID, p.Place, p.Tier, p.Col})
		}
		for _, x := range only(stands, func(x db.StandsOfBatchesRow) bool { return x.BatchID == id }) {
			stand := Stand{PlaceID: x.PlaceID, Place: x.Place, Kind: x.Kind, Plants: x.Plants, Pot: x.Pot, days: x.PotDays}
			if x.PotID != nil {
				stand.PotID = x.PotID.String()
			}
			b.Stands = append(b.Stands, stand)
		}
		b.settle(tx)
		out = append(out, b)
	}
	return out, nil
}

func only[T any](all []T, mine func(T) bool) (out []T) {
	for _, x := range all {
		if mine(x) {
			out = append(out, x)
		}
	}
	return out
}

// settle works out what follows from what was read.
func (b *Batch) settle(tx *store.Tx) {
	for _, c := range b.Cells {
		b.State.Cells[batch.Spot{Kind: batch.InCell, In: c.TrayID.String(), Row: c.Row, Col: c.Col}] = c.Cell
	}
	for _, p := range b.Ports {
		b.State.Ports[batch.Spot{Kind: batch.InPort, In: p.PlaceID.String(), Row: p.Tier, Col: p.Col}] = true
	}
	for _, x := range b.Stands {
		b.State.Stands[batch.StandKey(x.PlaceID.String(), x.PotID)] = x.Plants
	}
	b.TempC = 20
	for _, p := range b.places {
		if len(b.facts) > 0 && p.ID == b.facts[0].Place {
			b.TempC = p.TemperatureC
		}
	}
	bed := bedOf(b.Crop, b.Lot, b.State, b.TempC)
	b.Verdict = judge(bed, b.Sown, b.Today, b.seen(tx))
	b.Curve = b.curve(tx, bed)
	b.Hands = b.hands()
	last := b.latest()
	b.sprouting(tx, last)
	for i := range b.Stands {
		if x := &b.Stands[i]; x.PotID != "" {
			x.Verdict = inPot(x.days, tx.Who.Day(last.Potted[x.PotID]), b.Today, b.State, b.seen(tx).On)
		}
	}
}

// latest is when each thing was done last.
func (b *Batch) latest() (last ledger.Latest) {
	for _, f := range b.facts {
		var a batch.Act
		if json.Unmarshal(f.Data, &a) == nil && string(a.Kind) == f.Kind {
			last.See(a, f.HappenedAt, nil)
		}
	}
	return last
}

// seenOf is what was looked at of a batch on a day.
func seenOf(s *batch.State, on calendar.Day) ready.Seen {
	return ready.Seen{Leaves: s.Leaves, HeightCM: s.HeightCM, On: on, Hold: s.Roots == "hold", Round: s.Roots == "round"}
}

// inPot is how far plants are in a pot that usually holds one for so many days.
func inPot(days int, since, today calendar.Day, s *batch.State, looked calendar.Day) ready.Verdict {
	return potting.Judge(potting.Pot{Days: days}, since, today, potting.Seen{Roots: s.Roots, On: looked})
}

// Rule is when its plants may go on, from where they stand.
func (b Batch) Rule() ready.Rule { return bedOf(b.Crop, b.Lot, b.State, b.TempC).rule() }

func (b Batch) seen(tx *store.Tx) ready.Seen {
	var seen ready.Seen
	for _, f := range b.facts {
		if f.Kind == string(batch.Look) {
			seen = seenOf(b.State, tx.Who.Day(f.HappenedAt))
		}
	}
	return seen
}

// curve replays the counts day by day beside the expectation.
func (b Batch) curve(tx *store.Tx, bed seedbed) Curve {
	c := Curve{
		Sown:      b.State.Sown,
		Sprouted:  b.State.Sprouted,
		Day:       int(b.Today - b.Sown),
		JudgedDay: int(b.Today - b.Sown),
		Known:     bed.comesUp() && b.State.Start == "",
		Share:     bed.share(),
	}
	c.Age = float64(c.Day)
	seen := -1
	s := batch.New()
	for _, f := range b.facts {
		var a batch.Act
		if json.Unmarshal(f.Data, &a) != nil || s.Apply(a) != nil {
			continue
		}
		if a.Kind == batch.Count {
			c.JudgedDay, c.Age = int(tx.Who.Day(f.HappenedAt)-b.Sown), f.HappenedAt.Sub(b.SownAt).Hours()/24
			c.Counts, seen = append(c.Counts, CountPoint{c.Age, s.Sprouted}), s.Sprouted
		}
	}
	if !c.Known {
		return c
	}
	c.By = bed.on(c.Age, seen)
	if b.State.Waiting() == 0 && !c.Counted() {
		return c
	}
	const points = 12
	last := max(2*bed.daysToUp(), 6)
	for i := range points + 1 {
		x := bed.on(last*float64(i)/points, -1)
		c.Expected = append(c.Expected, ExpectedPoint{last * float64(i) / points, float64(x.Low), x.Expected, float64(x.High)})
	}
	return c
}

// Hand is somebody who sowed some cells of a tray.
type Hand struct {
	Name  string // a crew's, or initials
	Tray  string
	Cells []tray.Cell
}

// hands are those who sowed a batch, each with the cells that were shared out to them.
func (b Batch) hands() (out []Hand) {
	for _, f := range b.facts {
		var a batch.Act
		if f.Kind != string(batch.Sow) || json.Unmarshal(f.Data, &a) != nil || len(a.Hands) == 0 {
			continue
		}
		var cells []tray.Cell
		for _, c := range a.Cells {
			cells = append(cells, tray.Cell{Row: c.Row, Col: c.Col})
		}
		for i, mine := range tray.Share(cells, len(a.Hands)) {
			out = append(out, Hand{a.Hands[i], a.Cells[0].In, mine})
		}
	}
	return out
}
