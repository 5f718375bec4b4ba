package seeds

import (
	"cmp"
	"context"
	"encoding/json"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/core/unit"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/work/site"
)

// Begun is how a test of seed was begun.
type Begun struct {
	Test  uuid.UUID `json:"test"` // its id, which stays when the entry is corrected
	Seeds int       `json:"seeds"`
	On    string    `json:"on"`    // paper, bag or tray
	Light string    `json:"light"` // light or dark
	TempC *float64  `json:"temp_c,omitempty"`
	Lot   uuid.UUID `json:"lot,omitzero"`    // the packet,
	Taken int       `json:"taken,omitempty"` // and so many seeds that were taken off what it held
}

// Seen is what of a test's seeds had come by then, in all, and what had gone bad.
type Seen struct {
	Test uuid.UUID `json:"test"`
	Came int       `json:"came"`
	Bad  int       `json:"bad,omitempty"`
}

// Over is the end of a test; Batch is what its seedlings became, where they did.
type Over struct {
	Test  uuid.UUID  `json:"test"`
	Batch *uuid.UUID `json:"batch,omitempty"`
}

// What a test's seeds lie on, and in what.
var (
	Beds = []ledger.Option{
		{Value: "paper", Name: say.Words("damp paper")}, {Value: "bag", Name: say.Words("paper in a bag")}, {Value: "tray", Name: say.Words("a tray")},
	}
	Lights = []ledger.Option{{Value: "light", Name: say.Words("in the light")}, {Value: "dark", Name: say.Words("in the dark")}}
)

func nameOf(list []ledger.Option, value string) say.Text {
	for _, o := range list {
		if o.Value == value {
			return o.Name
		}
	}
	return say.Name(value)
}

// What is written down of tests, by its kind.
const kindBegun, kindSeen, kindOver = "seed_test", "seed_seen", "seed_over"

var (
	TestBegun = ledger.Declare(ledger.Kind[Begun]{
		Name: kindBegun,
		Says: func(b Begun) say.Text {
			says := say.T("Began to test %s on %s, %s", say.Plural(b.Seeds, "seed"), nameOf(Beds, b.On), nameOf(Lights, b.Light))
			if b.TempC != nil {
				return say.T("%s, at %s", says, say.Of(*b.TempC, unit.Celsius))
			}
			return says
		},
		Fields: []ledger.Field[Begun]{
			ledger.Number("seeds", "Seeds", func(b *Begun) *int { return &b.Seeds }),
			ledger.PickOf("on", "On what", Beds, func(b *Begun) *string { return &b.On }),
			ledger.PickOf("light", "Light or dark", Lights, func(b *Begun) *string { return &b.Light }),
		},
		Right: func(ctx context.Context, tx *store.Tx, e ledger.Entry, b Begun) (Begun, error) {
			t, err := testOf(ctx, tx, e.About.A(ledger.ALot).ID, b.Test)
			if err == nil {
				err = b.check(t.Came + t.Bad)
			}
			if err != nil || b.Lot == uuid.Nil {
				return b, err
			}
			if err := seedBack(ctx, tx, b); err != nil {
				return b, err
			}
			return b, b.take(ctx, tx)
		},
		Gone: seedBack,
	})
	TestSeen = ledger.Declare(ledger.Kind[Seen]{
		Free: true, // of a packet that is finished the seed on the paper is still counted
		Name: kindSeen,
		Says: func(x Seen) say.Text {
			if x.Bad > 0 {
				return say.T("Counted a seed test: %d germinated, %d went bad", x.Came, x.Bad)
			}
			return say.T("Counted a seed test: %d germinated", x.Came)
		},
		Fields: []ledger.Field[Seen]{
			ledger.Number("came", "Germinated so far, in all", func(x *Seen) *int { return &x.Came }),
			ledger.Number("bad", "Gone bad", func(x *Seen) *int { return &x.Bad }),
		},
		Right: func(ctx context.Context, tx *store.Tx, e ledger.Entry, x Seen) (Seen, error) {
			t, err := testOf(ctx, tx, e.About.A(ledger.ALot).ID, x.Test)
			if err != nil {
				return x, err
			}
			return x, x.check(t.Seeds)
		},
	})
	TestOver = ledger.Declare(ledger.Kind[Over]{Name: kindOver, Free: true, Says: func(o Over) say.Text {
		if o.Batch != nil {
			return say.T("Ended a seed test and pricked out its seedlings")
		}
		return say.T("Ended a seed test")
	}})
)

