package layout

import (
	"math"

	"oldburrow/core/animal"
	"oldburrow/core/footfall"
)

var (
	// holeLimits are those of a hole that bait lies in, and of what lies before it.
	holeLimits = []Limit{
		{"attractors[].hole.diameterMm", 25, 150, " mm"},
		{"attractors[].hole.depthMm", 50, 600, " mm"},
		{"attractors[].hole.angleDeg", 20, 85, "°"},
		{"rigs[].pan.xMm", -400, 400, " mm"},
		{"rigs[].pan.yMm", 30, 600, " mm"},
	}
	// rebuiltLimits leave room for a second trap on the way in.
	rebuiltLimits = append(holeLimits[:4:4], Limit{"rigs[].pan.yMm", 30, 1000, " mm"})
	drilledLimits = []Limit{{"attractors[].hole.diameterMm", 5, 40, " mm"}, {"attractors[].hole.depthMm", 50, 400, " mm"}}
	oneOfEach     = Wants{Attractors: [2]int{1, 1}, Rigs: [2]int{1, 1}}
)

// patterns are the ways of making a set.
var patterns = []PatternDef{
	{Key: "hole", Kind: "dirt_hole", Begin: Begin.hole, Limits: holeLimits, Wants: oneOfEach, Terms: standBefore, Hold: holeHolds},
	{Key: "hole_dug_out", Kind: "dirt_hole", Begin: Begin.holeDugOut, Limits: holeLimits, Wants: oneOfEach, Terms: standBefore, Hold: holeHolds},
	{Key: "hole_subtle", Kind: "dirt_hole", Begin: Begin.holeSubtle, Limits: holeLimits, Wants: oneOfEach, Terms: standAbout, Hold: holeHolds},
	{Key: "pipe", Kind: "dirt_hole", Begin: Begin.pipe, Limits: holeLimits, Wants: oneOfEach, Terms: standAbout, Hold: holeHolds},
	{
		Key: "punch_holes", Kind: "dirt_hole", Begin: Begin.punchHoles, Wants: Wants{Attractors: [2]int{1, 3}, Rigs: [2]int{1, 1}},
		Limits: []Limit{{"attractors[].hole.diameterMm", 5, 40, " mm"}, {"attractors[].hole.depthMm", 50, 400, " mm"}},
		Terms:  standAtEach, Hold: lureHolds,
	},
	{Key: "drilled_pair", Kind: "dirt_hole", Begin: Begin.drilledPair, Limits: drilledLimits, Wants: attracts(2, 3), Terms: marked(footfall.SolidDeg), Hold: holeHolds},
	{Key: "robbed_rebuild", Kind: "dirt_hole", Begin: Begin.robbedRebuild, Limits: rebuiltLimits, Wants: Wants{Attractors: [2]int{1, 1}, Rigs: [2]int{1, 2}}, Terms: standBefore, Hold: holeHolds},
	{Key: "object", Kind: "flat", Begin: Begin.object, Wants: oneOfEach, Terms: standBy(footfall.SomeDeg), Hold: lureHolds},
	{Key: "skull", Kind: "flat", Begin: Begin.skull, Wants: oneOfEach, Terms: standBy(footfall.SomeDeg), Hold: lureHolds},
	{Key: "pull_stick", Kind: "flat", Begin: Begin.pullStick, Wants: oneOfEach, Terms: standBy(footfall.SolidDeg), Hold: pullHolds},
	{Key: "three_stones", Kind: "flat", Begin: Begin.threeStones, Wants: attracts(3, 3), Terms: betweenStones, Hold: lureHolds},
	{Key: "trench", Kind: "trench", Begin: Begin.trench, Wants: Wants{Attractors: [2]int{1, 2}, Rigs: [2]int{1, 1}, Trench: true}, Terms: alongTrench, Hold: holeHolds},
	{Key: "trail", Kind: "trail", Begin: Begin.trail, Wants: Wants{Rigs: [2]int{1, 1}, Way: true}, Terms: passAlong, Hold: asUsual},
	{
		Key: "trail_pair", Kind: "trail", Begin: Begin.trailPair, Wants: Wants{Rigs: [2]int{1, 2}, Way: true},
		Terms: passAlong, Hold: asUsual,
	},
	{Key: "creek_pinch", Kind: "trail", Begin: Begin.creekPinch, Wants: Wants{Attractors: [2]int{0, 1}, Rigs: [2]int{1, 2}, Way: true}, Terms: passAlong, Hold: asUsual},
	{Key: "culvert_pair", Kind: "trail", Begin: Begin.culvertPair, Wants: Wants{Rigs: [2]int{1, 2}, Way: true}, Terms: passAlong, Hold: asUsual},
	{Key: "crawl_under", Kind: "trail", Begin: Begin.crawlUnder, Wants: Wants{Rigs: [2]int{1, 2}, Way: true}, Terms: passAlong, Hold: asUsual},
	{Key: "log_crossing", Kind: "trail", Begin: Begin.logCrossing, Wants: Wants{Rigs: [2]int{1, 1}, Way: true}, Terms: passAlong, Hold: asUsual},
	{Key: "hollow", Kind: "trail", Begin: Begin.hollow, Wants: oneOfEach, Terms: standBy(footfall.SolidDeg), Hold: lureHolds},
	{Key: "walk_through", Kind: "trail", Begin: Begin.walkThrough, Wants: Wants{Attractors: [2]int{1, 1}, Rigs: [2]int{1, 1}, Way: true}, Terms: walkThrough, Hold: lureHolds},
	{Key: "tuft", Kind: "scent_post", Begin: Begin.tuft, Wants: oneOfEach, Terms: marked(footfall.SomeDeg), Hold: lureHolds},
	{Key: "tuft_pair", Kind: "scent_post", Begin: Begin.tuftPair, Wants: Wants{Attractors: [2]int{2, 2}, Rigs: [2]int{1, 1}, Way: true}, Terms: throughGap, Hold: lureHolds},
	{Key: "old_scat", Kind: "scent_post", Begin: Begin.oldScat, Wants: oneOfEach, Terms: marked(footfall.SomeDeg), Hold: lureHolds},
	{Key: "snow_post", Kind: "scent_post", Begin: Begin.snowPost, Wants: oneOfEach, Terms: marked(footfall.SomeDeg), Hold: lureHolds},
	{Key: "tree_hole", Kind: "tree", Begin: Begin.treeHole, Wants: oneOfEach, Terms: standBy(footfall.PinchedDeg), Hold: lureHolds},
	{Key: "spring_hole", Kind: "spring", Begin: Begin.springHole, Wants: oneOfEach, Terms: onDryFooting, Hold: lureHolds},
}

