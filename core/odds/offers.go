package odds

import (
	"math"
	"slices"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/pan"
)

// change is one to a copy of the set.
func (h *helper) change(key RemedyKey, slot int, make func(l *layout.Layout)) Remedy {
	l := h.q.Layout.Clone()
	make(&l)
	return Remedy{Key: key, Slot: slot, Layout: &l}
}

const (
	inchMm       = 25.4
	deepMm       = 8 * inchMm
	dugMm        = 1.5 * inchMm // a hole that is dug, and not punched or drilled
	thinCoverMm  = inchMm / 4
	alongStick   = 4 * inchMm
	lowSmellMm   = 2 * inchMm // the nose goes down to it, and the feet come near
	lowGuideMm   = layout.UneasyMm
	lureElse     = "curiosity" // in season all the year
	lureElseName = "curiosity lure"
	hair         = 1e-9
)

// beds are what can be done to beds and covers.
func (h *helper) beds() ([]Remedy, error) {
	var found []Remedy
	for i, r := range h.q.Layout.Rigs {
		if !r.IsFirm() {
			found = append(found, h.change(FirmBed, r.Slot, func(l *layout.Layout) { l.Rigs[i].Bed.Firm = new(true) }))
		}
		if r.CoverMm() > thinCoverMm+1 {
			found = append(found, h.change(ThinnerCover, r.Slot, func(l *layout.Layout) {
				top := l.Rigs[i].Cover[len(r.Cover)-1]
				top.ThicknessMm = thinCoverMm
				l.Rigs[i].Cover = []layout.Layer{top}
			}))
		}
		for _, material := range []pan.Material{pan.WaxedSoil, pan.Peat} {
			if !slices.ContainsFunc(r.Cover, func(layer layout.Layer) bool { return layer.Material != material }) {
				continue
			}
			other := h.change(OtherCover, r.Slot, func(l *layout.Layout) {
				for k := range l.Rigs[i].Cover {
					l.Rigs[i].Cover[k].Material = material
				}
			})
			other.To = string(material)
			found = append(found, other)
			break
		}
	}
	return found, nil
}

// scents are what it smells of, and what keeps an animal at it.
func (h *helper) scents() ([]Remedy, error) {
	var found []Remedy
	l := h.q.Layout
	smells := l.Smells()
	if len(smells) == 0 && len(h.begun.Smells()) > 0 && len(h.begun.Attractors) == len(l.Attractors) {
		return []Remedy{h.change(SetScent, 0, func(l *layout.Layout) {
			for i := range l.Attractors {
				l.Attractors[i].Smells, l.Attractors[i].Plug = slices.Clone(h.begun.Attractors[i].Smells), h.begun.Attractors[i].Plug
			}
		})}, nil
	}
	of := func(kind layout.SmellKind) bool {
		return slices.ContainsFunc(smells, func(s layout.Smell) bool { return s.Kind == kind })
	}
	for i, a := range l.Attractors {
		if a.Hole != nil && a.Hole.DiameterMm >= dugMm && a.Hole.DepthMm < deepMm {
			found = append(found, h.change(DeeperHole, a.Slot, func(l *layout.Layout) { l.Attractors[i].Hole.DepthMm = deepMm }))
		}
		if a.Hole != nil && a.Plug == "none" && len(a.Smells) > 0 {
			found = append(found, h.change(Plug, a.Slot, func(l *layout.Layout) { l.Attractors[i].Plug = "wool" }))
		}
	}
	if len(l.Attractors) > 0 && len(smells) > 0 {
		first := l.Attractors[0]
		if !of("urine") && l.Refuses("urine") == "" {
			found = append(found, h.scented(AddUrine, layout.Smell{Kind: "urine", Name: "urine", Place: "backing"}))
		}
		if !l.Baited() && l.Refuses("bait") == "" {
			bait := layout.Smell{Kind: "bait", Name: "bait", Place: "under"}
			if first.Hole != nil {
				bait.Place = "bottom"
			}
			found = append(found, h.scented(AddBait, bait))
		}
	}
	if slices.ContainsFunc(smells, func(s layout.Smell) bool { return s.HeightMm > lowSmellMm }) {
		found = append(found, h.change(LowerLure, 0, func(l *layout.Layout) {
			for i := range l.Attractors {
				for k, s := range l.Attractors[i].Smells {
					l.Attractors[i].Smells[k].HeightMm = math.Min(s.HeightMm, lowSmellMm)
				}
			}
		}))
	}
	lure, err := h.otherLure()
	return append(found, lure...), err
}

