package store

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"time"

	"github.com/jmoiron/sqlx"

	"oldburrow/core/animal"
	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/shed"
	"oldburrow/core/weather"
)

// Kind is one kind of record, as it goes out of a file whole and comes into one: with all that was said of it, and with nothing that is made
// out of other records. Table names it.
type Kind struct {
	Table string
	// each reads all of a line, in the order of their ids; of every line where none is named.
	each func(v View, lineID string, tell func(Record) error) error
	read func(raw []byte) (Record, error)
	put  func(t *Tx, r Record) error
	raw  func(x any) ([]byte, error)
	// editable is one that is changed and counts its versions; others are acts, which are only taken back.
	editable bool
	since    int64
}

// Record is one record: its id, or what else it is known by, a pointer to what the core calls it, and of a photo, where it comes in, its
// picture.
type Record struct {
	ID      string
	Is      any
	Picture []byte
}

// Since is the form of a file from which on there are such records; 0 where there always were.
func (k Kind) Since() int64 { return k.since }

// Name is what a record of the kind is called.
func (k Kind) Name() string { return things[k.Table] }

// HourOfWeather is an hour of a line's weather: as it was or as it is forecast, and whether the user wrote it down.
type HourOfWeather struct {
	LineID   string `json:"lineId" db:"line_id"`
	Forecast bool   `json:"forecast" db:"forecast"`
	Own      bool   `json:"own" db:"own"`
	cells
}

// cells are an hour's without its methods: they would read and write an hour alone.
type cells weather.Hour

// anyTime is after everything that was seen or done: what once stood in a file did not lie ahead.
var anyTime = time.Date(2199, 12, 31, 0, 0, 0, 0, time.UTC)

// Kinds are all of them, each after those that it names.
func Kinds() []Kind { return slices.Clone(kinds) }

var kinds = []Kind{
	since(14, kindOf("people", itself[line.Person], itself, byID, line.Person.Check)),
	kindOf("lines", itself[line.Line], itself, byID, line.Line.Check),
	kindOf("seasons", itself[line.Season], itself, byID, line.Season.Check),
	withPictures(kindOf("photos", itself[line.Photo], itself, byID, line.Photo.Check)),
	kindOf("properties", itself[line.Property], itself, byID, line.Property.Check),
	kindOf("spots", entityOf[spotRow, line.Spot], rowOf[spotRow, line.Spot], byID, line.Spot.Check),
	kindOf("falls", itself[line.Fall], itself, byID, func(x line.Fall) error { return x.Check(anyTime) }),
	kindOf("signs", entityOf[signRow, line.Sign], rowOf[signRow, line.Sign], byID, byReference(func(x line.Sign, known animal.Animals) error { return x.Check(anyTime, known) })),
	kindOf("features", entityOf[featureRow, line.Feature], rowOf[featureRow, line.Feature], byID, line.Feature.Check),
	kindOf("readings", itself[line.Reading], itself, byID, func(x line.Reading) error { return x.Check(anyTime) }),
	kindOf("traps", trapRow.entity, trapRowOf, byID, byReference(line.Trap.Check)),
	kindOf("trap_versions", versionRow.entity, versionRowOf, versionKey, byReference(func(x shed.TrapVersion, known animal.Animals) error { return x.Trap.Check(known) })),
	kindOf("shed_checks", entityOf[checkRow, line.ShedCheck], rowOf[checkRow, line.ShedCheck], byID, line.ShedCheck.Check),
	kindOf("measurements", entityOf[measurementRow, line.Measurement], rowOf[measurementRow, line.Measurement], byID, line.Measurement.Check),
	kindOf("calibrations", itself[line.Calibration], itself, byID, line.Calibration.Check),
	kindOf("lures", itself[line.Lure], itself, byID, line.Lure.Check),
	kindOf("bottles", itself[line.Bottle], itself, byID, line.Bottle.Check),
	kindOf("levels", itself[line.Level], itself, byID, line.Level.Check),
	kindOf("doses", itself[line.Dose], itself, byID, line.Dose.Check),
	kindOf("recipes", entityOf[recipeRow, line.Recipe], rowOf[recipeRow, line.Recipe], byID, line.Recipe.Check),
	kindOf("patterns", entityOf[patternRow, line.Pattern], rowOf[patternRow, line.Pattern], byID, byReference(line.Pattern.Check)),
	kindOf("sets", itself[line.Set], itself, byID, line.Set.Check),
	kindOf("designs", entityOf[designRow, line.Design], rowOf[designRow, line.Design], byID, byReference(line.Design.CheckDraft)),
	asMakes(kindOf("makes", entityOf[makeRow, line.Make], rowOf[makeRow, line.Make], byID, byReference(line.Make.Check))),
	kindOf("pulls", entityOf[pullRow, line.Pull], rowOf[pullRow, line.Pull], byID, line.Pull.Check),
	withTheirCatches(kindOf("visits", visitRow.entity, rowOf[visitRow, line.Visit], byID, byReference(line.Visit.Check))),
	kindOf("mends", entityOf[mendRow, line.Mend], rowOf[mendRow, line.Mend], byID, byReference(line.Mend.CheckKept)),
	since(17, kindOf("corrections", entityOf[correctionRow, line.Correction], rowOf[correctionRow, line.Correction], byID, byReference(line.Correction.CheckKept))),
	kindOf("kit_marks", itself[line.KitMark], itself, byID, line.KitMark.Check),
	kindOf("weather_hours", itself[HourOfWeather], itself, hourKey, func(x HourOfWeather) error { return weather.Hour(x.cells).Check() }),
}

