package climate_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/climate"
)

// What a meter says no hand changes; of what hands read the last of each figure stands, and
// a deficit is told as soon as the humidity is, whichever reading brought it.
func TestMetersGoBeforeHands(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		maybe := func(low, high float64, name string) *float64 {
			if !rapid.Bool().Draw(t, name+" is told") {
				return nil
			}
			v := rapid.Float64Range(low, high).Draw(t, name)
			return &v
		}
		p := climate.Place{TempC: 18, Measured: rapid.Bool().Draw(t, "measured"), Humidity: maybe(20, 99, "meter"), LightMol: 7}
		want := p
		var seen []climate.Seen
		var umol *float64
		for range rapid.IntRange(0, 5).Draw(t, "readings") {
			s := climate.Seen{TempC: maybe(5, 35, "temp"), Humidity: maybe(20, 99, "humidity"), Hours: maybe(0, 24, "hours"), Umol: maybe(0, 900, "umol")}
			seen = append(seen, s)
			if s.TempC != nil && !p.Measured {
				want.TempC = *s.TempC
			}
			if s.Humidity != nil && p.Humidity == nil {
				want.Humidity = s.Humidity
			}
			if s.Hours != nil {
				want.Hours = s.Hours
			}
			if s.Umol != nil {
				umol = s.Umol
			}
		}
		got, err := p.Known(seen)
		require.NoError(t, err)
		require.Equal(t, []any{want.TempC, want.Humidity, want.Hours}, []any{got.TempC, got.Humidity, got.Hours})
		require.Equal(t, want.Humidity != nil, got.Air != nil)
		if umol == nil || want.Hours == nil {
			require.Equal(t, 7.0, got.LightMol)
		} else {
			require.InDelta(t, *umol**want.Hours*0.0036, got.LightMol, 1e-9)
		}
	})
	require.Error(t, climate.Seen{}.Check())
}
