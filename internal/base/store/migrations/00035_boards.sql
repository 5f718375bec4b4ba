-- +goose Up
-- In how many boards a raft floats; 0: in one piece. How they lie and what became of them are entries.
ALTER TABLE place ADD COLUMN boards int NOT NULL DEFAULT 0 CHECK (boards BETWEEN 0 AND 30);

-- +goose Down
SELECT 1;
