package sums

import (
	"fmt"
	"math"
	"net/url"
	"slices"
	"sort"

	"ulpa/core/recipe"
	"ulpa/core/say"
	"ulpa/core/unit"
)

func init() {
	tells("recipe", tellRecipe)
	tells("conductivity", tellConductivity)
	tells("ph-adjust", tellPH)
	tells("reservoir-adjust", tellReservoir)
	tells("vessel", tellVessel)
	tells("oxygen", tellOxygen)
	tells("ammonia", tellAmmonia)
}

func tellPH(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type dose struct {
		Amount   float64
		Unit     string
		Degassed struct{ Amount float64 } `json:"after_degassing"`
		First    struct {
			Amount float64
			Wait   float64 `json:"wait_minutes"`
		} `json:"first_dose"`
		Adds map[string]float64 `json:"adds_mg_l"`
	}
	d, err := read[dose](out)
	if err != nil {
		return Answer{}, err
	}
	u := map[string]string{"ml": unit.Millilitre, "g": unit.Gram}[d.Unit]
	agent := choiceName(p, "agent", fmt.Sprint(in["agent"]))
	now, target := num(in, "ph_now", 7), num(in, "ph_target", 6)
	a := Answer{Adult: true, Use: url.Values{"agent": {fmt.Sprint(in["agent"])}, "amount": {short(roundSignificant(d.First.Amount))}}}
	if d.Amount == 0 {
		a.Big = p.T("Nothing to add: it is there.")
		a.Use = nil
	} else {
		a.Big = p.T("%s of %s; add half of it first.", p.Format(d.Amount, u), agent)
		a.Says = []string{
			p.T("Stir in %s, wait %.0f minutes, read again. The second half is worked out from what the first one did.", p.Format(d.First.Amount, u), d.First.Wait),
			p.T("The pH creeps back up as carbon dioxide leaves."), p.T("Measure the alkalinity before the feed goes in: phosphate counts in a titration too."),
		}
	}
	a.Figures = []Figure{
		{p.T("In all, gas kept in"), p.Format(d.Amount, u)},
		{p.T("First half"), p.Format(d.First.Amount, u)},
		{p.T("In all, once the gas has left"), p.Format(d.Degassed.Amount, u)},
	}
	for _, el := range sortedKeys(d.Adds) {
		if d.Adds[el] > 0 {
			a.Figures = append(a.Figures, Figure{p.T("Brings %s", el), p.T("%.3g mg/L", d.Adds[el])})
		}
	}
	// The titration curve: what it takes to reach each pH from here to a little past the target.
	var curve [][2]float64
	end := target + 0.8*sign(target-now)
	for i := range 41 {
		to := now + (end-now)*float64(i)/40
		b, err := ask(map[string]any{"ph_target": to})
		if err != nil {
			break // past what this agent can do
		}
		if x, err := read[dose](b); err == nil && (d.Amount == 0 || x.Amount <= 2.5*d.Amount) {
			curve = append(curve, [2]float64{p.Out(x.Amount, u), to})
		}
	}
	if len(curve) > 1 && d.Amount > 0 {
		chart := plot(p, p.T("%s of %s", p.Name(u), agent), 0, curve[len(curve)-1][0], "pH", math.Floor(min(now, end)), math.Ceil(max(now, end)))
		chart.band(target-0.1, target+0.1, "usual")
		chart.line("sea", curve)
		chart.dot(0, now, p.T("now %s", p.Figure(now, "pH")))
		chart.dot(p.Out(d.Amount, u), target, p.T("target"))
		chart.vertical(p.Out(d.First.Amount, u), p.T("first half"), "now")
		a.Picture = Picture{Says: p.T("The titration curve from now past the target, with the first half marked."), Chart: chart}
	}
	return a, nil
}

func sign(v float64) float64 {
	if v < 0 {
		return -1
	}
	return 1
}

func sortedKeys(m map[string]float64) []string {
	keys := make([]string, 0, len(m))
	for k := range m {
		keys = append(keys, k)
	}
	sort.Strings(keys)
	return keys
}

