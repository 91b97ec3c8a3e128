package footfall

import (
	"errors"
	"math"
	"reflect"
	"runtime"
	"slices"
	"strings"
	"testing"

	"gonum.org/v1/gonum/stat/distuv"

	"oldburrow/core/animal"
	"oldburrow/core/refuse"
)

func coyote(visits int) Input {
	in := Defaults()
	in.Approach, in.SpreadDeg, in.TensionN, in.Visits = Stand, 20, 17.8, visits
	in.Pans = []Pan{under(0, 229)}
	return in
}

func under(x, y float64) Pan { return Pan{XMm: x, YMm: y, DiameterMm: 60} }

func kind(key string) animal.Animal {
	a, err := animal.Reference.ByKey(key)
	if err != nil {
		panic(err)
	}
	return a
}

func (m *Map) at(x, y float64) float64 {
	col, row := math.Round((x-m.X0Mm)/m.CellMm), math.Round((y-m.Y0Mm)/m.CellMm)
	return m.Chance[int(row)*m.Cols+int(col)]
}

func TestChanceMap(t *testing.T) {
	in := coyote(300000)
	in.Map = true
	out, err := Simulate(kind("coyote"), in)
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct{ x, y, want float64 }{
		{5, 225, .312}, {-5, 225, .312}, {5, 235, .318}, {75, 225, .284}, {5, 445, .014},
	} {
		if got := out.Map.at(c.x, c.y); math.Abs(got-c.want) > .005 {
			t.Errorf("chance at (%g,%g) = %.4f, want %.3f", c.x, c.y, got, c.want)
		}
	}
	if math.Abs(out.Best.Chance-.319) > .005 || out.Best.Chance != out.Map.at(out.Best.XMm, out.Best.YMm) {
		t.Errorf("best %+v, want about .319 as on the map", *out.Best)
	}
}

// The map's cell under the pan must say what the visits themselves say, for both approaches: the counting in bits is
// checked against the plain test of each foot.
func TestMapAgreesWithVisits(t *testing.T) {
	stand := coyote(5000)
	stand.Pans[0].XMm, stand.Pans[0].YMm = 5, 225
	trail := Defaults()
	trail.Approach, trail.TrailWidthMm, trail.Visits = Pass, 250, 5000
	trail.Pans = []Pan{under(55, -5)}
	for _, in := range []Input{stand, trail} {
		in.Map = true
		out, err := Simulate(kind("coyote"), in)
		if err != nil {
			t.Fatal(err)
		}
		if got := out.Map.at(in.Pans[0].XMm, in.Pans[0].YMm); got != out.Step {
			t.Errorf("%s: map says %v, visits say %v", in.Approach, got, out.Step)
		}
	}
}

func TestSameSeedSameAnswerOnAnyCores(t *testing.T) {
	in := coyote(3210)
	in.Map, in.Firm = true, false
	var answers []Output
	for _, cores := range []int{1, 2, 7} {
		before := runtime.GOMAXPROCS(cores)
		out, err := Simulate(kind("coyote"), in)
		runtime.GOMAXPROCS(before)
		if err != nil {
			t.Fatal(err)
		}
		answers = append(answers, out)
	}
	if !reflect.DeepEqual(answers[0], answers[1]) || !reflect.DeepEqual(answers[0], answers[2]) {
		t.Error("the answer depends on the number of cores")
	}
	in.Seed = 2
	if other, _ := Simulate(kind("coyote"), in); other.Step == answers[0].Step {
		t.Error("another seed gives the same answer")
	}
}