func since(form int64, k Kind) Kind {
	k.since = form
	return k
}

func itself[T any](x T) (T, error) { return x, nil }

// byReference is a check that goes by the reference animals alone: of what comes whole out of a file, one that is not among them is kept.
func byReference[T any](check func(T, animal.Animals) error) func(T) error {
	return func(x T) error { return check(x, animal.Reference) }
}

func hasVersion[T any]() bool {
	_, has := reflect.TypeFor[T]().FieldByName("Version")
	return has
}

func byID[T any](x *T) string { return reflect.ValueOf(x).Elem().FieldByName("ID").String() }

func versionKey(x *shed.TrapVersion) string { return fmt.Sprintf("%s %09d", x.Trap.ID, x.Trap.Version) }

func hourKey(x *HourOfWeather) string {
	return fmt.Sprintf("%s %t %s", x.LineID, x.Forecast, x.At.UTC().Format(time.RFC3339))
}

// kindOf is a kind whose records are the rows of a table.
func kindOf[R, T any](table string, entity func(R) (T, error), rowOf func(T) (R, error), id func(*T) string, check func(T) error) Kind {
	return Kind{
		Table: table,
		each: func(v View, lineID string, tell func(Record) error) error {
			return eachRow(v, table, lineID, func(row R) error {
				x, err := entity(row)
				if err != nil {
					return fmt.Errorf("what is nested in it is broken: %w", err)
				}
				return tell(Record{ID: id(&x), Is: &x})
			})
		},
		read: func(raw []byte) (Record, error) {
			var x T
			reader := json.NewDecoder(bytes.NewReader(raw))
			reader.DisallowUnknownFields()
			if err := reader.Decode(&x); err != nil {
				return Record{}, err
			}
			return Record{ID: id(&x), Is: &x}, refuse.Known(check(x))
		},
		put: func(t *Tx, r Record) error {
			row, err := rowOf(*r.Is.(*T))
			if err != nil {
				return err
			}
			return insert(t, table, row)
		},
		raw:      json.Marshal,
		editable: hasVersion[T](),
	}
}

