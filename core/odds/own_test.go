package odds

import (
	"math"
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

// Dogs and cats are told before a set is built where they come by, and only where they are many beside its target.
func TestManyPets(t *testing.T) {
	ask := func(change func(*Circumstances)) (*Pets, Company) {
		q := askedOf(t, "hole", "coyote")
		q.Visits, q.Animals = 2000, animal.Reference
		c := *q.Circumstances
		c.Others = map[string]Presence{"dog": {Sign: AgeToday, Signs: 9, About: new(1.0)}, "raccoon": {Sign: AgeToday, Signs: 9, About: new(1.0)}}
		change(&c)
		q.Circumstances = &c
		found := company(t, q)
		return found.Pets, found
	}
	for name, near := range map[string]func(*Circumstances){
		"noted":      func(c *Circumstances) { c.Pets, c.Sign = []string{"dog"}, AgeNone },
		"a dwelling": func(c *Circumstances) { c.Dwelling, c.Sign = true, AgeNone },
	} {
		pets, found := ask(near)
		if pets == nil {
			t.Fatalf("%s: nothing is said: %+v", name, found.Others)
		}
		dogs := 0.0
		for _, o := range found.Others {
			if o.Species == "dog" || o.Species == "cat" && o.Per100 != nil {
				dogs += o.Per100.Mid
			}
		}
		if math.Abs(pets.Per100-dogs) > 1e-12 || pets.TargetPer100 <= 0 || pets.TargetPer100 >= found.Targets.Mid+1e-12 || pets.Per100 <= manyPets*pets.TargetPer100 {
			t.Errorf("%s: %+v of %+v and %+v", name, pets, found.Others, found.Targets)
		}
	}
	for name, quiet := range map[string]func(*Circumstances){
		"none comes by": func(c *Circumstances) { c.Sign = AgeNone },
		"few for the target": func(c *Circumstances) {
			c.Pets, c.Signs = []string{"dog"}, 9
			c.Others["dog"] = Presence{Sign: AgeNone, About: new(1.0)}
		},
		"nobody looked": func(c *Circumstances) { c.Pets, c.Sign = []string{"dog"}, AgeNone; delete(c.Others, "dog") },
	} {
		if pets, found := ask(quiet); pets != nil {
			t.Errorf("%s: %+v of %+v", name, pets, found.Others)
		}
	}
}
