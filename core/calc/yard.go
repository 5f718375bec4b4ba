package calc

import (
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"

	"ulpa/core/calendar"
	"ulpa/core/compost"
	"ulpa/core/harden"
	"ulpa/core/sale"
	"ulpa/core/trial"
)

var frameSums = []Calculator{hardenRamp, compostHeap, saleStock, trialDraw}

var hardenRamp = Calculator{
	Need: Planning,
	Name: "harden-ramp", Title: "Hardening off by the weather",
	Answers: "On which days young plants go out, for how long, and when they are ready to be planted out",
	Fields: []Field{
		{Name: "start", Kind: "date", Needed: true, Takes: "a date", OnScreen: "It begins on"},
		{Name: "days", Kind: "integer", Needed: true, Takes: "1 to 60: steps", OnScreen: "Steps"},
		{Name: "first_hours", Kind: "number", Unit: "h", Needed: true, Takes: "above 0", OnScreen: "Outside on the first"},
		{Name: "last_hours", Kind: "number", Unit: "h", Needed: true, Takes: "not below the first", OnScreen: "and on the last"},
		{Name: "out_at", Kind: "number", Unit: "h", Default: "9", Takes: "0 to 23", OnScreen: "They go out at"},
		{
			Name: "method", Kind: "text", Needed: true, Choices: []string{"gated", "fixed"},
			Takes: "gated: a bad day does not count; fixed: it runs on by open days", OnScreen: "A bad day",
		},
		{Name: "safe_c", Kind: "number", Unit: "°C", Needed: true, Takes: "−30 to 30: lowest safe temperature", OnScreen: "Lowest safe temperature"},
		{
			Name: "tenderness", Kind: "text", Needed: true, Choices: slices.Sorted(maps.Keys(harden.Tenders)),
			Takes: "sets the margin, the wind and the nights that are left out", OnScreen: "They are",
		},
		{Name: "margin_c", Kind: "number", Takes: "0 to 15 °C; 0, 1 or 2 by tenderness where left out"},
		{Name: "max_wind_km_h", Kind: "number", Unit: "km/h", Takes: "above 0, to 200; 45, 35 or 25 where left out", OnScreen: "Too windy above"},
		{Name: "nights", Kind: "integer", Takes: "0 to the number of steps; 4, 3 or 2 where left out", OnScreen: "Nights outside at the end"},
		{Name: "hottest_c", Kind: "number", Unit: "°C", Default: "32", Takes: "0 to 60", OnScreen: "Too hot above"},
		{Name: "setback_days", Kind: "integer", Default: "4", Takes: "0 to 365; 0: never", OnScreen: "Bad days in a row that cost a step"},
		{
			Name: "between", Kind: "text", Default: "inside", Choices: []string{"inside", "frame"},
			Takes: "where they stand on days without people", OnScreen: "On days without people they stand",
		},
		{
			Name: "unknown_days", Kind: "text", Default: "good", Choices: []string{"good", "wait"},
			Takes: "what a day without a forecast is taken for", OnScreen: "A day without a forecast",
		},
		{Name: "workdays", Kind: "list", Needed: true, Takes: "1 (Monday) to 7", Choices: []string{"1", "2", "3", "4", "5", "6", "7"}, OnScreen: "Open on"},
		closedField,
		{
			Name: "forecast", Kind: "list", Takes: `{"date", "min_c", "max_c", "wind_km_h"}`, OnScreen: "Forecast",
			Parts: []Field{
				{Name: "date", Kind: "date", OnScreen: "Day"},
				{Name: "min_c", Kind: "number", Unit: "°C", OnScreen: "lowest"},
				{Name: "max_c", Kind: "number", Unit: "°C", OnScreen: "highest"},
				{Name: "wind_km_h", Kind: "number", Unit: "km/h", OnScreen: "wind"},
			},
		},
	},
	Example: `{"start": "2027-04-26", "days": 7, "first_hours": 2, "last_hours": 8, "method": "gated", "safe_c": 6, "tenderness": "half_hardy", ` +
		`"workdays": [1, 2, 3, 4, 5], "closed": [{"from": "2027-05-03", "to": "2027-05-03"}], "forecast": [` +
		`{"date": "2027-04-26", "min_c": 9, "max_c": 19, "wind_km_h": 8}, {"date": "2027-04-27", "min_c": 1, "max_c": 8, "wind_km_h": 10}, ` +
		`{"date": "2027-04-28", "min_c": 9, "max_c": 18, "wind_km_h": 50}]}`,
	run: func(o *object) (answer, error) {
		in := harden.GateInput{
			Start: o.day("start"), Steps: o.integer("days"), FirstHours: o.number("first_hours"), LastHours: o.number("last_hours"),
			OutAt: o.numberOr("out_at", harden.UsualOut), Gated: o.choice("method", "gated", "fixed") == "gated", SafeC: o.number("safe_c"),
			HottestC: o.numberOr("hottest_c", harden.UsualHottest), SetbackDays: o.integerOr("setback_days", harden.UsualSetback),
			FrameBetween: o.has("between") && o.choice("between", "inside", "frame") == "frame",
			WaitUnknown:  o.has("unknown_days") && o.choice("unknown_days", "good", "wait") == "wait",
		}
		usual := harden.Tenders[o.choice("tenderness", slices.Sorted(maps.Keys(harden.Tenders))...)]
		in.Tender = harden.Tender{
			MarginC: o.numberOr("margin_c", usual.MarginC), MaxWindKMH: o.numberOr("max_wind_km_h", usual.MaxWindKMH),
			Nights: o.integerOr("nights", min(usual.Nights, max(0, in.Steps))),
		}
		for i, v := range o.list("workdays") {
			in.Workdays = append(in.Workdays, o.asInteger(fmt.Sprintf("workdays.%d", i), v))
		}
		o.each("closed", func(_ int, c *object) {
			in.Closed = append(in.Closed, calendar.Closure{From: c.day("from"), To: c.day("to")})
		})
		if o.has("forecast") {
			o.each("forecast", func(_ int, f *object) {
				in.Forecast = append(in.Forecast, harden.Forecast{
					Day: f.day("date"), MinC: f.number("min_c"), MaxC: f.number("max_c"), WindKMH: f.number("wind_km_h"),
				})
			})
		}
		return with(o, func() (harden.Gate, error) { return harden.ByWeather(in) }, tellGate)
	},
}

