package store

import (
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"oldburrow/core/line"
)

// Visits lists the visits of a line in order, with their catches; those taken back are among them.
func (s *Store) Visits(lineID string) ([]line.Visit, error) {
	found := []line.Visit{}
	if err := s.db.Select(&found, `SELECT * FROM visits WHERE line_id = ? ORDER BY at, id`, lineID); err != nil {
		return nil, err
	}
	var catches []line.Catch
	err := s.db.Select(&catches, `SELECT c.* FROM catches c JOIN visits v ON v.id = c.visit_id WHERE v.line_id = ? ORDER BY c.id`, lineID)
	if err != nil {
		return nil, err
	}
	of := map[string][]line.Catch{}
	for _, c := range catches {
		of[c.VisitID] = append(of[c.VisitID], c)
	}
	for i := range found {
		found[i].Catches = append([]line.Catch{}, of[found[i].ID]...)
	}
	return found, nil
}

// PutVisit records a visit and its catches. A visit that is already recorded stays as it is.
func (t *Tx) PutVisit(x line.Visit) (line.Visit, error) {
	before, err := visit(t.tx, x.ID)
	if err == nil || !errors.Is(err, ErrUnknown) {
		return before, err
	}
	if err := t.belongs("makes", "makeId", x.MakeID, x.LineID); err != nil {
		return x, err
	}
	x.At = x.At.UTC()
	if err := upsert(t, "visits", x); err != nil {
		return x, err
	}
	for i := range x.Catches {
		x.Catches[i].VisitID = x.ID
		if err := upsert(t, "catches", x.Catches[i]); err != nil {
			return x, err
		}
	}
	return x, nil
}

// UndoVisit takes a visit back; it stays in the record as taken back.
func (t *Tx) UndoVisit(lineID, id string, at time.Time) (line.Visit, error) {
	if _, err := t.tx.Exec(`UPDATE visits SET undone_at = ? WHERE id = ? AND line_id = ? AND undone_at IS NULL`, at.UTC(), id, lineID); err != nil {
		return line.Visit{}, fmt.Errorf("take back: %w", err)
	}
	found, err := visit(t.tx, id)
	if err == nil && found.LineID != lineID {
		err = ErrUnknown
	}
	return found, err
}

func visit(q sqlx.Queryer, id string) (line.Visit, error) {
	var found line.Visit
	if err := one(q, &found, `SELECT * FROM visits WHERE id = ?`, id); err != nil {
		return found, err
	}
	found.Catches = []line.Catch{}
	return found, sqlx.Select(q, &found.Catches, `SELECT * FROM catches WHERE visit_id = ? ORDER BY id`, id)
}
