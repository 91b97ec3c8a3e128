package layout

import (
	"math"

	"oldburrow/core/animal"
)

// What the patterns beyond the common dirt hole begin with. Sizes are habits of the trade.
const (
	stoneMm      = 60.0
	skullMm      = 90.0
	postMm       = 80.0 // a tuft that stands alone
	gapTuftMm    = 70.0 // one of two
	scatMm       = 50.0
	moundMm      = 120.0
	noseRise     = 0.2 // how much farther off the forefeet stand for what is smelt higher up, as a share of its height
	trenchMm     = 180.0
	foxTrenchMm  = 150.0
	narrowMm     = 180.0
	pinchedMm    = 150.0
	openMm       = 610.0 // a way that nobody narrowed, about two feet
	culvertMm    = 350.0
	mouthMm      = 750.0 // of a culvert
	crawlMm      = 250.0
	logMm        = 125.0 // half of a log's thickness
	gapMm        = 380.0
	foxGapMm     = 300.0
	rutMm        = 250.0 // the middle of a rut from the pocket beside it
	rutWideMm    = 300.0
	rutNearestMm = 185.0 // the pan lies in the rut, and not before it
	inWaterMm    = 20.0  // from the jaw to where the pan's moss begins to be in reach
	runwayMm     = 390.0 // between the stones before a stick to pull at
	runwayStone  = 32.0
	crowdMm      = 320.0 // from the middle stick to those that crowd a cat
	loopSticksMm = 110.0 // from a foot loop to the sticks on both sides
	stapleMm     = 2 * inch
	slideMm      = 2400.0
	clearMm      = 160.0 // of the fence and of the way
)

// setbackOf is how far from what it smells an animal's forefeet mostly come down, by the trade's habit, or by its reach.
func setbackOf(a animal.Animal) float64 {
	if a.Target {
		return a.Habit.SetbackMm
	}
	return a.Reach.Mean
}

// setback is where the pan goes for what is smelt at a height.
func (b Begin) setback(heightMm float64) float64 {
	return b.habit().SetbackMm + noseRise*math.Min(heightMm, b.Target.ShoulderMm)
}

// at is a set with one trap, its pan straight before its attractors at a setback, the levers across the approach or along it.
func (b Begin) at(l Layout, setbackMm, axisDeg float64, attractors ...Attractor) Layout {
	r := b.rig(0, 0, setbackMm, axisDeg)
	l.Attractors, l.Rigs, l.Anchors = attractors, []Rig{r}, []Anchor{b.anchor(r)}
	l.Guides = append(l.Guides, b.freeJaw(r)...)
	return l
}

// scented is something that an animal comes to, of a material and a radius, with what is on it.
func scented(kind AttractorKind, of string, radiusMm, heightMm float64, smells ...Smell) Attractor {
	return Attractor{Kind: kind, Of: of, RadiusMm: radiusMm, HeightMm: heightMm, Plug: "none", Smells: append([]Smell{}, smells...)}
}

func gland(place SmellPlace, heightMm float64) Smell {
	return Smell{Kind: "gland", Name: "gland lure", Place: place, HeightMm: heightMm}
}

func urine(place SmellPlace, heightMm float64) Smell {
	return Smell{Kind: "urine", Name: "urine", Place: place, HeightMm: heightMm}
}

// thin is a hole of a finger's width with something smelly in it.
func thin(slot int, x, y, acrossMm, depthMm, angleDeg, turnDeg float64, smells ...Smell) Attractor {
	return Attractor{Slot: slot, Kind: "hole", XMm: x, YMm: y, Hole: &Hole{DiameterMm: acrossMm, DepthMm: depthMm, AngleDeg: angleDeg, TurnDeg: turnDeg}, Plug: "none", Smells: smells}
}

// pipe is a pipe in the ground with a dab of bait in it.
func (b Begin) pipe() Layout {
	l := b.bare("dirt_hole", "pipe")
	l.Backing = "none"
	a := thin(0, 0, 0, 50, 200, 45, 0, Smell{Kind: "bait", Name: "bait", Amount: "a dab", Place: "bottom"})
	a.Of, a.HeightMm = "pipe", 10
	l = b.at(l, b.setback(0), 0, a)
	l.Guides = b.guides(l.Rigs[0])
	return l
}

