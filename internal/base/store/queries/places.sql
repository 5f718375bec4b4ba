-- name: ListPlaces :many
SELECT * FROM place WHERE NOT retired ORDER BY walk_order, name;

-- name: HoldPlace :one
-- As it is, until the transaction ends: nobody takes its ports away meanwhile.
SELECT * FROM place WHERE id = $1 AND NOT retired FOR KEY SHARE;

-- name: LockPlace :exec
SELECT FROM place WHERE id = $1 FOR UPDATE;

-- name: HoldTray :exec
SELECT FROM tray WHERE id = $1 FOR KEY SHARE;

-- name: LockTray :exec
SELECT FROM tray WHERE id = $1 FOR UPDATE;

-- name: AllPlaces :many
SELECT * FROM place ORDER BY walk_order, name;

-- name: PutPlace :exec
INSERT INTO place (school_id, id, name, kind, walk_order, tiers, columns, length_cm, width_cm, temperature_c, spring_c, summer_c, autumn_c, winter_c, meter_id, retired,
  daylight, lamp_umol, lamp_hours, humid_id, boards)
VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18, $19, $20, $21)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, kind = excluded.kind, walk_order = excluded.walk_order, tiers = excluded.tiers,
  columns = excluded.columns, length_cm = excluded.length_cm, width_cm = excluded.width_cm, temperature_c = excluded.temperature_c,
  spring_c = excluded.spring_c, summer_c = excluded.summer_c, autumn_c = excluded.autumn_c, winter_c = excluded.winter_c,
  meter_id = excluded.meter_id, retired = excluded.retired,
  daylight = excluded.daylight, lamp_umol = excluded.lamp_umol, lamp_hours = excluded.lamp_hours, humid_id = excluded.humid_id,
  boards = excluded.boards;

-- name: SetWalkOrder :exec
UPDATE place SET walk_order = $2 WHERE id = $1 AND walk_order <> $2;

-- name: DropPlace :exec
DELETE FROM place WHERE id = $1;

-- name: DropThing :exec
DELETE FROM thing WHERE id = $1;

-- name: PlaceUsed :one
-- What stands in a place: plants in ports and stands, the furthest port in use, trays and tanks.
SELECT (SELECT count(*) FROM port p WHERE p.place_id = $1)::int AS ports,
  (SELECT coalesce(max(p.tier) + 1, 0) FROM port p WHERE p.place_id = $1)::int AS tiers,
  (SELECT coalesce(max(p.col) + 1, 0) FROM port p WHERE p.place_id = $1)::int AS columns,
  (SELECT coalesce(sum(s.plants), 0) FROM stand s WHERE s.place_id = $1)::int AS plants,
  (SELECT count(*) FROM tray t WHERE t.place_id = $1 AND NOT t.retired)::int AS trays,
  (SELECT count(*) FROM tank r WHERE r.place_id = $1 AND NOT r.retired)::int AS tanks;

-- name: AllTrays :many
SELECT t.*, coalesce(sum(p.used), 0)::int AS used
  FROM tray t LEFT JOIN tray_part p ON p.school_id = t.school_id AND p.tray_id = t.id
 GROUP BY t.school_id, t.id ORDER BY length(t.name), t.name;

-- name: PutTray :exec
INSERT INTO tray (school_id, id, name, place_id, rows, columns, cell_ml, retired, kind, drains, medium, height_cm)
VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)
ON CONFLICT (school_id, id) DO UPDATE SET name = excluded.name, place_id = excluded.place_id, rows = excluded.rows, columns = excluded.columns,
  cell_ml = excluded.cell_ml, retired = excluded.retired, kind = excluded.kind, drains = excluded.drains, medium = excluded.medium, height_cm = excluded.height_cm;

-- name: TrayGaps :many
-- What is kept free in trays for sowings to come.
SELECT g.*, t.name AS tray, t.place_id FROM tray_gap g JOIN tray t ON t.school_id = g.school_id AND t.id = g.tray_id ORDER BY g.on_day, t.name;

-- name: PutTrayGap :exec
INSERT INTO tray_gap (school_id, id, tray_id, cells, crop, on_day) VALUES ($1, $2, $3, $4, $5, $6)
ON CONFLICT (school_id, id) DO UPDATE SET cells = excluded.cells;

-- name: DropTrayGap :exec
DELETE FROM tray_gap WHERE id = $1;

