package store

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"path/filepath"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"
	"github.com/pressly/goose/v3"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/schools"
	"oldburrow/core/tally"
)

var noon = time.Date(2026, 12, 4, 19, 0, 0, 0, time.UTC)

func id() string { return ulid.Make().String() }

// doing does one change and gives its error.
func doing(t *testing.T, s *Store, change func(*Tx) error) error {
	t.Helper()
	_, err := s.Write(Asked{ID: id()}, noon, func(tx *Tx) (any, error) { return nil, change(tx) })
	return err
}

// field is the first field that an error names.
func field(err error) string {
	var p refuse.Problems
	if errors.As(err, &p) {
		return p[0].Field
	}
	return ""
}

// twoLines is a file with two lines and a trap on the rack of the first.
func twoLines(t *testing.T) (s *Store, first, second line.Line, trap line.Trap) {
	t.Helper()
	s = open(t, filepath.Join(t.TempDir(), "line.db"))
	first, second = line.Line{ID: id(), Name: "First", Zone: "America/Denver"}, line.Line{ID: id(), Name: "Second", Zone: "America/Denver"}
	trap = line.NewTrap()
	trap.ID, trap.LineID, trap.Number, trap.Size, trap.Spares = id(), first.ID, 7, "five and a half", []string{"skunk"}
	err := doing(t, s, func(tx *Tx) (err error) {
		for _, l := range []line.Line{first, second} {
			if _, err := tx.PutLine(l); err != nil {
				return err
			}
		}
		trap, err = tx.PutTrap(trap, noon)
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	return s, first, second, trap
}

// laidOut is a hole with some traps in it: one, or two.
func laidOut(t *testing.T, traps ...string) layout.Layout {
	t.Helper()
	l, err := layout.New([]string{"hole", "hole", "robbed_rebuild"}[len(traps)], layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	for i, id := range traps {
		l.Rigs[i].TrapID = id
	}
	return l
}

// olderFile makes a data file as a version of the program before this one left it.
func olderFile(t *testing.T, version int64, rows ...string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), "old.db")
	db, err := sqlx.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		t.Fatal(err)
	}
	steps, err := goose.NewProvider(goose.DialectSQLite3, db.DB, files)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := steps.UpTo(context.Background(), version); err != nil {
		t.Fatal(err)
	}
	for _, row := range rows {
		if _, err := db.Exec(row); err != nil {
			t.Fatalf("%s: %v", row, err)
		}
	}
	return path
}

// A data file of the version before pulls were acts keeps its looks, and every make ends when it ended.
func TestAnOlderFileKeepsItsPulls(t *testing.T) {
	made := `INSERT INTO makes VALUES ('%s', 'L', '%s', 'D', %s, 'coyote', '{}', '2026-11-%s 12:00:00+00:00', %s, 0.3, 0.2, '')`
	s := open(t, olderFile(t, 4,
		`INSERT INTO lines VALUES ('L', 'Kettle Fork', 'America/Denver', 46.8, -105.3, 1)`,
		`INSERT INTO properties (id, line_id, name, permission, version) VALUES ('P', 'L', 'A', '', 1)`,
		`INSERT INTO spots (id, line_id, property_id, name, lat_deg, lon_deg, travel_bearing_deg, travel_width_mm, soil, wetness, version)
			VALUES ('S', 'L', 'P', 'Gate', 46.8, -105.3, 0, 600, 'loam', 'dry', 1)`,
		`INSERT INTO sets VALUES ('1', 'L', 'S', 1), ('2', 'L', 'S', 2)`,
		`INSERT INTO designs VALUES ('D', 'L', 'S', '1', 'coyote', '{}', 1)`,
		fmt.Sprintf(made, "A", "1", "NULL", "01", "'2026-11-05 12:00:00+00:00'"), // remade
		fmt.Sprintf(made, "B", "1", "'A'", "05", "'2026-11-09 08:00:00+00:00'"),  // pulled
		fmt.Sprintf(made, "C", "2", "NULL", "02", "NULL"),                        // stands
		`INSERT INTO visits VALUES ('V', 'L', 'A', '2026-11-03 12:00:00+00:00', 'quiet', '', '', NULL)`,
		`INSERT INTO mutations VALUES ('M', '"done"', '2026-11-03 12:00:00+00:00')`,
	))
	v := View{q: s.db}
	n, err := v.Noted("L", tally.Span{})
	if err != nil || len(n.Makes) != 3 || len(n.Visits) != 1 || len(n.Pulls) != 1 || n.Pulls[0].MakeID != "B" {
		t.Fatalf("noted: %+v, %v", n, err)
	}
	if standing := line.NewRecord(noon, time.UTC, tally.Span{}, n).Standing(); len(standing) != 1 || standing[0].ID != "C" {
		t.Errorf("what stands: %+v", standing)
	}
	var broken []struct{ Table string }
	if err := s.db.Select(&broken, `SELECT "table" FROM pragma_foreign_key_check`); err != nil || len(broken) > 0 {
		t.Errorf("dangling: %+v, %v", broken, err)
	}
	// What was done before is not done again, though nothing is known of what it asked.
	if answer, err := s.Write(Asked{ID: "M", Digest: "x"}, noon, func(*Tx) (any, error) { return "again", nil }); err != nil || string(answer) != `"done"` {
		t.Errorf("a replay answers %s, %v", answer, err)
	}
}

