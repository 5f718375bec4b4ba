package demo

import (
	"time"

	"github.com/google/uuid"

	"ulpa/core/batch"
	"ulpa/core/calendar"
	"ulpa/core/gauge"
	"ulpa/core/tray"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/things"
	"ulpa/internal/doors/labels"
	"ulpa/internal/work/meters"
	"ulpa/internal/work/seeds"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sprouts"
	"ulpa/internal/work/trays"
)

// seedTests are one that has ended, of seed that did well, and one that runs.
func (b *builder) seedTests() {
	warm, bench := b.ids["Warm shelf"], b.ids["Nursery bench"]
	day := func(ago int) time.Time { return (Day + b.shift).UTC().AddDate(0, 0, -ago).Add(9 * time.Hour) }
	ended, running := b.id(), b.id()
	b.do("seed test", func() error {
		return seeds.BeginTest(b.ctx, b.store, b.me, seeds.NewTest{
			ID: ended, Lot: b.ids["HF-26"], Place: &bench, Begun: seeds.Begun{Seeds: 25, On: "paper", Light: "light"}, At: day(60),
		})
	})
	for i, n := range []int{9, 22, 23} {
		b.do("seed test counted", func() error {
			return seeds.CountTest(b.ctx, b.store, b.me, seeds.SawTest{ID: b.id(), Lot: b.ids["HF-26"], Test: ended, Came: n, Over: i == 2, At: day(57 - 2*i)})
		})
	}
	b.do("seed test", func() error {
		return seeds.BeginTest(b.ctx, b.store, b.me, seeds.NewTest{
			ID: running, Lot: b.ids["ML-24"], Place: &warm, Begun: seeds.Begun{Seeds: 20, On: "bag", Light: "dark"}, At: day(9),
		})
	})
	b.do("seed test counted", func() error {
		return seeds.CountTest(b.ctx, b.store, b.me, seeds.SawTest{ID: b.id(), Lot: b.ids["ML-24"], Test: running, Came: 8, Bad: 1, At: day(3)})
	})
}

// vessels are two more things to sow in, and a row of a tray that is kept for a second sowing.
func (b *builder) vessels() {
	cubes, boxes := site.TrayKind.Blank(), site.TrayKind.Blank()
	cubes.Name, cubes.Rows, cubes.Columns, cubes.CellML, cubes.Kind, cubes.Medium = "Sheet of cubes", 10, 10, 35, "cubes", "wool"
	boxes.Name, boxes.Rows, boxes.Columns, boxes.CellML, boxes.Kind, boxes.Drains = "Egg boxes", 2, 6, 50, "carton", false
	b.do("labels", func() error {
		grown, err := labels.Of(b.ctx, b.store, b.me, labels.Batches)
		if err != nil {
			return err
		}
		var ids []uuid.UUID
		for _, l := range grown[:len(grown)-4] {
			ids = append(ids, l.ID)
		}
		return labels.Printed(b.ctx, b.store, b.me, ids)
	})
	for _, t := range []site.TraySetup{cubes, boxes} {
		t.ID, t.Place = b.id(), b.ids["Nursery bench"]
		b.do(t.Name, func() error { return site.AddTray(b.ctx, b.store, b.me, t) })
	}
	free := []tray.Cell{}
	for col := range 6 {
		free = append(free, tray.Cell{Row: 3, Col: col})
	}
	b.do("gap", func() error {
		return trays.KeepGap(b.ctx, b.store, b.me, trays.Keep{ID: b.id(), Tray: b.ids["Tray 12"], Cells: free, Crop: "lettuce", On: Day + b.shift + 7})
	})
}

