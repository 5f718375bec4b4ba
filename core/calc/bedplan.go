package calc

import (
	"fmt"

	"ulpa/core/rotation"
)

var bedPlan = Calculator{
	Need: Planning,
	Name: "bed-plan", Title: "What goes into which bed", Answers: "Which crop goes in which section: families apart over the years, heavy feeders in " +
		"turn, sun, good neighbours",
	Fields: []Field{
		{
			Name: "sections", Kind: "list", Needed: true, AsJSON: true, OnScreen: "Sections",
			Takes: `{"name", "sun": full, part or shade, "neighbours": [names], "history": [{"years_ago", "family", "feeder"}]}, 1 to 200`,
			Parts: []Field{
				{Name: "name", Kind: "text"},
				{Name: "sun", Kind: "text", Choices: rotation.Suns},
				{Name: "neighbours", Kind: "list"},
				{Name: "history", Kind: "list", Parts: []Field{
					{Name: "years_ago", Kind: "integer", Unit: "years"}, {Name: "family", Kind: "text"}, {Name: "feeder", Kind: "text", Choices: rotation.Feeders},
				}},
			},
		},
		{
			Name: "wants", Kind: "list", Needed: true, AsJSON: true, OnScreen: "Crops wanted",
			Takes: `{"crop", "family", "feeder": heavy, medium, light or fixer, "sun", "sections", "apart": [crops], "near": [crops]}, 1 to 200`,
			Parts: []Field{
				{Name: "crop", Kind: "text"},
				{Name: "family", Kind: "text"},
				{Name: "feeder", Kind: "text", Choices: rotation.Feeders},
				{Name: "sun", Kind: "text", Choices: rotation.Suns},
				{Name: "sections", Kind: "integer"},
				{Name: "apart", Kind: "list"},
				{Name: "near", Kind: "list"},
			},
		},
		{Name: "years_apart", Kind: "integer", Unit: "years", Default: "3", Takes: "0 to 20", OnScreen: "Years before a family comes back"},
		{Name: "strict", Kind: "yes", Default: "false", Takes: "true: a family too soon is forbidden", OnScreen: "Never earlier"},
		{
			Name: "weights", Kind: "object",
			Takes: "0 or more, by name: rotation 20, heavy_after_heavy 8, heavy_after_medium 3, medium_after_heavy 3, fixer_after_fixer 3, too_shady 6, " +
				"too_sunny 2, apart 5, near 2, unplaced 50",
			Parts: weightFields(),
		},
		{Name: "seconds", Kind: "number", Unit: "s", Default: "5", Takes: "above 0, at most 600: time to search, above 14 sections"},
	},
	Example: `{"sections": [{"name": "A1", "sun": "full", "neighbours": ["A2"], "history": [{"years_ago": 1, "family": "cabbage", "feeder": "heavy"}]}, ` +
		`{"name": "A2", "sun": "part"}], "wants": [{"crop": "kale", "family": "cabbage", "feeder": "heavy", "sun": "full", "sections": 1}, ` +
		`{"crop": "pea", "family": "legume", "feeder": "fixer", "sun": "full", "sections": 1, "near": ["kale"]}]}`,
	run: func(o *object) (answer, error) {
		in := rotation.Input{YearsApart: o.integerOr("years_apart", rotation.UsualYears), Strict: o.yes("strict"), Weights: rotation.UsualWeights}
		o.each("sections", func(_ int, s *object) {
			x := rotation.Section{Name: s.text("name"), Sun: s.text("sun"), Neighbours: s.texts("neighbours")}
			if s.has("history") {
				s.each("history", func(_ int, g *object) {
					x.History = append(x.History, rotation.Grew{YearsAgo: g.integer("years_ago"), Family: g.text("family"), Feeder: g.text("feeder")})
				})
			}
			in.Sections = append(in.Sections, x)
		})
		o.each("wants", func(_ int, w *object) {
			in.Wants = append(in.Wants, rotation.Want{
				Crop: w.text("crop"), Family: w.text("family"), Feeder: w.text("feeder"), Sun: w.text("sun"), Sections: w.integer("sections"),
				Apart: w.texts("apart"), Near: w.texts("near"),
			})
		})
		if o.has("weights") {
			w := o.object("weights")
			for _, name := range w.names() {
				if !in.Weights.Set(name, w.numberOr(name, 0)) {
					w.refuse(name, "is not a weight")
				}
			}
		}
		seconds := o.seconds()
		return with(o, func() (rotation.Plan, error) { return rotation.Best(in, o.clock(seconds)) }, func(p rotation.Plan) answer {
			assignment, penalties := []answer{}, []answer{}
			for i, s := range in.Sections {
				assignment = append(assignment, answer{"section": s.Name, "crop": orNull(p.Crops[i])})
			}
			for _, x := range p.Penalties {
				penalties = append(penalties, answer{
					"code": x.Code, "section": orNull(x.Section), "crop": x.Crop, "other": orNull(x.Other), "points": x.Points,
				})
			}
			return answer{"cost": p.Cost, "proven": p.Proven, "assignment": assignment, "penalties": penalties, "steps": p.Steps}
		})
	},
}

func weightFields() (out []Field) {
	for _, name := range rotation.WeightNames() {
		out = append(out, Field{Name: name, Kind: "number"})
	}
	return out
}

func orNull(s string) any {
	if s == "" {
		return nil
	}
	return s
}

// texts are an optional list of them.
func (o *object) texts(name string) (out []string) {
	if !o.has(name) {
		return nil
	}
	for i, v := range o.list(name) {
		s, ok := v.(string)
		if !ok {
			o.refuse(fmt.Sprintf("%s.%d", name, i), "must be a text, not %s", kind(v))
		}
		out = append(out, s)
	}
	return out
}
