package store

import (
	"encoding/json"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/shed"
)

// What is nested in a thing of the shed is one JSON column each.
type trapRow struct {
	line.Trap
	SparesJSON string `db:"spares"`
}

func (r trapRow) entity() (line.Trap, error) {
	return r.Trap, json.Unmarshal([]byte(r.SparesJSON), &r.Trap.Spares)
}

type versionRow struct {
	At   time.Time `db:"at"`
	Trap string    `db:"trap"`
}

func (r versionRow) entity() (shed.TrapVersion, error) {
	v := shed.TrapVersion{At: r.At}
	return v, json.Unmarshal([]byte(r.Trap), &v.Trap)
}

type checkRow struct {
	line.ShedCheck
	ItemsJSON string `db:"items"`
}

func (r checkRow) entity() (line.ShedCheck, error) {
	return r.ShedCheck, json.Unmarshal([]byte(r.ItemsJSON), &r.ShedCheck.Items)
}

type measurementRow struct {
	line.Measurement
	PressesJSON string `db:"presses"`
}

func (r measurementRow) entity() (line.Measurement, error) {
	return r.Measurement, json.Unmarshal([]byte(r.PressesJSON), &r.Measurement.Presses)
}

type recipeRow struct {
	line.Recipe
	MixJSON string `db:"mix"`
}

func (r recipeRow) entity() (line.Recipe, error) {
	return r.Recipe, json.Unmarshal([]byte(r.MixJSON), &r.Recipe.Mix)
}

// Traps lists the traps of a line that are not deleted, by number.
func (v View) Traps(lineID string) ([]line.Trap, error) {
	return listed(v, "traps", trapRow.entity, `SELECT * FROM traps WHERE line_id = ? AND NOT deleted ORDER BY number`, lineID)
}

// TrapVersions lists what the traps of a line were from when on, in order of time.
func (v View) TrapVersions(lineID string) ([]shed.TrapVersion, error) {
	return listed(v, "trap_versions", versionRow.entity, `
		SELECT v.at, v.trap FROM trap_versions v JOIN traps t ON t.id = v.trap_id WHERE t.line_id = ? ORDER BY v.at, v.version`, lineID)
}

// ShedChecks lists the shed checks of a line's traps in order of time.
func (v View) ShedChecks(lineID string) ([]line.ShedCheck, error) {
	return listed(v, "shed_checks", checkRow.entity, `SELECT * FROM shed_checks WHERE line_id = ? ORDER BY at, id`, lineID)
}

// Measurements lists the measurements of a line's traps in order of time; those taken back are among them.
func (v View) Measurements(lineID string) ([]line.Measurement, error) {
	return listed(v, "measurements", measurementRow.entity, `SELECT * FROM measurements WHERE line_id = ? ORDER BY at, id`, lineID)
}

// Calibrations lists the calibrations of a line's gauges in order of time.
func (v View) Calibrations(lineID string) ([]line.Calibration, error) {
	return all[line.Calibration](v, "calibrations", `SELECT * FROM calibrations WHERE line_id = ? ORDER BY at, id`, lineID)
}

// Lures lists the lures of a line that are not deleted.
func (v View) Lures(lineID string) ([]line.Lure, error) {
	return all[line.Lure](v, "lures", `SELECT * FROM lures WHERE line_id = ? AND NOT deleted ORDER BY id`, lineID)
}

// Bottles lists the bottles of a line that are not deleted.
func (v View) Bottles(lineID string) ([]line.Bottle, error) {
	return all[line.Bottle](v, "bottles", `SELECT * FROM bottles WHERE line_id = ? AND NOT deleted ORDER BY id`, lineID)
}

// Levels lists what was seen to be left in bottles, in order of time.
func (v View) Levels(lineID string) ([]line.Level, error) {
	return all[line.Level](v, "levels", `SELECT * FROM levels WHERE line_id = ? ORDER BY at, id`, lineID)
}

// Doses lists the doses used by hand, in order of time.
func (v View) Doses(lineID string) ([]line.Dose, error) {
	return all[line.Dose](v, "doses", `SELECT * FROM doses WHERE line_id = ? ORDER BY at, id`, lineID)
}

// Recipes lists the recipes of a line that are not deleted, by name.
func (v View) Recipes(lineID string) ([]line.Recipe, error) {
	return listed(v, "recipes", recipeRow.entity, `SELECT * FROM recipes WHERE line_id = ? AND NOT deleted ORDER BY name, id`, lineID)
}

// KitMarks lists what was said of the things on a line's lists, in order of time.
func (v View) KitMarks(lineID string) ([]line.KitMark, error) {
	return all[line.KitMark](v, "kit_marks", `SELECT * FROM kit_marks WHERE line_id = ? ORDER BY at, id`, lineID)
}

// PutTrap keeps a new trap, or a change to one, with what it was before. It refuses a number that another trap of the line
// has, and to delete one that stands in a set.
func (t *Tx) PutTrap(x line.Trap, at time.Time) (line.Trap, error) {
	if x.Spares == nil {
		x.Spares = []string{}
	}
	var n int
	if err := t.tx.Get(&n, `SELECT count(*) FROM traps WHERE line_id = ? AND number = ? AND id <> ? AND NOT deleted`, x.LineID, x.Number, x.ID); err != nil {
		return x, err
	}
	if n > 0 && !x.Deleted {
		return x, refuse.Field("number", "%d is on the rack already: choose another", x.Number)
	}
	if x.Deleted {
		if err := t.notStanding(x); err != nil {
			return x, err
		}
	}
	row := trapRow{Trap: x}
	err := editNested(t, "traps", x.LineID, x.ID, &row, x.Spares, &row.SparesJSON, trapRow.entity, func(r *trapRow) *int { return &r.Version })
	if err != nil {
		return x, err
	}
	x.Version = row.Version
	raw, err := json.Marshal(x)
	if err != nil {
		return x, err
	}
	_, err = t.tx.Exec(`INSERT INTO trap_versions (trap_id, version, at, trap) VALUES (?, ?, ?, ?)`, x.ID, x.Version, at.UTC(), string(raw))
	return x, err
}

