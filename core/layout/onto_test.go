package layout

import (
	"reflect"
	"testing"
)

// What fits of a set goes over into every other pattern, and what does not is said; the result can be built.
func TestOntoAnotherPattern(t *testing.T) {
	facing := 200.0
	for _, from := range PatternKeys() {
		for _, to := range PatternKeys() {
			before := begin(t, from, "coyote")
			before.FacingDeg, before.Hands = &facing, "bare"
			for i := range before.Rigs {
				before.Rigs[i].Name = "No. 1"
				if before.Rigs[i].Pan != nil {
					before.Rigs[i].Pan.GaugeN, before.Rigs[i].TrapID = 12, "T"+string(rune('0'+i))
				}
			}
			got, dropped := Onto(begin(t, to, "coyote"), before)
			if err := got.Check(); err != nil || got.Pattern != to || *got.FacingDeg != 200 || got.Hands != "bare" {
				t.Errorf("%s onto %s: %v", from, to, err)
			}
			if Claims(from) != Claims(to) {
				if len(dropped) == 0 || dropped[0].What != DropTrap || dropped[0].Name != "No. 1" {
					t.Errorf("%s onto %s drops %+v", from, to, dropped)
				}
				continue
			}
			first := got.Rigs[0]
			if first.Pan != nil && (first.Pan.GaugeN != 12 || first.TrapID != "T0" || first.Pan.YMm != begin(t, to, "coyote").Rigs[0].Pan.YMm) {
				t.Errorf("%s onto %s: its trap is %+v", from, to, first)
			}
			if len(got.Rigs) > len(before.Rigs) && (got.Rigs[1].TrapID != "" || got.Rigs[1].Pan.GaugeN != 12) {
				t.Errorf("%s onto %s: the other trap is %+v", from, to, got.Rigs[1])
			}
		}
	}
	hole := begin(t, "hole", "coyote")
	hole.Attractors[0].Smells[1].LureID, hole.Attractors[0].Smells[1].Name = "L", "Old boar"
	got, dropped := Onto(begin(t, "tuft", "coyote"), hole)
	if want := []Dropped{{DropSmell, "bait"}, {DropGuides, ""}}; !reflect.DeepEqual(dropped, want) {
		t.Errorf("dropped %+v, want %+v", dropped, want)
	}
	if s := got.Attractors[0].Smells[1]; s.LureID != "L" || s.Name != "Old boar" || s.HeightMm != 200 {
		t.Errorf("its lure is %+v", s)
	}
	if hole.Attractors[0].Smells[1].HeightMm != 0 || len(hole.Guides) != 2 {
		t.Error("what was before is changed")
	}
	pair := begin(t, "trail_pair", "coyote")
	pair.Rigs[1].Name = "No. 2"
	if _, dropped := Onto(begin(t, "trail", "coyote"), pair); len(dropped) < 2 || dropped[0] != (Dropped{DropTrap, "No. 2"}) || dropped[1].What != DropAnchor {
		t.Errorf("a pair onto one: %+v", dropped)
	}
	if got, dropped := Onto(begin(t, "hole", "coyote"), begin(t, "tree_hole", "coyote")); got.Anchors[0].Kind == Staple || dropped[0].What != DropAnchor {
		t.Errorf("a staple in the ground: %+v, %+v", got.Anchors, dropped)
	}
}
