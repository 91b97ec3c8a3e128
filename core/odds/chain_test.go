package odds

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/seeds"
)

// Whatever the links hang on, each is a share, their product is the chance, and what speaks against a set never helps it.
func TestTheChainIsItsLinksMultiplied(t *testing.T) {
	t.Parallel()
	seeds.Each(t, 2000, func(rng *rand.Rand) {
		a := animal.Reference[rng.IntN(len(animal.Reference))]
		in := ChainInput{
			Sign: Ages[rng.IntN(5)], WaysMeet: 1 + rng.IntN(3), Coverage: rng.Float64(), Sight: rng.Float64(), Blind: rng.IntN(4) == 0, Through: rng.Float64(), Signs: 1 + rng.IntN(6),
			Night: 1 + rng.IntN(9), CaughtBefore: rng.IntN(2) == 0, Food: rng.IntN(2) == 0, About: rng.Float64(),
			Steps: rng.Float64(), Fires: rng.Float64(), AnchorHold: rng.Float64(), PadShare: rng.Float64(),
		}
		out, err := Chain(a, in)
		if err != nil {
			t.Fatal(err)
		}
		for _, share := range []float64{out.Notices, out.Commits, out.Held, out.Chance} {
			if share < 0 || share > 1 {
				t.Fatalf("%s %+v: %+v", a.Key, in, out)
			}
		}
		if product := out.Notices * out.Commits * in.Steps * in.Fires * out.Held; math.Abs(product-out.Chance) > 1e-12 || math.Abs(out.Per100-100*out.Passes*product) > 1e-9 {
			t.Errorf("%+v is not its links multiplied: %g", out, product)
		}
		for _, key := range TermKeys() {
			with := in
			with.Terms = []layout.Term{key}
			spoken, err := Chain(a, with)
			if err != nil {
				t.Fatal(err)
			}
			helps := terms[key](a) > 0
			if helps && spoken.Commits < out.Commits-1e-12 || !helps && spoken.Commits > out.Commits+1e-12 {
				t.Errorf("%s, %s: %g after %g", a.Key, key, spoken.Commits, out.Commits)
			}
			if key == "tall_fence" && a.Key != "coyote" && spoken.Commits != out.Commits {
				t.Errorf("a %s minds a tall fence", a.Key)
			}
		}
	})
	if _, err := Chain(animal.Reference[0], ChainInput{Sign: "yesterday", WaysMeet: 4, Night: 0}); err == nil {
		t.Error("a chain of nothing is answered")
	}
}

// A coyote settles to a set in its first nights, unless the set has caught; no other animal asks for it.
func TestCoyotesSettle(t *testing.T) {
	in := ChainInput{Sign: "today", Signs: 2, WaysMeet: 1, Sight: .4, About: 1, Steps: 1, Fires: 1, AnchorHold: 1, PadShare: 1}
	commits := func(key string, night int, caught bool) float64 {
		in.Night, in.CaughtBefore = night, caught
		out, err := Chain(kind(key), in)
		if err != nil {
			t.Fatal(err)
		}
		return out.Commits
	}
	settled := commits("coyote", 4, false)
	for night, share := range map[int]float64{1: .35, 2: .35, 3: .7, 4: 1} {
		if got := commits("coyote", night, false) / settled; math.Abs(got-share) > 1e-12 {
			t.Errorf("night %d: %g of what it does", night, got)
		}
	}
	if commits("coyote", 1, true) != settled || commits("red_fox", 1, false) != commits("red_fox", 9, false) {
		t.Error("it settles where it need not")
	}
}

func whole(t *testing.T, q Question) Chances {
	t.Helper()
	answer, err := Of(q)
	if err != nil {
		t.Fatal(err)
	}
	return *answer.Whole
}

