package calc

import (
	"ulpa/core/climate"
	"ulpa/core/gauge"
	"ulpa/core/vessel"
)

// vesselFields are a shape and its sizes, without what stands in it.
var vesselFields = vesselLitres.Fields[:len(vesselLitres.Fields)-2]

var lastingSums = []Calculator{runsDry, jar, combine, siteNight}

var jar = Calculator{
	Need: Keeping,
	Name: "jar", Title: "A jar without a pump", Answers: "How much to pour so that it lasts and the upper roots still breathe",
	Fields: []Field{
		{Name: "vessel", Kind: "object", Needed: true, Takes: "a shape of vessel and its sizes", OnScreen: "The jar", Parts: vesselFields},
		{
			Name:     "pot_foot_cm",
			Kind:     "number",
			Unit:     "cm",
			Needed:   true,
			Takes:    "above 0, within the vessel",
			OnScreen: "Bottom of the net pot, above the floor of the tank",
		},
		{Name: "level_cm", Kind: "number", Unit: "cm", Takes: "now: either this", OnScreen: "Level now"},
		{Name: "litres", Kind: "number", Unit: "L", Takes: "or this", OnScreen: "or litres now"},
		{Name: "roots_cm", Kind: "number", Unit: "cm", Needed: true, Takes: "0 or more: how far they hang below the foot", OnScreen: "Roots hang free by"},
		{
			Name:     "highest_3_days_cm",
			Kind:     "number",
			Unit:     "cm",
			Takes:    "the level now or higher; the level now where left out",
			Hint:     "if you leave it out: the level now",
			OnScreen: "Highest level of three days",
		},
		{Name: "dry_below_cm", Kind: "number", Unit: "cm", Default: "2", Takes: "above 0, below the pot’s foot", OnScreen: "Roots fall dry below"},
		{Name: "days", Kind: "number", Unit: "days", Needed: true, Takes: "above 0, to 365", OnScreen: "Days until somebody comes"},
		{
			Name:   "use",
			Kind:   "object",
			Needed: true,
			Takes: `{"litres_day", "growth_per_day"}, {"weather": {...}, "growth_per_day"} or {"record": [{"from_day", "to_day", "litres"}], ` +
				`"leaves_touch"}, with "factor"`,
			OnScreen: "What it drinks",
			Parts: []Field{
				{Name: "litres_day", Kind: "number", Unit: "L", OnScreen: "A day, now"},
				{Name: "growth_per_day", Kind: "number", Unit: "share", OnScreen: "growing a day by"},
				{Name: "factor", Kind: "number", OnScreen: "multiplied by, for heat to come"},
				{
					Name:     "record",
					Kind:     "list",
					OnScreen: "or what it drank, day by day (−5 to 0: the last five days)",
					Parts: []Field{
						{Name: "from_day", Kind: "number", OnScreen: "From day"},
						{Name: "to_day", Kind: "number", OnScreen: "to day"},
						{Name: "litres", Kind: "number", Unit: "L", OnScreen: "drunk"},
					},
				},
				{Name: "leaves_touch", Kind: "yes", OnScreen: "Leaves touch their neighbours"},
			},
		},
		{Name: "margin", Kind: "number", Default: "1.2", Takes: "1 to 5", OnScreen: "Margin"},
		{Name: "today", Kind: "date", Takes: "a date", OnScreen: "Today"},
	},
	Example: `{"vessel": {"shape": "cylinder", "diameter_cm": 15, "height_cm": 24}, "pot_foot_cm": 19, "litres": 1.3, "roots_cm": 7, ` +
		`"highest_3_days_cm": 12, "use": {"litres_day": 0.16}, "days": 5, "today": "2027-03-19"}`,
	run: func(o *object) (answer, error) {
		x := o.object("vessel")
		v := readVessel(x)
		x.done()
		in := vessel.JarInput{
			Vessel: v, PotFootCM: o.number("pot_foot_cm"), DryBelowCM: o.numberOr("dry_below_cm", vessel.DryBelowCM),
			RootsCM: o.number("roots_cm"), Days: o.number("days"), Margin: o.numberOr("margin", vessel.MarginOfNeed),
		}
		byLevel, litres := o.has("level_cm"), 0.0
		switch {
		case byLevel && o.has("litres"):
			o.refuse("litres", "is given as well as a level: give only one of them")
		case byLevel:
			in.LevelCM = o.number("level_cm")
		case o.has("litres"):
			litres = o.number("litres")
		default:
			o.refuse("level_cm", "is missing: give a level, or litres")
		}
		if o.has("highest_3_days_cm") {
			h := o.number("highest_3_days_cm")
			in.Highest3Days = &h
		}
		if o.has("today") {
			d := o.day("today")
			in.Today = &d
		}
		in.Use = readThirst(o.object("use"))
		ask := func() (vessel.JarAnswer, error) {
			if !byLevel {
				f, err := v.AtLitres(litres)
				if err != nil {
					return vessel.JarAnswer{}, under("vessel", err, "litres")
				}
				in.LevelCM = f.DepthCM
			}
			return vessel.Jar(in)
		}
		return with(o, ask, tellJar)
	},
}

