package calc

import (
	"fmt"
	"slices"

	"ulpa/core/chemistry"
	"ulpa/core/climate"
	"ulpa/core/recipe"
	"ulpa/core/say"
	"ulpa/core/vessel"
	"ulpa/core/working"
)

var waterSums = []Calculator{vesselLitres, saltRecipe, conductivity, reservoirAdjust, phAdjust, air, daylight, oxygen, ammonia}

var conductivity = Calculator{
	Need: Mixing,
	Name: "conductivity", Title: "What a meter should read", Answers: "Conductivity of a solution from its ions, at its own temperature and at 25 °C",
	Fields: []Field{
		{
			Name:     "ions_mmol_l",
			Kind:     "object",
			Unit:     "mmol/L",
			Needed:   true,
			Takes:    "totals of K Ca Mg Na NH4 NO3 H2PO4 SO4 Cl HCO3; left out is 0",
			OnScreen: "Ions",
			Parts:    numbers("K", "Ca", "Mg", "Na", "NH4", "NO3", "H2PO4", "SO4", "Cl", "HCO3"),
		},
		{Name: "ph", Kind: "number", Needed: true, Takes: "0 to 14", OnScreen: "pH"},
		{Name: "temperature_c", Kind: "number", Unit: "°C", Default: "25", Takes: "0 to 90", OnScreen: "Temperature"},
	},
	Example: `{"temperature_c": 20, "ph": 6, "ions_mmol_l": {"K": 4, "Ca": 2, "NO3": 7, "H2PO4": 1}}`,
	run: func(o *object) (answer, error) {
		ph, t := o.number("ph"), o.numberOr("temperature_c", 25)
		o.need("ions_mmol_l", "an object of totals by ion")
		ions := o.numbers("ions_mmol_l")
		return with(o, func() (chemistry.Conductivity, error) { return chemistry.Conduct(ions, ph, t) }, func(c chemistry.Conductivity) answer {
			return answer{
				"ec_ms_cm": c.ECMScm, "ec25_ms_cm": c.EC25MScm, "ionic_strength_mol_l": c.IonicStrength,
				"charge_imbalance_percent": c.ChargeImbalancePercent, "pairs_mmol_l": c.PairsMmolL, "steps": c.Steps,
			}
		})
	},
}

