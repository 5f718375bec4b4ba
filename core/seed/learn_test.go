package seed_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
	"gonum.org/v1/gonum/stat/distuv"
	"pgregory.net/rapid"

	"ulpa/core/seed"
)

// What is learned lies between what was thought and what was seen, the nearer to the latter
// the more was tried, and surer with every seed.
func TestLearningMovesFromWhatWasThoughtToWhatWasSeen(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		thought := rapid.Float64Range(0.05, 0.95).Draw(t, "thought")
		worth := rapid.Float64Range(1, 20).Draw(t, "worth")
		n := rapid.IntRange(10, 100).Draw(t, "n")
		came := rapid.IntRange(0, n).Draw(t, "came")
		seen := float64(came) / float64(n)
		one := seed.Result{Tried: n, Came: came}
		few, many := seed.Learn(thought, worth, []seed.Result{one}), seed.Learn(thought, worth, []seed.Result{one, one, one, one})
		mid := (thought*worth + 0.5) / (worth + 1)
		for _, l := range []seed.Learned{few, many} {
			require.GreaterOrEqual(t, l.Mean(), min(mid, seen)-1e-9)
			require.LessOrEqual(t, l.Mean(), max(mid, seen)+1e-9)
		}
		require.LessOrEqual(t, math.Abs(many.Mean()-seen), math.Abs(few.Mean()-seen)+1e-9)
		low, high := few.Between(0.95)
		require.True(t, low <= few.Mean() && few.Mean() <= high || few.A < 1 || few.B < 1)
		low4, high4 := many.Between(0.95)
		require.Less(t, high4-low4, high-low)
		g := few.Germination()
		// Whole seeds are never further off than one of them.
		require.InDelta(t, few.Mean(), (float64(g.Sprouted)+0.5)/(float64(g.Tested)+1), 1/(float64(g.Tested)+1))
		// An old result counts for less than a young one, and nothing makes it count for more.
		bad := seed.Result{Tried: 50}
		old := bad
		old.Years = rapid.Float64Range(0.5, 9).Draw(t, "years")
		young := seed.Result{Tried: 50, Came: 45}
		both := seed.Learn(thought, worth, []seed.Result{old, young})
		require.Greater(t, both.Mean(), seed.Learn(thought, worth, []seed.Result{bad, young}).Mean())
		require.Less(t, both.Rests, 100.0)
	})
}

// Cells with several seeds say less than they seem to: many of them tell the chance of a seed,
// and as many with one in each tell it better.
func TestCellsTellOfTheirSeeds(t *testing.T) {
	width := func(l seed.Learned) float64 { low, high := l.Between(0.95); return high - low }
	for _, each := range []int{1, 2, 3} {
		for _, chance := range []float64{0.2, 0.5, 0.9} {
			cells := 20_000
			came := int(math.Round(float64(cells) * (1 - math.Pow(1-chance, float64(each)))))
			l := seed.Learn(0.6, 4, []seed.Result{{Tried: cells, Came: came, Each: each}})
			require.InDelta(t, chance, l.Mean(), 0.01, "%d in each", each)
			alone := seed.Learn(0.6, 4, []seed.Result{{Tried: cells * each, Came: int(chance * float64(cells*each))}})
			require.LessOrEqual(t, width(alone), width(l)+1e-9)
		}
	}
	none := seed.Learn(0.6, 4, nil)
	require.Equal(t, none, seed.Learn(0.6, 4, []seed.Result{{Years: 1, Each: 2}}))
}

// Of several packets of a crop the oldest good one goes first; what nobody knows is tested,
// what hardly comes is thrown away, and a shelf of empty packets says to buy.
func TestTheShelfSaysWhatToDo(t *testing.T) {
	none, some := 0, 40
	got := seed.Advise([]seed.OnShelf{
		{AgeYears: 0, KeepsYears: 4, Left: &some, Share: 0.9},
		{AgeYears: 1, KeepsYears: 4, Left: &some, Share: 0.85},
		{AgeYears: 3, KeepsYears: 4, Share: 0.7},
		{AgeYears: 6, KeepsYears: 4, Tested: true, Share: 0.1},
		{AgeYears: 2, KeepsYears: 4, Left: &none},
	})
	require.Equal(t, []string{seed.Spare, seed.SowFirst, seed.TestFirst, seed.ThrowAway, seed.Keeps}, got)
	require.Equal(t, []string{seed.NoneLeft, seed.NoneLeft}, seed.Advise([]seed.OnShelf{{Left: &none, KeepsYears: 3}, {Left: &none, KeepsYears: 3}}))
	require.Equal(t, []string{seed.Keeps}, seed.Advise([]seed.OnShelf{{Left: &some, KeepsYears: 3}}))
}

