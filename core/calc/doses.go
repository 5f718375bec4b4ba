package calc

import "ulpa/core/chemistry"

// acids may be given next; every agent may stand in a history.
var (
	acids  = []string{"nitric_acid", "sulfuric_acid", "phosphoric_acid", "citric_acid"}
	agents = append(append([]string{}, acids...), "potassium_hydroxide", "potassium_carbonate", "potassium_bicarbonate")
)

var dosesSums = []Calculator{learnDose}

var learnDose = Calculator{
	Need: Keeping,
	Name: "learn-dose", Title: "The next dose", Answers: "What the acid did in this water, and a next dose that cannot hurt",
	Fields: []Field{
		{Name: "volume_l", Kind: "number", Unit: "L", Needed: true, Takes: "above 0", OnScreen: "Volume"},
		{Name: "ph_target", Kind: "number", Needed: true, Takes: "5.2 to 8.5", OnScreen: "pH wanted"},
		{
			Name:     "ph_floor",
			Kind:     "number",
			Takes:    "5.0 to below the target; 0.3 below it, but never below 5.0, where left out",
			Hint:     "If you leave it out: 0.3 below it, but never below 5.0",
			OnScreen: "Must never be below pH",
		},
		{
			Name:     "ph_high",
			Kind:     "number",
			Takes:    "above the target, up to 10; 0.2 above it where left out",
			Hint:     "If you leave it out: 0.2 above it",
			OnScreen: "Top of the range",
		},
		{
			Name:     "history",
			Kind:     "list",
			Needed:   true,
			Takes:    `readings {"minute", "ph", "error"} and doses {"minute", "agent", "amount", "strength_percent", "density_g_ml"} in order of time, a reading first`,
			OnScreen: "What was read and dosed, in order",
			Parts: []Field{
				{Name: "minute", Kind: "number", Unit: "min", OnScreen: "At minute"},
				{Name: "ph", Kind: "number", OnScreen: "read pH"},
				{Name: "error", Kind: "number", OnScreen: "give or take"},
				{Name: "amount", Kind: "number", OnScreen: "or dosed, mL or g"},
				{Name: "agent", Kind: "text", Choices: agents, OnScreen: "of"},
				{Name: "strength_percent", Kind: "number", Unit: "%", OnScreen: "strength"},
				{Name: "density_g_ml", Kind: "number", Unit: "g/mL", OnScreen: "density"},
			},
		},
		{
			Name:     "now_minute",
			Kind:     "number",
			Unit:     "min",
			Takes:    "not before the last of the history; that is now where left out",
			Hint:     "if you leave it out: now",
			OnScreen: "Minute it is now",
		},
		{
			Name:     "next",
			Kind:     "object",
			Needed:   true,
			Takes:    `{"agent": an acid, "strength_percent", "density_g_ml"}`,
			OnScreen: "The acid on the shelf",
			Parts: []Field{
				{
					Name:     "agent",
					Kind:     "text",
					Choices:  acids,
					OnScreen: "Acid",
				},
				{Name: "strength_percent", Kind: "number", Unit: "%", OnScreen: "Its strength"},
				{
					Name: "density_g_ml", Kind: "number", Unit: "g/mL",
					OnScreen: "Its density",
				},
			},
		},
		{
			Name:   "prior",
			Kind:   "object",
			Needed: true,
			Takes: `{"alkalinity_mg_l_caco3", "factor"} of a tested water just drawn, or {"co2_ppm_low", ` +
				`"co2_ppm_high"} of a tank that has run in air for a day, or {"unknown": true}; each with "doubt", 0.2 where left out`,
			OnScreen: "What is known about the water",
			Parts: []Field{
				{Name: "alkalinity_mg_l_caco3", Kind: "number", Unit: "mg/L CaCO₃", OnScreen: "Just drawn, with an alkalinity of"},
				{Name: "factor", Kind: "number", OnScreen: "within a factor of"},
				{Name: "co2_ppm_low", Kind: "number", Unit: "ppm", OnScreen: "or in air with carbon dioxide from"},
				{Name: "co2_ppm_high", Kind: "number", Unit: "ppm", OnScreen: "to"},
				{Name: "unknown", Kind: "yes", OnScreen: "or nothing is known"},
				{Name: "doubt", Kind: "number", Unit: "share", OnScreen: "Chance that it is wrong"},
			},
		},
		{Name: "phosphorus_mg_l", Kind: "number", Unit: "mg/L", Default: "0", Takes: "0 or more", OnScreen: "Phosphorus in it"},
		{Name: "ec_ms_cm", Kind: "number", Unit: "mS/cm", Default: "0.5", Takes: "0 to 20", OnScreen: "Strength of the solution"},
		{Name: "temperature_c", Kind: "number", Unit: "°C", Default: "25", Takes: "0 to 50", OnScreen: "Temperature"},
		{Name: "mixing_minutes", Kind: "number", Unit: "min", Default: "15", Takes: "5 to 240", OnScreen: "Minutes until a dose has mixed"},
		{
			Name:     "gas_half_life_h",
			Kind:     "number",
			Unit:     "h",
			Takes:    "0.1 to 1,000; the gas stays in where left out",
			Hint:     "if you leave it out: the gas stays in",
			OnScreen: "Half the gas has left after",
		},
		{
			Name:     "forecast_error",
			Kind:     "number",
			Default:  "0.05",
			Takes:    "0.01 to 0.5; 0.2 with a colour card",
			Hint:     "0.2 with a colour card",
			OnScreen: "Forecasts are usually off by",
		},
	},
	Example: `{"volume_l": 60, "ph_target": 5.9, "phosphorus_mg_l": 30, "ec_ms_cm": 1.4, "temperature_c": 20, "history": [{"minute": 0, "ph": 6.9}, ` +
		`{"minute": 3, "agent": "phosphoric_acid", "amount": 4, "strength_percent": 30, "density_g_ml": 1.18}, {"minute": 25, "ph": 6.5}], ` +
		`"next": {"agent": "phosphoric_acid", "strength_percent": 30, "density_g_ml": 1.18}, "prior": {"co2_ppm_low": 1000, "co2_ppm_high": 5000}}`,
	run: func(o *object) (answer, error) {
		in := chemistry.LearnInput{
			VolumeL: o.number(
				"volume_l",
			), PHTarget: o.number("ph_target"), PhosphorusMgL: o.numberOr("phosphorus_mg_l", 0), ECMScm: o.numberOr("ec_ms_cm", 0.5),
			TemperatureC: o.numberOr(
				"temperature_c",
				25,
			), MixingMinutes: o.numberOr("mixing_minutes", 15), GasHalfLifeH: o.positiveOr("gas_half_life_h", 0), ForecastError: o.numberOr("forecast_error", 0.05),
		}
		in.PHFloor, in.PHHigh = o.numberOr("ph_floor", max(in.PHTarget-0.3, 5)), o.numberOr("ph_high", in.PHTarget+0.2)
		o.each("history", func(_ int, h *object) { in.History = append(in.History, readEvent(h)) })
		if n := len(in.History); n > 0 {
			in.NowMinute = in.History[n-1].Minute
		}
		in.NowMinute = o.numberOr("now_minute", in.NowMinute)
		next := o.object("next")
		in.Next = readProduct(next, acids)
		next.done()
		in.Prior = readPrior(o.object("prior"))
		return with(o, func() (chemistry.Learned, error) { return chemistry.LearnDose(in) }, tellLearned)
	},
}

