package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"oldburrow/core/line"
)

// What a look found beside its main finding, how it found each rig, and which rigs hold an animal, is one JSON column each.
type visitRow struct {
	line.Visit
	AlsoJSON string `db:"also"`
	RigsJSON string `db:"rigs"`
}

func (r visitRow) entity() (line.Visit, error) {
	r.Visit.Also, r.Visit.Rigs = []line.Found{}, []line.RigFound{}
	return r.Visit, errors.Join(nested(r.AlsoJSON, &r.Visit.Also), nested(r.RigsJSON, &r.Visit.Rigs))
}

type catchRow struct {
	line.Catch
	RigsJSON string `db:"rigs"`
}

func (r catchRow) entity() (line.Catch, error) {
	r.Catch.Rigs = []int{}
	return r.Catch, nested(r.RigsJSON, &r.Catch.Rigs)
}

// nested reads a list from a column; most are empty.
func nested[T any](raw string, into *[]T) error {
	if raw == "[]" {
		return nil
	}
	return json.Unmarshal([]byte(raw), into)
}

// Visit finds a visit of a line.
func (v View) Visit(lineID, id string) (line.Visit, error) {
	var row visitRow
	if err := one(v.q, &row, `SELECT * FROM visits WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return row.Visit, err
	}
	found, err := row.entity()
	if err != nil {
		return found, err
	}
	found.Catches, err = listed(v, "catches", catchRow.entity, `SELECT * FROM catches WHERE visit_id = ? ORDER BY id`, id)
	return found, err
}

// PutVisit records a visit and its catches. Said again just so it stays as it is.
func (t *Tx) PutVisit(x line.Visit) (line.Visit, error) {
	x.At = x.At.UTC()
	x.Also, x.Rigs = append([]line.Found{}, x.Also...), append([]line.RigFound{}, x.Rigs...)
	x.Catches = append([]line.Catch{}, x.Catches...)
	for i := range x.Catches {
		x.Catches[i].VisitID = x.ID
		x.Catches[i].Rigs = append([]int{}, x.Catches[i].Rigs...)
	}
	slices.SortFunc(x.Catches, func(a, b line.Catch) int { return strings.Compare(a.ID, b.ID) })
	switch before, err := t.Visit(x.LineID, x.ID); {
	case err == nil && same(before, x, saidVisit):
		return before, nil
	case err == nil:
		return x, Taken{things["visits"]}
	case !errors.Is(err, ErrUnknown):
		return x, err
	}
	if err := t.belongs("makes", "makeId", x.MakeID, x.LineID); err != nil {
		return x, err
	}
	row := visitRow{Visit: x}
	if err := asJSON(&row.AlsoJSON, x.Also); err != nil {
		return x, err
	}
	if err := asJSON(&row.RigsJSON, x.Rigs); err != nil {
		return x, err
	}
	if err := insert(t, "visits", row); err != nil {
		return x, err
	}
	for _, c := range x.Catches {
		row := catchRow{Catch: c}
		if err := asJSON(&row.RigsJSON, c.Rigs); err != nil {
			return x, err
		}
		if err := insert(t, "catches", row); err != nil {
			return x, err
		}
	}
	return x, t.begins(x.LineID, x.At)
}

func asJSON(into *string, x any) error {
	raw, err := json.Marshal(x)
	*into = string(raw)
	return err
}

func saidVisit(x *line.Visit) { x.Flags, x.UndoneAt = "", nil }

// UndoVisit takes a visit back; it stays in the record as taken back.
func (t *Tx) UndoVisit(lineID, id string, at time.Time) (line.Visit, error) {
	if err := t.takeBack("visits", lineID, id, at); err != nil {
		return line.Visit{}, err
	}
	return t.Visit(lineID, id)
}

// takeBack marks an act of a line as taken back, once.
func (t *Tx) takeBack(table, lineID, id string, at time.Time) error {
	_, err := t.tx.Exec(`UPDATE `+table+` SET undone_at = ? WHERE id = ? AND line_id = ? AND undone_at IS NULL`, at.UTC(), id, lineID)
	if err != nil {
		return fmt.Errorf("take back: %w", err)
	}
	return nil
}
