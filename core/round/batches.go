package round

import (
	"math"

	"ulpa/core/calendar"
	"ulpa/core/ready"
	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/core/sprout"
	"ulpa/core/unit"
)

// What is asked of a batch in trays and of what is ripe of it.
var (
	Count = declare(Kind{
		Name: "count", Of: Batches, Writes: true, EndedBy: []string{"count"},
		Together: countTogether, As: CountTray, By: countedWith,
	})
	// CountTray is asked for when several batches of one tray are to be counted: one walk over its
	// cells counts them all.
	CountTray = declare(Kind{Name: "count_tray", Of: Trays, Writes: true, EndedBy: []string{"count"}})
	Warmth    = declare(Kind{Name: "warmth", Of: Batches})
	Look      = declare(Kind{Name: "look", Of: Batches, Writes: true, EndedBy: []string{"look"}})
	Move      = declare(Kind{Name: "move", Of: Batches, Writes: true, EndedBy: []string{"move", "pot_on", "harden", "set_out"}})
	Harvest   = declare(Kind{Name: "harvest", Of: Batches, Writes: true, EndedBy: []string{"harvest"}})
	Discard   = declare(Kind{Name: "discard", Of: Batches, Loses: 2, Writes: true, EndedBy: []string{"lose"}})
	// CloseBatch is asked for when nothing of a batch is left.
	CloseBatch = declare(Kind{Name: "close_batch", Of: Batches, Writes: true, EndedBy: []string{"close"}})
)

type adder func(kind *Kind, before, after, why say.Text, u Urgency, minutes int) *Task

// OfBatch is what is due of a batch, wherever it stands.
func (s Day) OfBatch(b Batch) (out []Task) {
	for _, p := range s.Places {
		out = append(out, s.batchAt(p, b)...)
	}
	if b.Gone {
		t := s.task(CloseBatch, b.ID, s.sowingPlace())
		t.Before, t.Code, t.Urgency, t.Minutes = say.T("Close##task"), b.Code, Soon, 2
		t.Why = say.T("Nothing of it is growing any more. Write down how it went, and close it.")
		out = append(out, t)
	}
	return out
}

// batchAt is what is due of a batch at one place.
func (s Day) batchAt(p Place, b Batch) []Task {
	var out []Task
	add := func(kind *Kind, before, after, why say.Text, u Urgency, minutes int) *Task {
		t := s.task(kind, b.ID, p.ID)
		t.Before, t.Code, t.After, t.Why, t.Urgency, t.Minutes, t.Tray = before, b.Code, after, why, u, minutes, b.InTray[p.ID]
		out = append(out, t)
		return &out[len(out)-1]
	}
	if _, here := b.InTray[p.ID]; here {
		s.trayTasks(p, b, add)
	}
	if len(b.Delivered.Signs) > 0 && p.ID == s.standsFirst(b) {
		s.settling(b, add)
	}
	n := b.InStands[p.ID]
	inside := n
	if _, here := b.InTray[p.ID]; here {
		inside += b.Standing
	}
	s.outward(p, b, inside, add)
	switch {
	case n > 0 && b.Sprouting != nil:
		s.sproutingTasks(b, n, add)
		return out
	case n > 0 && outdoors(p):
		s.outdoorTasks(p, b, n, add)
	case n > 0 && b.Frame != "" && b.Frame != p.ID:
		s.broughtInTasks(b, n, add)
	}
	s.pottedTasks(p, b, add)
	if n += b.InPorts[p.ID]; n > 0 && p.Kind != "frame" && (b.Frame == "" || outdoors(p)) {
		s.harvestTasks(b, n, add)
	}
	return append(out, s.frameAt(p, b)...)
}

// standsFirst is the first place on the walk at which a batch stands.
func (s Day) standsFirst(b Batch) string {
	for _, p := range s.Places {
		if _, inTray := b.InTray[p.ID]; inTray && b.Standing > 0 || b.InStands[p.ID]+b.InPorts[p.ID] > 0 {
			return p.ID
		}
	}
	return ""
}

