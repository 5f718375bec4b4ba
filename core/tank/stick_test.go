package tank_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/tank"
	"ulpa/core/vessel"
)

// Whatever the tank, a depth and its litres are the same water: there and back, deeper is
// more, and full is what it holds.
func TestADepthIsItsLitres(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		size := rapid.Float64Range(5, 200)
		s := tank.Stick{
			Shape:    rapid.SampledFrom([]vessel.Shape{vessel.Box, vessel.Cylinder, vessel.RoundTaper, vessel.Marks}).Draw(t, "shape"),
			LengthCM: size.Draw(t, "length"), WidthCM: size.Draw(t, "width"), HeightCM: size.Draw(t, "height"),
			TopCM: size.Draw(t, "top"), BottomCM: size.Draw(t, "bottom"),
		}
		for i := range rapid.IntRange(1, 4).Draw(t, "marks") {
			s.Marks[i] = tank.StickMark{DepthCM: float64(10 * (i + 1)), Litres: float64((i + 1) * (i + 2))}
		}
		full, err := s.Full()
		require.NoError(t, err)
		spec := tank.Spec{CapacityL: full, Stick: s}
		require.True(t, spec.ReadsDepth())
		top, ok := spec.DepthAt(full * (1 - 1e-9))
		require.True(t, ok)
		a, b := rapid.Float64Range(0, top).Draw(t, "a"), rapid.Float64Range(0, top).Draw(t, "b")
		la, err := spec.AtDepth(a)
		require.NoError(t, err)
		lb, err := spec.AtDepth(b)
		require.NoError(t, err)
		require.Equal(t, a < b, la < lb || a < b && b-a < 1e-9)
		back, ok := spec.DepthAt(la)
		require.True(t, ok)
		require.InDelta(t, a, back, 1e-6*top+1e-9)
		_, err = spec.AtDepth(top * 1.1)
		require.ErrorContains(t, err, "depth")
	})
	_, err := tank.Spec{CapacityL: 50}.AtDepth(10)
	require.ErrorContains(t, err, "not known")
	jar := tank.Spec{CapacityL: 2, Passive: true, HeightCM: 20}
	litres, err := jar.AtDepth(10)
	require.NoError(t, err)
	require.InDelta(t, 1, litres, 1e-9, "a jar's walls are taken for straight")
}

// What is poured into a tank whose level nobody wrote down: its first fill is what went in; a
// little more is a topping up, which ends at its line.
func TestTheFirstFillIsWhatWentIn(t *testing.T) {
	spec := tank.Usual(tank.Spec{CapacityL: 320})
	at := time.Date(2027, 3, 1, 9, 0, 0, 0, time.UTC)
	for _, c := range []struct {
		tank.Treatment
		want float64
	}{
		{tank.Treatment{WaterL: 300}, 300},
		{tank.Treatment{WaterL: 160, DrainL: 160}, spec.FillToL},
		{tank.Treatment{DrainL: 20}, spec.FillToL - 20},
		{tank.Treatment{WaterL: 40, DrainL: 100}, spec.FillToL - 60},
		{tank.Treatment{WaterL: 5}, spec.FillToL},
		{tank.Treatment{WaterL: 40, DrainL: 30}, spec.FillToL},
	} {
		var s tank.State
		s.Treat(spec, c.Treatment, at)
		require.InDelta(t, c.want, *s.LevelL, 1e-9, "%+v", c.Treatment)
		s.Treat(spec, tank.Treatment{WaterL: 10}, at)
		require.InDelta(t, c.want+10, *s.LevelL, 1e-9, "from then on it is known")
	}
}
