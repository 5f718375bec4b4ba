package seed

import (
	"cmp"
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"ulpa/core/crop"
	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Emergence by soil temperature: days until seedlings show, every 5 °C from
// 0 °C; 0 where nothing came up, -1 where it was not tried. After Harrington
// and Minges (1954), Vegetable Seed Germination, University of California.
var emergenceDays = map[string][9]float64{
	"asparagus":   {0, 0, 53, 24, 15, 10, 12, 20, 28},
	"aubergine":   {-1, -1, -1, -1, 13, 8, 5, -1, -1},
	"bean":        {0, 0, 0, 16, 11, 8, 6, 6, 0},
	"beet":        {-1, 42, 17, 10, 6, 5, 5, 5, -1},
	"cabbage":     {-1, -1, 15, 9, 6, 5, 4, -1, -1},
	"carrot":      {0, 51, 17, 10, 7, 6, 6, 9, 0},
	"cauliflower": {-1, -1, 20, 10, 6, 5, 5, -1, -1},
	"celery":      {0, 41, 16, 12, 7, 0, 0, 0, 0},
	"cucumber":    {0, 0, 0, 13, 6, 4, 3, 3, -1},
	"lettuce":     {49, 15, 7, 4, 3, 2, 3, 0, 0},
	"limabean":    {-1, -1, 0, 31, 18, 7, 7, 0, -1},
	"muskmelon":   {-1, -1, -1, -1, 8, 4, 3, -1, -1},
	"okra":        {0, 0, 0, 27, 17, 13, 7, 6, 7},
	"onion":       {136, 31, 13, 7, 5, 4, 4, 13, 0},
	"parsley":     {-1, -1, 29, 17, 14, 13, 12, -1, -1},
	"parsnip":     {172, 57, 27, 19, 14, 15, 32, 0, -1},
	"pea":         {-1, 36, 14, 9, 8, 6, 6, -1, -1},
	"pepper":      {0, 0, 0, 25, 13, 8, 8, 9, 0},
	"radish":      {0, 29, 11, 6, 4, 4, 3, -1, -1},
	"spinach":     {63, 23, 12, 7, 6, 5, 6, 0, 0},
	"sweetcorn":   {0, 0, 22, 12, 7, 4, 4, 3, 0},
	"tomato":      {0, 0, 43, 14, 8, 6, 6, 9, 0},
	"turnip":      {0, 0, 5, 3, 2, 1, 1, 1, 3},
	"watermelon":  {-1, 0, -1, -1, 12, 5, 4, 3, -1},
}

// Cardinal temperatures where the table has no figure on that side: base and
// ceiling, °C, from general horticultural literature.
var untriedEnds = map[string][2]float64{
	"asparagus": {7.5, 45}, "aubergine": {13, 40}, "beet": {3, 38}, "cabbage": {4, 38}, "cauliflower": {4, 38},
	"cucumber": {12.5, 42}, "lettuce": {-1, 32.5}, "muskmelon": {14, 42}, "okra": {12.5, 43}, "onion": {-1, 37.5},
	"parsley": {3, 35}, "parsnip": {-1, 32.5}, "pea": {2, 35}, "radish": {2.5, 38}, "spinach": {-1, 32.5}, "turnip": {7.5, 43}, "watermelon": {15, 42},
}

// lastBeforeNone is where germination still reaches between the last temperature at which a crop
// came up and the next, at which none did: halfway, or as it is known better, °C.
var lastBeforeNone = map[string]float64{"celery": 24.5}

// Germinates is how a crop answers to the temperature of its medium, °C.
type Germinates struct {
	Germinates                bool
	DaysToHalf                float64 // 0 when it does not germinate
	BaseC, OptimumC, CeilingC float64
	Steps                     []working.Step
}

const tableSource say.Words = "Harrington and Minges (1954)"

// SourceOf names where a crop's days to emergence come from.
func SourceOf(c crop.Crop) say.Text {
	if _, ok := emergenceDays[c.GerminateAs]; ok {
		return tableSource
	}
	return say.T("thermal time; values from general horticultural literature, approximate")
}

// GerminationTime is GerminationOf a crop of the catalogue by its id. It
// refuses crop and temperature_c.
func GerminationTime(id string, temperatureC float64) (Germinates, error) {
	c, ok := crop.Find(id)
	if !ok {
		return Germinates{}, field.Refuse("crop", "is not in the catalogue")
	}
	return GerminationOf(c, temperatureC)
}

// GerminationOf answers how many days it takes until half have emerged in a
// medium of -20 to 60 °C: by the table of days where the crop has a row, else by
// thermal time.
func GerminationOf(c crop.Crop, temperatureC float64) (Germinates, error) {
	if !(temperatureC >= -20 && temperatureC <= 60) {
		return Germinates{}, field.Refuse("temperature_c", "must be −20 to 60 °C")
	}
	if days, ok := emergenceDays[c.GerminateAs]; ok {
		return byTable(c.GerminateAs, days, temperatureC), nil
	}
	return byThermalTime(c, temperatureC), nil
}

// byThermalTime: the rate of germination rises straight from the base to the
// optimum, is level to the plateau and falls straight to nothing at the ceiling
// (Garcia-Huidobro, Monteith and Squire 1982).
func byThermalTime(c crop.Crop, t float64) Germinates {
	g := Germinates{BaseC: c.BaseC, OptimumC: c.OptimumC, CeilingC: c.CeilingC}
	if t <= c.BaseC || t >= c.CeilingC {
		return g
	}
	warm, formula := t-c.BaseC, say.T("%.4g − %.4g", t, c.BaseC)
	switch plateau := max(c.PlateauC, c.OptimumC); {
	case t > plateau:
		warm = (c.OptimumC - c.BaseC) * (c.CeilingC - t) / (c.CeilingC - plateau)
		formula = say.T("(%.4g − %.4g) × (%.4g − %.4g) ÷ (%.4g − %.4g)", c.OptimumC, c.BaseC, c.CeilingC, t, c.CeilingC, plateau)
	case t > c.OptimumC:
		warm, formula = c.OptimumC-c.BaseC, say.T("%.4g − %.4g, as at the optimum", c.OptimumC, c.BaseC)
	}
	g.Germinates, g.DaysToHalf = true, c.ThermalCD/warm
	g.Steps = []working.Step{
		{Name: say.T("Thermal time above the base temperature"), Formula: formula, Value: warm, Unit: "K", Source: SourceOf(c)},
		{
			Name:    say.T("Days until half are up"),
			Formula: say.T("%.4g °C·days ÷ %.4g", c.ThermalCD, warm),
			Value:   g.DaysToHalf,
			Unit:    "days",
			Source:  say.T("Garcia-Huidobro, Monteith and Squire (1982)"),
		},
	}
	return g
}

// byTable: the rate of germination (one over the days) runs straight between
// the table's temperatures and to nothing at the base and the ceiling, which
// lie halfway to the nearest temperature at which nothing came up.
func byTable(row string, days [9]float64, temperatureC float64) Germinates {
	first, last := -1, -1
	fastest := math.Inf(1)
	for i, d := range days {
		if d > 0 {
			if first < 0 {
				first = i
			}
			last, fastest = i, min(fastest, d)
		}
	}
	g := Germinates{BaseC: untriedEnds[row][0], CeilingC: untriedEnds[row][1]}
	if first > 0 && days[first-1] == 0 { // #nosec G602 -- first is an index of days
		g.BaseC = 5*float64(first) - 2.5
	}
	if last < 8 && days[last+1] == 0 {
		g.CeilingC = cmp.Or(lastBeforeNone[row], 5*float64(last)+2.5)
	}
	bestFrom, bestTo := -1, -1
	for i, d := range days {
		if d == fastest {
			if bestFrom < 0 {
				bestFrom = i
			}
			bestTo = i
		}
	}
	g.OptimumC = 5 * float64(bestFrom+bestTo) / 2
	if temperatureC <= g.BaseC || temperatureC >= g.CeilingC {
		return g
	}
	xs, rates := []float64{g.BaseC}, []float64{0}
	for i := first; i <= last; i++ {
		xs, rates = append(xs, 5*float64(i)), append(rates, 1/days[i])
	}
	xs, rates = append(xs, g.CeilingC), append(rates, 0)
	for i := 1; i < len(xs); i++ {
		if temperatureC <= xs[i] {
			share := (temperatureC - xs[i-1]) / (xs[i] - xs[i-1])
			g.Germinates = true
			g.DaysToHalf = 1 / (rates[i-1] + share*(rates[i]-rates[i-1]))
			g.Steps = []working.Step{
				{
					Name:    say.T("Speed of germination"),
					Formula: say.T("straight between %.4g and %.4g °C", xs[i-1], xs[i]),
					Value:   1 / g.DaysToHalf,
					Unit:    "a day",
					Source:  tableSource,
				},
				{Name: say.T("Days until half are up"), Formula: say.T("1 ÷ rate"), Value: g.DaysToHalf, Unit: "days"},
			}
			break
		}
	}
	return g
}

// Wilson is the score interval of a proportion, without continuity correction (Wilson 1927).
func Wilson(k, n int, level float64) (low, high float64) {
	if n == 0 {
		return 0, 1
	}
	z := distuv.UnitNormal.Quantile(0.5 + level/2)
	p, m := float64(k)/float64(n), float64(n)
	mid := p + z*z/(2*m)
	half := z * math.Sqrt(p*(1-p)/m+z*z/(4*m*m))
	return max(0, (mid-half)/(1+z*z/m)), min(1, (mid+half)/(1+z*z/m))
}
