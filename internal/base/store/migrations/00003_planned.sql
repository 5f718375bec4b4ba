-- +goose Up
-- Sowings that are meant to happen: the round offers them when their day comes.
CREATE TABLE planned (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  crop      text NOT NULL,
  wanted    int NOT NULL CHECK (wanted BETWEEN 1 AND 100000),
  sow_on    date NOT NULL,
  ready_by  date NOT NULL,
  settled   boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id)
);
CREATE INDEX ON planned (school_id, sow_on) WHERE NOT settled;
ALTER TABLE planned ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON planned
  USING (school_id = nullif(current_setting('ulpa.school', true), '')::uuid)
  WITH CHECK (school_id = nullif(current_setting('ulpa.school', true), '')::uuid);
GRANT SELECT, INSERT, UPDATE, DELETE ON planned TO ulpa_app;

-- +goose Down
DROP TABLE planned;
