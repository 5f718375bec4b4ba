-- name: Labelled :many
SELECT thing_id FROM labelled;

-- name: PutLabelled :exec
INSERT INTO labelled (school_id, thing_id, printed_at) SELECT $1, unnest(sqlc.arg(things)::uuid[]), sqlc.arg(at)
ON CONFLICT (school_id, thing_id) DO UPDATE SET printed_at = excluded.printed_at;

-- name: BatchByCode :one
SELECT id FROM batch WHERE code = $1;