// eachRow reads the rows of a table one after another. One that cannot be read ends it: what goes out is whole.
func eachRow[R any](v View, table, lineID string, tell func(R) error) error {
	where, args := ofLine(table, lineID)
	rows, err := v.q.Queryx(`SELECT `+columnsOf(table)+` FROM `+table+where+` ORDER BY `+orderOf(table), args...)
	if err != nil {
		return InWords(err)
	}
	defer rows.Close()
	for rows.Next() {
		var row R
		if err := rows.StructScan(&row); err != nil || !timesCanBe(reflect.ValueOf(row)) {
			if err := rows.Err(); err != nil { // it was stopped meanwhile
				return InWords(err)
			}
			return unreadable(table, rows)
		}
		if err := tell(row); err != nil {
			return err
		}
	}
	return InWords(rows.Err())
}

// ofLine is the condition that the rows of a table are those of a line; none where no line is named.
func ofLine(table, lineID string) (where string, args []any) {
	switch {
	case lineID == "" || table == "people": // who helps does so on every line
		return "", nil
	case table == "lines":
		return ` WHERE id = ?`, []any{lineID}
	case table == "trap_versions":
		return ` WHERE trap_id IN (SELECT id FROM traps WHERE line_id = ?)`, []any{lineID}
	}
	return ` WHERE line_id = ?`, []any{lineID}
}

// columnsOf is what is read of a table: all but pictures, which are read one by one.
func columnsOf(table string) string {
	if table == "photos" {
		return "id, line_id, width, height, lat_deg, lon_deg, taken_at"
	}
	return "*"
}

// orderOf is the order in which a table is read.
func orderOf(table string) string {
	switch table {
	case "trap_versions":
		return "trap_id, version"
	case "weather_hours":
		return "line_id, forecast, at"
	}
	return "id"
}

func unreadable(table string, rows *sqlx.Rows) error {
	cells := map[string]any{}
	_ = rows.MapScan(cells)
	return fmt.Errorf("a %s (%v) cannot be read: the file is left as it is. A copy of it (backup) holds it all the same", things[table], cells["id"])
}

// withPictures has each photo come in with its picture.
func withPictures(k Kind) Kind {
	k.put = func(t *Tx, r Record) error {
		_, err := t.PutPhoto(*r.Is.(*line.Photo), r.Picture)
		return err
	}
	return k
}

// asMakes leaves out of a make what the other acts at its set say of it.
func asMakes(k Kind) Kind {
	type alone struct {
		line.Make
		Follows  *string    `json:"follows,omitempty"`
		PulledAt *time.Time `json:"pulledAt,omitempty"`
	}
	k.raw = func(x any) ([]byte, error) { return json.Marshal(alone{Make: *x.(*line.Make)}) }
	return k
}

// withTheirCatches has each look carry its catches.
func withTheirCatches(k Kind) Kind {
	looks, put := k.each, k.put
	k.each = func(v View, lineID string, tell func(Record) error) error {
		next, stop := catchesInOrder(v, lineID)
		defer stop()
		return looks(v, lineID, func(r Record) (err error) {
			x := r.Is.(*line.Visit)
			if x.Catches, err = next(x.ID); err != nil {
				return err
			}
			return tell(r)
		})
	}
	k.put = func(t *Tx, r Record) error {
		look := r.Is.(*line.Visit).WithLists()
		if err := put(t, Record{Is: &look}); err != nil {
			return err
		}
		return t.putCatches(look)
	}
	return k
}

