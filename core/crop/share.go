package crop

import (
	"ulpa/core/say"
)

// Common is the window that solutions share, each for pH and for strength; ok is false
// where one of the two has none.
func Common(list []Solution) (both Solution, ok bool) {
	for i, x := range list {
		if i == 0 {
			both = x
			continue
		}
		both.PH, both.EC = both.PH.and(x.PH), both.EC.and(x.EC)
	}
	return both, len(list) > 0 && both.PH.Low <= both.PH.High && both.EC.Low <= both.EC.High
}

// and is where both hold; its low lies above its high where nothing does.
func (r Range) and(o Range) Range { return Range{max(r.Low, o.Low), min(r.High, o.High)} }

// Apart tells whether a window shares nothing with another, in pH or in strength.
func (x Solution) Apart(o Solution) bool { return x.PH.apart(o.PH) || x.EC.apart(o.EC) }

// Costs is what plants pay that stand in a solution outside their window.
func (x Solution) Costs(in Solution) (says []say.Text) {
	switch {
	case in.EC.Low > x.EC.High:
		says = append(says, say.T("too strong for it: leaf edges burn, it grows slowly and tastes bitter"))
	case in.EC.High < x.EC.Low:
		says = append(says, say.T("too weak for it: it grows pale and slowly, and fruit stays small"))
	}
	switch {
	case in.PH.Low > x.PH.High:
		says = append(says, say.T("its pH is too high for it: it gets too little iron, young leaves turn yellow"))
	case in.PH.High < x.PH.Low:
		says = append(says, say.T("its pH is too low for it: it gets too little calcium and magnesium, roots turn brown"))
	}
	return says
}

// Suits is which of some solutions suits a crop best: that whose middle lies nearest its own
// strength, of those that share its window; −1: none does.
func (x Solution) Suits(tanks []Solution) int {
	best, gap := -1, 0.0
	for i, t := range tanks {
		if t.Apart(x) {
			continue
		}
		d := max(t.EC.Low+t.EC.High, x.EC.Low+x.EC.High) - min(t.EC.Low+t.EC.High, x.EC.Low+x.EC.High)
		if best < 0 || d < gap {
			best, gap = i, d
		}
	}
	return best
}

// Stage is the stage that a plant is in at an age, days from sowing, in a word.
func (c Crop) Stage(age int) say.Words {
	switch {
	case age < c.NurseryDays:
		return "seedling"
	case age < c.NurseryDays+c.Growing.Days:
		return "growing on"
	}
	return "cropping"
}
