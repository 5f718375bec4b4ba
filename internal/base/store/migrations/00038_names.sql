-- +goose Up
-- Causes of loss and reasons for which a packet went are kept by ids, no longer by English words.
-- Entries are read in both (batch.Cause).
UPDATE cell SET cause = replace(cause, ' ', '-') WHERE cause LIKE '% %';
UPDATE seed_lot SET gone = CASE gone
    WHEN 'used up' THEN 'used-up' WHEN 'too old' THEN 'too-old' WHEN 'mouldy or wet' THEN 'mouldy'
    WHEN 'failed its test' THEN 'failed-test' WHEN 'eaten by mice' THEN 'mice' WHEN 'given away' THEN 'given-away'
    ELSE 'other' END
 WHERE gone IN ('used up', 'too old', 'mouldy or wet', 'failed its test', 'eaten by mice', 'given away', 'other##reason');

-- A tank is called so here too.
ALTER TABLE reservoir RENAME TO tank;
ALTER TABLE series RENAME COLUMN reservoir_id TO tank_id;
ALTER INDEX reservoir_alike RENAME TO tank_alike;

-- A vessel with fish is "fish" wherever one goes by it.
DROP TRIGGER has_thing ON trough;
UPDATE thing SET kind = 'fish' WHERE kind = 'trough';
CREATE TRIGGER has_thing BEFORE INSERT OR UPDATE ON trough FOR EACH ROW EXECUTE FUNCTION keep_thing('fish', 'name');

-- +goose Down
SELECT 1;
