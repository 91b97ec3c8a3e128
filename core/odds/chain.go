package odds

import (
	"maps"
	"math"
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/refuse"
)

// ChainInput is what the links of a chain hang on, for one animal at one set: the best sign about and how many signs stand behind it, how
// many ways meet, the share of night hours in which its scent lies across the way, how well the set shows, whether it lies blind in a way
// and what share of those that pass takes that way, what speaks for and against committing, the night since it was built, and what becomes
// of a visit.
type ChainInput struct {
	Sign         Age           `json:"sign"`
	Signs        int           `json:"signs,omitempty"`
	WaysMeet     int           `json:"waysMeet"`
	Coverage     float64       `json:"coverage"`
	Sight        float64       `json:"sight"`
	Blind        bool          `json:"blind"`
	Through      float64       `json:"through,omitempty"` // of a blind set only
	Terms        []layout.Term `json:"terms"`
	Night        int           `json:"night"`
	CaughtBefore bool          `json:"caughtBefore"`
	Food         bool          `json:"food"`
	About        float64       `json:"about"` // share of its usual numbers
	Steps        float64       `json:"steps"`
	Fires        float64       `json:"fires"` // of those that stepped
	AnchorHold   float64       `json:"anchorHold"`
	PadShare     float64       `json:"padShare"`

	// passing is how often it passes a night where nobody looked for its sign; nil where the sign says it.
	passing *float64
	// settled is the share that a set gives which is settling, over some nights; 0 where the night says it.
	settled float64
}

// ChainDefaults are two signs, and a blind set in the one way that there is.
func ChainDefaults() ChainInput { return ChainInput{Signs: usualSigns, Through: 1} }

// ChainOutput is the links, their product without the passes, and the catches in 100 set-nights.
type ChainOutput struct {
	Passes  float64 `json:"passes"` // a night
	Notices float64 `json:"notices"`
	Commits float64 `json:"commits"`
	Held    float64 `json:"held"`
	Chance  float64 `json:"chance"`
	Per100  float64 `json:"per100"`
}

// Age is how old the best sign near a set is.
type Age string

// The ages of sign.
const (
	AgeToday  Age = "today"
	AgeDays3  Age = "days_3"
	AgeDays7  Age = "days_7"
	AgeOlder  Age = "older"
	AgeNone   Age = "none"   // somebody looked, and the ground would have held a track
	AgeUnsaid Age = "no_age" // there is sign, and nobody said how old: it counts as older, at best as of the last days
)

// Ages lists those that a chain is asked with.
var Ages = []Age{AgeToday, AgeDays3, AgeDays7, AgeOlder, AgeNone}

// usualSigns is how many signs stand behind the best one, where nobody counted them.
const usualSigns = 2

// passing is how often a night an animal passes, by the best sign about, by how many ways meet, and by how many signs there are of the last
// thirty days. One night's tracks are no nightly visit: an animal comes round in three to ten days. Judgements.
var (
	passing  = map[Age]float64{AgeToday: .3, AgeDays3: .2, AgeDays7: .14, AgeOlder: .08, AgeNone: .03}
	meeting  = []float64{1, 1.3, 1.5} // three or more
	fewSigns = .6
	many     = struct {
		from  int
		times float64
	}{4, 1.3}
)

// bySigns is by how much the passes that a sign tells of are more or fewer for so many signs.
func bySigns(sign Age, signs int) float64 {
	switch {
	case sign == "none":
		return 1
	case signs <= 1:
		return fewSigns
	case signs >= many.from:
		return many.times
	}
	return 1
}

// weight is what something that speaks for or against committing weighs for an animal, a log of odds.
type weight func(animal.Animal) float64

func everybody(is float64) weight { return func(animal.Animal) float64 { return is } }

func targetsOnly(is float64) weight {
	return func(a animal.Animal) float64 {
		if a.Target {
			return is
		}
		return 0
	}
}

// each weighs otherwise for each of the animals that a line is set for, and nothing for the others.
func each(coyote, bobcat, redFox, greyFox float64) weight {
	weights := map[string]float64{"coyote": coyote, "bobcat": bobcat, "red_fox": redFox, "grey_fox": greyFox}
	return func(a animal.Animal) float64 { return weights[a.Key] }
}

var terms = weights()

