package calc

import (
	"fmt"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/crop"
	"ulpa/core/plan"
	"ulpa/core/seed"
	"ulpa/core/trial"
)

var growingSums = []Calculator{seedRate, germinationTime, emergence, backSchedule, frost, compare}

var seedRate = Calculator{
	Need: Sowing,
	Name: "seed-rate", Title: "How much to sow", Answers: "How many seeds in a cell, how many cells, and the chance to reach the number",
	Fields: []Field{
		{Name: "plants_wanted", Kind: "integer", Needed: true, Takes: "1 to 100,000", OnScreen: "Plants wanted"},
		{
			Name:     "germination",
			Kind:     "object",
			Needed:   true,
			Takes:    `{"rate": 0 to 1} or {"tested": 1 or more, "sprouted": up to tested}, never both`,
			OnScreen: "Germination: a test, or the label",
			Parts:    testOrLabel,
		},
		{Name: "cells_per_tray", Kind: "integer", Needed: true, Takes: "1 or more", OnScreen: "Cells in a tray"},
		{Name: "confidence", Kind: "number", Unit: "share", Default: "0.9", Takes: "above 0 and below 1", OnScreen: "How sure"},
		{
			Name:     "survival",
			Kind:     "number",
			Unit:     "share",
			Default:  "1",
			Takes:    "0 to 1: the chance that a cell with a sprout ends in a plant",
			OnScreen: "Seedlings that survive",
		},
		{Name: "max_seeds_per_cell", Kind: "integer", Default: "3", Takes: "1 to 20", OnScreen: "At most in a cell"},
		{Name: "seeds_on_hand", Kind: "integer", Takes: "0 or more", OnScreen: "Seeds in stock"},
	},
	Example: `{"plants_wanted": 24, "germination": {"tested": 25, "sprouted": 20}, "cells_per_tray": 24, "survival": 0.95}`,
	run: func(o *object) (answer, error) {
		in := seed.RateInput{
			PlantsWanted: o.integer("plants_wanted"), Confidence: o.numberOr("confidence", 0.9), Survival: o.numberOr("survival", 1),
			MaxSeedsPerCell: o.integerOr("max_seeds_per_cell", 3), CellsPerTray: o.integer("cells_per_tray"),
		}
		in.Germination, _ = readGermination(o.object("germination"), false)
		if o.has("seeds_on_hand") {
			n := o.integer("seeds_on_hand")
			in.SeedsOnHand = &n
		}
		return with(
			o,
			func() (seed.RateAnswer, error) { return seed.Rate(in) },
			func(a seed.RateAnswer) answer { return tellRate(a, in.SeedsOnHand != nil) },
		)
	},
}

func tellRate(a seed.RateAnswer, onHand bool) answer {
	var options []answer
	for _, x := range a.Options {
		o := answer{"seeds_per_cell": x.SeedsPerCell, "cell_fill": x.CellFill}
		for name, v := range map[string]any{
			"cells": x.Cells, "seeds": x.Seeds, "trays": x.Trays, "chance": x.Chance, "expected_plants": x.ExpectedPlants,
			"thinned": x.Thinned,
		} {
			if o[name] = v; x.OutOfReach {
				o[name] = nil
			}
		}
		if onHand || x.OutOfReach {
			o["enough_seed"] = x.EnoughSeed
		}
		options = append(options, o)
	}
	out := answer{"options": options, "recommended": nil, "because": a.Because, "steps": a.Steps}
	if a.Recommended > 0 {
		out["recommended"] = a.Recommended
	}
	return out
}

var germinationTime = Calculator{
	Need: Sowing,
	Name: "germination-time", Title: "How long until they are up", Answers: "Days until half have come up, by the temperature of the growing medium",
	Fields: []Field{
		{Name: "crop", Kind: "text", Needed: true, Takes: "a crop of the catalogue", FromBook: cropIDs, OnScreen: "Crop"},
		{Name: "temperature_c", Kind: "number", Unit: "°C", Needed: true, Takes: "−20 to 60, of the medium", OnScreen: "Temperature of the medium"},
	},
	Example: `{"crop": "tomato", "temperature_c": 21}`,
	run: func(o *object) (answer, error) {
		name, t := o.text("crop"), o.number("temperature_c")
		return with(o, func() (seed.Germinates, error) { return seed.GerminationTime(name, t) }, func(g seed.Germinates) answer {
			out := answer{
				"germinates":   g.Germinates,
				"days_to_half": nil,
				"base_c":       g.BaseC,
				"optimum_c":    g.OptimumC,
				"ceiling_c":    g.CeilingC,
				"steps":        g.Steps,
			}
			if g.Germinates {
				out["days_to_half"] = g.DaysToHalf
			}
			return out
		})
	},
}

func cropIDs() (ids []string) {
	for _, c := range crop.All() {
		ids = append(ids, c.ID)
	}
	return ids
}

