package odds

import (
	"math"
	"testing"

	"oldburrow/core/layout"
)

// A search moves each part by so many inches, to the whole millimetre: a trap along with its pan, stones both ways, and a stick only along its way.
func TestWhatASearchMoves(t *testing.T) {
	hole := set(t, "hole", "coyote")
	hole.Guides = []layout.Guide{{Kind: "stone", XMm: 100, YMm: 300, RMm: 40}}
	pan, trap := *hole.Rigs[0].Pan, hole.Rigs[0]
	to := movedBy(hole, []float64{1, -2, .5, 3})
	if got := *to.Rigs[0].Pan; got.XMm != math.Round(pan.XMm+25.4) || got.YMm != math.Round(pan.YMm-50.8) {
		t.Errorf("the pan goes from %v to %v", pan, got)
	}
	if got := to.Rigs[0]; math.Abs(got.XMm-trap.XMm-25.4) > .5 || math.Abs(got.YMm-trap.YMm+50.8) > .5 {
		t.Errorf("the trap goes from %g, %g to %g, %g", trap.XMm, trap.YMm, got.XMm, got.YMm)
	}
	if got := to.Guides[0]; got.XMm != 113 || got.YMm != 376 {
		t.Errorf("the stone goes to %v", got)
	}
	if hole.Guides[0].XMm != 100 || *hole.Rigs[0].Pan != pan {
		t.Error("the set itself is moved")
	}
	if !movesTrap(hole, to) || movesTrap(hole, movedBy(hole, []float64{0, 0, .5, 3})) {
		t.Error("whether a trap is moved")
	}
	if to := movedBy(hole, []float64{0, 1, 0, 0}); !movesTrap(hole, to) {
		t.Error("a trap is moved away, and it is not told")
	}
	if to := movedBy(hole, []float64{1, 0, 0, 0}); !movesTrap(hole, to) {
		t.Error("a trap is moved aside, and it is not told")
	}
	pair := set(t, "trail_pair", "coyote")
	by := make([]float64, len(numbersOf(pair)))
	if sticks := len(pair.Guides); len(by) != 4+sticks || sticks == 0 {
		t.Fatalf("%d numbers, %d sticks", len(by), sticks)
	}
	by[4] = -1
	if got := movedBy(pair, by).Guides[0]; got.XMm != math.Round(pair.Guides[0].XMm-25.4) || got.YMm != pair.Guides[0].YMm {
		t.Errorf("the stick goes to %v", got)
	}
	far := farthestMm / inchMm
	if in, out := outside([]float64{far, -far, 0}), outside([]float64{far + 1, -far - 2, 0}); in > 1e-9 || math.Abs(out-3) > 1e-9 {
		t.Errorf("%g and %g inches too far", in, out)
	}
}
