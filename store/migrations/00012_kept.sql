-- +goose Up
-- When a look arrived that its device stamped itself, by the program's clock: a set is answered by it also while it lies ahead.
ALTER TABLE visits ADD COLUMN received_at TIMESTAMP;

-- A season without an act can be removed.
ALTER TABLE seasons ADD COLUMN deleted BOOLEAN NOT NULL DEFAULT FALSE;
DROP INDEX seasons_line;
CREATE UNIQUE INDEX seasons_line ON seasons (line_id, from_day) WHERE NOT deleted;
