-- +goose Up
-- Seed that was dressed or coated is not food, whatever else becomes of it.
ALTER TABLE seed_lot ADD COLUMN treated boolean NOT NULL DEFAULT false;

-- A meter that tells how warm a place is.
ALTER TABLE place ADD COLUMN meter_id uuid, ADD FOREIGN KEY (school_id, meter_id) REFERENCES series (school_id, id);

-- +goose Down
SELECT 1;
