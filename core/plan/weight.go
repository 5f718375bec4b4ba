package plan

import (
	"math"
	"strings"

	"gonum.org/v1/gonum/stat/distuv"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/growth"
)

// Grows is how a crop grows at a school, by what was weighed there: so many times the weight that
// lettuce would have by light and warmth; 0 where nothing was weighed. It rests on so many batches.
type Grows struct {
	Times   float64
	Batches int
}

// Weighed is a batch as it was harvested, g a plant.
type Weighed struct {
	Sown, Cut calendar.Day
	PlantG    float64
}

// GrowsHere learns from what was weighed how a crop grows in such weather. Two batches count for
// what is usual of lettuce. What is cut again and again says nothing of one plant's weight.
func GrowsHere(c crop.Crop, past []Weighed, w Weather) (g Grows) {
	if c.Cuts {
		return g
	}
	sum := 0.0
	for _, x := range past {
		days := int(x.Cut - x.Sown)
		at := func(f func(calendar.Day) float64) func(int) float64 {
			return func(d int) float64 { return f(x.Sown + calendar.Day(d)) }
		}
		if days <= 0 || days > growth.LastDay || x.PlantG <= 0 {
			continue
		}
		if should := grownGrams(c, days, at(w.LightMol), at(w.WarmC)); should > 1 {
			sum += math.Log(x.PlantG / should)
			g.Batches++
		}
	}
	n := float64(g.Batches)
	switch {
	case isLettuce(c):
		g.Times = math.Exp(sum / (n + usualBatches))
	case g.Batches > 0:
		g.Times = math.Exp(sum / n)
	}
	return g
}

func isLettuce(c crop.Crop) bool {
	kin, _, _ := strings.Cut(c.ID, "~")
	return kin == "lettuce"
}

// How far the weight on a day lies from the forecast, as the standard deviation of its logarithm:
// by this season's light and by one plant beside another; and by how a crop grows here, until so
// many batches have been weighed.
const (
	weightSpread = 0.2
	hereSpread   = 0.3
	usualBatches = 2
)

// times is how many times its usual weight a crop is to have on average, for a plant to weigh what
// is wanted as surely as is asked for.
func (g Goal) times() float64 {
	spread := math.Sqrt(weightSpread*weightSpread + hereSpread*hereSpread*usualBatches/(usualBatches+float64(g.Grows.Batches)))
	out := math.Exp(spread * distuv.UnitNormal.Quantile(min(0.99, max(0.5, g.Sure))))
	if g.Grows.Times > 0 {
		if out /= g.Grows.Times; g.PlantG > 0 {
			out *= g.PlantG / UsualGrams(g.Crop, g.Crop.HarvestDays())
		} else if !isLettuce(g.Crop) {
			out *= g.Grows.Times // its own usual weight
		}
	}
	return min(mostTimes, max(1/mostTimes, out))
}

// mostTimes is how far from its usual weight a plant can be grown.
const mostTimes = 4.0
