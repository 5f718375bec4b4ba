package calc

import (
	"fmt"
	"math"
	"slices"

	"ulpa/core/crop"
	"ulpa/core/seed"
)

var sproutsSums = []Calculator{expectedCount}

var expectedCount = Calculator{
	Need: Sowing,
	Name: "expected-count", Title: "Are they on course?", Answers: "How many cells should be up by now, and whether a count tells you anything yet",
	Fields: []Field{
		{Name: "cells", Kind: "integer", Needed: true, Takes: "1 to 10,000", OnScreen: "Cells sown"},
		{Name: "seeds_per_cell", Kind: "integer", Needed: true, Takes: "1 to 100", OnScreen: "Seeds in each"},
		{
			Name:     "germination",
			Kind:     "object",
			Needed:   true,
			Takes:    `{"rate": 0 to 1, "worth_seeds": 20} or {"tested", "sprouted"}, never both`,
			OnScreen: "Germination: a test, or the label",
			Parts:    append(slices.Clone(testOrLabel), Field{Name: "worth_seeds", Kind: "number", OnScreen: "worth this many tested seeds"}),
		},
		{Name: "crop", Kind: "text", Takes: "a crop of the catalogue: either this", FromBook: cropIDs, OnScreen: "Crop"},
		{
			Name:     "constants",
			Kind:     "object",
			Takes:    `{"base_c", "optimum_c", "plateau_c", "ceiling_c", "thermal_time_c_days"}: or this`,
			OnScreen: "or its own temperatures",
			Parts: []Field{
				{
					Name:     "base_c",
					Kind:     "number",
					Unit:     "°C",
					OnScreen: "Too cold at",
				},
				{Name: "optimum_c", Kind: "number", Unit: "°C", OnScreen: "Fastest from"},
				{Name: "plateau_c", Kind: "number", Unit: "°C", OnScreen: "to"},
				{Name: "ceiling_c", Kind: "number", Unit: "°C", OnScreen: "Too hot at"},
				{
					Name: "thermal_time_c_days", Kind: "number", Unit: "°C·days",
					OnScreen: "Thermal time until half are up",
				},
			},
		},
		{Name: "day", Kind: "number", Unit: "days", Needed: true, Takes: "0 to 400, since sowing", OnScreen: "Days since sowing"},
		{Name: "temperature_c", Kind: "number", Unit: "°C", Takes: "−60 to 60, of the medium: either this", OnScreen: "Temperature of the medium"},
		{Name: "temperatures_c", Kind: "list", Unit: "°C", Takes: "or one for each day since sowing; the last goes on", OnScreen: "or day by day"},
		{Name: "seen", Kind: "integer", Takes: "0 up to the cells", OnScreen: "Cells with a seedling, counted"},
		{
			Name:     "evenness",
			Kind:     "number",
			Default:  "6",
			Takes:    "1 to 30; 5 for uneven seed, 10 for even",
			Hint:     "5 for uneven seed, 10 for even",
			OnScreen: "Uniformity",
		},
		{
			Name:     "temperature_share",
			Kind:     "number",
			Unit:     "share",
			Default:  "1",
			Takes:    "0 to 1: of the good seed that comes at this temperature",
			OnScreen: "Share that germinates at this temperature",
		},
		{Name: "temperature_error_c", Kind: "number", Unit: "K", Default: "1", Takes: "0 to 10", OnScreen: "The temperature is accurate to"},
		{Name: "time_error", Kind: "number", Unit: "share", Default: "0.15", Takes: "0 to 1", OnScreen: "The crop’s days are accurate to"},
	},
	Example: `{"cells": 36, "seeds_per_cell": 2, "germination": {"rate": 0.8}, "crop": "tomato", "temperature_c": 22, "day": 9, "seen": 24}`,
	run: func(o *object) (answer, error) {
		in := seed.ExpectedInput{
			Cells: o.integer("cells"), SeedsPerCell: o.integer("seeds_per_cell"), Day: o.number("day"), Evenness: o.numberOr("evenness", seed.UsualEvenness),
			TemperatureShare: o.numberOr(
				"temperature_share",
				1,
			), TemperatureErrorC: o.numberOr("temperature_error_c", seed.TemperatureErrorC), TimeError: o.numberOr("time_error", seed.TimeError),
		}
		in.Germination, in.LabelWorth = readGermination(o.object("germination"), true)
		in.Pace = readPace(o)
		in.TemperaturesC = readTemperatures(o, in.Day)
		if o.has("seen") {
			n := o.integer("seen")
			in.Seen = &n
		}
		return with(o, func() (seed.Expected, error) { return seed.Count(in) }, func(x seed.Expected) answer {
			out := answer{
				"progress": x.Progress, "share_of_sprouts_up": x.ShareUp, "cell_chance": x.CellChance, "expected": x.Expected, "low": x.Low, "high": x.High,
				"verdict": nil, "expected_final": x.ExpectedFinal, "half_day": x.HalfDay, "judge_day": x.JudgeDay, "steps": x.Steps,
			}
			if x.Verdict != "" {
				out["verdict"] = x.Verdict
			}
			return out
		})
	},
}

