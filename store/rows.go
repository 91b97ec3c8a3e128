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

// upsert writes a row by its db tags, over the row with the same id when there is one. The statement of a table is prepared
// once for a change, so that one that brings in many rows stays quick.
func upsert(t *Tx, table string, row any) error {
	statement := t.statements[table]
	if statement == nil {
		var err error
		if statement, err = t.tx.PrepareNamed(upsertQuery(t.tx, table, row)); err != nil {
			return fmt.Errorf("prepare to write to %s: %w", table, err)
		}
		t.statements[table] = statement
	}
	if _, err := statement.Exec(row); err != nil {
		return fmt.Errorf("write to %s: %w", table, err)
	}
	return nil
}

// find prepares the look-up of a table's row by its id, once for a change.
func (t *Tx) find(table string) (*sqlx.Stmt, error) {
	if t.finds[table] == nil {
		statement, err := t.tx.Preparex(`SELECT * FROM ` + table + ` WHERE id = ?`)
		if err != nil {
			return nil, err
		}
		t.finds[table] = statement
	}
	return t.finds[table], nil
}

func upsertQuery(tx *sqlx.Tx, table string, row any) string {
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
	return fmt.Sprintf(`INSERT INTO %s (%s) VALUES (%s) ON CONFLICT (id) DO UPDATE SET %s`, table,
		strings.Join(columns, ", "), strings.Join(values, ", "), strings.Join(changes, ", "))
}

// edit writes something editable if it still stands at the version that its writer saw, and counts the version up. A row that
// is not there yet becomes its first version.
func edit[T any](t *Tx, table, id string, x *T, version func(*T) *int) error {
	var stands T
	find, err := t.find(table)
	if err == nil {
		err = find.Get(&stands, id)
	}
	switch {
	case errors.Is(err, sql.ErrNoRows):
		*version(x) = 1
	case err != nil:
		return fmt.Errorf("read from %s: %w", table, err)
	case *version(&stands) != *version(x):
		return Conflict{Theirs: stands}
	default:
		*version(x)++
	}
	return upsert(t, table, *x)
}
