package layout

import (
	"math"

	"oldburrow/core/animal"
	"oldburrow/core/bed"
	"oldburrow/core/footfall"
	"oldburrow/core/pan"
)

// BedOf is the size of a rig's bed and its soil. Its length runs along the levers; where those lie along a trench, the trench is the
// bed. It refuses a rig without jaws.
func (l Layout) BedOf(r Rig) (bed.Output, error) {
	in := bed.Input{BaseMm: r.Bed.BaseMm + r.Bed.DrainMm, CoverMm: r.CoverMm(), MarginMm: r.Bed.MarginMm, DepthMm: r.Bed.DepthMm}
	if l.Trench != nil && math.Abs(math.Sin(r.AxisDeg*math.Pi/180)) > math.Sqrt2/2 {
		in.WidthMm = &l.Trench.WidthMm
	}
	if r.Jaws != nil {
		in.FrameLengthMm, in.JawSpreadMm, in.SetHeightMm = r.Jaws.FrameMm, r.Jaws.SpreadMm, r.Jaws.HeightMm
	}
	if r.Pan != nil {
		in.PanDiameterMm = r.Pan.DiameterMm
	}
	return bed.Of(in)
}

// Litres is what fills and covers a rig's bed, by material: nothing where it has no bed.
func (l Layout) Litres(r Rig) (map[pan.Material]float64, error) {
	if r.Jaws == nil {
		return nil, nil
	}
	dug, err := l.BedOf(r)
	if err != nil {
		return nil, err
	}
	litres, fill := map[pan.Material]float64{}, r.Bed.Fill
	for i, layer := range r.Cover {
		if i == 0 && fill == "" { // the lowest goes down to the floor
			fill = layer.Material
			continue
		}
		takes := math.Min(dug.FillL, bed.Litres(dug.LengthMm, dug.WidthMm, layer.ThicknessMm))
		litres[layer.Material] += takes
		dug.FillL -= takes
	}
	litres[fill] += dug.FillL
	return litres, nil
}

// CoverMm is how thick the cover lies, all layers of it.
func (r Rig) CoverMm() float64 {
	thick := 0.0
	for _, layer := range r.Cover {
		thick += layer.ThicknessMm
	}
	return thick
}

// CoverN is what the cover adds to what the gauge reads, newtons: each of its layers shears and weighs. It refuses what pan.Cover does.
func (r Rig) CoverN() (float64, error) { return CoverN(r.Cover, r.PanMm()) }

// CoverN is what a cover adds over a pan of a diameter, newtons. It refuses what pan.Cover does.
func CoverN(cover []Layer, panMm float64) (float64, error) {
	adds := 0.0
	for _, layer := range cover {
		out, err := pan.Cover(pan.CoverInput{Material: layer.Material, ThicknessMm: layer.ThicknessMm, PanDiameterMm: panMm})
		if err != nil {
			return 0, err
		}
		adds += out.AddsN
	}
	return adds, nil
}

// PanMm is the pan's diameter; 0 where there is none.
func (r Rig) PanMm() float64 {
	if r.Pan == nil {
		return 0
	}
	return r.Pan.DiameterMm
}

// JawsMm is how wide the jaws open; 0 where there are none.
func (r Rig) JawsMm() float64 {
	if r.Jaws == nil {
		return 0
	}
	return r.Jaws.SpreadMm
}

// LoopMm is how wide the loop is; 0 where there is none.
func (r Rig) LoopMm() float64 {
	if r.Loop == nil {
		return 0
	}
	return r.Loop.DiameterMm
}

// IsFirm tells whether the bed is known to be firm: one of which nothing is known gives.
func (r Rig) IsFirm() bool { return r.Bed.Firm != nil && *r.Bed.Firm }

// onBed gives a place of the plan as the bed has it: along the levers and across them, from its middle.
func (r Rig) onBed(x, y float64) (along, across float64) {
	sin, cos := math.Sincos(r.AxisDeg * math.Pi / 180)
	dx, dy := x-r.XMm, y-r.YMm
	return dx*cos + dy*sin, dy*cos - dx*sin
}

