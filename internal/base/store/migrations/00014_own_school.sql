-- +goose Up
-- What a school no longer uses is kept in its books and off its lists.
ALTER TABLE place ADD COLUMN retired boolean NOT NULL DEFAULT false;
ALTER TABLE tray ADD COLUMN retired boolean NOT NULL DEFAULT false;
ALTER TABLE reservoir ADD COLUMN retired boolean NOT NULL DEFAULT false;
ALTER TABLE seed_lot ADD COLUMN retired boolean NOT NULL DEFAULT false;
ALTER TABLE variety ADD COLUMN retired boolean NOT NULL DEFAULT false;

-- What nothing hangs on may go for good; its row among things goes with it.
GRANT DELETE ON thing TO ulpa_app;

-- A row that is put over the one there is finds its thing; another kind's id is not taken.
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION keep_thing() RETURNS trigger
LANGUAGE plpgsql SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  IF TG_OP = 'INSERT' THEN
    INSERT INTO thing (school_id, id, kind, name) VALUES (NEW.school_id, NEW.id, TG_ARGV[0], to_jsonb(NEW) ->> TG_ARGV[1]) ON CONFLICT (school_id, id) DO NOTHING;
    IF NOT FOUND AND NOT EXISTS (SELECT FROM thing WHERE school_id = NEW.school_id AND id = NEW.id AND kind = TG_ARGV[0]) THEN
      RAISE unique_violation USING MESSAGE = 'the id is another thing''s';
    END IF;
  ELSIF to_jsonb(NEW) ->> TG_ARGV[1] IS DISTINCT FROM to_jsonb(OLD) ->> TG_ARGV[1] THEN
    UPDATE thing SET name = to_jsonb(NEW) ->> TG_ARGV[1] WHERE school_id = NEW.school_id AND id = NEW.id;
  END IF;
  RETURN NEW;
END $$;
-- +goose StatementEnd

-- Whether something hangs on what is to go is found without reading all of it.
CREATE INDEX ON batch (school_id, seed_lot_id);
CREATE INDEX ON batch (school_id, variety_id);

-- Kinds of place: a shelf need not be warm, and there are window sills.
ALTER TABLE place DROP CONSTRAINT place_kind_check;
UPDATE place SET kind = 'warm_shelf' WHERE kind = 'shelf';
ALTER TABLE place ADD CONSTRAINT place_kind_check
  CHECK (kind IN ('bench', 'shelf', 'warm_shelf', 'sill', 'raft', 'tower', 'jars', 'frame', 'bed', 'other'));

-- How warm a place is by season, where that differs from what is usual there.
ALTER TABLE place ADD COLUMN spring_c double precision CHECK (spring_c BETWEEN -20 AND 60), ADD COLUMN summer_c double precision CHECK (summer_c BETWEEN -20 AND 60),
  ADD COLUMN autumn_c double precision CHECK (autumn_c BETWEEN -20 AND 60), ADD COLUMN winter_c double precision CHECK (winter_c BETWEEN -20 AND 60);

-- Closed days are changed by an id; still no two runs begin on one day.
ALTER TABLE closure ADD COLUMN id uuid NOT NULL DEFAULT gen_random_uuid(),
  DROP CONSTRAINT closure_pkey, ADD PRIMARY KEY (school_id, id), ADD UNIQUE (school_id, from_day);

-- A batch that was entered as it stood comes from no packet.
ALTER TABLE batch ALTER COLUMN seed_lot_id DROP NOT NULL;

-- Where the school is on earth.
ALTER TABLE school ADD COLUMN latitude double precision CHECK (latitude BETWEEN -90 AND 90),
  ADD COLUMN longitude double precision CHECK (longitude BETWEEN -180 AND 180);

-- Whether somebody has said when the day begins and ends; schools there are have.
ALTER TABLE school ADD COLUMN day_told boolean NOT NULL DEFAULT false;
UPDATE school SET day_told = true;

-- What crews may do beside what every crew may, as the coordinator switches it.
ALTER TABLE school ADD COLUMN crew_may text[] NOT NULL DEFAULT ARRAY['sow'];

-- A program is somebody in whose name things are written; it signs in by a key.
ALTER TABLE person DROP CONSTRAINT person_kind_check, DROP CONSTRAINT person_check,
  ADD CONSTRAINT person_kind_check CHECK (kind IN ('coordinator', 'staff', 'crew', 'program')),
  ADD CONSTRAINT person_sign_in_check CHECK ((kind IN ('crew', 'program')) = (login IS NULL));
