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
