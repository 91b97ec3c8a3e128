package store

import (
	"fmt"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
)

// Lines lists the lines in the file, by name.
func (s *Store) Lines() ([]line.Line, error) {
	found := []line.Line{}
	return found, s.db.Select(&found, `SELECT * FROM lines ORDER BY name, id`)
}

// Line finds a line.
func (s *Store) Line(id string) (line.Line, error) {
	var found line.Line
	return found, one(s.db, &found, `SELECT * FROM lines WHERE id = ?`, id)
}

// Properties lists the properties of a line, by name.
func (s *Store) Properties(lineID string) ([]line.Property, error) {
	found := []line.Property{}
	return found, s.db.Select(&found, `SELECT * FROM properties WHERE line_id = ? ORDER BY name, id`, lineID)
}

// Spots lists the spots of a line in the order they were marked.
func (s *Store) Spots(lineID string) ([]line.Spot, error) {
	found := []line.Spot{}
	return found, s.db.Select(&found, `SELECT * FROM spots WHERE line_id = ? ORDER BY id`, lineID)
}

// Signs lists the sign of a line, newest first.
func (s *Store) Signs(lineID string) ([]line.Sign, error) {
	found := []line.Sign{}
	return found, s.db.Select(&found, `SELECT * FROM signs WHERE line_id = ? ORDER BY seen_at DESC, id DESC`, lineID)
}

// PutLine keeps a new line, or a change to one.
func (t *Tx) PutLine(x line.Line) (line.Line, error) {
	err := edit(t, "lines", x.ID, &x, func(l *line.Line) *int { return &l.Version })
	return x, err
}

// PutProperty keeps a new property, or a change to one.
func (t *Tx) PutProperty(x line.Property) (line.Property, error) {
	err := edit(t, "properties", x.ID, &x, func(p *line.Property) *int { return &p.Version })
	return x, err
}

// PutSpot keeps a new spot, or a change to one, on a property of its line.
func (t *Tx) PutSpot(x line.Spot) (line.Spot, error) {
	if err := t.belongs("properties", "propertyId", x.PropertyID, x.LineID); err != nil {
		return x, err
	}
	err := edit(t, "spots", x.ID, &x, func(s *line.Spot) *int { return &s.Version })
	return x, err
}

// PutSign keeps a new sign, or a change to one, at a spot of its line.
func (t *Tx) PutSign(x line.Sign) (line.Sign, error) {
	if err := t.belongs("spots", "spotId", x.SpotID, x.LineID); err != nil {
		return x, err
	}
	x.SeenAt = x.SeenAt.UTC()
	err := edit(t, "signs", x.ID, &x, func(s *line.Sign) *int { return &s.Version })
	return x, err
}

// belongs refuses a reference to a row that the line does not have, by the name of the field that refers to it.
func (t *Tx) belongs(table, field, id, lineID string) error {
	var n int
	if err := t.tx.Get(&n, `SELECT count(*) FROM `+table+` WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return fmt.Errorf("look for %s: %w", field, err)
	}
	if n == 0 {
		return refuse.Field(field, "%q is not on this line: choose one that is", id)
	}
	return nil
}