// With everything known nothing but the run's error is left open; what is not known is named, and widens.
func TestWhatIsNotKnownWidens(t *testing.T) {
	q := askedOf(t, "hole", "coyote")
	known := whole(t, q)
	if len(known.Unknown) != 0 || known.Weakest != "" || len(known.Links) != 6 {
		t.Errorf("%+v", known)
	}
	product := 100.0
	for _, link := range known.Links {
		if link.Low > link.Mid || link.Mid > link.High || link.High-link.Low > 1e-12 {
			t.Errorf("%+v", link)
		}
		product *= link.Mid
	}
	if math.Abs(product-known.Per100.Mid) > 1e-9 || math.Abs(known.Per100.Low/product-.2659) > .001 || math.Abs(known.Per100.High/product-1.9449) > .001 {
		t.Errorf("%+v, multiplied %g", known.Per100, product)
	}
	for key, forget := range map[Unknown]func(*Question){
		NoSign: func(q *Question) { q.Circumstances.Sign = "" }, NoWays: func(q *Question) { q.Circumstances.WaysMeet = 0 },
		NoCoverage: func(q *Question) { q.Circumstances.Coverage = nil }, NoHold: func(q *Question) { q.Soil = anchor.Soil{} },
		NoFirm: func(q *Question) { q.Layout.Rigs[0].Bed.Firm = nil }, NoSignAge: func(q *Question) { q.Circumstances.Sign = AgeUnsaid },
	} {
		q := askedOf(t, "hole", "coyote")
		forget(&q)
		wide := whole(t, q)
		if !slices.Equal(wide.Unknown, []Unknown{key}) || wide.Per100.High/wide.Per100.Low <= 1.2*known.Per100.High/known.Per100.Low {
			t.Errorf("without its %s: %v, %+v", key, wide.Unknown, wide.Per100)
		}
	}
	q.Circumstances = nil
	if answer, err := Of(q); err != nil || answer.Whole != nil {
		t.Errorf("not asked for: %+v, %v", answer.Whole, err)
	}
}

// A trail asks for no commitment, and needs not be seen; what share takes that way is as the user says, else by its width.
func TestATrailAsksForNothing(t *testing.T) {
	q := askedOf(t, "hole", "coyote")
	q.Layout = set(t, "trail_pair", "coyote")
	q.Circumstances.Night, q.Circumstances.CaughtBefore, q.Circumstances.Coverage = 1, false, nil
	found := whole(t, q)
	if found.Links[1].Mid != .5 || found.Links[2].Mid != 1 || len(found.Unknown) != 0 {
		t.Errorf("%+v", found)
	}
	q.Circumstances.Site.Through = ""
	for _, wide := range []struct{ mm, through float64 }{{350, .7 * .8}, {9000, .05 * .8}} {
		q.Circumstances.Site.WayMm = &wide.mm
		open := whole(t, q)
		if got := open.Links[1]; math.Abs(got.Mid-wide.through) > 1e-12 || math.Abs(got.Low-min(.2, wide.through)) > 1e-12 || got.High != .9 || !slices.Equal(open.Unknown, []Unknown{NoThrough}) {
			t.Errorf("a way of %g mm that nobody spoke of: %+v, %v", wide.mm, got, open.Unknown)
		}
	}
}

// Gland and urine have their weeks before breeding, bait its autumn; curiosity is always in season, and of nothing nothing is said.
func TestSeasonsOfSmells(t *testing.T) {
	for _, c := range []struct {
		classes []layout.SmellKind
		month   time.Month
		day     int
		want    string
	}{
		{[]layout.SmellKind{"gland"}, time.December, 14, OutSeason}, {[]layout.SmellKind{"gland"}, time.December, 15, InSeason}, {[]layout.SmellKind{"urine"}, time.March, 15, InSeason},
		{[]layout.SmellKind{"gland", "urine"}, time.March, 16, OutSeason}, {[]layout.SmellKind{"bait"}, time.January, 31, InSeason}, {[]layout.SmellKind{"food"}, time.February, 1, OutSeason},
		{[]layout.SmellKind{"gland", "bait"}, time.November, 1, InSeason}, {[]layout.SmellKind{"curiosity"}, time.July, 1, InSeason}, {nil, time.December, 20, ""},
	} {
		if got := SeasonOf(c.classes, time.Date(2026, c.month, c.day, 9, 0, 0, 0, time.UTC)); got != c.want {
			t.Errorf("%v on %d %s: %q, want %q", c.classes, c.day, c.month, got, c.want)
		}
	}
}

