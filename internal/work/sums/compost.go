package sums

import (
	"ulpa/core/say"
	"ulpa/core/unit"
)

func init() { tells("compost", tellCompost) }

// heapWords are a verdict on a heap.
var heapWords = map[string]say.Words{
	"too_green": "Too much green: it will smell. Add dry leaves, straw or cardboard.",
	"too_brown": "Too much brown: it will hardly warm up. Add grass or kitchen peel.",
	"too_dry":   "Too dry: water it as you build it, until it feels like a wrung sponge.",
	"too_wet":   "Too wet: air cannot get in. Mix in something dry and coarse.",
}

func tellCompost(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	x, err := read[struct {
		CN       float64
		Moisture float64  `json:"moisture_percent"`
		Fresh    float64  `json:"fresh_kg"`
		Mix      string   `json:"cn_verdict"`
		Damp     string   `json:"moisture_verdict"`
		To       *float64 `json:"adjust_to_kg"`
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("Carbon to nitrogen is %.0f to 1.", x.CN)}
	for _, v := range []string{x.Mix, x.Damp} {
		if v != "good" {
			a.Says, a.Now = append(a.Says, p.Say(heapWords[v])), true
		}
	}
	if !a.Now {
		a.Says = append(a.Says, p.T("It is mixed well, and as damp as it should be."))
	}
	a.Figures = []Figure{{p.T("Water in it"), p.T("%.0f %%", x.Moisture)}, {p.T("It weighs"), p.Format(x.Fresh, unit.Kilogram)}}
	if name, asked := in["adjust"].(string); asked {
		if x.To == nil {
			a.Says = append(a.Says, p.T("No amount of %s makes it right.", say.Name(name)))
		} else {
			a.Says = append(a.Says, p.T("With %s of %s in all it is right.", say.Of(*x.To, unit.Kilogram), say.Name(name)))
		}
	}
	const from, to = 0.0, 60.0
	chart := rows(from, to, 1)
	for _, v := range ticks(from, to, 6) {
		chart.tick(v, figureOf(p, v))
	}
	chart.column(25, 35, "usual")
	chart.row(Row{Name: p.T("carbon to nitrogen"), From: from, To: min(to, x.CN), At: min(to, x.CN)})
	a.Picture = Picture{Says: p.T("Carbon to nitrogen, beside the range in which a heap works."), Chart: chart, Key: p.T("Shaded: the range.")}
	a.Cautions = append(a.Cautions,
		p.T("Gloves, and a mask when it is dry: the dust of compost carries moulds and, rarely, Legionella. Wash hands. No meat, no cat or dog waste."),
		p.T("A heap in work is hot inside, over 55 °C: turn it with a fork, an adult with it."))
	return a, nil
}
