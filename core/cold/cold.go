// Package cold is what the nights mean for plants out of doors: whether they stand what
// is forecast, and how often it has frozen after a date.
//
//	site := cold.Site{Ahead: nights}
//	reasons := site.Against(tomato, 0, today) // what speaks against setting it out
package cold

import (
	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// Night is a low, forecast or measured, °C.
type Night struct {
	Day  calendar.Day
	MinC float64
}

// Site is the nights of a school.
type Site struct {
	Ahead    []Night        // forecast for the station
	Compared []climate.Pair // nights of which both are known, here and at the station
	Record   []Night        // of the station, past years
}

// What keeps the cold off, °C that it is warmer: a starting value, to be measured.
const (
	OpenGround = 0.0
	Cover      = climate.FrameGainC // a closed frame, or fleece
)

// Risk is the worst night ahead for some plants.
type Risk struct {
	On        calendar.Day
	ForecastC float64
	climate.Night
}

// Worst is the night from one day to before another that is likeliest to harm a crop
// that has been outside for so many good days; false when no night there is forecast.
func (s Site) Worst(c crop.Crop, goodDays int, gainC float64, from, before calendar.Day) (worst Risk, known bool) {
	unhardened := max(c.UnhardenedC, c.SafeC)
	for _, n := range s.Ahead {
		if n.Day < from || n.Day >= before {
			continue
		}
		night, err := climate.SiteNight(climate.NightInput{
			Nights: s.Compared, PriorMeanC: climate.PriorMeanC, PriorSDC: climate.PriorSDC, NightSDC: climate.NightSDC, ForecastC: n.MinC, FrameGainC: gainC,
			SafeC: c.SafeC, UnhardenedC: &unhardened, GoodDays: float64(goodDays), BringInAbove: climate.BringInAbove,
		})
		if err == nil && (!known || night.ChanceBelowFloor > worst.ChanceBelowFloor) {
			worst, known = Risk{n.Day, n.MinC, night}, true
		}
	}
	return worst, known
}

// Says tells the risk in the reader's units.
func (r Risk) Says(c crop.Crop, goodDays int, gainC float64) say.Text {
	where, hard := say.T("here"), say.T("not hardened off")
	if gainC > 0 {
		where = say.T("under cover")
	}
	if goodDays > 0 {
		hard = say.T("after %s outside", say.Plural(goodDays, "good day"))
	}
	return say.T(
		"%s is forecast for %s: about %s %s, and %s %s stands %s. Chance of harm: %s.",
		say.Of(
			r.ForecastC,
			unit.Celsius,
		),
		r.On.Long(),
		say.Of(r.ExpectedC, unit.Celsius),
		where,
		say.Lower(c.Name),
		hard,
		say.Of(r.FloorC, unit.Celsius),
		say.Chance(r.ChanceBelowFloor),
	)
}

const (
	frostWithin = 60  // days after a date
	enoughOf    = 0.9 // of those days must be in a year's record
	mayFreeze   = 0.25
)

// FrostAfter is in how many years of the record it froze within sixty days after a date,
// and of how many years the record has those days.
func (s Site) FrostAfter(d calendar.Day) (froze, years int) {
	low := map[calendar.Day]float64{}
	first := d
	for _, n := range s.Record {
		low[n.Day] = n.MinC
		first = min(first, n.Day)
	}
	for back := 1; ; back++ {
		from := calendar.Of(d.UTC().AddDate(-back, 0, 0))
		if from+frostWithin < first {
			return froze, years
		}
		there, frost := 0, false
		for x := from; x < from+frostWithin; x++ {
			if c, ok := low[x]; ok {
				there++
				frost = frost || c <= 0
			}
		}
		if float64(there) >= enoughOf*frostWithin {
			if years++; frost {
				froze++
			}
		}
	}
}

// Against lists what speaks against setting a crop out on a day, in the reader's units:
// the nights that are forecast, that none are, and how often it froze later.
func (s Site) Against(c crop.Crop, goodDays int, today calendar.Day) (reasons []say.Text) {
	worst, known := s.Worst(c, goodDays, OpenGround, today, today+8)
	switch {
	case known && worst.Protect:
		reasons = append(reasons, worst.Says(c, goodDays, OpenGround))
	case !known && c.Tender != crop.Hardy:
		reasons = append(reasons, say.T("No forecast is entered for tonight, so nobody knows how cold it gets. Write the forecast down first."))
	}
	if froze, years := s.FrostAfter(today); c.Tender == crop.TenderCrop && years > 0 && float64(froze) > mayFreeze*float64(years) {
		reasons = append(reasons, say.T("In %d of %d years of the record it froze within sixty days after this date.", froze, years))
	}
	return reasons
}
