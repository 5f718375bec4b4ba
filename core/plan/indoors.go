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

// hardening is how many open days plants are hardened off.
const hardening = 10

// farBack is how far back an open day is looked for.
const farBack = 120

// StartIndoors goes back from the day on which a crop may go out. cold is the day in autumn by which it
// has to come in (0: it stays): what is sown so late that it gives its first harvest after that is not
// worth it. What is sown where it stays is sown on the day itself.
func StartIndoors(c crop.Crop, out, cold calendar.Day, s calendar.School) Indoors {
	x := Indoors{Out: out, Harden: out, Sow: out, Harvest: out + calendar.Day(c.HarvestDays())}
	if !c.InPlace {
		for left, n := hardening, 0; left > 0 && n < farBack; n++ {
			if x.Harden--; s.Open(x.Harden) {
				left--
			}
		}
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

// SownOn is the same for what is sown on a day, later than is best: it goes out once it was in the nursery
// and is hardened off.
func (x Indoors) SownOn(day calendar.Day, c crop.Crop, s calendar.School) Indoors {
	if c.InPlace {
		x.Sow, x.Out, x.Harden = max(x.Out, day), max(x.Out, day), max(x.Out, day)
	} else {
		out := day + calendar.Day(c.NurseryDays)
		for left, n := hardening, 0; left > 0 && n < farBack; n++ {
			if s.Open(out) {
				left--
			}
			out++
		}
		x = StartIndoors(c, max(x.Out, out), 0, s)
	}
	x.Sow, x.Harvest = day, max(x.Harvest, day+calendar.Day(c.HarvestDays()))
	return x
}
