package sums

import (
	"encoding/json"
	"fmt"
	"net/url"
	"strconv"
	"unicode"
	"unicode/utf8"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/say"
	"ulpa/core/unit"
)

// read decodes an answer of the contract.
func read[T any](out result) (v T, err error) {
	err = json.Unmarshal(out.json, &v)
	return v, err
}

func percent(share float64) string { return strconv.FormatFloat(100*share, 'f', 0, 64) + " %" }

func num(in map[string]any, name string, otherwise float64) float64 {
	switch v := in[name].(type) {
	case float64:
		return v
	case int:
		return float64(v)
	}
	return otherwise
}

func init() {
	tells("seed-rate", tellSeedRate)
	tells("germination-time", tellGermination)
	tells("emergence", tellEmergence)
	tells("back-schedule", tellSchedule)
	tells("compare", tellComparison)
}

func tellSeedRate(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	r, err := read[struct {
		Options []struct {
			SeedsPerCell int      `json:"seeds_per_cell"`
			Cells        *int     `json:"cells"`
			Seeds        *int     `json:"seeds"`
			Trays        *int     `json:"trays"`
			Chance       *float64 `json:"chance"`
			Expected     *float64 `json:"expected_plants"`
			Thinned      *float64 `json:"thinned"`
			CellFill     float64  `json:"cell_fill"`
			EnoughSeed   *bool    `json:"enough_seed"`
		}
		Recommended *int
	}](out)
	a := Answer{Says: []string{p.Say(out.text("because"))}}
	if err != nil {
		return a, err
	}
	most := 1
	for _, o := range r.Options {
		if o.Seeds != nil {
			most = max(most, *o.Seeds)
		}
	}
	a.Picture = Picture{Says: p.T("The options side by side: seeds used, cells and chance."), Key: p.T("The bar is how many seeds it takes.")}
	for _, o := range r.Options {
		b := Bar{Name: p.T("%s a cell", say.Plural(o.SeedsPerCell, "seed")), Best: r.Recommended != nil && *r.Recommended == o.SeedsPerCell}
		if o.Cells == nil {
			b.Value, b.Note = p.T("out of reach"), p.T("%s of cells fill", percent(o.CellFill))
			a.Picture.Bars = append(a.Picture.Bars, b)
			continue
		}
		b.Width = 100 * float64(*o.Seeds) / float64(most)
		b.Value = p.T("%d seeds", *o.Seeds)
		b.Note = p.T("%s, %s; %s sure, %.0f to thin", say.Plural(*o.Cells, "cell"), say.Plural(*o.Trays, "tray"), percent(*o.Chance), *o.Thinned)
		if o.EnoughSeed != nil && !*o.EnoughSeed {
			b.Note, b.Class = p.T("%s; not enough seed", b.Note), "short"
		}
		if b.Best {
			a.Big = p.T(
				"Sow %s, %s in each: %d seeds, %s.",
				say.Plural(*o.Cells, "cell"),
				say.Plural(o.SeedsPerCell, "seed"),
				*o.Seeds,
				say.Plural(*o.Trays, "tray"),
			)
			a.Figures = []Figure{
				{p.T("Chance of reaching it"), percent(*o.Chance)},
				{p.T("Plants to expect"), p.T("%.0f", *o.Expected)},
				{p.T("Cells with a seedling"), percent(o.CellFill)},
			}
			a.Use = url.Values{
				"wanted":     {fmt.Sprint(num(in, "plants_wanted", 0))},
				"seeds":      {strconv.Itoa(o.SeedsPerCell)},
				"confidence": {fmt.Sprint(tidy(100 * num(in, "confidence", 0.9)))},
			}
		}
		a.Picture.Bars = append(a.Picture.Bars, b)
	}
	if a.Big == "" {
		a.Big, a.Now = p.T("This seed cannot reach the number."), true
	}
	return a, nil
}

