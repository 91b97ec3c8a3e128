package odds

import (
	"cmp"
	"math"
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/footfall"
	"oldburrow/core/layout"
	"oldburrow/core/pan"
)

// Feet is what becomes of a visit in which the animal works the set or walks its way: the chances to step on a pan and to fire it, the
// share of pads among what fired it, the chance to be frightened off by a bed that gives; and where the feet fall.
type Feet struct {
	Step      float64        `json:"step"`
	Fire      float64        `json:"fire"`
	PadShare  float64        `json:"padShare"`
	Spooked   float64        `json:"spooked"`
	SpreadDeg float64        `json:"spreadDeg"` // of the way in; 0 where the animal only passes
	Work      float64        `json:"work"`      // mean re-placings of a forefoot that this was computed with
	Paws      []Paw          `json:"paws"`
	Map       *footfall.Map  `json:"map,omitempty"`
	Best      *footfall.Best `json:"best,omitempty"`

	byRig []float64 // the chance to fire each rig with a pan, in their order
	held  strata    // how many of the visits an anchor that never gives would hold; not of a map's run
}

// Paw is a forefoot where a middling animal of the target's kind, alone on bare ground, would put it: walking in, then
// standing at the attractor, or walking by; with how its toes point, from the set's −y toward its +x.
type Paw struct {
	XMm      float64 `json:"xMm"`
	YMm      float64 `json:"yMm"`
	TurnDeg  float64 `json:"turnDeg"`
	LengthMm float64 `json:"lengthMm"`
	WidthMm  float64 `json:"widthMm"`
	Standing bool    `json:"standing"`
}

// Figures of the paws that are drawn, as shares.
const (
	secondFoot  = 0.10 // of the shoulder: how much farther back the second forefoot stands
	beyondStick = 0.40 // of a step: where a foot comes down beyond a stick
)

// pawsOf are the paws of one way to come to the set, on the set's plan.
func pawsOf(a animal.Animal, t layout.Coming) []Paw {
	paw := func(x, y float64, standing bool) Paw {
		x, y = t.Approach.Axes.At(x, y)
		return Paw{x, y, -t.Approach.Axes.FacingDeg, a.PadLength, a.PadWidth, standing}
	}
	if t.Approach.Approach == footfall.Stand {
		return []Paw{
			paw(a.Track.Mean, a.Reach.Mean+2*a.Step.Mean, false),
			paw(-a.Track.Mean, a.Reach.Mean+a.Step.Mean, false),
			paw(a.Half.Mean, a.Reach.Mean, true),
			paw(-a.Half.Mean, a.Reach.Mean+secondFoot*a.ShoulderMm, true),
		}
	}
	var paws []Paw
	for k := -2; k <= 1; k++ {
		side := a.Track.Mean
		if k%2 != 0 {
			side = -side
		}
		step := paw((float64(k)+beyondStick)*a.Step.Mean, side, false)
		step.TurnDeg += 90 // it walks the way, and does not come to it
		paws = append(paws, step)
	}
	return paws
}

// firmFeet is what becomes of the visits on a firm bed, where the feet as it lies are known: in the chain a loose bed counts once, by its
// term.
func firmFeet(q Question, feet *Feet) (*Feet, error) {
	if !slices.ContainsFunc(q.Layout.Rigs, func(r layout.Rig) bool { return !r.IsFirm() }) {
		return feet, nil
	}
	q.Layout, q.Map = firmed(q.Layout), false
	return feetOf(q)
}

// feetOf is what becomes of the visits to a set; nil where none are claimed.
func feetOf(q Question) (*Feet, error) {
	ways, err := Comings(q.Layout, q.Target, q.Visits)
	if err != nil {
		return nil, err
	}
	return walk(q, ways)
}

// walk simulates every way to come to the set, and sums them by their shares; nil where there is none.
func walk(q Question, ways []Coming) (*Feet, error) {
	if len(ways) == 0 {
		return nil, nil
	}
	found, padded := &Feet{Paws: []Paw{}}, 0.0
	for i, way := range ways {
		in := way.Feet
		in.Seed = cmp.Or(q.Seed, in.Seed) + uint64(i)
		if in.Map = q.Map; in.Visits > 0 {
			in.Visits = max(1, int(math.Round(way.Share*float64(in.Visits))))
		}
		feet, err := footfall.Simulate(q.Target, in)
		if err != nil {
			return nil, err
		}
		found.Step += way.Share * feet.Step
		found.Fire += way.Share * feet.Fire
		found.Spooked += way.Share * feet.Spooked
		padded += way.Share * feet.Fire * feet.PadShare
		if found.byRig == nil {
			found.byRig = make([]float64, len(feet.ByPan))
		}
		for k, fired := range feet.ByPan {
			found.byRig[k] += way.Share * float64(fired) / float64(in.Visits)
		}
		found.draw(way.Share, feet.Map)
		if !q.Map {
			found.add(way.Share, feet.Blocks)
		}
		if i == 0 && in.Approach == footfall.Stand {
			found.SpreadDeg, found.Work = in.SpreadDeg, *in.Work
		}
		found.Paws = append(found.Paws, pawsOf(q.Target, way.Coming)...)
	}
	if found.Fire > 0 {
		found.PadShare = padded / found.Fire
	}
	if found.Map != nil {
		best := found.Map.Best()
		if found.Best = &best; q.Visits <= fewVisits {
			found.Map = found.Map.Coarser()
		}
	}
	return found, nil
}

