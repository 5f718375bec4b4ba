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

-- +goose Down
UPDATE batch SET state = jsonb_set(state - 'handed', '{lost,given-away}', state->'handed'->'given-away') WHERE state->'handed' ? 'given-away';
