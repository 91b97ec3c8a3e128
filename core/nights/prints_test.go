package nights

import (
	"fmt"
	"math"
	"testing"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/schools"
)

func madeAs(t *testing.T, pattern string) layout.Layout {
	t.Helper()
	l, err := layout.New(pattern, layout.Begin{Target: kind(t, "coyote"), Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	return l
}

// The prints of those that stood at a set lie off its pan, and those of who stepped have one on it; together they lie as far from the attractor as the
// animal stands, and along a way as far apart as it steps. Who only came by leaves none there.
func TestPrintsLieWhereTheFeetCameDown(t *testing.T) {
	who := kind(t, "coyote")
	events := func(shows line.Finding) (all []Event) {
		for i := range uint64(600) {
			all = append(all, Event{Shows: shows, feet: i * golden})
		}
		return all
	}
	hole := madeAs(t, "hole")
	pan, on := hole.Rigs[0].Pan, 0
	farthest := pan.DiameterMm/2 + who.PadRadiusMm()
	for _, shows := range []line.Finding{line.FoundStood, line.FoundStepped} {
		met := 0
		for _, e := range events(shows) {
			prints, err := e.Prints(who, hole)
			if err != nil {
				t.Fatal(err)
			}
			if again, _ := e.Prints(who, hole); fmt.Sprint(again) != fmt.Sprint(prints) {
				t.Errorf("asked again they are %v, not %v", again, prints)
			}
			there := false
			for _, p := range prints {
				there = there || math.Hypot(p.XMm-pan.XMm, p.YMm-pan.YMm) < pan.DiameterMm/2
			}
			if there {
				met++
			}
			if shows == line.FoundStepped && len(prints) > 0 && math.Hypot(prints[0].XMm-pan.XMm, prints[0].YMm-pan.YMm) < farthest {
				on++
			}
		}
		if shows == line.FoundStood && met > 0 {
			t.Errorf("%d that did not step have a print on the pan", met)
		}
		if shows == line.FoundStepped && (met < 200 || on < 100) { // others stepped with a foot that is none of these
			t.Errorf("of those that stepped %d have a print on the pan, %d with the first", met, on)
		}
	}
	aside := hole.WithRigMoved(0, 390, 0) // where no foot comes down, so that nothing is left out
	mean, n := 0.0, 0.0
	for _, e := range events(line.FoundStood) {
		prints, err := e.Prints(who, aside)
		if err != nil {
			t.Fatal(err)
		}
		if len(prints) > 0 {
			a := aside.Attractors[0]
			mean, n = mean+math.Hypot(prints[0].XMm-a.XMm, prints[0].YMm-a.YMm), n+1
		}
	}
	if want := math.Hypot(who.Reach.Mean, who.Half.Mean); n < 500 || math.Abs(mean/n-want) > 12 {
		t.Errorf("%g stood %g off, want about %g", n, mean/n, want)
	}
	trail := madeAs(t, "trail")
	apart, steps := 0.0, 0.0
	for _, e := range events(line.FoundStood) {
		prints, err := e.Prints(who, trail)
		if err != nil {
			t.Fatal(err)
		}
		for i := 1; i < len(prints); i++ {
			apart, steps = apart+math.Hypot(prints[i].XMm-prints[i-1].XMm, prints[i].YMm-prints[i-1].YMm), steps+1
		}
	}
	if steps < 500 || apart/steps < .9*who.Step.Mean || apart/steps > 1.3*who.Step.Mean { // a stick makes a step longer
		t.Errorf("%g steps of %g, want about %g", steps, apart/steps, who.Step.Mean)
	}
	for _, shows := range []line.Finding{line.FoundPassed, line.FoundLooked, line.FoundCatch, line.FoundQuiet} {
		if prints, err := (Event{Shows: shows, feet: 1}).Prints(who, hole); prints != nil || err != nil {
			t.Errorf("%s leaves %v, %v", shows, prints, err)
		}
	}
}

// Each visitor of each night at each set leaves prints of its own.
func TestEachVisitorHasItsFeet(t *testing.T) {
	v := coyote(t)
	v.Passes = 2.5
	seen := map[uint64]bool{}
	for number := range uint64(3) {
		for n := range 40 {
			s := Made(false)
			for _, e := range s.Draw(nil, Set{Visitors: []odds.Comer{v, v}}, clear, 7, number, n) {
				if seen[e.feet] {
					t.Fatalf("set %d, night %d: these feet came before", number, n)
				}
				seen[e.feet] = true
			}
		}
	}
}
