package store

import (
	"context"
	"errors"
	"io/fs"
	"path/filepath"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"
	"github.com/pressly/goose/v3"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
)

var noon = time.Date(2026, 12, 4, 19, 0, 0, 0, time.UTC)

func id() string { return ulid.Make().String() }

// doing does one change and gives its error.
func doing(t *testing.T, s *Store, change func(*Tx) error) error {
	t.Helper()
	_, err := s.Write(id(), noon, func(tx *Tx) (any, error) { return nil, change(tx) })
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
	first, second = line.Line{ID: id(), Name: "First"}, line.Line{ID: id(), Name: "Second"}
	trap = line.NewTrap()
	trap.ID, trap.LineID, trap.Number, trap.Size = id(), first.ID, 7, "five and a half"
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

// A data file of the version before the shed is opened as it is, and then has one.
func TestAnOlderFileGetsTheShed(t *testing.T) {
	path := filepath.Join(t.TempDir(), "old.db")
	db, err := sqlx.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		t.Fatal(err)
	}
	steps, err := goose.NewProvider(goose.DialectSQLite3, db.DB, files)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := steps.UpTo(context.Background(), 3); err != nil {
		t.Fatal(err)
	}
	s := &Store{db: db}
	l := line.Line{ID: id(), Name: "Kettle Fork", Zone: "America/Denver"}
	if err := put(t, s, l); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Traps(l.ID); err == nil {
		t.Fatal("the old file has a shed already")
	}
	db.Close()

	s = open(t, path)
	lines, err := s.Lines()
	if err != nil || len(lines) != 1 || lines[0].Name != l.Name || lines[0].Zone != l.Zone {
		t.Errorf("the line in it: %+v, %v", lines, err)
	}
	trap := line.NewTrap()
	trap.ID, trap.LineID, trap.Number, trap.Size = id(), l.ID, 1, "fox"
	if err := doing(t, s, func(tx *Tx) error { _, err := tx.PutTrap(trap, noon); return err }); err != nil {
		t.Error(err)
	}
	if traps, err := s.Traps(l.ID); err != nil || len(traps) != 1 {
		t.Errorf("its rack: %+v, %v", traps, err)
	}
}

func TestTrapsKeepWhatTheyWere(t *testing.T) {
	s, first, _, trap := twoLines(t)
	trap.Size, trap.Spares = "five and a quarter", nil
	err := doing(t, s, func(tx *Tx) (err error) { trap, err = tx.PutTrap(trap, noon.Add(time.Hour)); return err })
	if err != nil || trap.Version != 2 {
		t.Fatalf("%+v, %v", trap, err)
	}
	versions, err := s.TrapVersions(first.ID)
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
	if versions, _ := s.TrapVersions(first.ID); len(versions) != 2 {
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
		if traps, err := s.Traps(l); err != nil || len(traps) != want {
			t.Errorf("%d traps, %v", len(traps), err)
		}
	}
	if lures, err := s.Lures(second.ID); err != nil || len(lures) != 0 {
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
	if found, err := s.Measurements(first.ID); err != nil || len(found) != 1 || found[0].UndoneAt != nil || len(found[0].Presses) != 3 {
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
	marks, err := s.KitMarks(first.ID)
	if err != nil || len(marks) != 3 || !marks[2].On || marks[0].On {
		t.Errorf("%+v, %v", marks, err)
	}
}
