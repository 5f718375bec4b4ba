package away_test

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/away"
	"ulpa/core/calendar"
	"ulpa/core/chemistry"
	"ulpa/core/cold"
	"ulpa/core/crop"
	"ulpa/core/ready"
	"ulpa/core/round"
	"ulpa/core/sprout"
	"ulpa/core/tank"
)

var friday = calendar.Date(2027, 3, 19)

// school is closed for so many days after a Friday.
func school(closed int) things {
	return things{Day: round.Day{
		Today: friday, Now: friday.At(9, 0, time.UTC), Zone: time.UTC, DayBegins: 510, DayEnds: 930,
		Calendar: calendar.School{Closures: []calendar.Closure{{From: friday + 1, To: friday + calendar.Day(closed)}}},
		Places: []round.Place{
			{ID: "bench", Name: "Bench", Kind: "bench", TemperatureC: 19},
			{ID: "tower", Name: "Tower", Kind: "tower", TemperatureC: 19},
			{ID: "frame", Name: "Frame", Kind: "frame"},
			{ID: "bed", Name: "Bed", Kind: "bed"},
		},
	}}
}

// things are what a small school has.
type things struct {
	round.Day
	Batches []round.Batch
	Tanks   []round.Tank
	Troughs []round.Trough
}

// foretell is how all of it fares.
func foretell(in input, s away.Span) away.Plan {
	d, all := in.School.Day, []away.Thing{}
	for _, t := range in.School.Tanks {
		all = append(all, away.OfTank(d, s, t)...)
	}
	for _, t := range in.School.Troughs {
		all = append(all, away.OfTrough(d, s, t)...)
	}
	for _, t := range in.Trays {
		all = append(all, t.Fares(s))
	}
	for _, x := range in.Pots {
		all = append(all, x.Fares(s))
	}
	for _, b := range in.School.Batches {
		all = append(all, away.OfBatch(d, s, b)...)
	}
	return away.Foretell(d, s, all)
}

type input struct {
	School things
	Trays  []away.Tray
	Pots   []away.Pots
}

var spec = tank.Spec{
	CapacityL: 60, FillToL: 58, DryBelowL: 12, PHLow: 5.5, PHTarget: 5.8, PHHigh: 6.3, ECLow: 1.2, ECTarget: 1.5, ECHigh: 1.8,
	WaterEC: 0.5, WaterAlkalinity: 150, StockRise: 0.25, ReadEveryDays: 3,
	Acid: chemistry.Product{Agent: chemistry.PhosphoricAcid, StrengthPercent: 30, DensityGML: 1.18},
	Base: chemistry.Product{Agent: chemistry.PotassiumBicarbonate, StrengthPercent: 99},
}

// vat has drunk so many litres a day, give or take, and stands at a level this morning.
func vat(id string, level, drinks float64, off []float64) round.Tank {
	at, n := friday.At(8, 0, time.UTC), 20
	x := round.Tank{ID: id, Name: id, Place: "tower", Tank: tank.Tank{Spec: spec, Plants: n}}
	l := level
	for _, o := range off {
		l += 2 * (drinks + o)
	}
	for i := range off {
		before := l
		x.State.Read(spec, tank.Reading{LevelL: &before, Plants: &n}, at.AddDate(0, 0, -2*(len(off)-i)))
		l -= 2 * (drinks + off[i])
	}
	ph, ec, c := 5.8, 1.5, 19.0
	x.State.Read(spec, tank.Reading{PH: &ph, ECMS: &ec, TempC: &c, LevelL: &level, Plants: &n}, at)
	x.Judged = tank.Judge(spec, x.State)
	return x
}

func find(p away.Plan, key string) (away.Thing, bool) {
	i := slices.IndexFunc(p.Things, func(t away.Thing) bool { return t.Key == key })
	if i < 0 {
		return away.Thing{}, false
	}
	return p.Things[i], true
}

