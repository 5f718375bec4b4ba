package play

import (
	"math"
	"slices"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/sim"
)

// Grower does what somebody who has done it for years does. What it is told to leave out, or to
// do wrongly, must show in its score.
type Grower struct {
	Doubles   bool // every dose twice as large
	NoFrost   bool // frost is ignored
	FillsJars bool // to the top
	NoRamp    bool // nothing is hardened off
	NoCounts  bool // nobody counts, so nothing is sown again
}

// Name is how it is called in a table.
func (Grower) Name() string { return "good grower" }

// daysBefore are those from sowing to an order in its month, as experience has them.
func daysBefore(o Order) calendar.Day {
	switch o.Crop {
	case "lettuce":
		return calendar.Day(map[int]int{3: 68, 4: 62, 5: 54, 6: 50}[int(o.Day.UTC().Month())])
	case "basil":
		return 62
	case "kale":
		return 52
	case "chard":
		return 54
	case "tomato":
		return 60
	}
	return 62
}

// Day does a day's work, the most urgent first.
func (g Grower) Day(w *World) error {
	g.deliver(w)
	g.cold(w)
	g.water(w)
	g.tanks(w)
	g.sow(w)
	g.trays(w)
	g.jars(w)
	return nil
}

// deliver meets the orders of today; what was to be planted out waits some days for a mild one.
func (g Grower) deliver(w *World) {
	for _, o := range w.Due() {
		w.Deliver(o, w.Of(o.Crop))
	}
}

// sow sows what is due, with a third to spare, and again what came up badly.
func (g Grower) sow(w *World) {
	for _, o := range w.Coming() {
		due := o.Day - daysBefore(o)
		if w.Day() < due {
			continue
		}
		want := 0
		switch b := w.sownFor(o); {
		case len(b) == 0:
			want = int(math.Ceil(1.35*float64(o.Plants))) + 1
		case len(b) == 1 && !g.NoCounts && !b[0].counted && w.Day() >= b[0].Batch.Sown+daysToUp(o.Crop):
			up, _, told := w.Count(b[0])
			if told && len(up) < o.Plants {
				want = int(math.Ceil(1.6 * float64(o.Plants-len(up)+2)))
			}
		}
		if want > 0 {
			if t, cells := w.Room(want); t != nil {
				w.Sow(o.Want, o.Day, t, cells, 2)
			}
		}
	}
}

// daysToUp is when what will come of a sowing is up.
func daysToUp(crop string) calendar.Day {
	if crop == "chard" || crop == "basil" {
		return 19
	}
	return 14
}

func (w *World) sownFor(o Order) (out []*Batch) {
	for _, b := range w.Sown {
		if b.Want == o.Want && b.By == o.Day {
			out = append(out, b)
		}
	}
	return out
}

// trays are looked at every few days once they should be ready, and moved on when they are.
func (g Grower) trays(w *World) {
	for _, b := range w.Sown {
		age := int(w.Day() - b.Batch.Sown)
		if age < 20 || age%3 != 0 || len(w.InCells(b)) == 0 {
			continue
		}
		leaves, _, roots, told := w.Look(b)
		if told && (leaves >= 3 || roots == "round") {
			list := w.InCells(b)
			if b.Want.Where != "bed" { // the best of them, and no more than there is use for
				list = Heaviest(list)[:min(len(list), b.Want.Plants+2)]
			}
			if moved := w.Settle(b, list); len(moved) == len(list) && b.Want.Where != "bed" {
				w.ClearCells(b)
			}
		}
	}
}

// water is by hand: what is light gets half, what is dry twice; what is heavy nothing.
func (g Grower) water(w *World) {
	next := w.Next(w.Day())
	long := next > w.Day()+1
	for _, t := range w.Trays {
		if !w.Used(t) {
			continue
		}
		switch h := t.Weighs(); {
		case h == "dry":
			w.WaterTray(t, 0.6)
		case h == "light" || long && h == "right":
			w.WaterTray(t, 0.35)
		}
	}
	w.WaterPots(slices.Concat(w.In(w.Bench), w.In(w.Frame)))
}

