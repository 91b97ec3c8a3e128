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
	for _, pattern := range []string{"robbed_rebuild", "trail_pair"} {
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

// What stands in the worked cases for a few patterns, as they begin but without guides.
func TestPatternsAgreeWithTheWorkedCases(t *testing.T) {
	for _, c := range []struct {
		pattern, target string
		step, fire, pad float64
	}{
		{"hole", "coyote", .4174, .4009, .5826}, {"punch_holes", "red_fox", .6326, .5849, .6742}, {"trail_pair", "bobcat", .4714, .4541, .7764},
	} {
		l := set(t, c.pattern, c.target)
		if c.pattern != "trail_pair" {
			l.Guides = nil
		}
		l.Rigs[0].Pan.GaugeN = map[string]float64{"coyote": 17.8, "bobcat": 13.3, "red_fox": 8.9}[c.target]
		for i := range l.Rigs {
			l.Rigs[i].Pan.GaugeN = l.Rigs[0].Pan.GaugeN
		}
		a, err := Of(Question{Layout: l, Target: kind(c.target), Visits: 300000})
		if err != nil {
			t.Fatal(err)
		}
		if math.Abs(a.Step-c.step) > .006 || math.Abs(a.Fire-c.fire) > .006 || math.Abs(a.PadShare-c.pad) > .012 {
			t.Errorf("%s for %s: step %.4f, fire %.4f, pad %.4f, want %+v", c.pattern, c.target, a.Step, a.Fire, a.PadShare, c)
		}
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