// take takes the seeds out of their packet, as many as it is known to hold.
func (b *Begun) take(ctx context.Context, tx *store.Tx) error {
	lot, err := GetPacket(ctx, tx, b.Lot)
	if err != nil {
		return err
	}
	if b.Taken = 0; lot.SeedsLeft != nil {
		b.Taken = min(b.Seeds, *lot.SeedsLeft)
	}
	return tx.UseSeed(ctx, db.UseSeedParams{ID: b.Lot, Seeds: b.Taken})
}

// seedBack puts them back.
func seedBack(ctx context.Context, tx *store.Tx, b Begun) error {
	if b.Taken == 0 {
		return nil
	}
	return tx.UseSeed(ctx, db.UseSeedParams{ID: b.Lot, Seeds: -b.Taken})
}

func (b Begun) check(least int) error {
	var e field.Errors
	e.Require(b.Seeds >= 5 && b.Seeds <= 400, "seeds", "enter 5 to 400 seeds; ten tell you a little, fifty a lot")
	e.Require(b.Seeds >= least, "seeds", "%d of them were already counted", least)
	e.Require(slices.ContainsFunc(Beds, func(o ledger.Option) bool { return o.Value == b.On }), "on", "must be one of these")
	e.Require(slices.ContainsFunc(Lights, func(o ledger.Option) bool { return o.Value == b.Light }), "light", "must be one of these")
	e.Require(b.TempC == nil || *b.TempC >= 0 && *b.TempC <= 45, "temp_c", "must be %s to %s", say.Figure(0, unit.Celsius), say.Of(45, unit.Celsius))
	return e.Err()
}

func (x Seen) check(of int) error {
	var e field.Errors
	e.Require(x.Came >= 0 && x.Came <= of, "came", "must be 0 to %d: so many were laid out", of)
	e.Require(x.Bad >= 0 && x.Came+x.Bad <= of, "bad", "must be 0 to %d, with those that came", of)
	return e.Err()
}

// Test is a test of a packet as it stands.
type Test struct {
	Begun
	Place  uuid.UUID // zero: nobody said where it lies
	At     time.Time
	Counts []Count
	Came   int // at the last count
	Bad    int
	Over   bool
	Batch  *uuid.UUID // what its seedlings became
}

// Count is what was seen at a time.
type Count struct {
	Entry uuid.UUID
	At    time.Time
	Came  int
	Bad   int
}

// patience is after how many days a test that nobody ended tells what it tells.
const patience = 21

// Tells whether its result can be used: it was ended, or has lain long enough.
func (t Test) Tells(now time.Time) bool {
	return len(t.Counts) > 0 && (t.Over || now.Sub(t.At) > patience*24*time.Hour)
}

