-- +goose Up
-- In which language a school reads, and who has chosen another: a BCP 47 tag. Which there
-- are the program knows.
ALTER TABLE school ADD COLUMN language text NOT NULL DEFAULT 'en' CHECK (language ~ '^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$');
ALTER TABLE person ADD COLUMN language text CHECK (language ~ '^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$');
GRANT SELECT (language), INSERT (language), UPDATE (language) ON person TO ulpa_app;

-- +goose Down
SELECT 1;
