package odds

import (
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/schools"
)

// More signs, more steps and a better hold never lower the catch; a lower term never raises it.
func TestMoreNeverCatchesLess(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 4))
	for range 500 {
		a := animal.All[rng.IntN(len(animal.All))]
		in := ChainInput{
			Sign: Signs()[rng.IntN(5)], Signs: 1 + rng.IntN(5), WaysMeet: 1 + rng.IntN(2), Coverage: .9 * rng.Float64(), Sight: .9 * rng.Float64(), Blind: rng.IntN(3) == 0,
			Through: .9 * rng.Float64(), Night: 1 + rng.IntN(9), About: .9 * rng.Float64(), Steps: .9 * rng.Float64(), Fires: .9 * rng.Float64(), AnchorHold: .9 * rng.Float64(), PadShare: .9 * rng.Float64(),
		}
		was, err := Chain(a, in)
		if err != nil {
			t.Fatal(err)
		}
		for name, more := range map[string]func(*ChainInput){
			"signs": func(in *ChainInput) { in.Signs++ }, "steps": func(in *ChainInput) { in.Steps += .1 }, "hold": func(in *ChainInput) { in.AnchorHold += .1 },
			"ways": func(in *ChainInput) { in.WaysMeet++ }, "through": func(in *ChainInput) { in.Through += .1 }, "about": func(in *ChainInput) { in.About += .1 },
			"sight": func(in *ChainInput) { in.Sight += .1 }, "coverage": func(in *ChainInput) { in.Coverage += .1 }, "pads": func(in *ChainInput) { in.PadShare += .1 },
		} {
			then := in
			more(&then)
			if is, err := Chain(a, then); err != nil || is.Per100 < was.Per100-1e-12 {
				t.Fatalf("%s, more %s: %g after %g (%v)", a.Key, name, is.Per100, was.Per100, err)
			}
		}
	}
	if bobcat, fox := nose(kind("bobcat")), nose(kind("red_fox")); bobcat != .5 || fox != 1 {
		t.Errorf("noses: %g, %g", bobcat, fox)
	}
}

// A set in the mirror has the odds that it has, and so for an animal that leads with the other foot.
func TestAMirroredSetHasTheSameOdds(t *testing.T) {
	const visits = 200000
	run := func(l layout.Layout, lead float64, seed uint64) *Feet {
		ways, err := Ways(l, kind("coyote"), visits)
		if err != nil {
			t.Fatal(err)
		}
		for i := range ways {
			ways[i].Feet.LeadRight = lead
		}
		feet, err := walk(Question{Target: kind("coyote"), Visits: visits, Seed: seed}, ways)
		if err != nil {
			t.Fatal(err)
		}
		return feet
	}
	for _, pattern := range layout.PatternKeys() {
		if !layout.Claims(pattern) {
			continue
		}
		l := set(t, pattern, "coyote")
		l.Rigs[0].Pan.XMm += 12
		for _, lead := range []float64{.5, .8} {
			is, mirror := run(l, lead, 1), run(mirrored(t, l), 1-lead, 91)
			_, off := paired(worth{is.held, 1, 1}, worth{mirror.held, 1, 1})
			// The same blocks of two seeds are no pairs; the error is that of two runs.
			if by := is.held.mean() - mirror.held.mean(); math.Abs(by) > 3.5*off {
				t.Errorf("%s, leading right %g: held %.4f, in the mirror %.4f ± %.4f", pattern, lead, is.held.mean(), mirror.held.mean(), off)
			}
		}
	}
}

// The same set has one answer: by map or without, at the bench, when it is helped and when it is compared.
func TestOneSetHasOneAnswer(t *testing.T) {
	for _, pattern := range []string{"tuft_pair", "object", "punch_holes", "hole"} {
		q := askedOf(t, pattern, "coyote")
		if pattern == "object" {
			q.Layout.Way = &layout.Way{YMm: q.Layout.Rigs[0].Pan.YMm, WidthMm: 600}
		}
		plain := whole(t, q).Per100.Mid
		q.Map = true
		mapped := whole(t, q).Per100.Mid
		q.Map = false
		h, err := newHelper(t.Context(), q)
		if err != nil {
			t.Fatal(err)
		}
		if math.Abs(plain-mapped) > 1e-9 || math.Abs(h.base.mean()-plain) > 1e-9 {
			t.Errorf("%s: %g, with its map %g, weighed %g", pattern, plain, mapped, h.base.mean())
		}
	}
}

