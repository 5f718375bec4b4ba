package seeds

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/name"
	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/things"
	"ulpa/internal/base/trail"
	"ulpa/internal/base/who"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/site"
)

// One is a packet with what can be done with it.
type One struct {
	Lot
	Now    time.Time
	Places []site.Place
	Alike  []Packet // others of its variety that are there
}

// Get reads a packet.
func Get(ctx context.Context, s *store.Store, w who.Who, id uuid.UUID) (o One, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		shelf, err := Read(ctx, tx)
		if err != nil {
			return err
		}
		lot, known := shelf.Lot(id)
		if !known {
			return store.ErrNotFound
		}
		o = One{Lot: lot, Now: tx.Now}
		for _, l := range shelf.Lots {
			if l.ID != id && l.VarietyID == lot.VarietyID && !l.Setup.Retired {
				o.Alike = append(o.Alike, l.Packet)
			}
		}
		o.Places, err = site.Places(ctx, tx)
		return err
	})
	return o, err
}

// recordYears is how far back a school's sowings tell of its seed.
const recordYears = 6

// Sowing is what was sown of a packet, and what came of it.
type Sowing struct {
	Batch       uuid.UUID
	Code        string
	At          time.Time
	Cells, Came int
	Seeds       int
	Over        bool // all has come that will, or more than is usual: it counts in what is thought of the packet
	years       float64
}

// Result is it as a try of its seed.
func (x Sowing) Result() seed.Result {
	return seed.Result{Years: x.years, Tried: x.Cells, Came: x.Came, Each: x.Seeds / max(1, x.Cells)}
}

// Lot is a packet with what is known of it.
type Lot struct {
	Packet
	Setup   LotSetup
	Crop    crop.Crop
	Age     int // years since it was packed
	Tests   []Test
	Sowings []Sowing
	// Own is what is thought of this packet; Variety and Of of all of its variety and crop
	// here, and rest on more.
	Own, OfVariety, OfCrop seed.Learned
	InTrays                seed.Learned // by its sowings alone, at the warmth of trays here
	Advice                 string       // one of seed's
	own, trays             []seed.Result
	share, worth           float64 // what is thought of it beside its own results
}

// Tried tells whether anything of this packet was ever tried.
func (l Lot) Tried() bool { return len(l.own) > 0 }

// With is what is thought of it when other sowings of it are taken into account too.
func (l Lot) With(more ...seed.Result) seed.Learned {
	out := seed.Learn(l.share, l.worth, slices.Concat(l.own, more))
	out.By = seed.ByRecord
	return out
}

// prior is what is thought of it before any of it was tried, beside others of its crop.
func (l Lot) prior(others []seed.Result) (share, worth float64, beside []seed.Result) {
	share, worth = seed.Prior(l.Label, l.Crop.UsualRate/100, l.Age, l.Keeps())
	return share, worth, others
}

// Running is the test that has not ended; nil: none.
func (l Lot) Running(now time.Time) *Test {
	for i := range l.Tests {
		if t := &l.Tests[i]; !t.Over && !t.Tells(now) {
			return t
		}
	}
	return nil
}

// Shelf is every packet, by crop and the oldest first.
type Shelf struct {
	Lots []Lot
	Now  time.Time
}

// Lot finds one of them.
func (s Shelf) Lot(id uuid.UUID) (Lot, bool) {
	i := slices.IndexFunc(s.Lots, func(l Lot) bool { return l.ID == id })
	if i < 0 {
		return Lot{}, false
	}
	return s.Lots[i], true
}

// OnShelf reads the packets, those that are gone too.
func OnShelf(ctx context.Context, s *store.Store, w who.Who) (out Shelf, err error) {
	err = s.Read(ctx, w, func(tx *store.Tx) error {
		out, err = Read(ctx, tx)
		return err
	})
	return out, err
}

// Read is OnShelf within a transaction; it holds until what it was read from changes.
func Read(ctx context.Context, tx *store.Tx) (Shelf, error) {
	return store.Keep(ctx, tx, fmt.Sprint("shelf ", tx.Who.Day(tx.Now)), func() (Shelf, error) { return read(ctx, tx) })
}

