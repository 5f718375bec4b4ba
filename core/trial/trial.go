// Package trial answers honestly whether it made a difference.
//
//	c, err := trial.Compare(arms, 0.95)
package trial

import (
	"fmt"
	"math"
	"sort"

	"gonum.org/v1/gonum/mathext"
	"gonum.org/v1/gonum/stat"
	"gonum.org/v1/gonum/stat/distuv"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/core/working"
)

// Arm is one way of doing it: either so many successes of N, or Values.
type Arm struct {
	Name      string
	N         int
	Successes int
	Values    []float64 // nil for an arm of successes
}

// Reading of a pair.
type Reading string

// The readings.
const (
	Difference        Reading = "difference"
	NoClearDifference Reading = "no_clear_difference"
	TooFew            Reading = "too_few"
)

// Pair compares two arms: B minus A.
type Pair struct {
	A, B       string
	Difference float64
	Low, High  *float64
	P, PHolm   *float64
	Reading    Reading
}

// Estimate is one arm's share or mean with its interval.
type Estimate struct {
	Name      string
	N         int
	Estimate  float64
	Low, High *float64
}

// Comparison is the answer.
type Comparison struct {
	Pairs []Pair
	Arms  []Estimate
	Steps []working.Step
}

// MaxArms and MaxN bound a trial.
const (
	MaxArms = 50
	MaxN    = 10_000_000
)

// Compare compares every pair of arms. Shares: Newcombe's hybrid score interval
// and Fisher's exact test; means: Welch's interval and test. p is corrected
// after Holm over all pairs. It refuses with field.Errors.
func Compare(arms []Arm, level float64) (Comparison, error) {
	if err := check(arms, level); err != nil {
		return Comparison{}, err
	}
	counts := arms[0].Values == nil
	var c Comparison
	for _, a := range arms {
		if counts {
			c.Arms = append(c.Arms, share(a, level))
		} else {
			c.Arms = append(c.Arms, mean(a, level))
		}
	}
	for i := range arms {
		for j := i + 1; j < len(arms); j++ {
			if counts {
				c.Pairs = append(c.Pairs, newcombe(arms[i], arms[j], c.Arms[i], c.Arms[j]))
			} else {
				c.Pairs = append(c.Pairs, welch(arms[i], arms[j], level))
			}
		}
	}
	holm(c.Pairs)
	size := map[string]int{}
	for _, a := range c.Arms {
		size[a.Name] = a.N
	}
	for i := range c.Pairs {
		p := &c.Pairs[i]
		p.Reading = p.read(min(size[p.A], size[p.B]), level, counts)
		c.Steps = append(c.Steps, p.step(counts))
	}
	return c, nil
}

func check(arms []Arm, level float64) error {
	var e field.Errors
	e.Require(len(arms) >= 2 && len(arms) <= MaxArms, "arms", "must be 2 to 50 arms")
	e.Require(level > 0 && level < 1, "level", "must be a share above 0 and below 1")
	seen := map[string]bool{}
	for i, a := range arms {
		at := fmt.Sprintf("arms.%d.", i)
		e.Require(!seen[a.Name], at+"name", "is in the list twice")
		seen[a.Name] = true
		if (a.Values == nil) != (arms[0].Values == nil) {
			e.Add(at+"values", "mixes kinds: all groups count successes, or all list values")
			continue
		}
		if a.Values == nil {
			e.Require(a.N >= 1 && a.N <= MaxN, at+"n", "must be 1 to 10,000,000")
			e.Require(a.Successes >= 0 && a.Successes <= a.N, at+"successes", "must be 0 up to n")
			continue
		}
		e.Require(len(a.Values) >= 1, at+"values", "needs at least one value")
		for j, v := range a.Values {
			if !(math.Abs(v) <= 1e12) {
				e.Add(fmt.Sprintf("%svalues.%d", at, j), "must be a number up to 10¹² in size")
				break
			}
		}
	}
	return e.Err()
}

func share(a Arm, level float64) Estimate {
	low, high := seed.Wilson(a.Successes, a.N, level)
	return Estimate{a.Name, a.N, float64(a.Successes) / float64(a.N), &low, &high}
}

func mean(a Arm, level float64) Estimate {
	m, v := stat.MeanVariance(a.Values, nil)
	e := Estimate{Name: a.Name, N: len(a.Values), Estimate: m}
	if n := float64(e.N); e.N > 1 {
		half := studentQuantile(level, n-1) * math.Sqrt(v/n)
		low, high := m-half, m+half
		e.Low, e.High = &low, &high
	}
	return e
}

