package sums

import (
	"fmt"
	"math"
	"net/url"

	"ulpa/core/say"
	"ulpa/core/seed"
	"ulpa/core/unit"
)

type band struct{ P5, P50, P95 float64 }

func (b band) ph(p say.Reader) string { return p.T("%.1f to %.1f", b.P5, b.P95) }

func init() {
	tells("learn-dose", tellLearnDose)
	tells("combine", tellCombine)
	tells("runs-dry", tellRunsDry)
	tells("jar", tellJar)
	tells("site-night", tellNight)
	tells("expected-count", tellCount)
}

// learned is what readings told of a tank's water, and of the next dose.
type learned struct {
	Advice     string
	Wait       *float64 `json:"wait_minutes"`
	Amount     *float64
	Need, Cap  *float64
	Unit       string
	LimitedBy  *string            `json:"limited_by"`
	BelowFloor *float64           `json:"chance_below_floor"`
	Below5     *float64           `json:"chance_below_5"`
	Forecast   *band              `json:"forecast_ph"`
	Adds       map[string]float64 `json:"adds_mg_l"`
	Floor      float64            `json:"ph_floor"`
	Now        band               `json:"ph_now"`
	Alkalinity band               `json:"alkalinity_mg_l_caco3"`
	AlkNow     float64            `json:"alkalinity_now_mg_l_caco3"`
	Learned    bool
	Used       []int
}

func tellLearnDose(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	d, err := read[learned](out)
	if err != nil {
		return Answer{}, err
	}
	u := map[string]string{"ml": unit.Millilitre, "g": unit.Gram}[d.Unit]
	next := in["next"].(map[string]any)
	agent := choiceName(p, "agent", fmt.Sprint(next["agent"]))
	a := Answer{Adult: true}
	switch d.Advice {
	case "wait":
		a.Big = p.T("Wait %.0f minutes, then read.", math.Ceil(*d.Wait))
	case "read_first":
		a.Big = p.T("Read the pH first.")
		a.Says = []string{p.T("Ulpa says nothing until the last dose has been read, or if the last reading is hours old.")}
	case "read_again":
		a.Big, a.Now = p.T("Read again before anything goes in."), true
		a.Says = []string{p.T("The readings do not fit together, or no dose is safe on them: check the pen and what was poured.")}
	case "leave":
		a.Big = p.T("Leave it alone.")
		a.Says = []string{p.T("It is on target, or so near that a dose is not worth it.")}
	default:
		a.Big = p.T("Stir in %s of %s, wait, read again.", p.Format(*d.Amount, u), agent)
		a.Use = url.Values{"agent": {fmt.Sprint(next["agent"])}, "amount": {short(roundSignificant(*d.Amount))}}
		a.Says = append(
			a.Says,
			map[string]string{
				"half": p.T("That is half of what it should take."), "rest": p.T("The readings are enough to advise the whole dose."),
				"floor": p.T("No more: with more, one time in twenty it would end below pH %.1f.", d.Floor),
			}[*d.LimitedBy],
		)
	}
	if !d.Learned && len(d.Used) > 1 {
		a.Says = append(
			a.Says,
			p.T("These readings tell nothing about the water yet: the dose between them was smaller than the error of reading."),
		)
	}
	a.Figures = d.figures(p, u)
	a.Picture = d.picture(p, in)
	return a, nil
}

// figures are what is known of the water, and what the dose does to it.
func (d learned) figures(p say.Reader, u string) []Figure {
	figures := []Figure{{p.T("pH now, nine in ten"), d.Now.ph(p)}}
	if d.Forecast != nil && *d.Amount > 0 {
		figures = append(
			figures,
			Figure{p.T("after the dose"), d.Forecast.ph(p)},
			Figure{p.T("Chance below pH %.1f", d.Floor), p.T("%.1f %%", 100**d.BelowFloor)},
		)
	}
	if d.Need != nil {
		figures = append(figures, Figure{p.T("To the target, on average"), p.Format(*d.Need, u)}, Figure{p.T("Most that is safe"), p.Format(*d.Cap, u)})
	}
	figures = append(
		figures,
		Figure{p.T("Alkalinity at the first reading"), p.T("%.0f mg/L (%.0f to %.0f)", d.Alkalinity.P50, d.Alkalinity.P5, d.Alkalinity.P95)},
		Figure{p.T("Alkalinity now"), p.T("%.0f mg/L", d.AlkNow)},
	)
	for _, el := range sortedKeys(d.Adds) {
		if d.Adds[el] > 0 {
			figures = append(figures, Figure{p.T("Brings %s", el), p.T("%.3g mg/L", d.Adds[el])})
		}
	}
	return figures
}

