-- +goose Up
-- To whom a stop of the round or one of its tasks is given. A stop stays given until
-- somebody changes it, a task is given for its day.
CREATE TABLE round_given (
  school_id uuid NOT NULL REFERENCES school (id),
  key       text NOT NULL CHECK (length(key) BETWEEN 1 AND 120),
  person_id uuid NOT NULL,
  until_day date,
  PRIMARY KEY (school_id, key),
  FOREIGN KEY (school_id, person_id) REFERENCES person (school_id, id)
);
ALTER TABLE round_given ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON round_given
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON round_given TO ulpa_app;

-- +goose Down
SELECT 1;
