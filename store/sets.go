package store

import (
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"oldburrow/core/line"
)

// The layout of a design or a make is one JSON column.
type designRow struct {
	line.Design
	LayoutJSON string `db:"layout"`
}

type makeRow struct {
	line.Make
	LayoutJSON string `db:"layout"`
}

func (r designRow) entity() (line.Design, error) {
	return r.Design, json.Unmarshal([]byte(r.LayoutJSON), &r.Design.Layout)
}

func (r makeRow) entity() (line.Make, error) {
	return r.Make, json.Unmarshal([]byte(r.LayoutJSON), &r.Make.Layout)
}

// Sets lists the sets of a line by number.
func (s *Store) Sets(lineID string) ([]line.Set, error) {
	found := []line.Set{}
	return found, s.db.Select(&found, `SELECT * FROM sets WHERE line_id = ? ORDER BY number`, lineID)
}

// Design finds a design of a line.
func (s *Store) Design(lineID, id string) (line.Design, error) {
	var row designRow
	if err := one(s.db, &row, `SELECT * FROM designs WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return line.Design{}, err
	}
	return row.entity()
}

// Designs lists the designs of a line in the order they were begun.
func (s *Store) Designs(lineID string) ([]line.Design, error) {
	return listed(s.db, designRow.entity, `SELECT * FROM designs WHERE line_id = ? ORDER BY id`, lineID)
}

// Makes lists the makes of a line in the order they were built.
func (s *Store) Makes(lineID string) ([]line.Make, error) {
	return listed(s.db, makeRow.entity, `SELECT * FROM makes WHERE line_id = ? ORDER BY built_at, id`, lineID)
}

// PutDesign keeps a new design, or a change to one, at a spot of its line.
func (t *Tx) PutDesign(x line.Design) (line.Design, error) {
	if err := t.belongs("spots", "spotId", x.SpotID, x.LineID); err != nil {
		return x, err
	}
	// Which set it became is for building to say: a save from before that, come late, neither undoes it nor is stale by it.
	x.SetID = nil
	if err := t.tx.Get(&x.SetID, `SELECT set_id FROM designs WHERE id = ?`, x.ID); err != nil && !errors.Is(err, sql.ErrNoRows) {
		return x, fmt.Errorf("look for the set of the design: %w", err)
	}
	row := designRow{Design: x}
	err := editNested(t, "designs", x.ID, &row, x.Layout, &row.LayoutJSON, designRow.entity, func(r *designRow) *int { return &r.Version })
	x.Version = row.Version
	return x, err
}

// PutMake records a make, and its set when it is the first there. A make that is already recorded stays as it is.
func (t *Tx) PutMake(x line.Make) (line.Make, error) {
	var row makeRow
	err := one(t.tx, &row, `SELECT * FROM makes WHERE id = ?`, x.ID)
	if err == nil {
		return row.entity()
	}
	if !errors.Is(err, ErrUnknown) {
		return x, fmt.Errorf("look for the make: %w", err)
	}
	if err := t.belongs("designs", "designId", x.DesignID, x.LineID); err != nil {
		return x, err
	}
	if err := t.ensureSet(x); err != nil {
		return x, err
	}
	if x.Follows == nil {
		if x.Follows, err = t.pullStanding(x); err != nil {
			return x, err
		}
	}
	raw, err := json.Marshal(x.Layout)
	if err != nil {
		return x, err
	}
	row.LayoutJSON = string(raw)
	x.BuiltAt = x.BuiltAt.UTC()
	row.Make = x
	if err := upsert(t, "makes", row); err != nil {
		return x, err
	}
	_, err = t.tx.Exec(`UPDATE designs SET set_id = ? WHERE id = ? AND set_id IS NULL`, x.SetID, x.DesignID)
	return x, err
}

// ensureSet makes the set of a make when it is not there yet, with the line's next number.
func (t *Tx) ensureSet(x line.Make) error {
	_, err := t.tx.Exec(`
		INSERT INTO sets (id, line_id, spot_id, number)
		SELECT ?, d.line_id, d.spot_id, (SELECT coalesce(max(number), 0) + 1 FROM sets WHERE line_id = d.line_id)
		FROM designs d WHERE d.id = ? ON CONFLICT (id) DO NOTHING`, x.SetID, x.DesignID)
	if err != nil {
		return fmt.Errorf("make the set: %w", err)
	}
	return t.belongs("sets", "setId", x.SetID, x.LineID)
}

// pullStanding ends the make that stands at the set until now, and gives the id of the newest one: what this one follows.
func (t *Tx) pullStanding(x line.Make) (*string, error) {
	var last []string
	if err := t.tx.Select(&last, `SELECT id FROM makes WHERE set_id = ? ORDER BY built_at DESC, id DESC LIMIT 1`, x.SetID); err != nil {
		return nil, fmt.Errorf("look for the make before: %w", err)
	}
	if len(last) == 0 {
		return nil, nil
	}
	_, err := t.tx.Exec(`UPDATE makes SET pulled_at = ? WHERE id = ? AND pulled_at IS NULL`, x.BuiltAt.UTC(), last[0])
	return &last[0], err
}

// PullMake records that a make was pulled. One that was pulled before stays as it is.
func (t *Tx) PullMake(lineID, id string, at time.Time) (line.Make, error) {
	if _, err := t.tx.Exec(`UPDATE makes SET pulled_at = ? WHERE id = ? AND line_id = ? AND pulled_at IS NULL`, at.UTC(), id, lineID); err != nil {
		return line.Make{}, fmt.Errorf("pull: %w", err)
	}
	return t.Make(lineID, id)
}

// Make finds a make of a line.
func (t *Tx) Make(lineID, id string) (line.Make, error) {
	var row makeRow
	if err := one(t.tx, &row, `SELECT * FROM makes WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return line.Make{}, err
	}
	return row.entity()
}
