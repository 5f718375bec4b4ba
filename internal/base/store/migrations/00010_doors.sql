-- +goose Up
-- Temporary objects are looked for first, so a function of the owner's that does not name
-- pg_temp last runs whatever the application puts before its tables.
ALTER FUNCTION notebook_page SET search_path = pg_catalog, public, pg_temp;
ALTER FUNCTION reading_has_series SET search_path = pg_catalog, public, pg_temp;
REVOKE CREATE ON SCHEMA public FROM PUBLIC;

-- Readings stand in one table: their key finds them, and how long a plan takes does not
-- hang on how many months somebody's file names.
ALTER TABLE reading RENAME TO reading_by_month;
CREATE TABLE reading (
  school_id uuid NOT NULL,
  series_id uuid NOT NULL,
  at        timestamptz NOT NULL,
  value     double precision NOT NULL
);
INSERT INTO reading SELECT school_id, series_id, at, value FROM reading_by_month ORDER BY 1, 2, 3;
DROP TABLE reading_by_month;
DROP FUNCTION ensure_reading_month;
ALTER TABLE reading ADD PRIMARY KEY (school_id, series_id, at);
ALTER TABLE reading ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON reading
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE (value) ON reading TO ulpa_app;
CREATE TRIGGER has_series AFTER INSERT ON reading REFERENCING NEW TABLE AS fresh
  FOR EACH STATEMENT EXECUTE FUNCTION reading_has_series();

-- A file waits in pieces, so that nobody holds it whole.
DELETE FROM import_draft;
ALTER TABLE import_draft DROP COLUMN body;
CREATE TABLE import_part (
  school_id uuid NOT NULL,
  draft_id  uuid NOT NULL,
  n         int NOT NULL,
  body      bytea NOT NULL,
  PRIMARY KEY (school_id, draft_id, n),
  FOREIGN KEY (school_id, draft_id) REFERENCES import_draft (school_id, id) ON DELETE CASCADE
);
ALTER TABLE import_part ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON import_part
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT ON import_part TO ulpa_app;

-- What a record is told from another by: its writer's own words, hashed.
ALTER TABLE entry ADD COLUMN sent bytea;

-- Lists by code and the notebook's page: what some databases of earlier releases lack.
CREATE INDEX IF NOT EXISTS batch_code ON batch (school_id, code COLLATE "C");
ALTER FUNCTION notebook_page ROWS 40;

-- Sessions are found by their token and not otherwise; nobody lists them.
-- +goose StatementBegin
CREATE FUNCTION session_find(hash bytea) RETURNS bytea
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ SELECT data FROM session WHERE token_hash = hash AND expiry > now() $$;

CREATE FUNCTION session_keep(hash bytea, what bytea, until timestamptz) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ INSERT INTO session VALUES (hash, what, until) ON CONFLICT (token_hash) DO UPDATE SET data = excluded.data, expiry = excluded.expiry $$;

CREATE FUNCTION session_end(hash bytea) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ DELETE FROM session WHERE token_hash = hash $$;
-- +goose StatementEnd
REVOKE ALL ON session, sign_in_attempt FROM ulpa_app;

-- Devices on which somebody has signed in before, each with its own count of wrong tries,
-- and those on which crews may sign in where the school asks for it. By the token's hash.
CREATE TABLE device (
  school_id uuid NOT NULL,
  person_id uuid NOT NULL,
  token     bytea NOT NULL,
  seen      date NOT NULL DEFAULT current_date,
  PRIMARY KEY (school_id, person_id, token),
  FOREIGN KEY (school_id, person_id) REFERENCES person (school_id, id)
);
CREATE TABLE crew_device (
  school_id   uuid NOT NULL,
  id          uuid NOT NULL,
  token       bytea NOT NULL,
  name        text NOT NULL,
  enrolled_by uuid NOT NULL,
  enrolled_at timestamptz NOT NULL,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, token),
  FOREIGN KEY (school_id, enrolled_by) REFERENCES person (school_id, id)
);
ALTER TABLE school ADD COLUMN crews_on_enrolled_only boolean NOT NULL DEFAULT false;
-- +goose StatementBegin
DO $$ DECLARE t text; BEGIN
  FOREACH t IN ARRAY ARRAY['device', 'crew_device'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format($p$CREATE POLICY own_school ON %I
      USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
      WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))$p$, t);
    EXECUTE format('GRANT SELECT, INSERT, UPDATE, DELETE ON %I TO ulpa_app', t);
  END LOOP;
