-- +goose Up
-- Sizes of pots that a school owns, the mixes that they are filled with, and in which size
-- the plants of a stand are.
CREATE TABLE pot (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  name      text NOT NULL,
  top_cm    double precision NOT NULL CHECK (top_cm > 0),
  bottom_cm double precision NOT NULL CHECK (bottom_cm > 0),
  height_cm double precision NOT NULL CHECK (height_cm > 0),
  square    boolean NOT NULL DEFAULT false,
  owned     int NOT NULL CHECK (owned >= 0),
  dirty     int NOT NULL DEFAULT 0 CHECK (dirty >= 0), -- empty, not washed yet
  days      int NOT NULL CHECK (days BETWEEN 0 AND 400),
  touched   boolean NOT NULL DEFAULT false, -- something ever stood in one: the notebook names it
  retired   boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name)
);
CREATE TABLE mix (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  name      text NOT NULL,
  litres    double precision NOT NULL CHECK (litres >= 0), -- on hand, loose
  bag_l     double precision NOT NULL DEFAULT 0 CHECK (bag_l >= 0),
  retired   boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name)
);
ALTER TABLE stand ADD COLUMN pot_id uuid, ADD FOREIGN KEY (school_id, pot_id) REFERENCES pot (school_id, id);
ALTER TABLE stand DROP CONSTRAINT stand_pkey;
ALTER TABLE stand ADD CONSTRAINT stand_once UNIQUE NULLS NOT DISTINCT (school_id, place_id, batch_id, pot_id);
CREATE INDEX ON stand (school_id, pot_id) WHERE pot_id IS NOT NULL;
-- +goose StatementBegin
DO $$ DECLARE t text; BEGIN
  FOREACH t IN ARRAY ARRAY['pot', 'mix'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY own_school ON %I USING (school_id = (SELECT nullif(current_setting(''ulpa.school'', true), '''')::uuid)) '
      'WITH CHECK (school_id = (SELECT nullif(current_setting(''ulpa.school'', true), '''')::uuid))', t);
    EXECUTE format('GRANT SELECT, INSERT, UPDATE, DELETE ON %I TO ulpa_app', t);
  END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
SELECT 1;