// notStanding refuses a trap that stands in a set.
func (t *Tx) notStanding(x line.Trap) error {
	standing, err := t.Standing(x.LineID)
	if err != nil {
		return err
	}
	for _, m := range standing {
		if m.Layout.Trap.ID != x.ID {
			continue
		}
		var number int
		if err := t.tx.Get(&number, `SELECT number FROM sets WHERE id = ?`, m.SetID); err != nil {
			return err
		}
		return refuse.Field("deleted", "cannot be: it stands in set %d; pull that first", number)
	}
	return nil
}

// actNested is act for a row with something nested in it.
func actNested[R, T any](t *Tx, table, lineID, id string, row *R, nested any, into *string, entity func(R) (T, error), said func(*R)) (T, error) {
	raw, err := json.Marshal(nested)
	if err == nil {
		*into = string(raw)
		err = act(t, table, lineID, id, row, said)
	}
	if err != nil {
		var none T
		return none, err
	}
	return entity(*row)
}

// PutShedCheck records an inspection.
func (t *Tx) PutShedCheck(x line.ShedCheck) (line.ShedCheck, error) {
	if err := t.belongs("traps", "trapId", x.TrapID, x.LineID); err != nil {
		return x, err
	}
	x.At = x.At.UTC()
	row := checkRow{ShedCheck: x}
	return actNested(t, "shed_checks", x.LineID, x.ID, &row, x.Items, &row.ItemsJSON, checkRow.entity, func(r *checkRow) { r.Items = nil })
}

// PutMeasurement records a measurement.
func (t *Tx) PutMeasurement(x line.Measurement) (line.Measurement, error) {
	if err := t.belongs("traps", "trapId", x.TrapID, x.LineID); err != nil {
		return x, err
	}
	x.At = x.At.UTC()
	row := measurementRow{Measurement: x}
	return actNested(t, "measurements", x.LineID, x.ID, &row, x.Presses, &row.PressesJSON, measurementRow.entity, func(r *measurementRow) { r.Presses, r.UndoneAt = nil, nil })
}

// UndoMeasurement takes a measurement back; it stays in the record as taken back.
func (t *Tx) UndoMeasurement(lineID, id string, at time.Time) (line.Measurement, error) {
	if err := t.takeBack("measurements", lineID, id, at); err != nil {
		return line.Measurement{}, err
	}
	var row measurementRow
	if err := one(t.tx, &row, `SELECT * FROM measurements WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return line.Measurement{}, err
	}
	return row.entity()
}

// PutCalibration records a calibration.
func (t *Tx) PutCalibration(x line.Calibration) (line.Calibration, error) {
	x.At = x.At.UTC()
	err := act(t, "calibrations", x.LineID, x.ID, &x, asIs)
	return x, err
}

// PutLure keeps a new lure, or a change to one. One that still has bottles cannot be deleted.
func (t *Tx) PutLure(x line.Lure) (line.Lure, error) {
	if err := t.unused(x.Deleted, "bottles", "lure_id", x.ID, "still has bottles: put those away first"); err != nil {
		return x, err
	}
	err := edit(t, "lures", x.LineID, x.ID, &x, func(l *line.Lure) *int { return &l.Version })
	return x, err
}

// PutBottle keeps a new bottle, or a change to one.
func (t *Tx) PutBottle(x line.Bottle) (line.Bottle, error) {
	if err := t.belongs("lures", "lureId", x.LureID, x.LineID); err != nil {
		return x, err
	}
	if x.OpenedAt != nil {
		opened := x.OpenedAt.UTC()
		x.OpenedAt = &opened
	}
	err := edit(t, "bottles", x.LineID, x.ID, &x, func(b *line.Bottle) *int { return &b.Version })
	return x, err
}

// PutLevel records what was seen to be left in a bottle.
func (t *Tx) PutLevel(x line.Level) (line.Level, error) {
	if err := t.belongs("bottles", "bottleId", x.BottleID, x.LineID); err != nil {
		return x, err
	}
	x.At = x.At.UTC()
	err := act(t, "levels", x.LineID, x.ID, &x, asIs)
	return x, err
}

// PutDose records doses used by hand.
func (t *Tx) PutDose(x line.Dose) (line.Dose, error) {
	if err := t.belongs("lures", "lureId", x.LureID, x.LineID); err != nil {
		return x, err
	}
	if x.SpotID != nil {
		if err := t.belongs("spots", "spotId", *x.SpotID, x.LineID); err != nil {
			return x, err
		}
	}
	x.At = x.At.UTC()
	err := act(t, "doses", x.LineID, x.ID, &x, asIs)
	return x, err
}

// PutRecipe keeps a new recipe, or a change to one.
func (t *Tx) PutRecipe(x line.Recipe) (line.Recipe, error) {
	row := recipeRow{Recipe: x}
	err := editNested(t, "recipes", x.LineID, x.ID, &row, x.Mix, &row.MixJSON, recipeRow.entity, func(r *recipeRow) *int { return &r.Version })
	x.Version = row.Version
	return x, err
}

// PutKitMark records what was said of a thing on a list.
func (t *Tx) PutKitMark(x line.KitMark) (line.KitMark, error) {
	x.At = x.At.UTC()
	err := act(t, "kit_marks", x.LineID, x.ID, &x, asIs)
	return x, err
}
