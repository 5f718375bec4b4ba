-- name: SetSchoolDay :exec
UPDATE school SET day_begins = $1, day_ends = $2;

-- name: GetSchool :one
SELECT * FROM school;

-- name: SetSchoolUnits :exec
UPDATE school SET unit_system = $1, ec_scale = $2;

-- name: GetWho :one
SELECT s.name AS school, s.zone, s.period_minutes, s.day_begins, s.day_ends, coalesce(p.unit_system, s.unit_system) AS unit_system, coalesce(p.ec_scale, s.ec_scale) AS ec_scale, p.name, p.kind, p.sessions
  FROM person p JOIN school s ON s.id = p.school_id WHERE p.id = $1 AND p.active;

-- name: Mark :one
SELECT mark FROM stamp;

-- name: NewMark :exec
INSERT INTO stamp (school_id) VALUES ($1) ON CONFLICT (school_id) DO UPDATE SET mark = excluded.mark;

-- name: ListPeople :many
SELECT * FROM person WHERE active ORDER BY kind, name;

-- name: AddPerson :exec
INSERT INTO person (school_id, id, kind, name, login, secret_hash) VALUES ($1, $2, $3, $4, $5, $6);

-- name: SetPersonUnits :exec
UPDATE person SET unit_system = $2, ec_scale = $3 WHERE id = $1;

-- name: EndSessions :exec
UPDATE person SET sessions = sessions + 1 WHERE id = $1;

-- name: AddTrail :exec
INSERT INTO trail (school_id, id, at, person_id, says) VALUES ($1, $2, $3, $4, $5);

-- name: ListTrail :many
SELECT t.at, t.says, p.name AS person FROM trail t
  JOIN person p ON p.school_id = t.school_id AND p.id = t.person_id
 ORDER BY t.at DESC, t.id DESC LIMIT $1;
