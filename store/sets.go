package store

import (
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
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
func (v View) Sets(lineID string) ([]line.Set, error) {
	return all[line.Set](v, "sets", `SELECT * FROM sets WHERE line_id = ? ORDER BY number`, lineID)
}

// Design finds a design of a line.
func (v View) Design(lineID, id string) (line.Design, error) {
	var row designRow
	if err := one(v.q, &row, `SELECT * FROM designs WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return line.Design{}, err
	}
	return row.entity()
}

// Designs lists the designs of a line in the order they were begun.
func (v View) Designs(lineID string) ([]line.Design, error) {
	return listed(v, "designs", designRow.entity, `SELECT * FROM designs WHERE line_id = ? ORDER BY id`, lineID)
}

// Makes lists the makes of a line in the order they were built, as they were noted: line.Chain says how they followed each
// other.
func (v View) Makes(lineID string) ([]line.Make, error) {
	return listed(v, "makes", makeRow.entity, `SELECT * FROM makes WHERE line_id = ? ORDER BY built_at, id`, lineID)
}

// Pulls lists the pulls of a line in order of time; those taken back are among them.
func (v View) Pulls(lineID string) ([]line.Pull, error) {
	return all[line.Pull](v, "pulls", `SELECT * FROM pulls WHERE line_id = ? ORDER BY at, id`, lineID)
}

// PutDesign keeps a new design, or a change to one, at a spot of its line.
func (t *Tx) PutDesign(x line.Design) (line.Design, error) {
	if err := t.belongs("spots", "spotId", x.SpotID, x.LineID); err != nil {
		return x, err
	}
	// Which set it became is for building to say: a save from before that, come late, neither undoes it nor is stale by it.
	x.SetID = nil
	if err := t.tx.Get(&x.SetID, `SELECT set_id FROM designs WHERE id = ? AND line_id = ?`, x.ID, x.LineID); err != nil && !errors.Is(err, sql.ErrNoRows) {
		return x, fmt.Errorf("look for the set of the design: %w", err)
	}
	row := designRow{Design: x}
	err := editNested(t, "designs", x.LineID, x.ID, &row, x.Layout, &row.LayoutJSON, designRow.entity, func(r *designRow) *int { return &r.Version })
	x.Version = row.Version
	return x, err
}

// PutMake records a make, and its set when it is the first there. Said again just so it stays as it is.
func (t *Tx) PutMake(x line.Make) (line.Make, error) {
	x.BuiltAt, x.Follows, x.PulledAt = x.BuiltAt.UTC(), nil, nil
	raw, err := json.Marshal(x.Layout)
	if err != nil {
		return x, err
	}
	row := makeRow{Make: x, LayoutJSON: string(raw)}
	var stands makeRow
	switch err := t.find("makes", x.LineID, x.ID, &stands); {
	case err == nil:
		before, err := stands.entity()
		if err == nil && !same(before, x, saidMake) {
			err = Taken{things["makes"]}
		}
		return before, err
	case !errors.Is(err, ErrUnknown):
		return x, fmt.Errorf("look for the make: %w", err)
	}
	if err := t.belongs("designs", "designId", x.DesignID, x.LineID); err != nil {
		return x, err
	}
	if err := t.ensureSet(x); err != nil {
		return x, err
	}
	if err := insert(t, "makes", row); err != nil {
		return x, err
	}
	_, err = t.tx.Exec(`UPDATE designs SET set_id = ? WHERE id = ? AND line_id = ? AND set_id IS NULL`, x.SetID, x.DesignID, x.LineID)
	return x, err
}

func saidMake(x *line.Make) { x.Step, x.Fire, x.Flags = 0, 0, "" }

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

// PutPull records that what stands at a make's set was pulled.
func (t *Tx) PutPull(x line.Pull) (line.Pull, error) {
	if err := t.belongs("makes", "makeId", x.MakeID, x.LineID); err != nil {
		return x, err
	}
	x.At = x.At.UTC()
	err := act(t, "pulls", x.LineID, x.ID, &x, func(p *line.Pull) { p.UndoneAt = nil })
	return x, err
}

// UndoPull takes a pull back: what it ended stands on.
func (t *Tx) UndoPull(lineID, id string, at time.Time) (line.Pull, error) {
	var found line.Pull
	if err := t.takeBack("pulls", lineID, id, at); err != nil {
		return found, err
	}
	return found, one(t.tx, &found, `SELECT * FROM pulls WHERE id = ? AND line_id = ?`, id, lineID)
}

// Standing are the makes of a line that were not pulled or remade.
func (v View) Standing(lineID string) ([]line.Make, error) {
	makes, err := v.Makes(lineID)
	if err != nil {
		return nil, err
	}
	pulls, err := v.Pulls(lineID)
	if err != nil {
		return nil, err
	}
	pulls = slices.DeleteFunc(pulls, func(p line.Pull) bool { return p.UndoneAt != nil })
	chain, _ := line.Chain(makes, pulls)
	return slices.DeleteFunc(chain, func(m line.Make) bool { return m.PulledAt != nil }), nil
}
