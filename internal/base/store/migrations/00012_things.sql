-- +goose Up
-- What entries are about: batches, places, tanks, trays and packets of seed, and whatever
-- comes. Each is one row here, made with it, under the name people know it by.
CREATE TABLE thing (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  kind      text NOT NULL,
  name      text NOT NULL,
  PRIMARY KEY (school_id, id)
);

-- Which entry is about what. The time stands here too, so that a page about one thing is
-- read in its order.
CREATE TABLE about (
  school_id   uuid NOT NULL,
  entry_id    uuid NOT NULL,
  thing_id    uuid NOT NULL,
  happened_at timestamptz NOT NULL,
  seq         bigint NOT NULL,
  PRIMARY KEY (school_id, entry_id, thing_id),
  FOREIGN KEY (school_id, entry_id) REFERENCES entry (school_id, id),
  FOREIGN KEY (school_id, thing_id) REFERENCES thing (school_id, id)
);

-- +goose StatementBegin
CREATE FUNCTION keep_thing() RETURNS trigger
LANGUAGE plpgsql SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  IF TG_OP = 'INSERT' THEN
    INSERT INTO thing (school_id, id, kind, name) VALUES (NEW.school_id, NEW.id, TG_ARGV[0], to_jsonb(NEW) ->> TG_ARGV[1]);
  ELSIF to_jsonb(NEW) ->> TG_ARGV[1] IS DISTINCT FROM to_jsonb(OLD) ->> TG_ARGV[1] THEN
    UPDATE thing SET name = to_jsonb(NEW) ->> TG_ARGV[1] WHERE school_id = NEW.school_id AND id = NEW.id;
  END IF;
  RETURN NEW;
END $$;

DO $$ DECLARE t text[]; BEGIN
  FOREACH t SLICE 1 IN ARRAY ARRAY[['batch', 'batch', 'code'], ['place', 'place', 'name'], ['reservoir', 'tank', 'name'], ['tray', 'tray', 'name'], ['seed_lot', 'lot', 'name']] LOOP
    EXECUTE format('INSERT INTO thing SELECT school_id, id, %L, %I FROM %I', t[2], t[3], t[1]);
    EXECUTE format('ALTER TABLE %I ADD FOREIGN KEY (school_id, id) REFERENCES thing (school_id, id)', t[1]);
    EXECUTE format('CREATE TRIGGER has_thing BEFORE INSERT OR UPDATE ON %I FOR EACH ROW EXECUTE FUNCTION keep_thing(%L, %L)', t[1], t[2], t[3]);
  END LOOP;
  FOREACH t SLICE 1 IN ARRAY ARRAY[['batch_id'], ['place_id'], ['reservoir_id']] LOOP
    EXECUTE format('INSERT INTO about SELECT school_id, id, %1$I, happened_at, seq FROM entry WHERE %1$I IS NOT NULL', t[1]);
  END LOOP;
END $$;
-- +goose StatementEnd
CREATE INDEX about_page ON about (school_id, thing_id, happened_at DESC, seq DESC);

DROP FUNCTION notebook_page;
ALTER TABLE entry DROP COLUMN batch_id, DROP COLUMN place_id, DROP COLUMN reservoir_id;

-- A page of the notebook, or of what was written about one thing (see 00007).
-- +goose StatementBegin
CREATE FUNCTION notebook_page(thing uuid, wanted text, before timestamptz, before_seq bigint, most int) RETURNS SETOF uuid
LANGUAGE plpgsql STABLE ROWS 40 SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  RETURN QUERY EXECUTE CASE
      WHEN thing IS NULL THEN 'SELECT x.id FROM entry x WHERE x.school_id = $1'
      WHEN wanted = '' THEN 'SELECT x.entry_id FROM about x WHERE x.school_id = $1 AND x.thing_id = $2'
      ELSE 'SELECT x.id FROM entry x JOIN about a ON a.school_id = x.school_id AND a.entry_id = x.id WHERE x.school_id = $1 AND a.thing_id = $2' END
      || CASE wanted WHEN '' THEN '' ELSE ' AND x.words ILIKE $3' END
      || CASE WHEN before IS NULL THEN '' ELSE ' AND x.happened_at <= $4 AND (x.happened_at, x.seq) < ($4, $5)' END
      || ' ORDER BY x.happened_at DESC, x.seq DESC LIMIT $6'
    USING nullif(current_setting('ulpa.school', true), '')::uuid, thing, '%' || wanted || '%', before, before_seq, most;
END $$;

DO $$ DECLARE t text; BEGIN
  FOREACH t IN ARRAY ARRAY['thing', 'about'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format($p$CREATE POLICY own_school ON %I
      USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
      WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))$p$, t);
    EXECUTE format('GRANT SELECT, INSERT ON %I TO ulpa_app', t);
  END LOOP;
END $$;
-- +goose StatementEnd
GRANT UPDATE (name) ON thing TO ulpa_app;
REVOKE ALL ON FUNCTION notebook_page FROM PUBLIC;
GRANT EXECUTE ON FUNCTION notebook_page TO ulpa_app;

-- +goose Down
SELECT 1;
