package house_test

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/crops"
	"ulpa/internal/demo"
	"ulpa/internal/notebook"
	"ulpa/internal/people"
	"ulpa/internal/round"
	"ulpa/internal/store"
	"ulpa/internal/testdb"
)

// restored fills a new database from a backup and opens it.
func restored(t *testing.T, file string) testdb.DB {
	owner, app, password := testdb.Bare(t)
	testdb.Alone(t, func() error { return store.Restore(ctx, owner, file, password) })
	require.ErrorContains(t, store.Restore(ctx, owner, file, password), "not empty")
	d := testdb.DB{OwnerURL: owner, AppURL: app, Clock: &demo.Clock{}}
	d.Clock.Set(time.Date(2027, 3, 18, 10, 5, 0, 0, time.UTC))
	var err error
	d.Store, err = store.Open(ctx, app, d.Clock.Now)
	require.NoError(t, err)
	t.Cleanup(d.Store.Close)
	return d
}

// The demo as the first release left it, restored and brought to today's shape:
// people sign in, the books agree, and what was set then still holds.
func TestTheFirstReleaseComesAlong(t *testing.T) {
	d := restored(t, "testdata/first_release.dump")
	w, err := people.SignIn(ctx, d.Store, people.From{}, demo.People[0].Login, demo.People[0].Secret)
	require.NoError(t, err)
	inStep(t, d, w)
	book, err := crops.Get(ctx, d.Store, w)
	require.NoError(t, err)
	lettuce := book.Find("lettuce")
	require.Equal(t, 3, lettuce.Ready.Leaves)
	require.Equal(t, 5.5, lettuce.Ready.HeightCM)
	require.Equal(t, 4, lettuce.Ready.HoldDays)
	require.True(t, lettuce.Ready.Every)
	require.True(t, lettuce.Own["ready_leaves"])
	walk, err := round.Today(ctx, d.Store, w)
	require.NoError(t, err)
	require.Len(t, walk.Stops, 8)
	lines, err := notebook.Read(ctx, d.Store, w, notebook.Filter{Most: 1000})
	require.NoError(t, err)
	require.Greater(t, len(lines), 150)
}

// prints are every table's rows as one hash a table.
func prints(t *testing.T, ownerURL string) map[string]string {
	conn, err := pgx.Connect(ctx, ownerURL)
	require.NoError(t, err)
	defer conn.Close(ctx)
	rows, err := conn.Query(ctx, "SELECT relname FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relkind = 'r' AND relname NOT IN ('session', 'sign_in_attempt') ORDER BY 1")
	require.NoError(t, err)
	names, err := pgx.CollectRows(rows, pgx.RowTo[string])
	require.NoError(t, err)
	out := map[string]string{}
	for _, n := range names {
		var hash string
		var count int
		q := fmt.Sprintf("SELECT count(*), coalesce(md5(string_agg(md5(x::text), '' ORDER BY md5(x::text))), '') FROM %s x", pgx.Identifier{n}.Sanitize())
		require.NoError(t, conn.QueryRow(ctx, q).Scan(&count, &hash))
		out[n] = fmt.Sprint(count, " ", hash)
	}
	return out
}

// A drill: back up while people write, restore elsewhere, and find everything
// that had been acknowledged; then once more in quiet, table by table.
func TestABackupHoldsWhatWasAcknowledged(t *testing.T) {
	d := testdb.Demo(t)
	w := d.Ines(t)
	var mu sync.Mutex
	var kept []uuid.UUID
	enough, stop := context.WithCancel(ctx)
	var writers sync.WaitGroup
	for range 4 {
		writers.Go(func() {
			for enough.Err() == nil {
				id := uuid.New()
				if err := notebook.Note(ctx, d.Store, w, notebook.NoteRequest{ID: id, Text: "written while the backup runs"}); err != nil {
					t.Error(err)
					return
				}
				mu.Lock()
				kept = append(kept, id)
				mu.Unlock()
			}
		})
	}
	time.Sleep(300 * time.Millisecond)
	mu.Lock()
	before := append([]uuid.UUID{}, kept...)
	mu.Unlock()
	file := filepath.Join(t.TempDir(), "ulpa.dump")
	require.NoError(t, store.Backup(ctx, d.OwnerURL, file))
	stop()
	writers.Wait()
	require.Greater(t, len(kept), len(before), "nobody wrote meanwhile: the drill would prove nothing")
	copied := restored(t, file)
	inStep(t, copied, w)
	var found int
	require.NoError(t, copied.Store.InSchool(ctx, w, func(tx *store.Tx) error {
		return tx.Conn().QueryRow(ctx, "SELECT count(*) FROM entry WHERE id = ANY($1)", before).Scan(&found)
	}))
	require.Equal(t, len(before), found, "every record acknowledged before the backup is in it once")

	quiet := filepath.Join(t.TempDir(), "quiet.dump")
	require.NoError(t, store.Backup(ctx, d.OwnerURL, quiet))
	require.NoFileExists(t, quiet+".part")
	again := restored(t, quiet)
	require.Equal(t, prints(t, d.OwnerURL), prints(t, again.OwnerURL))

	broken := filepath.Join(t.TempDir(), "broken.dump")
	whole, err := os.ReadFile(quiet)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(broken, whole[:len(whole)/2], 0o600))
	owner, _, password := testdb.Bare(t)
	testdb.Alone(t, func() error {
		require.Error(t, store.Restore(ctx, owner, broken, password), "half a file restores nothing")
		return nil
	})
	require.NotContains(t, prints(t, owner), "school")
}
