package layout

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/footfall"
	"oldburrow/core/pan"
	"oldburrow/core/refuse"
	"oldburrow/core/schools"
	"oldburrow/core/seeds"
)

func begin(t *testing.T, pattern, target string) Layout {
	t.Helper()
	a, err := animal.Reference.ByKey(target)
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
	for _, a := range animal.Reference {
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
	skunk, _ := animal.Reference.ByKey("skunk")
	if _, err := New("hole", Begin{Target: skunk, Schools: schools.Usual()}); err == nil {
		t.Error("a line is set for skunks")
	}
	if _, err := New("pit", Begin{Target: animal.Reference[0], Schools: schools.Usual()}); err == nil {
		t.Error("a pattern that nobody knows is begun")
	}
}

// What the trade begins with where nobody said otherwise, and what a school changes of it.
func TestBeginFollowsTheSchools(t *testing.T) {
	a, _ := animal.Reference.ByKey("coyote")
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
		{"unknown ground", string(with(Spot{}, asUsual).Anchors[0].Kind), "cable"},
		{"firm clay", string(with(Spot{Soil: "firm_clay", Wetness: "moist"}, asUsual).Anchors[0].Kind), "stake"},
		{"muck", string(with(Spot{Soil: "muck", Wetness: "wet"}, asUsual).Anchors[0].Kind), "cable"},
		{"muck that freezes", string(with(Spot{Soil: "muck", Wetness: "wet", FrostMm: &frost}, asUsual).Anchors[0].Kind), "crossed"},
		{"always cable", string(with(Spot{Soil: "firm_clay", FrostMm: &frost}, func(s *schools.Schools) { s.AnchorKind = "cable" }).Anchors[0].Kind), "cable"},
		{"crossed always", string(with(Spot{Soil: "firm_clay"}, func(s *schools.Schools) { s.Stakes = "crossed" }).Anchors[0].Kind), "crossed"},
		{"a drag", string(with(Spot{}, func(s *schools.Schools) { s.Fixed = "drag" }).Anchors[0].Kind), "drag"},
		{"shy", string(with(Spot{Shy: true}, asUsual).Show), "subtle"},
		{"shy, but a big show", string(with(Spot{Shy: true}, func(s *schools.Schools) { s.Show = "dug_out" }).Show), "dug_out"},
		{"dry peat", string(with(Spot{}, func(s *schools.Schools) { s.Frost = "peat" }).Rigs[0].Cover[0].Material), "peat"},
		{"open", string(with(Spot{}, func(s *schools.Schools) { s.Backing = "open" }).Backing), "none"},
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

// Whatever anybody goes by, every pattern can be built so, and there is nothing to remark on.
func TestEverySchoolCanBeBuilt(t *testing.T) {
	for _, topic := range schools.Topics() {
		for _, way := range topic.Ways {
			said, err := json.Marshal(map[string]string{topic.Key: way})
			if err != nil {
				t.Fatal(err)
			}
			s := schools.Usual()
			if err := json.Unmarshal(said, &s); err != nil {
				t.Fatal(err)
			}
			for _, key := range PatternKeys() {
				for _, a := range targets() {
					l, err := New(key, Begin{Target: a, Schools: s})
					if err == nil {
						err = l.Check()
					}
					found := l.Remarks(a, Underfoot{Frozen: true})
					if key == "three_stones" && (way == "over" || way == "between") {
						found = nil // its stones lie as close as the bed of others reaches: that is remarked on rightly
					}
					if err != nil || len(found) > 0 {
						t.Errorf("%s for %s with %s %s: %v, %+v", key, a.Key, topic.Key, way, err, found)
					}
				}
			}
		}
	}
	between := schools.Usual()
	between.Dog = "between"
	l, err := New("hole", Begin{Target: targets()[0], Schools: between})
	if stone := l.Guides[len(l.Guides)-1]; err != nil || l.Rigs[0].AxisDeg != 60 || stone.Kind != "stone" || stone.XMm >= 0 || stone.YMm <= l.Rigs[0].YMm {
		t.Errorf("the free jaw is not guarded: %+v", l.Guides)
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
		"lie.grassMm":                   func(l *Layout) { tall := 9000.0; l.Lie.GrassMm = &tall },
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

func TestLingers(t *testing.T) {
	smells := func(kinds ...SmellKind) []Smell {
		var found []Smell
		for _, kind := range kinds {
			found = append(found, Smell{Kind: kind, Name: string(kind)})
		}
		return found
	}
	for _, c := range []struct {
		name, pattern string
		depth         float64
		plug          Plug
		smells        []Smell
		want          float64
	}{
		{"nothing", "hole", 100, "none", nil, 0.3},
		{"lure only", "hole", 100, "none", smells("lure"), 0.8},
		{"bait only", "hole", 100, "none", smells("bait"), 1},
		{"bait and urine", "hole", 100, "none", smells("bait", "urine"), 1.2},
		{"two lures and nothing to eat", "hole", 100, "none", smells("gland", "urine"), .8 * 1.2},
		{"food is to eat too", "trench", 100, "none", smells("food", "gland"), 1.2},
		{"deep, wool, two smells", "hole", 203, "wool", smells("bait", "urine"), 1.25 * 1.2 * 1.15 * 1.2},
		{"deep, grass, two smells", "hole", 203, "grass", smells("bait", "urine"), 1.25 * 1.2 * 1.2},
		{"thin holes with nothing to eat", "punch_holes", 150, "none", smells("gland", "musk"), .8 * 1.2},
		{"thin holes, one lure", "punch_holes", 150, "none", smells("gland"), .8},
	} {
		l := Layout{Pattern: c.pattern, Attractors: []Attractor{{Hole: &Hole{DepthMm: c.depth}, Plug: c.plug, Smells: c.smells}}}
		if got := l.Lingers(); math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%s: %g, want %g", c.name, got, c.want)
		}
	}
}

// How long each pattern keeps an animal as it begins, for every target.
func TestLingersOfEachPattern(t *testing.T) {
	want := map[string]float64{
		"hole": 2.07, "hole_dug_out": 2.07, "hole_subtle": 2.07, "pipe": 1.25, "punch_holes": 1.104, "drilled_pair": 1.2, "robbed_rebuild": 2.07,
		"object": .8, "skull": .8, "pull_stick": 1.6, "three_stones": .96, "trench": 1.38, "trail": 1, "trail_pair": 1, "creek_pinch": 1,
		"culvert_pair": 1, "crawl_under": 1, "log_crossing": 1, "hollow": .3, "walk_through": .8, "tuft": .96, "tuft_pair": .96, "old_scat": .8,
		"snow_post": .8, "tree_hole": .92, "spring_hole": .8, "cable_crawl": 1, "foot_snare": 1,
	}
	for _, key := range PatternKeys() {
		for _, a := range targets() {
			if got := begin(t, key, a.Key).Lingers(); want[key] == 0 || math.Abs(got-want[key]) > 1e-9 {
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
	for _, backing := range []Backing{"stone", "tuft", "none"} {
		spread := Layout{Backing: backing}.SpreadDeg()
		if spread <= last {
			t.Errorf("%s: %g° is no wider than what is more solid", backing, spread)
		}
		last = spread
	}
}

// asMade says in a line what a set begins with: its attractors and guides, its pans, and the ways to come to it.
func asMade(l Layout, a animal.Animal) string {
	said := fmt.Sprintf("%da %dg", len(l.Attractors), len(l.Guides))
	if l.Trench != nil {
		said += fmt.Sprintf(" trench %g×%g to %g", l.Trench.WidthMm, l.Trench.LengthMm, l.Trench.HeadMm)
	}
	for _, r := range l.Rigs {
		if r.Pan != nil {
			said += fmt.Sprintf("; pan %.0f,%.0f", r.Pan.XMm, r.Pan.YMm)
		}
	}
	for _, term := range l.Comings(a) {
		in := term.Approach
		said += fmt.Sprintf("; %.2f %s", term.Share, in.Approach)
		if in.Axes != (footfall.Axes{}) {
			said += fmt.Sprintf(" at %.0f,%.0f facing %.0f", in.Axes.XMm, in.Axes.YMm, in.Axes.FacingDeg)
		}
		if in.Approach == footfall.Pass {
			said += fmt.Sprintf(" %g wide, sticks %v of %g", in.TrailWidthMm, in.SticksMm, in.StickHalfMm)
			continue
		}
		said += fmt.Sprintf(" %g°", in.SpreadDeg)
		for _, extra := range []struct {
			word string
			is   float64
		}{{"confined to", in.ConfineMm}, {"smelt at", in.NoseMm}, {"dry footings", float64(len(in.Dry))}, {"between tufts", float64(len(in.Guides))}} {
			if extra.is != 0 {
				said += fmt.Sprintf(", %s %.0f", extra.word, extra.is)
			}
		}
		if in.Marks {
			said += ", marks"
		}
	}
	return said
}

// What each pattern is: for a coyote and for a red fox, its parts, its pans and how animals come to it; how long it takes and how well it shows.
func TestTableOfPatterns(t *testing.T) {
	const stick = "sticks [0] of 0"
	pocket := "; 0.50 stand 35°; 0.50 pass at 0,250 facing 0 300 wide, sticks [] of 0"
	gap := "; 0.30 stand at 0,-%[1]d facing 0 20°, between tufts 2, marks; 0.30 stand at 0,%[1]d facing 180 20°, between tufts 2, marks; 0.40 pass at 0,0 facing 90 %[2]d wide, sticks [] of 0"
	for _, c := range []struct {
		key, coyote, fox string
		minutes          float64
		sight            string
	}{
		{"hole", "1a 2g; pan 0,235; 1.00 stand 20°", "1a 2g; pan 0,152; 1.00 stand 20°", 20, "normal"},
		{"hole_dug_out", "1a 2g; pan 0,235; 1.00 stand 20°", "1a 2g; pan 0,152; 1.00 stand 20°", 20, "bold"},
		{"hole_subtle", "1a 2g; pan 0,235; 1.00 stand 35°", "1a 2g; pan 0,152; 1.00 stand 35°", 30, "hidden"},
		{"pipe", "1a 2g; pan 0,235; 1.00 stand 35°", "1a 2g; pan 0,152; 1.00 stand 35°", 20, "normal"},
		{
			"punch_holes", "3a 0g; pan 0,235; 0.33 stand 35°; 0.33 stand at 204,352 facing -120 35°; 0.33 stand at -204,352 facing 120 35°",
			"3a 0g; pan 0,152; 0.33 stand 35°; 0.33 stand at 132,228 facing -120 35°; 0.33 stand at -132,228 facing 120 35°", 25, "hidden",
		},
		{"drilled_pair", "3a 0g; pan 0,235; 1.00 stand 20°, marks", "3a 0g; pan 0,152; 1.00 stand 20°, marks", 25, "bold"},
		{"robbed_rebuild", "1a 2g; pan 0,235; pan 0,596; 1.00 stand 20°", "1a 2g; pan 0,152; pan 0,466; 1.00 stand 20°", 20, "normal"},
		{"object", "1a 0g; pan 0,235; 1.00 stand 35°", "1a 0g; pan 0,152; 1.00 stand 35°", 15, "normal"},
		{"skull", "1a 0g; pan 0,235; 1.00 stand 35°", "1a 0g; pan 0,152; 1.00 stand 35°", 15, "bold"},
		{"pull_stick", "1a 2g; pan 0,235; 1.00 stand 20°", "1a 2g; pan 0,152; 1.00 stand 20°", 20, "normal"},
		{"three_stones", "3a 0g; pan 0,235; 1.00 stand 20°, confined to 180", "3a 0g; pan 0,152; 1.00 stand 20°, confined to 161", 20, "normal"},
		{"trench", "2a 0g trench 180×450 to 110; pan 0,235; 1.00 stand 10°, confined to 180", "2a 0g trench 150×450 to 110; pan 0,152; 1.00 stand 10°, confined to 150", 25, "bold"},
		{"trail", "0a 1g; pan 152,50; 1.00 pass 180 wide, " + stick, "0a 1g; pan 132,40; 1.00 pass 180 wide, " + stick, 20, "trail"},
		{"trail_pair", "0a 1g; pan -152,-50; pan 152,50; 1.00 pass 150 wide, " + stick, "0a 1g; pan -132,-40; pan 132,40; 1.00 pass 150 wide, " + stick, 35, "trail"},
		{"creek_pinch", "1a 1g; pan -152,-50; pan 152,50; 1.00 pass 180 wide, " + stick, "1a 1g; pan -132,-40; pan 132,40; 1.00 pass 180 wide, " + stick, 35, "trail"},
		{"culvert_pair", "0a 1g; pan -152,-25; pan 152,25; 1.00 pass 350 wide, " + stick, "0a 1g; pan -132,-20; pan 132,20; 1.00 pass 350 wide, " + stick, 30, "trail"},
		{"crawl_under", "0a 1g; pan 152,25; 1.00 pass 250 wide, " + stick, "0a 1g; pan 132,20; 1.00 pass 250 wide, " + stick, 15, "trail"},
		{"log_crossing", "0a 1g; pan 277,0; 1.00 pass 250 wide, sticks [0] of 125", "0a 1g; pan 257,0; 1.00 pass 250 wide, sticks [0] of 125", 20, "trail"},
		{"hollow", "1a 0g; pan 0,235; 1.00 stand 20°", "1a 0g; pan 0,152; 1.00 stand 20°", 20, "trail"},
		{"walk_through", "1a 0g; pan 0,235" + pocket, "1a 0g; pan 0,185" + pocket, 25, "normal"},
		{"tuft", "1a 0g; pan 0,275; 1.00 stand 35°, smelt at 200, marks", "1a 0g; pan 0,192; 1.00 stand 35°, smelt at 200, marks", 25, "normal"},
		{"tuft_pair", "2a 0g; pan 0,0" + fmt.Sprintf(gap, 235, 380), "2a 0g; pan 0,0" + fmt.Sprintf(gap, 152, 300), 30, "normal"},
		{"old_scat", "1a 0g; pan 0,235; 1.00 stand 35°, marks", "1a 0g; pan 0,152; 1.00 stand 35°, marks", 15, "hidden"},
		{"snow_post", "1a 0g; pan 0,265; 1.00 stand 35°, smelt at 150, marks", "1a 0g; pan 0,182; 1.00 stand 35°, smelt at 150, marks", 20, "bold"},
		{"tree_hole", "1a 0g; pan 0,305; 1.00 stand 10°, smelt at 350", "1a 0g; pan 0,222; 1.00 stand 10°, smelt at 350", 15, "normal"},
		{"spring_hole", "1a 0g; pan 0,90; 1.00 stand 20°, dry footings 1", "1a 0g; pan 0,80; 1.00 stand 20°, dry footings 1", 15, "normal"},
		{"cable_crawl", "0a 1g", "0a 1g", 10, "trail"},
		{"foot_snare", "0a 2g", "0a 2g", 30, "trail"},
	} {
		for species, want := range map[string]string{"coyote": c.coyote, "red_fox": c.fox} {
			l := begin(t, c.key, species)
			a := *animalOf(t, species)
			if got := strings.NewReplacer("-0", "0").Replace(asMade(l, a)); got != want {
				t.Errorf("%s for %s:\n%s, want\n%s", c.key, species, got, want)
			}
			if l.Minutes(Underfoot{}) != c.minutes || l.Sight(a, Site{}).Word != c.sight {
				t.Errorf("%s: %g minutes, %s", c.key, l.Minutes(Underfoot{}), l.Sight(a, Site{}).Word)
			}
		}
	}
}

func animalOf(t *testing.T, key string) *animal.Animal {
	t.Helper()
	a, err := animal.Reference.ByKey(key)
	if err != nil {
		t.Fatal(err)
	}
	return &a
}

// The other ways of making a set.
func TestVariants(t *testing.T) {
	for _, c := range []struct{ pattern, variant, want string }{
		{"punch_holes", "one_hole", "1a 0g; pan 0,152; 1.00 stand 35°"},
		{"object", "open", "1a 0g; pan 0,152; 1.00 stand 70°"},
		{"object", "in_trail", "1a 0g; pan 0,152; 0.85 stand 35°; 0.15 pass at 0,152 facing 0 600 wide, sticks [] of 0"},
		{"skull", "in_trail", "1a 0g; pan 0,152; 0.85 stand 35°; 0.15 pass at 0,152 facing 0 600 wide, sticks [] of 0"},
		{"trail", "three_sticks", "0a 3g; pan 132,40; 1.00 pass 180 wide, sticks [0 -320 320] of 0"},
		{"crawl_under", "both_sides", "0a 1g; pan 132,20; pan -132,-20; 1.00 pass 250 wide, sticks [0] of 0"},
	} {
		fox := *animalOf(t, "red_fox")
		l, err := New(c.pattern, Begin{Target: fox, Schools: schools.Usual(), Variant: c.variant})
		if err != nil || l.Check() != nil {
			t.Fatal(err, l.Check())
		}
		if got := strings.ReplaceAll(asMade(l, fox), "-0 ", "0 "); got != c.want {
			t.Errorf("%s, %s:\n%s, want\n%s", c.pattern, c.variant, got, c.want)
		}
	}
	for variant, field := range map[string]string{"three_sticks": "variant", "none": "variant"} {
		_, err := New("hole", Begin{Target: targets()[0], Schools: schools.Usual(), Variant: variant})
		var p refuse.Problems
		if !errors.As(err, &p) || p[0].Field != field {
			t.Errorf("%s: %v", variant, err)
		}
	}
	// Cats are crowded by three sticks already.
	if l := begin(t, "trail", "bobcat"); len(l.Guides) != 3 {
		t.Errorf("a bobcat has %d sticks", len(l.Guides))
	}
}

// Frozen ground takes three times as long, snow half as long again, baked ground twice, a remake a third.
func TestMinutes(t *testing.T) {
	l, yes := begin(t, "trench", "coyote"), true
	baked := l
	baked.Lie.Baked = &yes
	for _, c := range []struct {
		got, want float64
	}{
		{l.Minutes(Underfoot{}), 25}, {l.Minutes(Underfoot{Frozen: true}), 75}, {l.Minutes(Underfoot{Snow: true}), 37.5}, {l.Minutes(Underfoot{Frozen: true, Snow: true}), 112.5},
		{baked.Minutes(Underfoot{}), 50}, {baked.Minutes(Underfoot{Frozen: true}), 75},
	} {
		if math.Abs(c.got-c.want) > 1e-9 {
			t.Errorf("%g minutes, want %g", c.got, c.want)
		}
	}
	for _, c := range []struct {
		pattern, target, want string
		snow                  bool
	}{
		{"snow_post", "coyote", "bold", false}, {"snow_post", "coyote", "bold", true}, {"drilled_pair", "coyote", "bold", true},
		{"creek_pinch", "bobcat", "trail", false}, {"creek_pinch", "coyote", "trail", true},
	} {
		if got := begin(t, c.pattern, c.target).Sight(*animalOf(t, c.target), snowed(c.snow)).Word; got != c.want {
			t.Errorf("%s for %s, snow %v: %s, want %s", c.pattern, c.target, c.snow, got, c.want)
		}
	}
	if l := begin(t, "tree_hole", "bobcat"); !l.Poor(*animalOf(t, "coyote")) || l.Poor(*animalOf(t, "bobcat")) {
		t.Error("for whom a hole in a tree is poor")
	}
}

func snowed(is bool) Site {
	if is {
		return Site{SnowMm: new(SnowyMm)}
	}
	return Site{SnowMm: new(SnowyMm - 1)}
}

// A set shows as its pattern does until something about it, or the ground of the day, says otherwise; by one each, and no further than bold
// and hidden.
func TestSightIsOfWhatShows(t *testing.T) {
	grass := func(mm float64) func(*Layout) { return func(l *Layout) { l.Lie.GrassMm = &mm } }
	subtle, dug := func(l *Layout) { l.Show = "subtle" }, func(l *Layout) { l.Show = "dug_out" }
	both := func(changes ...func(*Layout)) func(*Layout) {
		return func(l *Layout) {
			for _, change := range changes {
				change(l)
			}
		}
	}
	for _, c := range []struct {
		pattern string
		change  func(*Layout)
		snow    bool
		want    string
		by      []SightBy
	}{
		{"hole", both(), false, "normal", nil},
		{"hole", subtle, false, "hidden", []SightBy{BySubtle}},
		{"hole", both(), true, "hidden", []SightBy{ByUnderSnow}},
		{"hole", subtle, true, "hidden", []SightBy{ByUnderSnow, BySubtle}},
		{"hole", grass(60), false, "bold", []SightBy{ByBareGrass}},
		{"hole", grass(300), false, "normal", []SightBy{ByBareGrass, ByInGrass}},
		{"hole", both(subtle, grass(60)), false, "hidden", []SightBy{BySubtle}},
		{"hole", func(l *Layout) { l.Attractors[0].HeightMm = 250 }, false, "bold", []SightBy{ByStirs}},
		{"hole", func(l *Layout) { l.Attractors[0].HeightMm, l.Attractors[0].Fixed = 250, true }, false, "normal", nil},
		{"hole_subtle", dug, false, "normal", []SightBy{ByDugOut}},
		{"hole_subtle", both(), true, "hidden", []SightBy{ByUnderSnow}},
		{"hole_dug_out", both(), true, "bold", []SightBy{ByDarkOnSnow}},
		{"tuft", both(), true, "hidden", []SightBy{ByUnderSnow}},
		{"skull", both(), true, "bold", []SightBy{ByDarkOnSnow}},
		{"trench", subtle, true, "bold", []SightBy{ByDarkOnSnow, BySubtle}},
		{"tuft", grass(600), false, "hidden", []SightBy{ByInGrass}},
		{"trail", both(dug, grass(600)), true, "trail", nil},
	} {
		l := begin(t, c.pattern, "coyote")
		c.change(&l)
		got := l.Sight(*animalOf(t, "coyote"), snowed(c.snow))
		if got.Word != c.want || !slices.Equal(got.By, c.by) {
			t.Errorf("%s, snow %v: %s by %v, want %s by %v", c.pattern, c.snow, got.Word, got.By, c.want, c.by)
		}
	}
}

// What a drawing remarks on, part by part: each made wrong in one way has that remark and no other.
func TestRemarks(t *testing.T) {
	mm := func(v float64) *float64 { return &v }
	for _, c := range []struct {
		name, pattern string
		change        func(*Layout)
		want          Remark
	}{
		{"pan high", "hole", func(l *Layout) { l.Rigs[0].Pan.HeightMm = mm(44) }, Remark{"rigs[0].pan.heightMm", PanAboveJaws, 4}},
		{"pan low", "hole", func(l *Layout) { l.Rigs[0].Pan.HeightMm = mm(36) }, Remark{}},
		{"dug by an inch more", "hole", func(l *Layout) { l.Rigs[0].Bed.DepthMm = mm(84) }, Remark{}},
		{"no room to drain", "hole", func(l *Layout) { l.Rigs[0].Bed.DrainMm, l.Rigs[0].Bed.DepthMm = 30, mm(85) }, Remark{"rigs[0].bed.depthMm", BedShallow, 30 + 12 + 40 + 6.35 - 85}},
		{"thick cover", "hole", func(l *Layout) { l.Rigs[0].Cover[0].ThicknessMm = 20 }, Remark{"rigs[0].cover", CoverThick, 20 - 12.7}},
		{"cover that freezes", "hole", func(l *Layout) { l.Rigs[0].Cover[0].Material = "damp_packed" }, Remark{"rigs[0].cover", CoverFreezes, 6.35 - 3.175}},
		{"hole in the bed", "hole", func(l *Layout) { l.Attractors[0].YMm = 170 }, Remark{"attractors[0]", AttractorInBed, 170 - 155.15}},
		{"stone on a jaw", "hole", func(l *Layout) { l.Guides[0].XMm = -90 }, Remark{"guides[0]", GuideOverTrap, 20 - (90 - 84.85)}},
		{"stone by the tip of a lever", "hole", func(l *Layout) { l.Guides[0].XMm = -102 }, Remark{}},
		{"tall guide", "hole", func(l *Layout) { l.Guides[1].HeightMm = mm(200) }, Remark{"guides[1].heightMm", GuideTall, 50}},
		{"small stone", "object", func(l *Layout) { l.Attractors[0].RadiusMm = 40 }, Remark{"attractors[0]", PawedOntoPan, 20}},
		{"small, spiked down", "object", func(l *Layout) { l.Attractors[0].RadiusMm, l.Attractors[0].Fixed = 40, true }, Remark{}},
		{"small, far off", "object", func(l *Layout) { l.Attractors[0].RadiusMm, l.Attractors[0].YMm = 40, -140 }, Remark{}},
		{"narrow trench", "trench", func(l *Layout) { l.Trench.WidthMm = 120 }, Remark{"rigs[0]", WiderThanTrench, 19.7}},
		{"levers turned in a trench", "trench", func(l *Layout) { l.Trench.WidthMm, l.Rigs[0].AxisDeg = 150, 0 }, Remark{"rigs[0].axisDeg", LeversFoul, 19.7}},
		{"beds that meet", "robbed_rebuild", func(l *Layout) { l.Rigs[1].YMm, l.Rigs[1].Pan.YMm = 385, 385 }, Remark{"rigs[1]", BedsTouch, 9.7}},
		{"beds side by side", "robbed_rebuild", func(l *Layout) { l.Rigs[1].YMm, l.Rigs[1].Pan.YMm = 400, 400 }, Remark{}},
		{"the stick of a spring, which is smelt where it is gripped", "spring_hole", func(*Layout) {}, Remark{}},
	} {
		l := begin(t, c.pattern, "coyote")
		c.change(&l)
		if err := l.Check(); err != nil {
			t.Errorf("%s: %v", c.name, err)
		}
		found := l.Remarks(targets()[0], Underfoot{Frozen: true})
		if c.want == (Remark{}) {
			if len(found) > 0 {
				t.Errorf("%s: %+v", c.name, found)
			}
			continue
		}
		if len(found) != 1 || found[0].Path != c.want.Path || found[0].Key != c.want.Key || math.Abs(found[0].Mm-c.want.Mm) > 1e-6 {
			t.Errorf("%s: %+v, want %+v", c.name, found, c.want)
		}
	}
	// A pan above the ground stands above its jaws too; and a fox does not mind a tall guide.
	l := begin(t, "hole", "coyote")
	l.Rigs[0].Pan.HeightMm = mm(50)
	l.Guides[0].HeightMm = mm(300)
	found := l.Remarks(*animalOf(t, "red_fox"), Underfoot{})
	if len(found) != 2 || found[1].Key != PanAboveGround || math.Abs(found[1].Mm-3.65) > 1e-6 {
		t.Errorf("%+v", found)
	}
	// Beds that are turned meet where their corners do.
	turned := begin(t, "robbed_rebuild", "coyote")
	turned.Rigs[0].AxisDeg, turned.Rigs[1].YMm, turned.Rigs[1].Pan.YMm = 45, 420, 420
	if found := turned.Remarks(targets()[0], Underfoot{}); len(found) != 1 || found[0].Key != BedsTouch {
		t.Errorf("turned: %+v", found)
	}
}

// The comings of a pattern share the visits among them, and give places back as they took them.
func TestTerms(t *testing.T) {
	for _, key := range PatternKeys() {
		for _, a := range targets() {
			share := 0.0
			for _, term := range begin(t, key, a.Key).Comings(a) {
				share += term.Share
				x, y := term.Approach.Axes.On(123, -45)
				if bx, by := term.Approach.Axes.At(x, y); math.Hypot(bx-123, by+45) > 1e-9 {
					t.Errorf("%s: (123,-45) comes back as (%g,%g)", key, bx, by)
				}
			}
			if Claims(key) == (math.Abs(share-1) > 1e-9) || !Claims(key) && share != 0 {
				t.Errorf("%s: the shares come to %g", key, share)
			}
		}
	}
	// From each of three holes the pan lies straight ahead, as far as the animal's foot comes down.
	l := begin(t, "punch_holes", "coyote")
	for i, term := range l.Comings(targets()[0]) {
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
	seeds.Each(t, 3000, func(rng *rand.Rand) {
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
			return
		}
		if lingers := l.Lingers(); lingers < .3 || lingers > 3 {
			t.Errorf("hold %g", lingers)
		}
		for _, remark := range l.Remarks(targets()[rng.IntN(4)], Underfoot{Frozen: true}) {
			if !(remark.Mm > 0) {
				t.Errorf("%+v", remark)
			}
		}
		for _, r := range l.Rigs {
			if r.Jaws == nil {
				continue
			}
			dug, err := l.BedOf(r)
			if err != nil {
				t.Fatal(err)
			}
			if dug.LengthMm < r.Jaws.FrameMm || dug.DepthMm < r.CoverMm() {
				t.Errorf("a bed of %+v for %+v", dug, r)
			}
		}
	})
}

// pick draws one of some words, and now and then one that is not known.
func pick[T ~string](rng *rand.Rand, of []T) T {
	if rng.IntN(40) == 0 {
		return "gold"
	}
	return of[rng.IntN(len(of))]
}

// drawn is a pattern with some of its parts changed at random, now and then to what cannot be.
func drawn(t *testing.T, rng *rand.Rand) Layout {
	l := begin(t, PatternKeys()[rng.IntN(len(PatternKeys()))], animal.Reference.TargetKeys()[rng.IntN(4)])
	l.Backing, l.Show = pick(rng, Backings), pick(rng, Shows)
	if rng.IntN(2) == 0 {
		facing, firm := 360*rng.Float64(), rng.IntN(2) == 0
		l.FacingDeg, l.Lie.Stony = &facing, &firm
	}
	for i := range l.Rigs {
		r := &l.Rigs[i]
		r.AxisDeg = float64(rng.IntN(180))
		r.Cover = append(r.Cover, Layer{pick(rng, pan.Materials), 60 * rng.Float64()})
		if r.Pan != nil {
			r.Pan.XMm += 80 * (rng.Float64() - .5)
		}
		if rng.IntN(4) == 0 {
			r.Bed.Firm, r.Over = nil, pick(rng, PanOvers)
		}
		if rng.IntN(20) == 0 {
			r.Jaws = nil
		}
	}
	for range rng.IntN(3) {
		height := 300 * rng.Float64()
		l.Guides = append(l.Guides, Guide{Kind: pick(rng, GuideKinds), XMm: 500 * rng.Float64(), YMm: 500 * rng.Float64(), RMm: 60 * rng.Float64(), LengthMm: 300 * rng.Float64(), HeightMm: &height})
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
			l.Lingers()
			l.Comings(targets()[0])
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

// What is changed in a copy, wherever it lies, is changed in no other: nothing of one is reached from the other.
func TestACopyIsWhole(t *testing.T) {
	l := Layout{}
	rng := rand.New(rand.NewPCG(1, 2))
	filled, found := fill(reflect.ValueOf(&l).Elem(), rng), map[uintptr]bool{}
	reaches(reflect.ValueOf(l), func(at uintptr) { found[at] = true })
	copied := l.Clone()
	if !reflect.DeepEqual(l, copied) {
		t.Errorf("%+v\nis copied as %+v", l, copied)
	}
	reaches(reflect.ValueOf(copied), func(at uintptr) {
		if found[at] {
			t.Error("something of the one is reached from the other")
		}
	})
	if filled < 60 || len(found) < 20 {
		t.Errorf("%d things are filled in, %d lie elsewhere", filled, len(found))
	}
}

// fill gives everything in a value something, two of each list, and counts them.
func fill(v reflect.Value, rng *rand.Rand) (n int) {
	switch v.Kind() {
	case reflect.Struct:
		for i := range v.NumField() {
			n += fill(v.Field(i), rng)
		}
		return n
	case reflect.Pointer:
		v.Set(reflect.New(v.Type().Elem()))
		return fill(v.Elem(), rng)
	case reflect.Slice:
		v.Set(reflect.MakeSlice(v.Type(), 2, 2))
		return fill(v.Index(0), rng) + fill(v.Index(1), rng)
	case reflect.Float64:
		v.SetFloat(rng.Float64())
	case reflect.Int:
		v.SetInt(rng.Int64N(99))
	case reflect.String:
		v.SetString(strconv.FormatInt(rng.Int64(), 36))
	case reflect.Bool:
		v.SetBool(true)
	default:
		panic(v.Kind())
	}
	return 1
}

// reaches tells of everything that lies outside a value and is reached from it.
func reaches(v reflect.Value, tell func(at uintptr)) {
	switch v.Kind() {
	case reflect.Struct:
		for i := range v.NumField() {
			reaches(v.Field(i), tell)
		}
	case reflect.Pointer:
		tell(v.Pointer())
		reaches(v.Elem(), tell)
	case reflect.Slice:
		tell(v.Pointer())
		for i := range v.Len() {
			reaches(v.Index(i), tell)
		}
	}
}
