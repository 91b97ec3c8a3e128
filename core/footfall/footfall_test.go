package footfall

import (
	"errors"
	"math"
	"reflect"
	"runtime"
	"strings"
	"testing"

	"oldburrow/core/refuse"
)

func coyote(visits int) Input {
	in := Defaults()
	in.Species, in.Approach, in.SpreadDeg, in.TensionN, in.Visits = "coyote", Stand, 20, 17.8, visits
	in.Pans = []Pan{{0, 229, 60}}
	return in
}

func (m *Map) at(x, y float64) float64 {
	col, row := math.Round((x-m.X0Mm)/m.CellMm), math.Round((y-m.Y0Mm)/m.CellMm)
	return m.Chance[int(row)*m.Cols+int(col)]
}

func TestChanceMap(t *testing.T) {
	in := coyote(300000)
	in.Map = true
	out, err := Simulate(in)
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct{ x, y, want float64 }{
		{5, 225, .383}, {-5, 225, .383}, {5, 235, .399}, {75, 225, .355}, {5, 445, .006},
	} {
		if got := out.Map.at(c.x, c.y); math.Abs(got-c.want) > .005 {
			t.Errorf("chance at (%g,%g) = %.4f, want %.3f", c.x, c.y, got, c.want)
		}
	}
	if math.Abs(out.Best.Chance-.401) > .005 || out.Best.Chance != out.Map.at(out.Best.XMm, out.Best.YMm) {
		t.Errorf("best %+v, want about .401 as on the map", *out.Best)
	}
}

// The map's cell under the pan must say what the visits themselves say, for both approaches: the counting in bits is
// checked against the plain test of each foot.
func TestMapAgreesWithVisits(t *testing.T) {
	stand := coyote(5000)
	stand.Pans[0].XMm, stand.Pans[0].YMm = 5, 225
	trail := Defaults()
	trail.Species, trail.Approach, trail.TrailWidthMm, trail.Visits = "bobcat", Pass, 250, 5000
	trail.Pans = []Pan{{55, -5, 60}}
	for _, in := range []Input{stand, trail} {
		in.Map = true
		out, err := Simulate(in)
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
		out, err := Simulate(in)
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
	if other, _ := Simulate(in); other.Step == answers[0].Step {
		t.Error("another seed gives the same answer")
	}
}

func TestWhatMovesTheChances(t *testing.T) {
	plain, _ := Simulate(coyote(20000))
	run := func(change func(*Input)) Output {
		in := coyote(20000)
		change(&in)
		out, err := Simulate(in)
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
	if out := run(func(in *Input) { in.Firm = false }); out.Spooked == 0 || out.Step >= plain.Step {
		t.Errorf("a loose bed: %+v", out)
	}
	if out := run(func(in *Input) { in.Species, in.RecessMm = "red_fox", 8 }); out.Step <= run(func(in *Input) { in.Species = "red_fox" }).Step {
		t.Error("a low pan draws no feet")
	}
	if out := run(func(in *Input) { in.Guides = []Guide{{0, 229, 60}} }); out.Step != 0 {
		t.Errorf("feet come down through a stone: %v", out.Step)
	}
}

func TestRefusals(t *testing.T) {
	for field, change := range map[string]func(*Input){
		"species":            func(in *Input) { in.Species = "yeti" },
		"approach":           func(in *Input) { in.Approach = "fly" },
		"pans":               func(in *Input) { in.Pans = nil },
		"pans[0].diameterMm": func(in *Input) { in.Pans[0].DiameterMm = 0 },
		"pans[0].xMm":        func(in *Input) { in.Pans[0].XMm = math.NaN() },
		"tensionN":           func(in *Input) { in.TensionN = -1 },
		"visits":             func(in *Input) { in.Visits = 0 },
		"leadRight":          func(in *Input) { in.LeadRight = 1.5 },
		"guides[0].rMm":      func(in *Input) { in.Guides = []Guide{{0, 0, -1}} },
		"trailWidthMm":       func(in *Input) { in.Approach = Pass },
	} {
		in := coyote(10)
		change(&in)
		_, err := Simulate(in)
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
		if _, err := Simulate(in); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkQuickRun(b *testing.B) {
	in := coyote(2000)
	for b.Loop() {
		if _, err := Simulate(in); err != nil {
			b.Fatal(err)
		}
	}
}
