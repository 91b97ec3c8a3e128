package layout

import (
	"oldburrow/core/animal"
	"oldburrow/core/schools"
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

// A set made for another animal keeps its way of being made, its bed, cover, anchor and trap; pan and jaws become the animal's.
func TestForAnotherAnimal(t *testing.T) {
	coyote, fox := animal.Reference[0], animal.Reference[1]
	b := Begin{Target: coyote, Schools: schools.Usual(), Variant: "in_trail"}
	made, err := New("object", b)
	if err != nil {
		t.Fatal(err)
	}
	made.Rigs[0].Cover[0].Material, made.Rigs[0].Bed.BaseMm, made.Anchors[0].Kind = "sand", 20, "crossed"
	made.Rigs[0].Pan.GaugeN = 30
	if got := VariantOf(made, b); got != "in_trail" {
		t.Errorf("the variant is %q", got)
	}
	b.Target = fox
	fresh, err := New("object", b)
	if err != nil {
		t.Fatal(err)
	}
	now := For(fresh, made)
	r := now.Rigs[0]
	if now.Way == nil || r.Cover[0].Material != "sand" || r.Bed.BaseMm != 20 || now.Anchors[0].Kind != "crossed" {
		t.Errorf("%+v", now)
	}
	if *r.Pan != *fresh.Rigs[0].Pan || *r.Jaws != *fresh.Rigs[0].Jaws {
		t.Errorf("the pan is %+v, the jaws %+v", r.Pan, r.Jaws)
	}
	made.Rigs[0].TrapID, made.Rigs[0].Name = "T", "No. 4"
	if r = For(fresh, made).Rigs[0]; *r.Jaws != *made.Rigs[0].Jaws || r.Name != "No. 4" || r.Pan.GaugeN != fresh.Rigs[0].Pan.GaugeN {
		t.Errorf("with its own trap: %+v", r)
	}
	if got := VariantOf(fresh, Begin{Target: coyote, Schools: schools.Usual()}); got != "in_trail" {
		t.Errorf("the variant of a fox's set is %q", got)
	}
}
