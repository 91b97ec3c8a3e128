package odds

import (
	"math"
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/refuse"
)

// ChainInput is what the links of a chain hang on, for one animal at one set: the best sign about, how many ways meet, the share of night
// hours in which its scent lies across the way, how well the set shows, whether it is a trail without anything to come to, what speaks
// for and against committing, the night since it was built, and what becomes of a visit.
type ChainInput struct {
	Sign         string   `json:"sign"`
	WaysMeet     int      `json:"waysMeet"`
	Coverage     float64  `json:"coverage"`
	Sight        float64  `json:"sight"`
	Blind        bool     `json:"blind"`
	Terms        []string `json:"terms"`
	Night        int      `json:"night"`
	CaughtBefore bool     `json:"caughtBefore"`
	Food         bool     `json:"food"`
	About        float64  `json:"about"` // share of its usual numbers
	Steps        float64  `json:"steps"`
	Fires        float64  `json:"fires"` // of those that stepped
	AnchorHold   float64  `json:"anchorHold"`
	PadShare     float64  `json:"padShare"`
}

// ChainOutput is the links, their product without the passes, and the catches in 100 set-nights.
type ChainOutput struct {
	Passes  float64 `json:"passes"` // a night
	Notices float64 `json:"notices"`
	Commits float64 `json:"commits"`
	Held    float64 `json:"held"`
	Chance  float64 `json:"chance"`
	Per100  float64 `json:"per100"`
}

// Signs are how old the best sign near a set is.
func Signs() []string { return []string{"today", "days_3", "days_7", "older", "none"} }

// passing is how often a night an animal passes, by the best sign about, and by how many ways meet. Judgements.
var (
	passing = map[string]float64{"today": .5, "days_3": .3, "days_7": .2, "older": .1, "none": .04}
	meeting = []float64{1, 1.3, 1.5}
)

// bent is how readily an animal commits that has noticed a set: a log of odds; of those that eat at sets with food and without. Judgements.
var (
	bent     = map[string]float64{"coyote": .2, "red_fox": 1.2, "grey_fox": 1.3, "bobcat": .8, "badger": .6, "dog": 1, "cat": .6}
	eaters   = []string{"raccoon", "skunk", "opossum"}
	bentFed  = 1.4
	bentBare = .4
)

// term is something that speaks for or against committing: its weight, a log of odds, and for whom it counts.
type term struct {
	weight float64
	counts func(animal.Animal) bool
}

func everybody(animal.Animal) bool     { return true }
func targetsOnly(a animal.Animal) bool { return a.Target }
func coyotesOnly(a animal.Animal) bool { return a.Key == "coyote" }

var terms = map[string]term{
	"bed_loose": {-1, everybody}, "scent_on_bed": {-1.2, everybody}, "loose_soil": {-.4, everybody}, "back_open_snow": {-.5, everybody}, "bare_hands": {-.2, everybody},
	"tall_fence": {-.6, coyotesOnly}, "tree_hole": {-1.5, coyotesOnly},
	"shy_open_hole": {-1, targetsOnly}, "shy_punch_holes": {-.2, targetsOnly}, "lure_new": {.4, targetsOnly}, "lure_met": {-.8, targetsOnly},
	"in_season": {.4, targetsOnly}, "out_of_season": {-.3, targetsOnly},
}

// TermKeys lists what speaks for or against committing.
func TermKeys() []string {
	var keys []string
	for key := range terms {
		keys = append(keys, key)
	}
	slices.Sort(keys)
	return keys
}

// settledNight is the first in which a new set counts whole.
const settledNight = 4

// settling is what a coyote gives a set whose chain of makes has not caught yet, by the night. A judgement.
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
	p.OneOf("sign", in.Sign, Signs())
	p.Within("waysMeet", float64(in.WaysMeet), 1, 3, "")
	p.Within("night", float64(in.Night), 1, 10000, "")
	for _, share := range []struct {
		field string
		is    float64
	}{{"coverage", in.Coverage}, {"sight", in.Sight}, {"about", in.About}, {"steps", in.Steps}, {"fires", in.Fires}, {"anchorHold", in.AnchorHold}, {"padShare", in.PadShare}} {
		p.Within(share.field, share.is, 0, 1, "")
	}
	for _, key := range in.Terms {
		p.OneOf("terms", key, TermKeys())
	}
	if err := p.Err(); err != nil {
		return ChainOutput{}, err
	}
	out := ChainOutput{
		Passes:  passing[in.Sign] * meeting[in.WaysMeet-1] * in.About,
		Notices: 1 - (1-in.Coverage)*(1-in.Sight),
		Commits: commits(a, in),
		Held:    heldBy(in.AnchorHold, in.PadShare),
	}
	if in.Blind {
		out.Notices = 1
	}
	out.Chance = out.Notices * out.Commits * in.Steps * in.Fires * out.Held
	out.Per100 = 100 * out.Passes * out.Chance
	return out, nil
}

// commits is how likely an animal that has noticed a set works it. A trail without anything to come to asks for no commitment.
func commits(a animal.Animal, in ChainInput) float64 {
	sum := bent[a.Key]
	if slices.Contains(eaters, a.Key) {
		if sum = bentBare; in.Food {
			sum = bentFed
		}
	}
	felt := 0.0
	for _, key := range in.Terms {
		t := terms[key]
		if !t.counts(a) {
			continue
		}
		sum += t.weight
		if key == "bed_loose" || key == "scent_on_bed" {
			felt += t.weight
		}
	}
	if in.Blind {
		return math.Exp(felt)
	}
	does := 1 / (1 + math.Exp(-sum))
	if a.Key == "coyote" && !in.CaughtBefore {
		does *= settling(in.Night)
	}
	return does
}

// toeHolds is what a toe is worth to a pad, where an animal is to be held. A judgement.
const toeHolds = 0.6

// heldBy is how likely what fired a set is held, by its anchor and by the share of pads.
func heldBy(anchorHolds, padShare float64) float64 {
	return anchorHolds * (padShare + toeHolds*(1-padShare))
}

// Blind tells whether a set lies on a way with nothing to come to.
func Blind(l layout.Layout) bool { return l.Way != nil && len(l.Attractors) == 0 }
