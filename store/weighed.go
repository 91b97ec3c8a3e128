package store

import (
	"encoding/json"
	"fmt"

	"oldburrow/core/advice"
)

// Weighed is what was weighed of a line's sets and spots.
func (v View) Weighed(lineID string) ([]advice.Kept, error) {
	rows, err := all[struct{ Said string }](v, "what was weighed", `SELECT said FROM weighed WHERE line_id = ? ORDER BY key`, lineID)
	if err != nil {
		return nil, err
	}
	found := make([]advice.Kept, len(rows))
	for i, row := range rows {
		if err := json.Unmarshal([]byte(row.Said), &found[i]); err != nil {
			return nil, fmt.Errorf("read what was weighed: %w", err)
		}
	}
	return found, nil
}

// KeepWeighed keeps what was weighed, and lets go of what is wanted no more, by its keys.
func (t *Tx) KeepWeighed(lineID string, found []advice.Kept, over []string) error {
	for _, one := range found {
		raw, err := json.Marshal(one)
		if err != nil {
			return err
		}
		_, err = t.tx.Exec(`INSERT INTO weighed (line_id, key, said) VALUES (?, ?, ?) ON CONFLICT (line_id, key) DO UPDATE SET said = excluded.said`, lineID, one.Key, string(raw))
		if err != nil {
			return fmt.Errorf("keep what was weighed: %w", err)
		}
	}
	for _, key := range over {
		if _, err := t.tx.Exec(`DELETE FROM weighed WHERE line_id = ? AND key = ?`, lineID, key); err != nil {
			return fmt.Errorf("let go of what was weighed: %w", err)
		}
	}
	return nil
}
