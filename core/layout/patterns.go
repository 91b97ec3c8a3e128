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
	{Key: "hole", Kind: "dirt_hole", Begin: Begin.hole, Limits: holeLimits, Wants: oneOfEach, Comings: standBefore, Lingers: scentHolds, Minutes: 20, Sight: "normal", Traits: []string{OpenHole, Food}},
	{Key: "hole_dug_out", Kind: "dirt_hole", Begin: Begin.holeDugOut, Limits: holeLimits, Wants: oneOfEach, Comings: standBefore, Lingers: scentHolds, Minutes: 20, Sight: "bold", Traits: []string{OpenHole, Food, Show}},
	{Key: "hole_subtle", Kind: "dirt_hole", Begin: Begin.holeSubtle, Limits: holeLimits, Wants: oneOfEach, Comings: standBy(footfall.SomeDeg), Lingers: scentHolds, Minutes: 30, Sight: "hidden", Traits: []string{Food}},
	{Key: "pipe", Kind: "dirt_hole", Begin: Begin.pipe, Limits: holeLimits, Wants: oneOfEach, Comings: standBy(footfall.SomeDeg), Lingers: scentHolds, Minutes: 20, Sight: "normal", Traits: []string{OpenHole, Food}},
	{
		Key: "punch_holes", Kind: "dirt_hole", Begin: Begin.punchHoles, Limits: thinLimits, Wants: Wants{Attractors: [2]int{1, 3}, Rigs: one},
		Comings: standAtEach, Lingers: scentHolds, Minutes: 25, Sight: "hidden", Traits: []string{Punched}, Never: []Refusal{{"bait", LuresAlone}}, Variants: []Variant{{"two_holes", fewerHoles(2)}, {"one_hole", fewerHoles(1)}},
	},
	{Key: "drilled_pair", Kind: "dirt_hole", Begin: Begin.drilledPair, Limits: thinLimits, Wants: Wants{Attractors: [2]int{2, 3}, Rigs: one}, Comings: marked(footfall.SolidDeg), Lingers: scentHolds, Minutes: 25, Sight: "bold", Asks: snowAsked, Traits: []string{Food}},
	{Key: "robbed_rebuild", Kind: "dirt_hole", Begin: Begin.robbedRebuild, Limits: rebuiltLimits, Wants: Wants{Attractors: one, Rigs: oneOrTwo}, Comings: standBefore, Lingers: scentHolds, Minutes: 20, Sight: "normal", Asks: within(0, Robbed), Traits: []string{OpenHole, Food, BlindSecond}},
	{Key: "object", Kind: "flat", Begin: Begin.object, Wants: orInTrail, Comings: atObject, Lingers: scentHolds, Minutes: 15, Sight: "normal", Variants: objectVariants},
	{Key: "skull", Kind: "flat", Begin: Begin.skull, Wants: orInTrail, Comings: atObject, Lingers: scentHolds, Minutes: 15, Sight: "bold", Traits: []string{Show}, Variants: objectVariants},
	{Key: "pull_stick", Kind: "flat", Begin: Begin.pullStick, Wants: oneOfEach, Comings: standBy(footfall.SolidDeg), Lingers: pullHolds, Minutes: 20, Sight: "normal", Traits: []string{Food}},
	{Key: "three_stones", Kind: "flat", Begin: Begin.threeStones, Wants: Wants{Attractors: [2]int{3, 3}, Rigs: one}, Comings: betweenStones, Lingers: scentHolds, Minutes: 20, Sight: "normal", Traits: []string{Close}, Never: []Refusal{{"bait", DigsInRing}, {"urine", Outside}}},
	{Key: "trench", Kind: "trench", Begin: Begin.trench, Wants: Wants{Attractors: oneOrTwo, Rigs: one, Trench: one}, Comings: alongTrench, Lingers: scentHolds, Minutes: 25, Sight: "bold", Traits: []string{Show, Close, Food, OpenHole}},
	{Key: "trail", Kind: "trail", Begin: Begin.trail, Wants: onWay, Comings: passAlong, Lingers: asUsual, Minutes: 20, Traits: []string{IsBlind}, Variants: []Variant{{"three_sticks", crowdSticks}}},
	{Key: "trail_pair", Kind: "trail", Begin: Begin.trailPair, Wants: pairOnWay, Comings: passAlong, Lingers: asUsual, Minutes: 35, Traits: []string{IsBlind}},
	{Key: "creek_pinch", Kind: "trail", Begin: Begin.creekPinch, Wants: Wants{Attractors: maybe, Rigs: oneOrTwo, Way: one}, Comings: passAlong, Lingers: asUsual, Minutes: 35, Asks: within(15, "creek_crossing", "stream", "ditch"), Traits: []string{IsBlind, Pinch}, Never: []Refusal{{"bait", NoScent}, {"urine", NoScent}}},
	{Key: "culvert_pair", Kind: "trail", Begin: Begin.culvertPair, Wants: pairOnWay, Comings: passAlong, Lingers: asUsual, Minutes: 30, Asks: within(5, "culvert", "bridge"), Traits: []string{IsBlind, Pinch}},
	{Key: "crawl_under", Kind: "trail", Begin: Begin.crawlUnder, Wants: pairOnWay, Comings: passAlong, Lingers: asUsual, Minutes: 15, Asks: within(5, "crawl_under", "fence_gap"), Traits: []string{IsBlind, Pinch}, Variants: []Variant{{"both_sides", bothSides}}},
	{Key: "log_crossing", Kind: "trail", Begin: Begin.logCrossing, Wants: onWay, Comings: passAlong, Lingers: asUsual, Minutes: 20, Asks: within(10, "log", "hollow_log"), Traits: []string{IsBlind, Pinch}},
	{Key: "hollow", Kind: "trail", Begin: Begin.hollow, Wants: oneOfEach, Comings: standBy(footfall.SolidDeg), Lingers: scentHolds, Minutes: 20, Asks: within(10, "hollow_log", "hollow_tree", "culvert"), Traits: []string{IsBlind, Pinch}, Never: []Refusal{{"bait", NoScent}, {"urine", NoScent}}},
	{Key: "walk_through", Kind: "trail", Begin: Begin.walkThrough, Wants: Wants{Attractors: one, Rigs: one, Way: one}, Comings: walkThrough, Lingers: scentHolds, Minutes: 25, Sight: "normal", Asks: within(5, "two_track"), Traits: []string{Mark}, Never: []Refusal{{"bait", NotAtPost}}},
	{Key: "tuft", Kind: "scent_post", Begin: Begin.tuft, Wants: oneOfEach, Comings: marked(footfall.SomeDeg), Lingers: scentHolds, Minutes: 25, Sight: "normal", Traits: []string{Mark}, Never: []Refusal{{"bait", NotAtPost}}},
	{Key: "tuft_pair", Kind: "scent_post", Begin: Begin.tuftPair, Wants: Wants{Attractors: two, Rigs: one, Way: one}, Comings: throughGap, Lingers: scentHolds, Minutes: 30, Sight: "normal", Traits: []string{Mark}, Never: []Refusal{{"bait", NotAtPost}}},
	{Key: "old_scat", Kind: "scent_post", Begin: Begin.oldScat, Wants: oneOfEach, Comings: marked(footfall.SomeDeg), Lingers: scentHolds, Minutes: 15, Sight: "hidden", Asks: within(15, "scat"), Traits: []string{Mark}, Never: []Refusal{{"bait", NotAtPost}}},
	{Key: "snow_post", Kind: "scent_post", Begin: Begin.snowPost, Wants: oneOfEach, Comings: marked(footfall.SomeDeg), Lingers: scentHolds, Minutes: 20, Sight: "bold", Asks: snowAsked, Traits: []string{Mark, Show}, Never: []Refusal{{"bait", NotAtPost}}},
	{Key: "tree_hole", Kind: "tree", Begin: Begin.treeHole, Wants: oneOfEach, Comings: standBy(footfall.PinchedDeg), Lingers: scentHolds, Minutes: 15, Sight: "normal", Asks: within(10, "hollow_tree", "lone_tree"), Traits: []string{TreeHole}, Never: []Refusal{{"urine", OffTheHole}}, PoorFor: []string{"coyote"}},
	{Key: "spring_hole", Kind: "spring", Begin: Begin.springHole, Wants: oneOfEach, Comings: onDryFooting, Lingers: scentHolds, Minutes: 15, Sight: "normal", Asks: within(10, "spring", "pond_edge", "stream"), Traits: []string{InWater}},
	{Key: "cable_crawl", Kind: "device", Begin: Begin.cableCrawl, Wants: loopOnWay, Comings: unclaimed, Lingers: asUsual, Minutes: 10, Asks: within(5, "crawl_under", "fence_gap"), Traits: []string{IsBlind, Pinch}},
	{Key: "foot_snare", Kind: "device", Begin: Begin.footSnare, Wants: loopOnWay, Comings: unclaimed, Lingers: asUsual, Minutes: 30, Traits: []string{IsBlind}},
}

// objectVariants are those of something that lies beside a trail with its far side hidden.
var objectVariants = []Variant{{"in_trail", inTrail}, {"open", nothingBehind}}
