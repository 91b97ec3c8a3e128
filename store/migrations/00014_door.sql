-- +goose Up
-- Who did it; blank for the owner, and for whoever is at the table.
ALTER TABLE visits ADD COLUMN who TEXT NOT NULL DEFAULT '';
ALTER TABLE makes ADD COLUMN who TEXT NOT NULL DEFAULT '';
ALTER TABLE pulls ADD COLUMN who TEXT NOT NULL DEFAULT '';
ALTER TABLE signs ADD COLUMN who TEXT NOT NULL DEFAULT '';
ALTER TABLE mends ADD COLUMN who TEXT NOT NULL DEFAULT '';
ALTER TABLE measurements ADD COLUMN who TEXT NOT NULL DEFAULT '';
ALTER TABLE shed_checks ADD COLUMN who TEXT NOT NULL DEFAULT '';
ALTER TABLE doses ADD COLUMN who TEXT NOT NULL DEFAULT '';
ALTER TABLE levels ADD COLUMN who TEXT NOT NULL DEFAULT '';
ALTER TABLE readings ADD COLUMN who TEXT NOT NULL DEFAULT '';

-- Who helps on the lines of this file.
CREATE TABLE people (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  role TEXT NOT NULL,
  deleted BOOLEAN NOT NULL DEFAULT FALSE,
  version INTEGER NOT NULL
);

-- Devices that may come in, and codes with which one may; each is known by a digest of its secret. Nobody's but a person's: the owner's.
CREATE TABLE sessions (
  id TEXT PRIMARY KEY,
  kind TEXT NOT NULL,
  person_id TEXT REFERENCES people (id),
  device TEXT NOT NULL,
  made_at TIMESTAMP NOT NULL,
  seen_at TIMESTAMP NOT NULL,
  ends_at TIMESTAMP NOT NULL
);
