-- +goose Up
-- Pictures, scaled down and with nothing beside what is seen. The entry that keeps one names
-- it; an entry that is taken back takes its picture along.
CREATE TABLE picture (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  large     bytea NOT NULL CHECK (length(large) BETWEEN 1 AND 3000000),
  small     bytea NOT NULL CHECK (length(small) BETWEEN 1 AND 300000),
  PRIMARY KEY (school_id, id),
  FOREIGN KEY (school_id, id) REFERENCES entry (school_id, id)
);
ALTER TABLE picture ALTER COLUMN large SET STORAGE EXTERNAL, ALTER COLUMN small SET STORAGE EXTERNAL;
ALTER TABLE picture ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON picture
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, DELETE ON picture TO ulpa_app;
CREATE INDEX entry_of_picture ON entry (school_id, (data ->> 'picture')) WHERE kind = 'picture';

-- +goose Down
SELECT 1;
