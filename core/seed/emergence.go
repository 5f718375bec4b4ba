package seed

import (
	"fmt"

	"ulpa/core/field"
	"ulpa/core/say"
	"ulpa/core/working"
)

// Counted is how many had sprouted by a day, all together.
type Counted struct {
	Day      float64
	Sprouted int
}

// Emergence is what a run of counts says. The times are nil with no sprouts.
type Emergence struct {
	Percent, LowPercent, HighPercent float64
	T50Days, MeanDays, SpreadDays    *float64
	Steps                            []working.Step
}

// Emerged reads a run of counts: the share with Wilson's 95 % interval, the
// day half of the final count was reached, the mean day, and the days between
// 10 and 90 %. Between counts the line runs straight; it starts from nothing
// on day 0 unless day 0 was counted. It refuses with field.Errors.
func Emerged(sown int, counts []Counted) (Emergence, error) {
	var e field.Errors
	e.Require(sown >= 1, "sown", "must be a whole number, 1 or more")
	e.Require(len(counts) > 0, "counts", "needs at least one count")
	for i, c := range counts {
		at := fmt.Sprintf("counts.%d.", i)
		e.Require(c.Day >= 0 && c.Day <= 3660, at+"day", "must be 0 to 3,660 days")
		e.Require(c.Sprouted >= 0, at+"sprouted", "must be 0 or more")
		e.Require(c.Sprouted <= sown || sown < 1, at+"sprouted", "is more than were sown")
		if i > 0 {
			e.Require(c.Day > counts[i-1].Day, at+"day", "must be later than the count before")
			e.Require(c.Sprouted >= counts[i-1].Sprouted, at+"sprouted", "must be all that have come up so far: it never goes down")
		}
	}
	if err := e.Err(); err != nil {
		return Emergence{}, err
	}
	final := counts[len(counts)-1].Sprouted
	low, high := Wilson(final, sown, 0.95)
	out := Emergence{Percent: 100 * float64(final) / float64(sown), LowPercent: 100 * low, HighPercent: 100 * high}
	out.Steps = []working.Step{
		{Name: say.T("Came up"), Formula: say.T("%d ÷ %d", final, sown), Value: out.Percent, Unit: "%", Source: say.T("interval: Wilson (1927)")},
	}
	if final == 0 {
		return out, nil
	}
	t10, t50, t90 := reached(counts, 0.1*float64(final)), reached(counts, 0.5*float64(final)), reached(counts, 0.9*float64(final))
	sum, before := 0.0, 0
	for _, c := range counts {
		sum += c.Day * float64(c.Sprouted-before)
		before = c.Sprouted
	}
	mean, spread := sum/float64(final), t90-t10
	out.T50Days, out.MeanDays, out.SpreadDays = &t50, &mean, &spread
	out.Steps = append(out.Steps,
		working.Step{Name: say.T("Half of them by"), Formula: say.T("the line reaches %.4g", 0.5*float64(final)), Value: t50, Unit: "days"},
		working.Step{Name: say.T("Mean"), Formula: say.T("Σ new × day ÷ Σ new"), Value: mean, Unit: "days"},
		working.Step{Name: say.T("From 10 to 90 %"), Formula: say.T("%.4g − %.4g", t90, t10), Value: spread, Unit: "days"})
	return out, nil
}

// reached is the day the cumulative line first comes to n.
func reached(counts []Counted, n float64) float64 {
	day, have := 0.0, 0.0
	for i, c := range counts {
		now := float64(c.Sprouted)
		if now >= n {
			if i == 0 && c.Day == 0 {
				return 0
			}
			return day + (c.Day-day)*(n-have)/(now-have)
		}
		day, have = c.Day, now
	}
	return day
}
