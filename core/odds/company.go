package odds

import (
	"cmp"
	"context"
	"math"
	"slices"
	"time"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
)

// Other is an animal that comes to the same set: how often it would fire it, of visits in which it works the set; and how many would be
// caught in 100 set-nights, by who is about, where circumstances were said.
type Other struct {
	Species string  `json:"species"`
	Fire    float64 `json:"fire"`
	Per100  *Range  `json:"per100" jsonschema:"nullable"`
	// Unlooked: nobody looked for its sign, and no figure is told of it.
	Unlooked bool `json:"unlooked"`

	expected float64 // in 100 set-nights, told or not
	pet      bool
}

// Company is who else would be caught at a set, and what all that a line is set for come to, the target among them, where circumstances
// were said.
type Company struct {
	Others  []Other `json:"others"`
	Targets *Range  `json:"targets" jsonschema:"nullable"`
	Pets    *Pets   `json:"pets,omitempty"` // where they come by and are many for the target
}

// Pets are how many dogs and cats a set would catch in 100 set-nights, and how many of its target.
type Pets struct {
	Per100       float64 `json:"per100"`
	TargetPer100 float64 `json:"targetPer100"`
}

// manyPets is from how many dogs and cats for each of the target on it is said before a set is built. A judgement.
const manyPets = .5

// petsOf are the dogs and cats among the others, where they were noted near or live near, and are many.
func petsOf(q Question, own Other, others []Other) *Pets {
	if own.Per100 == nil || len(q.Circumstances.Pets) == 0 && !q.Circumstances.Dwelling {
		return nil
	}
	found := &Pets{TargetPer100: q.doubted(*own.Per100).Mid}
	for _, o := range others {
		if o.pet && o.Per100 != nil {
			found.Per100 += o.Per100.Mid
		}
	}
	if found.Per100 <= manyPets*found.TargetPer100 {
		return nil
	}
	return found
}

// CompanyOf computes who else would be caught: pets first, then who should be spared, then the others; of each the likeliest first. There
// is nobody at a device, of which no footfall is claimed. A context that ends ends it.
func CompanyOf(ctx context.Context, q Question) (Company, error) {
	found := Company{Others: []Other{}}
	q.Map = false
	own, err := otherOf(q)
	if err != nil || own == nil {
		return found, err
	}
	if own.Per100 != nil {
		found.Targets = &Range{}
		*found.Targets = q.doubted(*own.Per100)
	}
	for _, a := range q.Animals {
		if a == q.Target {
			continue
		}
		if err := ctx.Err(); err != nil {
			return found, err
		}
		asked := q
		asked.Target, asked.other = a, true
		other, err := otherOf(asked)
		if err != nil {
			return found, err
		}
		if a.Target && other.Per100 != nil && found.Targets != nil {
			more := asked.doubted(*other.Per100)
			found.Targets = &Range{found.Targets.Low + more.Low, found.Targets.Mid + more.Mid, found.Targets.High + more.High}
		}
		found.Others = append(found.Others, other.told(asked))
	}
	slices.SortStableFunc(found.Others, func(a, b Other) int {
		return cmp.Or(cmp.Compare(a.rank(q), b.rank(q)), cmp.Compare(b.likely(), a.likely()))
	})
	found.Pets = petsOf(q, *own, found.Others)
	return found, nil
}

// When those lie up that do so in the cold, and how many are still about then. Judgements, until a line's own record says otherwise.
const (
	liesUpC   = -7.0 // the week's mean below which
	hardlyOut = .2   // of the usual numbers
)

// midwinter is when those hardly leave their dens that rest by the calendar. A judgement.
var midwinter = [2][2]int{{12, 15}, {2, 15}}

// About is which share of its usual numbers of an animal is about on a local day, after a week of so much cold; nil where that hangs on a
// week's mean, °C, that is not known.
func About(a animal.Animal, on time.Time, weekC *float64) *float64 {
	switch a.Rests {
	case animal.InCold:
		if weekC == nil {
			return nil
		}
		if *weekC < liesUpC {
			return new(hardlyOut)
		}
	case animal.Midwinter:
		if overNewYear(on, midwinter) {
			return new(hardlyOut)
		}
	}
	return new(1.0)
}

// rank is in which order one minds an animal.
func (o Other) rank(q Question) int {
	switch {
	case o.pet:
		return 0
	case slices.ContainsFunc(q.Spares, func(a animal.Animal) bool { return a.Key == o.Species }):
		return 1
	}
	return 2
}

func (o Other) likely() float64 { return cmp.Or(o.expected, o.Fire) }

