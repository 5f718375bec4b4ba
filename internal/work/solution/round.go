package solution

import (
	"context"

	"ulpa/core/away"
	"ulpa/core/round"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/store"
	walk "ulpa/internal/work/round"
)

// What tanks and jars need is part of the round, how they fare when nobody is there, and how they
// fared before.
var _ = walk.Declare(walk.Part[round.Tank]{
	Order: 40, Read: onRound,
	Due:   func(d round.Day, t round.Tank) []round.Task { return d.OfTank(t) },
	Fares: away.OfTank,
	Came:  found,
	Pages: map[*round.Kind]walk.Page{
		round.Rescue: walk.At("/tanks/", "", "Open"), round.Fill: walk.At("/tanks/", "", "Open"),
		round.Treat: walk.At("/tanks/", "", "Open"), round.Reading: walk.At("/tanks/", "", "Open"),
		round.Visit: walk.At("/tanks/", "", "Open"),
		round.Dip:   {Path: func(round.Task) string { return "/tanks#jars" }, Do: "Open"},
	},
})

func onRound(ctx context.Context, tx *store.Tx) (out []round.Tank, err error) {
	tanks, err := ledger.Tanks(ctx, tx)
	if err != nil {
		return nil, err
	}
	stand, err := Stand(ctx, tx, tanks)
	if err != nil {
		return nil, err
	}
	for i, t := range tanks {
		out = append(out, round.Tank{ID: t.ID.String(), Name: t.Name, Place: t.Place.String(), Tank: stand[i]})
	}
	return out, nil
}

// found is what was forecast of a tank over a stretch, beside what it came to.
func found(t round.Tank, s away.Span) (f walk.Found, ok bool) {
	for _, x := range t.State.Course.Stretches {
		if x.Spans(s.Leave, s.Return) {
			return walk.Found{Tank: t.ID, Name: t.Name, Stretch: x}, true
		}
	}
	return f, false
}