// drilledPair is two thin holes that slope away from the pan, in lines that pass through it, before a low heap of snow.
func (b Begin) drilledPair() Layout {
	l := b.bare("dirt_hole", "drilled_pair")
	l.Show, l.Backing = "dug_out", "none"
	s, before := b.habit().SetbackMm, 150.0
	if b.Target.Fox {
		before = 210
	}
	turn := math.Atan2(50, before) * 180 / math.Pi
	heap := scented("post", "snow", moundMm, 50, urine("face", 0))
	heap.Slot = 2
	return b.at(l, s, 0,
		thin(0, -50, s-before, 14, 150, 60, -turn, Smell{Kind: "bait", Name: "bait", Place: "bottom"}),
		thin(1, 50, s-before, 14, 150, 60, turn, gland("bottom", 0)), heap)
}

// object is one bone, stone, dung or log beside a trail.
func (b Begin) object() Layout {
	return b.beside("object", scented("object", "stone", stoneMm, 0, gland("face", 0)))
}

// skull is a skull or a bone that is spiked down.
func (b Begin) skull() Layout {
	a := scented("object", "bone", skullMm, 0, gland("under", 0))
	a.Fixed = true
	return b.beside("skull", a)
}

// beside is a flat set at something beside a trail, with a tuft or so that hides its far side.
func (b Begin) beside(pattern string, a Attractor) Layout {
	l := b.bare("flat", pattern)
	if l.Backing != "none" {
		l.Backing = "tuft"
	}
	return b.at(l, b.setback(0), 0, a)
}

// inTrail lies in the trail and not beside it.
func inTrail(_ Begin, l Layout) Layout {
	l.Way = &Way{YMm: l.Rigs[0].Pan.YMm, WidthMm: inTrailMm}
	return l
}

func nothingBehind(_ Begin, l Layout) Layout {
	l.Backing = "none"
	return l
}

// pullStick is a wrapped stick, driven fast, that an animal grips low and pulls at; stones leave it a runway.
func (b Begin) pullStick() Layout {
	a := scented("post", "stick", thinStickMm, 150, Smell{Kind: "bait", Name: "bait", Place: "face"})
	a.Fixed = true
	l := b.at(b.bare("flat", "pull_stick"), b.setback(0), 0, a)
	for _, x := range []float64{-1, 1} {
		l.Guides = append(l.Guides, Guide{Kind: "stone", XMm: x * (runwayMm/2 + runwayStone), YMm: l.Rigs[0].YMm, RMm: runwayStone})
	}
	return l
}

// threeStones is a stone at the head and one on each side, so that the animal must come in between.
func (b Begin) threeStones() Layout {
	l := b.bare("flat", "three_stones")
	s, aside := b.setback(0), b.habit().JawsMm/2+besideJawMm
	stone := func(slot int, x, y float64, smell Smell) Attractor {
		smell.Carrier = "swab"
		a := scented("object", "stone", stoneMm, 0, smell)
		a.Slot, a.XMm, a.YMm = slot, x, y
		return a
	}
	return b.at(l, s, 0,
		stone(0, 0, 0, gland("under", 0)),
		stone(1, aside-stoneMm, s, Smell{Kind: "curiosity", Name: "curiosity lure", Place: "under"}),
		stone(2, stoneMm-aside, s, gland("under", 0)))
}

// trench is a trench that falls to bait under a cast of soil at its head, with a thin hole beside that.
func (b Begin) trench() Layout {
	l := b.bare("trench", "trench")
	l.Show, l.Backing = "dug_out", "bank"
	l.Trench = &Trench{WidthMm: trenchMm, LengthMm: 450, HeadMm: 110}
	if b.Target.Fox {
		l.Trench.WidthMm = foxTrenchMm
	}
	cast := scented("object", "soil", 50, 0, Smell{Kind: "bait", Name: "bait", Place: "under"})
	return b.at(l, b.setback(0), 90, cast, thin(1, 60, -40, 14, 120, 60, 0, Smell{Kind: "musk", Name: "musk", Carrier: "wool", Place: "bottom"}))
}

