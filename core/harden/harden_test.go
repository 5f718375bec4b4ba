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
	require.Equal(t, calendar.Date(2027, 4, 15), last.Day, "five days, a closure that takes two of them, four more days")
	require.InDelta(t, 6.5, last.Hours, 1e-9, "no longer than somebody is there")
	require.True(t, last.Night)

	// Two of the first four days nobody opened it: it ends an open day later, for there was less to lose.
	p.Done = map[calendar.Day]bool{calendar.Date(2027, 3, 22): true, calendar.Date(2027, 3, 24): true}
	ramp = p.Ramp(calendar.Date(2027, 3, 26))
	require.Equal(t, calendar.Date(2027, 4, 16), ramp[len(ramp)-1].Day)
	today, ok := harden.On(ramp, calendar.Date(2027, 3, 26))
	require.True(t, ok)
	require.Equal(t, 3, today.Step, "the third day, for two were done")
	require.False(t, p.Over(calendar.Date(2027, 3, 26)))

	// What is used to the weather stays so while it is outside, over a weekend too.
	for d := start; d < calendar.Date(2027, 5, 8); d++ {
		p.Done[d] = p.School.Open(d)
	}
	monday := calendar.Date(2027, 5, 10)
	require.True(t, p.Over(monday))
	x, ok := harden.On(p.Ramp(monday), monday)
	require.Equal(t, []any{true, 7, 6.5}, []any{ok, x.Step, x.Hours})
	require.False(t, p.Over(monday+3), "a week indoors takes some of it")
	x, _ = harden.On(p.Ramp(monday+3), monday+3)
	require.Equal(t, 7, x.Step, "a day outside gives it back")
}

// What must be true of every ramp: it comes to its last step, one a day and back only after days
// without one, with hours that grow with the steps and fit into the school's day, and on no closed
// day.
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
		want, step, idle := max(harden.MinDays, min(harden.MaxDays, p.Steps)), 0, 0
		hours, night := map[int]float64{}, map[int]bool{}
		for i, d := range ramp {
			if i > 0 {
				require.Equal(t, ramp[i-1].Day+1, d.Day)
			}
			require.Equal(t, !p.School.Open(d.Day), d.Closed)
			if d.Step == 0 {
				require.True(t, d.Closed || d.Missed)
				idle++
				continue
			}
			if next := min(step+1, want); idle <= 4 {
				require.Equal(t, next, d.Step)
			} else {
				require.True(t, d.Step <= next && d.Step > step/2, "half is kept")
			}
			require.LessOrEqual(t, d.Hours, max(2, p.DayHours))
			step, idle, hours[d.Step], night[d.Step] = d.Step, 0, d.Hours, d.Night
		}
		require.Equal(t, want, step)
		require.True(t, night[want])
		for i := 2; i <= want; i++ {
			require.True(t, hours[i] >= hours[i-1] && (night[i] || !night[i-1]), "step %d", i)
		}
	})
}