GRANT UPDATE (kind) ON person TO ulpa_app;
CREATE TABLE program_key (
  school_id uuid NOT NULL,
  id        uuid NOT NULL, -- the program's, among people
  token     bytea NOT NULL UNIQUE,
  scope     text NOT NULL CHECK (scope IN ('read', 'measure', 'all')),
  made_by   uuid,
  made_at   timestamptz NOT NULL,
  used_at   timestamptz,
  PRIMARY KEY (school_id, id),
  FOREIGN KEY (school_id, id) REFERENCES person (school_id, id),
  FOREIGN KEY (school_id, made_by) REFERENCES person (school_id, id)
);

-- A second proof of who one is, and a code by which somebody comes in again who forgot.
-- The application writes them and cannot read them.
CREATE TABLE second_proof (
  school_id uuid NOT NULL,
  person_id uuid NOT NULL,
  secret    bytea NOT NULL,
  since     timestamptz, -- proved once; before that it is being set up
  last_step bigint NOT NULL DEFAULT 0,
  PRIMARY KEY (school_id, person_id),
  FOREIGN KEY (school_id, person_id) REFERENCES person (school_id, id)
);
ALTER TABLE school ADD COLUMN coordinators_prove_twice boolean NOT NULL DEFAULT false;
CREATE TABLE way_back (
  school_id uuid NOT NULL,
  person_id uuid NOT NULL,
  code      bytea NOT NULL UNIQUE,
  until     timestamptz NOT NULL,
  PRIMARY KEY (school_id, person_id),
  FOREIGN KEY (school_id, person_id) REFERENCES person (school_id, id)
);
-- +goose StatementBegin
DO $$ DECLARE t text; BEGIN
  FOREACH t IN ARRAY ARRAY['program_key', 'second_proof', 'way_back'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format($p$CREATE POLICY own_school ON %I
      USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
      WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))$p$, t);
  END LOOP;
END $$;

-- Whose key this is, while it holds.
CREATE FUNCTION key_holder(hash bytea) RETURNS TABLE (school_id uuid, id uuid, scope text, used_at timestamptz)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ SELECT k.school_id, k.id, k.scope, k.used_at FROM program_key k JOIN person p ON p.school_id = k.school_id AND p.id = k.id WHERE k.token = hash AND p.active $$;

-- Whose way back this code is, while it holds. Asking uses nothing up.
CREATE FUNCTION way_back_of(hash bytea) RETURNS TABLE (school_id uuid, id uuid)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ SELECT w.school_id, w.person_id FROM way_back w JOIN person p ON p.school_id = w.school_id AND p.id = w.person_id
    WHERE w.code = hash AND w.until > now() AND p.active $$;

-- The secret of somebody's second proof, for the one who is signing in.
CREATE FUNCTION second_proof_of(person uuid) RETURNS TABLE (secret bytea, since timestamptz, last_step bigint)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ SELECT s.secret, s.since, s.last_step FROM second_proof s WHERE s.person_id = person $$;

-- Each figure of a second proof opens once.
CREATE FUNCTION second_proof_used(person uuid, step bigint) RETURNS boolean
LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ WITH x AS (UPDATE second_proof SET last_step = step, since = coalesce(since, now()) WHERE person_id = person AND last_step < step RETURNING 1) SELECT EXISTS (SELECT FROM x) $$;

-- Whether there is any school yet, and how the first begins: only while there is none.
CREATE FUNCTION any_school() RETURNS boolean
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ SELECT EXISTS (SELECT FROM school) $$;
CREATE FUNCTION first_school(id uuid, slug text, name text, zone text, unit_system text, language text, latitude double precision, longitude double precision)
RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  LOCK TABLE school IN EXCLUSIVE MODE;
  IF EXISTS (SELECT FROM school) THEN
    RETURN false;
  END IF;
  INSERT INTO school (id, slug, name, zone, unit_system, language, latitude, longitude) VALUES ($1, $2, $3, $4, $5, $6, $7, $8);
  RETURN true;
END $$;
-- +goose StatementEnd
GRANT SELECT, INSERT, UPDATE (used_at), DELETE ON program_key TO ulpa_app;
GRANT SELECT (school_id, person_id, since), INSERT, DELETE ON second_proof TO ulpa_app;
GRANT SELECT (school_id, person_id, until), INSERT, DELETE ON way_back TO ulpa_app;
REVOKE ALL ON FUNCTION key_holder, way_back_of, second_proof_of, second_proof_used, any_school, first_school FROM PUBLIC;
GRANT EXECUTE ON FUNCTION key_holder, way_back_of, second_proof_of, second_proof_used, any_school, first_school TO ulpa_app;

-- +goose Down
SELECT 1;
