-- +goose Up
-- With which water some of a vessel's is changed, and which tank shares it: fish swim in both.
ALTER TABLE trough
  ADD COLUMN water_id uuid, ADD FOREIGN KEY (school_id, water_id) REFERENCES water (school_id, id),
  ADD COLUMN tank_id uuid, ADD FOREIGN KEY (school_id, tank_id) REFERENCES reservoir (school_id, id);
CREATE INDEX ON trough (school_id, water_id) WHERE water_id IS NOT NULL;
CREATE INDEX ON trough (school_id, tank_id) WHERE tank_id IS NOT NULL;

-- +goose Down
SELECT 1;
