package layout

import (
	"errors"
	"math"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/refuse"
)

func TestDefaultsCanBeBuilt(t *testing.T) {
	for _, target := range animal.TargetKeys() {
		l, err := For(target)
		if err != nil {
			t.Fatal(err)
		}
		if err := l.Check(); err != nil {
			t.Errorf("%s: %v", target, err)
		}
		a, _ := animal.ByKey(target)
		if math.Abs(l.Pan.YMm-a.Reach.Mean) > 12 {
			t.Errorf("%s: the pan lies %g mm back, its forefoot comes down at %g", target, l.Pan.YMm, a.Reach.Mean)
		}
	}
	if _, err := For("skunk"); err == nil {
		t.Error("a line is set for skunks")
	}
}

func TestCheckNamesTheField(t *testing.T) {
	for field, change := range map[string]func(*Layout){
		"kind":             func(l *Layout) { l.Kind = "pit" },
		"look":             func(l *Layout) { l.Look = "" },
		"hole.diameterMm":  func(l *Layout) { l.Hole.DiameterMm = 500 },
		"hole.depthMm":     func(l *Layout) { l.Hole.DepthMm = math.NaN() },
		"hole.angleDeg":    func(l *Layout) { l.Hole.AngleDeg = 86 },
		"backing":          func(l *Layout) { l.Backing = "door" },
		"pan.yMm":          func(l *Layout) { l.Pan.YMm += 60 },
		"pan.xMm":          func(l *Layout) { l.Pan.XMm -= 70 },
		"pan.gaugeN":       func(l *Layout) { l.Pan.GaugeN = -1 },
		"cover.material":   func(l *Layout) { l.Cover.Material = "gold" },
		"anchor.lengthMm":  func(l *Layout) { l.Anchor.LengthMm = 0 },
		"attractant.plug":  func(l *Layout) { l.Attractant.Plug = "cork" },
		"guides[1].rMm":    func(l *Layout) { l.Guides[1].RMm = 0 },
		"trap.jawSpreadMm": func(l *Layout) { l.Trap.JawSpreadMm = 20 },
	} {
		l, _ := For("coyote")
		change(&l)
		var p refuse.Problems
		if err := l.Check(); !errors.As(err, &p) || p[0].Field != field {
			t.Errorf("%s: got %v", field, err)
		}
	}
}

func TestPanMayShiftInsideItsBed(t *testing.T) {
	l, _ := For("coyote")
	l.Pan.YMm += 30
	if err := l.Check(); err != nil {
		t.Errorf("a pan well inside its bed is refused: %v", err)
	}
	l.Anchor = Anchor{Kind: "drag", ChainMm: 1800}
	if err := l.Check(); err != nil {
		t.Errorf("a drag needs no depth: %v", err)
	}
}

func TestHold(t *testing.T) {
	for _, c := range []struct {
		name  string
		depth float64
		a     Attractant
		want  float64
	}{
		{"nothing", 100, Attractant{Plug: "none"}, 0.3},
		{"lure only", 100, Attractant{Lure: "gland", Plug: "none"}, 0.8},
		{"bait only", 100, Attractant{Bait: "bait", Plug: "none"}, 1},
		{"bait and urine", 100, Attractant{Bait: "bait", Urine: "urine", Plug: "none"}, 1.2},
		{"deep, wool, two smells", 203, Attractant{Bait: "bait", Urine: "urine", Plug: "wool"}, 1.25 * 1.2 * 1.15 * 1.2},
		{"deep, grass, two smells", 203, Attractant{Bait: "bait", Urine: "urine", Plug: "grass"}, 1.25 * 1.2 * 1.2},
	} {
		l := Layout{Hole: Hole{DepthMm: c.depth}, Attractant: c.a}
		if got := l.Hold(); math.Abs(got-c.want) > 1e-9 {
			t.Errorf("%s: %g, want %g", c.name, got, c.want)
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
