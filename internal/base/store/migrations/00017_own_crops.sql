-- +goose Up
-- Crops that the catalogue does not know, each like one that it knows. Its id in other
-- tables is the kin's id, a tilde, and its name.
CREATE TABLE own_crop (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  kin       text NOT NULL,
  name      text NOT NULL,
  retired   boolean NOT NULL DEFAULT false,
  PRIMARY KEY (school_id, id),
  UNIQUE (school_id, name)
);
ALTER TABLE own_crop ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON own_crop
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON own_crop TO ulpa_app;

-- A crop of a school's own may be called otherwise: whatever is of it follows in one go.
-- +goose StatementBegin
CREATE FUNCTION rename_crop(was text, now text) RETURNS void
LANGUAGE sql SET search_path = pg_catalog, public, pg_temp AS $$
  UPDATE batch b SET crop = now FROM variety v WHERE v.school_id = b.school_id AND v.id = b.variety_id AND v.crop = was;
  UPDATE variety SET crop = now WHERE crop = was;
  UPDATE planned SET crop = now WHERE crop = was;
  UPDATE crop_value SET crop = now WHERE crop = was;
$$;
-- +goose StatementEnd

-- +goose Down
SELECT 1;
