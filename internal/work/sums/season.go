package sums

import (
	"cmp"
	"slices"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/core/unit"
)

func init() {
	tells("season-plan", tellSeason)
	tells("bed-plan", tellBeds)
	tells("order-plants", tellOrder)
	tells("grow", tellGrow)
}

// mostShown is how many batches or sections a screen has room for.
const mostShown = 40

func tellSeason(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	type batch struct {
		Name  string
		Grown bool
		Moves []struct{ Stage, Date, Place string }
		Ready *string
		Why   *string
	}
	s, err := read[struct {
		Cost, Bound, Gap float64
		Batches          []batch
	}](out)
	if err != nil {
		return Answer{}, err
	}
	grown := 0
	from, to := day(in["to"].(string)), day(in["from"].(string))
	var left []string
	for _, b := range s.Batches {
		if !b.Grown {
			left = append(left, p.T("%s: %s", b.Name, whyNot[*b.Why]))
			continue
		}
		grown++
		from, to = min(from, day(b.Moves[0].Date)), max(to, day(*b.Ready))
	}
	a := Answer{
		Big: p.T("%d of %d batches fit the space and time there is.", grown, len(s.Batches)),
		Says: []string{
			p.T("No plan could cost less than %s; this one costs %s, within %s of that.", figureOf(p, s.Bound), figureOf(p, s.Cost), p.T("%.1f %%", 100*s.Gap)),
		},
	}
	a.Says = append(a.Says, left[:min(len(left), 8)]...)
	if grown == 0 {
		return a, nil
	}
	shown := slices.DeleteFunc(slices.Clone(s.Batches), func(b batch) bool { return !b.Grown })
	shown = shown[:min(len(shown), mostShown)]
	chart := rows(float64(from), float64(max(to, from+1)), len(shown))
	if closed, ok := in["closed"].([]any); ok {
		for _, x := range closed {
			m := x.(map[string]any)
			chart.column(float64(day(m["from"].(string))), float64(day(m["to"].(string))+1), "closed")
		}
	}
	for _, b := range shown {
		last := b.Moves[len(b.Moves)-1]
		chart.row(Row{
			Name: b.Name, From: float64(day(b.Moves[0].Date)), To: float64(day(last.Date)), Rest: float64(day(*b.Ready) - day(last.Date)),
			Text: p.Say(calendar.Day(day(*b.Ready)).Short()),
		})
		a.Figures = append(a.Figures, Figure{p.T("%s: sow", b.Name), p.Say(longDay(b.Moves[0].Date))})
	}
	chart.tick(float64(from), p.Say(calendar.Day(from).Short()))
	chart.tick(float64(to), p.Say(calendar.Day(to).Short()))
	a.Figures = a.Figures[:min(len(a.Figures), 12)]
	a.Picture = Picture{
		Says: p.T("The batches as bars over the days."), Chart: chart,
		Key: p.T("Dark: until the last move. Light: from then until it is ready. Hatched: closed days."),
	}
	return a, nil
}

var whyNot = map[string]say.Words{
	"impossible": "cannot be done even alone", "not_worth": "costs more than it is worth", "crowded_out": "others are worth more",
}

