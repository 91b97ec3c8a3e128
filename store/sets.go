package store

import (
	"cmp"
	"database/sql"
	"errors"
	"fmt"
	"slices"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
)

// The layout of a design or a make is one JSON column.
type designRow struct {
	line.Design
	LayoutJSON string `db:"layout" of:"Layout"`
}

type makeRow struct {
	line.Make
	LayoutJSON string     `db:"layout" of:"Layout"`
	BuiltJSON  string     `db:"as_built" of:"AsBuilt"`
	EndedAt    *time.Time `db:"ended_at"` // by all that is noted, also of what lies ahead
}

// Design finds a design of a line.
func (v View) Design(lineID, id string) (line.Design, error) {
	var row designRow
	if err := one(v.q, &row, `SELECT * FROM designs WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return line.Design{}, err
	}
	return entityOf[designRow, line.Design](row)
}

// Designs lists the designs of a line that are not built yet, and those of some sets, in the order they were begun.
func (v View) Designs(lineID string, sets []line.Set) ([]line.Design, error) {
	rows, err := all[designRow](v, "designs", `SELECT * FROM designs WHERE line_id = ? AND set_id IS NULL`, lineID)
	if err != nil {
		return nil, err
	}
	ids := make([]string, len(sets))
	for i, set := range sets {
		ids[i] = set.ID
	}
	built, err := among[designRow](v, "designs", `SELECT * FROM designs WHERE set_id IN (?) AND line_id = ?`, ids, lineID)
	if err != nil {
		return nil, err
	}
	rows = append(rows, built...)
	slices.SortFunc(rows, func(a, b designRow) int { return cmp.Compare(a.ID, b.ID) })
	return entities(v, "designs", entityOf[designRow, line.Design], rows), nil
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
	row, err := rowOf[designRow](x)
	if err == nil {
		err = editNested(t, "designs", x.LineID, x.ID, &row, entityOf[designRow, line.Design], func(r *designRow) *int { return &r.Version })
	}
	return row.Design, err
}

type patternRow struct {
	line.Pattern
	LayoutJSON string `db:"layout" of:"Layout"`
}

// Patterns lists the user's own patterns of a line that are not deleted, by name.
func (v View) Patterns(lineID string) ([]line.Pattern, error) {
	return listed(v, "patterns", entityOf[patternRow, line.Pattern], `SELECT * FROM patterns WHERE line_id = ? AND NOT deleted ORDER BY name, id`, lineID)
}

// Pattern finds one of them.
func (v View) Pattern(lineID, id string) (line.Pattern, error) {
	var row patternRow
	if err := one(v.q, &row, `SELECT * FROM patterns WHERE id = ? AND line_id = ? AND NOT deleted`, id, lineID); err != nil {
		return line.Pattern{}, err
	}
	return entityOf[patternRow, line.Pattern](row)
}

// PutPattern keeps a new pattern of the user's own, or a change to one.
func (t *Tx) PutPattern(x line.Pattern) (line.Pattern, error) {
	row, err := rowOf[patternRow](x)
	if err == nil {
		err = editNested(t, "patterns", x.LineID, x.ID, &row, entityOf[patternRow, line.Pattern], func(r *patternRow) *int { return &r.Version })
	}
	return row.Pattern, err
}

// PutMake records a make, and its set when it is the first there. Said again just so it stays as it is.
func (t *Tx) PutMake(x line.Make) (line.Make, error) {
	x.BuiltAt, x.Follows, x.PulledAt, x.UndoneAt, x.Who = x.BuiltAt.UTC(), nil, nil, nil, t.by.Who
	x = x.Stands()
	row, err := rowOf[makeRow](x)
	if err != nil {
		return x, err
	}
	var stands makeRow
	switch err := t.find("makes", x.LineID, x.ID, &stands); {
	case err == nil:
		before, err := entityOf[makeRow, line.Make](stands)
		if err != nil || same(before, x, saidMake) {
			return before, err
		}
		if became, is := before.Became(x); is {
			return t.rebuilt(before, became)
		}
		return before, Taken{things["makes"]}
	case !errors.Is(err, ErrUnknown):
		return x, fmt.Errorf("look for the make: %w", err)
	}
	if err := t.belongs("designs", "designId", x.DesignID, x.LineID); err != nil {
		return x, err
	}
	if err := t.hasPicture(x); err != nil {
		return x, err
	}
	if err := t.ensureSet(x); err != nil {
		return x, err
	}
	if err := insert(t, "makes", row); err != nil {
		return x, err
	}
	if _, err := t.tx.Exec(`UPDATE designs SET set_id = ? WHERE id = ? AND line_id = ? AND set_id IS NULL`, x.SetID, x.DesignID, x.LineID); err != nil {
		return x, err
	}
	return x, t.made(x)
}

// rebuilt keeps how a make was built. It refuses one that was looked at since: what it was then is told of its nights.
func (t *Tx) rebuilt(before, x line.Make) (line.Make, error) {
	if same(before, x, saidMake) {
		return before, nil
	}
	if before.UndoneAt != nil {
		return before, refuse.Field("asBuilt", "cannot be said of what was taken back")
	}
	var looks int
	if err := t.tx.Get(&looks, `SELECT count(*) FROM visits WHERE make_id = ? AND undone_at IS NULL`, x.ID); err != nil {
		return before, fmt.Errorf("look for what was found at the make: %w", err)
	}
	if looks > 0 {
		return before, refuse.Field("asBuilt", "can be said until it is looked at: this set was")
	}
	return x, t.stands(x)
}

// stands keeps how a make stands now, and what follows from it.
func (t *Tx) stands(x line.Make) error {
	if err := t.hasPicture(x); err != nil {
		return err
	}
	row, err := rowOf[makeRow](x)
	if err != nil {
		return err
	}
	if _, err := t.tx.Exec(`UPDATE makes SET layout = ?, as_built = ?, flags = ? WHERE id = ?`, row.LayoutJSON, row.BuiltJSON, x.Flags, x.ID); err != nil {
		return fmt.Errorf("keep how it was built: %w", err)
	}
	if err := t.poursAt(x.LineID, x.SetID); err != nil {
		return err
	}
	if err := t.unindex(x.ID); err != nil {
		return err
	}
	return t.made(x)
}

type correctionRow struct {
	line.Correction
	MakeJSON   string `db:"make" of:"Make"`
	BeforeJSON string `db:"before" of:"Before"`
}

// Corrections lists how a make was put right, in the order in which that was done.
func (v View) Corrections(lineID, makeID string) ([]line.Correction, error) {
	return listed(v, "corrections", entityOf[correctionRow, line.Correction], `SELECT * FROM corrections WHERE make_id = ? AND line_id = ? ORDER BY at, id`, makeID, lineID)
}

// PutCorrection puts right how a make stood, and keeps what was said before. Said again just so it stays as it is.
func (t *Tx) PutCorrection(x line.Correction) (line.Correction, error) {
	x.At, x.Who = x.At.UTC(), t.by.Who
	var made makeRow
	switch err := t.find("makes", x.LineID, x.MakeID, &made); {
	case errors.Is(err, ErrUnknown):
		return x, t.belongs("makes", "makeId", x.MakeID, x.LineID)
	case err != nil:
		return x, err
	}
	before, err := entityOf[makeRow, line.Make](made)
	if err != nil {
		return x, err
	}
	var stands correctionRow
	switch err := t.find("corrections", x.LineID, x.ID, &stands); {
	case err == nil:
		done, err := entityOf[correctionRow, line.Correction](stands)
		if err == nil && !same(done, x, saidCorrection) {
			err = Taken{things["corrections"]}
		}
		return done, err
	case !errors.Is(err, ErrUnknown):
		return x, err
	}
	if before.UndoneAt != nil {
		return x, refuse.Field("makeId", "was taken back: nothing stood")
	}
	now, is := x.Over(before)
	if !is {
		return x, refuse.Field("make", "speaks of another make, or does not say how it was built")
	}
	x.Before = &before
	row, err := rowOf[correctionRow](x)
	if err != nil {
		return x, err
	}
	if err := insert(t, "corrections", row); err != nil {
		return x, err
	}
	return x, t.stands(now)
}

func saidCorrection(x *line.Correction) {
	x.Before = nil
	saidMake(&x.Make)
}

// hasPicture refuses a picture of a make that is not the line's.
func (t *Tx) hasPicture(x line.Make) error {
	if x.AsBuilt == nil || x.AsBuilt.PhotoID == nil {
		return nil
	}
	return t.belongs("photos", "asBuilt.photoId", *x.AsBuilt.PhotoID, x.LineID)
}

// made makes out what follows from a new make.
func (t *Tx) made(x line.Make) error {
	if err := t.end(x.SetID); err != nil {
		return err
	}
	if err := t.index(x); err != nil {
		return err
	}
	if err := t.poursAt(x.LineID, x.SetID); err != nil {
		return err
	}
	return t.begins(x.LineID, x.BuiltAt)
}

func saidMake(x *line.Make) { x.Step, x.Fire, x.Flags, x.UndoneAt = nil, nil, "", nil }

// ensureSet makes the set of a make when it is not there yet, with the line's next number.
func (t *Tx) ensureSet(x line.Make) error {
	var found line.Set
	switch err := t.find("sets", x.LineID, x.SetID, &found); {
	case err == nil:
		return nil
	case !errors.Is(err, ErrUnknown):
		return fmt.Errorf("look for the set: %w", err)
	}
	var highest int
	if err := t.tx.Get(&highest, `SELECT coalesce(max(number), 0) FROM sets WHERE line_id = ?`, x.LineID); err != nil {
		return fmt.Errorf("number the set: %w", err)
	}
	design, err := t.Design(x.LineID, x.DesignID)
	if err != nil {
		return err
	}
	err = insert(t, "sets", line.Set{ID: x.SetID, LineID: x.LineID, SpotID: design.SpotID, Number: line.NextNumber(highest)})
	if errors.As(err, &Taken{}) {
		return refuse.Field("setId", "%q is not on this line: choose one that is", x.SetID)
	}
	return err
}

// UndoMake takes a make back: what it remade stands on. It refuses one that was looked at, or remade, since.
func (t *Tx) UndoMake(lineID, id string, at time.Time) (line.Make, error) {
	var row makeRow
	if err := one(t.tx, &row, `SELECT * FROM makes WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return line.Make{}, err
	}
	made, err := entityOf[makeRow, line.Make](row)
	if err != nil || made.UndoneAt != nil {
		return made, err
	}
	var looks, later int
	if err := t.tx.Get(&looks, `SELECT count(*) FROM visits WHERE make_id = ? AND undone_at IS NULL`, id); err != nil {
		return made, err
	}
	if err := t.tx.Get(&later, `SELECT count(*) FROM makes WHERE set_id = ? AND built_at > ? AND undone_at IS NULL`, made.SetID, made.BuiltAt); err != nil {
		return made, err
	}
	if err := made.MayUndo(looks, later); err != nil {
		return made, err
	}
	if err := t.takeBack("makes", lineID, id, at); err != nil {
		return made, err
	}
	if err := t.unindex(id); err != nil {
		return made, err
	}
	// A design of which nothing was built is a design again.
	if _, err := t.tx.Exec(`UPDATE designs SET set_id = NULL WHERE id = ? AND NOT EXISTS (SELECT 1 FROM makes WHERE design_id = ? AND undone_at IS NULL)`, made.DesignID, made.DesignID); err != nil {
		return made, err
	}
	at = at.UTC()
	made.UndoneAt = &at
	for _, lure := range made.Layout.ShelfIDs() {
		t.pours(lineID, lure)
	}
	if err := t.end(made.SetID); err != nil {
		return made, err
	}
	return made, t.poursAt(lineID, made.SetID)
}

