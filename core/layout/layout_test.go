package layout

import (
	"bytes"
	"encoding/json"
	"errors"
	"math"
	"math/rand/v2"
	"os"
	"reflect"
	"strings"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/pan"
	"oldburrow/core/refuse"
	"oldburrow/core/schools"
)

func begin(t *testing.T, pattern, target string) Layout {
	t.Helper()
	a, err := animal.ByKey(target)
	if err != nil {
		t.Fatal(err)
	}
	l, err := New(pattern, Begin{Target: a, Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	return l
}

func targets() (found []animal.Animal) {
	for _, a := range animal.All {
		if a.Target {
			found = append(found, a)
		}
	}
	return found
}

// Every pattern can be built as it begins, for every target, by every school, on any ground.
func TestDefaultsCanBeBuilt(t *testing.T) {
	frost := 80.0
	spots := []Spot{{}, {Soil: "loose_sand", Wetness: "dry", FrostMm: &frost}, {Soil: "firm_clay", Wetness: "wet", Shy: true}}
	for _, key := range PatternKeys() {
		for _, a := range targets() {
			for i, topic := range schools.Topics() {
				for _, way := range topic.Ways {
					s := schools.Usual()
					reflect.ValueOf(&s).Elem().Field(i).SetString(way)
					l, err := New(key, Begin{Target: a, Schools: s, Spot: spots[i%len(spots)]})
					if err != nil {
						t.Fatal(err)
					}
					if err := l.Check(); err != nil {
						t.Errorf("%s for %s, %s %s: %v", key, a.Key, topic.Key, way, err)
					}
				}
			}
		}
	}
	skunk, _ := animal.ByKey("skunk")
	if _, err := New("hole", Begin{Target: skunk, Schools: schools.Usual()}); err == nil {
		t.Error("a line is set for skunks")
	}
	if _, err := New("pit", Begin{Target: animal.All[0], Schools: schools.Usual()}); err == nil {
		t.Error("a pattern that nobody knows is begun")
	}
}

// What the trade begins with where nobody said otherwise, and what a school changes of it.
func TestBeginFollowsTheSchools(t *testing.T) {
	a, _ := animal.ByKey("coyote")
	usual := begin(t, "hole", "coyote")
	if usual.Spoil != "behind" || usual.Hands != "gloves" || usual.Rigs[0].Bed.Fill != "peat" || usual.Rigs[0].Cover[0].Material != "waxed_soil" {
		t.Errorf("%+v", usual)
	}
	for _, g := range usual.Guides {
		if g.YMm > usual.Rigs[0].YMm {
			t.Errorf("something lies behind the trap: %+v", g)
		}
	}
	if cat := begin(t, "hole", "bobcat"); cat.Guides[0].RMm <= usual.Guides[0].RMm || cat.Guides[0].XMm <= usual.Guides[0].XMm {
		t.Errorf("a cat is crowded no harder than a coyote: %+v, %+v", cat.Guides, usual.Guides)
	}
	if fox := begin(t, "hole", "red_fox"); fox.Anchors[0].XMm == fox.Rigs[0].XMm {
		t.Error("a fox's anchor lies under its bed")
	}
	with := func(spot Spot, change func(*schools.Schools)) Layout {
		s := schools.Usual()
		change(&s)
		l, err := New("hole", Begin{Target: a, Schools: s, Spot: spot})
		if err != nil {
			t.Fatal(err)
		}
		return l
	}
	asUsual := func(*schools.Schools) {}
	frost := 100.0
	for _, c := range []struct {
		name string
		got  string
		want string
	}{
		{"unknown ground", with(Spot{}, asUsual).Anchors[0].Kind, "cable"},
		{"firm clay", with(Spot{Soil: "firm_clay", Wetness: "moist"}, asUsual).Anchors[0].Kind, "stake"},
		{"muck", with(Spot{Soil: "muck", Wetness: "wet"}, asUsual).Anchors[0].Kind, "cable"},
		{"muck that freezes", with(Spot{Soil: "muck", Wetness: "wet", FrostMm: &frost}, asUsual).Anchors[0].Kind, "crossed"},
		{"always cable", with(Spot{Soil: "firm_clay", FrostMm: &frost}, func(s *schools.Schools) { s.AnchorKind = "cable" }).Anchors[0].Kind, "cable"},
		{"crossed always", with(Spot{Soil: "firm_clay"}, func(s *schools.Schools) { s.Stakes = "crossed" }).Anchors[0].Kind, "crossed"},
		{"a drag", with(Spot{}, func(s *schools.Schools) { s.Fixed = "drag" }).Anchors[0].Kind, Drag},
		{"shy", with(Spot{Shy: true}, asUsual).Show, "subtle"},
		{"shy, but a big show", with(Spot{Shy: true}, func(s *schools.Schools) { s.Show = "dug_out" }).Show, "dug_out"},
		{"dry peat", with(Spot{}, func(s *schools.Schools) { s.Frost = "peat" }).Rigs[0].Cover[0].Material, "peat"},
		{"open", with(Spot{}, func(s *schools.Schools) { s.Backing = "open" }).Backing, "none"},
	} {
		if c.got != c.want {
			t.Errorf("%s: %s, want %s", c.name, c.got, c.want)
		}
	}
	if l := with(Spot{}, func(s *schools.Schools) { s.Setback = "one" }); l.Rigs[0].Pan.YMm != 152.4 {
		t.Errorf("one setback for all: %g mm", l.Rigs[0].Pan.YMm)
	}
	if l := with(Spot{}, func(s *schools.Schools) { s.Tension = "heavy" }); l.Rigs[0].Pan.GaugeN <= usual.Rigs[0].Pan.GaugeN {
		t.Error("a heavy pan is no heavier")
	}
}

func TestCheckNamesTheField(t *testing.T) {
	for field, change := range map[string]func(*Layout){
		"kind":                          func(l *Layout) { l.Kind = "pit" },
		"pattern":                       func(l *Layout) { l.Pattern = "pit" },
		"show":                          func(l *Layout) { l.Show = "" },
		"attractors[0].hole.diameterMm": func(l *Layout) { l.Attractors[0].Hole.DiameterMm = 200 },
		"attractors[0].hole.depthMm":    func(l *Layout) { l.Attractors[0].Hole.DepthMm = math.NaN() },
		"attractors[0].hole.angleDeg":   func(l *Layout) { l.Attractors[0].Hole.AngleDeg = 86 },
		"attractors[0].hole":            func(l *Layout) { l.Attractors[0].Hole = nil },
		"attractors[0].plug":            func(l *Layout) { l.Attractors[0].Plug = "cork" },
		"attractors[0].smells[1].kind":  func(l *Layout) { l.Attractors[0].Smells[1].Kind = "noise" },
		"attractors":                    func(l *Layout) { l.Attractors = nil },
		"backing":                       func(l *Layout) { l.Backing = "door" },
		"rigs":                          func(l *Layout) { l.Rigs = nil },
		"rigs[0].pan.yMm":               func(l *Layout) { l.Rigs[0].Pan.YMm += 60 },
		"rigs[0].pan.xMm":               func(l *Layout) { l.Rigs[0].Pan.XMm -= 70 },
		"rigs[0].pan.gaugeN":            func(l *Layout) { l.Rigs[0].Pan.GaugeN = -1 },
		"rigs[0].pan":                   func(l *Layout) { l.Rigs[0].Pan = nil },
		"rigs[0].jaws":                  func(l *Layout) { l.Rigs[0].Jaws = nil },
		"rigs[0].jaws.spreadMm":         func(l *Layout) { l.Rigs[0].Jaws.SpreadMm = 20 },
		"rigs[0].device":                func(l *Layout) { l.Rigs[0].Device = "foot_loop" },
		"rigs[0].cover[0].material":     func(l *Layout) { l.Rigs[0].Cover[0].Material = "gold" },
		"rigs[0].cover[1].thicknessMm":  func(l *Layout) { l.Rigs[0].Cover = append(l.Rigs[0].Cover, Layer{"peat", 70}) },
		"rigs[0].bed.fill":              func(l *Layout) { l.Rigs[0].Bed.Fill = "gold" },
		"rigs[0].anchorSlot":            func(l *Layout) { l.Rigs[0].AnchorSlot = 4 },
		"anchors[0].lengthMm":           func(l *Layout) { l.Anchors[0].LengthMm = 0 },
		"guides[1].rMm":                 func(l *Layout) { l.Guides[1].RMm = 0 },
		"way":                           func(l *Layout) { l.Way = &Way{WidthMm: 300} },
		"trench":                        func(l *Layout) { l.Trench = &Trench{WidthMm: 180, LengthMm: 450} },
		"spoil":                         func(l *Layout) { l.Spoil = "eaten" },
		"lie.slopeDeg":                  func(l *Layout) { steep := 80.0; l.Lie.SlopeDeg = &steep },
		"attractors[0].smells":          func(l *Layout) { l.Attractors[0].Smells = make([]Smell, 13) },
		"attractors[0].smells[0].place": func(l *Layout) { l.Attractors[0].Smells[0].Place = "" },
	} {
		l := begin(t, "hole", "coyote")
		change(&l)
		var p refuse.Problems
		if err := l.Check(); !errors.As(err, &p) || p[0].Field != field {
			t.Errorf("%s: got %v", field, err)
		}
	}
	pair := begin(t, "robbed_rebuild", "coyote")
	pair.Rigs[0].TrapID, pair.Rigs[1].TrapID = "a", "a"
	pair.Rigs[1].Slot = 0
	var p refuse.Problems
	if err := pair.Check(); !errors.As(err, &p) || len(p) != 2 || p[0].Field != "rigs[1].slot" || p[1].Field != "rigs[1].trapId" {
		t.Errorf("one trap twice: %v", err)
	}
}

func TestPanMayShiftInsideItsBed(t *testing.T) {
	l := begin(t, "hole", "coyote")
	l.Rigs[0].Pan.YMm += 30
	if err := l.Check(); err != nil {
		t.Errorf("a pan well inside its bed is refused: %v", err)
	}
	// Across the levers there is less room than along them; a turned trap has its room the other way.
	l.Rigs[0].Pan.YMm += 25
	if l.Check() == nil {
		t.Error("a pan beyond the jaws' side of the bed is taken")
	}
	l.Rigs[0].AxisDeg = 90
	if err := l.Check(); err != nil {
		t.Errorf("the same along the levers: %v", err)
	}
	l.Anchors[0] = Anchor{Kind: Drag}
	if err := l.Check(); err != nil {
		t.Errorf("a drag needs no depth: %v", err)
	}
}

func TestHold(t *testing.T) {
	smells := func(kinds ...string) []Smell {
		var found []Smell
		for _, kind := range kinds {
			found = append(found, Smell{Kind: kind, Name: kind})
		}
		return found
	}
	for _, c := range []struct {
		name, pattern string
		depth         float64
		plug          string
		smells        []Smell
		want          float64
	}{
		{"nothing", "hole", 100, "none", nil, 0.3},
		{"lure only", "hole", 100, "none", smells("lure"), 0.8},
		{"bait only", "hole", 100, "none", smells("bait"), 1},
		{"bait and urine", "hole", 100, "none", smells("bait", "urine"), 1.2},
		{"deep, wool, two smells", "hole", 203, "wool", smells("bait", "urine"), 1.25 * 1.2 * 1.15 * 1.2},
		{"deep, grass, two smells", "hole", 203, "grass", smells("bait", "urine"), 1.25 * 1.2 * 1.2},
		{"thin holes with nothing to eat", "punch_holes", 150, "none", smells("gland", "musk"), .8 * 1.2},
		{"thin holes, one lure", "punch_holes", 150, "none", smells("gland"), .8},
	} {
		l := Layout{Pattern: c.pattern, Attractors: []Attractor{{Hole: &Hole{DepthMm: c.depth}, Plug: c.plug, Smells: c.smells}}}
		if got := l.Hold(); math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%s: %g, want %g", c.name, got, c.want)
		}
	}
}

// How long each pattern keeps an animal as it begins, for every target.
func TestHoldOfEachPattern(t *testing.T) {
	want := map[string]float64{
		"hole": 2.07, "hole_dug_out": 2.07, "hole_subtle": 2.07, "pipe": 1.25, "punch_holes": 1.104, "drilled_pair": 1.2, "robbed_rebuild": 2.07,
		"object": .8, "skull": .8, "pull_stick": 1.6, "three_stones": .96, "trench": 1.38, "trail": 1, "trail_pair": 1, "creek_pinch": 1,
		"culvert_pair": 1, "crawl_under": 1, "log_crossing": 1, "hollow": .3, "walk_through": .8, "tuft": .96, "tuft_pair": .96, "old_scat": .8,
		"snow_post": .8, "tree_hole": .92, "spring_hole": .8,
	}
	for _, key := range PatternKeys() {
		for _, a := range targets() {
			if got := begin(t, key, a.Key).Hold(); want[key] == 0 || math.Abs(got-want[key]) > 1e-9 {
				t.Errorf("%s for %s: %g, want %g", key, a.Key, got, want[key])
			}
		}
	}
}

// No two patterns begin with the same parts, and every one of them can be.
func TestEachPatternIsItsOwn(t *testing.T) {
	for _, a := range targets() {
		seen := map[string]string{}
		for _, key := range PatternKeys() {
			l := begin(t, key, a.Key)
			if l.Pattern != key {
				t.Errorf("%s begins as %s", key, l.Pattern)
			}
			if err := l.Check(); err != nil {
				t.Errorf("%s for %s: %v", key, a.Key, err)
			}
			l.Pattern = ""
			parts, err := json.Marshal(l)
			if err != nil {
				t.Fatal(err)
			}
			if other, ok := seen[string(parts)]; ok {
				t.Errorf("%s for %s has the parts of %s", key, a.Key, other)
			}
			seen[string(parts)] = key
		}
	}
}

func TestBackingNarrowsTheWayIn(t *testing.T) {
	last := 0.0
	for _, backing := range []string{"stone", "tuft", "none"} {
		spread := Layout{Backing: backing}.SpreadDeg()
		if spread <= last {
			t.Errorf("%s: %g° is no wider than what is more solid", backing, spread)
		}
		last = spread
	}
}

// The terms of a pattern share the visits among them, and give places back as they took them.
func TestTerms(t *testing.T) {
	for _, key := range PatternKeys() {
		for _, a := range targets() {
			share := 0.0
			for _, term := range begin(t, key, a.Key).Terms(a) {
				share += term.Share
				x, y := term.Approach.Axes.On(123, -45)
				if bx, by := term.Approach.Axes.At(x, y); math.Hypot(bx-123, by+45) > 1e-9 {
					t.Errorf("%s: (123,-45) comes back as (%g,%g)", key, bx, by)
				}
			}
			if math.Abs(share-1) > 1e-9 {
				t.Errorf("%s: the shares come to %g", key, share)
			}
		}
	}
	// From each of three holes the pan lies straight ahead, as far as the animal's foot comes down.
	l := begin(t, "punch_holes", "coyote")
	for i, term := range l.Terms(targets()[0]) {
		if x, y := term.Approach.Axes.On(l.Rigs[0].Pan.XMm, l.Rigs[0].Pan.YMm); math.Abs(x) > 1e-9 || y < 200 || y > 260 {
			t.Errorf("from hole %d the pan lies at (%g,%g)", i, x, y)
		}
	}
}

func TestDiscsOfAGuide(t *testing.T) {
	if discs := (Guide{RMm: 30}).Discs(); len(discs) != 1 {
		t.Errorf("a stone is %d discs", len(discs))
	}
	discs := Guide{XMm: 10, YMm: 100, RMm: 20, LengthMm: 200, TurnDeg: 90}.Discs()
	first, last := discs[0], discs[len(discs)-1]
	if math.Abs(first.YMm) > 1e-9 || math.Abs(last.YMm-200) > 1e-9 || math.Abs(last.XMm-10) > 1e-9 {
		t.Errorf("from %+v to %+v", first, last)
	}
	for i := 1; i < len(discs); i++ {
		if discs[i].YMm-discs[i-1].YMm > 20+1e-9 {
			t.Error("a foot falls through between two discs")
		}
	}
}

// lifted are layouts as the program wrote them before there were patterns, with what they are read as.
func lifted(t *testing.T) []struct {
	Name string
	Old  json.RawMessage
	New  json.RawMessage
} {
	t.Helper()
	raw, err := os.ReadFile("../testdata/lifts.json")
	if err != nil {
		t.Fatal(err)
	}
	var found []struct {
		Name string
		Old  json.RawMessage
		New  json.RawMessage
	}
	if err := json.Unmarshal(raw, &found); err != nil {
		t.Fatal(err)
	}
	return found
}

func TestWhatWasWrittenBefore(t *testing.T) {
	for _, c := range lifted(t) {
		l, err := Decode(c.Old)
		if err != nil {
			t.Errorf("%s: %v", c.Name, err)
			continue
		}
		want, err := Decode(c.New)
		if err != nil {
			t.Fatal(err)
		}
		if !reflect.DeepEqual(l, want) {
			got, _ := json.Marshal(l)
			t.Errorf("%s: read as\n%s, want\n%s", c.Name, got, c.New)
		}
		if err := l.Check(); err != nil && c.Name != "nothing in it" {
			t.Errorf("%s: %v", c.Name, err)
		}
	}
}

// What is written is read as it was, also when it was drawn at random; and what is refused is refused without falling over.
func TestRandomLayouts(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	for range 3000 {
		l := drawn(t, rng)
		raw, err := json.Marshal(l)
		if err != nil {
			t.Fatal(err)
		}
		back, err := Decode(raw)
		if err != nil {
			t.Fatalf("%v: %s", err, raw)
		}
		if again, _ := json.Marshal(back); !bytes.Equal(raw, again) {
			t.Fatalf("written as\n%s, read and written as\n%s", raw, again)
		}
		if err := l.Check(); err != nil {
			continue
		}
		if hold := l.Hold(); hold < .3 || hold > 3 {
			t.Errorf("hold %g", hold)
		}
		for _, r := range l.Rigs {
			dug, err := r.DugBed()
			if err != nil {
				t.Fatal(err)
			}
			if dug.LengthMm < r.Jaws.FrameMm || dug.DepthMm < r.CoverMm() {
				t.Errorf("a bed of %+v for %+v", dug, r)
			}
		}
	}
}

// drawn is a pattern with some of its parts changed at random, now and then to what cannot be.
func drawn(t *testing.T, rng *rand.Rand) Layout {
	pick := func(of []string) string {
		if rng.IntN(40) == 0 {
			return "gold"
		}
		return of[rng.IntN(len(of))]
	}
	l := begin(t, PatternKeys()[rng.IntN(len(PatternKeys()))], animal.TargetKeys()[rng.IntN(4)])
	l.Backing, l.Show = pick(Backings()), pick(Shows())
	if rng.IntN(2) == 0 {
		facing, firm := 360*rng.Float64(), rng.IntN(2) == 0
		l.FacingDeg, l.Lie.Stony = &facing, &firm
	}
	for i := range l.Rigs {
		r := &l.Rigs[i]
		r.AxisDeg = float64(rng.IntN(180))
		r.Cover = append(r.Cover, Layer{pick(pan.MaterialKeys()), 60 * rng.Float64()})
		r.Pan.XMm += 80 * (rng.Float64() - .5)
		if rng.IntN(4) == 0 {
			r.Bed.Firm, r.Over = nil, pick(PanOvers())
		}
		if rng.IntN(20) == 0 {
			r.Jaws = nil
		}
	}
	for range rng.IntN(3) {
		height := 300 * rng.Float64()
		l.Guides = append(l.Guides, Guide{Kind: pick(GuideKinds()), XMm: 500 * rng.Float64(), YMm: 500 * rng.Float64(), RMm: 60 * rng.Float64(), LengthMm: 300 * rng.Float64(), HeightMm: &height})
	}
	if len(l.Anchors) == 2 && rng.IntN(2) == 0 { // twins share one
		l.Anchors = l.Anchors[:1]
		l.Rigs[1].AnchorSlot = 0
	}
	return l
}

func TestDecodeRefuses(t *testing.T) {
	for raw, field := range map[string]string{
		`{"schema":3}`:                "layout.schema",
		`{"schema":0,"rigs":[]}`:      "layout.schema",
		`[]`:                          "layout",
		`{"hole":{"depthMm":"deep"}}`: "layout.hole.depthMm",
		`{"schema":2,"rigs":[{"chainMm":"long"}]}`: "layout.rigs.chainMm",
	} {
		_, err := Decode([]byte(raw))
		var p refuse.Problems
		if !errors.As(err, &p) || !strings.HasPrefix(p[0].Field, field) {
			t.Errorf("%s: %v", raw, err)
		}
	}
}

func FuzzDecode(f *testing.F) {
	f.Add(`{"kind":"dirt_hole","hole":{"diameterMm":60}}`)
	f.Add(`{"schema":2,"pattern":"hole","rigs":[{"jaws":{"spreadMm":140}}]}`)
	f.Fuzz(func(_ *testing.T, raw string) {
		l, err := Decode([]byte(raw))
		if err == nil && l.Check() == nil {
			l.Hold()
			l.Terms(targets()[0])
		}
	})
}

// A season's pages read a layout a make: what is written in the form of today is read once.
func BenchmarkDecode(b *testing.B) {
	l, err := New("trail_pair", Begin{Target: targets()[0], Schools: schools.Usual()})
	if err != nil {
		b.Fatal(err)
	}
	raw, err := json.Marshal(l)
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		if _, err := Decode(raw); err != nil {
			b.Fatal(err)
		}
	}
}
