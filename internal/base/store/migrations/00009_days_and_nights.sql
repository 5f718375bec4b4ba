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

-- When a batch was set out: from then on every day counts as a day outside.
UPDATE batch b SET latest = b.latest || jsonb_build_object('set_out', l.at) FROM (
  SELECT e.school_id, e.batch_id, max(to_char(e.happened_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')) AS at FROM entry e
   WHERE e.kind = 'set_out' AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
   GROUP BY 1, 2) l
 WHERE b.school_id = l.school_id AND b.id = l.batch_id;

-- A ramp goes on where it stopped when plants come back from indoors: it counts from
-- the first day it was begun.
UPDATE batch b SET latest = b.latest || jsonb_build_object('hardened', l.at) FROM (
  SELECT e.school_id, e.batch_id, min(to_char(e.happened_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')) AS at FROM entry e
   WHERE e.kind = 'harden' AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)
   GROUP BY 1, 2) l
 WHERE b.school_id = l.school_id AND b.id = l.batch_id;

-- +goose Down
DROP INDEX entry_tick;
ALTER TABLE night DROP COLUMN site_c;
ALTER TABLE school DROP COLUMN day_begins, DROP COLUMN day_ends;
