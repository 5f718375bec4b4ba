package harden_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
	"ulpa/core/harden"
)

var start = calendar.Date(2027, 3, 20) // a Saturday

func TestARampWaitsForPeopleAndForWhatIsDone(t *testing.T) {
	p := harden.Plan{
		School:   calendar.School{Closures: []calendar.Closure{{From: calendar.Date(2027, 3, 29), To: calendar.Date(2027, 4, 9)}}},
		Start:    start,
		Steps:    7,
		DayHours: 7,
	}
	ramp := p.Ramp(start)
	require.Equal(t, calendar.Date(2027, 3, 22), ramp[0].Day, "it starts on an open day")
	require.InDelta(t, 2, ramp[0].Hours, 1e-9)
	last := ramp[len(ramp)-1]
	require.Equal(t, calendar.Date(2027, 4, 13), last.Day, "five days, a weekend and a closure, two more days")
	require.InDelta(t, 6.5, last.Hours, 1e-9, "no longer than somebody is there")
	require.True(t, last.Night)

	// Two of the first four days nobody opened it: it ends two open days later.
	p.Done = map[calendar.Day]bool{calendar.Date(2027, 3, 22): true, calendar.Date(2027, 3, 24): true}
	ramp = p.Ramp(calendar.Date(2027, 3, 26))
	require.Equal(t, calendar.Date(2027, 4, 15), ramp[len(ramp)-1].Day)
	today, ok := harden.On(ramp, calendar.Date(2027, 3, 26))
	require.True(t, ok)
	require.Equal(t, 3, today.Step, "the third day, for two were done")
	require.False(t, p.Over())
}

// What must be true of every ramp: as many counted days as steps, hours that only grow
// and fit into the school's day, no step on a closed day, and once out overnight always.
func TestRampsHangTogether(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := harden.Plan{
			Start:    start + calendar.Day(rapid.IntRange(0, 400).Draw(t, "start")),
			Steps:    rapid.IntRange(-3, 40).Draw(t, "steps"),
			DayHours: rapid.Float64Range(2, 14).Draw(t, "school day"),
			Done:     map[calendar.Day]bool{},
		}
		for range rapid.IntRange(0, 3).Draw(t, "closures") {
			from := p.Start + calendar.Day(rapid.IntRange(-5, 30).Draw(t, "from"))
			p.School.Closures = append(p.School.Closures, calendar.Closure{From: from, To: from + calendar.Day(rapid.IntRange(0, 20).Draw(t, "long"))})
		}
		today := p.Start + calendar.Day(rapid.IntRange(0, 30).Draw(t, "today"))
		for d := p.Start; d < today; d++ {
			if p.School.Open(d) && rapid.Bool().Draw(t, "done") {
				p.Done[d] = true
			}
		}
		ramp := p.Ramp(today)
		want, hours, night, step := max(harden.MinDays, min(harden.MaxDays, p.Steps)), 0.0, false, 0
		for i, d := range ramp {
			if i > 0 {
				require.Equal(t, ramp[i-1].Day+1, d.Day)
			}
			require.Equal(t, !p.School.Open(d.Day), d.Closed)
			if d.Step == 0 {
				require.True(t, d.Closed || d.Missed)
				continue
			}
			step++
			require.Equal(t, step, d.Step)
			require.GreaterOrEqual(t, d.Hours, hours)
			require.LessOrEqual(t, d.Hours, max(2, p.DayHours))
			require.True(t, d.Night || !night)
			hours, night = d.Hours, d.Night
		}
		require.Equal(t, want, step)
		require.True(t, night)
	})
}
