package house_test

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/crops"
	"ulpa/internal/work/notebook"
	"ulpa/internal/work/people"
	"ulpa/internal/work/round"
	"ulpa/internal/work/upkeep"
)

// restored fills a new database from a backup and opens it.
func restored(t *testing.T, file, passphrase string) testdb.DB {
	owner, app, password := testdb.Bare(t)
	testdb.Alone(t, func() error {
		found, err := upkeep.Restore(ctx, owner, file, password, passphrase, false)
		require.Empty(t, found.Stays)
		return err
	})
	_, err := upkeep.Restore(ctx, owner, file, password, passphrase, false)
	require.ErrorContains(t, err, "not empty")
	d := testdb.DB{OwnerURL: owner, AppURL: app, Clock: &demo.Clock{}}
	d.Clock.Set(time.Date(2027, 3, 18, 10, 5, 0, 0, time.UTC))
	d.Store, err = store.Open(ctx, app, d.Clock.Now)
	require.NoError(t, err)
	t.Cleanup(d.Store.Close)
	return d
}

// The demo as each release left it, restored and brought to today's shape: the database is
// made like a new one, people sign in, the books agree, and what was set then still holds.
func TestEveryReleaseComesAlong(t *testing.T) {
	t.Parallel()
	today := made(t, testdb.Empty(t).OwnerURL)
	files, err := filepath.Glob("testdata/shape_*.dump")
	require.NoError(t, err)
	require.Len(t, files, 6)
	for _, file := range files {
		t.Run(filepath.Base(file), func(t *testing.T) {
			d := restored(t, file, "")
			require.Equal(t, today, made(t, d.OwnerURL))
			w, err := people.SignIn(ctx, d.Store, people.From{}, demo.People[0].Login, demo.People[0].Secret)
			require.NoError(t, err)
			inStep(t, d, w)
			barren := read(t, d, w, func(tx *store.Tx) (n int, err error) {
				return n, tx.Conn().QueryRow(ctx, "SELECT coalesce(sum((state ->> 'barren')::int), 0)::int FROM batch WHERE closed").Scan(&n)
			})
			require.Positive(t, barren, "in closed batches some cells stayed empty")
			if strings.Contains(file, "shape_1.") {
				book, err := crops.Get(ctx, d.Store, w)
				require.NoError(t, err)
				lettuce := book.Find("lettuce")
				require.Equal(t, 3, lettuce.Ready.Leaves)
				require.Equal(t, 5.5, lettuce.Ready.HeightCM)
				require.Equal(t, 4, lettuce.Ready.HoldDays)
				require.True(t, lettuce.Ready.Every)
				require.True(t, lettuce.Own["ready_leaves"])
			}
			walk, err := round.Today(ctx, d.Store, w)
			require.NoError(t, err)
			require.Len(t, walk.Stops, 8)
			lines, err := notebook.Read(ctx, d.Store, w, notebook.Filter{Most: 1000})
			require.NoError(t, err)
			require.Greater(t, len(lines), 150)
		})
	}
}

// made says how a database is made: columns, constraints, indexes, functions, triggers,
// policies and what the application may.
func made(t *testing.T, ownerURL string) (out []string) {
	conn, err := pgx.Connect(ctx, ownerURL)
	require.NoError(t, err)
	defer conn.Close(ctx)
	rows, err := conn.Query(ctx, `
		SELECT c.relname || '.' || a.attname || ' ' || format_type(a.atttypid,
			a.atttypmod) || CASE WHEN a.attnotnull THEN ' NOT NULL ' ELSE ' ' END || coalesce(pg_get_expr(d.adbin, d.adrelid), '')
		       || has_column_privilege('ulpa_app', c.oid, a.attnum, 'SELECT')::text || has_column_privilege('ulpa_app', c.oid, a.attnum,
		       	'UPDATE') || has_column_privilege('ulpa_app', c.oid, a.attnum, 'INSERT') || has_table_privilege('ulpa_app', c.oid, 'DELETE')
		  FROM pg_attribute a JOIN pg_class c ON c.oid = a.attrelid LEFT JOIN pg_attrdef d ON d.adrelid = c.oid AND d.adnum = a.attnum
		 WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p') AND a.attnum > 0 AND NOT a.attisdropped
		UNION ALL SELECT conrelid::regclass || ' ' || pg_get_constraintdef(oid) FROM pg_constraint WHERE connamespace = 'public'::regnamespace AND conrelid <> 0
		UNION ALL SELECT indexdef FROM pg_indexes WHERE schemaname = 'public'
		UNION ALL SELECT pg_get_functiondef(p.oid) || p.prorows || has_function_privilege('ulpa_app', p.oid,
			'EXECUTE') FROM pg_proc p WHERE p.pronamespace = 'public'::regnamespace AND NOT EXISTS (SELECT FROM pg_depend d WHERE d.objid = p.oid AND d.deptype = 'e')
		UNION ALL SELECT pg_get_triggerdef(oid) FROM pg_trigger WHERE NOT tgisinternal
		UNION ALL SELECT tablename || ' ' || policyname || qual || coalesce(with_check, '') FROM pg_policies WHERE schemaname = 'public'
		ORDER BY 1`)
	require.NoError(t, err)
	out, err = pgx.CollectRows(rows, pgx.RowTo[string])
	require.NoError(t, err)
	require.Greater(t, len(out), 200)
	return out
}

