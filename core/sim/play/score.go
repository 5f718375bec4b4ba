package play

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"ulpa/core/calendar"
	"ulpa/core/sim"
)

// Score is what came of a season.
type Score struct {
	Player, Scenario string
	Seed             uint64
	Up, Lost         int                // cells in which something came up, and of those, lost
	Asked, Met       map[string]float64 // orders by what is wanted: heads, cuts, plants
	PlantsOf         map[string]float64 // plants for a day, by crop: the share
	TankDays, Out    int
	MinutesSpent     float64
	MinutesFor       map[string]float64
	LostBy, MissedBy map[string]int // cause, and what was said before it
	Silence          int            // the most days for which nothing was said of a batch that grew
}

// NewScore is that of a season in which nothing has happened yet.
func NewScore(player, scenario string, seed uint64) Score {
	return Score{
		Player: player, Scenario: scenario, Seed: seed, Asked: map[string]float64{}, Met: map[string]float64{}, PlantsOf: map[string]float64{},
		MinutesFor: map[string]float64{}, LostBy: map[string]int{}, MissedBy: map[string]int{},
	}
}

// Kinds of orders.
const (
	Heads  = "heads"
	Cuts   = "cuts"
	Plants = "plants"
)

// Kind is which of them an order is.
func (o Order) Kind() string {
	switch {
	case o.Cut:
		return Cuts
	case o.Weekly:
		return Heads
	}
	return Plants
}

// LostShare is the share of what came up that was lost.
func (s Score) LostShare() float64 { return share(float64(s.Lost), float64(s.Up)) }

// MetShare is the share of orders of a kind that were met.
func (s Score) MetShare(kind string) float64 { return share(s.Met[kind], s.Asked[kind]) }

// OutShare is the share of days on which a tank was out of its range.
func (s Score) OutShare() float64 { return share(float64(s.Out), float64(s.TankDays)) }

func share(a, of float64) float64 {
	if of == 0 {
		return 0
	}
	return a / of
}

// Player looks after a school.
type Player interface {
	Name() string
	// Day is called at ten on each day on which somebody comes.
	Day(w *World) error
}

// Season lets a player look after a school for a season.
func Season(s Scenario, seed uint64, p Player) (Score, error) {
	w := NewWorld(s, seed)
	w.score = NewScore(p.Name(), s.Name, seed)
	w.orders = w.Orders()
	for ; w.Day() <= s.To; w.Pass(9) {
		w.Pass(10)
		w.spent = 0
		w.band()
		visit := w.Visit(w.Day())
		if w.Minutes = s.Minutes; visit {
			w.Minutes = visitMinutes
		}
		here := (w.Open(w.Day()) || visit) && w.Crew.Comes(w.Day())
		if here {
			if err := p.Day(w); err != nil {
				return w.score, fmt.Errorf("%s, %s, season %d, %s: %w", p.Name(), s.Name, seed, w.Day(), err)
			}
			w.aftercare()
			w.missed()
		}
		w.Pass(5)
		if here {
			for _, do := range w.evening {
				do()
			}
			w.evening = nil
			w.Frame.Open = w.LeaveOpen
		}
		w.again(false)
		w.silence()
	}
	w.again(true)
	w.count()
	return w.score, nil
}

// visitMinutes are those of a caretaker on a closed day.
const visitMinutes = 20

// band looks whether tanks are in their range: pH 5.5 to 6.5, 0.9 to 2.1 mS/cm, and not dry.
func (w *World) band() {
	for _, t := range []*sim.Tank{w.TowerTank, w.RaftTank} {
		w.score.TankDays++
		if ph, ec := t.PH(), t.ECMS(); ph < 5.5 || ph > 6.5 || ec < 0.9 || ec > 2.1 || t.L <= t.DryL {
			w.score.Out++
		}
	}
}

// Due are the orders that are to be met today, those of the last days on which nobody came too.
func (w *World) Due() (out []Order) {
	for _, o := range w.orders {
		if o.Day <= w.Day() {
			out = append(out, o)
		}
	}
	return out
}

// Deliver takes plants for an order: heads that weigh enough are cut whole, others are cut and grow
// again, and plants for a day are planted out by whoever wanted them. It gives those it took.
func (w *World) Deliver(o Order, from []*sim.Plant) (took []*sim.Plant) {
	at := slices.IndexFunc(w.orders, func(x Order) bool { return x == o })
	if at < 0 {
		return nil
	}
	w.orders = slices.Delete(w.orders, at, at+1)
	kind, n := o.Kind(), 0
	w.score.Asked[kind]++
	if kind == Plants {
		return w.handOver(o, from)
	}
	for _, p := range Heaviest(from) {
		g := p.FreshG()
		if o.Cut {
			g *= 0.6
		}
		if n >= o.Plants || g < 0.8*o.Grams {
			break
		}
		w.use(p)
		took = append(took, p)
		if n++; o.Cut {
			w.Cut(p)
		} else {
			w.Take(p)
		}
	}
	_, _ = w.Takes(4+harvestMin*float64(n), "harvest", o.Name)
	if n >= o.Plants {
		w.score.Met[kind]++
		return took
	}
	w.score.MissedBy[w.whyMissed(o)]++
	return took
}

func (w *World) use(p *sim.Plant) {
	for _, b := range w.Sown {
		if b.Batch == p.Batch {
			b.used[p] = true
		}
	}
}