// Whatever stands in a school: what does not last has something to do or somebody to come,
// days of visits lie within the closure, longer closures are never safer, and the day's
// list is in the order of its acts and adds up.
func TestWhatIsForetoldHoldsTogether(t *testing.T) {
	lettuce, _ := crop.Find("lettuce")
	rapid.Check(t, func(t *rapid.T) {
		closed := rapid.IntRange(2, 16).Draw(t, "closed")
		drinks := rapid.Float64Range(0.2, 12).Draw(t, "drinks")
		level := rapid.Float64Range(13, 58).Draw(t, "level")
		off := rapid.SliceOfN(rapid.Float64Range(-0.15, 0.15), 0, 5).Draw(t, "off")
		up := rapid.IntRange(0, 30).Draw(t, "up")
		fares := func(closed int) away.Plan {
			s := school(closed)
			s.Tanks = []round.Tank{vat("t", level, drinks, off), {ID: "new", Name: "New", Place: "tower", Tank: tank.Tank{Spec: spec}}}
			s.Batches = []round.Batch{{
				ID: "b", Code: "LET-01", Crop: lettuce, Sown: friday - 20, Sprouted: 20, Standing: 20, Cells: 20, InTray: map[string]string{"bench": "y"},
				Verdict: ready.Verdict{Word: ready.Early, About: friday + 3, Until: friday + 6},
			}}
			tray := away.Tray{ID: "y", Name: "Y", Place: "bench", Cells: 30, Up: up, All: 72, CellML: 40, Drains: true, Air: away.Air{TempC: 19}}
			return foretell(input{School: s, Trays: []away.Tray{tray}}, away.Ahead(s.Day))
		}
		p, longer := fares(closed), fares(closed+3)
		require.GreaterOrEqual(t, p.Closed, closed)
		for _, x := range p.Things {
			require.True(t, x.Lasts() || x.Act != "" || len(x.Comes) > 0, "%+v", x)
			require.True(t, x.Chance >= 0 && x.Chance <= 1 && x.After <= x.Chance+1e-9, "%+v", x)
			require.True(t, x.In5 == nil || x.In50 == nil || !x.In50.Before(*x.In5), "%+v", x)
			for _, d := range x.Comes {
				require.True(t, d > p.From && d < p.Back)
			}
			if y, ok := find(longer, x.Key); ok && x.What != away.Band { // a tank that is filled for longer is thinner
				require.GreaterOrEqual(t, y.Chance, x.Chance-1e-9, x.Key)
			}
		}
		litres, minutes, rank := 0.0, 0, 0
		for _, x := range p.Day() {
			at := slices.Index(away.Acts, x.Act)
			require.GreaterOrEqual(t, at, rank)
			rank = at
			litres, minutes = litres+x.Litres, minutes+x.Minutes
		}
		l, m := p.Litres()
		require.InDelta(t, litres, l, 1e-9)
		require.Equal(t, minutes, m)
		days, what := p.Visits()
		require.True(t, slices.IsSorted(days))
		require.Len(t, what, len(days))
	})
}

// A tank that may fall dry is never passed over: also little water is poured where it makes it last.
func TestNoTankIsPassedOver(t *testing.T) {
	for level := 40.0; level <= 58; level += 0.1 {
		s := school(3)
		s.Tanks = []round.Tank{vat("t", level, 6.75, []float64{0.15})}
		x, ok := find(foretell(input{School: s}, away.Ahead(s.Day)), "tank:t")
		require.True(t, ok)
		require.True(t, x.Lasts() || x.Act != "" || len(x.Comes) > 0, "%+v", x)
	}
}

// Tanks that drink as their records say fall dry as often as is forecast, and those that
// were seen to on the last day almost never.
func TestTanksFallDryAsOftenAsForetold(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 9))
	foretold, dry, saved, n := 0.0, 0, 0, 0
	for range 1500 {
		rate, day := 2+8*r.Float64(), 0.6
		off := make([]float64, 5)
		for i := range off {
			off[i] = day * r.NormFloat64() / math.Sqrt2 // of two days' mean
		}
		s := school(5)
		level := 25 + 30*r.Float64()
		s.Tanks = []round.Tank{vat("t", level, rate, off)}
		span := away.Ahead(s.Day)
		x, ok := find(foretell(input{School: s}, span), "tank:t")
		require.True(t, ok)
		drunk := func() float64 {
			d := span.Return.Sub(s.Now).Hours() / 24
			return rate*d + day*math.Sqrt(d)*r.NormFloat64()
		}
		n++
		foretold += x.Chance
		if level-drunk() < spec.DryBelowL {
			dry++
		}
		if x.Safe() && level+x.Litres-drunk() < spec.DryBelowL {
			saved++
		}
	}
	require.InDelta(t, foretold/float64(n), float64(dry)/float64(n), 0.05)
	require.Less(t, float64(saved)/float64(n), 0.05, "what is safe once it is done is safe")
}

