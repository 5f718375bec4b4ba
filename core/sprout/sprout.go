// Package sprout is seed that is soaked, rinsed and eaten within days: what is to be done on
// which day, closed ones among them, and when it is food no more. What is usual of each crop
// is in its columns; a school sets its own there.
//
//	way := sprout.WayOf(c)
//	start := sprout.Start(way, today, school) // the next day that leaves nobody's day alone
//	due := sprout.Due(way, care, now, zone)
package sprout

import (
	"math"
	"slices"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Way is how a crop is sprouted. Days are counted from the one on which it is soaked.
type Way struct {
	SoakHours       float64 // 0: sown dry
	Rinses          int     // a day, until it roots into its mat or is cut
	LightDay        int     // 0: it stays dark
	WaterDays       int     // the water under its tray is changed after so many; 0: it is rinsed in a jar to the end
	CutDay, LastDay int     // usual, and the last on which it is still good
}

// WayOf is how the crop is sprouted.
func WayOf(c crop.Crop) Way {
	return Way{
		SoakHours: c.SoakHours, Rinses: max(1, c.RinsesDay), LightDay: c.LightDay, WaterDays: c.WaterDays,
		CutDay: c.HarvestDays(), LastDay: c.HarvestDays() + c.Cropping.Hold,
	}
}

// rooted is the day from which shoots drink from below and are rinsed no more.
func (w Way) rooted() int {
	if w.WaterDays == 0 {
		return w.CutDay + 1
	}
	if w.LightDay > 0 {
		return w.LightDay
	}
	return w.CutDay / 2
}

// Day is what a day asks for.
type Day struct {
	On      calendar.Day
	Soak    bool
	Drain   bool
	Rinses  int
	Water   bool
	Light   bool
	Cut     bool
	Nobody  bool // is there by the calendar
	Missing bool // and somebody must be
}

// Asks tells whether anything is to be done that cannot wait a day.
func (d Day) Asks() bool { return d.Drain || d.Rinses > 0 || d.Water }

// early is how many days before its usual day it may be cut, when nobody is there later: a third
// of its days, two at most.
func (w Way) early() int { return min(2, w.CutDay/3) }

// cutOn is when it is cut: on its usual day, or where nobody is there then on the next on
// which somebody is while it is good, or else on the last before; its usual day when nobody
// is there on any of these.
func (w Way) cutOn(start calendar.Day, school calendar.School) int {
	for n := w.CutDay; n <= w.LastDay; n++ {
		if school.Open(start + calendar.Day(n)) {
			return n
		}
	}
	for n := w.CutDay - 1; n >= max(1, w.CutDay-w.early()); n-- {
		if school.Open(start + calendar.Day(n)) {
			return n
		}
	}
	return w.CutDay
}

// Ahead is each day of a run that is soaked at the end of a day, until it is cut. Of what is no
// sprout it is nothing but the days.
func Ahead(w Way, start calendar.Day, school calendar.School) (out []Day) {
	cut := w.cutOn(start, school)
	for n := 0; n <= cut; n++ {
		d := Day{On: start + calendar.Day(n), Soak: n == 0, Nobody: !school.Open(start + calendar.Day(n)), Cut: n == cut}
		if n > 0 && !d.Cut {
			d.Drain = n == 1 && w.SoakHours > 0
			if n < w.rooted() {
				d.Rinses = w.Rinses
			} else {
				d.Water = w.WaterDays > 0 && (n-w.rooted())%w.WaterDays == 0
			}
			d.Light = w.LightDay > 0 && n == w.LightDay
		}
		d.Missing = d.Nobody && (d.Asks() || d.Cut)
		out = append(out, d)
	}
	return out
}

// Missing are the days of a run on which somebody must come although nobody is there.
func Missing(run []Day) (out []calendar.Day) {
	for _, d := range run {
		if d.Missing {
			out = append(out, d.On)
		}
	}
	return out
}

// lookAhead is how many days a better start is looked for.
const lookAhead = 21

// Start is the first open day from a given one on whose run leaves the fewest days to
// somebody who would have to come in.
func Start(w Way, from calendar.Day, school calendar.School) (best calendar.Day) {
	fewest := math.MaxInt
	for d := from; d < from+lookAhead; d++ {
		if n := len(Missing(Ahead(w, d, school))); school.Open(d) && n < fewest {
			best, fewest = d, n
		}
	}
	if best == 0 {
		return from
	}
	return best
}

// Seed is how much dry seed so many trays of an area take, in grams.
func Seed(gM2, areaCM2 float64, vessels int) float64 {
	return gM2 * areaCM2 / 10_000 * float64(vessels)
}

// Care is what was done to a run, the latest of each; nil is never.
type Care struct {
	Soaked                time.Time
	Rinsed, Watered, Lit  *time.Time
	Waterings             []time.Time  // each time that water ran over it, in order; nil: only the latest are known
	SoakedOn, Today, Back calendar.Day // Back: when somebody is there again after today
}

// Job is something that a run asks for.
type Job string

// What a run can ask for, the most pressing first.
const (
	Discard Job = "discard" // it stood unrinsed for too long
	Drain   Job = "drain"
	Rinse   Job = "rinsed" // and these as batch.Tendings name what was done
	Water   Job = "watered"
	Light   Job = "lit"
)

// dry is how long sprouts may stand unrinsed, and shoots without fresh water beyond their days.
const dry = 36 * time.Hour

// last is when water last ran over it: soaked, rinsed or given fresh water.
func (c Care) last(w Way) time.Time {
	last := c.Soaked.Add(time.Duration(w.SoakHours * float64(time.Hour)))
	for _, t := range []*time.Time{c.Rinsed, c.Watered} {
		if t != nil && t.After(last) {
			last = *t
		}
	}
	return last
}

// lasts is how long it may have stood without fresh water at a time of its run.
func (w Way) lasts(soaked, at time.Time) time.Duration {
	if at.Sub(soaked).Hours() >= 24*float64(w.rooted())-12 {
		return dry + time.Duration(w.WaterDays)*24*time.Hour
	}
	return dry
}

// Condemned tells whether a run is food no more: it is beyond its days, or it once stood for
// too long without fresh water. Water that runs over it afterwards makes it no better.
func Condemned(w Way, c Care, now time.Time) bool {
	if int(c.Today-c.SoakedOn) > w.LastDay {
		return true
	}
	if c.Waterings == nil {
		last := c.last(w)
		return now.Sub(last) > w.lasts(c.Soaked, now)
	}
	last := c.Soaked.Add(time.Duration(w.SoakHours * float64(time.Hour)))
	for _, at := range append(slices.Clone(c.Waterings), now) {
		if at.After(now) {
			break
		}
		if at.Sub(last) > w.lasts(c.Soaked, at) {
			return true
		}
		if at.After(last) {
			last = at
		}
	}
	return false
}

// Beyond tells whether what is eaten young, and was sown on a day, is beyond its days, whether it
// is rinsed or grows in a tray.
func Beyond(c crop.Crop, sown, today calendar.Day) bool {
	return c.Sprout() && int(today-sown) > WayOf(c).LastDay
}

// Due is what a run asks for now.
func Due(w Way, c Care, now time.Time) (out []Job) {
	day := int(c.Today - c.SoakedOn)
	if Condemned(w, c, now) {
		return []Job{Discard}
	}
	unwatered := now.Sub(c.last(w))
	soaking := w.SoakHours > 0 && c.Rinsed == nil && c.Watered == nil
	switch {
	case soaking:
		if now.Sub(c.Soaked).Hours() >= 0.75*w.SoakHours {
			out = append(out, Drain)
		}
	case day < w.rooted():
		// As evenly as a day allows: twice a day is morning and afternoon of a school's.
		if unwatered >= 12*time.Hour/time.Duration(w.Rinses) {
			out = append(out, Rinse)
		}
	case unwatered >= time.Duration(w.WaterDays)*24*time.Hour-6*time.Hour:
		out = append(out, Water)
	}
	if w.LightDay > 0 && day >= w.LightDay && c.Lit == nil {
		out = append(out, Light)
	}
	return out
}

// Away are the days from tomorrow until somebody is back on which a run needs somebody.
func Away(w Way, c Care, school calendar.School) (out []calendar.Day) {
	for _, d := range Ahead(w, c.SoakedOn, school) {
		if d.On > c.Today && d.On < c.Back && d.Missing {
			out = append(out, d.On)
		}
	}
	return out
}

// Cautions are said before a run is begun and whenever it is eaten of.
var Cautions = []say.Text{
	say.T("Use only seed that is sold for sprouting: seed for sowing may be treated, and treated seed is poisonous."),
	say.T("Use clean hands, scalded vessels and drinking water."),
	say.T("Raw sprouts have caused serious illness. Cook them through. Do not give raw sprouts to young children, pregnant women, or older or ill " +
		"people. Many places do not allow them at schools: ask the local food authority first."),
	Kept,
	Mouldy,
}

// Kept is how they are kept once they are cut, and how they are eaten.
var Kept = say.T("Rinse them, keep them at %s or colder, and cook them through within two days; not raw for young children, in pregnancy, "+
	"for older or ill people.", say.Of(coldC, unit.Celsius))

const coldC = 5

// Mouldy is when they are food no more.
const Mouldy say.Words = "Throw away everything that is slimy, smells or has mould, all of it. Fine white hairs at the root that lie flat when " +
	"rinsed are roots, not mould."
