package learn

import (
	"math"
	"testing"
)

// What is counted of a link is worth as many findings of one weight as would leave the same doubt.
func TestFindingsThatWeigh(t *testing.T) {
	type finding struct {
		weight, model float64
		kept          bool
		times         int
	}
	for name, c := range map[string]struct {
		found                      []finding
		model, reached, kept, size float64
	}{
		"of one weight":           {[]finding{{1, .5, true, 6}, {1, .8, false, 4}}, .62, 10, 6, 10},
		"of another":              {[]finding{{3, .5, true, 6}, {3, .8, false, 4}}, .62, 30, 18, 10},
		"what was lost is rarer":  {[]finding{{1, .5, true, 6}, {2, .8, false, 4}}, (6*.5 + 8*.8) / 14, 14, 6, 9.8},
		"what was kept is rarer":  {[]finding{{2, .5, true, 4}, {1, .5, false, 6}}, .5, 14, 8, 9.8},
		"all kept":                {[]finding{{1, .9, true, 2}, {3, .9, true, 1}}, .9, 5, 5, 25.0 / 11},
		"none kept":               {[]finding{{1, .9, false, 2}, {3, .9, false, 1}}, .9, 5, 0, 25.0 / 11},
		"promised more than sure": {[]finding{{1, 1.2, true, 2}, {1, 1, false, 1}}, 1, 3, 2, 3},
	} {
		var counted Counted
		for _, f := range c.found {
			for range f.times {
				counted.Add(f.weight, f.model, f.kept)
			}
		}
		got := counted.Found()
		for what, pair := range map[string][2]float64{"model": {got.Model, c.model}, "reached": {got.Reached, c.reached}, "kept": {got.Kept, c.kept}, "size": {*got.Size, c.size}} {
			if !(math.Abs(pair[0]-pair[1]) <= 1e-9) { // nor is it no number
				t.Errorf("%s: %s %g, want %g", name, what, pair[0], pair[1])
			}
		}
	}
	var none Counted
	if got := none.Found(); got != (LinkFound{Model: 1}) {
		t.Errorf("of nothing: %+v", got)
	}
}
