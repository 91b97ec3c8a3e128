package server

import (
	"testing"

	"oldburrow/core/advice"
	"oldburrow/core/line"
	"oldburrow/core/page"
)

// A look says what lies behind what it found, by the set as it stands; what somebody went to see since counts; of no other line's look is anything told.
func TestMeans(t *testing.T) {
	x := newDemo(t)
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	set := view.Sets[0]
	found := func(finding line.Finding) string {
		look := line.Visit{ID: id(), MakeID: set.Make.ID, At: view.Now, Found: line.Found{Finding: finding}}
		x.put(x.of("visits", look.ID), look, nil)
		return look.ID
	}
	means := func(visit, said string) (is page.MeansView) {
		x.get("/lines/"+x.line+"/means/"+visit+"?said="+said, &is)
		return is
	}
	share := func(is page.MeansView, key advice.CauseKey) float64 {
		for _, c := range is.Causes {
			if c.Key == key {
				return c.Share
			}
		}
		t.Fatalf("no %s among %+v", key, is.Causes)
		return 0
	}
	quiet := means(found(line.FoundQuiet), "")
	if len(quiet.Causes) != 0 || quiet.First != advice.Leave || quiet.Alone == nil || *quiet.Alone <= 0 || quiet.Left < 1 {
		t.Errorf("quiet: %+v", quiet)
	}
	dug := found(line.FoundDug)
	plain, moves, still := means(dug, ""), means(dug, "-firm"), means(dug, "firm")
	if share(moves, "loose_bed") <= share(plain, "loose_bed") && share(plain, "loose_bed") <= share(still, "loose_bed") || share(moves, "loose_bed") <= share(still, "loose_bed") {
		t.Errorf("a bed that moves %.2f, nobody felt it %.2f, that does not %.2f", share(moves, "loose_bed"), share(plain, "loose_bed"), share(still, "loose_bed"))
	}
	if moves.First != "rebed" {
		t.Errorf("of a bed that moves: %s", moves.First)
	}
	for _, finding := range advice.Explained() {
		is := means(found(finding), "")
		if len(is.Causes) == 0 || is.Finding != finding {
			t.Errorf("%s: %+v", finding, is)
		}
	}
	x.refused("GET", "/lines/"+x.line+"/means/"+dug+"?said=bent", "", "", 422, "said")
	x.refused("GET", "/lines/"+x.line+"/means/"+id(), "", "", 404, "")
}

// What would work at a spot is ranked for the target that is asked for, those as good as the best first, and those that the place lacks something for last.
func TestWorks(t *testing.T) {
	x := newDemo(t)
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	first := map[string]string{}
	for _, spot := range view.Spots {
		for _, target := range []string{"coyote", "red_fox"} {
			var is page.WorksView
			x.get("/lines/"+x.line+"/works/"+spot.ID+"?target="+target, &is)
			if len(is.Ranked) < 20 || !is.Ranked[0].First || is.Ranked[0].Per100 == nil || is.Target != target {
				t.Fatalf("%s for a %s: %+v", spot.Name, target, is)
			}
			lacking := false
			for _, r := range is.Ranked {
				if lacking = lacking || len(r.Lacks) > 0; lacking && len(r.Lacks) == 0 {
					t.Errorf("%s: %s stands behind what the place lacks something for", spot.Name, r.Pattern)
				}
				if r.Layout.Pattern != r.Pattern || r.Layout.Check() != nil {
					t.Errorf("%s: %s cannot be begun", spot.Name, r.Pattern)
				}
			}
			first[spot.Name+" "+target] = is.Ranked[0].Pattern
		}
	}
	told := map[string]bool{}
	for _, pattern := range first {
		told[pattern] = true
	}
	if len(told) < 4 {
		t.Errorf("the answer is nearly the same at every place: %v", first)
	}
	x.refused("GET", "/lines/"+x.line+"/works/"+view.Spots[0].ID+"?target=yeti", "", "", 422, "target")
	x.refused("GET", "/lines/"+x.line+"/works/"+id()+"?target=coyote", "", "", 404, "")
}
