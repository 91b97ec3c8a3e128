package page

import (
	"context"
	"slices"

	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/outlook"
)

// WorksView is what would work at a spot for a target: every pattern of which anything is claimed, in its order, and whether the place decides which of
// them is best. Standing are the kinds of set that stand there.
type WorksView struct {
	Target   string        `json:"target"`
	Ranked   []WorksHere   `json:"ranked"`
	Decides  bool          `json:"decides"`
	Standing []layout.Kind `json:"standing"`
	// Near is what is drawn about the spot, Sides where beside its way the scent lies best by the night wind, the better first, none where no way or wind is
	// known; Ahead what the nights to come bring. Second is what the best set of a kind that does not stand there would add in 100 nights beside what does,
	// low where each animal comes alone, high where they come in company; nil where nothing stands.
	Near   []outlook.Drawn `json:"near"`
	Sides  []outlook.Side  `json:"sides"`
	Ahead  *outlook.Ahead  `json:"ahead" jsonschema:"nullable"`
	Second *odds.Range     `json:"second" jsonschema:"nullable"`
	// Forbidden are the clauses of the rule card for which something is not offered.
	Forbidden []string `json:"forbidden"`
}

// WorksHere is a pattern at a spot, as it begins there; Per100 is nil where it is so poor that no figure is told.
type WorksHere struct {
	Pattern string        `json:"pattern"`
	Layout  layout.Layout `json:"layout"`
	Per100  *odds.Range   `json:"per100" jsonschema:"nullable"`
	Minutes float64       `json:"minutes"`
	First   bool          `json:"first"` // as good as the best
	Lacks   []string      `json:"lacks"`
	WithinM float64       `json:"withinM"` // how near that would have to be
	Up      []string      `json:"up"`
	Down    []string      `json:"down"`
}

// worksVisits are drawn of each pattern at a spot.
const worksVisits = 4000

// works answers that for the target that is asked for.
func works(r Reading, q Asked) (any, error) {
	target := q.Query["target"]
	if _, err := r.begin(target, q.Key); err != nil {
		return nil, err
	}
	drawn, err := r.outlookLine()
	if err != nil {
		return nil, err
	}
	view := WorksView{Target: target, Ranked: []WorksHere{}, Standing: []layout.Kind{}, Near: []outlook.Drawn{}, Sides: []outlook.Side{}, Forbidden: []string{}}
	rec, err := r.Record()
	if err != nil {
		return nil, err
	}
	for _, m := range rec.Standing() {
		if rec.Set(m.SetID).SpotID == q.Key && !slices.Contains(view.Standing, m.Layout.Kind) {
			view.Standing = append(view.Standing, m.Layout.Kind)
		}
	}
	var here []odds.Ranked
	var spots [][]odds.Ranked
	for _, spot := range drawn.Spots {
		found, at, err := r.rankAt(drawn, spot.ID, target, view.Standing)
		if err != nil {
			return nil, err
		}
		if spots = append(spots, found); spot.ID == q.Key {
			here, view.Forbidden = found, at.broken
		}
	}
	view.Decides = odds.Decides(here, spots)
	i := slices.IndexFunc(drawn.Spots, func(s line.Spot) bool { return s.ID == q.Key })
	if err := r.beside(&view, rec, drawn, drawn.Spots[i], here); err != nil {
		return nil, err
	}
	for _, one := range here {
		if !one.Layout.Blind() && len(view.Sides) > 0 {
			side := view.Sides[0]
			one.Layout.At, one.Layout.FacingDeg = new(ground.Fix{LatDeg: side.LatDeg, LonDeg: side.LonDeg}), new(side.FacingDeg)
		}
		told := WorksHere{Pattern: one.Pattern, Layout: one.Layout, Minutes: one.Minutes, First: one.First, Lacks: append([]string{}, one.Lacks...), Up: one.Up, Down: one.Down}
		if !one.Poor {
			told.Per100 = &one.Per100
		}
		told.WithinM = layout.AsksWithin(one.Pattern).WithinM
		view.Ranked = append(view.Ranked, told)
	}
	return view, nil
}

// What is told about a spot; judgements.
const (
	nearM    = 50.0
	usualFor = "gland" // the class of scent by which a side is chosen
)

// beside fills in what lies about a spot, which side of its way is the better, what the nights bring, and what a second set would add.
func (r Reading) beside(view *WorksView, rec line.Record, drawn outlook.Line, spot line.Spot, here []odds.Ranked) error {
	view.Near, view.Ahead = drawn.ThingsNear(spot, nearM), drawn.Ahead()
	if !spot.Swirls {
		if places, err := outlook.Place(drawn, outlook.Question{LatDeg: spot.LatDeg, LonDeg: spot.LonDeg, Class: usualFor}); err == nil {
			view.Sides = places.Sides
		}
	}
	i := slices.IndexFunc(here, func(one odds.Ranked) bool { return len(one.Lacks) == 0 && !slices.Contains(view.Standing, one.Kind) })
	for _, m := range rec.Standing() {
		if rec.Set(m.SetID).SpotID != spot.ID || i < 0 || m.Layout.Check() != nil { // of one whose words are not known nothing is claimed
			continue
		}
		q, err := r.questionOf(drawn, spot, CircumstancesAsked{Layout: m.Layout, Target: view.Target, SpotID: spot.ID, SetID: m.SetID})
		if err != nil {
			return err
		}
		q.Visits = aloneVisits
		answer, err := odds.Of(q)
		if err != nil || answer.Whole == nil {
			return err
		}
		held := 1.0
		for _, link := range answer.Whole.Links[1:] {
			held *= link.Mid
		}
		view.Second = &odds.Range{Low: here[i].Per100.Mid * (1 - held), Mid: here[i].Per100.Mid * (1 - held*alone), High: here[i].Per100.Mid}
		return nil
	}
	return nil
}

// alone is which share of those that come do so alone: of two that come together one is left for the second set. A judgement.
const alone = .6

// aloneVisits are enough to tell what the set that stands takes away.
const aloneVisits = 1000

// rankedAt is under which circumstances patterns were ranked, and by which clauses of the rule card some were not.
type rankedAt struct {
	around odds.Circumstances
	broken []string
}

// rankAt ranks all patterns at a spot for a target, without those that the rule card forbids there.
func (r Reading) rankAt(drawn outlook.Line, spotID, target string, standing []layout.Kind) ([]odds.Ranked, rankedAt, error) {
	begin, err := r.begin(target, spotID)
	if err != nil {
		return nil, rankedAt{}, err
	}
	l, err := layout.New("hole", begin)
	if err != nil {
		return nil, rankedAt{}, err
	}
	i := slices.IndexFunc(drawn.Spots, func(s line.Spot) bool { return s.ID == spotID })
	q, err := r.questionOf(drawn, drawn.Spots[i], CircumstancesAsked{Layout: l, Target: target, SpotID: spotID})
	if err != nil {
		return nil, rankedAt{}, err
	}
	q.Visits = worksVisits
	at := rankedAt{*q.Circumstances, []string{}}
	found, err := odds.Rank(context.Background(), q, standing, func(l layout.Layout) bool {
		broken := r.Forbids.Broken(l, line.Set{SpotID: spotID}, target)
		at.broken = append(at.broken, broken...)
		return len(broken) > 0
	})
	slices.Sort(at.broken)
	at.broken = slices.Compact(at.broken)
	return found, at, err
}
