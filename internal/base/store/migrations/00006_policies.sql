-- +goose Up
-- The school is looked up once in a statement rather than for every row: as a
-- sub-select PostgreSQL works it out beforehand, and may use an index by it.
-- +goose StatementBegin
DO $$ DECLARE p record; BEGIN
  FOR p IN SELECT c.relname, CASE WHEN c.relname = 'school' THEN 'id' ELSE 'school_id' END AS key
             FROM pg_policy o JOIN pg_class c ON c.oid = o.polrelid WHERE o.polname = 'own_school' LOOP
    EXECUTE format($f$ALTER POLICY own_school ON %I
      USING (%I = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))$f$, p.relname, p.key);
    IF p.key = 'school_id' THEN
      EXECUTE format($f$ALTER POLICY own_school ON %I
        WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))$f$, p.relname);
    END IF;
  END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
SELECT 1;