// What a pattern never takes is offered at none of them.
func TestWhatAPatternNeverTakesIsNotOffered(t *testing.T) {
	for _, pattern := range layout.PatternKeys() {
		if !layout.Claims(pattern) {
			continue
		}
		q := askedOf(t, pattern, "red_fox")
		for i := range q.Layout.Attractors { // one smell of them only, so that others are missing
			q.Layout.Attractors[i].Smells = slices.DeleteFunc(slices.Clone(q.Layout.Attractors[i].Smells), func(s layout.Smell) bool { return s.Kind == "urine" || s.IsBait() })
		}
		h, err := newHelper(t.Context(), q)
		if err != nil {
			t.Fatal(err)
		}
		offers, err := h.scents()
		if err != nil {
			t.Fatal(err)
		}
		for _, offer := range offers {
			kind := map[string]string{AddUrine: "urine", AddBait: "bait"}[offer.Key]
			if kind != "" && q.Layout.Refuses(kind) != "" {
				t.Errorf("%s is offered %s, which it never takes: %s", pattern, kind, q.Layout.Refuses(kind))
			}
		}
	}
	for pattern, kind := range map[string]string{"tree_hole": "urine", "three_stones": "food", "tuft": "bait"} {
		if (layout.Layout{Pattern: pattern}).Refuses(kind) == "" {
			t.Errorf("%s takes %s", pattern, kind)
		}
	}
}

// A lure that would help is a bottle of the shelf with something in it, or one to fetch; what a season alone would tip says on which day.
func TestALureThatWouldHelp(t *testing.T) {
	q := askedOf(t, "tuft", "red_fox")
	q.Circumstances.Site.Day = "2026-11-20"
	q.Layout.Attractors[0].Smells = []layout.Smell{{Kind: "gland", Name: "Old Fence", LureID: "fence", Place: "face"}}
	lure := func() *Remedy {
		for _, r := range helped(t, q) {
			if r.Key == OtherLure {
				return &r
			}
		}
		return nil
	}
	q.Circumstances.Shelf = []ShelfLure{{"fence", "Old Fence", "gland", 9, LuresMet}, {"cup", "Tin Cup", "curiosity", 3, ""}, {"post", "Dark Post", "curiosity", 7, LuresNew}, {"dry", "Creek musk", "musk", 0, LuresNew}}
	if r := lure(); r == nil || r.LureID != "post" || r.Lure != "Dark Post" || r.Doses != 7 || r.Layout.Attractors[0].Smells[0].LureID != "post" || r.Opens != "" {
		t.Errorf("of the shelf: %+v", r)
	}
	q.Circumstances.Shelf = q.Circumstances.Shelf[:1]
	if r := lure(); r == nil || r.LureID != "" || r.Lure != "" || r.To != lureElse {
		t.Errorf("with nothing else on the shelf: %+v", r)
	}
	q.Layout.Attractors[0].Smells = []layout.Smell{{Kind: "call", Name: "Long Draw", LureID: "draw", Place: "face"}}
	q.Circumstances.Shelf = []ShelfLure{{"draw", "Long Draw", "call", 9, ""}}
	if r := lure(); r != nil {
		t.Errorf("a lure that is in season and not met is changed for %+v", r)
	}
}

