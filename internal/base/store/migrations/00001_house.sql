-- +goose Up
-- +goose StatementBegin
DO $$ BEGIN
  IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'ulpa_app') THEN
    CREATE ROLE ulpa_app NOSUPERUSER NOBYPASSRLS NOCREATEDB NOCREATEROLE;
  END IF;
END $$;
-- +goose StatementEnd

-- Every key starts with the school, so that a reference can never cross from
-- one school to another, not even by mistake in a policy.

CREATE TABLE school (
  id            uuid PRIMARY KEY,
  slug          text NOT NULL UNIQUE CHECK (slug ~ '^[a-z0-9-]{2,40}$'),
  name          text NOT NULL,
  zone          text NOT NULL,
  unit_system   text NOT NULL DEFAULT 'metric' CHECK (unit_system IN ('metric', 'us')),
  ec_scale      text NOT NULL DEFAULT 'ms' CHECK (ec_scale IN ('ms', 'ppm500', 'ppm700')),
  period_minutes int NOT NULL DEFAULT 45 CHECK (period_minutes BETWEEN 5 AND 600)
);

CREATE TABLE person (
  school_id   uuid NOT NULL REFERENCES school (id),
  id          uuid NOT NULL,
  kind        text NOT NULL CHECK (kind IN ('coordinator', 'staff', 'crew')),
  name        text NOT NULL,
  login       text UNIQUE CHECK (login = lower(login)),
  secret_hash text NOT NULL,
  unit_system text CHECK (unit_system IN ('metric', 'us')),
  ec_scale    text CHECK (ec_scale IN ('ms', 'ppm500', 'ppm700')),
  active      boolean NOT NULL DEFAULT true,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name),
  CHECK ((kind = 'crew') = (login IS NULL))
);

CREATE TABLE closure (
  school_id uuid NOT NULL REFERENCES school (id),
  from_day  date NOT NULL,
  to_day    date NOT NULL CHECK (to_day >= from_day),
  name      text NOT NULL,
  PRIMARY KEY (school_id, from_day)
);

CREATE TABLE night (
  school_id uuid NOT NULL REFERENCES school (id),
  day       date NOT NULL,
  min_c     double precision NOT NULL CHECK (min_c BETWEEN -90 AND 60),
  PRIMARY KEY (school_id, day)
);

CREATE TABLE place (
  school_id     uuid NOT NULL REFERENCES school (id),
  id            uuid NOT NULL,
  name          text NOT NULL,
  kind          text NOT NULL CHECK (kind IN ('bench', 'shelf', 'raft', 'tower', 'jars', 'frame', 'bed')),
  walk_order    int NOT NULL,
  tiers         int NOT NULL DEFAULT 0 CHECK (tiers BETWEEN 0 AND 60),
  columns       int NOT NULL DEFAULT 0 CHECK (columns BETWEEN 0 AND 60),
  length_cm     double precision NOT NULL DEFAULT 0,
  width_cm      double precision NOT NULL DEFAULT 0,
  temperature_c double precision NOT NULL DEFAULT 20 CHECK (temperature_c BETWEEN -20 AND 60),
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name)
);

CREATE TABLE reservoir (
  school_id   uuid NOT NULL REFERENCES school (id),
  id          uuid NOT NULL,
  place_id    uuid NOT NULL,
  name        text NOT NULL,
  position    int NOT NULL DEFAULT 0,
  spec        jsonb NOT NULL,
  state       jsonb NOT NULL DEFAULT '{}',
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name),
  FOREIGN KEY (school_id, place_id) REFERENCES place (school_id, id)
);
CREATE INDEX ON reservoir (school_id, place_id);

CREATE TABLE tray (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  name      text NOT NULL,
  place_id  uuid NOT NULL,
  rows      int NOT NULL CHECK (rows BETWEEN 1 AND 40),
  columns   int NOT NULL CHECK (columns BETWEEN 1 AND 40),
  cell_ml   double precision NOT NULL CHECK (cell_ml > 0),
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name),
  FOREIGN KEY (school_id, place_id) REFERENCES place (school_id, id)
);
CREATE INDEX ON tray (school_id, place_id);

CREATE TABLE variety (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  crop      text NOT NULL,
  name      text NOT NULL,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, crop, name)
);

CREATE TABLE seed_lot (
  school_id  uuid NOT NULL REFERENCES school (id),
  id         uuid NOT NULL,
  variety_id uuid NOT NULL,
  name       text NOT NULL,
  packed     int NOT NULL CHECK (packed BETWEEN 1990 AND 2100),
  label_rate double precision CHECK (label_rate BETWEEN 0 AND 1),
  tested     int CHECK (tested >= 1),
  sprouted   int CHECK (sprouted BETWEEN 0 AND tested),
  seeds_left int CHECK (seeds_left >= 0),
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name),
  FOREIGN KEY (school_id, variety_id) REFERENCES variety (school_id, id)
);
CREATE INDEX ON seed_lot (school_id, variety_id);

