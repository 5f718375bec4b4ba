package calc

import (
	"ulpa/core/chemistry"
	"ulpa/core/climate"
	"ulpa/core/fish"
	"ulpa/core/gauge"
	"ulpa/core/recipe"
	"ulpa/core/say"
)

var waterCultureSums = []Calculator{calibrate, drift, spoon, dechlorinate, indoorWater, fishDay}

// maybe is a number that may be left out.
func (o *object) maybe(name string) *float64 {
	if !o.has(name) {
		return nil
	}
	v := o.number(name)
	return &v
}

var calibrate = Calculator{
	Need: Judging,
	Name: "calibrate", Title: "How much to trust a pen", Answers: "Slope and offset of a pH pen, or the factor of a conductivity pen, and a corrected " +
		"reading",
	Fields: []Field{
		{Name: "kind", Kind: "text", Needed: true, Choices: []string{"ph", "ec"}, Takes: "ph or ec", OnScreen: "The pen reads"},
		{
			Name: "points", Kind: "list", Takes: `for ph: two or three of {"buffer" or "ph", "mv" or "shown_ph", "temperature_c"}`, OnScreen: "In pH buffers",
			Parts: []Field{
				{Name: "buffer", Kind: "text", Choices: gauge.Buffers(), OnScreen: "Buffer"},
				{Name: "ph", Kind: "number", OnScreen: "or its pH"},
				{Name: "mv", Kind: "number", Unit: "mV", OnScreen: "Shown"},
				{Name: "shown_ph", Kind: "number", OnScreen: "or pH shown"},
				{Name: "temperature_c", Kind: "number", Unit: "°C", OnScreen: "at"},
			},
		},
		{
			Name: "standards", Kind: "list", Takes: `for ec: one or two of {"true25_ms_cm", "shown_ms_cm", "temperature_c"}`, OnScreen: "In conductivity standards",
			Parts: []Field{
				{Name: "true25_ms_cm", Kind: "number", Unit: "mS/cm", OnScreen: "Standard at 25 °C"},
				{Name: "shown_ms_cm", Kind: "number", Unit: "mS/cm", OnScreen: "Shown"},
				{Name: "temperature_c", Kind: "number", Unit: "°C", OnScreen: "at"},
			},
		},
		{
			Name: "compensated", Kind: "yes", Default: "false", Takes: "true: the pen brings its figure to 25 °C itself",
			OnScreen: "Corrects for temperature itself",
		},
		{Name: "per_c", Kind: "number", Default: "0.0191", Takes: "0 to 0.05"},
		{
			Name: "reading", Kind: "object", Takes: `{"mv" or "shown_ph", "temperature_c"}, or {"shown_ms_cm", "temperature_c"}`, OnScreen: "A reading since",
			Parts: []Field{
				{Name: "mv", Kind: "number", Unit: "mV", OnScreen: "Shown"},
				{Name: "shown_ph", Kind: "number", OnScreen: "or pH shown"},
				{Name: "shown_ms_cm", Kind: "number", Unit: "mS/cm", OnScreen: "or conductivity shown"},
				{Name: "temperature_c", Kind: "number", Unit: "°C", OnScreen: "at"},
			},
		},
		{Name: "settle_seconds", Kind: "number", Unit: "s", Default: "0", Takes: "0 or more", OnScreen: "Takes to settle"},
	},
	Example: `{"kind": "ph", "points": [{"buffer": "7.00", "shown_ph": 7.1, "temperature_c": 20}, {"buffer": "4.01", "shown_ph": 4.2, "temperature_c": 20}], ` +
		`"reading": {"shown_ph": 6.2, "temperature_c": 20}}`,
	run: func(o *object) (answer, error) {
		if o.choice("kind", "ph", "ec") == "ec" {
			return calibrateEC(o)
		}
		return calibratePH(o)
	},
}

