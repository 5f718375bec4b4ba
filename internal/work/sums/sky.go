package sums

import (
	"fmt"
	"sort"
	"time"

	"ulpa/core/calendar"
	"ulpa/core/say"
	"ulpa/core/unit"
)

func init() {
	tells("frost", tellFrost)
	tells("air", tellAir)
	tells("daylight", tellDaylight)
}

func tellFrost(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type half struct {
		Years  int
		ByRisk []struct {
			Risk float64
			Date *string
		} `json:"by_risk"`
	}
	type frost struct{ Spring, Autumn half }
	f, err := read[frost](out)
	if err != nil {
		return Answer{}, err
	}
	var a Answer
	tell := func(name string, h half) {
		for _, r := range h.ByRisk {
			value := p.T("no day is safe enough")
			switch {
			case h.Years == 0:
				value = p.T("too few nights")
			case r.Date != nil:
				value = monthDay(p, *r.Date)
			}
			a.Figures = append(a.Figures, Figure{p.T("%s, risk %s", name, percent(r.Risk)), value})
		}
	}
	tell(p.T("Spring"), f.Spring)
	tell(p.T("Autumn"), f.Autumn)
	switch r := f.Spring.ByRisk; {
	case f.Spring.Years == 0 && f.Autumn.Years == 0:
		a.Big, a.Now = p.T("Too few nights to say."), true
		a.Says = []string{p.T("A half-year counts only if at least nine tenths of its nights are in the file: January to June for spring, July to " +
			"December for autumn.")}
		return a, nil
	case len(r) > 0 && r[0].Date != nil:
		a.Big = p.T("From %s on, frost still follows in %s of years.", monthDay(p, *r[0].Date), percent(r[0].Risk))
	default:
		a.Big = p.T("Frost, as a risk by date.")
	}
	a.Says = []string{p.T("%d springs and %d autumns counted.", f.Spring.Years, f.Autumn.Years)}
	if f.Spring.Years < 10 {
		a.Says = append(a.Says, p.T("Fewer than ten years: take the dates as rough."))
	}
	// The risk curve: the calculator asked for every share there can be.
	var risks []any
	for k := range max(f.Spring.Years, f.Autumn.Years, 1) + 1 {
		risks = append(risks, float64(k)/float64(max(f.Spring.Years, f.Autumn.Years, 1)))
	}
	b, err := ask(map[string]any{"risks": risks})
	if err != nil {
		return a, err
	}
	all, err := read[frost](b)
	if err != nil {
		return a, err
	}
	south := in["hemisphere"] == "south"
	chart := plot(p, "", 0, 365, p.T("risk of frost still to come, or already come, %"), 0, 100)
	chart.months(p, south)
	for _, h := range []half{all.Spring, all.Autumn} {
		var days [][2]float64
		for _, r := range h.ByRisk {
			if r.Date != nil {
				days = append(days, [2]float64{yearDay(*r.Date, south), 100 * r.Risk})
			}
		}
		chart.line("water", stairs(days))
	}
	a.Picture = Picture{Says: p.T("The risk of frost by date: it falls through spring and rises through autumn."), Chart: chart}
	return a, nil
}

// stairs joins the days on which a risk changes: it holds in between.
func stairs(days [][2]float64) (points [][2]float64) {
	sort.Slice(days, func(i, j int) bool {
		return days[i][0] < days[j][0] || days[i][0] == days[j][0] && days[i][1] < days[j][1]
	})
	for i, d := range days {
		if i > 0 && d[1] < days[i-1][1] { // spring: it falls on the day
			points = append(points, [2]float64{d[0], days[i-1][1]})
		}
		if i > 0 && d[1] > days[i-1][1] { // autumn: it has risen since the day before
			points = append(points, [2]float64{days[i-1][0], d[1]})
		}
		points = append(points, d)
	}
	return points
}

// yearDay counts days from the start of the season: January in the north, July in the south.
func yearDay(monthDay string, south bool) float64 {
	d := float64(day("2027-"+monthDay) - day("2027-01-01"))
	if south {
		d += 184
		if d >= 365 {
			d -= 365
		}
	}
	return d
}

func monthDay(p say.Reader, s string) string {
	return p.Say(say.Date(day("2027-"+s).UTC(), "2 January"))
}