// fewVisits tell no map finer than of every second cell: a bench that follows a hand asks for no more.
const fewVisits = 2000

// add adds what would be held of a share of the visits.
func (found *Feet) add(share float64, blocks []footfall.Block) {
	s := stratum{share: share}
	for _, b := range blocks {
		s.visits = append(s.visits, float64(b.Visits))
		s.held = append(s.held, (float64(b.Pad)+toeHolds*float64(b.Fire-b.Pad))/float64(b.Visits))
	}
	found.held = append(found.held, s)
}

// draw adds the map of a share of the visits.
func (found *Feet) draw(share float64, m *footfall.Map) {
	switch {
	case m == nil:
	case share == 1:
		found.Map = m
	default:
		if found.Map == nil {
			none := *m
			none.Chance = make([]float64, len(m.Chance))
			found.Map = &none
		}
		found.Map.Add(m, share)
	}
}

// ofBest is what a pan's place gives as a share of the best; nil where that is not mapped.
func (found *Feet) ofBest(p layout.Pan) *float64 {
	if found.Map == nil || found.Best.Chance == 0 {
		return nil
	}
	chance, ok := found.Map.At(p.XMm, p.YMm)
	if !ok {
		return nil
	}
	share := math.Min(1, chance/found.Best.Chance)
	return &share
}

// toeForce is what a toe presses with, as a share of a pad: a heavier pan means fewer toe holds. A judgement.
const toeForce = 0.6

// Coming is one way in which a share of an animal's visits comes to the set, as the footfall simulation takes it.
type Coming struct {
	layout.Coming
	Feet footfall.Input
}

// Comings puts a layout the way the footfall simulation takes it; there are none to a device. It refuses what the layout has wrong.
func Comings(l layout.Layout, a animal.Animal, visits int) ([]Coming, error) {
	if err := l.Check(); err != nil {
		return nil, err
	}
	work := a.Work * l.Lingers()
	var found []Coming
	for _, came := range l.Comings(a) {
		in := came.Approach
		in.Visits, in.ToeForce = visits, toeForce
		if in.Approach == footfall.Stand {
			in.Work, in.Guides = &work, append(slices.Clone(in.Guides), guidesOn(l, came)...)
		}
		for _, r := range l.Rigs {
			pan, err := panOn(r, came)
			if err != nil {
				return nil, err
			}
			in.Pans = append(in.Pans, pan)
		}
		found = append(found, Coming{came, in})
	}
	return found, nil
}

// LeastVisits is by how many visits changes of a set can be weighed at least: of each way to come to it, by two blocks that can differ.
func LeastVisits(l layout.Layout, a animal.Animal) (int, error) {
	ways, err := Comings(l, a, 1)
	return 2 * footfall.BlockVisits * len(ways), err
}

// panOn is the pan of a rig in the axes of an approach.
func panOn(r layout.Rig, t layout.Coming) (footfall.Pan, error) {
	cover, err := r.CoverN()
	if err != nil {
		return footfall.Pan{}, err
	}
	jaws, tension, firm := r.JawsMm(), pan.Effective(r.Pan.GaugeN, cover), r.IsFirm()
	x, y := t.Approach.Axes.On(r.Pan.XMm, r.Pan.YMm)
	return footfall.Pan{XMm: x, YMm: y, DiameterMm: r.Pan.DiameterMm, JawSpreadMm: &jaws, TensionN: &tension, Firm: &firm}, nil
}

func guidesOn(l layout.Layout, t layout.Coming) []footfall.Guide {
	var found []footfall.Guide
	for _, g := range l.Guides {
		if g.Kind == layout.Landing { // a foot comes down on it
			continue
		}
		for _, disc := range g.Discs() {
			disc.XMm, disc.YMm = t.Approach.Axes.On(disc.XMm, disc.YMm)
			found = append(found, disc)
		}
	}
	return found
}