func tellGermination(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type germination struct {
		Germinates bool
		Days       *float64 `json:"days_to_half"`
		Base       float64  `json:"base_c"`
		Optimum    float64  `json:"optimum_c"`
		Ceiling    float64  `json:"ceiling_c"`
	}
	g, err := read[germination](out)
	if err != nil {
		return Answer{}, err
	}
	c, _ := crop.Find(fmt.Sprint(in["crop"]))
	t := num(in, "temperature_c", 20)
	a := Answer{
		Figures: []Figure{
			{p.T("Too cold at"), p.Format(g.Base, unit.Celsius)},
			{p.T("Fastest at"), p.Format(g.Optimum, unit.Celsius)},
			{p.T("Too hot at"), p.Format(g.Ceiling, unit.Celsius)},
		},
	}
	if g.Germinates {
		a.Big = p.T("Half are up after about %s days.", figureOf(p, roundTo(*g.Days, 0.5)))
		a.Says = []string{p.T("%s, in a growing medium at %s.", c.Name, p.Format(t, unit.Celsius))}
	} else {
		a.Big, a.Now = p.T("%s does not germinate at %s.", c.Name, p.Format(t, unit.Celsius)), true
	}
	if c.Uncertain["thermal_cd"] {
		a.Says = append(a.Says, p.T("The figures for this crop are approximate: count, and trust your own."))
	}
	switch {
	case c.DepthCM == 0:
		a.Says = append(a.Says, p.T("Sow it on the surface, uncovered: it germinates in %s.", crop.Word("light", c.Light)))
	default:
		a.Says = append(
			a.Says,
			p.T(
				"Sow it %s deep; it germinates in %s.",
				p.Format(c.DepthCM, unit.Centimetre),
				map[string]say.Words{"light": "light", "dark": "the dark", "either": "light or dark"}[c.Light],
			),
		)
	}
	var curve [][2]float64
	slowest := 0.0
	for v := g.Base; v <= g.Ceiling; v += (g.Ceiling - g.Base) / 80 {
		b, err := ask(map[string]any{"temperature_c": v})
		if err != nil {
			return a, err
		}
		if x, err := read[germination](b); err == nil && x.Germinates && *x.Days <= 30 {
			curve = append(curve, [2]float64{p.Out(v, unit.Celsius), *x.Days})
			slowest = max(slowest, *x.Days)
		}
	}
	chart := plot(
		p,
		p.T("medium, %s", p.Name(unit.Celsius)),
		p.Out(0, unit.Celsius),
		p.Out(45, unit.Celsius),
		p.T("days until half are up"),
		0,
		max(5, slowest),
	)
	chart.line("sea", curve)
	if g.Germinates && *g.Days <= slowest {
		chart.dot(p.Out(t, unit.Celsius), *g.Days, p.T("%.1f days", *g.Days))
	} else {
		chart.vertical(p.Out(t, unit.Celsius), "here", "now")
	}
	a.Picture = Picture{Says: p.T("Days until half are up, by temperature: slow in the cold, fastest at the best temperature, none in the heat."), Chart: chart}
	return a, nil
}

func roundTo(v, step float64) float64 { return float64(int(v/step+0.5)) * step }

