package calc

import (
	"ulpa/core/growth"
	"ulpa/core/seed"
)

var seasonSums = []Calculator{seasonPlan, bedPlan, orderPlants, grow}

var orderPlants = Calculator{
	Need: Planning,
	Name: "order-plants", Title: "How many for an order", Answers: "How many plants to plant out, and cells to sow, to meet a delivery",
	Fields: []Field{
		{
			Name: "deliver", Kind: "object", Needed: true, Takes: `{"plants": 1 to 10,000} or {"weight_g": above 0}`, OnScreen: "To deliver",
			Parts: []Field{
				{Name: "plants", Kind: "integer", OnScreen: "Plants"},
				{Name: "weight_g", Kind: "number", Unit: "g", OnScreen: "or a weight"},
			},
		},
		{
			Name: "plant_g", Kind: "object", Takes: `{"mean", "sd"}, with a weight and only then`, OnScreen: "If you give a weight: one plant weighs",
			Parts: []Field{
				{Name: "mean", Kind: "number", Unit: "g", OnScreen: "On average"},
				{Name: "sd", Kind: "number", Unit: "g", OnScreen: "give or take"},
			},
		},
		{
			Name: "usable", Kind: "object", Needed: true, Takes: `{"rate": 0 to 1} or {"tried": 1 or more, "usable": up to tried}`,
			OnScreen: "Share usable of those planted out", Parts: []Field{
				{Name: "tried", Kind: "integer", OnScreen: "Plants before"},
				{Name: "usable", Kind: "integer", OnScreen: "of them usable"},
				{Name: "rate", Kind: "number", Unit: "share", OnScreen: "or the share"},
			},
		},
		{Name: "confidence", Kind: "number", Unit: "share", Default: "0.9", Takes: "above 0 and below 1", OnScreen: "How sure"},
		{Name: "plants_now", Kind: "integer", Takes: "0 to 10,000", OnScreen: "Plants there are now"},
		{
			Name: "sow", Kind: "object", Takes: `{"germination": as in seed-rate, "seeds_per_cell", "cells_per_tray", "survival"}`, OnScreen: "Raised from seed",
			Parts: []Field{
				{Name: "germination", Kind: "object", OnScreen: "Germination: a test, or the label", Parts: testOrLabel},
				{Name: "seeds_per_cell", Kind: "integer", OnScreen: "Seeds in a cell"},
				{Name: "cells_per_tray", Kind: "integer", OnScreen: "Cells in a tray"},
				{Name: "survival", Kind: "number", Unit: "share", OnScreen: "Seedlings that survive"},
			},
		},
	},
	Example: `{"deliver": {"weight_g": 1800}, "plant_g": {"mean": 140, "sd": 35}, "usable": {"tried": 25, "usable": 22}, ` +
		`"sow": {"germination": {"tested": 30, "sprouted": 24}, "seeds_per_cell": 2, "cells_per_tray": 50, "survival": 0.95}}`,
	run: func(o *object) (answer, error) {
		in := seed.OrderInput{Confidence: o.numberOr("confidence", 0.9)}
		readDeliver(o, &in)
		in.Usable = readUsable(o.object("usable"))
		if o.has("plants_now") {
			n := o.integer("plants_now")
			in.PlantsNow = &n
		}
		if o.has("sow") {
			s := o.object("sow")
			in.Sow = &seed.SowFor{
				SeedsPerCell: s.integer("seeds_per_cell"), CellsPerTray: s.integer("cells_per_tray"), Survival: s.numberOr("survival", 1),
			}
			in.Sow.Germination, _ = readGermination(s.object("germination"), false)
			s.done()
		}
		return with(o, func() (seed.OrderAnswer, error) { return seed.Order(in) }, func(a seed.OrderAnswer) answer { return tellOrder(in, a) })
	},
}

