package batch_test

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/batch"
)

func cell(col int) batch.Spot { return batch.Spot{Kind: batch.InCell, In: "t", Col: col} }
func port(col int) batch.Spot { return batch.Spot{Kind: batch.InPort, In: "tower", Col: col} }
func section(col, n int) batch.Spot {
	return batch.Spot{Kind: batch.InOpen, In: "t", Col: col, N: n}
}

func mark(col int, s batch.CellState, cause batch.Cause) batch.Mark {
	return batch.Mark{In: "t", Col: col, State: s, Cause: cause}
}

func TestALifeFromSeedToClose(t *testing.T) {
	acts := []batch.Act{
		{Kind: batch.Sow, SeedsPerCell: 2, Cells: []batch.Spot{cell(0), cell(1), cell(2), cell(3)}},
		{Kind: batch.Count, Marks: []batch.Mark{mark(0, batch.Sprouted, ""), mark(1, batch.Sprouted, ""), mark(3, batch.Sprouted, "")}},
		{Kind: batch.Count, Marks: []batch.Mark{mark(0, batch.Thinned, ""), mark(2, batch.Empty, "")}},
		{Kind: batch.Move, From: []batch.Spot{cell(0), cell(1)}, To: []batch.Spot{port(0), port(1)}, Lost: []batch.Spot{cell(3)}, Cause: "broken"},
		{Kind: batch.Harvest, Grams: 40},
		{Kind: batch.Harvest, Grams: 160, Whole: true, From: []batch.Spot{port(0), port(1)}},
		{Kind: batch.Close},
	}
	s, err := batch.Fold(acts)
	require.NoError(t, err)
	require.NoError(t, s.Balance())
	require.Equal(t, []int{4, 8, 3, 2, 2, 2, 1}, []int{s.Sown, s.Seeds, s.Sprouted, s.Moved, s.Taken, s.Cuts, s.Empties()})
	require.Equal(t, map[batch.Cause]int{"broken": 1}, s.Lost)
	require.InDelta(t, 200, s.Grams, 1e-9)
	require.ErrorContains(t, s.Apply(batch.Act{Kind: batch.Look, Leaves: 2}), "closed")
}

func TestRefusals(t *testing.T) {
	sown := batch.Act{Kind: batch.Sow, SeedsPerCell: 1, Cells: []batch.Spot{cell(0), cell(1)}}
	up := batch.Act{Kind: batch.Count, Marks: []batch.Mark{mark(0, batch.Sprouted, "")}}
	for name, c := range map[string]struct {
		act  batch.Act
		says string
	}{
		"a cell with no sprout cannot move": {batch.Act{Kind: batch.Move, From: []batch.Spot{cell(1)}, To: []batch.Spot{port(0)}}, "A2 holds no plant"},
		"more ports than plants":            {batch.Act{Kind: batch.Move, From: []batch.Spot{cell(0)}, To: []batch.Spot{port(0), port(1)}}, "1 fewer"},
		"one cell twice": {
			batch.Act{Kind: batch.Move, From: []batch.Spot{cell(0), cell(0)}, To: []batch.Spot{port(0), port(1)}},
			"A1 holds no plant",
		},
		"one port twice": {
			batch.Act{Kind: batch.Move, From: []batch.Spot{cell(0), cell(1)}, To: []batch.Spot{port(0), port(0)}},
			"A2 holds no plant",
		},
		"a strange cell":             {batch.Act{Kind: batch.Count, Marks: []batch.Mark{mark(7, batch.Sprouted, "")}}, "A8 holds nothing"},
		"a harvest of nothing":       {batch.Act{Kind: batch.Harvest}, "weigh it"},
		"closing over living plants": {batch.Act{Kind: batch.Close}, "1 plant is still growing"},
		"sowing a cell again":        {sown, "A1 is sown already"},
	} {
		t.Run(name, func(t *testing.T) {
			s, err := batch.Fold([]batch.Act{sown, up})
			require.NoError(t, err)
			before := s.Clone()
			require.ErrorContains(t, s.Apply(c.act), c.says)
			require.Equal(t, before, s, "a refused act changes nothing")
		})
	}
}

func TestSoManyFromThere(t *testing.T) {
	s, err := batch.Fold([]batch.Act{
		{Kind: batch.Sow, SeedsPerCell: 1, Cells: []batch.Spot{cell(0), cell(1), cell(2), cell(3), cell(4)}},
		{
			Kind:  batch.Count,
			Marks: []batch.Mark{mark(1, batch.Sprouted, ""), mark(2, batch.Thinned, ""), mark(3, batch.Sprouted, ""), mark(4, batch.Sprouted, "")},
		},
		{Kind: batch.Move, From: []batch.Spot{cell(3), cell(4)}, To: []batch.Spot{port(5), port(2)}},
	})
	require.NoError(t, err)
	some := func(kind batch.SpotKind, in string, n int) []batch.Spot {
		return []batch.Spot{{Kind: kind, In: in, N: n}}
	}
	for _, c := range []struct{ from, want []batch.Spot }{
		{some(batch.InCell, "t", 1), []batch.Spot{cell(1)}},
		{some(batch.InCell, "t", 2), []batch.Spot{cell(1), cell(2)}},
		{some(batch.InPort, "tower", 1), []batch.Spot{port(2)}},
		{some(batch.InStand, "bed", 9), some(batch.InStand, "bed", 9)}, // a stand's are alike: taking them refuses
		{[]batch.Spot{port(5)}, []batch.Spot{port(5)}},
	} {
		got, err := s.Choose(c.from)
		require.NoError(t, err)
		require.Equal(t, c.want, got)
	}
	for _, from := range [][]batch.Spot{some(batch.InCell, "t", 3), some(batch.InPort, "raft", 1), some(batch.InPort, "tower", -1)} {
		_, err := s.Choose(from)
		require.ErrorContains(t, err, "are there")
	}
	require.ErrorContains(t, s.Apply(batch.Act{Kind: batch.Lose, From: some(batch.InCell, "t", 1)}), "enter which plants")
}