func tellReservoir(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	r, err := read[struct {
		DrainL    *float64 `json:"drain_l"`
		WaterL    *float64 `json:"water_l"`
		StockML   *float64 `json:"stock_ml"`
		LevelL    *float64 `json:"level_after_l"`
		EC        *float64 `json:"ec_after_ms_cm"`
		Reachable bool
	}](out)
	if err != nil {
		return Answer{}, err
	}
	holds, level := num(in, "capacity_l", 1), num(in, "level_l", 0)
	box := func(name string, l, ec float64) Tank {
		t := cutOpen(func(float64) float64 { return 1 }, 1, min(1, l/holds))
		t.Name, t.Level = name, p.Format(l, unit.Litre)+", "+p.Format(ec, unit.MS)
		return t
	}
	before := box(p.T("Now"), level, num(in, "ec_ms_cm", 0))
	if !r.Reachable {
		return Answer{
			Big:     p.T("It cannot be reached."),
			Now:     true,
			Says:    []string{p.Say(out.text("why"))},
			Picture: Picture{Says: p.T("The tank as it is."), Tanks: []Tank{before}},
		}, nil
	}
	var does []say.Text
	use := url.Values{}
	add := func(name string, v float64, u string, words say.Words) {
		if v > 0.005 {
			does = append(does, say.T(words, say.Of(v, u)))
			use.Set(name, p.Figure(v, u))
		}
	}
	add("drain", *r.DrainL, unit.Litre, "drain %s")
	add("water", *r.WaterL, unit.Litre, "add %s of water")
	add("stock", *r.StockML, unit.Millilitre, "%s of each stock")
	a := Answer{Use: use, Says: []string{p.T("One stock after the other, stirring in between: never let them meet undiluted. pH comes last.")}}
	if len(does) == 0 {
		a.Big, a.Says, a.Use = p.T("Nothing to do: it is on target."), nil, nil
	} else {
		a.Big = p.T("%s.", say.Capital(say.Then(does...)))
	}
	a.Figures = []Figure{
		{p.T("Drain"), p.Format(*r.DrainL, unit.Litre)},
		{p.T("Water"), p.Format(*r.WaterL, unit.Litre)},
		{p.T("Each stock"), p.Format(*r.StockML, unit.Millilitre)},
		{p.T("Then it is at"), p.Format(*r.LevelL, unit.Litre)},
		{p.T("with a strength of"), p.Format(*r.EC, unit.MS)},
	}
	a.Picture = Picture{Says: p.T("The tank before and after."), Tanks: []Tank{before, box(p.T("Then"), *r.LevelL, *r.EC)}}
	return a, nil
}

func tellVessel(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	v, err := read[struct {
		Litres float64
		Depth  float64 `json:"depth_cm"`
		Full   float64 `json:"full_litres"`
	}](out)
	if err != nil {
		return Answer{}, err
	}
	a := Answer{
		Figures: []Figure{
			{p.T("Depth"), p.Format(v.Depth, unit.Centimetre)},
			{p.T("Holds now"), p.Format(v.Litres, unit.Litre)},
			{p.T("Full"), p.Format(v.Full, unit.Litre)},
		},
		Says: []string{p.T("Full, it weighs %s plus the vessel: a litre of water weighs a kilogram.", p.Format(v.Full, unit.Kilogram))},
	}
	a.Big = p.T("%s at %s.", p.Format(v.Litres, unit.Litre), p.Format(v.Depth, unit.Centimetre))
	t := vesselCut(in, v.Depth)
	t.Level = p.T("%s at %s", p.Format(v.Litres, unit.Litre), p.Format(v.Depth, unit.Centimetre))
	a.Picture = Picture{Says: p.T("The vessel from the side, at its level."), Tanks: []Tank{t}}
	return a, nil
}

// vesselCut draws a vessel of the contract cut open, filled to a depth in cm.
func vesselCut(v map[string]any, depth float64) Tank {
	height := num(v, "height_cm", 0)
	top, bottom := 1.0, 1.0
	switch v["shape"] {
	case "box":
		top, bottom = num(v, "length_cm", 1), num(v, "length_cm", 1)
	case "cylinder":
		top, bottom = num(v, "diameter_cm", 1), num(v, "diameter_cm", 1)
	case "round_taper":
		top, bottom = num(v, "top_diameter_cm", 1), num(v, "bottom_diameter_cm", 1)
	case "square_taper":
		top, bottom = num(v, "top_length_cm", 1), num(v, "bottom_length_cm", 1)
	case "marks":
		for _, m := range v["marks"].([]any) {
			height = max(height, num(m.(map[string]any), "depth_cm", 0))
		}
		top, bottom = height, height
	}
	wide := max(top, bottom)
	return cutOpen(func(h float64) float64 { return (bottom + (top-bottom)*h) / wide }, wide/max(height, 0.1), depth/max(height, 0.1))
}

