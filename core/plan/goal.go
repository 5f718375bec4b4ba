package plan

import (
	"fmt"
	"math"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/harden"
	"ulpa/core/seed"
)

// Goal is what a school wants: so many plants, or their harvest, between two days, once or
// in every week of them.
type Goal struct {
	ID       string
	Crop     crop.Crop
	Wanted   int
	From, By calendar.Day
	Weekly   bool
	Out      bool    // they are planted out of doors on the day, and hardened off before
	Harvest  bool    // it is met by what can be harvested, and not by plants to set out
	Sure     float64 // 0.5 to 0.99
	Missing  string  // what it means to miss it: must, should or nice
	// Raised is the share of cells that give a plant, by a school's own batches; nil: by the
	// crop's usual germination and survival.
	Raised *seed.Germination
	// Seed is the germination of the packet that is sown next, where it was tested or sown before;
	// nil: nobody knows more than is usual.
	Seed *seed.Germination
	// Raising and Growing are how light and warm it is where its trays stand and at its last
	// place; nil: its stages take their usual days. Pace is a school's own, 1 the usual.
	Raising, Growing *Weather `json:"-"`
	Pace             float64
	PlantG           float64 // that each is to weigh; 0: as it usually does
	Grows            Grows
	Weekday          int                     // of a weekly goal, 1 (Monday) to 7; 0: any day of the week
	Open             func(calendar.Day) bool `json:"-"` // somebody is there; nil: always
	OutFrom          calendar.Day            // nothing is set out of doors before; 0: whenever
	InBy             calendar.Day            // nothing stands out of doors after, for autumn's frost; 0: it may
	Last             string                  // the name of the place that they are to stand in at last; "": wherever they suit
}

// leafy tells whether a crop grows like lettuce: weight by light and warmth.
func leafy(c crop.Crop) bool { return c.Kind == "leaf" || c.Kind == "herb" }

// days are the usual days of each stage as they are when the crop is ready on a day.
func (g Goal) days(ready calendar.Day) (tray, pot, last int) {
	c := g.Crop
	tray, pot, last = c.NurseryDays, c.Growing.Days, c.Cropping.Days
	if !g.Harvest || c.Stays() {
		if g.Raising != nil && tray > 0 && !c.Stays() {
			tray = TrayDays(tray, warmthOf(c).LeafBaseC, ready-calendar.Day(pot), *g.Raising, g.Pace)
		}
		return tray, pot, last
	}
	if g.Growing != nil && last > 0 && leafy(c) {
		all := GrownDays(c, c.HarvestDays(), g.times(), ready, *g.Growing)
		last = max(last/2, all-tray-pot)
	}
	if g.Raising != nil && tray > 0 {
		tray = TrayDays(tray, warmthOf(c).LeafBaseC, ready-calendar.Day(last+pot), *g.Raising, g.Pace)
	}
	return tray, pot, last
}

// evenDays are all of them where a plant that is as likely too small as not will do.
func (g Goal) evenDays(ready calendar.Day) int {
	g.Sure = 0.5
	tray, pot, last := g.days(ready)
	return tray + pot + last
}

// What is planned has days in hand, for a sowing that comes later than it should: it is then ready
// on its day all the same, but less surely. Seedlings can leave their tray a little small.
const (
	inHand    = 3
	trayHaste = 8 // one day in so many of its days
	hasteCost = 0.6
)

// Words of what missing a goal means.
const (
	Must   = "must"
	Should = "should"
	Nice   = "nice"
)

// weights are what a plant that is missing counts: more than any waiting for a must.
var weights = map[string]float64{Must: 1000, Should: 100, Nice: 15}

// schoolWeek are the days on which calendar.School is open.
var schoolWeek = []int{1, 2, 3, 4, 5}

// What waiting and minutes count where a school has said nothing.
const (
	waitCost     = 0.2 // a plant and day held
	earlyCost    = 0.1 // a plant and day early
	moveMinutes  = 8   // to begin a move
	plantMinutes = 0.25
	potRoom      = 2 // cells that a pot takes on a bench
	benchCost    = 0.05
)

// MoveMinutes are how long it takes to move so many plants.
func MoveMinutes(plants int) int {
	return int(math.Round(moveMinutes + plantMinutes*float64(plants)))
}

// GoalPlace is where plants can stand: so many cells, ports or plants.
type GoalPlace struct {
	Name    string
	Raises  bool     // trays stand there
	Systems []string // crops grown there to the end: tower, raft, jar, bed, pot
	Room    float64
	Outdoor bool // frost comes there
	Hardens bool // a frame, in which plants get used to the weather
}

// GoalBatch is a batch for a goal, and the day by which it is for.
type GoalBatch struct {
	Goal int // which of them
	Week calendar.Day
	SeasonBatch
	Cells, SeedsPerCell int
	Heat                Heat
}

