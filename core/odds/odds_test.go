package odds

import (
	"encoding/json"
	"math"
	"os"
	"reflect"
	"runtime"
	"slices"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/bed"
	"oldburrow/core/hole"
	"oldburrow/core/layout"
	"oldburrow/core/pan"
	"oldburrow/core/schools"
)

func kind(key string) animal.Animal {
	a, err := animal.Reference.ByKey(key)
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
	known := map[LinkKey]bool{Steps: true, Fires: true}
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
	if a.Feet.Fire >= a.Feet.Step || a.Feet.Fire <= 0 {
		t.Errorf("steps %g, fires %g", a.Feet.Step, a.Feet.Fire)
	}
}

// The setback that a hole begins with is as good as the best: within a fiftieth. Other patterns say what theirs is worth.
func TestSetbacksAreNearTheBest(t *testing.T) {
	t.Parallel()
	for _, target := range animal.Reference.TargetKeys() {
		l := set(t, "hole", target).Unguided()
		a, err := Of(Question{Layout: l, Target: kind(target), Visits: 40000, Map: true})
		if err != nil {
			t.Fatal(err)
		}
		m := a.Feet.Map
		best := 0.0
		for y := m.Y0Mm; y < m.Y0Mm+m.CellMm*float64(m.Rows-1); y += 2 {
			straight, _ := m.At(0, y)
			best = max(best, straight)
		}
		if at, _ := m.At(0, l.Rigs[0].Pan.YMm); at < .98*best {
			t.Errorf("%s at %g mm: %.4f, best %.4f", target, l.Rigs[0].Pan.YMm, at, best)
		}
		if share := *a.Rigs[0].OfBest; share < .97 || share > 1 {
			t.Errorf("%s: its place gives %.3f of the best", target, share)
		}
	}
	// A pan that no map reaches is worth nothing that could be said; nor is one without a map.
	far := set(t, "robbed_rebuild", "coyote")
	for _, q := range []Question{{Layout: far, Map: true}, {Layout: coyoteSet(t)}} {
		q.Target, q.Visits = kind("coyote"), 1000
		a, err := Of(q)
		if err != nil || a.Rigs[len(a.Rigs)-1].OfBest != nil {
			t.Errorf("%+v (%v)", a.Rigs, err)
		}
	}
}

func TestChoicesOfTheBenchMatter(t *testing.T) {
	good := of(t, coyoteSet(t), "coyote").Feet
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
		if worse := of(t, l, "coyote").Feet; worse.Fire >= good.Fire {
			t.Errorf("%s: fires %.3f, no worse than %.3f", name, worse.Fire, good.Fire)
		}
	}
	l := coyoteSet(t)
	l.Rigs[0].Pan.GaugeN = 60
	if a := of(t, l, "coyote"); a.Weakest == "steps" && a.Feet.Fire/a.Feet.Step < a.Feet.Step {
		t.Error("the weakest link is not the lowest chance")
	}
}

func company(t testing.TB, q Question) Company {
	t.Helper()
	q.Animals = animal.Reference
	found, err := CompanyOf(t.Context(), q)
	if err != nil {
		t.Fatal(err)
	}
	return found
}

