package seed

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

// Result is what came of seed that somebody tried, on paper or in cells.
type Result struct {
	Years float64 // ago, 0 or more
	Seeds float64 // tried
	Came  float64 // of them, 0 to Seeds
}

// OfCells is what cells with so many seeds in each say of the seed: a cell is empty when none
// of them comes, so of p² empty cells with two in each p seeds in a hundred failed. Cells tell
// no more than as many seeds would, one in each.
func OfCells(years float64, cells, perCell, came int) Result {
	if cells < 1 {
		return Result{Years: years}
	}
	empty := 1 - float64(min(came, cells))/float64(cells)
	chance := 1 - math.Pow(empty, 1/float64(max(1, perCell)))
	return Result{Years: years, Seeds: float64(cells), Came: float64(cells) * chance}
}

// Learned is the chance that a seed comes, by what was tried: beta distributed.
type Learned struct {
	A, B  float64
	Rests float64 // tried seeds that it rests on, older ones counted less
}

// fade is by how much less a result counts for each year that the latest is younger.
const fade = 0.5

// Learn begins from what is thought of the seed at first, a share that counts for so many
// seeds, and takes each result into account: the beta-binomial rule. Results older than the
// latest count half as much for each year between, since seed ages.
func Learn(share, worth float64, results []Result) Learned {
	l := Learned{A: share*worth + 0.5, B: (1-share)*worth + 0.5}
	latest := math.Inf(1)
	for _, r := range results {
		if r.Seeds > 0 {
			latest = math.Min(latest, r.Years)
		}
	}
	for _, r := range results {
		if r.Seeds <= 0 {
			continue
		}
		weight := math.Pow(fade, r.Years-latest)
		came := math.Min(r.Seeds, math.Max(0, r.Came))
		l.A += weight * came
		l.B += weight * (r.Seeds - came)
		l.Rests += weight * r.Seeds
	}
	return l
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
	return Germination{Rate: l.Mean(), Tested: tested, Sprouted: min(tested, max(0, int(math.Round(l.A-0.5))))}
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
		case !p.Tested && 2*p.AgeYears >= p.KeepsYears && p.AgeYears > 0:
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