// Whatever people do in whatever order, the counts add up and no port holds two.
func TestCountsAlwaysAddUp(t *testing.T) {
	states := []batch.CellState{batch.Sown, batch.Sprouted, batch.Thinned, batch.Empty, batch.Lost}
	rapid.Check(t, func(t *rapid.T) {
		s := batch.New()
		if rapid.IntRange(0, 4).Draw(t, "soaked") == 0 {
			require.NoError(t, s.Apply(batch.Act{
				Kind: batch.Adopt, Start: batch.Soaked, SeedG: 40, To: []batch.Spot{{Kind: batch.InStand, In: "bench", N: rapid.IntRange(1, 6).Draw(t, "vessels")}},
			}))
		}
		if s.Sown == 0 && rapid.IntRange(0, 4).Draw(t, "struck") == 0 {
			require.NoError(t, s.Apply(batch.Act{Kind: batch.Adopt, Start: batch.Struck, Waiting: true, To: []batch.Spot{cell(0), cell(1), cell(2), port(0)}}))
			require.Equal(t, []int{4, 3, 1}, []int{s.Sown, s.Rooting(), s.Standing()})
		}
		spot := rapid.Custom(func(t *rapid.T) batch.Spot {
			switch rapid.IntRange(0, 3).Draw(t, "kind") {
			case 0:
				return cell(rapid.IntRange(0, 7).Draw(t, "cell"))
			case 3:
				return section(rapid.IntRange(0, 7).Draw(t, "section"), rapid.IntRange(-1, 4).Draw(t, "plants"))
			case 1:
				return port(rapid.IntRange(0, 5).Draw(t, "port"))
			}
			return batch.Spot{
				Kind: batch.InStand, In: rapid.SampledFrom([]string{"frame", "bed", "bench"}).Draw(t, "place"), N: rapid.IntRange(-1, 4).Draw(t, "n"),
				Pot: rapid.SampledFrom([]string{"", "", "small", "large", batch.SamePot}).Draw(t, "pot"),
			}
		})
		spots := rapid.SliceOfN(spot, 0, 4)
		kept := 0
		for range rapid.IntRange(1, 40).Draw(t, "acts") {
			a := batch.Act{
				Kind: rapid.SampledFrom([]batch.Kind{
					batch.Sow, batch.Count, batch.Count, batch.Move, batch.Move, batch.Harden, batch.SetOut, batch.Lose, batch.HandOver, batch.Wash,
					batch.Harvest, batch.Close, batch.Shift, batch.Shift, batch.Tend, batch.PotOn, batch.PotOn,
				}).
					Draw(t, "kind"),
				SeedsPerCell: rapid.IntRange(1, 4).Draw(t, "seeds"), Open: rapid.Bool().Draw(t, "open"),
				Extra: rapid.Bool().Draw(t, "extra"), Grams: 10, Whole: rapid.Bool().Draw(t, "whole"), Way: "sold",
				Cause: rapid.SampledFrom([]batch.Cause{"eaten", "given-away"}).Draw(t, "cause"), Did: []string{batch.Rinsed},
				From: spots.Draw(t, "from"), To: spots.Draw(t, "to"), Lost: rapid.SliceOfN(spot, 0, 1).Draw(t, "lost"),
			}
			for range rapid.IntRange(0, 4).Draw(t, "n") {
				c := rapid.IntRange(0, 7).Draw(t, "c")
				a.Cells = append(a.Cells, cell(c))
				m := mark(c, rapid.SampledFrom(states).Draw(t, "state"), a.Cause)
				m.N, m.Over = rapid.IntRange(0, 3).Draw(t, "seen"), rapid.Bool().Draw(t, "over")
				a.Marks = append(a.Marks, m)
			}
			if from, err := s.Choose(a.From); err == nil {
				require.Equal(t, batch.PlantsIn(a.From), batch.PlantsIn(from))
				a.From = from
			}
			if s.Apply(a) == nil {
				kept++
			}
			if err := s.Balance(); err != nil {
				t.Fatalf("after %+v: %v", a, err)
			}
			if s.Sprouted > s.Sown || s.Taken < 0 || s.Losses() < 0 {
				t.Fatalf("after %+v: %+v", a, s)
			}
		}
	})
}