// GoesOut tells whether plants for a kind of goal are planted out of doors on its day: what fills a
// bed, and what is to be ready as a plant. What a class looks at or a trial compares is not.
func GoesOut(kind string, harvest bool) bool { return !harvest && (kind == "bed" || kind == "ready") }

// BatchesFor makes the batches that goals need: one, or one for each week, with cells
// enough by the crop's usual germination and survival, through the crop's own stages. Goals
// that no place suits make a batch that has nowhere to stand, and so is impossible.
func BatchesFor(goals []Goal, places []GoalPlace) (out []GoalBatch) {
	for i, g := range goals {
		cells, seeds := g.cells() // the same each week
		if !g.Weekly {
			out = append(out, g.batch(GoalBatch{Goal: i, Cells: cells, SeedsPerCell: seeds}, g.From, g.By, places))
			continue
		}
		for week := g.From.Monday(); week <= g.By; week += 7 {
			if from, by, ok := g.inWeek(week); ok {
				out = append(out, g.batch(GoalBatch{Goal: i, Cells: cells, SeedsPerCell: seeds}, from, by, places))
			}
		}
	}
	return out
}

// inWeek are the days of a week between which a weekly goal is wanted: its own weekday, or the last
// day before it on which somebody is there. In a week in which nobody is, nothing is wanted.
func (g Goal) inWeek(week calendar.Day) (from, by calendar.Day, ok bool) {
	from, by = max(week, g.From), min(week+4, g.By)
	if g.Weekday != 0 {
		by = min(week+calendar.Day(g.Weekday-1), g.By)
	}
	for ; by >= from; by-- {
		if g.Open == nil || g.Open(by) {
			break
		}
	}
	if g.Weekday != 0 {
		from = max(from, by)
	}
	return from, by, by >= from
}

// batch completes a batch that is ready between two days.
func (g Goal) batch(b GoalBatch, from, by calendar.Day, places []GoalPlace) GoalBatch {
	b.Week = by.Monday()
	n := float64(g.Wanted)
	b.SeasonBatch = SeasonBatch{
		Name: g.ID + " " + b.Week.String(), Plants: g.Wanted, ReadyFrom: from, ReadyBy: max(by, from), Value: weights[g.Missing] * n,
		EarlyCost: earlyCost, ReadyMinutesFixed: moveMinutes, ReadyMinutesEach: plantMinutes,
	}
	add := func(name string, days, hold int, where []Stand) {
		if days <= 0 {
			return
		}
		b.Stages = append(b.Stages, SeasonStage{
			Name: name, Days: days, HoldDays: max(0, hold), WaitCost: waitCost, MinutesFixed: moveMinutes, MinutesEach: plantMinutes, Where: where,
		})
	}
	// with adds a stage that has days in hand, and can be shorter by some more.
	with := func(spare, haste int, name string, days, hold int, where []Stand) {
		if days <= 0 {
			return
		}
		add(name, days+spare, hold-spare, where)
		s := &b.Stages[len(b.Stages)-1]
		s.InHand, s.Haste, s.HasteCost = spare, min(spare+haste, s.Days-1), hasteCost
	}
	hardenDays := g.hardens(b.ReadyBy)
	var trays, pots, frames, last []Stand
	outdoors := true
	for _, p := range places {
		if p.Hardens {
			frames = append(frames, Stand{Place: p.Name, RoomEach: 1, From: max(0, min(g.OutFrom, b.ReadyBy)-calendar.Day(hardenDays+hardenSpare))})
		}
		if p.Raises {
			trays = append(trays, Stand{Place: p.Name, RoomEach: float64(b.Cells) / n})
			pots = append(pots, Stand{Place: p.Name, RoomEach: potRoom})
		}
		for _, s := range p.Systems {
			if g.goesTo(p, s) {
				s := Stand{Place: p.Name, RoomEach: 1}
				if p.Outdoor {
					s.From, s.Until = g.OutFrom, g.InBy
				}
				if p.Raises { // it is for raising, and better kept free
					s.RoomEach, s.Cost = potRoom, benchCost
				}
				last, outdoors = append(last, s), outdoors && p.Outdoor
				break
			}
		}
	}
	c := g.Crop
	trayDays, potDays, lastDays := g.days(b.ReadyBy)
	allDays := trayDays + potDays + lastDays
	b.Heat = g.heat(b.ReadyBy, allDays)
	b.Value *= b.Heat.worth()
	switch {
	case c.Stays():
		if c.Sprout() || len(last) == 0 {
			last = trays
		}
		add(StageLast, c.HarvestDays(), c.Cropping.Hold, last)
	case g.Harvest:
		with(0, trayDays/trayHaste, StageTray, trayDays, c.Ready.HoldDays, trays)
		if harden := len(last) > 0 && outdoors && len(frames) > 0; harden && potDays > hardenDays {
			add(StagePot, potDays-hardenDays, c.Growing.Hold, pots)
			add(StageHarden, hardenDays, hardenHold, frames)
		} else if harden { // they get used to it in days in which they would be out already
			add(StagePot, potDays, c.Growing.Hold, pots)
			add(StageHarden, hardenDays, hardenHold, frames)
			lastDays = max(1, lastDays-hardenDays)
		} else {
			add(StagePot, potDays, c.Growing.Hold, pots)
		}
		with(inHand, max(0, allDays-g.evenDays(b.ReadyBy)), StageLast, lastDays, c.Cropping.Hold, last)
	case g.Out && len(frames) > 0 && c.Suits("bed"): // before frost is over too: whoever takes them plants them out
		with(min(inHand, c.Ready.HoldDays), trayDays/trayHaste, StageTray, trayDays, c.Ready.HoldDays, trays)
		if potDays > hardenDays {
			potDays -= hardenDays
		}
		add(StagePot, potDays, c.Growing.Hold, pots)
		add(StageHarden, hardenDays, hardenHold, frames)
	default:
		with(min(inHand, c.Ready.HoldDays), trayDays/trayHaste, StageTray, trayDays, c.Ready.HoldDays, trays)
		add(StagePot, potDays, c.Growing.Hold, pots)
	}
	if len(b.Stages) == 0 {
		add(StageTray, 1, 0, trays)
	}
	return b
}

