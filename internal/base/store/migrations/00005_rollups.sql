-- +goose Up
-- Meters' readings by quarter hour (q), hour (h) and day (d), UTC, kept in the
-- transaction that brings or puts right a reading: what trends are drawn from.
CREATE TABLE rollup (
  school_id uuid NOT NULL,
  series_id uuid NOT NULL,
  grain     text NOT NULL CHECK (grain IN ('q', 'h', 'd')),
  at        timestamptz NOT NULL,
  n         bigint NOT NULL CHECK (n > 0),
  total     double precision NOT NULL,
  low       double precision NOT NULL,
  high      double precision NOT NULL,
  PRIMARY KEY (school_id, series_id, grain, at),
  FOREIGN KEY (school_id, series_id) REFERENCES series (school_id, id)
);
ALTER TABLE rollup ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON rollup
  USING (school_id = nullif(current_setting('ulpa.school', true), '')::uuid)
  WITH CHECK (school_id = nullif(current_setting('ulpa.school', true), '')::uuid);
GRANT SELECT, INSERT, UPDATE ON rollup TO ulpa_app;

INSERT INTO rollup
SELECT r.school_id, r.series_id, g.grain, date_bin(g.width, r.at, '2000-01-01 00:00Z'), count(*), sum(r.value), min(r.value), max(r.value)
  FROM reading r CROSS JOIN (VALUES ('q', interval '15 minutes'), ('h', interval '1 hour'), ('d', interval '1 day')) g (grain, width)
 GROUP BY 1, 2, 3, 4;

-- +goose Down
DROP TABLE rollup;
