// Package odds multiplies the links between an animal that passes and an animal held, for one set, and says what else
// would fire it. Chances are shares of one; a link that cannot be computed yet says so and is never a constant.
package odds

import (
	"cmp"
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/bed"
	"oldburrow/core/footfall"
	"oldburrow/core/hole"
	"oldburrow/core/layout"
	"oldburrow/core/pan"
)

// Version names this computation; a stored answer of another version is not comparable.
const Version = 2

// Link is one link of the chain. Chance holds only where Known.
type Link struct {
	Key    string  `json:"key"`
	Known  bool    `json:"known"`
	Chance float64 `json:"chance"`
}

// Answer is what the bench shows of a layout for its target.
type Answer struct {
	Version    int            `json:"version"`
	Visits     int            `json:"visits"`
	Chain      []Link         `json:"chain"`
	Weakest    string         `json:"weakest"` // the key of the weakest known link
	Step       float64        `json:"step"`    // of visits in which the animal works the set
	Fire       float64        `json:"fire"`
	PadShare   float64        `json:"padShare"`
	Spooked    float64        `json:"spooked"`
	CoverAddsN float64        `json:"coverAddsN"`
	Window     Window         `json:"window"`
	EffectiveN float64        `json:"effectiveN"`
	SpreadDeg  float64        `json:"spreadDeg"`
	Work       float64        `json:"work"` // mean re-placings of a forefoot that this was computed with
	Bed        bed.Output     `json:"bed"`
	Standoff   hole.Output    `json:"standoff"`
	Paws       []Paw          `json:"paws"`
	Map        *footfall.Map  `json:"map,omitempty"`
	Best       *footfall.Best `json:"best,omitempty"`
}

// Paw is a forefoot where a middling animal of the target's kind, alone on bare ground, would put it: walking in, then
// standing at the attractor.
type Paw struct {
	XMm      float64 `json:"xMm"`
	YMm      float64 `json:"yMm"`
	LengthMm float64 `json:"lengthMm"`
	WidthMm  float64 `json:"widthMm"`
	Standing bool    `json:"standing"`
}

// secondFoot is how much farther back the second forefoot stands, as a share of the shoulder.
const secondFoot = 0.10

func pawsOf(a animal.Animal) []Paw {
	paw := func(x, y float64, standing bool) Paw { return Paw{x, y, a.PadLength, a.PadWidth, standing} }
	return []Paw{
		paw(a.Track.Mean, a.Reach.Mean+2*a.Step.Mean, false),
		paw(-a.Track.Mean, a.Reach.Mean+a.Step.Mean, false),
		paw(a.Half.Mean, a.Reach.Mean, true),
		paw(-a.Half.Mean, a.Reach.Mean+secondFoot*a.ShoulderMm, true),
	}
}

// Window is the gauge settings between which the target fires and the animal that most sets are kept from does not.
type Window struct {
	pan.WindowOutput
	Spares       string  `json:"spares"`
	TargetChance float64 `json:"targetChance"`
	AvoidChance  float64 `json:"avoidChance"`
}

// spared is the small animal that a pan is set heavy for.
const spared = "skunk"

func windowOf(target string, coverN float64) (Window, error) {
	in := pan.WindowDefaults()
	in.Targets, in.Avoid, in.CoverN = []string{target}, []string{spared}, coverN
	out, err := pan.Window(in)
	return Window{out, spared, in.TargetChance, in.AvoidChance}, err
}

