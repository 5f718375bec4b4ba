package gauge_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/gauge"
)

// A pen with any slope and offset, put into buffers at whatever temperatures, is found out,
// and a reading of it is corrected; one that is ideal is good, and shows what is so.
func TestAPenIsFoundOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		slope, offset := rapid.Float64Range(0.5, 1.1).Draw(t, "slope"), rapid.Float64Range(-50, 50).Draw(t, "offset")
		mv := func(ph, c float64) float64 { return offset - slope*0.1984159*(c+273.15)*(ph-7) }
		var in gauge.PenInput
		for _, b := range rapid.SampledFrom([][]string{{"7.00", "4.01"}, {"6.86", "9.18"}, {"4.01", "7.00", "10.01"}}).Draw(t, "buffers") {
			c := rapid.Float64Range(5, 35).Draw(t, "warm")
			ph, ok := gauge.BufferPH(b, c)
			require.True(t, ok)
			in.Points = append(in.Points, gauge.Point{Buffer: b, Shown: mv(ph, c), TemperatureC: c})
		}
		truth, c := rapid.Float64Range(3, 11).Draw(t, "pH"), rapid.Float64Range(5, 35).Draw(t, "water")
		in.Reading = &gauge.Point{Shown: mv(truth, c), TemperatureC: c}
		p, err := gauge.CalibratePen(in)
		require.NoError(t, err)
		require.InDelta(t, 100*slope, p.SlopePercent, 1e-6)
		require.InDelta(t, offset, p.OffsetMV, 1e-6)
		require.InDelta(t, truth, *p.PH, 1e-9)
		if slope > 0.96 && slope < 1.01 && math.Abs(offset) < 14 {
			require.Equal(t, gauge.Good, p.Verdict)
		}
		if slope < 0.69 || slope > 1.03 {
			require.Equal(t, gauge.Repeat, p.Verdict)
		}
		// One buffer that is spoiled by a fifth of a pH is seen where there are three.
		if len(in.Points) == 3 {
			in.Points[1].Shown += slope * 58 * 0.25
			p, err = gauge.CalibratePen(in)
			require.NoError(t, err)
			require.Equal(t, gauge.Repeat, p.Verdict)
		}
	})
}

// A probe that is steady is believed; one that drifts is found out, the sooner the faster,
// whichever way; one that is stuck or silent is told apart from that.
func TestAProbeIsFoundOut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := gauge.UsualDrift()
		rate := rapid.SampledFrom([]float64{0, 0.05, -0.05, 0.2}).Draw(t, "a day")
		for day := range 40 {
			noise := 0.05 * math.Sin(float64(day)*2.4)
			in.Pairs = append(in.Pairs, gauge.Pair{Day: float64(day), Probe: 6 + rate*float64(day), Hand: 6 + noise})
		}
		d, err := gauge.Drift(in)
		require.NoError(t, err)
		if rate == 0 {
			require.Equal(t, "fine", d.Verdict)
			return
		}
		require.Equal(t, "drifting", d.Verdict)
		require.Equal(t, map[bool]string{true: "high", false: "low"}[rate > 0], d.Direction)
		require.InDelta(t, 7*rate, *d.SlopePerWeek, 0.05)
		require.Less(t, *d.AlarmDay, 25.0)
		if math.Abs(rate) == 0.2 {
			require.Less(t, *d.AlarmDay, 8.0)
		}
	})
	in := gauge.UsualDrift()
	in.HasSeries = true
	for i := range 40 {
		in.Series = append(in.Series, gauge.Logged{Day: float64(i) / 10, Value: 6})
	}
	d, err := gauge.Drift(in)
	require.NoError(t, err)
	require.Equal(t, "stuck", d.Verdict)
	now := 5.0
	in.NowDay = &now
	d, err = gauge.Drift(in)
	require.NoError(t, err)
	require.Equal(t, "silent", d.Verdict)
}

// A pen is worth less from week to week, never more than when it was fresh, and a worn or
// unknown one is not taken for a good one.
func TestAPensWorthFalls(t *testing.T) {
	last := 0.0
	for week := range 30 {
		e := gauge.PHWorth(gauge.PHOnly, gauge.Good, float64(week))
		require.GreaterOrEqual(t, e, last)
		last = e
	}
	require.Greater(t, gauge.PHWorth(gauge.PHOnly, "", 0), gauge.PHWorth(gauge.PHOnly, gauge.Good, 2))
	require.InDelta(t, gauge.CardError, gauge.PHWorth(gauge.Both, gauge.Replace, 0), 1e-12)
}