// goesTo tells whether its plants may stand in a place at last: in that which was named, whatever
// the crop, else where the crop suits what the place is.
func (g Goal) goesTo(p GoalPlace, system string) bool {
	if g.Last != "" {
		return p.Name == g.Last
	}
	return g.Crop.Suits(system)
}

// The stages of a goal's batch.
const (
	StageTray   = "tray"
	StagePot    = "pot"
	StageHarden = "harden"
	StageLast   = "last"
)

// What is grown in the open gets used to the weather in a frame first: so many days at least, a few
// days earlier where there is room, and for so long as it then waits.
const (
	leastHarden = 10
	hardenOpen  = 8 // of them somebody is there, who opens the frame
	mostHarden  = 28
	hardenHold  = 14
	hardenSpare = 2
)

// hardens is how many days before a day hardening off begins: earlier, where nobody is there in
// between to do it.
func (g Goal) hardens(by calendar.Day) int {
	n, open, idle, needs := 0, 0, 0, hardenOpen
	for n < leastHarden || g.Open != nil && open < needs && n < mostHarden {
		n++
		if g.Open == nil || !g.Open(by-calendar.Day(n)) {
			idle++
			continue
		}
		needs += harden.Lost(idle) // what a closure takes is done again
		open, idle = open+1, 0
	}
	return n
}

// cells are how many of them, with how many seeds in each, raise the plants: by what came of cells
// here or by the packet of seed, whichever asks for more.
func (g Goal) cells() (cells, seeds int) {
	if g.Raised != nil {
		a, err := seed.Order(seed.OrderInput{
			Plants: g.Wanted, Confidence: g.Sure, Usable: seed.Germination{Rate: 1},
			Sow: &seed.SowFor{Germination: *g.Raised, SeedsPerCell: 1, CellsPerTray: 1, Survival: 1},
		})
		if err == nil {
			cells, seeds = a.Sow.Cells, max(1, g.Crop.SeedsCell)
		}
	}
	if g.Raised == nil || g.Seed != nil {
		if n, each := g.bySeed(); n > cells {
			cells, seeds = n, each
		}
	}
	if cells == 0 {
		return int(math.Ceil(float64(g.Wanted) * 1.3)), max(1, g.Crop.SeedsCell)
	}
	return cells, seeds
}

// mostEach is how many seeds go into a cell at most, where the crop itself takes no more.
const mostEach = 3

// bySeed are the cells that the seed asks for: that of the packet, or as is usual of the crop.
func (g Goal) bySeed() (cells, seeds int) {
	in := seed.RateInput{
		PlantsWanted: g.Wanted, Confidence: g.Sure, Germination: seed.Usually(g.Crop.UsualRate / 100), Survival: g.Crop.Survival,
		MaxSeedsPerCell: max(mostEach, min(20, g.Crop.SeedsCell)), CellsPerTray: 1,
	}
	if g.Seed != nil {
		in.Germination = *g.Seed
	}
	a, err := seed.Rate(in)
	if err != nil {
		return 0, 0
	}
	best, room := 0, 0
	for i, o := range a.Options { // fewer seeds, unless they fill half as many cells again
		if o.OutOfReach || best > 0 && 3*o.Cells > 2*room {
			continue
		}
		if o.SeedsPerCell == a.Recommended || best > 0 {
			best, room = i+1, o.Cells
		}
	}
	if best == 0 {
		return 0, 0
	}
	return a.Options[best-1].Cells, a.Options[best-1].SeedsPerCell
}

