package layout

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/seeds"
)

// A wider way never raises the share of those that pass which take it; what the user says of it goes before; cats keep to ways, coyotes
// less.
func TestThroughByTheWidthOfTheWay(t *testing.T) {
	for _, pattern := range []string{"trail", "trail_pair", "foot_snare"} {
		for _, a := range animal.Reference {
			last := 1.0
			for mm := 50.0; mm <= 9000; mm += 25 {
				is := Suits(pattern, a, Site{WayMm: &mm}).Through
				if is > last || is <= 0 || is > .9 {
					t.Fatalf("%s, %s: %g of those that pass at %g mm, after %g", pattern, a.Key, is, mm, last)
				}
				last = is
			}
		}
	}
	coyote, cat := *animalOf(t, "coyote"), *animalOf(t, "bobcat")
	wide := 9000.0
	for word, want := range ThroughSaid {
		if got := Suits("trail", coyote, Site{WayMm: &wide, Through: word}).Through; got != want {
			t.Errorf("%s: %g", word, got)
		}
	}
	for _, c := range []struct{ got, want float64 }{
		{Suits("trail", coyote, Site{}).Through, .4 * .8}, {Suits("creek_pinch", coyote, Site{WayMm: &wide}).Through, .6 * .8}, {Suits("creek_pinch", cat, Site{}).Through, .6 * 1.4},
		{Suits("trail", coyote, Site{WayMm: new(400.0)}).Through, .7 * .8}, {Suits("trail", coyote, Site{WayMm: new(401.0)}).Through, .5 * .8},
		{Suits("trail", coyote, Site{WayMm: new(700.0)}).Through, .5 * .8}, {Suits("trail", coyote, Site{WayMm: new(701.0)}).Through, .3 * .8},
		{Suits("trail", coyote, Site{WayMm: new(1200.0)}).Through, .3 * .8}, {Suits("trail", coyote, Site{WayMm: new(1201.0)}).Through, .15 * .8},
		{Suits("trail", coyote, Site{WayMm: new(2500.0)}).Through, .15 * .8}, {Suits("trail", coyote, Site{WayMm: new(2501.0)}).Through, .05 * .8},
		{Suits("hole", coyote, Site{WayMm: &wide}).Through, 1}, {Suits("trail", cat, Site{WayMm: new(300.0)}).Through, .9},
	} {
		if math.Abs(c.got-c.want) > 1e-12 {
			t.Errorf("%g, want %g", c.got, c.want)
		}
	}
}

// What is said goes before the pinch, and that before the width.
func TestWhatTellsTheShareThatTakesAWay(t *testing.T) {
	wide := 900.0
	for _, c := range []struct {
		pattern string
		at      Site
		want    string
	}{
		{"creek_pinch", Site{WayMm: &wide, Through: "few"}, BySaid}, {"creek_pinch", Site{WayMm: &wide}, ByPinch}, {"trail", Site{WayMm: &wide}, ByWidth},
		{"trail", Site{WayMm: &wide, Through: "few"}, BySaid}, {"trail", Site{}, ByNone},
	} {
		if by := (Layout{Pattern: c.pattern}).ThroughBy(c.at); by != c.want {
			t.Errorf("%s, %+v: by %s, want %s", c.pattern, c.at, by, c.want)
		}
	}
}

// Each pattern asks for what it asks for within its distance, and a metre more is too far; what is noted by hand is there.
func TestWhatAPatternAsksOfAPlace(t *testing.T) {
	want := map[string]struct {
		m    float64
		keys []string
	}{
		"creek_pinch": {15, []string{"creek_crossing", "stream", "ditch"}}, "culvert_pair": {5, []string{"culvert", "bridge"}}, "crawl_under": {5, []string{"crawl_under", "fence_gap"}},
		"cable_crawl": {5, []string{"crawl_under", "fence_gap"}}, "log_crossing": {10, []string{"log", "hollow_log"}}, "hollow": {10, []string{"hollow_log", "hollow_tree", "culvert"}},
		"walk_through": {5, []string{"two_track"}}, "old_scat": {15, []string{"scat"}}, "tree_hole": {10, []string{"hollow_tree", "lone_tree"}},
		"spring_hole": {10, []string{"spring", "pond_edge", "stream"}}, "robbed_rebuild": {0, []string{"robbed"}}, "snow_post": {}, "drilled_pair": {},
	}
	a := *animalOf(t, "bobcat")
	lacks := func(pattern string, at Site) []string { return Suits(pattern, a, at).Lacks }
	for _, pattern := range PatternKeys() {
		asks, ok := want[pattern]
		if !ok {
			if found := lacks(pattern, Site{}); len(found) != 0 {
				t.Errorf("%s lacks %v", pattern, found)
			}
			continue
		}
		if len(asks.keys) == 0 {
			if bare, snowed := lacks(pattern, Site{SnowMm: new(29.0)}), lacks(pattern, Site{SnowMm: new(30.0)}); !slices.Equal(bare, []string{"snow"}) || len(snowed) != 0 {
				t.Errorf("%s lacks %v, and under snow %v", pattern, bare, snowed)
			}
			continue
		}
		if found := lacks(pattern, Site{}); !slices.Equal(found, asks.keys[:1]) {
			t.Errorf("%s lacks %v, want %v", pattern, found, asks.keys[:1])
		}
		for _, key := range asks.keys {
			if found := lacks(pattern, Site{Near: []Nearby{{key, asks.m}}}); len(found) != 0 {
				t.Errorf("%s lacks %v with %s within %g m", pattern, found, key, asks.m)
			}
			if found := lacks(pattern, Site{Near: []Nearby{{key, asks.m + 1}}}); len(found) != 1 {
				t.Errorf("%s finds %s %g m off", pattern, key, asks.m+1)
			}
		}
	}
}

