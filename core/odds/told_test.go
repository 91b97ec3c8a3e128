package odds

import (
	"math"
	"slices"
	"testing"

	"oldburrow/core/learn"
)

// record is one of a line that promised 40 and gave 12, of coyotes 30 and 8, of which at dirt holes 20 and 3, and at the spot 5 and none.
func record() *learn.Learnt {
	return &learn.Learnt{Line: learn.Sum{Expected: 40, Caught: 12}, Animals: map[string]learn.LearntOf{
		"coyote": {Line: learn.Sum{Expected: 30, Caught: 8}, Kinds: map[string]learn.Sum{"dirt_hole": {Expected: 20, Caught: 3}}, Spot: learn.Sum{Expected: 5}},
		"bobcat": {Line: learn.Sum{Expected: 10, Caught: 4}},
	}}
}

// Catches are told by what the record says at the narrowest level that there is, from its low to its high: of the target, of each other target at
// its own, and of whom no line is set for as they are.
func TestCatchesAreToldByTheRecord(t *testing.T) {
	plain, told := askedOf(t, "hole", "coyote"), askedOf(t, "hole", "coyote")
	told.Circumstances.Record = record()
	told.Circumstances.Others = map[string]Presence{"bobcat": {Sign: AgeDays3, About: new(1.0)}, "raccoon": {Sign: AgeDays3, About: new(1.0)}}
	plain.Circumstances.Others = told.Circumstances.Others
	of := func(q Question) (Answer, Company) {
		a, err := Of(q)
		if err != nil {
			t.Fatal(err)
		}
		c, err := CompanyOf(t.Context(), q)
		if err != nil {
			t.Fatal(err)
		}
		return a, c
	}
	before, beforeAll := of(plain)
	after, afterAll := of(told)
	out, err := learn.Of(learn.Input{Levels: record().Levels("coyote", "dirt_hole")})
	if err != nil {
		t.Fatal(err)
	}
	last := out.Levels[3]
	is, was := after.Whole.Per100, before.Whole.Per100
	for what, c := range map[string][2]float64{
		"the middle": {is.Mid, was.Mid * last.Factor}, "the low": {is.Low, was.Low / learn.Unlearnt.Low * last.Low}, "the high": {is.High, was.High / learn.Unlearnt.High * last.High},
		"passes": {after.Whole.Links[0].Mid, before.Whole.Links[0].Mid * last.Factor},
	} {
		if math.Abs(c[0]/c[1]-1) > 1e-9 {
			t.Errorf("%s is %g, want %g", what, c[0], c[1])
		}
	}
	if len(before.Whole.Told) != 0 || len(after.Whole.Told) != 4 || after.Whole.Told[3].Expected != 5 || after.Whole.Told[2].Caught != 3 || after.Whole.Told[3].Factor.Factor != last.Factor {
		t.Errorf("told: %+v, and without a record %+v", after.Whole.Told, before.Whole.Told)
	}
	per := func(c Company, key string) float64 {
		return c.Others[slices.IndexFunc(c.Others, func(o Other) bool { return o.Species == key })].Per100.Mid
	}
	if got := per(afterAll, "raccoon") / per(beforeAll, "raccoon"); got != 1 {
		t.Errorf("raccoons are told %g times", got)
	}
	cats, err := learn.Of(learn.Input{Levels: record().Levels("bobcat", "dirt_hole")})
	if err != nil {
		t.Fatal(err)
	}
	if got := per(afterAll, "bobcat") / per(beforeAll, "bobcat"); math.Abs(got/cats.Levels[3].Factor-1) > 1e-9 {
		t.Errorf("bobcats are told %g times, want %g", got, cats.Levels[3].Factor)
	}
	if plain.Firmness() != learn.LineShape || told.Firmness() != last.Shape {
		t.Errorf("it is believed as firmly as %g and %g", plain.Firmness(), told.Firmness())
	}
}

// What would help is told by the record too: every gain by the same factor, and in the same order.
func TestWhatWouldHelpIsToldByTheRecord(t *testing.T) {
	q := askedOf(t, "hole", "coyote")
	q.Layout.Rigs[0].Bed.Firm = new(false)
	before := helped(t, q)
	q.Circumstances.Record = record()
	after, factor := helped(t, q), q.told().Factor
	if len(before) == 0 || len(after) != len(before) {
		t.Fatalf("%d would help, %d before", len(after), len(before))
	}
	for i, c := range after {
		want := factor
		if c.Key == OtherPattern {
			continue // another kind is told at its own
		}
		if c.Key != before[i].Key || math.Abs(c.Gain/before[i].Gain/want-1) > 1e-9 {
			t.Errorf("%s gains %g, %s %g before", c.Key, c.Gain, before[i].Key, before[i].Gain)
		}
	}
}

