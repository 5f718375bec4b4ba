-- +goose Up
-- The steps of a colour card or drop kit, as its owner reads them off: "4 4.5 5".
ALTER TABLE meter ADD COLUMN steps text NOT NULL DEFAULT '';

-- +goose Down
SELECT 1;
