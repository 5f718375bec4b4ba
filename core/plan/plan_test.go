package plan_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
	"ulpa/core/plan"
)

// brute tries every combination of days: slow, and too simple to be wrong.
func brute(in plan.Input) (best []calendar.Day) {
	open := func(d calendar.Day) bool {
		w := int(d.Weekday())
		if w == 0 {
			w = 7
		}
		works := false
		for _, x := range in.Workdays {
			works = works || x == w
		}
		for _, c := range in.Closed {
			works = works && !(d >= c.From && d <= c.To)
		}
		return works
	}
	later := func(a, b []calendar.Day) bool {
		for i := range a {
			if a[i] != b[i] {
				return a[i] > b[i]
			}
		}
		return false
	}
	var try func(moves []calendar.Day)
	try = func(moves []calendar.Day) {
		last := moves[len(moves)-1]
		if !open(last) || last > in.ReadyBy {
			return
		}
		if len(moves) == len(in.Stages)+1 {
			if last >= in.ReadyBy-calendar.Day(in.EarlyDays) && (best == nil || later(moves, best)) {
				best = append([]calendar.Day(nil), moves...)
			}
			return
		}
		s := in.Stages[len(moves)-1]
		for d := s.Days; d <= s.Days+s.HoldDays; d++ {
			try(append(moves, last+calendar.Day(d)))
		}
	}
	for sow := in.ReadyBy - 60; sow <= in.ReadyBy; sow++ {
		try([]calendar.Day{sow})
	}
	return best
}

func draw(t *rapid.T) plan.Input {
	in := plan.Input{
		ReadyBy:   calendar.Date(2027, 4, 1) + calendar.Day(rapid.IntRange(0, 60).Draw(t, "ready")),
		EarlyDays: rapid.IntRange(0, 4).Draw(t, "early"),
	}
	for range rapid.IntRange(1, 3).Draw(t, "stages") {
		in.Stages = append(in.Stages, plan.Stage{Name: "s", Days: rapid.IntRange(0, 12).Draw(t, "days"), HoldDays: rapid.IntRange(0, 4).Draw(t, "hold")})
	}
	in.Workdays = rapid.SliceOfNDistinct(rapid.IntRange(1, 7), 1, 7, rapid.ID).Draw(t, "workdays")
	for range rapid.IntRange(0, 2).Draw(t, "closures") {
		from := calendar.Date(2027, 3, 20) + calendar.Day(rapid.IntRange(0, 60).Draw(t, "from"))
		in.Closed = append(in.Closed, calendar.Closure{From: from, To: from + calendar.Day(rapid.IntRange(0, 14).Draw(t, "length"))})
	}
	return in
}

// The answer is what trying everything finds; moves fall on open days only.
func TestAgainstTryingEverything(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := draw(t)
		got, err := plan.BackSchedule(in)
		require.NoError(t, err)
		want := brute(in)
		require.Equal(t, want != nil, got.Feasible)
		held := 0
		for i, m := range got.Moves {
			require.Equal(t, want[i], m.Day)
			if i > 0 {
				held += int(m.Day-got.Moves[i-1].Day) - in.Stages[i-1].Days
			}
		}
		if got.Feasible {
			require.Equal(t, held, got.HeldDays)
			require.Equal(t, int(in.ReadyBy-want[len(want)-1]), got.EarlyDays)
			require.Nil(t, got.Later)
			return
		}
		require.NotEmpty(t, got.Why)
		for _, near := range []*calendar.Day{got.Later, got.Earlier} {
			if near == nil {
				continue
			}
			moved := in
			moved.ReadyBy = *near
			require.NotNil(t, brute(moved), "%s should be feasible", near)
			step := calendar.Day(1)
			if *near > in.ReadyBy {
				step = -1
			}
			for moved.ReadyBy += step; moved.ReadyBy != in.ReadyBy; moved.ReadyBy += step {
				require.Nil(t, brute(moved), "%s is nearer", moved.ReadyBy)
			}
		}
	})
}

func TestTheLongestPlanIsQuick(t *testing.T) {
	in := plan.Input{ReadyBy: calendar.Date(2500, 1, 1), EarlyDays: plan.MaxDays, Workdays: []int{3}}
	for range plan.MaxStages {
		in.Stages = append(in.Stages, plan.Stage{Name: "s", Days: plan.MaxDays, HoldDays: plan.MaxDays})
	}
	s, err := plan.BackSchedule(in)
	require.NoError(t, err)
	require.True(t, s.Feasible)
	require.Len(t, s.Moves, plan.MaxStages+1)
}
