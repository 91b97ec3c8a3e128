package odds

import (
	"slices"
	"testing"

	"oldburrow/core/animal"
)

// What a line knows of animals is told with the question: one more is among those that come to a set, and one whose reach was changed puts its
// feet elsewhere, under the same key too.
func TestAnimalsAreTold(t *testing.T) {
	own := kind("raccoon")
	own.Key, own.Pet, own.Unlooked = "own:1", true, 0
	q := askedOf(t, "hole", "coyote")
	q.Visits, q.Animals = 2000, append(slices.Clone(animal.Reference), own)
	found, err := CompanyOf(t.Context(), q)
	if err != nil || len(found.Others) != len(animal.Reference) || !slices.ContainsFunc(found.Others[:3], func(o Other) bool { return o.Species == own.Key }) {
		t.Errorf("with one more: %+v, %v", found.Others, err)
	}
	q.Animals = nil
	if found, err := CompanyOf(t.Context(), q); err != nil || len(found.Others) != 0 {
		t.Errorf("of none that is known: %+v, %v", found.Others, err)
	}
	short := kind("coyote")
	short.Reach.Mean -= 60
	var step [2]float64
	for i, a := range []animal.Animal{kind("coyote"), short} {
		_, feet, err := usualFeet(Question{Layout: set(t, "hole", "coyote"), Target: a, Visits: 3000})
		if err != nil {
			t.Fatal(err)
		}
		step[i] = feet.Step
	}
	if step[0] < 1.1*step[1] {
		t.Errorf("one that reaches less far steps on the pan as often: %v", step)
	}
}
