-- +goose Up
-- What was weighed of the sets that stand and of the spots where none does, by what it was: made out from the rest, and made out anew where that has
-- changed. No archive has it.
CREATE TABLE weighed (
    line_id TEXT NOT NULL REFERENCES lines (id),
    key TEXT NOT NULL,
    said TEXT NOT NULL,
    PRIMARY KEY (line_id, key)
) WITHOUT ROWID;
