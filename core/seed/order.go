package seed

import (
	"math"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/unit"
	"ulpa/core/working"
)

// Usable is the share of plants set out that can be delivered: known, or so many of those
// that were tried.
type Usable = Germination

// SowFor is how plants are to be raised for an order.
type SowFor struct {
	Germination  Germination
	SeedsPerCell int // 1 to 20
	CellsPerTray int
	Survival     float64
}

// OrderInput is what Order needs: a number of plants, or a weight with the weight of a plant.
type OrderInput struct {
	Plants          int     // 1 to 10,000; 0: a weight
	WeightG         float64 // above 0
	PlantG, PlantSD float64
	Usable          Usable
	Confidence      float64
	PlantsNow       *int
	Sow             *SowFor
}

// SowAnswer is what is to be sown for an order; Cells is 0 when no number within reach does.
type SowAnswer struct {
	Cells, Seeds, Trays    int
	Chance, ExpectedPlants float64
}

// OrderAnswer is what Order gives; Plants is 0 when no number within reach does.
type OrderAnswer struct {
	Plants                            int
	Chance, ExpectedUsable, ExpectedG float64
	ChanceNow                         *float64
	Sow                               *SowAnswer
	Steps                             []working.Step
}

// MostOrdered bounds plants and cells.
const MostOrdered = 10_000

// Order answers how many plants to set out, and how many cells to sow, so that a delivery is
// met with the confidence asked. Of n plants a binomial number can be used, or a
// beta-binomial one after Beta(k+½, m−k+½) (Jeffreys) when it was tried; their weight is
// about normal. It refuses with field.Errors.
func Order(in OrderInput) (OrderAnswer, error) {
	if err := in.check(); err != nil {
		return OrderAnswer{}, err
	}
	d := newDelivery(in)
	var a OrderAnswer
	for n := max(1, in.Plants); n <= MostOrdered; n++ {
		if d.chance[n] >= in.Confidence-slack {
			a.Plants, a.Chance = n, d.chance[n]
			break
		}
	}
	a.ExpectedUsable = float64(a.Plants) * in.Usable.mean()
	a.ExpectedG = a.ExpectedUsable * in.PlantG
	if in.PlantsNow != nil {
		a.ChanceNow = &d.chance[*in.PlantsNow]
	}
	if in.Sow != nil {
		s := d.sow(*in.Sow, in.Confidence)
		a.Sow = &s
	}
	a.Steps = in.orderSteps(a)
	return a, nil
}

func (in OrderInput) check() error {
	var e field.Errors
	if in.Plants != 0 || in.WeightG == 0 {
		e.Require(in.Plants >= 1 && in.Plants <= MostOrdered, "deliver.plants", "must be a whole number from 1 to 10,000")
	} else {
		e.Require(in.WeightG > 0 && in.WeightG <= 1e9, "deliver.weight_g", "must be above 0 grams")
		e.Require(in.PlantG > 0 && in.PlantG <= 1e9, "plant_g.mean", "must be above 0 grams")
		e.Require(in.PlantSD >= 0 && in.PlantSD <= in.PlantG/2, "plant_g.sd", "must be 0 to half the mean")
	}
	in.Usable.checkAs(&e, "usable", "tried", "usable")
	e.Require(in.Confidence > 0 && in.Confidence < 1, "confidence", "must be a share above 0 and below 1")
	e.Require(in.PlantsNow == nil || *in.PlantsNow >= 0 && *in.PlantsNow <= MostOrdered, "plants_now", "must be a whole number from 0 to 10,000")
	if s := in.Sow; s != nil {
		s.Germination.checkAs(&e, "sow.germination", "tested", "sprouted")
		e.Require(s.SeedsPerCell >= 1 && s.SeedsPerCell <= 20, "sow.seeds_per_cell", "must be a whole number from 1 to 20")
		e.Require(s.CellsPerTray >= 1, "sow.cells_per_tray", "must be a whole number, 1 or more")
		e.Require(s.Survival >= 0 && s.Survival <= 1, "sow.survival", "must be a share from 0 to 1")
	}
	return e.Err()
}

// checkAs refuses a share that cannot be, with its fields as they are called.
func (g Germination) checkAs(e *field.Errors, at, tried, came string) {
	if g.Tested == 0 {
		e.Require(g.Rate >= 0 && g.Rate <= 1, at+".rate", "must be a share from 0 to 1")
		return
	}
	e.Require(g.Tested >= 1, at+"."+tried, "must be a whole number, 1 or more")
	e.Require(g.Sprouted >= 0 && g.Sprouted <= g.Tested, at+"."+came, "must be 0 up to the number tested")
}

