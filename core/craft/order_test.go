package craft

import (
	"errors"
	"slices"
	"testing"

	"oldburrow/core/refuse"
)

// clean is an order of a dirt hole without a fault, by either school of the hands.
var clean = []Step{
	"clean_gloves", "mat", "hole", "bed", "anchor", "pull_anchor", "set_trap", "place_trap", "firm", "latch", "pan_cover", "mark_pan", "sift", "guides", "blend", "lure_gloves",
	"bait", "lure", "urine", "look_back",
}

// without is an order with some steps left out; moved one with a step moved before another.
func without(steps []Step, out ...Step) []Step {
	return slices.DeleteFunc(slices.Clone(steps), func(s Step) bool { return slices.Contains(out, s) })
}

func moved(steps []Step, step, before Step) []Step {
	found := without(steps, step)
	return slices.Insert(found, slices.Index(found, before), step)
}

func faultsOf(t *testing.T, steps []Step, hands, first string) []Fault {
	t.Helper()
	out, err := Order(OrderInput{steps, OrderSchools{hands, first}})
	if err != nil {
		t.Fatal(err)
	}
	return out.Faults
}

// Each rule is broken by what it forbids, at the step where that is done, and by nothing else.
func TestEachRuleOfTheOrder(t *testing.T) {
	at := func(steps []Step, step Step) int { return slices.Index(steps, step) }
	for _, c := range []struct {
		rule         Rule
		steps        []Step
		hands, first string
		where        Step // blank: the end
		but          []Rule
	}{
		{AnchorLate, moved(moved(clean, "anchor", "firm"), "pull_anchor", "firm"), "gloves", "attractor", "anchor", nil},
		{AnchorNotPulled, without(clean, "pull_anchor"), "gloves", "attractor", "sift", nil},
		{AnchorNotPulled, moved(clean, "pull_anchor", "guides"), "gloves", "attractor", "sift", nil},
		{AnchorNotPulled, moved(clean, "pull_anchor", "anchor"), "gloves", "attractor", "sift", nil},
		{LatchedBeforeFirm, moved(clean, "latch", "firm"), "gloves", "attractor", "latch", nil},
		{CoveredBeforeFirm, moved(moved(clean, "firm", "guides"), "latch", "guides"), "gloves", "attractor", "sift", nil},
		{NoPanCover, without(clean, "pan_cover"), "gloves", "attractor", "sift", nil},
		{PanLost, without(clean, "mark_pan"), "gloves", "attractor", "guides", nil},
		{PanLost, moved(clean, "mark_pan", "guides"), "gloves", "attractor", "guides", nil},
		{HoleAfterTrap, moved(clean, "hole", "firm"), "gloves", "attractor", "hole", nil},
		{NoLookBack, without(clean, "look_back"), "gloves", "attractor", "", nil},
		{ScentInCleanGloves, without(clean, "lure_gloves"), "gloves", "attractor", "bait", []Rule{ScentInCleanGloves}},
		{BareOnMetal, append([]Step{"lure_gloves"}, without(clean, "clean_gloves", "anchor", "pull_anchor", "set_trap", "place_trap", "firm", "latch", "mark_pan", "pan_cover", "sift")...), "bare", "attractor", "blend", nil},
		{ScentToMetal, moved(clean, "blend", "look_back"), "gloves", "attractor", "blend", nil},
		{ScentBeforeCover, without(moved(moved(clean, "lure_gloves", "sift"), "lure", "sift"), "sift", "guides", "blend", "bait", "urine"), "gloves", "attractor", "lure", nil},
	} {
		want := len(c.steps)
		if c.where != "" {
			want = at(c.steps, c.where)
		}
		found := faultsOf(t, c.steps, c.hands, c.first)
		if !slices.Contains(found, Fault{c.rule, want}) {
			t.Errorf("%s at %d of %v: %v", c.rule, want, c.steps, found)
		}
		for _, f := range found {
			if f.Rule != c.rule && !slices.Contains(c.but, f.Rule) {
				t.Errorf("%s: also %s at %d", c.rule, f.Rule, f.At)
			}
		}
	}
	for _, school := range []string{"gloves", "bare"} {
		if found := faultsOf(t, clean, school, "attractor"); len(found) != 0 {
			t.Errorf("by %s: %v", school, found)
		}
	}
	if found := faultsOf(t, moved(clean, "hole", "firm"), "gloves", "trap"); len(found) != 0 {
		t.Errorf("the trap first: %v", found)
	}
	// Bare hands on metal offend who goes by gloves at every such step, and who does not at none.
	bare := without(clean, "clean_gloves")
	if found := faultsOf(t, bare, "gloves", "attractor"); len(found) != 9 || slices.ContainsFunc(found, func(f Fault) bool { return f.Rule != BareOnMetal }) {
		t.Errorf("bare by gloves: %v", found)
	}
	if found := faultsOf(t, bare, "bare", "attractor"); len(found) != 0 {
		t.Errorf("bare by bare: %v", found)
	}
}

// What is no order is refused by its place.
func TestOrderRefuses(t *testing.T) {
	for field, in := range map[string]OrderInput{
		"steps[1]":           {[]Step{"mat", "dance"}, OrderSchools{"gloves", "trap"}},
		"steps[2]":           {[]Step{"mat", "bed", "mat"}, OrderSchools{"gloves", "trap"}},
		"schools.hands":      {[]Step{"mat"}, OrderSchools{"mittens", "trap"}},
		"schools.buildOrder": {[]Step{"mat"}, OrderSchools{"bare", "both"}},
	} {
		var problems refuse.Problems
		if _, err := Order(in); !errors.As(err, &problems) || problems[0].Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
	if out, err := Order(OrderInput{[]Step{"clean_gloves", "clean_gloves", "look_back"}, OrderSchools{"gloves", "trap"}}); err != nil || len(out.Faults) != 0 {
		t.Errorf("gloves twice: %+v, %v", out, err)
	}
}