func tellGate(g harden.Gate) answer {
	days := []answer{}
	for _, d := range g.Days {
		day := answer{
			"date": d.Day, "step": d.Step, "counts": d.Counts, "reason": d.Reason, "hours": d.Hours, "bring_in_at": d.BringInAt, "night": nil,
			"known": d.Known, "coldest_c": d.ColdestC,
		}
		if d.Night != "" {
			day["night"] = d.Night
		}
		days = append(days, day)
	}
	var ready *calendar.Day
	if g.Ready != 0 {
		ready = &g.Ready
	}
	return answer{"ready": ready, "counted": g.Counted, "waited": g.Waited, "nights_out": g.NightsOut, "days": days, "steps": g.Steps}
}

var compostHeap = Calculator{
	Need: Mixing,
	Name: "compost", Title: "A heap of compost",
	Answers: "Whether a heap has carbon, nitrogen and water as it should, and how much of one material makes it right",
	Fields: []Field{
		{
			Name: "materials", Kind: "list", Needed: true, Takes: `{"name", "fresh_kg", "moisture_percent", "carbon_percent", "nitrogen_percent"}: of dry mass`,
			OnScreen: "What goes onto it",
			Parts: []Field{
				{Name: "name", Kind: "text", OnScreen: "Material"},
				{Name: "fresh_kg", Kind: "number", Unit: "kg", OnScreen: "fresh"},
				{Name: "moisture_percent", Kind: "number", Unit: "%", OnScreen: "water"},
				{Name: "carbon_percent", Kind: "number", Unit: "%", OnScreen: "carbon, dry"},
				{Name: "nitrogen_percent", Kind: "number", Unit: "%", OnScreen: "nitrogen, dry"},
			},
		},
		{Name: "target_cn", Kind: "number", Default: "28", Takes: "10 to 80", OnScreen: "Carbon to nitrogen wanted"},
		{Name: "adjust", Kind: "text", Takes: "a name of the list: how much of it makes the mix right", OnScreen: "How much of"},
	},
	Example: `{"materials": [{"name": "leaves", "fresh_kg": 10, "moisture_percent": 20, "carbon_percent": 48, "nitrogen_percent": 0.9}, ` +
		`{"name": "grass", "fresh_kg": 10, "moisture_percent": 75, "carbon_percent": 45, "nitrogen_percent": 3}], "adjust": "grass"}`,
	run: func(o *object) (answer, error) {
		in := compost.Input{TargetCN: o.numberOr("target_cn", compost.UsualCN)}
		o.each("materials", func(_ int, m *object) {
			in.Materials = append(in.Materials, compost.Material{
				Name: m.text("name"), FreshKG: m.number("fresh_kg"), Moisture: m.number("moisture_percent"), Carbon: m.number("carbon_percent"),
				Nitrogen: m.number("nitrogen_percent"),
			})
		})
		if o.has("adjust") {
			if in.Adjust = o.text("adjust"); in.Adjust == "" {
				o.refuse("adjust", "is none of the materials")
			}
		}
		return with(o, func() (compost.Heap, error) { return compost.Mix(in) }, func(h compost.Heap) answer {
			return answer{
				"cn": h.CN, "moisture_percent": h.Moisture, "fresh_kg": h.FreshKG, "cn_verdict": h.CNVerdict, "moisture_verdict": h.MoistureVerdict,
				"adjust_to_kg": h.AdjustToKG, "steps": h.Steps,
			}
		})
	},
}

