-- +goose Up
-- What entries are found by is kept in small letters: comparing it as it stands takes a
-- quarter of the time that letting large and small be alike does (see 00012).
UPDATE entry SET words = lower(words) WHERE words <> lower(words);

-- +goose StatementBegin
CREATE OR REPLACE FUNCTION notebook_page(thing uuid, wanted text, before timestamptz, before_seq bigint, most int) RETURNS SETOF uuid
LANGUAGE plpgsql STABLE ROWS 40 SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
  RETURN QUERY EXECUTE CASE
      WHEN thing IS NULL THEN 'SELECT x.id FROM entry x WHERE x.school_id = $1'
      WHEN wanted = '' THEN 'SELECT x.entry_id FROM about x WHERE x.school_id = $1 AND x.thing_id = $2'
      ELSE 'SELECT x.id FROM entry x JOIN about a ON a.school_id = x.school_id AND a.entry_id = x.id WHERE x.school_id = $1 AND a.thing_id = $2' END
      || CASE wanted WHEN '' THEN '' ELSE ' AND x.words LIKE $3' END
      || CASE WHEN before IS NULL THEN '' ELSE ' AND x.happened_at <= $4 AND (x.happened_at, x.seq) < ($4, $5)' END
      || ' ORDER BY x.happened_at DESC, x.seq DESC LIMIT $6'
    USING nullif(current_setting('ulpa.school', true), '')::uuid, thing, '%' || wanted || '%', before, before_seq, most;
END $$;
-- +goose StatementEnd

-- +goose Down
SELECT 1;
