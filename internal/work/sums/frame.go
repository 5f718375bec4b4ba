package sums

import (
	"fmt"
	"strings"

	"ulpa/core/say"
	"ulpa/core/unit"
)

func init() {
	tells("harden-ramp", tellRamp)
	tells("compost", tellCompost)
	tells("sale-stock", tellSale)
	tells("trial-draw", tellDraw)
}

// outWords are what is done on a day of hardening off, but for a step.
var outWords = map[string]say.Words{
	"closed": "nobody is there", "unknown": "no forecast: they stay in", "too_cold": "too cold: they stay in", "too_windy": "too windy: they stay in",
	"too_hot": "too hot: they stay in",
}

func tellRamp(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	x, err := read[struct {
		Ready           *string
		Counted, Waited int
		Nights          int `json:"nights_out"`
		Days            []struct {
			Date   string
			Step   int
			Reason string
			Hours  float64
			Back   *float64 `json:"bring_in_at"`
			Night  *string
			Known  bool
		}
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("They are not hardened off within %s.", say.Plural(len(x.Days), "day")), Now: true}
	if x.Ready != nil {
		a.Big, a.Now = p.T("Ready to be planted out on %s.", day(*x.Ready).Long()), false
	}
	a.Figures = []Figure{
		{p.T("Days that count"), p.T("%d", x.Counted)}, {p.T("Days waited out"), p.T("%d", x.Waited)}, {p.T("Nights outside"), p.T("%d", x.Nights)},
	}
	shown := x.Days[:min(len(x.Days), 21)]
	most := 1.0
	for _, d := range shown {
		most = max(most, d.Hours)
	}
	chart := rows(0, most, len(shown))
	for _, v := range ticks(0, most, 5) {
		chart.tick(v, figureOf(p, v))
	}
	unknown := 0
	for _, d := range shown {
		chart.row(Row{Name: p.Say(day(d.Date).Short()), From: 0, To: d.Hours, At: d.Hours})
		says := p.Say(outWords[d.Reason])
		switch {
		case d.Reason != "step":
		case d.Back == nil:
			says = p.T("out, overnight too")
		default:
			says = p.T("%.1f hours, in at %s", d.Hours, clock(*d.Back))
		}
		if !d.Known {
			unknown++
		}
		a.Figures = append(a.Figures, Figure{p.Say(day(d.Date).Short()), says})
	}
	if unknown > 0 {
		a.Says = append(a.Says, p.T("Of %d of these days there is no forecast: work it out again when there is one.", unknown))
	}
	a.Says = append(a.Says, p.T("First in shade and out of the wind; water them in the morning."))
	a.Picture = Picture{Says: p.T("Hours outside, day by day."), Chart: chart}
	return a, nil
}

// clock is an hour of the day as a clock shows it.
func clock(hour float64) string {
	minutes := int(hour*60 + 0.5)
	return fmt.Sprintf("%02d:%02d", minutes/60, minutes%60)
}

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

func tellSale(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type stock struct {
		Grow    int
		Usable  float64 `json:"expected_usable"`
		Sold    float64 `json:"expected_sold"`
		Left    float64 `json:"expected_left"`
		Missed  float64 `json:"expected_missed"`
		Result  float64 `json:"expected_result"`
		SoldOut float64 `json:"chance_sold_out"`
		Mean    float64 `json:"demand_mean"`
		SD      float64 `json:"demand_sd"`
	}
	x, err := read[stock](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("Grow %s.", say.Plural(x.Grow, "plant")), Figures: []Figure{
		{p.T("Can be sold, on average"), p.T("%.0f", x.Usable)},
		{p.T("Sold, on average"), p.T("%.0f", x.Sold)},
		{p.T("Left over"), p.T("%.0f", x.Left)},
		{p.T("Buyers who find none"), p.T("%.0f", x.Missed)},
		{p.T("What it brings"), p.T("%.2f", x.Result)},
		{p.T("Chance of selling out"), percent(x.SoldOut)},
		{p.T("Wanted, on average"), p.T("%.0f, give or take %.0f", x.Mean, x.SD)},
	}}
	if x.Grow == 0 {
		a.Big, a.Now = p.T("Grow none: each would lose money."), true
	}
	a.Says = []string{p.T("Selling food, or plants with soil on them, has its rules where you are: ask first.")}
	most := 2*x.Grow + 4
	if room := int(num(in, "most", 100_000)); room < most {
		most = max(1, room)
	}
	curve, low, high := [][2]float64{}, 0.0, 1.0
	for i := range 13 {
		n := most * i / 12
		one, err := ask(map[string]any{"most": n})
		if err != nil {
			return a, err
		}
		y, err := read[stock](one)
		if err != nil {
			return a, err
		}
		curve = append(curve, [2]float64{float64(n), y.Result})
		low, high = min(low, y.Result), max(high, y.Result)
	}
	chart := plot(p, p.T("room for so many"), 0, float64(most), p.T("what it brings"), low, low+(high-low)*1.1)
	chart.line("water", curve)
	if x.Grow > 0 && x.Grow <= most {
		chart.dot(float64(x.Grow), x.Result, p.T("%d", x.Grow))
	}
	a.Picture = Picture{Says: p.T("What a sale brings, by how many there is room for: beyond the dot, more room brings nothing more."), Chart: chart}
	return a, nil
}

func tellDraw(p say.Reader, _ map[string]any, out result, _ asker) (Answer, error) {
	x, err := read[struct {
		Cells []struct {
			Row, Column, Block int
			Arm                *string
		}
		Counts []struct {
			Arm   string
			Cells int
		}
		Blocks int
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("Drawn: %s for %d treatments.", say.Plural(x.Blocks, "block"), len(x.Counts))}
	most := 1.0
	for _, c := range x.Counts {
		most = max(most, float64(c.Cells))
		a.Figures = append(a.Figures, Figure{c.Arm, p.Say(say.Plural(c.Cells, "cell"))})
	}
	row := ""
	for i, c := range x.Cells {
		if c.Arm != nil {
			row += ", " + *c.Arm
		} else {
			row += ", –"
		}
		if i+1 == len(x.Cells) || x.Cells[i+1].Row != c.Row {
			if c.Row <= 40 {
				a.Says = append(a.Says, p.T("Row %d: %s", c.Row, strings.TrimPrefix(row, ", ")))
			}
			row = ""
		}
	}
	chart := rows(0, most, len(x.Counts))
	for _, v := range ticks(0, most, 5) {
		chart.tick(v, figureOf(p, v))
	}
	for _, c := range x.Counts {
		chart.row(Row{Name: c.Arm, From: 0, To: float64(c.Cells), At: float64(c.Cells)})
	}
	a.Picture = Picture{Says: p.T("How many cells each treatment has."), Chart: chart}
	return a, nil
}