CREATE TABLE ready_rule (
  school_id  uuid NOT NULL REFERENCES school (id),
  crop       text NOT NULL,
  leaves     int NOT NULL DEFAULT 0 CHECK (leaves BETWEEN 0 AND 20),
  height_cm  double precision NOT NULL DEFAULT 0 CHECK (height_cm BETWEEN 0 AND 200),
  age_days   int NOT NULL DEFAULT 0 CHECK (age_days BETWEEN 0 AND 400),
  every      boolean NOT NULL DEFAULT false,
  hold_days  int NOT NULL DEFAULT 7 CHECK (hold_days BETWEEN 0 AND 120),
  PRIMARY KEY (school_id, crop)
);

CREATE TABLE batch (
  school_id   uuid NOT NULL REFERENCES school (id),
  id          uuid NOT NULL,
  code        text NOT NULL,
  crop        text NOT NULL,
  variety_id  uuid NOT NULL,
  seed_lot_id uuid NOT NULL,
  purpose     text NOT NULL DEFAULT '',
  wanted      int NOT NULL CHECK (wanted >= 1),
  ready_by    date,
  sown_at     timestamptz NOT NULL,
  state       jsonb NOT NULL DEFAULT '{}',
  closed      boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, code),
  FOREIGN KEY (school_id, variety_id) REFERENCES variety (school_id, id),
  FOREIGN KEY (school_id, seed_lot_id) REFERENCES seed_lot (school_id, id)
);
CREATE INDEX ON batch (school_id, closed, sown_at);

-- The facts. Never updated, never deleted.
CREATE TABLE entry (
  school_id    uuid NOT NULL REFERENCES school (id),
  id           uuid NOT NULL,
  kind         text NOT NULL,
  happened_at  timestamptz NOT NULL,
  written_at   timestamptz NOT NULL,
  person_id    uuid NOT NULL,
  batch_id     uuid,
  place_id     uuid,
  reservoir_id uuid,
  corrects     uuid,
  data         jsonb NOT NULL DEFAULT '{}',
  words        text NOT NULL DEFAULT '',
  seq          bigint NOT NULL GENERATED ALWAYS AS IDENTITY,
  place_in_line bigint, -- a correction takes the place of what it corrects
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, corrects),
  FOREIGN KEY (school_id, person_id) REFERENCES person (school_id, id),
  FOREIGN KEY (school_id, batch_id) REFERENCES batch (school_id, id),
  FOREIGN KEY (school_id, place_id) REFERENCES place (school_id, id),
  FOREIGN KEY (school_id, reservoir_id) REFERENCES reservoir (school_id, id),
  FOREIGN KEY (school_id, corrects) REFERENCES entry (school_id, id)
);
CREATE INDEX ON entry (school_id, happened_at DESC, id DESC);
CREATE INDEX ON entry (school_id, batch_id, happened_at DESC, id DESC) WHERE batch_id IS NOT NULL;
CREATE INDEX ON entry (school_id, place_id, happened_at DESC, id DESC) WHERE place_id IS NOT NULL;
CREATE INDEX ON entry (school_id, reservoir_id, happened_at DESC, id DESC) WHERE reservoir_id IS NOT NULL;

-- Present state, kept beside the facts and rebuilt from them by a test.
-- The keys are the law that no cell, port or plant stands twice.
CREATE TABLE cell (
  school_id uuid NOT NULL REFERENCES school (id),
  tray_id   uuid NOT NULL,
  row       int NOT NULL CHECK (row >= 0),
  col       int NOT NULL CHECK (col >= 0),
  batch_id  uuid NOT NULL,
  state     text NOT NULL CHECK (state IN ('sown', 'sprouted', 'thinned', 'empty', 'lost')),
  cause     text NOT NULL DEFAULT '',
  PRIMARY KEY (school_id, tray_id, row, col),
  FOREIGN KEY (school_id, tray_id) REFERENCES tray (school_id, id),
  FOREIGN KEY (school_id, batch_id) REFERENCES batch (school_id, id)
);
CREATE INDEX ON cell (school_id, batch_id);

CREATE TABLE port (
  school_id uuid NOT NULL REFERENCES school (id),
  place_id  uuid NOT NULL,
  tier      int NOT NULL CHECK (tier >= 0),
  col       int NOT NULL CHECK (col >= 0),
  batch_id  uuid NOT NULL,
  PRIMARY KEY (school_id, place_id, tier, col),
  FOREIGN KEY (school_id, place_id) REFERENCES place (school_id, id),
  FOREIGN KEY (school_id, batch_id) REFERENCES batch (school_id, id)
);
CREATE INDEX ON port (school_id, batch_id);

CREATE TABLE stand (
  school_id uuid NOT NULL REFERENCES school (id),
  place_id  uuid NOT NULL,
  batch_id  uuid NOT NULL,
  plants    int NOT NULL CHECK (plants > 0),
  PRIMARY KEY (school_id, place_id, batch_id),
  FOREIGN KEY (school_id, place_id) REFERENCES place (school_id, id),
  FOREIGN KEY (school_id, batch_id) REFERENCES batch (school_id, id)
);
CREATE INDEX ON stand (school_id, batch_id);

