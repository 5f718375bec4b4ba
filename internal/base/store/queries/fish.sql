-- name: AllTroughs :many
SELECT * FROM trough ORDER BY name;

-- name: PutTrough :exec
INSERT INTO trough (school_id, id, name, place_id, kind, water_l, filter_m2, plant_m2, feed_percent, protein_percent, retired, water_id, tank_id)
VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, place_id = excluded.place_id, kind = excluded.kind, water_l = excluded.water_l,
  filter_m2 = excluded.filter_m2, plant_m2 = excluded.plant_m2, feed_percent = excluded.feed_percent, protein_percent = excluded.protein_percent,
  retired = excluded.retired, water_id = excluded.water_id, tank_id = excluded.tank_id;

-- name: DropTrough :exec
DELETE FROM trough WHERE id = $1;

-- name: FishFacts :many
-- What is known of vessels with fish, in the order it happened: all that counts them, and of
-- feed and water the last while.
SELECT a.thing_id, e.id, e.kind, e.happened_at, e.data
  FROM about a JOIN entry e ON e.school_id = a.school_id AND e.id = a.entry_id
 WHERE a.thing_id = ANY(sqlc.arg(troughs)::uuid[])
   AND (a.kind IN ('fish_stock', 'fish_weigh') OR a.kind IN ('fish_read', 'fish_fed', 'fish_water') AND a.happened_at >= sqlc.arg(since))
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at, coalesce(e.place_in_line, e.seq);
