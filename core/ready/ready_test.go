package ready_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
	"ulpa/core/ready"
)

var sown = calendar.Date(2027, 2, 22)

func TestJudge(t *testing.T) {
	either := ready.Rule{Leaves: 4, AgeDays: 24, HoldDays: 7}
	every := either
	every.Every = true
	aged := ready.Rule{AgeDays: 8, HoldDays: 3}
	look := func(leaves int, day calendar.Day) ready.Seen { return ready.Seen{Leaves: leaves, On: sown + day} }
	for name, c := range map[string]struct {
		rule  ready.Rule
		day   calendar.Day
		seen  ready.Seen
		word  ready.Word
		since calendar.Day
		why   string
	}{
		"young":                          {either, 10, ready.Seen{}, ready.Early, 0, "nobody has counted leaves yet"},
		"age alone says look":            {either, 26, ready.Seen{}, ready.Look, 24, "day 26"},
		"long past its age, never seen":  {either, 60, ready.Seen{}, ready.Look, 24, "nobody has counted leaves"},
		"by leaves before its age":       {either, 21, look(4, 20), ready.Ready, 20, "4 true leaves"},
		"leaves seen yesterday go first": {either, 26, look(2, 25), ready.Early, 0, "2 of 4 true leaves"},
		"an old look asks for another":   {either, 26, look(2, 15), ready.Look, 24, "2 of 4"},
		"waited too long":                {either, 28, look(4, 20), ready.Late, 20, "4 true leaves"},
		"every: leaves but too young":    {every, 21, look(4, 20), ready.Early, 0, "day 21 of 24"},
		"every: the later counts":        {every, 26, look(5, 25), ready.Ready, 25, "5 true leaves, 4 wanted; day 26"},
		"a rule of age alone":            {aged, 9, ready.Seen{}, ready.Ready, 8, "day 9, usual at 8"},
	} {
		t.Run(name, func(t *testing.T) {
			v := ready.Judge(c.rule, ready.Grown{Sown: sown, Today: sown + c.day, Seen: c.seen})
			require.Equal(t, c.word, v.Word)
			require.Contains(t, v.Why.String(), c.why)
			if c.since > 0 {
				require.Equal(t, sown+c.since, v.Since)
			}
		})
	}
}

// Four leaves at 68 °C·days each are there on day 18 at 22 °C and on day 40 at 12 °C,
// three or so days to come up among them: a calendar says 24 everywhere.
func TestLeavesComeByWarmth(t *testing.T) {
	r := ready.Rule{Leaves: 4, AgeDays: 24, HoldDays: 7}
	about := func(c, up float64, seen ready.Seen) calendar.Day {
		g := ready.Grown{Sown: sown, Today: sown + 5, Up: sown + calendar.Day(up), WarmC: c, LeafCD: 68, Seen: seen}
		return ready.Judge(r, g).About - sown
	}
	require.InDelta(t, 18, float64(about(22, 3, ready.Seen{})), 1)
	require.InDelta(t, 40, float64(about(12, 6, ready.Seen{})), 1)
	require.Less(t, about(12, 6, ready.Seen{Leaves: 2, On: sown + 5}), about(12, 6, ready.Seen{}))
	require.Greater(t, about(3, 9, ready.Seen{}), calendar.Day(90), "no leaf unfolds in the cold")
	require.InDelta(t, 68, ready.PaceOf(4, 17, 20), 1e-9)
}

func anyRule(t *rapid.T) ready.Rule {
	return ready.Rule{
		Leaves: rapid.IntRange(0, 6).
			Draw(t, "leaves"),
		HeightCM: float64(rapid.IntRange(0, 20).Draw(t, "height")), AgeDays: rapid.IntRange(0, 60).Draw(t, "age"),
		Every: rapid.Bool().Draw(t, "every"), HoldDays: rapid.IntRange(0, 21).Draw(t, "hold"),
	}
}

// What must be true of every verdict: it fits its own days, nobody calls a batch
// late on the day it becomes ready, what was not seen is not ready, and more leaves
// never make it less ready.
func TestVerdictsHangTogether(t *testing.T) {
	order := map[ready.Word]int{ready.Early: 0, ready.Look: 0, ready.Ready: 1, ready.Late: 2}
	rapid.Check(t, func(t *rapid.T) {
		r := anyRule(t)
		age := calendar.Day(rapid.IntRange(0, 120).Draw(t, "day"))
		g := ready.Grown{
			Sown:   sown,
			Today:  sown + age,
			WarmC:  rapid.Float64Range(-5, 30).Draw(t, "warm"),
			LeafCD: rapid.Float64Range(0, 150).Draw(t, "pace"),
		}
		if rapid.Bool().Draw(t, "up") {
			g.Up = sown + calendar.Day(rapid.IntRange(1, 30).Draw(t, "up on"))
		}
		if rapid.Bool().Draw(t, "looked") {
			g.Seen = ready.Seen{
				Leaves:   rapid.IntRange(0, 9).Draw(t, "seen leaves"),
				HeightCM: float64(rapid.IntRange(0, 30).Draw(t, "seen height")),
				On:       sown + calendar.Day(rapid.IntRange(0, int(age)).Draw(t, "seen on")),
			}
		}
		v := ready.Judge(r, g)
		switch v.Word {
		case ready.Early:
			require.Greater(t, v.About, g.Today)
			require.GreaterOrEqual(t, v.Until, v.About)
		case ready.Look:
			require.LessOrEqual(t, v.Since, g.Today)
			require.True(t, r.Leaves > 0 || r.HeightCM > 0)
		case ready.Ready:
			require.LessOrEqual(t, v.Since, g.Today)
			require.GreaterOrEqual(t, v.DaysLeft(g.Today), 0)
		case ready.Late:
			require.Negative(t, v.DaysLeft(g.Today))
			require.Equal(t, v.Since+calendar.Day(r.HoldDays), v.Until)
		}
		if r.Leaves > 0 || r.HeightCM > 0 || r.AgeDays > 0 {
			require.NotEmpty(t, v.Why)
		}
		if g.Seen.On == 0 && (r.Leaves > 0 || r.HeightCM > 0) {
			require.Zero(t, order[v.Word], "nobody has seen it")
		}
		if g.Seen.On != 0 {
			more := g
			more.Seen.Leaves++
			require.GreaterOrEqual(t, order[ready.Judge(r, more).Word], order[v.Word])
		}
	})
}
