-- +goose Up
-- Where a packet of seed came from, the year it was harvested in, how it is kept, and where
-- it went when it is not on the shelf any more.
ALTER TABLE seed_lot ADD COLUMN origin text NOT NULL DEFAULT 'bought' CHECK (origin IN ('bought', 'saved', 'kitchen', 'given')),
  ADD COLUMN harvested int CHECK (harvested BETWEEN 1980 AND 2100), ADD COLUMN pelleted boolean NOT NULL DEFAULT false,
  ADD COLUMN kept_in text NOT NULL DEFAULT '', ADD COLUMN gone text NOT NULL DEFAULT '';

-- +goose Down
SELECT 1;
