-- name: ListPlaces :many
SELECT * FROM place ORDER BY walk_order, name;

-- name: GetPlace :one
SELECT * FROM place WHERE id = $1;

-- name: AddPlace :exec
INSERT INTO place (school_id, id, name, kind, walk_order, tiers, columns, length_cm, width_cm, temperature_c)
VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10);

-- name: ListReservoirs :many
SELECT * FROM reservoir ORDER BY place_id, position;

-- name: GetReservoir :one
SELECT * FROM reservoir WHERE id = $1;

-- name: LockReservoir :one
SELECT * FROM reservoir WHERE id = $1 FOR UPDATE;

-- name: SetReservoirState :exec
UPDATE reservoir SET state = $2 WHERE id = $1;

-- name: AddReservoir :exec
INSERT INTO reservoir (school_id, id, place_id, name, position, spec) VALUES ($1, $2, $3, $4, $5, $6);

-- name: ListTrays :many
SELECT t.*, count(c.batch_id)::int AS used
  FROM tray t LEFT JOIN cell c ON c.school_id = t.school_id AND c.tray_id = t.id
 GROUP BY t.school_id, t.id ORDER BY length(t.name), t.name;

-- name: GetTray :one
SELECT * FROM tray WHERE id = $1;

-- name: AddTray :exec
INSERT INTO tray (school_id, id, name, place_id, rows, columns, cell_ml) VALUES ($1, $2, $3, $4, $5, $6, $7);

-- name: CellsOfTray :many
SELECT c.row, c.col, c.batch_id, c.state, c.cause, b.code, b.crop
  FROM cell c JOIN batch b ON b.school_id = c.school_id AND b.id = c.batch_id
 WHERE c.tray_id = $1 ORDER BY c.row, c.col;

-- name: PortsOfPlace :many
SELECT p.tier, p.col, p.batch_id, b.code, b.crop
  FROM port p JOIN batch b ON b.school_id = p.school_id AND b.id = p.batch_id
 WHERE p.place_id = $1 ORDER BY p.tier, p.col;

-- name: StandsOfPlace :many
SELECT s.batch_id, s.plants, b.code, b.crop
  FROM stand s JOIN batch b ON b.school_id = s.school_id AND b.id = s.batch_id
 WHERE s.place_id = $1 ORDER BY b.code;

-- name: WhereBatchesAre :many
SELECT place_id, batch_id, plants, kind FROM (
  SELECT t.place_id, c.batch_id, count(*)::int AS plants, 'cell'::text AS kind, c.school_id
    FROM cell c JOIN tray t ON t.school_id = c.school_id AND t.id = c.tray_id
   WHERE c.state IN ('sown', 'sprouted', 'thinned') GROUP BY 1, 2, 5
  UNION ALL
  SELECT p.place_id, p.batch_id, count(*)::int, 'port', p.school_id FROM port p GROUP BY 1, 2, 5
  UNION ALL
  SELECT s.place_id, s.batch_id, s.plants, 'stand', s.school_id FROM stand s
) w ORDER BY place_id, batch_id, kind;

-- name: TraysOfBatches :many
SELECT c.batch_id, c.tray_id, t.place_id,
       count(*) FILTER (WHERE c.state = 'sown')::int AS waiting,
       count(*) FILTER (WHERE c.state IN ('sprouted', 'thinned'))::int AS standing
  FROM cell c JOIN tray t ON t.school_id = c.school_id AND t.id = c.tray_id
 GROUP BY c.batch_id, c.tray_id, t.place_id ORDER BY c.batch_id, c.tray_id;