// tests are the tests of packets, each packet's in the order they were begun.
func tests(ctx context.Context, tx *store.Tx, lots []uuid.UUID) (map[uuid.UUID][]Test, error) {
	out := map[uuid.UUID][]Test{}
	if len(lots) == 0 {
		return out, nil
	}
	facts, err := tx.FactsAbout(ctx, lots)
	if err != nil {
		return nil, err
	}
	find := func(lot, id uuid.UUID) *Test {
		for i := range out[lot] {
			if out[lot][i].Test == id {
				return &out[lot][i]
			}
		}
		return nil
	}
	for _, f := range facts {
		switch f.Kind {
		case kindBegun:
			t := Test{At: f.HappenedAt, Place: f.Place}
			if err := json.Unmarshal(f.Data, &t.Begun); err != nil {
				return nil, err
			}
			out[f.ThingID] = append(out[f.ThingID], t)
		case kindSeen:
			var x Seen
			if err := json.Unmarshal(f.Data, &x); err != nil {
				return nil, err
			}
			if t := find(f.ThingID, x.Test); t != nil {
				t.Counts = append(t.Counts, Count{f.ID, f.HappenedAt, x.Came, x.Bad})
				t.Came, t.Bad = x.Came, x.Bad
			}
		case kindOver:
			var o Over
			if err := json.Unmarshal(f.Data, &o); err != nil {
				return nil, err
			}
			if t := find(f.ThingID, o.Test); t != nil {
				t.Over, t.Batch = true, o.Batch
			}
		}
	}
	return out, nil
}

// lotTests are the tests of every packet.
type lotTests struct {
	lots []db.AllLotsRow
	of   map[uuid.UUID][]Test
}

// allTests reads them; they hold until what they were read from changes.
func allTests(ctx context.Context, tx *store.Tx) (lotTests, error) {
	return store.Keep(ctx, tx, "tests of seed", func() (out lotTests, err error) {
		if out.lots, err = tx.AllLots(ctx); err != nil {
			return out, err
		}
		var ids []uuid.UUID
		for _, l := range out.lots {
			ids = append(ids, l.ID)
		}
		out.of, err = tests(ctx, tx, ids)
		return out, err
	})
}

// testOf is one test of a packet.
func testOf(ctx context.Context, tx *store.Tx, lot, id uuid.UUID) (Test, error) {
	all, err := tests(ctx, tx, []uuid.UUID{lot})
	if err != nil {
		return Test{}, err
	}
	for _, t := range all[lot] {
		if t.Test == id {
			return t, nil
		}
	}
	return Test{}, field.Refuse("test", "no longer belongs to this packet")
}

// NewTest begins a test. Its id is the test's.
type NewTest struct {
	ID, Lot uuid.UUID
	Place   *uuid.UUID // where it lies
	Begun
	At time.Time // zero: now
}

// BeginTest lays out seeds of a packet to see how many come.
func BeginTest(ctx context.Context, s *store.Store, w who.Who, r NewTest) error {
	if err := w.Must(who.Sow); err != nil {
		return err
	}
	if err := r.check(0); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "seeds.BeginTest", What: r}, func(tx *store.Tx) error {
		if _, err := GetPacket(ctx, tx, r.Lot); err != nil {
			return err
		}
		r.Test = r.ID
		about := []uuid.UUID{r.Lot}
		if r.Place != nil {
			p, err := site.GetPlace(ctx, tx, *r.Place)
			if err != nil {
				return store.Missing(err, "place", "choose a place")
			}
			about = append(about, p.ID)
			if r.TempC == nil {
				r.TempC = &p.TemperatureC
			}
		}
		r.Begun.Lot = r.Lot
		if err := r.take(ctx, tx); err != nil {
			return err
		}
		_, err := ledger.Write(ctx, tx, ledger.Fact{ID: r.ID, Kind: kindBegun, HappenedAt: r.At, About: about, Data: r.Begun})
		return err
	})
}

// SawTest is a count of a test.
type SawTest struct {
	ID, Lot, Test uuid.UUID
	Came, Bad     int
	Over          bool      // nothing more will come
	At            time.Time // zero: now
}

