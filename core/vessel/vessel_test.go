package vessel_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/vessel"
)

func vessels(t *rapid.T) vessel.Vessel {
	cm := func(name string) float64 { return rapid.Float64Range(1, 200).Draw(t, name) }
	switch rapid.IntRange(0, 4).Draw(t, "shape") {
	case 0:
		return vessel.Vessel{Shape: vessel.Box, LengthCM: cm("l"), WidthCM: cm("w"), HeightCM: cm("h")}
	case 1:
		return vessel.Vessel{Shape: vessel.Cylinder, DiameterCM: cm("d"), HeightCM: cm("h")}
	case 2:
		return vessel.Vessel{Shape: vessel.RoundTaper, TopDiameterCM: cm("t"), BottomDiameterCM: cm("b"), HeightCM: cm("h")}
	case 3:
		return vessel.Vessel{
			Shape:          vessel.SquareTaper,
			TopLengthCM:    cm("tl"),
			TopWidthCM:     cm("tw"),
			BottomLengthCM: cm("bl"),
			BottomWidthCM:  cm("bw"),
			HeightCM:       cm("h"),
		}
	}
	v := vessel.Vessel{Shape: vessel.Marks}
	d, l := 0.0, 0.0
	for range rapid.IntRange(1, 5).Draw(t, "marks") {
		d, l = d+cm("depth"), l+cm("litres")
		v.Marks = append(v.Marks, vessel.Mark{DepthCM: d, Litres: l})
	}
	return v
}

// litres(depth(litres)) is where one began; more litres stand deeper.
func TestVesselsThereAndBack(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := vessels(t)
		full, err := v.AtDepth(0)
		require.NoError(t, err)
		litres := full.FullLitres * rapid.Float64Range(0, 1).Draw(t, "share")
		there, err := v.AtLitres(litres)
		require.NoError(t, err)
		back, err := v.AtDepth(there.DepthCM)
		require.NoError(t, err)
		require.InDelta(t, litres, back.Litres, 1e-6*full.FullLitres+1e-9)
		_, err = v.AtLitres(full.FullLitres*1.01 + 0.01)
		require.ErrorContains(t, err, "litres: must be")
	})
}

// A taper with straight walls is a box or a cylinder.
func TestTapersAgreeWithStraightWalls(t *testing.T) {
	box, err := vessel.Vessel{Shape: vessel.Box, LengthCM: 50, WidthCM: 30, HeightCM: 20}.AtDepth(7)
	require.NoError(t, err)
	taper, err := vessel.Vessel{
		Shape:          vessel.SquareTaper,
		TopLengthCM:    50,
		BottomLengthCM: 50,
		TopWidthCM:     30,
		BottomWidthCM:  30,
		HeightCM:       20,
	}.AtDepth(
		7,
	)
	require.NoError(t, err)
	require.InDelta(t, box.Litres, taper.Litres, 1e-12)
	round, err := vessel.Vessel{Shape: vessel.RoundTaper, TopDiameterCM: 20, BottomDiameterCM: 20, HeightCM: 20}.AtDepth(10)
	require.NoError(t, err)
	require.InDelta(t, math.Pi, round.Litres, 1e-12)
}

// A vessel filled to the level that is asked for falls dry as often as was risked, or
// less while its use has to be told from a few refills.
func TestFilledVesselsFallDryNoOftenerThanRisked(t *testing.T) {
	r := rand.New(rand.NewPCG(2, 4))
	const tries = 20_000
	for _, refills := range []int{0, 2, 8} {
		dry := 0
		for range tries {
			mean := 1 + 9*r.Float64()
			sd := 0.2 * mean
			drank := func(days float64) float64 { return max(0, mean*days+sd*math.Sqrt(days)*r.NormFloat64()) }
			in := vessel.DryInput{
				CapacityL: 1e4,
				LevelL:    20,
				DryBelowL: 10,
				Hours:     24 * (1 + 6*r.Float64()),
				Risk:      0.05,
				UseFactor: 1,
				Use:       vessel.Use{MeanLDay: mean, SDLDay: sd},
			}
			if refills > 0 {
				in.Use = vessel.Use{SpreadGuess: 0.2}
			}
			for range refills {
				days := 1 + 3*r.Float64()
				in.Use.Past = append(in.Use.Past, vessel.Refill{Days: days, Litres: drank(days)})
			}
			x, err := vessel.RunsDry(in)
			require.NoError(t, err)
			if x.LevelNeededL-10 < drank(in.Hours/24) {
				dry++
			}
		}
		require.Less(t, float64(dry)/tries, 0.06, "%d refills", refills)
		require.Greater(t, float64(dry)/tries, 0.015, "%d refills", refills)
	}
}

// What is poured into a jar never drowns roots that breathe, and lasts as long as it says.
func TestWhatIsPouredLeavesRootsTheirAir(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := func(name string, low, high float64) float64 { return rapid.Float64Range(low, high).Draw(t, name) }
		height := draw("height", 12, 40)
		foot := height * draw("foot", 0.6, 1)
		in := vessel.JarInput{
			Vessel: vessel.Vessel{Shape: vessel.Cylinder, DiameterCM: draw("diameter", 8, 30), HeightCM: height}, PotFootCM: foot, DryBelowCM: 2,
			LevelCM: foot * draw(
				"level",
				0.05,
				1,
			), RootsCM: draw("roots", 0, 20), Days: draw("days", 0.5, 20), Margin: 1.2, Use: vessel.Thirst{
				LDay:   draw("use", 0.01, 0.5),
				Growth: draw("growth", -0.05, 0.15), Factor: 1,
			},
		}
		highest := min(height, in.LevelCM+draw("fell", 0, 3))
		in.Highest3Days = &highest
		x, err := vessel.Jar(in)
		require.NoError(t, err)
		require.GreaterOrEqual(t, x.PourL, 0.0)
		require.LessOrEqual(t, x.LevelAfterCM, max(in.LevelCM, x.AllowedCM)+1e-6)
		if x.Hang {
			require.LessOrEqual(t, x.AllowedCM, min(highest+1, foot*2/3)+1e-9)
		}
		if x.Lasts && x.DryAfter != nil {
			require.GreaterOrEqual(t, *x.DryAfter, in.Days-1e-6)
		}
		longer := in
		longer.Days++
		y, err := vessel.Jar(longer)
		require.NoError(t, err)
		require.GreaterOrEqual(t, y.PourL, x.PourL-1e-9, "more days never ask for less")
	})
}

// A hole is smaller than the rim and larger than the foot, so that the pot neither falls
// through nor stands on its foot.
func TestAHoleHoldsItsPot(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p := vessel.NetPot{RimCM: rapid.Float64Range(2, 20).Draw(t, "rim"), HeightCM: rapid.Float64Range(2, 20).Draw(t, "height")}
		p.FootCM = p.RimCM * rapid.Float64Range(0.3, 0.95).Draw(t, "taper")
		h, err := vessel.Cut(p)
		require.NoError(t, err)
		require.True(t, h.AcrossCM < p.RimCM && h.AcrossCM > p.FootCM)
		at := p.RimCM - (p.RimCM-p.FootCM)*h.RestsCM/p.HeightCM
		require.InDelta(t, at, 2*h.CompassCM, 1e-9, "the pot is as wide there")
	})
	_, err := vessel.Cut(vessel.NetPot{RimCM: 5, FootCM: 6, HeightCM: 5})
	require.ErrorContains(t, err, "foot_cm")
}