// Of computes the answer for a target by a number of visits; withMap adds the chance map. It refuses what the layout or the
// animal's name has wrong.
func Of(l layout.Layout, target string, visits int, withMap bool) (Answer, error) {
	in, err := Footfall(l, target, visits)
	if err != nil {
		return Answer{}, err
	}
	in.Map = withMap
	feet, err := footfall.Simulate(in)
	if err != nil {
		return Answer{}, err
	}
	dug, err := l.DugBed()
	if err != nil {
		return Answer{}, err
	}
	a, err := animal.ByKey(target)
	if err != nil {
		return Answer{}, err
	}
	seen, err := hole.Standoff(hole.Input{Species: target, HoleDiameterMm: l.Hole.DiameterMm, HoleDepthMm: l.Hole.DepthMm, HoleAngleDeg: l.Hole.AngleDeg})
	if err != nil {
		return Answer{}, err
	}
	cover, err := coverAdds(l)
	if err != nil {
		return Answer{}, err
	}
	window, err := windowOf(target, cover)
	if err != nil {
		return Answer{}, err
	}
	found := Answer{
		Window:  window,
		Version: Version, Visits: visits,
		Step: feet.Step, Fire: feet.Fire, PadShare: feet.PadShare, Spooked: feet.Spooked,
		CoverAddsN: cover, EffectiveN: in.TensionN, SpreadDeg: in.SpreadDeg, Work: *in.Work,
		Bed: dug, Standoff: seen, Paws: pawsOf(a), Map: feet.Map, Best: feet.Best,
	}
	found.Chain = chain(feet)
	found.Weakest = weakest(found.Chain)
	return found, nil
}

func chain(feet footfall.Output) []Link {
	fires := Link{Key: "fires"}
	if feet.Step > 0 {
		fires.Known, fires.Chance = true, feet.Fire/feet.Step
	}
	return []Link{
		{Key: "passes"}, {Key: "notices"}, {Key: "commits"},
		{Key: "steps", Known: true, Chance: feet.Step}, fires,
		{Key: "held"},
	}
}

// weakest is the known link with the lowest chance; passes are a rate and no link.
func weakest(chain []Link) string {
	found := Link{Chance: 2}
	for _, link := range chain {
		if link.Known && link.Chance < found.Chance {
			found = link
		}
	}
	return found.Key
}

// Other is an animal that the set is not meant for, and how often it would fire it, of visits in which it works the set.
type Other struct {
	Species string  `json:"species"`
	Fire    float64 `json:"fire"`
}

// Others computes how often every other animal would fire the set, the likeliest first.
func Others(l layout.Layout, target string, visits int) ([]Other, error) {
	var found []Other
	for _, a := range animal.All {
		if a.Key == target {
			continue
		}
		in, err := Footfall(l, a.Key, visits)
		if err != nil {
			return nil, err
		}
		feet, err := footfall.Simulate(in)
		if err != nil {
			return nil, err
		}
		found = append(found, Other{Species: a.Key, Fire: feet.Fire})
	}
	slices.SortStableFunc(found, func(a, b Other) int { return cmp.Compare(b.Fire, a.Fire) })
	return found, nil
}

// toeForce is what a toe presses with, as a share of a pad: a heavier pan means fewer toe holds. A judgement.
const toeForce = 0.6

// Footfall puts a layout the way the footfall simulation takes it.
func Footfall(l layout.Layout, species string, visits int) (footfall.Input, error) {
	if err := l.Check(); err != nil {
		return footfall.Input{}, err
	}
	a, err := animal.ByKey(species)
	if err != nil {
		return footfall.Input{}, err
	}
	cover, err := coverAdds(l)
	if err != nil {
		return footfall.Input{}, err
	}
	work := a.Work * l.Hold()
	in := footfall.Defaults()
	in.Species, in.Approach, in.Visits = species, footfall.Stand, visits
	in.Pans = []footfall.Pan{{XMm: l.Pan.XMm, YMm: l.Pan.YMm, DiameterMm: l.Pan.DiameterMm}}
	in.ToeForce = toeForce
	in.JawSpreadMm, in.Firm = l.Trap.JawSpreadMm, l.Bed.Firm
	in.TensionN = pan.Effective(l.Pan.GaugeN, cover)
	in.SpreadDeg, in.Work = l.SpreadDeg(), &work
	for _, g := range l.Guides {
		in.Guides = append(in.Guides, footfall.Guide{XMm: g.XMm, YMm: g.YMm, RMm: g.RMm})
	}
	return in, nil
}

func coverAdds(l layout.Layout) (float64, error) {
	out, err := pan.Cover(pan.CoverInput{Material: l.Cover.Material, ThicknessMm: l.Cover.ThicknessMm, PanDiameterMm: l.Pan.DiameterMm})
	return out.AddsN, err
}