var saltRecipe = Calculator{
	Need: Mixing,
	Name: "recipe", Title: "What to weigh out", Answers: "Grams of the salts on the shelf that come closest to a target, with the water in the tap",
	Fields: []Field{
		{Name: "volume_l", Kind: "number", Unit: "L", Needed: true, Takes: "above 0", OnScreen: "Volume"},
		{
			Name:     "water_mg_l",
			Kind:     "object",
			Unit:     "mg/L",
			Needed:   true,
			Takes:    "NO3_N NH4_N P K Ca Mg S Na Cl HCO3 and micros; left out is 0",
			OnScreen: "In the source water",
			Parts:    numbers("NO3_N", "NH4_N", "P", "K", "Ca", "Mg", "S", "Na", "Cl", "HCO3", "Fe", "Mn", "Zn", "B", "Cu", "Mo"),
		},
		{
			Name:     "targets_mg_l",
			Kind:     "object",
			Unit:     "mg/L",
			Needed:   true,
			Takes:    "any of N P K Ca Mg S Fe Mn Zn B Cu Mo, each above 0, never oxides",
			OnScreen: "Wanted in the solution",
			Parts:    numbers(recipe.Targets...),
		},
		{
			Name:     "products",
			Kind:     "list",
			Needed:   true,
			Takes:    `names of the library, or {"name", "percent": {...}} as a label states`,
			Choices:  recipe.LibraryNames,
			OnScreen: "Salts on the shelf",
		},
		{Name: "weights", Kind: "object", Takes: "how much an element matters; 1 where left out"},
		{Name: "max_g", Kind: "object", Unit: "g", Takes: "the most of a product"},
		{
			Name:     "tanks",
			Kind:     "object",
			Takes:    `{"litres", "ratio": 100}: two stocks, A and B`,
			OnScreen: "Stock tanks, if you keep two",
			Parts:    []Field{{Name: "litres", Kind: "number", Unit: "L", OnScreen: "Each holds"}, {Name: "ratio", Kind: "number", OnScreen: "Dilution, 1 to"}},
		},
	},
	Example: `{"volume_l": 50, "water_mg_l": {"Ca": 10, "Mg": 3}, "targets_mg_l": {"N": 120, "P": 35, "K": 160, "Ca": 110, "Mg": 30}, ` +
		`"products": ["calcium_nitrate_tetrahydrate", "potassium_nitrate", "monopotassium_phosphate", "magnesium_sulfate_heptahydrate"]}`,
	run: func(o *object) (answer, error) {
		in := recipe.RecipeInput{VolumeL: o.number("volume_l")}
		o.need("water_mg_l", "an object of mg/L by element")
		o.need("targets_mg_l", "an object of mg/L by element")
		in.WaterMgL, in.TargetsMgL = o.numbers("water_mg_l"), o.numbers("targets_mg_l")
		in.Weights, in.MaxG = o.numbers("weights"), o.numbers("max_g")
		for i, v := range o.list("products") {
			if name, ok := v.(string); ok {
				in.Products = append(in.Products, recipe.ProductIn{Name: name})
				continue
			}
			at := fmt.Sprintf("products.%d", i)
			m, ok := v.(map[string]any)
			if !ok {
				o.refuse(at, "must be a name or an object, not %s", kind(v))
				continue
			}
			p := &object{path: at, fields: m, asked: map[string]bool{}, errs: o.errs}
			name := p.text("name")
			p.need("percent", "an object of percent by element")
			label := p.numbers("percent")
			p.done()
			if label == nil {
				label = map[string]float64{}
			}
			in.Products = append(in.Products, recipe.ProductIn{Name: name, Label: label})
		}
		if o.has("tanks") {
			t := o.object("tanks")
			in.TankLitres, in.TankRatio = t.positiveOr("litres", 0), t.positiveOr("ratio", 100)
			t.need("litres", "litres above 0")
			t.done()
		}
		return with(
			o,
			func() (recipe.RecipeOut, error) { return recipe.Recipe(in) },
			func(r recipe.RecipeOut) answer { return tellRecipe(r, in.TankLitres > 0) },
		)
	},
}

func tellRecipe(r recipe.RecipeOut, tanks bool) answer {
	warnings := r.Warnings
	if warnings == nil {
		warnings = []say.Text{}
	}
	out := answer{
		"grams": r.Grams, "achieved_mg_l": r.AchievedMgL, "deviation_percent": r.DeviationPercent, "ec_ms_cm": r.ECMScm,
		"nh4_share_percent": r.NH4SharePercent, "warnings": warnings, "cautions": r.Cautions, "steps": r.Steps,
	}
	if tanks {
		out["tanks"], out["stock_grams"] = answer{"A": r.TankA, "B": r.TankB}, r.StockGrams
	}
	return out
}

