-- +goose Up
-- What lists and the walk ask of every open batch, kept beside the facts, so
-- that nobody counts all cells and reads all entries to draw one page.
CREATE TABLE tray_part (
  school_id uuid NOT NULL,
  tray_id   uuid NOT NULL,
  batch_id  uuid NOT NULL,
  waiting   int NOT NULL CHECK (waiting >= 0),
  standing  int NOT NULL CHECK (standing >= 0),
  used      int NOT NULL CHECK (used >= waiting + standing),
  PRIMARY KEY (school_id, tray_id, batch_id),
  FOREIGN KEY (school_id, tray_id) REFERENCES tray (school_id, id),
  FOREIGN KEY (school_id, batch_id) REFERENCES batch (school_id, id)
);
CREATE INDEX ON tray_part (school_id, batch_id);
INSERT INTO tray_part
SELECT school_id, tray_id, batch_id, count(*) FILTER (WHERE state = 'sown'), count(*) FILTER (WHERE state IN ('sprouted', 'thinned')), count(*)
  FROM cell GROUP BY 1, 2, 3;

-- When a batch was last counted, looked at, hardened and cut.
ALTER TABLE batch ADD COLUMN latest jsonb NOT NULL DEFAULT '{}';
UPDATE batch b SET latest = l.latest FROM (
  SELECT school_id, batch_id, jsonb_strip_nulls(jsonb_build_object(
      'counted', max(at) FILTER (WHERE kind = 'count'), 'looked', max(at) FILTER (WHERE kind = 'look'), 'cut', max(at) FILTER (WHERE kind = 'harvest'),
      'hardened', max(at) FILTER (WHERE kind = 'harden'),
      'ramp_days', (array_agg(data -> 'ramp_days' ORDER BY at DESC, line DESC) FILTER (WHERE kind = 'harden'))[1],
      'frame', (array_agg(place_id ORDER BY at DESC, line DESC) FILTER (WHERE kind = 'harden'))[1])) AS latest
    FROM (SELECT e.*, to_char(e.happened_at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') AS at, coalesce(e.place_in_line, e.seq) AS line FROM entry e
           WHERE e.kind IN ('count', 'look', 'harden', 'harvest') AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)) e
   GROUP BY 1, 2) l
 WHERE b.school_id = l.school_id AND b.id = l.batch_id;

-- Another mark after every transaction that wrote: what was worked out under
-- the same mark still holds.
CREATE TABLE stamp (
  school_id uuid PRIMARY KEY REFERENCES school (id),
  mark      uuid NOT NULL DEFAULT gen_random_uuid()
);

-- Open batches and harvests are asked for by themselves.
DROP INDEX batch_school_id_closed_sown_at_idx;
CREATE INDEX batch_open ON batch (school_id, sown_at) WHERE NOT closed;
CREATE INDEX batch_closed ON batch (school_id, sown_at DESC) WHERE closed;
CREATE INDEX batch_code ON batch (school_id, code COLLATE "C");
CREATE INDEX entry_harvest ON entry (school_id, happened_at DESC) WHERE kind = 'harvest';

-- A page of the notebook: which entries, newest first. It is searched by any
-- part of a word, and PostgreSQL may not use an index for that under row-level
-- security, whose rule must come first; so this function looks past the rule and
-- asks for the school itself. Only the conditions that are asked are planned.
CREATE EXTENSION IF NOT EXISTS pg_trgm;
CREATE EXTENSION IF NOT EXISTS btree_gin;
CREATE INDEX entry_words ON entry USING gin (school_id, words gin_trgm_ops);
-- +goose StatementBegin
CREATE FUNCTION notebook_page(batch uuid, place uuid, reservoir uuid, wanted text, before timestamptz, before_seq bigint, most int) RETURNS SETOF uuid
LANGUAGE plpgsql STABLE ROWS 40 SECURITY DEFINER SET search_path = pg_catalog, public AS $$
BEGIN
  RETURN QUERY EXECUTE 'SELECT id FROM entry WHERE school_id = $1'
      || CASE WHEN batch IS NULL THEN '' ELSE ' AND batch_id = $2' END
      || CASE WHEN place IS NULL THEN '' ELSE ' AND place_id = $3' END
      || CASE WHEN reservoir IS NULL THEN '' ELSE ' AND reservoir_id = $4' END
      || CASE wanted WHEN '' THEN '' ELSE ' AND words ILIKE $5' END
      || CASE WHEN before IS NULL THEN '' ELSE ' AND happened_at <= $6 AND (happened_at, seq) < ($6, $7)' END
      || ' ORDER BY happened_at DESC, seq DESC LIMIT $8'
    USING nullif(current_setting('ulpa.school', true), '')::uuid, batch, place, reservoir, '%' || wanted || '%', before, before_seq, most;
END $$;
-- +goose StatementEnd
REVOKE ALL ON FUNCTION notebook_page FROM PUBLIC;
GRANT EXECUTE ON FUNCTION notebook_page TO ulpa_app;

-- +goose StatementBegin
DO $$ DECLARE t text; BEGIN
  FOREACH t IN ARRAY ARRAY['tray_part', 'stamp'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format($p$CREATE POLICY own_school ON %I
      USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
      WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))$p$, t);
    EXECUTE format('GRANT SELECT, INSERT, UPDATE, DELETE ON %I TO ulpa_app', t);
  END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
DROP FUNCTION notebook_page;
DROP INDEX entry_words, entry_harvest, batch_open, batch_closed, batch_code;
CREATE INDEX ON batch (school_id, closed, sown_at);
DROP TABLE stamp, tray_part;
ALTER TABLE batch DROP COLUMN latest;
