package round

import (
	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/core/sprout"
)

// What is asked of sprouts.
var (
	Rinse  = declare(Kind{Name: "rinse", Of: Batches, Writes: true, EndedBy: []string{"tend"}})
	Attend = declare(Kind{Name: "attend", Of: Batches, Loses: 2})
)

// care is what was done to a batch of sprouts, as of today.
func (s Day) care(b Batch) sprout.Care {
	c := *b.Sprouting
	c.SoakedOn, c.Today = b.Sown, s.Today
	c.Back, _ = s.Calendar.Next(s.Today)
	return c
}

// rinsing is what each job of a run is called, and why it is due.
var rinsing = map[sprout.Job]struct{ what, why say.Words }{
	sprout.Drain: {"Drain the soaking water of", "It has soaked long enough: seed left in water suffocates. Rinse it, and tilt it so that it drains."},
	sprout.Rinse: {"Rinse and drain", "Damp seed in the warm goes sour within a day unless clean water runs through it."},
	sprout.Water: {"Give fresh water to", "The water under a tray of shoots goes stale after a few days."},
	sprout.Light: {"Put into the light", "They are long enough; leaves turn green in a few hours of light a day."},
}

// sproutingTasks are the rinses of a run, what is to be thrown away, and the days on which
// nobody is there to rinse.
func (s Day) sproutingTasks(b Batch, n int, add adder) {
	way, c := sprout.WayOf(b.Crop), s.care(b)
	for _, job := range sprout.Due(way, c, s.Now) {
		if job == sprout.Discard {
			add(Discard, say.T("Throw away"), say.T("and scald what they were in"),
				say.T("They were too long without fresh water, or are too old: do not eat them. %s", sprout.Mouldy), Now, 5)
			return
		}
		x := rinsing[job]
		add(Rinse, say.T(x.what), nil, say.T(x.why), Today, 3).Part = string(job)
	}
	if days := sprout.Away(way, c, s.Calendar); len(days) > 0 {
		add(Attend, say.T("Say who rinses"), say.T("on %s", shortDays(days)),
			say.T("Nobody is here then, and unrinsed they are not food. Else cut them today and keep them cold, to be cooked through, or throw them away."), Now, 2)
	}
	s.harvestTasks(b, n, add)
}

// shortDays lists days.
func shortDays(days []calendar.Day) say.Text {
	var out []say.Text
	for _, d := range days {
		out = append(out, d.Short())
	}
	return say.List(out...)
}
