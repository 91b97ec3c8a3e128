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
	"oldburrow/core/learn"
	"oldburrow/core/refuse"
	"oldburrow/core/seeds"
)

// More signs, more steps and a better hold never lower the catch; a lower term never raises it.
func TestMoreNeverCatchesLess(t *testing.T) {
	seeds.Each(t, 500, func(rng *rand.Rand) {
		a := animal.Reference[rng.IntN(len(animal.Reference))]
		in := ChainInput{
			Sign: Ages[rng.IntN(5)], Signs: 1 + rng.IntN(5), WaysMeet: 1 + rng.IntN(2), Coverage: .9 * rng.Float64(), Sight: .9 * rng.Float64(), Blind: rng.IntN(3) == 0,
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
	})
	if bobcat, fox := kind("bobcat").Nose, kind("red_fox").Nose; bobcat != .5 || fox != 1 {
		t.Errorf("noses: %g, %g", bobcat, fox)
	}
}

// A set in the mirror has the odds that it has, and so for an animal that leads with the other foot.
func TestAMirroredSetHasTheSameOdds(t *testing.T) {
	t.Parallel()
	const visits = 40000
	run := func(l layout.Layout, lead float64, seed uint64) *Feet {
		ways, err := Comings(l, kind("coyote"), visits)
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
	// All patterns together tell of what would hide in the error of each.
	sum, square := 0.0, 0.0
	for i, pattern := range layout.PatternKeys() {
		if !layout.Claims(pattern) || testing.Short() && i%3 != 0 {
			continue
		}
		l := set(t, pattern, "coyote")
		l.Rigs[0].Pan.XMm += 12
		const lead = .8
		is, mirror := run(l, lead, 1), run(mirrored(t, l), 1-lead, 91)
		_, off := paired(worth{is.held, 1, 1}, worth{mirror.held, 1, 1})
		// The same blocks of two seeds are no pairs; the error is that of two runs.
		by := is.held.mean() - mirror.held.mean()
		sum, square = sum+by, square+off*off
		if math.Abs(by) > 3.5*off {
			t.Errorf("%s: held %.4f, in the mirror %.4f ± %.4f", pattern, is.held.mean(), mirror.held.mean(), off)
		}
	}
	if math.Abs(sum) > 3*math.Sqrt(square) {
		t.Errorf("all sets together hold %.4f more than their mirrors ± %.4f", sum, math.Sqrt(square))
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
			kind := map[RemedyKey]layout.SmellKind{AddUrine: layout.Urine, AddBait: layout.Bait}[offer.Key]
			if kind != "" && q.Layout.Refuses(kind) != "" {
				t.Errorf("%s is offered %s, which it never takes: %s", pattern, kind, q.Layout.Refuses(kind))
			}
		}
	}
	for pattern, kind := range map[string]layout.SmellKind{"tree_hole": "urine", "three_stones": "food", "tuft": "bait"} {
		if (layout.Layout{Pattern: pattern}).Refuses(kind) == "" {
			t.Errorf("%s takes %s", pattern, kind)
		}
	}
}

// A lure that would help is a bottle of the shelf with something in it, or one to fetch; what a season alone would tip says on which day.
func TestALureThatWouldHelp(t *testing.T) {
	t.Parallel()
	q := askedOf(t, "tuft", "red_fox")
	q.Visits, q.Circumstances.Site.Day = 3000, "2026-11-20"
	q.Layout.Attractors[0].Smells = []layout.Smell{{Kind: "gland", Name: "Old Fence", LureID: "fence", Place: "face"}}
	lure := func() *Remedy {
		for _, r := range helped(t, q) {
			if r.Key == OtherLure {
				return &r
			}
		}
		return nil
	}
	q.Circumstances.Shelf = []ShelfLure{{"fence", "Old Fence", "gland", 9, LuresMet, false}, {"cup", "Tin Cup", "curiosity", 3, "", false}, {"post", "Dark Post", "curiosity", 7, LuresNew, false}, {"dry", "Creek musk", "musk", 0, LuresNew, false}}
	if r := lure(); r == nil || r.LureID != "post" || r.Lure != "Dark Post" || r.Doses != 7 || r.Layout.Attractors[0].Smells[0].LureID != "post" || r.Opens != "" {
		t.Errorf("of the shelf: %+v", r)
	}
	q.Circumstances.Shelf = q.Circumstances.Shelf[:1]
	if r := lure(); r == nil || r.LureID != "" || r.Lure != "" || r.To != lureElse {
		t.Errorf("with nothing else on the shelf: %+v", r)
	}
	q.Layout.Attractors[0].Smells = []layout.Smell{{Kind: "call", Name: "Long Draw", LureID: "draw", Place: "face"}}
	q.Circumstances.Shelf = []ShelfLure{{"draw", "Long Draw", "call", 9, "", false}}
	if r := lure(); r != nil {
		t.Errorf("a lure that is in season and not met is changed for %+v", r)
	}
}

// What tips only because a season turns within the nights left says on which day; if the line came up before, it would not be told.
func TestWhatASeasonTips(t *testing.T) {
	t.Parallel()
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
	// The last of ten nights is that of the 14th: what turns on the 15th is of no night that is left.
	after := q
	after.Layout = *posts(21).Layout
	for left, want := range map[int]string{10: "", 11: "2026-12-15"} {
		q.Circumstances.Left = left
		h, err := newHelper(t.Context(), q.overTheNightsLeft())
		if err != nil {
			t.Fatal(err)
		}
		if got := h.turns(after); got != want {
			t.Errorf("with %d nights left it opens on %q, want %q", left, got, want)
		}
	}
}

// What opens the bed of a coyote set that has not caught costs it the nights in which it settles; a fox set, and one that has caught, loses
// none; and what a change costs is the more, the fewer nights are left.
func TestWhatAChangeCostsInNights(t *testing.T) {
	t.Parallel()
	gain := func(target string, caught bool, left int) float64 {
		q := askedOf(t, "hole", target)
		q.Visits = 3000
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
	q := askedOf(t, "hole", "coyote")
	q.Circumstances.CaughtBefore, q.Circumstances.Night = false, 1
	for _, r := range helped(t, q) {
		if r.Anew {
			t.Errorf("on its first night %s costs nights to settle", r.Key)
		}
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
	t.Parallel()
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
		if err != nil || math.Abs(found.Links[0].Mid-want) > .001 || !slices.Equal(found.Unknown, []Unknown{NoSign}) {
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
	rank := func(standing ...layout.Kind) []Ranked {
		found, err := Rank(t.Context(), q, standing, nil)
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

// The order of what was ranked, by figures told by hand: three quarters of the best is as good, a tenth of it is no longer poor; the hour that
// a set takes counts with 84 minutes of looks; what lacks something sets no measure.
func TestTheOrderOfARanking(t *testing.T) {
	one := func(pattern string, kind layout.Kind, per100, minutes float64, lacks ...string) Ranked {
		return Ranked{Pattern: pattern, Kind: kind, Per100: Range{Mid: per100}, Minutes: minutes, Lacks: lacks}
	}
	found := []Ranked{
		one("below", "a", .999, 10), one("tenth", "a", 1, 10), one("short", "a", 7.49, 10), one("quick", "a", 7.5, 6), one("best", "b", 10, 60), one("slow", "c", 9, 90),
		one("lacking", "d", 30, 10, "culvert"),
	}
	order(found, nil)
	keys := func() (all []string) {
		for _, r := range found {
			all = append(all, r.Pattern)
		}
		return all
	}
	if got := keys(); !slices.Equal(got, []string{"quick", "best", "slow", "short", "tenth", "below", "lacking"}) {
		t.Errorf("in order: %v", got)
	}
	if got := Firsts(found); !slices.Equal(got, []string{"quick", "best", "slow"}) {
		t.Errorf("first: %v", got)
	}
	for _, r := range found {
		if r.Poor != (r.Pattern == "below") {
			t.Errorf("%s is poor: %v", r.Pattern, r.Poor)
		}
	}
	order(found, []layout.Kind{"a", "b"})
	if got := keys()[:3]; !slices.Equal(got, []string{"slow", "quick", "best"}) {
		t.Errorf("a kind that stands there already: %v", got)
	}
	if hour := found[1].anHour(); math.Abs(hour-.14*7.5/1.5) > 1e-12 {
		t.Errorf("an hour brings %g", hour)
	}
	for same, decides := range map[int]bool{9: true, 10: false} {
		spots := make([][]Ranked, 15)
		for i := range same {
			spots[i] = found
		}
		if Decides(found, spots) != decides {
			t.Errorf("the same at %d of 15: decides %v", same, !decides)
		}
	}
}

// A reason is told from a tenth on.
func TestReasonsFromATenthOn(t *testing.T) {
	for _, c := range []struct {
		pattern, target, term string
		told                  bool
	}{
		{"hole_dug_out", "coyote", "show", true}, // by about an eighth
		{"tuft", "red_fox", "mark_early", false}, // by about a twentieth
	} {
		q := askedOf(t, c.pattern, c.target)
		q.Circumstances.Site = layout.Site{Shy: true, Day: "2026-12-04"}
		chain, _, err := linked(q, &Feet{}, new(.9))
		if err != nil || !slices.Contains(chain.Terms, layout.Term(c.term)) {
			t.Fatalf("%s: %v, %v", c.pattern, chain.Terms, err)
		}
		if _, down := reasons(q, chain); slices.Contains(down, c.term) != c.told {
			t.Errorf("%s at %s: down by %v", c.term, c.pattern, down)
		}
	}
}

// What is told to move a set from its par is what moves it by more than a tenth, as worked out here by hand: how much of the night its scent lies
// across the way, by the animal's nose, what makes it show at this place, and each
// term of the chain; the most first.
func TestWhatMovesASetFromItsPar(t *testing.T) {
	told := map[string]int{}
	for _, pattern := range []string{"hole", "hole_dug_out", "object", "tuft"} {
		for _, target := range []string{"coyote", "bobcat"} {
			for _, site := range []layout.Site{{}, {InCover: new(true)}, {SnowMm: new(100.0)}} {
				for covered := 0.0; covered <= 1; covered += .05 {
					q := askedOf(t, pattern, target)
					q.Circumstances.Site, q.Circumstances.Coverage = site, new(covered)
					chain, _, err := linked(q, &Feet{}, new(.9))
					if err != nil {
						t.Fatal(err)
					}
					nose := map[string]float64{"coyote": 1, "bobcat": .5}[target]
					seen := func(covered, sight float64) float64 { return sight + covered*nose - covered*nose*sight }
					sight, plain := q.Layout.Sight(q.Target, site), q.Layout.Sight(q.Target, layout.Site{})
					times := map[string]float64{"coverage": seen(covered, sight.Share) / seen(parCoverage, sight.Share)}
					for _, by := range sight.By {
						times[string(by)] = seen(covered, sight.Share) / seen(covered, plain.Share)
					}
					in := boundsOf(q, &Feet{}, nil).most
					for k, term := range in.Terms {
						without := in
						without.Terms = slices.Delete(slices.Clone(in.Terms), k, k+1)
						times[string(term)] = commits(q.Target, in) / commits(q.Target, without)
					}
					up, down := reasons(q, chain)
					for key, is := range times {
						if math.Abs(is-1.1) < 1e-9 || math.Abs(is-.9) < 1e-9 {
							continue
						}
						if slices.Contains(up, key) != (is > 1.1) || slices.Contains(down, key) != (is < .9) {
							t.Errorf("%s for a %s at %+v, covered %.2f: %s is worth %.3f, and is told among %v and %v", pattern, target, site, covered, key, is, up, down)
						}
						if is > 1.1 || is < .9 {
							told[key]++
						}
					}
					last := math.Inf(1)
					for _, key := range down {
						if is, known := times[key]; known {
							if is = -math.Log(is); is > last+1e-12 {
								t.Errorf("%s: %v are not the most first: %v", pattern, down, times)
							}
							last = is
						}
					}
				}
			}
		}
	}
	if told["coverage"] < 50 || len(told) < 3 {
		t.Errorf("only these are told: %v", told)
	}
}

// How far each link is open where what it hangs on is not known, to the figure.
func TestHowFarWhatIsNotKnownIsOpen(t *testing.T) {
	link := func(pattern string, i int, forget func(*Question)) Range {
		q := askedOf(t, pattern, "coyote")
		q.Circumstances.Signs = 2
		forget(&q)
		found, _, err := linked(q, &Feet{Step: .5, Fire: .4}, q.Hold)
		if err != nil {
			t.Fatal(err)
		}
		return found.Links[i].Range
	}
	for _, c := range []struct {
		name      string
		pattern   string
		link      int
		forget    func(*Question)
		low, high float64
	}{
		{"no sign", "hole", 0, func(q *Question) { q.Circumstances.Sign = "" }, .03, .14},
		{"sign without an age", "hole", 0, func(q *Question) { q.Circumstances.Sign = AgeUnsaid }, .08, .14},
		{"ways", "hole", 0, func(q *Question) { q.Circumstances.WaysMeet = 0 }, .2, .3},
		{"who is about", "hole", 0, func(q *Question) {
			q.other, q.Circumstances.Others = true, map[string]Presence{"coyote": {Sign: "days_3", Signs: 2}}
		}, .04, .2},
		{"through", "creek_pinch", 1, func(q *Question) { q.Circumstances.Site.Through = "" }, .2, .9},
	} {
		if is := link(c.pattern, c.link, c.forget); math.Abs(is.Low-c.low) > 1e-9 || math.Abs(is.High-c.high) > 1e-9 {
			t.Errorf("%s: %+v, want %g to %g", c.name, is, c.low, c.high)
		}
	}
	held := link("hole", 5, func(*Question) {})
	if known := link("hole", 5, func(q *Question) { q.Hold = new(.97) }); math.Abs(held.High-known.Mid) > 1e-9 || math.Abs(held.Low/known.Mid-.5/.97) > 1e-9 {
		t.Errorf("hold: %+v, and %+v where it is .97", held, known)
	}
}

// A gain is told over the nights left, at most three weeks, and a fortnight where nobody knows.
func TestTheNightsThatAreLeft(t *testing.T) {
	for left, want := range map[int]int{0: 14, 1: 1, 9: 9, 21: 21, 22: 21, 200: 21} {
		if is := (Circumstances{Left: left}).left(); is != want {
			t.Errorf("%d left: told over %d", left, is)
		}
	}
}

// Another pattern is another set, at a place that has met this one; what opens the bed has this one settle anew; the rest leaves it as it is.
func TestWhatASetIsAfterAChange(t *testing.T) {
	q := askedOf(t, "hole", "coyote")
	q.Circumstances.Site.KindsMet, q.Circumstances.KindsMetThen = []layout.Kind{"flat"}, []layout.Kind{"flat", "dirt_hole"}
	h := &helper{ctx: t.Context(), q: q}
	for _, c := range []struct {
		key    RemedyKey
		night  int
		caught bool
		met    []layout.Kind
	}{
		{OtherPattern, 1, false, []layout.Kind{"flat", "dirt_hole"}}, {MovePan, 1, true, []layout.Kind{"flat"}}, {Anchor, 1, true, []layout.Kind{"flat"}}, {Gloves, 9, true, []layout.Kind{"flat"}},
		{OtherLure, 9, true, []layout.Kind{"flat"}},
	} {
		is := h.after(&Remedy{Key: c.key, Layout: &q.Layout}).Circumstances
		if is.Night != c.night || is.CaughtBefore != c.caught || !slices.Equal(is.Site.KindsMet, c.met) {
			t.Errorf("%s: night %d, caught %v, met %v", c.key, is.Night, is.CaughtBefore, is.Site.KindsMet)
		}
	}
	if q.Circumstances.Night != 9 {
		t.Error("the set as it is was changed")
	}
}

// A gain is told from two errors and from a twentieth of the set's catch on.
func TestWhatGainIsTold(t *testing.T) {
	h := &helper{base: worth{strata{{share: 1, visits: []float64{1, 1}, held: []float64{.5, .5}}}, 20, 1}}
	for _, c := range []struct {
		gain, err float64
		told      bool
	}{{.5, .2, true}, {.49, .2, false}, {.6, .3, false}, {.7, .3, true}} {
		if h.tells(c.gain, c.err) != c.told {
			t.Errorf("%g more of 10, error %g: told %v", c.gain, c.err, !c.told)
		}
	}
}

// From three on the ways that meet count alike; as many as can be said of a spot are no fault of it.
func TestWaysThatMeet(t *testing.T) {
	last, q := 0.0, askedOf(t, "hole", "coyote")
	for ways := 1; ways <= MostWays; ways++ {
		q.Circumstances.WaysMeet = ways
		var p refuse.Problems
		if q.Circumstances.Check(&p, animal.Reference); len(p) > 0 {
			t.Errorf("%d ways: %v", ways, p)
		}
		is := whole(t, q).Links[0].Mid
		if ways <= 3 && is <= last || ways > 3 && is != last {
			t.Errorf("%d ways that meet bring %g, one less %g", ways, is, last)
		}
		last = is
	}
	var p refuse.Problems
	q.Circumstances.WaysMeet = MostWays + 1
	q.Circumstances.Check(&p, animal.Reference)
	if len(p) != 1 || p[0].Field != "circumstances.waysMeet" {
		t.Errorf("one more: %v", p)
	}
}

// A kind of set that the line's record puts at half falls behind one that stood within a quarter of it.
func TestRankIsToldByTheRecord(t *testing.T) {
	q := askedOf(t, "hole", "red_fox")
	q.Visits, q.Hold = 4000, new(.97)
	q.Circumstances.Site = layout.Site{Day: "2026-12-04", WayMm: new(2000.0)}
	rank := func(record *learn.Learnt) []Ranked {
		q.Circumstances.Record = record
		found, err := Rank(t.Context(), q, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		return found
	}
	plain := rank(nil)
	first := plain[0]
	i := slices.IndexFunc(plain, func(r Ranked) bool {
		return r.Kind != first.Kind && len(r.Lacks) == 0 && r.Per100.Mid >= .75*first.Per100.Mid && r.Per100.Mid <= first.Per100.Mid
	})
	if i < 0 {
		t.Fatalf("nothing of another kind lies within a quarter of %s", first.Pattern)
	}
	kinds := map[string]learn.Sum{}
	for _, r := range plain {
		kinds[string(r.Kind)] = learn.Sum{Expected: 400, Caught: 400}
	}
	kinds[string(first.Kind)] = learn.Sum{Expected: 400, Caught: 200}
	told := rank(&learn.Learnt{Line: learn.Sum{Expected: 4000, Caught: 4000}, Animals: map[string]learn.LearntOf{"red_fox": {Line: learn.Sum{Expected: 4000, Caught: 4000}, Kinds: kinds}}})
	at := func(found []Ranked, pattern string) int {
		return slices.IndexFunc(found, func(r Ranked) bool { return r.Pattern == pattern })
	}
	if at(told, first.Pattern) < at(told, plain[i].Pattern) || told[at(told, first.Pattern)].First {
		t.Errorf("%s, of a kind that is put at half, stands at %d, %s at %d", first.Pattern, at(told, first.Pattern), plain[i].Pattern, at(told, plain[i].Pattern))
	}
}
