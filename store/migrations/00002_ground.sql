-- +goose Up
ALTER TABLE properties ADD COLUMN asked TEXT NOT NULL DEFAULT '';
ALTER TABLE properties ADD COLUMN until TEXT NOT NULL DEFAULT '';
ALTER TABLE properties ADD COLUMN deleted BOOLEAN NOT NULL DEFAULT FALSE;

ALTER TABLE spots ADD COLUMN ways_meet INTEGER NOT NULL DEFAULT 1;
ALTER TABLE spots ADD COLUMN surface TEXT NOT NULL DEFAULT 'grass';
ALTER TABLE spots ADD COLUMN swirls BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE spots ADD COLUMN shy BOOLEAN NOT NULL DEFAULT FALSE;
ALTER TABLE spots ADD COLUMN seen_by TEXT NOT NULL DEFAULT '';
ALTER TABLE spots ADD COLUMN met TEXT NOT NULL DEFAULT '[]';
ALTER TABLE spots ADD COLUMN deleted BOOLEAN NOT NULL DEFAULT FALSE;

CREATE TABLE features (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    kind TEXT NOT NULL,
    name TEXT NOT NULL,
    note TEXT NOT NULL,
    points TEXT NOT NULL,
    width_mm REAL NOT NULL,
    property_id TEXT REFERENCES properties (id),
    made_at TIMESTAMP NOT NULL,
    deleted BOOLEAN NOT NULL,
    version INTEGER NOT NULL
);
CREATE INDEX features_line ON features (line_id);

CREATE TABLE falls (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    kind TEXT NOT NULL,
    ended TIMESTAMP NOT NULL,
    deleted BOOLEAN NOT NULL,
    version INTEGER NOT NULL
);

CREATE TABLE photos (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    lat_deg REAL,
    lon_deg REAL,
    taken_at TIMESTAMP,
    jpeg BLOB NOT NULL
);

-- Sign may lie at no spot, and then has a place of its own.
CREATE TABLE signs_new (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    spot_id TEXT REFERENCES spots (id),
    lat_deg REAL NOT NULL,
    lon_deg REAL NOT NULL,
    what TEXT NOT NULL,
    animal TEXT NOT NULL,
    candidates TEXT NOT NULL DEFAULT '[]',
    count INTEGER NOT NULL DEFAULT 0,
    direction_deg REAL,
    age TEXT NOT NULL,
    younger_than TEXT REFERENCES falls (id),
    holds TEXT NOT NULL DEFAULT 'unknown',
    photo_id TEXT REFERENCES photos (id),
    seen_at TIMESTAMP NOT NULL,
    note TEXT NOT NULL,
    deleted BOOLEAN NOT NULL DEFAULT FALSE,
    version INTEGER NOT NULL
);
INSERT INTO signs_new (id, line_id, spot_id, lat_deg, lon_deg, what, animal, age, seen_at, note, version)
SELECT g.id, g.line_id, g.spot_id, s.lat_deg, s.lon_deg, g.what, g.animal, g.age, g.seen_at, g.note, g.version
FROM signs g JOIN spots s ON s.id = g.spot_id;
DROP TABLE signs;
ALTER TABLE signs_new RENAME TO signs;
CREATE INDEX signs_line ON signs (line_id, seen_at);
