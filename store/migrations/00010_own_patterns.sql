-- +goose Up
-- Ways of making a set under the user's own name.
CREATE TABLE patterns (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    name TEXT NOT NULL,
    target TEXT NOT NULL,
    layout TEXT NOT NULL,
    deleted BOOLEAN NOT NULL,
    version INTEGER NOT NULL
);