func readThirst(u *object) vessel.Thirst {
	t := vessel.Thirst{Factor: u.numberOr("factor", 1)}
	known, weather, record := u.has("litres_day"), u.has("weather"), u.has("record")
	switch {
	case known && weather:
		u.refuse("weather", "is given as well as litres a day: give only one of them")
	case (known || weather) && record:
		u.refuse("record", "is given as well as another use: give only one of them")
	case known:
		t.LDay = u.number("litres_day")
	case weather:
		t.LDay = readWeather(u)
	case record:
		t.Record = []vessel.Drunk{}
		u.each("record", func(_ int, r *object) {
			t.Record = append(t.Record, vessel.Drunk{FromDay: r.number("from_day"), ToDay: r.number("to_day"), Litres: r.number("litres")})
		})
		t.LeavesMeet = u.yes("leaves_touch")
	default:
		u.refuse("litres_day", "is missing: give litres a day, the weather, or a record")
	}
	if !record {
		t.Growth = u.numberOr("growth_per_day", vessel.UsualGrowth)
	}
	u.done()
	return t
}

// readWeather is the use of a jar's plants under light and dry air, litres a day.
func readWeather(u *object) float64 {
	w := u.object("weather")
	x := climate.Indoors{
		SolarMJ:       w.numberOr("solar_mj_m2", 0),
		LampMol:       w.numberOr("lamp_mol_m2", 0),
		LeafAreaIndex: w.number("leaf_area_index"),
		LightHours:    w.number("light_hours"),
	}
	x.VPDKPa = readDeficit(w)
	plants, area := w.number("plants"), w.number("area_per_plant_m2")
	if plants <= 0 || plants > 1e6 {
		w.refuse("plants", "must be a number above 0")
	}
	if area <= 0 || area > 1e4 {
		w.refuse("area_per_plant_m2", "must be above 0 m²")
	}
	w.done()
	if len(*w.errs) > 0 {
		return 0
	}
	w.errs.Join(x.Check(w.path + "."))
	light, air := x.Use()
	if light+air <= 0 {
		u.refuse("weather", "draws no water: there is no light, or no leaf")
	}
	return (light + air) * plants * area
}

func tellJar(j vessel.JarAnswer) answer {
	phase := "touch"
	if j.Hang {
		phase = "hang"
	}
	return answer{
		"phase": phase, "level_cm": j.LevelCM, "litres": j.Litres, "use_l_day": j.UseLDay, "growth_per_day": j.Growth, "need_l": j.NeedL,
		"allowed_cm": j.AllowedCM, "allowed_l": j.AllowedL, "too_high": j.TooHigh, "pour_l": j.PourL, "level_after_cm": j.LevelAfterCM, "rise_cm": j.RiseCM,
		"air_gap_cm": j.AirGap, "dry_in_days": j.DryInDays, "dry_in_days_after": j.DryAfter, "lasts": j.Lasts, "come_by_days": j.ComeByDays,
		"come_by": j.ComeBy, "steps": j.Steps,
	}
}

