package layout

import (
	"math"
	"slices"
)

// Copied is a set whose parts can be changed without changing those of another.
func (l Layout) Copied() Layout {
	l.Rigs, l.Anchors, l.Attractors, l.Guides = slices.Clone(l.Rigs), slices.Clone(l.Anchors), slices.Clone(l.Attractors), slices.Clone(l.Guides)
	for i := range l.Rigs {
		r := &l.Rigs[i]
		r.Pan, r.Cover = fresh(r.Pan), slices.Clone(r.Cover)
	}
	for i := range l.Attractors {
		a := &l.Attractors[i]
		a.Hole, a.Smells = fresh(a.Hole), slices.Clone(a.Smells)
	}
	l.Way, l.Trench = fresh(l.Way), fresh(l.Trench)
	return l
}

func fresh[T any](of *T) *T {
	if of == nil {
		return nil
	}
	is := *of
	return &is
}

// WithRigMoved is a set with a trap moved: its bed and its pan with it, and its anchor where that goes along.
func (l Layout) WithRigMoved(i int, dxMm, dyMm float64) Layout {
	l = l.Copied()
	at, goes := l.goesAlong(i)
	r := &l.Rigs[i]
	r.XMm, r.YMm = r.XMm+dxMm, r.YMm+dyMm
	if r.Pan != nil {
		r.Pan.XMm, r.Pan.YMm = r.Pan.XMm+dxMm, r.Pan.YMm+dyMm
	}
	if goes {
		l.Anchors[at].XMm, l.Anchors[at].YMm = l.Anchors[at].XMm+dxMm, l.Anchors[at].YMm+dyMm
	}
	return l
}

// goesAlong is the anchor of a trap, and whether it goes where the trap is moved to: it does when it lies within the trap's chain of it and
// holds no other.
func (l Layout) goesAlong(i int) (at int, goes bool) {
	r := l.Rigs[i]
	for k, other := range l.Rigs {
		if k != i && other.AnchorSlot == r.AnchorSlot {
			return 0, false
		}
	}
	at = slices.IndexFunc(l.Anchors, func(a Anchor) bool { return a.Slot == r.AnchorSlot })
	if at < 0 {
		return 0, false
	}
	a := l.Anchors[at]
	return at, math.Hypot(a.XMm-r.XMm, a.YMm-r.YMm) <= r.ChainMm
}
