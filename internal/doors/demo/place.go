package demo

import (
	"context"
	"fmt"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/chemistry"
	"ulpa/core/cold"
	"ulpa/core/field"
	"ulpa/core/tank"
	"ulpa/core/water"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/work/mixing"
	"ulpa/internal/work/people"
	"ulpa/internal/work/season"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
	"ulpa/internal/work/waters"
)

// Furnish gives a school without places those of the made-up one, with their trays, tanks
// and jars, as a start to change.
func Furnish(ctx context.Context, s *store.Store, w who.Who) error {
	if err := w.Must(who.Settings); err != nil {
		return err
	}
	there, err := site.PlaceKind.List(ctx, s, w)
	if err != nil {
		return err
	}
	if len(there) > 0 {
		return field.Refuse("places", "are there already; change those")
	}
	b := &builder{ctx: ctx, store: s, clock: &Clock{}, me: w, ids: map[string]uuid.UUID{}}
	b.furnish()
	return b.err
}

func (b *builder) places() {
	b.do("day", func() error { return people.SetSchoolDay(b.ctx, b.store, b.me, 8*60+30, 15*60+30) })
	b.furnish()
	b.days()
}

// furnish is where things stand, and what stands there for good.
func (b *builder) furnish() {
	for i, p := range []site.PlaceSetup{
		{Name: "Nursery bench", Kind: "bench", LengthCM: 240, WidthCM: 60, TemperatureC: new(18.0)},
		{Name: "Warm shelf", Kind: "warm_shelf", LengthCM: 120, WidthCM: 45, TemperatureC: new(23.0), LampUmol: new(180.0), LampHours: new(16.0)},
		{Name: "Long table", Kind: "raft", Tiers: 4, Columns: 12, Boards: 4, LengthCM: 300, WidthCM: 90, TemperatureC: new(18.0)},
		{Name: "North tower", Kind: "tower", Tiers: 9, Columns: 4, TemperatureC: new(18.0)},
		{Name: "South tower", Kind: "tower", Tiers: 9, Columns: 4, TemperatureC: new(18.0)},
		{Name: "Jar shelf", Kind: "jars", Tiers: 1, Columns: 12, TemperatureC: new(19.0)},
		{Name: "Cold frame", Kind: "frame", LengthCM: 180, WidthCM: 90, TemperatureC: new(8.0)},
		{Name: "Landing boxes", Kind: "bed", LengthCM: 400, WidthCM: 60, TemperatureC: new(9.0)},
	} {
		p.ID, p.WalkOrder = b.id(), i+1
		b.ids[p.Name] = p.ID
		b.do("place "+p.Name, func() error { return site.AddPlace(b.ctx, b.store, b.me, p) })
	}
	for i := range 14 {
		t := site.TrayKind.Blank()
		t.ID, t.Name, t.Place, t.Rows, t.Columns, t.CellML = b.id(), fmt.Sprintf("Tray %d", i+1), b.ids["Nursery bench"], 6, 12, 40
		switch i + 1 {
		case 3, 11:
			t.Place = b.ids["Warm shelf"]
			t.Rows = 8
		case 4, 12:
			t.Rows, t.Columns, t.CellML = 4, 6, 120
			t.Place = b.ids["Warm shelf"]
		}
		b.ids[t.Name] = t.ID
		b.do(t.Name, func() error { return site.AddTray(b.ctx, b.store, b.me, t) })
	}
	for _, p := range []site.PotSetup{
		{Name: "Small pots", TopCM: 9, BottomCM: 6.4, HeightCM: 8.6, Owned: 60, Dirty: 9, Days: 28},
		{Name: "Large pots", TopCM: 13, BottomCM: 9.2, HeightCM: 11.5, Owned: 24, Days: 42},
	} {
		p.ID = b.id()
		b.ids[p.Name] = p.ID
		b.do(p.Name, func() error { _, err := site.PotKind.Put(b.ctx, b.store, b.me, p, things.New); return err })
	}
	mix := site.MixSetup{ID: b.id(), Name: "Peat-free compost", Litres: 55, BagL: 40}
	b.ids[mix.Name] = mix.ID
	b.do(mix.Name, func() error { _, err := site.MixKind.Put(b.ctx, b.store, b.me, mix, things.New); return err })
	tower := tank.Spec{
		CapacityL: 62, FillToL: 58, DryBelowL: 12, PHLow: 5.5, PHTarget: 5.8, PHHigh: 6.3, ECLow: 1.2, ECTarget: 1.5, ECHigh: 1.7,
		WaterEC: 0.62, WaterAlkalinity: 190, PhosphorusMgL: 31, StockRise: 0.22, StockName: "leaf mix A and B", ReadEveryDays: 3,
		Acid: chemistry.Product{Agent: chemistry.PhosphoricAcid, StrengthPercent: 30, DensityGML: 1.18},
		Base: chemistry.Product{Agent: chemistry.PotassiumBicarbonate, StrengthPercent: 99},
	}
	tower.PumpOnMin, tower.PumpEveryMin = 15, 30
	b.bottles()
	tower.Stocks = b.ids["Leaf mix bottles"].String()
	raft := tower
	raft.CapacityL, raft.FillToL, raft.DryBelowL, raft.PumpOnMin, raft.PumpEveryMin = 220, 205, 150, 0, 0
	jar := raft
	jar.CapacityL, jar.FillToL, jar.DryBelowL, jar.HeightCM, jar.PotFootCM, jar.Passive, jar.ReadEveryDays = 3.8, 3.1, 0.31, 24.7, 20, true, 3
	b.waters()
	b.tank("Long table", "Long table", 0, raft)
	b.tank("North tower", "North tower", 0, tower)
	b.tank("South tower", "South tower", 0, tower)
	for i := range 12 {
		b.tank(fmt.Sprintf("Jar %d", i+1), "Jar shelf", i+1, jar)
	}
}

