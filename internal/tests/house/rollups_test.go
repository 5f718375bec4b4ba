package house_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"
	"golang.org/x/sync/errgroup"

	"ulpa/internal/base/store"
	"ulpa/internal/doors/demo"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/round"
	"ulpa/internal/work/solution"
)

// inRollups compares the roll-ups with what the readings themselves come to.
func inRollups(t *testing.T, ownerURL string) (buckets int) {
	conn, err := pgx.Connect(ctx, ownerURL)
	require.NoError(t, err)
	defer conn.Close(ctx)
	var wrong int
	require.NoError(t, conn.QueryRow(ctx, `WITH raw AS (
		SELECT r.school_id, r.series_id, g.grain, date_bin(g.width, r.at, '2000-01-01 00:00Z') AS at, count(*) n, sum(r.value) total, min(r.value) low,
			max(r.value) high
		  FROM reading r CROSS JOIN (VALUES ('q', interval '15 minutes'), ('h', interval '1 hour'), ('d', interval '1 day')) g (grain, width) GROUP BY 1, 2, 3, 4)
		SELECT count(*), count(*) FILTER (WHERE raw.n IS DISTINCT FROM u.n OR abs(raw.total - u.total) > 1e-6 * (1 + abs(raw.total)) IS NOT FALSE OR
			raw.low IS DISTINCT FROM u.low OR raw.high IS DISTINCT FROM u.high)
		  FROM raw FULL JOIN rollup u USING (school_id, series_id, grain, at)`).Scan(&buckets, &wrong))
	require.Zero(t, wrong, "roll-ups that differ from their readings")
	return buckets
}

// Roll-ups follow the readings however these arrive: in order, late, in
// between, corrected, and twice.
func TestRollUpsFollowTheReadings(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	w := d.Ines(t)
	r := rand.New(rand.NewPCG(4, 2))
	value := map[string]float64{}
	before := inRollups(t, d.OwnerURL)
	require.Positive(t, before, "the demo's own log is rolled up")
	send := func(n int, far time.Duration) solution.Imported {
		var b strings.Builder
		b.WriteString("time,series,value,unit\n")
		at := map[string]bool{}
		for range n {
			when := time.Date(2027, 2, 26, 22, 0, 0, 0, time.UTC).Add(time.Duration(r.Int64N(int64(far))).Truncate(time.Minute)).Format("2006-01-02T15:04:05Z")
			series := []string{"bench air", "bench light"}[r.IntN(2)]
			if at[when+series] {
				continue
			}
			at[when+series] = true
			value[when+series] = float64(r.IntN(3000)) / 100
			fmt.Fprintf(&b, "%s,%s,%.2f,°C\n", when, series, value[when+series])
		}
		out, problems, err := solution.Import(ctx, d.Store, w, "bench.csv", strings.NewReader(b.String()))
		require.NoError(t, err)
		require.Empty(t, problems)
		again, _, err := solution.Import(ctx, d.Store, w, "bench.csv", strings.NewReader(b.String()))
		require.NoError(t, err)
		require.Zero(t, again.New+again.Changed, "the same file twice changes nothing")
		return out
	}
	changed := 0
	for _, far := range []time.Duration{4 * time.Hour, 90 * time.Hour, 50 * time.Minute, 20 * 24 * time.Hour} {
		changed += send(400, far).Changed
		inRollups(t, d.OwnerURL)
	}
	require.Positive(t, changed, "some were put right")
	require.Greater(t, inRollups(t, d.OwnerURL), before)
	var kept int
	var total float64
	require.NoError(t, d.Store.InSchool(ctx, w, func(tx *store.Tx) error {
		return tx.Conn().
			QueryRow(ctx, "SELECT count(*), sum(value) FROM reading r JOIN series s ON s.id = r.series_id WHERE s.name LIKE 'bench %'").
			Scan(&kept, &total)
	}))
	want := 0.0
	for _, v := range value {
		want += v
	}
	require.Equal(t, len(value), kept)
	require.InDelta(t, want, total, 1e-6)
}

// Years that were written in bulk are as consistent as those written act by
// act, and the same every time.
func TestYearsInBulkAreConsistent(t *testing.T) {
	t.Parallel()
	grow := func() (testdb.DB, map[string]string) {
		d := testdb.Demo(t)
		w := d.Ines(t)
		require.NoError(
			t,
			demo.Grow(
				ctx,
				d.OwnerURL,
				w.School,
				demo.Day,
				demo.Size{Years: 1, Batches: 40, Open: 8, Trays: 8, Tanks: 18, Entries: 2000, Series: 2, Readings: 3000},
			),
		)
		inStep(t, d, w)
		inRollups(t, d.OwnerURL)
		return d, prints(t, d.OwnerURL)
	}
	d, first := grow()
	_, second := grow()
	for _, table := range []string{"batch", "cell", "tray", "tank", "series", "rollup"} {
		require.Equal(t, first[table], second[table], table)
	}
	w := d.Ines(t)
	walk, err := round.Today(ctx, d.Store, w)
	require.NoError(t, err)
	require.NotEmpty(t, walk.Stops)
	var open, closed, readings int
	require.NoError(t, d.Store.InSchool(ctx, w, func(tx *store.Tx) error {
		return tx.Conn().
			QueryRow(ctx, "SELECT count(*) FILTER (WHERE NOT closed), count(*) FILTER (WHERE closed), (SELECT count(*) FROM reading) FROM batch WHERE "+
				"code ~ '-1[0-9]{3}$'").
			Scan(&open, &closed, &readings)
	}))
	require.Equal(t, 8, open)
	require.Equal(t, 32, closed)
	require.Greater(t, readings, 3000)
}

// Several tablets bring parts of the same hours at once, some the same lines, of a
// series that none of them finds there.
func TestRollUpsHoldWhenImportsMeet(t *testing.T) {
	t.Parallel()
	d := testdb.Demo(t)
	w := d.Ines(t)
	var all errgroup.Group
	for tablet := range 6 {
		all.Go(func() error {
			b := strings.Builder{}
			b.WriteString("time,series,value,unit\n")
			for i := range 300 {
				at := time.Date(2027, 2, 26, 22, 0, i*6+tablet/2, 0, time.UTC)
				fmt.Fprintf(&b, "%s,shared air,%d,°C\n", at.Format(time.RFC3339), i%30)
			}
			_, problems, err := solution.Import(ctx, d.Store, w, "shared.csv", strings.NewReader(b.String()))
			if len(problems) > 0 {
				return fmt.Errorf("%v", problems)
			}
			return err
		})
	}
	require.NoError(t, all.Wait())
	inRollups(t, d.OwnerURL)
	owner := connect(t, d)
	var kept int
	require.NoError(t, owner.QueryRow(ctx, "SELECT count(*) FROM reading r JOIN series s ON s.id = r.series_id WHERE s.name = 'shared air'").Scan(&kept))
	require.Equal(t, 900, kept)
	_, err := owner.Exec(ctx, "INSERT INTO reading SELECT school_id, gen_random_uuid(), at, value FROM reading LIMIT 3")
	require.ErrorContains(t, err, "belongs to no series")
	_, err = owner.Exec(ctx, "DELETE FROM series WHERE name = 'shared air'")
	require.ErrorContains(t, err, "rollup")
}