var emergence = Calculator{
	Need: Sowing,
	Name: "emergence", Title: "What a run of counts says", Answers: "Percent up with its range, and how fast and how evenly they came up",
	Fields: []Field{
		{Name: "sown", Kind: "integer", Needed: true, Takes: "1 or more", OnScreen: "Sown"},
		{
			Name:     "counts",
			Kind:     "list",
			Needed:   true,
			Takes:    `{"day": 0 or more, "sprouted": all so far}, days rising`,
			OnScreen: "Counts",
			Parts:    []Field{{Name: "day", Kind: "number", OnScreen: "Day after sowing"}, {Name: "sprouted", Kind: "integer", OnScreen: "Up so far"}},
		},
	},
	Example: `{"sown": 30, "counts": [{"day": 3, "sprouted": 2}, {"day": 5, "sprouted": 21}, {"day": 7, "sprouted": 26}]}`,
	run: func(o *object) (answer, error) {
		sown := o.integer("sown")
		var counts []seed.Counted
		o.each("counts", func(_ int, c *object) {
			counts = append(counts, seed.Counted{Day: c.number("day"), Sprouted: c.integer("sprouted")})
		})
		return with(o, func() (seed.Emergence, error) { return seed.Emerged(sown, counts) }, func(e seed.Emergence) answer {
			return answer{
				"percent": e.Percent, "low_percent": e.LowPercent, "high_percent": e.HighPercent,
				"t50_days": e.T50Days, "mean_days": e.MeanDays, "spread_days": e.SpreadDays, "steps": e.Steps,
			}
		})
	},
}

var backSchedule = Calculator{
	Need: Planning,
	Name: "back-schedule", Title: "When to sow", Answers: "From the day it must be ready back to the day to sow, on open days",
	Fields: []Field{
		{Name: "ready_by", Kind: "date", Needed: true, Takes: "a date", OnScreen: "Ready by"},
		{
			Name:     "early_days",
			Kind:     "integer",
			Unit:     "days",
			Default:  "0",
			Takes:    "0 to 3,660: how much earlier it may be ready",
			OnScreen: "May be early by",
		},
		{
			Name:     "stages",
			Kind:     "list",
			Needed:   true,
			Takes:    `{"name", "days": shortest, "hold_days": how much longer it can wait}, 1 to 50`,
			OnScreen: "Stages, from sowing on",
			Parts: []Field{
				{
					Name:     "name",
					Kind:     "text",
					OnScreen: "Stage",
				},
				{Name: "days", Kind: "integer", Unit: "days", OnScreen: "Needs at least"},
				{Name: "hold_days", Kind: "integer", Unit: "days", OnScreen: "Can wait"},
			},
		},
		{Name: "workdays", Kind: "list", Needed: true, Takes: "1 (Monday) to 7", Choices: []string{"1", "2", "3", "4", "5", "6", "7"}, OnScreen: "Open on"},
		closedField,
	},
	Example: `{"ready_by": "2027-05-21", "stages": [{"name": "germinate", "days": 6, "hold_days": 2}, {"name": "grow on", "days": 28, "hold_days": 7}], ` +
		`"workdays": [1, 2, 3, 4, 5], "closed": [{"from": "2027-03-29", "to": "2027-04-09"}]}`,
	run: func(o *object) (answer, error) {
		in := plan.Input{ReadyBy: o.day("ready_by"), EarlyDays: o.integerOr("early_days", 0)}
		o.each("stages", func(_ int, s *object) {
			in.Stages = append(in.Stages, plan.Stage{Name: s.text("name"), Days: s.integer("days"), HoldDays: s.integer("hold_days")})
		})
		in.Workdays, in.Closed = o.schoolDays()
		return with(o, func() (plan.Schedule, error) { return plan.BackSchedule(in) }, tellSchedule)
	},
}

// schoolDays reads on which days of the week somebody is there, and when nobody is.
func (o *object) schoolDays() (workdays []int, closed []calendar.Closure) {
	for i, v := range o.list("workdays") {
		workdays = append(workdays, o.asInteger(fmt.Sprintf("workdays.%d", i), v))
	}
	o.each("closed", func(_ int, c *object) {
		closed = append(closed, calendar.Closure{From: c.day("from"), To: c.day("to")})
	})
	return workdays, closed
}

func tellSchedule(s plan.Schedule) answer {
	moves := []answer{}
	for _, m := range s.Moves {
		moves = append(moves, answer{"name": m.Name, "date": m.Day})
	}
	out := answer{"feasible": s.Feasible, "moves": moves, "held_days": nil, "early_days": nil, "steps": s.Steps}
	if s.Feasible {
		out["held_days"], out["early_days"] = s.HeldDays, s.EarlyDays
		return out
	}
	out["why"], out["nearest"] = s.Why, answer{"later": s.Later, "earlier": s.Earlier}
	return out
}