func tellRecipe(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	r, err := read[struct {
		Grams     map[string]float64
		Achieved  map[string]float64 `json:"achieved_mg_l"`
		Deviation map[string]float64 `json:"deviation_percent"`
		EC        float64            `json:"ec_ms_cm"`
		NH4       *float64           `json:"nh4_share_percent"`
		Tanks     *struct{ A, B []string }
		Stock     map[string]float64 `json:"stock_grams"`
	}](out)
	if err != nil {
		return Answer{}, err
	}
	worst, most := "", 0.0
	for el, d := range r.Deviation {
		if math.Abs(d) > most || math.Abs(d) == most && el < worst {
			worst, most = el, math.Abs(d)
		}
	}
	a := Answer{Adult: true, Big: p.T("Weigh out %d salts; about %s.", len(used(r.Grams)), p.Format(r.EC, unit.MS))}
	if len(used(r.Grams)) == 0 {
		a.Big, a.Now = p.T("None of these salts adds what is wanted."), true
	} else if most < 1 {
		a.Says = append(a.Says, p.T("Every target is met to within 1 %."))
	} else {
		a.Says = append(a.Says, p.T("Furthest off: %s, %s than wanted.", worst, offBy(p, r.Deviation[worst])))
	}
	for _, name := range used(r.Grams) {
		line := Figure{choiceName(p, "", name), p.Format(r.Grams[name], unit.Gram)}
		if r.Tanks != nil {
			tank := "A"
			if slices.Contains(r.Tanks.B, name) {
				tank = "B"
			}
			line = Figure{p.T("Tank %s: %s", tank, choiceName(p, "", name)), p.Format(r.Stock[name], unit.Gram)}
		}
		a.Figures = append(a.Figures, line)
	}
	sort.SliceStable(a.Figures, func(i, j int) bool { return r.Tanks != nil && a.Figures[i].Name < a.Figures[j].Name })
	if r.NH4 != nil && *r.NH4 > 0 {
		a.Figures = append(a.Figures, Figure{p.T("Nitrogen as ammonium"), p.T("%.0f %%", *r.NH4)})
	}
	a.Says = append(a.Says, p.All(out.texts("warnings"))...)
	wanted, _ := in["targets_mg_l"].(map[string]any)
	a.Picture = Picture{
		Says: p.T("What the recipe gives beside what was wanted."),
		Key:  p.T("The bar is what it gives, the line what was wanted; bars more than half too long are cut off."),
	}
	for _, el := range recipe.Targets {
		target, ok := wanted[el]
		if !ok {
			continue
		}
		t, got := num(map[string]any{"t": target}, "t", 1), r.Achieved[el]
		b := Bar{
			Name:   el,
			Value:  p.T("%.3g mg/L", got),
			Note:   p.T("wanted %.3g: %s", t, offBy(p, r.Deviation[el])),
			Width:  min(100, 100*got/t/1.5),
			Target: 100 / 1.5,
		}
		if math.Abs(r.Deviation[el]) > 10 {
			b.Class = "short"
		}
		a.Picture.Bars = append(a.Picture.Bars, b)
	}
	return a, nil
}

// offBy says how far something is from what was wanted.
func offBy(p say.Reader, percent float64) string {
	switch d := math.Round(percent); {
	case d < 0:
		return p.T("%.0f %% less", -d)
	case d > 0:
		return p.T("%.0f %% more", d)
	}
	return p.T("met")
}

func used(grams map[string]float64) (names []string) {
	for _, n := range sortedKeys(grams) {
		if grams[n] > 0 {
			names = append(names, n)
		}
	}
	return names
}

func tellConductivity(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	c, err := read[struct {
		EC        float64            `json:"ec_ms_cm"`
		EC25      float64            `json:"ec25_ms_cm"`
		Ionic     float64            `json:"ionic_strength_mol_l"`
		Imbalance float64            `json:"charge_imbalance_percent"`
		Pairs     map[string]float64 `json:"pairs_mmol_l"`
	}](out)
	if err != nil {
		return Answer{}, err
	}
	t := num(in, "temperature_c", 25)
	a := Answer{
		Big: p.T("The meter should read %s.", p.Format(c.EC25, unit.MS)),
		Says: []string{
			p.T(
				"Meters show the value at %s; at %s the water itself has %s.",
				p.Format(25, unit.Celsius),
				p.Format(t, unit.Celsius),
				p.Format(c.EC, unit.MS),
			),
		},
		Figures: []Figure{{p.T("Ionic strength"), p.T("%.3g mmol/L", 1000*c.Ionic)}, {p.T("Charges out of balance"), p.T("%+.1f %%", c.Imbalance)}},
	}
	if math.Abs(c.Imbalance) > 10 {
		a.Says, a.Now = append(a.Says, p.T("The charges do not balance: an ion is missing or mistyped.")), true
	}
	for _, name := range sortedKeys(c.Pairs) {
		if c.Pairs[name] >= 0.005 {
			a.Figures = append(a.Figures, Figure{p.T("%s in pairs", name), p.T("%.2f mmol/L", c.Pairs[name])})
		}
	}
	ions, _ := in["ions_mmol_l"].(map[string]any)
	charge := map[string]float64{"Ca": 2, "Mg": 2, "SO4": 2}
	most := 0.0
	for ion := range ions {
		most = max(most, num(ions, ion, 0)*max(1, charge[ion]))
	}
	a.Picture = Picture{Says: p.T("The ions by the charge they carry."), Key: p.T("The bar is charge, in meq/L: cations dark, anions light.")}
	for _, ion := range []string{"K", p.T("Ca"), p.T("Mg"), p.T("Na"), "NH4", "NO3", "H2PO4", "SO4", p.T("Cl"), "HCO3"} {
		if v := num(ions, ion, 0) * max(1, charge[ion]); v > 0 {
			b := Bar{Name: ion, Value: p.T("%.3g meq/L", v), Width: 100 * v / most}
			if slices.Contains([]string{"NO3", "H2PO4", "SO4", p.T("Cl"), "HCO3"}, ion) {
				b.Class = "light"
			}
			a.Picture.Bars = append(a.Picture.Bars, b)
		}
	}
	return a, nil
}

