package store

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/core/shed"
	"oldburrow/core/tally"
)

// forever stands behind every time that is kept, also behind what is none.
const forever = "~"

// bounds are a span as it can be compared with times that are kept, and the time before which acts are told with the present: their
// clock had lost the time, and nobody looks for them in a season long past.
func bounds(span tally.Span) (from time.Time, until any, lost time.Time) {
	if span.Until.IsZero() {
		return span.From.UTC(), forever, line.Earliest
	}
	return span.From.UTC(), span.Until.UTC(), time.Time{}
}

// Noted is what was noted of a line in a span: what was built or stood in it, the looks and pulls of its days, and the looks from
// before and after at what stood when it began or ended. An empty span is all.
func (v View) Noted(lineID string, span tally.Span) (line.Noted, error) {
	key := fmt.Sprint(lineID, span.From.Unix(), span.Until.Unix())
	return remembered(v, lastAct, key, func() (line.Noted, error) { return v.readNoted(lineID, span) })
}

func (v View) readNoted(lineID string, span tally.Span) (n line.Noted, err error) {
	from, until, lost := bounds(span)
	rows, err := all[makeRow](v, "makes", `
		SELECT * FROM makes INDEXED BY makes_line WHERE line_id = ?1 AND ended_at IS NULL AND built_at < ?3 AND undone_at IS NULL
		UNION ALL SELECT * FROM makes INDEXED BY makes_line WHERE line_id = ?1 AND ended_at >= ?2 AND built_at < ?3 AND undone_at IS NULL
		UNION ALL SELECT * FROM makes INDEXED BY makes_built WHERE line_id = ?1 AND built_at < ?4 AND ended_at < ?2 AND undone_at IS NULL`, lineID, from, until, lost)
	if err != nil {
		return n, err
	}
	n.Makes = entities(v, "makes", entityOf[makeRow, line.Make], rows)
	n.Pulls, err = listed(v, "pulls", entityOf[pullRow, line.Pull], `
		SELECT * FROM pulls WHERE line_id = ?1 AND (at >= ?2 AND at < ?3 OR at < ?4) AND undone_at IS NULL`, lineID, from, until, lost)
	if err != nil {
		return n, err
	}
	n.Visits, err = v.looks(lineID, `line_id = ?1 AND (at >= ?2 AND at < ?3 OR at < ?4)`, lineID, from, until, lost)
	if err != nil {
		return n, err
	}
	held, err := all[catchRow](v, "catches", `
		SELECT c.* FROM visits v JOIN catches c ON c.visit_id = v.id
		WHERE v.line_id = ?1 AND v.finding IN (`+holding+`) AND (v.at >= ?2 AND v.at < ?3 OR v.at < ?4)`, lineID, from, until, lost)
	if err != nil {
		return n, err
	}
	caught := entities(v, "catches", catchRow.entity, held)
	if err := v.carried(lineID, &n, &caught, rows, span); err != nil {
		return n, err
	}
	withCatches(n.Visits, caught)
	if n.Others, err = v.others(n); err != nil {
		return n, err
	}
	n.Sets, err = v.setsOf(n)
	return n, err
}

// carried adds the looks from outside a span at what stood when it began or ended, and when that ended.
func (v View) carried(lineID string, n *line.Noted, caught *[]line.Catch, makes []makeRow, span tally.Span) error {
	from, until, lost := bounds(span)
	n.Ends = map[string]time.Time{}
	var into, out []string
	for _, m := range makes {
		if m.BuiltAt.Before(from) && !m.BuiltAt.Before(lost) {
			into = append(into, m.ID)
		}
		if !span.Until.IsZero() && (m.EndedAt == nil || !m.EndedAt.Before(span.Until)) {
			out = append(out, m.ID)
			if m.EndedAt != nil {
				n.Ends[m.ID] = *m.EndedAt
			}
		}
	}
	before, err := v.looksAt(lineID, into, `at >= ? AND at < ?`, lost, from)
	if err != nil {
		return err
	}
	after, err := v.looksAt(lineID, out, `at >= ?`, until)
	if err != nil {
		return err
	}
	outside := append(before, after...)
	var held []string
	for _, x := range outside {
		if x.Finding.Facts().Holds {
			held = append(held, x.ID)
		}
	}
	catches, err := among[catchRow](v, "catches", `SELECT * FROM catches WHERE visit_id IN (?)`, held)
	n.Visits, *caught = append(n.Visits, outside...), append(*caught, entities(v, "catches", catchRow.entity, catches)...)
	return err
}

// The findings at which an animal can be held, and those at which a trap is no longer there, as the indexes over them are written.
var (
	holding = quoted(line.FindingsThat(func(f line.Facts) bool { return f.Holds }))
	away    = quoted(line.FindingsThat(func(f line.Facts) bool { return f.Away }))
)

func quoted(findings []line.Finding) string {
	var list []string
	for _, f := range findings {
		list = append(list, "'"+string(f)+"'")
	}
	return strings.Join(list, ", ")
}

