package gauge

import (
	"errors"
	"math"
	"slices"
	"testing"

	"oldburrow/core/pan"
	"oldburrow/core/refuse"
)

func TestMeasure(t *testing.T) {
	for _, c := range []struct {
		presses      []float64
		factor       float64
		mean, sd     float64
		wide, creeps bool
	}{
		{[]float64{18, 18.5, 17.5}, 1, 18, .5, false, false},
		{[]float64{18, 18.5, 17.5}, 1.1, 19.8, .55, false, false},
		{[]float64{14, 20, 17}, 1, 17, 3, true, false},
		{[]float64{16, 17.5, 19.5}, 1, 17.6667, 1.7559, false, true},
		{[]float64{20, 18, 16.5}, 1, 18.1667, 1.7559, false, true},
		{[]float64{18, 18, 18}, 1, 18, 0, false, false},
		{[]float64{18, 18.1, 18.2}, 1, 18.1, .1, false, false},
		{[]float64{18}, 1, 18, 0, false, false},
	} {
		m, err := Measure(c.presses, c.factor)
		if m.Few != (len(c.presses) < FewPresses) {
			t.Errorf("%v are few: %v", c.presses, m.Few)
		}
		if err != nil || math.Abs(m.MeanN-c.mean) > 1e-3 || math.Abs(m.SDN-c.sd) > 1e-3 || m.Wide != c.wide || m.Creeps != c.creeps {
			t.Errorf("%v × %g: %+v, %v", c.presses, c.factor, m, err)
		}
	}
	if _, err := Measure(slices.Repeat([]float64{18}, 20), 1); err != nil {
		t.Errorf("twenty presses: %v", err)
	}
	_, err := Measure(slices.Repeat([]float64{18}, 21), 1)
	wants(t, err, "presses")
	for field, in := range map[string]struct {
		presses []float64
		factor  float64
	}{
		"presses": {nil, 1}, "presses[1]": {[]float64{18, 0, 18}, 1}, "presses[2]": {[]float64{18, 18, 151}, 1},
		"presses[0]": {[]float64{math.NaN(), 18, 18}, 1}, "factor": {[]float64{18, 18, 18}, 0},
	} {
		_, err := Measure(in.presses, in.factor)
		wants(t, err, field)
	}
}

func wants(t *testing.T, err error, field string) {
	t.Helper()
	var p refuse.Problems
	if !errors.As(err, &p) || p[0].Field != field {
		t.Errorf("%s: %v", field, err)
	}
}

func TestCalibrate(t *testing.T) {
	if f, err := Calibrate(20, 19); err != nil || math.Abs(f-20.0/19) > 1e-12 {
		t.Errorf("%g, %v", f, err)
	}
	if f, err := Calibrate(20, 17); err != nil || math.Abs(f-20.0/17) > 1e-12 {
		t.Errorf("%g, %v", f, err)
	}
	_, err := Calibrate(20, 10)
	wants(t, err, "readN")
	_, err = Calibrate(0, 10)
	wants(t, err, "knownN")
}

func TestTurnTo(t *testing.T) {
	w := pan.WindowOutput{MinN: 10, MaxN: 20}
	for mean, want := range map[float64]Turn{
		7: {Tighter, 3, 8}, 10: {}, 15: {}, 20: {}, 24: {Looser, 4, 9},
	} {
		if got := TurnTo(mean, w); got != want {
			t.Errorf("%g N: %+v", mean, got)
		}
	}
	if got := TurnTo(7, pan.WindowOutput{MinN: 20, MaxN: 10, Conflict: true}); got != (Turn{}) {
		t.Errorf("where no setting does: %+v", got)
	}
}

// watch runs readings past a watch and tells how many it took until it was done.
func watch(readings []float64) (*Watch, int) {
	w := &Watch{}
	for i, n := range readings {
		if w.See(n) {
			return w, i + 1
		}
	}
	return w, 0
}

func press(rest, peak float64) []float64 {
	run := []float64{rest, rest + .02, rest}
	for i := 1; i <= 10; i++ {
		run = append(run, rest+(peak-rest)*float64(i)/10)
	}
	return append(run, peak-.3, rest+.1, rest, rest-.01, rest, rest)
}