func readProduct(o *object, takes []string) chemistry.Product {
	return chemistry.Product{
		Agent:           chemistry.Agent(o.choice("agent", takes...)),
		StrengthPercent: o.numberOr("strength_percent", 100),
		DensityGML:      o.positiveOr("density_g_ml", 0),
	}
}

func readEvent(h *object) chemistry.Event {
	e := chemistry.Event{Minute: h.number("minute")}
	if h.has("amount") || h.has("agent") {
		e.Dose = readProduct(h, agents)
		if e.Amount = h.number("amount"); e.Amount <= 0 {
			h.refuse("amount", "must be an amount above 0")
		}
		return e
	}
	e.PH, e.Error = h.number("ph"), h.numberOr("error", 0.1)
	return e
}

func readPrior(o *object) chemistry.Prior {
	p := chemistry.Prior{Doubt: o.numberOr("doubt", 0.2)}
	alkalinity, low, high, unknown := o.has("alkalinity_mg_l_caco3"), o.has("co2_ppm_low"), o.has("co2_ppm_high"), o.has("unknown")
	if alkalinity {
		p.AlkalinityMgL, p.Factor = o.positiveOr("alkalinity_mg_l_caco3", 0), o.numberOr("factor", 1.5)
	}
	if low || high {
		if p.CO2Low, p.CO2High = o.number("co2_ppm_low"), o.number("co2_ppm_high"); alkalinity {
			o.refuse("co2_ppm_low", "is given as well as an alkalinity: give only one of them")
		}
	}
	if unknown {
		if o.fields["unknown"] != true {
			o.refuse("unknown", "must be true, or is left out")
		}
		if alkalinity || low || high {
			o.refuse("unknown", "is given as well as something that is known: give only one of them")
		}
	}
	if !alkalinity && !low && !high && !unknown {
		o.refuse("alkalinity_mg_l_caco3", "is missing: give an alkalinity, two limits for carbon dioxide, or say that nothing is known")
	}
	o.done()
	return p
}

func tellBand(b *chemistry.Band) any {
	if b == nil {
		return nil
	}
	return answer{"p5": b.P5, "p50": b.P50, "p95": b.P95}
}

func tellLearned(l chemistry.Learned) answer {
	alkalinity := tellBand(&l.Alkalinity).(answer)
	alkalinity["mean"] = l.AlkalinityMean
	out := answer{
		"advice": l.Advice, "wait_minutes": l.WaitMinutes, "amount": l.Amount, "unit": l.Unit, "need": l.Need, "cap": l.Cap, "limited_by": nil,
		"chance_below_floor": l.ChanceBelowFloor, "chance_below_5": l.ChanceBelow5, "forecast_ph": tellBand(l.ForecastPH), "adds_mg_l": nil,
		"ph_floor": l.PHFloor, "ph_now": tellBand(&l.PHNow), "chance_above_target": l.ChanceAboveTarget, "chance_above_high": l.ChanceBeyond,
		"alkalinity_mg_l_caco3": alkalinity, "alkalinity_now_mg_l_caco3": l.AlkalinityNow, "information_bits": l.InformationBits,
		"learned": l.Learned, "misfit": l.Misfit, "used": l.Used, "cautions": l.Cautions, "steps": l.Steps,
	}
	if l.LimitedBy != "" {
		out["limited_by"] = l.LimitedBy
	}
	if l.AddsMgL != nil {
		out["adds_mg_l"] = l.AddsMgL
	}
	return out
}