func attracts(fewest, most int) Wants {
	return Wants{Attractors: [2]int{fewest, most}, Rigs: [2]int{1, 1}}
}

// asUsual is the hold of a set that an animal does not stop at.
func asUsual(Layout) float64 { return 1 }

// What the terms of some patterns are made of.
const (
	shoulderMm  = 10.0 // each side of the jaws, where an animal must come in between stones
	besideJawMm = 90.0 // from a jaw to the middle of a stone beside it
	stopsInGap  = 0.6  // of those that go through a gap between tufts
	stopsInRut  = 0.5  // of those that walk a rut past a pocket of scent
	dryMm       = 60.0 // the radius of a footing in water
	pulls       = 1.6  // what a stick to pull at does
)

// standBy is an animal that comes to the attractor, spread by so much.
func standBy(spreadDeg float64) func(Layout, animal.Animal) []Term {
	return func(l Layout, _ animal.Animal) []Term { return []Term{{Share: 1, Approach: l.standAt(spreadDeg)}} }
}

// marked is standBy where an animal may leave its own mark.
func marked(spreadDeg float64) func(Layout, animal.Animal) []Term {
	return func(l Layout, _ animal.Animal) []Term {
		in := l.standAt(spreadDeg)
		in.Marks = true
		return []Term{{Share: 1, Approach: in}}
	}
}

// standAt stands before what the set smells of, at the height of the highest smell.
func (l Layout) standAt(spreadDeg float64) footfall.Input {
	in := stand(spreadDeg)
	for _, s := range l.Smells() {
		in.NoseMm = math.Max(in.NoseMm, s.HeightMm)
	}
	return in
}

// betweenStones comes in between the stones beside the pan.
func betweenStones(l Layout, _ animal.Animal) []Term {
	in := stand(footfall.SolidDeg)
	in.ConfineMm = l.Rigs[0].JawsMm() + 2*(besideJawMm-stoneMm-shoulderMm)
	return []Term{{Share: 1, Approach: in}}
}

// alongTrench comes up the trench.
func alongTrench(l Layout, _ animal.Animal) []Term {
	in := stand(footfall.PinchedDeg)
	in.ConfineMm = l.Trench.WidthMm
	return []Term{{Share: 1, Approach: in}}
}

// walkThrough stops at a pocket of scent beside the rut, or walks on along it.
func walkThrough(l Layout, a animal.Animal) []Term {
	stops, passes := Term{Share: stopsInRut, Approach: stand(footfall.SomeDeg)}, passAlong(l, a)[0]
	passes.Share, passes.Approach.Grid = 1-stopsInRut, footfall.Stand
	return []Term{stops, passes}
}

// throughGap stops between two tufts, from either side and as far back as its feet want, or goes through.
func throughGap(l Layout, a animal.Animal) []Term {
	s := setbackOf(a)
	var terms []Term
	for _, from := range []struct{ y, facing float64 }{{-s, 0}, {s, 180}} {
		in := stand(footfall.SolidDeg)
		in.Marks, in.Grid, in.Axes = true, footfall.Pass, footfall.Axes{YMm: from.y, FacingDeg: from.facing}
		for _, tuft := range l.Attractors {
			x, y := in.Axes.On(tuft.XMm+math.Copysign(tuft.RadiusMm, tuft.XMm), tuft.YMm)
			in.Guides = append(in.Guides, footfall.Guide{XMm: x, YMm: y, RMm: tuft.RadiusMm})
		}
		terms = append(terms, Term{Share: stopsInGap / 2, Approach: in})
	}
	passes := passAlong(l, a)[0]
	passes.Share = 1 - stopsInGap
	return append(terms, passes)
}

// onDryFooting uses the one footing in the water, which is the pan.
func onDryFooting(l Layout, _ animal.Animal) []Term {
	in := stand(footfall.SolidDeg)
	if pan := l.Rigs[0].Pan; pan != nil {
		in.Dry = []footfall.Guide{{XMm: pan.XMm, YMm: pan.YMm, RMm: dryMm}}
	}
	return []Term{{Share: 1, Approach: in}}
}

// pullHolds is what a stick to pull at does.
func pullHolds(l Layout) float64 { return lureHolds(l) * pulls }