func TestWatchSeesOnePressFromRestToRest(t *testing.T) {
	for _, c := range []struct {
		rest, peak float64
		drifted    bool
	}{{0, 18, false}, {0.1, 4, false}, {1.2, 18, true}, {-.8, 12, true}} {
		w, took := watch(press(c.rest, c.peak))
		p, ok := w.Press()
		if took == 0 || !ok || math.Abs(p.PeakN-c.peak) > 1e-9 || math.Abs(p.BeforeN-c.rest) > .05 || p.Drifted() != c.drifted || math.Abs(p.OffN()-c.rest) > .15 {
			t.Errorf("rest %g, peak %g: %+v, %v after %d", c.rest, c.peak, p, ok, took)
		}
	}
	if w, took := watch(make([]float64, 200)); took != 0 || w.Stuck() {
		t.Error("a gauge at rest is taken for a press or for stuck")
	}
}

func TestWatchSeesAStuckGauge(t *testing.T) {
	run := press(0, 18)[:9]
	for range 60 {
		run = append(run, 9.5)
	}
	w, took := watch(run)
	if _, ok := w.Press(); !w.Stuck() || took == 0 || ok {
		t.Errorf("stuck %v after %d", w.Stuck(), took)
	}
	// One reading, and as often again as it takes: not once sooner.
	if w, took := watch(slices.Repeat([]float64{9.5}, 60)); !w.Stuck() || took != stuckFor+1 {
		t.Errorf("stuck %v after %d", w.Stuck(), took)
	}
	if w, took := watch(slices.Repeat([]float64{stuckAbove}, 60)); w.Stuck() || took != 0 {
		t.Errorf("stuck %v where it may rest, after %d", w.Stuck(), took)
	}
}

// The fourth reading at rest ends a press, and is what it rests at.
func TestWatchEndsAtRest(t *testing.T) {
	w, took := watch([]float64{0, 4, 9, 2, 1, .7, .5, .3})
	if p, whole := w.Press(); !whole || took != 7 || p != (Press{9, 0, .5}) {
		t.Errorf("%+v, %v after %d", p, whole, took)
	}
	for _, c := range []struct {
		press   Press
		off     float64
		drifted bool
	}{{Press{18, .2, -.3}, -.3, false}, {Press{18, -.6, .3}, -.6, true}, {Press{40, .9, 0}, .9, false}, {Press{12, .5, 0}, .5, true}} {
		if c.press.OffN() != c.off || c.press.Drifted() != c.drifted {
			t.Errorf("%+v lay off by %g, drifted %v", c.press, c.press.OffN(), c.press.Drifted())
		}
	}
}

// A reading lost just before the peak, or one that leaps, makes the press no reading; one lost while the gauge rests does not.
func TestWatchDoesNotTrustAPeakThatItMissed(t *testing.T) {
	quick := []float64{0, 9, 18, 3, 0, 0, 0, 0}
	var first Watch
	for _, n := range quick {
		first.See(n)
	}
	if p, whole := first.Press(); !whole || p.PeakN != 18 || first.Unsure() {
		t.Errorf("a quick press, of which nothing was lost: %+v, whole %v, unsure %v", p, whole, first.Unsure())
	}
	press := []float64{0, 0, 4, 8, 12, 16, 18, 12, 3, 0, 0, 0, 0, 0}
	for _, c := range []struct {
		name   string
		lost   int // before which reading
		change func([]float64)
		unsure bool
	}{
		{"whole", -1, func([]float64) {}, false},
		{"lost at rest", 1, func([]float64) {}, false},
		{"lost before the peak", 5, func([]float64) {}, true},
		{"lost four before the peak", 3, func([]float64) {}, true},
		{"lost five before the peak", 2, func([]float64) {}, false},
		{"lost at the peak", 6, func([]float64) {}, true},
		{"lost after it", 8, func([]float64) {}, false},
		{"leapt", -1, func(p []float64) { p[6] = 40 }, true},
	} {
		var w Watch
		p := slices.Clone(press)
		c.change(p)
		for i, n := range p {
			if i == c.lost {
				w.Lose()
			}
			if w.See(n) {
				break
			}
		}
		if _, whole := w.Press(); !whole || w.Unsure() != c.unsure {
			t.Errorf("%s: whole %v, unsure %v", c.name, whole, w.Unsure())
		}
	}
}
