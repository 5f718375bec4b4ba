package play

import (
	"cmp"
	"fmt"
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/sim"
)

// Batch is a sowing, with what was said of it.
type Batch struct {
	*sim.Batch
	Cells []*sim.Spot // as they were sown
	Tray  *sim.Tray
	Want  *Want
	By    calendar.Day // for the order of this day
	heard []heard
	// counted tells whether anybody has looked into its cells.
	counted bool
	used    map[*sim.Plant]bool
}

// World is a school in its season, as a player meets it.
type World struct {
	*sim.School
	Scenario
	Crew                sim.Crew
	Bench, Frame, Bed   *sim.Room
	Trays               []*sim.Tray
	Tower, Raft, Jarred []*sim.Spot
	TowerTank, RaftTank *sim.Tank
	Jars                []*sim.Jar
	Lots                map[string]*sim.Lot
	Sown                []*Batch
	LeaveOpen           bool // the frame stays open at the end of the day
	evening             []func()
	score               Score
	spent               float64 // minutes of today
	reads               map[*sim.Tank]int
	planted             []planted
	orders              []Order
}

// planted is what was set out or handed over for a day, and looked at again two weeks later.
type planted struct {
	order  Order
	plants []*sim.Plant
	due    calendar.Day
}

// NewWorld is a school at the beginning of its season.
func NewWorld(s Scenario, seed uint64) *World {
	w := &World{Scenario: s, Crew: sim.Usual(seed), Lots: map[string]*sim.Lot{}, reads: map[*sim.Tank]int{}}
	w.School = sim.NewSchool(sim.Setting{Seed: seed, From: s.From, Days: int(s.To-s.From) + 30, Climate: s.Climate, PoorLots: s.PoorLots})
	w.Bench = w.AddRoom(sim.Room{Name: "Nursery bench", HeatC: s.BenchC, Transmits: 0.6, LampMol: s.LampMol})
	house := w.AddRoom(sim.Room{Name: "House", HeatC: 16, Transmits: 0.62, LampMol: s.LampMol / 2})
	w.Frame = w.AddRoom(sim.Room{Name: "Cold frame", Transmits: 0.8, Cover: 2.2})
	w.Bed = w.AddRoom(sim.Room{Name: "Bed", Transmits: 1, Open: true})
	for i := range s.Trays {
		w.Trays = append(w.Trays, w.AddTray(fmt.Sprint("Tray ", i+1), w.Bench, s.Rows*s.Columns, s.CellML))
	}
	tap := sim.Water{Alkalinity: s.Alkalinity / 50, Salts: s.TapEC * 10, Carbon: s.Alkalinity / 50 * 1.06}
	w.TowerTank = w.AddTank(sim.Tank{Name: "Tower", HoldsL: 62, DryL: 12, Water: tap}, 1.4)
	w.RaftTank = w.AddTank(sim.Tank{Name: "Raft", HoldsL: 220, DryL: 110, Water: tap}, 1.4)
	for i := range s.TowerTiers * s.TowerColumn {
		w.Tower = append(w.Tower, w.AddSpot(sim.Spot{Name: fmt.Sprint("Tower ", i), Room: house, Tank: w.TowerTank, PerM2: 26}))
	}
	for i := range s.RaftRows * s.RaftColumns {
		w.Raft = append(w.Raft, w.AddSpot(sim.Spot{Name: fmt.Sprint("Raft ", i), Room: house, Tank: w.RaftTank, PerM2: 24}))
	}
	for i := range s.Jars {
		j := w.AddJar(fmt.Sprint("Jar ", i+1), house, 3.8, 1.4, tap)
		w.Jars = append(w.Jars, j)
		w.Jarred = append(w.Jarred, w.AddSpot(*j.Spot(house)))
	}
	for _, want := range s.Wants {
		if w.Lots[want.Crop] == nil {
			w.Lots[want.Crop] = w.Lot(want.Crop, sim.Kinds[want.Crop].Bought)
		}
	}
	return w
}

// Takes charges minutes for a task. It is false where there is no time left, or where the task is
// ticked and not done; told says whether whoever plays believes it done.
func (w *World) Takes(minutes float64, task ...any) (did, told bool) {
	if w.spent+minutes > w.Minutes+5 {
		return false, false
	}
	if !w.Crew.Does(w.Day(), task...) {
		w.spent++
		w.score.MinutesSpent++
		return false, true
	}
	w.spent += minutes
	w.score.MinutesSpent += minutes
	w.score.MinutesFor[fmt.Sprint(task[0])] += minutes
	return true, true
}

