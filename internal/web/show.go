package web

import (
	"fmt"
	"strconv"
	"strings"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/ready"
	"ulpa/core/seed"
	"ulpa/core/unit"
	"ulpa/core/working"
	"ulpa/internal/nursery"
)

// stepView is a line of working as it is read.
type stepView struct{ Name, Formula, Value, Own, Source string }

// stepsOf shows a working. Formulas are metric; their results are said in the reader's
// units too.
func stepsOf(steps []working.Step, p unit.Prefs) (out []stepView) {
	for _, x := range steps {
		s := stepView{x.Name, x.Formula, unit.Prefs{}.Format(x.Value, x.Unit), p.Format(x.Value, x.Unit), x.Source}
		if s.Own == s.Value {
			s.Own = ""
		}
		out = append(out, s)
	}
	return out
}

func percent(share float64) string { return strconv.FormatFloat(100*share, 'f', 0, 64) + " %" }

// verdictWords says a verdict, and the mark that goes with it.
func verdictWords(v ready.Verdict, today calendar.Day) (says, mark string) {
	switch v.Word {
	case ready.Ready:
		return fmt.Sprintf("ready, %s left", seed.Plural(v.DaysLeft(today), "day")), "today"
	case ready.Late:
		return fmt.Sprintf("late by %s", seed.Plural(-v.DaysLeft(today), "day")), "now"
	case ready.Look:
		return "time to look and count leaves", "today"
	}
	return "ready about " + v.About.Short(), "none"
}

// raisedWords says how far plants in their tray are: those that stay there are harvested
// from it, not moved.
func raisedWords(c crop.Crop, sown, today calendar.Day, v ready.Verdict) (says, mark string) {
	if !c.Stays() {
		return verdictWords(v, today)
	}
	if due := c.HarvestDue(sown, 0, false); today < due {
		return "to be harvested about " + due.Short(), "none"
	}
	return "ready to harvest", "today"
}

func growthSays(b nursery.Batch) (headline, why string, late bool) {
	says, mark := raisedWords(b.Crop, b.Sown, b.Today, b.Verdict)
	if why = sentence(b.Verdict.Why) + "."; b.Crop.Stays() {
		why = "It is harvested from where it was sown."
	}
	return sentence(says) + ".", why, mark == "now"
}

// sentence begins with a capital letter.
func sentence(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

// fewOptions is how many ways to sow are all shown.
const fewOptions = 6

func answerOf(a nursery.SowAnswer, p unit.Prefs) *answerView {
	v := &answerView{Because: a.Rate.Because, Best: a.Rate.Recommended, Steps: stepsOf(a.Rate.Steps, p)}
	v.Lot = fmt.Sprintf("%s %s, lot %s, packed %d", a.Crop.Name, a.Lot.Variety, a.Lot.Name, a.Lot.Packed)
	if t := a.TempC; t != nil && !a.ComesUp {
		v.Wrong = fmt.Sprintf("%s does not come up at %s, where this tray stands: it takes %s to %s. Choose a tray in a better place.", a.Crop.Name, p.Format(*t, unit.Celsius), p.Figure(a.Crop.BaseC, unit.Celsius), p.Format(a.Crop.CeilingC, unit.Celsius))
	} else if t != nil && a.Share < 0.8 {
		better := "warmer"
		if a.Crop.Shares.At(*t-3) > a.Crop.Shares.At(*t+3) {
			better = "cooler"
		}
		v.Wrong = fmt.Sprintf("At %s, where this tray stands, only %s of the seed comes that would come at its best; the sum counts with that. A %s tray does better.", p.Format(*t, unit.Celsius), percent(a.Share), better)
	}
	if a.Old() {
		v.Warn = fmt.Sprintf("This seed is %d years old, and %s keeps about %s. Test twenty on a damp towel before you rely on it.", a.AgeYears, strings.ToLower(a.Crop.Name), seed.Plural(a.Crop.SeedYears, "year"))
	} else if a.Lot.Tested == nil && a.Lot.LabelRate == nil {
		v.Warn = "Nobody knows how well this lot germinates; the sum takes what is usual, with care. Test twenty seeds first."
	}
	for _, o := range a.Rate.Options {
		if n := o.SeedsPerCell; len(a.Rate.Options) > fewOptions && n > 3 && n%5 != 0 && n != a.Rate.Recommended {
			continue
		}
		x := optionView{Seeds: o.SeedsPerCell, Cells: o.Cells, Total: o.Seeds, Trays: o.Trays, Best: o.SeedsPerCell == a.Rate.Recommended, Reached: !o.OutOfReach, Enough: o.EnoughSeed}
		x.Chance = percent(o.Chance)
		if x.Best {
			v.BestCells = o.Cells
			v.Big = fmt.Sprintf("%s with %s each: %d seeds, %s.", seed.Plural(o.Cells, "cell"), seed.Plural(o.SeedsPerCell, "seed"), o.Seeds, seed.Plural(o.Trays, "tray"))
		}
		v.Options = append(v.Options, x)
	}
	if v.Big == "" {
		v.Big = "This seed does not reach it."
	}
	v.How = a.Crop.AtSowing(best(a), p)
	return v
}

// best is how many seeds the answer comes to.
func best(a nursery.SowAnswer) int {
	for _, o := range a.Rate.Options {
		if n := o.SeedsPerCell; len(a.Rate.Options) > fewOptions && n > 3 && n%5 != 0 && n != a.Rate.Recommended {
			continue
		}
		if o.SeedsPerCell == a.Rate.Recommended {
			return o.Seeds
		}
	}
	return 0
}
