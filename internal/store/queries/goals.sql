-- name: Goals :many
SELECT g.*, EXISTS (SELECT FROM planned p WHERE p.goal_id = g.id)::bool AS used FROM goal g ORDER BY g.retired, g.by_day, g.name;

-- name: PutGoal :exec
INSERT INTO goal (school_id, id, name, kind, crop, variety, wanted, from_day, by_day, harvest, sure, missing, whom, retired)
VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, kind = excluded.kind, crop = excluded.crop, variety = excluded.variety,
  wanted = excluded.wanted, from_day = excluded.from_day, by_day = excluded.by_day, harvest = excluded.harvest, sure = excluded.sure,
  missing = excluded.missing, whom = excluded.whom, retired = excluded.retired;

-- name: DropGoal :exec
DELETE FROM goal WHERE id = $1;

-- name: PlannedForGoals :many
SELECT * FROM planned WHERE goal_id IS NOT NULL AND NOT (settled AND ready_by < sqlc.arg(since)::date) ORDER BY sow_on, id;

-- name: PutPlanned :exec
-- What is sown already stays as it was planned.
INSERT INTO planned (school_id, id, crop, wanted, sow_on, ready_by, goal_id, moves) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)
ON CONFLICT (school_id, id) DO UPDATE SET crop = excluded.crop, wanted = excluded.wanted, sow_on = excluded.sow_on, ready_by = excluded.ready_by,
  moves = excluded.moves WHERE NOT planned.settled;

-- name: DropPlanned :exec
-- What was kept for a goal and is not sown.
DELETE FROM planned WHERE id = $1 AND goal_id IS NOT NULL AND NOT settled;
