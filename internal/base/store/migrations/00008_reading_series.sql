-- +goose Up
-- That a reading's series exists is looked up once for a statement, not once for
-- each of a file's 200,000 rows. A series with readings has roll-ups, whose foreign
-- key keeps it from being deleted; and of a reading only the value may change.
ALTER TABLE reading DROP CONSTRAINT reading_school_id_series_id_fkey;
REVOKE UPDATE ON reading FROM ulpa_app;
GRANT UPDATE (value) ON reading TO ulpa_app;

-- +goose StatementBegin
CREATE FUNCTION reading_has_series() RETURNS trigger
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
BEGIN
  IF EXISTS (SELECT FROM (SELECT DISTINCT school_id, series_id FROM fresh) f
      WHERE NOT EXISTS (SELECT FROM series s WHERE s.school_id = f.school_id AND s.id = f.series_id)) THEN
    RAISE foreign_key_violation USING MESSAGE = 'a reading belongs to no series', TABLE = 'reading';
  END IF;
  RETURN NULL;
END $$;
-- +goose StatementEnd
REVOKE ALL ON FUNCTION reading_has_series FROM PUBLIC;
CREATE TRIGGER has_series AFTER INSERT ON reading REFERENCING NEW TABLE AS fresh
  FOR EACH STATEMENT EXECUTE FUNCTION reading_has_series();

-- +goose Down
DROP TRIGGER has_series ON reading;
DROP FUNCTION reading_has_series;
REVOKE UPDATE (value) ON reading FROM ulpa_app;
GRANT UPDATE ON reading TO ulpa_app;
ALTER TABLE reading ADD FOREIGN KEY (school_id, series_id) REFERENCES series (school_id, id);
