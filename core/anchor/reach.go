package anchor

import (
	"math"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
)

// Circle is what an animal held by the rigs of one anchor churns up and reaches about it, and what of the set itself lies in its reach.
type Circle struct {
	CircleOutput
	Near []Near `json:"near"`
}

// Near is something within reach: what it is, and how far from the anchor, mm.
type Near struct {
	Kind string  `json:"kind"`
	Mm   float64 `json:"mm"`
}

// Reach is how far from the middle of a set an animal held there reaches, mm; 0 where all its anchors go with it.
func Reach(l layout.Layout, a animal.Animal) (float64, error) {
	held, err := Of(Question{Layout: l, Animal: a})
	far := 0.0
	for _, h := range held {
		if h.Circle != nil {
			far = max(far, h.Circle.ReachMm)
		}
	}
	return far, err
}

const mouthMm = 230.0 // before the middle of a way: where a culvert begins

// circle is the largest of the circles of an anchor's rigs; nil for what goes with the animal.
func (q Question) circle(a layout.Anchor) (*Circle, error) {
	if layout.Drags(a.Kind) {
		return nil, nil
	}
	var found *Circle
	for _, r := range q.Layout.Rigs {
		if r.AnchorSlot != a.Slot {
			continue
		}
		in := CircleDefaults()
		in.ChainMm, in.AnchorToAttractorMm = r.ChainMm, q.toAttractor(a)
		if r.Jaws != nil {
			in.TrapLengthMm = r.Jaws.FrameMm
		}
		if a.Kind == layout.Slide {
			in.ChainMm += a.LengthMm / 2
		}
		out, err := CircleOf(q.Animal, in)
		if err != nil {
			return nil, err
		}
		if found == nil || out.ReachMm > found.ReachMm {
			found = &Circle{CircleOutput: out, Near: []Near{}}
		}
	}
	if found == nil {
		return nil, nil
	}
	for _, near := range q.near(a) {
		if near.Mm <= found.ReachMm {
			found.Near = append(found.Near, near)
		}
	}
	return found, nil
}

// toAttractor is how far an anchor lies from what the animal came to, or from the middle of the way; at most as far as is asked about.
func (q Question) toAttractor(a layout.Anchor) float64 {
	x, y := a.XMm, a.YMm
	if len(q.Layout.Attractors) > 0 {
		x, y = x-q.Layout.Attractors[0].XMm, y-q.Layout.Attractors[0].YMm
	}
	return math.Min(longestMm, math.Hypot(x, y))
}

// near is what of the set itself a held animal could hang on or wind itself round, and how far that lies from an anchor.
func (q Question) near(a layout.Anchor) []Near {
	var found []Near
	if w := q.Layout.Way; w != nil {
		sin, cos := math.Sincos(w.BearingDeg * math.Pi / 180)
		dx, dy := a.XMm-w.XMm, a.YMm-w.YMm
		along, off := dx*cos+dy*sin, math.Abs(dy*cos-dx*sin)
		switch w.Between {
		case "fence":
			found = append(found, Near{"fence", math.Abs(along)})
		case "culvert":
			found = append(found, Near{"culvert", math.Abs(along + mouthMm)})
		case "banks":
			found = append(found, Near{"bank", math.Abs(math.Max(w.OpenMm, w.WidthMm)/2 - off)})
		}
	}
	switch q.Layout.Kind {
	case "tree":
		found = append(found, Near{"tree", q.toAttractor(a)})
	case "spring":
		found = append(found, Near{"water", 0})
	}
	for _, g := range q.Layout.Guides {
		if g.Kind == "log" {
			found = append(found, Near{"log", math.Max(0, math.Hypot(a.XMm-g.XMm, a.YMm-g.YMm)-g.RMm)})
		}
	}
	return found
}
