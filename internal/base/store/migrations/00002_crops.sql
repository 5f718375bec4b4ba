-- +goose Up
-- What a school knows better than the catalogue, value by value. The rules of
-- readiness, which had a table of their own, are such values.
CREATE TABLE crop_value (
  school_id uuid NOT NULL REFERENCES school (id),
  crop      text NOT NULL,
  name      text NOT NULL,
  value     text NOT NULL CHECK (length(value) <= 200),
  PRIMARY KEY (school_id, crop, name)
);
ALTER TABLE crop_value ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON crop_value
  USING (school_id = nullif(current_setting('ulpa.school', true), '')::uuid)
  WITH CHECK (school_id = nullif(current_setting('ulpa.school', true), '')::uuid);
GRANT SELECT, INSERT, UPDATE, DELETE ON crop_value TO ulpa_app;

INSERT INTO crop_value (school_id, crop, name, value)
SELECT r.school_id, r.crop, v.name, v.value FROM ready_rule r
 CROSS JOIN LATERAL (VALUES ('ready_leaves', r.leaves::text), ('ready_height_cm', r.height_cm::text), ('ready_age', r.age_days::text),
   ('ready_every', CASE WHEN r.every THEN 'yes' ELSE 'no' END), ('nursery_hold', r.hold_days::text)) v (name, value);
DROP TABLE ready_rule;

-- Two writers may find a month's partition missing at once: what the second saw
-- before it waited for the first can be stale, so it takes "already there" for an answer.
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION ensure_reading_month(day date) RETURNS void
LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
DECLARE
  first date := date_trunc('month', day);
  part  text := 'reading_' || to_char(first, 'YYYYMM');
BEGIN
  IF first < '1990-01-01' OR first > '2100-01-01' THEN
    RAISE EXCEPTION 'a reading of % is out of range', day;
  END IF;
  IF to_regclass('public.' || part) IS NULL THEN
    PERFORM pg_advisory_xact_lock(hashtext(part));
    EXECUTE format('CREATE TABLE public.%I PARTITION OF public.reading FOR VALUES FROM (%L) TO (%L)',
      part, first::timestamp AT TIME ZONE 'UTC', (first + interval '1 month')::timestamp AT TIME ZONE 'UTC');
    EXECUTE format('ALTER TABLE public.%I ENABLE ROW LEVEL SECURITY', part);
  END IF;
EXCEPTION WHEN duplicate_table THEN
  RETURN;
END $$;
-- +goose StatementEnd

-- +goose Down
CREATE TABLE ready_rule (
  school_id  uuid NOT NULL REFERENCES school (id),
  crop       text NOT NULL,
  leaves     int NOT NULL DEFAULT 0,
  height_cm  double precision NOT NULL DEFAULT 0,
  age_days   int NOT NULL DEFAULT 0,
  every      boolean NOT NULL DEFAULT false,
  hold_days  int NOT NULL DEFAULT 7,
  PRIMARY KEY (school_id, crop)
);
DROP TABLE crop_value;
