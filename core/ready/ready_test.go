package ready_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	"ulpa/core/harden"
	"ulpa/core/ready"
	"ulpa/core/unit"
)

var sown = calendar.Date(2027, 2, 22)

func TestJudge(t *testing.T) {
	any := ready.Rule{Leaves: 4, AgeDays: 24, HoldDays: 7}
	every := any
	every.Every = true
	look := func(leaves int, day calendar.Day) ready.Seen { return ready.Seen{Leaves: leaves, On: sown + day} }
	for name, c := range map[string]struct {
		rule  ready.Rule
		day   calendar.Day
		seen  ready.Seen
		word  ready.Word
		since calendar.Day
		why   string
	}{
		"young":                       {any, 10, ready.Seen{}, ready.Early, 0, "nobody has counted leaves yet"},
		"by age alone":                {any, 26, ready.Seen{}, ready.Ready, 24, "day 26, usual at 24"},
		"by leaves before its age":    {any, 21, look(4, 20), ready.Ready, 20, "4 true leaves"},
		"too few leaves at its age":   {any, 26, look(2, 25), ready.Early, 0, "2 of 4 true leaves"},
		"an old look does not hold":   {any, 26, look(2, 15), ready.Ready, 24, "day 26"},
		"waited too long":             {any, 28, look(4, 20), ready.Late, 20, "4 true leaves"},
		"every: leaves but too young": {every, 21, look(4, 20), ready.Early, 0, "day 21 of 24"},
		"every: the later counts":     {every, 26, look(5, 25), ready.Ready, 25, "5 true leaves, 4 wanted; day 26"},
	} {
		t.Run(name, func(t *testing.T) {
			v := ready.Judge(c.rule, sown, sown+c.day, c.seen, unit.Prefs{})
			require.Equal(t, c.word, v.Word)
			require.Contains(t, v.Why, c.why)
			if c.since > 0 {
				require.Equal(t, sown+c.since, v.Since)
			}
		})
	}
}

func TestRampWaitsOverWeekendsAndClosures(t *testing.T) {
	school := calendar.School{Closures: []calendar.Closure{{From: calendar.Date(2027, 3, 29), To: calendar.Date(2027, 4, 9)}}}
	ramp := harden.Ramp(school, calendar.Date(2027, 3, 20), 7) // a Saturday
	require.Equal(t, calendar.Date(2027, 3, 22), ramp[0].Day, "it starts on an open day")
	require.InDelta(t, 2, ramp[0].Hours, 1e-9)
	last := ramp[len(ramp)-1]
	require.Equal(t, calendar.Date(2027, 4, 13), last.Day, "five days, a weekend and a closure, two more days")
	require.InDelta(t, 10, last.Hours, 1e-9)
	require.True(t, last.Night)
	hours := 0.0
	for _, d := range ramp {
		require.Equal(t, d.Closed, !school.Open(d.Day))
		if !d.Closed {
			require.GreaterOrEqual(t, d.Hours, hours)
			hours = d.Hours
		}
	}
}
