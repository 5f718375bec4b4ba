-- name: AllStocks :many
SELECT * FROM stock ORDER BY name;

-- name: PutStock :exec
INSERT INTO stock (school_id, id, name, holds_l, retired) VALUES ($1, $2, $3, $4, $5)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, holds_l = excluded.holds_l, retired = excluded.retired;

-- name: DropStock :exec
DELETE FROM stock WHERE id = $1;

-- name: StockMixes :many
-- What was mixed into stock bottles, in the order it happened.
SELECT a.thing_id, e.happened_at, e.data
  FROM about a JOIN entry e ON e.school_id = a.school_id AND e.id = a.entry_id
 WHERE a.thing_id = ANY(sqlc.arg(stocks)::uuid[]) AND a.kind = 'mixed' AND a.happened_at >= sqlc.arg(since)
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at;

-- name: StockUses :many
-- What tanks took of their stock, in the order it happened.
SELECT a.thing_id, e.happened_at, e.data
  FROM about a JOIN entry e ON e.school_id = a.school_id AND e.id = a.entry_id
 WHERE a.thing_id = ANY(sqlc.arg(tanks)::uuid[]) AND a.kind = 'treat' AND a.happened_at >= sqlc.arg(since)
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at;