// The links are told as the line's findings show them, and what they leave over is passing's: the product stays what is told.
func TestLinksAreToldByTheFindings(t *testing.T) {
	q := askedOf(t, "hole", "coyote")
	q.Circumstances.Record = record()
	before, err := Of(q)
	if err != nil {
		t.Fatal(err)
	}
	links := learn.LinksFound{Commits: learn.LinkFound{Model: .4, Reached: 30, Kept: 12}, Steps: learn.LinkFound{Model: .5, Reached: 20, Kept: 2}, Fires: learn.LinkFound{Model: 1}, Held: learn.LinkFound{Model: .1, Reached: 40, Kept: 40}}
	of := q.Circumstances.Record.Animals["coyote"]
	of.Links = &links
	q.Circumstances.Record.Animals["coyote"] = of
	after, err := Of(q)
	if err != nil {
		t.Fatal(err)
	}
	product := func(a Answer) float64 {
		is := 100.0
		for _, l := range a.Whole.Links {
			is *= l.Mid
		}
		return is
	}
	if math.Abs(product(after)/after.Whole.Per100.Mid-1) > 1e-9 || math.Abs(after.Whole.Per100.Mid/before.Whole.Per100.Mid-1) > 1e-9 {
		t.Errorf("the product is %g of %g, before %g", product(after), after.Whole.Per100.Mid, before.Whole.Per100.Mid)
	}
	by := after.Whole.Leaks
	if by == nil || by.Leak == nil || *by.Leak != "steps" || !by.Sure {
		t.Fatalf("leaks: %+v", by)
	}
	mid := func(a Answer, i int) float64 { return a.Whole.Links[i].Mid }
	if got := mid(after, 3) / mid(before, 3); math.Abs(got/by.Links.Steps.Factor-1) > 1e-9 || got > .7 {
		t.Errorf("steps are told %g times", got)
	}
	if mid(after, 5) != 1 || mid(after, 4) != mid(before, 4) || after.Weakest != Steps {
		t.Errorf("held %g, fires %g of %g, weakest %s", mid(after, 5), mid(after, 4), mid(before, 4), after.Weakest)
	}
	if after.Chain[3].Chance != mid(after, 3) || before.Whole.Leaks != nil {
		t.Errorf("the drawn chain says %g; without findings %+v", after.Chain[3].Chance, before.Whole.Leaks)
	}
}

// At a set that lies blind in a way nobody commits: what findings show of working it is told of taking that way.
func TestNothingIsAskedAtABlindSet(t *testing.T) {
	q := askedOf(t, "trail_pair", "coyote")
	before, err := Of(q)
	if err != nil {
		t.Fatal(err)
	}
	q.Circumstances.Record = record()
	of := q.Circumstances.Record.Animals["coyote"]
	of.Links = &learn.LinksFound{Commits: learn.LinkFound{Model: .4, Reached: 30, Kept: 3}, Steps: learn.LinkFound{Model: 1}, Fires: learn.LinkFound{Model: 1}, Held: learn.LinkFound{Model: 1}}
	q.Circumstances.Record.Animals["coyote"] = of
	after, err := Of(q)
	if err != nil {
		t.Fatal(err)
	}
	by := after.Whole.Leaks.Links.Commits.Factor
	if was, is := before.Whole.Links, after.Whole.Links; is[2].Mid != 1 || by >= 1 || math.Abs(is[1].Mid-by*was[1].Mid) > 1e-9 {
		t.Errorf("takes the way %g, was %g; walks on %g; by %g", is[1].Mid, was[1].Mid, is[2].Mid, by)
	}
}

// What a make's chain promises for a night is what the bench tells of it then, without a record; its feet are those of a firm bed.
func TestATreadPromisesWhatTheBenchTells(t *testing.T) {
	for _, pattern := range []string{"hole", "trail_pair", "tuft", "trench"} {
		for _, target := range []string{"coyote", "bobcat"} {
			q := askedOf(t, pattern, target)
			q.Layout.Rigs[0].Bed.Firm = new(false)
			tread, err := TreadOf(q)
			if err != nil {
				t.Fatal(err)
			}
			got, err := tread.Promised(q)
			if err != nil {
				t.Fatal(err)
			}
			a, err := Of(q)
			if err != nil {
				t.Fatal(err)
			}
			catches := 100 * got.Passes * got.Notices * got.Commits * tread.Fire * got.Held
			if math.Abs(catches/a.Whole.Per100.Mid-1) > 1e-9 || got.Passes != a.Whole.Links[0].Mid || got.Commits != a.Whole.Links[2].Mid {
				t.Errorf("%s for %s: %g promised, %g told", pattern, target, catches, a.Whole.Per100.Mid)
			}
		}
	}
	if tread, err := TreadOf(askedOf(t, "foot_snare", "coyote")); tread != nil || err != nil {
		t.Errorf("a loop: %+v, %v", tread, err)
	}
}
