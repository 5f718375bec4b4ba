-- +goose Up
-- Of which things a label was printed.
CREATE TABLE labelled (
  school_id  uuid NOT NULL REFERENCES school (id),
  thing_id   uuid NOT NULL,
  printed_at timestamptz NOT NULL,
  PRIMARY KEY (school_id, thing_id),
  FOREIGN KEY (school_id, thing_id) REFERENCES thing (school_id, id) ON DELETE CASCADE
);
ALTER TABLE labelled ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON labelled
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON labelled TO ulpa_app;

-- +goose Down
SELECT 1;