func calibratePH(o *object) (answer, error) {
	in := gauge.PenInput{SettleSeconds: o.numberOr("settle_seconds", 0)}
	unit := "" // in which the pen shows, the same in all
	shown := func(x *object) float64 {
		mv, ph := x.has("mv"), x.has("shown_ph")
		switch {
		case mv && ph:
			x.refuse("shown_ph", "is given as well as mv: give only one of them")
		case !mv && !ph:
			x.refuse("mv", "is missing: give mV, or shown_ph")
		case unit == "" || mv == (unit == "mv"):
		case mv:
			x.refuse("mv", "is given where another point gives shown_ph: use the same in all points")
		default:
			x.refuse("shown_ph", "is given where another point gives mv: use the same in all points")
		}
		if mv {
			unit = "mv"
			return x.number("mv")
		}
		unit = "shown_ph"
		if ph {
			return x.number("shown_ph")
		}
		return 0
	}
	o.need("points", "two or three buffers")
	o.each("points", func(_ int, x *object) {
		p := gauge.Point{TemperatureC: x.number("temperature_c")}
		switch buffer, ph := x.has("buffer"), x.has("ph"); {
		case buffer && ph:
			x.refuse("ph", "is given as well as a buffer: give only one of them")
		case buffer:
			p.Buffer = x.choice("buffer", gauge.Buffers()...)
		case ph:
			p.PH = x.number("ph")
		default:
			x.refuse("buffer", "is missing: give a buffer, or ph")
		}
		p.Shown = shown(x)
		in.Points = append(in.Points, p)
	})
	if o.has("reading") {
		x := o.object("reading")
		in.Reading = &gauge.Point{TemperatureC: x.number("temperature_c"), Shown: shown(x)}
		x.done()
	}
	in.ShowsPH = unit == "shown_ph"
	return with(o, func() (gauge.Pen, error) { return gauge.CalibratePen(in) }, func(p gauge.Pen) answer {
		return answer{
			"slope_percent": p.SlopePercent, "offset_mv": p.OffsetMV, "worst_ph": p.WorstPH, "verdict": p.Verdict, "ph": p.PH,
			"uncorrected_ph": p.UncorrectedPH, "steps": p.Steps,
		}
	})
}

func calibrateEC(o *object) (answer, error) {
	in := gauge.ECPenInput{Compensated: o.yes("compensated"), PerC: o.numberOr("per_c", gauge.UsualPerC)}
	warm := func(x *object) float64 {
		if !in.Compensated {
			return x.number("temperature_c")
		}
		if x.has("temperature_c") {
			x.refuse("temperature_c", "is not used with a pen that corrects for temperature itself")
		}
		return 25
	}
	o.need("standards", "one or two standards")
	o.each("standards", func(_ int, x *object) {
		in.Standards = append(in.Standards, gauge.Standard{TrueMS: x.number("true25_ms_cm"), ShownMS: x.number("shown_ms_cm"), TemperatureC: warm(x)})
	})
	if o.has("reading") {
		x := o.object("reading")
		in.Reading = &gauge.Standard{ShownMS: x.number("shown_ms_cm"), TemperatureC: warm(x)}
		x.done()
	}
	return with(o, func() (gauge.ECPen, error) { return gauge.CalibrateEC(in) }, func(p gauge.ECPen) answer {
		return answer{
			"factor": p.Factor, "zero_ms_cm": p.ZeroMS, "worst_percent": p.WorstPercent, "verdict": p.Verdict, "ec25_ms_cm": p.EC25MS, "steps": p.Steps,
		}
	})
}

