package sums

import (
	"ulpa/core/calendar"
	"ulpa/core/say"
)

func init() { tells("harden-ramp", tellRamp) }

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
			says = p.T("%.1f hours, in at %s", d.Hours, calendar.Clock(int(*d.Back*60+0.5)))
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
