package layout

import (
	"fmt"
	"math"
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/bed"
	"oldburrow/core/pan"
)

// Remark is something about a part that can be built and yet should not be so: where it stands in the JSON, what it is, and by how
// much, mm, where that can be said.
type Remark struct {
	Path string    `json:"path"`
	Key  RemarkKey `json:"key"`
	Mm   float64   `json:"mm,omitempty"`
}

// RemarkKey is what there is to remark on.
type RemarkKey string

// What is remarked on.
const (
	PanAboveJaws    RemarkKey = "pan_above_jaws" // it catches by the toes
	PanAboveGround  RemarkKey = "pan_above_ground"
	BedsTouch       RemarkKey = "beds_touch"
	WiderThanTrench RemarkKey = "wider_than_trench"
	LeversFoul      RemarkKey = "levers_foul" // the trench's wall, as they are turned
	GuideOverTrap   RemarkKey = "guide_over_trap"
	PawedOntoPan    RemarkKey = "pawed_onto_pan" // an object that is loose and small enough
	BedShallow      RemarkKey = "bed_shallow"    // for base, drain, trap and cover
	CoverThick      RemarkKey = "cover_thick"    // at any season
	CoverFreezes    RemarkKey = "cover_freezes"  // when the ground does
	AttractorInBed  RemarkKey = "attractor_in_bed"
	GuideTall       RemarkKey = "guide_tall" // a coyote is uneasy before it
)

// RemarkKeys lists them.
var RemarkKeys = []RemarkKey{PanAboveJaws, PanAboveGround, BedsTouch, WiderThanTrench, LeversFoul, GuideOverTrap, PawedOntoPan, BedShallow, CoverThick, CoverFreezes, AttractorInBed, GuideTall}

// Figures of the remarks; habits and judgements of the trade.
const (
	thickestMm = halfMm
	freezingMm = 0.125 * inch // of what freezes, where the ground does
	touchesMm  = 3.0          // a guide that lies no farther over the tip of a lever is no matter
	pawableMm  = 60.0         // a loose object with a smaller radius ...
	pawedMm    = 300.0        // ... no farther from the pan than this
)

// UneasyMm is how tall a guide may stand before a coyote is uneasy. A judgement of the trade.
const UneasyMm = 150.0

// staysLoose are the covers that do not freezing ground's harm.
var staysLoose = []pan.Material{"waxed_soil", "peat", "hulls"}

// Remarks are what there is to say of a layout that passes Check, for an animal and a day.
func (l Layout) Remarks(a animal.Animal, on Underfoot) []Remark {
	found := []Remark{}
	for i, r := range l.Rigs {
		if r.Jaws != nil {
			found = append(found, l.ofRig(i, r, on)...)
		}
	}
	for i, g := range l.Guides {
		path := fmt.Sprintf("guides[%d]", i)
		if over := l.overTrap(g); over > touchesMm {
			found = append(found, Remark{path, GuideOverTrap, over})
		}
		if g.HeightMm != nil && *g.HeightMm > UneasyMm && a.Wary {
			found = append(found, Remark{path + ".heightMm", GuideTall, *g.HeightMm - UneasyMm})
		}
	}
	for i, attractor := range l.Attractors {
		found = append(found, l.ofAttractor(fmt.Sprintf("attractors[%d]", i), attractor)...)
	}
	return found
}

func (l Layout) ofRig(i int, r Rig, on Underfoot) []Remark {
	var found []Remark
	path := fmt.Sprintf("rigs[%d]", i)
	say := func(at string, key RemarkKey, mm float64) {
		if mm > 0.5 {
			found = append(found, Remark{path + at, key, mm})
		}
	}
	dug, err := l.BedOf(r)
	if err != nil {
		return nil // Check has refused it
	}
	floor, panMm := r.Bed.BaseMm+r.Bed.DrainMm, r.Jaws.HeightMm
	if r.Pan.HeightMm != nil {
		panMm = *r.Pan.HeightMm
	}
	say(".pan.heightMm", PanAboveJaws, panMm-r.Jaws.HeightMm)
	say(".pan.heightMm", PanAboveGround, floor+panMm-dug.DepthMm)
	say(".bed.depthMm", BedShallow, floor+r.Jaws.HeightMm+r.CoverMm()-dug.DepthMm)
	say(".cover", CoverThick, r.CoverMm()-thickestMm)
	if on.Frozen {
		say(".cover", CoverFreezes, r.freezesMm()-freezingMm)
	}
	if l.Trench != nil {
		sin, cos := math.Sincos(r.AxisDeg * math.Pi / 180)
		along, across := r.Jaws.FrameMm*math.Abs(cos), r.Jaws.SpreadMm*math.Abs(sin)
		say("", WiderThanTrench, r.Jaws.SpreadMm-l.Trench.WidthMm)
		if r.Jaws.SpreadMm <= l.Trench.WidthMm {
			say(".axisDeg", LeversFoul, max(along, across)-l.Trench.WidthMm)
		}
	}
	for _, other := range l.Rigs[:i] {
		if other.Jaws == nil {
			continue
		}
		if beside, err := l.BedOf(other); err == nil {
			say("", BedsTouch, r.box(dug).into(other.box(beside)))
		}
	}
	return found
}

