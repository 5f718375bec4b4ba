-- +goose Up
-- How warm it is in a bed or a frame may stay unknown.
ALTER TABLE place ALTER COLUMN temperature_c DROP DEFAULT, ALTER COLUMN temperature_c DROP NOT NULL,
  ADD CONSTRAINT place_warmth CHECK (temperature_c IS NOT NULL OR kind IN ('bed', 'frame'));

-- +goose Down
UPDATE place SET temperature_c = 10 WHERE temperature_c IS NULL;
ALTER TABLE place DROP CONSTRAINT place_warmth, ALTER COLUMN temperature_c SET NOT NULL, ALTER COLUMN temperature_c SET DEFAULT 20;