-- name: TrayUsed :one
-- How far the cells in use reach, how many of them there are, and how many hold something that lives or may.
SELECT count(*)::int AS used, coalesce(max(row) + 1, 0)::int AS rows, coalesce(max(col) + 1, 0)::int AS columns,
  count(*) FILTER (WHERE state IN ('sown', 'sprouted', 'thinned'))::int AS alive
  FROM cell WHERE tray_id = $1;

-- name: DropTray :exec
DELETE FROM tray WHERE id = $1;

-- name: AllTanks :many
SELECT * FROM tank ORDER BY place_id, position;

-- name: PutTank :exec
INSERT INTO tank (school_id, id, place_id, name, position, spec, retired, water_id) VALUES ($1, $2, $3, $4, $5, $6, $7, $8)
ON CONFLICT (school_id, id) DO UPDATE SET place_id = excluded.place_id, name = excluded.name, position = excluded.position, spec = excluded.spec,
  retired = excluded.retired, water_id = excluded.water_id;

-- name: DropTank :exec
DELETE FROM tank WHERE id = $1;

-- name: GetPlace :one
SELECT * FROM place WHERE id = $1;

-- name: ListTanks :many
-- Of some, or all.
SELECT * FROM tank WHERE NOT retired AND (sqlc.narg(ids)::uuid[] IS NULL OR id = ANY (sqlc.narg(ids)::uuid[])) ORDER BY place_id, position;

-- name: GetTank :one
SELECT * FROM tank WHERE id = $1;

-- name: LockTank :one
SELECT * FROM tank WHERE id = $1 FOR UPDATE;

-- name: SetTankState :exec
UPDATE tank SET state = $2 WHERE id = $1;

-- name: ListTrays :many
SELECT t.*, coalesce(sum(p.used), 0)::int AS used
  FROM tray t LEFT JOIN tray_part p ON p.school_id = t.school_id AND p.tray_id = t.id
 WHERE NOT t.retired GROUP BY t.school_id, t.id ORDER BY length(t.name), t.name;

-- name: TraysOfPlace :many
SELECT t.*, coalesce((SELECT sum(p.used) FROM tray_part p WHERE p.school_id = t.school_id AND p.tray_id = t.id), 0)::int AS used
  FROM tray t WHERE t.place_id = $1 AND NOT t.retired ORDER BY length(t.name), t.name;

-- name: GetTray :one
SELECT t.*, coalesce((SELECT sum(p.used) FROM tray_part p WHERE p.school_id = t.school_id AND p.tray_id = t.id), 0)::int AS used
  FROM tray t WHERE t.id = $1;

-- name: TankWritten :one
-- How many entries are about a tank.
SELECT count(*)::int FROM about WHERE thing_id = $1;

-- name: CellsOfTray :many
SELECT c.row, c.col, c.batch_id, c.state, c.cause, c.open, c.waits, c.plants, c.done, b.code, b.crop
  FROM cell c JOIN batch b ON b.school_id = c.school_id AND b.id = c.batch_id
 WHERE c.tray_id = $1 ORDER BY c.row, c.col;

-- name: PortsOfPlaces :many
SELECT p.place_id, p.tier, p.col, p.batch_id, b.code, b.crop, b.sown_at
  FROM port p JOIN batch b ON b.school_id = p.school_id AND b.id = p.batch_id
 WHERE p.place_id = ANY(sqlc.arg(places)::uuid[]) ORDER BY p.place_id, p.tier, p.col;

-- name: JarPorts :many
-- The jars that hold a plant: the shelf, the number of the port, from 1, and whose it is.
SELECT p.place_id, (p.tier * l.columns + p.col + 1)::int AS number, p.batch_id, p.tier, p.col
  FROM port p JOIN place l ON l.school_id = p.school_id AND l.id = p.place_id WHERE l.kind = 'jars';

-- name: PumpedTanks :many
-- How many tanks with a pump share what stands in a place.
SELECT place_id, count(*)::int AS tanks FROM tank WHERE NOT coalesce((spec->>'passive')::bool, false) GROUP BY 1;

-- name: StandsOfPlace :many
SELECT s.batch_id, sum(s.plants)::int AS plants, b.code, b.crop, b.sown_at
  FROM stand s JOIN batch b ON b.school_id = s.school_id AND b.id = s.batch_id
 WHERE s.place_id = $1 GROUP BY 1, 3, 4, 5 ORDER BY b.code;

