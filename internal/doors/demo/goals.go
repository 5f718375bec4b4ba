package demo

import (
	"math"
	"math/rand/v2"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/internal/base/things"
	"ulpa/internal/work/goals"
	"ulpa/internal/work/season"
)

// weeks are the made-up school's terms, its exam week, and who has which day's period.
func (b *builder) weeks() {
	day := func(month time.Month, d int) calendar.Day { return calendar.Date(2027, month, d) + b.shift }
	for _, t := range []season.Days{
		{Name: "Spring term", From: day(1, 5), To: day(3, 28)}, {Name: "Summer term", From: day(4, 10), To: day(7, 23)},
	} {
		b.do("term", func() error {
			t.ID = b.id()
			_, err := season.TermKind.Put(b.ctx, b.store, b.me, t, things.New)
			return err
		})
	}
	b.do("exam week", func() error {
		exams := season.Days{ID: b.id(), Name: "Exams", From: day(6, 7), To: day(6, 11), Minutes: 15}
		_, err := season.SpecialKind.Put(b.ctx, b.store, b.me, exams, things.New)
		return err
	})
	for _, p := range []season.Period{
		{Weekday: "1", Starts: "10:40", Minutes: 45, Whom: "Punt"},
		{Weekday: "2", Starts: "10:40", Minutes: 45, Whom: "Skiff"},
		{Weekday: "3", Starts: "13:15", Minutes: 45, Whom: "Dory"},
		{Weekday: "4", Starts: "10:40", Minutes: 45, Whom: "Coracle"},
		{Weekday: "5", Starts: "09:00", Minutes: 45, Whom: "Punt and Skiff"},
	} {
		b.do("period", func() error {
			p.ID = b.id()
			_, err := season.PeriodKind.Put(b.ctx, b.store, b.me, p, things.New)
			return err
		})
	}
}

// station is twenty years of made-up nights at the river's mouth.
func (b *builder) station() {
	r := rand.New(rand.NewPCG(27, 3))
	var nights []climate.Minimum
	first := Day + b.shift - 20*365
	for d := first; d < Day+b.shift; d++ {
		season := math.Cos(2 * math.Pi * float64(d.UTC().YearDay()-20) / 365)
		nights = append(nights, climate.Minimum{Day: d, C: math.Round(10*(7.5-6.5*season+3*r.NormFloat64())) / 10})
	}
	b.do("station", func() error { return season.PutStation(b.ctx, b.store, b.me, "River mouth", nights) })
	b.do("frost", func() error {
		rule := season.UsualFrost
		rule.LastFrost = "04-20"
		return season.SetFrostRule(b.ctx, b.store, b.me, rule)
	})
}

// ferry is a goal that was planned in winter and sown some days after its day, and so is behind.
func (b *builder) ferry() {
	by := calendar.Date(2027, 4, 13) + b.shift
	b.do("ferry", func() error {
		g := goals.Setup{
			ID: b.id(), Name: "Ferry landing", Kind: "ready", Crop: "marigold", Wanted: 40, From: by, By: by, Missing: "should", Whom: "Window boxes",
		}
		if _, err := goals.Kind.Put(b.ctx, b.store, b.me, g, things.New); err != nil {
			return err
		}
		o, err := goals.Look(b.ctx, b.store, b.me)
		if err != nil {
			return err
		}
		b.planned["mar1"] = &o.Lines[0].Batches[0].ID
		return goals.Keep(b.ctx, b.store, b.me, o.Tag)
	})
}

// goals are what the made-up school wants from its spring and summer; one is wanted too soon.
func (b *builder) goals() {
	day := func(month time.Month, d int) calendar.Day { return calendar.Date(2027, month, d) + b.shift }
	for _, g := range []goals.Setup{
		{
			Name: "Kitchen lettuce", Kind: "weekly", Crop: "lettuce", Wanted: 12, From: day(5, 10), By: day(6, 18), Harvest: true, Missing: "must",
			Whom: "The kitchen, for Thursday lunch",
		},
		{
			Name: "Kitchen rocket", Kind: "weekly", Crop: "rocket", Wanted: 8, From: day(5, 3), By: day(5, 28), Harvest: true, Missing: "should",
			Whom: "The kitchen",
		},
		{Name: "Planting day", Kind: "ready", Crop: "tomato", Wanted: 24, From: day(5, 17), By: day(5, 21), Missing: "must", Whom: "Year 9"},
		{Name: "Fair: basil pots", Kind: "ready", Crop: "basil", Wanted: 30, From: day(6, 14), By: day(6, 17), Missing: "should", Whom: "Summer fair"},
		{Name: "Fair: chives", Kind: "ready", Crop: "chives", Wanted: 20, From: day(6, 14), By: day(6, 17), Missing: "nice", Whom: "Summer fair"},
		{Name: "Leaf lesson", Kind: "class", Crop: "pakchoi", Wanted: 10, From: day(4, 29), By: day(4, 29), Missing: "should", Whom: "Science, room 4"},
		{Name: "Landing boxes peas", Kind: "ready", Crop: "pea", Wanted: 30, From: day(6, 21), By: day(7, 2), Harvest: true, Missing: "should"},
		{
			Name: "Kitchen herbs by weight", Kind: "weekly", Crop: "parsley", Grams: grams(200), PlantG: grams(25), From: day(6, 7), By: day(7, 2), Harvest: true,
			Missing: "nice", Whom: "The kitchen",
		},
		{Name: "Box ends", Kind: "bed", Crop: "marigold", Wanted: 24, Place: b.ids["Landing boxes"], From: day(6, 14), By: day(6, 18), Missing: "should"},
		{
			Name: "Which frill bolts first", Kind: "trial", Crop: "lettuce", Variety: "Harbour Frill, Tideline Red", Wanted: 8, From: day(5, 31), By: day(6, 4),
			Missing: "nice", Whom: "Year 8 science",
		},
		{
			Name: "Chillies for the chutney", Kind: "ready", Crop: "chilli", Wanted: 12, From: day(5, 10), By: day(5, 21), Harvest: true, Missing: "nice",
			Whom: "Food club",
		},
	} {
		b.do("goal", func() error {
			g.ID = b.id()
			_, err := goals.Kind.Put(b.ctx, b.store, b.me, g, things.New)
			return err
		})
	}
}

func grams(v float64) *float64 { return &v }
