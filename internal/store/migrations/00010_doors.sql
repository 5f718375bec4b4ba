-- +goose Up
-- Temporary objects are looked for first, so a function of the owner's that does not name
-- pg_temp last runs whatever the application puts before its tables.
ALTER FUNCTION sign_in_by_login SET search_path = pg_catalog, public, pg_temp;
ALTER FUNCTION sign_in_crews SET search_path = pg_catalog, public, pg_temp;
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

-- +goose Down
SELECT 1;
