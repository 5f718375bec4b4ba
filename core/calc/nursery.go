package calc

import (
	"ulpa/core/seed"
	"ulpa/core/vessel"
)

var nurserySums = []Calculator{pots, seedAge}

var pots = Calculator{
	Need: Sowing,
	Name: "pots", Title: "Mix for pots", Answers: "How much mix you need for pots, flats or a bed, and how many bags",
	Fields: []Field{
		{Name: "pot", Kind: "object", Needed: true, Takes: "a shape of vessel and its sizes", OnScreen: "The pot", Parts: vesselFields},
		{Name: "count", Kind: "integer", Default: "1", Takes: "1 or more", OnScreen: "How many"},
		{Name: "fill_cm", Kind: "number", Unit: "cm", Takes: "above 0, up to its height, which it is without", OnScreen: "Filled to"},
		{Name: "settling", Kind: "number", Unit: "share", Default: "0.15", Takes: "0 to 0.6", OnScreen: "How much it settles when watered"},
		{Name: "bag_l", Kind: "number", Unit: "L", Takes: "above 0", OnScreen: "Litres in a bag"},
	},
	Example: `{"pot": {"shape": "round_taper", "top_diameter_cm": 9, "bottom_diameter_cm": 6, "height_cm": 8}, "count": 36, "bag_l": 10}`,
	run: func(o *object) (answer, error) {
		x := o.object("pot")
		in := vessel.PotsInput{Pot: readVessel(x), Count: o.integerOr("count", 1), Settling: o.numberOr("settling", vessel.Settling)}
		x.done()
		positive(o, "count", float64(in.Count), "must be a whole number, 1 or more")
		if o.has("fill_cm") {
			v := o.number("fill_cm")
			in.FillCM = &v
		}
		if o.has("bag_l") {
			v := o.number("bag_l")
			in.BagL = &v
		}
		ask := func() (vessel.Pots, error) {
			p, err := vessel.FillPots(in)
			return p, under("pot", err, "fill_cm", "count", "settling", "bag_l")
		}
		return with(o, ask, func(p vessel.Pots) answer {
			return answer{"pot_l": p.PotL, "filled_l": p.FilledL, "mix_l": p.MixL, "bags": p.Bags, "left_l": p.LeftL, "steps": p.Steps}
		})
	},
}

var seedAge = Calculator{
	Need: Sowing,
	Name: "seed-age", Title: "How seed ages", Answers: "How much of a packet’s germination is left after storage, and how long it keeps",
	Fields: []Field{
		{Name: "crop", Kind: "text", Needed: true, Choices: seed.AgeCrops(), Takes: "a crop whose seed was measured", OnScreen: "Crop"},
		{Name: "germination", Kind: "number", Unit: "share", Needed: true, Takes: "0.01 to 0.999, when it was stored", OnScreen: "Germination when stored"},
		{
			Name: "storage", Kind: "list", Needed: true, Takes: `{"days", "temperature_c": −20 to 60, "moisture_percent": 3 to 18, of the fresh mass}`,
			OnScreen: "How it was kept",
			Parts: []Field{
				{Name: "days", Kind: "number", Unit: "days", OnScreen: "Days"},
				{Name: "temperature_c", Kind: "number", Unit: "°C", OnScreen: "at"},
				{Name: "moisture_percent", Kind: "number", Unit: "%", OnScreen: "seed moisture"},
			},
		},
		{Name: "germination_below", Kind: "number", Unit: "share", Default: "0.5", Takes: "0.001 to 0.998", OnScreen: "Stored until germination is below"},
	},
	Example: `{"crop": "onion", "germination": 0.95, "storage": [{"days": 730, "temperature_c": 20, "moisture_percent": 8}]}`,
	run: func(o *object) (answer, error) {
		in := seed.AgeInput{Crop: o.text("crop"), Germination: o.number("germination"), Below: o.numberOr("germination_below", 0.5)}
		o.each("storage", func(_ int, s *object) {
			in.Storage = append(in.Storage, seed.Stored{
				Days: s.number("days"), TemperatureC: s.number("temperature_c"), MoisturePct: s.number("moisture_percent"),
			})
		})
		return with(o, func() (seed.AgeAnswer, error) { return seed.Age(in) }, func(a seed.AgeAnswer) answer {
			return answer{"germination": a.Germination, "steps": a.Steps, "days_to_below": a.DaysToBelow}
		})
	},
}
