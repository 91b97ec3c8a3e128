package store

import (
	"errors"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/line"
	"oldburrow/core/tally"
)

func open(t *testing.T, path string) *Store {
	t.Helper()
	s, err := Open(path)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

func put(t *testing.T, s *Store, l line.Line) error {
	t.Helper()
	_, err := s.Write(Asked{ID: ulid.Make().String()}, time.Now(), func(tx *Tx) (any, error) { return tx.PutLine(l) })
	return err
}

func TestFileIsDurableAndKeepsItsIdentity(t *testing.T) {
	path := filepath.Join(t.TempDir(), "a line?.db")
	s := open(t, path)
	for pragma, want := range map[string]string{"journal_mode": "wal", "synchronous": "2", "foreign_keys": "1"} {
		var got string
		if err := s.db.Get(&got, "PRAGMA "+pragma); err != nil || got != want {
			t.Errorf("%s is %s, want %s (%v)", pragma, got, want, err)
		}
	}
	before, _ := s.Fact("id")
	if err := put(t, s, line.Line{Zone: "America/Denver", ID: ulid.Make().String(), Name: "Kettle Fork"}); err != nil {
		t.Fatal(err)
	}
	s.Close()
	s = open(t, path)
	after, _ := s.Fact("id")
	lines, err := View{q: s.db}.Lines()
	if err != nil || len(lines) != 1 || lines[0].Name != "Kettle Fork" || lines[0].Version != 1 {
		t.Errorf("after opening again: %+v, %v", lines, err)
	}
	if before == "" || before != after {
		t.Errorf("the file was %q and is %q", before, after)
	}
}

func TestAFailedChangeLeavesNothing(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "line.db"))
	mutation := ulid.Make().String()
	boom := errors.New("boom")
	_, err := s.Write(Asked{ID: mutation}, time.Now(), func(tx *Tx) (any, error) {
		if _, err := tx.PutLine(line.Line{Zone: "America/Denver", ID: ulid.Make().String()}); err != nil {
			return nil, err
		}
		return nil, boom
	})
	if !errors.Is(err, boom) {
		t.Fatal(err)
	}
	if lines, _ := (View{q: s.db}).Lines(); len(lines) != 0 {
		t.Errorf("half a change stays: %+v", lines)
	}
	if _, err := s.Write(Asked{ID: mutation}, time.Now(), func(*Tx) (any, error) { return "done", nil }); err != nil {
		t.Errorf("the same mutation cannot be tried again: %v", err)
	}
}

func TestNumbersAreNeverReused(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "line.db"))
	l := line.Line{Zone: "America/Denver", ID: ulid.Make().String()}
	property := line.Property{ID: ulid.Make().String(), LineID: l.ID}
	spot := line.Spot{ID: ulid.Make().String(), LineID: l.ID, PropertyID: property.ID}
	_, err := s.Write(Asked{ID: ulid.Make().String()}, time.Now(), func(tx *Tx) (any, error) {
		if _, err := tx.PutLine(l); err != nil {
			return nil, err
		}
		if _, err := tx.PutProperty(property); err != nil {
			return nil, err
		}
		if _, err := tx.PutSpot(spot); err != nil {
			return nil, err
		}
		for i := range 3 {
			design := line.Design{ID: ulid.Make().String(), LineID: l.ID, SpotID: spot.ID, Layout: laidOut(t)}
			if _, err := tx.PutDesign(design); err != nil {
				return nil, err
			}
			built := time.Date(2026, 11, 1+i, 12, 0, 0, 0, time.UTC)
			if _, err := tx.PutMake(line.Make{ID: ulid.Make().String(), LineID: l.ID, SetID: ulid.Make().String(), DesignID: design.ID, BuiltAt: built, Layout: laidOut(t)}); err != nil {
				return nil, err
			}
		}
		return nil, nil
	})
	if err != nil {
		t.Fatal(err)
	}
	n, err := View{q: s.db}.Noted(l.ID, tally.Span{})
	if sets := n.Sets; err != nil || len(sets) != 3 || sets[0].Number != 1 || sets[2].Number != 3 {
		t.Errorf("sets: %+v, %v", sets, err)
	}
	makes := n.Makes
	if err != nil || len(makes) != 3 || makes[0].BuiltAt.Day() != 1 {
		t.Errorf("makes: %+v, %v", makes, err)
	}
}

// A change goes on from the version that stands, and from no other: neither one before, nor one that nobody was ever given.
func TestAChangeGoesOnFromWhatStands(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "line.db"))
	l := line.Line{ID: ulid.Make().String(), Name: "First", Zone: "UTC"}
	for range 3 {
		if err := put(t, s, l); err != nil {
			t.Fatal(err)
		}
		l.Version++
	}
	for _, version := range []int{0, 1, 2, 4, 99} {
		x := l
		x.Version, x.Name = version, "Another"
		var conflict Conflict
		if err := put(t, s, x); !errors.As(err, &conflict) || conflict.Theirs.(line.Line).Version != 3 {
			t.Errorf("from version %d: %v", version, err)
		}
	}
	if err := put(t, s, l); err != nil {
		t.Errorf("from the version that stands: %v", err)
	}
}

// What is searched for by its finding has an index over just these findings: one that the core knows more of wants a migration.
func TestTheIndexesKnowTheFindings(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "line.db"))
	for name, list := range map[string]string{"visits_held": holding, "visits_gone": away} {
		var is string
		if err := s.db.Get(&is, `SELECT sql FROM sqlite_master WHERE name = ?`, name); err != nil {
			t.Fatal(err)
		}
		if !strings.Contains(is, "finding IN ("+list+")") {
			t.Errorf("%s, and it is asked for %s", is, list)
		}
	}
}

// Whatever is an act is a kind of record too, which goes into archives, and has a name.
func TestActsAreKindsOfRecords(t *testing.T) {
	for _, a := range acts {
		if !slices.ContainsFunc(kinds, func(k Kind) bool { return k.Table == a.Path }) || things[a.Path] == "" {
			t.Errorf("%s is no kind of record", a.Path)
		}
		if told := a.Kind != ""; told && !slices.Contains(line.ActKinds, a.Kind) || told == (a.undo == nil) || told == (a.gone == "") {
			t.Errorf("%s: what the list of a day tells can be taken back, and has a word: %+v", a.Path, a)
		}
	}
}
