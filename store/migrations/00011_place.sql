-- +goose Up
-- How many of those that pass a spot take this very way, as the user says, and what is there, for who draws no map.
ALTER TABLE spots ADD COLUMN through TEXT NOT NULL DEFAULT '';
ALTER TABLE spots ADD COLUMN there TEXT NOT NULL DEFAULT '[]';
