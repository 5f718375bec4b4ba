package sale

import "math"

// count is a count that is scattered: Poisson with that mean, or negative binomial where shape is above
// 0, with the variance mean + mean²/shape.
type count struct{ mean, shape float64 }

// logP is the logarithm of the chance of k.
func (c count) logP(k int) float64 {
	x := float64(k)
	if c.shape == 0 {
		return x*math.Log(c.mean) - c.mean - logGamma(x+1)
	}
	r := c.shape
	return logGamma(x+r) - logGamma(r) - logGamma(x+1) - r*math.Log1p(c.mean/r) + x*math.Log(c.mean/(c.mean+r))
}

// ratio is the chance of k+1 beside that of k.
func (c count) ratio(k int) float64 {
	x := float64(k)
	if c.shape == 0 {
		return c.mean / (x + 1)
	}
	return (x + c.shape) / (x + 1) * c.mean / (c.mean + c.shape)
}

// logTail is the logarithm of the chance of at least k, where that is small.
func (c count) logTail(k int) float64 {
	sum, one := 1.0, 1.0
	for j := k; one > 1e-17*sum; j++ {
		one *= c.ratio(j)
		sum += one
	}
	return c.logP(k) + math.Log(sum)
}

func (c count) mode() int {
	if c.shape == 0 {
		return int(c.mean)
	}
	return max(0, int(c.mean*(1-1/c.shape)))
}

func logGamma(x float64) float64 {
	v, _ := math.Lgamma(x)
	return v
}

const (
	tiny  = 1e-19
	small = -600.0 // logarithm of a chance from which one can still begin
)

// fill writes the chances of 0, 1, … into p, as far as it goes.
func (c count) fill(p []float64) {
	start := 0
	if c.logP(0) < small {
		start = min(c.mode(), len(p)-1)
	}
	clear(p)
	p[start] = math.Exp(c.logP(start))
	sum, whole := p[start], false
	for k := start; k+1 < len(p); k++ {
		p[k+1] = p[k] * c.ratio(k)
		if sum += p[k+1]; p[k+1] < tiny && k > c.mode() {
			whole = true
			break
		}
	}
	for k := start; k > 0; k-- {
		p[k-1] = p[k] / c.ratio(k-1)
		if sum += p[k-1]; p[k-1] < tiny {
			break
		}
	}
	if whole && start > 0 { // what the logarithms of large factorials lose
		for k := range p {
			p[k] /= sum
		}
	}
}

// atLeast turns chances of 0, 1, … into those of at least so many, in place.
func atLeast(p []float64) {
	left := 1.0
	for k, x := range p {
		p[k] = math.Max(0, left)
		left -= x
	}
}

// binomial are the chances of 0 … n successes of n.
func binomial(n int, q float64) []float64 {
	p := make([]float64, n+1)
	if q >= 1 {
		p[n] = 1
		return p
	}
	mode := min(n, int(float64(n+1)*q))
	x := float64(mode)
	p[mode] = math.Exp(logGamma(float64(n)+1) - logGamma(x+1) - logGamma(float64(n)-x+1) + x*math.Log(q) + (float64(n)-x)*math.Log1p(-q))
	sum := p[mode]
	for k := mode; k < n && p[k] > tiny; k++ {
		p[k+1] = p[k] * float64(n-k) / float64(k+1) * q / (1 - q)
		sum += p[k+1]
	}
	for k := mode; k > 0 && p[k] > tiny; k-- {
		p[k-1] = p[k] * float64(k) / float64(n-k+1) * (1 - q) / q
		sum += p[k-1]
	}
	for k := range p {
		p[k] /= sum
	}
	return p
}

// Past is a sale that was: so many sold, or at least so many wanted where it sold out.
type Past struct {
	Sold    int
	SoldOut bool
}

// legendre are nodes and weights of the rule of Gauss and Legendre with eight points, on −1 to 1.
var legendre = [8][2]float64{
	{-0.9602898564975363, 0.1012285362903763},
	{-0.7966664774136267, 0.2223810344533745},
	{-0.5255324099163290, 0.3137066458778873},
	{-0.1834346424956498, 0.3626837833783620},
	{0.1834346424956498, 0.3626837833783620},
	{0.5255324099163290, 0.3137066458778873},
	{0.7966664774136267, 0.2223810344533745},
	{0.9602898564975363, 0.1012285362903763},
}

const (
	lowest     = 0.1
	panels     = 80
	negligible = 45.0 // e^−45 of the greatest is as good as nothing
)

// weighted is a mean of demand with its weight.
type weighted struct{ mean, weight float64 }

// learned is what past sales say of the mean of demand: λ, of which nothing but its order of size was
// known, weighed by how likely the sales were.
func learned(past []Past, spread float64) []weighted {
	most := 0
	type result struct {
		n   int
		out bool
	}
	sales := map[result]float64{}
	for _, x := range past {
		most = max(most, x.Sold)
		sales[result{x.Sold, x.SoldOut}]++
	}
	at := make([]float64, most+2)
	likely := func(u float64) (sum float64) {
		c := scattered(math.Exp(u), spread)
		c.fill(at)
		atLeast(at)
		for s, times := range sales {
			switch {
			case !s.out:
				sum += times * c.logP(s.n)
			case at[s.n] > 1e-8:
				sum += times * math.Log(at[s.n])
			default:
				sum += times * c.logTail(s.n)
			}
		}
		return sum
	}
	low, high := math.Log(lowest), math.Log(10*float64(1+most))
	best, greatest := low, math.Inf(-1)
	const looks = 400
	for i := range looks + 1 {
		u := low + (high-low)*float64(i)/looks
		if v := likely(u); v > greatest {
			best, greatest = u, v
		}
	}
	step := (high - low) / looks
	for range 60 { // to the very top
		a, b := math.Max(low, best-step), math.Min(high, best+step)
		for _, u := range []float64{a, b} {
			if v := likely(u); v > greatest {
				best, greatest = u, v
			}
		}
		step /= 1.5
	}
	edge := func(end float64) float64 {
		if likely(end) > greatest-negligible {
			return end
		}
		in, out := best, end
		for range 60 {
			if mid := (in + out) / 2; likely(mid) > greatest-negligible {
				in = mid
			} else {
				out = mid
			}
		}
		return out
	}
	from, to := edge(low), edge(high)
	var list []weighted
	sum := 0.0
	for i := range panels {
		a := from + (to-from)*float64(i)/panels
		half := (to - from) / panels / 2
		for _, g := range legendre {
			u := a + half*(1+g[0])
			w := g[1] * math.Exp(likely(u)-greatest)
			list, sum = append(list, weighted{math.Exp(u), w}), sum+w
		}
	}
	for i := range list {
		list[i].weight /= sum
	}
	return list
}

// scattered is the demand of a day with that mean, which differs from day to day by a share.
func scattered(mean, spread float64) count {
	if spread == 0 {
		return count{mean: mean}
	}
	return count{mean, 1 / (spread * spread)}
}