type pullRow struct {
	line.Pull
	RigsJSON string `db:"rigs" of:"Rigs"`
	DoneJSON string `db:"done" of:"Done"`
}

// PutPull records that what stands at a make's set was pulled, or what became later of what was left there.
func (t *Tx) PutPull(x line.Pull) (line.Pull, error) {
	if err := t.belongs("makes", "makeId", x.MakeID, x.LineID); err != nil {
		return x, err
	}
	x.At, x.Who = x.At.UTC(), t.by.Who
	row, err := rowOf[pullRow](x)
	if err != nil {
		return x, err
	}
	if err := act(t, "pulls", x.LineID, x.ID, &row, func(p *pullRow) { p.UndoneAt = nil }); err != nil {
		return x, err
	}
	if x, err = entityOf[pullRow, line.Pull](row); err != nil || x.Later {
		return x, err
	}
	if err := t.endOf(x.LineID, x.MakeID); err != nil {
		return x, err
	}
	var ended int
	if err := t.tx.Get(&ended, `SELECT count(*) FROM makes WHERE set_id = (SELECT set_id FROM makes WHERE id = ?) AND ended_at = ?`, x.MakeID, x.At); err != nil || ended == 0 {
		return x, err // it pulled nothing: it does not count
	}
	return x, t.begins(x.LineID, x.At)
}

