package raft

import (
	"cmp"
	"math"
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/core/tray"
	"ulpa/core/working"
)

// Standing is plants of one batch on a board.
type Standing struct {
	Batch, Code string
	Crop        crop.Crop
	Plants      int
	Sown        calendar.Day
	Due         calendar.Day // to be harvested from
}

// Board is a board as it floats today.
type Board struct {
	Number   int
	Holes    int
	Standing []Standing
}

// Plants are those on it.
func (b Board) Plants() (n int) {
	for _, s := range b.Standing {
		n += s.Plants
	}
	return n
}

// Due is when the last of its plants may be harvested: then it is free; 0: nothing stands on it.
func (b Board) Due() (on calendar.Day) {
	for _, s := range b.Standing {
		on = max(on, s.Due)
	}
	return on
}

// Ripe tells whether all that stands on it may be harvested.
func (b Board) Ripe(today calendar.Day) bool { return b.Plants() > 0 && b.Due() <= today }

// Stays tells whether something on it is cut again and again: nobody can say when it is
// free, and it floats where it floats.
func (b Board) Stays() bool {
	return slices.ContainsFunc(b.Standing, func(s Standing) bool { return s.Crop.Cuts })
}

// Seedlings are a batch in trays that can come to a raft.
type Seedlings struct {
	Batch, Code string
	Crop        crop.Crop
	Plants      int
	Up          bool         // they have come up; else so many are expected
	Ready       calendar.Day // to be moved from
	Until       calendar.Day // it can wait so long in its tray
	Due         calendar.Day // to be harvested from, as usual from its sowing
}

// ByAge is the order in which what is due first floats nearest the harvest end; boards
// without plants come to the planting end, where they are planted, and those that stay keep
// their places.
func ByAge(boards []Board) (out []int) {
	list := slices.DeleteFunc(slices.Clone(boards), Board.Stays)
	slices.SortStableFunc(list, func(a, b Board) int {
		x, y := a.Due(), b.Due()
		if x == 0 || y == 0 {
			return cmp.Compare(x, y)
		}
		return cmp.Compare(y, x)
	})
	for _, b := range boards {
		if !b.Stays() {
			b, list = list[0], list[1:]
		}
		out = append(out, b.Number)
	}
	return out
}

// What is to be done on a raft.
const (
	Harvest = "harvest" // what is ripe on a board
	Turn    = "turn"    // an empty board comes out and goes in at the planting end
	Sort    = "sort"    // an older board floats behind a younger one
	Plant   = "plant"   // seedlings that are ready onto an empty board
	Wait    = "wait"    // an empty board for which none are ready
)

// Do is one thing to do with a board.
type Do struct {
	Kind    string
	Board   int
	Batch   string // whose plants; "": nobody's
	Plants  int
	Order   []int // Turn and Sort: afterwards
	Says    say.Text
	Because say.Text
}

// Advise says what is to be done with boards in the order in which they float, in the order
// in which it is done: what is ripe comes off, the empty board goes to the planting end,
// what is ready is planted there, what is due first nearest the harvest end.
func Advise(boards []Board, seedlings []Seedlings, today calendar.Day) (out []Do) {
	left := slices.Clone(seedlings)
	for i := len(boards) - 1; i >= 0; i-- {
		b := boards[i]
		for _, s := range b.Standing {
			if s.Due > today {
				continue
			}
			out = append(out, Do{
				Kind: Harvest, Board: b.Number, Batch: s.Batch, Plants: s.Plants, Says: say.T("Harvest %s from board %d", say.Plural(s.Plants, "plant"), b.Number),
				Because: say.T("Ready since %s. What stays longer bolts, and holds up the boards behind it.", s.Due.Short()),
			})
		}
	}
	if d, ok := order(boards); ok {
		out = append(out, d)
	}
	for i := len(boards) - 1; i >= 0; i-- {
		if b := boards[i]; b.Plants() == 0 {
			out = append(out, fill(b, left, today))
		}
	}
	slices.SortStableFunc(out, func(a, b Do) int { return cmp.Compare(waits(a), waits(b)) })
	return out
}

func waits(d Do) int {
	if d.Kind == Wait {
		return 1
	}
	return 0
}

// fill says what comes to an empty board: of those that are ready what is due first, else
// it waits for what is ready first.
func fill(b Board, left []Seedlings, today calendar.Day) Do {
	var s *Seedlings
	for i := range left {
		x := &left[i]
		switch {
		case x.Plants == 0 || s != nil && s.Ready <= today && x.Ready > today:
		case s == nil, x.Ready <= today && (s.Ready > today || x.Due < s.Due), x.Ready > today && x.Ready < s.Ready:
			s = x
		}
	}
	if s == nil {
		d := Do{Kind: Wait, Board: b.Number, Says: say.T("Board %d waits", b.Number)}
		d.Because = say.T("No seedlings are on the way. Leave the board floating: open water grows algae.")
		return d
	}
	d := Do{Kind: Plant, Board: b.Number, Batch: s.Batch, Plants: min(b.Holes, s.Plants)}
	s.Plants -= d.Plants
	d.Says = say.T("Plant %d of %s on board %d", d.Plants, say.Name(s.Code), b.Number)
	d.Because = say.T("They are ready; roots that circle in the tray grow badly later.")
	if s.Ready > today {
		d.Kind, d.Says = Wait, say.T("Board %d waits", b.Number)
		d.Because = say.T("%s will be ready for it about %s. Leave it floating: open water grows algae.", say.Name(s.Code), s.Ready.Short())
	}
	return d
}

