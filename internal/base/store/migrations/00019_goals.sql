-- +goose Up
-- What a school wants from its season, and the sowings that were planned for it with the
-- moves that follow.
CREATE TABLE goal (
  school_id  uuid NOT NULL REFERENCES school (id),
  id         uuid NOT NULL,
  name       text NOT NULL,
  kind       text NOT NULL CHECK (kind IN ('ready', 'weekly', 'class')),
  crop       text NOT NULL,
  variety    text NOT NULL DEFAULT '',
  wanted     int NOT NULL CHECK (wanted BETWEEN 1 AND 10000),
  from_day   date NOT NULL,
  by_day     date NOT NULL,
  harvest    boolean NOT NULL DEFAULT false,
  sure       double precision NOT NULL DEFAULT 0.9 CHECK (sure BETWEEN 0.5 AND 0.99),
  missing    text NOT NULL CHECK (missing IN ('must', 'should', 'nice')),
  whom       text NOT NULL DEFAULT '',
  retired    boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  CHECK (by_day >= from_day)
);
ALTER TABLE goal ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON goal
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON goal TO ulpa_app;

ALTER TABLE planned ADD COLUMN goal_id uuid, ADD COLUMN moves jsonb NOT NULL DEFAULT '[]',
  ADD FOREIGN KEY (school_id, goal_id) REFERENCES goal (school_id, id);
CREATE INDEX ON planned (school_id, goal_id) WHERE goal_id IS NOT NULL;

-- A key may open the season's calendar and nothing else.
ALTER TABLE program_key DROP CONSTRAINT program_key_scope_check,
  ADD CHECK (scope IN ('read', 'measure', 'all', 'calendar'));

-- +goose StatementBegin
CREATE OR REPLACE FUNCTION rename_crop(was text, now text) RETURNS void
LANGUAGE sql SET search_path = pg_catalog, public, pg_temp AS $$
  UPDATE batch b SET crop = now FROM variety v WHERE v.school_id = b.school_id AND v.id = b.variety_id AND v.crop = was;
  UPDATE variety SET crop = now WHERE crop = was;
  UPDATE planned SET crop = now WHERE crop = was;
  UPDATE goal SET crop = now WHERE crop = was;
  UPDATE crop_value SET crop = now WHERE crop = was;
$$;
-- +goose StatementEnd

-- +goose Down
SELECT 1;
