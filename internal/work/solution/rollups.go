package solution

import (
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"github.com/google/uuid"

	"ulpa/core/meterlog"
	"ulpa/core/say"
	"ulpa/internal/base/store"
	"ulpa/internal/base/store/db"
)

// atOnce is how many readings, or stretches of a roll-up, go to the database in one
// statement.
const atOnce = 20_000

// keep stores a series' readings: new ones, and other values for those that are there.
// Then it brings the roll-ups of the times that were touched up to date.
func keep(ctx context.Context, tx *store.Tx, id uuid.UUID, x *meterlog.Series) (fresh, changed int, err error) {
	const there = "SELECT EXISTS (SELECT FROM reading WHERE school_id = $1 AND series_id = $2 AND at BETWEEN $3 AND $4)"
	const put = "INSERT INTO reading (school_id, series_id, at, value) SELECT $1, $2, t.at, t.value FROM unnest($3::timestamptz[], $4::float8[]) t (at, value)"
	const mix = "WITH kept AS (" + put + ` ON CONFLICT (school_id, series_id,
		at) DO UPDATE SET value = excluded.value WHERE reading.value <> excluded.value RETURNING xmax = 0 AS fresh)
		SELECT count(*) FILTER (WHERE fresh), count(*) FILTER (WHERE NOT fresh) FROM kept`
	conn, school := tx.Conn(), tx.Who.School
	for from := 0; from < len(x.At); from += atOnce {
		to := min(from+atOnce, len(x.At))
		times := make([]time.Time, 0, to-from)
		for _, at := range x.At[from:to] {
			times = append(times, time.UnixMicro(at))
		}
		var some bool
		if err := conn.QueryRow(ctx, there, school, id, times[0], times[len(times)-1]).Scan(&some); err != nil {
			return 0, 0, err
		}
		new, other := to-from, 0
		if some {
			err = conn.QueryRow(ctx, mix, school, id, times, x.Values[from:to]).Scan(&new, &other)
		} else { // nothing to look out for, which takes half as long
			_, err = conn.Exec(ctx, put, school, id, times, x.Values[from:to])
		}
		if err != nil {
			return 0, 0, err
		}
		fresh, changed = fresh+new, changed+other
	}
	if fresh+changed == 0 {
		return 0, 0, nil
	}
	return fresh, changed, rollUp(ctx, tx, id, x.At)
}

// rollUp works the quarter hours that were touched out from the readings, the
// hours from the quarters, and the days from the hours.
func rollUp(ctx context.Context, tx *store.Tx, series uuid.UUID, touched []int64) error {
	const q = `INSERT INTO rollup (school_id, series_id, grain, at, n, total, low, high)
		SELECT $1, $2, '%s', t.at, x.n, x.total, x.low, x.high FROM unnest($3::timestamptz[]) t (at)
		 CROSS JOIN LATERAL (SELECT %s FROM %s r WHERE r.school_id = $1 AND r.series_id = $2 AND r.at >= t.at AND r.at < t.at + interval '%s'%s) x
		ON CONFLICT (school_id, series_id, grain, at) DO UPDATE SET n = excluded.n, total = excluded.total, low = excluded.low, high = excluded.high`
	const raw, sums = "count(*) AS n, sum(r.value) AS total, min(r.value) AS low, max(r.value) AS high",
		"sum(r.n) AS n, sum(r.total) AS total, min(r.low) AS low, max(r.high) AS high"
	for _, g := range []struct {
		width time.Duration
		sql   string
	}{
		{15 * time.Minute, fmt.Sprintf(q, "q", raw, "reading", "15 minutes", "")},
		{time.Hour, fmt.Sprintf(q, "h", sums, "rollup", "1 hour", " AND r.grain = 'q'")},
		{24 * time.Hour, fmt.Sprintf(q, "d", sums, "rollup", "1 day", " AND r.grain = 'h'")},
	} {
		for stretches := range slices.Chunk(stretchesOf(touched, g.width), atOnce) {
			if _, err := tx.Conn().Exec(ctx, g.sql, tx.Who.School, series, stretches); err != nil {
				return err
			}
		}
	}
	return nil
}

// stretchesOf are the beginnings of the stretches that rising times lie in.
func stretchesOf(at []int64, width time.Duration) (out []time.Time) {
	w, last := width.Microseconds(), int64(math.MinInt64)
	for _, x := range at {
		if begin := x - ((x%w)+w)%w; begin != last {
			out, last = append(out, time.UnixMicro(begin)), begin
		}
	}
	return out
}

// Span is how far back a trend looks.
type Span struct {
	Days  int
	Name  say.Words
	grain string
	step  string
}

// Spans are the trends that are offered, each from the roll-ups that suit it.
var Spans = []Span{
	{28, "Four weeks", "h", "6 hours"},
	{120, "A term", "d", "1 day"},
	{365, "A year", "d", "3 days"},
	{1827, "Five years", "d", "14 days"},
}

// SpanOf is the span of that many days, else the first.
func SpanOf(days int) Span {
	for _, s := range Spans {
		if s.Days == days {
			return s
		}
	}
	return Spans[0]
}

// Point is what a meter showed over one step of a span: the mean, the lowest, the highest.
type Point struct {
	Unit             string
	At               time.Time
	Value, Low, High float64
}

// trend is what meters measured of a tank over a span, from the roll-ups, to the
// quarter hour that they go by.
func trend(ctx context.Context, tx *store.Tx, tank uuid.UUID, s Span) ([]Point, error) {
	until := tx.Now.Truncate(15 * time.Minute).Add(15 * time.Minute)
	key := fmt.Sprintf("trend %s %d %d", tank, s.Days, until.Unix())
	return store.KeepOf(ctx, tx, store.Meters, key, func() (out []Point, err error) {
		rows, err := tx.SeriesTrend(
			ctx,
			db.SeriesTrendParams{TankID: &tank, Grain: s.grain, Step: s.step, Since: until.AddDate(0, 0, -s.Days), Until: until},
		)
		for _, r := range rows {
			out = append(out, Point(r))
		}
		return out, err
	})
}
