-- +goose Up
CREATE TABLE facts (key TEXT PRIMARY KEY, value TEXT NOT NULL) STRICT;

-- What each write answered, so that a repeated one answers the same and changes nothing.
CREATE TABLE mutations (
    id TEXT PRIMARY KEY,
    answer TEXT NOT NULL,
    done_at TIMESTAMP NOT NULL
);

CREATE TABLE lines (
    id TEXT PRIMARY KEY,
    name TEXT NOT NULL,
    zone TEXT NOT NULL,
    lat_deg REAL NOT NULL,
    lon_deg REAL NOT NULL,
    version INTEGER NOT NULL
);

CREATE TABLE properties (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    name TEXT NOT NULL,
    permission TEXT NOT NULL,
    version INTEGER NOT NULL
);

CREATE TABLE spots (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    property_id TEXT NOT NULL REFERENCES properties (id),
    name TEXT NOT NULL,
    lat_deg REAL NOT NULL,
    lon_deg REAL NOT NULL,
    travel_bearing_deg REAL NOT NULL,
    travel_width_mm REAL NOT NULL,
    soil TEXT NOT NULL,
    wetness TEXT NOT NULL,
    version INTEGER NOT NULL
);

CREATE TABLE signs (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    spot_id TEXT NOT NULL REFERENCES spots (id),
    what TEXT NOT NULL,
    animal TEXT NOT NULL,
    age TEXT NOT NULL,
    seen_at TIMESTAMP NOT NULL,
    note TEXT NOT NULL,
    version INTEGER NOT NULL
);

CREATE TABLE sets (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    spot_id TEXT NOT NULL REFERENCES spots (id),
    number INTEGER NOT NULL,
    UNIQUE (line_id, number)
);

CREATE TABLE designs (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    spot_id TEXT NOT NULL REFERENCES spots (id),
    set_id TEXT REFERENCES sets (id),
    target TEXT NOT NULL,
    layout TEXT NOT NULL,
    version INTEGER NOT NULL
);

CREATE TABLE makes (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    set_id TEXT NOT NULL REFERENCES sets (id),
    design_id TEXT NOT NULL REFERENCES designs (id),
    follows TEXT REFERENCES makes (id),
    target TEXT NOT NULL,
    layout TEXT NOT NULL,
    built_at TIMESTAMP NOT NULL,
    pulled_at TIMESTAMP,
    step REAL NOT NULL,
    fire REAL NOT NULL,
    flags TEXT NOT NULL
);
CREATE INDEX makes_set ON makes (set_id, built_at);

CREATE TABLE visits (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    make_id TEXT NOT NULL REFERENCES makes (id),
    at TIMESTAMP NOT NULL,
    finding TEXT NOT NULL,
    note TEXT NOT NULL,
    flags TEXT NOT NULL,
    undone_at TIMESTAMP
);
CREATE INDEX visits_make ON visits (make_id, at);

CREATE TABLE catches (
    id TEXT PRIMARY KEY,
    visit_id TEXT NOT NULL REFERENCES visits (id),
    species TEXT NOT NULL,
    sex TEXT NOT NULL,
    foot TEXT NOT NULL,
    hold TEXT NOT NULL
);
CREATE INDEX catches_visit ON catches (visit_id);