// delivery is the chance of a delivery from so many plants.
type delivery struct {
	in     OrderInput
	from   int // fewer usable plants than this never make it
	meets  []float64
	chance []float64 // by plants set out
	usable Usable
	climb  [2]float64 // plants at which the chance is one half, and about how far it climbs
}

// newDelivery works out the chances up to the most plants. One plant more adds, for each
// number that was usable among the others, the chance that it is usable too times what it
// helps; where that is nothing, nothing is summed.
func newDelivery(in OrderInput) *delivery {
	d := &delivery{in: in, usable: in.Usable, chance: make([]float64, MostOrdered+1)}
	// What u usable plants are worth: from below, and to above which they are no more so.
	low, high := in.Plants-1, in.Plants
	if in.Plants == 0 {
		need := in.WeightG / in.PlantG
		spread := 40 * in.PlantSD / in.PlantG * math.Sqrt(need+40)
		low, high = max(0, int(need-spread)-1), int(math.Ceil(need+spread))+2
	}
	if low >= MostOrdered {
		return d
	}
	d.from = low
	for u := low; u <= min(high, MostOrdered+1); u++ {
		d.meets = append(d.meets, in.meets(u))
	}
	for n := range MostOrdered {
		d.chance[n+1] = min(1, d.chance[n]+d.gain(n))
	}
	return d
}

// meets is the chance that u usable plants make the delivery.
func (in OrderInput) meets(u int) float64 {
	if in.Plants > 0 {
		if u >= in.Plants {
			return 1
		}
		return 0
	}
	if u <= 0 {
		return 0
	}
	weight := float64(u) * in.PlantG
	if in.PlantSD == 0 {
		if weight >= in.WeightG*(1-slack) {
			return 1
		}
		return 0
	}
	return 0.5 * math.Erfc(-(weight-in.WeightG)/(in.PlantSD*math.Sqrt(float64(u)))/math.Sqrt2)
}

// gain is what one more plant adds to n of them.
func (d *delivery) gain(n int) float64 {
	sum := 0.0
	first := max(0, d.from)
	if first > n || d.chance[n] > 1-1e-15 {
		return 0
	}
	pmf := d.usable.exactly(first, n)
	for i := 0; i+1 < len(d.meets) && first+i <= n; i++ {
		u := first + i
		if i > 0 {
			pmf = d.usable.next(pmf, u-1, n)
			if pmf == 0 { // it began below what can be told from 0
				if float64(u) > float64(n)*d.usable.mean() {
					break
				}
				pmf = d.usable.exactly(u, n)
			}
		}
		sum += pmf * d.usable.success(u, n) * (d.meets[i+1] - d.meets[i])
	}
	return sum
}

// exactly is the chance that u of n are usable.
func (g Germination) exactly(u, n int) float64 {
	if u < 0 || u > n {
		return 0
	}
	x, y := float64(u), float64(n-u)
	choose := lgamma(float64(n)+1) - lgamma(x+1) - lgamma(y+1)
	if g.Tested == 0 {
		switch {
		case g.Rate <= 0:
			return indicator(u == 0)
		case g.Rate >= 1:
			return indicator(u == n)
		}
		return math.Exp(choose + x*math.Log(g.Rate) + y*math.Log1p(-g.Rate))
	}
	a, b := g.shape()
	return math.Exp(choose + lgamma(a+x) + lgamma(b+y) - lgamma(a+b+x+y) - lgamma(a) - lgamma(b) + lgamma(a+b))
}

func indicator(yes bool) float64 {
	if yes {
		return 1
	}
	return 0
}

// next is the chance of u+1 of n from that of u.
func (g Germination) next(pmf float64, u, n int) float64 {
	if u >= n {
		return 0
	}
	more := pmf * float64(n-u) / float64(u+1)
	if g.Tested == 0 {
		if g.Rate >= 1 {
			return 0
		}
		return more * g.Rate / (1 - g.Rate)
	}
	a, b := g.shape()
	return more * (a + float64(u)) / (b + float64(n-u-1))
}

// success is the chance that one more is usable when u of n were.
func (g Germination) success(u, n int) float64 {
	if g.Tested == 0 {
		return g.Rate
	}
	a, b := g.shape()
	return (a + float64(u)) / (a + b + float64(n))
}

