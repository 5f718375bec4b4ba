package sums

import (
	"ulpa/core/say"
	"ulpa/core/unit"
)

func init() {
	tells("pots", tellPots)
	tells("seed-age", tellAge)
}

func tellPots(p say.Reader, _ map[string]any, out result, ask asker) (Answer, error) {
	type pots struct {
		Pot    float64  `json:"pot_l"`
		Filled float64  `json:"filled_l"`
		Mix    float64  `json:"mix_l"`
		Bags   *int     `json:"bags"`
		Left   *float64 `json:"left_l"`
	}
	x, err := read[pots](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{
		Big: p.T("%s of loose mix.", say.Of(x.Mix, unit.Litre)),
		Figures: []Figure{
			{p.T("One, to the brim"), p.Format(x.Pot, unit.Litre)}, {p.T("One, as it is filled"), p.Format(x.Filled, unit.Litre)},
		},
	}
	if x.Bags != nil {
		a.Says = append(a.Says, p.T("That is %s; %s are left of the last.", say.Plural(*x.Bags, "bag"), say.Of(*x.Left, unit.Litre)))
	}
	a.Says = append(a.Says, p.T("Dampen the mix before you handle it, and wash hands after."))
	points := [][2]float64{{0, 0}} // no pots take no mix
	most := 0.0
	for n := 5; n <= 60; n += 5 {
		one, err := ask(map[string]any{"count": n})
		if err != nil {
			return a, err
		}
		y, err := read[pots](one)
		if err != nil {
			return a, err
		}
		v := p.Out(y.Mix, unit.Litre)
		points, most = append(points, [2]float64{float64(n), v}), max(most, v)
	}
	chart := plot(p, p.T("Pots"), 0, 60, p.T("Loose mix, %s", p.Name(unit.Litre)), 0, most*1.05)
	chart.line("sea", points)
	a.Picture = Picture{Says: p.T("How much mix, by the number of pots."), Chart: chart}
	return a, nil
}

func tellAge(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type aged struct {
		Germination float64
		Days        float64 `json:"days_to_below"`
	}
	x, err := read[aged](out)
	if err != nil {
		return Answer{}, err
	}
	below := num(in, "germination_below", 0.5)
	a := Answer{Big: p.T("About %.0f\u00a0%% of it should still germinate.", 100*x.Germination)}
	if x.Days > 0 {
		a.Says = append(a.Says, p.T("Stored as it is now, it stays above %.0f\u00a0%% for %s more.", 100*below, say.Plural(int(x.Days), "day")))
	} else {
		a.Now = true
		a.Says = append(a.Says, p.T("It is below %.0f\u00a0%% already: sow it thicker, or test it first.", 100*below))
	}
	storage, _ := in["storage"].([]any)
	last, _ := storage[len(storage)-1].(map[string]any)
	var points [][2]float64
	most := max(30, x.Days*1.5, num(last, "days", 0)*1.5)
	for i := range 31 {
		d := most * float64(i) / 30
		more := append(append([]any{}, storage...), map[string]any{"days": d, "temperature_c": last["temperature_c"], "moisture_percent": last["moisture_percent"]})
		one, err := ask(map[string]any{"storage": more})
		if err != nil {
			return a, err
		}
		y, err := read[aged](one)
		if err != nil {
			return a, err
		}
		points = append(points, [2]float64{d, 100 * y.Germination})
	}
	chart := plot(p, p.T("Days from now"), 0, most, p.T("Germination, %"), 0, 100)
	chart.line("sea", points)
	a.Picture = Picture{Says: p.T("Germination in the days ahead, if stored as it is now."), Chart: chart}
	return a, nil
}