-- What meters wrote down by themselves.
CREATE TABLE series (
  school_id    uuid NOT NULL REFERENCES school (id),
  id           uuid NOT NULL,
  name         text NOT NULL,
  unit         text NOT NULL,
  reservoir_id uuid,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name),
  FOREIGN KEY (school_id, reservoir_id) REFERENCES reservoir (school_id, id)
);

CREATE TABLE reading (
  school_id uuid NOT NULL,
  series_id uuid NOT NULL,
  at        timestamptz NOT NULL,
  value     double precision NOT NULL,
  PRIMARY KEY (school_id, series_id, at),
  FOREIGN KEY (school_id, series_id) REFERENCES series (school_id, id)
) PARTITION BY RANGE (at);

-- A month's partition is made when its first reading arrives. It carries no
-- grant of its own: the application reaches it through the parent only, and so
-- through the parent's policy.
-- +goose StatementBegin
CREATE FUNCTION ensure_reading_month(day date) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
DECLARE
  first date := date_trunc('month', day);
  part  text := 'reading_' || to_char(first, 'YYYYMM');
BEGIN
  IF first < '1990-01-01' OR first > '2100-01-01' THEN
    RAISE EXCEPTION 'a reading of % is out of range', day;
  END IF;
  IF to_regclass('public.' || part) IS NULL THEN
    PERFORM pg_advisory_xact_lock(hashtext(part));
    IF to_regclass('public.' || part) IS NULL THEN
      EXECUTE format('CREATE TABLE public.%I PARTITION OF public.reading FOR VALUES FROM (%L) TO (%L)',
        part, first::timestamp AT TIME ZONE 'UTC', (first + interval '1 month')::timestamp AT TIME ZONE 'UTC');
      EXECUTE format('ALTER TABLE public.%I ENABLE ROW LEVEL SECURITY', part);
    END IF;
  END IF;
END $$;
-- +goose StatementEnd

CREATE TABLE import_draft (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  made_at   timestamptz NOT NULL,
  name      text NOT NULL,
  body      bytea NOT NULL,
  PRIMARY KEY (school_id, id)
);

-- +goose StatementBegin
DO $$ DECLARE t text; BEGIN
  FOREACH t IN ARRAY ARRAY['person','closure','night','place','reservoir','tray','variety','seed_lot',
    'ready_rule','batch','entry','cell','port','stand','series','reading','import_draft'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format($p$CREATE POLICY own_school ON %I
      USING (school_id = nullif(current_setting('ulpa.school', true), '')::uuid)
      WITH CHECK (school_id = nullif(current_setting('ulpa.school', true), '')::uuid)$p$, t);
    EXECUTE format('GRANT SELECT, INSERT, UPDATE, DELETE ON %I TO ulpa_app', t);
  END LOOP;
END $$;
-- +goose StatementEnd
ALTER TABLE school ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON school
  USING (id = nullif(current_setting('ulpa.school', true), '')::uuid)
  WITH CHECK (id = nullif(current_setting('ulpa.school', true), '')::uuid);
GRANT SELECT, UPDATE ON school TO ulpa_app;
REVOKE UPDATE, DELETE ON entry FROM ulpa_app;

-- Before anybody is signed in there is no school. These few questions, and no
-- others, may be asked then.
CREATE FUNCTION sign_in_by_login(wanted text)
RETURNS TABLE (school_id uuid, id uuid, secret_hash text)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public AS
$$ SELECT p.school_id, p.id, p.secret_hash FROM person p WHERE p.login = wanted AND p.active $$;

CREATE FUNCTION sign_in_crews(wanted text)
RETURNS TABLE (school_id uuid, school_name text, id uuid, name text, secret_hash text)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public AS
$$ SELECT s.id, s.name, p.id, p.name, p.secret_hash
     FROM school s JOIN person p ON p.school_id = s.id
    WHERE s.slug = wanted AND p.kind = 'crew' AND p.active ORDER BY p.name $$;

CREATE TABLE session (
  token_hash bytea PRIMARY KEY,
  data       bytea NOT NULL,
  expiry     timestamptz NOT NULL
);
CREATE INDEX ON session (expiry);

CREATE TABLE sign_in_attempt (
  key         bytea PRIMARY KEY,
  failures    int NOT NULL,
  last_failed timestamptz NOT NULL
);
GRANT SELECT, INSERT, UPDATE, DELETE ON session, sign_in_attempt TO ulpa_app;
REVOKE ALL ON FUNCTION ensure_reading_month, sign_in_by_login, sign_in_crews FROM PUBLIC;
GRANT EXECUTE ON FUNCTION ensure_reading_month, sign_in_by_login, sign_in_crews TO ulpa_app;

-- +goose Down
DROP FUNCTION sign_in_crews, sign_in_by_login, ensure_reading_month;
DROP TABLE sign_in_attempt, session, import_draft, reading, series, stand, port, cell, entry, batch,
  ready_rule, seed_lot, variety, tray, reservoir, place, night, closure, person, school;
