package odds

import (
	"math"
	"testing"

	"oldburrow/core/layout"
)

// A link is weak from just under nine tenths of its par on, and not at it; of two weak ones the one farther under is the weakest; and the
// passes, which have no par, never are.
func TestALinkJustUnderItsPar(t *testing.T) {
	q := askedOf(t, "hole", "coyote")
	answer, err := Of(q)
	if err != nil {
		t.Fatal(err)
	}
	hold := .97
	asked := func(change func(*Circumstances, *layout.Layout)) *Chances {
		at, around := q, *q.Circumstances
		at.Layout = q.Layout.Clone()
		change(&around, &at.Layout)
		at.Circumstances = &around
		found, err := chances(at, answer.Feet, &hold)
		if err != nil {
			t.Fatal(err)
		}
		return found
	}
	notices := func(c *Chances) float64 { return c.Links[1].Mid / c.Links[1].Par }
	last, weak := math.Inf(1), 0
	for coverage := .5; coverage > .3; coverage -= .0005 {
		found := asked(func(c *Circumstances, _ *layout.Layout) { c.Coverage = &coverage })
		if is := notices(found) < .9; is != (found.Weakest == "notices") || !is && found.Weakest != "" {
			t.Fatalf("noticed %.4f of its par, and the weakest is %q", notices(found), found.Weakest)
		} else if is {
			weak++
		} else {
			last = notices(found)
		}
	}
	if weak == 0 || math.Abs(last-.9) > .002 {
		t.Errorf("weak %d times, and not at %.4f of par", weak, last)
	}
	said := map[LinkKey]bool{}
	for _, coverage := range []float64{.02, .1, .2, .3, .35} {
		both := asked(func(c *Circumstances, _ *layout.Layout) { c.Coverage, c.CaughtBefore, c.Night = &coverage, false, 3 })
		noticed, committed := notices(both), both.Links[2].Mid/both.Links[2].Par
		if want := map[bool]LinkKey{true: Notices, false: Commits}[noticed < committed]; both.Weakest != want {
			t.Errorf("noticed %.3f, committed %.3f of par, and the weakest is %q", noticed, committed, both.Weakest)
		}
		said[both.Weakest] = true
	}
	if len(said) != 2 {
		t.Errorf("the weakest are %v alone", said)
	}
	if rare := asked(func(c *Circumstances, _ *layout.Layout) { c.Sign = "none" }); rare.Weakest == "passes" || rare.Links[0].Par != 0 {
		t.Errorf("what passes is weak: %+v", rare.Links[0])
	}
	for i, link := range asked(func(*Circumstances, *layout.Layout) {}).Links[1:] {
		if link.Par <= 0 || link.Mid/link.Par < .9 {
			t.Errorf("link %d of a set as it begins: %+v", i+1, link)
		}
	}
}