// What tasks take, minutes: to begin, and for each plant, cell or vessel.
const (
	sowFixed, sowEach     = 6, 0.12
	moveFixed, moveEach   = 5, 0.45
	countMin, lookMin     = 2, 1.5
	waterMin, readMin     = 1.1, 3
	treatMin, jarMin      = 5, 1
	frameMin, carryFixed  = 1.5, 3
	carryEach, harvestMin = 0.12, 0.4
)

// Sow sows cells of a tray for an order.
func (w *World) Sow(want *Want, by calendar.Day, t *sim.Tray, cells []*sim.Spot, seeds int) (*Batch, bool) {
	if len(cells) == 0 {
		return nil, false
	}
	if did, _ := w.Takes(sowFixed+sowEach*float64(len(cells)), "sow", want.Crop); !did {
		return nil, false
	}
	b, err := w.School.Sow(want.Crop, w.Lots[want.Crop], t, cells, seeds)
	if err != nil {
		return nil, false
	}
	x := &Batch{Batch: b, Cells: slices.Clone(cells), Tray: t, Want: want, By: by, used: map[*sim.Plant]bool{}}
	w.Sown = append(w.Sown, x)
	return x, true
}

// Hear notes what somebody or something said of a batch.
func (w *World) Hear(b *Batch, says string) {
	if b != nil {
		b.heard = append(b.heard, heard{w.Day(), says})
	}
}

// heard is what was said of a batch on a day.
type heard struct {
	day  calendar.Day
	says string
}

// Count looks into the cells of a batch: which show a seedling, and which a dead one. What is up is
// thinned to one.
func (w *World) Count(b *Batch) (up, dead []*sim.Spot, told bool) {
	did, told := w.Takes(countMin, "count", b.Name)
	if !did {
		return nil, nil, false
	}
	b.counted = true
	for _, x := range b.Cells {
		switch x.Shows() {
		case "up":
			up = append(up, x)
			if w.Day() > b.Batch.Sown+8 {
				w.Thin(x)
			}
		case "dead":
			dead = append(dead, x)
		}
	}
	return up, dead, told
}

// Look counts true leaves and looks at the roots.
func (w *World) Look(b *Batch) (leaves int, heightCM float64, roots string, told bool) {
	did, told := w.Takes(lookMin, "look", b.Name)
	if !did {
		return 0, 0, "", false
	}
	leaves, heightCM = w.Crew.Counts(w.School, b.Batch)
	roots = "few"
	circled := 0
	for _, p := range w.Alive(b.Batch) {
		if p.Leaves() >= 2.5 {
			roots = "hold"
		}
		if p.Circles() {
			circled++
		}
	}
	if circled*2 > len(w.Alive(b.Batch)) {
		roots = "round"
	}
	return leaves, heightCM, roots, told
}

// WaterTray pours on a tray: lightly, or until it drips.
func (w *World) WaterTray(t *sim.Tray, share float64) bool {
	did, _ := w.Takes(waterMin, "water", t.Name)
	if did {
		w.Water(t, share*0.5*t.CellML*float64(len(t.Spots)))
	}
	return did
}

// InCells are plants of a batch that are up in the tray's cells, one in a cell.
func (w *World) InCells(b *Batch) (out []*sim.Plant) {
	for _, x := range b.Cells {
		if x.Shows() == "up" {
			if p := w.Thin(x); p != nil && p.Batch == b.Batch {
				out = append(out, p)
			}
		}
	}
	return out
}

// Free are the free spots of some.
func Free(spots []*sim.Spot) (out []*sim.Spot) {
	for _, x := range spots {
		if !slices.ContainsFunc(x.Plants, func(p *sim.Plant) bool { return !p.Dead }) {
			out = append(out, x)
		}
	}
	return out
}

// Move takes plants to spots, one each; it gives those that were moved.
func (w *World) Move(list []*sim.Plant, to []*sim.Spot) (moved []*sim.Plant) {
	n := min(len(list), len(to))
	if n == 0 {
		return nil
	}
	if did, _ := w.Takes(moveFixed+moveEach*float64(n), "move", list[0].Batch.Name); !did {
		return nil
	}
	for i := range n {
		if w.School.Move(list[i], to[i], true) == nil {
			moved = append(moved, list[i])
		}
	}
	return moved
}