var runsDry = Calculator{
	Need: Keeping,
	Name: "runs-dry", Title: "Will it last", Answers: "The chance that a vessel runs dry before somebody comes, and what must go in",
	Fields: []Field{
		{Name: "capacity_l", Kind: "number", Unit: "L", Needed: true, Takes: "above 0: the brim", OnScreen: "Holds to the brim"},
		{Name: "level_l", Kind: "number", Unit: "L", Needed: true, Takes: "0 to the brim", OnScreen: "Level now"},
		{Name: "dry_below_l", Kind: "number", Unit: "L", Needed: true, Takes: "0 to under the brim", OnScreen: "Pump or roots run dry below"},
		{
			Name:     "air_gap_l",
			Kind:     "number",
			Unit:     "L",
			Takes:    "from dry_below_l to the brim: the highest level of a passive jar",
			OnScreen: "Highest level, in a jar",
		},
		{Name: "hours", Kind: "number", Unit: "h", Needed: true, Takes: "above 0, at most 8,760", OnScreen: "Hours until somebody comes"},
		{Name: "risk", Kind: "number", Unit: "share", Default: "0.05", Takes: "above 0 and below 1", OnScreen: "Risk you take"},
		{
			Name:     "use",
			Kind:     "object",
			Needed:   true,
			Takes:    `{"mean_l_day", "sd_l_day"} or {"past": [{"days", "litres"}], "spread_guess": 0.3}`,
			OnScreen: "What it drinks",
			Parts: []Field{
				{Name: "mean_l_day", Kind: "number", Unit: "L", OnScreen: "A day"},
				{Name: "sd_l_day", Kind: "number", Unit: "L", OnScreen: "give or take"},
				{
					Name:     "past",
					Kind:     "list",
					OnScreen: "or its own refills",
					Parts: []Field{
						{Name: "days", Kind: "number", Unit: "days", OnScreen: "After"},
						{Name: "litres", Kind: "number", Unit: "L", OnScreen: "it took"},
					},
				},
				{Name: "spread_guess", Kind: "number", Unit: "share", OnScreen: "Guessed spread before there are readings"},
			},
		},
		{Name: "use_factor", Kind: "number", Default: "1", Takes: "above 0, at most 20", OnScreen: "Multiply by, for heat or growth"},
	},
	Example: `{"capacity_l": 60, "level_l": 41, "dry_below_l": 10, "hours": 90, "use": {"past": [{"days": 2, "litres": 9}, {"days": 3, "litres": 15}, ` +
		`{"days": 2, "litres": 11}]}}`,
	run: func(o *object) (answer, error) {
		in := vessel.DryInput{
			CapacityL: o.number("capacity_l"), LevelL: o.number("level_l"), DryBelowL: o.number("dry_below_l"), Hours: o.number("hours"),
			Risk: o.numberOr("risk", 0.05), UseFactor: o.numberOr("use_factor", 1),
		}
		if o.has("air_gap_l") {
			v := o.number("air_gap_l")
			in.AirGapL = &v
		}
		u := o.object("use")
		known, past := u.has("mean_l_day") || u.has("sd_l_day"), u.has("past")
		switch {
		case known && past:
			u.refuse("past", "is given as well as a known use: give only one of them")
		case past:
			in.Use.Past, in.Use.SpreadGuess = []vessel.Refill{}, u.numberOr("spread_guess", vessel.SpreadGuess)
			u.each("past", func(_ int, r *object) {
				in.Use.Past = append(in.Use.Past, vessel.Refill{Days: r.number("days"), Litres: r.number("litres")})
			})
		default:
			in.Use.MeanLDay, in.Use.SDLDay = u.number("mean_l_day"), u.number("sd_l_day")
		}
		u.done()
		return with(o, func() (vessel.Dry, error) { return vessel.RunsDry(in) }, func(d vessel.Dry) answer {
			out := answer{
				"chance": d.Chance, "hours_to_5_percent": d.HoursTo5, "hours_to_half": d.HoursHalf, "level_needed_l": d.LevelNeededL, "possible": d.Possible, "why": nil,
				"add_l": d.AddL, "chance_after": d.ChanceAfter, "longest_hours": d.LongestHours, "mean_l_day": d.MeanLDay, "sd_l_day": d.SDLDay, "freedom": nil,
				"steps": d.Steps,
			}
			if d.Why != "" {
				out["why"] = d.Why
			}
			if d.Freedom > 0 {
				out["freedom"] = d.Freedom
			}
			return out
		})
	},
}

