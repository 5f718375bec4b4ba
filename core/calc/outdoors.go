package calc

import (
	"fmt"
	"maps"
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/climate"
	"ulpa/core/irrigation"
	"ulpa/core/say"
)

// outdoorSums are about what goes outside and comes of it: what the air draws, hardening off, planting
// out, watering, compost, a sale, a trial in a bed.
var outdoorSums = []Calculator{et0, transplantDay, hardenRamp, bedWater, emitters, compostHeap, saleStock, trialDraw}

// weatherFields are those of a day's humidity, light and wind.
var weatherFields = []Field{
	{Name: "actual_vapour_kpa", Kind: "number", Unit: "kPa", Takes: "0 to 20: either this"},
	{Name: "dew_point_c", Kind: "number", Unit: "°C", Takes: "or this", OnScreen: "Dew point"},
	{Name: "humidity_max_percent", Kind: "number", Unit: "%", Takes: "or this", OnScreen: "or highest humidity"},
	{Name: "humidity_min_percent", Kind: "number", Unit: "%", Takes: "with the highest", OnScreen: "and lowest"},
	{Name: "humidity_mean_percent", Kind: "number", Unit: "%", Takes: "or this, or nothing", OnScreen: "or mean humidity"},
	{Name: "dew_below_min_c", Kind: "number", Unit: "°C", Takes: "0 to 10; 0 where left out: the dew point below the lowest, where no humidity is told"},
	{Name: "solar_mj_m2", Kind: "number", Unit: "MJ/m²", Takes: "either this", OnScreen: "Sun"},
	{Name: "sunshine_h", Kind: "number", Unit: "h", Takes: "or this, or nothing", OnScreen: "or hours of sun"},
	{Name: "krs", Kind: "number", Takes: "above 0, to 1; 0.16 where left out, 0.19 by the coast: where no light is told"},
	{Name: "wind_m_s", Kind: "number", Unit: "m/s", Takes: "0 or more; 2 where left out", OnScreen: "Wind"},
	{Name: "wind_height_m", Kind: "number", Unit: "m", Takes: "0.5 to 100; 2 where left out"},
}

// readGrass reads a day's humidity, light and wind.
func readGrass(o *object) climate.GrassInput {
	in := climate.GrassInput{
		VapourKPa: o.maybe("actual_vapour_kpa"), DewC: o.maybe("dew_point_c"), HumidityMax: o.maybe("humidity_max_percent"),
		HumidityMin: o.maybe("humidity_min_percent"), HumidityMean: o.maybe("humidity_mean_percent"), DewBelowMinC: o.numberOr("dew_below_min_c", 0),
		SolarMJ: o.maybe("solar_mj_m2"), SunshineH: o.maybe("sunshine_h"), Krs: o.numberOr("krs", climate.UsualKrs),
		WindMS: o.maybe("wind_m_s"), WindHeightM: o.numberOr("wind_height_m", 2),
	}
	o.atMostOne("a humidity", "actual_vapour_kpa", "dew_point_c", "humidity_max_percent", "humidity_mean_percent")
	if o.has("humidity_min_percent") && !o.has("humidity_max_percent") {
		o.refuse("humidity_max_percent", "is missing: give it with the least")
	}
	o.atMostOne("the light", "solar_mj_m2", "sunshine_h")
	if o.has("wind_height_m") && !o.has("wind_m_s") {
		o.refuse("wind_m_s", "is missing: give it with its height")
	}
	return in
}

// atMostOne refuses the second of some fields that tell the same.
func (o *object) atMostOne(what string, names ...string) {
	first := true
	for _, n := range names {
		if o.has(n) && !first {
			o.refuse(n, "is given as well as %s: give only one of them", what)
		}
		first = first && !o.has(n)
	}
}

