-- name: GetSchool :one
SELECT * FROM school;

-- name: SetSchoolUnits :exec
UPDATE school SET unit_system = $1, ec_scale = $2;

-- name: GetPerson :one
SELECT * FROM person WHERE id = $1 AND active;

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