// sow is the fewest cells that meet the delivery.
func (d *delivery) sow(s SowFor, confidence float64) SowAnswer {
	d.findClimb()
	enough := func(n int) (float64, bool) {
		c := d.fromCells(n, s)
		return c, c >= confidence-slack
	}
	low, high := 0, 1
	for {
		if _, ok := enough(high); ok {
			break
		}
		if high == MostOrdered {
			return SowAnswer{}
		}
		low, high = high, min(2*high, MostOrdered)
	}
	for high-low > 1 {
		if mid := low + (high-low)/2; d.fromCells(mid, s) >= confidence-slack {
			high = mid
		} else {
			low = mid
		}
	}
	a := SowAnswer{Cells: high, Seeds: high * s.SeedsPerCell, Trays: (high + s.CellsPerTray - 1) / s.CellsPerTray}
	a.Chance = d.fromCells(high, s)
	a.ExpectedPlants = float64(high) * s.Germination.CellFill(s.SeedsPerCell) * s.Survival
	return a
}

// findClimb is where the chance climbs, in plants.
func (d *delivery) findClimb() {
	at := func(p float64) float64 {
		for n, c := range d.chance {
			if c >= p {
				return float64(n)
			}
		}
		return MostOrdered
	}
	d.climb = [2]float64{at(0.5), max(0.5, (at(0.84)-at(0.16))/2)}
}

// fromCells is the chance of a delivery from n cells.
func (d *delivery) fromCells(n int, s SowFor) float64 {
	at := func(p float64) float64 { return d.mean(n, cellSuccess(p, s.SeedsPerCell)*s.Survival) }
	if s.Germination.Tested == 0 {
		return at(s.Germination.Rate)
	}
	r := d.climb[0] / float64(n)
	if r >= s.Survival {
		return s.Germination.average(at, [2]float64{1, 0.02})
	}
	back := func(r float64) float64 {
		q := min(1, max(0, r/s.Survival))
		return -math.Expm1(math.Log1p(-q) / float64(s.SeedsPerCell))
	}
	sd := math.Hypot(math.Sqrt(r*(1-r)/float64(n)), d.climb[1]/float64(n))
	return s.Germination.average(at, [2]float64{back(r), max(1e-9, (back(min(r+sd, s.Survival))-back(r-sd))/2)})
}

// mean is the chance of a delivery averaged over the plants of n cells that give one with
// the chance r each.
func (d *delivery) mean(n int, r float64) float64 {
	if r <= 0 {
		return d.chance[0]
	}
	if r >= 1 {
		return d.chance[n]
	}
	g := Germination{Rate: r}
	centre := min(n, int(float64(n)*r))
	top := g.exactly(centre, n)
	sum := top * d.chance[centre]
	for u, p := centre, top; u < n && p > 1e-18*top; u++ {
		p = g.next(p, u, n)
		sum += p * d.chance[u+1]
	}
	for u, p := centre, top; u > 0 && p > 1e-18*top; u-- {
		p *= float64(u) / float64(n-u+1) * (1 - r) / r
		sum += p * d.chance[u-1]
	}
	return min(1, sum)
}

func (in OrderInput) orderSteps(a OrderAnswer) []working.Step {
	share := in.Usable.mean()
	steps := []working.Step{{Name: say.T("Share usable of those planted out"), Formula: say.T("known"), Value: share, Unit: "share"}}
	if in.Usable.Tested > 0 {
		steps[0].Formula = say.T("(%d + ½) ÷ (%d + 1), %s", in.Usable.Sprouted, in.Usable.Tested, in.Usable.rests())
	}
	if in.Plants == 0 {
		steps = append(steps, working.Step{
			Name: say.T("Plants for that weight, on average"), Formula: say.T("%s ÷ %s", say.Of(in.WeightG, unit.Gram), say.Of(in.PlantG, unit.Gram)),
			Value: in.WeightG / in.PlantG,
		})
	}
	if a.Plants > 0 {
		steps = append(
			steps,
			working.Step{Name: say.T("Usable, on average"), Formula: say.T("%d × %.3g", a.Plants, share), Value: a.ExpectedUsable},
			working.Step{Name: say.T("Chance of meeting it"), Formula: say.T("summed over all numbers of %d that may be usable",
				a.Plants), Value: a.Chance, Unit: "share"},
		)
	}
	if a.Sow != nil && a.Sow.Cells > 0 {
		steps = append(steps, working.Step{
			Name: say.T("Plants from the cells, on average"), Formula: say.T("%d × chance of a plant in a cell", a.Sow.Cells), Value: a.Sow.ExpectedPlants,
		})
	}
	return steps
}