var drift = Calculator{
	Need: Judging,
	Name: "drift", Title: "Is the probe to be believed", Answers: "Whether a probe drifts, sticks, jumps or goes silent, checked with a hand meter " +
		"beside it",
	Fields: []Field{
		{
			Name: "pairs", Kind: "list", Needed: true, Takes: `{"day", "probe", "hand"}, days rising, up to 5,000`, OnScreen: "Probe and hand meter",
			Parts: []Field{
				{Name: "day", Kind: "number", Unit: "days", OnScreen: "Day"},
				{Name: "probe", Kind: "number", OnScreen: "Probe"},
				{Name: "hand", Kind: "number", OnScreen: "By hand"},
			},
		},
		{Name: "probe_error", Kind: "number", Default: "0.05", Takes: "above 0", OnScreen: "Error of the probe"},
		{Name: "hand_error", Kind: "number", Default: "0.1", Takes: "above 0", OnScreen: "Error of the hand meter"},
		{Name: "slack", Kind: "number", Default: "0.5", Takes: "0 or more, standard errors"},
		{Name: "alarm", Kind: "number", Default: "4", Takes: "above 0, standard errors"},
		{
			Name: "series", Kind: "list", Takes: `{"day", "value"}, days rising, up to 100,000: what the probe wrote down`, Long: true, AsJSON: true,
			OnScreen: "What it logged",
		},
		{Name: "now_day", Kind: "number", Unit: "days", Takes: "the day it is now"},
		{Name: "silent_days", Kind: "number", Unit: "days", Default: "0.25", Takes: "above 0"},
		{Name: "resolution", Kind: "number", Default: "0.01", Takes: "above 0: the last figure it shows"},
		{Name: "spike", Kind: "number", Default: "0.3", Takes: "above 0: a jump"},
	},
	Example: `{"pairs": [{"day": 0, "probe": 5.93, "hand": 5.9}, {"day": 3, "probe": 6.27, "hand": 6.0}, {"day": 5, "probe": 6.5, "hand": 6.3}, ` +
		`{"day": 7, "probe": 6.73, "hand": 6.5}, {"day": 10, "probe": 7.08, "hand": 6.7}]}`,
	run: func(o *object) (answer, error) {
		in := gauge.UsualDrift()
		for name, at := range map[string]*float64{
			"probe_error": &in.ProbeError, "hand_error": &in.HandError, "slack": &in.Slack, "alarm": &in.Alarm, "silent_days": &in.SilentDays,
			"resolution": &in.Resolution, "spike": &in.Spike,
		} {
			*at = o.numberOr(name, *at)
		}
		o.need("pairs", "a list of pairs, which may be empty")
		o.each("pairs", func(_ int, x *object) {
			in.Pairs = append(in.Pairs, gauge.Pair{Day: x.number("day"), Probe: x.number("probe"), Hand: x.number("hand")})
		})
		if in.HasSeries = o.has("series"); in.HasSeries {
			o.each("series", func(_ int, x *object) {
				in.Series = append(in.Series, gauge.Logged{Day: x.number("day"), Value: x.number("value")})
			})
		}
		in.NowDay = o.maybe("now_day")
		return with(o, func() (gauge.Drifted, error) { return gauge.Drift(in) }, func(d gauge.Drifted) answer {
			direction := any(d.Direction)
			if d.Direction == "" {
				direction = nil
			}
			return answer{
				"verdict": d.Verdict, "offset": d.Offset, "slope_per_week": d.SlopePerWeek, "alarm_day": d.AlarmDay, "direction": direction,
				"cusum_high": d.CusumHigh, "cusum_low": d.CusumLow, "spikes": d.Spikes, "stuck_since_day": d.StuckSince, "steps": d.Steps,
			}
		})
	},
}

var spoon = Calculator{
	Need: Mixing,
	Name: "spoon", Title: "Grams in spoons", Answers: "What a level spoon of a powder weighs, and how far off an amount in spoons may be",
	Fields: []Field{
		{
			Name: "weighings", Kind: "list", Needed: true, Takes: `{"spoons", "grams"}: so many level spoons, weighed together`, OnScreen: "Weighed",
			Parts: []Field{{Name: "spoons", Kind: "integer", OnScreen: "Level spoons"}, {Name: "grams", Kind: "number", Unit: "g", OnScreen: "together"}},
		},
		{Name: "scale_error_g", Kind: "number", Unit: "g", Default: "0.1", Takes: "0 or more", OnScreen: "Error of the scale"},
		{Name: "want_g", Kind: "number", Unit: "g", Takes: "above 0", OnScreen: "Wanted"},
	},
	Example: `{"weighings": [{"spoons": 5, "grams": 24.1}, {"spoons": 5, "grams": 26}], "want_g": 30}`,
	run: func(o *object) (answer, error) {
		in := recipe.SpoonInput{ScaleErrorG: o.numberOr("scale_error_g", recipe.ScaleErrorG), WantG: o.maybe("want_g")}
		o.need("weighings", "a list of weighings")
		o.each("weighings", func(_ int, x *object) {
			in.Weighings = append(in.Weighings, recipe.Weighing{Spoons: x.integer("spoons"), Grams: x.number("grams")})
		})
		return with(o, func() (recipe.Spooned, error) { return recipe.Spoon(in) }, func(s recipe.Spooned) answer {
			return answer{
				"grams_per_spoon": s.GramsPerSpoon, "error_g": s.ErrorG, "spoon_spread_g": s.SpreadG, "spoons": s.Spoons, "level_quarters": s.LevelQuarters,
				"gives_g": s.GivesG, "gives_error_g": s.GivesErrorG, "off_percent": s.OffPct, "weigh_instead": s.WeighInstead, "steps": s.Steps,
			}
		})
	},
}

