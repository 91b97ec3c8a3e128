package odds

import (
	"errors"
	"math"
	"slices"
	"testing"
	"time"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/footfall"
	"oldburrow/core/layout"
	"oldburrow/core/refuse"
)

// What cannot be is refused by its field, and what is simply not known is not.
func TestCircumstancesThatCannotBe(t *testing.T) {
	for field, spoil := range map[string]func(*Circumstances){
		"":                                   func(c *Circumstances) { c.Sign, c.Coverage, c.Site.Through = "", nil, "" },
		"circumstances.sign":                 func(c *Circumstances) { c.Sign = "fresh" },
		"circumstances.coverage":             func(c *Circumstances) { c.Coverage = new(1.1) },
		"circumstances.night":                func(c *Circumstances) { c.Night = 0 },
		"circumstances.waysMeet":             func(c *Circumstances) { c.WaysMeet = MostWays + 1 },
		"circumstances.pets[1]":              func(c *Circumstances) { c.Pets = []string{"dog", "wolf"} },
		"circumstances.site.day":             func(c *Circumstances) { c.Site.Day = "4 December" },
		"circumstances.site.through":         func(c *Circumstances) { c.Site.Through = "some" },
		"circumstances.others.dog.sign":      func(c *Circumstances) { c.Others = map[string]Presence{"dog": {Sign: "fresh"}} },
		"circumstances.others.dog.about":     func(c *Circumstances) { c.Others = map[string]Presence{"dog": {About: new(1.5)}} },
		"circumstances.others.wolf":          func(c *Circumstances) { c.Others = map[string]Presence{"wolf": {}} },
		"circumstances.facings[0].facingDeg": func(c *Circumstances) { c.Facings = []Facing{{361, .5}} },
		"circumstances.facings[1].coverage":  func(c *Circumstances) { c.Facings = []Facing{{360, .5}, {10, -.1}} },
	} {
		c := *askedOf(t, "hole", "coyote").Circumstances
		c.Site.Day, c.Others, c.Facings = "2026-12-04", map[string]Presence{"dog": {Sign: AgeUnsaid, About: new(0.0)}}, []Facing{{0, 1}}
		spoil(&c)
		var p refuse.Problems
		c.Check(&p, animal.Reference)
		err := p.Err()
		if field == "" {
			if err != nil {
				t.Errorf("what is not known: %v", err)
			}
			continue
		}
		var problems refuse.Problems
		if !errors.As(err, &problems) || len(problems) != 1 || problems[0].Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// How a set was made, what it smells of and the day speak for and against it, each where it is so and nowhere else.
func TestWhatSpeaksForAndAgainst(t *testing.T) {
	smelling := func(q *Question, ids ...string) {
		q.Circumstances.Shelf = []ShelfLure{{"old", "Old Fence", layout.Gland, 20, LuresMet, false}, {"new", "Tin Cup", layout.Curiosity, 20, LuresNew, false}, {"known", "Creek", layout.Musk, 20, "", false}, {"meat", "Paste", layout.Bait, 20, LuresNew, false}}
		for i := range q.Layout.Attractors {
			q.Layout.Attractors[i].Smells = nil
		}
		for _, id := range ids {
			q.Layout.Attractors[0].Smells = append(q.Layout.Attractors[0].Smells, layout.Smell{Kind: layout.Musk, LureID: id})
		}
	}
	for name, c := range map[string]struct {
		pattern string
		make    func(*Question)
		want    []layout.Term
	}{
		"as it begins":             {"hole", func(*Question) {}, []layout.Term{}},
		"bare hands":               {"hole", func(q *Question) { q.Layout.Hands = "bare" }, []layout.Term{"bare_hands"}},
		"gloves":                   {"hole", func(q *Question) { q.Layout.Hands = "gloves" }, []layout.Term{}},
		"open behind, on snow":     {"hole", func(q *Question) { q.Layout.Backing, q.Underfoot.Snow = "none", true }, []layout.Term{"back_open_snow"}},
		"open behind, bare ground": {"hole", func(q *Question) { q.Layout.Backing = "none" }, []layout.Term{}},
		"a stone behind, on snow":  {"hole", func(q *Question) { q.Layout.Backing, q.Underfoot.Snow = "stone", true }, []layout.Term{}},
		"blind, on snow":           {"trail", func(q *Question) { q.Layout.Backing, q.Underfoot.Snow = "none", true }, []layout.Term{}},
		"a lure that it knows":     {"hole", func(q *Question) { smelling(q, "new", "old") }, []layout.Term{"lure_met"}},
		"a lure that is new":       {"hole", func(q *Question) { smelling(q, "new", "meat") }, []layout.Term{"lure_new"}},
		"a lure between":           {"hole", func(q *Question) { smelling(q, "new", "known") }, []layout.Term{}},
		"bait alone":               {"hole", func(q *Question) { smelling(q, "meat") }, []layout.Term{}},
		"gland in its season":      {"hole", func(q *Question) { smelling(q, "old"); q.Circumstances.Site.Day = "2027-01-20" }, []layout.Term{"in_season", "lure_met"}},
		"gland out of it":          {"hole", func(q *Question) { smelling(q, "old"); q.Circumstances.Site.Day = "2026-12-04" }, []layout.Term{"lure_met", "out_of_season"}},
		"bait after its season":    {"hole", func(q *Question) { smelling(q, "meat"); q.Circumstances.Site.Day = "2027-02-20" }, []layout.Term{"out_of_season"}},
	} {
		q := askedOf(t, c.pattern, "coyote")
		if len(q.Layout.Attractors) > 0 {
			smelling(&q)
		}
		c.make(&q)
		got := slices.Sorted(slices.Values(slices.DeleteFunc(q.termsOn(0), func(key layout.Term) bool { return !slices.Contains(c.want, key) && !ofSmellsAndHands(key) })))
		if !slices.Equal(got, c.want) {
			t.Errorf("%s: %v, want %v", name, got, c.want)
		}
	}
}

// ofSmellsAndHands leaves out what the pattern itself speaks.
func ofSmellsAndHands(key layout.Term) bool {
	return slices.Contains([]layout.Term{"bare_hands", "back_open_snow", "lure_new", "lure_met", "in_season", "out_of_season"}, key)
}

// The feet that are drawn are where a middling animal puts them: come to stand before a hole, and walking by along a trail, left and right in
// turn, its toes the way it goes.
func TestThePawsThatAreDrawn(t *testing.T) {
	a := kind("coyote")
	paws := func(pattern string) []Paw {
		q := askedOf(t, pattern, "coyote")
		q.Visits = 100
		feet, err := feetOf(q)
		if err != nil {
			t.Fatal(err)
		}
		return feet.Paws
	}
	near := func(got Paw, x, y, turn float64, standing bool) bool {
		return math.Abs(got.XMm-x) < 1e-9 && math.Abs(got.YMm-y) < 1e-9 && math.Abs(got.TurnDeg-turn) < 1e-9 && got.Standing == standing && got.LengthMm == a.PadLength && got.WidthMm == a.PadWidth
	}
	hole := paws("hole")
	if len(hole) != 4 || !near(hole[0], a.Track.Mean, a.Reach.Mean+2*a.Step.Mean, 0, false) || !near(hole[1], -a.Track.Mean, a.Reach.Mean+a.Step.Mean, 0, false) ||
		!near(hole[2], a.Half.Mean, a.Reach.Mean, 0, true) || !near(hole[3], -a.Half.Mean, a.Reach.Mean+.1*a.ShoulderMm, 0, true) {
		t.Errorf("before a hole: %+v", hole)
	}
	for _, pattern := range []string{"trail", "tuft_pair"} {
		i, walks := 0, paws(pattern)
		for _, came := range set(t, pattern, "coyote").Comings(a) {
			for k, share := range []float64{-1.6, -.6, .4, 1.4} {
				if came.Approach.Approach == footfall.Stand {
					continue
				}
				x, y := came.Approach.Axes.At(share*a.Step.Mean, []float64{1, -1}[k%2]*a.Track.Mean)
				if !near(walks[i], x, y, 90-came.Approach.Axes.FacingDeg, false) {
					t.Errorf("step %d of a %s: %+v, want %g, %g", k, pattern, walks[i], x, y)
				}
				i++
			}
			if came.Approach.Approach == footfall.Stand {
				i += 4
			}
		}
		if i != len(walks) {
			t.Errorf("%s: %d feet are drawn, want %d", pattern, len(walks), i)
		}
	}
}

// A pan is judged by how often it fails: one that is far too stiff is heavy, though it lies in no gap between two windows.
func TestAPanIsJudgedByHowOftenItFails(t *testing.T) {
	for gaugeN, want := range map[float64]string{8: "inside", 60: "heavy"} {
		q := askedOf(t, "hole", "coyote")
		q.Layout.Rigs[0].Pan.GaugeN, q.Visits = gaugeN, 100
		found, err := Of(q)
		if err != nil || string(found.Rigs[0].Verdict) != want {
			t.Errorf("%g N is %v, want %s: %v", gaugeN, found.Rigs[0].Verdict, want, err)
		}
	}
}

// Each trap holds by its own anchor, as often as it is the one that fired.
func TestEachTrapHoldsByItsOwnAnchor(t *testing.T) {
	q := askedOf(t, "trail_pair", "coyote")
	q.Layout.Anchors[1].Kind, q.Layout.Anchors[1].LengthMm = "stake", 250
	q.Soil = anchor.Soil{Kind: "soft_clay", Wetness: "wet"}
	anchors, err := anchor.Of(anchor.Question{Layout: q.Layout, Animal: q.Target, Soil: q.Soil})
	if err != nil {
		t.Fatal(err)
	}
	first, second := *anchors[0].Tonight(), *anchors[1].Tonight()
	if first-second < .05 {
		t.Fatalf("both anchors hold %g and %g", first, second)
	}
	for _, byRig := range [][]float64{{.3, .1}, {.1, .3}, {0, .2}} {
		want := (byRig[0]*first + byRig[1]*second) / (byRig[0] + byRig[1])
		if got := q.holdTonight(anchors, &Feet{Fire: .4, byRig: byRig}); math.Abs(*got-want) > 1e-12 {
			t.Errorf("fired %v: %g, want %g", byRig, *got, want)
		}
	}
	for _, feet := range []*Feet{nil, {}} {
		if got := q.holdTonight(anchors, feet); math.Abs(*got-(first+second)/2) > 1e-12 {
			t.Errorf("of feet that nobody knows: %g", *got)
		}
	}
}

// With another share that commit, the catches are as many times as many.
func TestCommittingOtherwise(t *testing.T) {
	out := ChainOutput{Passes: .2, Notices: .5, Commits: .4, Held: .9, Chance: .06, Per100: 1.2}
	if got := out.committing(.1); math.Abs(got.Chance-.015) > 1e-12 || math.Abs(got.Per100-.3) > 1e-12 || got.Commits != .1 || got.Passes != .2 {
		t.Errorf("%+v", got)
	}
	if got := (ChainOutput{Chance: .06}).committing(.5); got.Chance != .06 || got.Commits != .5 {
		t.Errorf("where none did: %+v", got)
	}
}

// A smell has its season from a day late in one year to a day early in the next, both in it.
func TestWhenASmellIsInSeason(t *testing.T) {
	for day, want := range map[string]string{"2026-12-14": OutSeason, "2026-12-15": InSeason, "2027-03-15": InSeason, "2027-03-16": OutSeason} {
		on, err := time.Parse(time.DateOnly, day)
		if got := SeasonOf([]layout.SmellKind{layout.Gland}, on); err != nil || got != want {
			t.Errorf("gland on %s: %s, want %s", day, got, want)
		}
	}
}
