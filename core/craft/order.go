// Package craft is about the work of the hands at a set: in which order it is built, and what goes wrong in another.
package craft

import (
	"cmp"
	"fmt"
	"slices"

	"oldburrow/core/refuse"
)

// Step is one step of building a set, by its key.
type Step string

// Steps that rules speak of by name.
const (
	cleanGloves Step = "clean_gloves"
	lureGloves  Step = "lure_gloves"
	bareHands   Step = "bare_hands"
	anchored    Step = "anchor"
	pulled      Step = "pull_anchor"
	placed      Step = "place_trap"
	firmed      Step = "firm"
	latched     Step = "latch"
	panCovered  Step = "pan_cover"
	panMarked   Step = "mark_pan"
	dug         Step = "hole"
	sifted      Step = "sift"
	lookedBack  Step = "look_back"
)

// Steps by what the hands are at.
var (
	onHands  = []Step{cleanGloves, lureGloves, bareHands}
	onMetal  = []Step{anchored, pulled, placed, "set_trap", firmed, latched, panCovered}
	onGround = []Step{"mat", "bed", dug, "guides", panMarked}
	onCover  = []Step{sifted, "blend"}
	onScent  = []Step{"lure", "bait", "urine"}
)

// Steps lists them.
var Steps = slices.Concat(onHands, onMetal, onGround, onCover, onScent, []Step{lookedBack})

// OrderInput is an order of building, and what its trapper goes by.
type OrderInput struct {
	Steps   []Step       `json:"steps"`
	Schools OrderSchools `json:"schools"`
}

// OrderSchools are gloves or bare hands, and the attractor or the trap first.
type OrderSchools struct {
	Hands      string `json:"hands"`
	BuildOrder string `json:"buildOrder"`
}

// Fault is a rule that an order breaks, and at which step, counted from 0; what is missed at the end stands at the number of steps.
type Fault struct {
	Rule Rule `json:"rule"`
	At   int  `json:"at"`
}

// OrderOutput are the faults of an order, by where they stand.
type OrderOutput struct {
	Faults []Fault `json:"faults"`
}

// Rule is a rule of the order, by its key.
type Rule string

// The rules, in the order in which those of one step are told.
const (
	BareOnMetal          Rule = "bare_on_metal"
	ScentToMetal         Rule = "scent_to_metal"
	ScentInCleanGloves   Rule = "scent_in_clean_gloves"
	ScentBeforeCover     Rule = "scent_before_cover"
	AnchorLate           Rule = "anchor_late"
	AnchorNotPulled      Rule = "anchor_not_pulled"
	LatchedBeforeFirm    Rule = "latched_before_firm"
	CoveredBeforeFirm    Rule = "covered_before_firm"
	NoPanCover           Rule = "no_pan_cover"
	PanLost              Rule = "pan_lost"
	HoleAfterTrap        Rule = "hole_after_trap"
	NoLookBack           Rule = "no_look_back"
	handsBare, gloves         = "bare", "gloves"
	attractorFirst, trap      = "attractor", "trap"
)

// Rules lists them.
var Rules = []Rule{
	BareOnMetal, ScentToMetal, ScentInCleanGloves, ScentBeforeCover, AnchorLate, AnchorNotPulled, LatchedBeforeFirm, CoveredBeforeFirm, NoPanCover, PanLost, HoleAfterTrap, NoLookBack,
}

