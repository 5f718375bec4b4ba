-- name: AllVarieties :many
SELECT v.*, (SELECT count(*) FROM seed_lot l WHERE l.school_id = v.school_id AND l.variety_id = v.id AND NOT l.retired)::int AS lots
  FROM variety v ORDER BY v.crop, v.name;

-- name: PutVariety :exec
INSERT INTO variety (school_id, id, crop, name, retired, taste, notes) VALUES ($1, $2, $3, $4, $5, $6, $7)
ON CONFLICT (school_id, id) DO UPDATE SET crop = excluded.crop, name = excluded.name, retired = excluded.retired, taste = excluded.taste,
  notes = excluded.notes;

-- name: DropVariety :exec
DELETE FROM variety WHERE id = $1;

-- name: VarietyGrown :one
SELECT EXISTS (SELECT FROM batch WHERE variety_id = $1);

-- name: ListLots :many
SELECT l.*, v.crop, v.name AS variety, v.taste, v.notes AS variety_notes
  FROM seed_lot l JOIN variety v ON v.school_id = l.school_id AND v.id = l.variety_id
 WHERE NOT l.retired ORDER BY v.crop, v.name, l.packed DESC;

-- name: AllLots :many
SELECT l.*, v.crop, v.name AS variety, v.taste, v.notes AS variety_notes
  FROM seed_lot l JOIN variety v ON v.school_id = l.school_id AND v.id = l.variety_id
 ORDER BY v.crop, v.name, l.packed DESC;

-- name: GetLot :one
SELECT l.*, v.crop, v.name AS variety, v.taste, v.notes AS variety_notes
  FROM seed_lot l JOIN variety v ON v.school_id = l.school_id AND v.id = l.variety_id
 WHERE l.id = $1;

-- name: PutLot :exec
INSERT INTO seed_lot (school_id, id, variety_id, name, packed, label_rate, tested, sprouted, seeds_left, treated, retired,
  origin, harvested, pelleted, kept_in, gone)
VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16)
ON CONFLICT (school_id, id) DO UPDATE SET variety_id = excluded.variety_id, name = excluded.name, packed = excluded.packed, label_rate = excluded.label_rate,
  tested = excluded.tested, sprouted = excluded.sprouted, seeds_left = excluded.seeds_left, treated = excluded.treated, retired = excluded.retired,
  origin = excluded.origin, harvested = excluded.harvested, pelleted = excluded.pelleted, kept_in = excluded.kept_in, gone = excluded.gone;

-- name: DropLot :exec
DELETE FROM seed_lot WHERE id = $1;

-- name: OfLots :many
-- What was sown of packets of seed, as the batches tell it, what was pricked out not among it, nor what was thinned out and replanted: of those that are closed the
-- latest 300 since a day, and those that are open.
WITH past AS (
  (SELECT * FROM batch b WHERE b.closed AND b.sown_at > sqlc.arg(since)::timestamptz ORDER BY b.sown_at DESC LIMIT 300)
  UNION ALL SELECT * FROM batch b WHERE NOT b.closed)
SELECT p.id, p.code, p.seed_lot_id, p.crop, p.variety_id, p.sown_at, p.closed, ((p.state->>'sown')::int - coalesce((p.state->>'replanted')::int, 0))::int AS cells,
  (p.state->>'seeds')::int AS seeds, ((p.state->>'sprouted')::int - coalesce((p.state->>'replanted')::int, 0))::int AS sprouted, (p.state->>'moved')::int AS moved
FROM past p WHERE p.seed_lot_id IS NOT NULL AND (p.state->>'seeds')::int > 0 ORDER BY p.sown_at DESC;

-- name: LotSown :one
SELECT EXISTS (SELECT FROM batch WHERE seed_lot_id = $1);

-- name: CropValues :many
-- A school's own values; of a crop of its own, without a name, whether it is in use.
SELECT crop, name, value FROM crop_value
UNION ALL SELECT kin || '~' || name, '', CASE WHEN retired THEN '' ELSE 'in use' END FROM own_crop
 ORDER BY 1, 2;

-- name: OwnCrops :many
-- A batch is of a variety too.
SELECT o.*, (EXISTS (SELECT FROM variety v WHERE v.crop = o.kin || '~' || o.name)
  OR EXISTS (SELECT FROM planned p WHERE p.crop = o.kin || '~' || o.name)
  OR EXISTS (SELECT FROM goal g WHERE g.crop = o.kin || '~' || o.name))::bool AS used
  FROM own_crop o ORDER BY o.name;

