package demo

import (
	"time"

	"ulpa/core/calendar"
	"ulpa/core/fish"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/things"
	"ulpa/internal/work/troughs"
)

// trough is a vessel with carp beside the long table: its filter begun in January, fish in
// it since February, one of them lost.
func (b *builder) trough(d *diary) {
	t := troughs.Setup{
		ID: b.id(), Name: "Fish trough", Place: b.ids["Long table"], Kind: "carp", WaterL: 340, FilterM2: 6, PlantM2: 0.6, FeedPercent: 1.2, ProteinPercent: 32,
		Water: b.ids["School tap"].String(),
	}
	b.ids[t.Name] = t.ID
	b.do(t.Name, func() error { _, err := troughs.Kind.Put(b.ctx, b.store, b.me, t, things.New); return err })
	read := func(tan, nitrite, nitrate, ph, oxygen, temp, alkalinity float64) {
		b.do("water of fish", func() error {
			r := fish.Reading{TAN: &tan, Nitrite: &nitrite, Nitrate: &nitrate, PH: &ph, TempC: &temp}
			if oxygen > 0 {
				r.Oxygen, r.Alkalinity = &oxygen, &alkalinity
			}
			return troughs.LogReading(b.ctx, b.store, b.me, ledger.Act{ID: b.id(), On: t.ID}, r)
		})
	}
	for _, x := range []struct {
		month                 time.Month
		day                   int
		tan, nitrite, nitrate float64
	}{
		{1, 12, 2.4, 0, 0},
		{1, 15, 2.6, 0.1, 1},
		{1, 19, 1.9, 0.8, 2},
		{1, 22, 1.1, 2.2, 4},
		{1, 26, 0.5, 3.1, 8},
		{1, 29, 0.2, 2.4, 14},
		{2, 2, 0.1, 1.2, 21},
		{2, 5, 0.1, 0.5, 26},
		{2, 9, 0.1, 0.2, 30},
		{2, 11, 2.1, 0.1, 31}, // a dose, to see it go
		{2, 12, 0.05, 0.1, 34},
		{2, 22, 2.0, 0.1, 35}, // once more, before the fish come
		{2, 23, 0.1, 0.1, 38},
	} {
		d.on(x.month, x.day, 9, 40, tam, func() { read(x.tan, x.nitrite, x.nitrate, 7.2, 0, 20.5, 0) })
	}
	stock := func(x fish.Stock) {
		b.do("fish", func() error { return troughs.Restock(b.ctx, b.store, b.me, ledger.Act{ID: b.id(), On: t.ID}, x) })
	}
	d.on(2, 23, 10, 20, tam, func() { stock(fish.Stock{Why: fish.PutIn, Fish: 16, MassG: 45}) })
	d.on(3, 1, 9, 30, skiff, func() { stock(fish.Stock{Why: fish.Died, Fish: 1, Note: "jumped; a net lies over it now"}) })
	d.on(3, 9, 10, 10, tam, func() {
		b.do("weighed fish", func() error {
			return troughs.Weigh(b.ctx, b.store, b.me, ledger.Act{ID: b.id(), On: t.ID}, fish.Sample{Fish: 6, Grams: 348})
		})
	})
	school := calendar.School{Closures: []calendar.Closure{{From: calendar.Date(2027, 2, 15), To: calendar.Date(2027, 2, 19)}}}
	for day := calendar.Date(2027, 2, 24); day <= calendar.Date(2027, 3, 17); day++ {
		if !school.Open(day) {
			continue
		}
		_, month, dom := ymd(day)
		d.on(month, dom, 9, 50, skiff, func() {
			b.do("fed fish", func() error {
				return troughs.Feed(b.ctx, b.store, b.me, ledger.Act{ID: b.id(), On: t.ID}, fish.Fed{Grams: 9})
			})
		})
		if dom%2 == 1 {
			step := float64(int(day) % 3)
			d.on(month, dom, 9, 45, skiff, func() { read(0.2+0.05*step, 0.1, 36+step, 7.0, 7.4-0.2*step, 20.4, 62) })
		}
	}
}
