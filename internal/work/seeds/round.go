package seeds

import (
	"context"
	"slices"

	"ulpa/core/round"
	"ulpa/core/seed"
	"ulpa/internal/base/store"
	"ulpa/internal/work/crops"
	walk "ulpa/internal/work/round"
)

// Counts of tests are part of the round.
var _ = walk.Declare(walk.Part[round.SeedTest]{
	Order: 60, Read: testsToCount,
	Due:   func(d round.Day, t round.SeedTest) []round.Task { return d.OfTest(t) },
	Pages: map[*round.Kind]walk.Page{round.CountTest: walk.At("/seeds/", "", "Count")},
})

// testsToCount are the tests that have not ended.
func testsToCount(ctx context.Context, tx *store.Tx) (out []round.SeedTest, err error) {
	open, err := OpenTests(ctx, tx)
	if err != nil || len(open) == 0 {
		return nil, err
	}
	book, err := crops.Load(ctx, tx)
	if err != nil {
		return nil, err
	}
	d, err := walk.DayOf(ctx, tx)
	if err != nil {
		return nil, err
	}
	for _, t := range open {
		x := round.SeedTest{ID: t.Begun.Test.String(), Packet: t.Lot.String(), Name: t.Name, Begun: tx.Who.Day(t.At)}
		if len(t.Counts) > 0 {
			x.Counted = tx.Who.Day(t.Last)
		}
		warm := 20.0
		if t.TempC != nil {
			warm = *t.TempC
		}
		if pace := seed.PaceOf(book.Find(t.Crop))(warm); pace > 0 {
			x.DaysUp = 1 / pace
		}
		if slices.ContainsFunc(d.Places, func(p round.Place) bool { return p.ID == t.Place.String() }) {
			x.Place = t.Place.String()
		}
		out = append(out, x)
	}
	return out, nil
}
