package ground

import (
	"math"
	"testing"
)

func TestAverageLeavesStraysOut(t *testing.T) {
	gate := Fix{46.8, -105.3}
	metre := 1 / MetresPerDegree
	var fixes []Fix
	for i := range 9 {
		fixes = append(fixes, Fix{gate.LatDeg + metre*float64(i-4)/2, gate.LonDeg})
	}
	a, err := AverageOf(append(fixes, Fix{gate.LatDeg + 400*metre, gate.LonDeg}))
	if err != nil || a.Used != 9 || Metres(a.Fix, gate) > .01 {
		t.Errorf("%+v, %v", a, err)
	}
	// Nine places half a metre apart lie 1.29 m from their middle, root mean square.
	if math.Abs(a.SpreadM-math.Sqrt(60.0/9)/2) > .01 {
		t.Errorf("they spread %g m", a.SpreadM)
	}
	if one, err := AverageOf([]Fix{gate}); err != nil || one.Fix != gate || one.SpreadM != 0 || one.Used != 1 {
		t.Errorf("one fix is not itself: %+v, %v", one, err)
	}
	if _, err := AverageOf(nil); err == nil {
		t.Error("no fix has an average")
	}
}

func TestMetres(t *testing.T) {
	a := Fix{60, 10}
	if d := Metres(a, Fix{60.001, 10}); math.Abs(d-111.32) > .01 {
		t.Errorf("north: %g m", d)
	}
	if d := Metres(a, Fix{60, 10.001}); math.Abs(d-55.66) > .01 { // half as far at 60°
		t.Errorf("east: %g m", d)
	}
}

// Every soil holds more water the wetter it lies, and all of them are known.
func TestWater(t *testing.T) {
	for _, soil := range Soils {
		last := 0.0
		for _, wetness := range Wetnesses {
			density, share := Water(soil, wetness)
			if density < 300 || share <= last {
				t.Errorf("%s %s: %g kg/m³ with %g of water", wetness, soil, density, share)
			}
			last = share
		}
	}
}

func TestKindsAreFoundByTheirKeys(t *testing.T) {
	for _, key := range FeatureKinds {
		if k, ok := KindOf(key); !ok || k.Key != key {
			t.Errorf("%s is %+v", key, k)
		}
	}
	if _, ok := KindOf("moat"); ok {
		t.Error("a moat is known")
	}
}