var phAdjust = Calculator{
	Need: Keeping,
	Name: "ph-adjust", Title: "How much acid or alkali", Answers: "Millilitres or grams that bring a solution to its pH, half of it first",
	Fields: []Field{
		{Name: "volume_l", Kind: "number", Unit: "L", Needed: true, Takes: "above 0", OnScreen: "Volume"},
		{Name: "ph_now", Kind: "number", Needed: true, Takes: "0 to 14", OnScreen: "pH now"},
		{Name: "ph_target", Kind: "number", Needed: true, Takes: "0 to 14", OnScreen: "pH wanted"},
		{
			Name:     "alkalinity_mg_l_caco3",
			Kind:     "number",
			Unit:     "mg/L CaCO₃",
			Needed:   true,
			Takes:    "0 to 10,000; measured before the feed goes in",
			Hint:     "measured before the feed goes in",
			OnScreen: "Alkalinity",
		},
		{
			Name:   "agent",
			Kind:   "text",
			Needed: true,
			Takes:  "an acid or base by name",
			Choices: []string{
				"nitric_acid",
				"sulfuric_acid",
				"phosphoric_acid",
				"citric_acid",
				"potassium_hydroxide",
				"potassium_carbonate",
				"potassium_bicarbonate",
			},
			OnScreen: "Acid or alkali",
		},
		{Name: "strength_percent", Kind: "number", Unit: "% by mass", Default: "100", Takes: "above 0, up to 100", OnScreen: "Its strength"},
		{Name: "density_g_ml", Kind: "number", Unit: "g/mL", Takes: "above 0; left out for a solid", Hint: "leave out for a solid", OnScreen: "Its density"},
		{Name: "phosphorus_mg_l", Kind: "number", Unit: "mg/L", Default: "0", Takes: "0 or more", OnScreen: "Phosphorus in it"},
		{Name: "ec_ms_cm", Kind: "number", Unit: "mS/cm", Default: "0.5", Takes: "0 to 20", OnScreen: "Strength of the solution"},
		{Name: "temperature_c", Kind: "number", Unit: "°C", Default: "25", Takes: "0 to 50", OnScreen: "Temperature"},
	},
	Example: `{"volume_l": 200, "ph_now": 7.6, "ph_target": 6.0, "alkalinity_mg_l_caco3": 160, "agent": "nitric_acid", "strength_percent": 53, ` +
		`"density_g_ml": 1.33}`,
	run: func(o *object) (answer, error) {
		in := chemistry.PHInput{
			VolumeL: o.number("volume_l"), PHNow: o.number("ph_now"), PHTarget: o.number("ph_target"), AlkalinityMgLCaCO3: o.number("alkalinity_mg_l_caco3"),
			PhosphorusMgL: o.numberOr("phosphorus_mg_l", 0), ECMScm: o.numberOr("ec_ms_cm", 0.5), TemperatureC: o.numberOr("temperature_c", 25),
			Agent: chemistry.Agent(o.text("agent")), StrengthPercent: o.numberOr("strength_percent", 100), DensityGML: o.positiveOr("density_g_ml", 0),
		}
		return with(o, func() (chemistry.PHDose, error) { return chemistry.PHAdjust(in) }, func(d chemistry.PHDose) answer {
			out := answer{
				"amount": d.Amount, "unit": d.Unit, "after_degassing": answer{"amount": d.DegassedAmount},
				"first_dose": answer{"amount": d.FirstAmount, "wait_minutes": d.WaitMinutes}, "adds_mg_l": d.AddsMgL, "cautions": d.Cautions, "steps": d.Steps,
				"notes": []say.Text{say.T("The pH creeps back up as carbon dioxide leaves; from then on after_degassing applies.")},
			}
			if d.Strong {
				out["meq_l"] = d.MeqL
			} else {
				out["mmol_l"] = d.MmolL
			}
			return out
		})
	},
}

var reservoirAdjust = Calculator{
	Need: Keeping,
	Name: "reservoir-adjust", Title: "Drain, water, stock", Answers: "What brings a tank to its level and strength, throwing away as little as possible",
	Fields: []Field{
		{Name: "level_l", Kind: "number", Unit: "L", Needed: true, Takes: "0 up to the capacity", OnScreen: "Level now"},
		{Name: "capacity_l", Kind: "number", Unit: "L", Needed: true, Takes: "above 0", OnScreen: "Holds"},
		{Name: "fill_to_l", Kind: "number", Unit: "L", Needed: true, Takes: "above 0", OnScreen: "Fill to"},
		{Name: "ec_ms_cm", Kind: "number", Unit: "mS/cm", Needed: true, Takes: "0 or more", OnScreen: "Strength now"},
		{Name: "ec_target_ms_cm", Kind: "number", Unit: "mS/cm", Needed: true, Takes: "above 0", OnScreen: "Strength wanted"},
		{Name: "water_ec_ms_cm", Kind: "number", Unit: "mS/cm", Needed: true, Takes: "0 or more", OnScreen: "Tap water’s strength"},
		{
			Name:     "stock_ms_cm_per_ml_l",
			Kind:     "number",
			Unit:     "mS/cm",
			Needed:   true,
			Takes:    "the rise when 1 mL (of each part) goes into 1 L",
			OnScreen: "1 mL of stock in 1 L gives",
		},
	},
	Example: `{"level_l": 30, "capacity_l": 60, "fill_to_l": 50, "ec_ms_cm": 1.5, "ec_target_ms_cm": 1.6, "water_ec_ms_cm": 0.4, "stock_ms_cm_per_ml_l": 0.25}`,
	run: func(o *object) (answer, error) {
		in := recipe.AdjustInput{
			LevelL: o.number("level_l"), CapacityL: o.number("capacity_l"), FillToL: o.number("fill_to_l"), ECMScm: o.number("ec_ms_cm"),
			ECTargetMScm: o.number("ec_target_ms_cm"), WaterECMSc: o.number("water_ec_ms_cm"), StockRise: o.number("stock_ms_cm_per_ml_l"),
		}
		return with(o, func() (recipe.Adjustment, error) { return recipe.ReservoirAdjust(in) }, func(a recipe.Adjustment) answer {
			out := answer{
				"drain_l":        a.DrainL,
				"water_l":        a.WaterL,
				"stock_ml":       a.StockML,
				"level_after_l":  a.LevelAfterL,
				"ec_after_ms_cm": a.ECAfterMScm,
				"reachable":      a.Reachable,
				"steps":          a.Steps,
			}
			if !a.Reachable {
				for _, k := range []string{"drain_l", "water_l", "stock_ml", "level_after_l", "ec_after_ms_cm"} {
					out[k] = nil
				}
				out["why"] = a.Why
			}
			return out
		})
	},
}

