package potting_test

import (
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
	"ulpa/core/potting"
	"ulpa/core/ready"
)

func pot(t *rapid.T) potting.Pot {
	top := rapid.Float64Range(4, 40).Draw(t, "top")
	return potting.Pot{
		TopCM: top, BottomCM: top * rapid.Float64Range(0.5, 1).Draw(t, "taper"), HeightCM: rapid.Float64Range(3, 40).Draw(t, "height"),
		Square: rapid.Bool().Draw(t, "square"), Days: rapid.IntRange(7, 60).Draw(t, "days"),
	}
}

// Mix, bags and lack add up; pots that are said to fit do, and one row more does not; and the
// next pot is roomier than the last, with none between that would be too.
func TestPotsMixAndRoomAddUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, n := pot(t), rapid.IntRange(0, 300).Draw(t, "n")
		m := potting.Mix{OnHandL: rapid.Float64Range(0, 500).Draw(t, "on hand"), BagL: rapid.Float64Range(5, 80).Draw(t, "bag")}
		need, err := potting.Fill(p, n, m)
		require.NoError(t, err)
		require.GreaterOrEqual(t, need.MixL, float64(n)*need.PotL)
		require.GreaterOrEqual(t, float64(*need.Bags)*m.BagL, need.MixL-1e-6)
		require.Less(t, float64(*need.Bags-1)*m.BagL, need.MixL)
		require.InDelta(t, max(0, need.MixL-m.OnHandL), need.ShortL, 1e-9)
		l, w := rapid.Float64Range(10, 400).Draw(t, "long"), rapid.Float64Range(10, 200).Draw(t, "wide")
		fits := potting.Room(p, l, w)
		require.LessOrEqual(t, float64(fits)*p.TopCM*p.TopCM, l*w+1e-6)
		require.Greater(t, (l/p.TopCM+1)*(w/p.TopCM+1), float64(fits))
		pots := []potting.Pot{p, pot(t), pot(t)}
		litres := func(p potting.Pot) float64 { x, _ := potting.Fill(p, 1, potting.Mix{}); return x.PotL }
		now := rapid.Float64Range(0.01, 10).Draw(t, "now")
		if i := potting.Next(pots, now); i >= 0 {
			require.Greater(t, litres(pots[i]), now)
			for _, x := range pots {
				require.True(t, litres(x) >= litres(pots[i]) || litres(x) < 2*now)
			}
		} else {
			for _, x := range pots {
				require.Less(t, litres(x), 2*now)
			}
		}
	})
}

// What was seen of the roots goes before days; days alone only say when to look; what was seen
// in the pot before says nothing of this one.
func TestRootsGoBeforeDays(t *testing.T) {
	since := calendar.Date(2027, 3, 1)
	p := potting.Pot{Days: 28}
	for name, x := range map[string]struct {
		today calendar.Day
		seen  potting.Seen
		want  ready.Word
	}{
		"young":                 {since + 10, potting.Seen{}, ready.Early},
		"old, nobody looked":    {since + 40, potting.Seen{}, ready.Look},
		"holds early":           {since + 12, potting.Seen{Roots: "hold", On: since + 12}, ready.Ready},
		"held for long":         {since + 40, potting.Seen{Roots: "hold", On: since + 12}, ready.Late},
		"goes round":            {since + 12, potting.Seen{Roots: "round", On: since + 12}, ready.Late},
		"few yet":               {since + 30, potting.Seen{Roots: "few", On: since + 27}, ready.Early},
		"few, looked long ago":  {since + 40, potting.Seen{Roots: "few", On: since + 27}, ready.Look},
		"of the pot before":     {since + 3, potting.Seen{Roots: "round", On: since - 1}, ready.Early},
		"nothing said of roots": {since + 29, potting.Seen{On: since + 20}, ready.Look},
	} {
		require.Equal(t, x.want, potting.Judge(p, since, x.today, x.seen).Word, name)
	}
}
