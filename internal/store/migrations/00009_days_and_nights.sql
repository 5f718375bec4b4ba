-- +goose Up
-- When the school's day begins and ends, in minutes after midnight: a frame is
-- opened and closed within it.
ALTER TABLE school
  ADD COLUMN day_begins int NOT NULL DEFAULT 510 CHECK (day_begins BETWEEN 0 AND 1439),
  ADD COLUMN day_ends int NOT NULL DEFAULT 930 CHECK (day_ends BETWEEN 1 AND 1440),
  ADD CHECK (day_ends >= day_begins + 120);

-- What a night came to at the school itself, beside what was forecast for the station.
ALTER TABLE night ADD COLUMN site_c double precision CHECK (site_c BETWEEN -60 AND 60);

-- How far hardening is follows from the days that were ticked off.
CREATE INDEX entry_tick ON entry (school_id, happened_at DESC) WHERE kind = 'tick';

-- +goose Down
DROP INDEX entry_tick;
ALTER TABLE night DROP COLUMN site_c;
ALTER TABLE school DROP COLUMN day_begins, DROP COLUMN day_ends;