// PotOn puts plants into pots of a litre, on the bench.
func (w *World) PotOn(list []*sim.Plant) (moved []*sim.Plant) {
	if len(list) == 0 {
		return nil
	}
	if did, _ := w.Takes(moveFixed+1.5*moveEach*float64(len(list)), "pot on", list[0].Batch.Name); !did {
		return nil
	}
	for _, p := range list {
		if w.School.PotOn(p, w.Bench, 0.9, 45) == nil {
			moved = append(moved, p)
		}
	}
	return moved
}

// Carry takes plants, as they stand in their pots or trays, to the frame or back to the bench.
func (w *World) Carry(list []*sim.Plant, to *sim.Room) bool {
	if len(list) == 0 {
		return false
	}
	did, _ := w.Takes(carryFixed+carryEach*float64(len(list)), "carry", list[0].Batch.Name, to.Name)
	if did {
		for _, p := range list {
			w.School.Carry(p, to)
		}
	}
	return did
}

// Evening is done at the end of the day, before everybody leaves.
func (w *World) Evening(do func()) { w.evening = append(w.evening, do) }

// SetOut plants out into the bed.
func (w *World) SetOut(list []*sim.Plant) (moved []*sim.Plant) {
	var to []*sim.Spot
	for range list {
		to = append(to, w.AddSpot(sim.Spot{Name: "Bed", Room: w.Bed, PerM2: 9}))
	}
	return w.Move(list, to)
}

// Reading is what a pen and a stick say of a tank.
type Reading struct{ PH, ECMS, L float64 }

// Read reads a tank.
func (w *World) Read(t *sim.Tank) (r Reading, told bool) {
	did, told := w.Takes(readMin, "read", t.Name)
	if !did {
		return r, false
	}
	w.reads[t]++
	r.PH, r.ECMS, r.L = w.Crew.Read(t, w.Day(), w.reads[t])
	return r, told
}

// Treatment is what is done to a tank, in this order: drained, topped up, fed (mL of each part),
// and acid (meq; with it phosphate and carbon, mmol).
type Treatment struct{ DrainL, WaterL, StockML, AcidMeq, PhosphateMmol, CarbonMmol float64 }

// Treat does it.
func (w *World) Treat(t *sim.Tank, x Treatment) (told bool) {
	minutes := float64(treatMin)
	if x.StockML == 0 && x.AcidMeq == 0 && x.DrainL == 0 {
		minutes = 2.5
	}
	did, told := w.Takes(minutes, "treat", t.Name)
	if did {
		t.Drain(x.DrainL)
		t.Pour(x.WaterL)
		t.Feed(x.StockML)
		t.Acid(x.AcidMeq, x.PhosphateMmol, x.CarbonMmol)
	}
	return told
}

// TopUp pours so many litres of solution, mixed to a strength, into a jar.
func (w *World) TopUp(j *sim.Jar, l, ecMS float64) (told bool) {
	did, told := w.Takes(jarMin, "jar", j.Name)
	if did {
		before := j.L
		j.Pour(l)
		j.Feed(max(0, (ecMS*10-j.Water.Salts)*(j.L-before)/sim.UsualStock.FeedMeq*1000))
	}
	return told
}

// OpenFrame opens the frame for the day.
func (w *World) OpenFrame() {
	if did, _ := w.Takes(frameMin, "frame"); did {
		w.Frame.Open = true
	}
}

// WaterPots waters what stands in a room outside trays.
func (w *World) WaterPots(list []*sim.Plant) {
	if len(list) == 0 {
		return
	}
	if did, _ := w.Takes(1.5+0.03*float64(len(list)), "water pots"); did {
		for _, p := range list {
			if !p.Dead && p.Where.Tray == nil && p.Where.Tank == nil {
				w.Wet(p.Where)
			}
		}
	}
}

// Heaviest are plants with the heaviest first.
func Heaviest(list []*sim.Plant) []*sim.Plant {
	slices.SortStableFunc(list, func(a, b *sim.Plant) int { return cmp.Compare(b.FreshG(), a.FreshG()) })
	return list
}

// In are the living plants in a room, outside trays and tanks.
func (w *World) In(r *sim.Room) (out []*sim.Plant) {
	for _, b := range w.Sown {
		for _, p := range w.Alive(b.Batch) {
			if p.Where.Room == r && p.Where.Tray == nil && p.Where.Tank == nil {
				out = append(out, p)
			}
		}
	}
	return out
}
