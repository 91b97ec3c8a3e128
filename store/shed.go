package store

import (
	"database/sql"
	"encoding/json"
	"errors"
	"strings"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/shed"
	"oldburrow/core/tally"

	"github.com/jmoiron/sqlx"
)

// What is nested in a thing of the shed is one JSON column each.
type trapRow struct {
	line.Trap
	SparesJSON string `db:"spares" of:"Spares"`
	UsualWords string `db:"usual"`
}

func trapRowOf(x line.Trap) (trapRow, error) {
	row, err := rowOf[trapRow](x)
	row.UsualWords = strings.Join(x.Usual, " ")
	return row, err
}

func (r trapRow) entity() (line.Trap, error) {
	if r.UsualWords != "" {
		r.Usual = strings.Fields(r.UsualWords)
	}
	return entityOf[trapRow, line.Trap](r)
}

type versionRow struct {
	TrapID  string    `db:"trap_id"`
	Version int       `db:"version"`
	At      time.Time `db:"at"`
	Trap    string    `db:"trap"`
}

func versionRowOf(x shed.TrapVersion) (row versionRow, err error) {
	row = versionRow{TrapID: x.Trap.ID, Version: x.Trap.Version, At: x.At.UTC()}
	return row, asJSON(&row.Trap, x.Trap)
}

func (r versionRow) entity() (shed.TrapVersion, error) {
	v := shed.TrapVersion{At: r.At}
	return v, json.Unmarshal([]byte(r.Trap), &v.Trap)
}

type checkRow struct {
	line.ShedCheck
	ItemsJSON string `db:"items" of:"Items"`
}

type measurementRow struct {
	line.Measurement
	PressesJSON string `db:"presses" of:"Presses"`
}

type recipeRow struct {
	line.Recipe
	MixJSON string `db:"mix" of:"Mix"`
}

// Traps lists the traps of a line that are not deleted, by number.
func (v View) Traps(lineID string) ([]line.Trap, error) {
	return listed(v, "traps", trapRow.entity, `SELECT * FROM traps WHERE line_id = ? AND NOT deleted ORDER BY number`, lineID)
}

// TrapVersions lists what a trap was from when on, in order of time.
func (v View) TrapVersions(trapID string) ([]shed.TrapVersion, error) {
	return listed(v, "trap_versions", versionRow.entity, `SELECT * FROM trap_versions WHERE trap_id = ? ORDER BY at, version`, trapID)
}

// ShedChecks lists the shed checks of a trap in order of time.
func (v View) ShedChecks(trapID string) ([]line.ShedCheck, error) {
	return listed(v, "shed_checks", entityOf[checkRow, line.ShedCheck], `SELECT * FROM shed_checks WHERE trap_id = ? ORDER BY at, id`, trapID)
}

// Measurements lists the measurements of a trap in order of time; those taken back are among them.
func (v View) Measurements(trapID string) ([]line.Measurement, error) {
	return listed(v, "measurements", entityOf[measurementRow, line.Measurement], `SELECT * FROM measurements WHERE trap_id = ? ORDER BY at, id`, trapID)
}

// Stories cuts what happened to the traps of a line at a time, by trap.
func (v View) Stories(lineID string, from time.Time) (map[string]shed.Story, error) {
	traps, err := v.Traps(lineID)
	if err != nil {
		return nil, err
	}
	cards, err := v.Cards(lineID)
	if err != nil {
		return nil, err
	}
	var met []string
	err = sqlx.Select(v.q, &met, `
		SELECT trap_id FROM shed_checks WHERE line_id = ?1 AND at >= ?2 UNION SELECT trap_id FROM measurements WHERE line_id = ?1 AND at >= ?2
		UNION SELECT trap_id FROM trap_versions v JOIN traps t ON t.id = v.trap_id WHERE t.line_id = ?1 AND v.at >= ?2`, lineID, from.UTC())
	if err != nil {
		return nil, err
	}
	since := map[string]bool{}
	for _, id := range met {
		since[id] = true
	}
	found := make(map[string]shed.Story, len(traps))
	for _, trap := range traps {
		if !since[trap.ID] {
			found[trap.ID] = shed.Story{Base: cards[trap.ID], Was: &trap}
			continue
		}
		versions, err := v.TrapVersions(trap.ID)
		if err != nil {
			return nil, err
		}
		checks, err := v.ShedChecks(trap.ID)
		if err != nil {
			return nil, err
		}
		measurements, err := v.Measurements(trap.ID)
		if err != nil {
			return nil, err
		}
		found[trap.ID] = shed.StorySince(from, versions, checks, measurements)
	}
	return found, nil
}

