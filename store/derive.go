package store

import (
	"cmp"
	"crypto/sha256"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"

	"oldburrow/core/line"
	"oldburrow/core/round"
	"oldburrow/core/schools"
	"oldburrow/core/shed"
	"oldburrow/core/tally"
)

// derivation counts the ways in which what is made out of the record was made out; a file of another one has it made out anew.
const derivation = "3"

// madeOutBy says by what a file's record was made out: the way, and what the lines' trappers go by, since how much is poured hangs on that.
func madeOutBy() (string, error) {
	raw, err := json.Marshal(goesBy())
	return fmt.Sprintf("%s %x", derivation, sha256.Sum256(raw)), err
}

// goesBy is what a line's trapper goes by.
func goesBy() schools.Schools { return schools.Usual() }

// derive makes out of the record what lets things be found without reading all of it, where that was not done yet.
func (s *Store) derive() error {
	by, err := madeOutBy()
	if err != nil {
		return err
	}
	done, err := s.Fact("derivation")
	if err != nil || done == by {
		return err
	}
	err = s.Keep(func(t *Tx) error {
		// The record's own clock, not this machine's: what lies ahead of the last write lay ahead then.
		var last time.Time
		if err := t.tx.Get(&last, `SELECT done_at FROM mutations ORDER BY done_at DESC LIMIT 1`); err == nil {
			t.now = last
		} else if !errors.Is(err, sql.ErrNoRows) {
			return err
		}
		lines, err := t.Lines()
		if err != nil {
			return err
		}
		for _, l := range lines {
			if err := t.deriveLine(l); err != nil {
				return fmt.Errorf("line %s: %w", l.Name, err)
			}
		}
		return nil
	})
	if err != nil {
		return err
	}
	return s.SetFact("derivation", by)
}

func (t *Tx) deriveLine(l line.Line) error {
	noted, err := t.notedAt(l.ID, `SELECT id FROM sets WHERE line_id = ?`, l.ID)
	if err != nil {
		return err
	}
	if err := t.deriveSets(l.ID); err != nil {
		return err
	}
	var acts []time.Time
	counts := line.NewRecord(t.now, time.UTC, tally.Span{}, noted)
	for _, m := range counts.Makes {
		acts = append(acts, m.BuiltAt)
		if m.PulledAt != nil {
			acts = append(acts, *m.PulledAt)
		}
	}
	for _, x := range counts.Visits {
		acts = append(acts, x.At)
	}
	times, err := t.timesOf(l.ID)
	if err != nil {
		return err
	}
	acts = append(acts, times...)
	slices.SortFunc(acts, time.Time.Compare)
	for _, at := range acts {
		if err := t.begins(l.ID, at); err != nil {
			return err
		}
	}
	return t.deriveShed(l.ID)
}

// deriveSets notes when the makes of a line ended, and what was in them.
func (t *Tx) deriveSets(lineID string) error {
	var sets []string
	if err := t.tx.Select(&sets, `SELECT id FROM sets WHERE line_id = ?`, lineID); err != nil {
		return err
	}
	for _, id := range sets {
		if err := t.end(id); err != nil {
			return err
		}
	}
	for _, table := range []string{"rigs", "smells"} {
		if _, err := t.tx.Exec(`DELETE FROM `+table+` WHERE make_id IN (SELECT id FROM makes WHERE line_id = ?)`, lineID); err != nil {
			return err
		}
	}
	makes, err := listed(t.View, "makes", entityOf[makeRow, line.Make], `SELECT * FROM makes WHERE line_id = ? AND undone_at IS NULL`, lineID)
	if err != nil {
		return err
	}
	for _, m := range makes {
		if err := t.index(m); err != nil {
			return err
		}
	}
	return nil
}

func (t *Tx) deriveShed(lineID string) error {
	var traps, bottled []string
	if err := t.tx.Select(&traps, `SELECT id FROM traps WHERE line_id = ?`, lineID); err != nil {
		return err
	}
	for _, id := range traps {
		if err := t.card(lineID, id); err != nil {
			return err
		}
	}
	if err := t.tx.Select(&bottled, `SELECT id FROM lures WHERE line_id = ?`, lineID); err != nil {
		return err
	}
	for _, id := range bottled {
		t.pours(lineID, id)
	}
	return nil
}

