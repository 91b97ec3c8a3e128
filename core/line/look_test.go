package line

import (
	"encoding/json"
	"strings"
	"testing"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/tally"
)

// Of two traps each is as it was found: the nights of one end, the other earns on; one animal in both is one animal.
func TestTwoTrapsOfOneSet(t *testing.T) {
	pair := Make{ID: "a", SetID: "set0", BuiltAt: day(1, 12), Layout: layout.Layout{Rigs: []layout.Rig{{Slot: 0, TrapID: "left"}, {Slot: 3, TrapID: "right"}}}}
	look := func(d int, finding Finding, rigs []RigFound, catches ...Catch) Visit {
		return Visit{ID: string(rune('a' + d)), MakeID: "a", At: day(d, 7), Found: Found{Finding: finding}, Rigs: rigs, Catches: catches}
	}
	said := func(left, right RigState) []RigFound { return []RigFound{{0, left}, {3, right}} }
	for _, c := range []struct {
		name   string
		looks  []Visit
		nights float64
		state  BeadState
	}{
		{"both set", []Visit{look(3, "quiet", nil)}, 6, Working},
		{"passed, said of each", []Visit{look(3, "passed", said("set", "set"))}, 6, Working},
		{"one fired", []Visit{look(3, "sprung", said("fired", "set"))}, 1 + 3, Open},
		{"which one fired was not said", []Visit{look(3, "sprung", nil)}, 1 + 1, Open},
		{"one holds, by the catch", []Visit{look(3, "catch", nil, Catch{ID: "x", Rigs: []int{3}})}, 1 + 3, Open},
		{"both hold one animal", []Visit{look(3, "catch", nil, Catch{ID: "x", Rigs: []int{0, 3}})}, 2, Open},
		{"one locked, then both set", []Visit{look(3, "locked", said("locked", "set")), look(4, "quiet", nil)}, 2 + 3, Working},
		{"dug out", []Visit{look(2, "dug", nil)}, .5 + .5, Open},
		{"dug out, one still set", []Visit{look(2, "dug", said("fired", "set"))}, .5 + 3, Open},
		{"cannot fire", []Visit{look(2, "unable", nil)}, .5 + .5, Open},
		{"one gone and given up", []Visit{look(2, "gone", said("set", "gone")), look(4, "given_up", []RigFound{{0, "set"}})}, 3 + .5, Open},
		{"gone, and not found for a day", []Visit{look(2, "gone", said("set", "gone")), look(3, "gone", said("set", "gone"))}, .5 + 3, Sought},
		{"one gone", []Visit{look(2, "gone", said("set", "gone"))}, .5 + 3, Sought},
		{"one gone, then found", []Visit{look(2, "gone", said("set", "gone")), look(4, "found", []RigFound{{0, "set"}})}, .5 + 3, Open},
	} {
		n := Noted{Sets: []Set{{ID: "set0", Number: 1}}, Makes: []Make{pair}, Visits: c.looks}
		r := NewRecord(day(4, 9), day(1, 0).Location(), tally.Span{}, n)
		if got := r.TrapNights(r.Makes[0]); got != c.nights || r.Bead(r.Makes[0]).State != c.state {
			t.Errorf("%s: %g nights and %s, want %g and %s", c.name, got, r.Bead(r.Makes[0]).State, c.nights, c.state)
		}
		if stood := r.Stood(); stood[0].Caught > 1 {
			t.Errorf("%s: one animal counts %d times", c.name, stood[0].Caught)
		}
		if len(r.With("left")) != 1 || len(r.With("right")) != 1 {
			t.Errorf("%s: a trap is in no make", c.name)
		}
	}
}

func TestFoundAtARig(t *testing.T) {
	for _, c := range []struct {
		x    Visit
		want Finding
	}{
		{Visit{Found: Found{Finding: "stepped"}}, "stepped"},
		{Visit{Found: Found{Finding: "stepped"}, Rigs: []RigFound{{0, "set"}}}, "stepped"},
		{Visit{Found: Found{Finding: "sprung"}, Rigs: []RigFound{{0, "set"}}}, "quiet"},
		{Visit{Found: Found{Finding: "quiet"}, Rigs: []RigFound{{0, "fired"}}}, "sprung"},
		{Visit{Found: Found{Finding: "catch"}, Catches: []Catch{{}}}, "catch"},
		{Visit{Found: Found{Finding: "catch"}, Catches: []Catch{{Rigs: []int{1}}}}, "quiet"},
	} {
		if got := c.x.FoundAt(0); got != c.want {
			t.Errorf("%+v: %s, want %s", c.x, got, c.want)
		}
	}
}

// A look of a program that did not ask whose it was is read as one that does not say.
func TestALookFromBefore(t *testing.T) {
	var x Visit
	old := `{"id":"01M5DW3X00DBXAZ5WG7W8QV3NW","makeId":"01M5DW3X00DBXAZ5WG7W8QV3NX","at":"2026-12-04T13:10:00Z","finding":"passed","note":"","catches":[],"flags":"","undoneAt":null}`
	if err := json.Unmarshal([]byte(old), &x); err != nil {
		t.Fatal(err)
	}
	if err := x.Check(animals); err != nil || x.Finding != "passed" || x.Animal != "" || !x.At.Equal(time.Date(2026, 12, 4, 13, 10, 0, 0, time.UTC)) {
		t.Errorf("%+v, %v", x, err)
	}
}

// The one word that jaws had says what it said, and nothing else.
func TestJawsOfOneWord(t *testing.T) {
	for word, want := range map[string]string{
		"square":    `"jawForm":"square","offset":null,"offsetMm":null,"laminated":null,"padded":null`,
		"offset":    `"jawForm":"","offset":true,"offsetMm":null,"laminated":null,"padded":null`,
		"laminated": `"jawForm":"","offset":null,"offsetMm":null,"laminated":true,"padded":null`,
		"padded":    `"jawForm":"","offset":null,"offsetMm":null,"laminated":null,"padded":true`,
		"none":      `"jawForm":"","offset":null,"offsetMm":null,"laminated":null,"padded":null`,
	} {
		var x Trap
		if err := json.Unmarshal([]byte(`{"number":7,"jaw":"`+word+`"}`), &x); err != nil {
			t.Fatal(err)
		}
		if raw, _ := json.Marshal(x); !strings.Contains(string(raw), want) || x.Number != 7 {
			t.Errorf("%s: %s", word, raw)
		}
	}
	var x Trap
	if err := json.Unmarshal([]byte(`{"jaw":"toothed"}`), &x); field(err) != "jaw" {
		t.Errorf("%v", err)
	}
	if err := json.Unmarshal([]byte(`{"claws":2}`), &x); err == nil {
		t.Error("what is no field of a trap is taken")
	}
}
