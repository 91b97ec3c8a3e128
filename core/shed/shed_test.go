package shed

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/gauge"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/pan"
	"oldburrow/core/schools"
	"oldburrow/core/tally"
)

var (
	zone  = time.UTC
	start = time.Date(2026, 12, 1, 12, 0, 0, 0, zone)
)

func day(n int) time.Time { return start.AddDate(0, 0, n) }

func trap(number int, change func(*line.Trap)) line.Trap {
	t := line.NewTrap()
	t.ID, t.Number, t.Size = "trap"+string(rune('0'+number)), number, "5½ in"
	t.Spares = []string{"skunk"}
	if change != nil {
		change(&t)
	}
	return t
}

func layoutFor(t *testing.T, target, trapID string) layout.Layout {
	t.Helper()
	a, err := animal.Reference.ByKey(target)
	if err != nil {
		t.Fatal(err)
	}
	l, err := layout.New("hole", layout.Begin{Target: a, Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	l.Rigs[0].TrapID = trapID
	return l
}

// record has two traps, the first in set 1 since the first day, remade on the third after a catch.
func record(t *testing.T) whole {
	built := line.Make{ID: "m1", SetID: "s1", Target: "coyote", Layout: layoutFor(t, "coyote", "trap1"), BuiltAt: day(0)}
	pulled := day(2)
	built.PulledAt = &pulled
	follows := "m1"
	remade := built
	remade.Layout = layoutFor(t, "coyote", "trap1")
	remade.ID, remade.Follows, remade.BuiltAt, remade.PulledAt = "m2", &follows, day(2), nil
	return whole{
		Now: day(5), Zone: zone,
		Sets:   []line.Set{{ID: "s1", SpotID: "gate", Number: 1}, {ID: "s2", SpotID: "saddle", Number: 2}},
		Makes:  []line.Make{built, remade},
		Visits: []line.Visit{{ID: "v0", MakeID: "m1", At: day(1), Found: line.Found{Finding: "quiet"}}, {ID: "v1", MakeID: "m1", At: day(2), Found: line.Found{Finding: "catch"}}},
		Traps:  []line.Trap{trap(2, nil), trap(1, nil)},
	}
}

func hung(t *testing.T, r whole, number int) Hung {
	t.Helper()
	rack, err := r.Rack()
	if err != nil {
		t.Fatal(err)
	}
	i := slices.IndexFunc(rack, func(h Hung) bool { return h.Trap.Number == number })
	return rack[i]
}

func TestATrapIsInOnePlaceOnly(t *testing.T) {
	r := record(t)
	if at := hung(t, r, 1).Place; at.Kind != InSet || at.Number != 1 || at.SpotID != "gate" || !at.Since.Equal(day(0)) {
		t.Errorf("in its set: %+v", at)
	}
	if h := hung(t, r, 2); h.Place.Kind != Home || !h.Fit() {
		t.Errorf("never out: %+v", h.Place)
	}
	// Built into another set it is there, whatever the first set says.
	r.Makes = append(r.Makes, line.Make{ID: "m3", SetID: "s2", Target: "bobcat", Layout: layoutFor(t, "bobcat", "trap1"), BuiltAt: day(3)})
	if at := hung(t, r, 1).Place; at.Kind != InSet || at.Number != 2 {
		t.Errorf("in two sets: %+v", at)
	}
	pulled := day(4)
	r.Makes[2].PulledAt = &pulled
	if at := hung(t, r, 1).Place; at.Kind != Home || !at.Since.Equal(pulled) {
		t.Errorf("pulled: %+v", at)
	}
	r.Traps[1].Away = "lent"
	if at := hung(t, r, 1).Place; at.Kind != Away || at.Why != "lent" {
		t.Errorf("lent: %+v", at)
	}
}

func TestAGoneTrapIsMissingUntilItIsInTheHandsAgain(t *testing.T) {
	r := record(t)
	r.Visits = append(r.Visits, line.Visit{ID: "v2", MakeID: "m2", At: day(4), Found: line.Found{Finding: "gone"}})
	if h := hung(t, r, 1); h.Place.Kind != Missing || h.Fit() || !h.Place.Since.Equal(day(4)) {
		t.Errorf("gone: %+v", h.Place)
	}
	pulled := day(4).Add(time.Hour)
	r.Makes[1].PulledAt = &pulled
	if h := hung(t, r, 1); h.Place.Kind != Missing {
		t.Errorf("gone and the set pulled: %+v", h.Place)
	}
	r.Checks = append(r.Checks, line.ShedCheck{TrapID: "trap1", At: day(5), Items: []line.CheckItem{{Key: "jaws", Sound: true}}})
	if h := hung(t, r, 1); h.Place.Kind != Home {
		t.Errorf("found and checked: %+v", h.Place)
	}
}

func TestAFaultKeepsATrapHomeUntilItIsSound(t *testing.T) {
	r := record(t)
	check := func(n int, sound bool, key line.CheckKey, note string) {
		r.Checks = append(r.Checks, line.ShedCheck{TrapID: "trap2", At: day(n), Items: []line.CheckItem{{Key: key, Sound: sound, Note: note}}})
	}
	check(1, true, "jaws", "")
	check(2, false, "dog", "bent")
	check(3, true, "latch", "")
	h := hung(t, r, 2)
	if h.Fit() || len(h.Faults) != 1 || h.Faults[0].Note != "bent" || len(h.Checks) != 3 || !h.Checked.Equal(day(3)) {
		t.Errorf("%+v", h)
	}
	r.Measurements = append(r.Measurements, measured("trap2", day(2), 0, 18, 18, 18))
	if old := hung(t, r, 2).Tension.Old; old != "" {
		t.Errorf("before it is mended it is %q", old)
	}
	check(4, true, "dog", "straightened")
	if h := hung(t, r, 2); !h.Fit() || len(h.Faults) != 0 || h.Tension.Old != OldChanged {
		t.Errorf("mended: %+v", h)
	}
}

func measured(trapID string, at time.Time, turned float64, presses ...float64) line.Measurement {
	return line.Measurement{ID: at.String(), TrapID: trapID, At: at, Gauge: "hook gauge", Factor: 1, Presses: presses, Turned: turned}
}

func TestMeasurementsAgainstTheWindow(t *testing.T) {
	r := record(t)
	if h := hung(t, r, 2); h.Verdict != Unmeasured || h.Wanted.Conflict || h.Wanted.MinN <= 0 {
		t.Fatalf("%+v", h)
	}
	w := *hung(t, r, 2).Wanted
	for _, c := range []struct {
		mean    float64
		verdict pan.Verdict
		way     gauge.Turning
	}{{w.MinN - 2, pan.Light, "tighter"}, {(w.MinN + w.MaxN) / 2, pan.Inside, ""}, {w.MaxN + 3, pan.Doubted, "looser"}, {w.MaxN + 15, pan.Heavy, "looser"}} {
		r.Measurements = []line.Measurement{measured("trap2", day(4), 0, c.mean, c.mean, c.mean)}
		if h := hung(t, r, 2); h.Verdict != c.verdict || h.Turn.Way != c.way {
			t.Errorf("%g N: %s, %+v", c.mean, h.Verdict, h.Turn)
		}
	}
	// A taken back measurement counts for nothing; the one before stands again.
	undone := measured("trap2", day(5), 0, 5, 5, 5)
	undone.UndoneAt = &r.Now
	r.Measurements = append(r.Measurements, undone)
	if h := hung(t, r, 2); h.Tension.MeanN < 10 {
		t.Errorf("%+v", h.Tension)
	}
	r.Traps[0].MeantFor, r.Traps[0].Spares = "red_fox", []string{"skunk"}
	if h := hung(t, r, 2); h.Verdict != pan.Heavy {
		t.Errorf("far too heavy for a fox, whomever it spares: %+v", h)
	}
	r.Measurements = []line.Measurement{measured("trap2", day(4), 0, 6, 6, 6)}
	if h := hung(t, r, 2); h.Verdict != pan.Conflicted || h.Turn.Way != "" {
		t.Errorf("fox against skunk: %+v", h)
	}
	// In a set it is judged by the set's target and cover: under a frozen one no setting fires.
	r.Makes[1].Layout.Rigs[0].Cover = []layout.Layer{{Material: "frozen_soil", ThicknessMm: 10}}
	if h := hung(t, r, 1); h.Verdict != Locked || h.Wanted.Cover[0].Material != "frozen_soil" {
		t.Errorf("under frozen soil: %+v", h)
	}
	// A snare has no pan.
	r.Traps = append(r.Traps, trap(3, func(x *line.Trap) { x.Type = "foot_snare" }))
	if h := hung(t, r, 3); h.Wanted != nil || h.Verdict != "" {
		t.Errorf("a snare: %+v", h)
	}
}

func TestMeasurementsGrowOld(t *testing.T) {
	r := record(t)
	r.Measurements = []line.Measurement{measured("trap1", day(1), 0, 18, 18, 18)}
	if old := hung(t, r, 1).Tension.Old; old != OldHeld {
		t.Errorf("after a catch %q", old)
	}
	r.Measurements = []line.Measurement{measured("trap2", day(1), 0, 18, 18, 18)}
	r.Now = day(40)
	if old := hung(t, r, 2).Tension.Old; old != OldMonth {
		t.Errorf("after a month %q", old)
	}
	r.Now = day(5)
	changed := r.Traps[0]
	changed.Tag = "a new tag"
	r.TrapVersions = []TrapVersion{{day(0), r.Traps[0]}, {day(2), changed}}
	if old := hung(t, r, 2).Tension.Old; old != "" {
		t.Errorf("a new tag makes it %q", old)
	}
	changed.PanDiameterMm = 65
	r.TrapVersions = append(r.TrapVersions, TrapVersion{day(3), changed})
	if old := hung(t, r, 2).Tension.Old; old != OldChanged {
		t.Errorf("a new pan makes it %q", old)
	}
	r.Measurements = append(r.Measurements, measured("trap2", day(4), -2, 14, 14, 14))
	if h := hung(t, r, 2); h.Tension.Old != "" || math.Abs(h.Tension.PerQuarterN-2) > 1e-9 {
		t.Errorf("measured anew after two quarter turns: %+v", h.Tension)
	}
}

func TestHistory(t *testing.T) {
	r := record(t)
	changed := r.Traps[1]
	changed.JawSpreadMm, changed.Spares, changed.ShockSpring = 120.65, nil, true
	r.TrapVersions = []TrapVersion{{day(-1), r.Traps[1]}, {day(-1), r.Traps[0]}, {day(3), changed}, {day(4), changed}}
	r.Checks = []line.ShedCheck{{TrapID: "trap1", At: day(-1).Add(time.Hour), Items: []line.CheckItem{{Key: "dog"}}}}
	r.Measurements = []line.Measurement{measured("trap1", day(-1).Add(2*time.Hour), 0, 18, 18, 18)}
	events, err := r.History("trap1")
	if err != nil {
		t.Fatal(err)
	}
	kinds := make([]EventKind, len(events))
	for i, e := range events {
		kinds[i] = e.Kind
	}
	want := []EventKind{Changed, Found, Built, Measured, Checked, Added}
	if !slices.Equal(kinds, want) {
		t.Fatalf("%v, want %v", kinds, want)
	}
	if c := events[0].Changes; len(c) != 3 || c[0] != (Change{"jawSpreadMm", "139.7 mm", "120.65 mm"}) || c[1] != (Change{"shockSpring", "no", "yes"}) || c[2].Before != "skunk" {
		t.Errorf("%+v", c)
	}
	if e := events[3]; math.Abs(e.MeanN-18) > 1e-9 {
		t.Errorf("it was measured at %g N", e.MeanN)
	}
	if e := events[1]; e.Finding != "catch" || e.Number != 1 || e.SpotID != "gate" {
		t.Errorf("%+v", e)
	}
}

func TestBottlesRunEmpty(t *testing.T) {
	r := record(t)
	opened, second := day(-3), day(3)
	r.Lures = []line.Lure{{ID: "l1", Name: "Old boar", Class: "gland", By: "volume", Dose: 2}}
	r.Bottles = []line.Bottle{
		{ID: "b3", LureID: "l1", Holds: 30},
		{ID: "b1", LureID: "l1", Holds: 5, OpenedAt: &opened},
		{ID: "b2", LureID: "l1", Holds: 10, OpenedAt: &second},
	}
	for i := range r.Makes {
		r.Makes[i].Layout.Attractors[0].Smells[1].LureID = "l1"
	}
	f := r.Shelf(nil)[0]
	if f.Bottles[0].Bottle.ID != "b1" || f.Bottles[0].Left != 1 || f.Bottles[0].DosesLeft != 0 || f.DosesLeft != 20 || f.Bottles[2].Bottle.ID != "b3" {
		t.Errorf("%+v", f)
	}
	if len(f.Met) != 1 || f.Met[0].Times != 2 || f.Met[0].SpotID != "gate" || !f.Met[0].Last.Equal(day(2)) {
		t.Errorf("met %+v", f.Met)
	}
	// One dose more empties the first bottle and begins the second, but only from when that was opened.
	saddle := "saddle"
	r.Doses = []line.Dose{{ID: "d1", LureID: "l1", SpotID: &saddle, At: day(4), Count: 1}}
	f = r.Shelf(nil)[0]
	if f.Bottles[0].Left != 0 || f.Bottles[0].EmptyAt == nil || !f.Bottles[0].EmptyAt.Equal(day(4)) || f.Bottles[1].Left != 9 || f.Unaccounted != 0 || len(f.Met) != 2 {
		t.Errorf("%+v", f)
	}
	r.Doses[0].At, r.Doses[0].Count = day(2).Add(time.Hour), 2
	if f = r.Shelf(nil)[0]; f.Bottles[1].Left != 10 || math.Abs(f.Unaccounted-1.5) > 1e-9 {
		t.Errorf("before the second was opened: %+v", f)
	}
	// A look into the bottle says more than the record.
	r.Levels = []line.Level{{ID: "x", BottleID: "b1", At: day(5), Left: 4}}
	if f = r.Shelf(nil)[0]; f.Bottles[0].Left != 4 || f.Bottles[0].EmptyAt != nil || f.Bottles[0].DosesLeft != 2 {
		t.Errorf("by eye: %+v", f.Bottles[0])
	}
}

func kit(t *testing.T, r whole, marks []line.KitMark, o Outside) map[string]Item {
	t.Helper()
	k, err := r.KitFor("2026-12-07", marks, o)
	if err != nil {
		t.Fatal(err)
	}
	found := map[string]Item{}
	for _, x := range k.Items {
		if _, twice := found[x.Key]; twice {
			t.Errorf("%s is there twice", x.Key)
		}
		found[x.Key] = x
	}
	return found
}

func TestKit(t *testing.T) {
	r := record(t)
	opened := day(-3)
	r.Lures = []line.Lure{{ID: "l1", Name: "Old boar", Class: "gland", By: "volume", Dose: 2}}
	cold := -5.0
	r.Bottles = []line.Bottle{{ID: "b1", LureID: "l1", Holds: 3, OpenedAt: &opened, FreezesAtC: &cold}}
	design := line.Design{ID: "d1", SpotID: "saddle", Target: "coyote", Layout: layoutFor(t, "coyote", "")}
	design.Layout.Attractors[0].Smells[1].LureID = "l1"
	other := line.Design{ID: "d2", SpotID: "creek", Target: "coyote", Layout: layoutFor(t, "coyote", "trap1")}
	r.Designs = []line.Design{design, other}
	found := kit(t, r, nil, Outside{})
	if x := found["trap for d1"]; x.TrapID != "trap2" || x.Lack != "" {
		t.Errorf("a free trap: %+v", x)
	}
	if x := found["trap for d2"]; x.TrapID != "trap1" || x.Lack != NotFit {
		t.Errorf("a trap that stands in a set: %+v", x)
	}
	if x := found["spare trap 1"]; x.Lack != NoneFit {
		t.Errorf("a spare: %+v", x)
	}
	takes, err := design.Layout.Litres(design.Layout.Rigs[0])
	if err != nil {
		t.Fatal(err)
	}
	// Two beds to build and one remake to expect, up to the next half litre.
	for material, kg := range map[pan.Material]float64{"peat": .15, "waxed_soil": 1.3} {
		if x := found[string(material)]; x.Litres != math.Ceil(6*takes[material])/2 || math.Abs(x.Kg-kg*x.Litres) > 1e-9 {
			t.Errorf("bedding %+v of %g l a bed", x, takes[material])
		}
	}
	if x := found["pan cover 140"]; x.Count != 3 || math.Abs(x.LengthMm-114.7) > .01 {
		t.Errorf("pan covers %+v", x)
	}
	if x := found["cable 457"]; x.Count != 3 {
		t.Errorf("anchors %+v", x)
	}
	if x := found["smell bait"]; x.Count != 3 || x.Lack != NotOn {
		t.Errorf("bait %+v", x)
	}
	if x := found["smell l1"]; x.Count != 1 {
		t.Errorf("lure %+v", x)
	}
	if _, ok := found["mattock"]; ok {
		t.Error("a mattock without frost")
	}
	colder := -10.0
	found = kit(t, r, nil, Outside{FrostMm: 60, ColdestC: &colder, GPS: true})
	for _, key := range []string{"mattock", "eye_protection", "drill", "receiver", "driver_nut", "headlamp"} {
		if _, ok := found[key]; !ok {
			t.Errorf("no %s in hard frost", key)
		}
	}
	r.Designs = r.Designs[:1]
	if x := kit(t, r, nil, Outside{ColdestC: &colder})["smell l1"]; x.Lack != WouldIce || x.What != "Old boar" || x.Have != 1 {
		t.Errorf("a lure that freezes: %+v", x)
	}
	r.Designs[0].Layout.Attractors[0].Smells[0].LureID = "l1"
	if x := kit(t, r, nil, Outside{})["smell l1"]; x.Lack != TooFew || x.What != "Old boar" {
		t.Errorf("more doses than are left: %+v", x)
	}
}

// What is packed follows from the parts of the sets, their ground and the weather.
func TestKitReadsTheParts(t *testing.T) {
	made := func(pattern string) layout.Layout {
		a, err := animal.Reference.ByKey("coyote")
		if err != nil {
			t.Fatal(err)
		}
		l, err := layout.New(pattern, layout.Begin{Target: a, Schools: schools.Usual()})
		if err != nil {
			t.Fatal(err)
		}
		return l
	}
	stick := made("pull_stick")
	stick.Attractors[0].Wrap = "cloth"
	trail := made("trail")
	trail.Aside = []layout.Smell{{Kind: layout.Call, Name: "a call", Carrier: "swab", Place: "beside"}}
	of := func(o Outside, layouts ...layout.Layout) map[string]Item {
		r := record(t)
		r.Makes, r.Sets = nil, nil
		for i, l := range layouts {
			r.Designs = append(r.Designs, line.Design{ID: string(rune('a' + i)), SpotID: "saddle", Target: "coyote", Layout: l})
		}
		return kit(t, r, nil, o)
	}
	for name, c := range map[string]struct {
		found map[string]Item
		has   string
		lacks string
	}{
		"a skull":        {of(Outside{}, made("skull")), "spike lure_bag hammer trowel", "stick bait_bag hole_bar broom moss"},
		"a pull stick":   {of(Outside{}, stick), "stick wrap_cloth bait_bag", "spike wrap_wool lure_bag"},
		"a hole":         {of(Outside{}, made("hole")), "wool hole_bar bait_bag lure_bag urine_bag", "spike stick pipe"},
		"a pipe":         {of(Outside{}, made("pipe")), "pipe hole_bar", "spike"},
		"a trail":        {of(Outside{}, trail), "swab lure_bag", "hole_bar bait_bag urine_bag wool"},
		"a hole in tree": {of(Outside{}, made("tree_hole")), "hammer wool", "driver"},
		"at a spring":    {of(Outside{}, made("spring_hole")), "moss stick", "spike"},
		"in snow":        {of(Outside{SnowCm: new(5.0)}, made("hole")), "broom scraper", "moss"},
		"nothing":        {of(Outside{}), "", "spike wool bait_bag lure_bag urine_bag hole_bar hammer broom"},
	} {
		for _, key := range strings.Fields(c.has) {
			if c.found[key].Count == 0 {
				t.Errorf("%s: no %s", name, key)
			}
		}
		for _, key := range strings.Fields(c.lacks) {
			if x, is := c.found[key]; is {
				t.Errorf("%s: %+v", name, x)
			}
		}
	}
	if two := of(Outside{}, made("skull"), made("skull")); two["spike"].Count != 2 {
		t.Errorf("two skulls: %+v", two["spike"])
	}
}

func TestKitRemembers(t *testing.T) {
	r := record(t)
	r.Designs = []line.Design{{ID: "d1", SpotID: "saddle", Target: "coyote", Layout: layoutFor(t, "coyote", "")}}
	said := func(day, key string, mark line.Mark, on bool) line.KitMark {
		return line.KitMark{Day: day, Key: key, Mark: mark, On: on}
	}
	marks := []line.KitMark{
		said("2026-12-05", "pliers", "forgot", true), said("2026-12-05", "hammer", "forgot", true), said("2026-12-06", "hammer", "packed", true),
		said("2026-12-05", "mat", "forgot", true), said("2026-12-05", "mat", "forgot", false),
		said("2026-12-07", "sifter", "packed", true), said("2026-12-07", "trowel", "packed", true), said("2026-12-07", "trowel", "packed", false),
		said("2026-12-03", "thermos", "own", true), said("2026-12-03", "saw", "own", true), said("2026-12-06", "saw", "own", false),
	}
	found := kit(t, r, marks, Outside{})
	for key, want := range map[string]string{"pliers": "2026-12-05", "hammer": "", "mat": "", "sifter": ""} {
		if got := found[key].Forgot; got != want {
			t.Errorf("%s forgotten %q, want %q", key, got, want)
		}
	}
	if !found["sifter"].Packed || found["trowel"].Packed {
		t.Error("what is ticked is not packed, or what is not is")
	}
	if _, ok := found["thermos"]; !ok {
		t.Error("the user's own thing is not on the list")
	}
	if _, ok := found["saw"]; ok {
		t.Error("what is no longer taken is on the list")
	}
	later := append(marks, said("2026-12-07", "design:d1", "later", true))
	found = kit(t, r, later, Outside{})
	if _, ok := found["trap for d1"]; ok {
		t.Error("a set left for later asks for a trap")
	}
	if _, ok := found["hammer"]; ok {
		t.Error("nothing is driven and a hammer is taken")
	}
}

// The share of looks that end in a remake follows the record and begins with a habit.
func TestRemakesToExpect(t *testing.T) {
	r := record(t)
	k, err := r.KitFor("2026-12-07", nil, Outside{})
	if err != nil || k.Plan.Looks != 1 || k.Plan.Expect != 1 || len(k.Plan.Waiting) != 0 || math.Abs(k.Plan.Share-(1+.06*30)/32) > 1e-9 || k.Plan.Seen != 2 {
		t.Errorf("%+v, %v", k.Plan, err)
	}
	r.Visits = append(r.Visits, line.Visit{ID: "v3", MakeID: "m2", At: day(4), Found: line.Found{Finding: "sprung"}})
	if k, err = r.KitFor("2026-12-07", nil, Outside{}); err != nil || len(k.Plan.Waiting) != 1 || k.Plan.Expect != 0 {
		t.Errorf("%+v, %v", k.Plan, err)
	}
	// So does one that was found dug out and stands yet.
	r.Visits[len(r.Visits)-1].Finding = "dug"
	if k, err = r.KitFor("2026-12-07", nil, Outside{}); err != nil || len(k.Plan.Waiting) != 1 || k.Plan.Expect != 0 {
		t.Errorf("%+v, %v", k.Plan, err)
	}
	if k, err = (whole{Now: day(1), Zone: zone}).KitFor("2026-12-07", nil, Outside{}); err != nil || k.Plan.Expect != 0 || len(k.Items) == 0 {
		t.Errorf("an empty line: %+v, %v", k, err)
	}
}

// A trap goes along for one set only; of two designs that name it the second says so.
func TestOneTrapForTwoDesigns(t *testing.T) {
	r := record(t)
	for _, id := range []string{"d1", "d2"} {
		r.Designs = append(r.Designs, line.Design{ID: id, SpotID: "saddle", Target: "coyote", Layout: layoutFor(t, "coyote", "trap2")})
	}
	found := kit(t, r, nil, Outside{})
	if a, b := found["trap for d1"], found["trap for d2"]; a.Lack != "" || b.Lack != Twice || b.TrapID != "trap2" {
		t.Errorf("the first %+v, the second %+v", a, b)
	}
}

// Of the traps that fit, the kit takes the one that is meant for the animal and lies in its window.
func TestKitTakesTheTrapThatSuits(t *testing.T) {
	r := record(t)
	r.Traps = []line.Trap{
		trap(2, func(x *line.Trap) { x.MeantFor, x.Spares = "red_fox", []string{} }), trap(3, nil), trap(4, nil),
		trap(5, func(x *line.Trap) { x.JawSpreadMm = 120 }), trap(6, func(x *line.Trap) { x.Away = "lent" }),
	}
	r.Measurements = []line.Measurement{
		{ID: "a", TrapID: "trap3", At: day(4), Factor: 1, Presses: []float64{9, 9, 9}}, {ID: "b", TrapID: "trap4", At: day(4), Factor: 1, Presses: []float64{19, 19, 19}},
	}
	design := line.Design{ID: "d1", SpotID: "saddle", Target: "coyote", Layout: layoutFor(t, "coyote", "")}
	design.Layout.Anchors[0].Kind = "crossed"
	r.Designs = []line.Design{design}
	found := kit(t, r, nil, Outside{})
	if x := found["trap for d1"]; x.TrapID != "trap4" {
		t.Errorf("for the coyote: %+v", x)
	}
	crossed := 0.0
	for _, x := range found {
		if x.Group == Anchors {
			crossed += x.Count
		}
	}
	if crossed != 4 {
		t.Errorf("%g stakes for one crossed pair and a spare pair", crossed)
	}
}

func TestJudge(t *testing.T) {
	q := PanQuestion{Target: "coyote", Spares: []string{"skunk"}, Cover: layoutFor(t, "coyote", "").Rigs[0].Cover, PanDiameterMm: 60, Factor: 1}
	found, err := Judge(animal.Reference, q)
	if err != nil || found.Measured != nil || found.Verdict != Unmeasured || len(found.Curves) != 2 || len(found.Fires) != 0 {
		t.Fatalf("before the presses: %+v, %v", found, err)
	}
	middle := (found.Wanted.MinN + found.Wanted.MaxN) / 2
	for _, c := range []struct {
		n       float64
		verdict pan.Verdict
		way     gauge.Turning
	}{{middle, pan.Inside, ""}, {found.Wanted.MinN - 3, pan.Light, gauge.Tighter}, {found.Wanted.MaxN + 3, pan.Doubted, gauge.Looser}, {found.Wanted.MaxN + 15, pan.Heavy, gauge.Looser}} {
		q.Presses = []float64{c.n, c.n + .1, c.n - .1}
		got, err := Judge(animal.Reference, q)
		if err != nil || got.Verdict != c.verdict || got.Turn.Way != c.way || len(got.Fires) != 2 {
			t.Errorf("%g N: %+v, %v", c.n, got, err)
			continue
		}
		// What fires at the mean is the point of each curve there.
		for i, curve := range got.Curves {
			if at := curve.Chance[int(math.Round(c.n/got.StepN))]; math.Abs(at-got.Fires[i]) > .02 {
				t.Errorf("%g N: %s fires %g, its curve says %g", c.n, curve.Species, got.Fires[i], at)
			}
		}
	}
	q.Presses, q.PerQuarterN = []float64{middle + 8, middle + 8, middle + 8}, 2
	if got, err := Judge(animal.Reference, q); err != nil || math.Abs(got.Quarters-4) > 1e-9 {
		t.Errorf("8 N from the middle by turns of 2: %g, %v", got.Quarters, err)
	}
	// Under frozen soil no setting fires: no way to turn it is told.
	q.Cover[0].Material = "frozen_soil"
	if got, err := Judge(animal.Reference, q); err != nil || got.Verdict != Locked || got.Turn != (gauge.Turn{}) {
		t.Errorf("under frozen soil: %+v, %v", got, err)
	}
	q.Target = "yeti"
	if _, err := Judge(animal.Reference, q); err == nil {
		t.Error("an unknown animal is judged")
	}
}

// BenchmarkRack judges a rack of two hundred measured traps, each against its own window.
func BenchmarkRack(b *testing.B) {
	r := whole{Now: day(5), Zone: zone}
	for i := range 200 {
		t := trap(1, func(x *line.Trap) { x.ID, x.Number = fmt.Sprint("trap", i), i+1 })
		if i%3 == 0 {
			t.MeantFor, t.Spares = "red_fox", []string{"skunk", "opossum"}
		}
		r.Traps = append(r.Traps, t)
		for day := range 4 {
			m := line.Measurement{TrapID: t.ID, At: start.AddDate(0, 0, day), Factor: 1, Presses: []float64{17, 18, 18.5}}
			r.Measurements = append(r.Measurements, m)
		}
	}
	for b.Loop() {
		if rack, err := r.Rack(); err != nil || len(rack) != 200 {
			b.Fatal(err)
		}
	}
}

// A mixture stands a little more than the coldest hour to come, never less than freezing, and a hard night where none is known.
func TestColdToStand(t *testing.T) {
	for coldest, want := range map[float64]float64{-12.8: -16, -20: -23, 4: 0, 0: -3} {
		if got := ColdToStand(&coldest); got != want {
			t.Errorf("%g °C: %g", coldest, got)
		}
	}
	if got := ColdToStand(nil); got != -20 {
		t.Errorf("not known: %g", got)
	}
}

// A set of two traps: the rack has both in it, each by its own cover, tension and finding; the kit packs for both.
func TestTwoTrapsOfOneSet(t *testing.T) {
	coyote, _ := animal.Reference.ByKey("coyote")
	pair, err := layout.New("robbed_rebuild", layout.Begin{Target: coyote, Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	pair.Rigs[0].TrapID, pair.Rigs[1].TrapID = "trap1", "trap2"
	pair.Rigs[1].Cover = []layout.Layer{{Material: "damp_packed", ThicknessMm: 10}}
	r := record(t)
	r.Makes = []line.Make{{ID: "m1", SetID: "s1", Target: "coyote", Layout: pair, BuiltAt: day(0)}}
	r.Visits = nil
	r.Measurements = []line.Measurement{measured("trap1", day(0), 0, 18, 18, 18), measured("trap2", day(0), 0, 18, 18, 18)}
	first, second := hung(t, r, 1), hung(t, r, 2)
	if first.Place.Kind != InSet || second.Place.Kind != InSet || second.Wanted.MaxN >= first.Wanted.MaxN {
		t.Errorf("%+v, %+v", first, second)
	}
	r.Visits = []line.Visit{{ID: "v", MakeID: "m1", At: day(1), Found: line.Found{Finding: "gone"}, Rigs: []line.RigFound{{Slot: 0, State: "fired"}, {Slot: 1, State: "gone"}}}}
	first, second = hung(t, r, 1), hung(t, r, 2)
	if first.Place.Kind != InSet || first.Tension.Old != OldHeld || second.Place.Kind != Missing || second.Tension.Old == OldHeld {
		t.Errorf("one fired and one gone: %+v, %+v", first, second)
	}
	r.Makes, r.Visits, r.Designs = nil, nil, []line.Design{{ID: "d1", SpotID: "saddle", Target: "coyote", Layout: pair}}
	found := kit(t, r, nil, Outside{})
	if found["trap for d1"].TrapID != "trap1" || found["trap 2 for d1"].TrapID != "trap2" {
		t.Errorf("%+v", found)
	}
	if x := found["pan cover 140"]; x.Count != 2 {
		t.Errorf("pan covers %+v", x)
	}
	if x := found["damp_packed"]; x.Key != "" {
		t.Errorf("what lies at the spot is carried: %+v", x)
	}
	pair.Anchors, pair.Rigs[1].AnchorSlot = pair.Anchors[:1], 0
	r.Designs[0].Layout = pair
	if x := kit(t, r, nil, Outside{})["cable 457"]; x.Count != 2 {
		t.Errorf("twins on one anchor, and a spare: %+v", x)
	}
}

// What a set of a device takes, what lies over and under a pan, and how long the work takes by what is underfoot.
func TestKitByPattern(t *testing.T) {
	coyote, _ := animal.Reference.ByKey("coyote")
	begun := func(pattern string) layout.Layout {
		l, err := layout.New(pattern, layout.Begin{Target: coyote, Schools: schools.Usual()})
		if err != nil {
			t.Fatal(err)
		}
		return l
	}
	r := record(t)
	r.Makes, r.Visits = nil, nil
	padded := begun("trail_pair")
	padded.Rigs[0].Over, padded.Rigs[0].Under, padded.Rigs[1].Under = "fibreglass", "foam", "foam"
	r.Designs = []line.Design{
		{ID: "d1", SpotID: "saddle", Target: "coyote", Layout: begun("cable_crawl")},
		{ID: "d2", SpotID: "creek", Target: "coyote", Layout: padded},
	}
	found := kit(t, r, nil, Outside{})
	if x := found["trap for d1"]; x.What != "cable_loop" || x.LengthMm != 255 || x.Lack != "" || x.TrapID != "" {
		t.Errorf("a device: %+v", x)
	}
	if _, ok := found["pan cover 0"]; ok {
		t.Error("a cover for a pan that a loop does not have")
	}
	if x := found["slide 2400"]; x.Count != 2 {
		t.Errorf("slide cables: %+v", x)
	}
	for key, count := range map[string]float64{"pan cover 140": 1, "fibreglass 115": 1, "foam 60": 2} {
		if x := found[key]; x.Count != count || x.Group != PanCovers {
			t.Errorf("%s: %+v", key, x)
		}
	}
	deep, dusting := 4.0, 1.0
	for _, c := range []struct {
		o    Outside
		want float64
	}{{Outside{}, 45}, {Outside{FrostMm: 60}, 135}, {Outside{SnowCm: &deep}, 67.5}, {Outside{SnowCm: &dusting}, 45}} {
		k, err := r.KitFor("2026-12-05", nil, c.o)
		if err != nil || math.Abs(k.Minutes-c.want) > 1e-9 {
			t.Errorf("%+v: %g minutes, want %g (%v)", c.o, k.Minutes, c.want, err)
		}
	}
	// A set that waits to be remade takes a third, and so does each remake to expect of a set that stands.
	r.Designs = nil
	waits := begun("hole")
	waits.Rigs[0].TrapID = "trap1"
	r.Makes = []line.Make{{ID: "m1", SetID: "s1", Target: "coyote", Layout: waits, BuiltAt: day(0)}}
	k, err := r.KitFor("2026-12-05", nil, Outside{})
	if err != nil || math.Abs(k.Minutes-20.0/3*float64(k.Plan.Expect)) > 1e-9 || k.Plan.Expect == 0 {
		t.Errorf("%g minutes with %d remakes to expect (%v)", k.Minutes, k.Plan.Expect, err)
	}
}

// Whoever renews everything at a remake carries for it.
func TestARemakeTakesWhatItsSchoolRenews(t *testing.T) {
	r := record(t)
	for renew, want := range map[string]float64{"bait": 0, "everything": 1} {
		r.Schools = schools.Usual()
		r.Schools.Renew = renew
		found := kit(t, r, nil, Outside{})
		if found["smell urine"].Count != want || found["smell bait"].Count != 1 {
			t.Errorf("%s: urine %+v, bait %+v", renew, found["smell urine"], found["smell bait"])
		}
	}
}

// To learn of jaws what was not known leaves a measurement new; to change them does not.
func TestWhatIsLearntOfATrapIsNoChange(t *testing.T) {
	yes, no := true, false
	before := line.NewTrap()
	learnt := before
	learnt.JawForm, learnt.Laminated = "round", &yes
	changed := learnt
	changed.Laminated = &no
	if hardwareDiffers(before, learnt) || !hardwareDiffers(learnt, changed) {
		t.Error("to learn is to change, or to change is not")
	}
}

// Pressed through its cover a pan reads more than bare: what the cover adds is taken off before it is judged.
func TestAPressAtTheBed(t *testing.T) {
	r := record(t)
	through := measured("trap1", day(4), 0, 20, 20, 20)
	through.Covered = true
	r.Measurements = []line.Measurement{through}
	h := hung(t, r, 1)
	if adds := h.Wanted.CoverN; adds <= 0 || math.Abs(h.Tension.MeanN-(20-adds)) > 1e-9 {
		t.Errorf("it reads %g N bare, its cover adds %g", h.Tension.MeanN, h.Wanted.CoverN)
	}
	q := PanQuestion{Target: "coyote", Cover: h.Wanted.Cover, PanDiameterMm: 60, Factor: 1, Presses: []float64{20}, Covered: true}
	if got, err := Judge(animal.Reference, q); err != nil || math.Abs(got.Measured.MeanN-h.Tension.MeanN) > 1e-9 {
		t.Errorf("%+v, %v", got, err)
	}
}

// A lure lies new at a spot that has not met it for a year; one that it met in another season since then is neither new nor met.
func TestALureAsItStandsToASpot(t *testing.T) {
	now := time.Date(2026, 12, 4, 12, 0, 0, 0, time.UTC)
	rec := line.NewRecord(now, time.UTC, tally.Span{}, line.Noted{})
	stands := func(spotID string, ago time.Duration) string {
		bottle := OnShelf{Lure: line.Lure{ID: "fence", Name: "Old Fence", Class: "gland"}, DosesLeft: 7, Met: []Meeting{{SpotID: spotID, Times: 1, Last: now.Add(-ago)}}}
		is := bottle.At("here", rec)
		if is.LureID != "fence" || is.Name != "Old Fence" || is.Class != "gland" || is.Doses != 7 {
			t.Errorf("%+v", is)
		}
		return is.Stands
	}
	const day = 24 * time.Hour
	if is := stands("here", 364*day); is != "" {
		t.Errorf("within a year: %q", is)
	}
	if is := stands("here", 365*day); is != odds.LuresNew {
		t.Errorf("a year later: %q", is)
	}
	if is := stands("there", day); is != odds.LuresNew {
		t.Errorf("elsewhere: %q", is)
	}
}