var cards = newDecoded[shed.Card]()

// Cards gives the cards of a line's traps, by trap.
func (v View) Cards(lineID string) (map[string]shed.Card, error) {
	rows, err := all[struct {
		TrapID string `db:"trap_id"`
		Card   string `db:"card"`
	}](v, "traps", `SELECT trap_id, card FROM trap_cards WHERE line_id = ?`, lineID)
	found := make(map[string]shed.Card, len(rows))
	for _, row := range rows {
		c, err := cards.of(row.Card)
		if err != nil {
			return nil, err
		}
		found[row.TrapID] = c
	}
	return found, err
}

// Calibrations lists the calibrations of a line's gauges in order of time.
func (v View) Calibrations(lineID string) ([]line.Calibration, error) {
	return all[line.Calibration](v, "calibrations", `SELECT * FROM calibrations WHERE line_id = ? ORDER BY at, id`, lineID)
}

// Recipes lists the recipes of a line that are not deleted, by name.
func (v View) Recipes(lineID string) ([]line.Recipe, error) {
	return listed(v, "recipes", entityOf[recipeRow, line.Recipe], `SELECT * FROM recipes WHERE line_id = ? AND NOT deleted ORDER BY name, id`, lineID)
}

// KitMarks lists what was said of the things on a line's lists from a day on ("2026-07-01"), and what the user always takes, in
// order of time.
func (v View) KitMarks(lineID, from string) ([]line.KitMark, error) {
	return all[line.KitMark](v, "kit_marks", `
		SELECT * FROM kit_marks WHERE line_id = ?1 AND day >= ?2 UNION SELECT * FROM kit_marks WHERE line_id = ?1 AND mark = 'own'
		ORDER BY at, id`, lineID, from)
}

// PutTrap keeps a new trap, or a change to one, with what it was before. It refuses a number that another trap of the line
// has, and to delete one that stands in a set.
func (t *Tx) PutTrap(x line.Trap, at time.Time) (line.Trap, error) {
	var n int
	if err := t.tx.Get(&n, `SELECT count(*) FROM traps WHERE line_id = ? AND number = ? AND id <> ? AND NOT deleted`, x.LineID, x.Number, x.ID); err != nil {
		return x, err
	}
	if err := x.MayHaveNumber(n); err != nil {
		return x, err
	}
	if x.Deleted {
		if err := t.notStanding(x); err != nil {
			return x, err
		}
	}
	row, err := trapRowOf(x)
	if err == nil {
		err = editNested(t, "traps", x.LineID, x.ID, &row, trapRow.entity, func(r *trapRow) *int { return &r.Version })
	}
	if err != nil {
		return x, err
	}
	version, err := versionRowOf(shed.TrapVersion{At: at, Trap: row.Trap})
	if err == nil {
		err = insert(t, "trap_versions", version)
	}
	if err != nil {
		return x, err
	}
	return row.Trap, t.card(x.LineID, x.ID)
}

// notStanding refuses a trap that stands in a set.
func (t *Tx) notStanding(x line.Trap) error {
	noted, err := t.NotedOfTrap(x.LineID, x.ID)
	if err != nil {
		return err
	}
	r := line.NewRecord(t.now, time.UTC, tally.Span{}, noted)
	return r.MayDelete(x)
}

// actNested is act for a row with something nested in it.
func actNested[R, T any](t *Tx, table, lineID, id string, row R, entity func(R) (T, error), said func(*R)) (T, error) {
	if err := act(t, table, lineID, id, &row, said); err != nil {
		var none T
		return none, err
	}
	return entity(row)
}

// PutShedCheck records an inspection.
func (t *Tx) PutShedCheck(x line.ShedCheck) (line.ShedCheck, error) {
	if err := t.belongs("traps", "trapId", x.TrapID, x.LineID); err != nil {
		return x, err
	}
	x.At, x.Who = x.At.UTC(), t.by.Who
	row, err := rowOf[checkRow](x)
	if err != nil {
		return x, err
	}
	kept, err := actNested(t, "shed_checks", x.LineID, x.ID, row, entityOf[checkRow, line.ShedCheck], func(r *checkRow) { r.Items = nil })
	if err != nil {
		return kept, err
	}
	if err := t.card(x.LineID, x.TrapID); err != nil {
		return kept, err
	}
	return kept, t.begins(x.LineID, x.At)
}

