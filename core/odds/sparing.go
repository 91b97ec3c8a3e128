package odds

import (
	"context"
	"math"
	"slices"

	"oldburrow/core/layout"
)

// Sparing is a change that would catch fewer of those that a set is not meant for: how many fewer in 100 set-nights, and how many of them
// pets. What it costs in the target is its gain, below nought.
type Sparing struct {
	Remedy
	Fewer      float64 `json:"fewer"`
	FewerError float64 `json:"fewerError"`
	FewerPets  float64 `json:"fewerPets"`
}

// sparingVisits are drawn of each animal, for each change.
const sparingVisits = 4000

// fartherMm is how much farther from what it smells a trap is tried, so that short animals do not reach it.
const fartherMm = 2 * inchMm

// Spare tries what would keep others than the targets out of a set, and gives what does for certain, as it is found.
func Spare(ctx context.Context, q Question, found func(Sparing)) error {
	h, err := newHelper(ctx, q.overTheNightsLeft())
	if err != nil || h == nil {
		return err
	}
	var others []*helper
	for _, a := range q.Animals {
		if a.Target {
			continue
		}
		asked := q
		asked.Target, asked.other, asked.Visits, asked.Map = a, true, sparingVisits, false
		other := &helper{ctx: ctx, q: asked}
		if other.base, err = other.worth(asked); err != nil {
			return err
		}
		others = append(others, other)
	}
	offers, err := h.sparings()
	if err != nil {
		return err
	}
	for _, c := range offers {
		good, err := h.weigh(&c)
		if err != nil {
			return err
		}
		if !good {
			continue
		}
		s := Sparing{Remedy: c}
		square := 0.0
		for _, other := range others {
			asked := other.q
			asked.Layout = *c.Layout
			then, err := other.worth(asked)
			if err != nil {
				return err
			}
			fewer, off := paired(other.base, then)
			s.Fewer += fewer
			square += off * off
			if asked.Target.Pet {
				s.FewerPets += fewer
			}
		}
		if s.FewerError = math.Sqrt(square); s.Fewer > sureErrors*s.FewerError && s.Fewer >= leastFewer {
			found(s)
		}
	}
	return nil
}

// sparings are the changes that might spare those that a set is not meant for.
func (h *helper) sparings() ([]Remedy, error) {
	var found []Remedy
	l := h.q.Layout
	for i, r := range l.Rigs {
		window, err := h.windowOf(r)
		if err != nil {
			return nil, err
		}
		if r.Pan != nil && r.Pan.GaugeN < window.MaxN {
			c := h.change(HeavierPan, r.Slot, func(l *layout.Layout) { l.Rigs[i].Pan.GaugeN = window.MaxN })
			c.GaugeN = window.MaxN
			found = append(found, c)
		}
		if len(l.Attractors) > 0 && r.Pan != nil && !l.Stays(i) {
			c := Remedy{Key: MovePan, Slot: r.Slot, YMm: fartherMm, Layout: new(l.WithRigMoved(i, 0, fartherMm))}
			found = append(found, c)
		}
	}
	if l.Show == "dug_out" {
		found = append(found, h.change(Blend, 0, func(l *layout.Layout) { l.Show = "subtle" }))
	}
	if l.Baited() {
		found = append(found, h.change(NoBait, 0, func(l *layout.Layout) {
			for i := range l.Attractors {
				l.Attractors[i].Smells = slices.DeleteFunc(l.Attractors[i].Smells, layout.Smell.IsBait)
			}
		}))
	}
	return found, nil
}
