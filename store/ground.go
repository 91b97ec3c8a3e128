package store

import (
	"errors"
	"fmt"
	"reflect"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/tally"
)

// Lines lists the lines in the file, by name.
func (v View) Lines() ([]line.Line, error) {
	return all[line.Line](v, "lines", `SELECT * FROM lines ORDER BY name, id`)
}

// Line finds a line.
func (v View) Line(id string) (line.Line, error) {
	var found line.Line
	return found, one(v.q, &found, `SELECT * FROM lines WHERE id = ?`, id)
}

// Properties lists the properties of a line that are not deleted, by name.
func (v View) Properties(lineID string) ([]line.Property, error) {
	return all[line.Property](v, "properties", `SELECT * FROM properties WHERE line_id = ? AND NOT deleted ORDER BY name, id`, lineID)
}

// Spots lists the spots of a line that are not deleted, in the order they were marked.
func (v View) Spots(lineID string) ([]line.Spot, error) {
	return listed(v, "spots", entityOf[spotRow, line.Spot], `SELECT * FROM spots WHERE line_id = ? AND NOT deleted ORDER BY id`, lineID)
}

// Signs lists the sign of a line that was seen in a span and is not deleted, newest first.
func (v View) Signs(lineID string, span tally.Span) ([]line.Sign, error) {
	from, until, lost := bounds(span)
	return listed(v, "signs", entityOf[signRow, line.Sign], `
		SELECT * FROM signs WHERE line_id = ?1 AND seen_at >= ?2 AND seen_at < ?3 AND NOT deleted
		UNION ALL SELECT * FROM signs WHERE line_id = ?1 AND seen_at < ?4 AND seen_at < ?2 AND NOT deleted
		ORDER BY seen_at DESC, id DESC`, lineID, from, until, lost)
}

// Features lists what is drawn on a line's map and not deleted, in the order it was drawn.
func (v View) Features(lineID string) ([]line.Feature, error) {
	return listed(v, "features", entityOf[featureRow, line.Feature], `SELECT * FROM features WHERE line_id = ? AND NOT deleted ORDER BY id`, lineID)
}

// Falls lists the snowfalls and rains of a line in a span, newest first.
func (v View) Falls(lineID string, span tally.Span) ([]line.Fall, error) {
	from, until, lost := bounds(span)
	return all[line.Fall](v, "falls", `
		SELECT * FROM falls WHERE line_id = ?1 AND ended >= ?2 AND ended < ?3 AND NOT deleted
		UNION ALL SELECT * FROM falls WHERE line_id = ?1 AND ended < ?4 AND ended < ?2 AND NOT deleted
		ORDER BY ended DESC, id DESC`, lineID, from, until, lost)
}

// Photo finds a photo's JPEG.
func (v View) Photo(lineID, id string) ([]byte, error) {
	var jpeg []byte
	return jpeg, one(v.q, &jpeg, `SELECT jpeg FROM photos WHERE id = ? AND line_id = ?`, id, lineID)
}

// What is nested in an entity is one JSON column each.
type spotRow struct {
	line.Spot
	MetJSON   string `db:"met" of:"Met"`
	ThereJSON string `db:"there" of:"There"`
}

type signRow struct {
	line.Sign
	CandidatesJSON string `db:"candidates" of:"Candidates"`
}

type featureRow struct {
	line.Feature
	PointsJSON string `db:"points" of:"Points"`
}

// listed reads rows and gives their entities.
func listed[R, T any](v View, table string, entity func(R) (T, error), query string, args ...any) ([]T, error) {
	rows, err := all[R](v, table, query, args...)
	if err != nil {
		return nil, err
	}
	return entities(v, table, entity, rows), nil
}

// entities unfolds what is nested in rows; one in which it is broken hides no other.
func entities[R, T any](v View, table string, entity func(R) (T, error), rows []R) []T {
	found := make([]T, 0, len(rows))
	for _, row := range rows {
		x, err := entity(row)
		if err != nil {
			if v.unread != nil {
				id, _ := reflect.ValueOf(row).FieldByName("ID").Interface().(string)
				*v.unread = append(*v.unread, Unreadable{What: things[table], ID: id, Why: "what is nested in it is broken"})
			}
			continue
		}
		found = append(found, x)
	}
	return found
}

// PutLine keeps a new line, or a change to one.
func (t *Tx) PutLine(x line.Line) (line.Line, error) {
	err := edit(t, "lines", x.ID, x.ID, &x, func(l *line.Line) *int { return &l.Version })
	return x, err
}

// PutProperty keeps a new property, or a change to one. One that still has spots cannot be deleted.
func (t *Tx) PutProperty(x line.Property) (line.Property, error) {
	if x.Deleted {
		spots, err := t.users("spots", "property_id", x.ID)
		if err == nil {
			err = x.MayDelete(spots)
		}
		if err != nil {
			return x, err
		}
	}
	if x.PaperID != nil {
		if err := t.belongs("photos", "paperId", *x.PaperID, x.LineID); err != nil {
			return x, err
		}
	}
	err := edit(t, "properties", x.LineID, x.ID, &x, func(p *line.Property) *int { return &p.Version })
	return x, err
}