// A moved pan, a heavier one and a looser bed meet the very same feet, so that changes are compared on the same visits.
func TestFeetDoNotHangOnThePan(t *testing.T) {
	mapOf := func(change func(*Input)) *Map {
		in := coyote(3000)
		in.Map = true
		change(&in)
		out, err := Simulate(kind("coyote"), in)
		if err != nil {
			t.Fatal(err)
		}
		return out.Map
	}
	plain := mapOf(func(*Input) {})
	for name, change := range map[string]func(*Input){
		"moved":  func(in *Input) { in.Pans[0].XMm, in.Pans[0].YMm = 60, 180 },
		"heavy":  func(in *Input) { in.TensionN = 60 },
		"loose":  func(in *Input) { in.Firm = false },
		"two":    func(in *Input) { in.Pans = append(in.Pans, under(0, 400)) },
		"by toe": func(in *Input) { in.ToeForce = .6 },
	} {
		if !reflect.DeepEqual(plain, mapOf(change)) {
			t.Errorf("%s: the feet fell elsewhere", name)
		}
	}
	// And of one visit the animal stays the same: what fires at a tension fires at any lighter one.
	fire := func(tension float64) float64 {
		in := coyote(3000)
		in.TensionN = tension
		out, _ := Simulate(kind("coyote"), in)
		return out.Fire
	}
	if light, heavy := fire(17.8), fire(18); heavy > light || light-heavy > .004 {
		t.Errorf("a hair heavier, it fires %v instead of %v", heavy, light)
	}
}

