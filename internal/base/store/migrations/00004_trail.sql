-- +goose Up
-- Who signed in, who changed people or settings, what was taken out: added to, never changed.
CREATE TABLE trail (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  at        timestamptz NOT NULL,
  person_id uuid NOT NULL,
  says      text NOT NULL,
  PRIMARY KEY (school_id, id),
  FOREIGN KEY (school_id, person_id) REFERENCES person (school_id, id)
);
CREATE INDEX ON trail (school_id, at DESC);
ALTER TABLE trail ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON trail
  USING (school_id = nullif(current_setting('ulpa.school', true), '')::uuid)
  WITH CHECK (school_id = nullif(current_setting('ulpa.school', true), '')::uuid);
GRANT SELECT, INSERT ON trail TO ulpa_app;

-- A session carries the number it began under; signing out everywhere counts on.
ALTER TABLE person ADD COLUMN sessions int NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE person DROP COLUMN sessions;
DROP TABLE trail;
