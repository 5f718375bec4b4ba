package tray_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
	"ulpa/core/tray"
)

// What is poured brings a tray to what it weighs wet, or short of it without holes, never
// over; and done as advised, on the day, it asks for nothing more.
func TestATrayIsKeptByWhatWasDone(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		dry := rapid.Float64Range(100, 3000).Draw(t, "dry")
		wet := dry + rapid.Float64Range(1, 4000).Draw(t, "holds")
		now := rapid.Float64Range(0, wet+500).Draw(t, "now")
		today := calendar.Date(2027, 3, 18)
		c := tray.Care{}
		for i := range rapid.IntRange(0, 12).Draw(t, "acts") {
			d := tray.Done{Did: []string{rapid.SampledFrom(tray.Doings).Draw(t, "did").ID}}
			require.NoError(t, d.Check())
			c.See(d, today-calendar.Day(12-i))
		}
		weighed := tray.Done{DryG: &dry, WetG: &wet, NowG: &now}
		require.NoError(t, weighed.Check())
		c.See(weighed, today)
		s := tray.Stage{
			Cells: 24, Up: rapid.IntRange(0, 24).Draw(t, "up"), Window: rapid.Bool().Draw(t, "window"),
			Drains: rapid.Bool().Draw(t, "drains"), Today: today,
		}
		ml, left, known := c.Water(s.Drains)
		require.True(t, known)
		require.LessOrEqual(t, min(now, wet)+ml, wet+1e-9)
		require.GreaterOrEqual(t, left, 0.0)
		if s.Drains {
			require.GreaterOrEqual(t, now+ml, wet-1e-9)
		}
		for _, a := range c.Advise(s) {
			c.See(tray.Done{Did: []string{a.ID}}, today)
		}
		require.Empty(t, c.Advise(s))
		require.False(t, c.Cover && s.Up*4 >= s.Cells || c.Heat && s.Up*2 >= s.Cells)
	})
}

// What is never used is never asked for, and what cannot be is refused beside its field.
func TestATrayNobodyCoversIsLeftAlone(t *testing.T) {
	require.Empty(t, tray.Care{}.Advise(tray.Stage{Cells: 10, Up: 10, Window: true, Today: 20_000}))
	minus, one, two := -1.0, 1.0, 2.0
	for field, d := range map[string]tray.Done{
		"did": {}, "lamp_cm": {LampCM: &minus}, "wet_g": {WetG: &one, DryG: &two},
	} {
		require.ErrorContains(t, d.Check(), field)
	}
}