func (s Day) trayTasks(p Place, b Batch, add adder) {
	switch {
	case b.Waiting > 0 && b.Rooting:
		s.rootTasks(b, add)
	case b.Waiting > 0:
		s.sproutTasks(p, b, add)
	}
	if b.Sprouted == 0 || b.Standing == 0 {
		return
	}
	if b.Crop.Stays() {
		s.harvestTasks(b, b.Standing, add)
		return
	}
	if s.hardensNow(b) {
		return // it goes to the frame
	}
	if left := b.Standing; left*10 <= b.Sprouted && (b.Verdict.Word == ready.Late || b.Verdict.Word == ready.Ready) {
		// The batch has moved on: a forgotten cell makes it neither late nor urgent.
		add(Look, say.T("Look at"), say.T("%s left in the tray", say.Plural(left, "plant")),
			say.T("The others have moved on. Move this one too, or write down what happened to it."), Soon, 2)
		return
	}
	next, closed := s.Calendar.Next(s.Today)
	if m := b.Planned; m != nil && b.Verdict.Word != ready.Late && b.Verdict.Word != ready.Ready && m.Day <= s.Today && b.Waiting == 0 {
		why := say.T("Planned for %s, to %s, for %s. Whatever comes after it waits until this is done.", m.Day.Long(), say.Name(m.To), say.Name(m.Goal))
		add(Move, say.T("Move##task"), say.T("on, as it is planned"), why, Today, 8)
		return
	}
	if b.Crowded && s.prick(b, next, closed, add) {
		return
	}
	switch v := b.Verdict; v.Word {
	case ready.Late:
		u, why := Today, say.T("%s. Roots circle and leaves yellow while it waits.", v.Why)
		if closed > 1 {
			u = Now
			why = say.T("%s. Roots circle and leaves yellow while it waits, and nobody is here before %s.", v.Why, next.Long())
		}
		add(Move, say.T("Move##task"), say.T("on: late by %s", say.Plural(-v.DaysLeft(s.Today), "day")), why, u, 8)
	case ready.Ready:
		u, why := Today, say.T("%s. It can wait until %s.", say.Capital(v.Why), v.Until.Long())
		if m := b.Planned; m != nil {
			why = say.T("%s Planned for %s, to %s.", why, m.Day.Long(), say.Name(m.To))
		}
		if v.Until < next {
			u = Now
			why = say.T("%s. After %s roots circle, and nobody is here before %s.", say.Capital(v.Why), v.Until.Long(), next.Long())
		}
		add(Move, say.T("Move##task"), say.T("on: ready since %s", v.Since.Short()), why, u, 8)
	case ready.Look:
		add(Look, say.T("Look at"), say.T("and count true leaves"), say.T("%s.", say.Capital(v.Why)), Today, 2)
	case ready.Early:
		if v.About-s.Today <= 4 && (b.LookedOn == 0 || s.Today-b.LookedOn >= 3) {
			add(Look, say.T("Look at"), say.T("and count true leaves"), say.T("Should be ready about %s: %s.", v.About.Long(), v.Why), Soon, 2)
		}
	}
}

// prick asks for seedlings in an open tray to be pricked out, when they have their first true leaf.
func (s Day) prick(b Batch, next calendar.Day, closed int, add adder) bool {
	v := b.Verdict
	if v.Word != ready.Ready && v.Word != ready.Late {
		return false
	}
	u, why := Today, say.T("%s. They can stand so close until %s.", say.Capital(v.Why), v.Until.Long())
	switch {
	case v.Word == ready.Late && closed > 1:
		u, why = Now, say.T("%s. So close together they grow thin and damp off, and nobody is here before %s.", say.Capital(v.Why), next.Long())
	case v.Word == ready.Late:
		why = say.T("%s. So close together they grow thin and damp off.", say.Capital(v.Why))
	case v.Until < next:
		u = Now
	}
	add(Move, say.T("Prick out"), say.T("and give them room"), why, u, 12)
	return true
}

