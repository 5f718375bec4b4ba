package batch_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"ulpa/core/batch"
)

// An open flat of two rows: counted, thinned, pricked out into cells, pots and ports, and what
// never came is known in the end.
func TestAnOpenFlatIsCountedThinnedAndPrickedOut(t *testing.T) {
	seen := func(col, n int, over bool) batch.Mark {
		return batch.Mark{In: "t", Col: col, State: batch.Sprouted, N: n, Over: over}
	}
	s, err := batch.Fold([]batch.Act{
		{Kind: batch.Sow, Open: true, SeedsPerCell: 60, Cells: []batch.Spot{cell(0), cell(1)}},
		{Kind: batch.Count, Marks: []batch.Mark{seen(0, 40, false), seen(1, 12, false)}},
	})
	require.NoError(t, err)
	require.Equal(t, []int{120, 120, 52, 68, 0}, []int{s.Sown, s.Seeds, s.Standing(), s.Waiting(), s.Empties()})

	require.NoError(t, s.Apply(batch.Act{Kind: batch.Count, Marks: []batch.Mark{seen(0, 50, true), seen(1, 12, false)}}))
	require.Equal(t, []int{62, 48, 10}, []int{s.Standing(), s.Waiting(), s.Empties()})
	require.NoError(t, s.Apply(batch.Act{Kind: batch.Count, Marks: []batch.Mark{seen(0, 53, true)}}), "some came all the same")
	require.Equal(t, []int{65, 48, 7, 65}, []int{s.Standing(), s.Waiting(), s.Empties(), s.Sprouted})

	require.NoError(t, s.Apply(batch.Act{Kind: batch.HandOver, Way: "thinned-out", From: []batch.Spot{section(0, 3)}}))
	require.Equal(t, []int{0, 3, 0}, []int{s.Losses(), s.HandedOver(), s.Given()}, "what was thinned out is no loss, and given to nobody")
	_, err = s.Choose([]batch.Spot{{Kind: batch.InCell, In: "t", N: 63}})
	require.ErrorContains(t, err, "only 62 are there")
	other := batch.Spot{Kind: batch.InCell, In: "plugs"}
	require.ErrorContains(t, s.Apply(batch.Act{Kind: batch.Shift, From: []batch.Spot{section(0, 2)}, To: []batch.Spot{other}}), "2 plants for 1 places")
	require.NoError(t, s.Apply(batch.Act{Kind: batch.Shift, From: []batch.Spot{section(0, 1)}, To: []batch.Spot{other}}))

	from, err := s.Choose([]batch.Spot{{Kind: batch.InCell, In: "t", N: 55}})
	require.NoError(t, err)
	require.Equal(t, []batch.Spot{section(0, 49), section(1, 6)}, from, "so many of the tray, row by row")
	require.NoError(t, s.Apply(batch.Act{Kind: batch.PotOn, From: from, To: []batch.Spot{{Kind: batch.InStand, In: "bench", Pot: "small", N: 55}}}))
	require.NotContains(t, s.Cells, cell(0), "a row with nothing in it is free")
	require.Equal(t, []int{55, 7, 7, 48}, []int{s.Moved, s.InTrays(), s.Empties(), s.Waiting()})

	require.NoError(t, s.Apply(batch.Act{Kind: batch.Count, Marks: []batch.Mark{{In: "t", Col: 1, N: 0, Over: true, Cause: "damping-off"}}}))
	require.Equal(t, map[batch.Cause]int{"damping-off": 6}, s.Lost)
	require.NoError(t, s.Balance())
	require.ErrorContains(t, s.Apply(batch.Act{Kind: batch.Shift, From: []batch.Spot{section(1, 1)}, To: []batch.Spot{cell(5)}}), "only 0 are there")
	require.NoError(t, s.Apply(batch.Act{Kind: batch.Wash, Cells: []batch.Spot{cell(1)}}))
	require.Equal(t, 55, s.Empties())
	require.NoError(t, s.Balance())
}

// More that come up than seeds were thought to be there say that more was sown.
func TestMoreMayComeUpThanWasThought(t *testing.T) {
	s, err := batch.Fold([]batch.Act{
		{Kind: batch.Sow, Open: true, SeedsPerCell: 20, Cells: []batch.Spot{cell(0)}},
		{Kind: batch.Count, Marks: []batch.Mark{{In: "t", State: batch.Sprouted, N: 26}}},
	})
	require.NoError(t, err)
	require.Equal(t, []int{26, 26, 26, 0}, []int{s.Sown, s.Seeds, s.Standing(), s.Waiting()})
	require.NoError(t, s.Balance())
	require.ErrorContains(t, s.Apply(batch.Act{Kind: batch.Count, Marks: []batch.Mark{{In: "t", State: batch.Sprouted, N: -1}}}), "A1: must be 0 to")
}

// What is thinned out of a cell may be replanted: one stays, and the other is a plant of its own.
func TestThinnedSeedlingsAreReplanted(t *testing.T) {
	s, err := batch.Fold([]batch.Act{
		{Kind: batch.Sow, SeedsPerCell: 3, Cells: []batch.Spot{cell(0), cell(1)}},
		{Kind: batch.Count, Marks: []batch.Mark{mark(0, batch.Sprouted, "")}},
		{Kind: batch.Shift, Extra: true, From: []batch.Spot{cell(0), cell(0)}, To: []batch.Spot{cell(5), cell(6)}},
	})
	require.NoError(t, err)
	require.Equal(t, []int{4, 6, 3, 3, 2}, []int{s.Sown, s.Seeds, s.Sprouted, s.Standing(), s.Replanted})
	require.Equal(t, batch.Thinned, s.Cells[cell(0)].State)
	require.NoError(t, s.Balance())
	refused := s.Apply(batch.Act{Kind: batch.Shift, Extra: true, From: []batch.Spot{cell(1)}, To: []batch.Spot{cell(7)}})
	require.ErrorContains(t, refused, "A2 holds no plant")
}