func readDeliver(o *object, in *seed.OrderInput) {
	d := o.object("deliver")
	plants, weight := d.has("plants"), d.has("weight_g")
	switch {
	case plants && weight:
		d.refuse("weight_g", "is given as well as a number of plants: give only one of them")
	case weight:
		if in.WeightG = d.number("weight_g"); in.WeightG <= 0 {
			d.refuse("weight_g", "must be above 0 grams")
		}
		p := o.object("plant_g")
		in.PlantG, in.PlantSD = p.number("mean"), p.number("sd")
		p.done()
	default:
		if in.Plants = d.integer("plants"); in.Plants < 1 {
			d.refuse("plants", "must be a whole number from 1 to 10,000")
		}
		if o.has("plant_g") {
			o.refuse("plant_g", "only together with a weight")
		}
	}
	d.done()
}

func readUsable(u *object) (out seed.Usable) {
	tried := u.has("tried") || u.has("usable")
	switch {
	case tried && u.has("rate"):
		u.refuse("rate", "is given as well as what was tried: give only one of them")
	case tried:
		if out.Tested, out.Sprouted = u.integer("tried"), u.integer("usable"); out.Tested < 1 {
			u.refuse("tried", "must be a whole number, 1 or more")
		}
	default:
		out.Rate = u.number("rate")
	}
	u.done()
	return out
}

func tellOrder(in seed.OrderInput, a seed.OrderAnswer) answer {
	out := answer{
		"plants": nil, "chance": nil, "expected_usable": nil, "expected_weight_g": nil, "chance_now": a.ChanceNow, "sow": nil, "steps": a.Steps,
	}
	if a.Plants > 0 {
		out["plants"], out["chance"], out["expected_usable"] = a.Plants, a.Chance, a.ExpectedUsable
		if in.Plants == 0 {
			out["expected_weight_g"] = a.ExpectedG
		}
	}
	if s := a.Sow; s != nil {
		sow := answer{"cells": nil, "seeds": nil, "trays": nil, "chance": nil, "expected_plants": nil}
		if s.Cells > 0 {
			sow = answer{"cells": s.Cells, "seeds": s.Seeds, "trays": s.Trays, "chance": s.Chance, "expected_plants": s.ExpectedPlants}
		}
		out["sow"] = sow
	}
	return out
}

