package sprout_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/calendar"
	"ulpa/core/crop"
	"ulpa/core/sprout"
)

func sprouted() (out []crop.Crop) {
	for _, c := range crop.All() {
		if c.Sprout() {
			out = append(out, c)
		}
	}
	return out
}

// Somebody who does what is asked for at two moments of each open day, and on the closed days
// for which the run says that somebody must come, brings every crop to its cut unspoiled, from
// whatever day and over whatever closures. Who stays away on those days loses a jar of sprouts.
func TestWhoDoesWhatIsAskedBringsItToTheCut(t *testing.T) {
	all := sprouted()
	rapid.Check(t, func(t *rapid.T) {
		c := rapid.SampledFrom(all).Draw(t, "crop")
		start := calendar.Date(2027, 1, 4) + calendar.Day(rapid.IntRange(0, 20).Draw(t, "start"))
		from := start + calendar.Day(rapid.IntRange(0, 6).Draw(t, "closed from"))
		school := calendar.School{Closures: []calendar.Closure{{From: from, To: from + calendar.Day(rapid.IntRange(0, 3).Draw(t, "for"))}}}
		if !school.Open(start) {
			t.Skip("nobody soaks it")
		}
		way := sprout.WayOf(c)
		run := sprout.Ahead(way, start, school)
		comes := rapid.Bool().Draw(t, "somebody comes")
		care := sprout.Care{Soaked: start.At(15, 0, time.UTC), SoakedOn: start}
		spoiled := false
		for _, d := range run[1:] {
			if d.Cut {
				require.True(t, int(d.On-start) >= way.CutDay || int(d.On-start) >= way.CutDay-2 && school.Open(d.On))
			}
			if d.Nobody && !(comes && d.Missing) {
				continue
			}
			for _, hour := range []int{9, 15} {
				now := d.On.At(hour, 0, time.UTC)
				care.Today = d.On
				for _, job := range sprout.Due(way, care, now) {
					switch job {
					case sprout.Discard:
						spoiled = true
					case sprout.Drain, sprout.Rinse:
						care.Rinsed = &now
					case sprout.Water:
						care.Watered = &now
					case sprout.Light:
						care.Lit = &now
					}
				}
			}
		}
		missing := sprout.Missing(run)
		if comes || len(missing) == 0 {
			require.False(t, spoiled, "nothing is missed")
			require.Equal(t, way.LightDay > 0, care.Lit != nil)
		}
		if !comes && len(missing) > 1 && way.WaterDays == 0 && missing[len(missing)-1] < run[len(run)-1].On {
			require.True(t, spoiled, "%v", missing)
		}
	})
}

// The start that is offered is an open day, and no day before it leaves fewer days to somebody
// who would have to come in.
func TestTheStartThatIsOfferedIsTheBest(t *testing.T) {
	for _, c := range sprouted() {
		way, school := sprout.WayOf(c), calendar.School{}
		for from := calendar.Date(2027, 3, 1); from < calendar.Date(2027, 3, 8); from++ {
			best := sprout.Start(way, from, school)
			n := len(sprout.Missing(sprout.Ahead(way, best, school)))
			require.True(t, school.Open(best))
			for d := from; d < best; d++ {
				require.True(t, !school.Open(d) || len(sprout.Missing(sprout.Ahead(way, d, school))) > n)
			}
			if way.CutDay <= 4 {
				require.Zero(t, n, "%s is soaked on a Monday and eaten by Friday", c.ID)
			}
		}
	}
	cress, _ := crop.Find("cress")
	require.InDelta(t, 2*0.03*cress.SowGM2, sprout.Seed(cress.SowGM2, 300, 2), 1e-9)
}

// What once stood too long without fresh water stays condemned whatever water runs over it
// afterwards; only a rinse in the gap itself lifts that, and beyond its days nothing does.
func TestWhatIsCondemnedStaysSo(t *testing.T) {
	for _, c := range sprouted() {
		way := sprout.WayOf(c)
		if way.WaterDays > 0 || way.LastDay < 3 {
			continue
		}
		start := calendar.Date(2027, 3, 1)
		care := sprout.Care{Soaked: start.At(8, 0, time.UTC), SoakedOn: start, Today: start + 2}
		now := (start + 2).At(23, 0, time.UTC)
		discards := func() bool { return sprout.Due(way, care, now)[0] == sprout.Discard }
		care.Waterings = []time.Time{start.At(20, 0, time.UTC)}
		require.False(t, sprout.Condemned(way, care, (start+1).At(20, 0, time.UTC)), c.ID)
		require.True(t, discards(), c.ID)
		care.Rinsed = &now
		care.Waterings = append(care.Waterings, now)
		require.True(t, discards(), "%s: water afterwards", c.ID)
		between := (start + 1).At(12, 0, time.UTC)
		care.Waterings = []time.Time{care.Waterings[0], between, now}
		require.False(t, sprout.Condemned(way, care, now), "%s: it was rinsed in time", c.ID)
		care.Today = start + calendar.Day(way.LastDay) + 1
		require.True(t, sprout.Condemned(way, care, now), "%s: beyond its days", c.ID)
		require.True(t, sprout.Beyond(c, start, care.Today))
	}
}
