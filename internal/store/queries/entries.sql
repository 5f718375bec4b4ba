-- name: AddEntry :execrows
INSERT INTO entry (school_id, id, kind, happened_at, written_at, person_id, batch_id, place_id, reservoir_id, corrects, place_in_line, data, words, sent)
VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14)
ON CONFLICT (school_id, id) DO NOTHING;

-- name: GetEntry :one
SELECT e.*, p.name AS person, EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id) AS corrected
  FROM entry e JOIN person p ON p.school_id = e.school_id AND p.id = e.person_id WHERE e.id = $1;

-- name: FactsOfBatches :many
SELECT e.* FROM entry e
 WHERE e.batch_id = ANY (sqlc.arg(ids)::uuid[]) AND e.kind <> 'void'
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at, coalesce(e.place_in_line, e.seq);

-- name: FactsOfReservoir :many
SELECT e.* FROM entry e
 WHERE e.reservoir_id = $1 AND e.kind <> 'void'
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at, coalesce(e.place_in_line, e.seq);

-- name: Decisions :many
SELECT e.id, e.kind, e.data, e.happened_at, e.batch_id, e.reservoir_id, e.place_id, p.name AS person, coalesce(b.code, '') AS code
  FROM entry e JOIN person p ON p.school_id = e.school_id AND p.id = e.person_id
  LEFT JOIN batch b ON b.school_id = e.school_id AND b.id = e.batch_id
 WHERE e.happened_at >= sqlc.arg(since) AND e.happened_at <= sqlc.arg(until) AND e.kind <> 'void'
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at, e.seq;

-- name: HardeningTicks :many
SELECT (e.data ->> 'task')::text AS task, e.happened_at FROM entry e
 WHERE e.kind = 'tick' AND e.happened_at >= sqlc.arg(since) AND e.data ->> 'task' LIKE 'harden:%'
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at;

-- name: Notebook :many
-- Names are looked up line by line: joined, the people would be tried before the lines.
SELECT e.id, e.kind, e.happened_at, e.written_at, e.data, e.corrects, e.batch_id, e.place_id, e.reservoir_id, e.seq,
       coalesce((SELECT p.name FROM person p WHERE p.school_id = e.school_id AND p.id = e.person_id), '')::text AS person,
       coalesce((SELECT b.code FROM batch b WHERE b.school_id = e.school_id AND b.id = e.batch_id), '')::text AS code,
       coalesce((SELECT l.name FROM place l WHERE l.school_id = e.school_id AND l.id = e.place_id), '')::text AS place,
       coalesce((SELECT r.name FROM reservoir r WHERE r.school_id = e.school_id AND r.id = e.reservoir_id), '')::text AS reservoir,
       EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id) AS corrected
  FROM entry e
 WHERE e.id IN (SELECT notebook_page(sqlc.narg(batch)::uuid, sqlc.narg(place)::uuid, sqlc.narg(reservoir)::uuid, sqlc.arg(find)::text,
       sqlc.narg(before)::timestamptz, sqlc.arg(before_seq)::bigint, sqlc.arg(most)::int))
 ORDER BY e.happened_at DESC, e.seq DESC;

-- name: HarvestsSince :many
SELECT e.id, e.happened_at, e.data, b.code, b.crop, p.name AS person
  FROM entry e JOIN batch b ON b.school_id = e.school_id AND b.id = e.batch_id
  JOIN person p ON p.school_id = e.school_id AND p.id = e.person_id
 WHERE e.kind = 'harvest' AND e.happened_at >= sqlc.arg(since) AND e.happened_at <= sqlc.arg(until)
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at DESC LIMIT 50;
