-- +goose Up
-- The series that says how humid the air of a place is.
ALTER TABLE place ADD COLUMN humid_id uuid, ADD FOREIGN KEY (school_id, humid_id) REFERENCES series (school_id, id);

-- +goose Down
SELECT 1;