// readGermination reads a rate, or a test; worth is what a label counts for.
func readGermination(g *object, worth bool) (out seed.Germination, seeds float64) {
	switch tested := g.has("tested") || g.has("sprouted"); {
	case tested && g.has("rate"):
		g.refuse("rate", "is given as well as a test: give the rate or the test, not both")
	case tested:
		out.Tested, out.Sprouted = g.integer("tested"), g.integer("sprouted")
		if out.Tested < 1 && len(*g.errs) == 0 {
			g.refuse("tested", "must be a whole number, 1 or more")
		}
	default:
		out.Rate = g.number("rate")
		if worth {
			seeds = g.numberOr("worth_seeds", seed.LabelWorth)
		}
	}
	g.done()
	return out, seeds
}

func readPace(o *object) func(float64) float64 {
	byCrop, own := o.has("crop"), o.has("constants")
	switch {
	case byCrop && own:
		o.refuse("constants", "is given as well as a crop: give only one of them")
	case byCrop:
		id := o.text("crop")
		c, ok := crop.Find(id)
		if !ok {
			o.refuse("crop", "is not in the catalogue")
		}
		return seed.PaceOf(c)
	case own:
		k := o.object("constants")
		x := seed.Cardinal{
			BaseC:     k.number("base_c"),
			OptimumC:  k.number("optimum_c"),
			CeilingC:  k.number("ceiling_c"),
			ThermalCD: k.number("thermal_time_c_days"),
		}
		x.PlateauC = k.numberOr("plateau_c", x.OptimumC)
		k.done()
		if len(*o.errs) == 0 {
			o.errs.Join(x.Check("constants."))
		}
		return x.Pace
	default:
		o.refuse("crop", "is missing: give a crop, or constants of your own")
	}
	return nil
}

func readTemperatures(o *object, day float64) (list []float64) {
	one, many := o.has("temperature_c"), o.has("temperatures_c")
	check := func(name string, c float64) {
		if c < -60 || c > 60 {
			o.refuse(name, "must be −60 to 60 °C")
		}
		list = append(list, c)
	}
	switch {
	case one && many:
		o.refuse("temperatures_c", "is given as well as one temperature: give only one of them")
	case one:
		check("temperature_c", o.number("temperature_c"))
	case many:
		for i, v := range o.list("temperatures_c") {
			at := fmt.Sprintf("temperatures_c.%d", i)
			check(at, o.asNumber(at, v))
		}
		if float64(len(list)) < math.Ceil(day) || len(list) == 0 {
			o.refuse("temperatures_c", "must be one for each day since sowing, at least")
		}
	default:
		o.refuse("temperature_c", "is missing: give one temperature, or one for each day")
	}
	return list
}
