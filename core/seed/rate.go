package seed

import (
	"math"

	"gonum.org/v1/gonum/integrate/quad"
	"gonum.org/v1/gonum/mathext"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Germination is either a known rate (0 to 1) or a test: so many of so many sprouted.
type Germination struct {
	Rate     float64
	Tested   int // 0: the rate is known
	Sprouted int
	By       say.Words // what that rests on, where nobody tested the seed; "": a test
}

// What a germination rests on that no test told.
const (
	ByUsual  say.Words = "as is usual of this crop, at its age"
	ByLabel  say.Words = "from its label, at its age"
	ByRecord say.Words = "from what came of such seed here"
)

// rests is what it rests on.
func (g Germination) rests() say.Words {
	if g.By != "" {
		return g.By
	}
	return "from the test"
}

// Times is the germination where only a share of the good seed comes.
func (g Germination) Times(share float64) Germination {
	if g.Tested > 0 {
		g.Sprouted = int(math.Round(float64(g.Sprouted) * share))
	}
	g.Rate *= share
	return g
}

// Usually is what is thought of a lot that nobody tested and that has no label: the
// crop's usual rate, as if a dozen seeds had been tested.
func Usually(rate float64) Germination {
	return Germination{Tested: usualWorth, Sprouted: int(math.Round(usualWorth * rate)), By: ByUsual}
}

// WorthOfLabel is how many tested seeds a label is worth after some years in a packet,
// of a kind that keeps for so many: half as many when they are over, and ever less.
func WorthOfLabel(ageYears, keepsYears int) float64 {
	return max(2, LabelWorth*(1-float64(max(0, ageYears))/(2*float64(max(1, keepsYears)))))
}

// RateInput is what Rate needs.
type RateInput struct {
	PlantsWanted    int     // 1 to 100,000
	Confidence      float64 // above 0, below 1
	Germination     Germination
	Survival        float64 // 0 to 1: the chance that a cell with a sprout ends in a usable plant
	MaxSeedsPerCell int     // 1 to 20
	CellsPerTray    int
	SeedsOnHand     *int // nil: not asked
}

// Option is what it takes with so many seeds in a cell. When OutOfReach, only
// SeedsPerCell and CellFill stand.
type Option struct {
	SeedsPerCell                              int
	OutOfReach                                bool
	Cells, Seeds, Trays                       int
	CellFill, Chance, ExpectedPlants, Thinned float64
	EnoughSeed                                bool
}

// RateAnswer lists the options; Recommended is a SeedsPerCell, 0 when none is usable.
type RateAnswer struct {
	Options     []Option
	Recommended int
	Because     say.Text
	Steps       []working.Step
}

const (
	mostCells = 1_000_000
	slack     = 1e-9 // arithmetic never costs a cell
)

// Rate answers how many seeds in a cell and how many cells reach the plants
// wanted with the confidence asked: usable plants are binomial over the cells.
// With test counts the rate is Beta(k+½, m−k+½) (Jeffreys) and every figure is
// its average. It refuses with field.Errors.
func Rate(in RateInput) (RateAnswer, error) {
	if err := in.check(); err != nil {
		return RateAnswer{}, err
	}
	var a RateAnswer
	for s := 1; s <= in.MaxSeedsPerCell; s++ {
		a.Options = append(a.Options, in.option(s))
	}
	a.Recommended, a.Because = recommend(a.Options, in.SeedsOnHand != nil)
	a.Steps = in.steps(a)
	return a, nil
}

// Clumps is the answer for a crop whose seeds of a cell stay together: so many in each,
// where there is seed for that.
func (a RateAnswer) Clumps(seeds int) RateAnswer {
	for _, o := range a.Options {
		if o.SeedsPerCell == seeds && !o.OutOfReach && o.EnoughSeed {
			a.Recommended, a.Because = seeds, say.T("Sow it in clumps: %s in a cell stay together and are not thinned.", say.Plural(seeds, "seed"))
		}
	}
	return a
}

func (in RateInput) check() error {
	var e field.Errors
	g := in.Germination
	e.Require(in.PlantsWanted >= 1 && in.PlantsWanted <= 100_000, "plants_wanted", "must be a whole number from 1 to 100,000")
	e.Require(in.Confidence > 0 && in.Confidence < 1, "confidence", "must be a share above 0 and below 1")
	e.Require(in.Survival >= 0 && in.Survival <= 1, "survival", "must be a share from 0 to 1")
	e.Require(in.MaxSeedsPerCell >= 1 && in.MaxSeedsPerCell <= 20, "max_seeds_per_cell", "must be a whole number from 1 to 20")
	e.Require(in.CellsPerTray >= 1, "cells_per_tray", "must be a whole number, 1 or more")
	e.Require(in.SeedsOnHand == nil || *in.SeedsOnHand >= 0, "seeds_on_hand", "must be a whole number, 0 or more")
	if g.Tested == 0 {
		e.Require(g.Rate >= 0 && g.Rate <= 1, "germination.rate", "must be a share from 0 to 1")
	} else {
		e.Require(g.Tested >= 1, "germination.tested", "must be a whole number, 1 or more")
		e.Require(g.Sprouted >= 0 && g.Sprouted <= g.Tested, "germination.sprouted", "must be 0 up to the number tested")
	}
	return e.Err()
}

func (in RateInput) option(s int) Option {
	fill, sprouts := in.Germination.CellFill(s), float64(s)*in.Germination.mean()
	o := Option{SeedsPerCell: s, CellFill: fill}
	n, chance, ok := in.fewestCells(s)
	if !ok {
		o.OutOfReach = true
		return o
	}
	o.Cells, o.Seeds, o.Chance = n, n*s, chance
	o.Trays = (n + in.CellsPerTray - 1) / in.CellsPerTray
	o.ExpectedPlants = float64(n) * fill * in.Survival
	o.Thinned = max(0, float64(n)*(sprouts-fill))
	o.EnoughSeed = in.SeedsOnHand == nil || o.Seeds <= *in.SeedsOnHand
	return o
}

// fewestCells bisects: more cells never lower the chance.
func (in RateInput) fewestCells(s int) (int, float64, bool) {
	enough := func(n int) (float64, bool) {
		c := in.chance(n, s)
		return c, c >= in.Confidence-slack
	}
	low, high := in.PlantsWanted-1, in.PlantsWanted
	for {
		if high >= mostCells {
			high = mostCells
			if _, ok := enough(high); !ok {
				return 0, 0, false
			}
			break
		}
		if _, ok := enough(high); ok {
			break
		}
		low, high = high, high*2
	}
	for high-low > 1 {
		mid := low + (high-low)/2
		if _, ok := enough(mid); ok {
			high = mid
		} else {
			low = mid
		}
	}
	c, _ := enough(high)
	return high, c, true
}

// chance is P(usable ≥ wanted) with n cells of s seeds.
func (in RateInput) chance(n, s int) float64 {
	success := func(p float64) float64 { return cellSuccess(p, s) * in.Survival }
	if in.Germination.Tested == 0 {
		return atLeast(in.PlantsWanted, n, success(in.Germination.Rate))
	}
	return in.Germination.average(func(p float64) float64 { return atLeast(in.PlantsWanted, n, success(p)) },
		in.turningPoint(n, s))
}

// turningPoint is where, in p, the binomial tail climbs from 0 to 1: the
// middle and about one standard deviation of that climb.
func (in RateInput) turningPoint(n, s int) [2]float64 {
	r := float64(in.PlantsWanted) / float64(n)
	if r >= in.Survival {
		return [2]float64{1, 1}
	}
	back := func(r float64) float64 {
		q := min(1, max(0, r/in.Survival))
		return -math.Expm1(math.Log1p(-q) / float64(s))
	}
	sd := math.Sqrt(r * (1 - r) / float64(n))
	low, high := back(r-sd), back(min(r+sd, in.Survival))
	return [2]float64{back(r), max(1e-9, (high-low)/2)}
}

func cellSuccess(p float64, s int) float64 {
	if p >= 1 {
		return 1
	}
	return -math.Expm1(float64(s) * math.Log1p(-p))
}

// atLeast is P(X ≥ k) for X ~ Binomial(n, r), by the regularized incomplete beta function.
func atLeast(k, n int, r float64) float64 {
	switch {
	case k <= 0:
		return 1
	case k > n || r <= 0:
		return 0
	case r >= 1:
		return 1
	}
	return mathext.RegIncBeta(float64(k), float64(n-k+1), r)
}

func (g Germination) shape() (a, b float64) {
	return float64(g.Sprouted) + 0.5, float64(g.Tested-g.Sprouted) + 0.5
}

func (g Germination) mean() float64 {
	if g.Tested == 0 {
		return g.Rate
	}
	a, b := g.shape()
	return a / (a + b)
}

// CellFill is the mean chance that a cell with s seeds has a sprout; the
// moments of a beta distribution make it exact.
func (g Germination) CellFill(s int) float64 {
	if g.Tested == 0 {
		return cellSuccess(g.Rate, s)
	}
	a, b := g.shape()
	dead := 1.0
	for i := range s {
		dead *= (b + float64(i)) / (a + b + float64(i))
	}
	return 1 - dead
}

// average integrates f over the beta distribution of p. With p = sin²θ the
// density is smooth at both ends; the range is cut into panels no wider than
// the narrower of the density and the climb of f around turn, and what lies
// outside both is known to be negligible.
func (g Germination) average(f func(float64) float64, turn [2]float64) float64 {
	a, b := g.shape()
	m := a / (a + b)
	sd := math.Sqrt(m * (1 - m) / (a + b + 1))
	angle := func(p float64) float64 { return math.Asin(math.Sqrt(min(1, max(0, p)))) }
	centre := angle(m)
	spread := 0.5 / math.Sqrt(a+b) // standard deviation of θ, nearly whatever m
	low, high := max(0, centre-14*spread), min(math.Pi/2, centre+14*spread)
	if sd == 0 || a < 30 || b < 30 {
		low, high = max(0, centre-24*spread), min(math.Pi/2, centre+24*spread)
	}
	logNorm := lgamma(a+b) - lgamma(a) - lgamma(b) + math.Ln2
	density := func(t float64) float64 {
		sin, cos := math.Sincos(t)
		return math.Exp(logNorm + (2*a-1)*math.Log(sin) + (2*b-1)*math.Log(cos))
	}
	panel := spread
	climbLow, climbHigh := angle(turn[0]-12*turn[1]), angle(turn[0]+12*turn[1])
	if w := (climbHigh - climbLow) / 12; climbHigh > low && climbLow < high {
		panel = min(panel, max(w, 1e-7))
	}
	sum := 0.0
	add := func(from, to, step float64) {
		if to <= from {
			return
		}
		n := max(1, int(math.Ceil((to-from)/step)))
		w := (to - from) / float64(n)
		for i := range n {
			x := from + float64(i)*w
			sum += quad.Fixed(func(t float64) float64 {
				sin := math.Sin(t)
				return f(sin*sin) * density(t)
			}, x, x+w, 16, quad.Legendre{}, 0)
		}
	}
	// Fine panels where f climbs, the density's own width elsewhere.
	c1, c2 := min(max(climbLow, low), high), min(max(climbHigh, low), high)
	add(low, c1, spread)
	add(c1, c2, panel)
	add(c2, high, spread)
	return min(1, sum)
}

func lgamma(x float64) float64 {
	v, _ := math.Lgamma(x)
	return v
}

// recommend takes the fewest seeds among the options that no other beats.
func recommend(options []Option, asked bool) (int, say.Text) {
	best := -1
	for i, o := range options {
		if o.OutOfReach || !o.EnoughSeed || beaten(o, options) {
			continue
		}
		if best < 0 || o.Seeds < options[best].Seeds {
			best = i
		}
	}
	if best < 0 {
		if asked {
			return 0, say.T("Nothing reaches that number with the seed there is: test more seed, ask for fewer plants, or use another packet.")
		}
		return 0, say.T("Even a million cells would not be enough with this seed: test it again, or use another packet.")
	}
	o := options[best]
	for _, x := range options {
		if !x.OutOfReach && x.EnoughSeed && !beaten(x, options) && x.Trays < o.Trays {
			return o.SeedsPerCell, say.T(
				"Fewest seeds: %d. With %d in a cell you need %s fewer, but %d seeds.",
				o.Seeds,
				x.SeedsPerCell,
				say.Plural(o.Trays-x.Trays, "tray"),
				x.Seeds,
			)
		}
	}
	return o.SeedsPerCell, say.T("Fewest seeds: %d, in %s.", o.Seeds, say.Plural(o.Trays, "tray"))
}

func beaten(o Option, by []Option) bool {
	for _, x := range by {
		if x.OutOfReach || !x.EnoughSeed {
			continue
		}
		if (x.Seeds < o.Seeds && x.Trays <= o.Trays) || (x.Trays < o.Trays && x.Seeds <= o.Seeds) {
			return true
		}
	}
	return false
}

func (in RateInput) steps(a RateAnswer) []working.Step {
	g := in.Germination
	rate := working.Step{Name: say.T("Chance that a seed germinates"), Formula: say.T("as the lot says"), Value: 100 * g.Rate, Unit: "%"}
	if g.Tested > 0 {
		rate = working.Step{
			Name: say.T("Chance that a seed germinates"), Formula: say.T("(%d + ½) ÷ (%d + 1), %s", g.Sprouted, g.Tested, g.rests()),
			Value: 100 * g.mean(), Unit: "%", Source: say.T("Beta(k + ½, m − k + ½), Jeffreys' prior"),
		}
	}
	steps := []working.Step{rate}
	for _, o := range a.Options {
		if o.SeedsPerCell != a.Recommended {
			continue
		}
		steps = append(
			steps,
			working.Step{Name: say.T("Chance that a cell has a seedling"), Formula: say.T("1 − (1 − p)^%d", o.SeedsPerCell), Value: 100 * o.CellFill, Unit: "%"},
			working.Step{
				Name:    say.T("Cells"),
				Formula: say.T("fewest for which P(usable ≥ %d) ≥ %.3g %%", in.PlantsWanted, 100*in.Confidence),
				Value:   float64(o.Cells),
				Source:  say.T("binomial distribution"),
			},
			working.Step{
				Name:    say.T("Chance reached"),
				Formula: say.T("P(usable ≥ %d) with %d cells", in.PlantsWanted, o.Cells),
				Value:   100 * o.Chance,
				Unit:    "%",
			},
			working.Step{Name: say.T("Plants to expect"), Formula: say.T("%d × %.3g × %.3g", o.Cells, o.CellFill, in.Survival), Value: o.ExpectedPlants},
		)
	}
	return steps
}
