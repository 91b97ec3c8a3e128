package layout

import (
	"fmt"
	"math"

	"oldburrow/core/animal"
	"oldburrow/core/footfall"
	"oldburrow/core/refuse"
	"oldburrow/core/schools"
)

// PatternDef is a way of making a set, as data: its plan mark, what to begin with, what is special about its limits, which parts it
// has, how animals come to it, and how long it keeps them.
type PatternDef struct {
	Key    string
	Kind   string
	Begin  func(Begin) Layout
	Limits []Limit
	Wants  Wants
	Terms  func(Layout, animal.Animal) []Term
	Hold   func(Layout) float64
}

// Term is one way in which a share of the visits comes to the set: the approach, with where it lies on the set's plan.
type Term struct {
	Share    float64
	Approach footfall.Input
}

// Wants is which parts a pattern has: the fewest and the most attractors and rigs, whether there is a way and a trench, and whether
// its rigs close loops and not jaws.
type Wants struct {
	Attractors, Rigs [2]int
	Way, Trench      bool
	Loops            bool
}

func (w Wants) check(p *refuse.Problems, l Layout) {
	counted := func(field string, n int, want [2]int) {
		if n < want[0] || n > want[1] {
			p.Add(field, "must be from %d to %d of them in this pattern, not %d", want[0], want[1], n)
		}
	}
	counted("attractors", len(l.Attractors), w.Attractors)
	counted("rigs", len(l.Rigs), w.Rigs)
	counted("anchors", len(l.Anchors), [2]int{1, max(1, len(l.Rigs))})
	for i, r := range l.Rigs {
		if (r.Device == "jaws") == w.Loops {
			p.Add(fmt.Sprintf("rigs[%d].device", i), "cannot be %q in this pattern", r.Device)
		}
	}
	there := func(field string, is, want bool) {
		if want && !is {
			p.Add(field, "is missing: this pattern has one")
		} else if is && !want {
			p.Add(field, "cannot be: this pattern has none")
		}
	}
	there("way", l.Way != nil, w.Way)
	there("trench", l.Trench != nil, w.Trench)
}

const (
	inch  = 25.4
	pound = 4.448
)

// PatternKeys lists the patterns in the order in which they are offered.
func PatternKeys() []string {
	keys := make([]string, len(patterns))
	for i, def := range patterns {
		keys[i] = def.Key
	}
	return keys
}

func patternOf(key string) PatternDef {
	for _, def := range patterns {
		if def.Key == key {
			return def
		}
	}
	return patterns[0]
}

// stand is an animal that comes to the origin and works there.
func stand(spreadDeg float64) footfall.Input {
	in := footfall.Defaults()
	in.Approach, in.SpreadDeg = footfall.Stand, spreadDeg
	return in
}

func standBefore(l Layout, _ animal.Animal) []Term {
	return []Term{{Share: 1, Approach: stand(l.SpreadDeg())}}
}

// standAbout is standBefore where nothing behind says from where to come, yet the hole itself does.
func standAbout(l Layout, _ animal.Animal) []Term {
	return []Term{{Share: 1, Approach: stand(math.Min(footfall.SomeDeg, l.SpreadDeg()))}}
}

// standAtEach comes to each attractor as often as to any other, facing the pan.
func standAtEach(l Layout, _ animal.Animal) []Term {
	var terms []Term
	for _, a := range l.Attractors {
		t := Term{Share: 1 / float64(len(l.Attractors)), Approach: stand(footfall.SomeDeg)}
		t.Approach.Axes = footfall.Axes{XMm: a.XMm, YMm: a.YMm}
		if pan := l.Rigs[0].Pan; pan != nil {
			t.Approach.Axes.FacingDeg = math.Atan2(pan.XMm-a.XMm, pan.YMm-a.YMm) * 180 / math.Pi
		}
		terms = append(terms, t)
	}
	return terms
}

// passAlong walks the way, over the sticks and logs that lie across it.
func passAlong(l Layout, _ animal.Animal) []Term {
	t := Term{Share: 1, Approach: footfall.Defaults()}
	t.Approach.Axes = footfall.Axes{XMm: l.Way.XMm, YMm: l.Way.YMm, FacingDeg: -l.Way.BearingDeg}
	t.Approach.Approach, t.Approach.TrailWidthMm = footfall.Pass, l.Way.WidthMm
	for _, g := range l.Guides {
		half := g.RMm
		switch g.Kind {
		case "stick":
			half -= thinStickMm
		case "log":
		default:
			continue
		}
		x, _ := t.Approach.Axes.On(g.XMm, g.YMm)
		t.Approach.SticksMm = append(t.Approach.SticksMm, x)
		t.Approach.StickHalfMm = math.Max(t.Approach.StickHalfMm, half)
	}
	return []Term{t}
}

// thinStickMm is the radius of a stick that an animal steps over as over a line.
const thinStickMm = 10

// Factors on how long a set keeps an animal at work.
const (
	deepMm     = 200 // a hole this deep
	deepHolds  = 1.25
	plugHolds  = 1.2
	woolHolds  = 1.15
	moreHolds  = 1.2 // two smells or more
	lureOnly   = 0.8 // nothing to eat
	emptyHolds = 0.3
)

// holeHolds is what a hole with bait in it does: two smells, or a lure alone.
func holeHolds(l Layout) float64 {
	hold := digs(l)
	smells, lures := 0, 0
	for _, s := range l.Smells() {
		if s.Name != "" {
			smells++
		}
		if s.Name != "" && !s.IsBait() && s.Kind != "urine" {
			lures++
		}
	}
	switch {
	case smells == 0:
		return hold * emptyHolds
	case smells >= 2:
		return hold * moreHolds
	case lures > 0:
		return hold * lureOnly
	}
	return hold
}

// lureHolds is what a set does at which there is nothing to eat: it keeps an animal less, and two smells more than one.
func lureHolds(l Layout) float64 {
	hold := digs(l)
	smells := l.Smells()
	if len(smells) == 0 {
		return hold * emptyHolds
	}
	if !l.Baited() {
		hold *= lureOnly
	}
	if len(smells) >= 2 {
		hold *= moreHolds
	}
	return hold
}

// digs is what there is to dig and to pull at.
func digs(l Layout) float64 {
	hold, deep, plug, wool := 1.0, false, false, false
	for _, a := range l.Attractors {
		deep = deep || a.Hole != nil && a.Hole.DepthMm >= deepMm
		plug = plug || a.Plug != "none"
		wool = wool || a.Plug == "wool"
		for _, s := range a.Smells {
			wool = wool || s.Carrier == "wool"
		}
	}
	if deep {
		hold *= deepHolds
	}
	if plug {
		hold *= plugHolds
	}
	if wool {
		hold *= woolHolds
	}
	return hold
}

// Begin is what a new set begins from: the animal that it is made for, what its maker goes by, and what is known of the spot.
type Begin struct {
	Target  animal.Animal
	Schools schools.Schools
	Spot    Spot
}

// Spot is the ground that a set begins on. Blank or nil is not known; FrostMm is how deep it is, or will be, frozen.
type Spot struct {
	Soil    string
	Wetness string
	FrostMm *float64
	Shy     bool
}

// New lays out a set of a pattern as it begins. It refuses a pattern that is not known and an animal that no line is set for.
func New(pattern string, b Begin) (Layout, error) {
	var p refuse.Problems
	p.OneOf("pattern", pattern, PatternKeys())
	p.OneOf("target", b.Target.Key, animal.TargetKeys())
	if err := p.Err(); err != nil {
		return Layout{}, err
	}
	return patternOf(pattern).Begin(b), nil
}