// picture is where the pH lies now and after the dose.
func (d learned) picture(p say.Reader, in map[string]any) Picture {
	target := num(in, "ph_target", 6)
	low, high := math.Floor(min(d.Floor, d.Now.P5, target)), math.Ceil(max(d.Now.P95, target+0.2))
	if d.Forecast != nil {
		low = math.Floor(min(low, d.Forecast.P5))
	}
	chart := rows(low, high, 2)
	for _, v := range ticks(low, high, 6) {
		chart.tick(v, "pH "+figureOf(p, v))
	}
	chart.column(d.Floor, num(in, "ph_high", target+0.2), "usual")
	chart.row(Row{Name: p.T("now"), From: d.Now.P5, To: d.Now.P95, At: d.Now.P50, Interval: true, Text: p.T("%.1f", d.Now.P50)})
	if f := d.Forecast; f != nil && *d.Amount > 0 {
		chart.row(Row{Name: p.T("after the dose"), From: f.P5, To: f.P95, At: f.P50, Interval: true, Text: p.T("%.1f", f.P50)})
	}
	return Picture{
		Says:  p.T("Where the pH is now and after the dose, with how sure that is."),
		Chart: chart,
		Key:   p.T("The line is nine chances in ten. Shaded: from the bottom to the top of the range."),
	}
}