END $$;
-- +goose StatementEnd

-- Secrets' hashes leave the database for the one name that was asked, while it may be
-- tried; the application cannot read the column.
REVOKE ALL ON person FROM ulpa_app;
GRANT SELECT (school_id, id, kind, name, login, unit_system, ec_scale, active, sessions), INSERT,
  UPDATE (name, login, secret_hash, unit_system, ec_scale, active, sessions) ON person TO ulpa_app;
DROP FUNCTION sign_in_by_login, sign_in_crews;

-- Who has that login; nothing that opens a door.
CREATE FUNCTION person_by_login(wanted text) RETURNS TABLE (school_id uuid, id uuid)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ SELECT p.school_id, p.id FROM person p WHERE p.login = wanted AND p.active $$;

-- The crews of a school, for a tablet on which they may sign in.
CREATE FUNCTION sign_in_crews(slug text, device bytea) RETURNS TABLE (school_name text, shut boolean, id uuid, name text)
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ SELECT s.name, s.shut, p.id, p.name
     FROM (SELECT s.*, s.crews_on_enrolled_only AND NOT EXISTS (SELECT FROM crew_device d WHERE d.school_id = s.id AND d.token = $2) AS shut FROM school s WHERE s.slug = $1) s
     LEFT JOIN person p ON p.school_id = s.id AND p.kind = 'crew' AND p.active AND NOT s.shut
    ORDER BY p.name $$;

-- One try to sign in, before it is known how it ends (has_failed false: the hash, or how
-- many seconds to wait) and after it failed (true: it is counted). Wrong tries count for
-- the name, the address and, of crews, the school; on a device where this person has
-- signed in before they count for that device alone, so that nobody elsewhere locks them
-- out. Beyond the free ones each doubles the wait; an hour without any forgets them.
-- +goose StatementBegin
CREATE FUNCTION sign_in_try(asked_login text, asked_slug text, asked_crew uuid, address text, device bytea, has_failed boolean)
RETURNS TABLE (school_id uuid, person_id uuid, secret_hash text, known boolean, shut boolean, wait double precision)
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
#variable_conflict use_column
DECLARE
  it record;
  is_known boolean;
  is_shut boolean;
  keys text[]; free int[]; most int[];
BEGIN
  SELECT p.school_id, p.id, p.kind, p.secret_hash, s.crews_on_enrolled_only INTO it
    FROM person p JOIN school s ON s.id = p.school_id
   WHERE p.active AND CASE WHEN asked_crew IS NULL THEN p.login = asked_login ELSE s.slug = asked_slug AND p.id = asked_crew AND p.kind = 'crew' END;
  is_known := EXISTS (SELECT FROM device d WHERE d.school_id = it.school_id AND d.person_id = it.id AND d.token = sign_in_try.device);
  is_shut := coalesce(it.kind = 'crew' AND it.crews_on_enrolled_only, false)
    AND NOT EXISTS (SELECT FROM crew_device c WHERE c.school_id = it.school_id AND c.token = sign_in_try.device);
  IF is_known THEN
    keys := ARRAY['device:' || it.id || encode(sign_in_try.device, 'hex')]; free := ARRAY[3]; most := ARRAY[900];
  ELSE
    keys := ARRAY['name:' || coalesce(asked_slug || '/' || asked_crew, asked_login)]; free := ARRAY[3]; most := ARRAY[60];
    IF address <> '' THEN
      keys := keys || ('address:' || address); free := free || 30; most := most || 900;
    END IF;
    IF asked_crew IS NOT NULL THEN
      keys := keys || ('school:' || asked_slug); free := free || 20; most := most || 900;
    END IF;
  END IF;
  IF has_failed THEN
    INSERT INTO sign_in_attempt AS a SELECT sha256(convert_to(k, 'UTF8')), 1, now() FROM unnest(keys) k ORDER BY 1
    ON CONFLICT (key) DO UPDATE SET failures = CASE WHEN a.last_failed < now() - interval '1 hour' THEN 1 ELSE a.failures + 1 END, last_failed = now();
  END IF;
  SELECT coalesce(max(extract(epoch FROM a.last_failed + least(k.most, power(2, least(a.failures - k.free, 20))) * interval '1 second' - now())), 0)
    INTO wait FROM unnest(keys, free, most) k (key, free, most)
    JOIN sign_in_attempt a ON a.key = sha256(convert_to(k.key, 'UTF8')) AND a.failures >= k.free AND a.last_failed > now() - interval '1 hour';
  wait := greatest(wait, 0);
  RETURN QUERY SELECT it.school_id, it.id, CASE WHEN wait = 0 AND NOT is_shut AND NOT has_failed THEN it.secret_hash END, is_known, is_shut, wait;
