-- name: SetSchoolDay :exec
UPDATE school SET day_begins = $1, day_ends = $2, day_told = true;

-- name: GetSchool :one
SELECT * FROM school;

-- name: SettingsAlone :exec
-- Whoever changes settings waits for whoever does.
SELECT pg_advisory_xact_lock(hashtextextended(sqlc.arg(school)::text, 14));

-- name: UseThings :exec
-- Whoever writes about things, beside one another; whoever retires one waits for them.
SELECT pg_advisory_xact_lock_shared(hashtextextended(sqlc.arg(school)::text, 15));

-- name: RetireAlone :exec
SELECT pg_advisory_xact_lock(hashtextextended(sqlc.arg(school)::text, 15));

-- name: RetiredAmong :many
SELECT name FROM thing WHERE id = ANY (sqlc.arg(ids)::uuid[]) AND retired ORDER BY name LIMIT 1;

-- name: SetSchool :exec
UPDATE school SET name = $1, zone = $2, latitude = $3, longitude = $4, period_minutes = $5;

-- name: SetSchoolUnits :exec
UPDATE school SET unit_system = $1, ec_scale = $2;

-- name: GetWho :one
SELECT s.name AS school, s.zone, s.latitude, s.crew_may, s.period_minutes, s.day_begins, s.day_ends, coalesce(p.unit_system, s.unit_system) AS unit_system, coalesce(p.ec_scale, s.ec_scale) AS ec_scale, coalesce(p.language, s.language) AS language, p.name, p.kind, p.sessions,
       (p.kind = 'coordinator' AND s.coordinators_prove_twice AND NOT EXISTS (SELECT FROM second_proof x WHERE x.school_id = p.school_id AND x.person_id = p.id AND x.since IS NOT NULL))::boolean AS must_prove
  FROM person p JOIN school s ON s.id = p.school_id WHERE p.id = $1 AND p.active;

-- name: Moments :many
SELECT topic, mark, n FROM stamp;

-- name: NewMark :exec
SELECT new_mark(sqlc.arg(school), sqlc.arg(topic)::text, sqlc.arg(shape)::bigint);

-- name: ChangesSince :many
SELECT DISTINCT what, coalesce(thing, '00000000-0000-0000-0000-000000000000')::uuid AS thing FROM change WHERE n > sqlc.arg(n)::bigint;

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

-- name: AllPeople :many
-- Everybody who may sign in or could, programs aside.
SELECT p.id, p.kind, p.name, p.login, p.active, s.since AS proves_since, w.until AS way_back_until
  FROM person p LEFT JOIN second_proof s ON s.school_id = p.school_id AND s.person_id = p.id
  LEFT JOIN way_back w ON w.school_id = p.school_id AND w.person_id = p.id AND w.until > now()
 WHERE p.kind <> 'program' ORDER BY NOT p.active, p.kind, p.name;

-- name: LockPeople :many
-- The coordinators who may sign in: while somebody changes who is one, nobody else does.
SELECT id FROM person WHERE kind = 'coordinator' AND active ORDER BY id FOR UPDATE;

-- name: PutPerson :execrows
UPDATE person SET kind = $2, name = $3, login = $4 WHERE id = $1;

-- name: SetSecret :execrows
UPDATE person SET secret_hash = $2, sessions = sessions + 1 WHERE id = $1 AND active;

-- name: SetActive :execrows
UPDATE person SET active = $2, sessions = sessions + 1 WHERE id = $1;

-- name: PutWayBack :exec
INSERT INTO way_back (school_id, person_id, code, until) VALUES ($1, $2, $3, now() + interval '24 hours');

-- name: DropWayBack :exec
DELETE FROM way_back WHERE person_id = $1;

-- name: PutSecondProof :exec
INSERT INTO second_proof (school_id, person_id, secret) VALUES ($1, $2, $3);

-- name: DropSecondProof :exec
DELETE FROM second_proof WHERE person_id = $1;

-- name: SetProveTwice :exec
UPDATE school SET coordinators_prove_twice = $1;

-- name: SetCrewMay :exec
UPDATE school SET crew_may = $1;

-- name: PutProgramKey :exec
INSERT INTO program_key (school_id, id, token, scope, made_by, made_at) VALUES ($1, $2, $3, $4, $5, $6);

-- name: UseProgramKey :exec
UPDATE program_key SET used_at = $2 WHERE id = $1;

-- name: ListProgramKeys :many
SELECT k.id, k.scope, k.made_at, k.used_at, p.name, p.active, coalesce(m.name, '') AS made_by
  FROM program_key k JOIN person p ON p.school_id = k.school_id AND p.id = k.id
  LEFT JOIN person m ON m.school_id = k.school_id AND m.id = k.made_by
 ORDER BY NOT p.active, p.name;

-- name: UseWayBack :execrows
DELETE FROM way_back WHERE person_id = $1;
