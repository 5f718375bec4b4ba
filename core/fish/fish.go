// Package fish is what fish eat and what they leave in the water: feed by mass, warmth and
// appetite, ammonia, the filter and the plants that carry it.
//
//	d, err := fish.Day(fish.Input{Fish: 20, MassG: 150, FeedPercentDay: 1.5, ProteinPercent: 32, TemperatureC: 25, PH: 7, WaterL: 800, TANMgL: 1})
package fish

import (
	"math"

	"ulpa/core/chemistry"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/working"
)

// Input is fish, their food and their water. Nitrogen compounds are mg/L as N.
type Input struct {
	Fish           int
	MassG          float64 // of one
	FeedPercentDay float64 // of body mass at 25 to 30 °C
	ProteinPercent float64 // of the feed
	TemperatureC   float64
	PH             float64
	WaterL         float64
	TANMgL         float64 // total ammonia now
	UnionisedLimit float64
	SourceTANMgL   float64 // of the water for a change
	NitriteMgL     *float64
	OxygenMgL      *float64
	FilterM2       *float64
}

// What to feed today.
const (
	Nothing = "none"
	Half    = "half"
	Normal  = "normal"
)

// Answer is a day's feed and what follows from it.
type Answer struct {
	Appetite                               float64
	FeedG, FeedTodayG                      float64
	Advice                                 string
	TANG, TANRiseMgL                       float64
	FilterM2Needed                         float64
	FilterEnough                           *bool
	PlantM2Low, PlantM2High                float64
	AlkalinityG, BicarbonateG, OxygenG     float64
	UnionisedMgL, TANLimitMgL, TANOverLimt float64
	ChangeShare, ChangeL                   *float64 // nil: the source is no better
	Steps                                  []working.Step
	Cautions                               []say.Text
}

// Starting values of warm-water aquaculture (Timmons and Ebeling; Rakocy and others 2006).
const (
	nitrogenOfFeed  = 0.092 // g of TAN a g of protein
	filterRate      = 0.3   // g/m² and day at 22 °C
	filterDoubling  = 8.0   // °C
	filterMost      = 0.4
	alkalinityPerG  = 7.14
	oxygenPerG      = 4.57
	bicarbonateMass = 100.114 // g/mol of KHCO3
	feedPerM2Low    = 100.0   // g a day that a m² of plants carries at most
	feedPerM2High   = 60.0
)

// Day answers a day. It refuses with field.Errors.
func Day(in Input) (Answer, error) { return day(in, Kinds[0]) }

// day is that of a kind of fish.
func day(in Input, k Kind) (Answer, error) {
	if err := in.check(); err != nil {
		return Answer{}, err
	}
	a, err := chemistry.UnionisedAmmonia(in.TANMgL, in.PH, in.TemperatureC)
	if err != nil {
		return Answer{}, err
	}
	x := Answer{Appetite: k.appetite(in.TemperatureC), UnionisedMgL: a.UnionisedMgL, TANLimitMgL: in.UnionisedLimit * 100 / a.UnionisedPercent}
	x.FeedG = float64(in.Fish) * in.MassG * in.FeedPercentDay / 100 * x.Appetite
	x.TANG = nitrogenOfFeed * in.ProteinPercent / 100 * x.FeedG
	rate := min(filterMost, filterRate*math.Exp2((in.TemperatureC-22)/filterDoubling))
	x.FilterM2Needed = x.TANG / rate
	if in.FilterM2 != nil {
		enough := *in.FilterM2 >= x.FilterM2Needed
		x.FilterEnough = &enough
	}
	x.PlantM2Low, x.PlantM2High = x.FeedG/feedPerM2Low, x.FeedG/feedPerM2High
	x.TANRiseMgL = 1000 * x.TANG / in.WaterL
	x.AlkalinityG, x.OxygenG = alkalinityPerG*x.TANG, oxygenPerG*x.TANG
	x.BicarbonateG = x.AlkalinityG / 50.04 * bicarbonateMass
	x.TANOverLimt = in.TANMgL / x.TANLimitMgL
	x.Advice = Normal
	x.feeds(in.feed(x))
	if half := x.TANLimitMgL / 2; in.TANMgL <= half {
		x.ChangeShare, x.ChangeL = new(float64), new(float64)
	} else if in.SourceTANMgL < half {
		share := (in.TANMgL - half) / (in.TANMgL - in.SourceTANMgL)
		litres := share * in.WaterL
		x.ChangeShare, x.ChangeL = &share, &litres
	}
	x.Steps = []working.Step{
		{
			Name: say.T("Feed of a day"), Formula: say.T("%d × %.4g × %.3g\u00a0%% × %.3g", in.Fish, in.MassG, in.FeedPercentDay, x.Appetite),
			Value: x.FeedG, Unit: unit.Gram,
		},
		{
			Name: say.T("Ammonia nitrogen from it"), Formula: say.T("0.092 × %.3g × %.4g", in.ProteinPercent/100, x.FeedG), Value: x.TANG, Unit: unit.Gram,
			Source: say.Words("Timmons and Ebeling, Recirculating Aquaculture"),
		},
		{Name: say.T("Total ammonia that fish tolerate"), Formula: say.T("%.3g ÷ the un-ionised share", in.UnionisedLimit), Value: x.TANLimitMgL, Unit: "mg/L"},
	}
	x.Cautions = []say.Text{
		say.T("Wash hands before and after, and cover cuts."),
		say.T("Raising the pH makes the same ammonia far more deadly: never correct it in one go where there are fish."),
	}
	return x, nil
}