// vesselSizes are the sizes of each shape.
var vesselSizes = map[string][]string{
	"box": {
		"length_cm",
		"width_cm",
		"height_cm",
	}, "cylinder": {"diameter_cm", "height_cm"}, "round_taper": {"top_diameter_cm", "bottom_diameter_cm", "height_cm"},
	"square_taper": {"top_length_cm", "top_width_cm", "bottom_length_cm", "bottom_width_cm", "height_cm"}, "marks": nil,
}

// readVessel reads a shape with its sizes.
func readVessel(o *object) vessel.Vessel {
	shape := o.choice("shape", "box", "cylinder", "round_taper", "square_taper", "marks")
	v := vessel.Vessel{Shape: vessel.Shape(shape)}
	into := map[string]*float64{
		"length_cm": &v.LengthCM, "width_cm": &v.WidthCM, "height_cm": &v.HeightCM, "diameter_cm": &v.DiameterCM,
		"top_diameter_cm": &v.TopDiameterCM, "bottom_diameter_cm": &v.BottomDiameterCM, "top_length_cm": &v.TopLengthCM, "top_width_cm": &v.TopWidthCM,
		"bottom_length_cm": &v.BottomLengthCM, "bottom_width_cm": &v.BottomWidthCM,
	}
	mine := map[string]bool{}
	for _, name := range vesselSizes[shape] {
		*into[name], mine[name] = o.number(name), true
	}
	for name := range into {
		if o.has(name) && !mine[name] {
			o.refuse(name, "is not a size of this shape")
		}
	}
	if shape == "marks" {
		o.each("marks", func(_ int, m *object) {
			v.Marks = append(v.Marks, vessel.Mark{DepthCM: m.number("depth_cm"), Litres: m.number("litres")})
		})
	} else if o.has("marks") {
		o.refuse("marks", "is not a size of this shape")
	}
	return v
}