END $$;
-- +goose StatementEnd

-- A person signed in: from now on the device is known.
-- +goose StatementBegin
CREATE FUNCTION sign_in_done(person uuid, device bytea) RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ DELETE FROM sign_in_attempt WHERE key = sha256(convert_to('device:' || person || encode(device, 'hex'), 'UTF8')) $$;

-- What is over is forgotten.
CREATE FUNCTION sweep() RETURNS void
LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
  DELETE FROM session WHERE expiry < now();
  DELETE FROM sign_in_attempt WHERE last_failed < now() - interval '1 hour';
  DELETE FROM device WHERE seen < current_date - 400;
$$;
-- +goose StatementEnd
CREATE INDEX ON sign_in_attempt (last_failed);
CREATE INDEX ON device (seen);

-- Which shape the database has. A program of another shape writes nothing: every
-- transaction that writes marks its school, and says for which shape it was written.
-- +goose StatementBegin
CREATE FUNCTION shape() RETURNS bigint
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ SELECT max(version_id) FROM goose_db_version WHERE is_applied $$;

-- A mark for each topic: what hangs on the books holds while meters are read in, and
-- nothing hangs on who signed in.
ALTER TABLE stamp ADD COLUMN shape bigint, ADD COLUMN topic text NOT NULL DEFAULT 'books' CHECK (topic IN ('books', 'meters', 'aside')),
  DROP CONSTRAINT stamp_pkey, ADD PRIMARY KEY (school_id, topic);
CREATE FUNCTION stamp_has_shape() RETURNS trigger
LANGUAGE plpgsql SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  IF NEW.shape IS DISTINCT FROM shape() THEN
    RAISE EXCEPTION USING ERRCODE = 'UL001', MESSAGE = format('written for shape %s of the database, which has %s', coalesce(NEW.shape::text, 'before 10'), shape());
  END IF;
  RETURN NULL;
END $$;
-- +goose StatementEnd
CREATE TRIGGER has_shape AFTER INSERT OR UPDATE ON stamp FOR EACH ROW EXECUTE FUNCTION stamp_has_shape();

-- A twin of a name is no other name: compatible forms, capitals, and letters that cannot be
-- seen make no difference. What was made so before gets a number.
-- +goose StatementBegin
CREATE FUNCTION name_key(name text) RETURNS text
LANGUAGE sql IMMUTABLE STRICT PARALLEL SAFE SET search_path = pg_catalog, pg_temp AS
$$ SELECT lower(trim(regexp_replace(regexp_replace(normalize(name, NFKC),
     E'[\\u00AD\\u034F\\u061C\\u115F\\u1160\\u17B4\\u17B5\\u180B-\\u180F\\u200B-\\u200F\\u202A-\\u202E\\u2060-\\u206F\\u2800\\u3164\\uFE00-\\uFE0F\\uFEFF\\uFFA0]', '', 'g'), '\s+', ' ', 'g')) COLLATE "und-x-icu") $$;

DO $$ DECLARE t text; alike text; BEGIN
  FOREACH t IN ARRAY ARRAY['person', 'place', 'reservoir', 'tray', 'seed_lot', 'series', 'variety', 'crew_device'] LOOP
    alike := CASE t WHEN 'variety' THEN 'school_id, crop, name_key(name)' ELSE 'school_id, name_key(name)' END;
    EXECUTE format('UPDATE %1$I x SET name = x.name || '' ('' || d.n || '')'' FROM (SELECT school_id, id, row_number() OVER (PARTITION BY %2$s ORDER BY id) AS n FROM %1$I) d
      WHERE d.n > 1 AND d.school_id = x.school_id AND d.id = x.id', t, alike);
    EXECUTE format('CREATE UNIQUE INDEX %I ON %I (%s)', t || '_alike', t, alike);
  END LOOP;
END $$;
-- +goose StatementEnd

REVOKE ALL ON FUNCTION session_find, session_keep, session_end, person_by_login, sign_in_crews, sign_in_try, sign_in_done, sweep, shape FROM PUBLIC;
GRANT EXECUTE ON FUNCTION session_find, session_keep, session_end, person_by_login, sign_in_crews, sign_in_try, sign_in_done, sweep, shape TO ulpa_app;

-- +goose Down
SELECT 1;
