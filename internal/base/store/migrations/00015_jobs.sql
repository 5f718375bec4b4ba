-- +goose Up
-- A school's own jobs on the round: once, or every so often; for whoever comes, or for a
-- crew or a person.
CREATE TABLE job (
  school_id  uuid NOT NULL REFERENCES school (id),
  id         uuid NOT NULL,
  name       text NOT NULL,
  place_id   uuid NOT NULL,
  from_day   date NOT NULL,
  every_days int NOT NULL DEFAULT 0 CHECK (every_days BETWEEN 0 AND 366),
  minutes    int NOT NULL CHECK (minutes BETWEEN 1 AND 240),
  person_id  uuid,
  retired    boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  FOREIGN KEY (school_id, place_id) REFERENCES place (school_id, id),
  FOREIGN KEY (school_id, person_id) REFERENCES person (school_id, id)
);
CREATE INDEX ON job (school_id, place_id);
ALTER TABLE job ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON job
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON job TO ulpa_app;

-- +goose Down
SELECT 1;
