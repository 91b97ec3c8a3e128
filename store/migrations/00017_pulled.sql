-- +goose Up
-- How each rig of a set came out when it was pulled, and what was done before the place was left; a later pull tells of what stayed in the ground.
ALTER TABLE pulls ADD COLUMN later BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE pulls ADD COLUMN rigs TEXT NOT NULL DEFAULT '[]';
ALTER TABLE pulls ADD COLUMN done TEXT NOT NULL DEFAULT '[]';
ALTER TABLE pulls ADD COLUMN note TEXT NOT NULL DEFAULT '';
CREATE INDEX pulls_left ON pulls (line_id, at) WHERE rigs LIKE '%frozen_in%' OR rigs LIKE '%left%' OR rigs LIKE '%lost%';

-- How a make stood, put right after it was looked at; what was said before stays readable.
CREATE TABLE corrections (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    make_id TEXT NOT NULL REFERENCES makes (id),
    at TIMESTAMP NOT NULL,
    reason TEXT NOT NULL,
    make TEXT NOT NULL,
    before TEXT NOT NULL,
    who TEXT NOT NULL DEFAULT ''
);
CREATE INDEX corrections_make ON corrections (make_id);

-- A picture of a spot, and one of the paper of a permission.
ALTER TABLE spots ADD COLUMN photo_id TEXT REFERENCES photos (id);
ALTER TABLE properties ADD COLUMN paper_id TEXT REFERENCES photos (id);