var saleStock = Calculator{
	Need: Planning,
	Name: "sale-stock", Title: "How many to grow for a sale", Answers: "How many plants to grow for a sale when nobody knows how many will be wanted",
	Fields: []Field{
		{Name: "price", Kind: "number", Needed: true, Takes: "above 0", OnScreen: "One is sold for"},
		{Name: "cost", Kind: "number", Needed: true, Takes: "above 0", OnScreen: "Growing one costs"},
		{Name: "salvage", Kind: "number", Default: "0", Takes: "below cost, at most price; it may be negative", OnScreen: "One left over is worth"},
		{Name: "missed_cost", Kind: "number", Default: "0", Takes: "0 or more", OnScreen: "A buyer who finds none costs"},
		{Name: "most", Kind: "integer", Default: "100000", Takes: "0 to 100,000", OnScreen: "Room for at most"},
		{Name: "usable_rate", Kind: "number", Unit: "share", Default: "1", Takes: "above 0, to 1", OnScreen: "Of those grown can be sold"},
		{
			Name: "demand", Kind: "object", Needed: true, Takes: `{"mean", "sd"} or {"past": [{"sold", "sold_out"}], "day_spread"}`, OnScreen: "How many are wanted",
			Parts: []Field{
				{Name: "mean", Kind: "number", OnScreen: "About"},
				{Name: "sd", Kind: "number", OnScreen: "give or take"},
				{
					Name: "past", Kind: "list", OnScreen: "or what past sales say",
					Parts: []Field{{Name: "sold", Kind: "integer", OnScreen: "Sold"}, {Name: "sold_out", Kind: "yes", Needed: true, OnScreen: "sold out"}},
				},
				{Name: "day_spread", Kind: "number", OnScreen: "differing from day to day by a share of"},
			},
		},
	},
	Example: `{"demand": {"mean": 45, "sd": 12}, "price": 3.5, "cost": 1, "usable_rate": 0.92}`,
	run: func(o *object) (answer, error) {
		in := sale.Input{
			Price: o.number("price"), Cost: o.number("cost"), Salvage: o.numberOr("salvage", 0), MissedCost: o.numberOr("missed_cost", 0),
			Most: o.integerOr("most", sale.MostPlants), Usable: o.numberOr("usable_rate", 1),
		}
		d := o.object("demand")
		switch mean, past := d.has("mean") || d.has("sd"), d.has("past"); {
		case mean && past:
			d.refuse("past", "is given as well as %s: give only one of them", "mean")
		case past:
			in.Past, in.DaySpread = []sale.Past{}, d.numberOr("day_spread", sale.UsualSpread)
			d.each("past", func(_ int, x *object) {
				p := sale.Past{Sold: x.integer("sold")}
				if x.need("sold_out", "true or false") {
					p.SoldOut = x.yes("sold_out")
				}
				in.Past = append(in.Past, p)
			})
		default:
			in.Mean, in.SD = d.number("mean"), d.number("sd")
		}
		if o.has("demand") {
			d.done()
		}
		return with(o, func() (sale.Stock, error) { return sale.Grow(in) }, func(s sale.Stock) answer {
			return answer{
				"grow": s.Grow, "expected_usable": s.Usable, "expected_sold": s.Sold, "expected_left": s.Left, "expected_missed": s.Missed,
				"expected_result": s.Result, "chance_sold_out": s.ChanceSoldOut, "demand_mean": s.DemandMean, "demand_sd": s.DemandSD,
				"critical_ratio": s.CriticalRatio, "steps": s.Steps,
			}
		})
	},
}

