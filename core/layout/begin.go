package layout

import (
	"math"

	"oldburrow/core/animal"
)

// Figures of the schools; habits and judgements.
const (
	oneSetbackMm = 6 * inch
	oneJawsMm    = 5.25 * inch
	heavyGauge   = 1.5 // times what the target alone asks for
	quarterMm    = 0.25 * inch
	halfMm       = 0.5 * inch
	asideMm      = 18 * inch
)

// habit is what one begins with for the target, by the schools of setback, trap and tension.
func (b Begin) habit() animal.Habit {
	h := b.Target.Habit
	if b.Schools.Setback == "one" {
		h.SetbackMm = oneSetbackMm
	}
	if b.Schools.TrapSize == "one" {
		h.JawsMm = oneJawsMm
	}
	if b.Schools.Tension == "heavy" {
		h.PanN *= heavyGauge
	}
	return h
}

// bare is a set of a pattern without its parts.
func (b Begin) bare(kind Kind, pattern string) Layout {
	l := Layout{
		Schema: Schema, Kind: kind, Pattern: pattern, Show: "dug_out", Backing: "stone", Spoil: Spoil(b.Schools.Spoil), Hands: Hands(b.Schools.Hands),
		Attractors: []Attractor{}, Guides: []Guide{},
	}
	if b.Schools.Show == "subtle" || b.Schools.Show != "dug_out" && b.Spot.Shy {
		l.Show = "subtle"
	}
	if b.Schools.Backing == "open" {
		l.Backing = "none"
	}
	return l
}

// rig is the trap for the target with its pan at a place, and its bed and cover.
func (b Begin) rig(slot int, x, y, axisDeg float64) Rig {
	h, firm := b.habit(), true
	r := Rig{
		Slot: slot, Device: "jaws", XMm: x, YMm: y, AxisDeg: axisDeg,
		Jaws: &Jaws{SpreadMm: h.JawsMm, FrameMm: h.JawsMm + 30, HeightMm: 40},
		Pan:  &Pan{XMm: x, YMm: y, DiameterMm: 60, GaugeN: h.PanN},
		Bed:  Bed{MarginMm: 10, BaseMm: 12, Fill: "peat", Firm: &firm},
		// Waxed soil keeps its looseness, peat below it keeps its own.
		Cover:   []Layer{{Material: "waxed_soil", ThicknessMm: quarterMm}},
		ChainMm: 18 * inch, AnchorSlot: slot,
	}
	if b.Schools.Dog == "between" {
		r.AxisDeg += 60
	}
	switch b.Schools.Bed {
	case "under":
		r.Bed.MarginMm = 0
	case "over":
		r.Bed.MarginMm = 25
	}
	if b.Schools.Cover == "thick" {
		r.Cover[0].ThicknessMm = halfMm
	}
	switch b.Schools.Frost {
	case "waxed":
		r.Bed.Fill = ""
	case "peat":
		r.Bed.Fill, r.Cover[0].Material = "", "peat"
	}
	return r
}

// anchor is what holds a rig in this ground.
func (b Begin) anchor(r Rig) Anchor {
	a := Anchor{Slot: r.AnchorSlot, XMm: r.XMm, YMm: r.YMm, Kind: "cable", LengthMm: 18 * inch}
	if b.Schools.AnchorPlace == "aside" || b.Schools.AnchorPlace == "by_animal" && b.Target.Fox {
		a.XMm += asideMm
	}
	freezes := On(b.Spot.FrostMm, nil).Frozen // and keeps a cable till thaw
	switch {
	case b.Schools.Fixed == "drag":
		return Anchor{Slot: a.Slot, Kind: Drag, XMm: r.XMm, YMm: r.YMm}
	case b.Schools.AnchorKind == "cable", b.Schools.AnchorKind == "by_ground" && !freezes && (b.gives() || b.Spot.Soil == ""):
		return a
	}
	// A stake of iron comes out of frozen ground.
	a.Kind, a.LengthMm = "stake", 24*inch
	if b.Schools.Stakes == "crossed" || b.Schools.Stakes == "by_soil" && b.gives() {
		a.Kind = "crossed"
	}
	return a
}

// gives tells whether one stake would not hold here: sand, mud and what is wet.
func (b Begin) gives() bool {
	switch b.Spot.Soil {
	case "loose_sand", "firm_sand", "soft_clay", "muck":
		return true
	}
	return b.Spot.Wetness == "wet"
}

// crowds tells whether the animal is steered hard: cats are.
func (b Begin) crowds() bool {
	return b.Schools.Guides == "hard" || b.Schools.Guides == "by_animal" && b.Target.Crowded
}

