package store

import (
	"encoding/json"
	"fmt"
	"maps"

	"github.com/oklog/ulid/v2"
)

// settle makes out what follows of records that were put as they came, and refuses those that do not belong together: what one names has
// to be there, and of its own line.
func (t *Tx) settle() error {
	if err := t.belongTogether(); err != nil {
		return err
	}
	lines, err := t.Lines()
	if err != nil {
		return err
	}
	for _, l := range lines {
		if err := t.deriveSets(l.ID); err != nil {
			return err
		}
		if err := t.deriveShed(l.ID); err != nil {
			return err
		}
	}
	if err := t.newHours(); err != nil {
		return err
	}
	return t.allKnown()
}

// Bring puts records into a file that has none, with what bring puts, and makes out what follows of them.
func (t *Tx) Bring(bring func() error) error {
	// They come in any order, and belong together once they are all there.
	if _, err := t.tx.Exec(`PRAGMA defer_foreign_keys = ON`); err != nil {
		return err
	}
	if err := bring(); err != nil {
		return err
	}
	return t.settle()
}

// Strangers is returned for a record that names another that is not there, or that is of another line.
type Strangers struct{ What, Names string }

func (s Strangers) Error() string {
	return fmt.Sprintf("a %s names a %s that is not there, or that is another line's", s.What, s.Names)
}

func (t *Tx) belongTogether() error {
	var loose []struct{ Table, Parent string }
	if err := t.tx.Select(&loose, `SELECT DISTINCT "table", parent FROM pragma_foreign_key_check LIMIT 1`); err != nil {
		return err
	}
	for _, l := range loose {
		return Strangers{things[l.Table], things[l.Parent]}
	}
	var names []struct{ Child, Parent, Column string }
	err := t.tx.Select(&names, `
		SELECT c.name AS child, f."table" AS parent, f."from" AS column
		FROM sqlite_master c, pragma_foreign_key_list(c.name) f, pragma_table_info(c.name) own, pragma_table_info(f."table") theirs
		WHERE c.type = 'table' AND own.name = 'line_id' AND theirs.name = 'line_id'`)
	if err != nil {
		return err
	}
	for _, n := range names {
		var strange int
		query := fmt.Sprintf(`SELECT count(*) FROM %s c JOIN %s p ON p.id = c.%s WHERE p.line_id <> c.line_id`, n.Child, n.Parent, n.Column)
		if err := t.tx.Get(&strange, query); err != nil {
			return err
		}
		if strange > 0 {
			return Strangers{things[n.Child], things[n.Parent]}
		}
	}
	var unseen int
	err = t.tx.Get(&unseen, `
		SELECT count(*) FROM visits v WHERE json_extract(v.seen, '$.photoId') IS NOT NULL
		AND NOT EXISTS (SELECT 1 FROM photos p WHERE p.id = json_extract(v.seen, '$.photoId') AND p.line_id = v.line_id)`)
	if err == nil && unseen > 0 {
		err = Strangers{things["visits"], things["photos"]}
	}
	return err
}

// known is the fact in which stands what of each editable record this file last shared with another, by its id.
const known = "known"

// asRestored stands there until a file that was put in another's place is opened: all that it holds is shared.
const asRestored = "*"

// Known is what of each editable record the file last shared with another one, by its id, as Content has it.
func (v View) Known() (map[string]string, error) {
	found := map[string]string{}
	var text string
	err := one(v.q, &text, `SELECT coalesce(max(value), '') FROM facts WHERE key = ?`, known)
	if err != nil || text == "" || text == asRestored {
		return found, err
	}
	return found, json.Unmarshal([]byte(text), &found)
}

// shareRestored notes, once, that a file that was put in another's place shares all that it holds.
func (s *Store) shareRestored() error {
	if is, err := s.Fact(known); err != nil || is != asRestored {
		return err
	}
	return s.Keep((*Tx).allKnown)
}

// allKnown notes that the file shares all that is editable in it with another.
func (t *Tx) allKnown() error {
	found, err := t.Known()
	if err != nil {
		return err
	}
	for _, k := range kinds {
		if !k.editable {
			continue
		}
		contents, err := k.Contents(t.View)
		if err != nil {
			return err
		}
		maps.Copy(found, contents)
	}
	raw, err := json.Marshal(found)
	if err != nil {
		return err
	}
	_, err = t.tx.Exec(`INSERT OR REPLACE INTO facts (key, value) VALUES (?, ?)`, known, string(raw))
	return err
}

// newHours says that what was remembered of the weather holds no longer.
func (t *Tx) newHours() error {
	if _, err := t.tx.Exec(`INSERT OR REPLACE INTO facts (key, value) VALUES ('hours', ?)`, ulid.Make().String()); err != nil {
		return fmt.Errorf("note that the weather changes: %w", err)
	}
	return nil
}
