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
