-- +goose Up
-- Vessels with fish: who swims there, what they eat and how the water stands are entries
-- about them.
CREATE TABLE trough (
  school_id       uuid NOT NULL REFERENCES school (id),
  id              uuid NOT NULL,
  name            text NOT NULL,
  place_id        uuid NOT NULL,
  kind            text NOT NULL CHECK (kind ~ '^[a-z]+$'),
  water_l         double precision NOT NULL CHECK (water_l > 0),
  filter_m2       double precision NOT NULL CHECK (filter_m2 >= 0), -- 0: nobody knows
  plant_m2        double precision NOT NULL CHECK (plant_m2 >= 0),
  feed_percent    double precision NOT NULL CHECK (feed_percent >= 0),
  protein_percent double precision NOT NULL CHECK (protein_percent BETWEEN 0 AND 100),
  retired         boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name),
  FOREIGN KEY (school_id, id) REFERENCES thing (school_id, id),
  FOREIGN KEY (school_id, place_id) REFERENCES place (school_id, id)
);
CREATE INDEX ON trough (school_id, place_id);
CREATE TRIGGER has_thing BEFORE INSERT OR UPDATE ON trough FOR EACH ROW EXECUTE FUNCTION keep_thing('trough', 'name');
ALTER TABLE trough ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON trough
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON trough TO ulpa_app;

-- +goose Down
SELECT 1;