var et0 = Calculator{
	Need: Keeping,
	Name: "et0", Title: "How much water the air draws", Answers: "How many millimetres of water the air draws from short, well watered grass in a day",
	Fields: slices.Concat([]Field{
		{
			Name: "method", Kind: "text", Default: "penman_monteith", Choices: []string{"penman_monteith", "hargreaves"},
			Takes: "penman_monteith, or hargreaves by temperature alone", OnScreen: "By",
		},
		{Name: "latitude_deg", Kind: "number", Unit: "°", Needed: true, Takes: "−65 to 65, north positive", OnScreen: "Latitude"},
		{Name: "date", Kind: "date", Needed: true, Takes: "a date", OnScreen: "Day"},
		{Name: "tmax_c", Kind: "number", Unit: "°C", Needed: true, Takes: "−60 to 60", OnScreen: "Highest temperature"},
		{Name: "tmin_c", Kind: "number", Unit: "°C", Needed: true, Takes: "not above the highest", OnScreen: "Lowest temperature"},
		{Name: "altitude_m", Kind: "number", Unit: "m", Takes: "−400 to 6,000; 0 where left out", OnScreen: "Altitude"},
		{Name: "soil_heat_mj_m2", Kind: "number", Unit: "MJ/m²", Takes: "into the soil; 0 where left out"},
	}, weatherFields),
	Example: `{"latitude_deg": 48, "altitude_m": 300, "date": "2027-05-03", "tmax_c": 18, "tmin_c": 7, "humidity_max_percent": 95, ` +
		`"humidity_min_percent": 45, "wind_m_s": 2.5, "solar_mj_m2": 18}`,
	run: func(o *object) (answer, error) {
		simple := o.has("method") && o.choice("method", "penman_monteith", "hargreaves") == "hargreaves"
		in := climate.GrassInput{}
		if !simple {
			in = readGrass(o)
			in.AltitudeM, in.SoilHeatMJ = o.numberOr("altitude_m", 0), o.numberOr("soil_heat_mj_m2", 0)
		}
		in.Simple = simple
		in.LatitudeDeg, in.Day, in.TMaxC, in.TMinC = o.number("latitude_deg"), o.day("date"), o.number("tmax_c"), o.number("tmin_c")
		return with(o, func() (climate.Grass, error) { return climate.OfGrass(in) }, func(g climate.Grass) answer { return tellGrass(g, simple) })
	},
}

func tellGrass(g climate.Grass, simple bool) answer {
	a := answer{"et0_mm": g.MM, "extraterrestrial_mj_m2": g.ExtraterrestrialMJ, "day_length_h": g.DayLengthH, "steps": g.Steps}
	if simple {
		return a
	}
	usual := []string{}
	for _, x := range []struct {
		name  string
		taken bool
	}{{"humidity", g.NoHumidity}, {"radiation", g.NoRadiation}, {"wind", g.NoWind}} {
		if x.taken {
			usual = append(usual, x.name)
		}
	}
	maps.Copy(a, answer{
		"radiation_term_mm": g.RadiationMM, "wind_term_mm": g.WindMM, "solar_mj_m2": g.SolarMJ, "net_radiation_mj_m2": g.NetMJ,
		"net_longwave_mj_m2": g.NetLongMJ, "saturation_kpa": g.SaturationKPa, "actual_vapour_kpa": g.VapourKPa, "wind_2m_m_s": g.Wind2,
		"delta_kpa_c": g.DeltaKPaC, "gamma_kpa_c": g.GammaKPaC, "substitutes": usual,
	})
	return a
}

