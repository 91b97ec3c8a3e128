// Package odds multiplies the links between an animal that passes and an animal held, for one set, and says what else
// would fire it. Chances are shares of one; a link that cannot be computed yet says so and is never a constant.
package odds

import (
	"slices"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/bed"
	"oldburrow/core/hole"
	"oldburrow/core/layout"
	"oldburrow/core/pan"
	"oldburrow/core/schools"
)

// Version names this computation; a stored answer of another version is not comparable.
const Version = 6

// LinkKey names a link of the chain.
type LinkKey string

// The links of the chain.
const (
	Passes  LinkKey = "passes"
	Notices LinkKey = "notices"
	Commits LinkKey = "commits"
	Steps   LinkKey = "steps"
	Fires   LinkKey = "fires"
	Held    LinkKey = "held"
)

// LinkKeys lists the links in their order.
var LinkKeys = []LinkKey{Passes, Notices, Commits, Steps, Fires, Held}

// Link is one link of the chain. Chance holds only where Known.
type Link struct {
	Key    LinkKey `json:"key"`
	Known  bool    `json:"known"`
	Chance float64 `json:"chance"`
}

// Question asks what a layout is worth for a target: whom its pans should spare, on what ground, by how many visits, with the chance map
// or without.
type Question struct {
	Layout    layout.Layout
	Target    animal.Animal
	Animals   animal.Animals  // all that the line knows
	Schools   schools.Schools // what its trapper goes by
	Spares    []animal.Animal
	Underfoot layout.Underfoot
	Soil      anchor.Soil // what its anchors stand in
	// Circumstances are those of the whole chain; nil where it is not asked for.
	Circumstances *Circumstances
	Visits        int
	Seed          uint64 // nought is the usual one
	Map           bool
	// Heaviest is the heaviest animal likely about, which the anchors must hold too; nil where that is the target.
	Heaviest *animal.Animal
	// Hold is how likely what is caught is held, where that is not to be asked of the anchors; nil: they are asked.
	Hold *float64

	other bool // it is asked of an animal that the set is not made for
	// unlured leaves out how its lures stand to place and season: a pattern is asked about, and the lure is still to be chosen.
	unlured bool
	over    int // over how many nights from this one it is told; 0: of this one alone
}

// Answer is what the bench shows of a layout for its target. Feet is nil for a device that closes a loop, of which no footfall is
// claimed.
type Answer struct {
	Version  int              `json:"version"`
	Visits   int              `json:"visits"`
	Chain    []Link           `json:"chain"`
	Weakest  LinkKey          `json:"weakest"` // the key of the weakest known link, blank where none is known
	Feet     *Feet            `json:"feet" jsonschema:"nullable"`
	Rigs     []RigAnswer      `json:"rigs"`
	Anchors  []anchor.Held    `json:"anchors"`
	Heaviest *Heavier         `json:"heaviest,omitempty"` // where a heavier animal than the target is likely about
	Pets     []PetPull        `json:"pets"`               // that were noted near and pull harder than whom the anchors must hold
	Whole    *Chances         `json:"whole,omitempty"`    // the whole chain, where circumstances were said
	Standoff *hole.Output     `json:"standoff,omitempty"`
	Sight    layout.Sight     `json:"sight"`
	Minutes  float64          `json:"minutes"` // to build it on that day
	Along    []layout.Along   `json:"along"`   // what is moved together
	Remarks  []layout.Remark  `json:"remarks"`
	Poor     bool             `json:"poor"`  // the pattern is poor for the target
	Never    []layout.Refusal `json:"never"` // what it is never scented with
}

// Heavier is how the anchors hold a heavier animal than the target that is likely about.
type Heavier struct {
	Species string        `json:"species"`
	Anchors []anchor.Held `json:"anchors"`
}

// PetPull is how hard a dog or a cat pulls on the longest chain of a set, N. It bars no anchor.
type PetPull struct {
	Species string  `json:"species"`
	DemandN float64 `json:"demandN"`
}