// order is what is to be done about the order of the boards; ok is false where it is right.
func order(boards []Board) (d Do, ok bool) {
	now, n := numbered(boards), len(boards)
	if n < 2 {
		return d, false
	}
	planted := func(b Board) bool { return b.Plants() > 0 }
	if last := boards[n-1]; !planted(last) && slices.ContainsFunc(boards, planted) {
		return Do{
			Kind: Turn, Board: last.Number, Order: append([]int{last.Number}, now[:n-1]...),
			Says:    say.T("Lift out board %d and scrub it, move the others along by one, and float it in at the planting end", last.Number),
			Because: say.T("It is empty. Lifting it out brings the oldest board to the harvest end."),
		}, true
	}
	if !outOfTurn(boards) {
		return d, false
	}
	want := ByAge(boards)
	lifted := Lifted(now, want)
	if len(lifted) == 0 {
		return d, false
	}
	return Do{
		Kind: Sort, Board: lifted[0], Order: want, Says: say.T("Put the boards in order of age: lift %s", numbers(lifted)),
		Because: say.T("An older or empty board floats in front of a younger one."),
	}, true
}

// A board that is out of its turn by less than this, days, is let be: quick crops behind slow
// ones are, and it moves on with the others.
const letBe = 14

// outOfTurn tells whether a board nearer the harvest end is empty, or due much later, than
// one behind it.
func outOfTurn(boards []Board) bool {
	for i, x := range boards {
		for _, y := range boards[i+1:] {
			if !x.Stays() && !y.Stays() && x.Plants() > 0 && (y.Plants() == 0 || x.Due()+letBe < y.Due()) {
				return true
			}
		}
	}
	return false
}

func numbered(boards []Board) (out []int) {
	for _, b := range boards {
		out = append(out, b.Number)
	}
	return out
}

// Next is what comes to a board once it is free.
type Next struct {
	Board     int
	Free      calendar.Day // today or later
	Batch     string       // seedlings that are on the way; "": they are to be sown
	Code      string
	Plants    int
	On        calendar.Day // when they can be planted
	Harvest   calendar.Day // about
	SowBy     calendar.Day // of what is to be sown
	Late      bool         // the day for that has passed: sown today it comes later than the board is free
	EmptyDays int          // that it floats empty
}

// Ahead says what comes to the boards that do not stay, one after the other, for so many
// days: to whichever is free first the seedlings that can be planted then, each batch as far
// as it goes, else so many of the crop to be sown. Only on open days is anything sown or
// planted.
func Ahead(boards []Board, seedlings []Seedlings, c crop.Crop, today calendar.Day, days int, open func(calendar.Day) bool) []Next {
	type floats struct {
		Board
		free calendar.Day
	}
	var list []floats
	for i := len(boards) - 1; i >= 0; i-- { // of two that are free the one nearer the harvest end first, as Advise has it
		if b := boards[i]; !b.Stays() {
			list = append(list, floats{b, max(b.Due(), today)})
		}
	}
	slices.SortStableFunc(list, func(a, b floats) int { return cmp.Compare(min(a.Plants(), 1), min(b.Plants(), 1)) }) // empty ones before what is ripe
	left := slices.Clone(seedlings)
	slices.SortStableFunc(left, func(a, b Seedlings) int { return cmp.Compare(a.Ready, b.Ready) })
	nursery := calendar.Day(c.NurseryDays)
	var out []Next
	for len(list) > 0 {
		slices.SortStableFunc(list, func(a, b floats) int { return cmp.Compare(a.free, b.free) })
		b := &list[0]
		if b.free > today+calendar.Day(days) {
			break
		}
		x, cuts := Next{Board: b.Number, Free: b.free}, c.Cuts
		i := slices.IndexFunc(left, func(s Seedlings) bool {
			return s.Plants > 0 && s.Ready <= max(x.Free, today+nursery) && x.Free <= max(s.Until, today)
		})
		if i >= 0 {
			s := &left[i]
			x.Batch, x.Code, x.Plants, x.On = s.Batch, s.Code, min(b.Holes, s.Plants), nearest(max(s.Ready, x.Free), 1, open)
			x.Harvest = max(s.Due, x.On)
			s.Plants -= x.Plants
			cuts = s.Crop.Cuts
		} else {
			x.SowBy, x.Plants = nearest(x.Free-nursery, -1, open), b.Holes
			if x.Late = x.SowBy < today; x.Late {
				x.SowBy = nearest(today, 1, open)
			}
			x.On = nearest(max(x.Free, x.SowBy+nursery), 1, open)
			x.Harvest = max(x.SowBy+calendar.Day(c.HarvestDays()), x.On)
		}
		x.EmptyDays = int(x.On - x.Free)
		out = append(out, x)
		if b.free = max(x.Harvest, x.Free+1); cuts {
			list = list[1:]
		}
	}
	slices.SortStableFunc(out, func(a, b Next) int { return cmp.Compare(a.On, b.On) })
	return out
}