var transplantDay = Calculator{
	Need: Planning,
	Name: "transplant-day", Title: "Which day to plant out", Answers: "On which of the coming days plants lose least when they are planted out",
	Fields: []Field{
		{Name: "latitude_deg", Kind: "number", Unit: "°", Needed: true, Takes: "−65 to 65, north positive", OnScreen: "Latitude"},
		{Name: "altitude_m", Kind: "number", Unit: "m", Takes: "−400 to 6,000; 0 where left out", OnScreen: "Altitude"},
		{Name: "leaf_m2", Kind: "number", Unit: "m²", Needed: true, Takes: "above 0, to 1: of a plant", OnScreen: "Leaf of a plant"},
		{Name: "plug_ml", Kind: "number", Unit: "mL", Needed: true, Takes: "above 0", OnScreen: "Its plug or pot"},
		{Name: "safe_c", Kind: "number", Unit: "°C", Needed: true, Takes: "−60 to 60", OnScreen: "Survives nights down to"},
		{Name: "can_cut", Kind: "yes", Takes: "true when the kind may be cut back", OnScreen: "It may be cut back"},
		{Name: "plants", Kind: "integer", Takes: "0 or more", OnScreen: "Plants"},
		{
			Name: "days", Kind: "list", Needed: true, Takes: `1 to 16 days in a row: {"date", "tmax_c", "tmin_c", "rain_mm", "open"} and the weather of et0`,
			OnScreen: "The coming days",
			Parts: slices.Concat([]Field{
				{Name: "date", Kind: "date", OnScreen: "Day"},
				{Name: "tmax_c", Kind: "number", Unit: "°C", OnScreen: "highest"},
				{Name: "tmin_c", Kind: "number", Unit: "°C", OnScreen: "lowest"},
				{Name: "rain_mm", Kind: "number", Unit: "mm", OnScreen: "rain"},
				{Name: "open", Kind: "yes"},
			}, onScreen(weatherFields, map[string]say.Words{"humidity_mean_percent": "mean humidity", "wind_m_s": "wind"})),
		},
	},
	Example: `{"latitude_deg": 51.5, "leaf_m2": 0.02, "plug_ml": 50, "safe_c": 2, "plants": 36, "days": [` +
		`{"date": "2027-05-15", "tmax_c": 27, "tmin_c": 13, "humidity_mean_percent": 55, "wind_m_s": 4}, ` +
		`{"date": "2027-05-16", "tmax_c": 19, "tmin_c": 9, "humidity_mean_percent": 72, "wind_m_s": 2}, ` +
		`{"date": "2027-05-17", "tmax_c": 17, "tmin_c": 10, "humidity_mean_percent": 80, "wind_m_s": 1.2, "rain_mm": 4}]}`,
	run: func(o *object) (answer, error) {
		in := climate.PlantingInput{
			LatitudeDeg: o.number("latitude_deg"), AltitudeM: o.numberOr("altitude_m", 0), LeafM2: o.number("leaf_m2"), PlugML: o.number("plug_ml"),
			SafeC: o.number("safe_c"), CanCut: o.yes("can_cut"),
		}
		if o.has("plants") {
			n := o.integer("plants")
			in.Plants = &n
		}
		o.each("days", func(_ int, x *object) {
			d := climate.PlantingDay{Weather: readGrass(x), RainMM: x.numberOr("rain_mm", 0), Open: !x.has("open") || x.yes("open")}
			d.Weather.Day, d.Weather.TMaxC, d.Weather.TMinC = x.day("date"), x.number("tmax_c"), x.number("tmin_c")
			in.Days = append(in.Days, d)
		})
		return with(o, func() (climate.Planting, error) { return climate.BestPlantingDay(in) }, tellPlanting)
	},
}

// onScreen are fields of which the screen asks for some alone, by these labels.
func onScreen(fields []Field, labels map[string]say.Words) []Field {
	out := slices.Clone(fields)
	for i := range out {
		out[i].OnScreen = labels[out[i].Name]
	}
	return out
}

func tellPlanting(p climate.Planting) answer {
	var best *calendar.Day
	if p.Best != 0 {
		best = &p.Best
	}
	days := []answer{}
	for _, d := range p.Days {
		measures := d.Measures
		if measures == nil {
			measures = []string{}
		}
		days = append(days, answer{
			"date": d.Day, "verdict": d.Verdict, "score": d.Score, "et0_mm": d.ET0MM, "demand_ml": d.DemandML, "evening_ml": d.EveningML,
			"plug_store_ml": d.StoreML, "ratio": d.Ratio, "coldest_c": d.ColdestC, "measures": measures,
		})
	}
	return answer{"best": best, "days": days, "carry_l": p.CarryL, "steps": p.Steps}
}

var soilNames = slices.Sorted(maps.Keys(irrigation.Soils))

