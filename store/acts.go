package store

import (
	"fmt"
	"strings"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/round"
)

// Acts is one kind of act: something that was done at a time. Whatever goes over acts goes by these rows: the list of a day, taking back, the
// season that an act begins, and what keeps a season from being deleted.
type Acts struct {
	Kind line.ActKind // blank where the list of a day does not tell it
	Path string       // under which it is put; its table
	at   string       // the column of its time
	// gone tells in SQL that it was taken back; blank where it cannot be.
	gone string
	// tells is what the list of a day selects of it, a. beside kind, id and time: whether its time is known, its set, trap, lure and spot, and in a
	// word what it was; and with what the table is joined for that.
	tells, joins string
	back
}

const undone = "a.undone_at IS NOT NULL"

// acts are all of them.
var acts = []Acts{
	{line.ActLook, "visits", "at", undone, `coalesce(a.timed, TRUE), m.set_id, '', '', '', a.finding`, `JOIN makes m ON m.id = a.make_id`, taking((*Tx).UndoVisit)},
	{line.ActMake, "makes", "built_at", undone, `TRUE, a.set_id, '', '', '', a.target`, "", taking((*Tx).UndoMake)},
	{line.ActPull, "pulls", "at", undone, `TRUE, m.set_id, '', '', '', CASE WHEN a.later THEN '` + line.LaterPull + `' ELSE '' END`, `JOIN makes m ON m.id = a.make_id`, taking((*Tx).UndoPull)},
	{line.ActDose, "doses", "at", undone, `TRUE, '', '', a.lure_id, coalesce(a.spot_id, ''), CAST(a.count AS TEXT)`, "", taking((*Tx).UndoDose)},
	{line.ActMeasurement, "measurements", "at", undone, `TRUE, '', a.trap_id, '', '', ''`, "", taking((*Tx).UndoMeasurement)},
	{line.ActSign, "signs", "seen_at", "a.deleted", `TRUE, '', '', '', coalesce(a.spot_id, ''), a.what || ' ' || a.animal`, "", taking((*Tx).UndoSign)},
	{"", "shed_checks", "at", "", "", "", back{}},
}

// back is how an act is taken back, and what it is then answered with.
type back struct {
	undo   func(t *Tx, lineID, id string, at time.Time) (any, error)
	record any
}

func taking[T any](undo func(t *Tx, lineID, id string, at time.Time) (T, error)) back {
	var record T
	return back{func(t *Tx, lineID, id string, at time.Time) (any, error) { return undo(t, lineID, id, at) }, record}
}

// Undoable are the acts that can be taken back.
func Undoable() (found []Acts) {
	for _, a := range acts {
		if a.undo != nil {
			found = append(found, a)
		}
	}
	return found
}

// Undo takes an act of a line back, and gives it as it stands.
func (a Acts) Undo(t *Tx, lineID, id string, at time.Time) (any, error) {
	if err := a.mayUndo(t, lineID, id); err != nil {
		return nil, err
	}
	return a.undo(t, lineID, id, at)
}

// mayUndo refuses who may change only what is his: what another did, and what he did himself on another day of the line than this one.
func (a Acts) mayUndo(t *Tx, lineID, id string) error {
	if !t.by.OwnOnly {
		return nil
	}
	var done struct {
		Who string    `db:"who"`
		At  time.Time `db:"at"`
	}
	if err := one(t.tx, &done, `SELECT who, `+a.at+` AS at FROM `+a.Path+` WHERE id = ? AND line_id = ?`, id, lineID); err != nil {
		return err
	}
	l, err := t.Line(lineID)
	if err != nil {
		return err
	}
	zone, err := round.Zone(l.Zone)
	if err != nil {
		return err
	}
	if !t.by.may(done.Who) || done.At.In(zone).Format(time.DateOnly) != t.now.In(zone).Format(time.DateOnly) {
		return ErrNotYours
	}
	return nil
}

// Record is an act of the kind that says nothing: what taking it back is answered with is like it.
func (a Acts) Record() any { return a.record }

// stands is the condition that an act was not taken back.
func (a Acts) stands() string {
	if a.gone == "" {
		return "TRUE"
	}
	return "NOT (" + a.gone + ")"
}

// between selects something of the acts of line ?1 from ?2 until ?3.
func (a Acts) between(selects string) string {
	return fmt.Sprintf(`SELECT %s FROM %s a %s WHERE a.line_id = ?1 AND a.%[4]s >= ?2 AND a.%[4]s < ?3`, selects, a.Path, a.joins, a.at)
}

// told is what the list of a day says.
var told = func() string {
	var parts []string
	for _, a := range acts {
		if a.Kind != "" {
			parts = append(parts, a.between(fmt.Sprintf(`'%s', a.id, a.%s, %s, a.who, %s`, a.Kind, a.at, a.tells, a.gone)))
		}
	}
	return `WITH acts (kind, id, at, timed, set_id, trap_id, lure_id, spot_id, what, who, undone) AS (` + strings.Join(parts, " UNION ALL ") + `) SELECT * FROM acts ORDER BY at, id`
}()

// Acts lists what was done on a line from a time until another, in order; what was taken back is among them.
func (v View) Acts(lineID string, from, until time.Time) ([]line.Act, error) {
	return all[line.Act](v, "visits", told, lineID, from.UTC(), until.UTC())
}

// actsIn counts what was done on a line in a span and was not taken back.
func (v View) actsIn(lineID string, from, until any) (n int, err error) {
	var parts []string
	for _, a := range acts {
		parts = append(parts, "("+a.between("count(*)")+" AND "+a.stands()+")")
	}
	err = one(v.q, &n, `SELECT `+strings.Join(parts, " + "), lineID, from, until)
	return n, err
}

// timesOf are the times of the acts of a line whose rows alone say whether they count.
func (t *Tx) timesOf(lineID string) (times []time.Time, err error) {
	for _, a := range acts {
		if a.inRecord() {
			continue
		}
		var texts []string
		if err := t.tx.Select(&texts, `SELECT CAST(a.`+a.at+` AS TEXT) FROM `+a.Path+` a WHERE a.line_id = ? AND `+a.stands(), lineID); err != nil {
			return nil, err
		}
		for _, text := range texts {
			if at, err := timeIn(text); err == nil {
				times = append(times, at)
			}
		}
	}
	return times, nil
}

// inRecord tells whether an act is part of line.Record, which says whether it counts.
func (a Acts) inRecord() bool {
	return a.Kind == line.ActLook || a.Kind == line.ActMake || a.Kind == line.ActPull
}
