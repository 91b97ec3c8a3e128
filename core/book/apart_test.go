package book

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/seeds"
	"oldburrow/core/tally"
)

// twoPlaces is a season of a hole at the gate, remade deeper, and of a flat set at the creek with two traps of different sizes.
func twoPlaces(span tally.Span) line.Record {
	on := func(day, hour int) time.Time { return time.Date(2026, 11, day, hour, 0, 0, 0, zone) }
	hole := layout.Layout{
		Kind: "dirt_hole", Pattern: "hole", Rigs: []layout.Rig{{TrapID: "t1"}}, Anchors: []layout.Anchor{{Kind: "stake"}},
		Attractors: []layout.Attractor{{Hole: &layout.Hole{DepthMm: 200}, Smells: []layout.Smell{{Kind: "lure", LureID: "l1", Name: "Old Fence"}, {Kind: "lure", LureID: "l1", Name: "Old Fence"}, {Kind: "urine", Name: "Urine"}}}},
	}
	deeper := hole.Clone()
	deeper.Attractors[0].Hole.DepthMm = 300
	flat := layout.Layout{Kind: "flat", Pattern: "object", Rigs: []layout.Rig{{Slot: 1, TrapID: "t1"}, {Slot: 2, TrapID: "t2"}}, Anchors: []layout.Anchor{{Kind: "drag"}}}
	look := func(id, of string, day int, f line.Finding, catches ...line.Catch) line.Visit {
		return line.Visit{ID: id, MakeID: of, At: on(day, 7), Found: line.Found{Finding: f}, Catches: catches}
	}
	return line.NewRecord(on(21, 9), zone, span, line.Noted{
		Sets: []line.Set{{ID: "s1", SpotID: "gate", Number: 1}, {ID: "s2", SpotID: "creek", Number: 2}},
		Makes: []line.Make{
			{ID: "a", SetID: "s1", BuiltAt: time.Date(2026, 10, 30, 15, 0, 0, 0, zone), Layout: hole}, {ID: "b", SetID: "s1", BuiltAt: on(8, 8), Layout: deeper},
			{ID: "c", SetID: "s2", BuiltAt: on(1, 15), Layout: flat},
		},
		Visits: []line.Visit{
			look("v1", "a", 4, "catch", line.Catch{ID: "x1", Species: "coyote"}), look("v2", "a", 8, "quiet"),
			look("v3", "b", 10, "catch", line.Catch{ID: "x2", Species: "red_fox"}), look("v4", "b", 10, "quiet"), look("v5", "b", 11, "catch", line.Catch{ID: "x3", Species: "raccoon"}),
			look("v6", "c", 2, "catch", line.Catch{ID: "x4", Species: "coyote", Rigs: []int{2}}),
		},
	})
}

var named = Shed{Sizes: map[string]string{"t1": "large", "t2": "small"}, Classes: map[string]string{"l1": "gland"}}

func group(t *testing.T, of []Alike, key string) Alike {
	t.Helper()
	i := slices.IndexFunc(of, func(g Alike) bool { return g.Key == key })
	if i < 0 {
		t.Fatalf("no %q among %+v", key, of)
	}
	return of[i]
}