func TestOthers(t *testing.T) {
	others := company(t, Question{Layout: coyoteSet(t), Target: kind("coyote"), Visits: 5000}).Others
	if len(others) != 9 {
		t.Fatalf("%d others", len(others))
	}
	fire := map[string]float64{}
	for i, o := range others {
		fire[o.Species] = o.Fire
		if i > 2 && o.Fire > others[i-1].Fire || i == 1 && o.Species != "dog" && o.Species != "cat" {
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
	Feet
	Visits     int
	Standoff   hole.Output
	CoverAddsN float64
	EffectiveN float64
	Bed        bed.Output
	Window     struct {
		pan.WindowOutput
		Spares string
	}
}

// A layout that was written before there were patterns has the answers that it had then, within what two runs differ by.
func TestAnswersFromBefore(t *testing.T) {
	t.Parallel()
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
		got, err := Of(Question{Layout: c.Old, Target: kind(c.Target), Spares: []animal.Animal{kind("skunk")}, Visits: c.Answer.Visits})
		if err != nil {
			t.Fatalf("%s: %v", c.Name, err)
		}
		rig, want := got.Rigs[0], c.Answer
		if rig.CoverAddsN != want.CoverAddsN || rig.EffectiveN != want.EffectiveN || rig.Bed != want.Bed {
			t.Errorf("%s: its trap is %+v, was %+v", c.Name, rig, want)
		}
		if math.Abs(rig.Window.MinN-want.Window.MinN) > 1e-6 || !rig.Window.ByTrade && math.Abs(rig.Window.MaxN-want.Window.MaxN) > 1e-6 {
			t.Errorf("%s: its window is %+v, was %+v", c.Name, rig.Window, want.Window)
		}
		work := want.Work
		unbaited := !c.Old.Baited() && got.Feet.Work != work // it keeps an animal less, which it was not told to then
		if unbaited {
			work *= .8
		}
		if got.Feet.SpreadDeg != want.SpreadDeg || math.Abs(got.Feet.Work-work) > 1e-9 || *got.Standoff != want.Standoff || !reflect.DeepEqual(got.Feet.Paws, want.Paws) {
			t.Errorf("%s: %+v, was %+v", c.Name, got, want)
		}
		apart := func(what string, a, b float64, visits int) {
			if math.Abs(a-b) > 4*math.Sqrt(2*.25/float64(visits)) {
				t.Errorf("%s: %s %.4f, was %.4f", c.Name, what, a, b)
			}
		}
		if unbaited {
			continue
		}
		apart("steps", got.Feet.Step, want.Step, c.Answer.Visits)
		apart("fires", got.Feet.Fire, want.Fire, c.Answer.Visits)
		apart("spooked", got.Feet.Spooked, want.Spooked, c.Answer.Visits)
		for _, o := range company(t, Question{Layout: c.Old, Target: kind(c.Target), Visits: 2000}).Others {
			i := slices.IndexFunc(c.Others, func(was Other) bool { return was.Species == o.Species })
			apart(o.Species+" fires", o.Fire, c.Others[i].Fire, 2000)
		}
	}
	if compared < 12 {
		t.Errorf("only %d answers are compared", compared)
	}
}

// A second trap takes its part: more feet, each pan by its own tension, each with a bed and a window of its own.
func TestTwoTraps(t *testing.T) {
	t.Parallel()
	for _, pattern := range []string{"robbed_rebuild", "trail_pair", "creek_pinch", "culvert_pair"} {
		for _, target := range animal.Reference.TargetKeys() {
			l := set(t, pattern, target)
			of := func(l layout.Layout) *Feet {
				a, err := Of(Question{Layout: l, Target: kind(target), Visits: 6000})
				if err != nil {
					t.Fatal(err)
				}
				if len(a.Rigs) != len(l.Rigs) || a.Rigs[len(a.Rigs)-1].Slot != len(l.Rigs)-1 {
					t.Errorf("%s: of %d traps %+v are told", pattern, len(l.Rigs), a.Rigs)
				}
				return a.Feet
			}
			both := of(l)
			stiff := l
			stiff.Rigs = slices.Clone(l.Rigs)
			heavy := *l.Rigs[1].Pan
			heavy.GaugeN = 80
			stiff.Rigs[1].Pan = &heavy
			one := of(stiff)
			alone := l
			alone.Rigs, alone.Anchors = l.Rigs[:1], l.Anchors[:1]
			first := of(alone)
			if both.Fire <= one.Fire || one.Fire < first.Fire-.005 {
				t.Errorf("%s for %s: both %.3f, with a stiff second %.3f, the first alone %.3f", pattern, target, both.Fire, one.Fire, first.Fire)
			}
		}
	}
}

// Where feet fall hangs on none of the traps that are moved over it: the map stays what it is, to the last digit. While one is dragged the bench keeps
// the map that it has.
func TestAMapHangsOnNoTrapThatMoves(t *testing.T) {
	t.Parallel()
	for _, pattern := range layout.PatternKeys() {
		l := set(t, pattern, "coyote")
		if !layout.Claims(pattern) {
			continue
		}
		mapOf := func(l layout.Layout) *Feet {
			feet, err := feetOf(Question{Layout: l, Target: kind("coyote"), Visits: 500, Map: true})
			if err != nil {
				t.Fatalf("%s: %v", pattern, err)
			}
			return feet
		}
		was := mapOf(l)
		for i, rig := range l.Rigs {
			if rig.Pan == nil || l.Stays(i) {
				continue
			}
			moved := l.WithRigMoved(i, 17, -23)
			rest := moved.Clone()
			if rest.Rigs = l.Rigs; !reflect.DeepEqual(rest, l) {
				continue // something else moves along
			}
			if is := mapOf(moved); !reflect.DeepEqual(is.Map, was.Map) || !reflect.DeepEqual(is.Best, was.Best) {
				t.Errorf("%s: moving trap %d moves the map", pattern, i+1)
			}
		}
	}
}

// Every pattern and every variant gives every target chances that can be; its map says under its pan what its feet say, the seed
// decides, and nothing else does.
func TestEveryPattern(t *testing.T) {
	t.Parallel()
	for _, pattern := range layout.PatternKeys() {
		for _, target := range animal.Reference.TargetKeys() {
			l := set(t, pattern, target)
			q := Question{Layout: l, Target: kind(target), Visits: 1000, Map: true}
			a, err := Of(q)
			if err != nil {
				t.Fatalf("%s for %s: %v", pattern, target, err)
			}
			if len(a.Remarks) > 0 || a.Minutes < 10 || a.Minutes > 35 || (a.Sight.Share <= 0) != l.Blind() {
				t.Errorf("%s for %s begins with %+v, %g minutes, %+v", pattern, target, a.Remarks, a.Minutes, a.Sight)
			}
			if !layout.Claims(pattern) {
				if others := company(t, q).Others; a.Feet != nil || a.Weakest != "" || len(a.Rigs) != 0 || len(others) != 0 {
					t.Errorf("%s claims where feet fall: %+v, %v", pattern, a, others)
				}
				continue
			}
			possible(t, pattern+" for "+target, q.Layout, *a.Feet)
			cores := runtime.GOMAXPROCS(1)
			again, err := Of(q)
			runtime.GOMAXPROCS(cores)
			if err != nil || !reflect.DeepEqual(a, again) {
				t.Errorf("%s for %s: the same seed gives another answer on one core (%v)", pattern, target, err)
			}
			q.Seed = 7
			if other, err := Of(q); err != nil || other.Feet.Step == a.Feet.Step && other.Feet.Fire == a.Feet.Fire && other.Feet.Best.Chance == a.Feet.Best.Chance {
				t.Errorf("%s for %s: another seed gives the very same (%v)", pattern, target, err)
			}
			for _, variant := range layout.VariantKeys(pattern) {
				l, err := layout.New(pattern, layout.Begin{Target: kind(target), Schools: schools.Usual(), Variant: variant})
				if err != nil {
					t.Fatal(err)
				}
				v, err := Of(Question{Layout: l, Target: kind(target), Visits: 1000, Map: true})
				if err != nil {
					t.Fatalf("%s, %s, for %s: %v", pattern, variant, target, err)
				}
				possible(t, pattern+" "+variant+" for "+target, l, *v.Feet)
				if len(v.Remarks) > 0 || v.Feet.Step == a.Feet.Step && !(variant == "three_sticks" && target == "bobcat") {
					t.Errorf("%s, %s, for %s: %+v, and steps %g as without", pattern, variant, target, v.Remarks, v.Feet.Step)
				}
			}
		}
	}
}

// possible refuses chances that cannot be, of a set on a firm bed.
func possible(t *testing.T, name string, l layout.Layout, f Feet) {
	t.Helper()
	if f.Fire <= 0 || f.Fire > f.Step || f.Step > 1 || f.PadShare < 0 || f.PadShare > 1 || f.Spooked != 0 {
		t.Errorf("%s: step %g, fire %g, pad %g, spooked %g", name, f.Step, f.Fire, f.PadShare, f.Spooked)
	}
	for _, chance := range f.Map.Chance {
		if chance < 0 || chance > 1 {
			t.Fatalf("%s: a chance of %g", name, chance)
		}
	}
	at, ok := f.Map.At(l.Rigs[0].Pan.XMm, l.Rigs[0].Pan.YMm)
	if ok && len(l.Rigs) == 1 && l.Pattern != "spring_hole" && (at < f.Fire-.03 || at > f.Step+.05) {
		t.Errorf("%s: under the pan the map says %.3f, the feet %.3f to %.3f", name, at, f.Fire, f.Step)
	}
	if f.Best.Chance < at {
		t.Errorf("%s: the best, %.3f, is worse than the pan's place, %.3f", name, f.Best.Chance, at)
	}
}

// mirrored is a set as seen in a mirror that stands along its y axis.
func mirrored(t *testing.T, l layout.Layout) layout.Layout {
	t.Helper()
	raw, err := json.Marshal(l)
	if err != nil {
		t.Fatal(err)
	}
	m, err := layout.Decode(raw)
	if err != nil {
		t.Fatal(err)
	}
	for i := range m.Attractors {
		m.Attractors[i].XMm *= -1
		if hole := m.Attractors[i].Hole; hole != nil {
			hole.TurnDeg *= -1
		}
	}
	for i := range m.Rigs {
		m.Rigs[i].XMm *= -1
		m.Rigs[i].AxisDeg *= -1
		m.Rigs[i].Pan.XMm *= -1
	}
	for i := range m.Guides {
		m.Guides[i].XMm *= -1
		m.Guides[i].TurnDeg *= -1
	}
	if m.Way != nil {
		m.Way.XMm *= -1
		m.Way.BearingDeg = 180 - m.Way.BearingDeg
		if m.Way.BearingDeg > 180 {
			m.Way.BearingDeg -= 360
		}
	}
	return m
}

// A set in the mirror has its map in the mirror, for an animal that leads with the other foot. Here it leads with either.
func TestMirroredSets(t *testing.T) {
	t.Parallel()
	const visits = 4000
	for i, pattern := range layout.PatternKeys() {
		if !layout.Claims(pattern) || testing.Short() && i%3 != 0 {
			continue
		}
		l := set(t, pattern, "red_fox")
		l.Rigs[0].Pan.XMm += 12
		l.Guides = append(l.Guides, layout.Guide{Kind: "stone", XMm: 70, YMm: l.Rigs[0].YMm - 30, RMm: 30})
		a, err := Of(Question{Layout: l, Target: kind("red_fox"), Visits: visits, Map: true})
		if err != nil {
			t.Fatal(err)
		}
		b, err := Of(Question{Layout: mirrored(t, l), Target: kind("red_fox"), Visits: visits, Map: true, Seed: 50})
		if err != nil {
			t.Fatal(err)
		}
		// Two runs of a cell differ by a normal error; of thousands of cells none by more than five of it.
		far := 0.0
		for row := range a.Feet.Map.Rows {
			for col := range a.Feet.Map.Cols {
				p := a.Feet.Map.Chance[row*a.Feet.Map.Cols+col]
				q := b.Feet.Map.Chance[row*a.Feet.Map.Cols+a.Feet.Map.Cols-1-col]
				far = max(far, math.Abs(p-q)/math.Sqrt(2*max(p, q, .001)/visits))
			}
		}
		if far > 6 {
			t.Errorf("%s: a cell lies %.1f errors from its mirror image", pattern, far)
		}
		if math.Abs(a.Feet.Fire-b.Feet.Fire) > 5*math.Sqrt(2*.25/visits) {
			t.Errorf("%s: fires %.4f, and %.4f in the mirror", pattern, a.Feet.Fire, b.Feet.Fire)
		}
	}
}

// What holds for every pattern: a wider pan is stepped on no less, a firm bed frightens nobody and a loose one no fewer, and on firm
// beds a second trap takes nothing away. The feet are the same, so that this holds without an error.
func TestWhatNeverMakesWorse(t *testing.T) {
	feet := func(l layout.Layout) Feet {
		a, err := Of(Question{Layout: l, Target: kind("bobcat"), Visits: 4000})
		if err != nil {
			t.Fatal(err)
		}
		return *a.Feet
	}
	for _, pattern := range layout.PatternKeys() {
		if !layout.Claims(pattern) {
			continue
		}
		l := set(t, pattern, "bobcat")
		usual := feet(l)
		wide := set(t, pattern, "bobcat")
		for i := range wide.Rigs {
			wide.Rigs[i].Pan.DiameterMm = 80
		}
		if wider := feet(wide); wider.Step < usual.Step {
			t.Errorf("%s: a wider pan is stepped on by %g, was %g", pattern, wider.Step, usual.Step)
		}
		loose := set(t, pattern, "bobcat")
		for i := range loose.Rigs {
			loose.Rigs[i].Bed.Firm = nil
		}
		if gives := feet(loose); usual.Spooked != 0 || gives.Spooked <= 0 || gives.Fire > usual.Fire {
			t.Errorf("%s: firm %+v, loose %+v", pattern, usual, gives)
		}
		if len(l.Rigs) == 2 {
			alone := set(t, pattern, "bobcat")
			alone.Rigs, alone.Anchors = alone.Rigs[:1], alone.Anchors[:1]
			if first := feet(alone); first.Fire > usual.Fire || first.Step > usual.Step {
				t.Errorf("%s: one trap %+v, two %+v", pattern, first, usual)
			}
		}
	}
}

// Whatever parts a layout has, the feet either refuse it or come to chances that can be.
func FuzzOf(f *testing.F) {
	for _, pattern := range layout.PatternKeys() {
		raw, err := json.Marshal(set(f, pattern, "grey_fox"))
		if err != nil {
			f.Fatal(err)
		}
		f.Add(string(raw))
	}
	f.Fuzz(func(t *testing.T, raw string) {
		l, err := layout.Decode([]byte(raw))
		if err != nil {
			return
		}
		a, err := Of(Question{Layout: l, Target: kind("coyote"), Visits: 20, Map: true})
		if err != nil || a.Feet == nil {
			return
		}
		for _, chance := range []float64{a.Feet.Step, a.Feet.Fire, a.Feet.PadShare, a.Feet.Spooked, a.Feet.Best.Chance} {
			if !(chance >= 0 && chance <= 1) {
				t.Errorf("%+v of %s", a.Feet, raw)
			}
		}
	})
}

// The lines that a trail set teaches: a foot falls every step, not everywhere, and what makes it fall here.
func TestWhatATrailTeaches(t *testing.T) {
	for _, target := range animal.Reference.TargetKeys() {
		learnt, err := Lessons(kind(target), 20000)
		if err != nil {
			t.Fatal(err)
		}
		last := 0.0
		for i, key := range []string{"open", "stick", "narrow", "pair"} {
			if learnt[i].Key != key || learnt[i].Step <= last {
				t.Errorf("%s: %+v", target, learnt)
			}
			last = learnt[i].Step
		}
		if target != "coyote" {
			continue
		}
		for i, want := range map[int]float64{0: .05, 2: .25, 3: .45} {
			if math.Abs(learnt[i].Step-want) > .05 {
				t.Errorf("%s meets a foot in %.3f of the passes, want about %.2f", learnt[i].Key, learnt[i].Step, want)
			}
		}
	}
	if _, err := Lessons(kind("skunk"), 100); err == nil {
		t.Error("a trail set for a skunk")
	}
}

// BenchmarkPatterns asks of each pattern what the bench asks at rest: its answer with the chance map.
func BenchmarkPatterns(b *testing.B) {
	for _, pattern := range layout.PatternKeys() {
		l := set(b, pattern, "coyote")
		b.Run(pattern, func(b *testing.B) {
			for b.Loop() {
				if _, err := Of(Question{Layout: l, Target: kind("coyote"), Visits: 20000, Map: true}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
