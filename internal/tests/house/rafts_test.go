package house_test

import (
	"slices"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"ulpa/core/field"
	"ulpa/core/raft"
	plan "ulpa/core/round"
	"ulpa/internal/base/ledger"
	"ulpa/internal/base/who"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/rafts"
	"ulpa/internal/work/round"
	"ulpa/internal/work/site"
)

// the raft of the demo, as its page has it.
func longTable(t require.TestingT, d testdb.DB, ines who.Who) rafts.Raft {
	places, err := site.ReadPlaces(ctx, d.Store, ines)
	require.NoError(t, err)
	i := slices.IndexFunc(places, func(p site.Place) bool { return p.Boards > 1 })
	r, err := rafts.Get(ctx, d.Store, ines, places[i].ID, rafts.Asked{})
	require.NoError(t, err)
	return r
}

// The advice of a raft, followed to its end, each act sent twice: a board is harvested, goes
// round, is planted, and says afterwards what it bore; what was seen before somebody else
// acted is refused; what is undone was not.
func TestABoardGoesRound(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	r := longTable(t, d, ines)
	first := r.Do[0]
	require.Equal(t, raft.Harvest, first.Kind)
	require.Equal(t, r.Order()[len(r.Boards)-1], first.Board)
	cut := rafts.HarvestRequest{ID: uuid.New(), Place: r.Place.ID, Batch: uuid.MustParse(first.Batch), Board: first.Board, Grams: 90_000}
	require.ErrorContains(t, rafts.Harvest(ctx, d.Store, ines, cut), "decimal point")
	cut.Grams = 1210
	for range 2 {
		require.NoError(t, rafts.Harvest(ctx, d.Store, ines, cut))
	}
	walk, err := round.Today(ctx, d.Store, ines)
	require.NoError(t, err)
	require.True(t, slices.ContainsFunc(walk.Stops, func(s plan.Stop) bool {
		return slices.ContainsFunc(s.Tasks, func(x plan.Task) bool { return x.Kind.Name == "boards" })
	}), "the empty board is on the round")

	r = longTable(t, d, ines)
	i := slices.IndexFunc(r.Do, func(x raft.Do) bool { return len(x.Order) > 0 })
	on := site.BoardsRequest{ID: uuid.New(), Place: r.Place.ID, Moved: raft.Moved{Order: r.Do[i].Order, Was: r.Order(), Scrubbed: []int{first.Board}}}
	for range 2 {
		require.NoError(t, site.MoveBoards(ctx, d.Store, ines, on))
	}
	other := on
	other.ID, other.Order = uuid.New(), []int{4, 3, 2, 1}
	require.ErrorContains(t, site.MoveBoards(ctx, d.Store, ines, other), "somebody else moved")
	other.Was, other.At = nil, d.Store.Now().Add(-48*time.Hour)
	require.ErrorContains(t, site.MoveBoards(ctx, d.Store, ines, other), "since then")
	require.Equal(t, on.Order, longTable(t, d, ines).Order())

	r = longTable(t, d, ines)
	for _, x := range r.Do {
		if x.Kind != raft.Plant {
			continue
		}
		q := rafts.PlantRequest{ID: uuid.New(), Place: r.Place.ID, Batch: uuid.MustParse(x.Batch), Board: x.Board, Plants: x.Plants}
		many := q
		many.ID, many.Plants = uuid.New(), 40
		require.ErrorAs(t, rafts.Plant(ctx, d.Store, ines, many), new(field.Errors))
		for range 2 {
			require.NoError(t, rafts.Plant(ctx, d.Store, ines, q))
		}
		b, err := rafts.BoardOf(ctx, d.Store, ines, r.Place.ID, x.Board)
		require.NoError(t, err)
		require.Equal(t, []int{x.Plants, x.Plants}, []int{b.Stays[0].Standing, b.Stays[0].Plants})
	}
	for _, x := range longTable(t, d, ines).Do {
		require.Equal(t, raft.Wait, x.Kind, "there is nothing left to do")
	}
	b, err := rafts.BoardOf(ctx, d.Store, ines, r.Place.ID, first.Board)
	require.NoError(t, err)
	require.Equal(t, ines.Day(d.Store.Now()), b.Scrubbed)
	require.InDelta(t, 1210, b.Grams, 1e-6)
	require.NoError(t, notebook.Undo(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: on.ID}))
	require.Equal(t, on.Was, longTable(t, d, ines).Order())
	inStep(t, d, ines)
}

// Whatever order boards are brought into and whatever of it is undone, they float as the
// last of what still stands says, and every plant is on one board.
func TestBoardsFloatAsWasWritten(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	ines := d.Ines(t)
	r := longTable(t, d, ines)
	type said struct {
		id    uuid.UUID
		order []int
	}
	standing := []said{{uuid.Nil, r.Order()}}
	plants := 0
	for _, b := range r.Boards {
		plants += b.Plants()
	}
	rapid.Check(t, func(t *rapid.T) {
		for range rapid.IntRange(1, 4).Draw(t, "acts") {
			now := standing[len(standing)-1].order
			if len(standing) > 1 && rapid.Bool().Draw(t, "back") {
				i := rapid.IntRange(1, len(standing)-1).Draw(t, "which")
				require.NoError(t, notebook.Undo(ctx, d.Store, ines, ledger.Act{ID: uuid.New(), On: standing[i].id}))
				standing = slices.Delete(standing, i, i+1)
			} else if order := rapid.Permutation(now).Draw(t, "order"); !slices.Equal(order, now) {
				q := site.BoardsRequest{ID: uuid.New(), Place: r.Place.ID, Moved: raft.Moved{Order: order}}
				require.NoError(t, site.MoveBoards(ctx, d.Store, ines, q))
				standing = append(standing, said{q.ID, order})
			}
		}
		require.Equal(t, standing[len(standing)-1].order, longTable(t, d, ines).Order())
	})
	for _, b := range longTable(t, d, ines).Boards {
		plants -= b.Plants()
	}
	require.Zero(t, plants)
	inStep(t, d, ines)
}