// days are closed days and the nights ahead.
func (b *builder) days() {
	for _, c := range []calendar.Closure{
		{From: calendar.Date(2027, 2, 15), To: calendar.Date(2027, 2, 19), Name: "Half-term"},
		{From: calendar.Date(2027, 3, 22), To: calendar.Date(2027, 3, 22), Name: "Staff day"},
		{From: calendar.Date(2027, 3, 29), To: calendar.Date(2027, 4, 9), Name: "Spring holiday"},
	} {
		c.From, c.To = c.From+b.shift, c.To+b.shift
		b.do("closure", func() error { return season.Close(b.ctx, b.store, b.me, c) })
	}
	for i, c := range []float64{4, 3, -1, -2, 1, 5, 6} {
		b.do("night", func() error {
			return season.PutNight(b.ctx, b.store, b.me, cold.Night{Day: Day + b.shift + calendar.Day(i), MinC: c})
		})
	}
}

func (b *builder) tank(name, place string, position int, spec tank.Spec) {
	n := site.TankSetup{ID: b.id(), Place: b.ids[place], Name: name, Position: position, Spec: spec, Water: b.ids["School tap"].String()}
	b.ids["tank "+name] = n.ID
	b.do("tank "+name, func() error { return site.AddTank(b.ctx, b.store, b.me, n) })
}

func (b *builder) seeds() {
	rate := func(p float64) *float64 { return &p }
	count := func(n int) *int { return &n }
	for _, l := range []seeds.LotSetup{
		{Crop: "lettuce", Variety: "Harbour Frill", Name: "HF-26", Packed: 2026, Label: rate(0.92), Seeds: count(900)},
		{Crop: "lettuce", Variety: "Tideline Red", Name: "TR-25", Packed: 2025, Tested: count(25), Came: count(21), Seeds: count(340), KeptIn: "Tin"},
		{Crop: "basil", Variety: "Lamplighter", Name: "LL-26", Packed: 2026, Label: rate(0.85), Seeds: count(600)},
		{Crop: "chives", Variety: "Marram", Name: "MM-26", Packed: 2026, Label: rate(0.75), Seeds: count(800)},
		{Crop: "kale", Variety: "Bollard", Name: "BO-25", Packed: 2025, Label: rate(0.88), Seeds: count(220)},
		{Crop: "tomato", Variety: "Pierhead Cherry", Name: "PC-26", Packed: 2026, Label: rate(0.93), Seeds: count(70)},
		{Crop: "spinach", Variety: "Mudlark", Name: "ML-24", Packed: 2024, Label: rate(0.84), Seeds: count(170), KeptIn: "Tin"},
		{Crop: "pakchoi", Variety: "Slipway", Name: "SW-26", Packed: 2026, Label: rate(0.9), Seeds: count(260)},
		{Crop: "rocket", Variety: "Gullwing", Name: "GW-26", Packed: 2026, Label: rate(0.9), Seeds: count(1200)},
		{Crop: "chard", Variety: "Signal Lamp", Name: "SL-25", Packed: 2025, Label: rate(0.8), Seeds: count(140)},
		{Crop: "marigold", Variety: "Ferry Bell", Name: "FB-26", Packed: 2026, Seeds: count(200), Origin: "saved", KeptIn: "Paper bag, office"},
		{Crop: "pea", Variety: "Sculler", Name: "SC-26", Packed: 2026, Label: rate(0.88), Seeds: count(180)},
		{Crop: "onion", Variety: "Capstan", Name: "CP-22", Packed: 2022, Tested: count(20), Came: count(7), Seeds: count(400)},
		{Crop: "parsley", Variety: "Quayside Curl", Name: "QC-26", Packed: 2026, Label: rate(0.78), Seeds: count(300)},
	} {
		l.ID = b.id()
		b.ids[l.Name] = l.ID
		b.do("lot "+l.Name, func() error { return seeds.AddLot(b.ctx, b.store, b.me, l) })
	}
}