var dechlorinate = Calculator{
	Need: Mixing,
	Name: "dechlorinate", Title: "Chlorine out of the water", Answers: "How much of a product removes chlorine or chloramine, and what is left",
	Fields: []Field{
		{Name: "volume_l", Kind: "number", Unit: "L", Needed: true, Takes: "above 0", OnScreen: "Water"},
		{
			Name: "kind", Kind: "text", Needed: true, Choices: []string{chemistry.FreeChlorine, chemistry.Chloramine}, Takes: "free_chlorine or chloramine",
			OnScreen: "What is in it",
		},
		{Name: "mg_l", Kind: "number", Unit: "mg/L", Needed: true, Takes: "0 to 20, as Cl2", OnScreen: "As measured, as chlorine"},
		{Name: "limit_mg_l", Kind: "number", Unit: "mg/L", Default: "0.02", Takes: "above 0: 0.02 for fish; 0.5 will do for roots", OnScreen: "May be left"},
		{
			Name: "agent", Kind: "text", Default: chemistry.AscorbicAcid, Choices: []string{chemistry.AscorbicAcid, chemistry.Thiosulfate},
			Takes: "ascorbic_acid or sodium_thiosulfate_pentahydrate", OnScreen: "With",
		},
		{Name: "excess", Kind: "number", Default: "1.3", Takes: "1 to 3", OnScreen: "How many times the amount needed"},
		{
			Name: "half_life_h", Kind: "number", Unit: "h", Takes: "above 0, of free chlorine: standing or bubbling, as measured",
			OnScreen: "Half leaves by standing in",
		},
		{Name: "ph", Kind: "number", Default: "7.5", Takes: "0 to 14", OnScreen: "pH"},
		{Name: "temperature_c", Kind: "number", Unit: "°C", Default: "20", Takes: "0 to 50", OnScreen: "Temperature"},
	},
	Example: `{"volume_l": 23, "kind": "chloramine", "mg_l": 0.6, "ph": 8.2, "temperature_c": 24}`,
	run: func(o *object) (answer, error) {
		in := chemistry.ChlorineInput{
			VolumeL: o.number("volume_l"), Kind: o.choice("kind", chemistry.FreeChlorine, chemistry.Chloramine), MgL: o.number("mg_l"),
			LimitMg: o.numberOr("limit_mg_l", chemistry.ChlorineForFish), Agent: chemistry.AscorbicAcid, Excess: o.numberOr("excess", 1.3),
			HalfLifeH: o.maybe("half_life_h"), PH: o.numberOr("ph", 7.5), TemperatureC: o.numberOr("temperature_c", 20),
		}
		if o.has("agent") {
			in.Agent = o.choice("agent", chemistry.AscorbicAcid, chemistry.Thiosulfate)
		}
		return with(o, func() (chemistry.Dechlorinated, error) { return chemistry.Dechlorinate(in) }, func(d chemistry.Dechlorinated) answer {
			return answer{
				"needed": d.Needed, "agent_mg": d.AgentMg, "agent_mg_exact": d.ExactMg, "standing_h": d.StandingH, "ammonia_n_mg_l": d.AmmoniaMgL,
				"unionised_mg_l": d.UnionisedL, "ammonia_n_limit_mg_l": d.AmmoniaLimitMgL, "steps": d.Steps, "cautions": d.Cautions,
			}
		})
	},
}