-- name: PutOwnCrop :exec
INSERT INTO own_crop (school_id, id, kin, name, retired) VALUES ($1, $2, $3, $4, $5)
ON CONFLICT (school_id, id) DO UPDATE SET kin = excluded.kin, name = excluded.name, retired = excluded.retired;

-- name: DropOwnCrop :exec
DELETE FROM own_crop WHERE id = $1;

-- name: ForgetCrop :exec
DELETE FROM crop_value WHERE crop = $1;

-- name: RenameCrop :exec
SELECT rename_crop(sqlc.arg(was)::text, sqlc.arg(now)::text);

-- name: PutCropValue :exec
INSERT INTO crop_value (school_id, crop, name, value) VALUES ($1, $2, $3, $4)
ON CONFLICT (school_id, crop, name) DO UPDATE SET value = excluded.value;

-- name: ForgetCropValue :exec
DELETE FROM crop_value WHERE crop = $1 AND name = $2;

-- name: LastCode :one
SELECT coalesce(max(substring(code FROM 5)::int), 0)::int FROM batch
 WHERE code COLLATE "C" >= sqlc.arg(letters)::text || '-' AND code COLLATE "C" < sqlc.arg(letters)::text || '.'; -- the character after -

-- name: LockCodes :exec
SELECT pg_advisory_xact_lock(hashtext(sqlc.arg(key)::text));

-- name: AddBatch :exec
INSERT INTO batch (school_id, id, code, crop, variety_id, seed_lot_id, purpose, wanted, ready_by, sown_at)
VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10);

-- name: NameBatch :exec
-- Of plants that were not sown here.
UPDATE batch SET crop = $2, variety_id = $3 WHERE id = $1 AND seed_lot_id IS NULL;

-- name: DescribeBatch :exec
UPDATE batch SET purpose = $2, wanted = $3, ready_by = $4 WHERE id = $1;

-- name: ListBatches :many
-- Of some, or all.
SELECT b.*, v.name AS variety, coalesce(l.packed, 0)::int AS packed, l.label_rate
  FROM batch b JOIN variety v ON v.school_id = b.school_id AND v.id = b.variety_id
  LEFT JOIN seed_lot l ON l.school_id = b.school_id AND l.id = b.seed_lot_id
 WHERE NOT b.closed AND (sqlc.narg(ids)::uuid[] IS NULL OR b.id = ANY (sqlc.narg(ids)::uuid[])) ORDER BY b.sown_at, b.code;

-- name: LooksBefore :many
-- What was last seen of open batches before a time: of some, or all.
SELECT b.id, last.happened_at, last.data FROM batch b
 CROSS JOIN LATERAL (
  SELECT e.happened_at, e.data FROM about a JOIN entry e ON e.school_id = a.school_id AND e.id = a.entry_id
   WHERE a.school_id = b.school_id AND a.thing_id = b.id AND a.kind = 'look' AND a.happened_at < sqlc.arg(before)
     AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
   ORDER BY a.happened_at DESC, coalesce(e.place_in_line, e.seq) DESC LIMIT 1) last
 WHERE NOT b.closed AND (sqlc.narg(ids)::uuid[] IS NULL OR b.id = ANY (sqlc.narg(ids)::uuid[]));

-- name: ListClosedBatches :many
-- Those whose sowing was undone were never closed.
SELECT b.*, v.name AS variety
  FROM batch b JOIN variety v ON v.school_id = b.school_id AND v.id = b.variety_id
 WHERE b.closed AND (b.state->>'closed')::bool ORDER BY b.sown_at DESC LIMIT $1;

-- name: GetBatches :many
SELECT b.*, v.name AS variety, coalesce(l.name, '') AS lot, coalesce(l.packed, 0)::int AS packed, l.label_rate
  FROM batch b JOIN variety v ON v.school_id = b.school_id AND v.id = b.variety_id
  LEFT JOIN seed_lot l ON l.school_id = b.school_id AND l.id = b.seed_lot_id
 WHERE b.id = ANY (sqlc.arg(ids)::uuid[]);

-- name: LockBatch :one
SELECT * FROM batch WHERE id = $1 FOR UPDATE;

-- name: SetBatchState :exec
UPDATE batch SET state = $2, closed = $3, latest = $4 WHERE id = $1;

-- name: DropTrayParts :exec
DELETE FROM tray_part WHERE batch_id = $1;

-- name: PutTrayPart :exec
INSERT INTO tray_part (school_id, tray_id, batch_id, waiting, standing, used) VALUES ($1, $2, $3, $4, $5, $6);