// endOf is end for the set of a make.
func (t *Tx) endOf(lineID, makeID string) error {
	var set string
	if err := t.tx.Get(&set, `SELECT set_id FROM makes WHERE id = ?`, makeID); err != nil {
		return err
	}
	if err := t.end(set); err != nil {
		return err
	}
	return t.poursAt(lineID, set)
}

// poursAt is pours for every lure that a set was ever built with: what a make took of it hangs on what stood there until then.
func (t *Tx) poursAt(lineID, setID string) error {
	var lures []string
	if err := t.tx.Select(&lures, `SELECT DISTINCT x.lure_id FROM makes m JOIN smells x ON x.make_id = m.id WHERE m.set_id = ?`, setID); err != nil {
		return fmt.Errorf("look for the lures of a set: %w", err)
	}
	for _, lure := range lures {
		t.pours(lineID, lure)
	}
	return nil
}

// UndoPull takes a pull back: what it ended stands on.
func (t *Tx) UndoPull(lineID, id string, at time.Time) (line.Pull, error) {
	var row pullRow
	if err := t.takeBack("pulls", lineID, id, at); err != nil {
		return row.Pull, err
	}
	if err := one(t.tx, &row, `SELECT * FROM pulls WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return row.Pull, err
	}
	found, err := entityOf[pullRow, line.Pull](row)
	if err != nil {
		return found, err
	}
	return found, t.endOf(lineID, found.MakeID)
}