func read(ctx context.Context, tx *store.Tx) (Shelf, error) {
	out := Shelf{Now: tx.Now}
	all, err := allTests(ctx, tx)
	if err != nil {
		return out, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return out, err
	}
	sown, err := tx.OfLots(ctx, tx.Now.AddDate(-recordYears, 0, 0))
	if err != nil {
		return out, err
	}
	ofVariety, ofCrop := map[uuid.UUID][]seed.Result{}, map[string][]seed.Result{}
	for _, r := range all.lots {
		l := Lot{Packet: packetOf(db.ListLotsRow(r)), Setup: setupOf(r), Crop: book.Find(r.Crop), Age: tx.Now.Year() - r.Packed, Tests: all.of[r.ID]}
		results, trays := ofTests(l.Packet, l.Tests, tx.Now), []seed.Result(nil)
		for _, b := range sown {
			if *b.SeedLotID != l.ID {
				continue
			}
			x := Sowing{b.ID, b.Code, b.SownAt, b.Cells, b.Sprouted, b.Seeds, false, yearsSince(b.SownAt, tx.Now)}
			if x.Over = b.Closed || b.Moved > 0 || float64(100*b.Sprouted) >= l.Crop.UsualRate*float64(b.Cells) && b.Sprouted > 0; x.Over {
				results, trays = append(results, x.Result()), append(trays, x.Result())
			}
			l.Sowings = append(l.Sowings, x)
		}
		l.own, l.trays = results, trays
		ofVariety[l.VarietyID] = append(ofVariety[l.VarietyID], results...)
		ofCrop[l.Packet.Crop] = append(ofCrop[l.Packet.Crop], results...)
		out.Lots = append(out.Lots, l)
	}
	for i := range out.Lots {
		l := &out.Lots[i]
		var others []seed.Result
		for _, o := range out.Lots {
			if o.ID != l.ID && o.Packet.Crop == l.Packet.Crop {
				others = append(others, o.own...)
			}
		}
		share, worth := seed.Beside(l.prior(others))
		l.share, l.worth = share, worth
		l.Own = seed.Learn(share, worth, l.own)
		if l.Own.By = seed.ByUsual; len(l.own)+len(others) > 0 {
			l.Own.By = seed.ByRecord
		} else if l.Label != nil {
			l.Own.By = seed.ByLabel
		}
		l.InTrays = seed.Learn(share, 1, l.trays)
		l.InTrays.By = seed.ByRecord
		share, worth = seed.Prior(nil, l.Crop.UsualRate/100, 0, l.Crop.SeedYears)
		l.OfVariety, l.OfCrop = seed.Learn(share, worth, ofVariety[l.VarietyID]), seed.Learn(share, worth, ofCrop[l.Packet.Crop])
	}
	slices.SortStableFunc(out.Lots, func(a, b Lot) int { return cmp.Or(cmp.Compare(a.Crop.ID, b.Crop.ID), a.Packed-b.Packed) })
	out.advise()
	return out, nil
}

// advise says of each packet that is there what to do with it, crop by crop.
func (s *Shelf) advise() {
	for from := 0; from < len(s.Lots); {
		to := from
		var there []int
		var list []seed.OnShelf
		for ; to < len(s.Lots) && s.Lots[to].Crop.ID == s.Lots[from].Crop.ID; to++ {
			l := s.Lots[to]
			if l.Setup.Retired {
				continue
			}
			there = append(there, to)
			list = append(list, seed.OnShelf{
				AgeYears: l.Age, KeepsYears: l.Keeps(), Left: l.SeedsLeft, Share: l.Own.Mean(),
				Tested: l.Running(s.Now) != nil || slices.ContainsFunc(l.Tests, func(t Test) bool { return s.Now.Sub(t.At) < 366*24*time.Hour }),
			})
		}
		for i, a := range seed.Advise(list) {
			s.Lots[there[i]].Advice = a
		}
		from = to
	}
}

// Keeps is for how many years such seed usually keeps: a coat of clay makes it less.
func (l Lot) Keeps() int {
	if l.Pelleted {
		return 1
	}
	return max(1, l.Crop.SeedYears)
}

// Tested are the tests of packets as sums of a sowing take them: so many of so many, the
// older ones less. A packet without any is not there.
func Tested(ctx context.Context, tx *store.Tx) (map[uuid.UUID]seed.Germination, error) {
	return store.Keep(ctx, tx, fmt.Sprint("tested ", tx.Who.Day(tx.Now)), func() (map[uuid.UUID]seed.Germination, error) {
		all, err := allTests(ctx, tx)
		if err != nil {
			return nil, err
		}
		out := map[uuid.UUID]seed.Germination{}
		for _, r := range all.lots {
			if results := ofTests(packetOf(db.ListLotsRow(r)), all.of[r.ID], tx.Now); results != nil {
				out[r.ID] = seed.Learn(0.5, 0, results).Germination()
			}
		}
		return out, nil
	})
}

// Reasons for which a packet leaves the shelf.
var Reasons = []ledger.Option{
	{Value: "used-up", Name: say.Words("used up")},
	{Value: "too-old", Name: say.Words("too old")},
	{Value: "mouldy", Name: say.Words("mouldy or wet")},
	{Value: "failed-test", Name: say.Words("failed its test")},
	{Value: "mice", Name: say.Words("eaten by mice")},
	{Value: "given-away", Name: say.Words("given away")},
	{Value: "other", Name: say.Words("other##reason")},
}