var vesselLitres = Calculator{
	Need: Mixing,
	Name: "vessel", Title: "Litres at a depth", Answers: "Litres at a depth of a box, a bucket or a marked tank, and back",
	Fields: []Field{
		{
			Name:     "shape",
			Kind:     "text",
			Needed:   true,
			Choices:  []string{"box", "cylinder", "round_taper", "square_taper", "marks"},
			Takes:    "a shape",
			OnScreen: "Shape",
		},
		{Name: "length_cm", Kind: "number", Unit: "cm", Takes: "box", OnScreen: "Length (box)"},
		{Name: "width_cm", Kind: "number", Unit: "cm", Takes: "box", OnScreen: "Width (box)"},
		{Name: "diameter_cm", Kind: "number", Unit: "cm", Takes: "cylinder", OnScreen: "Diameter (cylinder)"},
		{Name: "top_diameter_cm", Kind: "number", Unit: "cm", Takes: "round_taper", OnScreen: "Top diameter (bucket)"},
		{Name: "bottom_diameter_cm", Kind: "number", Unit: "cm", Takes: "round_taper", OnScreen: "Bottom diameter (bucket)"},
		{Name: "top_length_cm", Kind: "number", Unit: "cm", Takes: "square_taper", OnScreen: "Top length (square taper)"},
		{Name: "top_width_cm", Kind: "number", Unit: "cm", Takes: "square_taper", OnScreen: "Top width (square taper)"},
		{Name: "bottom_length_cm", Kind: "number", Unit: "cm", Takes: "square_taper", OnScreen: "Bottom length (square taper)"},
		{Name: "bottom_width_cm", Kind: "number", Unit: "cm", Takes: "square_taper", OnScreen: "Bottom width (square taper)"},
		{Name: "height_cm", Kind: "number", Unit: "cm", Takes: "every shape but marks", OnScreen: "Height"},
		{
			Name:     "marks",
			Kind:     "list",
			Takes:    `{"depth_cm", "litres"}, both rising; straight between`,
			OnScreen: "Marks on the vessel",
			Parts: []Field{
				{Name: "depth_cm", Kind: "number", Unit: "cm", OnScreen: "Depth"},
				{Name: "litres", Kind: "number", Unit: "L", OnScreen: "holds"},
			},
		},
		{Name: "depth_cm", Kind: "number", Unit: "cm", Takes: "either this", OnScreen: "Depth"},
		{Name: "litres", Kind: "number", Unit: "L", Takes: "or this", OnScreen: "or litres"},
	},
	Example: `{"shape": "round_taper", "top_diameter_cm": 30, "bottom_diameter_cm": 24, "height_cm": 33, "litres": 8}`,
	run: func(o *object) (answer, error) {
		v := readVessel(o)
		byDepth := o.has("depth_cm")
		switch {
		case byDepth && o.has("litres"):
			o.refuse("litres", "is given as well as a depth: give only one of them")
		case !byDepth && !o.has("litres"):
			o.refuse("depth_cm", "is missing: give a depth, or litres")
		}
		var x float64
		if byDepth {
			x = o.number("depth_cm")
		} else if o.has("litres") {
			x = o.number("litres")
		}
		ask := func() (vessel.Filled, error) {
			if byDepth {
				return v.AtDepth(x)
			}
			return v.AtLitres(x)
		}
		return with(o, ask, func(f vessel.Filled) answer {
			return answer{"litres": f.Litres, "depth_cm": f.DepthCM, "full_litres": f.FullLitres, "steps": f.Steps}
		})
	},
}

var air = Calculator{
	Need: Judging,
	Name: "air", Title: "What the air does to a leaf", Answers: "Vapour pressure deficit and dew point",
	Fields: []Field{
		{Name: "temperature_c", Kind: "number", Unit: "°C", Needed: true, Takes: "−60 to 80", OnScreen: "Temperature"},
		{Name: "humidity_percent", Kind: "number", Unit: "%", Needed: true, Takes: "0 to 100", OnScreen: "Relative humidity"},
		{Name: "leaf_minus_air_c", Kind: "number", Unit: "K", Default: "0", Takes: "−40 to 40", OnScreen: "How much warmer the leaf is than the air"},
	},
	Example: `{"temperature_c": 22, "humidity_percent": 75, "leaf_minus_air_c": -1.5}`,
	run: func(o *object) (answer, error) {
		t, h, l := o.number("temperature_c"), o.number("humidity_percent"), o.numberOr("leaf_minus_air_c", 0)
		return with(o, func() (climate.Air, error) { return climate.OfAir(t, h, l) }, func(a climate.Air) answer {
			return answer{"vpd_kpa": a.VPDKPa, "leaf_vpd_kpa": a.LeafVPDKPa, "dew_point_c": a.DewPointC, "saturation_kpa": a.SaturationKPa, "steps": a.Steps}
		})
	},
}