// sprouts are a tray of shoots over water, in its second week, and the seed for more.
func (b *builder) sprouts() {
	count := func(n int) *int { return &n }
	for _, l := range []seeds.LotSetup{
		{Crop: "peashoots", Variety: "Gangway", Name: "GG-26", Packed: 2026, Seeds: count(5000)},
		{Crop: "radishshoots", Variety: "Red Ensign", Name: "RE-26", Packed: 2026, Seeds: count(9000)},
		{Crop: "lentilsprouts", Variety: "Ballast", Name: "BA-26", Packed: 2026, Seeds: count(20_000)},
	} {
		l.ID = b.id()
		b.ids[l.Name] = l.ID
		b.do("lot "+l.Name, func() error { return seeds.AddLot(b.ctx, b.store, b.me, l) })
	}
	run := b.id()
	at := func(ago, hour int) time.Time { return (Day + b.shift - calendar.Day(ago)).At(hour, 0, b.zone) }
	b.do("sprouts", func() error {
		_, err := sprouts.Soak(b.ctx, b.store, b.me, sprouts.SoakRequest{
			ID: run, Lot: b.ids["GG-26"], Place: b.ids["Nursery bench"], Vessels: 2, Grams: 240, Purpose: "Kitchen", At: at(8, 15), Sure: true,
		})
		return err
	})
	for _, x := range []struct {
		ago, hour int
		did       string
	}{
		{7, 9, batch.Rinsed},
		{7, 15, batch.Rinsed},
		{6, 9, batch.Rinsed},
		{6, 15, batch.Rinsed},
		{5, 10, batch.Rinsed},
		{4, 10, batch.Rinsed},
		{3, 9, batch.Lit},
		{3, 9, batch.Watered},
		{1, 9, batch.Watered},
	} {
		b.do("sprouts tended", func() error {
			return sprouts.Tend(b.ctx, b.store, b.me, sprouts.TendRequest{ID: b.id(), Batch: run, Did: []string{x.did}, At: at(x.ago, x.hour), Sure: true})
		})
	}
}

// caredFor are trays with a cover, warmth from below, a lamp and a weight.
func (b *builder) caredFor() {
	f := func(x float64) *float64 { return &x }
	for _, x := range []struct {
		tray string
		ago  int
		tray.Done
	}{
		{"Tray 11", 8, tray.Done{Did: []string{tray.Covered, tray.Heated}, LampCM: f(12), LampHours: f(14)}},
		{"Tray 7", 5, tray.Done{Did: []string{tray.Turned}, DryG: f(1450), WetG: f(3120)}},
		{"Tray 7", 1, tray.Done{Did: []string{tray.Watered}, NowG: f(2080)}},
	} {
		b.do("care of "+x.tray, func() error {
			at := (Day + b.shift).UTC().AddDate(0, 0, -x.ago).Add(9 * time.Hour)
			_, err := trays.Care(b.ctx, b.store, b.me, ledger.Act{ID: b.id(), On: b.ids[x.tray], At: at}, x.Done)
			return err
		})
	}
}

// pens are a worn one and a new one, and the card in the drawer.
func (b *builder) pens() {
	tower, bench := b.ids["North tower"], b.ids["Nursery bench"]
	for _, m := range []meters.Setup{
		{Name: "Blue pen", Kind: gauge.Both, Place: tower, DueDays: 14},
		{Name: "Old pen", Kind: gauge.PHOnly, Place: bench, DueDays: 14},
		{Name: "Colour card", Kind: gauge.Card, Place: bench, Steps: "4.5 5 5.5 6 6.5 7 7.5"},
	} {
		m.ID = b.id()
		b.ids[m.Name] = m.ID
		b.do(m.Name, func() error { _, err := meters.Kind.Put(b.ctx, b.store, b.me, m, things.New); return err })
	}
	for _, c := range []struct {
		of        string
		ago       int
		seven     float64
		four      float64
		standards []gauge.Standard
	}{
		{"Blue pen", 9, 7.04, 4.06, []gauge.Standard{{TrueMS: 1.413, ShownMS: 1.39, TemperatureC: 25}}},
		{"Old pen", 30, 7.35, 4.6, nil},
		{"Old pen", 16, 7.41, 4.85, nil},
	} {
		b.do("calibration of "+c.of, func() error {
			at := (Day + b.shift).UTC().AddDate(0, 0, -c.ago).Add(11 * time.Hour)
			_, err := meters.Calibrate(b.ctx, b.store, b.me, ledger.Act{ID: b.id(), On: b.ids[c.of], At: at}, meters.Buffers{
				Points:    []gauge.Point{{Buffer: "7.00", Shown: c.seven, TemperatureC: 20}, {Buffer: "4.01", Shown: c.four, TemperatureC: 20}},
				Standards: c.standards,
			})
			return err
		})
	}
}