// way is a set in a way of a width, with a trap for each of the places that it is given.
func (b Begin) way(kind Kind, pattern string, way Way, across Guide, pans ...[2]float64) Layout {
	l := b.bare(kind, pattern)
	l.Show, l.Backing, l.Spoil, l.Way = "subtle", "none", "carried_off", &way
	if across.RMm > 0 {
		l.Guides = []Guide{across}
	}
	for slot, at := range pans {
		r := b.rig(slot, at[0], at[1], 90)
		l.Rigs, l.Anchors = append(l.Rigs, r), append(l.Anchors, b.anchor(r))
	}
	return l
}

// stick lies across a way at its middle.
func stick(longMm float64) Guide {
	return Guide{Kind: "stick", RMm: thinStickMm, LengthMm: longMm, TurnDeg: 90}
}

// trailPair is two traps staggered about one stepping stick, where the way is narrow.
func (b Begin) trailPair() Layout {
	x, y := stride(b.Target)
	return b.way("trail", "trail_pair", Way{WidthMm: pinchedMm, OpenMm: openMm, Between: "brush"}, stick(250), [2]float64{-x, -y}, [2]float64{x, y})
}

// trail is one trap beyond a stepping stick, where the way is narrow.
func (b Begin) trail() Layout {
	x, y := stride(b.Target)
	l := b.way("trail", "trail", Way{WidthMm: narrowMm, OpenMm: openMm, Between: "brush"}, stick(narrowMm+70), [2]float64{x, y})
	if b.crowds() {
		return crowdSticks(b, l)
	}
	return l
}

// crowdSticks lays a stick before and one behind, so that a cat has no other place to step.
func crowdSticks(_ Begin, l Layout) Layout {
	if len(l.Guides) > 1 {
		return l
	}
	for _, x := range []float64{-crowdMm, crowdMm} {
		more := l.Guides[0]
		more.XMm = x
		l.Guides = append(l.Guides, more)
	}
	return l
}

// creekPinch is a pair between banks, or bank and log, with a light rag hung over it.
func (b Begin) creekPinch() Layout {
	x, y := stride(b.Target)
	l := b.way("trail", "creek_pinch", Way{WidthMm: narrowMm, OpenMm: 400, Between: "banks"}, stick(400), [2]float64{-x, -y}, [2]float64{x, y})
	l.Backing, l.Attractors = "bank", []Attractor{scented("object", "rag", 0, 600)}
	return l
}

func (b Begin) culvertPair() Layout {
	x, y := stride(b.Target)
	return b.way("trail", "culvert_pair", Way{WidthMm: culvertMm, OpenMm: mouthMm, Between: "culvert"}, stick(culvertMm+50), [2]float64{-x, -y / 2}, [2]float64{x, y / 2})
}

// crawlUnder is a trap where animals go under a fence: the wire makes them step as a stick does.
func (b Begin) crawlUnder() Layout {
	x, y := stride(b.Target)
	return b.way("trail", "crawl_under", Way{WidthMm: crawlMm, Between: "fence"}, stick(crawlMm), [2]float64{x, y / 2})
}

// bothSides has a trap on the other side of the fence too.
func bothSides(b Begin, l Layout) Layout {
	x, y := stride(b.Target)
	second := b.rig(1, -x, -y/2, 90)
	l.Rigs, l.Anchors = append(l.Rigs, second), append(l.Anchors, b.anchor(second))
	return l
}

// logCrossing is a trap on the low side of a log that lies across the way.
func (b Begin) logCrossing() Layout {
	x, _ := stride(b.Target)
	log := Guide{Kind: "log", RMm: logMm, LengthMm: 1500, TurnDeg: 90}
	return b.way("trail", "log_crossing", Way{WidthMm: crawlMm, Between: "brush"}, log, [2]float64{x + logMm, 0})
}

// hollow is a trap in a natural hollow, with nothing to smell.
func (b Begin) hollow() Layout {
	l := b.bare("trail", "hollow")
	l.Show, l.Backing = "subtle", "bank"
	return b.at(l, b.setback(0), 0, scented("object", "hollow", 0, 0))
}

// walkThrough is a trap in a packed rut, with a pocket of grass beside it that is scented.
func (b Begin) walkThrough() Layout {
	l := b.way("trail", "walk_through", Way{YMm: rutMm, WidthMm: rutWideMm, Between: "ruts"}, Guide{}, [2]float64{0, math.Max(b.setback(0), rutNearestMm)})
	l.Attractors = []Attractor{scented("object", "grass", 0, 0, gland("face", 0))}
	return l
}

