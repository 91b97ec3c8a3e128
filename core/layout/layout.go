// Package layout describes how a set is laid out: its parts, their sizes and places, and what to begin with for each animal.
// Lengths in mm, angles in degrees, tension in newtons. The attractor (at a dirt hole the edge of the hole nearest the trap)
// is the origin; y runs from it toward the approaching animal (setback), x to the right of an animal facing it (offset).
package layout

import (
	"fmt"
	"math"

	"oldburrow/core/animal"
	"oldburrow/core/bed"
	"oldburrow/core/footfall"
	"oldburrow/core/pan"
	"oldburrow/core/refuse"
)

// Kinds of set that can be laid out.
const DirtHole = "dirt_hole"

// Layout is one set as designed or as built.
type Layout struct {
	Kind       string     `json:"kind"`
	Look       string     `json:"look"`
	Hole       Hole       `json:"hole"`
	Backing    string     `json:"backing"`
	Trap       Trap       `json:"trap"`
	Pan        Pan        `json:"pan"`
	Bed        Bed        `json:"bed"`
	Cover      Cover      `json:"cover"`
	Anchor     Anchor     `json:"anchor"`
	Attractant Attractant `json:"attractant"`
	Guides     []Guide    `json:"guides"`
	FacingDeg  *float64   `json:"facingDeg,omitempty"` // from the attractor to the travel way, from north
}

// Hole is a dirt hole: its diameter, its length along the slant, and its angle below horizontal.
type Hole struct {
	DiameterMm float64 `json:"diameterMm"`
	DepthMm    float64 `json:"depthMm"`
	AngleDeg   float64 `json:"angleDeg"`
}

// Trap is the trap as it stands set; FrameLengthMm includes the levers. ID is its place on the rack, blank for one that is
// not listed there.
type Trap struct {
	ID            string  `json:"id,omitempty"`
	Name          string  `json:"name"`
	JawSpreadMm   float64 `json:"jawSpreadMm"`
	FrameLengthMm float64 `json:"frameLengthMm"`
	SetHeightMm   float64 `json:"setHeightMm"`
}

// Pan is where the pan lies and what the gauge read at its centre.
type Pan struct {
	XMm        float64 `json:"xMm"`
	YMm        float64 `json:"yMm"`
	DiameterMm float64 `json:"diameterMm"`
	GaugeN     float64 `json:"gaugeN"`
}

// Bed is where the bed is dug, how much larger than the trap, the base under the trap, and whether nothing moves in it.
type Bed struct {
	XMm      float64 `json:"xMm"`
	YMm      float64 `json:"yMm"`
	MarginMm float64 `json:"marginMm"`
	BaseMm   float64 `json:"baseMm"`
	Firm     bool    `json:"firm"`
}

// Cover is what lies over the pan.
type Cover struct {
	Material    string  `json:"material"`
	ThicknessMm float64 `json:"thicknessMm"`
}

// Anchor is what holds the trap: LengthMm is the depth of a stake or cable; a drag has none.
type Anchor struct {
	Kind     string  `json:"kind"`
	LengthMm float64 `json:"lengthMm"`
	ChainMm  float64 `json:"chainMm"`
}

// Attractant is what the animal comes for, in the user's own words; a blank is none. The ids are those of the shelf's lures,
// blank for what is not on it.
type Attractant struct {
	Bait    string `json:"bait"`
	Lure    string `json:"lure"`
	Urine   string `json:"urine"`
	Plug    string `json:"plug"`
	BaitID  string `json:"baitId,omitempty"`
	LureID  string `json:"lureId,omitempty"`
	UrineID string `json:"urineId,omitempty"`
}

// ShelfIDs are the lures of the shelf that the attractant takes a dose of.
func (a Attractant) ShelfIDs() []string {
	var ids []string
	for _, id := range []string{a.BaitID, a.LureID, a.UrineID} {
		if id != "" {
			ids = append(ids, id)
		}
	}
	return ids
}

// Guide is a stone, clod or stick that steers a foot: its centre and radius.
type Guide struct {
	Kind string  `json:"kind"`
	XMm  float64 `json:"xMm"`
	YMm  float64 `json:"yMm"`
	RMm  float64 `json:"rMm"`
}

