package house_test

import (
	"maps"
	"slices"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	core "ulpa/core/round"
	"ulpa/core/say"
	"ulpa/internal/base/ledger"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/round"
)

// Every kind of task is whole: it is about something of a known sort, what ends it is a kind of
// entry, who does it finds a page or needs none, and its key is read back as it was written.
func TestKindsOfTasksAreWhole(t *testing.T) {
	require.Greater(t, len(core.Kinds()), 30)
	byATick := []*core.Kind{core.Own, core.Close} // which have no page
	for name, k := range core.Kinds() {
		require.Equal(t, name, k.Name)
		require.NotEmpty(t, k.Of, name)
		for _, e := range k.EndedBy {
			require.Contains(t, ledger.Kinds(), e, "%s is ended by entries of that kind", name)
		}
		require.False(t, k.Writes && len(k.EndedBy) == 0, "%s: its page writes what ends it", name)
		path, do := round.PageOf(core.Task{Kind: k})
		require.Equal(t, slices.Contains(byATick, k), path == "", "%s has a page, or a tick does it", name)
		require.Equal(t, path == "", do == say.Words(""), name)
		for _, part := range []string{"", "50 mm: square", "rinse"} {
			key := core.Key{Kind: name, Of: uuid.NewString(), Day: 20_000, Part: part}
			back, ok := core.ReadKey(key.String())
			require.True(t, ok, key)
			require.Equal(t, key, back)
		}
	}
	// As earlier releases kept it.
	id := uuid.NewString()
	key, ok := core.ReadKey("care:" + id + "cover_off:2027-03-18")
	require.True(t, ok)
	require.Equal(t, []string{id, "cover_off"}, []string{key.Of, key.Part})
	for _, odd := range []string{"", "stop", "job:x", "job:x:soon", ":::"} {
		_, ok := core.ReadKey(odd)
		require.False(t, ok, odd)
	}
}

// Whatever comes up on the demo's round in weeks, on working days and before closed ones: it says
// why, ticked off or put off it is gone, taken back it is there again, and it is about something
// that is there.
func TestWhatComesUpOnTheRound(t *testing.T) {
	d := testdb.Demo(t)
	w := d.Ines(t)
	seen := map[string]bool{}
	find := func(key string) (core.Task, bool) {
		walk, err := round.Today(ctx, d.Store, w)
		require.NoError(t, err)
		for _, stop := range walk.Stops {
			for _, x := range stop.Tasks {
				require.Equal(t, stop.Place, x.Place)
				if key == "" && !seen[x.Kind.Name] || x.Key.String() == key {
					return x, true
				}
			}
		}
		return core.Task{}, false
	}
	for range 16 {
		for {
			x, ok := find("")
			if !ok {
				break
			}
			name, key := x.Kind.Name, x.Key.String()
			seen[name] = true
			require.NotEmpty(t, x.What().String(), name)
			require.NotEmpty(t, x.Why.String(), name)
			require.Positive(t, x.Minutes, name)
			_, err := uuid.Parse(x.Of)
			require.NoError(t, err, name)
			if of := x.Kind.Of; of != core.Plans && of != core.Reserved && of != core.Jobs {
				id, _ := uuid.Parse(x.Of)
				thing, err := notebook.Thing(ctx, d.Store, w, id)
				require.NoError(t, err, name)
				require.Equal(t, string(of), string(thing.Kind), name)
			}
			for _, skip := range []bool{false, true} {
				id := uuid.New()
				_, err := round.Tick(ctx, d.Store, w, round.TickRequest{ID: id, Task: key, Skip: skip, Unwritten: x.Acts() && !skip})
				require.NoError(t, err, name)
				_, there := find(key)
				require.False(t, there, "%s is still asked for", name)
				require.NoError(t, notebook.Undo(ctx, d.Store, w, ledger.Act{ID: uuid.New(), On: id}))
				_, there = find(key)
				require.True(t, there, "%s is not asked for again", name)
			}
		}
		require.NoError(t, d.Clock.Advance(d.Clock.Now().AddDate(0, 0, 1)))
	}
	require.Greater(t, len(seen), 17, "seen: %v", slices.Sorted(maps.Keys(seen)))
}