// A program of another release than the database's does not start, and what was started
// before the database changed writes nothing more.
func TestAnotherShapeIsRefused(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	w := d.Ines(t)
	owner, err := pgx.Connect(ctx, d.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(ctx)
	// What a release before this one sends last in every transaction that writes.
	err = d.Store.InSchool(ctx, w, func(tx *store.Tx) error {
		_, err := tx.Conn().Exec(ctx, "INSERT INTO stamp (school_id) VALUES ($1) ON CONFLICT (school_id) DO UPDATE SET mark = excluded.mark", w.School)
		return err
	})
	require.Error(t, err)
	var shape store.ErrShape
	require.ErrorAs(t, d.Store.InSchool(ctx, w, func(tx *store.Tx) error {
		_, err := tx.Conn().
			Exec(ctx, "INSERT INTO stamp (school_id) VALUES ($1) ON CONFLICT (school_id, topic) DO UPDATE SET mark = excluded.mark, shape = NULL", w.School)
		return err
	}), &shape)
	for name, change := range map[string][2]string{
		"a newer one": {"INSERT INTO goose_db_version (version_id, is_applied) VALUES (900, true)", "DELETE FROM goose_db_version WHERE version_id = 900"},
		"an older one": {
			"UPDATE goose_db_version SET version_id = -version_id WHERE version_id > 8",
			"UPDATE goose_db_version SET version_id = -version_id WHERE version_id < 0",
		},
	} {
		_, err := owner.Exec(ctx, change[0])
		require.NoError(t, err)
		_, err = store.Open(ctx, d.AppURL, d.Clock.Now)
		require.ErrorAs(t, err, &shape, name)
		require.ErrorAs(t, d.Store.Fits(ctx), &shape, name)
		require.ErrorAs(t, notebook.Note(ctx, d.Store, w, notebook.NoteRequest{ID: uuid.New(), Text: "too late"}), &shape, name)
		if name == "a newer one" {
			require.ErrorAs(t, upkeep.Migrate(ctx, d.OwnerURL, ""), &shape)
		}
		_, err = owner.Exec(ctx, change[1])
		require.NoError(t, err)
		require.NoError(t, notebook.Note(ctx, d.Store, w, notebook.NoteRequest{ID: uuid.New(), Text: "in time"}), name)
	}
}

// Whatever is kept beside the facts, and however wrong, is brought back by an audit.
func TestAnAuditMendsWhatIsKeptBeside(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	w := d.Ines(t)
	before := prints(t, d.OwnerURL)
	owner, err := pgx.Connect(ctx, d.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(ctx)
	for _, q := range []string{
		"DELETE FROM tray_part WHERE batch_id IN (SELECT batch_id FROM tray_part ORDER BY 1 LIMIT 2)",
		"UPDATE batch SET latest = '{}', state = state || '{\"barren\": 0, \"sown\": 1}' WHERE closed OR code = 'LET-05'",
		"DELETE FROM cell WHERE state = 'sprouted' AND row = 1", "UPDATE cell SET state = 'lost', cause = 'eaten' WHERE col = 2", "DELETE FROM port",
		"UPDATE stand SET plants = plants + 1", "UPDATE tank SET state = '{}'",
	} {
		tag, err := owner.Exec(ctx, q)
		require.NoError(t, err)
		require.Positive(t, tag.RowsAffected(), q)
	}
	looked, err := upkeep.Audit(ctx, d.OwnerURL, false)
	require.NoError(t, err)
	require.Greater(t, len(looked.Stays), 8)
	require.NotContains(t, strings.Join(looked.Stays, ""), "0xc0", "values, not where they lie")
	mended, err := upkeep.Audit(ctx, d.OwnerURL, true)
	require.NoError(t, err)
	require.Equal(t, upkeep.Found{Schools: 1, Mended: len(looked.Stays)}, mended)
	inStep(t, d, w)
	after := prints(t, d.OwnerURL)
	require.Equal(t, before, after)
}

// prints are every table's rows as one hash a table, but for those that tell running programs what
// holds no longer.
func prints(t *testing.T, ownerURL string) map[string]string {
	conn, err := pgx.Connect(ctx, ownerURL)
	require.NoError(t, err)
	defer conn.Close(ctx)
	rows, err := conn.Query(
		ctx,
		`SELECT relname FROM pg_class WHERE relnamespace = 'public'::regnamespace AND relkind = 'r'
		    AND relname NOT IN ('session', 'sign_in_attempt', 'stamp', 'change') ORDER BY 1`,
	)
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
// that had been acknowledged.
func TestABackupHoldsWhatWasAcknowledged(t *testing.T) {
	t.Parallel()
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
	require.NoError(t, store.Backup(ctx, d.OwnerURL, file, ""))
	stop()
	writers.Wait()
	require.Greater(t, len(kept), len(before), "nobody wrote meanwhile: the drill would prove nothing")
	copied := restored(t, file, "")
	inStep(t, copied, w)
	var found int
	require.NoError(t, copied.Store.InSchool(ctx, w, func(tx *store.Tx) error {
		return tx.Conn().QueryRow(ctx, "SELECT count(*) FROM entry WHERE id = ANY($1)", before).Scan(&found)
	}))
	require.Equal(t, len(before), found, "every record acknowledged before the backup is in it once")
}

// In quiet what is restored is the same, table by table; what is not whole, or not opened, is not
// restored at all.
func TestWhatIsRestoredIsTheSame(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	const passphrase = "oyster lamp gravel"
	quiet := filepath.Join(t.TempDir(), "quiet.dump")
	require.NoError(t, store.Backup(ctx, d.OwnerURL, quiet, passphrase))
	require.NoFileExists(t, quiet+".part")
	st, err := os.Stat(quiet)
	require.NoError(t, err)
	require.EqualValues(t, 0o600, st.Mode().Perm())
	again := restored(t, quiet, passphrase)
	require.Equal(t, prints(t, d.OwnerURL), prints(t, again.OwnerURL))

	whole, err := os.ReadFile(quiet)
	require.NoError(t, err)
	require.NotContains(t, string(whole), "PGDMP")
	half := filepath.Join(t.TempDir(), "half.dump")
	require.NoError(t, os.WriteFile(half, whole[:len(whole)/2], 0o600))
	for name, try := range map[string][2]string{"half a file": {half, passphrase}, "another passphrase": {quiet, "not this one"}, "none": {quiet, ""}} {
		nothingRestored(t, name, try[0], try[1])
	}
}

// nothingRestored tries a file that must not be restored: the database stays empty, and
// none is left beside it.
func nothingRestored(t *testing.T, name, file, passphrase string) (says string) {
	owner, _, password := testdb.Bare(t)
	testdb.Alone(t, func() error {
		_, err := upkeep.Restore(ctx, owner, file, password, passphrase, false)
		require.Error(t, err, name)
		says = err.Error()
		return nil
	})
	require.Empty(t, prints(t, owner), name)
	conn, err := pgx.Connect(ctx, owner)
	require.NoError(t, err)
	defer conn.Close(ctx)
	var beside int
	require.NoError(t, conn.QueryRow(ctx, "SELECT count(*) FROM pg_database WHERE datname = current_database() || '_restoring'").Scan(&beside))
	require.Zero(t, beside, name)
	return says
}

// What is no backup of Ulpa's, or holds more than one, is not called restored.
func TestOnlyUlpasOwnIsRestored(t *testing.T) {
	t.Parallel()
	other, _, _ := testdb.Bare(t)
	conn, err := pgx.Connect(ctx, other)
	require.NoError(t, err)
	_, err = conn.Exec(ctx, "CREATE TABLE invoice (id int)")
	require.NoError(t, err)
	require.NoError(t, conn.Close(ctx))
	file := filepath.Join(t.TempDir(), "other.dump")
	require.NoError(t, store.Backup(ctx, other, file, ""))
	require.Contains(t, nothingRestored(t, "another's", file, ""), "no books of Ulpa's")

	d := testdb.Demo(t)
	conn, err = pgx.Connect(ctx, d.OwnerURL)
	require.NoError(t, err)
	_, err = conn.Exec(
		ctx,
		"CREATE FUNCTION helper() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN RETURN NEW; END'; CREATE TRIGGER helps BEFORE INSERT ON entry FOR EACH "+
			"ROW EXECUTE FUNCTION helper()",
	)
	require.NoError(t, err)
	require.NoError(t, conn.Close(ctx))
	more := filepath.Join(t.TempDir(), "more.dump")
	require.NoError(t, store.Backup(ctx, d.OwnerURL, more, ""))
	says := nothingRestored(t, "more than Ulpa's", more, "")
	require.Contains(t, says, "function helper")
	require.Contains(t, says, "trigger helps")
}