// handOver plants out what is fit for it, and looks again after two weeks.
func (w *World) handOver(o Order, from []*sim.Plant) []*sim.Plant {
	var fit []*sim.Plant
	for _, p := range from {
		if p.Fit() && len(fit) < o.Plants {
			fit = append(fit, p)
		}
	}
	out := w.SetOut(fit)
	w.planted = append(w.planted, planted{o, out, w.Day() + 14})
	return out
}

// again looks at what was planted out two weeks ago, or, at the end, at all of it.
func (w *World) again(all bool) {
	w.planted = slices.DeleteFunc(w.planted, func(x planted) bool {
		if w.Day() < x.due && !all {
			return false
		}
		live := 0
		for _, p := range x.plants {
			if !p.Dead {
				live++
				w.use(p)
			}
		}
		got := min(1, share(float64(live), float64(x.order.Plants)))
		w.score.Met[Plants] += got
		w.score.PlantsOf[x.order.Crop] = got
		if got < 0.9 {
			w.score.MissedBy[w.whyMissed(x.order)]++
		}
		return true
	})
}

// aftercare waters what was planted out, in the first ten days.
func (w *World) aftercare() {
	n := 0
	for _, x := range w.planted {
		if x.due-w.Day() > 4 {
			for _, p := range x.plants {
				if !p.Dead {
					w.Wet(p.Where)
					n++
				}
			}
		}
	}
	if n > 0 {
		w.score.MinutesSpent += 4
		w.score.MinutesFor["water the bed"] += 4
	}
}

// missed are orders of today that nobody delivered.
func (w *World) missed() {
	for _, o := range w.Due() {
		w.Deliver(o, nil)
	}
}

// whyMissed says what most stood in the way of an order: of its crop's plants in the last weeks,
// those that died, that are too small, or that never were.
func (w *World) whyMissed(o Order) string {
	small, sown, causes := 0, 0, map[string]int{}
	for _, b := range w.Sown {
		if b.Want.Crop != o.Crop || b.Batch.Sown > o.Day || b.By > 0 && (b.By < o.Day-10 || b.By > o.Day+3) {
			continue
		}
		sown += len(b.Cells)
		for _, p := range b.Plants {
			switch {
			case p.Dead && p.Cause != "":
				causes[p.Cause]++
			case !p.Dead && p.Up() && !b.used[p]:
				small++
			}
		}
	}
	worst, most := "", 0
	for _, c := range slices.Sorted(maps.Keys(causes)) {
		if causes[c] > most {
			worst, most = c, causes[c]
		}
	}
	switch {
	case sown == 0:
		return o.Crop + ": nothing was sown for it"
	case small >= o.Plants:
		return o.Crop + ": too small on the day"
	case most > 0 && most+small >= o.Plants/2:
		return o.Crop + ": " + worst
	case small > 0:
		return o.Crop + ": too few, and small"
	}
	return o.Crop + ": too few came up or were kept"
}

// count adds up what was lost, and what had been said of it in the week before.
func (w *World) count() {
	for _, b := range w.Sown {
		cells := map[int][]*sim.Plant{}
		for _, p := range b.Plants {
			if p.Up() {
				cells[p.Cell()] = append(cells[p.Cell()], p)
			}
		}
		for _, i := range slices.Sorted(maps.Keys(cells)) {
			w.score.Up++
			var last *sim.Plant
			kept := false
			for _, p := range cells[i] {
				kept = kept || !p.Dead || b.used[p] || p.Cause == "" && len(cells[i]) == 1
				if p.Cause != "" && (last == nil || p.DiedAt > last.DiedAt) {
					last = p
				}
			}
			if kept || last == nil {
				continue
			}
			w.score.Lost++
			w.score.LostBy[last.Cause+", after "+b.saidBefore(w.School.From+calendar.Day(last.DiedAt/24))]++
		}
	}
}

// silence notes for how long nothing has been said of batches that grow.
func (w *World) silence() {
	for _, b := range w.Sown {
		last := b.Batch.Sown
		if n := len(b.heard); n > 0 {
			last = max(last, b.heard[n-1].day)
		}
		if days := int(w.Day() - last); days > w.score.Silence && len(w.Alive(b.Batch)) > 0 {
			w.score.Silence = days
		}
	}
}

// saidBefore is what was said of a batch in the week before a day.
func (b *Batch) saidBefore(d calendar.Day) string {
	said := "silence"
	for _, h := range b.heard {
		if h.day <= d && h.day >= d-7 {
			said = h.says
		}
	}
	return strings.TrimSpace(said)
}

// Add adds another season to this one.
func (s *Score) Add(x Score) {
	s.Silence = max(s.Silence, x.Silence)
	s.Up, s.Lost, s.TankDays, s.Out, s.MinutesSpent = s.Up+x.Up, s.Lost+x.Lost, s.TankDays+x.TankDays, s.Out+x.Out, s.MinutesSpent+x.MinutesSpent
	for _, m := range []struct{ to, from map[string]float64 }{{s.Asked, x.Asked}, {s.Met, x.Met}, {s.MinutesFor, x.MinutesFor}, {s.PlantsOf, x.PlantsOf}} {
		for k, v := range m.from {
			m.to[k] += v
		}
	}
	for _, m := range []struct{ to, from map[string]int }{{s.LostBy, x.LostBy}, {s.MissedBy, x.MissedBy}} {
		for k, v := range m.from {
			m.to[k] += v
		}
	}
}