// end notes when each make of a set ended, by all that is noted of it.
func (t *Tx) end(setID string) error {
	var all, makes []line.Make
	if err := t.tx.Select(&all, `SELECT id, set_id, built_at, undone_at FROM makes WHERE set_id = ?`, setID); err != nil {
		return fmt.Errorf("read the makes of a set: %w", err)
	}
	// A pull may name one that was taken back: what stood there then was pulled all the same.
	undone := map[string]line.Make{}
	for _, m := range all {
		if m.UndoneAt == nil {
			makes = append(makes, m)
		} else {
			undone[m.ID] = m
		}
	}
	var rows []pullRow
	err := t.tx.Select(&rows, `SELECT p.* FROM pulls p JOIN makes m ON m.id = p.make_id WHERE m.set_id = ? AND p.undone_at IS NULL`, setID)
	if err != nil {
		return fmt.Errorf("read the pulls of a set: %w", err)
	}
	pulls := make([]line.Pull, len(rows))
	for i, row := range rows {
		pulls[i] = row.Pull
	}
	chain, _ := line.Chain(makes, pulls, undone)
	for _, m := range chain {
		if _, err := t.tx.Exec(`UPDATE makes SET ended_at = ? WHERE id = ? AND ended_at IS NOT ?`, m.PulledAt, m.ID, m.PulledAt); err != nil {
			return fmt.Errorf("note the end of a make: %w", err)
		}
	}
	return nil
}

// index notes the traps that are in the rigs of a make, and the lures of the shelf that it was built with.
func (t *Tx) index(m line.Make) error {
	for slot, id := range m.Layout.TrapIDs() {
		if _, err := t.tx.Exec(`INSERT OR REPLACE INTO rigs (make_id, slot, trap_id, built_at) VALUES (?, ?, ?, ?)`, m.ID, slot, id, m.BuiltAt.UTC()); err != nil {
			return fmt.Errorf("note the trap of a make: %w", err)
		}
	}
	for slot, s := range m.Layout.Smells() {
		if s.LureID == "" {
			continue
		}
		if _, err := t.tx.Exec(`INSERT OR REPLACE INTO smells (make_id, slot, lure_id, bait) VALUES (?, ?, ?, ?)`, m.ID, slot, s.LureID, s.IsBait()); err != nil {
			return fmt.Errorf("note the lure of a make: %w", err)
		}
	}
	return nil
}

// unindex forgets what was noted of a make by its traps and lures.
func (t *Tx) unindex(makeID string) error {
	for _, table := range []string{"rigs", "smells"} {
		if _, err := t.tx.Exec(`DELETE FROM `+table+` WHERE make_id = ?`, makeID); err != nil {
			return err
		}
	}
	return nil
}

// card makes out the card of a trap.
func (t *Tx) card(lineID, trapID string) error {
	versions, err := t.TrapVersions(trapID)
	if err != nil {
		return err
	}
	checks, err := t.ShedChecks(trapID)
	if err != nil {
		return err
	}
	measurements, err := t.Measurements(trapID)
	if err != nil {
		return err
	}
	raw, err := json.Marshal(shed.CardOf(versions, checks, measurements))
	if err != nil {
		return err
	}
	_, err = t.tx.Exec(`INSERT OR REPLACE INTO trap_cards (trap_id, line_id, card) VALUES (?, ?, ?)`, trapID, lineID, string(raw))
	return err
}

// pours notes that it has to be made out anew how a lure stands, once the change is done.
func (t *Tx) pours(lineID, lureID string) { t.touched[lureID] = lineID }

// finish makes out what a change has touched.
func (t *Tx) finish() error {
	for lure, lineID := range t.touched {
		if err := t.pour(lineID, lure); err != nil {
			return fmt.Errorf("make out how a lure stands: %w", err)
		}
	}
	return nil
}

// pour makes out how a lure stands.
func (t *Tx) pour(lineID, lureID string) error {
	p, err := t.pouring(lureID)
	if err != nil {
		return err
	}
	if p.Lure.ID == "" || p.Lure.Deleted {
		_, err := t.tx.Exec(`DELETE FROM lure_cards WHERE lure_id = ?`, lureID)
		return err
	}
	raw, err := json.Marshal(p.Pour(t.now))
	if err != nil {
		return err
	}
	_, err = t.tx.Exec(`INSERT OR REPLACE INTO lure_cards (lure_id, line_id, card, waits) VALUES (?, ?, ?, ?)`, lureID, lineID, string(raw), p.Waits(t.now))
	return err
}

