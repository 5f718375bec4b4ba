-- +goose Up
-- What a coordinator said of one batch of the season's plan, whatever would cost least.
CREATE TABLE wish (
  school_id uuid NOT NULL REFERENCES school (id),
  batch     uuid NOT NULL,
  goal_id   uuid NOT NULL,
  says      jsonb NOT NULL,
  PRIMARY KEY (school_id, batch),
  FOREIGN KEY (school_id, goal_id) REFERENCES goal (school_id, id) ON DELETE CASCADE
);
ALTER TABLE wish ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON wish
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON wish TO ulpa_app;

-- The school's own weeks: terms, the periods in which a group works, and days with minutes
-- of their own.
CREATE TABLE school_days (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  kind      text NOT NULL CHECK (kind IN ('term', 'special')),
  from_day  date NOT NULL,
  to_day    date NOT NULL CHECK (to_day >= from_day),
  name      text NOT NULL,
  minutes   int NOT NULL DEFAULT 0 CHECK (minutes BETWEEN 0 AND 600),
  PRIMARY KEY (school_id, id)
);
ALTER TABLE school_days ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON school_days
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON school_days TO ulpa_app;

CREATE TABLE period (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  weekday   int NOT NULL CHECK (weekday BETWEEN 1 AND 7),
  starts    text NOT NULL,
  minutes   int NOT NULL CHECK (minutes BETWEEN 5 AND 600),
  whom      text NOT NULL DEFAULT '',
  PRIMARY KEY (school_id, id)
);
ALTER TABLE period ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON period
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON period TO ulpa_app;

-- How a variety tasted here, 1 to 5, and what else is to be remembered of it.
ALTER TABLE variety ADD COLUMN taste int CHECK (taste BETWEEN 1 AND 5), ADD COLUMN notes text NOT NULL DEFAULT '';

-- Which batch a planned sowing became.
ALTER TABLE planned ADD COLUMN batch_id uuid, ADD FOREIGN KEY (school_id, batch_id) REFERENCES batch (school_id, id);

ALTER TABLE goal DROP CONSTRAINT goal_kind_check, ADD CHECK (kind IN ('ready', 'weekly', 'class', 'bed', 'trial')),
  DROP CONSTRAINT goal_wanted_check, ADD CHECK (wanted BETWEEN 0 AND 10000),
  ADD COLUMN grams double precision CHECK (grams BETWEEN 1 AND 1000000),
  ADD COLUMN plant_g double precision CHECK (plant_g BETWEEN 0.1 AND 100000),
  ADD COLUMN place_id uuid, ADD FOREIGN KEY (school_id, place_id) REFERENCES place (school_id, id),
  ADD CHECK (wanted > 0 OR grams IS NOT NULL OR kind = 'bed');

-- Sections of beds, to scale, and what grew in each of them in which year.
CREATE TABLE bed_section (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  place_id  uuid NOT NULL,
  name      text NOT NULL,
  x_cm      double precision NOT NULL,
  y_cm      double precision NOT NULL,
  length_cm double precision NOT NULL CHECK (length_cm BETWEEN 10 AND 10000),
  width_cm  double precision NOT NULL CHECK (width_cm BETWEEN 10 AND 10000),
  sun       text NOT NULL CHECK (sun IN ('shade', 'part', 'full')),
  retired   boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  FOREIGN KEY (school_id, place_id) REFERENCES place (school_id, id)
);
ALTER TABLE bed_section ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON bed_section
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON bed_section TO ulpa_app;

CREATE TABLE bed_crop (
  school_id  uuid NOT NULL REFERENCES school (id),
  id         uuid NOT NULL,
  section_id uuid NOT NULL,
  year       int NOT NULL CHECK (year BETWEEN 1990 AND 2200),
  crop       text NOT NULL,
  -- whole: it has the section; between: the rows of another until that needs the room;
  -- later: a gap is kept for it, from a day on.
  how        text NOT NULL DEFAULT 'whole' CHECK (how IN ('whole', 'between', 'later')),
  from_day   date,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, section_id, year, crop),
  FOREIGN KEY (school_id, section_id) REFERENCES bed_section (school_id, id) ON DELETE CASCADE
);
ALTER TABLE bed_crop ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON bed_crop
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON bed_crop TO ulpa_app;

CREATE TABLE bed_rule (
  school_id   uuid NOT NULL REFERENCES school (id),
  years_apart int NOT NULL DEFAULT 3 CHECK (years_apart BETWEEN 0 AND 10),
  way         text NOT NULL DEFAULT 'advise' CHECK (way IN ('strict', 'advise', 'off')),
  PRIMARY KEY (school_id)
);
ALTER TABLE bed_rule ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON bed_rule
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON bed_rule TO ulpa_app;

-- The nights of the nearest weather station, a low for each day from the first (null: none),
-- and how the school reckons with frost.
CREATE TABLE station (
  school_id  uuid NOT NULL REFERENCES school (id),
  name       text NOT NULL DEFAULT '',
  from_day   date,
  minima     jsonb NOT NULL DEFAULT '[]',
  way        text NOT NULL DEFAULT 'risk' CHECK (way IN ('risk', 'chart')),
  risk       double precision NOT NULL DEFAULT 0.1 CHECK (risk BETWEEN 0.01 AND 0.5),
  last_frost text NOT NULL DEFAULT '',
  leeway     int NOT NULL DEFAULT 1 CHECK (leeway BETWEEN 0 AND 4),
  PRIMARY KEY (school_id)
);
ALTER TABLE station ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON station
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON station TO ulpa_app;

-- +goose StatementBegin
CREATE OR REPLACE FUNCTION rename_crop(was text, now text) RETURNS void
LANGUAGE sql SET search_path = pg_catalog, public, pg_temp AS $$
  UPDATE batch b SET crop = now FROM variety v WHERE v.school_id = b.school_id AND v.id = b.variety_id AND v.crop = was;
  UPDATE variety SET crop = now WHERE crop = was;
  UPDATE planned SET crop = now WHERE crop = was;
  UPDATE goal SET crop = now WHERE crop = was;
  UPDATE bed_crop SET crop = now WHERE crop = was;
  UPDATE crop_value SET crop = now WHERE crop = was;
$$;
-- +goose StatementEnd

-- +goose Down
SELECT 1;
