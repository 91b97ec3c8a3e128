package server

import (
	"net/url"
	"slices"
	"testing"

	"oldburrow/core/advice"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/outlook"
	"oldburrow/core/page"
	"oldburrow/store"
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
	sides, named, seconds := 0, 0, 0
	for _, spot := range view.Spots {
		var is page.WorksView
		x.get("/lines/"+x.line+"/works/"+spot.ID+"?target=coyote", &is)
		if is.Ahead == nil || is.Ahead.Nights == 0 {
			t.Errorf("%s: nothing is told of the nights to come", spot.Name)
		}
		if len(is.Sides) == 2 {
			sides++
			for _, r := range is.Ranked {
				if turned := r.Layout.FacingDeg != nil && *r.Layout.FacingDeg == is.Sides[0].FacingDeg && r.Layout.At != nil; turned == r.Layout.Blind() {
					t.Errorf("%s: %s is begun on its better side: %v", spot.Name, r.Pattern, turned)
				}
			}
		}
		if slices.ContainsFunc(is.Near, func(t outlook.Drawn) bool { return t.Name != "" }) {
			named++
		}
		if is.Second != nil {
			seconds++
			if is.Second.Low > is.Second.Mid || is.Second.Mid > is.Second.High || len(is.Standing) == 0 {
				t.Errorf("%s: a second set adds %+v beside %v", spot.Name, is.Second, is.Standing)
			}
		}
	}
	if sides == 0 || named == 0 || seconds == 0 {
		t.Errorf("sides of %d ways, %d with something near, %d with a second set", sides, named, seconds)
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

// reading reads the demo's line with what its trapper goes by.
func (x *site) reading(with page.With, does func(page.Reading)) {
	x.t.Helper()
	err := x.server.Store.Read(x.t.Context(), func(v store.View) error {
		l, err := v.Line(x.line)
		if err != nil {
			return err
		}
		r, err := page.Read(v, l, x.server.Clock.Now(), with, page.Around{})
		if err == nil {
			does(r)
		}
		return err
	})
	if err != nil {
		x.t.Fatal(err)
	}
}

// ask answers a route from a reading.
func ask[T any](x *site, r page.Reading, path string, query map[string]string) T {
	x.t.Helper()
	one, key, err := page.Find(path)
	if err != nil {
		x.t.Fatal(err)
	}
	answer, err := one.Answered(r, page.Asked{Key: key, Query: query})
	if err != nil {
		x.t.Fatalf("%s: %v", path, err)
	}
	return answer.(T)
}

// Over the demo's sets, whatever is found: no single change comes first at more than a third of those at which one does, and to leave it alone comes
// first at between a third and four fifths of all.
func TestAdviceHangsOnTheSet(t *testing.T) {
	x := newDemo(t)
	x.promised()
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	all, firsts := 0, map[advice.MendKey]int{}
	for i, set := range view.Sets {
		if i%2 == 1 { // every second is enough
			continue
		}
		for _, finding := range append([]line.Finding{line.FoundLocked, line.FoundQuiet}, advice.Explained()...) {
			look := line.Visit{ID: id(), MakeID: set.Make.ID, At: view.Now, Found: line.Found{Finding: finding}}
			x.put(x.of("visits", look.ID), look, nil)
			var is page.MeansView
			x.get("/lines/"+x.line+"/means/"+look.ID, &is)
			all++
			firsts[is.First]++
			for _, o := range is.Options {
				if o.Layout != nil && o.Layout.Check() != nil {
					t.Errorf("set %d, %s: %s cannot be built", set.Set.Number, finding, o.Mend)
				}
			}
			x.do("POST", x.of("visits", look.ID)+"/undo", id(), map[string]any{"at": view.Now})
		}
	}
	leaves := float64(firsts[advice.Leave]) / float64(all)
	changes := all - firsts[advice.Leave]
	if leaves < 1/3. || leaves > .8 {
		t.Errorf("left alone at %.2f of all: %v", leaves, firsts)
	}
	for mend, n := range firsts {
		if mend != advice.Leave && 3*n > changes {
			t.Errorf("%s comes first at %d of %d", mend, n, changes)
		}
	}
}

// What a rule card forbids, one pattern, one anchor and one animal, is offered at none of the demo's sets and spots.
func TestNothingForbiddenIsOffered(t *testing.T) {
	x := newDemo(t)
	x.promised()
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	with := page.Usual()
	with.Forbids = func(l layout.Layout, _ line.Set, target string) (broken []string) {
		if l.Pattern == "hole_dug_out" {
			broken = append(broken, "pattern")
		}
		if slices.ContainsFunc(l.Anchors, func(a layout.Anchor) bool { return a.Kind == "cable" }) {
			broken = append(broken, "anchor")
		}
		if target == "grey_fox" {
			broken = append(broken, "animal")
		}
		return broken
	}
	forbidden := func(l layout.Layout, target string) bool { return len(with.Forbids(l, line.Set{}, target)) > 0 }
	said := map[string]bool{}
	x.reading(with, func(r page.Reading) {
		rec, err := r.Record()
		if err != nil {
			t.Fatal(err)
		}
		for _, m := range rec.Standing() {
			look := rec.LastLook(m.ID)
			if look == nil {
				continue
			}
			is := ask[page.MeansView](x, r, "/means/"+look.ID, nil)
			for _, o := range is.Options {
				if o.Layout != nil && forbidden(*o.Layout, is.Target) {
					t.Errorf("%s after %s is forbidden", o.Mend, look.Finding)
				}
			}
			for _, clause := range is.Forbidden {
				said[clause] = true
			}
		}
		for _, spot := range view.Spots {
			for _, target := range []string{"coyote", "grey_fox"} {
				works := ask[page.WorksView](x, r, "/works/"+spot.ID, map[string]string{"target": target})
				for _, clause := range works.Forbidden {
					said[clause] = true
				}
				for _, way := range works.Ranked {
					if forbidden(way.Layout, target) {
						t.Errorf("%s for a %s at %s is forbidden", way.Pattern, target, spot.Name)
					}
				}
			}
		}
		missing, _, err := r.Unweighed()
		if err != nil || len(missing) < 20 {
			t.Fatalf("%v are not weighed, %v", missing, err)
		}
		for _, key := range missing {
			kept, ok, err := r.Weigh(t.Context(), key)
			if err != nil || !ok {
				t.Fatalf("%s: %v, %v", key, ok, err)
			}
			if at := kept.Set; at != nil && at.Change != nil && forbidden(*at.Change.Layout, at.Target) {
				t.Errorf("%+v is forbidden", at.Change)
			}
			if at := kept.Spot; at != nil && at.Layout != nil && forbidden(*at.Layout, at.Target) {
				t.Errorf("%+v is forbidden", at)
			}
		}
	})
	if !said["pattern"] || !said["animal"] {
		t.Errorf("it is not said what is not offered: %v", said)
	}
}

// What is worth doing is weighed in the background once somebody asks for it, and kept; what is done at one set has that set weighed anew, and no other;
// what is asked that cannot be is refused by its name.
func TestJobsAreWeighedOnce(t *testing.T) {
	x := newDemo(t)
	x.promised()
	jobs := func(query string) (is page.JobsView) {
		x.get("/lines/"+x.line+"/jobs"+query, &is)
		return is
	}
	if is := jobs(""); is.Told != 0 || is.Of < 20 || len(is.Jobs) != 0 {
		t.Fatalf("nothing is weighed yet: %+v", is)
	}
	weighed := func() int {
		before := jobs("").Told
		if err := weigh(t.Context(), x.server.Store, x.line, x.server.Clock, x.server.with()); err != nil {
			t.Fatal(err)
		}
		return jobs("").Told - before
	}
	all := weighed()
	is := jobs("")
	if is.Told != is.Of || all != is.Of || len(is.Jobs) == 0 || is.Minutes > 120 || is.Gain <= 0 || len(is.Traps) == 0 {
		t.Fatalf("all is weighed: %d, %+v", all, is)
	}
	if short := jobs("?minutes=10"); len(short.Jobs) >= len(is.Jobs) || short.Minutes > 10 || len(short.Jobs)+len(short.Rest) < len(is.Jobs) {
		t.Errorf("in ten minutes: %+v", short)
	}
	if few := jobs("?nights=5"); few.Gain >= is.Gain {
		t.Errorf("over five nights %g animals, over all %g", few.Gain, is.Gain)
	}
	for _, j := range append(jobs("?minutes=600&traps="+is.Traps[0]).Jobs, jobs("?minutes=600&traps=none").Jobs...) {
		if j.Kind == advice.JobBuild && j.TrapID != is.Traps[0] {
			t.Errorf("%s takes a trap that is not there", j.Key)
		}
	}
	if without := jobs("?without=" + url.QueryEscape(is.Jobs[0].Key)); without.Jobs[0].Key == is.Jobs[0].Key {
		t.Error("what is not wanted comes first")
	}
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	look := line.Visit{ID: id(), MakeID: view.Sets[2].Make.ID, At: view.Now, Found: line.Found{Finding: line.FoundPassed}}
	x.put(x.of("visits", look.ID), look, nil)
	if again := jobs(""); again.Told != again.Of-1 {
		t.Errorf("after a look %d of %d are known", again.Told, again.Of)
	}
	if n := weighed(); n != 1 {
		t.Errorf("%d are weighed anew", n)
	}
	x.refused("GET", "/lines/"+x.line+"/jobs?minutes=-1", "", "", 422, "minutes")
	x.refused("GET", "/lines/"+x.line+"/jobs?nights=soon", "", "", 422, "nights")
}
