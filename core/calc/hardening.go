package calc

import (
	"maps"
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/harden"
	"ulpa/core/say"
)

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
			Called: map[string]say.Words{"gated": "does not count", "fixed": "counts all the same"},
			Takes:  "gated: a bad day does not count; fixed: it runs on by open days", OnScreen: "A bad day",
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
			Called: map[string]say.Words{"inside": "inside", "frame": "in the frame"},
			Takes:  "where they stand on days without people", OnScreen: "On days without people they stand",
		},
		{
			Name: "unknown_days", Kind: "text", Default: "good", Choices: []string{"good", "wait"},
			Called: map[string]say.Words{"good": "is taken for a good one", "wait": "is waited out"},
			Takes:  "what a day without a forecast is taken for", OnScreen: "A day without a forecast",
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
		in.Workdays, in.Closed = o.schoolDays()
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
