package sums

import (
	"math"

	"ulpa/core/calc"
	"ulpa/core/say"
	"ulpa/core/unit"
)

func init() {
	tells("calibrate", tellCalibrate)
	tells("drift", tellDrift)
	tells("spoon", tellSpoon)
	tells("dechlorinate", tellChlorine)
	tells("indoor-water", tellDrink)
	tells("fish", tellFish)
}

// ofPen are a pen's fields that belong to what it reads.
func ofPen(fields []calc.Field, kind string) (out []calc.Field) {
	other := map[string]bool{"standards": true, "compensated": true, "per_c": true, "shown_ms_cm": true}
	if kind == "ec" {
		other = map[string]bool{"points": true, "settle_seconds": true, "mv": true, "shown_ph": true}
	}
	for _, f := range fields {
		if other[f.Name] {
			continue
		}
		if f.Name == "reading" {
			f.Parts = ofPen(f.Parts, kind)
		}
		out = append(out, f)
	}
	return out
}

// penWords are a verdict on a pen, and what to do.
var penWords = map[string]say.Words{
	"repeat":  "Calibrate again with fresh buffers: these have gone off or were mixed up.",
	"replace": "The pen is worn out: replace its electrode.",
	"clean":   "Clean it, let it stand in storage solution for an hour, and calibrate again.",
	"good":    "The pen is good.",
	"adjust":  "Set it with the standard, or multiply by its factor.",
}

func tellCalibrate(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type pen struct {
		Slope   *float64 `json:"slope_percent"`
		Offset  float64  `json:"offset_mv"`
		Worst   *float64 `json:"worst_ph"`
		Factor  float64
		Off     float64 `json:"worst_percent"`
		Verdict string
		PH      *float64
		Raw     *float64 `json:"uncorrected_ph"`
		EC      *float64 `json:"ec25_ms_cm"`
	}
	x, err := read[pen](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.Say(penWords[x.Verdict]), Now: x.Verdict == "repeat" || x.Verdict == "replace"}
	if x.Slope == nil {
		a.Figures = []Figure{{p.T("Factor"), figureOf(p, roundSignificant(x.Factor))}, {p.T("Furthest off"), p.T("%.1f\u00a0%%", x.Off)}}
		if x.EC != nil {
			a.Figures = append(a.Figures, Figure{p.T("The corrected reading"), p.Format(*x.EC, unit.MS)})
		}
		most := 5.0
		chart := plot(p, p.T("shown, mS/cm"), 0, most, p.T("really, mS/cm"), 0, most)
		chart.line("usual", [][2]float64{{0, 0}, {most, most}})
		chart.line("sea", [][2]float64{{0, 0}, {min(most, most/x.Factor), min(most, most*x.Factor)}})
		a.Picture = Picture{Says: p.T("What the pen shows, and what it is really; dashed, a pen that is right."), Chart: chart}
		return a, nil
	}
	a.Figures = []Figure{{p.T("Slope"), p.T("%.1f\u00a0%%", *x.Slope)}, {p.T("Offset"), p.T("%.1f mV", x.Offset)}}
	if x.Worst != nil {
		a.Figures = append(a.Figures, Figure{p.T("Furthest a buffer lies from the line"), p.T("%.2f pH", *x.Worst)})
	}
	if x.PH != nil {
		a.Figures = append(a.Figures, Figure{p.T("The corrected reading"), p.T("pH %.2f instead of %.2f", *x.PH, *x.Raw)})
	}
	if *x.Slope < 95 {
		a.Says = append(a.Says, p.T("With such a slope readings far from 7 are shown too close to it."))
	}
	// What the pen shows at each pH, at 25 °C, by the line.
	k := *x.Slope / 100
	var curve [][2]float64
	for ph := 4.0; ph <= 10; ph += 0.5 {
		curve = append(curve, [2]float64{ph, 7 + k*(ph-7) - x.Offset/59.16})
	}
	chart := plot(p, p.T("really, pH"), 4, 10, p.T("shown, pH"), 3, 11)
	chart.line("usual", [][2]float64{{4, 4}, {10, 10}})
	chart.line("sea", curve)
	if x.PH != nil && *x.PH > 4 && *x.PH < 10 {
		chart.dot(*x.PH, *x.Raw, p.T("%.2f", *x.PH))
	}
	a.Picture = Picture{Says: p.T("What the pen shows at each pH; the other line is a pen that is right."), Chart: chart}
	return a, nil
}