-- name: CellsOfBatches :many
SELECT c.batch_id, c.tray_id, c.row, c.col, c.state, c.cause, c.open, c.waits, c.plants, c.done, t.name AS tray
  FROM cell c JOIN tray t ON t.school_id = c.school_id AND t.id = c.tray_id
 WHERE c.batch_id = ANY (sqlc.arg(ids)::uuid[]) ORDER BY t.name, c.row, c.col;

-- name: PortsOfBatches :many
SELECT p.batch_id, p.place_id, p.tier, p.col, pl.name AS place
  FROM port p JOIN place pl ON pl.school_id = p.school_id AND pl.id = p.place_id
 WHERE p.batch_id = ANY (sqlc.arg(ids)::uuid[]) ORDER BY pl.walk_order, p.tier, p.col;

-- name: StandsOfBatches :many
SELECT s.batch_id, s.place_id, s.plants, pl.name AS place, pl.kind, s.pot_id, coalesce(p.name, '')::text AS pot, coalesce(p.days, 0)::int AS pot_days
  FROM stand s JOIN place pl ON pl.school_id = s.school_id AND pl.id = s.place_id
  LEFT JOIN pot p ON p.school_id = s.school_id AND p.id = s.pot_id
 WHERE s.batch_id = ANY (sqlc.arg(ids)::uuid[]) ORDER BY pl.walk_order, p.top_cm NULLS FIRST;

-- name: PutCells :exec
INSERT INTO cell (school_id, tray_id, row, col, batch_id, state, cause, open, waits, plants, done)
SELECT sqlc.arg(school_id), unnest(sqlc.arg(trays)::uuid[]), unnest(sqlc.arg(rows)::int[]), unnest(sqlc.arg(cols)::int[]),
       sqlc.arg(batch_id), unnest(sqlc.arg(states)::text[]), unnest(sqlc.arg(causes)::text[]),
       unnest(sqlc.arg(opens)::bool[]), unnest(sqlc.arg(waits)::int[]), unnest(sqlc.arg(plants)::int[]), unnest(sqlc.arg(dones)::bool[]);

-- name: SetCells :exec
UPDATE cell c SET state = n.state, cause = n.cause, open = n.open, waits = n.waits, plants = n.plants, done = n.done
  FROM (SELECT unnest(sqlc.arg(trays)::uuid[]) AS tray_id, unnest(sqlc.arg(rows)::int[]) AS row, unnest(sqlc.arg(cols)::int[]) AS col,
               unnest(sqlc.arg(states)::text[]) AS state, unnest(sqlc.arg(causes)::text[]) AS cause,
               unnest(sqlc.arg(opens)::bool[]) AS open, unnest(sqlc.arg(waits)::int[]) AS waits,
               unnest(sqlc.arg(plants)::int[]) AS plants, unnest(sqlc.arg(dones)::bool[]) AS done) n
 WHERE c.tray_id = n.tray_id AND c.row = n.row AND c.col = n.col AND c.batch_id = sqlc.arg(batch_id);

-- name: DropCells :exec
DELETE FROM cell c USING (SELECT unnest(sqlc.arg(trays)::uuid[]) AS tray_id, unnest(sqlc.arg(rows)::int[]) AS row, unnest(sqlc.arg(cols)::int[]) AS col) n
 WHERE c.tray_id = n.tray_id AND c.row = n.row AND c.col = n.col AND c.batch_id = sqlc.arg(batch_id);

-- name: PutPorts :exec
INSERT INTO port (school_id, place_id, tier, col, batch_id)
SELECT sqlc.arg(school_id), unnest(sqlc.arg(places)::uuid[]), unnest(sqlc.arg(tiers)::int[]), unnest(sqlc.arg(cols)::int[]), sqlc.arg(batch_id);

-- name: DropPorts :exec
DELETE FROM port p USING (SELECT unnest(sqlc.arg(places)::uuid[]) AS place_id, unnest(sqlc.arg(tiers)::int[]) AS tier, unnest(sqlc.arg(cols)::int[]) AS col) n
 WHERE p.place_id = n.place_id AND p.tier = n.tier AND p.col = n.col AND p.batch_id = sqlc.arg(batch_id);

-- name: DropStands :exec
DELETE FROM stand WHERE batch_id = $1;

-- name: PutStand :exec
INSERT INTO stand (school_id, place_id, batch_id, pot_id, plants) VALUES ($1, $2, $3, $4, $5);

-- name: UseSeed :exec
UPDATE seed_lot SET seeds_left = seeds_left - least(seeds_left, sqlc.arg(seeds)::int) WHERE id = $1;