// RigAnswer is what is computed of a trap with a pan, by its slot: the bed that it takes, what its cover adds to the gauge, its window,
// and what its place gives as a share of the best place, where there is a map that reaches there.
type RigAnswer struct {
	Slot       int         `json:"slot"`
	Bed        bed.Output  `json:"bed"`
	CoverAddsN float64     `json:"coverAddsN"`
	EffectiveN float64     `json:"effectiveN"`
	Verdict    pan.Verdict `json:"verdict"` // on the pan's setting
	Window     Window      `json:"window"`
	OfBest     *float64    `json:"ofBest,omitempty"`
}

// Window is the gauge settings between which the target fires and the animals to spare do not.
type Window struct {
	pan.WindowOutput
	Spares       []string `json:"spares"`
	TargetChance float64  `json:"targetChance"`
	AvoidChance  float64  `json:"avoidChance"`
}

func windowOf(q Question, coverN float64) (Window, error) {
	in, spares := pan.WindowDefaults(), q.Spares
	in.Targets, in.Avoid, in.CoverN, in.Footing, in.TradeN = []animal.Animal{q.Target}, spares, coverN, q.Layout.OnFooting(), q.Target.Habit.PanN
	out, err := pan.Window(in)
	keys := make([]string, len(spares))
	for i, a := range spares {
		keys[i] = a.Key
	}
	return Window{out, keys, in.TargetChance, in.AvoidChance}, err
}

// Of computes the answer to a question. It refuses what the layout has wrong. The visits are shared among the ways to come to the set.
func Of(q Question) (Answer, error) {
	ways, err := Comings(q.Layout, q.Target, q.Visits)
	if err != nil {
		return Answer{}, err
	}
	found := Answer{
		Version: Version, Visits: q.Visits, Rigs: []RigAnswer{},
		Sight: q.Layout.Sight(q.Target, q.site()), Minutes: q.Layout.Minutes(q.Underfoot), Along: q.Layout.Along(),
		Remarks: q.Layout.Remarks(q.Target, q.Underfoot), Poor: q.Layout.Poor(q.Target), Never: q.Layout.Never(),
	}
	if found.Feet, err = walk(q, ways); err != nil {
		return Answer{}, err
	}
	for _, r := range q.Layout.Rigs {
		if r.Pan == nil {
			continue
		}
		rig, err := rigOf(q, r)
		if err != nil {
			return Answer{}, err
		}
		rig.OfBest = found.Feet.ofBest(*r.Pan)
		found.Rigs = append(found.Rigs, rig)
	}
	if found.Standoff, err = standoff(q); err != nil {
		return Answer{}, err
	}
	if found.Anchors, err = anchor.Of(anchor.Question{Layout: q.Layout, Animal: q.Target, Soil: q.Soil}); err != nil {
		return Answer{}, err
	}
	if found.Heaviest, err = heavier(q); err != nil {
		return Answer{}, err
	}
	if found.Pets, err = pets(q); err != nil {
		return Answer{}, err
	}
	found.Chain = chain(found.Feet, q.holdTonight(found.Anchors, found.Feet))
	found.Weakest = weakest(found.Chain)
	return found, found.withChain(q)
}

// site is what is known of the place; without circumstances only whether snow lies.
func (q Question) site() layout.Site {
	if q.Circumstances != nil {
		return q.Circumstances.Site
	}
	if q.Underfoot.Snow {
		return layout.Site{SnowMm: new(layout.SnowyMm)}
	}
	return layout.Site{}
}

// heavier is how the anchors hold the heaviest animal likely about, where that is heavier than the target.
func heavier(q Question) (*Heavier, error) {
	if q.Heaviest == nil || !anchor.Heavier(*q.Heaviest, q.Target) {
		return nil, nil
	}
	held, err := anchor.Of(anchor.Question{Layout: q.Layout, Animal: *q.Heaviest, Soil: q.Soil})
	return &Heavier{q.Heaviest.Key, held}, err
}

