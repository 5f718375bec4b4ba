-- name: AllSalts :many
SELECT * FROM salt ORDER BY name;

-- name: PutSalt :exec
INSERT INTO salt (school_id, id, name, chemical, label, grams_left, spoons, spoons_g, retired) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, chemical = excluded.chemical, label = excluded.label, grams_left = excluded.grams_left,
  spoons = excluded.spoons, spoons_g = excluded.spoons_g, retired = excluded.retired;

-- name: DropSalt :exec
DELETE FROM salt WHERE id = $1;

-- name: UseSalt :exec
UPDATE salt SET grams_left = grams_left - least(grams_left, sqlc.arg(used)::float8) WHERE id = $1;

-- name: AllRecipes :many
SELECT * FROM recipe ORDER BY name;

-- name: PutRecipe :exec
INSERT INTO recipe (school_id, id, name, targets, retired) VALUES ($1, $2, $3, $4, $5)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, targets = excluded.targets, retired = excluded.retired;

-- name: DropRecipe :exec
DELETE FROM recipe WHERE id = $1;
