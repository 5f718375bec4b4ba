-- +goose Up
CREATE INDEX entry_tray_care ON entry (school_id, happened_at) WHERE kind = 'tray_care';

-- +goose Down
DROP INDEX entry_tray_care;
