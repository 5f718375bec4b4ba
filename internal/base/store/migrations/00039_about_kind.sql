-- +goose Up
-- "Of this thing, of this kind, since" is asked by one index, however much else was written about
-- the thing: the kind of an entry stands beside the thing too, as its time does.
ALTER TABLE about ADD COLUMN kind text NOT NULL DEFAULT '';
UPDATE about a SET kind = e.kind FROM entry e WHERE e.school_id = a.school_id AND e.id = a.entry_id;
ALTER TABLE about ALTER COLUMN kind DROP DEFAULT;
CREATE INDEX about_kind ON about (school_id, thing_id, kind, happened_at DESC);

-- +goose Down
SELECT 1;
