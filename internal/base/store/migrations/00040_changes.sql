-- +goose Up
-- What each write changed, so that what was worked out from anything else still holds: a write has
-- a number, and tells the tables it changed, with the thing that each row is of. An entry is told
-- by its kind, of each thing it is about. The latest thousand writes are kept.
CREATE TABLE change (
  school_id uuid NOT NULL REFERENCES school (id),
  n         bigint NOT NULL, -- of the write: the n that the school's stamp had then
  what      text NOT NULL,   -- a table, entry:kind, or * for more than was told
  thing     uuid             -- none: of nothing that has an id
);
CREATE INDEX change_since ON change (school_id, n);
ALTER TABLE change ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON change
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, DELETE ON change TO ulpa_app;

-- Writes are counted; the mark is another one where the count begins anew, and no longer at each.
ALTER TABLE stamp ADD COLUMN n bigint NOT NULL DEFAULT 1;

-- +goose StatementBegin
-- Its arguments are what the rows are called, as an expression, and the columns of things.
CREATE FUNCTION tell_change() RETURNS trigger
LANGUAGE plpgsql SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  told text := coalesce(current_setting('ulpa.changed', true), '');
  more text;
  says text;
BEGIN
  FOR i IN 1 .. greatest(1, TG_NARGS - 1) LOOP
    EXIT WHEN length(told) > 60000; -- more than is told
    says := format('SELECT %s || '' '' || coalesce(%s::text, '''') AS x FROM ', TG_ARGV[0], coalesce(TG_ARGV[i], 'NULL'));
    EXECUTE 'SELECT string_agg(DISTINCT x, '','') FROM (' || CASE TG_OP
        WHEN 'INSERT' THEN says || 'is_now'
        WHEN 'DELETE' THEN says || 'was'
        ELSE says || 'was UNION ALL ' || says || 'is_now' END || ') rows' INTO more;
    told := concat_ws(',', nullif(told, ''), more);
  END LOOP;
  PERFORM set_config('ulpa.changed', told, true);
  RETURN NULL;
END $$;

-- The last statement of a transaction that writes: it counts the write, and tells what it changed.
-- What changes a table that tells is a write to the books, whatever else it is.
CREATE FUNCTION new_mark(school uuid, of_topic text, of_shape bigint) RETURNS void
LANGUAGE plpgsql SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  told text := coalesce(current_setting('ulpa.changed', true), '');
  at   bigint;
  t    text;
BEGIN
  FOREACH t IN ARRAY CASE WHEN told = '' OR of_topic = 'books' THEN ARRAY[of_topic] ELSE ARRAY[of_topic, 'books'] END LOOP
    INSERT INTO stamp (school_id, topic, shape) VALUES (school, t, of_shape)
      ON CONFLICT (school_id, topic) DO UPDATE SET n = stamp.n + 1, shape = excluded.shape RETURNING n INTO at;
  END LOOP;
  IF told = '' THEN
    RETURN;
  ELSIF length(told) > 60000 THEN
    INSERT INTO change VALUES (school, at, '*');
  ELSE
    INSERT INTO change SELECT DISTINCT school, at, split_part(x, ' ', 1), nullif(split_part(x, ' ', 2), '')::uuid
      FROM unnest(string_to_array(told, ',')) x;
  END IF;
  IF at % 64 = 0 THEN
    DELETE FROM change WHERE school_id = school AND n <= at - 1024;
  END IF;
END $$;

DO $$ DECLARE t text[]; op text; BEGIN
  FOREACH t SLICE 1 IN ARRAY ARRAY[
    ARRAY['about', '''entry:'' || kind', 'thing_id', 'thing_id'], ARRAY['entry', '''entry:'' || kind', 'NULL', 'NULL'],
    ARRAY['batch', '', 'id', 'id'], ARRAY['bed_crop', '', 'NULL', 'NULL'], ARRAY['bed_rule', '', 'NULL', 'NULL'], ARRAY['bed_section', '', 'place_id', 'place_id'],
    ARRAY['cell', '', 'batch_id', 'tray_id'], ARRAY['closure', '', 'NULL', 'NULL'], ARRAY['crop_value', '', 'NULL', 'NULL'], ARRAY['goal', '', 'id', 'id'],
    ARRAY['job', '', 'id', 'id'], ARRAY['labelled', '', 'thing_id', 'thing_id'], ARRAY['meter', '', 'id', 'id'], ARRAY['mix', '', 'id', 'id'],
    ARRAY['night', '', 'NULL', 'NULL'], ARRAY['own_crop', '', 'id', 'id'], ARRAY['period', '', 'NULL', 'NULL'], ARRAY['person', '', 'id', 'id'],
    ARRAY['picture', '', 'id', 'id'], ARRAY['place', '', 'id', 'id'], ARRAY['planned', '', 'id', 'batch_id'], ARRAY['port', '', 'batch_id', 'place_id'],
    ARRAY['pot', '', 'id', 'id'], ARRAY['recipe', '', 'id', 'id'], ARRAY['round_given', '', 'NULL', 'NULL'], ARRAY['salt', '', 'id', 'id'],
    ARRAY['school', '', 'NULL', 'NULL'], ARRAY['school_days', '', 'NULL', 'NULL'], ARRAY['seed_lot', '', 'id', 'id'], ARRAY['series', '', 'id', 'tank_id'],
    ARRAY['stand', '', 'batch_id', 'place_id'], ARRAY['station', '', 'NULL', 'NULL'], ARRAY['stock', '', 'id', 'id'], ARRAY['tank', '', 'id', 'id'],
    ARRAY['thing', '', 'id', 'id'], ARRAY['tray', '', 'id', 'id'], ARRAY['tray_gap', '', 'tray_id', 'tray_id'], ARRAY['tray_part', '', 'batch_id', 'tray_id'],
    ARRAY['trough', '', 'id', 'id'], ARRAY['variety', '', 'id', 'id'], ARRAY['water', '', 'id', 'id'], ARRAY['wish', '', 'NULL', 'NULL']]
  LOOP
    FOREACH op IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
      EXECUTE format('CREATE TRIGGER tells_%s AFTER %s ON %I REFERENCING %s FOR EACH STATEMENT EXECUTE FUNCTION tell_change(%L, %s)',
        lower(op), op, t[1],
        CASE op WHEN 'INSERT' THEN 'NEW TABLE AS is_now' WHEN 'DELETE' THEN 'OLD TABLE AS was' ELSE 'OLD TABLE AS was NEW TABLE AS is_now' END,
        CASE t[2] WHEN '' THEN quote_literal(t[1]) ELSE t[2] END,
        CASE WHEN t[3] = t[4] THEN quote_literal(t[3]) ELSE quote_literal(t[3]) || ', ' || quote_literal(t[4]) END);
    END LOOP;
  END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
SELECT 1;