var bedWater = Calculator{
	Need: Keeping,
	Name: "bed-water", Title: "When to water a bed", Answers: "On which days a bed wants water, and how many cans",
	Fields: []Field{
		{Name: "area_m2", Kind: "number", Unit: "m²", Needed: true, Takes: "above 0", OnScreen: "The bed"},
		{Name: "can_l", Kind: "number", Unit: "L", Default: "5", Takes: "above 0", OnScreen: "A can holds"},
		{
			Name: "soil", Kind: "text", Needed: true, Choices: soilNames, Takes: `a texture, or {"field_capacity", "wilting_point"}: shares by volume`,
			OnScreen: "Soil", Parts: numbers("field_capacity", "wilting_point"),
		},
		{Name: "root_now_m", Kind: "number", Unit: "m", Needed: true, Takes: "0.02 to 3: after planting out the depth of the plug", OnScreen: "Roots reach down"},
		{Name: "root_full_m", Kind: "number", Unit: "m", Takes: "up to 3; the depth now where left out", OnScreen: "and in the end"},
		{Name: "root_growth_m_day", Kind: "number", Unit: "m", Default: "0.01", Takes: "0 to 0.1", OnScreen: "growing a day by"},
		{Name: "kc", Kind: "number", Takes: "above 0, to 2: either this", OnScreen: "The crop draws, as a part of what grass does"},
		{
			Name: "stages", Kind: "object", Takes: `or {"kc_start", "kc_mid", "kc_end", "days": [4 lengths], "day_now"}`,
			Parts: []Field{
				{Name: "kc_start", Kind: "number"},
				{Name: "kc_mid", Kind: "number"},
				{Name: "kc_end", Kind: "number"},
				{Name: "days", Kind: "list", AsJSON: true},
				{Name: "day_now", Kind: "number", Unit: "days"},
			},
		},
		{Name: "depletion_p", Kind: "number", Unit: "share", Default: "0.5", Takes: "0.1 to 0.8", OnScreen: "It may use, before it is watered"},
		{Name: "depletion_mm", Kind: "number", Unit: "mm", Default: "0", Takes: "0 or more", OnScreen: "Missing now"},
		{Name: "efficiency", Kind: "number", Unit: "share", Default: "1", Takes: "0.2 to 1", OnScreen: "Of the water poured there stays"},
		{
			Name: "days", Kind: "list", Needed: true, Takes: `1 to 60 of {"et0_mm", "rain_mm"}; the first is today`, OnScreen: "The coming days",
			Parts: []Field{
				{Name: "et0_mm", Kind: "number", Unit: "mm", OnScreen: "Air draws"},
				{Name: "rain_mm", Kind: "number", Unit: "mm", OnScreen: "rain"},
			},
		},
	},
	Example: `{"area_m2": 2.16, "soil": "sandy_loam", "root_now_m": 0.1, "kc": 0.7, "depletion_p": 0.3, "days": [{"et0_mm": 4.4}, {"et0_mm": 3.1, ` +
		`"rain_mm": 6}, {"et0_mm": 4.8}, {"et0_mm": 5.2}]}`,
	run: func(o *object) (answer, error) {
		in := irrigation.BedInput{
			AreaM2: o.number("area_m2"), CanL: o.numberOr("can_l", irrigation.UsualCanL), Soil: readSoil(o), RootNowM: o.number("root_now_m"),
			RootGrowthM: o.numberOr("root_growth_m_day", irrigation.UsualGrowth), DepletionP: o.numberOr("depletion_p", irrigation.UsualDepletion),
			DepletionMM: o.numberOr("depletion_mm", 0), Efficiency: o.numberOr("efficiency", 1),
		}
		in.RootFullM = o.numberOr("root_full_m", in.RootNowM)
		switch kc, stages := o.has("kc"), o.has("stages"); {
		case kc && stages:
			o.refuse("stages", "is given as well as %s: give only one of them", "kc")
		case stages:
			in.Stages = readStages(o.object("stages"))
		case kc:
			in.Kc = o.number("kc")
		default:
			o.refuse("kc", "is missing: give a number, or stages")
		}
		o.each("days", func(_ int, x *object) {
			in.Days = append(in.Days, irrigation.Weather{ET0MM: x.number("et0_mm"), RainMM: x.numberOr("rain_mm", 0)})
		})
		return with(o, func() (irrigation.Bed, error) { return irrigation.OfBed(in) }, tellBedWater)
	},
}