// tanks are read every two or three days and brought right: water, food, then acid by the tap's
// alkalinity, half of it at first.
func (g Grower) tanks(w *World) {
	for i, t := range []*sim.Tank{w.TowerTank, w.RaftTank} {
		if int(w.Day())%2 != i && w.Next(w.Day()) == w.Day()+1 {
			continue
		}
		r, told := w.Read(t)
		if !told {
			continue
		}
		x := Treatment{}
		if room := t.HoldsL*0.93 - r.L; room > 0.1*t.HoldsL || w.Next(w.Day()) > w.Day()+1 && room > 2 {
			x.WaterL = room
		}
		l := r.L + x.WaterL
		ec := (r.ECMS*r.L + w.TapEC*x.WaterL) / l
		if ec < 1.25 {
			x.StockML = (1.45 - ec) * 10 * l / sim.UsualStock.FeedMeq * 1000
		}
		if ec > 2 {
			x.DrainL, x.WaterL = 0.3*r.L, x.WaterL+0.3*r.L
		}
		x.AcidMeq = x.WaterL*w.Alkalinity/50*0.75 - x.StockML/1000*sim.UsualStock.AcidMeq
		if r.PH > 6.3 {
			x.AcidMeq += l * min(0.5, 0.35*(r.PH-5.9))
		}
		if x.AcidMeq = max(0, x.AcidMeq); r.PH < 5.5 {
			x.AcidMeq = -0.15 * l
		}
		if g.Doubles {
			x.AcidMeq, x.StockML = 2*x.AcidMeq, 2*x.StockML
		}
		x.PhosphateMmol = max(0, x.AcidMeq)
		if x.WaterL > 0 || x.StockML > 1 || x.AcidMeq != 0 {
			w.Treat(t, x)
		}
	}
}

// jars get what they drank, and never more than a finger over where they stood.
func (g Grower) jars(w *World) {
	for _, j := range w.Jars {
		if j.PlantIt == nil || j.PlantIt.Dead || w.Day().Weekday() != time.Friday && w.Day().Weekday() != time.Tuesday && w.Next(w.Day()) == w.Day()+1 {
			continue
		}
		if g.FillsJars {
			w.TopUp(j, j.HoldsL-j.L, 1.3)
			continue
		}
		if low := 0.33 * j.HoldsL; j.L < low+0.2 {
			w.TopUp(j, max(0, min(low+0.35-j.L, 0.33)), 1.1)
		}
	}
}

// cold hardens off what is wanted outside within ten days, carries it in before a cold night and
// out again after it, and leaves the frame open where the night is mild.
func (g Grower) cold(w *World) {
	if g.NoRamp {
		return
	}
	for _, o := range w.Coming() {
		if o.Where != "bed" || w.Day() < o.Day-11 || w.Day() > o.Day+3 {
			continue
		}
		var out []*sim.Plant
		for _, b := range w.sownFor(o) {
			for _, p := range w.Alive(b.Batch) {
				if p.Where.Room == w.Bench && p.Leaves() >= 3 {
					out = append(out, p)
				}
			}
		}
		if !g.NoFrost && w.coldAhead(o.Crop) {
			continue
		}
		w.Carry(out, w.Frame)
	}
	inside := w.In(w.Frame)
	if len(inside) == 0 {
		return
	}
	if !g.NoFrost {
		var in []*sim.Plant
		for _, p := range inside {
			if w.coldAhead(p.Batch.Species.ID) {
				in = append(in, p)
			}
		}
		w.Carry(in, w.Bench)
	}
	w.OpenFrame()
	w.LeaveOpen = g.NoFrost || w.coldest() > 9
}

// coldest is the lowest that is forecast until somebody is back.
func (w *World) coldest() float64 {
	low := math.Inf(1)
	for d := w.Day(); d < w.Next(w.Day()); d++ {
		low = min(low, w.Weather.ForecastC(w.Day(), int(d-w.Day())))
	}
	return low
}

// coldAhead tells whether that is too cold in a closed frame.
func (w *World) coldAhead(crop string) bool {
	k := sim.Kinds[crop]
	return w.coldest()+2 < max(k.FreshLT50+1.5, min(k.ChillC, 8)-1.5)
}

// ClearEmpty empties the cells of a batch in which nothing came up.
func (w *World) ClearEmpty(b *Batch) {
	for _, x := range b.Cells {
		if x.Shows() == "" {
			for _, p := range x.Plants {
				if p.Batch == b.Batch {
					w.Discard(p)
				}
			}
		}
	}
}

// ClearCells throws away what is left of a batch in its cells: nobody has a use for it.
func (w *World) ClearCells(b *Batch) {
	for _, x := range b.Cells {
		for _, p := range x.Plants {
			if p.Batch == b.Batch {
				b.used[p] = true
				w.Discard(p)
			}
		}
	}
}
