-- +goose Up
-- What a tray is, what fills it, and whether water can leave it.
ALTER TABLE tray ADD COLUMN kind text NOT NULL DEFAULT 'cells'
    CHECK (kind IN ('cells', 'flat', 'carton', 'tub', 'tube', 'pots', 'cubes', 'bag')),
  ADD COLUMN drains boolean NOT NULL DEFAULT true,
  ADD COLUMN medium text NOT NULL DEFAULT 'compost' CHECK (medium IN ('compost', 'coir', 'wool', 'foam', 'paper', 'vermiculite')),
  ADD COLUMN height_cm double precision NOT NULL DEFAULT 0 CHECK (height_cm BETWEEN 0 AND 200);

-- Cells of a tray that are kept free for a sowing to come.
CREATE TABLE tray_gap (
  school_id uuid NOT NULL REFERENCES school (id),
  id        uuid NOT NULL,
  tray_id   uuid NOT NULL,
  cells     text NOT NULL,
  crop      text NOT NULL,
  on_day    date NOT NULL,
  PRIMARY KEY (school_id, id),
  FOREIGN KEY (school_id, tray_id) REFERENCES tray (school_id, id) ON DELETE CASCADE
);
CREATE INDEX ON tray_gap (school_id, tray_id);
ALTER TABLE tray_gap ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_school ON tray_gap
  USING (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid))
  WITH CHECK (school_id = (SELECT nullif(current_setting('ulpa.school', true), '')::uuid));
GRANT SELECT, INSERT, UPDATE, DELETE ON tray_gap TO ulpa_app;

-- +goose StatementBegin
CREATE OR REPLACE FUNCTION rename_crop(was text, now text) RETURNS void
LANGUAGE sql SET search_path = pg_catalog, public, pg_temp AS $$
  UPDATE batch b SET crop = now FROM variety v WHERE v.school_id = b.school_id AND v.id = b.variety_id AND v.crop = was;
  UPDATE variety SET crop = now WHERE crop = was;
  UPDATE planned SET crop = now WHERE crop = was;
  UPDATE goal SET crop = now WHERE crop = was;
  UPDATE bed_crop SET crop = now WHERE crop = was;
  UPDATE tray_gap SET crop = now WHERE crop = was;
  UPDATE crop_value SET crop = now WHERE crop = was;
$$;
-- +goose StatementEnd

-- +goose Down
SELECT 1;