// Looks are how a dirt hole shows: torn-up ground with a fan of soil, or everything carried off and blended.
func Looks() []string { return []string{"dug_out", "subtle"} }

// Backings are what stands behind the attractor, most solid first.
func Backings() []string { return []string{"bank", "stone", "sod", "tuft", "none"} }

// Anchors are what holds a trap.
func Anchors() []string { return []string{"stake", "crossed", "cable", "drag"} }

// Plugs are what closes a hole over its bait.
func Plugs() []string { return []string{"none", "grass", "wool"} }

// GuideKinds are what a guide is made of.
func GuideKinds() []string { return []string{"stone", "clod", "stick"} }

const (
	inch  = 25.4
	pound = 4.448
)

// habit is what the trade begins with for one animal at a dirt hole.
type habit struct{ setback, jaws, gauge, depth float64 }

var habits = map[string]habit{
	"coyote":   {235, 5.5 * inch, 4 * pound, 8 * inch},
	"bobcat":   {203, 5.5 * inch, 3 * pound, 8 * inch},
	"red_fox":  {152, 4.75 * inch, 2 * pound, 8 * inch},
	"grey_fox": {146, 4.75 * inch, 2 * pound, 8 * inch},
}

// For lays out a dirt hole with the trade's defaults for a target animal. It refuses an animal that no line is set for.
func For(target string) (Layout, error) {
	var p refuse.Problems
	p.OneOf("target", target, animal.TargetKeys())
	if err := p.Err(); err != nil {
		return Layout{}, err
	}
	h := habits[target]
	aside := math.Round(h.jaws/2) + 45
	return Layout{
		Kind:       DirtHole,
		Look:       "dug_out",
		Hole:       Hole{DiameterMm: 2.5 * inch, DepthMm: h.depth, AngleDeg: 60},
		Backing:    "stone",
		Trap:       Trap{JawSpreadMm: h.jaws, FrameLengthMm: h.jaws + 30, SetHeightMm: 40},
		Pan:        Pan{YMm: h.setback, DiameterMm: 60, GaugeN: h.gauge},
		Bed:        Bed{YMm: h.setback, MarginMm: 10, BaseMm: 12, Firm: true},
		Cover:      Cover{Material: "waxed_soil", ThicknessMm: 0.25 * inch},
		Anchor:     Anchor{Kind: "cable", LengthMm: 18 * inch, ChainMm: 18 * inch},
		Attractant: Attractant{Bait: "bait", Lure: "gland lure", Urine: "urine", Plug: "wool"},
		Guides: []Guide{
			{Kind: "stone", XMm: -aside, YMm: h.setback, RMm: 32},
			{Kind: "stone", XMm: aside, YMm: h.setback, RMm: 32},
			{Kind: "clod", XMm: 0, YMm: h.setback + aside, RMm: 20},
		},
	}, nil
}

// Check refuses parts that cannot be: lengths out of range for the part, a pan outside its bed, a hole angle outside 20–85
// degrees, words that are not known. The paths are those of the JSON.
func (l Layout) Check() error {
	var p refuse.Problems
	p.OneOf("kind", l.Kind, []string{DirtHole})
	p.OneOf("look", l.Look, Looks())
	p.Within("hole.diameterMm", l.Hole.DiameterMm, 25, 150, " mm")
	p.Within("hole.depthMm", l.Hole.DepthMm, 50, 600, " mm")
	p.Within("hole.angleDeg", l.Hole.AngleDeg, 20, 85, "°")
	p.OneOf("backing", l.Backing, Backings())
	p.Within("trap.jawSpreadMm", l.Trap.JawSpreadMm, 75, 250, " mm")
	p.Within("trap.frameLengthMm", l.Trap.FrameLengthMm, 75, 400, " mm")
	p.Within("trap.setHeightMm", l.Trap.SetHeightMm, 15, 100, " mm")
	p.Within("pan.xMm", l.Pan.XMm, -400, 400, " mm")
	p.Within("pan.yMm", l.Pan.YMm, 30, 600, " mm")
	p.Within("pan.diameterMm", l.Pan.DiameterMm, 25, 100, " mm")
	p.Within("pan.gaugeN", l.Pan.GaugeN, 0, 80, " N")
	p.Within("bed.marginMm", l.Bed.MarginMm, 0, 80, " mm")
	p.Within("bed.baseMm", l.Bed.BaseMm, 0, 80, " mm")
	p.OneOf("cover.material", l.Cover.Material, pan.MaterialKeys())
	p.Within("cover.thicknessMm", l.Cover.ThicknessMm, 0, 50, " mm")
	p.OneOf("anchor.kind", l.Anchor.Kind, Anchors())
	if l.Anchor.Kind != "drag" {
		p.Within("anchor.lengthMm", l.Anchor.LengthMm, 100, 1500, " mm")
	}
	p.Within("anchor.chainMm", l.Anchor.ChainMm, 50, 4000, " mm")
	p.OneOf("attractant.plug", l.Attractant.Plug, Plugs())
	if l.FacingDeg != nil {
		p.Within("facingDeg", *l.FacingDeg, 0, 360, "°")
	}
	l.checkGuides(&p)
	if len(p) == 0 {
		l.checkPanInBed(&p)
	}
	return p.Err()
}