// What grows already begins as it stands: so many plants, each where it is, and nothing of
// what was before.
func TestABatchIsEnteredAsItStands(t *testing.T) {
	s := batch.New()
	require.ErrorContains(t, s.Apply(batch.Act{Kind: batch.Adopt}), "must be 1 to")
	require.ErrorContains(t, s.Apply(batch.Act{Kind: batch.Adopt, To: []batch.Spot{port(0), port(0)}}), "chosen twice")
	require.NoError(t, s.Apply(batch.Act{Kind: batch.Adopt, To: []batch.Spot{cell(0), port(1), {Kind: batch.InStand, In: "bed", N: 5}}}))
	require.Equal(t, []int{7, 7, 7, 0, 0}, []int{s.Entered, s.Standing(), s.Sprouted, s.Seeds, s.Waiting()})
	require.NoError(t, s.Balance())
	require.ErrorContains(t, s.Apply(batch.Act{Kind: batch.Adopt, To: []batch.Spot{port(2)}}), "begun already")
	require.NoError(t, s.Apply(batch.Act{Kind: batch.Harvest, Grams: 900, Whole: true, From: []batch.Spot{port(1), {Kind: batch.InStand, In: "bed", N: 5}}}))
	require.NoError(t, s.Apply(batch.Act{Kind: batch.Lose, From: []batch.Spot{cell(0)}, Cause: "eaten"}))
	require.NoError(t, s.Balance())
	require.NoError(t, s.Apply(batch.Act{Kind: batch.Close}))
}

// A gap is filled from behind, and closing up leaves no gap before a plant; who stands where
// changes, and how many do not.
func TestPlantsCloseUp(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := batch.New()
		var cells []batch.Spot
		var marks []batch.Mark
		for col := range rapid.IntRange(1, 12).Draw(t, "cells") {
			cells = append(cells, cell(col))
			marks = append(marks, mark(col, rapid.SampledFrom([]batch.CellState{batch.Sprouted, batch.Thinned, batch.Empty, batch.Lost}).Draw(t, "state"), "eaten"))
		}
		require.NoError(t, s.Apply(batch.Act{Kind: batch.Sow, SeedsPerCell: 1, Cells: cells}))
		require.NoError(t, s.Apply(batch.Act{Kind: batch.Count, Marks: marks}))
		standing, empties, losses := s.Standing(), s.Empties(), s.Losses()
		if from, to := s.Gaps("t"); len(from) > 0 {
			require.NoError(t, s.Apply(batch.Act{Kind: batch.Shift, From: from, To: to}))
		}
		require.NoError(t, s.Balance())
		require.Equal(t, []int{standing, empties, losses}, []int{s.Standing(), s.Empties(), s.Losses()})
		for col := range standing {
			require.True(t, s.Cells[cell(col)].State.Alive(), "%d of %d", col, standing)
		}
	})
}

// What is marked as given away is handed over, and marked as growing again the books are as before.
func TestHandingOverIsUndoneByAMark(t *testing.T) {
	s := batch.New()
	require.NoError(t, s.Apply(batch.Act{Kind: batch.Sow, SeedsPerCell: 1, Cells: []batch.Spot{cell(0), cell(1)}}))
	require.NoError(t, s.Apply(batch.Act{Kind: batch.Count, Marks: []batch.Mark{mark(0, batch.Sprouted, ""), mark(1, batch.Sprouted, "")}}))
	before := s.Clone()
	require.NoError(t, s.Apply(batch.Act{Kind: batch.Count, Marks: []batch.Mark{mark(0, batch.Lost, "given-away")}}))
	require.Equal(t, []int{1, 0, 1}, []int{s.HandedOver(), s.Losses(), s.Standing()})
	require.NoError(t, s.Apply(batch.Act{Kind: batch.Count, Marks: []batch.Mark{mark(0, batch.Sprouted, "")}}))
	require.Equal(t, before, s)
	require.NoError(t, s.Apply(batch.Act{Kind: batch.HandOver, From: []batch.Spot{cell(0), cell(1)}, Way: "sold"}))
	require.Equal(t, []int{2, 0, 0}, []int{s.HandedOver(), s.Losses(), s.Standing()})
	require.NoError(t, s.Balance())
}

// Entries of earlier releases hold causes and signs as English words.
func TestEarlierWordsAreRead(t *testing.T) {
	var a batch.Act
	require.NoError(t, json.Unmarshal([]byte(`{"kind": "adopt", "cause": "damping off", "signs": ["pests on them", "cold##plants", "dry"],
		"marks": [{"cause": "dead on arrival"}]}`), &a))
	require.Equal(t, batch.Cause("damping-off"), a.Cause)
	require.Equal(t, batch.DeadOnArrival, a.Marks[0].Cause)
	require.NoError(t, a.Check())
	for _, s := range a.Signs {
		require.NotEmpty(t, s.Name(), s)
	}
	var lost map[batch.Cause]int
	require.NoError(t, json.Unmarshal([]byte(`{"too cold":3}`), &lost))
	require.Equal(t, 3, lost["too-cold"])
	a.Cause = "bad luck"
	require.Error(t, a.Check())
}
