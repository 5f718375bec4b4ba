package play

import (
	"slices"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/sim"
)

// Chart goes by what is printed on a wall: so many weeks before, water every day, feed by the
// spoon on Mondays, plant out on the day.
type Chart struct{}

// Name is how it is called in a table.
func (Chart) Name() string { return "wall chart" }

// weeksBefore is a usual chart's.
var weeksBefore = map[string]int{"lettuce": 8, "basil": 8, "kale": 6, "chard": 6, "tomato": 8, "marigold": 9}

// Day does what the chart says.
func (Chart) Day(w *World) error {
	for _, o := range w.Due() {
		w.Deliver(o, w.Of(o.Crop))
	}
	for _, o := range w.Coming() {
		if d := o.Day - calendar.Day(7*weeksBefore[o.Crop]); w.Day() >= d && !w.Has(o) {
			n := o.Plants + (o.Plants+4)/5
			if t, cells := w.Room(n); t != nil {
				w.Sow(o.Want, o.Day, t, cells, 1)
			}
		}
	}
	for _, b := range w.Sown {
		age := int(w.Day() - b.Batch.Sown)
		if age < 28 || age%7 > 1 && age > 40 {
			continue
		}
		w.Settle(b, w.InCells(b))
	}
	for _, t := range w.Trays {
		if w.Used(t) {
			w.WaterTray(t, 0.35)
		}
	}
	w.WaterPots(w.In(w.Bench))
	if w.Day().Weekday() == time.Monday {
		for _, t := range []*sim.Tank{w.TowerTank, w.RaftTank} {
			w.Treat(t, Treatment{WaterL: t.HoldsL*0.92 - t.L, StockML: 2.8 * (t.HoldsL*0.92 - t.L)})
		}
	}
	for _, j := range w.Jars {
		if j.PlantIt != nil && w.Day().Weekday() == time.Friday {
			w.TopUp(j, j.HoldsL-j.L, 1.2)
		}
	}
	return nil
}

// Of are the living plants of a crop, wherever they stand.
func (w *World) Of(crop string) (out []*sim.Plant) {
	for _, b := range w.Sown {
		if b.Species.ID != crop {
			continue
		}
		for _, p := range w.Alive(b.Batch) {
			if !b.used[p] || b.Want.Cut {
				out = append(out, p)
			}
		}
	}
	return out
}

// Coming are the orders that are still to be met, in their order.
func (w *World) Coming() []Order { return slices.Clone(w.orders) }

// Has tells whether something was sown for an order.
func (w *World) Has(o Order) bool {
	return slices.ContainsFunc(w.Sown, func(b *Batch) bool { return b.Want == o.Want && b.By == o.Day })
}

// Room is the first tray with so many free cells, and those.
func (w *World) Room(n int) (*sim.Tray, []*sim.Spot) {
	for _, t := range w.Trays {
		if free := w.Free(t); len(free) >= n {
			return t, free[:n]
		}
	}
	return nil, nil
}

// Used tells whether anything stands in a tray.
func (w *World) Used(t *sim.Tray) bool { return len(w.Free(t)) < len(t.Spots) }

// Settle takes plants from their cells to where they grow on: ports, jars, or pots of a litre.
func (w *World) Settle(b *Batch, list []*sim.Plant) []*sim.Plant {
	switch b.Want.Where {
	case "bed":
		return w.PotOn(list)
	case "raft":
		return w.Move(list, slices.Concat(Free(w.Jarred), Free(w.Raft)))
	}
	return w.Move(list, slices.Concat(Free(w.Tower), Free(w.Raft)))
}
