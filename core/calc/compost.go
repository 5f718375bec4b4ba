package calc

import (
	"ulpa/core/compost"
)

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
