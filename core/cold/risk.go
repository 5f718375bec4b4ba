package cold

import (
	"time"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/crop"
)

// Ways in which a school deals with frost.
const (
	ByRisk  = "risk"  // the day after which frost comes no more often than it takes the risk of
	ByChart = "chart" // so many weeks after the last frost, as charts have it
)

// Rule is how a school deals with frost out of doors.
type Rule struct {
	Way       string
	Risk      float64 // share of years
	LastFrost string  // its usual day, MM-DD; "": not told
	Leeway    int     // weeks either side of a chart's
}

// Thresholds are the lows that harm plants of a kind that are set out, °C.
var Thresholds = map[crop.Tender]float64{crop.TenderCrop: 0, crop.HalfHardy: -2, crop.Hardy: -5}

// Frosts is when it froze, spring by spring, for each kind of plant.
type Frosts struct {
	Rule
	South bool
	By    map[crop.Tender]climate.Frost // empty: no nights are told
	Warm  Warmth                        // of its nights
}

// Spring is the middle of spring of the year of a day, near which its last frost is.
func (f Frosts) Spring(of calendar.Day) calendar.Day {
	month := time.April
	if f.South {
		month = time.October
	}
	return calendar.Date(of.UTC().Year(), month, 15)
}

// FrostsOf works out the springs of a station's nights.
func FrostsOf(nights []climate.Minimum, rule Rule, south bool) Frosts {
	f := Frosts{Rule: rule, South: south, By: map[crop.Tender]climate.Frost{}}
	if len(nights) == 0 {
		return f
	}
	f.Warm = warmthOf(nights, south)
	for t, c := range Thresholds {
		if x, err := climate.OfFrost(climate.FrostInput{
			Minima: nights, ThresholdC: c, South: south,
			Risks: []float64{rule.Risk},
		}); err == nil && x.Spring.Years > 0 {
			f.By[t] = x
		}
	}
	return f
}

// on is a day of the year in the spring before or at a day.
func on(monthDay string, near calendar.Day) (calendar.Day, bool) {
	t, err := time.Parse("01-02", monthDay)
	if err != nil {
		return 0, false
	}
	best, found := calendar.Day(0), false
	for _, y := range []int{near.UTC().Year() - 1, near.UTC().Year(), near.UTC().Year() + 1} {
		d := calendar.Date(y, t.Month(), t.Day())
		if !found || abs(d-near) < abs(best-near) {
			best, found = d, true
		}
	}
	return best, true
}

func abs(d calendar.Day) calendar.Day { return max(d, -d) }

// SafeByRisk is from which day on a crop can be set out in the spring nearest to a day, with
// the risk that is taken.
func (f Frosts) SafeByRisk(c crop.Crop, near calendar.Day) (calendar.Day, bool) {
	x, ok := f.By[c.Tender]
	if !ok || len(x.Spring.ByRisk) == 0 {
		return 0, false
	}
	day, ok := on(x.Spring.ByRisk[0].Date, near)
	return f.warmed(c, day, near), ok
}

// warmed is a day, or the later one from which on the nights are warm enough for a crop that
// suffers far above frost.
func (f Frosts) warmed(c crop.Crop, day, near calendar.Day) calendar.Day {
	if out, told := f.Warm.From(c.SafeC, near); told {
		return max(day, out)
	}
	return day
}

// InBy is until when a crop may stand outside in the autumn nearest to a day, with the risk
// that is taken; hardy ones stay.
func (f Frosts) InBy(c crop.Crop, near calendar.Day) (calendar.Day, bool) {
	x, ok := f.By[c.Tender]
	if !ok || c.Tender == crop.Hardy || len(x.Autumn.ByRisk) == 0 {
		return 0, false
	}
	cool, chilled := f.Warm.Until(c.SafeC, near)
	date := x.Autumn.ByRisk[0].Date
	if date == "12-31" || date == "06-30" { // the half-year is over without it
		return cool, chilled
	}
	day, ok := on(date, near)
	if chilled {
		day = min(day, cool)
	}
	return day, ok
}

// SafeByChart is from which day on it can be by a chart, the leeway used up.
func (f Frosts) SafeByChart(c crop.Crop, near calendar.Day) (calendar.Day, bool) {
	last, ok := on(f.LastFrost, near)
	return f.warmed(c, last+calendar.Day(7*(c.OutWeeks-f.Leeway)), near), ok
}

// Safe is from which day on a crop can be set out, the way that the school has chosen.
func (f Frosts) Safe(c crop.Crop, near calendar.Day) (calendar.Day, bool) {
	if c.Autumn { // planted before winter: no spring's frost decides
		return 0, false
	}
	if f.Way == ByChart {
		return f.SafeByChart(c, near)
	}
	return f.SafeByRisk(c, near)
}

// Still is the share of springs in which it froze for such plants on a day of the year or
// after it, within the half-year; ok is false when no nights are told.
func (f Frosts) Still(t crop.Tender, d calendar.Day) (share float64, ok bool) {
	x, known := f.By[t]
	if !known {
		return 0, false
	}
	hit, years := 0, 0
	for _, y := range x.EachYear {
		if !y.SpringCounted {
			continue
		}
		years++
		if y.LastSpring == nil {
			continue
		}
		_, m, day := d.UTC().Date()
		if _, lm, ld := y.LastSpring.UTC().Date(); order(lm, ld, f.South) >= order(m, day, f.South) {
			hit++
		}
	}
	return float64(hit) / float64(max(1, years)), years > 0 && order(d.UTC().Month(), 1, f.South) < 600
}

// Come is the share of autumns in which it has frozen for such plants by a day of the year,
// within the half-year; ok is false when no nights are told, and in spring.
func (f Frosts) Come(t crop.Tender, d calendar.Day) (share float64, ok bool) {
	_, m, day := d.UTC().Date()
	hit, years := 0, 0
	for _, y := range f.By[t].EachYear {
		if !y.AutumnCounted {
			continue
		}
		years++
		if y.FirstAutumn == nil {
			continue
		}
		if _, fm, fd := y.FirstAutumn.UTC().Date(); order(fm, fd, f.South) <= order(m, day, f.South) {
			hit++
		}
	}
	return float64(hit) / float64(max(1, years)), years > 0 && order(m, 1, f.South) >= 600
}

// order is the place of a day in its half-years, that of spring first.
func order(m time.Month, day int, south bool) int {
	n := int(m) - 1
	if south {
		n = (n + 6) % 12
	}
	return 100*n + day
}