func tellEmergence(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	e, err := read[struct {
		Percent float64  `json:"percent"`
		Low     float64  `json:"low_percent"`
		High    float64  `json:"high_percent"`
		T50     *float64 `json:"t50_days"`
		Mean    *float64 `json:"mean_days"`
		Spread  *float64 `json:"spread_days"`
	}](out)
	if err != nil {
		return Answer{}, err
	}
	sown, counts := num(in, "sown", 1), in["counts"].([]any)
	a := Answer{
		Big:  p.T("%.0f %% are up.", e.Percent),
		Says: []string{p.T("Of a large lot like this one, %.0f to %.0f %% would germinate (95 %% sure).", e.Low, e.High)},
	}
	if e.T50 == nil {
		a.Big, a.Now = p.T("Nothing is up yet."), true
	} else {
		a.Figures = []Figure{
			{p.T("Half of those were up on day"), figureOf(p, roundTo(*e.T50, 0.1))},
			{
				p.T("Mean day"),
				figureOf(p, roundTo(*e.Mean, 0.1)),
			},
			{p.T("From the first 10 % up to the last"), p.Format(roundTo(*e.Spread, 0.1), "days")},
		}
	}
	points, last := [][2]float64{}, 1.0
	for i, c := range counts {
		m := c.(map[string]any)
		d, n := num(m, "day", 0), num(m, "sprouted", 0)
		if i == 0 && d > 0 {
			points = append(points, [2]float64{0, 0})
		}
		points, last = append(points, [2]float64{d, n}), max(last, d)
	}
	chart := plot(p, p.T("days after sowing"), 0, last, p.T("sprouts"), 0, sown)
	chart.band(sown*e.Low/100, sown*e.High/100, "usual")
	chart.line("now", points)
	for _, x := range points {
		chart.dot(x[0], x[1], "")
	}
	if e.T50 != nil {
		chart.vertical(*e.T50, p.T("half"), "sea")
	}
	a.Picture = Picture{
		Says:  p.T("Seedlings up, day by day, up to %.0f of %.0f.", points[len(points)-1][1], sown),
		Chart: chart,
		Key:   p.T("Shaded: where nineteen packets in twenty like this one end up."),
	}
	return a, nil
}

func tellSchedule(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	s, err := read[struct {
		Feasible bool
		Moves    []struct{ Name, Date string }
		Held     *int `json:"held_days"`
		Early    *int `json:"early_days"`
		Why      string
		Nearest  struct{ Later, Earlier *string }
	}](out)
	if err != nil {
		return Answer{}, err
	}
	if !s.Feasible {
		a := Answer{Big: p.T("It cannot be ready then."), Now: true, Says: []string{p.Say(out.text("why"))}}
		for _, n := range []struct {
			name string
			day  *string
		}{{p.T("Nearest day after"), s.Nearest.Later}, {p.T("Nearest day before"), s.Nearest.Earlier}} {
			if n.day != nil {
				a.Figures = append(a.Figures, Figure{n.name, p.Say(longDay(*n.day))})
			} else {
				a.Figures = append(a.Figures, Figure{n.name, p.T("none within 60 days")})
			}
		}
		return a, nil
	}
	last := s.Moves[len(s.Moves)-1]
	a := Answer{Big: p.T("Sow on %s.", longDay(s.Moves[0].Date)), Says: []string{p.T("Ready on %s, every move on an open day.", longDay(last.Date))}}
	if *s.Held > 0 {
		a.Says = append(a.Says, p.T("It has to wait %s on the way.", say.Plural(*s.Held, "day")))
	}
	if *s.Early > 0 {
		a.Says = append(a.Says, p.T("That is %s early.", say.Plural(*s.Early, "day")))
	}
	a.Use = url.Values{"sow_on": {s.Moves[0].Date}, "ready_by": {fmt.Sprint(in["ready_by"])}}
	from, to := day(s.Moves[0].Date), day(last.Date)
	chart := rows(float64(from), float64(max(to, from+1)), len(s.Moves)-1)
	if closed, ok := in["closed"].([]any); ok {
		for _, x := range closed {
			m := x.(map[string]any)
			chart.column(float64(day(fmt.Sprint(m["from"]))), float64(day(fmt.Sprint(m["to"]))+1), "closed")
		}
	}
	stages := in["stages"].([]any)
	for i, m := range s.Moves[1:] {
		a.Figures = append(a.Figures, Figure{p.T("%s until", m.Name), p.Say(longDay(m.Date))})
		begin, days := float64(day(s.Moves[i].Date)), num(stages[i].(map[string]any), "days", 0)
		chart.row(
			Row{Name: m.Name, From: begin, To: begin + days, Rest: float64(day(m.Date)) - begin - days, Text: p.Say(calendar.Day(day(m.Date)).Short())},
		)
	}
	chart.tick(float64(from), p.Say(calendar.Day(from).Short()))
	chart.tick(float64(to), p.Say(calendar.Day(to).Short()))
	a.Picture = Picture{
		Says:  p.T("The stages as bars over the days."),
		Chart: chart,
		Key:   p.T("Dark: what the stage needs. Light: waiting. Hatched: closed days."),
	}
	return a, nil
}

