-- name: AllJobs :many
SELECT j.*, coalesce(p.name, '')::text AS person FROM job j
  LEFT JOIN person p ON p.school_id = j.school_id AND p.id = j.person_id ORDER BY j.from_day, j.name;

-- name: PutJob :exec
INSERT INTO job (school_id, id, name, place_id, from_day, every_days, minutes, person_id, retired) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, place_id = excluded.place_id, from_day = excluded.from_day,
  every_days = excluded.every_days, minutes = excluded.minutes, person_id = excluded.person_id, retired = excluded.retired;

-- name: DropJob :exec
DELETE FROM job WHERE id = $1;

-- name: Given :many
-- Who does something on the round, and what of it is given to each on a day.
SELECT p.id, p.name, coalesce(g.key, '')::text AS key FROM person p
  LEFT JOIN round_given g ON g.school_id = p.school_id AND g.person_id = p.id AND (g.until_day IS NULL OR g.until_day >= $1)
 WHERE p.active AND p.kind <> 'program' ORDER BY p.kind, p.name;

-- name: Give :exec
INSERT INTO round_given (school_id, key, person_id, until_day) VALUES ($1, $2, $3, $4)
ON CONFLICT (school_id, key) DO UPDATE SET person_id = excluded.person_id, until_day = excluded.until_day;

-- name: TakeBack :exec
-- What was given, and whatever was given for earlier days.
DELETE FROM round_given WHERE key = $1 OR until_day < sqlc.arg(today);