// A data file of the version before the shed is opened as it is, and then has one.
func TestAnOlderFileGetsTheShed(t *testing.T) {
	l := line.Line{ID: id(), Name: "Kettle Fork", Zone: "America/Denver"}
	path := olderFile(t, 3, `INSERT INTO lines VALUES ('`+l.ID+`', 'Kettle Fork', 'America/Denver', 0, 0, 1)`)
	s := open(t, path)
	lines, err := View{q: s.db}.Lines()
	if err != nil || len(lines) != 1 || lines[0].Name != l.Name || lines[0].Zone != l.Zone {
		t.Errorf("the line in it: %+v, %v", lines, err)
	}
	trap := line.NewTrap()
	trap.ID, trap.LineID, trap.Number, trap.Size = id(), l.ID, 1, "fox"
	if err := doing(t, s, func(tx *Tx) error { _, err := tx.PutTrap(trap, noon); return err }); err != nil {
		t.Error(err)
	}
	if traps, err := (View{q: s.db}).Traps(l.ID); err != nil || len(traps) != 1 {
		t.Errorf("its rack: %+v, %v", traps, err)
	}
}

func TestTrapsKeepWhatTheyWere(t *testing.T) {
	s, _, _, trap := twoLines(t)
	trap.Size, trap.Spares = "five and a quarter", nil
	err := doing(t, s, func(tx *Tx) (err error) { trap, err = tx.PutTrap(trap, noon.Add(time.Hour)); return err })
	if err != nil || trap.Version != 2 {
		t.Fatalf("%+v, %v", trap, err)
	}
	versions, err := View{q: s.db}.TrapVersions(trap.ID)
	if err != nil || len(versions) != 2 || versions[0].Trap.Size != "five and a half" || versions[0].Trap.Spares[0] != "skunk" ||
		versions[1].Trap.Size != trap.Size || versions[1].Trap.Spares == nil || !versions[1].At.Equal(noon.Add(time.Hour)) {
		t.Errorf("%+v, %v", versions, err)
	}
	stale := trap
	stale.Version = 1
	var conflict Conflict
	err = doing(t, s, func(tx *Tx) error { _, err := tx.PutTrap(stale, noon); return err })
	if !errors.As(err, &conflict) {
		t.Fatalf("an old version is taken: %v", err)
	}
	if theirs, ok := conflict.Theirs.(line.Trap); !ok || theirs.Size != trap.Size {
		t.Errorf("theirs is %+v", conflict.Theirs)
	}
	if versions, _ := (View{q: s.db}).TrapVersions(trap.ID); len(versions) != 2 {
		t.Error("a change that was refused stands in the story")
	}
}