// Twin traps hold each by its own anchor, as often as each is fired: one that gives costs what it would have caught and no more.
func TestTwinTrapsHoldEachByItsOwn(t *testing.T) {
	held := func(change func(l *layout.Layout)) float64 {
		q := askedOf(t, "trail_pair", "coyote")
		q.Layout = q.Layout.Clone()
		change(&q.Layout)
		return whole(t, q).Links[5].Mid
	}
	sound := held(func(*layout.Layout) {})
	gives := func(i int) func(l *layout.Layout) {
		return func(l *layout.Layout) {
			l.Anchors[i] = layout.Anchor{Slot: l.Anchors[i].Slot, Kind: "drag", Cover: "open"}
		}
	}
	first, second := held(gives(0)), held(gives(1))
	both := held(func(l *layout.Layout) { gives(0)(l); gives(1)(l) })
	if first <= both || second <= both || first >= sound || second >= sound {
		t.Errorf("sound %g, with one that gives %g and %g, with both %g", sound, first, second, both)
	}
	if lost := sound - both; math.Abs((sound-first)+(sound-second)-lost) > 1e-9 {
		t.Errorf("one costs %g and the other %g, both %g", sound-first, sound-second, lost)
	}
}

// What each term weighs for a coyote, a bobcat, a red fox, a grey fox and a raccoon, read back from what a set with that term alone makes
// them commit.
func TestWhatEachTermWeighs(t *testing.T) {
	want := map[layout.Term][5]float64{
		"bed_loose": {-1, -1, -1, -1, -1}, "scent_on_bed": {-1.2, -1.2, -1.2, -1.2, -1.2}, "loose_soil": {-.4, -.4, -.4, -.4, -.4},
		"back_open_snow": {-.5, -.5, -.5, -.5, -.5}, "bare_hands": {-.2, -.2, -.2, -.2, -.2},
		"shy_open_hole": {-1, -1, -1, -1, 0}, "shy_punch_holes": {-.2, -.2, -.2, -.2, 0}, "lure_new": {.4, .4, .4, .4, 0}, "lure_met": {-.8, -.8, -.8, -.8, 0},
		"in_season": {.4, .4, .4, .4, 0}, "out_of_season": {-.3, -.3, -.3, -.3, 0}, "kind_met": {-.5, -.5, -.5, -.5, 0},
		"tall_fence": {-.6, 0, 0, 0, 0}, "close": {-1.4, -.9, -.9, -1, 0}, "show": {-.3, .2, 0, 0, 0}, "shy_show": {-1, -.6, -.6, -.6, 0},
		"mark_season": {1, .8, 1, .6, 0}, "mark_early": {-.2, -.2, -.2, -.3, 0}, "food_early": {.2, .1, .4, .4, 0}, "food_late": {-.7, -.2, -.8, -.5, 0},
		"in_water": {-1.5, -1.6, -.4, -.4, 0}, "tree_hole": {-1.5, -.4, -.8, .5, 0},
	}
	odds := func(a animal.Animal, terms ...layout.Term) float64 {
		in := ChainDefaults()
		in.Sign, in.WaysMeet, in.Night, in.CaughtBefore, in.Terms = AgeDays3, 1, 4, true, terms
		out, err := Chain(a, in)
		if err != nil {
			t.Fatal(err)
		}
		return math.Log(out.Commits / (1 - out.Commits))
	}
	for _, key := range TermKeys() {
		for i, a := range []animal.Animal{kind("coyote"), kind("bobcat"), kind("red_fox"), kind("grey_fox"), kind("raccoon")} {
			if got := odds(a, key) - odds(a); math.Abs(got-want[key][i]) > 1e-9 {
				t.Errorf("%s weighs %.3g for %s, want %g", key, got, a.Key, want[key][i])
			}
		}
	}
	if len(want) != len(TermKeys()) {
		t.Errorf("%d terms, %d are known to weigh", len(TermKeys()), len(want))
	}
}

// An animal that nobody looked for passes by its own measure, and less often while few of its kind are about.
func TestFewerPassWhileFewAreAbout(t *testing.T) {
	in := ChainDefaults()
	in.Sign, in.WaysMeet, in.Night, in.About, in.passing = AgeNone, 3, 4, .2, new(.05)
	if out, err := Chain(kind("raccoon"), in); err != nil || math.Abs(out.Passes-.01) > 1e-12 {
		t.Errorf("%g passes a night, %v", out.Passes, err)
	}
}