func tellCombine(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	c, err := read[struct {
		Value, Error float64
		Disagree     bool
		Above        *float64 `json:"chance_above"`
		Below        *float64 `json:"chance_below"`
		Advice       *string
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("Together they say %.2f, give or take %.2f.", c.Value, c.Error)}
	if c.Advice != nil {
		a.Says = append(
			a.Says,
			map[string]string{
				"leave": p.T("Leave it: it is most likely within its range."), "lower": p.T("Bring it down."), "raise": p.T("Bring it up."),
				"read_again": p.T("Read again before anything is done."),
			}[*c.Advice],
		)
		a.Now = *c.Advice == "lower" || *c.Advice == "raise"
	}
	if c.Disagree {
		a.Says = append(a.Says, p.T("Two of them are too far apart to both be right."))
	}
	for _, x := range []struct {
		name string
		v    *float64
	}{{p.T("Chance of being above the range"), c.Above}, {p.T("Chance of being below it"), c.Below}} {
		if x.v != nil {
			a.Figures = append(a.Figures, Figure{x.name, percent(*x.v)})
		}
	}
	readings, _ := in["readings"].([]any)
	readings = readings[:min(len(readings), 8)]
	low, high := c.Value-2*c.Error, c.Value+2*c.Error
	var list []Row
	for i, r := range readings {
		m := r.(map[string]any)
		v := num(m, "value", 0) - num(m, "bias", 0)
		e := math.Hypot(num(m, "error", 0)+num(m, "weeks", 0)*num(m, "error_per_week", 0), num(m, "bias_error", 0))
		low, high = min(low, v-2*e), max(high, v+2*e)
		list = append(list, Row{Name: p.T("reading %d", i+1), From: v - 2*e, To: v + 2*e, At: v, Interval: true, Text: figureOf(p, roundSignificant(v))})
	}
	list = append(
		list,
		Row{Name: p.T("together"), From: c.Value - 2*c.Error, To: c.Value + 2*c.Error, At: c.Value, Interval: true, Text: p.T("%.2f", c.Value)},
	)
	chart := rows(low, high, len(list))
	for _, v := range ticks(low, high, 6) {
		chart.tick(v, figureOf(p, v))
	}
	if c.Above != nil || c.Below != nil {
		chart.column(num(in, "low", low), num(in, "high", high), "usual")
	}
	for _, r := range list {
		chart.row(r)
	}
	a.Picture = Picture{
		Says:  p.T("Each reading with its error, and all together."),
		Chart: chart,
		Key:   p.T("The line is two errors to each side. Shaded: the range."),
	}
	return a, nil
}

func tellRunsDry(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type dry struct {
		Chance   float64
		To5      *float64 `json:"hours_to_5_percent"`
		Half     *float64 `json:"hours_to_half"`
		Needed   float64  `json:"level_needed_l"`
		Possible bool
		Why      *string
		Add      float64  `json:"add_l"`
		After    float64  `json:"chance_after"`
		Longest  *float64 `json:"longest_hours"`
		Mean     float64  `json:"mean_l_day"`
		SD       float64  `json:"sd_l_day"`
	}
	d, err := read[dry](out)
	if err != nil {
		return Answer{}, err
	}
	days := func(h *float64) string {
		if h == nil {
			return p.T("never")
		}
		return p.T("%.1f days", *h/24)
	}
	a := Answer{
		Big: p.T("It will last."),
		Figures: []Figure{
			{p.T("Chance of running dry"), percent(d.Chance)},
			{p.T("Level needed"), p.Format(d.Needed, unit.Litre)},
			{p.T("Drinks a day"), p.Format(d.Mean, unit.Litre) + " ± " + p.Format(d.SD, unit.Litre)},
			{p.T("One chance in twenty after"), days(d.To5)},
			{p.T("One in two after"), days(d.Half)},
			{p.T("Full, it lasts"), days(d.Longest)},
		},
	}
	switch {
	case d.Add > 0 && d.Possible:
		a.Big = p.T("Add %s.", p.Format(d.Add, unit.Litre))
		a.Use = url.Values{"water": {p.Figure(d.Add, unit.Litre)}}
	case !d.Possible:
		a.Big, a.Now = p.T("A full tank is not enough: somebody must come."), true
		if *d.Why == "air_gap" {
			a.Big = p.T("Do not fill it that high: somebody must come.")
		}
		a.Says = []string{
			p.T("Filled as far as is safe, the chance that it is dry by then is %s; come after %s at the latest.", percent(d.After), days(d.Longest)),
		}
		if d.Add > 0 {
			a.Says = append(a.Says, p.T("Add %s anyway.", p.Format(d.Add, unit.Litre)))
		}
	}
	most := max(num(in, "hours", 24)*1.5, 24)
	var curve [][2]float64
	for i := 1; i <= 30; i++ {
		h := most * float64(i) / 30
		b, err := ask(map[string]any{"hours": min(h, 8760)})
		if err != nil {
			return a, err
		}
		if x, err := read[dry](b); err == nil {
			curve = append(curve, [2]float64{h / 24, 100 * x.Chance})
		}
	}
	chart := plot(p, p.T("days from now"), 0, most/24, p.T("chance to be dry, %"), 0, 100)
	chart.line("water", curve)
	chart.vertical(num(in, "hours", 0)/24, p.T("somebody comes"), "sea")
	a.Picture = Picture{Says: p.T("The chance of being dry, day by day, as it is now."), Chart: chart}
	return a, nil
}

func tellJar(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	j, err := read[struct {
		Phase    string
		Level    float64 `json:"level_cm"`
		Litres   float64
		Need     float64  `json:"need_l"`
		Allowed  float64  `json:"allowed_cm"`
		TooHigh  bool     `json:"too_high"`
		Pour     float64  `json:"pour_l"`
		After    float64  `json:"level_after_cm"`
		Air      float64  `json:"air_gap_cm"`
		DryAfter *float64 `json:"dry_in_days_after"`
		Lasts    bool
		Come     *float64 `json:"come_by_days"`
		ComeBy   *string  `json:"come_by"`
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("Do not pour anything.")}
	switch {
	case j.Pour > 0:
		a.Big = p.T("Pour %s, up to %s.", p.Format(j.Pour, unit.Litre), p.Format(j.After, unit.Centimetre))
		a.Use = url.Values{"water": {p.Figure(j.Pour, unit.Litre)}}
	case j.TooHigh:
		a.Says = append(a.Says, p.T("The water is too high already: the upper roots need air. Let it fall."))
	}
	if j.Phase == "touch" {
		a.Says = append(a.Says, p.T("Roots do not hang below the pot yet: let the water touch the bottom of the pot until they do."))
	} else {
		a.Says = append(a.Says, p.T("Roots hang: never fill it to the top again, because air roots drown."))
	}
	if !j.Lasts {
		a.Now = true
		when := p.T("in %.1f days", *j.Come)
		if j.ComeBy != nil {
			when = p.T("by %s", longDay(*j.ComeBy))
		}
		a.Says = append(a.Says, p.T("That does not last: somebody must come %s, or it needs a bigger jar.", when))
	}
	lasts := p.T("never dry")
	if j.DryAfter != nil {
		lasts = p.T("%.1f days", *j.DryAfter)
	}
	a.Figures = []Figure{
		{p.T("It will drink"), p.Format(j.Need, unit.Litre)},
		{p.T("Then it lasts"), lasts},
		{p.T("Highest level allowed"), p.Format(j.Allowed, unit.Centimetre)},
		{p.T("Air under the pot"), p.Format(j.Air, unit.Centimetre)},
	}
	v := in["vessel"].(map[string]any)
	foot := num(in, "pot_foot_cm", 1)
	draw := func(name string, depth float64) Tank {
		t := vesselCut(v, depth)
		t.Name, t.Level = name, p.Format(depth, unit.Centimetre)
		return t
	}
	a.Picture = Picture{
		Says:  p.T("The jar from the side, now and after pouring; the bottom of the pot is at %s.", p.Format(foot, unit.Centimetre)),
		Tanks: []Tank{draw(p.T("Now"), j.Level), draw(p.T("Then"), j.After)},
	}
	return a, nil
}

func tellNight(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	n, err := read[struct {
		Expected   float64 `json:"expected_c"`
		Low        float64 `json:"low_c"`
		High       float64 `json:"high_c"`
		Frost      float64 `json:"chance_frost"`
		Floor      float64 `json:"floor_c"`
		Harm       float64 `json:"chance_below_floor"`
		Difference float64 `json:"difference_c"`
		DiffSD     float64 `json:"difference_sd_c"`
		Advice     string
	}](out)
	if err != nil {
		return Answer{}, err
	}
	c := func(v float64) string { return p.Format(v, unit.Celsius) }
	a := Answer{
		Big:  p.T("Leave them: it is %s here, and they can take %s.", c(n.Expected), c(n.Floor)),
		Says: []string{p.T("The chance of harm is %s.", percent(n.Harm))},
	}
	if n.Advice == "protect" {
		a.Big, a.Now = p.T("Bring them in or cover them: a chance of %s to fall below %s.", percent(n.Harm), c(n.Floor)), true
		a.Says = nil
	}
	a.Figures = []Figure{
		{p.T("Expected here"), c(n.Expected)},
		{p.T("Nine nights in ten"), p.T("%s to %s", c(n.Low), c(n.High))},
		{p.T("Chance of frost"), percent(n.Frost)},
		{p.T("They tolerate"), c(n.Floor)},
		{p.T("Here minus the station"), p.T("%s ± %s", p.Format(n.Difference, unit.Kelvin), p.Format(n.DiffSD, unit.Kelvin))},
	}
	forecast := num(in, "forecast_c", 0)
	low, high := min(n.Low, n.Floor, forecast)-1, max(n.High, n.Floor, forecast)+1
	chart := rows(p.Out(low, unit.Celsius), p.Out(high, unit.Celsius), 2)
	for _, v := range ticks(p.Out(low, unit.Celsius), p.Out(high, unit.Celsius), 6) {
		chart.tick(v, figureOf(p, v)+" "+p.Name(unit.Celsius))
	}
	chart.column(p.Out(low, unit.Celsius), p.Out(n.Floor, unit.Celsius), "closed")
	at := func(v float64) float64 { return p.Out(v, unit.Celsius) }
	chart.row(Row{Name: p.T("station"), From: at(forecast), To: at(forecast), At: at(forecast), Interval: true, Text: c(forecast)})
	chart.row(Row{Name: p.T("here"), From: at(n.Low), To: at(n.High), At: at(n.Expected), Interval: true, Text: c(n.Expected)})
	a.Picture = Picture{
		Says:  p.T("The forecast, what it means here, and what the plants can stand."),
		Chart: chart,
		Key:   p.T("The line is nine nights in ten. Hatched: colder than they can stand."),
	}
	return a, nil
}

func tellCount(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type count struct {
		Progress   float64
		CellChance float64 `json:"cell_chance"`
		Expected   float64
		Low, High  int
		Verdict    *seed.CountVerdict
		Final      float64  `json:"expected_final"`
		Half       *float64 `json:"half_day"`
		Judge      *float64 `json:"judge_day"`
	}
	x, err := read[count](out)
	if err != nil {
		return Answer{}, err
	}
	cells, today := num(in, "cells", 1), num(in, "day", 0)
	a := Answer{
		Big:  p.T("About %.0f of %.0f by now.", x.Expected, cells),
		Says: []string{p.T("Nine sowings in ten like this one have %d to %d up.", x.Low, x.High)},
	}
	if x.Verdict != nil {
		seen := say.Plural(int(num(in, "seen", 0)), "cell")
		a.Says = append([]string{a.Big}, a.Says...)
		a.Big, a.Now = p.Say(say.Capital(x.Verdict.Says(seen))), x.Verdict.Alarms()
	}
	on := func(v *float64) string {
		if v == nil {
			return p.T("never, at this temperature")
		}
		return p.T("day %.1f", *v)
	}
	a.Figures = []Figure{
		{p.T("Chance that a cell comes up"), percent(x.CellChance)},
		{p.T("In the end"), p.T("%.0f of %.0f", x.Final, cells)},
		{p.T("Half are up on"), on(x.Half)},
		{p.T("A count tells you something from"), on(x.Judge)},
	}
	last := max(today, 6)
	if x.Judge != nil && *x.Judge < 120 {
		last = max(last, 1.3**x.Judge)
	}
	temperatures, daily := in["temperatures_c"].([]any)
	var mid, low, high [][2]float64
	for i := range 17 {
		d := last * float64(i) / 16
		change := map[string]any{"day": d, "seen": nil}
		if daily && len(temperatures) > 0 { // the last goes on
			longer := append([]any{}, temperatures...)
			for float64(len(longer)) < d {
				longer = append(longer, temperatures[len(temperatures)-1])
			}
			change["temperatures_c"] = longer
		}
		b, err := ask(change)
		if err != nil {
			return a, err
		}
		y, err := read[count](b)
		if err != nil {
			return a, err
		}
		mid, low, high = append(mid, [2]float64{d, y.Expected}), append(low, [2]float64{d, float64(y.Low)}), append(high, [2]float64{d, float64(y.High)})
	}
	chart := plot(p, p.T("days after sowing"), 0, last, p.T("cells with a seedling"), 0, cells)
	chart.line("sea", mid)
	chart.line("faint", low)
	chart.line("faint", high)
	if _, ok := in["seen"]; ok {
		chart.dot(today, num(in, "seen", 0), p.T("counted"))
	} else {
		chart.vertical(today, p.T("now"), "now")
	}
	a.Picture = Picture{
		Says:  p.T("Cells with a seedling, day by day: what is usual, with the range of nine sowings in ten."),
		Chart: chart,
		Key:   p.T("Thin line: nine sowings in ten are within it."),
	}
	return a, nil
}