// withCatches gives each look its catches.
func withCatches(visits []line.Visit, caught []line.Catch) {
	slices.SortFunc(caught, func(a, b line.Catch) int { return cmp.Compare(a.ID, b.ID) })
	of := map[string][]line.Catch{}
	for _, c := range caught {
		of[c.VisitID] = append(of[c.VisitID], c)
	}
	for i := range visits {
		visits[i].Catches = append([]line.Catch{}, of[visits[i].ID]...)
	}
}

// others are the makes that acts name and that are not among those noted: of them their sets and when they were built.
func (v View) others(n line.Noted) (map[string]line.Make, error) {
	have := map[string]bool{}
	for _, m := range n.Makes {
		have[m.ID] = true
	}
	var missing []string
	for _, p := range n.Pulls {
		missing = addOnce(missing, have, p.MakeID)
	}
	for _, x := range n.Visits {
		missing = addOnce(missing, have, x.MakeID)
	}
	makes, err := among[line.Make](v, "makes", `SELECT id, set_id, built_at FROM makes WHERE id IN (?)`, missing)
	found := map[string]line.Make{}
	for _, m := range makes {
		found[m.ID] = m
	}
	return found, err
}

// addOnce adds an id that was not seen yet.
func addOnce(ids []string, seen map[string]bool, id string) []string {
	if seen[id] {
		return ids
	}
	seen[id] = true
	return append(ids, id)
}

// setsOf are the sets of what was noted, by number.
func (v View) setsOf(n line.Noted) ([]line.Set, error) {
	seen := map[string]bool{}
	var ids []string
	for _, m := range n.Makes {
		ids = addOnce(ids, seen, m.SetID)
	}
	for _, m := range n.Others {
		ids = addOnce(ids, seen, m.SetID)
	}
	sets, err := among[line.Set](v, "sets", `SELECT * FROM sets WHERE id IN (?)`, ids)
	slices.SortFunc(sets, line.ByNumber)
	return sets, err
}

// mostAtOnce is how many ids are asked for in one question.
const mostAtOnce = 5000

// among reads rows of which one column is among some ids: the first question mark stands for those.
func among[T any](v View, table, query string, ids []string, args ...any) ([]T, error) {
	found := []T{}
	for some := range slices.Chunk(ids, mostAtOnce) {
		written, values, err := sqlx.In(query, append([]any{some}, args...)...)
		if err != nil {
			return nil, err
		}
		rows, err := all[T](v, table, written, values...)
		if err != nil {
			return nil, err
		}
		found = append(found, rows...)
	}
	return found, nil
}

// NotedOfTrap is what was noted, over all seasons, of the sets that a trap was in.
func (v View) NotedOfTrap(lineID, trapID string) (line.Noted, error) {
	return v.notedAt(lineID, `SELECT m.set_id FROM rigs r JOIN makes m ON m.id = r.make_id WHERE r.trap_id = ?`, trapID)
}

// NotedAtSpot is what was noted, over all seasons, of the sets that stood at a spot.
func (v View) NotedAtSpot(lineID, spotID string) (line.Noted, error) {
	return v.notedAt(lineID, `SELECT id FROM sets WHERE spot_id = ?`, spotID)
}

// notedAt is what was noted of some sets of a line, given by a query.
func (v View) notedAt(lineID, sets string, of string) (n line.Noted, err error) {
	n.Sets, err = all[line.Set](v, "sets", `SELECT * FROM sets WHERE line_id = ? AND id IN (`+sets+`) ORDER BY number`, lineID, of)
	if err != nil {
		return n, err
	}
	ids := make([]string, len(n.Sets))
	for i, set := range n.Sets {
		ids[i] = set.ID
	}
	rows, err := among[makeRow](v, "makes", `SELECT * FROM makes WHERE set_id IN (?) AND undone_at IS NULL`, ids)
	if err != nil {
		return n, err
	}
	n.Makes = entities(v, "makes", entityOf[makeRow, line.Make], rows)
	makes := make([]string, len(n.Makes))
	for i, m := range n.Makes {
		makes[i] = m.ID
	}
	pulls, err := among[pullRow](v, "pulls", `SELECT * FROM pulls WHERE make_id IN (?) AND undone_at IS NULL`, makes)
	if err != nil {
		return n, err
	}
	n.Pulls = entities(v, "pulls", entityOf[pullRow, line.Pull], pulls)
	if n.Visits, err = v.looksAt(lineID, makes, `TRUE`); err != nil {
		return n, err
	}
	caught, err := among[catchRow](v, "catches", `SELECT c.* FROM visits v JOIN catches c ON c.visit_id = v.id WHERE v.make_id IN (?) AND v.finding IN (`+holding+`)`, makes)
	withCatches(n.Visits, entities(v, "catches", catchRow.entity, caught))
	return n, err
}

