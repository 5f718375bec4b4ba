package seed

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"ulpa/core/say"
)

// Result is what came of seed that somebody tried: of seeds on paper, or of cells, in each of
// which so many were sown.
type Result struct {
	Years float64 // ago, 0 or more
	Tried int     // seeds, or cells
	Came  int     // of them, 0 to Tried
	Each  int     // seeds in a cell, of which one at least came; 0 and 1: each seed for itself
}

// Learned is the chance that a seed comes, by what was tried: beta distributed.
type Learned struct {
	A, B  float64
	Rests float64   // tried seeds that it rests on, older ones counted less
	By    say.Words // what it rests on where no test did; "": a test
}

// fade is by how much less a result counts for each year that the latest is younger.
const fade = 0.5

// Learn begins from what is thought of the seed at first, a share that counts for so many
// seeds, and takes each result into account: the beta-binomial rule. Results older than the
// latest count half as much for each year between, since seed ages. Of a cell with several
// seeds it is known only whether any came; what is learned then is a beta distribution of the
// same mean and spread as the true one.
func Learn(share, worth float64, results []Result) Learned {
	l := Learned{A: share*worth + 0.5, B: (1-share)*worth + 0.5}
	latest := math.Inf(1)
	for _, r := range results {
		if r.Tried > 0 {
			latest = math.Min(latest, r.Years)
		}
	}
	var cells []weighted
	for _, r := range results {
		if r.Tried <= 0 {
			continue
		}
		w := math.Pow(fade, r.Years-latest)
		came := w * float64(min(r.Tried, max(0, r.Came)))
		none := w*float64(r.Tried) - came
		l.Rests += (came + none) * math.Max(1, float64(r.Each)) // cells are not seeds
		if r.Each > 1 {
			cells = append(cells, weighted{came, none, float64(r.Each)})
			continue
		}
		l.A += came
		l.B += none
	}
	if len(cells) > 0 {
		l.fromCells(cells)
	}
	return l
}

// weighted are cells with so many seeds in each, in which something came, and nothing.
type weighted struct{ came, none, each float64 }

// fromCells takes cells into account: chances from 0 to 1, weighed by how well each explains
// what was seen, give the mean and the spread.
func (l *Learned) fromCells(cells []weighted) {
	const steps = 600
	logs, most := make([]float64, steps), math.Inf(-1)
	for i := range logs {
		p := (float64(i) + 0.5) / steps
		logs[i] = (l.A-1)*math.Log(p) + (l.B-1)*math.Log1p(-p)
		for _, c := range cells {
			empty := c.each * math.Log1p(-p)
			logs[i] += c.came*math.Log(-math.Expm1(empty)) + c.none*empty
		}
		most = math.Max(most, logs[i])
	}
	sum, mean, square := 0.0, 0.0, 0.0
	for i, x := range logs {
		p, w := (float64(i)+0.5)/steps, math.Exp(x-most)
		sum += w
		mean += w * p
		square += w * p * p
	}
	mean /= sum
	spread := math.Max(square/sum-mean*mean, 1e-9)
	size := mean*(1-mean)/spread - 1
	l.A, l.B = mean*size, (1-mean)*size
}

// usualWorth is for how many seeds it counts what is usual of a crop: fresh packets of a kind
// differ by about a tenth.
const usualWorth = 12

const (
	ageing     = 0.7 // probits that seed loses while it usually keeps
	leastWorth = 4   // of what is usual of seed that is older than that
	ofOthers   = 10  // seeds that all others of its crop count for, at most
)

// Prior is what is thought of a packet before anything of it was tried, and for how many seeds
// that counts: its label, less of it the older it is, or what is usual of its crop, which ages
// in its packet by probits (Ellis and Roberts 1980).
func Prior(label *float64, usual float64, ageYears, keepsYears int) (share, worth float64) {
	if label != nil {
		return *label, WorthOfLabel(ageYears, keepsYears) / 2
	}
	age := math.Max(0, float64(ageYears)) / math.Max(1, float64(keepsYears))
	share = distuv.UnitNormal.CDF(distuv.UnitNormal.Quantile(math.Min(math.Max(usual, 0.01), 0.99)) - ageing*age)
	return share, math.Max(leastWorth, usualWorth*(1-age/2))
}

// Beside joins what is thought of a packet with what came of others of its crop here, which
// count for a few seeds: packets differ.
func Beside(share, worth float64, others []Result) (float64, float64) {
	l := Learn(share, 1, others)
	if l.Rests <= 0 {
		return share, worth
	}
	more := math.Min(l.Rests/2, ofOthers)
	return (share*worth + l.Mean()*more) / (worth + more), worth + more
}

// Mean is the chance that is expected.
func (l Learned) Mean() float64 { return l.A / (l.A + l.B) }

// Between holds the chance in so many of a hundred such cases: 0.95 for 95.
func (l Learned) Between(share float64) (low, high float64) {
	d := distuv.Beta{Alpha: l.A, Beta: l.B}
	return d.Quantile((1 - share) / 2), d.Quantile((1 + share) / 2)
}

// Germination is the same as a test of whole seeds, as sums of sowing take it.
func (l Learned) Germination() Germination {
	tested := max(1, int(math.Round(l.A+l.B-1)))
	return Germination{Rate: l.Mean(), Tested: tested, Sprouted: min(tested, max(0, int(math.Round(l.A-0.5)))), By: l.By}
}

// Advice for a packet on the shelf, the most pressing first.
const (
	ThrowAway = "throw"  // hardly anything comes any more
	TestFirst = "test"   // nobody knows what comes of it
	SowFirst  = "first"  // the oldest of its kind that is still good
	NoneLeft  = "buy"    // it is empty, and there is no other
	Keeps     = "keeps"  // nothing to do
	Spare     = "second" // an older one is to be sown before it
)

// OnShelf is a packet as the shelf looks at it.
type OnShelf struct {
	AgeYears, KeepsYears int
	Left                 *int    // seeds; nil: nobody counted
	Tested               bool    // within a year
	Share                float64 // expected to come
}

// aTest is how many seeds a test takes.
const aTest = 20

// Spares tells whether a packet has seed to spare for a test: as many again are left to sow.
// Nobody counted: it may.
func Spares(left *int) bool { return left == nil || *left >= 2*aTest }

// hardly is the share under which seed is not worth its cells.
const hardly = 0.25

// Advise says what to do with each packet of one crop, in their order.
func Advise(packets []OnShelf) []string {
	out := make([]string, len(packets))
	first, any := -1, false
	for i, p := range packets {
		empty := p.Left != nil && *p.Left == 0
		any = any || !empty
		switch {
		case empty:
			out[i] = NoneLeft
		case p.Tested && p.Share < hardly:
			out[i] = ThrowAway
		case !p.Tested && 2*p.AgeYears >= p.KeepsYears && p.AgeYears > 0 && Spares(p.Left):
			out[i] = TestFirst
		default:
			out[i] = Spare
			if first < 0 || p.AgeYears > packets[first].AgeYears {
				first = i
			}
		}
	}
	alone := true
	for i, a := range out {
		alone = alone && (a != Spare || i == first)
		if a == NoneLeft && any {
			out[i] = Keeps // there is another
		}
	}
	if first >= 0 {
		out[first] = SowFirst
		if alone {
			out[first] = Keeps
		}
	}
	return out
}