// tuft is one tuft of grass, set with its root ball, where an animal leaves its mark.
func (b Begin) tuft() Layout {
	return b.at(b.post("tuft"), b.setback(200), 0, scented("post", "tuft", postMm, 450, urine("face", 200), gland("face", 200)))
}

func (b Begin) post(pattern string) Layout {
	l := b.bare("scent_post", pattern)
	l.Show, l.Backing = "subtle", "tuft"
	return l
}

// tuftPair is a trap in the gap between two tufts that a way goes through.
func (b Begin) tuftPair() Layout {
	gap := gapMm
	if b.Target.Fox {
		gap = foxGapMm
	}
	l := b.way("scent_post", "tuft_pair", Way{BearingDeg: -90, WidthMm: gap}, Guide{}, [2]float64{})
	for slot, x := range []float64{-gap / 2, gap / 2} {
		a := scented("post", "tuft", gapTuftMm, 450, urine("face", 0))
		if slot == 1 {
			a.Smells = []Smell{gland("face", 0)}
		}
		a.Slot, a.XMm = slot, x
		l.Attractors = append(l.Attractors, a)
	}
	return l
}

// oldScat is scat that was moved beside a tuft or a stone.
func (b Begin) oldScat() Layout {
	return b.at(b.post("old_scat"), b.setback(0), 0, scented("post", "scat", scatMm, 0, urine("face", 0)))
}

func (b Begin) snowPost() Layout {
	return b.at(b.post("snow_post"), b.setback(150), 0, scented("post", "snow", moundMm, 250, urine("face", 150)))
}

// treeHole is a natural hole in a trunk with a lure stick snapped off in it.
func (b Begin) treeHole() Layout {
	l := b.bare("tree", "tree_hole")
	l.Show, l.Backing = "subtle", "bank"
	lure := gland("bottom", 350)
	lure.Carrier = "wool"
	trunk := scented("post", "trunk", 0, 350, lure)
	trunk.Fixed = true
	l = b.at(l, b.setback(350), 0, trunk)
	l.Anchors[0] = Anchor{Slot: l.Anchors[0].Slot, Kind: Staple, LengthMm: stapleMm}
	return l
}

// springHole is a trap in shallow water whose pan, under moss, is the one dry footing.
func (b Begin) springHole() Layout {
	l := b.bare("spring", "spring_hole")
	l.Show, l.Backing = "subtle", "none"
	return b.at(l, b.habit().JawsMm/2+inWaterMm, 0, scented("post", "stick", thinStickMm, 50, gland("top", 0)))
}

// device is a set that closes a loop in a way, and has no bed.
func (b Begin) device(pattern string, device Device, loop Loop, way Way, anchor Anchor) Layout {
	l := b.bare("device", pattern)
	l.Show, l.Backing, l.Spoil, l.Way = "subtle", "none", "", &way
	l.Rigs = []Rig{{Device: device, AxisDeg: 90, Loop: &loop, Cover: []Layer{}, ChainMm: 18 * inch}}
	l.Anchors = []Anchor{anchor}
	return l
}

// cableCrawl is a cable loop where animals go under a fence, on a slide cable between posts that stand clear of it.
func (b Begin) cableCrawl() Layout {
	slide := Anchor{Kind: Slide, LengthMm: slideMm, XMm: clearMm + slideMm/2, YMm: -clearMm}
	l := b.device("cable_crawl", "cable_loop", Loop{DiameterMm: b.Target.Habit.LoopMm, HeightMm: b.Target.Habit.LoopHighMm}, Way{WidthMm: crawlMm, Between: "fence"}, slide)
	l.Guides = []Guide{stick(crawlMm)}
	return l
}

// footSnare is a powered loop for a foot in a trail, with a low stick on both sides.
func (b Begin) footSnare() Layout {
	l := b.device("foot_snare", "foot_loop", Loop{DiameterMm: 130}, Way{WidthMm: narrowMm, OpenMm: openMm, Between: "brush"}, Anchor{Kind: "cable", LengthMm: 18 * inch})
	for _, x := range []float64{-loopSticksMm, loopSticksMm} {
		low := stick(narrowMm + 70)
		low.XMm = x
		l.Guides = append(l.Guides, low)
	}
	return l
}