// portion is the share of a day's feed that an advice allows.
var portion = map[string]float64{Nothing: 0, Half: 0.5, Normal: 1}

// feeds lets them have no more than an advice allows.
func (x *Answer) feeds(advice string) {
	if portion[advice] <= portion[x.Advice] {
		x.Advice, x.FeedTodayG = advice, x.FeedG*portion[advice]
	}
}

// feed is what to feed today, by the first that fits.
func (in Input) feed(x Answer) string {
	over := func(v *float64, limit float64) bool { return v != nil && *v > limit }
	under := func(v *float64, limit float64) bool { return v != nil && *v < limit }
	switch {
	case in.TANMgL > x.TANLimitMgL || x.Appetite == 0 || over(in.NitriteMgL, 5) || under(in.OxygenMgL, 3):
		return Nothing
	case in.TANMgL > x.TANLimitMgL/2 || over(in.NitriteMgL, 1) || under(in.OxygenMgL, 5):
		return Half
	}
	return Normal
}

func (in Input) check() error {
	var e field.Errors
	e.Require(in.Fish >= 1 && in.Fish <= 1_000_000_000, "fish", "must be a whole number, 1 or more")
	for name, v := range map[string]float64{"mass_g": in.MassG, "water_l": in.WaterL, "unionised_limit_mg_l": in.UnionisedLimit} {
		e.Require(v > 0 && v <= 1e12, name, "must be a number above 0")
	}
	for name, v := range map[string]float64{
		"feed_percent_day": in.FeedPercentDay, "tan_mg_l": in.TANMgL, "source_tan_mg_l": in.SourceTANMgL,
	} {
		e.Require(v >= 0 && v <= 10_000, name, "must be a number, 0 or more")
	}
	e.Require(in.FeedPercentDay <= 100, "feed_percent_day", "must be 0 to 100")
	e.Require(in.ProteinPercent > 0 && in.ProteinPercent <= 100, "protein_percent", "must be a share above 0, up to 100")
	e.Require(in.TemperatureC >= 0 && in.TemperatureC <= 45, "temperature_c", "must be 0 to 45 °C")
	e.Require(in.PH >= 4 && in.PH <= 10, "ph", "must be a pH from 4 to 10")
	for name, v := range map[string]*float64{"nitrite_mg_l": in.NitriteMgL, "oxygen_mg_l": in.OxygenMgL, "filter_m2": in.FilterM2} {
		e.Require(v == nil || *v >= 0 && *v <= 1e9, name, "must be a number, 0 or more")
	}
	return e.Err()
}