// Each kind of thing comes to what it comes to, and the visits of what cannot be made safe
// are never further apart than it lasts.
func TestWhatBefallsEachKind(t *testing.T) {
	s := school(12)
	tomato, _ := crop.Find("tomato")
	lettuce, _ := crop.Find("lettuce")
	shoots, _ := crop.Find("mungbean")
	s.Cold.Ahead = []cold.Night{{Day: friday + 2, MinC: -6}}
	s.Batches = []round.Batch{
		{ID: "tom", Code: "TOM-01", Crop: tomato, Sown: friday - 50, InStands: map[string]int{"frame": 12}},
		{ID: "let", Code: "LET-01", Crop: lettuce, Sown: friday - calendar.Day(lettuce.HarvestDays()), InPorts: map[string]int{"tower": 9}},
		{
			ID: "late", Code: "LET-02", Crop: lettuce, Sown: friday - 30, Sprouted: 9, Standing: 9, InTray: map[string]string{"bench": "y"},
			Verdict: ready.Verdict{Word: ready.Ready, Since: friday - 2, Until: friday + 4},
		},
		{ID: "spr", Code: "SPR-01", Crop: shoots, Sown: friday, Standing: 2, InStands: map[string]int{"bench": 2}, Sprouting: &sprout.Care{Soaked: s.Now}},
	}
	s.Tanks = []round.Tank{vat("t", 58, 9, []float64{0.1, -0.1, 0.2})}
	in := input{School: s, Pots: []away.Pots{{Batch: "tom", Code: "TOM-01", Pot: "Small", Place: "bench", Plants: 4, PotML: 500, TopCM2: 81}}}
	p := foretell(in, away.Ahead(s.Day))
	what := map[string]string{}
	for _, x := range p.Fails() {
		what[x.Key] = x.What + " " + x.Act
	}
	require.Equal(t, "cold cover", what["cold:tom:frame"])
	require.Equal(t, "ripe cut", what["ripe:let"])
	require.Equal(t, "late move", what["late:late"])
	require.Equal(t, "unrinsed ask", what["unrinsed:spr:bench"])
	require.Equal(t, "dry water", what["pots:tom:Small:bench"])
	x, _ := find(p, "tank:t")
	require.NotEmpty(t, x.Comes, "no tank of 58 L lasts twelve days of nine")
	require.False(t, x.Safe())
	before := p.From
	for _, d := range append(slices.Clone(x.Comes), p.Back) {
		require.LessOrEqual(t, float64(d-before)*9, 58-spec.DryBelowL, "somebody comes before it is dry")
		before = d
	}
	empty := spec
	empty.Passive = true
	s.Tanks = []round.Tank{{ID: "j", Name: "Jar", Place: "tower", Tank: tank.Tank{Spec: empty}}}
	_, ok := find(foretell(input{School: s}, away.Ahead(s.Day)), "tank:j")
	require.False(t, ok, "an empty jar needs nobody")
	day := p.Day()
	require.Equal(t, []string{"ask", "cover"}, []string{day[0].Act, day[len(day)-1].Act}, "whom to ask comes first, what is closed last")
	spans := away.Coming(s.Day, 30)
	require.Equal(t, p.From, spans[0].From)
	require.Greater(t, spans[1].From, spans[0].Back-1)
	s.Today, s.Now = friday+14, s.Now.AddDate(0, 0, 14)
	past := away.Past(s.Day, 20)
	require.Equal(t, friday, past[len(past)-1].From)
}
