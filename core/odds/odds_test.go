package odds

import (
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
)

func coyoteSet(t *testing.T) layout.Layout {
	t.Helper()
	l, err := layout.For("coyote")
	if err != nil {
		t.Fatal(err)
	}
	return l
}

func of(t *testing.T, l layout.Layout, target string) Answer {
	t.Helper()
	a, err := Of(l, target, 20000, false)
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
		l, err := layout.For(target)
		if err != nil {
			t.Fatal(err)
		}
		l.Guides = nil
		a, err := Of(l, target, 100000, true)
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
		row := (l.Pan.YMm - m.Y0Mm) / m.CellMm
		at := chance(int(row)) + (row-float64(int(row)))*(chance(int(row)+1)-chance(int(row)))
		if at < .98*best {
			t.Errorf("%s at %g mm: %.4f, best %.4f", target, l.Pan.YMm, at, best)
		}
	}
}

func TestChoicesOfTheBenchMatter(t *testing.T) {
	good := of(t, coyoteSet(t), "coyote")
	for name, change := range map[string]func(*layout.Layout){
		"open back":       func(l *layout.Layout) { l.Backing = "none" },
		"pan too far":     func(l *layout.Layout) { l.Pan.YMm, l.Bed.YMm = 400, 400 },
		"nothing to work": func(l *layout.Layout) { l.Attractant = layout.Attractant{Plug: "none"} },
		"loose bed":       func(l *layout.Layout) { l.Bed.Firm = false },
		"heavy pan":       func(l *layout.Layout) { l.Pan.GaugeN = 60 },
		"frozen cover":    func(l *layout.Layout) { l.Cover.Material = "frozen_soil" },
	} {
		l := coyoteSet(t)
		change(&l)
		if worse := of(t, l, "coyote"); worse.Fire >= good.Fire {
			t.Errorf("%s: fires %.3f, no worse than %.3f", name, worse.Fire, good.Fire)
		}
	}
	l := coyoteSet(t)
	l.Pan.GaugeN = 60
	if a := of(t, l, "coyote"); a.Weakest == "steps" && a.Fire/a.Step < a.Step {
		t.Error("the weakest link is not the lowest chance")
	}
}

func TestOthers(t *testing.T) {
	others, err := Others(coyoteSet(t), "coyote", 5000)
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
	l.Hole.AngleDeg = 10
	if _, err := Of(l, "coyote", 100, false); err == nil {
		t.Error("a hole at 10 degrees is answered")
	}
	if _, err := Of(coyoteSet(t), "yeti", 100, false); err == nil {
		t.Error("an unknown animal is answered")
	}
}

func BenchmarkOthers(b *testing.B) {
	l, err := layout.For("coyote")
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		if _, err := Others(l, "coyote", 20000); err != nil {
			b.Fatal(err)
		}
	}
}