func pets(q Question) ([]PetPull, error) {
	found := []PetPull{}
	if q.Circumstances == nil {
		return found, nil
	}
	for _, a := range q.Animals {
		if !slices.Contains(q.Circumstances.Pets, a.Key) || !anchor.Heavier(a, q.heaviest()) {
			continue
		}
		held, err := anchor.Of(anchor.Question{Layout: q.Layout, Animal: a, Soil: q.Soil})
		if err != nil {
			return nil, err
		}
		pull := PetPull{Species: a.Key}
		for _, h := range held {
			pull.DemandN = max(pull.DemandN, h.DemandN)
		}
		found = append(found, pull)
	}
	return found, nil
}

// withChain adds the whole chain, where it is asked for: its links take the place of those that only the feet give.
func (a *Answer) withChain(q Question) error {
	if q.Circumstances == nil || a.Feet == nil {
		return nil
	}
	firm, err := firmFeet(q, a.Feet)
	if err != nil {
		return err
	}
	found, err := chances(q, firm, q.holdTonight(a.Anchors, firm))
	if err != nil || found == nil {
		return err
	}
	a.Whole, a.Weakest, a.Chain = found, found.Weakest, []Link{}
	for _, link := range found.Links {
		a.Chain = append(a.Chain, Link{Key: link.Key, Known: true, Chance: link.Mid})
	}
	return nil
}

// standoff is from where what lies in the set's hole is seen: in the one with bait, or else the first; nil without a hole.
func standoff(q Question) (*hole.Output, error) {
	var looked *layout.Hole
	for _, a := range q.Layout.Attractors {
		if a.Hole == nil {
			continue
		}
		if looked == nil {
			looked = a.Hole
		}
		if slices.ContainsFunc(a.Smells, layout.Smell.IsBait) {
			looked = a.Hole
			break
		}
	}
	if looked == nil {
		return nil, nil
	}
	seen, err := hole.Standoff(q.Target, hole.Input{HoleDiameterMm: looked.DiameterMm, HoleDepthMm: looked.DepthMm, HoleAngleDeg: looked.AngleDeg})
	return &seen, err
}

func rigOf(q Question, r layout.Rig) (RigAnswer, error) {
	found := RigAnswer{Slot: r.Slot}
	var err error
	if found.Bed, err = q.Layout.BedOf(r); err != nil {
		return found, err
	}
	if found.CoverAddsN, err = r.CoverN(); err != nil {
		return found, err
	}
	found.EffectiveN = pan.Effective(r.Pan.GaugeN, found.CoverAddsN)
	fires, err := pan.Fire(q.Target, found.EffectiveN, q.Layout.OnFooting())
	if err != nil {
		return found, err
	}
	found.Window, err = windowOf(q, found.CoverAddsN)
	found.Verdict = found.Window.Verdict(r.Pan.GaugeN, 1-fires)
	return found, err
}

func chain(feet *Feet, anchorHolds *float64) []Link {
	steps, fires, held := Link{Key: Steps}, Link{Key: Fires}, Link{Key: Held}
	if feet != nil {
		steps.Known, steps.Chance = true, feet.Step
		if feet.Step > 0 {
			fires.Known, fires.Chance = true, feet.Fire/feet.Step
		}
	}
	if feet != nil && feet.Fire > 0 && anchorHolds != nil {
		held.Known, held.Chance = true, heldBy(*anchorHolds, feet.PadShare)
	}
	return []Link{{Key: Passes}, {Key: Notices}, {Key: Commits}, steps, fires, held}
}

// weakest is the known link with the lowest chance; passes are a rate and no link.
func weakest(chain []Link) LinkKey {
	found := Link{Chance: 2}
	for _, link := range chain {
		if link.Known && link.Chance < found.Chance {
			found = link
		}
	}
	return found.Key
}