// Each night counts in each way under what it was, and each catch at the trap that held it.
func TestNightsApart(t *testing.T) {
	found, err := ApartOf(twoPlaces(tally.Span{}), animal.Reference, named, "")
	if err != nil {
		t.Fatal(err)
	}
	// The gate: five nights half and four not counted after the catch, then two half, nothing; the creek: one half for one trap, and one whole for the other, which stands on.
	gate, creek := group(t, found.Groups[ByPlace], "gate"), group(t, found.Groups[ByPlace], "creek")
	if gate.Catches != 2 || creek.Catches != 1 || gate.Rate == nil {
		t.Errorf("gate %+v, creek %+v", gate, creek)
	}
	for _, by := range []ApartBy{ByPlace, ByKind, ByPattern, ByTrap, ByAnchor, ByMonth} {
		catches, nights := 0, 0.0
		for _, g := range found.Groups[by] {
			catches, nights = catches+g.Catches, nights+g.TrapNights
		}
		if b, _ := Of(twoPlaces(tally.Span{}), animal.Reference); catches != b.Total.Catches || math.Abs(nights-b.Total.TrapNights) > 1e-9 {
			t.Errorf("by %s: %d in %g, the book says %d in %g", by, catches, nights, b.Total.Catches, b.Total.TrapNights)
		}
	}
	if small := group(t, found.Groups[ByTrap], "small"); small.Catches != 1 {
		t.Errorf("the trap that held the coyote: %+v", small)
	}
	october, november := group(t, found.Groups[ByMonth], "2026-10"), group(t, found.Groups[ByMonth], "2026-11")
	if october.TrapNights != 1 || october.Catches != 0 || november.Catches != 3 || found.Groups[ByMonth][0].Key != "2026-10" {
		t.Errorf("months: %+v", found.Groups[ByMonth])
	}
	// One lure twice at a set counts once; a set without any is among those of which nothing was said.
	if lure := group(t, found.Groups[ByLure], "l1"); lure.TrapNights != gate.TrapNights || lure.Name != "Old Fence" {
		t.Errorf("the lure: %+v", lure)
	}
	if class, none := group(t, found.Groups[ByClass], "gland"), group(t, found.Groups[ByClass], ""); class.Catches != 2 || none.TrapNights != creek.TrapNights {
		t.Errorf("classes: %+v", found.Groups[ByClass])
	}
	// A figure opens to its nights: those of the first make end with the month.
	if p, err := NightsOf(twoPlaces(tally.Span{}), animal.Reference, named, "", ByMonth, "2026-10"); err != nil || len(p) != 1 || p[0].MakeID != "a" || len(p[0].Nights) != 2 || p[0].TrapNights != 1 {
		t.Errorf("october opens to %+v, %v", p, err)
	}
	for by, groups := range found.Groups {
		for _, g := range groups {
			catches, nights := 0, 0.0
			parts, err := NightsOf(twoPlaces(tally.Span{}), animal.Reference, named, "", by, g.Key)
			for _, p := range parts {
				catches, nights = catches+p.Catches, nights+p.TrapNights
			}
			if err != nil || len(parts) == 0 || catches != g.Catches || math.Abs(nights-g.TrapNights) > 1e-9 {
				t.Errorf("%s %q opens to %+v (%v), it says %d in %g", by, g.Key, parts, err, g.Catches, g.TrapNights)
			}
		}
	}
	if _, err := NightsOf(twoPlaces(tally.Span{}), animal.Reference, named, "", "mood", "a"); err == nil {
		t.Error("nights are told apart by mood")
	}
	// A place is told between its own rate and the line's.
	whole := 100 * 3.5 / (gate.TrapNights + creek.TrapNights)
	for _, g := range []Alike{gate, creek} {
		if own := g.Rate.Per100; g.Shrunk == nil || (*g.Shrunk-own)*(*g.Shrunk-whole) > 0 {
			t.Errorf("%s is told by %v, between %g and %g", g.Key, *g.Shrunk, own, whole)
		}
	}
	if gate := group(t, found.Groups[ByKind], "dirt_hole"); gate.Shrunk != nil {
		t.Error("a kind is drawn toward the line")
	}
	// Two makes of the hole caught, on their fifth and second nights; the flat set on its first.
	if len(found.First) != 2 || found.First[0].Kind != "dirt_hole" || found.First[0].Sets != 2 || *found.First[0].Median != 2 || *found.First[1].Median != 1 {
		t.Errorf("first: %+v", found.First)
	}
	raccoons, err := ApartOf(twoPlaces(tally.Span{}), animal.Reference, named, "raccoon")
	if err != nil || group(t, raccoons.Groups[ByPlace], "gate").Catches != 1 || group(t, raccoons.Groups[ByPlace], "creek").Catches != 0 {
		t.Errorf("raccoons: %+v, %v", raccoons.Groups[ByPlace], err)
	}
	if _, err := ApartOf(twoPlaces(tally.Span{}), animal.Reference, named, "unicorn"); err == nil {
		t.Error("an animal that is not known is told of")
	}
	// A catch on the evening on which its set was built counts, though it earned no night.
	early := line.NewRecord(at(30, 23), zone, tally.Span{}, line.Noted{
		Sets: []line.Set{{ID: "s1", SpotID: "gate", Number: 1}}, Makes: []line.Make{{ID: "a", SetID: "s1", BuiltAt: at(30, 15), Layout: oneTrap}},
		Visits: []line.Visit{{ID: "v", MakeID: "a", At: at(30, 22), Found: line.Found{Finding: "catch"}, Catches: []line.Catch{{ID: "x", Species: "coyote"}}}},
	})
	if soon, err := ApartOf(early, animal.Reference, named, ""); err != nil || group(t, soon.Groups[ByPlace], "gate").Catches != 1 || group(t, soon.Groups[ByPlace], "gate").Rate != nil {
		t.Errorf("before the first midnight: %+v, %v", soon.Groups[ByPlace], err)
	}
	if none, err := ApartOf(line0(), animal.Reference, named, ""); err != nil || none.First == nil || none.Groups[ByPlace] == nil || len(none.Groups[ByPlace]) != 0 {
		t.Errorf("nothing: %+v, %v", none, err)
	}
}