var indoorWater = Calculator{
	Need: Keeping,
	Name: "indoor-water", Title: "How much water a bench uses", Answers: "How much water a bench or tower uses in light and dry air, and how long a store lasts",
	Fields: []Field{
		{Name: "solar_mj_m2", Kind: "number", Unit: "MJ/m²", Default: "0", Takes: "0 to 45, at the plants", OnScreen: "Sun at the plants, a day"},
		{Name: "lamp_mol_m2", Kind: "number", Unit: "mol/m²", Default: "0", Takes: "0 to 80", OnScreen: "Lamps, a day"},
		{Name: "leaf_area_index", Kind: "number", Needed: true, Takes: "0 to 10: m² of leaf on a m²", OnScreen: "Leaf area index"},
		{Name: "vpd_kpa", Kind: "number", Unit: "kPa", Takes: "0 to 8; or temperature and humidity", OnScreen: "Vapour pressure deficit"},
		{Name: "temperature_c", Kind: "number", Unit: "°C", Takes: "with humidity_percent", OnScreen: "or temperature"},
		{Name: "humidity_percent", Kind: "number", Unit: "%", Takes: "0 to 100", OnScreen: "and humidity"},
		{Name: "light_hours", Kind: "number", Unit: "h", Needed: true, Takes: "0 to 24", OnScreen: "Light, a day"},
		{Name: "area_m2", Kind: "number", Unit: "m²", Takes: "above 0; 1 where left out", OnScreen: "Area"},
		{Name: "plants", Kind: "number", Takes: "above 0, with area_per_plant_m2", OnScreen: "or plants"},
		{Name: "area_per_plant_m2", Kind: "number", Unit: "m²", Takes: "above 0", OnScreen: "each"},
		{Name: "factor", Kind: "number", Takes: "above 0, to 20; 1 where left out"},
		{
			Name: "record", Kind: "list", Takes: `{"measured_l", "computed_l", "error_share"}: what it drank, beside this sum with factor 1`,
			OnScreen: "What it really drank",
			Parts: []Field{
				{Name: "measured_l", Kind: "number", Unit: "L", OnScreen: "Drank"},
				{Name: "computed_l", Kind: "number", Unit: "L", OnScreen: "this calculator said"},
				{Name: "error_share", Kind: "number", Unit: "share", OnScreen: "give or take"},
			},
		},
		{Name: "store_l", Kind: "number", Unit: "L", Takes: "0 or more", OnScreen: "It drinks from"},
		{Name: "cells", Kind: "integer", Takes: "above 0, with cell_ml", OnScreen: "or from cells"},
		{Name: "cell_ml", Kind: "number", Unit: "mL", Takes: "above 0", OnScreen: "of"},
		{Name: "usable_share", Kind: "number", Unit: "share", Default: "0.3", Takes: "above 0, to 1: of a cell that is water plants can take"},
		{Name: "take_share", Kind: "number", Unit: "share", Default: "0.5", Takes: "above 0, to 1: of that before they suffer"},
	},
	Example: `{"lamp_mol_m2": 12, "leaf_area_index": 1.2, "temperature_c": 21, "humidity_percent": 60, "light_hours": 14, ` +
		`"area_m2": 0.15, "cells": 72, "cell_ml": 40}`,
	run: runIndoorWater,
}