var trialDraw = Calculator{
	Need: Planning,
	Name: "trial-draw", Title: "A fair layout by lot", Answers: "Which cell of a tray or a bed gets which treatment, drawn by lot, each as often in every block",
	Fields: []Field{
		{Name: "arms", Kind: "list", Needed: true, Names: true, Takes: "2 to 50 names, no two alike", Hint: "with commas between them", OnScreen: "Treatments"},
		{Name: "rows", Kind: "integer", Needed: true, Takes: "1 to 1,000", OnScreen: "Rows"},
		{Name: "columns", Kind: "integer", Needed: true, Takes: "1 to 1,000; at most 100,000 cells", OnScreen: "Columns"},
		{
			Name: "seed", Kind: "integer", Needed: true, Takes: "0 to 9,007,199,254,740,991: the same number draws the same layout",
			OnScreen: "Number to draw from",
		},
		{
			Name: "block_by", Kind: "text", Default: "rows", Choices: []string{"rows", "columns", "all"}, Takes: "rows, columns, or all in one block",
			OnScreen: "Blocks by",
		},
		{Name: "block_size", Kind: "integer", Takes: "1 to 1,000 rows or columns in a block; 1 where left out", OnScreen: "so many in a block"},
		{
			Name: "reserved", Kind: "list", Takes: `{"row", "column"}: cells that are left out`, OnScreen: "Cells left out",
			Parts: []Field{{Name: "row", Kind: "integer", OnScreen: "row"}, {Name: "column", Kind: "integer", OnScreen: "column"}},
		},
		{
			Name: "spare", Kind: "text", Default: "empty", Choices: []string{"empty", "fill"}, Takes: "what becomes of cells that are left over",
			OnScreen: "Cells left over",
		},
	},
	Example: `{"arms": ["plain", "soaked", "cold"], "rows": 4, "columns": 6, "seed": 7, "spare": "fill"}`,
	run: func(o *object) (answer, error) {
		in := trial.DrawInput{
			Rows: o.integer("rows"), Columns: o.integer("columns"), Seed: o.large("seed"), BlockBy: trial.ByRows, BlockSize: 1,
			Fill: o.has("spare") && o.choice("spare", "empty", "fill") == "fill",
		}
		for i, v := range o.list("arms") {
			s, ok := v.(string)
			if !ok {
				o.refuse(fmt.Sprintf("arms.%d", i), "must be a text, not %s", kind(v))
			}
			in.Arms = append(in.Arms, s)
		}
		if o.has("block_by") {
			in.BlockBy = o.choice("block_by", trial.ByRows, trial.ByColumns, trial.InAll)
		}
		if size := o.has("block_size"); size && in.BlockBy == trial.InAll {
			o.refuse("block_size", "is for blocks of rows or columns: leave it out")
		} else if size {
			in.BlockSize = o.integer("block_size")
		}
		if o.has("reserved") {
			o.each("reserved", func(_ int, p *object) {
				in.Reserved = append(in.Reserved, trial.Place{Row: p.integer("row"), Column: p.integer("column")})
			})
		}
		return with(o, func() (trial.Layout, error) { return trial.Draw(in) }, func(l trial.Layout) answer {
			cells, counts := []answer{}, []answer{}
			for _, c := range l.Cells {
				one := answer{"row": c.Row, "column": c.Column, "block": c.Block, "arm": nil}
				if c.Arm != "" {
					one["arm"] = c.Arm
				}
				cells = append(cells, one)
			}
			for i, n := range l.Counts {
				counts = append(counts, answer{"arm": in.Arms[i], "cells": n})
			}
			return answer{"cells": cells, "counts": counts, "blocks": l.Blocks, "steps": l.Steps}
		})
	},
}

// large reads a whole number from 0 on that may be too large for a float to hold all digits of.
func (o *object) large(name string) uint64 {
	if !o.need(name, "a whole number") {
		return 0
	}
	n, ok := o.fields[name].(json.Number)
	if !ok {
		o.refuse(name, "must be a number, not %s", kind(o.fields[name]))
		return 0
	}
	if v, err := strconv.ParseUint(n.String(), 10, 64); err == nil {
		return v
	}
	v := o.asNumber(name, n) // such as 7.0 or 1e3
	if v < 0 || v != math.Trunc(v) || v > 1<<53 {
		o.refuse(name, "must be a whole number")
		return 0
	}
	return uint64(v)
}