// The days of a season count with both ends, the same each year.
func TestSeasonsOfAPlace(t *testing.T) {
	for _, c := range []struct {
		pattern, day string
		want         Term
	}{
		{"tuft", "2026-12-14", "mark_early"}, {"tuft", "2026-12-15", "mark_season"}, {"tuft", "2027-03-15", "mark_season"}, {"tuft", "2027-03-16", ""}, {"tuft", "2026-07-31", ""}, {"tuft", "2026-08-01", "mark_early"},
		{"pull_stick", "2026-11-30", "food_early"}, {"pull_stick", "2026-12-01", ""}, {"pull_stick", "2026-12-31", ""}, {"pull_stick", "2031-01-01", "food_late"}, {"pull_stick", "2027-03-31", "food_late"}, {"pull_stick", "2027-04-01", ""},
		{"hole", "", ""}, {"trail", "2027-01-20", ""},
	} {
		want := []Term{}
		if c.want != "" {
			want = []Term{c.want}
		}
		if got := Suits(c.pattern, *animalOf(t, "coyote"), Site{Day: c.day}).Terms; !slices.Equal(got, want) {
			t.Errorf("%s on %s: %v, want %v", c.pattern, c.day, got, want)
		}
	}
}

// Whoever moves a trap moves its bed and its pan, and its anchor where that lies within the trap's chain of it and holds no other; nothing
// else moves, and the set that was is as it was.
func TestATrapMovesWithItsAnchor(t *testing.T) {
	seeds.Each(t, 3, func(rng *rand.Rand) {
		for _, pattern := range PatternKeys() {
			for _, a := range targets() {
				l := begin(t, pattern, a.Key)
				if len(l.Anchors) > 1 && rng.IntN(2) == 0 { // both on one anchor
					l.Anchors = l.Anchors[:1]
					for i := range l.Rigs {
						l.Rigs[i].AnchorSlot = l.Anchors[0].Slot
					}
				}
				for i := range l.Anchors {
					far := (rng.Float64() - .5) * 4 * l.Rigs[0].ChainMm
					l.Anchors[i].XMm += far
				}
				before := l.Clone()
				for i, r := range l.Rigs {
					dx, dy := math.Round(200*(rng.Float64()-.5)), math.Round(200*(rng.Float64()-.5))
					to := l.WithRigMoved(i, dx, dy)
					shared := 0
					for _, other := range l.Rigs {
						if other.AnchorSlot == r.AnchorSlot {
							shared++
						}
					}
					for k, was := range l.Anchors {
						near := math.Hypot(was.XMm-r.XMm, was.YMm-r.YMm) <= r.ChainMm
						goes := was.Slot == r.AnchorSlot && near && shared == 1
						is := to.Anchors[k]
						if slices.Contains(l.Along(), Along{Rig: r.Slot, Anchor: was.Slot}) != goes {
							t.Errorf("%s: what goes along is %v", pattern, l.Along())
						}
						if moved := is.XMm != was.XMm || is.YMm != was.YMm; moved != (goes && (dx != 0 || dy != 0)) {
							t.Errorf("%s: its anchor moved %v, near %v, holds %d", pattern, moved, near, shared)
						}
					}
					if r.Pan != nil && (math.Abs(to.Rigs[i].Pan.XMm-r.Pan.XMm-dx) > 1e-9 || math.Abs(to.Rigs[i].YMm-r.YMm-dy) > 1e-9) {
						t.Errorf("%s: the pan moved by %g", pattern, to.Rigs[i].Pan.XMm-r.Pan.XMm)
					}
					for k := range l.Rigs {
						if k != i && to.Rigs[k].XMm != l.Rigs[k].XMm {
							t.Errorf("%s: another trap moved", pattern)
						}
					}
				}
				if same := l.Rigs[0]; same.XMm != before.Rigs[0].XMm || same.Pan != nil && *same.Pan != *before.Rigs[0].Pan {
					t.Errorf("%s: the set was changed", pattern)
				}
			}
		}
	})
}
