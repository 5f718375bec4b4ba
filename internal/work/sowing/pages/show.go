package pages

import (
	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/core/unit"
	"ulpa/internal/doors/face"
	"ulpa/internal/work/site"
	"ulpa/internal/work/sowing"
)

// fewOptions is how many ways to sow are all shown.
const fewOptions = 6

func answerOf(a sowing.SowAnswer, p say.Reader) *answerView {
	v := &answerView{Because: p.Say(a.Rate.Because), Best: a.Rate.Recommended, Steps: face.StepsOf(a.Rate.Steps, p)}
	v.Lot = p.T("%s %s, lot %s, packed %d", a.Crop.Name, a.Lot.Variety, a.Lot.Name, a.Lot.Packed)
	if a.Learned.Rests > 0 {
		low, high := a.Learned.Between(0.95)
		v.Lot = p.T("%s. About %s should germinate (%s to %s), judging by %.0f seeds that were tested", say.Name(v.Lot), face.Percent(a.Learned.Mean()),
			face.Percent(low), face.Percent(high), a.Learned.Rests)
	}
	v.Notes = a.Lot.Notes
	if a.Lot.Taste != nil {
		v.Taste = p.T("Tasted here: %d of 5.", *a.Lot.Taste)
	}
	if t := a.TempC; t != nil && !a.ComesUp {
		v.Wrong = p.T(
			"%s does not germinate at %s, the temperature where this tray is: it needs %s to %s. Put the tray in a better place.",
			a.Crop.Name,
			p.Format(*t, unit.Celsius),
			p.Figure(a.Crop.BaseC, unit.Celsius),
			p.Format(a.Crop.CeilingC, unit.Celsius),
		)
	} else if t != nil && a.Share < 0.8 {
		better := say.Words("At %s, where this tray is, only %s of the seed germinates that would at its best temperature; the number of seeds allows " +
			"for that. A warmer place is better.")
		if a.Crop.Shares.At(*t-3) > a.Crop.Shares.At(*t+3) {
			better = "At %s, where this tray is, only %s of the seed germinates that would at its best temperature; the number of seeds allows for that. A " +
				"cooler place is better."
		}
		v.Wrong = p.T(better, p.Format(*t, unit.Celsius), face.Percent(a.Share))
	}
	spares := seed.Spares(a.Lot.SeedsLeft)
	if a.Old() && !spares {
		v.Warn = p.T("This seed is %d years old, and %s keeps about %s: fewer will come. There is too little for a test; sow more than you need.",
			a.AgeYears, say.Lower(a.Crop.Name), say.Plural(a.Crop.SeedYears, "year"))
	} else if a.Old() {
		v.Warn = p.T(
			"This seed is %d years old, and %s usually keeps about %s. Test twenty seeds on damp paper before you rely on it.",
			a.AgeYears,
			say.Lower(a.Crop.Name),
			say.Plural(a.Crop.SeedYears, "year"),
		)
	} else if a.Learned.By == seed.ByUsual && spares {
		v.Warn = p.T("Nobody knows how well this packet germinates; the number of seeds assumes the usual, with some to spare. Test twenty seeds first.")
	}
	for _, o := range a.Rate.Options {
		if n := o.SeedsPerCell; len(a.Rate.Options) > fewOptions && n > 3 && n%5 != 0 && n != a.Rate.Recommended {
			continue
		}
		x := optionView{
			Seeds:   o.SeedsPerCell,
			Cells:   o.Cells,
			Total:   o.Seeds,
			Trays:   o.Trays,
			Best:    o.SeedsPerCell == a.Rate.Recommended,
			Reached: !o.OutOfReach,
			Enough:  o.EnoughSeed,
		}
		x.Chance = face.Percent(o.Chance)
		if x.Best {
			v.BestCells = o.Cells
			v.Big = p.T(
				"%s, %s in each: %d seeds, %s.",
				say.Plural(o.Cells, "cell"),
				say.Plural(o.SeedsPerCell, "seed"),
				o.Seeds,
				say.Plural(o.Trays, "tray"),
			)
		}
		v.Options = append(v.Options, x)
	}
	if v.Big == "" {
		v.Big = p.T("This seed cannot reach the number.")
	}
	if a.Open {
		a.Crop.Clump = false // what is said of cells
	}
	v.How = p.All(a.Crop.AtSowing(best(a), a.Lot.Pelleted))
	if v.BestCells > 0 && a.Open {
		v.How = append(v.How, p.Say(seed.CountOut(best(a), a.Lot.SeedsLeft)))
	} else if v.BestCells > 0 {
		v.How = append(v.How, p.All(seed.LayOut(v.BestCells, v.Best, a.Crop.Clump, a.Lot.SeedsLeft))...)
	}
	return v
}

// inSections says the same for an open tray, in so many of its sections.
func (v *answerView) inSections(seeds, sections int, t site.Tray, p say.Reader) {
	v.BestCells, v.Options = 0, nil
	if seeds == 0 {
		return
	}
	each, says := seed.InSections(seeds, sections, t.CellML, t.HeightCM)
	v.Best, v.Big = each, p.T("%s in an open tray.", say.Plural(seeds, "seed"))
	v.Because = p.Say(says[0])
	v.How = append(p.All(says[1:]), v.How...)
}

// best is how many seeds the answer comes to.
func best(a sowing.SowAnswer) int {
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
