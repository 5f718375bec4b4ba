package pages

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// Wherever its lines lie, what is written at them is legible: inside the tank, and
// never one word over another.
func TestWordsInATankDoNotCross(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		y := func(share float64) float64 { return tankFloor - (tankFloor-tankTop)*share }
		fill := rapid.Float64Range(0.15, 1).Draw(t, "fill")
		d := tankDrawing{
			Known:  true,
			FillY:  y(fill),
			DryY:   y(fill * rapid.Float64Range(0, 0.8).Draw(t, "dry")),
			LevelY: y(rapid.Float64Range(0, 1).Draw(t, "level")),
		}
		d.place()
		small := func(at float64) [2]float64 { return [2]float64{at - smallOver, at + smallUnder} }
		words := [][2]float64{small(d.FillAt), small(d.DryAt), {d.LevelAt - levelOver, d.LevelAt + levelUnder}}
		for i, a := range words {
			require.True(t, a[0] >= 0 && a[1] <= tankFloor+4, "%+v", d)
			for _, b := range words[:i] {
				require.True(t, a[0] >= b[1] || a[1] <= b[0], "%+v", d)
			}
		}
		for _, line := range []float64{d.FillY, d.DryY} {
			require.False(t, d.LevelAt-levelOver < line && line < d.LevelAt+levelUnder, "%+v", d)
		}
	})
}
