// Package house_test holds what must be true of the whole house: schools kept
// apart, facts and present state in step, nothing stored twice.
package house_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"

	"ulpa/internal/base/store"
	"ulpa/internal/base/who"
	"ulpa/internal/tests/testdb"
)

// tablesWithoutSchool hold nothing of a school's.
var tablesWithoutSchool = map[string]bool{"goose_db_version": true, "rebuilt": true, "session": true, "sign_in_attempt": true}

// Every table, as the catalogue lists it, keeps two schools apart: the one
// cannot see, change, delete or insert rows of the other.
func TestNoSchoolReachesAnother(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	db := testdb.Demo(t)
	ines := db.Ines(t)
	other := db.Person(t, db.School(t, "elsewhere"), who.Coordinator, "stranger")
	owner, err := pgx.Connect(ctx, db.OwnerURL)
	require.NoError(t, err)
	defer owner.Close(ctx)
	// A draft, so that every table has a row to be kept from the other school.
	draft := uuid.New()
	for _, q := range []string{"INSERT INTO import_draft VALUES ($1, $2, now(), 'x.csv')", "INSERT INTO import_part VALUES ($1, $2, 0, '')"} {
		_, err = owner.Exec(ctx, q, ines.School, draft)
		require.NoError(t, err)
	}
	_, err = owner.Exec(ctx, "INSERT INTO crop_value (school_id, crop, name, value) VALUES ($1, 'lettuce', 'ready_leaves', '3')", ines.School)
	require.NoError(t, err)
	_, err = owner.Exec(
		ctx,
		"INSERT INTO planned (school_id, id, crop, wanted, sow_on, ready_by) VALUES ($1, $2, 'lettuce', 9, '2027-03-20', '2027-05-20')",
		ines.School,
		uuid.New(),
	)
	require.NoError(t, err)
	_, err = owner.Exec(ctx, "INSERT INTO rollup SELECT $1, id, 'q', now(), 1, 1, 1, 1 FROM series ON CONFLICT DO NOTHING", ines.School)
	require.NoError(t, err)
	for _, q := range []string{"INSERT INTO device VALUES ($1, $2, '1')", "INSERT INTO crew_device VALUES ($1, $2, '1', 'Bench tablet', $2, now())"} {
		_, err = owner.Exec(ctx, q, ines.School, ines.Person)
		require.NoError(t, err)
	}
	_, err = owner.Exec(
		ctx, "INSERT INTO job (school_id, id, name, place_id, from_day, minutes) SELECT school_id, gen_random_uuid(), 'Sweep', id, now(), 5 FROM place LIMIT 1",
	)
	require.NoError(t, err)
	for _, q := range []string{
		"INSERT INTO program_key (school_id, id, token, scope, made_at) VALUES ($1, $2, '1', 'read', now())",
		"INSERT INTO second_proof (school_id, person_id, secret) VALUES ($1, $2, '1')",
		"INSERT INTO way_back (school_id, person_id, code, until) VALUES ($1, $2, '1', now())",
	} {
		_, err = owner.Exec(ctx, q, ines.School, ines.Person)
		require.NoError(t, err)
	}
	_, err = owner.Exec(ctx, "INSERT INTO wish SELECT school_id, gen_random_uuid(), id, '{}' FROM goal WHERE school_id = $1", ines.School)
	require.NoError(t, err)
	_, err = owner.Exec(ctx, "INSERT INTO trail VALUES ($1, $2, now(), $3, 'Signed in')", ines.School, uuid.New(), ines.Person)
	require.NoError(t, err)
	rows, err := owner.Query(ctx, `SELECT c.relname, c.relrowsecurity FROM pg_class c
		WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p') ORDER BY 1`)
	require.NoError(t, err)
	type table struct {
		name string
		rls  bool
	}
	tables, err := pgx.CollectRows(rows, func(r pgx.CollectableRow) (x table, err error) { return x, r.Scan(&x.name, &x.rls) })
	require.NoError(t, err)
	require.Greater(t, len(tables), 18)
	for _, x := range tables {
		if tablesWithoutSchool[x.name] {
			continue
		}
		t.Run(x.name, func(t *testing.T) {
			require.True(t, x.rls, "a table of a school's data needs row-level security")
			mine := "school_id = '" + ines.School.String() + "'"
			if x.name == "school" {
				mine = "id = '" + ines.School.String() + "'"
			}
			var n int
			require.NoError(t, owner.QueryRow(ctx, "SELECT count(*) FROM "+x.name+" WHERE "+mine).Scan(&n))
			require.Positive(t, n, "nothing to keep apart: the test would prove nothing")
			try := func(sql string) (int64, error) {
				var changed int64
				err := db.Store.InSchool(ctx, other, func(tx *store.Tx) error {
					tag, err := tx.Conn().Exec(ctx, sql)
					changed = tag.RowsAffected()
					return err
				})
				return changed, err
			}
			none := func(sql string) {
				changed, err := try(sql)
				if err != nil {
					require.ErrorContains(t, err, "permission denied", sql)
				}
				require.Zero(t, changed, sql)
			}
			none("SELECT * FROM " + x.name + " WHERE " + mine)
			none("DELETE FROM " + x.name + " WHERE " + mine)
			key := "school_id"
			if x.name == "school" {
				key = "id"
			}
			none(fmt.Sprintf("UPDATE %s SET %s = %s WHERE %s", x.name, key, key, mine))
			_, err := try(fmt.Sprintf("INSERT INTO %s (%s) VALUES ('%s')", x.name, key, ines.School))
			require.Error(t, err)
			if !strings.Contains(err.Error(), "permission denied") {
				require.ErrorContains(t, err, "row-level security", "an insert for the other school must fail on the policy, not on a missing column")
			}
		})
	}
}

// Without a school set there is nothing to see; and a role that could pass by
// the policies is not accepted.
func TestNoSchoolSeesNothing(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	db := testdb.Demo(t)
	app, err := pgx.Connect(ctx, db.AppURL)
	require.NoError(t, err)
	defer app.Close(ctx)
	var n int
	require.NoError(t, app.QueryRow(ctx, "SELECT (SELECT count(*) FROM entry) + (SELECT count(*) FROM person) + (SELECT count(*) FROM school)").Scan(&n))
	require.Zero(t, n)
	_, err = app.Exec(ctx, "UPDATE entry SET words = ''")
	require.ErrorContains(t, err, "permission denied", "facts are never changed")
	_, err = store.Open(ctx, db.OwnerURL, db.Clock.Now)
	require.ErrorContains(t, err, "could see every school's data")
}