// PutMeasurement records a measurement.
func (t *Tx) PutMeasurement(x line.Measurement) (line.Measurement, error) {
	if err := t.belongs("traps", "trapId", x.TrapID, x.LineID); err != nil {
		return x, err
	}
	x.At, x.Who = x.At.UTC(), t.by.Who
	row, err := rowOf[measurementRow](x)
	if err != nil {
		return x, err
	}
	kept, err := actNested(t, "measurements", x.LineID, x.ID, row, entityOf[measurementRow, line.Measurement], func(r *measurementRow) { r.Presses, r.UndoneAt = nil, nil })
	if err != nil {
		return kept, err
	}
	if err := t.card(x.LineID, x.TrapID); err != nil {
		return kept, err
	}
	return kept, t.begins(x.LineID, x.At)
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
	if err := t.card(lineID, row.TrapID); err != nil {
		return line.Measurement{}, err
	}
	return entityOf[measurementRow, line.Measurement](row)
}

// PutCalibration records a calibration.
func (t *Tx) PutCalibration(x line.Calibration) (line.Calibration, error) {
	x.At = x.At.UTC()
	err := act(t, "calibrations", x.LineID, x.ID, &x, asIs)
	return x, err
}

// PutLure keeps a new lure, or a change to one. One that still has bottles cannot be deleted.
func (t *Tx) PutLure(x line.Lure) (line.Lure, error) {
	if x.Deleted {
		bottles, err := t.users("bottles", "lure_id", x.ID)
		if err == nil {
			err = x.MayDelete(bottles)
		}
		if err != nil {
			return x, err
		}
	}
	if err := edit(t, "lures", x.LineID, x.ID, &x, func(l *line.Lure) *int { return &l.Version }); err != nil {
		return x, err
	}
	t.pours(x.LineID, x.ID)
	return x, nil
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
	var before string // the lure that it was a bottle of
	if err := t.tx.Get(&before, `SELECT lure_id FROM bottles WHERE id = ?`, x.ID); err != nil && !errors.Is(err, sql.ErrNoRows) {
		return x, err
	}
	if err := edit(t, "bottles", x.LineID, x.ID, &x, func(b *line.Bottle) *int { return &b.Version }); err != nil {
		return x, err
	}
	if before != "" {
		t.pours(x.LineID, before)
	}
	t.pours(x.LineID, x.LureID)
	return x, nil
}

// PutLevel records what was seen to be left in a bottle.
func (t *Tx) PutLevel(x line.Level) (line.Level, error) {
	if err := t.belongs("bottles", "bottleId", x.BottleID, x.LineID); err != nil {
		return x, err
	}
	x.At, x.Who = x.At.UTC(), t.by.Who
	if err := act(t, "levels", x.LineID, x.ID, &x, asIs); err != nil {
		return x, err
	}
	var lure string
	if err := t.tx.Get(&lure, `SELECT lure_id FROM bottles WHERE id = ?`, x.BottleID); err != nil {
		return x, err
	}
	t.pours(x.LineID, lure)
	return x, nil
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
	x.At, x.Who = x.At.UTC(), t.by.Who
	if err := act(t, "doses", x.LineID, x.ID, &x, func(d *line.Dose) { d.UndoneAt = nil }); err != nil {
		return x, err
	}
	t.pours(x.LineID, x.LureID)
	return x, t.begins(x.LineID, x.At)
}

// UndoDose takes a dose back.
func (t *Tx) UndoDose(lineID, id string, at time.Time) (line.Dose, error) {
	var found line.Dose
	if err := t.takeBack("doses", lineID, id, at); err != nil {
		return found, err
	}
	err := one(t.tx, &found, `SELECT * FROM doses WHERE id = ? AND line_id = ?`, id, lineID)
	t.pours(lineID, found.LureID)
	return found, err
}

// PutRecipe keeps a new recipe, or a change to one.
func (t *Tx) PutRecipe(x line.Recipe) (line.Recipe, error) {
	row, err := rowOf[recipeRow](x)
	if err == nil {
		err = editNested(t, "recipes", x.LineID, x.ID, &row, entityOf[recipeRow, line.Recipe], func(r *recipeRow) *int { return &r.Version })
	}
	return row.Recipe, err
}

// PutKitMark records what was said of a thing on a list.
func (t *Tx) PutKitMark(x line.KitMark) (line.KitMark, error) {
	x.At = x.At.UTC()
	err := act(t, "kit_marks", x.LineID, x.ID, &x, asIs)
	return x, err
}
