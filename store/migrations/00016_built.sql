-- +goose Up
-- How a make stood when it was done: what was drawn, what was felt, what was said beside it.
ALTER TABLE makes ADD COLUMN as_built TEXT NOT NULL DEFAULT 'null';
