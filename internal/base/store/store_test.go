package store_test

import (
	"context"
	"errors"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/core/field"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
	"ulpa/internal/base/who"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/site"
)

var ctx = context.Background()

func TestWhenItFailsNothingIsKept(t *testing.T) {
	d := testdb.Empty(t)
	w := d.Person(t, d.School(t, "small"), who.Coordinator, "ines")
	boom := errors.New("boom")
	add := func(after error) error {
		return d.Store.InSchool(ctx, w, func(tx *store.Tx) error {
			if err := tx.PutPlace(ctx, db.PutPlaceParams{SchoolID: w.School, ID: uuid.New(), Name: "Bench", Kind: "bench", TemperatureC: new(20.0)}); err != nil {
				return err
			}
			return after
		})
	}
	count := func() (n int) {
		require.NoError(t, d.Store.InSchool(ctx, w, func(tx *store.Tx) error {
			places, err := tx.ListPlaces(ctx)
			n = len(places)
			return err
		}))
		return n
	}
	require.ErrorIs(t, add(boom), boom)
	require.Zero(t, count())
	require.NoError(t, add(nil))
	var refused field.Errors
	require.ErrorAs(t, add(nil), &refused, "a name twice is refused in words")
	require.Equal(t, "name", refused[0].Field)
	require.Equal(t, 1, count())
	require.Panics(t, func() {
		_ = d.Store.InSchool(ctx, w, func(*store.Tx) error { panic("in the middle") })
	})
	require.Equal(t, 1, count(), "a panic gives its connection back")
	err := d.Store.InSchool(ctx, w, func(tx *store.Tx) error {
		_, err := tx.GetPlace(ctx, uuid.New())
		return err
	})
	require.ErrorIs(t, err, store.ErrNotFound)
}

// A pooled connection never carries one school's setting into another's work,
// however the two take turns, and whether or not the work succeeds.
func TestSchoolsTakingTurns(t *testing.T) {
	d := testdb.Empty(t)
	var people []who.Who
	for _, slug := range []string{"north", "south", "east"} {
		w := d.Person(t, d.School(t, slug), who.Coordinator, slug)
		people = append(people, w)
	}
	var wg sync.WaitGroup
	for i := range 12 {
		wg.Go(func() {
			for j := range 40 {
				w := people[(i+j)%3]
				err := d.Store.InSchool(ctx, w, func(tx *store.Tx) error {
					s, err := tx.GetSchool(ctx)
					if err != nil {
						return err
					}
					list, err := tx.AllPeople(ctx)
					if err != nil {
						return err
					}
					if s.ID != w.School || len(list) != 1 || list[0].Name != w.Name {
						t.Errorf("%s saw %s and %d people", w.Name, s.Name, len(list))
					}
					if j%3 == 0 {
						return errors.New("rolled back")
					}
					return nil
				})
				if err != nil && j%3 != 0 {
					t.Error(err)
				}
			}
		})
	}
	wg.Wait()
}