// readSoil reads a texture by its name, or its two shares.
func readSoil(o *object) (s irrigation.Soil) {
	if !o.need("soil", "a texture, or its two shares") {
		return s
	}
	if _, named := o.fields["soil"].(string); named {
		return irrigation.Soils[o.choice("soil", soilNames...)]
	}
	x := o.object("soil")
	s = irrigation.Soil{FieldCapacity: x.number("field_capacity"), WiltingPoint: x.number("wilting_point")}
	x.done()
	return s
}

func readStages(o *object) *irrigation.Stages {
	s := irrigation.Stages{Start: o.number("kc_start"), Mid: o.number("kc_mid"), End: o.number("kc_end"), DayNow: o.number("day_now")}
	list := o.list("days")
	if o.has("days") && len(list) != len(s.Days) {
		o.refuse("days", "must be four lengths")
	} else {
		for i, v := range list {
			s.Days[i] = o.asNumber(fmt.Sprintf("days.%d", i), v)
		}
	}
	o.done()
	return &s
}

func tellBedWater(b irrigation.Bed) answer {
	days := []answer{}
	for _, d := range b.Days {
		days = append(days, answer{
			"kc": d.Kc, "etc_mm": d.ETcMM, "ks": d.Ks, "root_m": d.RootM, "taw_mm": d.TAWMM, "p": d.P, "raw_mm": d.RAWMM,
			"depletion_mm": d.DepletionMM, "water_mm": d.WaterMM, "litres": d.Litres, "cans": d.Cans, "times": d.Times,
		})
	}
	return answer{
		"days": days, "first_day": b.First, "days_left": b.DaysLeft, "total_l": b.TotalL, "total_cans": b.TotalCans, "rain_mm": b.RainMM,
		"depletion_after_mm": b.AfterMM, "steps": b.Steps,
	}
}

var emitters = Calculator{
	Need: Judging,
	Name: "emitters", Title: "How even a drip line is", Answers: "How evenly a drip line gives, which emitters to clean, and how long to run it",
	Fields: []Field{
		{Name: "caught_ml", Kind: "list", Unit: "mL", Needed: true, Takes: "4 to 10,000 cups, one under each emitter", OnScreen: "Caught in each cup"},
		{Name: "minutes", Kind: "number", Unit: "min", Needed: true, Takes: "above 0", OnScreen: "in"},
		{Name: "emitters", Kind: "integer", Takes: "1 or more; as many as cups where left out", OnScreen: "Emitters on the line"},
		{Name: "need_l", Kind: "number", Unit: "L", Takes: "above 0: for all of them together", OnScreen: "It is to give in all"},
	},
	Example: `{"caught_ml": [62, 58, 64, 60, 55, 61, 59, 30, 63, 57, 60, 52], "minutes": 10, "need_l": 6.7}`,
	run: func(o *object) (answer, error) {
		in := irrigation.Caught{Minutes: o.number("minutes"), NeedL: o.maybe("need_l")}
		if o.need("caught_ml", "a list") {
			for i, v := range o.list("caught_ml") {
				in.ML = append(in.ML, o.asNumber(fmt.Sprintf("caught_ml.%d", i), v))
			}
		}
		in.Emitters = o.integerOr("emitters", len(in.ML))
		return with(o, func() (irrigation.Emitters, error) { return irrigation.OfEmitters(in) }, tellEmitters)
	},
}

func tellEmitters(x irrigation.Emitters) answer {
	return answer{
		"mean_ml": x.MeanML, "low_quarter_ml": x.LowQuarterML, "distribution_uniformity": x.Uniformity, "christiansen_percent": x.Christiansen,
		"flow_l_h": x.FlowLH, "median_ml": x.MedianML, "clogged": x.Clogged, "weak": x.Weak, "leaking": x.Leaking, "verdict": x.Verdict,
		"minutes_mean": x.MinutesMean, "minutes_low_quarter": x.MinutesLowQuarter, "steps": x.Steps,
	}
}
