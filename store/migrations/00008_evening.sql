-- +goose Up
-- What more a look says, and a catch; when a look was put right, and what stood before.
ALTER TABLE visits ADD COLUMN seen TEXT NOT NULL DEFAULT '{}';
ALTER TABLE visits ADD COLUMN mended_at TIMESTAMP;
ALTER TABLE catches ADD COLUMN condition TEXT NOT NULL DEFAULT '{}';
CREATE TABLE mends (
    id TEXT PRIMARY KEY,
    line_id TEXT NOT NULL REFERENCES lines (id),
    visit_id TEXT NOT NULL REFERENCES visits (id),
    at TIMESTAMP NOT NULL,
    reason TEXT NOT NULL,
    visit TEXT NOT NULL,
    before TEXT NOT NULL
);
CREATE INDEX mends_visit ON mends (visit_id);

-- Whatever was done can be taken back.
ALTER TABLE makes ADD COLUMN undone_at TIMESTAMP;
ALTER TABLE doses ADD COLUMN undone_at TIMESTAMP;

-- A remake takes off the shelf what was renewed: bait, and what was not there before.
ALTER TABLE smells ADD COLUMN bait BOOLEAN NOT NULL DEFAULT FALSE;

-- A press can be taken at the bed, covered as the trap will stand.
ALTER TABLE measurements ADD COLUMN covered BOOLEAN NOT NULL DEFAULT FALSE;

-- Whom a pan should spare was set by the program and not by anybody.
ALTER TABLE traps ADD COLUMN spares_by TEXT NOT NULL DEFAULT '';
UPDATE traps SET spares_by = 'program' WHERE spares = '["skunk"]';

-- What is not known of a way is not known.
ALTER TABLE spots ADD COLUMN way_bearing_deg REAL;
ALTER TABLE spots ADD COLUMN way_width_mm REAL;
ALTER TABLE spots ADD COLUMN ways INTEGER;
UPDATE spots SET way_bearing_deg = travel_bearing_deg, way_width_mm = travel_width_mm, ways = ways_meet;
ALTER TABLE spots DROP COLUMN travel_bearing_deg;
ALTER TABLE spots DROP COLUMN travel_width_mm;
ALTER TABLE spots DROP COLUMN ways_meet;

DROP INDEX visits_gone;
CREATE INDEX visits_gone ON visits (line_id) WHERE finding IN ('gone', 'taken', 'given_up') OR rigs LIKE '%gone%';
DROP INDEX visits_held;
CREATE INDEX visits_held ON visits (line_id, at) WHERE finding IN ('catch', 'gone', 'found');
CREATE INDEX doses_line ON doses (line_id, at);
CREATE INDEX checks_line ON shed_checks (line_id, at);
CREATE INDEX measurements_line ON measurements (line_id, at);
CREATE INDEX signs_seen ON signs (line_id, seen_at);
