package house_test

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"strconv"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/stretchr/testify/require"
	pgxuuid "github.com/vgarvardt/pgx-google-uuid/v5"

	"ulpa/internal/base/who"
	"ulpa/internal/tests/testdb"
	"ulpa/internal/work/solution"
)

// BenchmarkImport reads, checks and stores a meter's log with its roll-ups, beside
// the bare COPY of the same rows into the same table. Run it once (-benchtime 1x).
func BenchmarkImport(b *testing.B) {
	d := testdb.Empty(b)
	w := d.Person(b, d.School(b, "small"), who.Coordinator, "ines")
	const rows = 200_000
	start := time.Date(2026, 11, 1, 0, 0, 0, 0, time.UTC)
	file := bytes.NewBufferString("time,series,value,unit\n")
	at := func(i int) time.Time { return start.Add(time.Duration(i) * 10 * time.Second) }
	value := func(i int) float64 { return 5.5 + float64(i%100)/100 }
	for i := range rows {
		fmt.Fprintf(file, "%s,imported,%.2f,pH\n", at(i).Format(time.RFC3339), value(i))
	}
	began := time.Now()
	done, problems, err := solution.Import(ctx, d.Store, w, "log.csv", bytes.NewReader(file.Bytes()))
	ours := time.Since(began)
	require.NoError(b, err)
	require.Empty(b, problems)
	require.Equal(b, rows, done.New)
	owner, series := connect(b, d), uuid.New()
	_, err = owner.Exec(ctx, "INSERT INTO series (school_id, id, name, unit) VALUES ($1, $2, 'copied', 'pH')", w.School, series)
	require.NoError(b, err)
	began = time.Now()
	n := 0
	_, err = owner.CopyFrom(ctx, pgx.Identifier{"reading"}, []string{"school_id", "series_id", "at", "value"}, pgx.CopyFromFunc(func() ([]any, error) {
		if n == rows {
			return nil, nil
		}
		n++
		return []any{w.School, series, at(n - 1), value(n - 1)}, nil
	}))
	bare := time.Since(began)
	require.NoError(b, err)
	fmt.Printf("# import of %d readings %.2f s, a bare COPY %.2f s: %.2f of it\n", rows, ours.Seconds(), bare.Seconds(), bare.Seconds()/ours.Seconds())
}

// BenchmarkTrend draws a series of ULPA_BENCH_READINGS (ten million) over five
// years, as a tank's page asks for it.
func BenchmarkTrend(b *testing.B) {
	many, err := strconv.Atoi(os.Getenv("ULPA_BENCH_READINGS"))
	if err != nil {
		many = 10_000_000
	}
	d := testdb.Demo(b)
	w, owner := d.Ines(b), connect(b, d)
	var tank uuid.UUID
	require.NoError(b, owner.QueryRow(ctx, "SELECT id FROM tank ORDER BY name LIMIT 1").Scan(&tank))
	now, series := d.Clock.Now().UTC().Truncate(time.Hour), uuid.New()
	start := now.AddDate(-5, 0, 0)
	began := time.Now()
	for _, q := range []struct {
		sql  string
		args []any
	}{
		{"INSERT INTO series (school_id, id, name, unit, tank_id) VALUES ($1, $2, 'long', 'pH', $3)", []any{w.School, series, tank}},
		{"INSERT INTO reading SELECT $1, $2, $3::timestamptz + i * (($4::timestamptz - $3::timestamptz) / $5::int), 6 + sin(i / 900.0) FROM " +
			"generate_series(0, $5::int - 1) i", []any{w.School, series, start, now, many}},
		{`INSERT INTO rollup SELECT r.school_id, r.series_id, g.grain, date_bin(g.width, r.at, '2000-01-01 00:00Z'), count(*), sum(r.value), min(r.value),
			max(r.value)
			FROM reading r CROSS JOIN (VALUES ('q', interval '15 minutes'), ('h', interval '1 hour'), ('d', interval '1 day')) g (grain,
				width) WHERE r.series_id = $1 GROUP BY 1, 2, 3, 4`, []any{series}},
		{"ANALYZE", nil},
	} {
		_, err := owner.Exec(ctx, q.sql, q.args...)
		require.NoError(b, err, q.sql)
	}
	fmt.Printf("# %d readings and their roll-ups written in %.0f s\n", many, time.Since(began).Seconds())
	for _, span := range solution.Spans {
		b.Run(string(span.Name), func(b *testing.B) {
			for n := 1; b.Loop(); n++ {
				d.Clock.Set(now.Add(time.Duration(n) * 15 * time.Minute)) // or it would still be known
				page, err := solution.ReadSpan(ctx, d.Store, w, tank, span)
				require.NoError(b, err)
				require.NotEmpty(b, page.Meter)
			}
		})
	}
}

func connect(t testing.TB, d testdb.DB) *pgx.Conn {
	owner, err := pgx.Connect(ctx, d.OwnerURL)
	require.NoError(t, err)
	pgxuuid.Register(owner.TypeMap())
	t.Cleanup(func() { _ = owner.Close(context.Background()) })
	return owner
}
