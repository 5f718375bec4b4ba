package memo_test

import (
	"fmt"
	"maps"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/memo"
)

func thing(n int) uuid.UUID { return uuid.UUID{15: byte(n)} }

// Books that change at random, and readers who see them as they were after some write, perhaps not
// the latest: whatever the shelf gives is what a reader would work out from what they see.
func TestAShelfGivesWhatIsTrue(t *testing.T) {
	type state map[memo.Row]int // by row, how often it was written
	kinds := []string{"batch", "tray", "entry:note", "entry:look", "entry:void"}
	for seed := range uint64(40) {
		rng := rand.New(rand.NewPCG(seed, 3)) // #nosec G404 -- a play
		shelf := &memo.Shelf{Schools: 2, Values: 6}
		states, told := []state{{}}, [][]memo.Row{nil}
		found := 0
		for range 400 {
			if rng.IntN(3) == 0 { // a write
				next, rows := maps.Clone(states[len(states)-1]), []memo.Row{}
				for range 1 + rng.IntN(2) {
					r := memo.Row{Of: kinds[rng.IntN(len(kinds))], Thing: thing(1 + rng.IntN(3))}
					next[r]++
					rows = append(rows, r)
					if r.Of == "entry:void" { // undoes an entry of any kind about the thing
						next[memo.Row{Of: "entry:note", Thing: r.Thing}]++
						next[memo.Row{Of: "entry:look", Thing: r.Thing}]++
					}
				}
				states, told = append(states, next), append(told, rows)
				continue
			}
			n := max(0, len(states)-1-rng.IntN(3)) // what a reader sees who began a little ago
			at := memo.Moment{N: int64(n)}
			if since, behind := shelf.Behind("school", at); behind {
				var rows []memo.Row
				for i := since + 1; i <= at.N; i++ {
					rows = append(rows, told[i]...)
				}
				shelf.Advance("school", since, at, rows)
			}
			// What a value hangs on: all of a table, or of one thing of it, or entries of any kind.
			on := memo.Row{Of: append(kinds, memo.AnyEntry)[rng.IntN(len(kinds)+1)]}
			if rng.IntN(2) == 0 {
				on.Thing = thing(1 + rng.IntN(3))
			}
			key := fmt.Sprint(on)
			var truth []int
			for _, r := range slices.SortedFunc(maps.Keys(states[n]), func(a, b memo.Row) int { return slices.Compare([]byte(fmt.Sprint(a)), []byte(fmt.Sprint(b))) }) {
				entry := on.Of == memo.AnyEntry && r.Of[:2] == "en"
				if (r.Of == on.Of || entry) && (on.Thing == uuid.Nil || on.Thing == r.Thing) {
					truth = append(truth, states[n][r])
				}
			}
			if v := shelf.Find("school", at, key); v != nil {
				require.Equal(t, fmt.Sprint(truth), v.Value, "%v at %d of %d", on, n, len(states)-1)
				found++
				continue
			}
			shelf.Put("school", at, key, memo.Kept{Value: fmt.Sprint(truth), Rows: memo.Rows{on: true}})
		}
		require.Greater(t, found, 5, "nothing was held")
	}
}

// A value that is worked out thing by thing wears where its things were touched, and altogether
// where something else was.
func TestAValueWearsThingByThing(t *testing.T) {
	shelf := &memo.Shelf{Schools: 2, Values: 6}
	put := func(n int64) {
		shelf.Put("school", memo.Moment{N: n}, "lines", memo.Kept{
			Rows: memo.Rows{{Of: "batch"}: true, {Of: "crop"}: true, {Of: "entry:look"}: true}, Each: map[string]bool{"batch": true, "entry:look": true},
		})
	}
	at := func(n int64, rows ...memo.Row) *memo.Kept {
		since, _ := shelf.Behind("school", memo.Moment{N: n})
		shelf.Advance("school", since, memo.Moment{N: n}, rows)
		return shelf.Find("school", memo.Moment{N: n}, "lines")
	}
	shelf.Behind("school", memo.Moment{})
	put(0)
	require.Empty(t, at(1, memo.Row{Of: "tray", Thing: thing(1)}).Touched)
	require.Equal(t, map[uuid.UUID]bool{thing(1): true}, at(2, memo.Row{Of: "batch", Thing: thing(1)}).Touched)
	require.Equal(t, map[uuid.UUID]bool{thing(1): true, thing(2): true}, at(3, memo.Row{Of: "batch", Thing: thing(2)}).Touched)
	require.Len(t, at(3, memo.Row{Of: "entry:look"}).Touched, 2, "an entry is told of each thing it is about, too")
	require.Nil(t, shelf.Find("school", memo.Moment{N: 2}, "lines"), "who sees an earlier state cannot tell when it was touched")
	require.Nil(t, at(4, memo.Row{Of: "crop"}))
	put(4)
	require.Nil(t, at(5, memo.Row{Of: "batch"}), "of no thing that is told")
	put(5)
	require.Nil(t, at(6, memo.Row{Of: memo.Every}))
	put(6)
	require.Nil(t, shelf.Find("school", memo.Moment{Era: thing(1), N: 6}, "lines"), "another era")
}