var daylight = Calculator{
	Need: Planning,
	Name: "daylight", Title: "How much light", Answers: "Day length, and the light of a clear day under your cover and lamps",
	Fields: []Field{
		{Name: "latitude_deg", Kind: "number", Unit: "°", Needed: true, Takes: "−90 to 90, north positive", OnScreen: "Latitude"},
		{Name: "date", Kind: "date", Needed: true, Takes: "a date", OnScreen: "Day"},
		{Name: "cover_transmission", Kind: "number", Unit: "share", Default: "1", Takes: "0 to 1", OnScreen: "Light through the cover"},
		{Name: "lamp_umol_m2_s", Kind: "number", Unit: "µmol/m²/s", Default: "0", Takes: "0 or more", OnScreen: "Lamps give"},
		{Name: "lamp_hours", Kind: "number", Unit: "h", Default: "0", Takes: "0 to 24", OnScreen: "for hours a day"},
	},
	Example: `{"latitude_deg": 50, "date": "2027-04-15", "cover_transmission": 0.6, "lamp_umol_m2_s": 100, "lamp_hours": 10}`,
	run: func(o *object) (answer, error) {
		in := climate.LightInput{
			LatitudeDeg: o.number("latitude_deg"), Day: o.day("date"), CoverTransmission: o.numberOr("cover_transmission", 1),
			LampUmolM2S: o.numberOr("lamp_umol_m2_s", 0), LampHours: o.numberOr("lamp_hours", 0),
		}
		return with(o, func() (climate.Light, error) { return climate.OfDay(in) }, func(l climate.Light) answer {
			return answer{
				"day_length_h": l.DayLengthH, "extraterrestrial_mj_m2": l.ExtraterrestrialMJ, "clear_sky_mj_m2": l.ClearSkyMJ,
				"sun_dli_mol_m2": l.SunDLI, "lamp_dli_mol_m2": l.LampDLI, "dli_mol_m2": l.DLI, "steps": l.Steps,
			}
		})
	},
}

var oxygen = Calculator{
	Need: Keeping,
	Name: "oxygen", Title: "Oxygen for roots", Answers: "How much oxygen fresh water can hold",
	Fields: []Field{
		{Name: "temperature_c", Kind: "number", Unit: "°C", Needed: true, Takes: "0 to 50", OnScreen: "Temperature"},
		{Name: "altitude_m", Kind: "number", Unit: "m", Default: "0", Takes: "−500 to 9,000", OnScreen: "Altitude"},
	},
	Example: `{"temperature_c": 22}`,
	run: func(o *object) (answer, error) {
		t, h := o.number("temperature_c"), o.numberOr("altitude_m", 0)
		var steps []working.Step
		ask := func() (s float64, err error) {
			s, steps, err = chemistry.OxygenSaturation(t, h)
			return s, err
		}
		return with(o, ask, func(s float64) answer { return answer{"saturation_mg_l": s, "steps": steps} })
	},
}

var ammonia = Calculator{
	Need: Keeping,
	Name: "ammonia", Title: "Ammonia for fish", Answers: "How much of the ammonia is the harmful, un-ionised part",
	Fields: []Field{
		{Name: "total_ammonia_n_mg_l", Kind: "number", Unit: "mg/L", Needed: true, Takes: "0 or more", OnScreen: "Total ammonia nitrogen"},
		{Name: "ph", Kind: "number", Needed: true, Takes: "0 to 14", OnScreen: "pH"},
		{Name: "temperature_c", Kind: "number", Unit: "°C", Needed: true, Takes: "0 to 50", OnScreen: "Temperature"},
	},
	Example: `{"total_ammonia_n_mg_l": 0.8, "ph": 7.7, "temperature_c": 23}`,
	run: func(o *object) (answer, error) {
		n, ph, t := o.number("total_ammonia_n_mg_l"), o.number("ph"), o.number("temperature_c")
		return with(o, func() (chemistry.Ammonia, error) { return chemistry.UnionisedAmmonia(n, ph, t) }, func(a chemistry.Ammonia) answer {
			return answer{"unionised_mg_l": a.UnionisedMgL, "unionised_percent": a.UnionisedPercent, "steps": a.Steps, "cautions": a.Cautions}
		})
	},
}

// IsSize tells whether a field is a size of a vessel of some shape.
func IsSize(name string) bool {
	for shape := range vesselSizes {
		if slices.Contains(SizesOf(shape), name) {
			return true
		}
	}
	return false
}

// SizesOf are the fields that a shape of vessel takes.
func SizesOf(shape string) []string {
	if shape == "marks" {
		return []string{"marks"}
	}
	return vesselSizes[shape]
}
