-- +goose Up
-- Plants that were given away are no losses.
UPDATE batch SET state = jsonb_set(state #- '{lost,given-away}', '{handed}', jsonb_build_object('given-away', state->'lost'->'given-away'))
 WHERE state->'lost' ? 'given-away';
UPDATE batch SET state = jsonb_set(state #- '{lost,given away}', '{handed}', jsonb_build_object('given-away', state->'lost'->'given away'))
 WHERE state->'lost' ? 'given away';
-- Plants that were dead when they came neither came up nor were entered as growing.
UPDATE batch SET state = state || jsonb_build_object('sprouted', (state->>'sprouted')::int - dead, 'entered', (state->>'entered')::int - dead)
  FROM (SELECT a.school_id AS school, a.thing_id AS thing, (e.data->>'dead')::int AS dead
          FROM about a JOIN entry e ON e.school_id = a.school_id AND e.id = a.entry_id
         WHERE a.kind = 'adopt' AND e.data ? 'dead'
           AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)) came
 WHERE school = batch.school_id AND thing = batch.id AND dead > 0;

-- What was seen of a delivery stays known for its first week.
UPDATE batch SET state = state || jsonb_build_object('signs', signs)
  FROM (SELECT a.school_id AS school, a.thing_id AS thing, e.data->'signs' AS signs
          FROM about a JOIN entry e ON e.school_id = a.school_id AND e.id = a.entry_id
         WHERE a.kind = 'adopt' AND jsonb_typeof(e.data->'signs') = 'array'
           AND NOT EXISTS (SELECT FROM entry n WHERE n.school_id = e.school_id AND n.corrects = e.id)) came
 WHERE school = batch.school_id AND thing = batch.id;

-- The hashed PINs of the crews of the school that is set, but for one: no two crews have one in common.
CREATE FUNCTION other_pins(crew uuid) RETURNS SETOF text
LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS
$$ SELECT p.secret_hash FROM person p
    WHERE p.school_id = nullif(current_setting('ulpa.school', true), '')::uuid AND p.kind = 'crew' AND p.active AND p.id <> crew ORDER BY p.id $$;
REVOKE ALL ON FUNCTION other_pins FROM PUBLIC;
GRANT EXECUTE ON FUNCTION other_pins TO ulpa_app;

-- +goose Down
DROP FUNCTION other_pins;
UPDATE batch SET state = jsonb_set(state - 'handed', '{lost,given-away}', state->'handed'->'given-away') WHERE state->'handed' ? 'given-away';