// Taken is room that is in use already, up to a day.
type Taken struct {
	Place string
	Room  float64
	Until calendar.Day
}

// GoalSeason is the question that goals put to a season: their batches, and what stands
// already for as long as it is expected to. Moves are made on the days on which the group
// works, within their minutes: those of the school's periods, else as many as usual.
func GoalSeason(batches []GoalBatch, places []GoalPlace, taken []Taken, today calendar.Day, school calendar.School, usual int) SeasonInput {
	open := func(d calendar.Day) bool { return school.Minutes(d, usual) > 0 }
	in := SeasonInput{From: today, To: today + 28, Workdays: schoolWeek, Open: open, Homeless: true}
	inUse := map[string]float64{}
	for _, t := range taken {
		inUse[t.Place] += t.Room
	}
	for _, p := range places { // what stands there does, whatever there should be room for
		in.Places = append(in.Places, SeasonPlace{Name: p.Name, Room: max(p.Room, inUse[p.Name])})
	}
	for _, b := range batches {
		in.To = min(max(in.To, b.ReadyBy), today+MaxSeasonDays-1)
		in.Batches = append(in.Batches, b.SeasonBatch)
	}
	for d := in.From; d <= in.To; d++ {
		if m := float64(school.Minutes(d, usual)); m > 0 {
			in.MinutesOn = append(in.MinutesOn, DayMinutes{d, &m})
		}
	}
	in.Batches = append(in.Batches, in.stands(taken, today)...)
	return in
}

// stands are what stands already, as batches that cannot be moved: what leaves a place on the same
// day is one of them, however many plants stand there.
func (in SeasonInput) stands(taken []Taken, today calendar.Day) (out []SeasonBatch) {
	type leaving struct {
		place string
		day   calendar.Day
	}
	room := map[leaving]float64{}
	var order []leaving
	for _, t := range taken {
		end := max(t.Until, today+1)
		for end < in.To && !in.Open(end) {
			end++
		}
		if !in.Open(end) || end > in.To {
			end = in.To
			for end > today && !in.Open(end) {
				end--
			}
		}
		if end <= today || t.Room <= 0 {
			continue
		}
		at := leaving{t.Place, end}
		if room[at] == 0 {
			order = append(order, at)
		}
		room[at] += t.Room
	}
	for i, at := range order {
		out = append(out, SeasonBatch{
			Name: fmt.Sprint("taken ", i), Plants: 1, ReadyFrom: at.day, ReadyBy: at.day, Value: 1e9,
			Stages: []SeasonStage{{
				Name: StageLast, Days: int(at.day-today) + 1, WaitCost: 0, Where: []Stand{{Place: at.place, RoomEach: room[at]}},
			}},
			Done: []Placed{{Day: today - 1, Place: at.place}},
		})
	}
	return out
}

// Late is the batch as soon as it can be ready, where it cannot be when it is wanted and is not more
// than so many days late then; and how many. It is as it was where it can be, or is worth nothing
// any more.
func (b GoalBatch) Late(open func(calendar.Day) bool, from calendar.Day, most int) (GoalBatch, int) {
	_, later := b.Nearest(open, from)
	late := int(later - b.ReadyBy)
	if late <= 0 || late > most {
		return b, 0
	}
	b.ReadyFrom, b.ReadyBy = later, later
	return b, late
}

// Nearest are the days around the one that is wanted on which a batch could be ready, sown
// from a day on, by its stages and the days that are open alone; 0: none within two months.
func (b GoalBatch) Nearest(open func(calendar.Day) bool, from calendar.Day) (earlier, later calendar.Day) {
	in := Input{ReadyBy: b.ReadyBy, EarlyDays: int(b.ReadyBy - b.ReadyFrom), Workdays: schoolWeek, open: open, from: &from}
	first := from
	for _, s := range b.Stages {
		in.Stages = append(in.Stages, Stage{Name: s.Name, Days: s.Days - s.Haste, HoldDays: s.HoldDays + s.Haste})
		first += calendar.Day(s.Days - s.Haste)
	}
	if in.ReadyBy < first { // looked for from the first day on which it could be at all
		in.ReadyBy, in.EarlyDays = first, 0
	}
	s, err := BackSchedule(in)
	switch {
	case err != nil:
		return 0, 0
	case s.Feasible:
		return 0, s.Moves[len(s.Moves)-1].Day
	}
	if s.Earlier != nil {
		earlier = *s.Earlier
	}
	if s.Later != nil {
		later = *s.Later
	}
	return earlier, later
}
