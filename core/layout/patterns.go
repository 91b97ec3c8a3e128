package layout

import "oldburrow/core/footfall"

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
	thinLimits    = []Limit{{"attractors[].hole.diameterMm", 5, 40, " mm"}, {"attractors[].hole.depthMm", 50, 400, " mm"}}
)

// How many of a part there can be.
var (
	one      = [2]int{1, 1}
	oneOrTwo = [2]int{1, 2}
	two      = [2]int{2, 2}
	maybe    = [2]int{0, 1}
)

var (
	oneOfEach = Wants{Attractors: one, Rigs: one}
	onWay     = Wants{Rigs: one, Way: one}
	pairOnWay = Wants{Rigs: oneOrTwo, Way: one}
	loopOnWay = Wants{Rigs: one, Way: one, Loops: true}
	orInTrail = Wants{Attractors: one, Rigs: one, Way: maybe}
)

// patterns are the ways of making a set, in the order in which they are offered. Minutes are for open ground, by the habit of the
// trade; what the figures in the terms are is said where they are drawn.
var patterns = []PatternDef{
	{Key: "hole", Kind: "dirt_hole", Begin: Begin.hole, Limits: holeLimits, Wants: oneOfEach, Terms: standBefore, Hold: holeHolds, Minutes: 20, Sight: normal},
	{Key: "hole_dug_out", Kind: "dirt_hole", Begin: Begin.holeDugOut, Limits: holeLimits, Wants: oneOfEach, Terms: standBefore, Hold: holeHolds, Minutes: 20, Sight: bold},
	{Key: "hole_subtle", Kind: "dirt_hole", Begin: Begin.holeSubtle, Limits: holeLimits, Wants: oneOfEach, Terms: standBy(footfall.SomeDeg), Hold: holeHolds, Minutes: 30, Sight: hidden},
	{Key: "pipe", Kind: "dirt_hole", Begin: Begin.pipe, Limits: holeLimits, Wants: oneOfEach, Terms: standBy(footfall.SomeDeg), Hold: holeHolds, Minutes: 20, Sight: normal},
	{
		Key: "punch_holes", Kind: "dirt_hole", Begin: Begin.punchHoles, Limits: thinLimits, Wants: Wants{Attractors: [2]int{1, 3}, Rigs: one},
		Terms: standAtEach, Hold: lureHolds, Minutes: 25, Sight: hidden, Variants: []Variant{{"two_holes", fewerHoles(2)}, {"one_hole", fewerHoles(1)}},
	},
	{Key: "drilled_pair", Kind: "dirt_hole", Begin: Begin.drilledPair, Limits: thinLimits, Wants: Wants{Attractors: [2]int{2, 3}, Rigs: one}, Terms: marked(footfall.SolidDeg), Hold: holeHolds, Minutes: 25, Sight: onSnow(normal, bold)},
	{Key: "robbed_rebuild", Kind: "dirt_hole", Begin: Begin.robbedRebuild, Limits: rebuiltLimits, Wants: Wants{Attractors: one, Rigs: oneOrTwo}, Terms: standBefore, Hold: holeHolds, Minutes: 20, Sight: normal},
	{Key: "object", Kind: "flat", Begin: Begin.object, Wants: orInTrail, Terms: atObject, Hold: lureHolds, Minutes: 15, Sight: normal, Variants: objectVariants},
	{Key: "skull", Kind: "flat", Begin: Begin.skull, Wants: orInTrail, Terms: atObject, Hold: lureHolds, Minutes: 15, Sight: bold, Variants: objectVariants},
	{Key: "pull_stick", Kind: "flat", Begin: Begin.pullStick, Wants: oneOfEach, Terms: standBy(footfall.SolidDeg), Hold: pullHolds, Minutes: 20, Sight: normal},
	{Key: "three_stones", Kind: "flat", Begin: Begin.threeStones, Wants: Wants{Attractors: [2]int{3, 3}, Rigs: one}, Terms: betweenStones, Hold: lureHolds, Minutes: 20, Sight: normal},
	{Key: "trench", Kind: "trench", Begin: Begin.trench, Wants: Wants{Attractors: oneOrTwo, Rigs: one, Trench: one}, Terms: alongTrench, Hold: holeHolds, Minutes: 25, Sight: bold},
	{Key: "trail", Kind: "trail", Begin: Begin.trail, Wants: onWay, Terms: passAlong, Hold: asUsual, Minutes: 20, Sight: onTrail, Variants: []Variant{{"three_sticks", crowdSticks}}},
	{Key: "trail_pair", Kind: "trail", Begin: Begin.trailPair, Wants: pairOnWay, Terms: passAlong, Hold: asUsual, Minutes: 35, Sight: onTrail},
	{Key: "creek_pinch", Kind: "trail", Begin: Begin.creekPinch, Wants: Wants{Attractors: maybe, Rigs: oneOrTwo, Way: one}, Terms: passAlong, Hold: asUsual, Minutes: 35, Sight: toCats(onTrail, bold)},
	{Key: "culvert_pair", Kind: "trail", Begin: Begin.culvertPair, Wants: pairOnWay, Terms: passAlong, Hold: asUsual, Minutes: 30, Sight: onTrail},
	{Key: "crawl_under", Kind: "trail", Begin: Begin.crawlUnder, Wants: pairOnWay, Terms: passAlong, Hold: asUsual, Minutes: 15, Sight: onTrail, Variants: []Variant{{"both_sides", bothSides}}},
	{Key: "log_crossing", Kind: "trail", Begin: Begin.logCrossing, Wants: onWay, Terms: passAlong, Hold: asUsual, Minutes: 20, Sight: onTrail},
	{Key: "hollow", Kind: "trail", Begin: Begin.hollow, Wants: oneOfEach, Terms: standBy(footfall.SolidDeg), Hold: lureHolds, Minutes: 20, Sight: normal},
	{Key: "walk_through", Kind: "trail", Begin: Begin.walkThrough, Wants: Wants{Attractors: one, Rigs: one, Way: one}, Terms: walkThrough, Hold: lureHolds, Minutes: 25, Sight: normal},
	{Key: "tuft", Kind: "scent_post", Begin: Begin.tuft, Wants: oneOfEach, Terms: marked(footfall.SomeDeg), Hold: lureHolds, Minutes: 25, Sight: normal},
	{Key: "tuft_pair", Kind: "scent_post", Begin: Begin.tuftPair, Wants: Wants{Attractors: two, Rigs: one, Way: one}, Terms: throughGap, Hold: lureHolds, Minutes: 30, Sight: normal},
	{Key: "old_scat", Kind: "scent_post", Begin: Begin.oldScat, Wants: oneOfEach, Terms: marked(footfall.SomeDeg), Hold: lureHolds, Minutes: 15, Sight: hidden},
	{Key: "snow_post", Kind: "scent_post", Begin: Begin.snowPost, Wants: oneOfEach, Terms: marked(footfall.SomeDeg), Hold: lureHolds, Minutes: 20, Sight: onSnow(bold, normal)},
	{Key: "tree_hole", Kind: "tree", Begin: Begin.treeHole, Wants: oneOfEach, Terms: standBy(footfall.PinchedDeg), Hold: lureHolds, Minutes: 15, Sight: normal, PoorFor: []string{"coyote"}},
	{Key: "spring_hole", Kind: "spring", Begin: Begin.springHole, Wants: oneOfEach, Terms: onDryFooting, Hold: lureHolds, Minutes: 15, Sight: normal},
	{Key: "cable_crawl", Kind: "device", Begin: Begin.cableCrawl, Wants: loopOnWay, Terms: unclaimed, Hold: asUsual, Minutes: 10, Sight: onTrail},
	{Key: "foot_snare", Kind: "device", Begin: Begin.footSnare, Wants: loopOnWay, Terms: unclaimed, Hold: asUsual, Minutes: 30, Sight: onTrail},
}

// objectVariants are those of something that lies beside a trail with its far side hidden.
var objectVariants = []Variant{{"in_trail", inTrail}, {"open", nothingBehind}}
