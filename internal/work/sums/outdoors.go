package sums

import (
	"fmt"

	"ulpa/core/say"
	"ulpa/core/unit"
)

func init() {
	tells("et0", tellGrass)
	tells("transplant-day", tellPlanting)
	tells("bed-water", tellBed)
	tells("emitters", tellEmitters)
}

// usualWords say what was taken as usual, because nobody measured it.
var usualWords = map[string]say.Words{
	"humidity":  "Humidity was not told: the dew point is taken to be the lowest temperature.",
	"radiation": "Light was not told: it is taken from how far day and night are apart.",
	"wind":      "Wind was not told: it is taken to be 2 m/s.",
}

func tellGrass(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type grass struct {
		MM    float64  `json:"et0_mm"`
		Sun   float64  `json:"radiation_term_mm"`
		Wind  float64  `json:"wind_term_mm"`
		Hours float64  `json:"day_length_h"`
		Usual []string `json:"substitutes"`
	}
	x, err := read[grass](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("%.1f mm a day, that is %s from each square metre.", x.MM, say.Of(x.MM, unit.Litre))}
	if x.Usual != nil {
		a.Figures = append(a.Figures, Figure{p.T("Drawn by the sun"), p.T("%.1f mm", x.Sun)}, Figure{p.T("Drawn by dry wind"), p.T("%.1f mm", x.Wind)})
	}
	a.Figures = append(a.Figures, Figure{p.T("Day length"), p.T("%.1f h", x.Hours)})
	for _, u := range x.Usual {
		a.Says = append(a.Says, p.Say(usualWords[u]))
	}
	const to = 40.0
	low := num(in, "tmin_c", 0)
	curve, most := [][2]float64{}, 1.0
	for t := max(low, 0); t <= to; t += 2 {
		one, err := ask(map[string]any{"tmax_c": t})
		if err != nil {
			return a, err
		}
		y, err := read[grass](one)
		if err != nil {
			return a, err
		}
		curve, most = append(curve, [2]float64{p.Out(t, unit.Celsius), y.MM}), max(most, y.MM)
	}
	chart := plot(p, p.T("highest temperature, %s", p.Name(unit.Celsius)), p.Out(max(low, 0), unit.Celsius), p.Out(to, unit.Celsius), "mm", 0, most*1.1)
	chart.line("water", curve)
	if now := num(in, "tmax_c", 0); now >= max(low, 0) && now <= to {
		chart.dot(p.Out(now, unit.Celsius), x.MM, p.T("%.1f mm", x.MM))
	}
	a.Picture = Picture{Says: p.T("What the air draws, by the highest temperature of the day."), Chart: chart}
	return a, nil
}

// plantingWords are what is thought of a day.
var plantingWords = map[string]say.Words{
	"closed": "nobody is there", "too_cold": "too cold at night", "good": "good##day", "with_care": "with care", "wait": "wait##day",
}

// measureWords are what makes up for a hard day.
var measureWords = map[string]say.Words{
	"shade": "Shade them for three days.", "water_again": "Water again the next morning.", "cut_a_third": "Cut them back by a third.",
}

