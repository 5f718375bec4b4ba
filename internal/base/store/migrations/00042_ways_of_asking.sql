-- +goose Up
-- The notebook is asked in several ways at once: in the words that were typed, and in Ulpa’s own
-- words for them.
DROP FUNCTION notebook_page(uuid, text, timestamptz, bigint, int);
-- +goose StatementBegin
CREATE FUNCTION notebook_page(thing uuid, ways text[], before timestamptz, before_seq bigint, most int) RETURNS SETOF uuid
LANGUAGE plpgsql STABLE ROWS 40 SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
  said text := '';
BEGIN
  -- Each way stands by itself, so that the index of three letters answers it.
  FOR i IN 1 .. coalesce(cardinality(ways), 0) LOOP
    said := said || CASE i WHEN 1 THEN '' ELSE ' OR ' END || format('x.words LIKE ($3)[%s]', i);
  END LOOP;
  RETURN QUERY EXECUTE CASE
      WHEN thing IS NULL THEN 'SELECT x.id FROM entry x WHERE x.school_id = $1'
      WHEN said = '' THEN 'SELECT x.entry_id FROM about x WHERE x.school_id = $1 AND x.thing_id = $2'
      ELSE 'SELECT x.id FROM entry x JOIN about a ON a.school_id = x.school_id AND a.entry_id = x.id WHERE x.school_id = $1 AND a.thing_id = $2' END
      || CASE said WHEN '' THEN '' ELSE ' AND (' || said || ')' END
      || CASE WHEN before IS NULL THEN '' ELSE ' AND x.happened_at <= $4 AND (x.happened_at, x.seq) < ($4, $5)' END
      || ' ORDER BY x.happened_at DESC, x.seq DESC LIMIT $6'
    USING nullif(current_setting('ulpa.school', true), '')::uuid, thing, ways, before, before_seq, most;
END $$;
-- +goose StatementEnd
REVOKE ALL ON FUNCTION notebook_page FROM PUBLIC;
GRANT EXECUTE ON FUNCTION notebook_page TO ulpa_app;

-- +goose Down
SELECT 1;