// CountTest writes down how many have come, and that it is over where it is.
func CountTest(ctx context.Context, s *store.Store, w who.Who, r SawTest) error {
	if err := w.Must(who.Measure); err != nil {
		return err
	}
	return ledger.Once(ctx, s, w, ledger.Sent{ID: r.ID, Verb: "seeds.CountTest", What: r}, func(tx *store.Tx) error {
		if _, err := GetPacket(ctx, tx, r.Lot); err != nil {
			return err
		}
		t, err := testOf(ctx, tx, r.Lot, r.Test)
		if err != nil {
			return err
		}
		x := Seen{Test: t.Test, Came: r.Came, Bad: r.Bad}
		if err := x.check(t.Seeds); err != nil {
			return err
		}
		if t.Over {
			return field.Refuse("test", "has ended")
		}
		again, err := ledger.Write(ctx, tx, ledger.Fact{ID: r.ID, Kind: kindSeen, HappenedAt: r.At, About: t.about(r.Lot), Data: x})
		if again || err != nil || !r.Over {
			return err
		}
		return endTest(ctx, tx, r.Lot, t, nil, r.At)
	})
}

func (t Test) about(lot uuid.UUID) []uuid.UUID {
	if t.Place == uuid.Nil {
		return []uuid.UUID{lot}
	}
	return []uuid.UUID{lot, t.Place}
}

// endTest ends a test; its entry's id follows from the test's, so that it ends once.
func endTest(ctx context.Context, tx *store.Tx, lot uuid.UUID, t Test, became *uuid.UUID, at time.Time) error {
	_, err := ledger.Write(ctx, tx, ledger.Fact{
		ID: uuid.NewSHA1(t.Test, []byte("over")), Kind: kindOver, HappenedAt: at, About: t.about(lot), Data: Over{t.Test, became},
	})
	return err
}

// Pricked is of which packet's test so many seedlings became which batch.
type Pricked struct {
	Lot, Test, Batch uuid.UUID
	Plants           int
}

// PrickedOut ends a test whose seedlings became a batch, within the transaction that begins
// the batch, and says when the test was begun.
func PrickedOut(ctx context.Context, tx *store.Tx, r Pricked, at time.Time) (time.Time, error) {
	t, err := testOf(ctx, tx, r.Lot, r.Test)
	if err != nil {
		return t.At, err
	}
	if t.Over {
		return t.At, field.Refuse("test", "has ended")
	}
	if r.Plants > t.Came {
		return t.At, field.Refuse("plants", "only %d had come up when last counted", t.Came)
	}
	return t.At, endTest(ctx, tx, r.Lot, t, &r.Batch, at)
}

// OpenTest is a test that is to be looked at.
type OpenTest struct {
	Test
	Lot  uuid.UUID
	Name string
	Crop string
	Last time.Time // when it was last counted, else begun
}

// OpenTests are the tests that have not ended, the oldest first.
func OpenTests(ctx context.Context, tx *store.Tx) (out []OpenTest, err error) {
	all, err := allTests(ctx, tx)
	if err != nil {
		return nil, err
	}
	for _, l := range all.lots {
		if l.Retired {
			continue
		}
		for _, t := range all.of[l.ID] {
			if !t.Over && !t.Tells(tx.Now) {
				o := OpenTest{Test: t, Lot: l.ID, Name: l.Name, Crop: l.Crop, Last: t.At}
				if n := len(t.Counts); n > 0 {
					o.Last = t.Counts[n-1].At
				}
				out = append(out, o)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b OpenTest) int { return cmp.Compare(a.At.Unix(), b.At.Unix()) })
	return out, nil
}

// ofTests are a packet's results: its tests that tell something, and the one on its card, of
// which nobody knows when it was made: about half way since it was packed.
func ofTests(p Packet, list []Test, now time.Time) (out []seed.Result) {
	if p.Tested != nil && p.Sprouted != nil {
		out = append(out, seed.Result{Years: float64(max(0, now.Year()-p.Packed)) / 2, Tried: *p.Tested, Came: *p.Sprouted})
	}
	for _, t := range list {
		if t.Tells(now) {
			out = append(out, seed.Result{Years: yearsSince(t.At, now), Tried: t.Seeds, Came: t.Came})
		}
	}
	return out
}

func yearsSince(then, now time.Time) float64 { return now.Sub(then).Hours() / (24 * 365.25) }
