-- name: AllPots :many
-- Sizes of pots, and how many of each hold a plant.
SELECT p.*, coalesce((SELECT sum(s.plants) FROM stand s WHERE s.school_id = p.school_id AND s.pot_id = p.id), 0)::int AS used
  FROM pot p ORDER BY p.top_cm, p.name;

-- name: TouchPot :one
UPDATE pot SET touched = true WHERE id = $1 RETURNING id;

-- name: PutPot :exec
INSERT INTO pot (school_id, id, name, top_cm, bottom_cm, height_cm, square, owned, dirty, days, retired) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, top_cm = excluded.top_cm, bottom_cm = excluded.bottom_cm, height_cm = excluded.height_cm,
  square = excluded.square, owned = excluded.owned, dirty = excluded.dirty, days = excluded.days, retired = excluded.retired;

-- name: DropPot :execrows
DELETE FROM pot WHERE id = $1 AND NOT touched;

-- name: DirtyPots :exec
-- Plants left so many pots: they are to be washed.
UPDATE pot SET dirty = greatest(0, dirty + sqlc.arg(many)::int) WHERE id = $1;

-- name: AllMixes :many
SELECT * FROM mix ORDER BY name;

-- name: PutMix :exec
INSERT INTO mix (school_id, id, name, litres, bag_l, retired) VALUES ($1, $2, $3, $4, $5, $6)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, litres = excluded.litres, bag_l = excluded.bag_l, retired = excluded.retired;

-- name: DropMix :exec
DELETE FROM mix WHERE id = $1;

-- name: UseMix :exec
UPDATE mix SET litres = litres - least(litres, sqlc.arg(used)::float8) WHERE id = $1;

-- name: PottedStands :many
-- Plants that stand in pots, by batch and place: of some batches, or all.
SELECT s.batch_id, s.place_id, s.plants, p.id AS pot_id, p.name, p.days
  FROM stand s JOIN pot p ON p.school_id = s.school_id AND p.id = s.pot_id
 WHERE sqlc.narg(ids)::uuid[] IS NULL OR s.batch_id = ANY (sqlc.narg(ids)::uuid[]) ORDER BY s.batch_id, s.place_id, p.top_cm;