var grow = Calculator{
	Need: Planning,
	Name: "grow", Title: "How fast it grows", Answers: "Weight and leaves by light and warmth: on a day, and the day of a weight",
	Fields: []Field{
		{Name: "emergence_days", Kind: "number", Unit: "days", Needed: true, Takes: "0 to 100, from sowing", OnScreen: "Days until it is up"},
		{
			Name: "light_mol_m2", Kind: "list", Unit: "mol/m²", Needed: true, Single: true, Takes: "a number, or a list by day from sowing; the last goes on",
			Hint: "one figure, or one for each day; the last one carries on", OnScreen: "Light a day",
		},
		{
			Name: "temperature_c", Kind: "list", Unit: "°C", Needed: true, Single: true, Takes: "a number, or a list by day from sowing; the last goes on",
			Hint: "one figure, or one for each day; the last one carries on", OnScreen: "Temperature, mean of a day",
		},
		{
			Name: "spacing", Kind: "list", Needed: true, Takes: `{"from_day": first 0, rising, "plants_m2"}`, OnScreen: "How close together they are",
			Parts: []Field{
				{Name: "from_day", Kind: "integer", OnScreen: "From day"}, {Name: "plants_m2", Kind: "number", OnScreen: "plants on a m²"},
			},
		},
		{Name: "target_g", Kind: "number", Unit: "g", Takes: "above 0, the fresh shoot of a plant: this", OnScreen: "Wanted weight of one"},
		{Name: "on_day", Kind: "integer", Unit: "days", Takes: "0 to 400: or this, or both", OnScreen: "And on day"},
		{Name: "light_error", Kind: "number", Unit: "share", Default: "0.2", Takes: "0 to 0.9", OnScreen: "Light may be wrong by"},
		{
			Name: "parameters", Kind: "object", Takes: "of another crop than lettuce-like leaves; any of these", OnScreen: "Another crop than lettuce",
			Parts: []Field{
				{Name: "use_g_mol", Kind: "number", OnScreen: "Dry matter per mol of light, g"},
				{Name: "extinction", Kind: "number", OnScreen: "Light extinction coefficient"},
				{Name: "leaf_m2_g", Kind: "number", OnScreen: "Specific leaf area, m² per dry g"},
				{Name: "dry_share", Kind: "number", Unit: "share", OnScreen: "Dry matter of the shoot"},
				{Name: "shoot_share", Kind: "number", Unit: "share", OnScreen: "Shoot of the plant"},
				{Name: "start_g", Kind: "number", Unit: "g", OnScreen: "Dry weight at emergence"},
				{Name: "base_c", Kind: "number", Unit: "°C", OnScreen: "No growth below"},
				{Name: "optimum_low_c", Kind: "number", Unit: "°C", OnScreen: "Fastest from"},
				{Name: "optimum_high_c", Kind: "number", Unit: "°C", OnScreen: "Fastest to"},
				{Name: "ceiling_c", Kind: "number", Unit: "°C", OnScreen: "None above"},
				{Name: "leaf_base_c", Kind: "number", Unit: "°C", OnScreen: "No leaf growth below"},
				{Name: "leaf_c_days", Kind: "number", Unit: "°C·days", OnScreen: "Thermal time for one leaf"},
			},
		},
	},
	Example: `{"emergence_days": 2.5, "light_mol_m2": 17, "temperature_c": 22, "spacing": [{"from_day": 0, "plants_m2": 500}, ` +
		`{"from_day": 11, "plants_m2": 97}, {"from_day": 21, "plants_m2": 38}], "on_day": 35, "target_g": 150}`,
	run: func(o *object) (answer, error) {
		in := growth.Input{
			EmergenceDays: o.number("emergence_days"), LightMol: o.byDay("light_mol_m2"), TemperatureC: o.byDay("temperature_c"),
			LightError: o.numberOr("light_error", growth.LightError), Parameters: growth.Lettuce,
		}
		o.each("spacing", func(_ int, s *object) {
			in.Spacing = append(in.Spacing, growth.Spacing{FromDay: s.integer("from_day"), PlantsM2: s.number("plants_m2")})
		})
		if o.has("target_g") {
			g := o.number("target_g")
			in.TargetG = &g
		}
		if o.has("on_day") {
			d := o.integer("on_day")
			in.OnDay = &d
		}
		if o.has("parameters") {
			p := o.object("parameters")
			for name, into := range map[string]*float64{
				"use_g_mol": &in.UseGMol, "extinction": &in.Extinction, "leaf_m2_g": &in.LeafM2G, "dry_share": &in.DryShare, "shoot_share": &in.ShootShare,
				"start_g": &in.StartG, "base_c": &in.BaseC, "optimum_low_c": &in.OptimumLowC, "optimum_high_c": &in.OptimumHighC, "ceiling_c": &in.CeilingC,
				"leaf_base_c": &in.LeafBaseC, "leaf_c_days": &in.LeafCDays,
			} {
				*into = p.numberOr(name, *into)
			}
			p.done()
		}
		return with(o, func() (growth.Answer, error) { return growth.Grow(in) }, func(a growth.Answer) answer {
			out := answer{
				"fresh_g": nil, "fresh_g_low": a.LowG, "fresh_g_high": a.HighG, "leaves": nil, "leaf_area_index": nil,
				"days_to_target": a.Days, "days_to_target_slow": a.Slow, "days_to_target_fast": a.Fast, "steps": a.Steps,
			}
			if a.On != nil {
				out["fresh_g"], out["leaves"], out["leaf_area_index"] = a.On.FreshG, a.On.Leaves, a.On.LeafAreaIndex
			}
			return out
		})
	},
}