func TestSessions(t *testing.T) {
	d := testdb.Empty(t)
	s := d.Store.Sessions()
	require.NoError(t, s.Commit("token", []byte("one"), time.Now().Add(time.Hour)))
	require.NoError(t, s.Commit("token", []byte("two"), time.Now().Add(time.Hour)))
	data, ok, err := s.Find("token")
	require.NoError(t, err)
	require.True(t, ok)
	require.Equal(t, "two", string(data))
	require.NoError(t, s.Commit("over", []byte("x"), time.Now().Add(-time.Second)))
	_, ok, err = s.Find("over")
	require.NoError(t, err)
	require.False(t, ok, "a session that is over is not found")
	owner, err := pgx.Connect(ctx, d.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(ctx)
	var raw int
	require.NoError(t, owner.QueryRow(ctx, "SELECT count(*) FROM session WHERE position('token'::bytea IN token_hash) > 0").Scan(&raw))
	require.Zero(t, raw, "the token itself is stored nowhere")
	require.NoError(t, d.Store.Sweep(ctx))
	require.NoError(t, owner.QueryRow(ctx, "SELECT count(*) FROM session WHERE expiry < now()").Scan(&raw))
	require.Zero(t, raw, "what is over is forgotten")
	require.NoError(t, s.Delete("token"))
	_, ok, err = s.Find("token")
	require.NoError(t, err)
	require.False(t, ok)
}

// What was worked out is used again until somebody of that school writes, in
// whichever process; another school's writing changes nothing.
func TestWhatIsKeptHoldsUntilSomebodyWrites(t *testing.T) {
	d := testdb.Empty(t)
	a, b := d.Person(t, d.School(t, "one"), who.Coordinator, "ann"), d.Person(t, d.School(t, "two"), who.Coordinator, "ben")
	elsewhere, err := store.Open(t.Context(), d.AppURL, d.Clock.Now) // another process
	require.NoError(t, err)
	t.Cleanup(elsewhere.Close)
	worked := 0
	ask := func(w who.Who, key string) (n int) {
		require.NoError(t, d.Store.Read(t.Context(), w, func(tx *store.Tx) error {
			var err error
			n, err = store.Keep(t.Context(), tx, key, func() (int, error) {
				worked++
				places, err := tx.ListPlaces(t.Context())
				return len(places), err
			})
			return err
		}))
		return n
	}
	add := func(s *store.Store, w who.Who, name string) {
		require.NoError(t, site.AddPlace(t.Context(), s, w, site.PlaceSetup{ID: uuid.New(), Name: name, Kind: "bench", TemperatureC: new(20.0)}))
	}
	require.Equal(t, []int{0, 0, 0}, []int{ask(a, "places"), ask(a, "places"), ask(b, "places")})
	require.Equal(t, 2, worked, "once for each school")
	add(elsewhere, a, "North")
	require.Equal(t, []int{1, 1, 0}, []int{ask(a, "places"), ask(a, "other"), ask(b, "places")})
	require.Equal(t, 4, worked, "the other school's still holds")
	refused := errors.New("no")
	require.ErrorIs(t, d.Store.InSchool(t.Context(), a, func(tx *store.Tx) error {
		n, err := store.Keep(t.Context(), tx, "places", func() (int, error) { worked++; return -1, nil })
		require.NoError(t, err)
		require.Equal(t, -1, n, "whoever writes sees their own work")
		return refused
	}), refused)
	require.Equal(t, 1, ask(a, "places"), "what was taken back changed nothing")
	require.Equal(t, 5, worked)
	for i := range 600 {
		require.Equal(t, 1, ask(a, fmt.Sprint("many ", i)), "more than is kept is worked out again")
	}
	// What nothing hangs on drops nothing, and neither do other schools, however many.
	ask(a, "places")
	worked = 0
	for _, door := range []func(context.Context, who.Who, func(*store.Tx) error) error{d.Store.Aside, d.Store.ReadIn} {
		require.NoError(t, door(t.Context(), a, func(*store.Tx) error { return nil }))
	}
	for i := range 100 {
		ask(who.Who{School: d.School(t, fmt.Sprint("school-", i)), Zone: time.UTC}, "places")
		ask(a, "places")
	}
	require.Equal(t, 100, worked)
	// Whoever changes what something hangs on tells it, by whichever door: a meter's file brings a
	// series too.
	varieties := func() (n int) {
		require.NoError(t, d.Store.Read(t.Context(), a, func(tx *store.Tx) error {
			got, err := store.Keep(t.Context(), tx, "varieties", func() (int, error) {
				list, err := tx.AllVarieties(t.Context())
				return len(list), err
			})
			n = got
			return err
		}))
		return n
	}
	require.Zero(t, varieties())
	for i, door := range []func(context.Context, who.Who, func(*store.Tx) error) error{elsewhere.ReadIn, elsewhere.Aside, elsewhere.InSchool} {
		require.NoError(t, door(t.Context(), a, func(tx *store.Tx) error {
			return tx.PutVariety(t.Context(), db.PutVarietyParams{SchoolID: a.School, ID: uuid.New(), Crop: "lettuce", Name: fmt.Sprint(i)})
		}))
		require.Equal(t, i+1, varieties())
	}
	// A page that reads cannot write, whatever its code says.
	require.ErrorContains(t, d.Store.Read(t.Context(), a, func(tx *store.Tx) error {
		return tx.PutVariety(t.Context(), db.PutVarietyParams{SchoolID: a.School, ID: uuid.New(), Crop: "lettuce", Name: "x"})
	}), "read-only")
}

// What is read within a snapshot is of one moment, however many read; another school, and
// whoever reads after its release, read by themselves; a failure ends it.
func TestASnapshotIsOfOneMoment(t *testing.T) {
	d := testdb.Empty(t)
	a, b := who.Who{
		School: d.School(t, "one"),
		Kind:   who.Coordinator,
		Zone:   time.UTC,
	}, who.Who{
		School: d.School(t, "two"),
		Kind:   who.Coordinator,
		Zone:   time.UTC,
	}
	places := func(ctx context.Context, w who.Who) (n int) {
		require.NoError(t, d.Store.Read(ctx, w, func(tx *store.Tx) error {
			list, err := tx.ListPlaces(ctx)
			n = len(list)
			return err
		}))
		return n
	}
	add := func(w who.Who, name string) {
		require.NoError(t, site.AddPlace(ctx, d.Store, w, site.PlaceSetup{ID: uuid.New(), Name: name, Kind: "bench", TemperatureC: new(20.0)}))
	}
	in, done := d.Store.Snapshot(ctx)
	require.Zero(t, places(in, a))
	add(a, "North")
	add(b, "South")
	require.Equal(t, []int{0, 1, 1}, []int{places(in, a), places(ctx, a), places(in, b)})
	done()
	require.Equal(t, 1, places(in, a), "after it everybody reads by themselves")
	in, done = d.Store.Snapshot(ctx)
	defer done()
	require.Equal(t, 1, places(in, a))
	require.ErrorIs(t, d.Store.Read(in, a, func(tx *store.Tx) error { _, err := tx.GetPlace(in, uuid.New()); return err }), store.ErrNotFound)
	add(a, "East")
	require.Equal(t, 1, places(in, a), "what is not there ends nothing")
	require.Error(t, d.Store.Read(in, a, func(tx *store.Tx) error { _, err := tx.Conn().Exec(in, "SELECT 1/0"); return err }))
	require.Equal(t, 2, places(in, a), "a failure does")
}
