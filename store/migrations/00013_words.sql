-- +goose Up
-- False where only the day of a look is known; its time is then of that morning, and shown nowhere.
ALTER TABLE visits ADD COLUMN timed BOOLEAN;

-- What of a trap nobody measured: it stands as is usual for its size.
ALTER TABLE traps ADD COLUMN usual TEXT NOT NULL DEFAULT '';