func tellDrift(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	x, err := read[struct {
		Verdict   string
		Offset    *float64
		Slope     *float64 `json:"slope_per_week"`
		Alarm     *float64 `json:"alarm_day"`
		Direction *string
		High      []float64 `json:"cusum_high"`
		Low       []float64 `json:"cusum_low"`
		Spikes    []int
		Stuck     *float64 `json:"stuck_since_day"`
	}](out)
	if err != nil {
		return Answer{}, err
	}
	words := map[string]say.Words{
		"silent": "No readings any more: check the cable, the power, then the probe.", "stuck": "The reading does not move: the probe is dry, broken, or out of " +
			"the water.",
		"spiky": "It jumps: check for a loose plug, air bubbles, or a pump beside it.", "drifting": "It drifts: trust the hand meter, and put the probe into two " +
			"buffers.",
		"too_few": "Too few readings by hand to tell.", "fine": "There is nothing against it.",
	}
	a := Answer{Big: p.Say(words[x.Verdict]), Now: x.Verdict != "fine" && x.Verdict != "too_few"}
	if x.Offset != nil {
		a.Figures = append(a.Figures, Figure{p.T("It reads higher than the hand meter by"), p.T("%.2f", *x.Offset)})
	}
	if x.Slope != nil {
		a.Figures = append(a.Figures, Figure{p.T("and grows in a week by"), p.T("%.2f", *x.Slope)})
	}
	if x.Alarm != nil {
		a.Figures = append(a.Figures, Figure{p.T("Certain since day"), figureOf(p, *x.Alarm)})
	}
	pairs, _ := in["pairs"].([]any)
	days, most := []float64{0}, 5.0
	for _, pair := range pairs {
		if m, ok := pair.(map[string]any); ok {
			days = append(days, num(m, "day", 0))
		}
	}
	points := func(list []float64) (out [][2]float64) {
		for i, v := range list {
			if i+1 < len(days) {
				out, most = append(out, [2]float64{days[i+1], v}), math.Max(most, v)
			}
		}
		return out
	}
	high, low := points(x.High), points(x.Low)
	chart := plot(p, p.T("day"), days[min(1, len(days)-1)], math.Max(days[len(days)-1], days[min(1, len(days)-1)]+1), p.T("sum, in errors"), 0, most*1.1)
	chart.band(0, num(in, "alarm", 4), "usual")
	chart.line("now", high)
	chart.line("water", low)
	a.Picture = Picture{
		Says: p.T("How far the probe reads above and below the hand meter, added up."), Chart: chart,
		Key: p.T("Red: too high. Blue: too low. Beyond the shaded range it is not just chance."),
	}
	return a, nil
}

