-- +goose Up
-- A look knows whose its finding is, what else was found, and how each trap of the set was found; an animal in which of them.
ALTER TABLE visits ADD COLUMN animal TEXT NOT NULL DEFAULT '';
ALTER TABLE visits ADD COLUMN told_by TEXT NOT NULL DEFAULT '';
ALTER TABLE visits ADD COLUMN also TEXT NOT NULL DEFAULT '[]';
ALTER TABLE visits ADD COLUMN rigs TEXT NOT NULL DEFAULT '[]';
ALTER TABLE catches ADD COLUMN rigs TEXT NOT NULL DEFAULT '[]';
DROP INDEX visits_gone;
CREATE INDEX visits_gone ON visits (line_id) WHERE finding IN ('gone', 'taken') OR rigs LIKE '%gone%';

-- Jaws were one word. What it did not say is not known.
ALTER TABLE traps ADD COLUMN jaw_form TEXT NOT NULL DEFAULT '';
ALTER TABLE traps ADD COLUMN jaws_offset BOOLEAN;
ALTER TABLE traps ADD COLUMN offset_mm REAL;
ALTER TABLE traps ADD COLUMN laminated BOOLEAN;
ALTER TABLE traps ADD COLUMN padded BOOLEAN;
UPDATE traps SET jaw_form = 'square' WHERE jaw = 'square';
UPDATE traps SET jaws_offset = TRUE WHERE jaw = 'offset';
UPDATE traps SET laminated = TRUE WHERE jaw = 'laminated';
UPDATE traps SET padded = TRUE WHERE jaw = 'padded';
ALTER TABLE traps DROP COLUMN jaw;