func (l Layout) checkGuides(p *refuse.Problems) {
	if len(l.Guides) > 20 {
		p.Add("guides", "are too many: at most 20, not %d", len(l.Guides))
	}
	for i, g := range l.Guides {
		at := fmt.Sprintf("guides[%d].", i)
		p.OneOf(at+"kind", g.Kind, GuideKinds())
		p.Within(at+"xMm", g.XMm, -600, 600, " mm")
		p.Within(at+"yMm", g.YMm, -300, 1200, " mm")
		p.Within(at+"rMm", g.RMm, 5, 200, " mm")
	}
}

func (l Layout) checkPanInBed(p *refuse.Problems) {
	dug, err := l.DugBed()
	if err != nil {
		p.Under("bed", err)
		return
	}
	r := l.Pan.DiameterMm / 2
	if over := math.Abs(l.Pan.YMm-l.Bed.YMm) + r - dug.WidthMm/2; over > 0.5 {
		p.Add("pan.yMm", "puts the pan %.0f mm outside the bed: bring it back, or move the bed with it", over)
	}
	if over := math.Abs(l.Pan.XMm-l.Bed.XMm) + r - dug.LengthMm/2; over > 0.5 {
		p.Add("pan.xMm", "puts the pan %.0f mm outside the bed: bring it back, or move the bed with it", over)
	}
}

// DugBed is the size of the bed and its soil. The trap's levers lie across the approach: the bed's length runs along x.
func (l Layout) DugBed() (bed.Output, error) {
	return bed.Of(bed.Input{
		FrameLengthMm: l.Trap.FrameLengthMm, JawSpreadMm: l.Trap.JawSpreadMm, SetHeightMm: l.Trap.SetHeightMm,
		PanDiameterMm: l.Pan.DiameterMm, BaseMm: l.Bed.BaseMm, CoverMm: l.Cover.ThicknessMm, MarginMm: l.Bed.MarginMm,
	})
}

// SpreadDeg is how far the direction of approach spreads with this backing.
func (l Layout) SpreadDeg() float64 {
	switch l.Backing {
	case "bank", "stone":
		return footfall.SolidDeg
	case "sod", "tuft":
		return footfall.SomeDeg
	}
	return footfall.OpenDeg
}

// Hold is how much longer than usual this set keeps an animal at work, as a factor on its re-placings, within 0.3–3.
// The factors are judgements: a hole of 200 mm or more 1.25, a plug 1.2, wool to pull 1.15, two or more smells 1.2, lure
// alone 0.8, nothing 0.3.
func (l Layout) Hold() float64 {
	a := l.Attractant
	hold := 1.0
	if l.Hole.DepthMm >= 200 {
		hold *= 1.25
	}
	if a.Plug != "none" {
		hold *= 1.2
	}
	if a.Plug == "wool" {
		hold *= 1.15
	}
	smells := 0
	for _, smell := range []string{a.Bait, a.Lure, a.Urine} {
		if smell != "" {
			smells++
		}
	}
	switch {
	case smells == 0:
		hold *= 0.3
	case smells >= 2:
		hold *= 1.2
	case a.Lure != "":
		hold *= 0.8
	}
	return math.Max(0.3, math.Min(3, hold))
}
