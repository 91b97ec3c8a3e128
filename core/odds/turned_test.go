package odds

import (
	"encoding/json"
	"math"
	"testing"

	"oldburrow/core/layout"
)

// turnedBy turns all of a trail set about its origin, from x toward y.
func turnedBy(t *testing.T, l layout.Layout, deg float64) layout.Layout {
	t.Helper()
	raw, err := json.Marshal(l)
	if err != nil {
		t.Fatal(err)
	}
	m, err := layout.Decode(raw)
	if err != nil {
		t.Fatal(err)
	}
	sin, cos := math.Sincos(deg * math.Pi / 180)
	turn := func(x, y *float64) { *x, *y = *x*cos-*y*sin, *x*sin+*y*cos }
	for i := range m.Rigs {
		r := &m.Rigs[i]
		turn(&r.XMm, &r.YMm)
		turn(&r.Pan.XMm, &r.Pan.YMm)
		r.AxisDeg = math.Remainder(r.AxisDeg+deg, 360)
	}
	for i := range m.Guides {
		turn(&m.Guides[i].XMm, &m.Guides[i].YMm)
		m.Guides[i].TurnDeg = math.Remainder(m.Guides[i].TurnDeg+deg, 360)
	}
	turn(&m.Way.XMm, &m.Way.YMm)
	m.Way.BearingDeg = math.Remainder(m.Way.BearingDeg+deg, 360)
	return m
}

// A trail set of two traps that differ in tension, pan and place does what it does whichever way the trail runs: turned by every fifteen
// degrees each trap fires as often as before, and not as often as the other.
func TestATurnedTrailDoesTheSame(t *testing.T) {
	t.Parallel()
	const visits = 20000
	l := set(t, "trail_pair", "coyote")
	l.Rigs[0].Pan.GaugeN, l.Rigs[1].Pan.GaugeN = 14, 55
	l.Rigs[1].Pan.DiameterMm *= .8
	l = l.WithRigMoved(1, 25, 15)
	fires := func(l layout.Layout, seed uint64) []float64 {
		a, err := Of(Question{Layout: l, Target: kind("coyote"), Visits: visits, Seed: seed})
		if err != nil {
			t.Fatal(err)
		}
		return append([]float64{a.Feet.Step, a.Feet.Fire, a.Feet.PadShare}, a.Feet.byRig...)
	}
	straight := fires(l, 1)
	if n := len(straight); n != 5 || math.Abs(straight[3]-straight[4]) < .05 {
		t.Fatalf("the two traps are alike: %v", straight)
	}
	for deg := 15.0; deg < 360; deg += 15 {
		for i, p := range fires(turnedBy(t, l, deg), uint64(deg)) {
			if q := straight[i]; math.Abs(p-q) > 4.5*math.Sqrt(2*math.Max(q*(1-q), .01)/visits) {
				t.Errorf("turned by %g°: %v, straight %v", deg, fires(turnedBy(t, l, deg), uint64(deg)), straight)
				break
			}
		}
	}
}
