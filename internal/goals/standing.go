package goals

import (
	"context"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/plan"
	"ulpa/internal/nursery"
	"ulpa/internal/site"
	"ulpa/internal/store"
)

// unlimited is the room of beds and frames, which nobody has measured in plants.
const unlimited = 1e6

// systems are what crops are grown in, by the kind of a place.
var systems = map[string][]string{"tower": {"tower"}, "raft": {"raft"}, "jars": {"jar"}, "bed": {"bed", "pot"}, "frame": {"bed", "pot"}}

// standing are the places where plants can stand, with the cells of their trays or their
// ports, and the room that batches take there for as long as they are expected to.
func standing(ctx context.Context, tx *store.Tx, today calendar.Day) (places []plan.GoalPlace, taken []plan.Taken, err error) {
	all, err := site.Places(ctx, tx)
	if err != nil {
		return nil, nil, err
	}
	trays, err := tx.AllTrays(ctx)
	if err != nil {
		return nil, nil, err
	}
	lines, err := nursery.Lines(ctx, tx)
	if err != nil {
		return nil, nil, err
	}
	names := map[uuid.UUID]string{}
	for _, p := range all {
		names[p.ID] = p.Name
		g := plan.GoalPlace{Name: p.Name, Systems: systems[p.Kind]}
		for _, t := range trays {
			if t.PlaceID == p.ID && !t.Retired {
				g.Room += float64(t.Rows * t.Columns)
			}
		}
		switch {
		case p.HasPorts():
			g.Room = float64(p.Tiers * p.Columns)
		case g.Systems != nil:
			g.Raises, g.Room = g.Room > 0, unlimited
		case g.Room > 0:
			g.Raises, g.Systems = true, []string{"pot"}
		}
		places = append(places, g)
	}
	for _, l := range lines {
		for _, x := range l.Where {
			t := plan.Taken{
				Place: names[x.Place], Room: float64(x.Plants), Until: max(l.Sown+calendar.Day(l.Crop.HarvestDays()+l.Crop.Cropping.Hold), today+7),
			}
			if x.Kind == "cell" {
				t.Room, t.Until = float64(x.Plants+x.Waiting), max(l.Sown+calendar.Day(l.Crop.NurseryDays), today+2)
			}
			if t.Place != "" && t.Room > 0 {
				taken = append(taken, t)
			}
		}
	}
	return places, taken, nil
}
