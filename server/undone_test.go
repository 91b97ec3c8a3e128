package server

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/store"
)

// asIfNever takes out of an answer what only says that something was taken back, and how often things were written.
func asIfNever(answer string) any {
	_, body, _ := strings.Cut(answer, " ")
	var found any
	if err := json.Unmarshal([]byte(body), &found); err != nil {
		return answer // a file that goes out
	}
	return withoutUndone(found)
}

func withoutUndone(x any) any {
	switch x := x.(type) {
	case []any:
		left := []any{}
		for _, one := range x {
			if of, ok := one.(map[string]any); ok && (of["undone"] == true || of["undoneAt"] != nil) {
				continue
			}
			if of, ok := one.(map[string]any); ok {
				if m, ok := of["measurement"].(map[string]any); ok && m["undoneAt"] != nil {
					continue
				}
			}
			left = append(left, withoutUndone(one))
		}
		return left
	case map[string]any:
		for name, value := range x {
			if name == "version" || name == "designVersion" {
				delete(x, name)
				continue
			}
			x[name] = withoutUndone(value)
		}
	}
	return x
}

// What is taken back is as if it had never been: everything that is read is the same after an act and its undo, after both once more, later,
// and after it is taken back twice; the same request again is answered as it was first.
func TestAsIfItNeverWas(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	x := newDemo(t)
	at := "/lines/" + x.line
	var view page.LineView
	x.get(at, &view)
	quiet, other, gone := view.Sets[3], view.Sets[8], view.Sets[11]
	now := view.Now
	var shelf page.Shelf
	x.get(at+"/shelf", &shelf)
	read := func() map[string]any {
		found := map[string]any{}
		for address, answer := range x.everything(5, "/patterns/", "/defaults/", "/done?", "?season=") { // these stand on no act, or say the same again
			found[address] = asIfNever(answer)
		}
		return found
	}
	before := read()
	same := func(when string) {
		t.Helper()
		after := read()
		for address, was := range before {
			if is := after[address]; !reflect.DeepEqual(was, is) {
				a, _ := json.Marshal(was)
				b, _ := json.Marshal(is)
				t.Errorf("%s: %s\n%s", when, address, firstDifference(string(a), string(b)))
			}
		}
		if len(after) != len(before) {
			t.Errorf("%s: %d things are read, %d before", when, len(after), len(before))
		}
	}
	trap := quiet.Make.Layout.TrapIDs()[0]
	remade := quiet.Make
	remade.BuiltAt = now
	remade.Layout.Rigs[0].Pan.GaugeN++
	unbuilt := view.Designs[slices.IndexFunc(view.Designs, func(d line.Design) bool { return d.SetID == nil })]
	built := line.Make{SetID: id(), DesignID: unbuilt.ID, Target: unbuilt.Target, Layout: unbuilt.Layout, BuiltAt: now}
	acts := map[string]any{
		"visits":                        line.Visit{MakeID: quiet.Make.ID, At: now, Found: line.Found{Finding: "catch"}, Catches: []line.Catch{{ID: id(), Species: "coyote", Sex: "male"}}},
		"visits of a trap that is gone": line.Visit{MakeID: gone.Make.ID, At: now, Found: line.Found{Finding: "gone"}},
		"makes":                         remade,
		"makes of a new set":            built,
		"pulls":                         line.Pull{MakeID: other.Make.ID, At: now},
		"doses":                         line.Dose{LureID: shelf.Lures[0].Lure.ID, SpotID: &quiet.Set.SpotID, At: now, Count: 2},
		"signs":                         line.Sign{SpotID: &quiet.Set.SpotID, LatDeg: 46.8, LonDeg: -105.3, What: "tracks", Animal: "bobcat", Age: "last_night", Holds: "well", SeenAt: now},
		"measurements":                  line.Measurement{TrapID: trap, At: now, Gauge: "hook gauge", Factor: 1, Presses: []float64{30, 31, 30}},
	}
	for _, act := range store.Undoable() {
		if acts[act.Path] == nil {
			t.Errorf("nothing is asked of %s", act.Path)
		}
	}
	for kind, body := range acts {
		route, _, _ := strings.Cut(kind, " ")
		path, mutation := x.of(route, id()), id()
		status, first := x.do("PUT", path, mutation, body)
		if status != 200 {
			t.Fatalf("%s: %d %s", kind, status, first)
		}
		if reflect.DeepEqual(read(), before) {
			t.Errorf("%s: it changes nothing that is read", kind)
		}
		undo := func(after time.Duration) string {
			t.Helper()
			status, raw := x.do("PUT", path+"/undo", id(), Moment{At: now.Add(after)})
			if status != 200 {
				t.Fatalf("%s, undone: %d %s", kind, status, raw)
			}
			return string(raw)
		}
		undone := undo(0)
		same(kind + ", undone")
		if status, again := x.do("PUT", path, mutation, body); status != 200 || string(again) != string(first) {
			t.Errorf("%s, said again: %d %.200s, first %.200s", kind, status, again, first)
		}
		x.do("PUT", path, id(), body) // by another window, late
		if again := undo(time.Minute); again != undone {
			t.Errorf("%s, undone twice: %s, first %s", kind, again, undone)
		}
		same(fmt.Sprint(kind, ", said again and undone twice"))
	}
}