func (h *helper) scented(key RemedyKey, smell layout.Smell) Remedy {
	return h.change(key, h.q.Layout.Attractors[0].Slot, func(l *layout.Layout) { l.Attractors[0].Smells = append(l.Attractors[0].Smells, smell) })
}

// otherLure is the bottle of the shelf that would do most in place of the set's lure, or one that would have to be fetched; none for a set
// without a lure.
func (h *helper) otherLure() ([]Remedy, error) {
	around := h.q.Circumstances
	if !slices.ContainsFunc(h.q.Layout.Smells(), around.isLure) {
		return nil, nil
	}
	var best []Remedy
	most := h.base.mean()
	for _, to := range slices.Concat(around.Shelf, []ShelfLure{{Name: lureElseName, Class: lureElse, Doses: 1}}) {
		smell := layout.Smell{Kind: to.Class, Name: to.Name, LureID: to.LureID}
		if to.Digs && h.q.Layout.Tight() { // they would dig up what makes them tread on the pan
			continue
		}
		if to.Doses < 1 || !around.isLure(smell) || slices.ContainsFunc(h.q.Layout.Smells(), func(s layout.Smell) bool { return s.LureID == to.LureID && s.LureID != "" }) {
			continue
		}
		c := h.change(OtherLure, 0, func(l *layout.Layout) {
			for i := range l.Attractors {
				for k, s := range l.Attractors[i].Smells {
					if around.isLure(s) {
						is := &l.Attractors[i].Smells[k]
						is.Kind, is.Name, is.LureID = smell.Kind, smell.Name, smell.LureID
					}
				}
			}
		})
		c.To, c.LureID, c.Lure, c.Doses = string(to.Class), to.LureID, to.Name, to.Doses
		if to.LureID == "" {
			c.Lure, c.Doses = "", 0
		}
		then, err := h.worth(h.after(&c))
		if err != nil {
			return nil, err
		}
		if then.mean() > most*(1+hair) {
			most, best = then.mean(), []Remedy{c}
		}
	}
	return best, nil
}

// places are how a set lies: what stands behind it, which way it faces, and how it shows.
func (h *helper) places() ([]Remedy, error) {
	var found []Remedy
	l := h.q.Layout
	if len(l.Attractors) > 0 && slices.Contains([]layout.Backing{"none", "tuft", "sod"}, l.Backing) {
		back := h.change(Backing, 0, func(l *layout.Layout) { l.Backing = "stone" })
		back.To = "stone"
		found = append(found, back)
	}
	if l.Show == "subtle" {
		found = append(found, h.change(DigOut, 0, func(l *layout.Layout) { l.Show = "dug_out" }))
	}
	return append(found, h.facing()...), nil
}

// facing turns a set to where its scent lies across the way for the most of the night.
func (h *helper) facing() []Remedy {
	around := *h.q.Circumstances
	if around.Coverage == nil || len(around.Facings) == 0 {
		return nil
	}
	best := slices.MaxFunc(around.Facings, func(a, b Facing) int {
		if a.Coverage < b.Coverage {
			return -1
		}
		if a.Coverage > b.Coverage {
			return 1
		}
		return 0
	})
	if best.Coverage <= *around.Coverage {
		return nil
	}
	around.Coverage = &best.Coverage
	c := h.change(FaceWay, 0, func(l *layout.Layout) { l.FacingDeg = &best.FacingDeg })
	c.FacingDeg, c.around = &best.FacingDeg, &around
	return []Remedy{c}
}

// callHighMm is how high a call lure hangs, out of the weather.
const callHighMm = 1500.0

