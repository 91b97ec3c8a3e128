package store

import (
	"database/sql"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"github.com/jmoiron/sqlx"
)

// one reads one row, or ErrUnknown.
func one(q sqlx.Queryer, into any, query string, args ...any) error {
	err := sqlx.Get(q, into, query, args...)
	if errors.Is(err, sql.ErrNoRows) {
		return ErrUnknown
	}
	return err
}

// upsert writes a row by its db tags, over the row with the same id when there is one.
func upsert(tx *sqlx.Tx, table string, row any) error {
	var columns, values, changes []string
	for name := range tx.Mapper.TypeMap(reflect.TypeOf(row)).Names {
		if name == "" || strings.Contains(name, ".") {
			continue
		}
		columns = append(columns, name)
	}
	slices.Sort(columns)
	for _, name := range columns {
		values = append(values, ":"+name)
		if name != "id" {
			changes = append(changes, name+" = excluded."+name)
		}
	}
	query := fmt.Sprintf(`INSERT INTO %s (%s) VALUES (%s) ON CONFLICT (id) DO UPDATE SET %s`, table,
		strings.Join(columns, ", "), strings.Join(values, ", "), strings.Join(changes, ", "))
	if _, err := tx.NamedExec(query, row); err != nil {
		return fmt.Errorf("write to %s: %w", table, err)
	}
	return nil
}

// edit writes something editable if it still stands at the version that its writer saw, and counts the version up. A row that
// is not there yet becomes its first version.
func edit[T any](t *Tx, table, id string, x *T, version func(*T) *int) error {
	var stands T
	err := one(t.tx, &stands, `SELECT * FROM `+table+` WHERE id = ?`, id)
	switch {
	case errors.Is(err, ErrUnknown):
		*version(x) = 1
	case err != nil:
		return fmt.Errorf("read from %s: %w", table, err)
	case *version(&stands) != *version(x):
		return Conflict{Theirs: stands}
	default:
		*version(x)++
	}
	return upsert(t.tx, table, *x)
}