// freezesMm is how much of the cover freezes.
func (r Rig) freezesMm() float64 {
	thick := 0.0
	for _, layer := range r.Cover {
		if !slices.Contains(staysLoose, layer.Material) {
			thick += layer.ThicknessMm
		}
	}
	return thick
}

func (l Layout) ofAttractor(path string, a Attractor) []Remark {
	var found []Remark
	x, y, radius := l.body(a)
	loose := a.Kind == "object" && !a.Fixed && !slices.Contains([]string{"soil", "grass", "rag", "hollow", "snow"}, a.Of)
	for _, r := range l.Rigs {
		if r.Jaws == nil {
			continue
		}
		dug, err := l.BedOf(r)
		if err != nil {
			continue
		}
		if over := radius - r.box(dug).from(x, y); over > 0 && l.Kind != "spring" {
			found = append(found, Remark{path, AttractorInBed, over})
		}
		if loose && radius > 0 && radius < pawableMm && math.Hypot(x-r.Pan.XMm, y-r.Pan.YMm) < pawedMm+radius {
			found = append(found, Remark{path, PawedOntoPan, pawableMm - radius})
		}
	}
	return found
}

// body is the middle and the radius of what an attractor takes up of the plan: it lies beyond its point nearest the trap.
func (l Layout) body(a Attractor) (x, y, radius float64) {
	radius = a.RadiusMm
	if a.Hole != nil {
		radius = a.Hole.DiameterMm / 2
	}
	away, dx, dy := math.Inf(1), 0.0, -1.0
	for _, r := range l.Rigs {
		if r.Pan == nil {
			continue
		}
		if far := math.Hypot(a.XMm-r.Pan.XMm, a.YMm-r.Pan.YMm); far > 0 && far < away {
			away, dx, dy = far, (a.XMm-r.Pan.XMm)/far, (a.YMm-r.Pan.YMm)/far
		}
	}
	return a.XMm + dx*radius, a.YMm + dy*radius, radius
}

// overTrap is how far a guide lies over a trap.
func (l Layout) overTrap(g Guide) float64 {
	most := 0.0
	for _, r := range l.Rigs {
		if r.Jaws == nil {
			continue
		}
		trap := r.box(bed.Output{LengthMm: r.Jaws.FrameMm, WidthMm: r.Jaws.SpreadMm})
		for _, disc := range g.Discs() {
			most = max(most, disc.RMm-trap.from(disc.XMm, disc.YMm))
		}
	}
	return most
}

// box is a rectangle on the plan: its middle, half its sides, and the direction of the first of them.
type box struct{ x, y, along, across, cos, sin float64 }

// box is where something as large as that lies about a rig, along its levers.
func (r Rig) box(size bed.Output) box {
	sin, cos := math.Sincos(r.AxisDeg * math.Pi / 180)
	return box{r.XMm, r.YMm, size.LengthMm / 2, size.WidthMm / 2, cos, sin}
}

// from is how far a point lies from the box; 0 within it.
func (b box) from(x, y float64) float64 {
	dx, dy := x-b.x, y-b.y
	along, across := math.Abs(dx*b.cos+dy*b.sin)-b.along, math.Abs(dy*b.cos-dx*b.sin)-b.across
	return math.Hypot(max(0, along), max(0, across))
}

// into is how far one box reaches into another, by the direction in which they are farthest apart; below 0 they do not meet.
func (b box) into(other box) float64 {
	least := math.Inf(1)
	for _, axis := range [][2]float64{{b.cos, b.sin}, {-b.sin, b.cos}, {other.cos, other.sin}, {-other.sin, other.cos}} {
		apart := math.Abs((other.x-b.x)*axis[0] + (other.y-b.y)*axis[1])
		least = min(least, b.reach(axis)+other.reach(axis)-apart)
	}
	return least
}

// reach is how far the box goes from its middle in a direction.
func (b box) reach(axis [2]float64) float64 {
	along, across := b.cos*axis[0]+b.sin*axis[1], b.cos*axis[1]-b.sin*axis[0]
	return b.along*math.Abs(along) + b.across*math.Abs(across)
}