func tellBeds(p say.Reader, _ map[string]any, out result, _ asker) (Answer, error) {
	type penalty struct {
		Code, Crop string
		Section    *string
		Points     float64
	}
	b, err := read[struct {
		Cost       float64
		Proven     bool
		Assignment []struct {
			Section string
			Crop    *string
		}
		Penalties []penalty
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("It costs %s; no plan costs less.", figureOf(p, b.Cost))}
	if !b.Proven {
		a.Big = p.T("It costs %s, the least that was found.", figureOf(p, b.Cost))
	}
	for _, x := range b.Assignment[:min(len(b.Assignment), mostShown)] {
		crop := p.T("nothing")
		if x.Crop != nil {
			crop = *x.Crop
		}
		a.Figures = append(a.Figures, Figure{x.Section, crop})
	}
	most := 1.0
	for _, x := range b.Penalties {
		most = max(most, x.Points)
	}
	slices.SortStableFunc(b.Penalties, func(x, y penalty) int { return cmp.Compare(y.Points, x.Points) })
	a.Picture = Picture{Says: p.T("What is wrong with the plan, the worst first."), Key: p.T("The bar is how much it counts.")}
	for _, x := range b.Penalties[:min(len(b.Penalties), mostShown)] {
		bar := Bar{Name: x.Crop, Value: figureOf(p, x.Points), Note: p.Say(bedTrouble[x.Code]), Width: 100 * x.Points / most}
		if x.Section != nil {
			bar.Name = p.T("%s in %s", x.Crop, *x.Section)
		}
		a.Picture.Bars = append(a.Picture.Bars, bar)
	}
	return a, nil
}

var bedTrouble = map[string]say.Words{
	"rotation": "its family grew here not long ago", "feeder": "needs from the soil what was taken last year",
	"too_shady": "too shady", "too_sunny": "too sunny",
	"apart": "its neighbour is better apart", "near": "without a neighbour that it likes", "unplaced": "not placed",
}

type chanceOf struct {
	name  string
	share *float64
}

func tellOrder(p say.Reader, _ map[string]any, out result, _ asker) (Answer, error) {
	o, err := read[struct {
		Plants *int
		Chance *float64
		Usable *float64 `json:"expected_usable"`
		Weight *float64 `json:"expected_weight_g"`
		Now    *float64 `json:"chance_now"`
		Sow    *struct {
			Cells, Seeds, Trays *int
			Chance              *float64
			Plants              *float64 `json:"expected_plants"`
		}
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("Even 10,000 plants would not be enough."), Now: true}
	if o.Plants != nil {
		a = Answer{Big: p.T("Plant out %s.", say.Plural(*o.Plants, "plant"))}
		a.Figures = []Figure{{p.T("Chance of meeting it"), percent(*o.Chance)}, {p.T("Usable, on average"), p.T("%.1f", *o.Usable)}}
		if o.Weight != nil {
			a.Figures = append(a.Figures, Figure{p.T("They weigh, on average"), p.Format(*o.Weight, unit.Gram)})
		}
	}
	if o.Now != nil {
		a.Figures = append(a.Figures, Figure{p.T("Chance of meeting it with the plants there are"), percent(*o.Now)})
	}
	if s := o.Sow; s != nil && s.Cells != nil {
		a.Says = append(a.Says, p.T("From seed: %s with %d seeds, %s.", say.Plural(*s.Cells, "cell"), *s.Seeds, say.Plural(*s.Trays, "tray")))
		a.Figures = append(a.Figures, Figure{p.T("Chance of meeting it, sowing from seed"), percent(*s.Chance)},
			Figure{p.T("Plants to expect"), p.T("%.1f", *s.Plants)})
	} else if s != nil {
		a.Says, a.Now = append(a.Says, p.T("Even 10,000 cells would not be enough.")), true
	}
	a.Picture = Picture{Says: p.T("How sure it is."), Key: p.T("The bar is the chance.")}
	chances := []chanceOf{{p.T("Chance of meeting it"), o.Chance}, {p.T("Chance of meeting it with the plants there are"), o.Now}}
	if o.Sow != nil {
		chances = append(chances, chanceOf{p.T("Chance of meeting it, sowing from seed"), o.Sow.Chance})
	}
	for _, x := range chances {
		if x.share != nil {
			a.Picture.Bars = append(a.Picture.Bars, Bar{Name: x.name, Value: percent(*x.share), Width: 100 * *x.share})
		}
	}
	return a, nil
}

func tellGrow(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type size struct {
		Fresh  *float64 `json:"fresh_g"`
		Low    *float64 `json:"fresh_g_low"`
		High   *float64 `json:"fresh_g_high"`
		Leaves *float64
		Area   *float64 `json:"leaf_area_index"`
		Days   *int     `json:"days_to_target"`
		Slow   *int     `json:"days_to_target_slow"`
		Fast   *int     `json:"days_to_target_fast"`
	}
	g, err := read[size](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{}
	target, wanted := in["target_g"].(float64)
	last := 60
	switch {
	case wanted && g.Days != nil:
		a.Big, last = p.T("It weighs %s on day %d.", say.Of(target, unit.Gram), *g.Days), *g.Days+7
		if g.Slow != nil && g.Fast != nil {
			a.Says = append(a.Says, p.T("Between day %d and day %d, because the light may differ.", *g.Fast, *g.Slow))
		}
	case wanted:
		a.Big, a.Now = p.T("It does not reach %s within 400 days.", say.Of(target, unit.Gram)), true
	default:
		a.Big = p.T("It weighs %s then.", say.Of(*g.Fresh, unit.Gram))
	}
	if g.Fresh != nil {
		on := int(num(in, "on_day", 0))
		last = max(last, on+1)
		a.Figures = append(
			a.Figures,
			Figure{p.T("Fresh, on day %d", on), p.Format(*g.Fresh, unit.Gram)},
			Figure{p.T("With less light, and with more"), p.T("%s to %s", say.Of(*g.Low, unit.Gram), say.Of(*g.High, unit.Gram))},
			Figure{p.T("Leaves"), p.T("%.1f", *g.Leaves)},
			Figure{p.T("Leaf area index"), p.T("%.1f", *g.Area)},
		)
	}
	var points [][2]float64
	most := target
	for d := 0; d <= last; d += max(1, last/30) {
		one, err := ask(map[string]any{"on_day": d, "target_g": nil})
		if err != nil {
			return a, err
		}
		x, err := read[size](one)
		if err != nil {
			return a, err
		}
		v := p.Out(*x.Fresh, unit.Gram)
		points, most = append(points, [2]float64{float64(d), v}), max(most, *x.Fresh)
	}
	chart := plot(p, p.T("Days from sowing"), 0, float64(last), p.T("Fresh shoot, %s", p.Name(unit.Gram)), 0, p.Out(most, unit.Gram)*1.05)
	chart.line("sea", points)
	if wanted && g.Days != nil {
		chart.dot(float64(*g.Days), p.Out(target, unit.Gram), p.T("day %d", *g.Days))
	}
	a.Picture = Picture{Says: p.T("Fresh weight by day."), Chart: chart}
	return a, nil
}