// aside is what lies at none of what the animal works, or is brought there: a call lure, high and aside or at the set as its trapper goes by; a scat that
// lies near, moved to it; and a stone to roll on, well aside, for who leads them to one.
func (h *helper) aside() ([]Remedy, error) {
	l := h.q.Layout
	if l.Blind() || len(l.Attractors) == 0 {
		return nil, nil
	}
	has := func(kind layout.SmellKind) bool {
		return slices.ContainsFunc(l.Smells(), func(s layout.Smell) bool { return s.Kind == kind })
	}
	var found []Remedy
	if !has(layout.Call) && l.Refuses(layout.Call) == "" {
		call := layout.Smell{Kind: layout.Call, Name: "call lure", Carrier: "wool", Place: "top"}
		for _, bottle := range h.q.Circumstances.Shelf {
			if bottle.Class == layout.Call && bottle.Doses > 0 {
				call.Name, call.LureID = bottle.Name, bottle.LureID
			}
		}
		c := h.change(CallAside, 0, func(l *layout.Layout) {
			if h.q.Schools.CallLure == "set" {
				l.Attractors[0].Smells = append(l.Attractors[0].Smells, call)
				return
			}
			call.HeightMm = callHighMm
			l.Aside = append(l.Aside, call)
		})
		c.LureID, c.Lure = call.LureID, call.Name
		found = append(found, c)
	}
	near := slices.ContainsFunc(h.q.Circumstances.Site.Near, func(n layout.Nearby) bool { return n.Key == string(layout.Scat) })
	if near && !has(layout.Scat) && l.Refuses(layout.Scat) == "" {
		found = append(found, h.scented(ScatToIt, layout.Smell{Kind: layout.Scat, Name: "scat", Place: "backing"}))
	}
	if h.q.Schools.Rolling == "aside" && !Rolled(l) {
		found = append(found, h.change(RollStone, 0, LayRollStone))
	}
	return found, nil
}

// rollStone is what a stone to roll on is called.
const rollStone = "roll stone"

// LayRollStone lays one well aside.
func LayRollStone(l *layout.Layout) {
	l.Aside = append(l.Aside, layout.Smell{Kind: layout.AnyLure, Name: rollStone, Carrier: "bare", Place: "beside"})
}

// Rolled tells whether one lies there.
func Rolled(l layout.Layout) bool {
	return slices.ContainsFunc(l.Aside, func(s layout.Smell) bool { return s.Name == rollStone })
}

// hands are how it was handled, and patience.
func (h *helper) hands() ([]Remedy, error) {
	var found []Remedy
	if spoil := h.q.Layout.Spoil; spoil == "sides" || spoil == "before" {
		found = append(found, h.change(SoilAway, 0, func(l *layout.Layout) { l.Spoil = "carried_off" }))
	}
	if h.q.Layout.Hands == "bare" {
		found = append(found, h.change(Gloves, 0, func(l *layout.Layout) { l.Hands = "gloves" }))
	}
	if around := *h.q.Circumstances; around.Night < settledNight {
		around.Night = settledNight
		found = append(found, Remedy{Key: Wait, around: &around})
	}
	return found, nil
}

// tensions are pans that are too stiff for the target under what covers them.
func (h *helper) tensions() ([]Remedy, error) {
	var found []Remedy
	for i, r := range h.q.Layout.Rigs {
		window, err := h.windowOf(r)
		if err != nil {
			return nil, err
		}
		if lighter := math.Max(window.MaxN, leastGaugeN); r.Pan != nil && r.Pan.GaugeN > lighter {
			c := h.change(LighterPan, r.Slot, func(l *layout.Layout) { l.Rigs[i].Pan.GaugeN = lighter })
			c.GaugeN = lighter
			found = append(found, c)
		}
	}
	return found, nil
}

// leastGaugeN is as light as a pan can be set, N.
const leastGaugeN = 2.0

func (h *helper) windowOf(r layout.Rig) (pan.WindowOutput, error) {
	cover, err := r.CoverN()
	if err != nil {
		return pan.WindowOutput{}, err
	}
	window, err := windowOf(h.q, cover)
	return window.WindowOutput, err
}

