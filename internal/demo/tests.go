package demo

import (
	"time"

	"ulpa/internal/seeds"
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