var combine = Calculator{
	Need: Judging,
	Name: "combine", Title: "Two readings that differ", Answers: "Several readings of one thing combined, and whether to act on them",
	Fields: []Field{
		{
			Name:     "readings",
			Kind:     "list",
			Needed:   true,
			Takes:    `{"value", "error", "bias", "bias_error", "weeks", "error_per_week"}, 1 to 1,000`,
			OnScreen: "Readings",
			Parts: []Field{
				{
					Name:     "value",
					Kind:     "number",
					OnScreen: "Read##value",
				},
				{Name: "error", Kind: "number", OnScreen: "give or take"},
				{Name: "bias", Kind: "number", OnScreen: "reads too high by"},
				{
					Name: "bias_error",
					Kind: "number", OnScreen: "give or take",
				},
				{Name: "weeks", Kind: "number", OnScreen: "weeks since calibrated"},
				{
					Name: "error_per_week",
					Kind: "number", OnScreen: "worse every week by",
				},
			},
		},
		{Name: "low", Kind: "number", Takes: "bottom of the range", OnScreen: "Lowest in the range"},
		{Name: "high", Kind: "number", Takes: "top of the range", OnScreen: "to"},
		{Name: "act_above", Kind: "number", Unit: "share", Default: "0.8", Takes: "0.5 to below 1", OnScreen: "Act when this sure"},
		{Name: "read_above", Kind: "number", Unit: "share", Default: "0.2", Takes: "above 0, up to act_above", OnScreen: "Read again from"},
	},
	Example: `{"readings": [{"value": 6.6, "error": 0.3}, {"value": 6.2, "error": 0.1, "weeks": 2, "error_per_week": 0.02}], "low": 5.5, "high": 6.3}`,
	run: func(o *object) (answer, error) {
		in := gauge.CombineInput{ActAbove: o.numberOr("act_above", gauge.ActAbove), ReadAbove: o.numberOr("read_above", gauge.ReadAbove)}
		o.each("readings", func(_ int, r *object) {
			in.Readings = append(in.Readings, gauge.Reading{
				Value: r.number("value"), Error: r.number("error"), Bias: r.numberOr("bias", 0), BiasError: r.numberOr("bias_error", 0),
				Weeks: r.numberOr("weeks", 0), PerWeek: r.numberOr("error_per_week", 0),
			})
		})
		for name, into := range map[string]**float64{"low": &in.Low, "high": &in.High} {
			if o.has(name) {
				v := o.number(name)
				*into = &v
			}
		}
		return with(o, func() (gauge.Combined, error) { return gauge.Combine(in) }, func(c gauge.Combined) answer {
			doubts := c.Doubts
			if doubts == nil {
				doubts = [][2]int{}
			}
			out := answer{
				"value": c.Value, "error": c.Error, "stretch": c.Stretch, "chi2": c.Chi2, "disagree": c.Disagree, "doubts": doubts,
				"chance_above": c.ChanceAbove, "chance_below": c.ChanceBelow, "advice": nil, "steps": c.Steps,
			}
			if c.Advice != "" {
				out["advice"] = c.Advice
			}
			return out
		})
	},
}

