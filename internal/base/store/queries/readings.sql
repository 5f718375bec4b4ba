-- name: ListSeries :many
SELECT * FROM series ORDER BY name;

-- name: MeterMeans :many
-- The mean of each of these meters between two moments.
SELECT series_id, (sum(total) / sum(n))::double precision AS mean FROM rollup
 WHERE series_id = ANY(sqlc.arg(meters)::uuid[]) AND grain = 'h' AND at >= sqlc.arg(since) AND at <= sqlc.arg(until)
 GROUP BY 1;

-- name: DailyMeans :many
-- The mean of each of these meters on each day between two moments.
SELECT series_id, at, (total / n)::double precision AS mean FROM rollup
 WHERE series_id = ANY(sqlc.arg(meters)::uuid[]) AND grain = 'd' AND at >= sqlc.arg(since) AND at <= sqlc.arg(until);

-- name: AddSeries :exec
INSERT INTO series (school_id, id, name, unit, tank_id) VALUES ($1, $2, $3, $4, $5);

-- name: SeriesTrend :many
SELECT s.unit, date_bin(sqlc.arg(step)::text::interval, r.at, '2000-01-01 00:00Z')::timestamptz AS at,
       (sum(r.total) / sum(r.n))::double precision AS value, min(r.low)::double precision AS low, max(r.high)::double precision AS high
  FROM rollup r JOIN series s ON s.school_id = r.school_id AND s.id = r.series_id
 WHERE s.tank_id = $1 AND r.grain = sqlc.arg(grain) AND r.at >= sqlc.arg(since) AND r.at <= sqlc.arg(until)
 GROUP BY 1, 2 ORDER BY 1, 2;

-- name: AddDraft :exec
INSERT INTO import_draft (school_id, id, made_at, name) VALUES ($1, $2, $3, $4);

-- name: AddDraftPart :exec
INSERT INTO import_part (school_id, draft_id, n, body) VALUES ($1, $2, $3, $4);

-- name: GetDraftPart :one
SELECT body FROM import_part WHERE draft_id = $1 AND n = $2;

-- name: GetDraft :one
SELECT * FROM import_draft WHERE id = $1;

-- name: DropDraft :exec
DELETE FROM import_draft WHERE id = $1 OR made_at < sqlc.arg(older)::timestamptz;
