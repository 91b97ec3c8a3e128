package hole

import (
	"testing"

	"oldburrow/core/animal"
)

func seen(t *testing.T, key string, in Input) Output {
	t.Helper()
	a, err := animal.Reference.ByKey(key)
	if err != nil {
		t.Fatal(err)
	}
	out, err := Standoff(a, in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// A slanting, deep, narrow hole must be looked into from close by; a crouched animal sees in later than a standing one.
func TestWhatHidesTheBottom(t *testing.T) {
	for _, key := range animal.Reference.Keys() {
		base := Input{HoleDiameterMm: 64, HoleDepthMm: 200, HoleAngleDeg: 60}
		plain := seen(t, key, base)
		if plain.CrouchedMm >= plain.StandingMm {
			t.Errorf("%s sees farther crouched: %+v", key, plain)
		}
		for name, change := range map[string]func(*Input){
			"flatter": func(in *Input) { in.HoleAngleDeg = 40 },
			"wider":   func(in *Input) { in.HoleDiameterMm = 90 },
			"shorter": func(in *Input) { in.HoleDepthMm = 120 },
		} {
			in := base
			change(&in)
			if got := seen(t, key, in); got.StandingMm <= plain.StandingMm {
				t.Errorf("%s, a %s hole: seen from %g mm, no farther than %g", key, name, got.StandingMm, plain.StandingMm)
			}
		}
	}
}

// A hole as wide as it is deep, lying flat, is looked into along the flattest sight there is, not from beyond the horizon.
func TestFlatHoleHasABound(t *testing.T) {
	flat := seen(t, "coyote", Input{HoleDiameterMm: 100, HoleDepthMm: 100, HoleAngleDeg: 20})
	if flat.StandingMm > 9000 || flat.StandingMm < 8000 {
		t.Errorf("seen from %g mm", flat.StandingMm)
	}
}

func TestRefusals(t *testing.T) {
	good := Input{HoleDiameterMm: 64, HoleDepthMm: 200, HoleAngleDeg: 60}
	for name, change := range map[string]func(*Input){
		"diameter": func(in *Input) { in.HoleDiameterMm = 0 },
		"depth":    func(in *Input) { in.HoleDepthMm = -4 },
		"angle 0":  func(in *Input) { in.HoleAngleDeg = 0 },
		"angle 91": func(in *Input) { in.HoleAngleDeg = 91 },
	} {
		in := good
		change(&in)
		if _, err := Standoff(animal.Reference[0], in); err == nil {
			t.Errorf("%s is accepted", name)
		}
	}
}