// sproutTasks ask for a count when there may be something to see, and say so when a
// crop cannot come up where it stands.
func (s Day) sproutTasks(p Place, b Batch, add adder) {
	day := float64(s.Today - b.Sown)
	here := say.Of(p.TemperatureC, unit.Celsius)
	x := b.Sprouts
	if !x.ComesUp {
		if b.Sprouted == 0 && day >= 1 {
			add(Warmth, say.T("Move the tray of"), nil, say.T("%s does not germinate at %s: too cold or too hot for it.", b.Crop.Name, here), Today, 3)
		} else if day >= movedLast {
			s.uncounted(b, movedLast, add)
		}
		return
	}
	half := 0.0 // long past
	if x.Now.HalfDay != nil {
		half = *x.Now.HalfDay
	}
	if last := lastsHalves*half + lastsDays; day >= last {
		s.uncounted(b, calendar.Day(last), add)
		return
	}
	if day < 0.5*half || b.Counted != 0 && float64(s.Today-b.Counted) < countAgain(b, half) {
		return
	}
	why := say.T("Day %d at %s: nine sowings in ten like this have %d to %d of %d up; ", s.Today-b.Sown, here, x.Now.Low, x.Now.High, b.Cells)
	if b.Counted == 0 {
		why = say.T("%snobody has counted yet.", why)
	} else {
		why = say.T("%s%d when last counted.", why, b.Sprouted)
	}
	// A count is judged by its own day: what came up since nobody knows.
	if x.AtCount != nil && x.AtCount.Verdict == seed.Behind {
		why = say.T("%s It was behind before, too.", why)
	}
	add(Count, say.T("Count seedlings in"), nil, why, Today, 2)
}

// countedWith is the tray of a count: cells that are marked as empty are a look of their own.
func countedWith(t Task) string {
	if t.Clears {
		return ""
	}
	return t.Tray
}

// countTogether tells all counts of a tray as one, as urgent as the most urgent of them.
func countTogether(d Day, list []Task) Task {
	t := list[0]
	var codes []say.Text
	for _, x := range list {
		codes = append(codes, say.Name(x.Code))
		if x.Urgency < t.Urgency {
			t = x
		}
	}
	why := say.T("%s in it are to be counted in one go: %s.", say.Plural(len(list), "batch"), say.List(codes...))
	if t.Urgency == Now {
		why = say.T("%s %s: %s", why, say.Name(t.Code), t.Why)
	}
	t.Before, t.Code, t.After, t.Why, t.Minutes = say.T("Count what is up in %s", say.Name(d.Trays[t.Tray])), "", nil, why, 2+(len(list)+1)/2
	return t
}

// countAgain is after how many days a sowing is counted once more: the slower it comes up the later,
// sooner where it is behind, and only at the end once nearly all are up.
func countAgain(b Batch, half float64) float64 {
	switch at := b.Sprouts.AtCount; {
	case float64(b.Sprouted) >= nearlyAll*float64(b.Cells):
		return math.Inf(1)
	case at == nil || at.Verdict == seed.Behind || b.Sprouted == 0:
		return max(2, half/3)
	}
	return max(3, half/2)
}

const nearlyAll = 0.9

// After so many times the days that half of a sowing takes, and a week, what was to come has.
const (
	lastsHalves = 2.5
	lastsDays   = 7
	outgrown    = 7  // days after that, in which seedlings that nobody saw outgrow their cells
	movedLast   = 30 // days until what began to come up, and then was moved to where it does not, has come
	undecided   = 7  // days from the last count until it is asked what became of the other cells
)

// uncounted asks for the last count of a sowing, more urgently the longer nobody has looked: only
// a count from then on ends it, and not its age.
func (s Day) uncounted(b Batch, last calendar.Day, add adder) {
	if b.Counted >= b.Sown+last {
		s.undecided(b, add)
		return
	}
	u, day := Today, s.Today-b.Sown
	why := say.T("Day %d, and nobody has ever counted it.", day)
	if b.Counted != 0 {
		why = say.T("Day %d; %d of %d when last counted, on %s.", day, b.Sprouted, b.Cells, b.Counted.Long())
	}
	if day >= last+outgrown {
		u = Now
		why = say.T("%s What is up outgrows its cells in the meantime.", why)
	}
	add(Count, say.T("Count seedlings in"), nil,
		say.T("%s What was to come has come: are they up, count them and move them on; has nothing come up, write 0 down and clear the tray.", why), u, 3)
}

