package pan

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/seeds"
)

func kind(key string) animal.Animal {
	a, err := animal.Reference.ByKey(key)
	if err != nil {
		panic(err)
	}
	return a
}

func kinds(keys ...string) []animal.Animal {
	var found []animal.Animal
	for _, key := range keys {
		found = append(found, kind(key))
	}
	return found
}

func fire(t *testing.T, species string, tension float64) float64 {
	t.Helper()
	chance, err := Fire(kind(species), tension, false)
	if err != nil {
		t.Fatal(err)
	}
	return chance
}

func TestFireFallsWithTension(t *testing.T) {
	for _, key := range animal.Reference.Keys() {
		last := 1.0
		for tension := 0.0; tension <= 400; tension += 2 {
			chance := fire(t, key, tension)
			if chance > last+1e-9 || chance < 0 || chance > 1 {
				t.Fatalf("%s at %g N: %g after %g", key, tension, chance, last)
			}
			last = chance
		}
		if last > 0.001 {
			t.Errorf("%s still fires 400 N: %g", key, last)
		}
	}
	if fire(t, "skunk", -5) != 1 {
		t.Error("a pan without tension does not always fire")
	}
}

func TestHeavierAnimalsFireMore(t *testing.T) {
	order := []string{"skunk", "opossum", "red_fox", "bobcat", "coyote", "dog"}
	for i := 1; i < len(order); i++ {
		if a, b := fire(t, order[i-1], 17.8), fire(t, order[i], 17.8); a >= b {
			t.Errorf("%s fires %g, %s %g", order[i-1], a, order[i], b)
		}
	}
}

// The integral must say what drawing masses and shares one by one says.
func TestFireAgreesWithDrawing(t *testing.T) {
	const n = 200000
	seeds.Each(t, 1, func(rng *rand.Rand) {
		cut := func(mean, sd, low, high float64) float64 {
			for {
				if v := mean + sd*rng.NormFloat64(); v >= low && v <= high {
					return v
				}
			}
		}
		for _, c := range []struct {
			species string
			tension float64
		}{{"coyote", 30}, {"red_fox", 17.8}, {"raccoon", 22.2}, {"dog", 60}, {"skunk", 5}} {
			a, err := animal.Reference.ByKey(c.species)
			if err != nil {
				t.Fatal(err)
			}
			fired := 0
			for range n {
				m := cut(a.MassKg.Mean, a.MassKg.SD, animal.SmallestShare*a.MassKg.Mean, math.Inf(1))
				if m*Gravity*cut(a.Fore, animal.ShareSD, LeastShare, MostShare) > c.tension {
					fired++
				}
			}
			if got := fire(t, c.species, c.tension); math.Abs(got-float64(fired)/n) > .005 {
				t.Errorf("%s at %g N: %g, drawn %g", c.species, c.tension, got, float64(fired)/n)
			}
		}
	})
}

func TestCover(t *testing.T) {
	for _, m := range materials {
		last := math.Inf(-1)
		for _, thick := range []float64{0, 3, 6, 12, 25} {
			out, err := Cover(CoverInput{Material: m.is, ThicknessMm: thick, PanDiameterMm: 60})
			if err != nil {
				t.Fatal(err)
			}
			if thick == 0 && out.AddsN != 0 {
				t.Errorf("no %s adds %g N", m.is, out.AddsN)
			}
			if m.shearKPa > .3 && out.AddsN <= last {
				t.Errorf("%g mm of %s adds %g N, less than thinner", thick, m.is, out.AddsN)
			}
			last = out.AddsN
		}
	}
	if Effective(2, -5) != 0 || Effective(10, 2.5) != 12.5 {
		t.Error("effective tension is gauge and cover, not below zero")
	}
}

func TestRefusals(t *testing.T) {
	nan := math.NaN()
	for name, err := range map[string]error{
		"no tension":  second(Fire(kind("coyote"), nan, false)),
		"no pan":      second(Cover(CoverInput{Material: "peat", ThicknessMm: 5})),
		"too thick":   second(Cover(CoverInput{Material: "peat", ThicknessMm: 501, PanDiameterMm: 60})),
		"broken soil": second(Cover(CoverInput{Material: "peat", ShearKPa: &nan, ThicknessMm: 5, PanDiameterMm: 60})),
	} {
		if err == nil {
			t.Errorf("%s is accepted", name)
		}
	}
}

func second[T any](_ T, err error) error { return err }

func BenchmarkFire(b *testing.B) {
	for b.Loop() {
		if _, err := Fire(kind("coyote"), 17.8, false); err != nil {
			b.Fatal(err)
		}
	}
}

// What weather makes of a cover is known, and never offered as one.
func TestCoversThatAreOffered(t *testing.T) {
	offered := Offered
	for _, key := range []Material{"wet_soil", "rain_crust", "frozen_soil", "snow_crust"} {
		if slices.Contains(offered, key) || !slices.Contains(Materials, key) {
			t.Errorf("%s is offered", key)
		}
	}
	if len(offered) != len(Materials)-4 {
		t.Errorf("offered: %v", offered)
	}
}