// told is an animal as it is told of: with the doubt that there is, and without a figure where nobody looked for it.
func (o Other) told(q Question) Other {
	if o.Per100 == nil {
		return o
	}
	o.expected = o.Per100.Mid
	if o.Unlooked = q.Circumstances.presence(q).Sign == ""; o.Unlooked {
		o.Per100 = nil
	} else {
		o.Per100 = new(q.doubted(*o.Per100))
	}
	return o
}

// Comer is an animal that comes to a set, by the middle of its chain there: how often a night it passes, with which chance it gets through each
// link, how likely an anchor holds it, and which of the set's traps it fires, as shares by their order.
type Comer struct {
	Animal     animal.Animal
	Passes     float64
	Notices    float64
	Commits    float64
	Steps      float64
	Fires      float64
	Held       float64
	AnchorHold float64
	Traps      []float64

	// nightly is which share commits in each of the nights to come, once the set is settled; settles tells whether it has to.
	nightly []float64
	settles bool
}

// CommitsOn is which share of those that notice it commits so many nights on, when the set has stood so many, and its chain of makes has caught
// one before or not.
func (c Comer) CommitsOn(on, night int, caughtBefore bool) float64 {
	if !c.settles || caughtBefore {
		return c.nightly[on]
	}
	return c.nightly[on] * settling(night)
}

// ComersTo are all animals that come to a set over so many nights, the target first; none to a device, and none without circumstances. A context
// that ends ends it.
func ComersTo(ctx context.Context, q Question, nights int) ([]Comer, error) {
	var found []Comer
	if q.Circumstances == nil {
		return found, nil
	}
	q.Map = false
	own, others := q.Target, slices.DeleteFunc(slices.Clone(q.Animals), func(a animal.Animal) bool { return a == q.Target })
	for _, a := range append([]animal.Animal{own}, others...) {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		q.Target, q.other = a, a != own
		c, err := comer(q, nights)
		if err != nil || c == nil {
			return nil, err
		}
		found = append(found, *c)
	}
	return found, nil
}

func comer(q Question, nights int) (*Comer, error) {
	feet, err := keptFeet(q)
	if err != nil || feet == nil {
		return nil, err
	}
	chain, firm, err := firmChain(q, feet)
	if err != nil {
		return nil, err
	}
	c := Comer{Animal: q.Target, nightly: q.settledOver(firm, nights), settles: q.Target.Wary && !q.Layout.Blind()}
	for i, to := range []*float64{&c.Passes, &c.Notices, &c.Commits, &c.Steps, &c.Fires, &c.Held} {
		*to = chain.Links[i].Mid
	}
	c.AnchorHold = c.Held / heldBy(1, firm.PadShare)
	for _, fired := range firm.byRig {
		c.Traps = append(c.Traps, fired/math.Max(firm.Fire, math.SmallestNonzeroFloat64))
	}
	return &c, nil
}

// settledOver is which share commits to a settled set in each of the nights to come, as seasons open and close.
func (q Question) settledOver(firm *Feet, nights int) []float64 {
	around := *q.Circumstances
	around.CaughtBefore = true
	q.Circumstances = &around
	found, o := make([]float64, nights), boundsOf(q, firm, nil)
	for i := range found {
		found[i] = q.onNight(&o, i, 0).Mid
	}
	return found
}

func otherOf(q Question) (*Other, error) {
	feet, err := feetOf(q)
	if err != nil || feet == nil {
		return nil, err
	}
	found := &Other{Species: q.Target.Key, Fire: feet.Fire, pet: q.Target.Pet}
	found.Per100, err = caught(q, feet)
	return found, err
}

// caught is how many of an animal a set is expected to catch in 100 set-nights, by its feet; nil without circumstances.
func caught(q Question, feet *Feet) (*Range, error) {
	if q.Circumstances == nil || feet == nil {
		return nil, nil
	}
	found, _, err := firmChain(q, feet)
	if err != nil {
		return nil, err
	}
	return &found.Per100, nil
}

// firmChain is the chain of a set by its feet on a firm bed, and those.
func firmChain(q Question, feet *Feet) (*Chances, *Feet, error) {
	firm, err := firmFeet(q, feet)
	if err != nil {
		return nil, nil, err
	}
	found, _, err := linkedAsHeld(q, firm)
	return found, firm, err
}

// linkedAsHeld is the chain of a set whose anchors hold as they do.
func linkedAsHeld(q Question, firm *Feet) (*Chances, float64, error) {
	anchors, err := anchor.Of(anchor.Question{Layout: q.Layout, Animal: q.Target, Soil: q.Soil})
	if err != nil {
		return nil, 0, err
	}
	return linked(q, firm, q.holdTonight(anchors, firm))
}