func line0() line.Record { return line.NewRecord(at(36, 9), zone, tally.Span{}, line.Noted{}) }

// What else differs between two is said, and what follows from what is compared is not; a change is compared with what stood before it.
func TestTwoAreCompared(t *testing.T) {
	compare := func(by ApartBy, a, b string) Compared {
		t.Helper()
		c, err := CompareOf(twoPlaces(tally.Span{}), animal.Reference, named, "", by, a, b)
		if err != nil {
			t.Fatal(err)
		}
		return c
	}
	c := compare(ByKind, "dirt_hole", "flat")
	whole, err := tally.Compare(tally.CompareInput{A: tally.Earned{Catches: 2, TrapNights: c.A.TrapNights}, B: tally.Earned{Catches: 1, TrapNights: c.B.TrapNights}})
	if err != nil || !c.Known || c.P != whole.P || c.A.Catches != 2 || c.B.Catches != 1 {
		t.Errorf("%+v, %v", c, err)
	}
	if len(c.Differ) != mostDiffer {
		t.Errorf("they differ in %+v", c.Differ)
	}
	for i, d := range c.Differ {
		if d.By == ByPattern || d.By == ByKind || d.apart() < farApart || i > 0 && d.apart() > c.Differ[i-1].apart() {
			t.Errorf("they differ in %+v", c.Differ)
		}
	}
	if c.Beyond || *c.More >= tally.MostNights { // two in a few nights against one in as many
		t.Errorf("no season tells %+v", c.CompareOutput)
	}
	near, err := tally.Compare(tally.CompareInput{A: tally.Earned{Catches: 10, TrapNights: 100}, B: tally.Earned{Catches: 10, TrapNights: 101}})
	if err != nil || !beyond(near) || beyond(tally.CompareOutput{}) {
		t.Errorf("a season tells %+v apart, %v", near, err)
	}
	back := compare(ByKind, "flat", "dirt_hole")
	if back.P != c.P || *back.Ratio**c.Ratio-1 > 1e-9 || back.Differ[0].A != c.Differ[0].B {
		t.Errorf("the other way round: %+v", back)
	}
	since := compare(ByChange, "b", "")
	if since.A.Catches != 1 || since.B.Catches != 1 || since.A.TrapNights+since.B.TrapNights != c.A.TrapNights || since.A.Key != "" {
		t.Errorf("before and since: %+v", since)
	}
	if first := compare(ByChange, "a", ""); first.Known || first.A.TrapNights != 0 {
		t.Errorf("before the first: %+v", first)
	}
	for _, wrong := range [][3]string{{"mood", "a", "b"}, {"kind", "flat", "flat"}, {"kind", "flat", "tower"}, {"change", "z", ""}} {
		if _, err := CompareOf(twoPlaces(tally.Span{}), animal.Reference, named, "", ApartBy(wrong[0]), wrong[1], wrong[2]); err == nil {
			t.Errorf("%v is compared", wrong)
		}
	}
}

// Cut into two seasons at any midnight, the nights and catches of each group are those of the whole.
func TestSeasonsApart(t *testing.T) {
	seeds.Each(t, 30, func(rng *rand.Rand) {
		cut := time.Date(2026, 10, 28+rng.IntN(30), 0, 0, 0, 0, zone)
		sum := map[ApartBy]map[string][2]float64{}
		add := func(span tally.Span, sign float64) {
			found, err := ApartOf(twoPlaces(span), animal.Reference, named, "")
			if err != nil {
				t.Fatal(err)
			}
			for by, groups := range found.Groups {
				for _, g := range groups {
					if sum[by] == nil {
						sum[by] = map[string][2]float64{}
					}
					was := sum[by][g.Key]
					sum[by][g.Key] = [2]float64{was[0] + sign*g.TrapNights, was[1] + sign*float64(g.Catches)}
				}
			}
		}
		add(tally.Span{}, 1)
		add(tally.Span{Until: cut}, -1)
		add(tally.Span{From: cut}, -1)
		for by, of := range sum {
			for key, left := range of {
				if math.Abs(left[0]) > 1e-9 || left[1] != 0 {
					t.Errorf("cut on %s: %s %q is off by %v", cut.Format(time.DateOnly), by, key, left)
				}
			}
		}
	})
}