// Order says what an order of building gets wrong. It refuses steps that are not known or come twice, but for the hands, and schools that are none.
func Order(in OrderInput) (OrderOutput, error) {
	var p refuse.Problems
	for i, step := range in.Steps {
		at := fmt.Sprintf("steps[%d]", i)
		refuse.OneOf(&p, at, step, Steps)
		if !slices.Contains(onHands, step) && slices.Contains(in.Steps[:i], step) {
			p.Add(at, "%s is there twice", step)
		}
	}
	refuse.OneOf(&p, "schools.hands", in.Schools.Hands, []string{gloves, handsBare})
	refuse.OneOf(&p, "schools.buildOrder", in.Schools.BuildOrder, []string{attractorFirst, trap})
	if err := p.Err(); err != nil {
		return OrderOutput{}, err
	}
	o := order{in: in, faults: []Fault{}}
	o.hands()
	o.parts()
	slices.SortStableFunc(o.faults, func(a, b Fault) int {
		return cmp.Or(cmp.Compare(a.At, b.At), cmp.Compare(slices.Index(Rules, a.Rule), slices.Index(Rules, b.Rule)))
	})
	return OrderOutput{o.faults}, nil
}

type order struct {
	in     OrderInput
	faults []Fault
}

func (o *order) fault(rule Rule, at int) { o.faults = append(o.faults, Fault{rule, at}) }

// at is where a step stands; below 0 where it is not there.
func (o *order) at(step Step) int { return slices.Index(o.in.Steps, step) }

// before tells whether a step stands before another place.
func (o *order) before(step Step, at int) bool {
	i := o.at(step)
	return i >= 0 && i < at
}

// hands goes through what the hands carry from step to step.
func (o *order) hands() {
	hands, scented := bareHands, false
	placedAt, siftedAt := o.at(placed), o.at(sifted)
	for i, step := range o.in.Steps {
		switch {
		case slices.Contains(onHands, step):
			hands = step
			scented = scented && step != cleanGloves
		case slices.Contains(onMetal, step), slices.Contains(onCover, step):
			bare := hands == lureGloves || hands == bareHands && o.in.Schools.Hands == gloves
			if scented {
				o.fault(ScentToMetal, i)
			} else if bare {
				o.fault(BareOnMetal, i)
			}
		case slices.Contains(onScent, step):
			scented = true
			if hands == cleanGloves && o.in.Schools.Hands == gloves {
				o.fault(ScentInCleanGloves, i)
			}
			if placedAt >= 0 && placedAt < i && (siftedAt < 0 || i < siftedAt) {
				o.fault(ScentBeforeCover, i)
			}
		}
	}
}

// parts goes through what has to come before what.
func (o *order) parts() {
	end := len(o.in.Steps)
	siftedAt, anchoredAt := o.at(sifted), o.at(anchored)
	covered := siftedAt
	if covered < 0 {
		covered = end
	}
	if anchoredAt >= 0 {
		if o.before(placed, anchoredAt) {
			o.fault(AnchorLate, anchoredAt)
		}
		if pulledAt := o.at(pulled); pulledAt < anchoredAt || pulledAt >= covered {
			o.fault(AnchorNotPulled, covered)
		}
	}
	if at := o.at(latched); at >= 0 && !o.before(firmed, at) {
		o.fault(LatchedBeforeFirm, at)
	}
	if siftedAt >= 0 {
		o.covers(siftedAt)
	}
	if at := o.at(dug); at >= 0 && o.before(placed, at) && o.in.Schools.BuildOrder == attractorFirst {
		o.fault(HoleAfterTrap, at)
	}
	if end == 0 || o.in.Steps[end-1] != lookedBack {
		o.fault(NoLookBack, end)
	}
}

// covers is what has to be done before the cover goes on, and what finds the pan no more after it.
func (o *order) covers(siftedAt int) {
	if !o.before(firmed, siftedAt) {
		o.fault(CoveredBeforeFirm, siftedAt)
	}
	if !o.before(panCovered, siftedAt) {
		o.fault(NoPanCover, siftedAt)
	}
	if o.before(panMarked, siftedAt) {
		return
	}
	seeks := slices.Concat(onScent, []Step{dug, "guides"})
	if i := slices.IndexFunc(o.in.Steps[siftedAt:], func(step Step) bool { return slices.Contains(seeks, step) }); i >= 0 {
		o.fault(PanLost, siftedAt+i)
	}
}
