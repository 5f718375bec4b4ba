package web

import (
	"context"

	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/people"
	"ulpa/internal/work/season"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sowing"
)

// toTell is what a school tells about itself when it begins, in working order.
func toTell(ctx context.Context, s *store.Store, w who.Who) ([]face.Told, error) {
	school, err := people.GetSchool(ctx, s, w, "")
	if err != nil {
		return nil, err
	}
	closures, err := season.Closures(ctx, s, w)
	if err != nil {
		return nil, err
	}
	places, err := site.All(ctx, s, w)
	if err != nil {
		return nil, err
	}
	shelf, err := sowing.GetShelf(ctx, s, w)
	if err != nil {
		return nil, err
	}
	water, ported := 0, 0
	for _, p := range places {
		water += len(p.Tanks)
		if p.HasPorts() {
			ported++
		}
	}
	lines, err := batches.ReadOverview(ctx, s, w)
	return []face.Told{
		{Name: "Who is in", Why: "the adults, and the crews with their PINs", Path: "/settings/people", Done: len(school.People) > 1},
		{Name: "The day and its periods", Why: "when it begins and ends, and how long each session is", Path: "/settings/school#day", Done: school.DayTold},
		{Name: "Closed days", Why: "holidays: what must last, and until when", Path: "/settings/closures?add=1#form", Done: len(closures) > 0},
		{Name: "Places", Why: "walk round and name each, in walking order", Path: "/settings/places?add=1#form", Done: len(places) > 0},
		{Name: "Trays", Why: "what seeds are sown in", Path: "/settings/trays?add=1#form", Done: len(shelf.Trays) > 0},
		{
			Name: "Tanks and jars", Why: "what they hold, and what is wanted of their water", Path: "/settings/tanks?add=1#form",
			Done: water > 0 || len(places) > 0 && ported == 0,
		},
		{Name: "Seed", Why: "the packets on the shelf", Path: "/settings/lots?add=1#form", Done: len(shelf.Packets) > 0},
		{Name: "The first sowing", Why: "or what grows already", Path: "/sow", Done: len(lines.Lines) > 0},
	}, err
}