-- name: WhereBatchesAre :many
-- Of some batches, or all.
SELECT place_id, batch_id, plants, waiting, kind FROM (
  SELECT t.place_id, c.batch_id, sum(c.standing)::int AS plants, sum(c.waiting)::int AS waiting, 'cell'::text AS kind
    FROM tray_part c JOIN tray t ON t.school_id = c.school_id AND t.id = c.tray_id GROUP BY 1, 2 HAVING sum(c.waiting + c.standing) > 0
  UNION ALL
  SELECT p.place_id, p.batch_id, count(*)::int, 0, 'port' FROM port p GROUP BY 1, 2
  UNION ALL
  SELECT s.place_id, s.batch_id, sum(s.plants)::int, 0, 'stand' FROM stand s GROUP BY 1, 2
) w WHERE sqlc.narg(ids)::uuid[] IS NULL OR batch_id = ANY (sqlc.narg(ids)::uuid[]) ORDER BY place_id, batch_id, kind;

-- name: TraysOfBatches :many
SELECT c.batch_id, c.tray_id, t.place_id, c.waiting, c.standing
  FROM tray_part c JOIN tray t ON t.school_id = c.school_id AND t.id = c.tray_id
 ORDER BY c.batch_id, c.tray_id;

-- name: BatchesInTray :many
SELECT batch_id FROM tray_part WHERE tray_id = $1 AND waiting + standing > 0 ORDER BY batch_id;

-- name: TrayCare :many
-- What was done to trays from day to day, in the order it happened.
SELECT a.thing_id AS tray_id, e.happened_at, e.data
  FROM entry e JOIN about a ON a.school_id = e.school_id AND a.entry_id = e.id
  JOIN thing t ON t.school_id = a.school_id AND t.id = a.thing_id AND t.kind = 'tray'
 WHERE e.kind = 'tray_care' AND e.happened_at >= sqlc.arg(since)
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at, coalesce(e.place_in_line, e.seq);

-- name: CheckedAt :many
-- What was ticked off of a place's lists, in the order it happened.
SELECT e.id, e.happened_at, e.data
  FROM about a JOIN entry e ON e.school_id = a.school_id AND e.id = a.entry_id
 WHERE a.thing_id = sqlc.arg(place) AND a.kind = 'checked' AND a.happened_at >= sqlc.arg(since)
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at, coalesce(e.place_in_line, e.seq);

-- name: AirOf :many
-- What was read of the air of a place, in the order it happened.
SELECT e.happened_at, e.data
  FROM about a JOIN entry e ON e.school_id = a.school_id AND e.id = a.entry_id
 WHERE a.thing_id = sqlc.arg(place) AND a.kind = 'air' AND a.happened_at >= sqlc.arg(since)
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at, coalesce(e.place_in_line, e.seq);

-- name: BoardsNow :many
-- The order in which the boards of rafts float: what was last written of each.
SELECT last.thing_id AS place_id, last.happened_at, last.data FROM unnest(sqlc.arg(places)::uuid[]) AS p (id)
 CROSS JOIN LATERAL (
  SELECT a.thing_id, e.happened_at, e.data FROM about a JOIN entry e ON e.school_id = a.school_id AND e.id = a.entry_id
   WHERE a.thing_id = p.id AND a.kind = 'boards_moved'
     AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
   ORDER BY a.happened_at DESC, coalesce(e.place_in_line, e.seq) DESC LIMIT 1) last
 ORDER BY last.thing_id;

-- name: BoardMoves :many
-- What was done with the boards of a raft, in the order it happened.
SELECT e.id, e.happened_at, e.data
  FROM about a JOIN entry e ON e.school_id = a.school_id AND e.id = a.entry_id
 WHERE a.thing_id = sqlc.arg(place) AND a.kind = 'boards_moved' AND a.happened_at >= sqlc.arg(since)
   AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
 ORDER BY e.happened_at, coalesce(e.place_in_line, e.seq);

-- name: CameTo :many
-- The batches of which plants came to a place since a day.
SELECT b.id, b.code, b.crop, b.purpose
  FROM batch b
 WHERE b.id IN (SELECT o.thing_id FROM about p
     JOIN about o ON o.school_id = p.school_id AND o.entry_id = p.entry_id
    WHERE p.thing_id = sqlc.arg(place) AND p.kind IN ('move', 'adopt') AND p.happened_at >= sqlc.arg(since))
 ORDER BY b.code;
