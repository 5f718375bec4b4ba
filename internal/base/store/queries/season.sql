-- name: ListClosures :many
SELECT * FROM closure ORDER BY from_day;

-- name: PutClosure :exec
INSERT INTO closure (school_id, id, from_day, to_day, name) VALUES ($1, $2, $3, $4, $5)
ON CONFLICT (school_id, id) DO UPDATE SET from_day = excluded.from_day, to_day = excluded.to_day, name = excluded.name;

-- name: DropClosure :exec
DELETE FROM closure WHERE id = $1;

-- name: DropNight :exec
DELETE FROM night WHERE day = $1;

-- name: RecentNights :many
SELECT day, min_c, site_c FROM night WHERE day >= $1 ORDER BY day;

-- name: ListNights :many
SELECT * FROM night WHERE day >= sqlc.arg(from_day) AND day <= sqlc.arg(to_day) ORDER BY day;

-- name: PutNight :exec
INSERT INTO night (school_id, day, min_c) VALUES ($1, $2, $3)
ON CONFLICT (school_id, day) DO UPDATE SET min_c = excluded.min_c;

-- name: PutSiteNight :execrows
UPDATE night SET site_c = sqlc.arg(site_c)::double precision WHERE day = sqlc.arg(day);

-- name: ComparedNights :many
-- Nights of which both are known: what was said of the station, and what it came to here.
SELECT min_c, site_c::double precision AS site_c FROM night WHERE site_c IS NOT NULL AND day < sqlc.arg(before) ORDER BY day DESC LIMIT 1000;

-- name: StationNights :many
-- The same two months of earlier years.
SELECT day, min_c FROM night
 WHERE day < sqlc.arg(before)::date AND (extract(doy FROM day) - extract(doy FROM sqlc.arg(before)::date) + 366)::int % 366 <= 62
 ORDER BY day;

-- name: AddPlanned :execrows
INSERT INTO planned (school_id, id, crop, wanted, sow_on, ready_by) VALUES ($1, $2, $3, $4, $5, $6)
ON CONFLICT (school_id, id) DO NOTHING;

-- name: ListPlanned :many
-- What is still to be sown, or was and is undone.
SELECT p.* FROM planned p LEFT JOIN batch b ON b.school_id = p.school_id AND b.id = p.batch_id
WHERE NOT p.settled OR (b.state->>'sown')::int = 0 ORDER BY p.sow_on, p.id;

-- name: GetPlanned :one
SELECT * FROM planned WHERE id = $1;

-- name: VarietyPlanned :many
-- The variety of the goal that a sowing was planned for.
SELECT g.variety FROM planned p JOIN goal g ON g.school_id = p.school_id AND g.id = p.goal_id WHERE p.id = $1;

-- name: SettlePlanned :exec
UPDATE planned SET settled = true, batch_id = sqlc.narg(batch) WHERE id = sqlc.arg(id);

-- name: PlannedLike :many
-- The planned sowings of a crop that are open, and that which a batch is counted for.
SELECT p.id, p.wanted, p.sow_on, p.ready_by, coalesce(p.batch_id = sqlc.arg(batch)::uuid, false)::bool AS mine
FROM planned p LEFT JOIN batch b ON b.school_id = p.school_id AND b.id = p.batch_id
WHERE p.crop = sqlc.arg(crop) AND (NOT p.settled OR (b.state->>'sown')::int = 0 OR p.batch_id = sqlc.arg(batch)::uuid) ORDER BY p.sow_on, p.id;

-- name: FreePlanned :exec
-- A planned sowing is open again.
UPDATE planned SET settled = false, batch_id = NULL WHERE id = $1;

-- name: SchoolDays :many
SELECT * FROM school_days ORDER BY from_day, name;

-- name: PutSchoolDays :exec
INSERT INTO school_days (school_id, id, kind, from_day, to_day, name, minutes) VALUES ($1, $2, $3, $4, $5, $6, $7)
ON CONFLICT (school_id, id) DO UPDATE SET from_day = excluded.from_day, to_day = excluded.to_day, name = excluded.name, minutes = excluded.minutes;

-- name: DropSchoolDays :exec
DELETE FROM school_days WHERE id = $1;

-- name: Periods :many
SELECT * FROM period ORDER BY weekday, starts, id;

-- name: PutPeriod :exec
INSERT INTO period (school_id, id, weekday, starts, minutes, whom) VALUES ($1, $2, $3, $4, $5, $6)
ON CONFLICT (school_id, id) DO UPDATE SET weekday = excluded.weekday, starts = excluded.starts, minutes = excluded.minutes, whom = excluded.whom;

-- name: DropPeriod :exec
DELETE FROM period WHERE id = $1;

-- name: SchoolCalendar :many
-- All days of the school's own in one: those that are closed, terms, days with other minutes, periods.
SELECT 'closed'::text AS kind, from_day, to_day, name, 0 AS minutes, 0 AS weekday FROM closure
UNION ALL SELECT kind, from_day, to_day, name, minutes, 0 FROM school_days
UNION ALL SELECT 'period', '2000-01-01', '2000-01-01', whom, minutes, weekday FROM period
ORDER BY 2, 4;

-- name: PlannedMoves :many
-- The moves that were planned for batches that are open.
SELECT p.batch_id, p.moves, p.ready_by, g.name AS goal, g.kind, g.harvest FROM planned p JOIN batch b ON b.school_id = p.school_id AND b.id = p.batch_id
JOIN goal g ON g.school_id = p.school_id AND g.id = p.goal_id WHERE p.settled AND NOT b.closed AND p.ready_by > sqlc.arg(since)::date;

-- name: GetStation :many
SELECT name, from_day, minima, way, risk, last_frost, leeway FROM station;

-- name: PutStation :exec
INSERT INTO station (school_id, name, from_day, minima) VALUES ($1, $2, $3, $4)
ON CONFLICT (school_id) DO UPDATE SET name = excluded.name, from_day = excluded.from_day, minima = excluded.minima;

-- name: PutFrostRule :exec
INSERT INTO station (school_id, way, risk, last_frost, leeway) VALUES ($1, $2, $3, $4, $5)
ON CONFLICT (school_id) DO UPDATE SET way = excluded.way, risk = excluded.risk, last_frost = excluded.last_frost, leeway = excluded.leeway;