// Each line has numbers of its own, and nothing of one line takes hold of a thing of another.
func TestLinesShareNothing(t *testing.T) {
	s, first, second, trap := twoLines(t)
	other := line.NewTrap()
	other.ID, other.LineID, other.Number, other.Size = id(), second.ID, trap.Number, "fox"
	lure := line.Lure{ID: id(), LineID: first.ID, Name: "Old Fence", Class: "gland", By: "volume", Dose: 2}
	bottle := line.Bottle{ID: id(), LineID: first.ID, LureID: lure.ID, Holds: 60}
	err := doing(t, s, func(tx *Tx) error {
		_, err := tx.PutTrap(other, noon)
		if err == nil {
			_, err = tx.PutLure(lure)
		}
		if err == nil {
			_, err = tx.PutBottle(bottle)
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	for want, change := range map[string]func(*Tx) error{
		"trapId": func(tx *Tx) error {
			_, err := tx.PutShedCheck(line.ShedCheck{ID: id(), LineID: second.ID, TrapID: trap.ID, At: noon})
			return err
		},
		"trapId ": func(tx *Tx) error {
			_, err := tx.PutMeasurement(line.Measurement{ID: id(), LineID: second.ID, TrapID: trap.ID, At: noon})
			return err
		},
		"lureId": func(tx *Tx) error {
			_, err := tx.PutBottle(line.Bottle{ID: id(), LineID: second.ID, LureID: lure.ID, Holds: 1})
			return err
		},
		"lureId ": func(tx *Tx) error {
			_, err := tx.PutDose(line.Dose{ID: id(), LineID: second.ID, LureID: lure.ID, At: noon, Count: 1})
			return err
		},
		"bottleId": func(tx *Tx) error {
			_, err := tx.PutLevel(line.Level{ID: id(), LineID: second.ID, BottleID: bottle.ID, At: noon})
			return err
		},
		"spotId": func(tx *Tx) error {
			nowhere := id()
			_, err := tx.PutDose(line.Dose{ID: id(), LineID: first.ID, LureID: lure.ID, SpotID: &nowhere, At: noon, Count: 1})
			return err
		},
	} {
		if got := field(doing(t, s, change)); got != want && got+" " != want {
			t.Errorf("%s: the refusal names %q", want, got)
		}
	}
	for l, want := range map[string]int{first.ID: 1, second.ID: 1} {
		if traps, err := (View{q: s.db}).Traps(l); err != nil || len(traps) != want {
			t.Errorf("%d traps, %v", len(traps), err)
		}
	}
	if lures, err := (View{q: s.db}).Poured(second.ID, noon); err != nil || len(lures) != 0 {
		t.Errorf("the second line's lures: %+v, %v", lures, err)
	}
	// The measurement of one line is not taken back from another.
	m := line.Measurement{ID: id(), LineID: first.ID, TrapID: trap.ID, At: noon, Gauge: "a", Factor: 1, Presses: []float64{18, 18, 18}}
	if err := doing(t, s, func(tx *Tx) error { _, err := tx.PutMeasurement(m); return err }); err != nil {
		t.Fatal(err)
	}
	err = doing(t, s, func(tx *Tx) error { _, err := tx.UndoMeasurement(second.ID, m.ID, noon); return err })
	if !errors.Is(err, ErrUnknown) {
		t.Errorf("taken back from another line: %v", err)
	}
	if found, err := (View{q: s.db}).Measurements(trap.ID); err != nil || len(found) != 1 || found[0].UndoneAt != nil || len(found[0].Presses) != 3 {
		t.Errorf("%+v, %v", found, err)
	}
}

// What is said of the kit is kept in the order in which it was said, whenever it arrives.
func TestKitMarksComeInOrderOfTime(t *testing.T) {
	s, first, _, _ := twoLines(t)
	for _, minutes := range []int{3, 1, 2} {
		mark := line.KitMark{ID: id(), LineID: first.ID, Day: "2026-12-05", Key: "pliers", Mark: "packed", On: minutes == 3, At: noon.Add(time.Duration(minutes) * time.Minute)}
		if err := doing(t, s, func(tx *Tx) error { _, err := tx.PutKitMark(mark); return err }); err != nil {
			t.Fatal(err)
		}
	}
	marks, err := View{q: s.db}.KitMarks(first.ID, "")
	if err != nil || len(marks) != 3 || !marks[2].On || marks[0].On {
		t.Errorf("%+v, %v", marks, err)
	}
}
