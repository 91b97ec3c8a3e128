package store

import (
	"bytes"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// one reads one row, or ErrUnknown.
func one(q sqlx.Queryer, into any, query string, args ...any) error {
	err := sqlx.Get(q, into, query, args...)
	if errors.Is(err, sql.ErrNoRows) {
		return ErrUnknown
	}
	return err
}

// all reads rows one by one: one that cannot be read hides no other, and a table that is broken hides no other table.
func all[T any](v View, table, query string, args ...any) ([]T, error) {
	found := []T{}
	rows, err := v.q.Queryx(query, args...)
	if err != nil {
		return found, v.broken(table, err)
	}
	defer rows.Close()
	for rows.Next() {
		var x T
		if err := rows.StructScan(&x); err != nil {
			v.cannotRead(table, rows, "a value of it is of the wrong kind")
		} else if !timesCanBe(reflect.ValueOf(x)) {
			v.cannotRead(table, rows, "its time cannot be")
		} else {
			found = append(found, x)
		}
	}
	return found, v.broken(table, rows.Err())
}

// broken notes a table that cannot be read, or not to its end, because the file is damaged; any other fault it gives back.
func (v View) broken(table string, err error) error {
	lost := err != nil && (code(err) == sqlite3.SQLITE_CORRUPT || strings.Contains(err.Error(), "no such table"))
	if v.unread == nil || !lost {
		return err
	}
	*v.unread = append(*v.unread, Unreadable{What: things[table], Why: "the file is damaged there: there may be more of them than are shown"})
	return nil
}

// cannotRead notes the row that stands at.
func (v View) cannotRead(table string, rows *sqlx.Rows, why string) {
	if v.unread == nil {
		return
	}
	cells := map[string]any{}
	id := ""
	if err := rows.MapScan(cells); err == nil {
		id, _ = cells["id"].(string)
	}
	*v.unread = append(*v.unread, Unreadable{What: things[table], ID: id, Why: why})
}

var timeType = reflect.TypeFor[time.Time]()

// timesCanBe tells whether every time of a row can be written down again.
func timesCanBe(x reflect.Value) bool {
	if x.Type() == timeType {
		year := x.Interface().(time.Time).Year()
		return year >= 1 && year <= 9999
	}
	if x.Kind() != reflect.Struct {
		return true
	}
	for i := range x.NumField() {
		field := x.Field(i)
		if field.Kind() == reflect.Pointer && !field.IsNil() {
			field = field.Elem()
		}
		if field.CanInterface() && !timesCanBe(field) {
			return false
		}
	}
	return true
}

// insert writes a new row by its db tags. An id that the table holds already, of whatever line, is Taken, as is a number that another has.
func insert(t *Tx, table string, row any) error {
	names := columns(t, row)
	query := fmt.Sprintf(`INSERT INTO %s (%s) VALUES (:%s)`, table, strings.Join(names, ", "), strings.Join(names, ", :"))
	err := t.exec(query, row)
	var known *sqlite.Error
	if errors.As(err, &known) && (known.Code() == sqlite3.SQLITE_CONSTRAINT_PRIMARYKEY || known.Code() == sqlite3.SQLITE_CONSTRAINT_UNIQUE) {
		return Taken{things[table]}
	}
	if err != nil {
		return fmt.Errorf("write to %s: %w", table, err)
	}
	return nil
}

// update writes over a row by its id.
func update(t *Tx, table string, row any) error {
	var changes []string
	for _, name := range columns(t, row) {
		changes = append(changes, name+" = :"+name)
	}
	if err := t.exec(fmt.Sprintf(`UPDATE %s SET %s WHERE id = :id`, table, strings.Join(changes, ", ")), row); err != nil {
		return fmt.Errorf("write to %s: %w", table, err)
	}
	return nil
}

// exec runs a statement that is prepared once for a change, so that one that brings in many rows stays quick.
func (t *Tx) exec(query string, row any) error {
	if t.statements[query] == nil {
		statement, err := t.tx.PrepareNamed(query)
		if err != nil {
			return err
		}
		t.statements[query] = statement
	}
	_, err := t.statements[query].Exec(row)
	return err
}

func columns(t *Tx, row any) []string {
	var names []string
	for name := range t.tx.Mapper.TypeMap(reflect.TypeOf(row)).Names {
		if name != "" && !strings.Contains(name, ".") {
			names = append(names, name)
		}
	}
	slices.Sort(names)
	return names
}

// things are what a row of a table is called.
var things = map[string]string{
	"lines": "line", "properties": "property", "spots": "spot", "signs": "sign", "features": "thing on the map", "falls": "fall",
	"photos": "photo", "sets": "set", "designs": "design", "patterns": "pattern", "makes": "make", "pulls": "pull", "visits": "look", "catches": "catch", "mends": "mend", "corrections": "correction",
	"readings": "reading", "traps": "trap", "shed_checks": "shed check", "measurements": "measurement", "calibrations": "calibration",
	"weather_hours": "hour of weather", "trap_versions": "earlier form of a trap",
	"lures": "lure", "bottles": "bottle", "levels": "level", "doses": "dose", "recipes": "recipe", "kit_marks": "mark", "seasons": "season", "people": "person",
}

// find reads a line's row by its id, or gives ErrUnknown. A line is found by itself.
func (t *Tx) find(table, lineID, id string, into any) error {
	of := "line_id"
	if table == "lines" {
		of = "id"
	}
	if t.finds[table] == nil {
		statement, err := t.tx.Preparex(fmt.Sprintf(`SELECT * FROM %s WHERE id = ? AND %s = ?`, table, of))
		if err != nil {
			return err
		}
		t.finds[table] = statement
	}
	err := t.finds[table].Get(into, id, lineID)
	if errors.Is(err, sql.ErrNoRows) {
		return ErrUnknown
	}
	return err
}

// edit writes something editable of a line if it still stands at the version that its writer saw, and counts the version up.
// A row that the line does not have yet becomes its first version.
func edit[T any](t *Tx, table, lineID, id string, x *T, version func(*T) *int) error {
	var stands T
	switch err := t.find(table, lineID, id, &stands); {
	case errors.Is(err, ErrUnknown):
		*version(x) = 1
		return insert(t, table, *x)
	case err != nil:
		return fmt.Errorf("read from %s: %w", table, err)
	case *version(&stands) != *version(x):
		return Conflict{Theirs: stands}
	}
	*version(x)++
	return update(t, table, *x)
}

// act records something that was done on a line. Said again just so, it stays as it is; said otherwise under the same id, or
// under an id of another line, it is Taken. said blanks what the program adds to an act by itself.
func act[T any](t *Tx, table, lineID, id string, x *T, said func(*T)) error {
	var stands T
	switch err := t.find(table, lineID, id, &stands); {
	case errors.Is(err, ErrUnknown):
		return insert(t, table, *x)
	case err != nil:
		return fmt.Errorf("read from %s: %w", table, err)
	}
	if !same(stands, *x, said) {
		return Taken{things[table]}
	}
	*x = stands
	return nil
}

// same tells whether two acts say the same, as they are written down.
func same[T any](a, b T, said func(*T)) bool {
	said(&a)
	said(&b)
	whoever(&a)
	whoever(&b)
	first, err := json.Marshal(a)
	if err != nil {
		return false
	}
	second, err := json.Marshal(b)
	return err == nil && bytes.Equal(first, second)
}

// whoever blanks who did an act: said again by another it is the same.
func whoever(x any) {
	if who := reflect.ValueOf(x).Elem().FieldByName("Who"); who.IsValid() {
		who.SetString("")
	}
}

// asIs is for acts to which the program adds nothing.
func asIs[T any](*T) {}
