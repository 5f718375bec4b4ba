package goals

import (
	"context"
	"math"
	"slices"

	"github.com/google/uuid"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/plan"
	"ulpa/core/ready"
	"ulpa/core/seed"
	"ulpa/core/tray"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/work/batches"
	"ulpa/internal/work/site"
)

// unlimited is the room of beds and frames, which nobody has measured in plants.
const unlimited = 1e6

// systems are what crops are grown in, by the kind of a place.
var systems = map[string][]string{"tower": {"tower"}, "raft": {"raft"}, "jars": {"jar"}, "bed": {"bed", "pot"}, "frame": {"bed", "pot"}}

// stand is what stands where, and what has become of what was sown.
type stand struct {
	today  calendar.Day
	places []plan.GoalPlace
	ids    []uuid.UUID // of the places, in the same order
	taken  []plan.Taken
	names  map[uuid.UUID]string // of places
	lines  map[uuid.UUID]batches.Line
	seen   store.Each[ready.Seen] // before today
	all    map[uuid.UUID]site.Place
}

// raising is the place where most plants are raised: that with the most cells.
func (n stand) raising() (p site.Place) {
	most := 0.0
	for i, g := range n.places {
		if g.Raises && g.Room > most {
			p, most = n.all[n.ids[i]], g.Room
		}
	}
	return p
}

// growing is the first place that suits a crop to its end, else where it is raised.
func (n stand) growing(c crop.Crop, raising site.Place) site.Place {
	for i, g := range n.places {
		if !g.Raises && slices.ContainsFunc(g.Systems, c.Suits) {
			return n.all[n.ids[i]]
		}
	}
	return raising
}

// Real is what has become of a sowing.
type Real struct {
	Code     string       // of its batch; "": it is not known which one it became
	Batch    uuid.UUID    //
	Expected calendar.Day // as it is expected to be ready, by when it was sown
	Late     int          // days after the last on which it is wanted
	Have     int          // plants that there are, or are still to come up
}

// real tells what has become of a sowing that was kept for a goal.
func (n stand) real(k kept, g Setup, by calendar.Day) Real {
	r := Real{Have: k.Wanted}
	if k.Batch == nil {
		return r
	}
	r.Batch = *k.Batch
	l, open := n.lines[*k.Batch]
	switch {
	case k.Closed:
		r.Have = min(k.Wanted, k.Came)
		return r
	case !open:
		return r
	}
	c := l.Crop
	r.Code, r.Expected = l.Code, l.Sown+calendar.Day(c.NurseryDays+c.Growing.Days)
	if g.Harvest || c.Stays() {
		r.Expected = l.Sown + calendar.Day(c.HarvestDays())
	}
	r.Expected = max(r.Expected, k.Ready)
	r.Late = max(0, int(r.Expected-by))
	r.Have = l.State.Taken + l.State.Given()
	waiting := 0
	for _, x := range l.Where {
		r.Have, waiting = r.Have+x.Plants, waiting+x.Waiting
	}
	comes := l.Comes
	if l.State.Start != "" { // cuttings and the like: those that root
		comes = 1
	}
	r.Have += int(math.Round(comes * float64(waiting)))
	return r
}

// standing are the places where plants can stand, with the cells of their trays or their
// ports, and the room that batches take there for as long as they are expected to.
func standing(ctx context.Context, tx *store.Tx, today calendar.Day) (stand, error) {
	n := stand{today: today, names: map[uuid.UUID]string{}, lines: map[uuid.UUID]batches.Line{}, all: map[uuid.UUID]site.Place{}}
	all, err := site.Places(ctx, tx)
	if err != nil {
		return n, err
	}
	trays, err := tx.AllTrays(ctx)
	if err != nil {
		return n, err
	}
	lines, err := batches.Lines(ctx, tx)
	if err != nil {
		return n, err
	}
	if n.seen, err = seenBefore(ctx, tx, today); err != nil {
		return n, err
	}
	for _, p := range all {
		n.names[p.ID] = p.Name
		g := plan.GoalPlace{Name: p.Name, Systems: systems[p.Kind], Outdoor: p.Kind == "bed", Hardens: p.Kind == "frame"}
		for _, t := range trays {
			if t.PlaceID == p.ID && !t.Retired {
				g.Room += roomIn(t)
			}
		}
		switch {
		case p.HasPorts():
			g.Room = float64(p.Tiers * p.Columns)
		case g.Systems != nil:
			g.Raises, g.Room = g.Room > 0, unlimited
		case g.Room > 0:
			g.Raises, g.Systems = true, []string{"pot"}
		case g.Hardens:
			g.Room = unlimited
		}
		n.places, n.ids, n.all[p.ID] = append(n.places, g), append(n.ids, p.ID), p
	}
	for _, l := range lines {
		n.lines[l.ID] = l
		for _, x := range l.Where {
			t := plan.Taken{
				Place: n.names[x.Place], Room: float64(x.Plants), Until: max(l.Sown+calendar.Day(l.Crop.HarvestDays()+l.Crop.Cropping.Hold), today+7),
			}
			if x.Kind == "cell" {
				t.Room, t.Until = float64(x.Plants+x.Waiting), max(l.Sown+calendar.Day(l.Crop.NurseryDays), today+2)
			}
			if t.Place != "" && t.Room > 0 {
				n.taken = append(n.taken, t)
			}
		}
	}
	return n, nil
}

// roomIn is how many seedlings a tray raises: one in a cell, or as many as an open one has room for.
func roomIn(t db.AllTraysRow) float64 {
	n := float64(t.Rows * t.Columns)
	if tray.KindOf(t.Kind).Open {
		n *= float64(max(1, seed.Room(t.CellMl, t.HeightCm)))
	}
	return n
}
