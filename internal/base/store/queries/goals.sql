-- name: Goals :many
SELECT g.*, EXISTS (SELECT FROM planned p WHERE p.goal_id = g.id)::bool AS used FROM goal g ORDER BY g.retired, g.by_day, g.name;

-- name: PutGoal :exec
INSERT INTO goal (school_id, id, name, kind, crop, variety, wanted, from_day, by_day, harvest, sure, missing, whom, retired, grams, plant_g, place_id,
  weekday)
VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, kind = excluded.kind, crop = excluded.crop, variety = excluded.variety,
  wanted = excluded.wanted, from_day = excluded.from_day, by_day = excluded.by_day, harvest = excluded.harvest, sure = excluded.sure,
  missing = excluded.missing, whom = excluded.whom, retired = excluded.retired, grams = excluded.grams,
  plant_g = excluded.plant_g, place_id = excluded.place_id,
  weekday = excluded.weekday;

-- name: DropGoal :exec
DELETE FROM goal WHERE id = $1;

-- name: PlannedForGoals :many
-- A sowing that was undone is not sown. What a closed batch came to is what left its trays.
SELECT p.*, (p.settled AND (p.batch_id IS NULL OR (b.state->>'sown')::int > 0))::bool AS sown,
  coalesce(b.closed, false)::bool AS closed,
  coalesce(greatest((b.state->>'moved')::int, (b.state->>'taken')::int
    + (SELECT coalesce(sum(n::int), 0) FROM jsonb_each_text(coalesce(b.state->'handed', '{}')) AS h (way, n) WHERE h.way <> 'thinned-out')), 0)::int AS came
FROM planned p LEFT JOIN batch b ON b.school_id = p.school_id AND b.id = p.batch_id
WHERE p.goal_id IS NOT NULL AND NOT (p.settled AND p.ready_by < sqlc.arg(since)::date) ORDER BY p.sow_on, p.id;

-- name: PastGoals :many
-- The goals that are past, each with the batches that were counted for it; one without any once.
SELECT g.id, g.name, g.kind, g.crop, g.variety, g.wanted, g.from_day, g.by_day, g.grams, g.whom, p.wanted AS part,
  b.id AS batch, coalesce(b.code, '')::text AS code, b.sown_at, coalesce(b.closed, false)::bool AS closed, coalesce(b.state, '{}')::jsonb AS state
FROM goal g LEFT JOIN planned p ON p.school_id = g.school_id AND p.goal_id = g.id AND p.settled
LEFT JOIN batch b ON b.school_id = p.school_id AND b.id = p.batch_id
WHERE g.by_day < sqlc.arg(today)::date ORDER BY g.by_day DESC, g.name, b.sown_at LIMIT 1000;

-- name: PutPlanned :exec
-- What is sown already stays as it was planned.
INSERT INTO planned (school_id, id, crop, wanted, sow_on, ready_by, goal_id, moves) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)
ON CONFLICT (school_id, id) DO UPDATE SET crop = excluded.crop, wanted = excluded.wanted, sow_on = excluded.sow_on, ready_by = excluded.ready_by,
  moves = excluded.moves WHERE NOT planned.settled
  OR EXISTS (SELECT FROM batch b WHERE b.id = planned.batch_id AND (b.state->>'sown')::int = 0);

-- name: DropPlanned :exec
-- What was kept for a goal and is not sown.
DELETE FROM planned WHERE planned.id = $1 AND goal_id IS NOT NULL
  AND (NOT settled OR EXISTS (SELECT FROM batch b WHERE b.id = planned.batch_id AND (b.state->>'sown')::int = 0));

-- name: Wishes :many
SELECT batch, says FROM wish;

-- name: PutWish :exec
INSERT INTO wish (school_id, batch, goal_id, says) VALUES ($1, $2, $3, $4) ON CONFLICT (school_id, batch) DO UPDATE SET says = excluded.says;

-- name: DropWish :exec
DELETE FROM wish WHERE batch = $1;

-- name: Raised :many
-- How many cells were sown and plants came of them in each batch that was closed since, the
-- latest 300, and in those that are open and have begun to leave their trays; and, of what was
-- harvested, in the middle of which days.
WITH past AS (
  (SELECT * FROM batch b WHERE b.closed AND b.sown_at > sqlc.arg(since)::timestamptz ORDER BY b.sown_at DESC LIMIT 300)
  UNION ALL SELECT * FROM batch b WHERE NOT b.closed AND (b.state->>'moved')::int > 0)
SELECT p.crop, v.name AS variety, p.sown_at, (p.state->>'seeds')::int AS seeds, (p.state->>'sown')::int AS cells, (p.state->>'sprouted')::int AS sprouted,
  greatest((p.state->>'moved')::int, (p.state->>'taken')::int)::int AS plants, (p.state->>'grams')::double precision AS grams,
  (p.state->>'taken')::int AS taken, coalesce(p.state->'lost', '{}')::jsonb AS lost,
  coalesce(h.first + (h.last - h.first) / 2, p.sown_at)::timestamptz AS cut_at
FROM past p JOIN variety v ON v.school_id = p.school_id AND v.id = p.variety_id
LEFT JOIN LATERAL (
  SELECT min(a.happened_at) AS first, max(a.happened_at) AS last FROM about a
  WHERE a.school_id = p.school_id AND a.thing_id = p.id AND a.kind = 'harvest' AND (p.state->>'taken')::int > 0) h ON true
WHERE (p.state->>'sown')::int > 0 ORDER BY p.sown_at DESC;

-- name: FirstCuts :many
-- When those batches were first harvested, by crop and variety: the latest 300 closed since,
-- and those that are open.
WITH past AS (
  (SELECT b.* FROM batch b WHERE b.closed AND b.sown_at > sqlc.arg(since)::timestamptz ORDER BY b.sown_at DESC LIMIT 300)
  UNION ALL SELECT b.* FROM batch b WHERE NOT b.closed AND (b.state->>'cuts')::int > 0)
SELECT p.crop, v.name AS variety, p.sown_at, first.at::timestamptz AS cut_at
FROM past p JOIN variety v ON v.school_id = p.school_id AND v.id = p.variety_id
CROSS JOIN LATERAL (
  SELECT a.happened_at AS at FROM about a
  WHERE a.school_id = p.school_id AND a.thing_id = p.id AND a.kind = 'harvest' ORDER BY a.happened_at LIMIT 1) first
WHERE (p.state->>'cuts')::int > 0 AND (p.state->>'seeds')::int > 0;

-- name: VarietyNames :many
SELECT id, crop, name, taste, notes FROM variety WHERE NOT retired ORDER BY crop, name;
