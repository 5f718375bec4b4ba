package plan

import (
	"ulpa/core/calendar"
	"ulpa/core/crop"
)

// Indoors is when a crop is begun indoors, so that it goes out on the first day that frost allows.
type Indoors struct {
	Sow     calendar.Day // on an open day, or the last one before
	Harden  calendar.Day // the first day outside, for an hour
	Out     calendar.Day
	Harvest calendar.Day // about
	Until   calendar.Day // the last day on which sowing is still worth it; 0: no frost ends it
}

// farBack is how far an open day, or a day that leaves room for hardening off, is looked for.
const farBack = 120

// StartIndoors goes back from the day on which a crop may go out: it is hardened off before, as the
// season plans it, and in the nursery before that. cold is the day in autumn by which it has to come in
// (0: it stays): what is sown so late that it gives its first harvest after that is not worth it. What is
// sown where it stays is sown on the day itself.
func StartIndoors(c crop.Crop, out, cold calendar.Day, s calendar.School) Indoors {
	x := Indoors{Out: out, Harden: out, Sow: out, Harvest: out + calendar.Day(c.HarvestDays())}
	if !c.InPlace {
		x.Harden = hardenFrom(out, s)
		x.Sow = x.Harden - calendar.Day(c.NurseryDays)
		for n := 0; !s.Open(x.Sow) && n < farBack; n++ {
			x.Sow--
		}
		x.Harvest = max(x.Sow+calendar.Day(c.HarvestDays()), out+calendar.Day(c.Growing.Days+c.Cropping.Days))
	}
	if cold > out {
		x.Until = max(x.Sow, cold-calendar.Day(c.HarvestDays()))
	}
	return x
}

// hardenFrom is the day on which plants that go out on a day are first put outside.
func hardenFrom(out calendar.Day, s calendar.School) calendar.Day {
	return out - calendar.Day(Goal{Open: s.Open}.hardens(out))
}

// SownOn is the same for what is sown on a day, later than is best: it goes out once it was in the nursery
// and is hardened off.
func (x Indoors) SownOn(day calendar.Day, c crop.Crop, s calendar.School) Indoors {
	out := max(x.Out, day)
	for n := 0; !c.InPlace && hardenFrom(out, s) < day+calendar.Day(c.NurseryDays) && n < 2*farBack; n++ {
		out++
	}
	late := StartIndoors(c, out, 0, s)
	late.Sow, late.Harvest = day, max(late.Harvest, x.Harvest, day+calendar.Day(c.HarvestDays()))
	return late
}
