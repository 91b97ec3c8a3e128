-- +goose Up
-- A pull is an act of its own. What a make remade, and when it ended, is made out from all makes and pulls of its set.
CREATE TABLE pulls (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    make_id TEXT NOT NULL REFERENCES makes (id),
    at TIMESTAMP NOT NULL,
    undone_at TIMESTAMP
);
CREATE INDEX pulls_line ON pulls (line_id);

-- Where the next make ended it, nobody pulled it.
INSERT INTO pulls (id, line_id, make_id, at)
SELECT m.id, m.line_id, m.id, m.pulled_at FROM makes m
WHERE m.pulled_at IS NOT NULL AND NOT EXISTS (SELECT 1 FROM makes n WHERE n.follows = m.id AND n.built_at = m.pulled_at);

-- What refers to the makes refers to them again once they are back.
PRAGMA defer_foreign_keys = ON;
CREATE TABLE makes_before AS SELECT * FROM makes;
DROP TABLE makes;
CREATE TABLE makes (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    set_id TEXT NOT NULL REFERENCES sets (id),
    design_id TEXT NOT NULL REFERENCES designs (id),
    target TEXT NOT NULL,
    layout TEXT NOT NULL,
    built_at TIMESTAMP NOT NULL,
    step REAL NOT NULL,
    fire REAL NOT NULL,
    flags TEXT NOT NULL
);
INSERT INTO makes SELECT id, line_id, set_id, design_id, target, layout, built_at, step, fire, flags FROM makes_before;
DROP TABLE makes_before;
CREATE INDEX makes_set ON makes (set_id, built_at);

-- A mutation is told from another by what it asked; with it is kept what the device's clock showed, and by how much the
-- program's was ahead of it.
ALTER TABLE mutations ADD COLUMN digest TEXT NOT NULL DEFAULT '';
ALTER TABLE mutations ADD COLUMN device_at TIMESTAMP;
ALTER TABLE mutations ADD COLUMN offset_ms INTEGER;