func tellPlanting(p say.Reader, _ map[string]any, out result, _ asker) (Answer, error) {
	x, err := read[struct {
		Best *string
		Days []struct {
			Date, Verdict string
			Score         float64
			ET0           float64 `json:"et0_mm"`
			Coldest       float64 `json:"coldest_c"`
			Measures      []string
		}
		Carry *float64 `json:"carry_l"`
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("None of these days is fit: wait."), Now: true}
	chart := rows(0, 100, len(x.Days))
	for _, v := range ticks(0, 100, 5) {
		chart.tick(v, figureOf(p, v))
	}
	for _, d := range x.Days {
		chart.row(Row{
			Name: p.Say(day(d.Date).Short()), From: 0, To: d.Score, At: d.Score,
		})
		a.Figures = append(a.Figures, Figure{
			p.Say(day(d.Date).Short()), p.T("%s · %.1f mm · %s", plantingWords[d.Verdict], d.ET0, say.Of(d.Coldest, unit.Celsius)),
		})
		if x.Best != nil && *x.Best == d.Date {
			a.Big, a.Now = p.T("Plant out on %s.", day(d.Date).Long()), false
			for _, m := range d.Measures {
				a.Says = append(a.Says, p.Say(measureWords[m]))
			}
		}
	}
	a.Says = append(a.Says, p.T("Plant in the evening or under cloud, and water each plant in."))
	if x.Carry != nil {
		a.Figures = append(a.Figures, Figure{p.T("Water to carry"), p.Format(*x.Carry, unit.Litre)})
		a.Cautions = append(a.Cautions, p.T("A full can weighs as much as its litres in kilograms: carry two half cans instead of one full one."))
	}
	a.Picture = Picture{
		Says: p.T("Each day with its points out of 100, what the air draws, and the coldest of the first three nights."), Chart: chart,
		Key: p.T("The longer the bar, the less plants lose on that day."),
	}
	return a, nil
}

func tellBed(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	x, err := read[struct {
		Days []struct {
			Dry   float64 `json:"depletion_mm"`
			RAW   float64 `json:"raw_mm"`
			Water float64 `json:"water_mm"`
			L     float64 `json:"litres"`
			Cans  int
			Times int
		}
		First *int     `json:"first_day"`
		Left  *float64 `json:"days_left"`
		Total float64  `json:"total_l"`
		Cans  int      `json:"total_cans"`
		Rain  float64  `json:"rain_mm"`
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("No watering in these %s.", say.Plural(len(x.Days), "day"))}
	if x.First != nil {
		d := x.Days[*x.First]
		when := p.T("This evening")
		if *x.First > 0 {
			when = p.T("In %s, in the evening", say.Plural(*x.First, "day"))
		}
		a.Big, a.Now = p.T("%s: %s, that is %s.", when, say.Of(d.L, unit.Litre), say.Plural(d.Cans, "can")), *x.First == 0
		if d.Times > 1 {
			a.Says = append(a.Says, p.T("In %d goes, spread over the day: the small root zone holds no more.", d.Times))
		}
	}
	a.Figures = append(a.Figures, Figure{p.T("In all these days"), p.T("%s, %s", say.Of(x.Total, unit.Litre), say.Plural(x.Cans, "can"))})
	if x.Left != nil {
		a.Figures = append(a.Figures, Figure{p.T("At today’s rate it lasts"), p.T("%.1f days", *x.Left)})
	}
	if x.Rain > 0 {
		a.Figures = append(a.Figures, Figure{p.T("Rain counted on"), p.T("%.0f mm", x.Rain)})
	}
	a.Says = append(a.Says, p.T("Feel the soil a finger deep before you pour: a forecast is not rain."))
	most, dry, raw := 1.0, [][2]float64{}, [][2]float64{}
	for i, d := range x.Days {
		most = max(most, d.Dry, d.RAW)
		dry, raw = append(dry, [2]float64{float64(i), d.Dry}), append(raw, [2]float64{float64(i), d.RAW})
	}
	chart := plot(p, p.T("days from today"), 0, float64(max(1, len(x.Days)-1)), p.T("mm missing in the evening"), 0, most*1.15)
	chart.line("sea", raw)
	chart.line("water", dry)
	for i, d := range x.Days {
		if d.Water > 0 && i < 12 {
			chart.dot(float64(i), d.Dry, fmt.Sprint(d.Cans))
		}
	}
	a.Picture = Picture{
		Says: p.T("How much water is missing each evening, and from how much on the bed is watered."), Chart: chart,
		Key: p.T("A dot is an evening with water, with its cans."),
	}
	return a, nil
}

// evenWords are a verdict on a drip line.
var evenWords = map[string]say.Words{
	"dry": "Nothing came: look at the tap, the filter and the line.", "excellent": "It gives alike everywhere.", "good": "It gives well enough alike.",
	"fair": "It is uneven: clean what gives little, and look at the filter.", "poor": "It is too uneven: clean the line before you rely on it.",
}

func tellEmitters(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	x, err := read[struct {
		Mean    float64  `json:"mean_ml"`
		DU      *float64 `json:"distribution_uniformity"`
		CU      *float64 `json:"christiansen_percent"`
		Flow    float64  `json:"flow_l_h"`
		Median  float64  `json:"median_ml"`
		Clogged []int
		Weak    []int
		Leaking []int
		Verdict string
		Quarter *float64 `json:"minutes_low_quarter"`
		Minutes *float64 `json:"minutes_mean"`
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.Say(evenWords[x.Verdict]), Now: x.Verdict == "dry" || x.Verdict == "poor"}
	if x.DU != nil {
		a.Figures = append(a.Figures, Figure{p.T("Distribution uniformity"), percent(*x.DU)}, Figure{p.T("Christiansen’s coefficient"), p.T("%.0f %%", *x.CU)})
	}
	a.Figures = append(a.Figures, Figure{p.T("One emitter gives"), p.T("%s an hour", say.Of(x.Flow, unit.Litre))})
	if x.Quarter != nil {
		a.Says = append(a.Says, p.T("Run it for %.0f minutes, so that the driest quarter has enough too; for the mean %.0f would do.", *x.Quarter, *x.Minutes))
	}
	for _, list := range []struct {
		says say.Words
		at   []int
	}{{"Clean or replace: %s.", x.Clogged}, {"Weak: %s.", x.Weak}, {"Leaking: %s.", x.Leaking}} {
		if len(list.at) == 0 {
			continue
		}
		var cups []say.Text
		for _, i := range list.at[:min(len(list.at), 12)] {
			cups = append(cups, say.T("cup %d", i+1))
		}
		a.Says = append(a.Says, p.T(list.says, say.List(cups...)))
	}
	caught, _ := in["caught_ml"].([]any)
	caught = caught[:min(len(caught), 12)]
	most := max(1, x.Mean)
	for _, c := range caught {
		v, _ := c.(float64)
		most = max(most, v)
	}
	chart := rows(0, most, len(caught))
	for _, v := range ticks(0, most, 5) {
		chart.tick(v, figureOf(p, v))
	}
	for i, c := range caught {
		v, _ := c.(float64)
		chart.row(Row{Name: p.T("cup %d", i+1), From: 0, To: v, At: v, Text: p.Format(v, unit.Millilitre)})
	}
	a.Picture = Picture{Says: p.T("What each cup caught."), Chart: chart}
	a.Cautions = append(a.Cautions, p.T("Water and electricity: a pump’s plug stays dry, behind a residual-current device (RCD)."))
	return a, nil
}