func TestWhatMovesTheChances(t *testing.T) {
	plain, _ := Simulate(kind("coyote"), coyote(20000))
	run := func(change func(*Input)) Output {
		in := coyote(20000)
		change(&in)
		out, err := Simulate(kind("coyote"), in)
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	if out := run(func(in *Input) { in.TensionN = 0 }); out.Fire != out.Step {
		t.Errorf("no tension: fires %v of steps %v", out.Fire, out.Step)
	}
	if out := run(func(in *Input) { in.TensionN = 120 }); out.Fire >= plain.Fire/4 {
		t.Errorf("a heavy pan still fires %v", out.Fire)
	}
	if out := run(func(in *Input) { in.ToeForce = .6 }); out.Step != plain.Step || out.PadShare <= plain.PadShare || out.Fire >= plain.Fire {
		t.Errorf("toes that press less: %+v, before %+v", out, plain)
	}
	if out := run(func(in *Input) { in.NoseMm = 400 }); out.Step >= plain.Step {
		t.Errorf("what is smelt high up: %v, before %v", out.Step, plain.Step)
	}
	if out := run(func(in *Input) { in.Dry = []Guide{{0, 229, 60}} }); out.Step <= plain.Step+.2 {
		t.Errorf("a dry footing: %v, before %v", out.Step, plain.Step)
	}
	if out := run(func(in *Input) { in.Firm = false }); out.Spooked == 0 || out.Step >= plain.Step {
		t.Errorf("a loose bed: %+v", out)
	}
	low := coyote(20000)
	level, _ := Simulate(kind("red_fox"), low)
	low.RecessMm = 8
	if out, err := Simulate(kind("red_fox"), low); err != nil || out.Step <= level.Step {
		t.Error("a low pan draws no feet")
	}
	if out := run(func(in *Input) { in.Guides = []Guide{{0, 229, 60}} }); out.Step != 0 {
		t.Errorf("feet come down through a stone: %v", out.Step)
	}
}

// A pan that says for itself what the input says for all changes nothing; of two that differ each fires by its own.
func TestEachPanByItself(t *testing.T) {
	in := coyote(5000)
	in.Firm = false
	plain, _ := Simulate(kind("coyote"), in)
	jaws, tension, firm := in.JawSpreadMm, in.TensionN, in.Firm
	in.Pans[0].JawSpreadMm, in.Pans[0].TensionN, in.Pans[0].Firm = &jaws, &tension, &firm
	in.JawSpreadMm, in.TensionN, in.Firm = 10, 90, true
	if own, err := Simulate(kind("coyote"), in); err != nil || !reflect.DeepEqual(own, plain) {
		t.Errorf("said by the pan itself: %+v (%v), before %+v", own, err, plain)
	}
	two := coyote(20000)
	two.Pans = append(two.Pans, under(0, 500))
	both, _ := Simulate(kind("coyote"), two)
	stiff := 400.0
	two.Pans[1].TensionN = &stiff
	one, _ := Simulate(kind("coyote"), two)
	alone, _ := Simulate(kind("coyote"), coyote(20000))
	if one.Fire >= both.Fire || math.Abs(one.Fire-alone.Fire) > .005 {
		t.Errorf("a second pan that nothing fires: %v, with a light one %v, alone %v", one.Fire, both.Fire, alone.Fire)
	}
}

func TestRefusals(t *testing.T) {
	for field, change := range map[string]func(*Input){
		"pans[0].tensionN":   func(in *Input) { heavy := -1.0; in.Pans[0].TensionN = &heavy },
		"approach":           func(in *Input) { in.Approach = "fly" },
		"pans":               func(in *Input) { in.Pans = nil },
		"pans[0].diameterMm": func(in *Input) { in.Pans[0].DiameterMm = 0 },
		"pans[0].xMm":        func(in *Input) { in.Pans[0].XMm = math.NaN() },
		"tensionN":           func(in *Input) { in.TensionN = -1 },
		"visits":             func(in *Input) { in.Visits = 0 },
		"leadRight":          func(in *Input) { in.LeadRight = 1.5 },
		"guides[0].rMm":      func(in *Input) { in.Guides = []Guide{{0, 0, -1}} },
		"trailWidthMm":       func(in *Input) { in.Approach = Pass },
		"stickHalfMm":        func(in *Input) { in.Approach, in.TrailWidthMm, in.StickHalfMm = Pass, 200, -1 },
		"noseMm":             func(in *Input) { in.NoseMm = -1 },
		"toeForce":           func(in *Input) { in.ToeForce = 1.2 },
		"dry[0].rMm":         func(in *Input) { in.Dry = []Guide{{0, 0, math.NaN()}} },
	} {
		in := coyote(10)
		change(&in)
		_, err := Simulate(kind("coyote"), in)
		var p refuse.Problems
		if !errors.As(err, &p) || p[0].Field != field || !strings.Contains(p[0].Says, " ") {
			t.Errorf("%s: got %v", field, err)
		}
	}
}

func BenchmarkChanceMap(b *testing.B) {
	in := coyote(20000)
	in.Map = true
	for b.Loop() {
		if _, err := Simulate(kind("coyote"), in); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkQuickRun(b *testing.B) {
	in := coyote(2000)
	for b.Loop() {
		if _, err := Simulate(kind("coyote"), in); err != nil {
			b.Fatal(err)
		}
	}
}

// The map counted in bits must be, cell for cell, what measuring every distance gives.
func TestCellsAgreeWithMeasuring(t *testing.T) {
	feet := [][]foot{
		{{x: 0, y: 229}, {x: 31, y: 233}, {x: 2000, y: 0}},
		{{x: -244, y: -96}, {x: 249, y: 599}},
		{{x: 5, y: 225}},
		{},
	}
	for _, approach := range []string{Stand, Pass} {
		c := newCells(approach)
		const reach = 40.5
		want := make([]int, c.cols*c.rows)
		for _, visit := range feet {
			c.visit(visit, reach)
			for i := range want {
				x, y := c.x0+cellMm*float64(i%c.cols), c.y0+cellMm*float64(i/c.cols)
				for _, f := range visit {
					if math.Hypot(f.x-x, f.y-y) <= reach {
						want[i]++
						break
					}
				}
			}
		}
		c.flush()
		if !reflect.DeepEqual(c.total, want) {
			t.Errorf("%s: the counts differ", approach)
		}
	}
}

func TestBestTakesTheLowerOfEquals(t *testing.T) {
	m := Map{X0Mm: -5, Y0Mm: 100, CellMm: 10, Cols: 2, Rows: 2, Chance: []float64{.1, .3, .3, .3}}
	if best := m.Best(); best != (Best{5, 100, .3}) {
		t.Errorf("%+v", best)
	}
}

// Left and right are alike when the lead is; a right-footed lead moves the best place to the right.
func TestMapIsAsEvenAsTheFeet(t *testing.T) {
	in := coyote(60000)
	in.Map = true
	even, _ := Simulate(kind("coyote"), in)
	if a, b := even.Map.at(-75, 225), even.Map.at(75, 225); math.Abs(a-b) > .012 {
		t.Errorf("left %.3f, right %.3f", a, b)
	}
	in.LeadRight = 1
	right, _ := Simulate(kind("coyote"), in)
	if a, b := right.Map.at(-65, 205), right.Map.at(65, 205); b <= a {
		t.Errorf("right-footed: left %.3f, right %.3f", a, b)
	}
}

func TestTrail(t *testing.T) {
	trail := func(change func(*Input)) Output {
		in := Defaults()
		in.Approach, in.TrailWidthMm = Pass, 380
		in.Pans = []Pan{under(0, 0)}
		change(&in)
		out, err := Simulate(kind("coyote"), in)
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	open := trail(func(*Input) {})
	sticks := trail(func(in *Input) { in.SticksMm = []float64{-150, 150} })
	if sticks.Step < 2*open.Step {
		t.Errorf("stepping sticks: %.3f beside %.3f", sticks.Step, open.Step)
	}
	wide := trail(func(in *Input) { in.TrailWidthMm = 2000 })
	if wide.Step >= open.Step {
		t.Errorf("a wide trail: %.3f beside %.3f", wide.Step, open.Step)
	}
	staggered := trail(func(in *Input) { in.Pans = []Pan{under(-150, 50), under(150, -50)} })
	if staggered.Step <= open.Step {
		t.Errorf("two pans: %.3f beside %.3f", staggered.Step, open.Step)
	}
}

func TestTrenchGathersFeet(t *testing.T) {
	in := coyote(20000)
	in.Pans[0].YMm = 240
	open, _ := Simulate(kind("coyote"), in)
	in.ConfineMm = 178
	trench, _ := Simulate(kind("coyote"), in)
	if trench.Step <= open.Step {
		t.Errorf("a trench: %.3f beside %.3f", trench.Step, open.Step)
	}
}

// A set in the mirror, for an animal that leads with the other foot, has its map in the mirror.
func TestMirroredLead(t *testing.T) {
	in := coyote(100_000)
	in.Map, in.LeadRight, in.Marks = true, .85, true
	in.Pans[0].XMm = 30
	in.Guides = []Guide{{XMm: 80, YMm: 200, RMm: 40}}
	a, err := Simulate(kind("coyote"), in)
	if err != nil {
		t.Fatal(err)
	}
	other := in
	other.LeadRight, other.Seed = .15, 9
	other.Pans = []Pan{under(-30, 229)}
	other.Guides = []Guide{{XMm: -80, YMm: 200, RMm: 40}}
	b, err := Simulate(kind("coyote"), other)
	if err != nil {
		t.Fatal(err)
	}
	within := func(what string, p, q float64) {
		if math.Abs(p-q) > 5.5*math.Sqrt(2*max(p, q, .001)/float64(in.Visits)) {
			t.Errorf("%s: %.4f, and %.4f in the mirror", what, p, q)
		}
	}
	within("fire", a.Fire, b.Fire)
	skew := 0.0
	for row := range a.Map.Rows {
		for col := range a.Map.Cols {
			i, j := row*a.Map.Cols+col, (row+1)*a.Map.Cols-1-col
			within("a cell", a.Map.Chance[i], b.Map.Chance[j])
			skew = max(skew, math.Abs(a.Map.Chance[i]-a.Map.Chance[j]))
		}
	}
	if skew < .03 {
		t.Errorf("the map is as good as even (%.3f): that tells nothing", skew)
	}
}

// The draws that are looked up must be those of the distribution: cut at 3 sd, even in its chances, and fresh for each.
func TestDraws(t *testing.T) {
	var s stream
	s.Seed(1, 0)
	const n = 200_000
	drawn, sum, cube := make([]float64, n), 0.0, 0.0
	for i := range drawn {
		drawn[i] = s.normal(animal.Spread{Mean: 100, SD: 10})
		z := (drawn[i] - 100) / 10
		sum, cube = sum+z, cube+z*z*z
	}
	slices.Sort(drawn)
	if drawn[0] < 70 || drawn[n-1] > 130 || drawn[0] > 71 || drawn[n-1] < 129 {
		t.Errorf("from %g to %g", drawn[0], drawn[n-1])
	}
	low := distuv.UnitNormal.CDF(-3)
	for i, x := range drawn {
		below := (distuv.UnitNormal.CDF((x-100)/10) - low) / (1 - 2*low)
		if math.Abs(below-float64(i)/n) > .004 {
			t.Fatalf("%g of the draws lie below %g, want %g", float64(i)/n, x, below)
		}
	}
	if math.Abs(sum/n) > .01 || math.Abs(cube/n) > .03 {
		t.Errorf("mean %g sd, third moment %g", sum/n, cube/n)
	}
}

// The table of a turn is as good as the sines themselves, whichever way and however often one turns.
func TestSincos(t *testing.T) {
	for angle := -30.0; angle < 30; angle += .00137 {
		sin, cos := sincos(angle)
		if wantSin, wantCos := math.Sincos(angle); math.Abs(sin-wantSin) > 3e-7 || math.Abs(cos-wantCos) > 3e-7 {
			t.Fatalf("of %g: %g and %g, want %g and %g", angle, sin, cos, wantSin, wantCos)
		}
	}
}

// BenchmarkMillion draws a million visits without a map, on all cores.
func BenchmarkMillion(b *testing.B) {
	in := coyote(1_000_000)
	for b.Loop() {
		if _, err := Simulate(kind("coyote"), in); err != nil {
			b.Fatal(err)
		}
	}
}

// A coarser map says at its centres what the map says there, and reaches as far but for less than a cell.
func TestACoarserMap(t *testing.T) {
	for _, approach := range []string{Stand, Pass} {
		c := newCells(approach)
		m := &Map{X0Mm: c.x0, Y0Mm: c.y0, CellMm: cellMm, Cols: c.cols, Rows: c.rows}
		for i := range c.cols * c.rows {
			m.Chance = append(m.Chance, float64(i))
		}
		coarse := m.Coarser()
		if len(coarse.Chance) != coarse.Cols*coarse.Rows || coarse.CellMm != 2*cellMm {
			t.Fatalf("%s: %d chances in %d by %d", approach, len(coarse.Chance), coarse.Cols, coarse.Rows)
		}
		for i, chance := range coarse.Chance {
			x, y := coarse.X0Mm+coarse.CellMm*float64(i%coarse.Cols), coarse.Y0Mm+coarse.CellMm*float64(i/coarse.Cols)
			if want, in := m.At(x, y); !in || want != chance {
				t.Fatalf("%s: at %g, %g it says %g, the map %g", approach, x, y, chance, want)
			}
		}
		if reach := coarse.X0Mm + coarse.CellMm*float64(coarse.Cols-1); m.X0Mm+cellMm*float64(m.Cols-1)-reach >= 2*cellMm {
			t.Errorf("%s: it reaches to %g alone", approach, reach)
		}
	}
}

// Single visits step on the pan as often as many do, and their prints stand as far off as the animal does.
func TestSingleVisits(t *testing.T) {
	in, who := coyote(20000), kind("coyote")
	all, err := Simulate(who, in)
	if err != nil {
		t.Fatal(err)
	}
	const n = 4000
	stepped, off := 0.0, 0.0
	for i := range uint64(n) {
		v, err := VisitOf(who, in, i)
		if err != nil || len(v.Prints) == 0 {
			t.Fatalf("%+v, %v", v, err)
		}
		if v.Stepped {
			stepped++
		}
		off += math.Hypot(v.Prints[0].XMm, v.Prints[0].YMm) / n
	}
	if math.Abs(stepped/n-all.Step) > 3*math.Sqrt(all.Step*(1-all.Step)/n) {
		t.Errorf("%g of %d stepped, want %g", stepped, n, all.Step)
	}
	if want := math.Hypot(who.Reach.Mean, who.Half.Mean); math.Abs(off-want) > 8 {
		t.Errorf("the first print stands %g off, want %g", off, want)
	}
	in.Pans = nil
	if _, err := VisitOf(who, in, 1); err == nil {
		t.Error("a visit to nothing is drawn")
	}
}
