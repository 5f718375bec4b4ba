-- +goose Up
-- Pairs of stock bottles, A and B: what was mixed into them and what tanks took are entries.
CREATE TABLE stock (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  name      text NOT NULL,
  holds_l   double precision NOT NULL CHECK (holds_l > 0), -- each of the two
  retired   boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name),
  FOREIGN KEY (school_id, id) REFERENCES thing (school_id, id)
);
CREATE TRIGGER has_thing BEFORE INSERT OR UPDATE ON stock FOR EACH ROW EXECUTE FUNCTION keep_thing('stock', 'name');
ALTER TABLE stock ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON stock
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON stock TO ulpa_app;

-- +goose Down
SELECT 1;