// What tips only because a season turns within the nights left says on which day; if the line came up before, it would not be told.
func TestWhatASeasonTips(t *testing.T) {
	q := askedOf(t, "object", "coyote")
	q.Visits, q.Circumstances.Site.Day = 4000, "2026-12-05"
	posts := func(left int) (found *Remedy) {
		q.Circumstances.Left = left
		for _, r := range helped(t, q) {
			if r.Opens != "" && r.To != "tuft" {
				t.Errorf("%s %s opens on %s", r.Key, r.To, r.Opens)
			}
			if r.To == "tuft" {
				found = &r
			}
		}
		return found
	}
	if r := posts(21); r == nil || r.Opens != "2026-12-15" {
		t.Errorf("over three weeks: %+v", r)
	}
	if r := posts(9); r != nil {
		t.Errorf("when the line comes up before that: %+v", r)
	}
}

// What opens the bed of a coyote set that has not caught costs it the nights in which it settles; a fox set, and one that has caught, loses
// none; and what a change costs is the more, the fewer nights are left.
func TestWhatAChangeCostsInNights(t *testing.T) {
	gain := func(target string, caught bool, left int) float64 {
		q := askedOf(t, "hole", target)
		q.Layout = q.Layout.WithRigMoved(0, 0, 120)
		q.Circumstances.CaughtBefore, q.Circumstances.Left = caught, left
		for _, r := range helped(t, q) {
			if r.Key == MovePan {
				if r.Anew != (target == "coyote" && !caught) {
					t.Errorf("%s, caught %v: settles anew %v", target, caught, r.Anew)
				}
				return r.Gain
			}
		}
		return 0
	}
	settled, anew, short := gain("coyote", true, 14), gain("coyote", false, 14), gain("coyote", false, 5)
	if !(settled > anew && anew > short) {
		t.Errorf("moved at a set that has caught %.3f, that has not %.3f, with five nights left %.3f", settled, anew, short)
	}
	if fox, after := gain("red_fox", false, 14), gain("red_fox", true, 14); math.Abs(fox-after) > 1e-9 {
		t.Errorf("a fox set: %g, and %g", fox, after)
	}
}

// A fox set is told how it holds the coyote that is about, and no advice takes an anchor that is known to fail it.
func TestTheHeaviestAboutDecidesTheAnchor(t *testing.T) {
	q := askedOf(t, "hole", "red_fox")
	q.Layout.Anchors[0] = layout.Anchor{Slot: 0, Kind: "stake", LengthMm: 300, YMm: q.Layout.Rigs[0].YMm}
	q.Soil = anchor.Soil{Kind: "loam", Wetness: "wet"}
	coyote := kind("coyote")
	alone, err := Of(q)
	if err != nil || alone.Heaviest != nil {
		t.Fatalf("%+v, %v", alone.Heaviest, err)
	}
	q.Heaviest = &coyote
	q.Circumstances.Pets = []string{"dog", "cat"}
	found, err := Of(q)
	if err != nil || found.Heaviest == nil || found.Heaviest.Species != "coyote" || found.Heaviest.Anchors[0].DemandN <= found.Anchors[0].DemandN {
		t.Fatalf("%+v, %v", found.Heaviest, err)
	}
	if len(found.Pets) != 1 || found.Pets[0].Species != "dog" || found.Pets[0].DemandN <= found.Heaviest.Anchors[0].DemandN {
		t.Errorf("of pets: %+v", found.Pets)
	}
	if !reflect.DeepEqual(found.Whole, alone.Whole) {
		t.Error("the chain is the target's, and yet changes with who else is about")
	}
	if !found.Heaviest.Anchors[0].Fails() {
		t.Fatalf("the stake holds a coyote: %+v", found.Heaviest.Anchors[0])
	}
	told := 0
	for _, r := range helped(t, q) {
		if r.Key != Anchor && r.Key != OtherPattern {
			continue
		}
		told++
		held, err := anchor.Of(anchor.Question{Layout: *r.Layout, Animal: coyote, Soil: q.Soil})
		if err != nil {
			t.Fatal(err)
		}
		for _, h := range held {
			if h.Fails() && h.Slot == r.Slot {
				t.Errorf("%s %s has an anchor that fails a coyote: %+v", r.Key, r.To, h)
			}
		}
	}
	if told == 0 {
		t.Error("nothing with an anchor is offered")
	}
}