// guides are what steers the feet.
func (h *helper) guides() ([]Remedy, error) {
	var found []Remedy
	l := h.q.Layout
	sticks := func(g layout.Guide) bool { return g.Kind == "stick" || g.Kind == "log" }
	steers := func(g layout.Guide) bool { return !sticks(g) || l.Way == nil }
	if slices.ContainsFunc(l.Guides, func(g layout.Guide) bool { return g.HeightMm != nil && *g.HeightMm > lowGuideMm }) {
		found = append(found, h.change(LowerGuides, 0, func(l *layout.Layout) {
			for i, g := range l.Guides {
				if g.HeightMm != nil && *g.HeightMm > lowGuideMm {
					l.Guides[i].HeightMm = new(lowGuideMm)
				}
			}
		}))
	}
	if slices.ContainsFunc(l.Guides, steers) {
		found = append(found, h.change(NoGuides, 0, func(l *layout.Layout) { *l = l.Unguided() }))
		aside := func(key RemedyKey, by float64) Remedy {
			c := h.change(key, 0, func(l *layout.Layout) {
				for i, g := range l.Guides {
					if steers(g) && g.XMm != 0 {
						l.Guides[i].XMm += math.Copysign(1, g.XMm) * by
					}
				}
			})
			c.XMm = by
			return c
		}
		found = append(found, aside(CloserGuides, -inchMm), aside(WiderGuides, inchMm))
	} else if stones := slices.DeleteFunc(slices.Clone(h.begun.Guides), func(g layout.Guide) bool { return !steers(g) }); len(stones) > 0 {
		found = append(found, h.change(SetGuides, 0, func(l *layout.Layout) { l.Guides = append(l.Guides, stones...) }))
	}
	if l.Way != nil && !slices.ContainsFunc(l.Guides, sticks) {
		if laid := slices.DeleteFunc(slices.Clone(h.begun.Guides), func(g layout.Guide) bool { return !sticks(g) }); len(laid) > 0 {
			found = append(found, h.change(LayStick, 0, func(l *layout.Layout) { l.Guides = append(l.Guides, laid...) }))
		}
	}
	if l.Way != nil && h.begun.Way != nil && l.Way.WidthMm > h.begun.Way.WidthMm {
		found = append(found, h.change(NarrowWay, 0, func(l *layout.Layout) { l.Way.WidthMm = h.begun.Way.WidthMm }))
	}
	if l.Trench != nil && h.begun.Trench != nil && l.Trench.WidthMm > h.begun.Trench.WidthMm {
		found = append(found, h.change(NarrowWay, 0, func(l *layout.Layout) { l.Trench.WidthMm = h.begun.Trench.WidthMm }))
	}
	if len(h.begun.Rigs) > len(l.Rigs) {
		found = append(found, h.change(SecondTrap, len(l.Rigs), func(l *layout.Layout) {
			l.Rigs, l.Anchors = append(l.Rigs, h.begun.Rigs[len(l.Rigs):]...), append(l.Anchors, h.begun.Anchors[min(len(l.Anchors), len(h.begun.Anchors)):]...)
		}))
	}
	return found, nil
}

// anchors are the best change to each anchor that does not hold, of those that hold the heaviest likely about.
func (h *helper) anchors() ([]Remedy, error) {
	held, err := anchor.Of(anchor.Question{Layout: h.q.Layout, Animal: h.q.Target, Soil: h.q.Soil})
	if err != nil {
		return nil, err
	}
	var found []Remedy
	for _, a := range held {
		for _, stronger := range a.Stronger {
			l := stronger.Layout
			if fails, err := h.q.failsHeaviest(l, a.Slot); err != nil || fails {
				if err != nil {
					return nil, err
				}
				continue
			}
			found = append(found, Remedy{Key: Anchor, Slot: a.Slot, To: stronger.Key, Layout: &l, Minutes: stronger.Minutes})
			break
		}
	}
	return found, nil
}

