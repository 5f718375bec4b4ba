package chemistry

import (
	"math"
	"slices"
	"sync"

	"gonum.org/v1/gonum/stat/distuv"

	"ulpa/core/zero"
)

// The grid over what is not known of a tank: its alkalinity at the first reading, by
// the logarithm of mg/L, and what the pH then truly was, in errors of that reading.
const (
	alkalinities = 181 // ln −3, −2.95, …, 6
	weakest      = 60  // of these, ln 0: weaker waters only where somebody asks for them (LearnInput.Least)
	alkStep      = 0.05
	firsts       = 25 // −3, −2.75, …, 3
)

// point is one of the tanks that the readings may have been taken of.
type point struct {
	carbon, sid, ph, weight float64
	free                    float64 // carbon dioxide that it held at the first reading, mol/L
	x, z                    int     // its alkalinity and its first pH, in steps
}

// cloud is all of them, with what they have in common.
type cloud struct {
	m      Medium
	shared Makeup // phosphate and citrate; the carbon is each point's own
	points []point
}

func (c *cloud) makeup(p point) Makeup {
	x := c.shared
	x.Carbon = p.carbon
	return x
}

// lnAlkalinity is that of a step of the grid.
func lnAlkalinity(x int) float64 { return alkStep * float64(x-weakest) }

// stepOf is the step of the grid that is nearest to an alkalinity.
func stepOf(mgL float64) int {
	return min(max(weakest+int(math.Round(math.Log(mgL)/alkStep)), 0), alkalinities-1)
}

// newCloud is the tanks at the first reading; weights are logarithms.
func newCloud(m Medium, phosphate float64, first Event, prior [alkalinities]float64) *cloud {
	c := &cloud{m: m, shared: Makeup{Phosphate: phosphate}, points: make([]point, 0, alkalinities*firsts)}
	for z := range firsts {
		off := -3 + 0.25*float64(z)
		ph := first.PH + off*first.Error
		charge, oh, rest, held := m.CarbonateCharge(ph), m.Hydroxide(ph), m.Sid(ph, c.shared), m.Dissolved(ph)
		for x := range alkalinities {
			if math.IsInf(prior[x], -1) {
				continue
			}
			carbon := max(0, math.Exp(lnAlkalinity(x))/MgCaCO3PerEq-oh) / charge
			c.points = append(c.points, point{carbon: carbon, sid: rest + carbon*charge, ph: ph, weight: prior[x] - off*off/2, free: carbon / held, x: x, z: z})
		}
	}
	return c
}

// dose mixes in so many moles a litre.
func (c *cloud) dose(f agentFacts, molL float64) {
	c.shared.Phosphate += f.Phosphate * molL
	c.shared.Citrate += f.Citrate * molL
	moved := 0.0
	for i := range c.points {
		p := &c.points[i]
		p.sid += f.Strong * molL
		p.carbon += f.Carbon * molL
		was := p.ph
		p.ph = c.m.PhAt(p.sid, c.makeup(*p), was+moved)
		moved = p.ph - was // the next point is much like this one
	}
}

// air lets free carbon dioxide leave, or enter, towards what 420 ppm hold.
func (c *cloud) air(hours, halfLifeH float64) {
	if hours <= 0 || halfLifeH <= 0 {
		return
	}
	inAir, left := airCO2*c.m.Henry, math.Exp2(-hours/halfLifeH)
	moved := 0.0
	for i := range c.points {
		p := &c.points[i]
		free := p.carbon / c.m.Dissolved(p.ph)
		free = inAir + (free-inAir)*left
		was := p.ph
		p.ph = c.m.OpenPH(p.sid, c.shared, free, was+moved)
		moved = p.ph - was
		p.carbon = free * c.m.Dissolved(p.ph)
	}
}

// inAir is the pH, once the water has come to balance with air of so much carbon dioxide, ppm; 0:
// with what it held at the first reading.
func (c *cloud) inAir(ppm, err float64) Band {
	settled := forecast{c: c, err: err, ph: make([]float64, len(c.points))}
	moved := 0.0
	for i := range c.points {
		p := &c.points[i]
		free := p.free
		if ppm > 0 {
			free = ppm * 1e-6 * c.m.Henry
		}
		settled.ph[i] = c.m.OpenPH(p.sid, c.shared, free, p.ph+moved)
		moved = settled.ph[i] - p.ph
	}
	return settled.band()
}

// hopeless is the logarithm of a weight, beside the heaviest, that no later reading
// brings back.
const hopeless = -45

// read weighs each point by how well it forecast a reading, and forgets the hopeless.
func (c *cloud) read(ph, err float64) {
	best := math.Inf(-1)
	for i := range c.points {
		off := (c.points[i].ph - ph) / err
		c.points[i].weight -= off * off / 2
		best = max(best, c.points[i].weight)
	}
	c.points = slices.DeleteFunc(c.points, func(p point) bool { return p.weight < best+hopeless })
}

// settle turns the logarithms into weights that add up to one, and forgets the points
// that weigh nothing beside the others; best is the heaviest as it stands now.
func (c *cloud) settle() (best point, ofX [alkalinities]float64) {
	best = c.points[0]
	for _, p := range c.points {
		if p.weight > best.weight {
			best = p
		}
	}
	sum := 0.0
	for i := range c.points {
		p := &c.points[i]
		p.weight = math.Exp(p.weight - best.weight)
		sum += p.weight
	}
	kept := c.points[:0]
	for _, p := range c.points {
		p.weight /= sum
		ofX[p.x] += p.weight
		if p.weight > 1e-14 {
			kept = append(kept, p)
		}
	}
	c.points = kept
	return best, ofX
}

