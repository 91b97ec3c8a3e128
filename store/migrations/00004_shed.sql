-- +goose Up
CREATE TABLE traps (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    number INTEGER NOT NULL,
    size TEXT NOT NULL,
    type TEXT NOT NULL,
    jaw TEXT NOT NULL,
    jaw_spread_mm REAL NOT NULL,
    frame_length_mm REAL NOT NULL,
    set_height_mm REAL NOT NULL,
    pan_diameter_mm REAL NOT NULL,
    weight_g REAL NOT NULL,
    swivels INTEGER NOT NULL,
    chain_mm REAL NOT NULL,
    shock_spring BOOLEAN NOT NULL,
    tag TEXT NOT NULL,
    meant_for TEXT NOT NULL,
    spares TEXT NOT NULL,
    away TEXT NOT NULL,
    note TEXT NOT NULL,
    deleted BOOLEAN NOT NULL,
    version INTEGER NOT NULL
);
CREATE UNIQUE INDEX traps_number ON traps (line_id, number) WHERE NOT deleted;

-- What a trap was from a time on; nothing of it is overwritten.
CREATE TABLE trap_versions (
    trap_id TEXT NOT NULL REFERENCES traps (id),
    version INTEGER NOT NULL,
    at TIMESTAMP NOT NULL,
    trap TEXT NOT NULL,
    PRIMARY KEY (trap_id, version)
);

CREATE TABLE shed_checks (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    trap_id TEXT NOT NULL REFERENCES traps (id),
    at TIMESTAMP NOT NULL,
    items TEXT NOT NULL
);

CREATE TABLE measurements (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    trap_id TEXT NOT NULL REFERENCES traps (id),
    at TIMESTAMP NOT NULL,
    gauge TEXT NOT NULL,
    stand_in BOOLEAN NOT NULL,
    factor REAL NOT NULL,
    presses TEXT NOT NULL,
    turned REAL NOT NULL,
    undone_at TIMESTAMP
);

CREATE TABLE calibrations (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    gauge TEXT NOT NULL,
    at TIMESTAMP NOT NULL,
    known_n REAL NOT NULL,
    read_n REAL NOT NULL
);

CREATE TABLE lures (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    name TEXT NOT NULL,
    class TEXT NOT NULL,
    measured_by TEXT NOT NULL,
    dose REAL NOT NULL,
    deleted BOOLEAN NOT NULL,
    version INTEGER NOT NULL
);

CREATE TABLE bottles (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    lure_id TEXT NOT NULL REFERENCES lures (id),
    holds REAL NOT NULL,
    opened_at TIMESTAMP,
    freezes_at_c REAL,
    note TEXT NOT NULL,
    deleted BOOLEAN NOT NULL,
    version INTEGER NOT NULL
);

CREATE TABLE levels (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    bottle_id TEXT NOT NULL REFERENCES bottles (id),
    at TIMESTAMP NOT NULL,
    amount REAL NOT NULL
);

CREATE TABLE doses (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    lure_id TEXT NOT NULL REFERENCES lures (id),
    spot_id TEXT REFERENCES spots (id),
    at TIMESTAMP NOT NULL,
    count REAL NOT NULL
);

CREATE TABLE recipes (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    name TEXT NOT NULL,
    mix TEXT NOT NULL,
    deleted BOOLEAN NOT NULL,
    version INTEGER NOT NULL
);

CREATE TABLE kit_marks (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    day TEXT NOT NULL,
    key TEXT NOT NULL,
    mark TEXT NOT NULL,
    is_on BOOLEAN NOT NULL,
    at TIMESTAMP NOT NULL
);
CREATE INDEX kit_marks_day ON kit_marks (line_id, day);
