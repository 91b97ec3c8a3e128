package odds

import (
	"context"
	"slices"

	"oldburrow/core/layout"
)

// Weighed is a change with what it does to a set: how many times as many it would catch then as it stands, once both have settled, and
// how many nights' catch its settling anew costs.
type Weighed struct {
	Remedy
	Times float64
	Lost  float64
}

// mostTimes is what a set gains at most that catches nothing as it stands.
const mostTimes = 100

// sparing is what it offers to spare others, without what is offered for the target's sake too.
var sparing = group{(*helper).sparings, []RemedyKey{HeavierPan, Blend, NoBait}}

// Offered are the changes of some keys that can be made to a set, whatever they do; none to one of which no footfall is claimed. It asks for circumstances.
func Offered(ctx context.Context, q Question, keys ...RemedyKey) ([]Remedy, error) {
	h, err := newHelper(ctx, q)
	if err != nil || h == nil {
		return nil, err
	}
	var found []Remedy
	for _, group := range append(slices.Clone(offered), sparing) {
		if !slices.ContainsFunc(group.gives, func(key RemedyKey) bool { return slices.Contains(keys, key) }) {
			continue
		}
		changes, err := group.offers(h)
		if err != nil {
			return nil, err
		}
		for _, c := range changes {
			if slices.Contains(keys, c.Key) {
				c.Minutes = max(c.Minutes, changeTakes[c.Key])
				found = append(found, c)
			}
		}
	}
	return found, nil
}

// Weigh weighs changes to a set on the same feet, over the nights that are left. A change that its pattern does not allow, or whose anchors fail the
// heaviest likely about with no other that holds there, is left out; where another does the set gets that with it. It asks for circumstances.
func Weigh(ctx context.Context, q Question, changes []Remedy) ([]Weighed, error) {
	h, err := newHelper(ctx, q.overTheNightsLeft())
	if err != nil || h == nil {
		return nil, err
	}
	base, err := h.worth(settled(h.q))
	if err != nil {
		return nil, err
	}
	var found []Weighed
	for _, c := range changes {
		if c.Layout == nil || c.Layout.Check() != nil {
			continue
		}
		held, holds, err := q.anchored(*c.Layout)
		if err != nil {
			return nil, err
		}
		if !holds {
			continue
		}
		c.Layout = &held
		then, err := h.worth(settled(h.after(&c)))
		if err != nil {
			return nil, err
		}
		one := Weighed{Remedy: c, Times: 1}
		switch {
		case base.mean() > 0:
			one.Times = min(mostTimes, then.mean()/base.mean())
		case then.mean() > 0:
			one.Times = mostTimes
		}
		if c.Anew {
			one.Lost = max(0, stillToSettle(1)-h.q.stillToSettle())
		}
		found = append(found, one)
	}
	return found, nil
}

func settled(q Question) Question {
	around := *q.Circumstances
	around.CaughtBefore = true
	q.Circumstances = &around
	return q
}

// stillToSettle is how many nights' catch a set as it stands has still to lose by settling.
func (q Question) stillToSettle() float64 {
	if q.Circumstances.CaughtBefore || !q.Target.Wary || q.Layout.Blind() {
		return 0
	}
	return stillToSettle(max(1, q.Circumstances.Night))
}

func stillToSettle(night int) (lost float64) {
	for ; night < settledNight; night++ {
		lost += 1 - settling(night)
	}
	return lost
}

// ToSettle is how many nights' catch a new set loses by settling, where what it is for is wary.
func ToSettle() float64 { return stillToSettle(1) }

// Stale tells whether a set's lure has been met at the place, or is out of its season. It asks for circumstances.
func (q Question) Stale() bool {
	return slices.ContainsFunc(q.termsOn(0), func(term layout.Term) bool { return term == "lure_met" || term == "out_of_season" })
}
