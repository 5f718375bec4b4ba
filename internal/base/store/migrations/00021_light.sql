-- +goose Up
-- How much of the daylight comes to a place, as a share of that outside, and the lamps there;
-- null: as is usual for its kind.
ALTER TABLE place ADD COLUMN daylight double precision CHECK (daylight BETWEEN 0 AND 1),
  ADD COLUMN lamp_umol double precision CHECK (lamp_umol BETWEEN 0 AND 3000),
  ADD COLUMN lamp_hours double precision CHECK (lamp_hours BETWEEN 0 AND 24);

-- +goose Down
SELECT 1;
