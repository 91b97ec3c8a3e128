package store

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"io"
	"os"
	"path/filepath"
	"reflect"
	"testing"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/tally"
)

// fileFromBefore is a data file as the program wrote it before there were patterns: five sets, their looks and catches, a rack.
func fileFromBefore(t *testing.T) *Store {
	t.Helper()
	path := filepath.Join(t.TempDir(), "before.db")
	oldFile(t, path)
	return open(t, path)
}

// oldFile puts that file at a path.
func oldFile(t *testing.T, path string) {
	t.Helper()
	packed, err := os.ReadFile("testdata/before-patterns.db.gz")
	if err != nil {
		t.Fatal(err)
	}
	reader, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		t.Fatal(err)
	}
	raw, err := io.ReadAll(reader)
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(path, raw, 0o600); err != nil {
		t.Fatal(err)
	}
}

// A file from before opens with everything in it: every set as it was laid out, every look, every trap with what its jaws were said to be.
func TestAFileFromBefore(t *testing.T) {
	s := fileFromBefore(t)
	old := map[string]string{} // the layouts as they stand in the file
	var rows []struct{ ID, Layout string }
	if err := s.db.Select(&rows, `SELECT id, layout FROM makes UNION ALL SELECT id, layout FROM designs`); err != nil {
		t.Fatal(err)
	}
	for _, row := range rows {
		old[row.ID] = row.Layout
	}
	err := s.Read(t.Context(), func(v View) error {
		lines, err := v.Lines()
		if err != nil || len(lines) != 1 {
			t.Fatalf("%v, %v", lines, err)
		}
		noted, err := v.Noted(lines[0].ID, tally.Span{})
		if err != nil {
			return err
		}
		designs, err := v.Designs(lines[0].ID, noted.Sets)
		if err != nil {
			return err
		}
		if len(noted.Sets) != 5 || len(noted.Makes) != 15 || len(designs) != 6 || len(noted.Visits) != 179 || len(v.Unread()) != 0 {
			t.Errorf("%d sets, %d makes, %d designs, %d looks; %v cannot be read", len(noted.Sets), len(noted.Makes), len(designs), len(noted.Visits), v.Unread())
		}
		same := func(id string, l layout.Layout) {
			var before struct {
				Trap struct{ ID string }
				Pan  layout.Pan
			}
			if err := json.Unmarshal([]byte(old[id]), &before); err != nil {
				t.Fatal(err)
			}
			if err := l.Check(); err != nil || l.Rigs[0].TrapID != before.Trap.ID || *l.Rigs[0].Pan != before.Pan {
				t.Errorf("%s (%v): %+v, was %s", id, err, l, old[id])
			}
		}
		for _, m := range noted.Makes {
			same(m.ID, m.Layout)
			of, err := v.NotedOfTrap(lines[0].ID, m.Layout.Rigs[0].TrapID)
			if err != nil || len(of.Makes) == 0 {
				t.Errorf("trap %s is in no make: %v", m.Layout.Rigs[0].TrapID, err)
			}
		}
		for _, d := range designs {
			same(d.ID, d.Layout)
		}
		caught := 0
		for _, look := range noted.Visits {
			caught += len(look.Catches)
			if look.Animal != "" || len(look.Also) != 0 || len(look.Rigs) != 0 {
				t.Errorf("nobody said this: %+v", look)
			}
		}
		if caught != 9 {
			t.Errorf("%d catches", caught)
		}
		traps, err := v.Traps(lines[0].ID)
		counts := map[string]int{}
		for _, x := range traps {
			versions, err := v.TrapVersions(x.ID)
			if err != nil {
				return err
			}
			newest := versions[len(versions)-1].Trap
			newest.Version = x.Version
			if !reflect.DeepEqual(newest, x) {
				t.Errorf("its newest form is %+v, it is %+v", newest, x)
			}
			switch {
			case x.Offset != nil && *x.Offset:
				counts["offset"]++
			case x.Laminated != nil && *x.Laminated:
				counts["laminated"]++
			case x.Padded != nil && *x.Padded:
				counts["padded"]++
			default:
				counts[string(x.JawForm)]++
			}
		}
		if want := map[string]int{"offset": 13, "laminated": 5, "padded": 3, "square": 8, "": 3}; !reflect.DeepEqual(counts, want) {
			t.Errorf("jaws: %v, want %v", counts, want)
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
}

// An act that was sent before and comes again afterwards is itself, in whatever form it was written.
func TestAnActFromBeforeComesAgain(t *testing.T) {
	s := fileFromBefore(t)
	var row struct {
		line.Make
		Layout string `db:"layout"`
	}
	if err := s.db.Get(&row, `SELECT id, line_id, set_id, design_id, target, layout, built_at, step, fire, flags FROM makes ORDER BY id LIMIT 1`); err != nil {
		t.Fatal(err)
	}
	again := row.Make
	if err := json.Unmarshal([]byte(row.Layout), &again.Layout); err != nil {
		t.Fatal(err)
	}
	if err := doing(t, s, func(tx *Tx) error { return second(tx.PutMake(again)) }); err != nil {
		t.Errorf("the same make again: %v", err)
	}
	again.Layout.Rigs[0].Pan = &layout.Pan{YMm: 200, DiameterMm: 60, GaugeN: 9}
	if err := doing(t, s, func(tx *Tx) error { return second(tx.PutMake(again)) }); err == nil {
		t.Error("another make under the same id is taken")
	}
}

// What a look says of its animal, of what else it found and of each trap comes back as it was said; a trap is missing by its own rig.
func TestALookAtTwoTraps(t *testing.T) {
	c := newScene(t)
	m := line.Make{ID: id(), LineID: c.line.ID, SetID: c.sets[0], DesignID: c.designs[0].ID, Target: "coyote", BuiltAt: noon.AddDate(0, 0, -5)}
	m.Layout = laidOut(t, c.traps[0].ID, c.traps[1].ID)
	look := line.Visit{
		ID: id(), LineID: c.line.ID, MakeID: m.ID, At: noon.AddDate(0, 0, -2), Found: line.Found{Finding: "catch", Animal: "coyote", By: "seen"},
		Also:    []line.Found{{Finding: "passed", Animal: "red_fox", By: "track"}, {Finding: "dug"}},
		Seen:    line.Seen{Side: "left", Bed: "frozen", Prints: []line.Print{{XMm: 40, YMm: 210}}, Search: &line.Search{Toward: "nw", Cover: "cattails"}},
		Rigs:    []line.RigFound{{Slot: 0, State: "holding"}, {Slot: 1, State: "gone"}},
		Catches: []line.Catch{{ID: id(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad", Rigs: []int{0}, More: line.More{Were: []line.Condition{"prime"}, WeightG: new(13500.0)}}},
	}
	c.do(func(tx *Tx) error { return second(tx.PutMake(m)) })
	c.do(func(tx *Tx) error { return second(tx.PutVisit(look)) })
	c.do(func(tx *Tx) error { return second(tx.PutVisit(look)) })
	look.Catches[0].VisitID = look.ID
	for name, n := range map[string]func(View) (line.Noted, error){
		"the line":    func(v View) (line.Noted, error) { return v.Noted(c.line.ID, tally.Span{}) },
		"second trap": func(v View) (line.Noted, error) { return v.NotedOfTrap(c.line.ID, c.traps[1].ID) },
	} {
		err := c.s.Read(t.Context(), func(v View) error {
			noted, err := n(v)
			if err == nil && (len(noted.Visits) != 1 || !reflect.DeepEqual(noted.Visits[0], look)) {
				t.Errorf("%s: %+v, want %+v", name, noted.Visits, look)
			}
			return err
		})
		if err != nil {
			t.Fatal(err)
		}
	}
	found, err := View{q: c.s.db}.GoneBefore(c.line.ID, noon)
	if err != nil || len(found) != 1 || found[c.traps[1].ID].Set.ID != c.sets[0] {
		t.Errorf("gone: %+v, %v", found, err)
	}
}