// AnchorOf finds the anchor of a rig.
func (l Layout) AnchorOf(r Rig) (Anchor, bool) {
	for _, a := range l.Anchors {
		if a.Slot == r.AnchorSlot {
			return a, true
		}
	}
	return Anchor{}, false
}

// Drives tells whether an anchor has to be driven into the ground.
func (l Layout) Drives() bool {
	for _, a := range l.Anchors {
		if !Drags(a.Kind) && a.Kind != Staple {
			return true
		}
	}
	return false
}

// TrapIDs are the traps of the rack that the set is made with, by the slots of their rigs.
func (l Layout) TrapIDs() map[int]string {
	found := map[int]string{}
	for _, r := range l.Rigs {
		if r.TrapID != "" {
			found[r.Slot] = r.TrapID
		}
	}
	return found
}

// RigWith finds the rig that a trap is in.
func (l Layout) RigWith(trapID string) (Rig, bool) {
	for _, r := range l.Rigs {
		if r.TrapID == trapID && trapID != "" {
			return r, true
		}
	}
	return Rig{}, false
}

// Smells are all that the set smells of, first what lies at what an animal comes to.
func (l Layout) Smells() []Smell { return append(l.drawing(), l.Aside...) }

// drawing are the smells of what an animal comes to.
func (l Layout) drawing() (all []Smell) {
	for _, a := range l.Attractors {
		all = append(all, a.Smells...)
	}
	return all
}

// IsBait tells whether something smells to be eaten.
func (s Smell) IsBait() bool { return s.Kind == "bait" || s.Kind == "food" }

// ShelfIDs are the lures of the shelf that the set takes a dose of.
func (l Layout) ShelfIDs() []string {
	var ids []string
	for _, s := range l.Smells() {
		if s.LureID != "" {
			ids = append(ids, s.LureID)
		}
	}
	return ids
}

// there tells whether something was put where a smell can be; a place without a name is empty.
func (s Smell) there() bool { return s.Name != "" || s.LureID != "" }

// Baited tells whether there is something to eat.
func (l Layout) Baited() bool {
	for _, s := range l.Smells() {
		if s.IsBait() && s.there() {
			return true
		}
	}
	return false
}

// Unguided is the set with no guides but what lies across its way.
func (l Layout) Unguided() Layout {
	all := l.Guides
	l.Guides = []Guide{}
	for _, g := range all {
		if l.Way != nil && (g.Kind == "stick" || g.Kind == "log") {
			l.Guides = append(l.Guides, g)
		}
	}
	return l
}

// Discs is a guide as feet meet it: one disc, or a row of them along its length.
func (g Guide) Discs() []footfall.Guide {
	if g.LengthMm <= 0 {
		return []footfall.Guide{{XMm: g.XMm, YMm: g.YMm, RMm: g.RMm}}
	}
	n := min(int(math.Ceil(g.LengthMm/g.RMm)), mostDiscs)
	sin, cos := math.Sincos(g.TurnDeg * math.Pi / 180)
	discs := make([]footfall.Guide, n+1)
	for i := range discs {
		at := g.LengthMm * (float64(i)/float64(n) - .5)
		discs[i] = footfall.Guide{XMm: g.XMm + at*cos, YMm: g.YMm + at*sin, RMm: g.RMm}
	}
	return discs
}

// mostDiscs stand for one guide.
const mostDiscs = 60

// SpreadDeg is how far the direction of approach spreads with this backing.
func (l Layout) SpreadDeg() float64 {
	switch l.Backing {
	case "bank", "stone", "stump", "log":
		return footfall.SolidDeg
	case "sod", "tuft":
		return footfall.SomeDeg
	}
	return footfall.OpenDeg
}

// Lingers is how much longer than usual this set keeps an animal at work, as a factor on its re-placings, within 0.3–3. The factors
// are judgements of the trade.
func (l Layout) Lingers() float64 { return math.Max(0.3, math.Min(3, patternOf(l.Pattern).Lingers(l))) }

// Comings are the ways in which an animal comes to the set.
func (l Layout) Comings(a animal.Animal) []Coming { return patternOf(l.Pattern).Comings(l, a) }
