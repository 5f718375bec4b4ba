-- +goose Up
-- What is wanted in every week may have its own day of the week, 1 (Monday) to 7; 0: any.
ALTER TABLE goal ADD COLUMN weekday integer NOT NULL DEFAULT 0 CHECK (weekday BETWEEN 0 AND 7);

-- +goose Down
ALTER TABLE goal DROP COLUMN weekday;
