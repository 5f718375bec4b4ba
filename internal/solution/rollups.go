package solution

import (
	"context"
	"fmt"
	"time"

	"github.com/google/uuid"

	"ulpa/internal/store"
	"ulpa/internal/store/db"
)

// keepIncoming stores what stands in the temporary table incoming, readings of one
// time to another: new ones, and other values for those that are there. Then it brings the roll-ups of the
// times that were touched up to date.
func keepIncoming(ctx context.Context, tx *store.Tx, from, to time.Time) (fresh, changed int, err error) {
	conn, school := tx.Conn(), tx.Who.School
	// PostgreSQL knows nothing of a new temporary table until it has been looked
	// through; then each statement is planned for what is in it.
	if _, err := conn.Exec(ctx, "SET LOCAL default_statistics_target = 10; ANALYZE incoming; SET LOCAL plan_cache_mode = force_custom_plan"); err != nil {
		return 0, 0, err
	}
	tag, err := conn.Exec(ctx, `UPDATE reading r SET value = i.value FROM incoming i
		WHERE r.school_id = $1 AND r.series_id = i.series_id AND r.at = i.at AND r.at >= $2 AND r.at <= $3 AND r.value <> i.value`, school, from, to)
	if err != nil {
		return 0, 0, err
	}
	changed = int(tag.RowsAffected())
	tag, err = conn.Exec(ctx, `INSERT INTO reading (school_id, series_id, at, value)
		SELECT $1, i.series_id, i.at, i.value FROM incoming i WHERE NOT EXISTS (
			SELECT FROM reading r WHERE r.school_id = $1 AND r.series_id = i.series_id AND r.at = i.at AND r.at >= $2 AND r.at <= $3)`, school, from, to)
	if err != nil {
		return 0, 0, err
	}
	if fresh = int(tag.RowsAffected()); fresh+changed == 0 {
		return 0, 0, nil
	}
	return fresh, changed, rollUp(ctx, tx)
}

// rollUp works the quarter hours that were touched out from the readings, the
// hours from the quarters, and the days from the hours.
func rollUp(ctx context.Context, tx *store.Tx) error {
	// Each touched stretch looks up its own readings: a sub-select beside the list
	// of stretches cannot be planned as anything else, whatever the statistics say.
	const touched = "CREATE TEMPORARY TABLE touched ON COMMIT DROP AS SELECT DISTINCT series_id, date_bin('15 minutes', at, '2000-01-01 00:00Z') AS at FROM incoming"
	if _, err := tx.Conn().Exec(ctx, touched); err != nil {
		return err
	}
	const q = `INSERT INTO rollup (school_id, series_id, grain, at, n, total, low, high)
		SELECT $1, t.series_id, '%s', t.at, x.n, x.total, x.low, x.high
		  FROM (SELECT DISTINCT series_id, date_bin('%[2]s', at, '2000-01-01 00:00Z') AS at FROM touched) t
		 CROSS JOIN LATERAL (SELECT %[3]s FROM %[4]s r WHERE r.school_id = $1 AND r.series_id = t.series_id AND r.at >= t.at AND r.at < t.at + interval '%[2]s'%[5]s) x
		ON CONFLICT (school_id, series_id, grain, at) DO UPDATE SET n = excluded.n, total = excluded.total, low = excluded.low, high = excluded.high`
	const raw, sums = "count(*) AS n, sum(r.value) AS total, min(r.value) AS low, max(r.value) AS high", "sum(r.n) AS n, sum(r.total) AS total, min(r.low) AS low, max(r.high) AS high"
	for _, q := range []string{
		fmt.Sprintf(q, "q", "15 minutes", raw, "reading", ""),
		fmt.Sprintf(q, "h", "1 hour", sums, "rollup", " AND r.grain = 'q'"),
		fmt.Sprintf(q, "d", "1 day", sums, "rollup", " AND r.grain = 'h'"),
	} {
		if _, err := tx.Conn().Exec(ctx, q, tx.Who.School); err != nil {
			return err
		}
	}
	return nil
}

// Span is how far back a trend looks.
type Span struct {
	Days  int
	Name  string
	grain string
	step  string
}

// Spans are the trends that are offered, each from the roll-ups that suit it.
var Spans = []Span{{28, "Four weeks", "h", "6 hours"}, {120, "A term", "d", "1 day"}, {365, "A year", "d", "3 days"}, {1827, "Five years", "d", "14 days"}}

// SpanOf is the span of that many days, else the first.
func SpanOf(days int) Span {
	for _, s := range Spans {
		if s.Days == days {
			return s
		}
	}
	return Spans[0]
}

// trend is what meters measured of a tank over a span, from the roll-ups, to the
// quarter hour that they go by.
func trend(ctx context.Context, tx *store.Tx, tank uuid.UUID, s Span) ([]db.SeriesTrendRow, error) {
	until := tx.Now.Truncate(15 * time.Minute).Add(15 * time.Minute)
	key := fmt.Sprintf("trend %s %d %d", tank, s.Days, until.Unix())
	return store.Keep(ctx, tx, key, func() ([]db.SeriesTrendRow, error) {
		return tx.SeriesTrend(ctx, db.SeriesTrendParams{ReservoirID: &tank, Grain: s.grain, Step: s.step, Since: until.AddDate(0, 0, -s.Days), Until: until})
	})
}