// heaviest is whom the anchors must hold: the heaviest likely about, or the target.
func (q Question) heaviest() animal.Animal {
	if q.Heaviest != nil && anchor.Heavier(*q.Heaviest, q.Target) {
		return *q.Heaviest
	}
	return q.Target
}

// failsHeaviest tells whether an anchor of a set is known to fail the heaviest likely about.
func (q Question) failsHeaviest(l layout.Layout, slot int) (bool, error) {
	held, err := anchor.Of(anchor.Question{Layout: l, Animal: q.heaviest(), Soil: q.Soil})
	return slices.ContainsFunc(held, func(a anchor.Held) bool { return a.Slot == slot && a.Fails() }), err
}

// anchored is a set of which each anchor that fails the heaviest likely about is changed for the best that does not; false where there is
// none that holds.
func (q Question) anchored(l layout.Layout) (layout.Layout, bool, error) {
	for range len(l.Anchors) + 1 {
		held, err := anchor.Of(anchor.Question{Layout: l, Animal: q.heaviest(), Soil: q.Soil})
		if err != nil {
			return l, false, err
		}
		i := slices.IndexFunc(held, anchor.Held.Fails)
		if i < 0 {
			return l, true, nil
		}
		then, ok, err := q.mended(held[i])
		if err != nil || !ok {
			return l, false, err
		}
		l = then
	}
	return l, false, nil
}

// mended is a set with an anchor that fails changed for the best that does not; false where there is none.
func (q Question) mended(a anchor.Held) (layout.Layout, bool, error) {
	for _, stronger := range a.Stronger {
		if fails, err := q.failsHeaviest(stronger.Layout, a.Slot); err != nil || !fails {
			return stronger.Layout, err == nil, err
		}
	}
	return layout.Layout{}, false, nil
}

// around are the places to which a part is moved to see whether it would stand better there: straight by up to so much, and aslant.
func around(mostMm float64) [][2]float64 {
	var found [][2]float64
	for d := inchMm; d <= mostMm; d *= 2 {
		found = append(found, [][2]float64{{d, 0}, {-d, 0}, {0, d}, {0, -d}}...)
	}
	return append(found, [][2]float64{{inchMm, inchMm}, {inchMm, -inchMm}, {-inchMm, inchMm}, {-inchMm, -inchMm}}...)
}

// moves are pans, and sticks across a way, that would lie better elsewhere.
func (h *helper) moves() ([]Remedy, error) {
	var found []Remedy
	for i, r := range h.q.Layout.Rigs {
		if r.Pan == nil || h.q.Layout.Stays(i) {
			continue
		}
		moved, err := h.better(MovePan, r.Slot, around(8*inchMm), func(x, y float64) layout.Layout { return h.q.Layout.WithRigMoved(i, x, y) })
		if err != nil {
			return nil, err
		}
		found = append(found, moved...)
	}
	if h.q.Layout.Way == nil {
		return found, nil
	}
	along := [][2]float64{{inchMm}, {-inchMm}, {2 * inchMm}, {-2 * inchMm}, {alongStick}, {-alongStick}}
	for i, g := range h.q.Layout.Guides {
		if g.Kind != "stick" {
			continue
		}
		moved, err := h.better(MoveStick, i, along, func(x, y float64) layout.Layout {
			l := h.q.Layout.Clone()
			l.Guides[i].XMm += x
			return l
		})
		if err != nil {
			return nil, err
		}
		found = append(found, moved...)
	}
	return found, nil
}

// patterns are the other ways of making a set on the same ground, with what fits of this one.
func (h *helper) patterns() ([]Remedy, error) {
	var found []Remedy
	for _, key := range h.q.Layout.Instead(h.q.Target, h.q.Circumstances.Site) {
		begun, err := layout.New(key, h.begin())
		if err != nil {
			return nil, err
		}
		l, _ := layout.Onto(begun, h.q.Layout)
		l, holds, err := h.q.anchored(l)
		if err != nil {
			return nil, err
		}
		if holds {
			found = append(found, Remedy{Key: OtherPattern, To: key, Layout: &l, Minutes: l.Minutes(h.q.Underfoot)})
		}
	}
	return found, nil
}
