package sim

import (
	"fmt"
	"hash/fnv"
	"math"
	"math/rand/v2"
)

// Chance is a source of chance for one thing of a season: drawn from by its name alone, whatever
// else happens.
type Chance struct{ *rand.Rand }

// ChanceOf is the chance of something, by the season's seed and its name.
func ChanceOf(seed uint64, name ...any) Chance {
	h := fnv.New64a()
	fmt.Fprintln(h, name...)
	return Chance{rand.New(rand.NewPCG(seed, h.Sum64()))} // #nosec G404 -- a season must be the same each time
}

// Normal is around a mean, with a standard deviation.
func (c Chance) Normal(mean, sd float64) float64 { return mean + sd*c.NormFloat64() }

// Spread is a factor around 1 (its median), so that its logarithm has this standard deviation.
func (c Chance) Spread(sd float64) float64 { return math.Exp(sd * c.NormFloat64()) }

// Happens is true with a probability.
func (c Chance) Happens(p float64) bool { return c.Float64() < p }

// gamma is drawn by Marsaglia and Tsang (2000), for a shape of 1 or more.
func (c Chance) gamma(shape float64) float64 {
	d := shape - 1.0/3
	for {
		x := c.NormFloat64()
		v := math.Pow(1+x/math.Sqrt(9*d), 3)
		if v > 0 && math.Log(c.Float64()) < x*x/2+d-d*v+d*math.Log(v) {
			return d * v
		}
	}
}

// Share is a share around a mean, as if it had been seen in so many cases (a beta distribution).
func (c Chance) Share(mean, cases float64) float64 {
	a, b := max(1, mean*cases), max(1, (1-mean)*cases)
	x := c.gamma(a)
	return x / (x + c.gamma(b))
}

// dice is a share drawn for one plant in one hour, cheap and the same whatever else happens
// (the mixing of Steele, Lea and Flood 2014).
func dice(seed uint64, of, hour, what int) float64 {
	x := seed + uint64(of)*0x9e3779b97f4a7c15 + uint64(hour)*0xbf58476d1ce4e5b9 + uint64(what)*0x94d049bb133111eb // #nosec G115 -- any bits will do
	x = (x ^ (x >> 30)) * 0xbf58476d1ce4e5b9
	x = (x ^ (x >> 27)) * 0x94d049bb133111eb
	return float64((x^(x>>31))>>11) / (1 << 53)
}

// What dice are thrown for.
const (
	diceDamp = iota + 1
	diceNight
	diceBound
	diceShock
	diceDrown
	diceSalt
)