// GoneBefore are the traps of a line that a look before a time found gone and that nothing was built with since, by trap.
func (v View) GoneBefore(lineID string, before time.Time) (map[string]shed.Gone, error) {
	rows, err := all[struct {
		visitRow
		TrapID string `db:"trap_id"`
		Slot   int    `db:"slot"`
		SetID  string `db:"set_id"`
	}](v, "visits", `
		SELECT v.*, m.set_id, r.trap_id, r.slot FROM visits v INDEXED BY visits_gone
		JOIN makes m ON m.id = v.make_id JOIN rigs r ON r.make_id = m.id
		WHERE v.line_id = ?1 AND (v.finding IN (`+away+`) OR v.rigs LIKE '%`+string(line.RigGone)+`%') AND v.at < ?2 AND v.undone_at IS NULL
		AND NOT EXISTS (SELECT 1 FROM visits n WHERE n.make_id = m.id AND n.at > v.at AND n.undone_at IS NULL)
		AND NOT EXISTS (
			SELECT 1 FROM rigs n JOIN makes k ON k.id = n.make_id
			WHERE n.trap_id = r.trap_id AND n.built_at > r.built_at AND k.line_id = v.line_id)`, lineID, before.UTC())
	if err != nil {
		return nil, err
	}
	found, setOf := map[string]shed.Gone{}, map[string]string{}
	var ids []string
	for _, row := range rows {
		look, err := row.entity()
		if err != nil || !look.FoundAt(row.Slot).Facts().Away {
			continue // one that cannot be read is told where looks are read
		}
		found[row.TrapID], setOf[row.TrapID] = shed.Gone{At: row.At}, row.SetID
		ids = append(ids, row.SetID)
	}
	sets, err := among[line.Set](v, "sets", `SELECT * FROM sets WHERE id IN (?)`, ids)
	for trap, gone := range found {
		for _, set := range sets {
			if set.ID == setOf[trap] {
				found[trap] = shed.Gone{At: gone.At, Set: set}
			}
		}
	}
	return found, err
}

// StillInBefore is what pulls before a time had left at the sets of a line, of which no later one and no make tells that it came out.
func (v View) StillInBefore(lineID string, before time.Time) ([]line.StillIn, error) {
	noted, err := v.notedAt(lineID, `
		SELECT m.set_id FROM pulls p INDEXED BY pulls_left JOIN makes m ON m.id = p.make_id
		WHERE p.line_id = ? AND (p.rigs LIKE '%frozen_in%' OR p.rigs LIKE '%left%' OR p.rigs LIKE '%lost%') AND p.undone_at IS NULL`, lineID)
	if err != nil {
		return nil, err
	}
	noted.Makes = slices.DeleteFunc(noted.Makes, func(m line.Make) bool { return !m.BuiltAt.Before(before) })
	noted.Pulls = slices.DeleteFunc(noted.Pulls, func(p line.Pull) bool { return !p.At.Before(before) })
	found := line.NewRecord(before, time.UTC, tally.Span{}, noted).StillIn([]line.StillIn{})
	for i, x := range found {
		var since int
		if err := one(v.q, &since, `SELECT count(*) FROM rigs WHERE trap_id = ? AND built_at > ? AND built_at < ?`, x.TrapID, x.Since.UTC(), before.UTC()); err != nil {
			return nil, err
		}
		if since > 0 {
			found[i].Trap = line.TrapHome
		}
	}
	return slices.DeleteFunc(found, func(x line.StillIn) bool { return !x.Leaves() }), nil
}

// Seasons lists the seasons of a line in order.
func (v View) Seasons(lineID string) (line.Seasons, error) {
	return all[line.Season](v, "seasons", `SELECT * FROM seasons WHERE line_id = ? AND NOT deleted ORDER BY from_day`, lineID)
}

// PutSeason keeps a season, or a change to one. One that holds an act is not deleted.
func (t *Tx) PutSeason(x line.Season) (line.Season, error) {
	others, err := t.Seasons(x.LineID)
	if err != nil {
		return x, err
	}
	if x.Deleted {
		err = t.isBare(x, others)
	} else {
		err = others.Fits(x)
	}
	if err != nil {
		return x, err
	}
	delete(t.seasons, x.LineID)
	err = edit(t, "seasons", x.LineID, x.ID, &x, func(s *line.Season) *int { return &s.Version })
	return x, err
}

// isBare refuses to delete a season that something was done in.
func (t *Tx) isBare(x line.Season, all line.Seasons) error {
	l, err := t.Line(x.LineID)
	if err != nil {
		return err
	}
	zone, err := round.Zone(l.Zone)
	if err != nil {
		return err
	}
	from, until, _ := bounds(all.Span(x.ID, zone))
	acts, err := t.actsIn(x.LineID, from, until)
	if err == nil && acts > 0 {
		err = refuse.Field("deleted", "cannot be: %d things were done in it. Take those back whose time is wrong, or change its days", acts)
	}
	return err
}