var siteNight = Calculator{
	Need: Planning,
	Name: "site-night", Title: "The night here", Answers: "What a station’s forecast means at this place: bring in, cover or leave",
	Fields: []Field{
		{Name: "forecast_c", Kind: "number", Unit: "°C", Needed: true, Takes: "−60 to 60", OnScreen: "Forecast low"},
		{Name: "safe_c", Kind: "number", Unit: "°C", Needed: true, Takes: "what plants stand once hardened off", OnScreen: "Coldest night they stand, hardened " +
			"off"},
		{
			Name:     "unhardened_c",
			Kind:     "number",
			Unit:     "°C",
			Takes:    "with good_days; not below the one for hardened-off plants",
			Hint:     "not colder than the figure for hardened-off plants",
			OnScreen: "Coldest night they stand, not hardened off",
		},
		{Name: "good_days", Kind: "number", Unit: "days", Takes: "0 or more, with unhardened_c", OnScreen: "Good days outside so far"},
		{Name: "frame_gain_c", Kind: "number", Unit: "K", Default: "0", Takes: "closed frame or fleece", OnScreen: "How much warmer it is under cover"},
		{
			Name:     "nights",
			Kind:     "list",
			Needed:   true,
			Takes:    `{"site_c", "station_c"}, up to 5,000; may be empty`,
			OnScreen: "Nights compared",
			Parts: []Field{
				{Name: "site_c", Kind: "number", Unit: "°C", OnScreen: "Lowest here"},
				{Name: "station_c", Kind: "number", Unit: "°C", OnScreen: "at the station"},
			},
		},
		{Name: "forecast_sd_c", Kind: "number", Unit: "K", Default: "0", Takes: "0 or more", OnScreen: "The forecast is out by"},
		{Name: "bring_in_above", Kind: "number", Unit: "share", Default: "0.1", Takes: "above 0 and below 1", OnScreen: "Protect plants if the chance of " +
			"harm is at least"},
		{
			Name:     "prior_mean_c",
			Kind:     "number",
			Unit:     "K",
			Default:  "-1.5",
			Takes:    "here less the station, before any night",
			OnScreen: "How much warmer it usually is here",
		},
		{Name: "prior_sd_c", Kind: "number", Unit: "K", Default: "1.5", Takes: "above 0", OnScreen: "give or take"},
		{Name: "night_sd_c", Kind: "number", Unit: "K", Default: "1.4", Takes: "above 0", OnScreen: "Nights vary by"},
	},
	Example: `{"nights": [{"site_c": 1.8, "station_c": 4}, {"site_c": -0.5, "station_c": 1.5}, {"site_c": 3.1, "station_c": 5}], "forecast_c": -1, ` +
		`"safe_c": -5, "unhardened_c": 0, "good_days": 3, "frame_gain_c": 2}`,
	run: func(o *object) (answer, error) {
		in := climate.NightInput{
			PriorMeanC: o.numberOr(
				"prior_mean_c",
				climate.PriorMeanC,
			), PriorSDC: o.numberOr("prior_sd_c", climate.PriorSDC), NightSDC: o.numberOr("night_sd_c", climate.NightSDC),
			ForecastC: o.number(
				"forecast_c",
			), ForecastSD: o.numberOr("forecast_sd_c", 0), FrameGainC: o.numberOr("frame_gain_c", 0), SafeC: o.number("safe_c"),
			BringInAbove: o.numberOr("bring_in_above", climate.BringInAbove),
		}
		o.each("nights", func(_ int, n *object) {
			in.Nights = append(in.Nights, climate.Pair{SiteC: n.number("site_c"), StationC: n.number("station_c")})
		})
		if o.has("unhardened_c") || o.has("good_days") {
			u := o.number("unhardened_c")
			in.UnhardenedC, in.GoodDays = &u, o.number("good_days")
		}
		return with(o, func() (climate.Night, error) { return climate.SiteNight(in) }, func(n climate.Night) answer {
			advice := "leave"
			if n.Protect {
				advice = "protect"
			}
			return answer{
				"difference_c": n.DifferenceC, "difference_sd_c": n.DifferenceSDC, "night_sd_c": n.NightSDC, "expected_c": n.ExpectedC, "spread_c": n.SpreadC,
				"low_c": n.LowC, "high_c": n.HighC, "chance_frost": n.ChanceFrost, "floor_c": n.FloorC, "chance_below_floor": n.ChanceBelowFloor,
				"advice": advice, "steps": n.Steps,
			}
		})
	},
}