func tellOxygen(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type oxygen struct {
		S float64 `json:"saturation_mg_l"`
	}
	o, err := read[oxygen](out)
	if err != nil {
		return Answer{}, err
	}
	t := num(in, "temperature_c", 20)
	a := Answer{Big: p.T("At most %.1f mg/L.", o.S), Says: []string{p.T("That holds for water in full contact with air; a still tank holds less.")}}
	if t > 24 {
		a.Now, a.Says = true, append(a.Says, p.T("Above about %s roots suffer: cool the water, shade it and bubble air through it.", p.Format(24, unit.Celsius)))
	}
	var curve [][2]float64
	for v := 0.0; v <= 40; v += 2 {
		b, err := ask(map[string]any{"temperature_c": v})
		if err != nil {
			return a, err
		}
		x, err := read[oxygen](b)
		if err != nil {
			return a, err
		}
		curve = append(curve, [2]float64{p.Out(v, unit.Celsius), x.S})
	}
	chart := plot(p, p.T("water, %s", p.Name(unit.Celsius)), p.Out(0, unit.Celsius), p.Out(40, unit.Celsius), "mg/L", 0, 16)
	chart.line("water", curve)
	if t <= 40 {
		chart.dot(p.Out(t, unit.Celsius), o.S, p.T("%.1f mg/L", o.S))
	}
	a.Picture = Picture{Says: p.T("Oxygen that water can hold, falling as it warms."), Chart: chart}
	return a, nil
}

func tellAmmonia(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type ammonia struct {
		MgL     float64 `json:"unionised_mg_l"`
		Percent float64 `json:"unionised_percent"`
	}
	m, err := read[ammonia](out)
	if err != nil {
		return Answer{}, err
	}
	ph, total := num(in, "ph", 7), num(in, "total_ammonia_n_mg_l", 0)
	a := Answer{Big: p.T("%.3g mg/L is the harmful part.", m.MgL), Figures: []Figure{{p.T("Un-ionised"), p.T("%.2g %%", m.Percent)}}}
	switch {
	case m.MgL >= 0.05:
		a.Now, a.Says = true, []string{p.T("This harms fish: stop feeding, change part of the water, find the cause. Ask somebody who knows fish.")}
	case m.MgL >= 0.02:
		a.Says = []string{p.T("More than fish should live in for long: feed less and measure every day.")}
	default:
		a.Says = []string{p.T("Below 0.02 mg/L, which most fish tolerate.")}
	}
	var curve [][2]float64
	for v := 6.0; v <= 9; v += 0.1 {
		b, err := ask(map[string]any{"ph": v})
		if err != nil {
			return a, err
		}
		x, err := read[ammonia](b)
		if err != nil {
			return a, err
		}
		curve = append(curve, [2]float64{v, x.MgL})
	}
	chart := plot(p, "pH", 6, 9, p.T("mg/L un-ionised, as N"), 0, max(0.06, min(curve[len(curve)-1][1], 4*max(m.MgL, 0.02))))
	chart.band(0, 0.02, "usual")
	chart.line("now", curve)
	if ph >= 6 && ph <= 9 {
		chart.dot(ph, min(m.MgL, chart.y.to), p.T("%.3g mg/L", m.MgL))
	}
	a.Picture = Picture{
		Says:  p.T("The harmful part of %.3g mg/L by pH: it rises steeply.", total),
		Chart: chart,
		Key:   p.T("Shaded: what most fish tolerate."),
	}
	return a, nil
}
