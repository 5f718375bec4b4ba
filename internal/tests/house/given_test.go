package house_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/require"

	"ulpa/core/calendar"
	core "ulpa/core/round"
	"ulpa/internal/base/things"
	"ulpa/internal/base/who"
	"ulpa/internal/work/jobs"
	"ulpa/internal/work/people"
	"ulpa/internal/work/round"
)

// A stop is somebody's until that is changed, a task for its day, before the stop and before
// what a job says; whoever leaves has nothing any more.
func TestTheRoundIsGivenOut(t *testing.T) {
	t.Parallel()
	f := newFixture(t)
	today := calendar.Of(f.Clock.Now())
	other := f.Person(t, f.ines.School, who.Crew, "Punt")
	ids := map[string]string{"Sweep": f.crew.Person.String(), "Fold nets": "", "Sort labels": ""}
	for name, to := range ids {
		_, err := jobs.Kind.Put(ctx, f.Store, f.ines, jobs.Setup{
			ID: uuid.New(), Name: name, Place: f.frame, From: today, Every: 1, Minutes: 4, For: to,
		}, things.New)
		require.NoError(t, err)
	}
	keys := map[string]core.Key{}
	whose := func() map[string]string {
		t.Helper()
		walk, err := round.Today(ctx, f.Store, f.ines)
		require.NoError(t, err)
		out := map[string]string{}
		for _, stop := range walk.Stops {
			out[stop.Name] = stop.For
			for _, task := range stop.Tasks {
				if task.Kind == core.Own {
					out[task.What().String()], keys[task.What().String()] = task.For, task.Key
				}
			}
		}
		return out
	}
	give := func(w who.Who, gifts ...round.Gift) error { return round.Give(ctx, f.Store, w, gifts) }
	all := core.StopKey(f.frame.String())
	require.Equal(t, f.crew.Name, whose()["Sweep"])
	require.ErrorIs(t, give(f.crew, round.Gift{Key: all, To: f.crew.Person}), who.ErrNotAllowed)
	refusedAt(t, "to", give(f.ines, round.Gift{Key: keys["Fold nets"], To: other.Person}, round.Gift{Key: all, To: uuid.New()}))
	refusedAt(t, "key", give(f.ines, round.Gift{Key: core.Key{Kind: "job", Of: uuid.NewString()}, To: other.Person}))
	require.Empty(t, whose()["Fold nets"], "all of it or nothing")
	require.NoError(t, give(f.ines, round.Gift{Key: all, To: other.Person}, round.Gift{Key: keys["Fold nets"], To: f.ines.Person}))
	got := whose()
	require.Equal(t, []string{other.Name, f.crew.Name, f.ines.Name, other.Name}, []string{got["Frame"], got["Sweep"], got["Fold nets"], got["Sort labels"]})

	f.Clock.Set(f.Clock.Now().AddDate(0, 0, 1))
	got = whose()
	require.Equal(t, []string{other.Name, f.crew.Name, other.Name, other.Name}, []string{got["Frame"], got["Sweep"], got["Fold nets"], got["Sort labels"]})
	require.NoError(t, people.Leave(ctx, f.Store, f.ines, other.Person))
	require.Empty(t, whose()["Frame"])
	refusedAt(t, "to", give(f.ines, round.Gift{Key: all, To: other.Person}))
	require.NoError(t, give(f.ines, round.Gift{Key: all, To: f.ines.Person}))
	require.NoError(t, give(f.ines, round.Gift{Key: all}))
	require.Empty(t, whose()["Sort labels"])
}
