package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/tally"
)

// What a look found beside its main finding, how it found each rig, and which rigs hold an animal, is one JSON column each.
type visitRow struct {
	line.Visit
	AlsoJSON string `db:"also" of:"Also"`
	RigsJSON string `db:"rigs" of:"Rigs"`
	SeenJSON string `db:"seen" of:"Seen"`
}

func (r visitRow) entity() (line.Visit, error) {
	r.Visit = r.Visit.WithLists()
	err := errors.Join(nested(r.AlsoJSON, &r.Visit.Also), nested(r.RigsJSON, &r.Visit.Rigs))
	if r.SeenJSON != nothingSeen {
		err = errors.Join(err, nested(r.SeenJSON, &r.Visit.Seen))
	}
	return r.Visit, err
}

// nothingSeen is how it is written that nothing more was noticed: most looks say so, and thousands of them are read at once.
var nothingSeen = func() (raw string) {
	if err := asJSON(&raw, line.Visit{}.WithLists().Seen); err != nil {
		panic(err)
	}
	return raw
}()

type catchRow struct {
	line.Catch
	RigsJSON      string `db:"rigs" of:"Rigs"`
	ConditionJSON string `db:"condition" of:"More"`
}

func (r catchRow) entity() (line.Catch, error) {
	r.Were = []line.Condition{} // where nothing is said of how it was
	return entityOf[catchRow, line.Catch](r)
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
	x.At, x.MendedAt, x.Who = x.At.UTC(), nil, t.by.Who
	x = x.WithLists()
	switch before, err := t.Visit(x.LineID, x.ID); {
	case err == nil && same(before, x, saidVisit):
		return before, nil
	case err == nil:
		return x, Taken{things["visits"]}
	case !errors.Is(err, ErrUnknown):
		return x, err
	}
	made, err := t.makeOf(x)
	if err != nil {
		return x, err
	}
	x.Flags = line.Flags(x.Flags, x.StrangeTraps(made))
	if err := t.hasPhoto(x); err != nil {
		return x, err
	}
	row, err := rowOf[visitRow](x)
	if err != nil {
		return x, err
	}
	if err := insert(t, "visits", row); err != nil {
		return x, err
	}
	if err := t.putCatches(x); err != nil {
		return x, err
	}
	return x, t.lookBegins(x)
}

// makeOf is the make that a look names.
func (t *Tx) makeOf(x line.Visit) (line.Make, error) {
	var row makeRow
	switch err := t.find("makes", x.LineID, x.MakeID, &row); {
	case errors.Is(err, ErrUnknown):
		return line.Make{}, t.belongs("makes", "makeId", x.MakeID, x.LineID)
	case err != nil:
		return line.Make{}, err
	}
	return entityOf[makeRow, line.Make](row)
}

// lookBegins opens the season that a look is the first act of, where it counts.
func (t *Tx) lookBegins(x line.Visit) error {
	if _, opens, err := t.opens(x.LineID, x.At); err != nil || !opens {
		return err
	}
	noted, err := t.notedAt(x.LineID, `SELECT set_id FROM makes WHERE id = ?`, x.MakeID)
	if err != nil {
		return err
	}
	now := t.now
	if x.At.After(now) {
		now = x.At // what lies ahead counts when that time has come
	}
	counts := line.NewRecord(now, time.UTC, tally.Span{}, noted).Looks(x.MakeID)
	if !slices.ContainsFunc(counts, func(v line.Visit) bool { return v.ID == x.ID }) {
		return nil
	}
	return t.begins(x.LineID, x.At)
}

func (t *Tx) putCatches(x line.Visit) error {
	for _, c := range x.Catches {
		row, err := rowOf[catchRow](c)
		if err != nil {
			return err
		}
		if err := insert(t, "catches", row); err != nil {
			return err
		}
	}
	return nil
}

func (t *Tx) hasPhoto(x line.Visit) error {
	if x.PhotoID == nil {
		return nil
	}
	return t.belongs("photos", "photoId", *x.PhotoID, x.LineID)
}

type mendRow struct {
	line.Mend
	VisitJSON  string `db:"visit" of:"Visit"`
	BeforeJSON string `db:"before" of:"Before"`
}

// Mends lists how a look was put right, in the order in which that was done.
func (v View) Mends(lineID, visitID string) ([]line.Mend, error) {
	return listed(v, "mends", entityOf[mendRow, line.Mend], `SELECT * FROM mends WHERE visit_id = ? AND line_id = ? ORDER BY at, id`, visitID, lineID)
}

// PutMend puts a look right, and keeps what stood before. Said again just so it stays as it is.
func (t *Tx) PutMend(x line.Mend) (line.Mend, error) {
	x.At, x.Who = x.At.UTC(), t.by.Who
	before, err := t.Visit(x.LineID, x.VisitID)
	if err != nil {
		return x, err
	}
	var stands mendRow
	switch err := t.find("mends", x.LineID, x.ID, &stands); {
	case err == nil:
		done, err := entityOf[mendRow, line.Mend](stands)
		if err == nil && !same(done, x, saidMend) {
			err = Taken{things["mends"]}
		}
		return done, err
	case !errors.Is(err, ErrUnknown):
		return x, err
	}
	now := x.Over(before)
	if err := t.hasPhoto(now); err != nil {
		return x, err
	}
	x.Before = &before
	row, err := rowOf[mendRow](x)
	if err != nil {
		return x, err
	}
	if err := insert(t, "mends", row); err != nil {
		return x, err
	}
	stood, err := rowOf[visitRow](now)
	if err != nil {
		return x, err
	}
	if err := update(t, "visits", stood); err != nil {
		return x, err
	}
	if _, err := t.tx.Exec(`DELETE FROM catches WHERE visit_id = ?`, now.ID); err != nil {
		return x, err
	}
	if err := t.putCatches(now); err != nil {
		return x, err
	}
	return x, t.lookBegins(now)
}

func saidMend(x *line.Mend) {
	x.Before = nil
	x.Visit = x.Visit.WithLists()
}

func asJSON(into *string, x any) error {
	raw, err := json.Marshal(x)
	*into = string(raw)
	return err
}

func saidVisit(x *line.Visit) { x.Flags, x.ReceivedAt, x.UndoneAt, x.MendedAt = "", nil, nil, nil }

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
