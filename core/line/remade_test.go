package line

import (
	"math"
	"testing"

	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/tally"
)

// remadeOf is a record of one set that was made on some days, in some forms, and caught a coyote on the second.
func remadeOf(forms ...Form) Record {
	n := Noted{Sets: []Set{{ID: "s", SpotID: "spot", Number: 1}}}
	for i, form := range forms {
		m := Make{ID: string(rune('a' + i)), SetID: "s", Layout: layout.Layout{Kind: "dirt_hole", Rigs: oneTrap.Rigs}, BuiltAt: day(1+2*i, 9)}
		if i > 0 {
			m.AsBuilt = &AsBuilt{Form: form}
		}
		n.Makes = append(n.Makes, m)
	}
	n.Visits = []Visit{{ID: "v", MakeID: "a", At: day(2, 9), Found: Found{Finding: FoundCatch}, Catches: []Catch{{ID: "c", Species: "coyote"}}}}
	return NewRecord(day(20, 9), day(1, 0).Location(), tally.Span{}, n)
}

// A bed that is made again in its place goes on settling, one that is dug anew begins; what was caught counts until the bed is another; and a bed that
// was made again is one make for who has met it often.
func TestARemadeBedGoesOn(t *testing.T) {
	for name, c := range map[string]struct {
		forms  []Form
		nights int
		caught bool
		met    int
	}{
		"the same bed":         {[]Form{"", SameBed}, 19, true, 0},
		"kept by its drag":     {[]Form{"", Preserved, SameBed}, 19, true, 0},
		"on the rim":           {[]Form{"", Rim, SameBed}, 17, true, 0},
		"nobody said how":      {[]Form{"", "", SameBed}, 17, true, 0},
		"a new bed":            {[]Form{"", NewBed, SameBed}, 17, false, 0},
		"three times anew":     {[]Form{"", Rim, Rim, Rim}, 13, true, 1},
		"four times in one":    {[]Form{"", SameBed, SameBed, SameBed}, 19, true, 0},
		"and then on its rim":  {[]Form{"", SameBed, SameBed, SameBed, Rim}, 11, true, 0},
		"a new bed, then rims": {[]Form{"", NewBed, Rim, Rim}, 13, false, 1},
	} {
		r := remadeOf(c.forms...)
		last, _ := r.NewestMake("s")
		if got := r.BedNights(last); got != c.nights {
			t.Errorf("%s: %d nights of its bed, not %d", name, got, c.nights)
		}
		if got := r.HasCaught("s", "coyote"); got != c.caught {
			t.Errorf("%s: caught before %t", name, got)
		}
		if got := r.KindsMet(Spot{ID: "spot"}, &last); len(got) != c.met {
			t.Errorf("%s: met often %v", name, got)
		}
	}
	pulled := remadeOf("", SameBed)
	n := Noted{Sets: pulled.Sets, Makes: pulled.Makes, Pulls: []Pull{{ID: "p", MakeID: "a", At: day(2, 12)}}}
	r := NewRecord(pulled.Now, pulled.Zone, tally.Span{}, n)
	if last, _ := r.NewestMake("s"); r.BedNights(last) != 17 {
		t.Errorf("one that lay open a night went on: %d", r.BedNights(last))
	}
}

// On the rim the attractor lies so far from the old anchor, on the bearing, and faces away from it; minutes are those of its form.
func TestOnRim(t *testing.T) {
	l := layout.Layout{Rigs: []layout.Rig{{AnchorSlot: 3}}, Anchors: []layout.Anchor{{Slot: 3, XMm: 100, YMm: 300}}, FacingDeg: new(90.0)}
	at := ground.Fix{LatDeg: 46.8, LonDeg: -105.3}
	// Facing east the plan's y runs east and its x north: the old anchor lies .3 m east and .1 m north of the attractor.
	for bearing, want := range map[float64][2]float64{0: {.3, 1.1}, 90: {1.3, .1}, 180: {.3, -.9}, 270: {-.7, .1}} {
		got := OnRim(l, at, bearing, 1000)
		lies := ground.PlaneAbout(at).At(*got.At)
		if math.Hypot(lies[0]-want[0], lies[1]-want[1]) > .01 || *got.FacingDeg != bearing || *l.FacingDeg != 90 || l.At != nil {
			t.Errorf("on %g°: %v facing %g, not %v", bearing, lies, *got.FacingDeg, want)
		}
	}
	hole := layout.Layout{Pattern: "hole"}
	for form, want := range map[Form]float64{SameBed: 20 / 3.0, Preserved: 20 / 6.0, Rim: 40 / 3.0, NewBed: 20} {
		if got := form.Minutes(hole, layout.Underfoot{}, 0); math.Abs(got-want) > 1e-9 || math.Abs(form.Minutes(hole, layout.Underfoot{Frozen: true}, 2)-3*got-4) > 1e-9 {
			t.Errorf("%s: %g minutes, not %g", form, got, want)
		}
	}
}
