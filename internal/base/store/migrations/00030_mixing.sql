-- +goose Up
-- The shelf of salts and mixes with what is left of each, and a school's own recipes.
CREATE TABLE salt (
  school_id  uuid NOT NULL REFERENCES school (id),
  id         uuid NOT NULL,
  name       text NOT NULL,
  chemical   text NOT NULL, -- of the library; '': by its label
  label      jsonb NOT NULL DEFAULT '{}',
  grams_left double precision CHECK (grams_left >= 0),
  spoons     int NOT NULL DEFAULT 0 CHECK (spoons >= 0), -- weighed level together
  spoons_g   double precision NOT NULL DEFAULT 0 CHECK (spoons_g >= 0),
  retired    boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name)
);
CREATE TABLE recipe (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  name      text NOT NULL,
  targets   jsonb NOT NULL, -- mg/L
  retired   boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name)
);
-- +goose StatementBegin
DO $$ DECLARE t text; BEGIN
  FOREACH t IN ARRAY ARRAY['salt', 'recipe'] LOOP
    EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', t);
    EXECUTE format('CREATE POLICY own_school ON %I USING (school_id = (SELECT nullif(current_setting(''ulpa.school'', true), '''')::uuid)) '
      'WITH CHECK (school_id = (SELECT nullif(current_setting(''ulpa.school'', true), '''')::uuid))', t);
    EXECUTE format('GRANT SELECT, INSERT, UPDATE, DELETE ON %I TO ulpa_app', t);
  END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
SELECT 1;
