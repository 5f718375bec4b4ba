-- +goose Up
-- Meters of the school: their calibrations are entries about them.
CREATE TABLE meter (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  name      text NOT NULL,
  kind      text NOT NULL CHECK (kind ~ '^[a-z]+$'),
  place_id  uuid NOT NULL,
  due_days  int NOT NULL CHECK (due_days BETWEEN 0 AND 400), -- 0: nobody asks for it
  retired   boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name),
  FOREIGN KEY (school_id, id) REFERENCES thing (school_id, id),
  FOREIGN KEY (school_id, place_id) REFERENCES place (school_id, id)
);
CREATE INDEX ON meter (school_id, place_id);
CREATE TRIGGER has_thing BEFORE INSERT OR UPDATE ON meter FOR EACH ROW EXECUTE FUNCTION keep_thing('meter', 'name');
ALTER TABLE meter ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON meter
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON meter TO ulpa_app;

-- +goose Down
SELECT 1;
