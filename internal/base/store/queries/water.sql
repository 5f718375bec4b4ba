-- name: AllWaters :many
SELECT * FROM water ORDER BY name;

-- name: PutWater :exec
INSERT INTO water (school_id, id, name, kind, retired) VALUES ($1, $2, $3, $4, $5)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, kind = excluded.kind, retired = excluded.retired;

-- name: DropWater :exec
DELETE FROM water WHERE id = $1;

-- name: TanksOfWater :many
SELECT * FROM tank WHERE water_id = $1 ORDER BY id FOR UPDATE;

-- name: SetTankSpec :exec
UPDATE tank SET spec = $2 WHERE id = $1;