// Of many packets whose seed comes as seed of its kind does, 95 in a hundred lie within the
// bar that is shown, whether they were tried on paper, in cells of one or of three.
func TestTheBarHoldsWhatItSays(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 9))
	drawn := func(n int, p float64) (came int) {
		for range n {
			if r.Float64() < p {
				came++
			}
		}
		return came
	}
	for _, perCell := range []int{0, 1, 3} {
		held, packets := 0, 4000
		for range packets {
			share, worth := seed.Prior(nil, 0.7, 0, 4)
			p := distuv.Beta{Alpha: share*worth + 0.5, Beta: (1-share)*worth + 0.5, Src: r}.Rand()
			tried := []seed.Result{{Tried: 20, Came: drawn(20, p)}}
			if perCell > 0 {
				tried = []seed.Result{{Tried: 24, Came: drawn(24, 1-math.Pow(1-p, float64(perCell))), Each: perCell}}
			}
			if low, high := seed.Learn(share, worth, tried).Between(0.95); low <= p && p <= high {
				held++
			}
		}
		require.InDelta(t, 0.95, float64(held)/float64(packets), 0.03, "%d in a cell", perCell)
	}
}

// What a packet is taken for before anything of it was tried: fresh seed of a kind that usually
// comes well asks for about a half more cells than plants, old seed for more, what came of other
// packets here counts a little and never as much as its own; and nothing says it was tested.
func TestAPacketThatNobodyTested(t *testing.T) {
	cells := func(l seed.Learned, wanted int) int {
		a, err := seed.Rate(seed.RateInput{
			PlantsWanted: wanted, Confidence: 0.9, Germination: l.Germination(), Survival: 0.95, MaxSeedsPerCell: 1,
			CellsPerTray: 72,
		})
		require.NoError(t, err)
		return a.Options[0].Cells
	}
	of := func(age int, own, others []seed.Result) seed.Learned {
		share, worth := seed.Prior(nil, 0.8, age, 4)
		share, worth = seed.Beside(share, worth, others)
		l := seed.Learn(share, worth, own)
		l.By = seed.ByUsual
		return l
	}
	fresh := of(0, nil, nil)
	require.Less(t, cells(fresh, 80), 150)
	require.Greater(t, cells(of(4, nil, nil), 80), cells(fresh, 80))
	require.Greater(t, cells(of(8, nil, nil), 80), cells(of(4, nil, nil), 80))
	well := []seed.Result{{Tried: 100, Came: 92}}
	require.LessOrEqual(t, cells(of(0, well, nil), 20), 28)
	require.Less(t, cells(of(0, nil, well), 20), cells(fresh, 20))
	require.Greater(t, cells(of(0, nil, well), 20), cells(of(0, well, nil), 20))
	a, err := seed.Rate(seed.RateInput{PlantsWanted: 9, Confidence: 0.9, Germination: fresh.Germination(), Survival: 1, MaxSeedsPerCell: 2, CellsPerTray: 72})
	require.NoError(t, err)
	require.NotContains(t, a.Steps[0].Formula.String(), "test")
	pairs := seed.Learn(0.5, 1, []seed.Result{{Tried: 4, Came: 3, Each: 2}})
	require.Equal(t, 8.0, pairs.Rests, "four cells of two are eight seeds")
	few, many := 30, 60
	old := seed.OnShelf{AgeYears: 3, KeepsYears: 4, Left: &few, Share: 0.6}
	require.NotEqual(t, seed.TestFirst, seed.Advise([]seed.OnShelf{old})[0], "there are no twenty to spare")
	old.Left = &many
	require.Equal(t, seed.TestFirst, seed.Advise([]seed.OnShelf{old})[0])
}