func day(s string) calendar.Day {
	d, _ := calendar.ParseDay(s) // the contract has read it before
	return d
}

func longDay(s string) say.Text { return day(s).Long() }

// arm is one of what is compared, with the interval its true value lies in.
type arm struct {
	Name      string
	N         int
	Estimate  float64
	Low, High *float64
}

// armsChart draws them on one scale; shares go from none to all.
func armsChart(arms []arm, shares bool, figure func(float64) string) *Chart {
	low, high := arms[0].Estimate, arms[0].Estimate
	for _, m := range arms {
		low, high = min(low, m.Estimate), max(high, m.Estimate)
		if m.Low != nil {
			low, high = min(low, *m.Low), max(high, *m.High)
		}
	}
	if shares {
		low, high = 0, 1
	}
	chart := rows(low, max(high, low+1e-9), len(arms))
	for _, v := range ticks(low, high, 5) {
		chart.tick(v, figure(v))
	}
	for _, m := range arms {
		r := Row{Name: m.Name, From: m.Estimate, To: m.Estimate, At: m.Estimate, Interval: true, Text: figure(m.Estimate)}
		if m.Low != nil {
			r.From, r.To = *m.Low, *m.High
		}
		chart.row(r)
	}
	return chart
}

func tellComparison(p say.Reader, in map[string]any, out result, _ asker) (Answer, error) {
	c, err := read[struct {
		Pairs []struct {
			A, B       string
			Difference float64
			Low, High  *float64
			P          *float64
			PHolm      *float64 `json:"p_holm"`
			Reading    string
		}
		Arms []arm
	}](out)
	if err != nil {
		return Answer{}, err
	}
	shares := in["arms"].([]any)[0].(map[string]any)["values"] == nil
	figure := func(v float64) string {
		if shares {
			return percent(v)
		}
		return figureOf(p, roundSignificant(v))
	}
	var a Answer
	words := map[string]say.Words{
		"difference": "%s gave more than %s.", "no_clear_difference": "%s and %s show no clear difference.", "too_few": "%s and %s: too few to tell.",
	}
	for i, x := range c.Pairs {
		says := words[x.Reading]
		if x.Reading == "difference" && x.Difference < 0 {
			says = "%s gave less than %s."
		}
		first, second := x.A, x.B
		if x.Reading == "difference" {
			first, second = x.B, x.A
		}
		if said := p.T(says, capital(first), second); i == 0 {
			a.Big = said
		} else {
			a.Says = append(a.Says, said)
		}
		value := figure(x.Difference)
		if x.Low != nil {
			value += " (" + p.T("%s to %s", figure(*x.Low), figure(*x.High)) + ")"
		}
		if x.PHolm != nil {
			value += p.Decimal(", p %.2g", *x.PHolm)
		}
		a.Figures = append(a.Figures, Figure{p.T("%s minus %s", x.B, x.A), value})
	}
	a.Says = append(a.Says, p.T("This is all a trial can say: one thing was different, and drawing lots shared out the rest by chance."))
	a.Picture = Picture{
		Says:  p.T("Each group, with the range its true value lies in."),
		Chart: armsChart(c.Arms, shares, figure),
		Key:   p.T("The dot is what was found; the line is where the truth lies, as sure as you asked."),
	}
	return a, nil
}

func capital(s string) string {
	r, n := utf8.DecodeRuneInString(s)
	return string(unicode.ToUpper(r)) + s[n:]
}

func roundSignificant(v float64) float64 {
	x, _ := strconv.ParseFloat(strconv.FormatFloat(v, 'g', 3, 64), 64)
	return x
}
