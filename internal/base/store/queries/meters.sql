-- name: AllMeters :many
SELECT * FROM meter ORDER BY name;

-- name: PutMeter :exec
INSERT INTO meter (school_id, id, name, kind, place_id, due_days, retired, steps) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, kind = excluded.kind, place_id = excluded.place_id, due_days = excluded.due_days,
  retired = excluded.retired, steps = excluded.steps;

-- name: DropMeter :exec
DELETE FROM meter WHERE id = $1;
