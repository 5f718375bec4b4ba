-- +goose Up
-- Waters that go in: their analyses are entries about them. A tank knows its own.
CREATE TABLE water (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  name      text NOT NULL,
  kind      text NOT NULL CHECK (kind ~ '^[a-z]+$'),
  retired   boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name),
  FOREIGN KEY (school_id, id) REFERENCES thing (school_id, id)
);
CREATE TRIGGER has_thing BEFORE INSERT OR UPDATE ON water FOR EACH ROW EXECUTE FUNCTION keep_thing('water', 'name');
ALTER TABLE water ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON water
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON water TO ulpa_app;
ALTER TABLE reservoir ADD COLUMN water_id uuid, ADD FOREIGN KEY (school_id, water_id) REFERENCES water (school_id, id);
CREATE INDEX ON reservoir (school_id, water_id) WHERE water_id IS NOT NULL;

-- +goose Down
SELECT 1;