// catchesInOrder gives the catches of one look after another, as long as looks are asked for in the order of their ids.
func catchesInOrder(v View, lineID string) (of func(visitID string) ([]line.Catch, error), stop func()) {
	where, args := ofLine("visits", lineID)
	rows, err := v.q.Queryx(`SELECT * FROM catches WHERE visit_id IN (SELECT id FROM visits`+where+`) ORDER BY visit_id, id`, args...)
	if err != nil {
		return func(string) ([]line.Catch, error) { return nil, InWords(err) }, func() {}
	}
	var ahead *line.Catch // read already, of a look that was not asked for yet
	read := func() error {
		ahead = nil
		if !rows.Next() {
			return InWords(rows.Err())
		}
		var row catchRow
		if err := rows.StructScan(&row); err != nil {
			return unreadable("catches", rows)
		}
		c, err := row.entity()
		if err != nil {
			return fmt.Errorf("a catch (%s) cannot be read: %w", row.ID, err)
		}
		ahead = &c
		return nil
	}
	first := true
	return func(visitID string) ([]line.Catch, error) {
		found := []line.Catch{}
		if first {
			first = false
			if err := read(); err != nil {
				return nil, err
			}
		}
		for ahead != nil && ahead.VisitID <= visitID {
			if ahead.VisitID == visitID {
				found = append(found, *ahead)
			}
			if err := read(); err != nil {
				return nil, err
			}
		}
		return found, nil
	}, func() { rows.Close() }
}

// Each gives every record of a kind that a line has, or that the file has where no line is named, in the order of their ids. It fails at the
// first that cannot be read.
func (k Kind) Each(v View, lineID string, tell func(Record) error) error {
	if err := k.each(v, lineID, tell); err != nil {
		return fmt.Errorf("read the %s: %w", k.Table, err)
	}
	return nil
}

// Write writes a record down, on one line without its end.
func (k Kind) Write(r Record) ([]byte, error) { return k.raw(r.Is) }

// Read reads a record as Write writes it. It refuses one that cannot be, and one that reads otherwise than it is written: with a field more,
// or one less, which would stand for nought. One of an older form may lack what came since.
func (k Kind) Read(raw []byte, older bool) (Record, error) {
	r, err := k.read(raw)
	var fields refuse.Problems
	switch {
	case errors.As(err, &fields):
		return r, err
	case err != nil:
		return r, errors.New("is not written as it has to be")
	}
	if !older {
		again, err := k.raw(r.Is)
		if err != nil {
			return r, err
		}
		if !bytes.Equal(raw, again) && !reflect.DeepEqual(fieldsOf(raw), fieldsOf(again)) {
			return r, errors.New("has a field too many or too few, or one that is written twice")
		}
	}
	if k.editable && reflect.ValueOf(r.Is).Elem().FieldByName("Version").Int() < 1 {
		return r, errors.New("has no version: it is at least 1")
	}
	return r, nil
}

func fieldsOf(raw []byte) map[string]any {
	fields := map[string]any{}
	_ = json.Unmarshal(raw, &fields) // what is no object has none
	return fields
}

// Put keeps a record as it comes: Settle makes out what follows of all of them, and refuses those that do not belong together.
func (k Kind) Put(t *Tx, r Record) error { return k.put(t, r) }

// Content is what a record says, in few figures: of two that say the same it is the same, however often either was changed and whatever the
// program added to it.
func (k Kind) Content(r Record) (string, error) {
	raw, err := k.raw(r.Is)
	if err != nil {
		return "", err
	}
	fields := fieldsOf(raw)
	maps.DeleteFunc(fields, func(name string, _ any) bool {
		return slices.Contains([]string{"version", "flags", "step", "fire"}, name) || k.Table == "sets" && name == "number"
	})
	if raw, err = json.Marshal(fields); err != nil {
		return "", err
	}
	sum := sha256.Sum256(raw)
	return hex.EncodeToString(sum[:8]), nil
}

// Contents are those of all records of the kind in the file, by id.
func (k Kind) Contents(v View) (map[string]string, error) {
	found := map[string]string{}
	err := k.Each(v, "", func(r Record) (err error) {
		found[r.ID], err = k.Content(r)
		return err
	})
	return found, err
}

// Count is how many records of the kind a line has, or the file.
func (k Kind) Count(v View, lineID string) (n int, err error) {
	where, args := ofLine(k.Table, lineID)
	return n, one(v.q, &n, `SELECT count(*) FROM `+k.Table+where, args...)
}