// newcombe is his method 10: the two score intervals, squared and added.
func newcombe(a, b Arm, ea, eb Estimate) Pair {
	d := eb.Estimate - ea.Estimate
	low := d - math.Hypot(eb.Estimate-*eb.Low, *ea.High-ea.Estimate)
	high := d + math.Hypot(*eb.High-eb.Estimate, ea.Estimate-*ea.Low)
	p := fisher(a.Successes, a.N, b.Successes, b.N)
	return Pair{A: a.Name, B: b.Name, Difference: d, Low: &low, High: &high, P: &p}
}

// fisher is the two-sided exact test: the chance of all tables no likelier than
// the one seen. Terms are built from their neighbours, relative to the likeliest,
// out to where they are nothing beside it.
func fisher(k1, n1, k2, n2 int) float64 {
	total := k1 + k2
	low, high := max(0, total-n2), min(n1, total)
	mode := int(math.Floor((float64(n1) + 1) * (float64(total) + 1) / (float64(n1+n2) + 2)))
	mode = max(low, min(high, mode))
	const nothing = 1e-300
	up := func(x int) float64 { // P(x+1)/P(x)
		return float64(n1-x) / float64(x+1) * (float64(total-x) / float64(n2-total+x+1))
	}
	// walk visits every table that weighs anything beside the likeliest, which weighs 1.
	walk := func(visit func(x int, w float64)) {
		visit(mode, 1)
		for x, w := mode, 1.0; x < high && w > nothing; x++ {
			w *= up(x)
			visit(x+1, w)
		}
		for x, w := mode, 1.0; x > low && w > nothing; x-- {
			w /= up(x - 1)
			visit(x-1, w)
		}
	}
	seen, all, tail := 0.0, 0.0, 0.0
	walk(func(x int, w float64) {
		if all += w; x == k1 {
			seen = w * (1 + 1e-7)
		}
	})
	walk(func(_ int, w float64) {
		if w <= seen {
			tail += w
		}
	})
	return min(1, tail/all)
}

func welch(a, b Arm, level float64) Pair {
	ma, va := stat.MeanVariance(a.Values, nil)
	mb, vb := stat.MeanVariance(b.Values, nil)
	p := Pair{A: a.Name, B: b.Name, Difference: mb - ma}
	na, nb := float64(len(a.Values)), float64(len(b.Values))
	if na < 2 || nb < 2 || (flat(a.Values) && flat(b.Values)) {
		return p
	}
	if flat(a.Values) {
		va = 0
	}
	if flat(b.Values) {
		vb = 0
	}
	sa, sb := va/na, vb/nb
	if sa+sb == 0 {
		return p // so little that no number holds it
	}
	fa, fb := sa/(sa+sb), sb/(sa+sb)
	df := 1 / (fa*fa/(na-1) + fb*fb/(nb-1))
	se := math.Sqrt(sa + sb)
	half := studentQuantile(level, df) * se
	low, high := p.Difference-half, p.Difference+half
	t := p.Difference / se
	prob := mathext.RegIncBeta(df/2, 0.5, df/(df+t*t))
	p.Low, p.High, p.P = &low, &high, &prob
	return p
}

func flat(v []float64) bool {
	for _, x := range v {
		if x != v[0] {
			return false
		}
	}
	return true
}

// studentQuantile is the t that leaves 1 − level in both tails together.
func studentQuantile(level, df float64) float64 {
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: df}.Quantile(0.5 + level/2)
	// One step of Newton on the tail itself, which the library's quantile
	// inverts less exactly than it computes.
	for range 3 {
		tail := mathext.RegIncBeta(df/2, 0.5, df/(df+t*t))
		density := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: df}.Prob(t)
		if density == 0 {
			break
		}
		t += (tail - (1 - level)) / (2 * density)
	}
	return t
}

// holm corrects for having looked at several pairs.
func holm(pairs []Pair) {
	var with []int
	for i, p := range pairs {
		if p.P != nil {
			with = append(with, i)
		}
	}
	sort.SliceStable(with, func(i, j int) bool { return *pairs[with[i]].P < *pairs[with[j]].P })
	worst := 0.0
	for rank, i := range with {
		worst = max(worst, min(1, float64(len(with)-rank)**pairs[i].P))
		v := worst
		pairs[i].PHolm = &v
	}
}

func (p Pair) read(fewest int, level float64, counts bool) Reading {
	switch {
	case fewest < 5 || p.P == nil:
		return TooFew
	case *p.PHolm < 1-level:
		return Difference
	case counts && *p.High-*p.Low > 0.5:
		return TooFew
	}
	return NoClearDifference
}

func (p Pair) step(counts bool) working.Step {
	s := working.Step{Name: say.T("%s minus %s", p.B, p.A), Value: p.Difference, Source: say.T("Welch (1947)")}
	if counts {
		s.Source = say.T("interval: Newcombe (1998), method 10; p: Fisher's exact test")
	}
	if p.Low != nil {
		s.Formula = say.T("between %.4g and %.4g; p %.4g, after Holm %.4g", *p.Low, *p.High, *p.P, *p.PHolm)
	}
	return s
}