// guides stand about a pan as hard as the animal is crowded: cats from both sides, coyotes and foxes by little more than a hint.
func (b Begin) guides(r Rig) []Guide {
	aside := math.Round(r.JawsMm()/2) + 45
	guides := []Guide{{Kind: "clod", XMm: -aside - 25, YMm: r.YMm, RMm: 20}, {Kind: "clod", XMm: aside + 25, YMm: r.YMm, RMm: 20}}
	if b.crowds() {
		guides = []Guide{{Kind: "stone", XMm: -aside - 5, YMm: r.YMm, RMm: 32}, {Kind: "stone", XMm: aside + 5, YMm: r.YMm, RMm: 32}}
	}
	if b.Schools.Behind == "low" {
		guides = append(guides, Guide{Kind: "clod", YMm: r.YMm + aside, RMm: 20})
	}
	return append(guides, b.freeJaw(r)...)
}

// freeJaw is the stone that guards the free jaw of a trap whose dog points between the jaws, away from where the animal stands.
func (b Begin) freeJaw(r Rig) []Guide {
	if b.Schools.Dog != "between" {
		return nil
	}
	sin, cos := math.Sincos(r.AxisDeg * math.Pi / 180)
	off := math.Round(r.JawsMm()/2) + 45
	return []Guide{{Kind: "stone", XMm: r.XMm - off*sin, YMm: r.YMm + off*cos, RMm: 25}}
}

// dug is a hole with bait under wool at its bottom, lure on its lip and urine behind.
func (b Begin) dug(acrossMm, deepMm float64) Attractor {
	return Attractor{
		Kind: "hole", Hole: &Hole{DiameterMm: acrossMm, DepthMm: deepMm, AngleDeg: 60}, Plug: "wool",
		Smells: []Smell{
			{Kind: "bait", Name: "bait", Place: "bottom"},
			{Kind: "lure", Name: "gland lure", Place: "lip"},
			{Kind: "urine", Name: "urine", Place: "backing"},
		},
	}
}

func (b Begin) oneTrap(l Layout, a Attractor) Layout {
	r := b.rig(0, 0, b.habit().SetbackMm, 0)
	l.Attractors, l.Rigs, l.Anchors, l.Guides = []Attractor{a}, []Rig{r}, []Anchor{b.anchor(r)}, b.guides(r)
	return l
}

func (b Begin) hole() Layout { return b.oneTrap(b.bare("dirt_hole", "hole"), b.dug(2.5*inch, 8*inch)) }

func (b Begin) holeDugOut() Layout {
	l := b.bare("dirt_hole", "hole_dug_out")
	l.Show, l.Backing = "dug_out", "bank"
	return b.oneTrap(l, b.dug(75, 8*inch))
}

func (b Begin) holeSubtle() Layout {
	l := b.bare("dirt_hole", "hole_subtle")
	l.Show, l.Backing, l.Spoil = "subtle", "none", "carried_off"
	return b.oneTrap(l, b.dug(55, 8*inch))
}

// punchHoles is a triangle of upright holes about the pan, another lure on wool in each.
func (b Begin) punchHoles() Layout {
	l := b.bare("dirt_hole", "punch_holes")
	l.Show, l.Backing = "subtle", "none"
	s := b.habit().SetbackMm
	r := b.rig(0, 0, s, 0)
	l.Rigs, l.Anchors = []Rig{r}, []Anchor{b.anchor(r)}
	lures := []Smell{{Kind: "gland", Name: "gland lure"}, {Kind: "curiosity", Name: "curiosity lure"}, {Kind: "musk", Name: "musk"}}
	for i, at := range [][2]float64{{0, 0}, {.87 * s, 1.5 * s}, {-.87 * s, 1.5 * s}} {
		smell := lures[i]
		smell.Place, smell.Carrier = "bottom", "wool"
		l.Attractors = append(l.Attractors, Attractor{Slot: i, Kind: "hole", XMm: at[0], YMm: at[1], Hole: &Hole{DiameterMm: 12, DepthMm: 150, AngleDeg: 90}, Plug: "none", Smells: []Smell{smell}})
	}
	return l
}

// fewerHoles leaves as many holes as are said.
func fewerHoles(n int) func(Begin, Layout) Layout {
	return func(_ Begin, l Layout) Layout {
		l.Attractors = l.Attractors[:n]
		return l
	}
}

// robbedRebuild is a deeper hole with a heavier back, and a second trap blind on the way in.
func (b Begin) robbedRebuild() Layout {
	l := b.oneTrap(b.bare("dirt_hole", "robbed_rebuild"), b.dug(2.5*inch, 300))
	second := b.rig(1, 0, b.habit().SetbackMm+.95*b.Target.Step.Mean, 0)
	l.Rigs, l.Anchors = append(l.Rigs, second), append(l.Anchors, b.anchor(second))
	return l
}

// stride is where a forefoot comes down beyond a stick.
func stride(a animal.Animal) (alongMm, acrossMm float64) { return .4 * a.Step.Mean, a.Track.Mean }

// nothing is what a pattern that is not known begins with.
func (b Begin) nothing() Layout { return b.bare("device", "") }