// weights are what each term weighs. In a function and no literal, so that the tests can be asked about its numbers as about any line.
func weights() map[layout.Term]weight {
	return map[layout.Term]weight{
		"bed_loose": everybody(-1), "scent_on_bed": everybody(-1.2), "loose_soil": everybody(-.4), "back_open_snow": everybody(-.5), "bare_hands": everybody(-.2),
		"shy_open_hole": targetsOnly(-1), "shy_punch_holes": targetsOnly(-.2), "lure_new": targetsOnly(.4), "lure_met": targetsOnly(-.8),
		"in_season": targetsOnly(.4), "out_of_season": targetsOnly(-.3), "kind_met": targetsOnly(-.5),
		"tall_fence":  each(-.6, 0, 0, 0),
		"close":       each(-1.4, -.9, -.9, -1),
		"show":        each(-.3, .2, 0, 0),
		"shy_show":    each(-1, -.6, -.6, -.6),
		"mark_season": each(1, .8, 1, .6),
		"mark_early":  each(-.2, -.2, -.2, -.3),
		"food_early":  each(.2, .1, .4, .4),
		"food_late":   each(-.7, -.2, -.8, -.5),
		"in_water":    each(-1.5, -1.6, -.4, -.4),
		"tree_hole":   each(-1.5, -.4, -.8, .5),
	}
}

// felt are the terms that count in a blind set too: they are felt under the foot.
var felt = []layout.Term{"bed_loose", "scent_on_bed"}

var termKeys = slices.Sorted(maps.Keys(terms))

// TermKeys lists what speaks for or against committing.
func TermKeys() []layout.Term { return slices.Clone(termKeys) }

// settledNight is the first in which a new set counts whole.
const settledNight = 4

// settling is what an animal that is wary gives a set whose chain of makes has not caught yet, by the night. A judgement.
func settling(night int) float64 {
	switch {
	case night <= 2:
		return .35
	case night == 3:
		return .7
	}
	return 1
}

// Chain multiplies the links for an animal. It refuses words that are not known and shares that are none.
func Chain(a animal.Animal, in ChainInput) (ChainOutput, error) {
	var p refuse.Problems
	refuse.OneOf(&p, "sign", in.Sign, Ages)
	p.Within("signs", float64(in.Signs), 1, 10000, "")
	p.Within("waysMeet", float64(in.WaysMeet), 1, 3, "")
	p.Within("night", float64(in.Night), 1, 10000, "")
	for _, share := range []struct {
		field string
		is    float64
	}{
		{"coverage", in.Coverage}, {"sight", in.Sight}, {"through", in.Through}, {"about", in.About}, {"steps", in.Steps}, {"fires", in.Fires},
		{"anchorHold", in.AnchorHold}, {"padShare", in.PadShare},
	} {
		p.Within(share.field, share.is, 0, 1, "")
	}
	for _, key := range in.Terms {
		refuse.OneOf(&p, "terms", key, termKeys)
	}
	if err := p.Err(); err != nil {
		return ChainOutput{}, err
	}
	out := ChainOutput{
		Passes:  in.passes(),
		Notices: 1 - (1-in.Coverage*a.Nose)*(1-in.Sight),
		Commits: commits(a, in),
		Held:    heldBy(in.AnchorHold, in.PadShare),
	}
	if in.Blind {
		out.Notices = in.Through
	}
	out.Chance = out.Notices * out.Commits * in.Steps * in.Fires * out.Held
	out.Per100 = 100 * out.Passes * out.Chance
	return out, nil
}

func (in ChainInput) passes() float64 {
	if in.passing != nil {
		return *in.passing * in.About
	}
	return passing[in.Sign] * bySigns(in.Sign, in.Signs) * meeting[in.WaysMeet-1] * in.About
}

// commits is how likely an animal that has noticed a set works it. A blind set asks for no commitment.
func commits(a animal.Animal, in ChainInput) float64 {
	sum := a.Bent
	if in.Food {
		sum = a.BentFed
	}
	underfoot := 0.0
	for _, key := range in.Terms {
		by := terms[key](a)
		sum += by
		if slices.Contains(felt, key) {
			underfoot += by
		}
	}
	if in.Blind {
		return math.Exp(underfoot)
	}
	does := 1 / (1 + math.Exp(-sum))
	if !a.Wary || in.CaughtBefore {
		return does
	}
	if in.settled > 0 {
		return does * in.settled
	}
	return does * settling(in.Night)
}

// toeHolds is what a toe is worth to a pad, where an animal is to be held. A judgement.
const toeHolds = 0.6

// heldBy is how likely what fired a set is held, by its anchor and by the share of pads.
func heldBy(anchorHolds, padShare float64) float64 {
	return anchorHolds * (padShare + toeHolds*(1-padShare))
}
