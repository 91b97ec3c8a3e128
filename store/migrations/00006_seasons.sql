-- +goose Up
-- The stretches that a line's record is read in.
CREATE TABLE seasons (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    name TEXT NOT NULL,
    from_day TEXT NOT NULL,
    to_day TEXT NOT NULL,
    version INTEGER NOT NULL
);
CREATE UNIQUE INDEX seasons_line ON seasons (line_id, from_day);

-- What stands below is made out of the record and can be made out anew: it lets things be found without reading all of it.

-- When a make ended by all that is noted; NULL while it stands.
ALTER TABLE makes ADD COLUMN ended_at TIMESTAMP;
CREATE INDEX makes_line ON makes (line_id, ended_at, built_at);
CREATE INDEX makes_built ON makes (line_id, built_at);

-- Which trap is in which rig of a make, and which lure of the shelf.
CREATE TABLE rigs (
    make_id TEXT NOT NULL REFERENCES makes (id),
    slot INTEGER NOT NULL,
    trap_id TEXT NOT NULL,
    built_at TIMESTAMP NOT NULL,
    PRIMARY KEY (make_id, slot)
) WITHOUT ROWID;
CREATE INDEX rigs_trap ON rigs (trap_id, built_at);
CREATE TABLE smells (
    make_id TEXT NOT NULL REFERENCES makes (id),
    slot INTEGER NOT NULL,
    lure_id TEXT NOT NULL,
    PRIMARY KEY (make_id, slot)
) WITHOUT ROWID;
CREATE INDEX smells_lure ON smells (lure_id);

-- What a trap's changes and checks come to, and how a lure stands after all its doses. From waits on the lure has to be made out
-- anew.
CREATE TABLE trap_cards (
    trap_id TEXT PRIMARY KEY REFERENCES traps (id),
    line_id TEXT NOT NULL REFERENCES lines (id),
    card TEXT NOT NULL
) WITHOUT ROWID;
CREATE INDEX trap_cards_line ON trap_cards (line_id);
CREATE TABLE lure_cards (
    lure_id TEXT PRIMARY KEY REFERENCES lures (id),
    line_id TEXT NOT NULL REFERENCES lines (id),
    card TEXT NOT NULL,
    waits TIMESTAMP
) WITHOUT ROWID;
CREATE INDEX lure_cards_line ON lure_cards (line_id);

CREATE INDEX visits_line ON visits (line_id, at);
CREATE INDEX visits_held ON visits (line_id, at) WHERE finding IN ('catch', 'gone');
CREATE INDEX visits_gone ON visits (line_id) WHERE finding IN ('gone', 'taken');
DROP INDEX pulls_line;
CREATE INDEX pulls_line ON pulls (line_id, at);
CREATE INDEX pulls_make ON pulls (make_id);
CREATE INDEX designs_line ON designs (line_id, set_id);
CREATE INDEX sets_line ON sets (line_id, number);
CREATE INDEX sets_spot ON sets (spot_id);
CREATE INDEX spots_line ON spots (line_id);
CREATE INDEX spots_property ON spots (property_id);
CREATE INDEX falls_line ON falls (line_id, ended);
CREATE INDEX readings_line ON readings (line_id, at);
CREATE INDEX checks_trap ON shed_checks (trap_id, at);
CREATE INDEX measurements_trap ON measurements (trap_id, at);
CREATE INDEX bottles_lure ON bottles (lure_id);
CREATE INDEX levels_bottle ON levels (bottle_id, at);
CREATE INDEX doses_lure ON doses (lure_id, at);
CREATE INDEX kit_marks_own ON kit_marks (line_id) WHERE mark = 'own';