func runIndoorWater(o *object) (answer, error) {
	in := climate.DrinkInput{AreaM2: 1, Factor: 1, StoreL: o.maybe("store_l")}
	in.Indoors = climate.Indoors{
		SolarMJ: o.numberOr("solar_mj_m2", 0), LampMol: o.numberOr("lamp_mol_m2", 0), LeafAreaIndex: o.number("leaf_area_index"),
		LightHours: o.number("light_hours"), VPDKPa: readDeficit(o),
	}
	area, plants := o.has("area_m2"), o.has("plants")
	switch {
	case area && plants:
		o.refuse("plants", "is given as well as an area: give only one of them")
	case area && o.has("area_per_plant_m2"):
		o.refuse("area_per_plant_m2", "is given as well as an area: give only one of them")
	case area:
		in.AreaM2 = o.number("area_m2")
	case plants || o.has("area_per_plant_m2"):
		n, each := o.number("plants"), o.number("area_per_plant_m2")
		positive(o, "plants", n, "must be a number above 0")
		positive(o, "area_per_plant_m2", each, "must be above 0 m²")
		in.AreaM2, in.Plants = n*each, &n
	}
	if record := o.has("record"); record && o.has("factor") {
		o.refuse("record", "is given as well as a factor: give only one of them")
	} else if record {
		in.Record = []climate.Recorded{}
		o.each("record", func(_ int, x *object) {
			in.Record = append(in.Record, climate.Recorded{
				MeasuredL: x.number("measured_l"), ComputedL: x.number("computed_l"), ErrorShare: x.numberOr("error_share", climate.UsualErrorShare),
			})
		})
	}
	in.Factor = o.numberOr("factor", 1)
	if litres := readCells(o); litres > 0 {
		if in.StoreL != nil {
			o.refuse("cells", "is given as well as a store: give only one of them")
		}
		in.StoreL = &litres
	}
	return with(o, func() (climate.Drunk, error) { return climate.Drink(in) }, func(d climate.Drunk) answer {
		return answer{
			"light_part_l_m2": d.ByLightLM2, "air_part_l_m2": d.ByAirLM2, "use_l_m2_day": d.UseLM2, "use_l_day": d.UseL, "per_plant_ml_day": d.PerPlantML,
			"factor": d.Factor, "factor_sd": d.FactorSD, "store_l": d.StoreL, "days_until_dry": d.DryDays, "days_until_dry_cautious": d.DryDaysCautious,
			"steps": d.Steps,
		}
	})
}

// readDeficit is a vapour pressure deficit, or that of a temperature and a humidity, kPa.
func readDeficit(o *object) float64 {
	air := o.has("temperature_c") || o.has("humidity_percent")
	switch deficit := o.has("vpd_kpa"); {
	case deficit && air:
		o.refuse("temperature_c", "is given as well as a vapour pressure deficit: give only one of them")
	case deficit:
		return o.number("vpd_kpa")
	case air:
		t, h := o.number("temperature_c"), o.number("humidity_percent")
		if len(*o.errs) > 0 {
			return 0
		}
		a, err := climate.OfAir(t, h, 0)
		if err != nil && o.path != "" {
			err = under(o.path, err)
		}
		if o.errs.Join(err); err == nil {
			return a.VPDKPa
		}
	default:
		o.refuse("temperature_c", "is missing: say temperature and humidity, or a vapour pressure deficit")
	}
	return 0
}

// readCells is the water that cells give before plants suffer, in litres; 0 without cells.
func readCells(o *object) float64 {
	share := func(name string, usual float64) float64 {
		v := o.numberOr(name, usual)
		if v <= 0 || v > 1 {
			o.refuse(name, "must be a share above 0, up to 1")
		}
		return v
	}
	usable, take := share("usable_share", 0.3), share("take_share", 0.5)
	if !o.has("cells") {
		if o.has("cell_ml") {
			o.refuse("cells", "is missing: enter how many cells of that size")
		}
		return 0
	}
	n, ml := float64(o.integer("cells")), o.number("cell_ml")
	positive(o, "cells", n, "must be a whole number above 0")
	positive(o, "cell_ml", ml, "must be above 0 millilitres")
	return n * ml / 1000 * usable * take
}

// positive refuses what is not above 0, where nothing was wrong with it before.
func positive(o *object, name string, v float64, says say.Words) {
	if v <= 0 && len(*o.errs) == 0 {
		o.refuse(name, says)
	}
}

