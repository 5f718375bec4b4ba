// Package trouble guesses what ails plants, from a sign that somebody sees, two or three
// questions, and what is known of the batch. It is a guess, and says how sure it is.
//
//	g := trouble.Look("yellow-low", map[string]bool{"light-roots": true}, trouble.Known{DaysLate: 9})
//	fmt.Println(g.Causes[0].ID, g.Ask)
package trouble

import (
	"cmp"
	"math"
	"slices"

	"ulpa/core/say"
	"ulpa/core/unit"
)

// Known is what the books say of a batch; nil is not known.
type Known struct {
	AgeDays   int
	DaysLate  int // that it has waited in its tray beyond its time; 0: not late
	WarmC     *float64
	PH        *float64 // of the water it stands in, as last read
	PHHigh    float64  // of the band wanted
	ECMS      *float64
	ECHigh    float64
	ECLow     float64
	WaterC    *float64
	InWater   bool // its roots hang in water
	NoHoles   bool // its tray lets no water out
	Outside   bool
	CutsBack  bool     // its kind can be cut back
	ColdNight *float64 // the coldest of the last nights it stood out
}

// Guess is a cause, with its share among those that come into question.
type Guess struct {
	Cause
	Share   float64
	Because []say.Text // of what is known, what speaks for it
}

// Finding is what a look comes to: the causes, the likeliest first, and what to ask next; nil
// when nothing asked would tell more.
type Finding struct {
	Causes []Guess
	Ask    *Question
}

// Of the causes, so many are named while they are worth a thought.
const named, worth = 2, 0.08

// Likely are the causes to name: the likeliest, and another where it comes near.
func (f Finding) Likely() []Guess {
	n := 1
	for n < min(named, len(f.Causes)) && f.Causes[n].Share >= worth {
		n++
	}
	return f.Causes[:n]
}

// most are asked, and enough is the share at which nobody asks on.
const (
	most   = 3
	enough = 0.8
)

// Look weighs the causes of a sign by what was answered and what is known: shares multiplied
// as if each told of its own, the rule of Bayes at its simplest.
func Look(sign string, answers map[string]bool, k Known) Finding {
	var f Finding
	sum := 0.0
	for _, c := range Causes {
		g := Guess{Cause: c, Share: c.Usual * c.seen(sign)}
		for _, q := range Questions {
			if yes, answered := answers[q.ID]; answered {
				p := q.yes(c.ID)
				if !yes {
					p = 1 - p
				}
				g.Share *= p
			}
		}
		if c.known != nil {
			factor, because := c.known(k)
			g.Share *= factor
			if factor > 1 && because != nil {
				g.Because = append(g.Because, because)
			}
		}
		sum += g.Share
		f.Causes = append(f.Causes, g)
	}
	for i := range f.Causes {
		if sum > 0 {
			f.Causes[i].Share /= sum
		}
	}
	slices.SortStableFunc(f.Causes, func(a, b Guess) int { return cmp.Compare(b.Share, a.Share) })
	if len(answers) < most && (len(answers) == 0 || f.Causes[0].Share < enough) {
		f.Ask = f.next(answers)
	}
	return f
}

// Does is what to do about it today, for what is known.
func (c Cause) Does(k Known) []say.Words {
	if k.CutsBack && c.Cut != "" {
		return append([]say.Words{c.Cut}, c.Today...)
	}
	return c.Today
}

// next is the question that is expected to leave the least doubt; the first is asked however sure
// the sign alone seems, since what is done about the others may harm.
func (f Finding) next(answers map[string]bool) *Question {
	best, least := -1, doubt(shares(f.Causes))-0.02
	if len(answers) == 0 {
		least = math.Inf(1)
	}
	for i, q := range Questions {
		if _, answered := answers[q.ID]; answered {
			continue
		}
		yes, no := make([]float64, len(f.Causes)), make([]float64, len(f.Causes))
		pYes := 0.0
		for n, g := range f.Causes {
			p := q.yes(g.ID)
			yes[n], no[n] = g.Share*p, g.Share*(1-p)
			pYes += yes[n]
		}
		if left := pYes*doubt(yes) + (1-pYes)*doubt(no); left < least {
			best, least = i, left
		}
	}
	if best < 0 {
		return nil
	}
	return &Questions[best]
}

func shares(list []Guess) (out []float64) {
	for _, g := range list {
		out = append(out, g.Share)
	}
	return out
}

// doubt is the entropy of shares, in bits (Shannon 1948).
func doubt(list []float64) float64 {
	sum, h := 0.0, 0.0
	for _, p := range list {
		sum += p
	}
	for _, p := range list {
		if p > 0 && sum > 0 {
			h -= p / sum * math.Log2(p/sum)
		}
	}
	return h
}

// Sure is how sure a share is, in words.
func Sure(share float64) say.Words {
	switch {
	case share >= 0.75:
		return "likely"
	case share >= 0.45:
		return "perhaps"
	}
	return "could be"
}

func warm(k Known, above float64) bool { return k.WarmC != nil && *k.WarmC > above }

func celsius(c float64) say.Text { return say.Of(math.Round(c), unit.Celsius) }
