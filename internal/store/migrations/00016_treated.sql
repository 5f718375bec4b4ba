-- +goose Up
-- Seed that was dressed or coated is not food, whatever else becomes of it.
ALTER TABLE seed_lot ADD COLUMN treated boolean NOT NULL DEFAULT false;

-- +goose Down
SELECT 1;
