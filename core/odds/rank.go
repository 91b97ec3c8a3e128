package odds

import (
	"cmp"
	"context"
	"math"
	"slices"

	"oldburrow/core/layout"
)

// Ranked is a pattern at a spot: the set as it begins there, what it would catch in 100 set-nights once it has settled, whether it is as good
// as the best, what of it the place lacks, and what moves it from its par by more than a tenth, the most first.
type Ranked struct {
	Pattern string        `json:"pattern"`
	Kind    layout.Kind   `json:"kind"`
	Layout  layout.Layout `json:"layout"`
	Per100  Range         `json:"per100"`
	Minutes float64       `json:"minutes"`
	First   bool          `json:"first"` // as good as the best
	Poor    bool          `json:"poor"`  // so far below the best that no figure is told
	Lacks   []string      `json:"lacks"`
	Up      []string      `json:"up"`
	Down    []string      `json:"down"`
}

// What moves a pattern from its par, beside its terms and what makes it show.
const (
	ByThrough  = "through"
	ByCoverage = "coverage"
)

// Figures of the ranking; judgements.
const (
	asGood      = .75 // of the best
	tooPoor     = .1  // of the best
	moves       = .1  // from its par
	mostReasons = 3
	rankNight   = 9
	lookMinutes = 6.0
	rankNights  = 14.0
	sameAtShare = 2. / 3 // of the line's spots
)

// Rank ranks every pattern of which footfall is claimed at a spot, each as it begins there, by its schools: those as good as
// the best first, a kind that does not stand there yet before one that does, by what it brings for the hours that it takes; then the rest;
// then what the place lacks something for. What is forbidden is left out; nil forbids nothing. The question's own layout is not asked about; its circumstances are. A context that ends ends it.
func Rank(ctx context.Context, q Question, standing []layout.Kind, forbidden func(layout.Layout) bool) ([]Ranked, error) {
	if q.Circumstances == nil {
		return nil, nil
	}
	around := *q.Circumstances
	around.Night, around.CaughtBefore = rankNight, true
	q.Circumstances, q.Map, q.unlured = &around, false, true
	begin := layout.Begin{
		Target: q.Target, Schools: q.Schools,
		Spot: layout.Spot{Soil: q.Soil.Kind, Wetness: q.Soil.Wetness, FrostMm: q.Soil.DeepestMm, Shy: around.Site.Shy},
	}
	var found []Ranked
	for _, key := range layout.PatternKeys() {
		if !layout.Claims(key) {
			continue
		}
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		l, err := layout.New(key, begin)
		if err != nil {
			return nil, err
		}
		if q.Layout, _, err = q.anchored(l); err != nil {
			return nil, err
		}
		if forbidden != nil && forbidden(q.Layout) {
			continue
		}
		one, err := ranked(q)
		if err != nil {
			return nil, err
		}
		found = append(found, one)
	}
	order(found, standing)
	return found, nil
}

func ranked(q Question) (Ranked, error) {
	one := Ranked{Pattern: q.Layout.Pattern, Kind: q.Layout.Kind, Layout: q.Layout, Minutes: q.Layout.Minutes(q.Underfoot)}
	feet, err := keptFeet(q)
	if err != nil {
		return one, err
	}
	chain, _, err := linkedAsHeld(q, feet)
	if err != nil {
		return one, err
	}
	one.Per100, one.Lacks = q.doubted(chain.Per100), chain.Suit.Lacks
	one.Up, one.Down = reasons(q, chain)
	return one, nil
}

// order groups what was ranked, and puts it in its order.
func order(found []Ranked, standing []layout.Kind) {
	best := 0.0
	for _, r := range found {
		if len(r.Lacks) == 0 {
			best = max(best, r.Per100.Mid)
		}
	}
	for i := range found {
		r := &found[i]
		r.First, r.Poor = len(r.Lacks) == 0 && r.Per100.Mid >= asGood*best, r.Per100.Mid < tooPoor*best
	}
	group := func(r Ranked) int {
		switch {
		case r.First && !slices.Contains(standing, r.Kind):
			return 0
		case r.First:
			return 1
		case len(r.Lacks) == 0:
			return 2
		}
		return 3
	}
	slices.SortStableFunc(found, func(a, b Ranked) int {
		if by := cmp.Compare(group(a), group(b)); by != 0 {
			return by
		}
		if a.First {
			return cmp.Compare(b.anHour(), a.anHour())
		}
		return cmp.Compare(b.Per100.Mid, a.Per100.Mid)
	})
}

// anHour is what a set brings in a fortnight for an hour of building it and looking at it.
func (r Ranked) anHour() float64 {
	return rankNights / 100 * r.Per100.Mid / ((r.Minutes + rankNights*lookMinutes) / 60)
}

// reasons are what moves a set from its par by more than a tenth, up and down, the most first.
func reasons(q Question, chain *Chances) (up, down []string) {
	type reason struct {
		key   string
		times float64
	}
	var all []reason
	say := func(key string, is, without float64) {
		if without > 0 && math.Abs(is/without-1) > moves {
			all = append(all, reason{key, is / without})
		}
	}
	in := boundsOf(q, &Feet{}, nil).most
	does := commits(q.Target, in)
	for _, key := range in.Terms {
		without := in
		without.Terms = slices.DeleteFunc(slices.Clone(in.Terms), func(other layout.Term) bool { return other == key })
		say(string(key), does, commits(q.Target, without))
	}
	at := q.Circumstances.Site
	if in.Blind {
		open := layout.Site{}
		say(ByThrough, chain.Suit.Through, q.Layout.Suits(q.Target, open).Through)
	} else {
		sees := func(coverage, sight float64) float64 { return 1 - (1-coverage*q.Target.Nose)*(1-sight) }
		sight, plain := q.Layout.Sight(q.Target, at), q.Layout.Sight(q.Target, layout.Site{})
		coverage := parCoverage
		if q.Circumstances.Coverage != nil {
			coverage = *q.Circumstances.Coverage
		}
		say(ByCoverage, sees(coverage, sight.Share), sees(parCoverage, sight.Share))
		for _, key := range sight.By {
			say(string(key), sees(coverage, sight.Share), sees(coverage, plain.Share))
		}
	}
	slices.SortStableFunc(all, func(a, b reason) int {
		return cmp.Compare(math.Abs(math.Log(b.times)), math.Abs(math.Log(a.times)))
	})
	up, down = []string{}, []string{}
	for _, r := range all {
		switch {
		case r.times > 1 && len(up) < mostReasons:
			up = append(up, r.key)
		case r.times < 1 && len(down) < mostReasons:
			down = append(down, r.key)
		}
	}
	return up, down
}

// Firsts are the patterns that are as good as the best, in their order.
func Firsts(found []Ranked) []string {
	var keys []string
	for _, r := range found {
		if r.First {
			keys = append(keys, r.Pattern)
		}
	}
	return keys
}

// Decides tells whether the place decides which pattern is best: it does unless the same ones are as good as the best at two thirds of the
// line's spots. Then they are told as a group, without an order.
func Decides(here []Ranked, spots [][]Ranked) bool {
	mine := slices.Sorted(slices.Values(Firsts(here)))
	same := 0
	for _, other := range spots {
		if slices.Equal(mine, slices.Sorted(slices.Values(Firsts(other)))) {
			same++
		}
	}
	return float64(same) < sameAtShare*float64(len(spots))
}