var fishDay = Calculator{
	Need: Keeping,
	Name: "fish", Title: "Feed and water of fish", Answers: "Feed by weight and temperature, the ammonia it makes, and the filter and plants that " +
		"can handle it",
	Fields: []Field{
		{Name: "fish", Kind: "integer", Needed: true, Takes: "1 or more", OnScreen: "Fish##many"},
		{Name: "mass_g", Kind: "number", Unit: "g", Needed: true, Takes: "above 0, of one", OnScreen: "One weighs"},
		{Name: "feed_percent_day", Kind: "number", Unit: "%", Needed: true, Takes: "of body mass at 25 to 30 °C", OnScreen: "Feed a day, share of body weight"},
		{Name: "protein_percent", Kind: "number", Unit: "%", Needed: true, Takes: "above 0, to 100", OnScreen: "Protein in the feed"},
		{Name: "temperature_c", Kind: "number", Unit: "°C", Needed: true, Takes: "0 to 45", OnScreen: "Temperature"},
		{Name: "ph", Kind: "number", Needed: true, Takes: "4 to 10", OnScreen: "pH"},
		{Name: "water_l", Kind: "number", Unit: "L", Needed: true, Takes: "above 0", OnScreen: "Water"},
		{Name: "tan_mg_l", Kind: "number", Unit: "mg/L", Needed: true, Takes: "total ammonia nitrogen now", OnScreen: "Total ammonia, as nitrogen"},
		{Name: "unionised_limit_mg_l", Kind: "number", Unit: "mg/L", Default: "0.02", Takes: "above 0"},
		{Name: "source_tan_mg_l", Kind: "number", Unit: "mg/L", Default: "0", Takes: "of the water for a change", OnScreen: "in the water used for the change"},
		{Name: "nitrite_mg_l", Kind: "number", Unit: "mg/L", Takes: "as nitrogen", OnScreen: "Nitrite, as nitrogen"},
		{Name: "oxygen_mg_l", Kind: "number", Unit: "mg/L", Takes: "0 or more", OnScreen: "Oxygen"},
		{Name: "filter_m2", Kind: "number", Unit: "m²", Takes: "surface of the filter", OnScreen: "Surface of the filter"},
	},
	Example: `{"fish": 20, "mass_g": 150, "feed_percent_day": 1.5, "protein_percent": 32, "temperature_c": 25, "ph": 7.0, ` +
		`"water_l": 800, "tan_mg_l": 1, "filter_m2": 4}`,
	run: func(o *object) (answer, error) {
		in := fish.Input{
			Fish: o.integer("fish"), MassG: o.number("mass_g"), FeedPercentDay: o.number("feed_percent_day"), ProteinPercent: o.number("protein_percent"),
			TemperatureC: o.number("temperature_c"), PH: o.number("ph"), WaterL: o.number("water_l"), TANMgL: o.number("tan_mg_l"),
			UnionisedLimit: o.numberOr("unionised_limit_mg_l", chemistry.UnionisedForFish), SourceTANMgL: o.numberOr("source_tan_mg_l", 0),
			NitriteMgL: o.maybe("nitrite_mg_l"), OxygenMgL: o.maybe("oxygen_mg_l"), FilterM2: o.maybe("filter_m2"),
		}
		return with(o, func() (fish.Answer, error) { return fish.Day(in) }, func(a fish.Answer) answer {
			return answer{
				"appetite": a.Appetite, "feed_g_day": a.FeedG, "feed_advice": a.Advice, "feed_today_g": a.FeedTodayG, "tan_g_day": a.TANG,
				"tan_rise_mg_l_day": a.TANRiseMgL, "filter_m2_needed": a.FilterM2Needed, "filter_enough": a.FilterEnough, "plant_m2_low": a.PlantM2Low,
				"plant_m2_high": a.PlantM2High, "alkalinity_g_caco3_day": a.AlkalinityG, "potassium_bicarbonate_g_day": a.BicarbonateG,
				"oxygen_g_day": a.OxygenG, "unionised_mg_l": a.UnionisedMgL, "tan_limit_mg_l": a.TANLimitMgL, "tan_over_limit": a.TANOverLimt,
				"change_share": a.ChangeShare, "change_l": a.ChangeL, "steps": a.Steps, "cautions": a.Cautions,
			}
		})
	},
}