// pouring is everything that was noted of a lure.
func (v View) pouring(lureID string) (p shed.Pouring, err error) {
	if err := one(v.q, &p.Lure, `SELECT * FROM lures WHERE id = ?`, lureID); errors.Is(err, ErrUnknown) {
		return p, nil
	} else if err != nil {
		return p, err
	}
	if p.Bottles, err = all[line.Bottle](v, "bottles", `SELECT * FROM bottles WHERE lure_id = ? AND NOT deleted ORDER BY id`, lureID); err != nil {
		return p, err
	}
	if p.Levels, err = all[line.Level](v, "levels", `SELECT l.* FROM bottles b JOIN levels l ON l.bottle_id = b.id WHERE b.lure_id = ? ORDER BY l.at, l.id`, lureID); err != nil {
		return p, err
	}
	if p.Doses, err = all[line.Dose](v, "doses", `SELECT * FROM doses WHERE lure_id = ? AND undone_at IS NULL ORDER BY at, id`, lureID); err != nil {
		return p, err
	}
	// A CROSS JOIN is worked from the left: from the few makes of a set, not from the many that smelled of the lure.
	p.Smells, err = all[shed.Smell](v, "makes", `
		SELECT m.built_at AS at, s.spot_id, x.bait, EXISTS (
			SELECT 1 FROM makes k CROSS JOIN smells y WHERE k.set_id = m.set_id AND k.ended_at = m.built_at AND y.make_id = k.id AND y.lure_id = x.lure_id) AS again
		FROM smells x JOIN makes m ON m.id = x.make_id JOIN sets s ON s.id = m.set_id
		WHERE x.lure_id = ? AND m.line_id = ? ORDER BY m.built_at, m.id`, lureID, p.Lure.LineID)
	p.Schools = goesBy()
	return p, err
}

// Pourings are everything that was noted of the lures of a line.
func (v View) Pourings(lineID string) ([]shed.Pouring, error) {
	var ids []string
	if err := sqlx.Select(v.q, &ids, `SELECT id FROM lures WHERE line_id = ? AND NOT deleted ORDER BY id`, lineID); err != nil {
		return nil, err
	}
	found := make([]shed.Pouring, len(ids))
	for i, id := range ids {
		p, err := v.pouring(id)
		if err != nil {
			return nil, err
		}
		found[i] = p
	}
	return found, nil
}

var lures = newDecoded[shed.OnShelf]()

// Poured lists how the lures of a line stand now.
func (v View) Poured(lineID string, now time.Time) ([]shed.OnShelf, error) {
	rows, err := all[struct {
		LureID string     `db:"lure_id"`
		Card   string     `db:"card"`
		Waits  *time.Time `db:"waits"`
	}](v, "lures", `SELECT lure_id, card, waits FROM lure_cards WHERE line_id = ?`, lineID)
	if err != nil {
		return nil, err
	}
	found := make([]shed.OnShelf, len(rows))
	for i, row := range rows {
		if row.Waits == nil || row.Waits.After(now) {
			found[i], err = lures.of(row.Card)
		} else if p, wrong := v.pouring(row.LureID); wrong != nil {
			err = wrong
		} else {
			found[i] = p.Pour(now)
		}
		if err != nil {
			return nil, err
		}
	}
	slices.SortFunc(found, func(a, b shed.OnShelf) int { return cmp.Compare(a.Lure.ID, b.Lure.ID) })
	return found, nil
}

// begins opens the season that an act that counts is the first of, if it is.
func (t *Tx) begins(lineID string, at time.Time) error {
	fresh, opens, err := t.opens(lineID, at)
	if err != nil || !opens {
		return err
	}
	fresh.ID, fresh.LineID = ulid.Make().String(), lineID
	_, err = t.PutSeason(fresh)
	return err
}

// opens gives the season that an act at a time is the first of. A time far ahead of the program's clock is a mistake, and opens none.
func (t *Tx) opens(lineID string, at time.Time) (line.Season, bool, error) {
	if at.Before(line.Earliest) || at.After(t.now.Add(line.SoonestOpened)) {
		return line.Season{}, false, nil
	}
	seasons, ok := t.seasons[lineID]
	if !ok {
		var err error
		if seasons, err = t.Seasons(lineID); err != nil {
			return line.Season{}, false, err
		}
		t.seasons[lineID] = seasons
	}
	l, err := t.Line(lineID)
	if err != nil {
		return line.Season{}, false, err
	}
	zone, err := round.Zone(l.Zone)
	if err != nil {
		return line.Season{}, false, err
	}
	fresh, opens := seasons.Opens(at, zone, l.LatDeg)
	return fresh, opens, nil
}
