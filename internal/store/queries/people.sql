-- name: SetSchoolDay :exec
UPDATE school SET day_begins = $1, day_ends = $2;

-- name: GetSchool :one
SELECT * FROM school;

-- name: SetSchoolUnits :exec
UPDATE school SET unit_system = $1, ec_scale = $2;

-- name: GetWho :one
SELECT s.name AS school, s.zone, s.period_minutes, s.day_begins, s.day_ends, coalesce(p.unit_system, s.unit_system) AS unit_system, coalesce(p.ec_scale, s.ec_scale) AS ec_scale, coalesce(p.language, s.language) AS language, p.name, p.kind, p.sessions
  FROM person p JOIN school s ON s.id = p.school_id WHERE p.id = $1 AND p.active;

-- name: Marks :many
SELECT topic, mark FROM stamp;

-- name: NewMark :exec
INSERT INTO stamp (school_id, shape, topic) VALUES ($1, $2, $3) ON CONFLICT (school_id, topic) DO UPDATE SET mark = excluded.mark, shape = excluded.shape;

-- name: ListPeople :many
SELECT id, kind, name, login FROM person WHERE active ORDER BY kind, name;

-- name: AddPerson :exec
INSERT INTO person (school_id, id, kind, name, login, secret_hash) VALUES ($1, $2, $3, $4, $5, $6);

-- name: SetPersonUnits :exec
UPDATE person SET unit_system = $2, ec_scale = $3 WHERE id = $1;

-- name: SetPersonLanguage :exec
UPDATE person SET language = $2 WHERE id = $1;

-- name: SetSchoolLanguage :exec
UPDATE school SET language = $1;

-- name: EndSessions :exec
UPDATE person SET sessions = sessions + 1 WHERE id = $1;

-- name: AddTrail :exec
INSERT INTO trail (school_id, id, at, person_id, says) VALUES ($1, $2, $3, $4, $5);

-- name: ListTrail :many
SELECT p.name AS person, t.says, count(*)::int AS times, min(t.at)::timestamptz AS first, max(t.at)::timestamptz AS last
  FROM trail t JOIN person p ON p.school_id = t.school_id AND p.id = t.person_id
 WHERE t.at < sqlc.arg('before') AND t.at >= sqlc.arg('since')
 GROUP BY p.name, t.person_id, t.says, (t.at AT TIME ZONE sqlc.arg('zone')::text)::date
 ORDER BY last DESC, t.person_id, t.says LIMIT sqlc.arg('most')::int;

-- name: LastInTrail :one
SELECT at FROM trail WHERE at < $1 ORDER BY at DESC LIMIT 1;

-- name: KnowDevice :exec
INSERT INTO device (school_id, person_id, token) VALUES ($1, $2, $3) ON CONFLICT (school_id, person_id, token) DO UPDATE SET seen = current_date;

-- name: ForgetDevices :exec
DELETE FROM device WHERE person_id = $1;

-- name: EnrolDevice :exec
INSERT INTO crew_device (school_id, id, token, name, enrolled_by, enrolled_at) VALUES ($1, $2, $3, $4, $5, $6)
  ON CONFLICT (school_id, token) DO UPDATE SET name = excluded.name, enrolled_by = excluded.enrolled_by, enrolled_at = excluded.enrolled_at;

-- name: DropCrewDevice :one
DELETE FROM crew_device WHERE id = $1 RETURNING name;

-- name: ListCrewDevices :many
SELECT d.id, d.name, d.enrolled_at, d.token, p.name AS enrolled_by FROM crew_device d
  JOIN person p ON p.school_id = d.school_id AND p.id = d.enrolled_by ORDER BY d.enrolled_at DESC LIMIT 100;

-- name: SetCrewsOnEnrolledOnly :exec
UPDATE school SET crews_on_enrolled_only = $1;
