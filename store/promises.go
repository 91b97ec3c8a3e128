package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/promise"
	"oldburrow/core/tally"
)

var promised = newDecoded[promise.Make]()

// Promises are what was promised by makes of a line that stood in a span, as far as it has been made out.
func (v View) Promises(lineID string, span tally.Span) ([]promise.Make, error) {
	from, until, _ := bounds(span)
	rows, err := all[struct{ Said string }](v, "promises", `
		SELECT p.said FROM makes m JOIN promises p ON p.make_id = m.id
		WHERE m.line_id = ? AND m.built_at < ? AND (m.ended_at IS NULL OR m.ended_at >= ?) AND m.undone_at IS NULL ORDER BY m.id`, lineID, until, from)
	if err != nil {
		return nil, err
	}
	found := make([]promise.Make, len(rows))
	for i, row := range rows {
		if found[i], err = promised.of(row.Said); err != nil {
			return nil, err
		}
	}
	return found, nil
}

// promising is how far promises are made out on a line.
type promising struct {
	Since  *time.Time `db:"since"`
	Form   string     `db:"form"`
	Marked *string    `db:"marked"`
}

// Promising is from which time on the promises of a line are not made out, by this form of the computation; and whether nights that were made out
// stand otherwise now.
func (v View) Promising(lineID, form string) (since time.Time, anew bool, err error) {
	p, err := v.promising(lineID)
	if err != nil || p.Since == nil || p.Form != form {
		return time.Time{}, true, err
	}
	if since = *p.Since; p.Marked == nil {
		return since, false, nil
	}
	at, timeless := time.Time{}, *p.Marked == ""
	if !timeless {
		if at, err = timeIn(*p.Marked); err != nil {
			return since, false, err
		}
	}
	return since, timeless || at.Before(since), nil
}

func (v View) promising(lineID string) (p promising, err error) {
	err = one(v.q, &p, `SELECT since, form, marked FROM promising WHERE line_id = ?`, lineID)
	if errors.Is(err, ErrUnknown) {
		return p, nil
	}
	return p, err
}

// BeginPromising takes what has happened on a line up into the time from which on its promises are made out, and gives that. What bears no time counts
// from counts, in which alone promises are told.
func (t *Tx) BeginPromising(lineID, form string, counts time.Time) (time.Time, error) {
	p, err := t.promising(lineID)
	if err != nil {
		return time.Time{}, err
	}
	since := time.Time{}
	if p.Since != nil && p.Form == form {
		since = *p.Since
		if p.Marked != nil {
			at := counts
			if *p.Marked != "" {
				if at, err = timeIn(*p.Marked); err != nil {
					return since, err
				}
			}
			if at.Before(since) {
				since = at
			}
		}
	}
	if first, err := t.firstBuilt(lineID); err != nil {
		return since, err
	} else if since.Before(first) {
		since = first
	}
	return since, t.promisedUntil(lineID, form, since, `, marked = NULL`)
}

// firstBuilt is when the first make of a line was built that can be believed.
func (v View) firstBuilt(lineID string) (time.Time, error) {
	var at time.Time
	err := one(v.q, &at, `SELECT built_at FROM makes WHERE line_id = ? AND built_at >= ? AND undone_at IS NULL ORDER BY built_at LIMIT 1`, lineID, line.Earliest)
	if errors.Is(err, ErrUnknown) {
		return at, nil
	}
	return at, err
}

// KeepPromises keeps what was made out of a line's promises until a time.
func (t *Tx) KeepPromises(lineID, form string, made map[string]promise.Make, until time.Time) error {
	for id, m := range made {
		raw, err := json.Marshal(m)
		if err != nil {
			return err
		}
		// One that was removed meanwhile promises nothing.
		_, err = t.tx.Exec(`INSERT INTO promises (make_id, said) SELECT id, ? FROM makes WHERE id = ? ON CONFLICT (make_id) DO UPDATE SET said = excluded.said`, string(raw), id)
		if err != nil {
			return fmt.Errorf("keep what a make promised: %w", err)
		}
	}
	return t.promisedUntil(lineID, form, until, "")
}

func (t *Tx) promisedUntil(lineID, form string, since time.Time, and string) error {
	_, err := t.tx.Exec(`INSERT INTO promising (line_id, since, form) VALUES (?, ?, ?) ON CONFLICT (line_id) DO UPDATE SET since = excluded.since, form = excluded.form`+and,
		lineID, since.UTC(), form)
	return err
}
