-- +goose Up
-- Causes of loss and reasons for which a packet went are kept by ids, no longer by English words.
-- Entries are read in both (batch.Cause).
UPDATE cell SET cause = replace(cause, ' ', '-') WHERE cause LIKE '% %';
UPDATE seed_lot SET gone = CASE gone
    WHEN 'used up' THEN 'used-up' WHEN 'too old' THEN 'too-old' WHEN 'mouldy or wet' THEN 'mouldy'
    WHEN 'failed its test' THEN 'failed-test' WHEN 'eaten by mice' THEN 'mice' WHEN 'given away' THEN 'given-away'
    ELSE 'other' END
 WHERE gone IN ('used up', 'too old', 'mouldy or wet', 'failed its test', 'eaten by mice', 'given away', 'other##reason');

-- +goose Down
SELECT 1;
