-- name: AddEntry :one
-- How many entries were written: none when the id is there already.
WITH e AS (
  INSERT INTO entry (school_id, id, kind, happened_at, written_at, person_id, corrects, place_in_line, data, words, sent)
  VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11)
  ON CONFLICT (school_id, id) DO NOTHING RETURNING school_id, id, happened_at, seq, kind),
a AS (
  INSERT INTO about (school_id, entry_id, thing_id, happened_at, seq, kind)
  SELECT e.school_id, e.id, t.id, e.happened_at, e.seq, e.kind FROM e CROSS JOIN unnest(sqlc.arg(about)::uuid[]) AS t (id))
SELECT count(*)::int FROM e;

-- name: GetEntry :one
SELECT e.*, p.name AS person, EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id) AS corrected,
       (SELECT coalesce(json_agg(json_build_object('id', t.id, 'kind', t.kind, 'name', t.name)), '[]')
          FROM about a JOIN thing t ON t.school_id = a.school_id AND t.id = a.thing_id WHERE a.school_id = e.school_id AND a.entry_id = e.id)::json AS about
  FROM entry e JOIN person p ON p.school_id = e.school_id AND p.id = e.person_id WHERE e.id = $1;

-- name: FactsAbout :many
-- What was written about things and counts, in the order it happened, and where.
SELECT a.thing_id, e.id, e.kind, e.happened_at, e.data,
       coalesce((SELECT t.id FROM about x JOIN thing t ON t.school_id = x.school_id AND t.id = x.thing_id AND t.kind = 'place'
         WHERE x.school_id = e.school_id AND x.entry_id = e.id LIMIT 1), '00000000-0000-0000-0000-000000000000')::uuid AS place
  FROM about a JOIN entry e ON e.school_id = a.school_id AND e.id = a.entry_id
 WHERE a.thing_id = ANY (sqlc.arg(things)::uuid[]) AND a.kind <> 'void'
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at, coalesce(e.place_in_line, e.seq);

-- name: DoneAt :many
-- What was written of places since a moment, as it counts: of some places, or all. What is about
-- two of them stands at the first.
SELECT a.thing_id AS place_id, e.id, e.kind, e.data, e.happened_at, p.name AS person,
       coalesce((SELECT min(b.code) FROM about o JOIN batch b ON b.school_id = o.school_id AND b.id = o.thing_id
                  WHERE o.school_id = e.school_id AND o.entry_id = e.id), '')::text AS code
  FROM place pl JOIN about a ON a.school_id = pl.school_id AND a.thing_id = pl.id
  JOIN entry e ON e.school_id = a.school_id AND e.id = a.entry_id
  JOIN person p ON p.school_id = e.school_id AND p.id = e.person_id
 WHERE (sqlc.narg(places)::uuid[] IS NULL OR pl.id = ANY (sqlc.narg(places)::uuid[]))
   AND a.happened_at >= sqlc.arg(since) AND a.kind <> 'void'
   AND NOT EXISTS (SELECT FROM about o JOIN place f ON f.school_id = o.school_id AND f.id = o.thing_id
                    WHERE o.school_id = e.school_id AND o.entry_id = e.id AND f.id < pl.id)
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at, e.seq;

-- name: Decided :many
-- The tasks that were ticked off or put off between two moments.
SELECT (e.data ->> 'task')::text AS task FROM entry e
 WHERE e.happened_at >= sqlc.arg(since) AND e.happened_at <= sqlc.arg(until) AND e.kind IN ('tick', 'skip')
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id);

-- name: LatestActs :many
-- What was written down at once when it was done, the latest first: how long things take
-- is learned from it. An undone act took its time too.
SELECT e.person_id, e.kind, e.happened_at, coalesce(e.data ->> 'task', '')::text AS task FROM entry e
 WHERE e.happened_at >= sqlc.arg(since) AND e.written_at - e.happened_at < interval '1 minute' AND e.corrects IS NULL
 ORDER BY e.happened_at DESC, e.id DESC LIMIT 300;

-- name: TicksOf :many
-- Of a kind of task; those that earlier releases kept say it in their key alone, and all come.
SELECT (e.data ->> 'task')::text AS task, e.happened_at FROM entry e
 WHERE e.kind = 'tick' AND e.happened_at >= sqlc.arg(since) AND coalesce(e.data ->> 'kind', sqlc.arg(kind)::text) = sqlc.arg(kind)::text
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at;

-- name: Notebook :many
-- Names are looked up line by line: joined, the people would be tried before the lines.
SELECT e.id, e.kind, e.happened_at, e.written_at, e.data, e.corrects, e.seq,
       coalesce((SELECT p.name FROM person p WHERE p.school_id = e.school_id AND p.id = e.person_id), '')::text AS person,
       (SELECT coalesce(json_agg(json_build_object('id', t.id, 'kind', t.kind, 'name', t.name)), '[]')
          FROM about a JOIN thing t ON t.school_id = a.school_id AND t.id = a.thing_id WHERE a.school_id = e.school_id AND a.entry_id = e.id)::json AS about,
       EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id) AS corrected
  FROM entry e
 WHERE e.id IN (SELECT notebook_page(sqlc.narg(thing)::uuid, sqlc.narg(ways)::text[],
       sqlc.narg(before)::timestamptz, sqlc.arg(before_seq)::bigint, sqlc.arg(most)::int))
 ORDER BY e.happened_at DESC, e.seq DESC;

-- name: HarvestsSince :many
SELECT e.id, e.happened_at, e.data, b.code, b.crop, p.name AS person
  FROM entry e JOIN about a ON a.school_id = e.school_id AND a.entry_id = e.id
  JOIN batch b ON b.school_id = a.school_id AND b.id = a.thing_id
  JOIN person p ON p.school_id = e.school_id AND p.id = e.person_id
 WHERE e.kind = 'harvest' AND e.happened_at >= sqlc.arg(since) AND e.happened_at <= sqlc.arg(until)
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at DESC LIMIT 50;

-- name: GetThing :one
SELECT kind, name FROM thing WHERE id = $1;

-- name: WrittenWith :many
-- An entry, and those of its kind that one act wrote with it.
SELECT o.id FROM entry e JOIN entry o ON o.school_id = e.school_id AND o.happened_at = e.happened_at AND o.written_at = e.written_at
  AND o.kind = e.kind AND o.person_id = e.person_id AND (o.corrects IS NULL OR o.id = e.id)
WHERE e.id = $1 ORDER BY o.id <> e.id, o.id;
