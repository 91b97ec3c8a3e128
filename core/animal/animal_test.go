package animal

import (
	"math"
	"testing"
)

func TestReferenceAnimalsHangTogether(t *testing.T) {
	for _, a := range Reference {
		if ratio := a.Reach.Mean / a.ShoulderMm; math.Abs(ratio-.39) > .005 {
			t.Errorf("%s reaches %.3f of its shoulder", a.Key, ratio)
		}
		for name, s := range map[string]Spread{"mass": a.MassKg, "reach": a.Reach, "half": a.Half, "step": a.Step, "track": a.Track} {
			if s.Mean <= 0 || s.SD <= 0 || s.Mean-2*s.SD < 0 {
				t.Errorf("%s: %s %+v", a.Key, name, s)
			}
		}
		if (a.MarkChance > 0) != (a.Mark.Mean > 0) {
			t.Errorf("%s marks with chance %g at %g mm", a.Key, a.MarkChance, a.Mark.Mean)
		}
		if found, err := Reference.ByKey(a.Key); err != nil || found.Name != a.Name {
			t.Errorf("%s is not found by its key", a.Key)
		}
	}
	if got := (Animal{PadLength: 80, PadWidth: 60}).PadRadiusMm(); got != 35 {
		t.Errorf("a pad of 80 by 60 mm has a radius of %g", got)
	}
	if _, err := Reference.ByKey("wolverine"); err == nil {
		t.Error("an unknown animal is found")
	}
	if len(Reference.TargetKeys()) != 4 || len(Reference.Keys()) != 10 {
		t.Errorf("targets %v of %v", Reference.TargetKeys(), Reference.Keys())
	}
}
