-- +goose Up
-- A section of an open flat or a tub holds many: so many seeds wait in it, so many plants stand in
-- it. done tells that the rest will not come up.
ALTER TABLE cell ADD COLUMN open boolean NOT NULL DEFAULT false,
  ADD COLUMN waits int NOT NULL DEFAULT 0 CHECK (waits >= 0),
  ADD COLUMN plants int NOT NULL DEFAULT 0 CHECK (plants >= 0),
  ADD COLUMN done boolean NOT NULL DEFAULT false;
ALTER TABLE tray_part DROP CONSTRAINT tray_part_check;

-- +goose Down
ALTER TABLE tray_part ADD CONSTRAINT tray_part_check CHECK (used >= waiting + standing) NOT VALID;
ALTER TABLE cell DROP COLUMN open, DROP COLUMN waits, DROP COLUMN plants, DROP COLUMN done;
