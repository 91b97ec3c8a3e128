package layout

import "slices"

// Dropped is something of a set that a new pattern has no place for: what it is, and its name where it has one.
type Dropped struct {
	What string `json:"what"`
	Name string `json:"name,omitempty"`
}

// What can be dropped.
const (
	DropTrap   = "trap"
	DropAnchor = "anchor"
	DropSmell  = "smell"
	DropGuides = "guides"
)

// Onto puts on a set that begins anew what still fits of the one before: its traps with their pans, beds and covers, its anchors,
// what it smells of, how it lies and faces and was handled. It says what did not fit.
func Onto(fresh, before Layout) (Layout, []Dropped) {
	dropped := []Dropped{}
	fresh.FacingDeg, fresh.Lie, fresh.Hands, fresh.Aside = before.FacingDeg, before.Lie, before.Hands, before.Aside
	fresh.Rigs = slices.Clone(fresh.Rigs)
	for i, was := range before.Rigs {
		if i >= len(fresh.Rigs) || fresh.Rigs[i].Device != was.Device {
			dropped = append(dropped, Dropped{DropTrap, was.Name})
			continue
		}
		fresh.Rigs[i] = fresh.Rigs[i].with(was)
	}
	for i := len(before.Rigs); i < len(fresh.Rigs) && i > 0; i++ { // one more is made as the one before it, with another trap
		was := before.Rigs[i-1]
		if fresh.Rigs[i].Device == was.Device {
			was.TrapID, was.Name = "", ""
			fresh.Rigs[i] = fresh.Rigs[i].with(was)
		}
	}
	fresh.Anchors = slices.Clone(fresh.Anchors)
	for i, was := range before.Anchors {
		switch {
		case i >= len(fresh.Anchors), !inGround(was.Kind), !inGround(fresh.Anchors[i].Kind):
			if i >= len(fresh.Anchors) || fresh.Anchors[i].Kind != was.Kind {
				dropped = append(dropped, Dropped{DropAnchor, string(was.Kind)})
			}
		default:
			fresh.Anchors[i].Kind, fresh.Anchors[i].LengthMm = was.Kind, was.LengthMm
		}
	}
	if n := len(before.Anchors); n > 0 && inGround(before.Anchors[n-1].Kind) {
		for i := n; i < len(fresh.Anchors) && inGround(fresh.Anchors[i].Kind); i++ {
			fresh.Anchors[i].Kind, fresh.Anchors[i].LengthMm = before.Anchors[n-1].Kind, before.Anchors[n-1].LengthMm
		}
	}
	dropped = append(dropped, fresh.scent(before.drawing())...)
	if len(before.Guides) > 0 {
		dropped = append(dropped, Dropped{What: DropGuides})
	}
	return fresh, dropped
}

// For puts a set that was made for another animal onto one of its pattern that begins for this: how it is bedded, covered, anchored,
// handled and scented stays, and a trap that is from the rack; where the pan lies and how hard it is are the animal's.
func For(fresh, before Layout) Layout {
	found, _ := Onto(fresh, before)
	for i := range found.Rigs {
		r, begins := &found.Rigs[i], fresh.Rigs[i]
		if r.Pan != nil && begins.Pan != nil {
			pan := *r.Pan
			pan.GaugeN = begins.Pan.GaugeN
			r.Pan = &pan
		}
		if r.TrapID == "" && r.Jaws != nil {
			r.Jaws = begins.Jaws
		}
	}
	return found
}

// VariantOf is the variant of its pattern that a layout has the parts of, as they begin for an animal; blank for the first, and where
// it is like none.
func VariantOf(l Layout, b Begin) string {
	for _, key := range VariantKeys(l.Pattern) {
		b.Variant = key
		if like, err := New(l.Pattern, b); err == nil && like.has() == l.has() {
			return key
		}
	}
	return ""
}

// parts is of which parts a layout is made, to tell the variants of a pattern apart.
type parts struct {
	attractors, rigs, sticks int
	way, open                bool
}

func (l Layout) has() parts {
	p := parts{attractors: len(l.Attractors), rigs: len(l.Rigs), way: l.Way != nil, open: l.Backing == "none"}
	for _, g := range l.Guides {
		if g.Kind == "stick" {
			p.sticks++
		}
	}
	return p
}

// inGround tells whether an anchor can hold any set: what needs a tree, or posts, cannot.
func inGround(kind AnchorKind) bool { return kind != Staple && kind != Slide }

// with is a rig where it stands, made as another was.
func (r Rig) with(was Rig) Rig {
	x, y, axis, slot, anchor := r.XMm, r.YMm, r.AxisDeg, r.Slot, r.AnchorSlot
	pan := r.Pan
	r = was
	r.XMm, r.YMm, r.AxisDeg, r.Slot, r.AnchorSlot = x, y, axis, slot, anchor
	if pan != nil && was.Pan != nil {
		moved := *was.Pan
		moved.XMm, moved.YMm = pan.XMm, pan.YMm
		r.Pan = &moved
	}
	return r
}

// scent gives the places that smell in a set what another smelt of, like to like, and says what is left over.
func (l *Layout) scent(smells []Smell) []Dropped {
	left := slices.Clone(smells)
	l.Attractors = slices.Clone(l.Attractors)
	for i := range l.Attractors {
		a := &l.Attractors[i]
		a.Smells = slices.Clone(a.Smells)
		for k := range a.Smells {
			place := &a.Smells[k]
			j := slices.IndexFunc(left, func(s Smell) bool { return s.like() == place.like() })
			if j < 0 {
				continue
			}
			place.Kind, place.Name, place.LureID, place.Amount = left[j].Kind, left[j].Name, left[j].LureID, left[j].Amount
			left = slices.Delete(left, j, j+1)
		}
	}
	var dropped []Dropped
	for _, s := range left {
		if s.Name != "" {
			dropped = append(dropped, Dropped{DropSmell, s.Name})
		}
	}
	return dropped
}

// like is what can take a smell's place: something to eat, urine, or a lure.
func (s Smell) like() string {
	switch {
	case s.IsBait():
		return "bait"
	case s.Kind == Urine, s.Kind == Scat:
		return string(s.Kind)
	}
	return "lure"
}
