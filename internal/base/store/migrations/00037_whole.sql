-- +goose Up
-- For which shape what is kept beside the facts was worked out anew: only a rebuild that was
-- finished says so. A database that was brought to a shape and not rebuilt is not served.
CREATE TABLE rebuilt (
  one   boolean PRIMARY KEY DEFAULT true CHECK (one),
  shape bigint NOT NULL
);
INSERT INTO rebuilt (shape) VALUES (0);
REVOKE ALL ON rebuilt FROM PUBLIC, ulpa_app;

-- +goose StatementBegin
CREATE FUNCTION rebuilt_shape() RETURNS bigint
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ SELECT shape FROM rebuilt $$;

-- A second proof's secret is given of somebody in the school that is set, and of nobody else.
CREATE OR REPLACE FUNCTION second_proof_of(person uuid) RETURNS TABLE (secret bytea, since timestamptz, last_step bigint)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ SELECT s.secret, s.since, s.last_step FROM second_proof s
    WHERE s.person_id = person AND s.school_id = nullif(current_setting('ulpa.school', true), '')::uuid $$;

CREATE OR REPLACE FUNCTION second_proof_used(person uuid, step bigint) RETURNS boolean
LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ WITH x AS (UPDATE second_proof SET last_step = step, since = coalesce(since, now())
    WHERE person_id = person AND school_id = nullif(current_setting('ulpa.school', true), '')::uuid AND last_step < step RETURNING 1)
   SELECT EXISTS (SELECT FROM x) $$;
-- +goose StatementEnd
REVOKE ALL ON FUNCTION rebuilt_shape FROM PUBLIC;
GRANT EXECUTE ON FUNCTION rebuilt_shape TO ulpa_app;

-- What a program's key is known by is read by its function alone.
REVOKE SELECT ON program_key FROM ulpa_app;
GRANT SELECT (school_id, id, scope, made_by, made_at, used_at) ON program_key TO ulpa_app;

-- Acid and alkali are an adult's: a key that records them is made for that.
ALTER TABLE program_key DROP CONSTRAINT program_key_scope_check,
  ADD CONSTRAINT program_key_scope_check CHECK (scope IN ('read', 'measure', 'all', 'dose', 'calendar'));

-- Whether a thing is retired stands with its name, so that one rule of the ledger keeps new
-- entries from naming it.
ALTER TABLE thing ADD COLUMN retired boolean NOT NULL DEFAULT false;
GRANT UPDATE (retired) ON thing TO ulpa_app;
-- +goose StatementBegin
DO $$ DECLARE t text; BEGIN
  FOREACH t IN ARRAY ARRAY['place', 'reservoir', 'tray', 'seed_lot', 'water', 'meter', 'trough', 'stock'] LOOP
    EXECUTE format('UPDATE thing SET retired = true FROM %I x WHERE x.school_id = thing.school_id AND x.id = thing.id AND x.retired', t);
  END LOOP;
END $$;
CREATE OR REPLACE FUNCTION keep_thing() RETURNS trigger
LANGUAGE plpgsql SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  named text := to_jsonb(NEW) ->> TG_ARGV[1];
  gone boolean := coalesce((to_jsonb(NEW) ->> 'retired')::boolean, false);
BEGIN
  IF TG_OP = 'INSERT' THEN
    INSERT INTO thing (school_id, id, kind, name, retired) VALUES (NEW.school_id, NEW.id, TG_ARGV[0], named, gone) ON CONFLICT (school_id, id) DO NOTHING;
    IF NOT FOUND AND NOT EXISTS (SELECT FROM thing WHERE school_id = NEW.school_id AND id = NEW.id AND kind = TG_ARGV[0]) THEN
      RAISE unique_violation USING MESSAGE = 'the id is another thing''s';
    END IF;
  ELSE
    UPDATE thing SET name = named, retired = gone
     WHERE school_id = NEW.school_id AND id = NEW.id AND (name, retired) IS DISTINCT FROM (named, gone);
  END IF;
  RETURN NEW;
END $$;
-- +goose StatementEnd

-- Letters of other alphabets that look like these make no other name either. What was made so
-- before gets a number.
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION name_key(name text) RETURNS text
LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE SET search_path = pg_catalog, pg_temp AS
$$ SELECT translate(lower(trim(regexp_replace(regexp_replace(normalize(name, NFKC),
     E'[\\u00AD\\u034F\\u061C\\u115F\\u1160\\u17B4\\u17B5\\u180B-\\u180F\\u200B-\\u200F\\u202A-\\u202E\\u2060-\\u206F\\u2800\\u3164\\uFE00-\\uFE0F\\uFEFF\\uFFA0]', '', 'g'), '\s+', ' ', 'g')) COLLATE "und-x-icu"), 'авекмнорстухіјѕԁԛԝһӏαβεζηικνορτυχωıɡ', 'abekmhopctyxijsdqwhlabezhikvoptyxwig') $$;

DO $$ DECLARE t text; alike text; BEGIN
  FOREACH t IN ARRAY ARRAY['person', 'place', 'reservoir', 'tray', 'seed_lot', 'series', 'variety', 'crew_device'] LOOP
    alike := CASE t WHEN 'variety' THEN 'school_id, crop, name_key(name)' ELSE 'school_id, name_key(name)' END;
    EXECUTE format('DROP INDEX IF EXISTS %I', t || '_alike');
    EXECUTE format('UPDATE %1$I x SET name = x.name || '' ('' || d.n || '')'' FROM (SELECT school_id, id, row_number() OVER (PARTITION BY %2$s ORDER BY id) AS n FROM %1$I) d
      WHERE d.n > 1 AND d.school_id = x.school_id AND d.id = x.id', t, alike);
    EXECUTE format('CREATE UNIQUE INDEX %I ON %I (%s)', t || '_alike', t, alike);
  END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
SELECT 1;
