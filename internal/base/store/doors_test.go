package store_test

import (
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/tests/testdb"
)

// A function of the owner's looks for its tables where the application cannot put one of
// its own: pg_temp, which is searched first unless it is named, stands last.
func TestTheApplicationCannotBecomeTheOwner(t *testing.T) {
	d := testdb.Demo(t)
	root := connect(t, d.RootURL(t))
	// Functions that stand for the owner, and those that others' triggers run.
	rows, err := root.Query(ctx, `SELECT p.oid::regprocedure::text FROM pg_proc p WHERE p.prosecdef AND p.pronamespace = 'public'::regnamespace
		AND NOT EXISTS (SELECT FROM unnest(p.proconfig) c WHERE c = 'search_path=pg_catalog, public, pg_temp')`)
	require.NoError(t, err)
	open, err := pgx.CollectRows(rows, pgx.RowTo[string])
	require.NoError(t, err)
	require.Empty(t, open, "SECURITY DEFINER without pg_temp last")

	app := connect(t, d.AppURL)
	for _, q := range []string{
		"SELECT secret_hash FROM person", "SELECT * FROM person", "SELECT * FROM session", "SELECT * FROM sign_in_attempt",
		"SELECT token FROM program_key", "SELECT secret FROM second_proof", "SELECT code FROM way_back", "SELECT * FROM rebuilt", "UPDATE rebuilt SET shape = 0",
		"DELETE FROM person", "CREATE TEMP TABLE person (x int)", "CREATE TABLE mine (x int)",
		"CREATE FUNCTION mine() RETURNS int LANGUAGE sql AS 'SELECT 1'", "CREATE SCHEMA mine", "SET ROLE ulpa_owner",
	} {
		_, err := app.Exec(ctx, q)
		require.ErrorContains(t, err, "permission denied", q)
	}
	// A second proof's secret is given in its own school alone, and used there alone.
	var person uuid.UUID
	require.NoError(t, root.QueryRow(ctx, "SELECT id FROM person WHERE kind = 'coordinator'").Scan(&person))
	_, err = root.Exec(ctx, "INSERT INTO second_proof (school_id, person_id, secret) SELECT school_id, id, 'x' FROM person WHERE id = $1", person)
	require.NoError(t, err)
	for set, want := range map[string]int{"": 0, uuid.NewString(): 0, d.School(t, "ferrywharf").String(): 1} {
		_, err := app.Exec(ctx, "SELECT set_config('ulpa.school', $1, false)", set)
		require.NoError(t, err)
		var n int
		require.NoError(t, app.QueryRow(ctx, "SELECT count(*) FROM second_proof_of($1)", person).Scan(&n))
		require.Equal(t, want, n, set)
		var used bool
		require.NoError(t, app.QueryRow(ctx, "SELECT second_proof_used($1, 7)", person).Scan(&used))
		require.Equal(t, want == 1, used, set)
	}
	// And if it could:
	_, err = root.Exec(ctx, "GRANT TEMP ON DATABASE "+root.Config().Database+" TO ulpa_app")
	require.NoError(t, err)
	app = connect(t, d.AppURL)
	_, err = app.Exec(
		ctx,
		`CREATE FUNCTION pg_temp.evil() RETURNS uuid LANGUAGE plpgsql AS 'BEGIN PERFORM set_config(''ulpa.pwned'', current_user,
			false); RETURN gen_random_uuid(); END';
		CREATE TEMP VIEW person AS SELECT pg_temp.evil() AS school_id, pg_temp.evil() AS id, 'coordinator' AS kind, 'x'::text AS name, 'x'::text AS login,
			'x'::text AS secret_hash, true AS active;
		CREATE TEMP VIEW school AS SELECT pg_temp.evil() AS id, 'ferrywharf' AS slug, 'x' AS name;
		CREATE TEMP VIEW entry AS SELECT pg_temp.evil() AS id, pg_temp.evil() AS school_id, now() AS happened_at, 1 AS seq, 'x'::text AS words;
		GRANT ALL ON person, school, entry TO PUBLIC`,
	)
	require.NoError(t, err)
	for _, call := range []string{
		"SELECT * FROM person_by_login('x')", "SELECT * FROM sign_in_crews('ferrywharf', '')",
		"SELECT * FROM sign_in_try('x', NULL, NULL, '', '', false)", "SELECT * FROM notebook_page(NULL, NULL, NULL, 0, 5)",
		"SELECT * FROM other_pins(NULL)",
	} {
		_, err := app.Exec(ctx, call)
		require.NoError(t, err, call)
		var as *string
		require.NoError(t, app.QueryRow(ctx, "SELECT current_setting('ulpa.pwned', true)").Scan(&as))
		require.Nil(t, as, call)
	}
	_, err = store.Open(ctx, d.AppURL, d.Clock.Now)
	require.ErrorContains(t, err, "may make tables of its own")
}

// Who could pass by row-level security, by itself or by a role that it is a member of, is
// not served.
func TestOnlyABoundedRoleIsServed(t *testing.T) {
	d := testdb.Empty(t)
	root := connect(t, d.RootURL(t))
	for name, makes := range map[string]string{
		"member":    "CREATE ROLE t_member LOGIN PASSWORD 'x' IN ROLE ulpa_owner",
		"noinherit": "CREATE ROLE t_noinherit LOGIN NOINHERIT PASSWORD 'x' IN ROLE ulpa_owner",
		"bypass":    "CREATE ROLE t_bypass LOGIN BYPASSRLS PASSWORD 'x' IN ROLE ulpa_app",
	} {
		testdb.Alone(t, func() error { _, err := root.Exec(ctx, makes); return err })
		t.Cleanup(func() { _, _ = root.Exec(ctx, "DROP ROLE t_"+name) })
		_, err := store.Open(ctx, testdb.As(t, d.AppURL, "t_"+name, "x"), d.Clock.Now)
		require.ErrorContains(t, err, "could see every school's data", name)
	}
	_, err := store.Open(ctx, d.OwnerURL, d.Clock.Now)
	require.ErrorContains(t, err, "could see every school's data")
}

func connect(t *testing.T, url string) *pgx.Conn {
	conn, err := pgx.Connect(ctx, url)
	require.NoError(t, err)
	t.Cleanup(func() { _ = conn.Close(ctx) })
	return conn
}

// Every table of a school's tells what is written into it, or stands among those that do not: a new
// one is in neither, and what is read from it would be held for too long.
func TestEveryTableTellsWhatChanges(t *testing.T) {
	d := testdb.Empty(t)
	owner, err := pgx.Connect(t.Context(), d.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(t.Context())
	rows, err := owner.Query(t.Context(), `SELECT c.relname, (SELECT count(*) FROM pg_trigger g WHERE g.tgrelid = c.oid AND g.tgname LIKE 'tells\_%')
		FROM pg_class c WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p') AND c.relname NOT IN ('goose_db_version', 'rebuilt')`)
	require.NoError(t, err)
	var table string
	var triggers int
	seen := 0
	_, err = pgx.ForEachRow(rows, []any{&table, &triggers}, func() error {
		seen++
		require.Contains(t, []int{0, 3}, triggers, table)
		require.Equal(t, triggers == 3, store.Tells(table), table)
		require.Equal(t, triggers == 0, store.IsUntold(table), table)
		return nil
	})
	require.NoError(t, err)
	require.Greater(t, seen, 50)
}
