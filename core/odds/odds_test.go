package odds

import (
	"encoding/json"
	"math"
	"os"
	"reflect"
	"slices"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/bed"
	"oldburrow/core/footfall"
	"oldburrow/core/layout"
	"oldburrow/core/pan"
	"oldburrow/core/schools"
)

func kind(key string) animal.Animal {
	a, err := animal.ByKey(key)
	if err != nil {
		panic(err)
	}
	return a
}

func set(t testing.TB, pattern, target string) layout.Layout {
	t.Helper()
	l, err := layout.New(pattern, layout.Begin{Target: kind(target), Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	return l
}

func coyoteSet(t testing.TB) layout.Layout { return set(t, "hole", "coyote") }

func of(t *testing.T, l layout.Layout, target string) Answer {
	t.Helper()
	a, err := Of(Question{Layout: l, Target: kind(target), Visits: 20000})
	if err != nil {
		t.Fatal(err)
	}
	return a
}

func TestChainSaysWhatIsNotKnown(t *testing.T) {
	a := of(t, coyoteSet(t), "coyote")
	known := map[string]bool{"steps": true, "fires": true}
	for _, link := range a.Chain {
		if link.Known != known[link.Key] {
			t.Errorf("%s: known %v", link.Key, link.Known)
		}
		if !link.Known && link.Chance != 0 {
			t.Errorf("%s is not known and yet %g", link.Key, link.Chance)
		}
	}
	if a.Weakest != "steps" {
		t.Errorf("weakest is %s", a.Weakest)
	}
	if a.Fire >= a.Step || a.Fire <= 0 {
		t.Errorf("steps %g, fires %g", a.Step, a.Fire)
	}
}

// The setback that a design begins with is as good as the best: within a fiftieth, straight before the hole.
func TestSetbacksAreNearTheBest(t *testing.T) {
	for _, target := range animal.TargetKeys() {
		l := set(t, "hole", target)
		l.Guides = nil
		a, err := Of(Question{Layout: l, Target: kind(target), Visits: 100000, Map: true})
		if err != nil {
			t.Fatal(err)
		}
		m := a.Map
		straight := int((0 - m.X0Mm) / m.CellMm)
		chance := func(row int) float64 { return (m.Chance[row*m.Cols+straight] + m.Chance[row*m.Cols+straight+1]) / 2 }
		best := 0.0
		for row := range m.Rows {
			best = max(best, chance(row))
		}
		row := (l.Rigs[0].Pan.YMm - m.Y0Mm) / m.CellMm
		at := chance(int(row)) + (row-float64(int(row)))*(chance(int(row)+1)-chance(int(row)))
		if at < .98*best {
			t.Errorf("%s at %g mm: %.4f, best %.4f", target, l.Rigs[0].Pan.YMm, at, best)
		}
	}
}

func TestChoicesOfTheBenchMatter(t *testing.T) {
	good := of(t, coyoteSet(t), "coyote")
	for name, change := range map[string]func(*layout.Layout){
		"open back":       func(l *layout.Layout) { l.Backing = "none" },
		"pan too far":     func(l *layout.Layout) { l.Rigs[0].Pan.YMm, l.Rigs[0].YMm = 400, 400 },
		"nothing to work": func(l *layout.Layout) { l.Attractors[0].Plug, l.Attractors[0].Smells = "none", nil },
		"loose bed":       func(l *layout.Layout) { l.Rigs[0].Bed.Firm = new(bool) },
		"who knows":       func(l *layout.Layout) { l.Rigs[0].Bed.Firm = nil },
		"heavy pan":       func(l *layout.Layout) { l.Rigs[0].Pan.GaugeN = 60 },
		"frozen cover":    func(l *layout.Layout) { l.Rigs[0].Cover[0].Material = "frozen_soil" },
	} {
		l := coyoteSet(t)
		change(&l)
		if worse := of(t, l, "coyote"); worse.Fire >= good.Fire {
			t.Errorf("%s: fires %.3f, no worse than %.3f", name, worse.Fire, good.Fire)
		}
	}
	l := coyoteSet(t)
	l.Rigs[0].Pan.GaugeN = 60
	if a := of(t, l, "coyote"); a.Weakest == "steps" && a.Fire/a.Step < a.Step {
		t.Error("the weakest link is not the lowest chance")
	}
}

func TestOthers(t *testing.T) {
	others, err := Others(coyoteSet(t), animal.All[1:], 5000)
	if err != nil || len(others) != 9 {
		t.Fatalf("%d others, %v", len(others), err)
	}
	fire := map[string]float64{}
	for i, o := range others {
		fire[o.Species] = o.Fire
		if i > 0 && o.Fire > others[i-1].Fire {
			t.Errorf("%s comes after %s", o.Species, others[i-1].Species)
		}
	}
	if fire["coyote"] != 0 || fire["skunk"] > 0.1 || fire["bobcat"] < fire["grey_fox"] {
		t.Errorf("%v", fire)
	}
}

func TestAnswerRefusesWhatCannotBe(t *testing.T) {
	l := coyoteSet(t)
	l.Attractors[0].Hole.AngleDeg = 10
	if _, err := Of(Question{Layout: l, Target: kind("coyote"), Visits: 100}); err == nil {
		t.Error("a hole at 10 degrees is answered")
	}
}

// before is an answer as it was of a set with one trap.
type before struct {
	Answer
	CoverAddsN float64
	EffectiveN float64
	Bed        bed.Output
	Window     struct {
		pan.WindowOutput
		Spares string
	}
}

// A layout that was written before there were patterns has the very answers that it had then.
func TestAnswersFromBefore(t *testing.T) {
	raw, err := os.ReadFile("../testdata/lifts.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []struct {
		Name, Target string
		Old          layout.Layout
		Answer       *before
		Others       []Other
	}
	if err := json.Unmarshal(raw, &cases); err != nil {
		t.Fatal(err)
	}
	compared := 0
	for _, c := range cases {
		if c.Answer == nil {
			continue
		}
		compared++
		got, err := Of(Question{Layout: c.Old, Target: kind(c.Target), Spares: []animal.Animal{kind("skunk")}, Visits: c.Answer.Visits, Map: true})
		if err != nil {
			t.Fatalf("%s: %v", c.Name, err)
		}
		rig := got.Rigs[0]
		if rig.CoverAddsN != c.Answer.CoverAddsN || rig.EffectiveN != c.Answer.EffectiveN || rig.Bed != c.Answer.Bed || rig.Window.WindowOutput != c.Answer.Window.WindowOutput {
			t.Errorf("%s: its trap is %+v, was %+v", c.Name, rig, c.Answer)
		}
		want := c.Answer.Answer
		if math.Abs(got.PadShare-want.PadShare) < 1e-12 { // it is divided otherwise
			got.PadShare = want.PadShare
		}
		want.Rigs, want.Map, got.Rigs, got.Map = nil, nil, nil, nil
		if !reflect.DeepEqual(got, want) {
			t.Errorf("%s: %+v, was %+v", c.Name, got, want)
		}
		var rest []animal.Animal
		for _, a := range animal.All {
			if a.Key != c.Target {
				rest = append(rest, a)
			}
		}
		if others, err := Others(c.Old, rest, 2000); err != nil || !reflect.DeepEqual(others, c.Others) {
			t.Errorf("%s: others %+v (%v), were %+v", c.Name, others, err, c.Others)
		}
	}
	if compared < 12 {
		t.Errorf("only %d answers are compared", compared)
	}
}

// A second trap takes its part: more feet, each pan by its own tension, each with a bed and a window of its own.
func TestTwoTraps(t *testing.T) {
	for _, pattern := range []string{"robbed_rebuild", "trail_pair", "creek_pinch", "culvert_pair"} {
		for _, target := range animal.TargetKeys() {
			l := set(t, pattern, target)
			both := of(t, l, target)
			stiff := l
			stiff.Rigs = slices.Clone(l.Rigs)
			heavy := *l.Rigs[1].Pan
			heavy.GaugeN = 80
			stiff.Rigs[1].Pan = &heavy
			one := of(t, stiff, target)
			alone := l
			alone.Rigs, alone.Anchors = l.Rigs[:1], l.Anchors[:1]
			first := of(t, alone, target)
			if len(both.Rigs) != 2 || both.Rigs[1].Slot != 1 || both.Fire <= one.Fire || one.Fire < first.Fire-.005 {
				t.Errorf("%s for %s: both %.3f, with a stiff second %.3f, the first alone %.3f", pattern, target, both.Fire, one.Fire, first.Fire)
			}
		}
	}
}

// Every pattern gives every target chances that can be; its map says under its pan what its feet say, and the seed decides.
func TestEveryPattern(t *testing.T) {
	for _, pattern := range layout.PatternKeys() {
		for _, target := range animal.TargetKeys() {
			q := Question{Layout: set(t, pattern, target), Target: kind(target), Visits: 20000, Map: true}
			a, err := Of(q)
			if err != nil {
				t.Fatalf("%s for %s: %v", pattern, target, err)
			}
			if a.Fire <= 0 || a.Fire > a.Step || a.Step > 1 || a.PadShare < 0 || a.PadShare > 1 || a.Spooked != 0 {
				t.Errorf("%s for %s: step %g, fire %g, pad %g, spooked %g", pattern, target, a.Step, a.Fire, a.PadShare, a.Spooked)
			}
			pan := q.Layout.Rigs[0].Pan
			at := chanceAt(a.Map, pan.XMm, pan.YMm)
			if len(q.Layout.Rigs) == 1 && pattern != "spring_hole" && (at < a.Fire-.03 || at > a.Step+.05) {
				t.Errorf("%s for %s: under the pan the map says %.3f, the feet %.3f to %.3f", pattern, target, at, a.Fire, a.Step)
			}
			if a.Best.Chance < at {
				t.Errorf("%s for %s: the best, %.3f, is worse than the pan's place, %.3f", pattern, target, a.Best.Chance, at)
			}
			again, err := Of(q)
			if err != nil || !reflect.DeepEqual(a, again) {
				t.Errorf("%s for %s: the same seed gives another answer (%v)", pattern, target, err)
			}
			q.Seed = 7
			if other, err := Of(q); err != nil || other.Step == a.Step && other.Fire == a.Fire && other.Best.Chance == a.Best.Chance {
				t.Errorf("%s for %s: another seed gives the very same (%v)", pattern, target, err)
			}
		}
	}
}

func chanceAt(m *footfall.Map, x, y float64) float64 {
	col, row := int(math.Round((x-m.X0Mm)/m.CellMm)), int(math.Round((y-m.Y0Mm)/m.CellMm))
	return m.Chance[row*m.Cols+col]
}

// The lines that a trail set teaches: a foot falls every step, not everywhere, and what makes it fall here.
func TestWhatATrailTeaches(t *testing.T) {
	coyote := kind("coyote")
	pair := set(t, "trail_pair", "coyote")
	open := pair
	open.Rigs, open.Anchors, open.Guides = pair.Rigs[1:], pair.Anchors[1:], nil
	open.Way = &layout.Way{WidthMm: 610}
	narrow := open
	narrow.Guides, narrow.Way = pair.Guides, &layout.Way{WidthMm: 150}
	last := 0.0
	for _, c := range []struct {
		name string
		l    layout.Layout
		want float64
	}{{"one pan in an open way", open, .05}, {"with a stick and a narrow way", narrow, .25}, {"a staggered pair", pair, .45}} {
		a, err := Of(Question{Layout: c.l, Target: coyote, Visits: 60000})
		if err != nil {
			t.Fatal(err)
		}
		if math.Abs(a.Step-c.want) > .05 || a.Step < last {
			t.Errorf("%s meets a foot in %.3f of the passes, want about %.2f", c.name, a.Step, c.want)
		}
		last = a.Step
	}
}

func BenchmarkOthers(b *testing.B) {
	l := coyoteSet(b)
	for b.Loop() {
		if _, err := Others(l, animal.All[1:], 20000); err != nil {
			b.Fatal(err)
		}
	}
}