// compared nights: the forecast, and what it came to at the landing.
func (b *builder) compared() {
	for i, n := range [][2]float64{{6, 4.1}, {5, 3.4}, {3, 0.4}, {4, 2.6}, {7, 5.2}, {2, -0.6}, {5, 2.1}, {6, 4.5}} {
		day := Day + b.shift - calendar.Day(9-i)
		b.do("compared night", func() error {
			if err := season.PutNight(b.ctx, b.store, b.me, cold.Night{Day: day, MinC: n[0]}); err != nil {
				return err
			}
			return season.PutSiteNight(b.ctx, b.store, b.me, cold.Night{Day: day, MinC: n[1]})
		})
	}
}

// waters are the hard tap of the school, by a report and by drops, and the rain butt.
func (b *builder) waters() {
	for _, w := range []waters.Setup{{Name: "School tap", Kind: "tap"}, {Name: "Rain butt", Kind: "rain"}} {
		w.ID = b.id()
		b.ids[w.Name] = w.ID
		b.do(w.Name, func() error { _, err := waters.Kind.Put(b.ctx, b.store, b.me, w, things.New); return err })
	}
	for _, a := range []struct {
		of string
		water.Analysis
	}{
		{"School tap", water.Analysis{By: water.Report, Values: map[string]float64{
			"alkalinity": 210, "ca": 96, "mg": 9, "na": 24, "cl": 44, "so4": 48, "k": 3, "no3_n": 6.5, "ec": 0.62, "ph": 7.5, "chlorine": 0.3,
		}}},
		{"School tap", water.Analysis{By: water.Drops, Values: map[string]float64{"alkalinity": 190, "hardness": 268}}},
		{"Rain butt", water.Analysis{By: water.Strip, Values: map[string]float64{"alkalinity": 18, "hardness": 20, "ph": 6.4}}},
		{"Rain butt", water.Analysis{By: water.Meter, Values: map[string]float64{"ec": 0.05}}},
	} {
		b.do("analysis of "+a.of, func() error {
			return waters.Analyse(b.ctx, b.store, b.me, ledger.Act{ID: b.id(), On: b.ids[a.of]}, a.Analysis)
		})
	}
}

// bottles are the pair that the towers are fed from.
func (b *builder) bottles() {
	s := mixing.Stock{ID: b.id(), Name: "Leaf mix bottles", HoldsL: 2}
	b.ids[s.Name] = s.ID
	b.do(s.Name, func() error { _, err := mixing.StockKind.Put(b.ctx, b.store, b.me, s, things.New); return err })
}

// filled are the bottles mixed anew.
func (b *builder) filled() {
	b.do("stock", func() error {
		q := mixing.Question{Recipe: b.ids["Leaf crops"], Water: b.ids["School tap"], Litres: 1, Ratio: 100, Stock: b.ids["Leaf mix bottles"]}
		return mixing.Mix(b.ctx, b.store, b.me, mixing.Done{ID: b.id(), Question: q, At: b.clock.Now().AddDate(0, 0, -16)})
	})
}

// shelf is what there is to mix with, and three recipes.
func (b *builder) shelf() {
	g := func(v float64) *float64 { return &v }
	for _, x := range []struct {
		name, chemical string
		left           float64
		spoons         int
		grams          float64
	}{
		{"Calcium nitrate", "calcium_nitrate_tetrahydrate", 4200, 5, 26.5},
		{"Potassium nitrate", "potassium_nitrate", 1800, 5, 29},
		{"Monopotassium phosphate", "monopotassium_phosphate", 900, 5, 31},
		{"Epsom salt", "magnesium_sulfate_heptahydrate", 2500, 5, 25.4},
		{"Iron chelate", "iron_dtpa_11", 85, 0, 0},
		{"Boric acid", "boric_acid", 40, 0, 0},
		{"Manganese sulfate", "manganese_sulfate_monohydrate", 60, 0, 0},
	} {
		s := mixing.SaltKind.Blank()
		s.ID, s.Name, s.Chemical, s.GramsLeft, s.Spoons, s.SpoonsG = b.id(), x.name, x.chemical, g(x.left), x.spoons, x.grams
		b.do(x.name, func() error { _, err := mixing.SaltKind.Put(b.ctx, b.store, b.me, s, things.New); return err })
	}
	for _, r := range []mixing.Recipe{
		{Name: "Leaf crops", Targets: map[string]float64{"N": 130, "P": 31, "K": 170, "Ca": 120, "Mg": 30, "Fe": 2, "Mn": 0.4, "B": 0.3}},
		{Name: "Fruiting", Targets: map[string]float64{"N": 180, "P": 45, "K": 290, "Ca": 160, "Mg": 40, "Fe": 2.5, "Mn": 0.6, "B": 0.4}},
		{Name: "Seedling tea", Targets: map[string]float64{"N": 60, "P": 15, "K": 75, "Ca": 60, "Mg": 15, "Fe": 1}},
	} {
		r.ID = b.id()
		b.ids[r.Name] = r.ID
		b.do(r.Name, func() error { _, err := mixing.RecipeKind.Put(b.ctx, b.store, b.me, r, things.New); return err })
	}
}
