-- +goose Up
-- Of a device that closes a loop no footfall is claimed: then these are not known, and not nought.
ALTER TABLE makes RENAME COLUMN step TO step_before;
ALTER TABLE makes RENAME COLUMN fire TO fire_before;
ALTER TABLE makes ADD COLUMN step REAL;
ALTER TABLE makes ADD COLUMN fire REAL;
UPDATE makes SET step = step_before, fire = fire_before;
ALTER TABLE makes DROP COLUMN step_before;
ALTER TABLE makes DROP COLUMN fire_before;
