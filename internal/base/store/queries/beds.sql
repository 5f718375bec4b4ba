-- name: BedSections :many
SELECT s.*, EXISTS (SELECT FROM bed_crop c WHERE c.section_id = s.id)::bool AS used FROM bed_section s ORDER BY retired, place_id, y_cm, x_cm, name;

-- name: PutBedSection :exec
INSERT INTO bed_section (school_id, id, place_id, name, x_cm, y_cm, length_cm, width_cm, sun, retired) VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)
ON CONFLICT (school_id, id) DO UPDATE SET place_id = excluded.place_id, name = excluded.name, x_cm = excluded.x_cm, y_cm = excluded.y_cm,
  length_cm = excluded.length_cm, width_cm = excluded.width_cm, sun = excluded.sun, retired = excluded.retired;

-- name: DropBedSection :exec
DELETE FROM bed_section WHERE id = $1;

-- name: BedCrops :many
SELECT * FROM bed_crop ORDER BY year DESC, crop;

-- name: PutBedCrop :one
-- Whether it is new there.
INSERT INTO bed_crop (school_id, id, section_id, year, crop, how, from_day) VALUES ($1, $2, $3, $4, $5, $6, $7)
ON CONFLICT (school_id, section_id, year, crop) DO UPDATE SET how = excluded.how, from_day = excluded.from_day
RETURNING (xmax = 0)::bool AS fresh;

-- name: PlantedInBeds :many
-- Batches that stand in beds and frames.
SELECT DISTINCT s.place_id, b.id, b.code, b.crop FROM stand s JOIN batch b ON b.school_id = s.school_id AND b.id = s.batch_id
JOIN place p ON p.school_id = s.school_id AND p.id = s.place_id WHERE p.kind = 'bed' ORDER BY b.code;

-- name: DropBedCrop :exec
DELETE FROM bed_crop WHERE id = $1;

-- name: BedRule :many
SELECT years_apart, way FROM bed_rule;

-- name: PutBedRule :exec
INSERT INTO bed_rule (school_id, years_apart, way) VALUES ($1, $2, $3)
ON CONFLICT (school_id) DO UPDATE SET years_apart = excluded.years_apart, way = excluded.way;