// nearest is the open day nearest to one, onwards or back; after a year it gives up.
func nearest(d calendar.Day, step int, open func(calendar.Day) bool) calendar.Day {
	for i := range 366 {
		if on := d + calendar.Day(i*step); open(on) {
			return on
		}
	}
	return d
}

// Week is what may be harvested in one week.
type Week struct {
	Monday calendar.Day
	Boards []int
	Plants int
}

// Weeks counts what comes ripe in each of so many weeks from today's on: what stands, and
// what comes next. What is ripe already counts to this week.
func Weeks(boards []Board, ahead []Next, today calendar.Day, n int) []Week {
	out := make([]Week, n)
	for i := range out {
		out[i].Monday = today.Monday() + calendar.Day(daysOfWeek*i)
	}
	add := func(on calendar.Day, board, plants int) {
		if i := int(max(on, today)-out[0].Monday) / daysOfWeek; i < n && plants > 0 {
			out[i].Boards, out[i].Plants = append(out[i].Boards, board), out[i].Plants+plants
		}
	}
	for _, b := range boards {
		for _, s := range b.Standing {
			add(s.Due, b.Number, s.Plants)
		}
	}
	for _, x := range ahead {
		add(x.Harvest, x.Board, x.Plants)
	}
	for i := range out {
		slices.Sort(out[i].Boards)
		out[i].Boards = slices.Compact(out[i].Boards)
	}
	return out
}

const daysOfWeek = 7

// sure is how sure a board's seedlings are to be enough.
const sure = 0.9

// Rhythm is what it takes to plant and harvest one board after the other.
type Rhythm struct {
	RaftDays int  // from planting to harvest
	Needs    int  // boards for one every so many days
	Fits     bool // the raft has them
	Every    int  // days from one board to the next with all its boards
	Cells    int  // to sow for one board; 0: no number within reach does
	Seeds    int
	Plants   int
	Steps    []working.Step
}

// RhythmOf answers for a crop with one board every so many days. By Little's law the boards
// afloat are those planted in a day times the days each stays (Little 1961).
func (r Raft) RhythmOf(c crop.Crop, every int, apart bool) Rhythm {
	days := max(1, c.HarvestDays()-c.NurseryDays)
	boards := max(1, r.Boards)
	a := Rhythm{RaftDays: days, Needs: int(math.Ceil(float64(days) / float64(max(1, every)))), Every: int(math.Ceil(float64(days) / float64(boards)))}
	a.Fits = a.Needs <= boards
	a.Plants = len(r.Plant(1, r.Rows*r.Wide(), apart, func(tray.Cell) bool { return false }))
	a.Steps = []working.Step{
		{Name: say.T("Days on the raft"), Formula: say.T("%d − %d", c.HarvestDays(), c.NurseryDays), Value: float64(days), Unit: "days"},
		{
			Name:    say.T("Boards afloat to harvest one every %s", say.Plural(every, "day")),
			Formula: say.T("%d ÷ %d, rounded up", days, max(1, every)), Value: float64(a.Needs),
		},
		{Name: say.T("Days between boards if all are used"), Formula: say.T("%d ÷ %d, rounded up", days, boards), Value: float64(a.Every), Unit: "days"},
	}
	rate := seed.Usually(c.UsualRate / 100)
	o, err := seed.Order(seed.OrderInput{
		Plants: a.Plants, Usable: seed.Usable{Rate: 1}, Confidence: sure,
		Sow: &seed.SowFor{Germination: rate, SeedsPerCell: max(1, c.SeedsCell), CellsPerTray: 1, Survival: c.Survival},
	})
	if err == nil && o.Sow != nil {
		a.Cells, a.Seeds = o.Sow.Cells, o.Sow.Seeds
		a.Steps = append(a.Steps, working.Step{
			Name:    say.T("Cells to sow for %s, %s sure", say.Plural(a.Plants, "plant"), say.Chance(sure)),
			Formula: say.T("by chance, if %.0f %% germinate and %.0f %% of those become plants", c.UsualRate, 100*c.Survival), Value: float64(a.Cells),
		})
	}
	return a
}
