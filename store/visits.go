package store

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"oldburrow/core/line"
)

// Visit finds a visit of a line.
func (v View) Visit(lineID, id string) (line.Visit, error) {
	var found line.Visit
	if err := one(v.q, &found, `SELECT * FROM visits WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return found, err
	}
	found.Catches = []line.Catch{}
	return found, sqlx.Select(v.q, &found.Catches, `SELECT * FROM catches WHERE visit_id = ? ORDER BY id`, id)
}

// PutVisit records a visit and its catches. Said again just so it stays as it is.
func (t *Tx) PutVisit(x line.Visit) (line.Visit, error) {
	x.At = x.At.UTC()
	x.Catches = append([]line.Catch{}, x.Catches...)
	for i := range x.Catches {
		x.Catches[i].VisitID = x.ID
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
	if err := insert(t, "visits", x); err != nil {
		return x, err
	}
	for _, c := range x.Catches {
		if err := insert(t, "catches", c); err != nil {
			return x, err
		}
	}
	return x, t.begins(x.LineID, x.At)
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