// mean is Σ weight · what each point gives.
func (c *cloud) mean(of func(*point) float64) float64 {
	sum := 0.0
	for i := range c.points {
		sum += c.points[i].weight * of(&c.points[i])
	}
	return sum
}

// forecast is where the points' pH lies once an amount is mixed in, the gas kept in,
// with the error that any forecast has. Many amounts are tried on thousands of points:
// the chemistry is worked out once, on a ruler of pH, and shared between them.
type forecast struct {
	c   *cloud
	f   agentFacts
	err float64
	// Per node of the ruler: what a mole of carbon, of phosphate and of citrate carries,
	// and water; rest is what all but the carbon carries at the amount tried.
	carbon, phosphate, citrate, water, rest [nodes]float64
	ph                                      []float64 // of each point
	at                                      []int32   // the node below it
}

const (
	nodes     = 1801 // pH 2, 2.005, …, 11
	firstNode = 2.0
	nodeStep  = 0.005 // straight between nodes is right to 1e-5 of a pH
)

func (c *cloud) forecast(f agentFacts, err float64) *forecast {
	x := &forecast{c: c, f: f, err: err, ph: make([]float64, len(c.points)), at: make([]int32, len(c.points))}
	for j := range nodes {
		h := activity(firstNode + nodeStep*float64(j))
		x.carbon[j] = acidOf(h, [3]float64{c.m.bi, c.m.carb}).charge
		x.phosphate[j] = acidOf(h, c.m.phosphate).charge
		x.citrate[j] = acidOf(h, c.m.citrate).charge
		x.water[j] = c.m.water/h - h/c.m.g1
	}
	for i, p := range c.points {
		x.ph[i] = p.ph
		x.at[i] = int32(min(max((p.ph-firstNode)/nodeStep, 0), nodes-2)) // #nosec G115 -- a node
	}
	return x
}

// after moves the forecast to an amount, from wherever it stood. Past the ruler's ends
// a point stands at the end.
func (x *forecast) after(molL float64) {
	phosphate := x.c.shared.Phosphate + x.f.Phosphate*molL
	citrate := x.c.shared.Citrate + x.f.Citrate*molL
	for j := range x.rest {
		x.rest[j] = x.water[j] + phosphate*x.phosphate[j] + citrate*x.citrate[j]
	}
	for i := range x.c.points {
		p := &x.c.points[i]
		carbon, sid := p.carbon+x.f.Carbon*molL, p.sid+x.f.Strong*molL
		over := func(j int) float64 { return x.rest[j] + carbon*x.carbon[j] - sid }
		j, from, to := int(x.at[i]), 0, nodes-2
		low, high := over(j), over(j+1)
		for low > 0 && j > from || high < 0 && j < to {
			if low > 0 {
				to = j - 1
			} else {
				from = j + 1
			}
			steps := math.Floor(-low / (high - low)) // as the slope here leads
			j = min(max(int(float64(j)+min(max(steps, -nodes), nodes)), from), to)
			low, high = over(j), over(j+1)
		}
		x.at[i] = int32(j) // #nosec G115 -- a node
		x.ph[i] = firstNode + nodeStep*(float64(j)+min(max(-low/(high-low), 0), 1))
	}
}

// below is the chance of a pH below q.
func (x *forecast) below(q float64) float64 {
	sum, r, table := 0.0, 1/x.err, normals()
	for i := range x.c.points {
		sum += x.c.points[i].weight * table.below((q-x.ph[i])*r)
	}
	return sum
}

// band is the pH with chances of 0.05, 0.5 and 0.95 to lie below.
func (x *forecast) band() Band {
	low, high := math.Inf(1), math.Inf(-1)
	for _, ph := range x.ph {
		low, high = min(low, ph), max(high, ph)
	}
	low, high = low-farthest*x.err, high+farthest*x.err
	quantile := func(share float64) float64 {
		return zero.Between(low, high, 1e-4, func(q float64) float64 { return x.below(q) - share })
	}
	return Band{quantile(0.05), quantile(0.5), quantile(0.95)}
}

// normalTable holds the chance that a standard normal lies below z, for it is asked
// for thousands of points at a time.
type normalTable [2*farthest*perNormal + 2]float64

const (
	farthest  = 7
	perNormal = 512
)

// below is right to 1e-6.
func (t *normalTable) below(z float64) float64 {
	if z <= -farthest {
		return 0
	}
	if z >= farthest {
		return 1
	}
	at := (z + farthest) * perNormal
	j := int(at)
	return t[j] + (at-float64(j))*(t[j+1]-t[j])
}

var normals = sync.OnceValue(func() *normalTable {
	var t normalTable
	for j := range t {
		t[j] = normalCDF(float64(j)/perNormal - farthest)
	}
	return &t
})

// quantileOfX is where the weights of the alkalinities come to a share: each point's
// sum takes half of its own, and the line is straight between points.
func quantileOfX(ofX [alkalinities]float64, from int, share float64) float64 {
	before, sum := 0.0, 0.0
	for x, w := range ofX {
		at := sum + w/2
		if at >= share {
			if x <= from {
				return math.Exp(lnAlkalinity(from))
			}
			return math.Exp(lnAlkalinity(x-1) + alkStep*(share-before)/(at-before))
		}
		before, sum = at, sum+w
	}
	return math.Exp(lnAlkalinity(alkalinities - 1))
}

// normalCDF is the chance that a standard normal lies below z.
func normalCDF(z float64) float64 { return distuv.UnitNormal.CDF(z) }