func tellSpoon(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	x, err := read[struct {
		Grams    float64  `json:"grams_per_spoon"`
		Error    float64  `json:"error_g"`
		Spread   float64  `json:"spoon_spread_g"`
		Quarters *int     `json:"level_quarters"`
		Gives    *float64 `json:"gives_g"`
		GivesOff *float64 `json:"gives_error_g"`
		Weigh    *bool    `json:"weigh_instead"`
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{
		Big: p.T("A level spoon weighs %s.", say.Of(x.Grams, unit.Gram)),
		Figures: []Figure{
			{p.T("Accurate to"), p.T("give or take %s", say.Of(roundSignificant(x.Error), unit.Gram))},
			{p.T("One spoon differs from another by"), p.T("give or take %s", say.Of(roundSignificant(x.Spread), unit.Gram))},
		},
	}
	most := 4
	if x.Quarters != nil {
		q := *x.Quarters
		most = max(4, q)
		off := say.Of(roundSignificant(*x.GivesOff), unit.Gram)
		a.Says = append(a.Says, p.T(spoonWords(q), spoons(q, p), say.Of(*x.Gives, unit.Gram), off))
		if a.Now = *x.Weigh; a.Now {
			a.Says = append(a.Says, p.T("That is too far off: weigh it instead."))
		}
	}
	a.Says = append(a.Says, p.T("Only for this powder and this spoon, levelled off. No dust: wear gloves, and never blow on it."))
	list := [][2]float64{}
	for q := 0; q <= most; q++ {
		list = append(list, [2]float64{float64(q) / 4, float64(q) / 4 * p.Out(x.Grams, unit.Gram)})
	}
	chart := plot(p, p.T("level spoons"), 0, float64(most)/4, p.Name(unit.Gram), 0, list[most][1]*1.05)
	chart.line("sea", list)
	if want := num(in, "want_g", 0); want > 0 && x.Quarters != nil && *x.Quarters > 0 {
		chart.dot(float64(*x.Quarters)/4, list[*x.Quarters][1], p.Format(*x.Gives, unit.Gram))
	}
	a.Picture = Picture{Says: p.T("Grams by level spoons."), Chart: chart}
	return a, nil
}

// spoonWords say so many quarters of a spoon with what they give.
func spoonWords(quarters int) say.Words {
	switch {
	case quarters == 0 || quarters > 4:
		return "%s level spoons: %s, give or take %s."
	case quarters == 4:
		return "%s level spoon: %s, give or take %s."
	}
	return "%s of a spoon, level: %s, give or take %s."
}

// spoons are quarters of a spoon as people say them: 2¼.
func spoons(quarters int, p say.Reader) string {
	whole, part := quarters/4, []string{"", "¼", "½", "¾"}[quarters%4]
	if whole == 0 && part != "" {
		return part
	}
	return p.T("%d", whole) + part
}

func tellChlorine(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	x, err := read[struct {
		Needed   bool
		Mg       float64  `json:"agent_mg"`
		Standing *float64 `json:"standing_h"`
		Ammonia  float64  `json:"ammonia_n_mg_l"`
		Limit    float64  `json:"ammonia_n_limit_mg_l"`
	}](out)
	if err != nil {
		return Answer{}, err
	}
	agent, _ := in["agent"].(string)
	if agent == "" {
		agent = "ascorbic_acid"
	}
	a := Answer{Big: p.T("Nothing to do: there is little enough in it."), Adult: agent != "ascorbic_acid"}
	if x.Needed {
		a.Big = p.T("%s of %s, stirred in.", say.Of(x.Mg/1000, unit.Gram), choiceName(p, "agent", agent))
	}
	if x.Standing != nil {
		a.Figures = append(a.Figures, Figure{p.T("If you let it stand or bubble instead"), p.T("%.0f hours", math.Ceil(*x.Standing))})
	}
	if in["kind"] == "chloramine" {
		a.Says = append(a.Says, p.T("Letting water stand does not remove chloramine, and the ammonia stays: %.2g mg/L. Fish tolerate %.2g mg/L at this "+
			"pH.", x.Ammonia, x.Limit))
		a.Now = x.Ammonia > x.Limit/2
	}
	half := num(in, "half_life_h", 6)
	c, limit := num(in, "mg_l", 0), num(in, "limit_mg_l", 0.02)
	var curve [][2]float64
	for h := 0.0; h <= 48; h += 2 {
		left := c
		if in["kind"] != "chloramine" {
			left = c * math.Exp2(-h/half)
		}
		curve = append(curve, [2]float64{h, left})
	}
	chart := plot(p, p.T("hours of standing"), 0, 48, "mg/L", 0, math.Max(0.1, 1.1*c))
	chart.band(0, limit, "usual")
	chart.line("water", curve)
	a.Picture = Picture{Says: p.T("What is left in the water if you let it stand."), Chart: chart, Key: p.T("Shaded: what may be left.")}
	return a, nil
}

func tellDrink(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type drink struct {
		Day     float64  `json:"use_l_day"`
		Light   float64  `json:"light_part_l_m2"`
		Air     float64  `json:"air_part_l_m2"`
		Plant   *float64 `json:"per_plant_ml_day"`
		Factor  float64
		Dry     *float64 `json:"days_until_dry"`
		Careful *float64 `json:"days_until_dry_cautious"`
	}
	x, err := read[drink](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{Big: p.T("%s a day.", say.Of(x.Day, unit.Litre))}
	if x.Plant != nil {
		a.Figures = append(a.Figures, Figure{p.T("Each plant"), p.Format(*x.Plant, unit.Millilitre)})
	}
	a.Figures = append(a.Figures,
		Figure{p.T("Because of light, per square metre"), p.Format(x.Light, unit.Litre)},
		Figure{p.T("Because of dry air, per square metre"), p.Format(x.Air, unit.Litre)})
	if x.Factor != 1 {
		a.Figures = append(a.Figures, Figure{p.T("Factor learned here"), figureOf(p, roundSignificant(x.Factor))})
	}
	if x.Dry != nil {
		a.Says = append(a.Says, p.T("It lasts about %.1f days; four times in five at least %.1f days.", *x.Dry, *x.Careful))
	}
	var curve [][2]float64
	most := 0.0
	for leaf := 0.0; leaf <= 5; leaf += 0.5 {
		one, err := ask(map[string]any{"leaf_area_index": leaf})
		if err != nil {
			return a, err
		}
		y, err := read[drink](one)
		if err != nil {
			return a, err
		}
		v := p.Out(y.Day, unit.Litre)
		curve, most = append(curve, [2]float64{leaf, v}), math.Max(most, v)
	}
	chart := plot(p, p.T("m² of leaf on a m²"), 0, 5, p.T("a day, %s", p.Name(unit.Litre)), 0, math.Max(0.01, most*1.1))
	chart.line("water", curve)
	if leaf := num(in, "leaf_area_index", 0); leaf <= 5 {
		chart.dot(leaf, p.Out(x.Day, unit.Litre), p.Format(x.Day, unit.Litre))
	}
	a.Picture = Picture{Says: p.T("Daily water by leaf area."), Chart: chart}
	return a, nil
}

func tellFish(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type day struct {
		Today  float64  `json:"feed_today_g"`
		Feed   float64  `json:"feed_g_day"`
		Advice string   `json:"feed_advice"`
		TAN    float64  `json:"tan_g_day"`
		Rise   float64  `json:"tan_rise_mg_l_day"`
		Filter float64  `json:"filter_m2_needed"`
		Enough *bool    `json:"filter_enough"`
		Low    float64  `json:"plant_m2_low"`
		High   float64  `json:"plant_m2_high"`
		Bicarb float64  `json:"potassium_bicarbonate_g_day"`
		Limit  float64  `json:"tan_limit_mg_l"`
		Over   float64  `json:"tan_over_limit"`
		Change *float64 `json:"change_l"`
	}
	x, err := read[day](out)
	if err != nil {
		return Answer{}, err
	}
	words := map[string]say.Words{
		"none": "Feed nothing today.", "half": "Feed half today: %s.", "normal": "Feed %s today, in several helpings.",
	}
	a := Answer{Big: p.Say(words["none"]), Now: x.Advice != "normal"}
	if x.Advice != "none" {
		a.Big = p.T(words[x.Advice], say.Of(x.Today, unit.Gram))
	}
	if x.Over > 1 {
		a.Says = append(a.Says, p.T("The ammonia is %.1f times what fish tolerate at this pH and temperature.", x.Over))
	}
	switch {
	case x.Change == nil:
		a.Says = append(a.Says, p.T("The water for the change is no better than this: use other water."))
	case *x.Change > 0:
		a.Says = append(a.Says, p.T("Change %s of the water. Use dechlorinated water of the same temperature.", say.Of(*x.Change, unit.Litre)))
	}
	if x.Enough != nil && !*x.Enough {
		a.Says = append(a.Says, p.T("The filter is too small for this feed."))
	}
	a.Says = append(a.Says, p.T("Take out any feed left after ten minutes. Keep copper, strong acid and sprays away from them."))
	a.Figures = []Figure{
		{p.T("Ammonia nitrogen from it"), p.T("%s: without a filter, %.2f mg/L more every day", say.Of(x.TAN, unit.Gram), x.Rise)},
		{p.T("Total ammonia that fish tolerate"), p.T("%.2g mg/L", x.Limit)},
		{p.T("Filter surface needed"), p.T("%.1f m²", x.Filter)},
		{p.T("Plants needed to use it up"), p.T("%.2f to %.2f m²", x.Low, x.High)},
		{p.T("Alkalinity to replace, as potassium bicarbonate"), p.Format(x.Bicarb, unit.Gram)},
	}
	var curve [][2]float64
	most := 0.0
	for c := 12.0; c <= 36; c++ {
		one, err := ask(map[string]any{"temperature_c": c})
		if err != nil {
			return a, err
		}
		y, err := read[day](one)
		if err != nil {
			return a, err
		}
		v := p.Out(y.Feed, unit.Gram)
		curve, most = append(curve, [2]float64{p.Out(c, unit.Celsius), v}), math.Max(most, v)
	}
	chart := plot(p, p.T("water, %s", p.Name(unit.Celsius)), p.Out(12, unit.Celsius), p.Out(36, unit.Celsius),
		p.T("feed a day, %s", p.Name(unit.Gram)), 0, math.Max(0.1, most*1.1))
	chart.line("sea", curve)
	if c := num(in, "temperature_c", 25); c >= 12 && c <= 36 {
		chart.dot(p.Out(c, unit.Celsius), p.Out(x.Feed, unit.Gram), p.Format(x.Feed, unit.Gram))
	}
	a.Picture = Picture{Says: p.T("Feed of a day by how warm the water is."), Chart: chart}
	return a, nil
}