// undecided asks what became of cells in which nothing had come up at the last count: until they
// are marked as empty they are taken for plants that may still come.
func (s Day) undecided(b Batch, add adder) {
	if s.Today-b.Counted < undecided {
		return
	}
	until := say.T("Until they are marked they are taken for plants that may still come.")
	switch {
	case b.Rooting:
		why := say.T("%s did not root, and will not. %s", say.Plural(b.Waiting, "cutting"), until)
		add(Count, say.T("Mark what did not root in"), nil, why, Soon, 3).Clears = true
	case b.Sprouted == 0:
		why := say.T("Nothing came up. Mark the cells as empty, wash the tray, and sow again if the plants are still wanted.")
		add(Count, say.T("Mark the empty cells of"), nil, why, Today, 3).Clears = true
	default:
		why := say.T("Nothing came up in %s, and nothing will. %s", say.Plural(b.Waiting, "cell"), until)
		add(Count, say.T("Mark the empty cells of"), nil, why, Soon, 3).Clears = true
	}
}

// When cuttings are felt for roots: from a day on, every few days; from the last on none is to
// be expected any more, and they are looked through once.
const (
	rootsFrom  = 10
	rootsEvery = 4
	rootsUntil = 60
)

// rootTasks ask to feel whether cuttings hold.
func (s Day) rootTasks(b Batch, add adder) {
	day := s.Today - b.Sown
	if day < rootsFrom || b.Counted != 0 && s.Today-b.Counted < rootsEvery {
		return
	}
	if b.Counted > b.Sown+rootsUntil {
		s.undecided(b, add)
		return
	}
	if day > rootsUntil {
		add(Count, say.T("Check for roots in"), nil,
			say.T("Day %d, %d of %d rooted when last felt. What holds no root by now hardly will: count what holds, and take the others away.",
				day, b.Sprouted, b.Cells), Today, 3)
		return
	}
	why := say.T("Day %d: %d of %d had rooted when last checked. Tug gently: one that holds has rooted. Take out any that are black.", day, b.Sprouted, b.Cells)
	add(Count, say.T("Check for roots in"), nil, why, Soon, 3)
}

func (s Day) harvestTasks(b Batch, n int, add adder) {
	if sprout.Beyond(b.Crop, b.Sown, s.Today) {
		add(Discard, say.T("Throw away"), say.T("and scald what they were in"),
			say.T("They were too long without fresh water, or are too old: do not eat them. %s", sprout.Mouldy), Now, 5)
		return
	}
	due := b.Crop.HarvestDue(b.Sown, b.Cut, b.Whole)
	if s.Today < due {
		return
	}
	if !b.Crop.Eaten() && b.Crop.Kind != "flower" {
		return // nothing of it is harvested
	}
	what := say.Plural(n, "plant")
	if b.Sprouting != nil {
		what = say.Plural(n, "vessel")
	}
	if b.Crop.Kind == "flower" {
		over := due + calendar.Day(max(7, b.Crop.Cropping.Hold))
		switch {
		case s.Today > over && b.LookedOn <= over:
			add(Look, say.T("Look at"), say.T("for flowers"),
				say.T("%s, day %d; their flowers are usually over by now. Write down what becomes of them.", what, s.Today-b.Sown), Soon, 2)
		case s.Today <= over:
			add(
				Look,
				say.T("Look at"),
				say.T("for flowers"),
				say.T("%s, day %d; flowers from about day %d. Pick off faded flowers.", what, s.Today-b.Sown, due-b.Sown),
				Soon,
				2,
			)
		}
		return
	}
	u := Soon
	if s.Today >= due+7 || b.Crop.Sprout() {
		u = Today
	}
	why := say.T("%s, day %d; usual from day %d. Cut while it is cool, and weigh.", what, s.Today-b.Sown, due-b.Sown)
	switch {
	case b.Whole && !b.Crop.Cuts:
		why = say.T("%s left, counting from when they were ready on day %d. Cut while it is cool, and weigh.", what, due-b.Sown)
	case b.Cut != 0:
		why = say.T(
			"%s, last cut %s; usually ready again after %s. Cut while it is cool, and weigh.",
			what,
			b.Cut.Short(),
			say.Plural(b.Crop.Again(), "day"),
		)
	case b.Crop.Sprout():
		why = say.T(
			"Day %d; usual from day %d. %s %s %s", s.Today-b.Sown, due-b.Sown, sprout.Kept, say.Words(b.Crop.Hazard), sprout.Mouldy,
		)
	}
	if b.Crop.Hazard != "" && !b.Crop.Sprout() {
		why = say.T("%s %s", why, say.Words(b.Crop.Hazard))
	}
	add(Harvest, say.T("Harvest##task"), nil, why, u, 6)
}
