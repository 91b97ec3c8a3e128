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

// Who comes to a set comes by the chains that are told of it, night by night.
func TestComersGoByTheirChains(t *testing.T) {
	for _, night := range []int{1, 3, 9} {
		q := askedOf(t, map[bool]string{true: "trail_pair", false: "hole"}[night == 3], "coyote")
		q.Visits, q.Animals = 2000, animal.Reference
		c := *q.Circumstances
		c.Night, c.CaughtBefore = night, false
		c.Others = map[string]Presence{"raccoon": {Sign: AgeToday, Signs: 4, About: new(1.0)}}
		q.Circumstances = &c
		comers, err := ComersTo(t.Context(), q, 20)
		if err != nil || len(comers) != len(animal.Reference) || comers[0].Animal != q.Target {
			t.Fatalf("%d come, %v", len(comers), err)
		}
		told := whole(t, q)
		for i, is := range []float64{comers[0].Passes, comers[0].Notices, comers[0].Commits, comers[0].Steps, comers[0].Fires, comers[0].Held} {
			if math.Abs(is-told.Links[i].Mid) > 1e-9 {
				t.Errorf("night %d, %s: %g, the chain says %g", night, told.Links[i].Key, is, told.Links[i].Mid)
			}
		}
		for _, of := range comers {
			shares := 0.0
			for _, share := range of.Traps {
				shares += share
			}
			if math.Abs(of.Commits-of.CommitsOn(0, night, false)) > 1e-9 || len(of.Traps) != len(q.Layout.Rigs) || math.Abs(shares-1) > 1e-9 {
				t.Errorf("night %d: %+v", night, of)
			}
			if of.Animal.Key == "raccoon" {
				per100 := 100 * of.Passes * of.Notices * of.Commits * of.Steps * of.Fires * of.Held
				if told := other(t, q, "raccoon"); math.Abs(per100-told) > 1e-9 {
					t.Errorf("night %d: %.4f raccoons, told are %.4f", night, per100, told)
				}
			}
		}
	}
	q := askedOf(t, "hole", "coyote")
	q.Circumstances = nil
	if comers, err := ComersTo(t.Context(), q, 1); err != nil || comers != nil {
		t.Errorf("of a place that is not known: %v, %v", comers, err)
	}
}

// other is how many of another animal are told in 100 set-nights, in the middle.
func other(t *testing.T, q Question, key string) float64 {
	t.Helper()
	for _, o := range company(t, q).Others {
		if o.Species == key {
			return o.Per100.Mid
		}
	}
	t.Fatalf("nothing is told of the %s", key)
	return 0
}