var frost = Calculator{
	Need: Planning,
	Name: "frost", Title: "What the nights say", Answers: "The last spring and first autumn frost as a risk, from a station's nights",
	Fields: []Field{
		{
			Name:     "daily_minima",
			Kind:     "list",
			Needed:   true,
			Takes:    `{"date", "c": −90 to 60}, no date twice`,
			Long:     true,
			OnScreen: "Nights: a date and its low, a line each",
			Parts:    []Field{{Name: "date", Kind: "date"}, {Name: "c", Kind: "number", Unit: "°C"}},
		},
		{Name: "hemisphere", Kind: "text", Needed: true, Choices: []string{"north", "south"}, Takes: "north or south", OnScreen: "Hemisphere"},
		{Name: "threshold_c", Kind: "number", Unit: "°C", Default: "0", Takes: "−90 to 60", OnScreen: "Frost at or below"},
		{Name: "risks", Kind: "list", Unit: "share", Default: "[0.1, 0.25, 0.5]", Takes: "shares from 0 to 1", OnScreen: "Risks"},
	},
	Example: `{"daily_minima": [{"date": "2024-04-01", "c": 8.0}, {"date": "2024-04-02", "c": -1.0}], "hemisphere": "north"}`,
	run: func(o *object) (answer, error) {
		in := climate.FrostInput{
			ThresholdC: o.numberOr("threshold_c", 0),
			South:      o.choice("hemisphere", "north", "south") == "south",
			Risks:      []float64{0.1, 0.25, 0.5},
		}
		o.each("daily_minima", func(_ int, m *object) {
			in.Minima = append(in.Minima, climate.Minimum{Day: m.day("date"), C: m.number("c")})
		})
		if o.has("risks") {
			in.Risks = nil
			for i, v := range o.list("risks") {
				in.Risks = append(in.Risks, o.asNumber(fmt.Sprintf("risks.%d", i), v))
			}
		}
		return with(o, func() (climate.Frost, error) { return climate.OfFrost(in) }, tellFrost)
	},
}

func tellFrost(f climate.Frost) answer {
	half := func(h climate.Half) answer {
		list := []answer{}
		for _, r := range h.ByRisk {
			x := answer{"risk": r.Risk, "date": nil}
			if r.Date != "" {
				x["date"] = r.Date
			}
			list = append(list, x)
		}
		return answer{"years": h.Years, "by_risk": list}
	}
	years := []answer{}
	for _, y := range f.EachYear {
		years = append(
			years,
			answer{
				"year":           y.Year,
				"last_spring":    y.LastSpring,
				"first_autumn":   y.FirstAutumn,
				"spring_counted": y.SpringCounted,
				"autumn_counted": y.AutumnCounted,
			},
		)
	}
	return answer{"spring": half(f.Spring), "autumn": half(f.Autumn), "each_year": years, "steps": f.Steps}
}

var compare = Calculator{
	Need: Judging,
	Name: "compare", Title: "Did it make a difference", Answers: "Two or more groups of a trial: a difference, none to be seen, or too few to tell",
	Fields: []Field{
		{
			Name:     "arms",
			Kind:     "list",
			Needed:   true,
			Takes:    `{"name", "n", "successes"} or {"name", "values"}, two or more, all of one kind`,
			OnScreen: "Groups: counts (so many out of so many), or measured values",
			Parts: []Field{
				{
					Name:     "name",
					Kind:     "text",
					OnScreen: "Group",
				},
				{Name: "successes", Kind: "integer", OnScreen: "Successes"},
				{Name: "n", Kind: "integer", OnScreen: "of how many"},
				{
					Name: "values",
					Kind: "list", OnScreen: "or its values",
				},
			},
		},
		{Name: "level", Kind: "number", Unit: "share", Default: "0.95", Takes: "above 0 and below 1", OnScreen: "How sure"},
	},
	Example: `{"arms": [{"name": "plain", "n": 24, "successes": 13}, {"name": "soaked", "n": 24, "successes": 21}]}`,
	run: func(o *object) (answer, error) {
		var arms []trial.Arm
		o.each("arms", func(_ int, a *object) {
			arm := trial.Arm{Name: a.text("name")}
			if a.has("values") {
				arm.Values = []float64{}
				for i, v := range a.list("values") {
					arm.Values = append(arm.Values, a.asNumber(fmt.Sprintf("values.%d", i), v))
				}
			} else {
				arm.N, arm.Successes = a.integer("n"), a.integer("successes")
			}
			arms = append(arms, arm)
		})
		level := o.numberOr("level", 0.95)
		return with(o, func() (trial.Comparison, error) { return trial.Compare(arms, level) }, tellComparison)
	},
}

func tellComparison(c trial.Comparison) answer {
	pairs, arms := []answer{}, []answer{}
	for _, p := range c.Pairs {
		pairs = append(
			pairs,
			answer{"a": p.A, "b": p.B, "difference": p.Difference, "low": p.Low, "high": p.High, "p": p.P, "p_holm": p.PHolm, "reading": p.Reading},
		)
	}
	for _, a := range c.Arms {
		arms = append(arms, answer{"name": a.Name, "n": a.N, "estimate": a.Estimate, "low": a.Low, "high": a.High})
	}
	return answer{"pairs": pairs, "arms": arms, "steps": c.Steps}
}
