package gauge_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/gauge"
)

// A colour lies between its two fields, lamplight and wide gaps make it less sure, and a
// reading of a card is never taken for one of a good pen.
func TestAColourIsAFigureWithItsError(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		low, gap := rapid.Float64Range(3, 8).Draw(t, "low"), rapid.Float64Range(0.2, 2).Draw(t, "gap")
		steps := []float64{low, low + gap, low + 2*gap}
		text := strings.ReplaceAll(fmt.Sprintf("%g; %g %g", steps[1], steps[0], steps[2]), ".", rapid.SampledFrom([]string{".", ","}).Draw(t, "mark"))
		read, err := gauge.Steps(text)
		require.NoError(t, err)
		require.InDeltaSlice(t, steps, read, 1e-9)
		near := rapid.Float64Range(0, 1).Draw(t, "near")
		day, err := gauge.Seen{Low: read[0], Near: near}.Judge(read)
		require.NoError(t, err)
		lamp, err := gauge.Seen{Low: read[0], Near: near, Lamp: true}.Judge(read)
		require.NoError(t, err)
		require.True(t, day.PH >= low-1e-9 && day.PH <= low+gap+1e-9 && lamp.PH == day.PH)
		require.True(t, lamp.Error > day.Error && day.Error >= gauge.CardError-1e-9)
		require.NotContains(t, gauge.GoodFor(day.Error).String(), "to dose by")
		_, err = gauge.Seen{Low: read[2], Near: near}.Judge(read)
		require.Error(t, err, "there is no field above the last")
	})
	for _, bad := range []string{"", "6", "6 x", "6 15", "6 6"} {
		_, err := gauge.Steps(bad)
		require.ErrorContains(t, err, "steps", bad)
	}
}
