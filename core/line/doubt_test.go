package line

import (
	"encoding/json"
	"os"
	"testing"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/tally"
)

// What cannot be so is doubted for what it is, and nothing else; the browser is held to the same cases.
func TestDoubts(t *testing.T) {
	raw, err := os.ReadFile("../testdata/doubts.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []struct {
		Look  Visit
		Slots []int
		Away  bool
		Doubt string
	}
	if err := json.Unmarshal(raw, &cases); err != nil {
		t.Fatal(err)
	}
	for _, c := range cases {
		made := Make{ID: "M", SetID: "S", BuiltAt: day(1, 6)}
		for _, slot := range c.Slots {
			made.Layout.Rigs = append(made.Layout.Rigs, layout.Rig{Slot: slot})
		}
		look := c.Look
		look.ID, look.MakeID, look.At = "V", "M", day(3, 6)
		noted := Noted{Makes: []Make{made}, Visits: []Visit{look}}
		if c.Away {
			noted.Visits = append(noted.Visits, Visit{ID: "G", MakeID: "M", At: day(2, 6), Found: Found{Finding: "gone"}})
		}
		r := NewRecord(day(4, 6), time.UTC, tally.Span{}, noted)
		why := ""
		if len(r.Odd) > 0 {
			why = r.Odd[0].Why
		} else if look.StrangeTraps(made) != "" {
			why = "strange"
		}
		if why != c.Doubt {
			t.Errorf("%+v of %v: %q, want %q", c.Look, c.Slots, why, c.Doubt)
		}
	}
}

// A catch in a trap that the set does not have is in none of its traps, and the set wants to be remade all the same.
func TestACatchInAStrangeTrap(t *testing.T) {
	made := Make{ID: "M", SetID: "S", BuiltAt: day(1, 6), Layout: layout.Layout{Rigs: []layout.Rig{{Slot: 0}, {Slot: 1}}}}
	look := Visit{ID: "V", MakeID: "M", At: day(3, 6), Found: Found{Finding: "catch"}, Catches: []Catch{{ID: "C", Rigs: []int{7}}}}
	r := NewRecord(day(3, 7), time.UTC, tally.Span{}, Noted{Makes: []Make{made}, Visits: []Visit{look}})
	if bead := r.Bead(made); bead.State != Open || len(r.Looks("M")) != 1 {
		t.Errorf("%+v", bead)
	}
	for _, slot := range []int{0, 1} {
		if found := look.FoundAt(slot); found != "quiet" {
			t.Errorf("trap %d: %s", slot, found)
		}
	}
	if nights := r.TrapNights(made); nights != 4 {
		t.Errorf("%g trap-nights", nights)
	}
}