// PutSpot keeps a new spot, or a change to one, on a property of its line. One where a set was built cannot be deleted.
func (t *Tx) PutSpot(x line.Spot) (line.Spot, error) {
	if err := t.belongs("properties", "propertyId", x.PropertyID, x.LineID); err != nil {
		return x, err
	}
	if x.Deleted {
		var sets int
		err := t.tx.Get(&sets, `SELECT count(*) FROM sets WHERE spot_id = ?`, x.ID)
		if err == nil {
			err = x.MayDelete(sets)
		}
		if err != nil {
			return x, err
		}
	}
	if x.PhotoID != nil {
		if err := t.belongs("photos", "photoId", *x.PhotoID, x.LineID); err != nil {
			return x, err
		}
	}
	row, err := rowOf[spotRow](x)
	if err == nil {
		err = editNested(t, "spots", x.LineID, x.ID, &row, entityOf[spotRow, line.Spot], func(r *spotRow) *int { return &r.Version })
	}
	return row.Spot, err
}

// PutSign keeps a new sign, or a change to one.
func (t *Tx) PutSign(x line.Sign) (line.Sign, error) {
	for _, ref := range []struct {
		table, field string
		id           *string
	}{{"spots", "spotId", x.SpotID}, {"falls", "youngerThan", x.YoungerThan}, {"photos", "photoId", x.PhotoID}} {
		if ref.id == nil {
			continue
		}
		if err := t.belongs(ref.table, ref.field, *ref.id, x.LineID); err != nil {
			return x, err
		}
	}
	x.SeenAt, x.Who = x.SeenAt.UTC(), t.by.Who
	switch before, err := t.whose("signs", x.LineID, x.ID); {
	case err == nil && !t.by.may(before):
		return x, ErrNotYours
	case err == nil:
		x.Who = before // who changes what is seen has not seen it
	case !errors.Is(err, ErrUnknown):
		return x, err
	}
	row, err := rowOf[signRow](x)
	if err == nil {
		err = editNested(t, "signs", x.LineID, x.ID, &row, entityOf[signRow, line.Sign], func(r *signRow) *int { return &r.Version })
	}
	if err != nil {
		return x, err
	}
	return row.Sign, t.begins(x.LineID, x.SeenAt)
}

// UndoSign takes a sign back.
func (t *Tx) UndoSign(lineID, id string, _ time.Time) (line.Sign, error) {
	if _, err := t.tx.Exec(`UPDATE signs SET deleted = TRUE, version = version + 1 WHERE id = ? AND line_id = ? AND NOT deleted`, id, lineID); err != nil {
		return line.Sign{}, err
	}
	var row signRow
	if err := one(t.tx, &row, `SELECT * FROM signs WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return line.Sign{}, err
	}
	return entityOf[signRow, line.Sign](row)
}

// PutFeature keeps a new thing on the map, or a change to one.
func (t *Tx) PutFeature(x line.Feature) (line.Feature, error) {
	if x.PropertyID != nil {
		if err := t.belongs("properties", "propertyId", *x.PropertyID, x.LineID); err != nil {
			return x, err
		}
	}
	x.MadeAt = x.MadeAt.UTC()
	row, err := rowOf[featureRow](x)
	if err == nil {
		err = editNested(t, "features", x.LineID, x.ID, &row, entityOf[featureRow, line.Feature], func(r *featureRow) *int { return &r.Version })
	}
	return row.Feature, err
}

// PutFall keeps a snowfall or rain, or a change to one.
func (t *Tx) PutFall(x line.Fall) (line.Fall, error) {
	x.Ended = x.Ended.UTC()
	err := edit(t, "falls", x.LineID, x.ID, &x, func(f *line.Fall) *int { return &f.Version })
	return x, err
}

type photoRow struct {
	line.Photo
	JPEG []byte `db:"jpeg"`
}

// PutPhoto keeps a photo. The same one again stays as it is.
func (t *Tx) PutPhoto(x line.Photo, jpeg []byte) (line.Photo, error) {
	row := photoRow{x, jpeg}
	return x, act(t, "photos", x.LineID, x.ID, &row, asIs)
}

// editNested is edit for a row with something nested in it that is kept as JSON; a conflict shows the entity.
func editNested[R, T any](t *Tx, table, lineID, id string, row *R, entity func(R) (T, error), version func(*R) *int) error {
	err := edit(t, table, lineID, id, row, version)
	var conflict Conflict
	if errors.As(err, &conflict) {
		theirs, err := entity(conflict.Theirs.(R))
		if err != nil {
			return err
		}
		return Conflict{Theirs: theirs}
	}
	return err
}

// users counts the rows of a table that name something and are not deleted.
func (t *Tx) users(table, column, id string) (n int, err error) {
	err = t.tx.Get(&n, fmt.Sprintf(`SELECT count(*) FROM %s WHERE %s = ? AND NOT deleted`, table, column), id)
	return n, err
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