// Finish takes a packet off the shelf, for a reason.
func Finish(ctx context.Context, s *store.Store, w who.Who, lot uuid.UUID, why string) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	if !slices.ContainsFunc(Reasons, func(o ledger.Option) bool { return o.Value == why }) {
		return field.Refuse("why", "choose one of the list")
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error { return finish(ctx, tx, lot, why) })
}

func finish(ctx context.Context, tx *store.Tx, lot uuid.UUID, why string) error {
	v, tag, err := getLot(ctx, tx, lot)
	if err != nil {
		return err
	}
	none := 0
	v.Retired, v.Gone, v.Seeds = true, why, &none
	_, err = LotKind.PutIn(ctx, tx, v, tag)
	return err
}

// Poured tells that a packet was poured into another, which holds its seed now: Gone is its name.
func (l LotSetup) Poured() bool {
	return l.Gone != "" && !slices.ContainsFunc(Reasons, func(o ledger.Option) bool { return o.Value == l.Gone })
}

// Reshelve puts a packet that was off the shelf back on it, with so many seeds in it, by number
// or by weight; without either they are not counted.
func Reshelve(ctx context.Context, s *store.Store, w who.Who, lot uuid.UUID, seeds *int, grams *float64) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		v, err := LotKind.Find(ctx, tx, lot)
		if err != nil {
			return err
		}
		if !v.Retired {
			return field.Refuse("packet", "is on the shelf already")
		}
		if v.Poured() {
			return field.Refuse("packet", "was poured into %s, which holds its seed now", say.Name(v.Gone))
		}
		tag := things.Tag(v)
		v.Retired, v.Gone, v.Seeds, v.Grams = false, "", seeds, grams
		_, err = LotKind.PutIn(ctx, tx, v, tag)
		return err
	})
}

// getLot is a packet that is on the shelf, with its tag.
func getLot(ctx context.Context, tx *store.Tx, lot uuid.UUID) (v LotSetup, tag string, err error) {
	v, err = LotKind.Find(ctx, tx, lot)
	if err == nil && v.Retired {
		err = field.Refuse("packet", "is not on the shelf any more")
	}
	return v, things.Tag(v), err
}

// Recount sets how many seeds a packet holds, by number or by weight.
func Recount(ctx context.Context, s *store.Store, w who.Who, lot uuid.UUID, seeds *int, grams *float64) error {
	if err := w.Must(who.Sow); err != nil {
		return err
	}
	if seeds == nil && grams == nil {
		return field.Refuse("seeds", "enter how many, or what they weigh")
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		v, tag, err := getLot(ctx, tx, lot)
		if err != nil {
			return err
		}
		v.Seeds, v.Grams = seeds, grams
		_, err = LotKind.PutIn(ctx, tx, v, tag)
		return err
	})
}

// Pouring is which packet is emptied into which.
type Pouring struct{ From, Into uuid.UUID }

// Merge pours a packet into another of the same variety, which holds both from then on and
// is as old as the older.
func Merge(ctx context.Context, s *store.Store, w who.Who, r Pouring) error {
	if err := w.Must(who.Plan); err != nil {
		return err
	}
	if r.From == r.Into {
		return field.Refuse("into", "choose another packet")
	}
	return s.InSchool(ctx, w, func(tx *store.Tx) error {
		a, tagA, err := getLot(ctx, tx, r.From)
		if err != nil {
			return err
		}
		b, tagB, err := getLot(ctx, tx, r.Into)
		if err != nil {
			return store.Missing(err, "into", "choose another packet")
		}
		var e field.Errors
		e.Require(a.Crop == b.Crop && name.Key(a.Variety) == name.Key(b.Variety), "into", "is of another variety: you could no longer tell what grew "+
			"from which")
		e.Require(a.Treated == b.Treated, "into", "one is treated and the other is not: keep them apart")
		if err := e.Err(); err != nil {
			return err
		}
		b.Packed = min(a.Packed, b.Packed)
		if a.Seeds == nil || b.Seeds == nil {
			b.Seeds = nil
		} else {
			sum := *a.Seeds + *b.Seeds
			b.Seeds = &sum
		}
		if a.Label == nil || b.Label == nil || *a.Label != *b.Label {
			b.Label = nil
		}
		none := 0
		a.Retired, a.Gone, a.Seeds = true, b.Name, &none
		if _, err := LotKind.PutIn(ctx, tx, b, tagB); err != nil {
			return err
		}
		if _, err := LotKind.PutIn(ctx, tx, a, tagA); err != nil {
			return err
		}
		return trail.Write(ctx, tx, "Poured packet %s into %s", say.Name(a.Name), say.Name(b.Name))
	})
}
