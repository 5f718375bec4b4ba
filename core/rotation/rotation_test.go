package rotation_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/crop"
	"ulpa/core/rotation"
)

// looks is a clock that so many looks at it move to its end.
func looks(most int) func() float64 {
	n := 0
	return func() float64 { n++; return float64(n) / float64(most) }
}

// Of small beds none is better than the one that is proved, and its troubles are its cost.
func TestBedsAreTheBest(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 9))
	pick := func(list []string) string { return list[r.IntN(len(list))] }
	families := []string{"cabbage", "legume", "onion"}
	for i := range 150 {
		in := rotation.Input{YearsApart: r.IntN(4), Strict: r.IntN(3) == 0, Weights: rotation.UsualWeights}
		in.Weights.Near, in.Weights.Unplaced = 6*r.Float64(), 20*r.Float64()
		n, m := 2+r.IntN(4), 1+r.IntN(4)
		for s := range n {
			x := rotation.Section{Name: fmt.Sprint("s", s), Sun: pick(rotation.Suns)}
			if s > 0 {
				x.Neighbours = []string{fmt.Sprint("s", r.IntN(s))}
			}
			for y := range r.IntN(4) {
				x.History = append(x.History, rotation.Grew{YearsAgo: y + 1, Family: pick(families), Feeder: pick(rotation.Feeders)})
			}
			in.Sections = append(in.Sections, x)
		}
		var crops []string
		for c := range m {
			crops = append(crops, fmt.Sprint("c", c))
		}
		for _, c := range crops {
			in.Wants = append(in.Wants, rotation.Want{
				Crop: c, Family: pick(families), Feeder: pick(rotation.Feeders), Sun: pick(rotation.Suns), Sections: 1 + r.IntN(2),
				Apart: []string{pick(crops)}, Near: []string{pick(crops), "nobody’s"},
			})
		}
		got, err := rotation.Best(in, looks(10))
		require.NoError(t, err)
		require.True(t, got.Proven)
		require.InDelta(t, trouble(in, got.Crops), got.Cost, 1e-9, "what is told is what it costs")
		best := math.Inf(1)
		var try func(plan []string)
		try = func(plan []string) {
			if len(plan) == n {
				best = min(best, trouble(in, plan))
				return
			}
			for _, c := range append([]string{""}, crops...) {
				try(append(slices.Clone(plan), c))
			}
		}
		try(nil)
		require.InDelta(t, best, got.Cost, 1e-9, "bed %d", i)
	}
}

// trouble is what the contract says that a plan costs; +Inf when it may not be.
func trouble(in rotation.Input, crops []string) (sum float64) {
	want := map[string]rotation.Want{}
	for _, w := range in.Wants {
		want[w.Crop] = w
	}
	beside := func(a, b int) bool {
		return slices.Contains(in.Sections[a].Neighbours, in.Sections[b].Name) || slices.Contains(in.Sections[b].Neighbours, in.Sections[a].Name)
	}
	count := map[string]int{}
	for i, c := range crops {
		if c == "" {
			continue
		}
		count[c]++
		w, s := want[c], in.Sections[i]
		latest, feeder := 0, 0.0
		for _, g := range s.History {
			if g.Family == w.Family && g.YearsAgo <= in.YearsApart && (latest == 0 || g.YearsAgo < latest) {
				latest = g.YearsAgo
			}
			if g.YearsAgo == 1 {
				feeder = max(feeder, map[string]float64{"heavyheavy": 8, "heavymedium": 3, "mediumheavy": 3, "fixerfixer": 3}[w.Feeder+g.Feeder])
			}
		}
		if latest > 0 && in.Strict {
			return math.Inf(1)
		}
		if latest > 0 {
			sum += 20 * float64(in.YearsApart+1-latest) / float64(in.YearsApart)
		}
		sum += feeder
		steps := slices.Index(rotation.Suns, w.Sun) - slices.Index(rotation.Suns, s.Sun)
		sum += 6*float64(max(0, steps)) + 2*float64(max(0, -steps))
		wanted, near := false, false
		for _, x := range w.Near {
			_, ok := want[x]
			wanted = wanted || ok
		}
		for k, other := range crops {
			if k == i || other == "" || !beside(i, k) {
				continue
			}
			if k > i && (slices.Contains(w.Apart, other) || slices.Contains(want[other].Apart, c)) {
				sum += 5
			}
			near = near || slices.Contains(w.Near, other)
		}
		if wanted && !near {
			sum += in.Weights.Near
		}
	}
	for _, w := range in.Wants {
		if count[w.Crop] > w.Sections {
			return math.Inf(1)
		}
		sum += in.Weights.Unplaced * float64(w.Sections-count[w.Crop])
	}
	return sum
}

// What stands between the rows of another is eaten before that needs the room, and shares
// neither its family nor its hunger; wide rows that stand long do have such companions.
func TestWhatStandsBetweenRowsIsOutInTime(t *testing.T) {
	wide := 0
	for _, c := range crop.All() {
		between := rotation.Between(c, crop.All())
		if len(between) > 0 {
			wide++
		}
		require.LessOrEqual(t, rotation.FillsAfter(c), rotation.BedDays(c))
		for _, o := range between {
			require.LessOrEqual(t, rotation.BedDays(o), rotation.FillsAfter(c), "%s between %s", o.ID, c.ID)
			require.NotEqual(t, c.Family, o.Family)
			require.NotEqual(t, "heavy", rotation.FeederOf(o))
		}
	}
	require.Greater(t, wide, 5)
}