func tellAir(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type air struct {
		VPD  float64  `json:"vpd_kpa"`
		Leaf float64  `json:"leaf_vpd_kpa"`
		Dew  *float64 `json:"dew_point_c"`
		Full float64  `json:"saturation_kpa"`
	}
	v, err := read[air](out)
	if err != nil {
		return Answer{}, err
	}
	t, h := num(in, "temperature_c", 20), num(in, "humidity_percent", 50)
	a := Answer{
		Big:     p.T("The leaf feels %.2f kPa.", v.Leaf),
		Figures: []Figure{{p.T("Vapour pressure deficit (VPD) of the air"), p.T("%.2f kPa", v.VPD)}, {p.T("Saturation"), p.T("%.2f kPa", v.Full)}},
	}
	if v.Dew != nil {
		a.Figures = append(a.Figures, Figure{p.T("Dew point"), p.Format(*v.Dew, unit.Celsius)})
	}
	switch {
	case v.Leaf < 0.2:
		a.Says, a.Now = []string{p.T("Too humid: leaves stay wet, and mould and damping off follow. Open a vent or move the air.")}, true
	case v.Leaf < 0.4:
		a.Says = []string{p.T("Humid: right for seedlings and cuttings, too humid for grown plants.")}
	case v.Leaf <= 1.2:
		a.Says = []string{p.T("Comfortable for most leaves and herbs.")}
	case v.Leaf <= 1.6:
		a.Says = []string{p.T("Dry: grown plants cope, seedlings do not.")}
	default:
		a.Says, a.Now = []string{p.T("Very dry: plants close up or wilt. Shade them, wet the floor, or move the air less.")}, true
	}
	var curve [][2]float64
	for x := 0.0; x <= 100; x += 4 {
		b, err := ask(map[string]any{"humidity_percent": x})
		if err != nil {
			return a, err
		}
		if w, err := read[air](b); err == nil {
			curve = append(curve, [2]float64{x, w.Leaf})
		}
	}
	chart := plot(p, p.T("relative humidity, %"), 0, 100, p.T("deficit at the leaf, kPa"), 0, max(2, curve[0][1]))
	chart.band(0.4, 1.2, "usual")
	chart.line("sea", curve)
	chart.dot(h, max(0, v.Leaf), p.T("%.2f kPa", v.Leaf))
	a.Picture = Picture{
		Says:  p.T("Vapour pressure deficit (VPD) at the leaf, by humidity at %s.", p.Format(t, unit.Celsius)),
		Chart: chart,
		Key:   p.T("Shaded: comfortable for most leaves and herbs."),
	}
	return a, nil
}

func tellDaylight(p say.Reader, in map[string]any, out result, ask asker) (Answer, error) {
	type light struct {
		Hours float64 `json:"day_length_h"`
		Sun   float64 `json:"sun_dli_mol_m2"`
		Lamp  float64 `json:"lamp_dli_mol_m2"`
		DLI   float64 `json:"dli_mol_m2"`
		Clear float64 `json:"clear_sky_mj_m2"`
	}
	l, err := read[light](out)
	if err != nil {
		return Answer{}, err
	}
	at := day(fmt.Sprint(in["date"]))
	a := Answer{Big: p.T("%.1f mol/m² on a clear day.", l.DLI), Figures: []Figure{
		{
			p.T("Day length"),
			p.T("%.1f h", l.Hours),
		},
		{p.T("From the sun, under the cover"), p.T("%.1f mol/m²", l.Sun)},
		{p.T("From the lamps"), p.T("%.1f mol/m²", l.Lamp)},
		{
			p.T("Clear sky"),
			p.T("%.1f MJ/m²", l.Clear),
		},
	}}
	switch {
	case l.DLI < 6:
		a.Says, a.Now = []string{p.T("Too little for most crops: seedlings stretch. Add lamps, or sow later.")}, true
	case l.DLI < 12:
		a.Says = []string{p.T("Enough for seedlings, lettuce and many herbs; fruiting crops want more.")}
	case l.DLI < 20:
		a.Says = []string{p.T("Good for leaves and herbs, enough for most fruiting crops.")}
	default:
		a.Says = []string{p.T("Plenty for fruiting crops; shade seedlings and lettuce at noon.")}
	}
	a.Says = append(a.Says, p.T("A cloudy day gives a quarter to a half of a clear one."))
	first, _ := calendar.ParseDay(p.T("%04d-01-01", at.UTC().Year()))
	var curve [][2]float64
	most := 1.0
	for d := 0; d < 366; d += 6 {
		b, err := ask(map[string]any{"date": (first + calendar.Day(d)).String()})
		if err != nil {
			return a, err
		}
		if x, err := read[light](b); err == nil {
			curve = append(curve, [2]float64{float64(d), x.DLI})
			most = max(most, x.DLI)
		}
	}
	chart := plot(p, "", 0, 365, p.T("mol/m² a day, clear sky"), 0, most)
	chart.months(p, false)
	chart.band(12, 20, "usual")
	chart.line("sea", curve)
	chart.dot(float64(at-first), l.DLI, p.T("%.1f", l.DLI))
	a.Picture = Picture{Says: p.T("Light of a clear day through the year."), Chart: chart, Key: p.T("Shaded: what leaves and herbs like.")}
	return a, nil
}

// months stand below a chart of a year instead of the numbers of its days.
func (c *Chart) months(p say.Reader, south bool) {
	c.XTicks = nil
	for m := time.January; m <= time.December; m += 2 {
		name := p.Say(say.Date(time.Date(2027, m, 15, 0, 0, 0, 0, time.UTC), "Jan"))
		c.XTicks = append(c.XTicks, Mark{X: c.x.of(yearDay(fmt.Sprintf("%02d-15", m), south)), Y: c.Base + 18, Text: name})
	}
}