// Where nobody looked each animal has its figure, by which others are spared; it is told of none of them.
func TestWhereNobodyLooked(t *testing.T) {
	for key, want := range map[string]float64{"raccoon": .05, "skunk": .04, "opossum": .03, "badger": .01, "dog": .02, "cat": .03, "coyote": .065, "bobcat": .065} {
		q := askedOf(t, "hole", "grey_fox")
		q.Target, q.other, q.Circumstances.Others = kind(key), true, map[string]Presence{key: {About: new(1.0)}}
		found, _, err := linked(q, &Feet{}, new(.9))
		if err != nil || math.Abs(found.Links[0].Mid-want) > .001 || !slices.Equal(found.Unknown, []string{NoSign}) {
			t.Errorf("%s passes %g, want %g; not known: %v (%v)", key, found.Links[0].Mid, want, found.Unknown, err)
		}
	}
	q := askedOf(t, "hole", "red_fox")
	q.Circumstances.Others = map[string]Presence{"dog": {About: new(1.0)}, "raccoon": {"none", 1, new(1.0)}}
	for _, o := range company(t, q).Others {
		if looked := o.Species == "raccoon"; looked == o.Unlooked || looked != (o.Per100 != nil) || o.expected <= 0 {
			t.Errorf("%+v", o)
		}
	}
}

// What is ranked first is within a quarter of the best; then the rest, then what the place lacks something for; a kind that stands there
// already comes after one that does not; what is far below the best is poor.
func TestRank(t *testing.T) {
	q := askedOf(t, "hole", "coyote")
	q.Visits, q.Hold = 4000, new(.97)
	q.Circumstances.Site = layout.Site{Day: "2026-12-04", WayMm: new(900.0), Near: []layout.Nearby{{Key: "culvert", M: 4}}}
	rank := func(standing ...string) []Ranked {
		found, err := Rank(t.Context(), q, schools.Usual(), standing)
		if err != nil {
			t.Fatal(err)
		}
		return found
	}
	found := rank()
	best, last := 0.0, 0
	for _, r := range found {
		if len(r.Lacks) == 0 {
			best = max(best, r.Per100.Mid)
		}
	}
	for i, r := range found {
		group := 1
		switch {
		case len(r.Lacks) > 0:
			group = 2
		case r.First:
			group = 0
		}
		if group < last || r.First != (len(r.Lacks) == 0 && r.Per100.Mid >= .75*best) || r.Poor != (r.Per100.Mid < .1*best) || r.Layout.Check() != nil {
			t.Errorf("%d: %+v", i, r)
		}
		last = group
		if lacks := r.Pattern == "crawl_under" || r.Pattern == "creek_pinch" || r.Pattern == "snow_post" || r.Pattern == "robbed_rebuild"; lacks && len(r.Lacks) != 1 || r.Pattern == "culvert_pair" && len(r.Lacks) != 0 {
			t.Errorf("%s lacks %v", r.Pattern, r.Lacks)
		}
		if len(r.Up) > 3 || len(r.Down) > 3 {
			t.Errorf("%s for too many reasons: %v, %v", r.Pattern, r.Up, r.Down)
		}
		if r.Pattern == "trench" && !slices.Contains(r.Down, "close") || r.Pattern == "foot_snare" || r.Pattern == "trail_pair" && !slices.Contains(r.Down, ByThrough) {
			t.Errorf("%s: up by %v, down by %v", r.Pattern, r.Up, r.Down)
		}
	}
	if firsts := Firsts(found); len(firsts) < 2 || firsts[0] != found[0].Pattern {
		t.Errorf("first %v", firsts)
	}
	again := rank(found[0].Kind)
	if again[0].Kind == found[0].Kind && slices.ContainsFunc(found, func(r Ranked) bool { return r.First && r.Kind != found[0].Kind }) {
		t.Errorf("what stands there already is first: %s", again[0].Pattern)
	}
	if !Decides(found, [][]Ranked{found, again[:1], again[:1]}) || Decides(found, [][]Ranked{found, again, again[:1]}) {
		t.Error("whether the place decides")
	}
}
