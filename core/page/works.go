package page

import (
	"context"
	"slices"

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
	view := WorksView{Target: target, Ranked: []WorksHere{}, Standing: []layout.Kind{}, Forbidden: []string{}}
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
	for _, one := range here {
		told := WorksHere{Pattern: one.Pattern, Layout: one.Layout, Minutes: one.Minutes, First: one.First, Lacks: append([]string{}, one.Lacks...), Up: one.Up, Down: one.Down}
		if !one.Poor {
			told.Per100 = &one.Per100
		}
		told.WithinM = layout.AsksWithin(one.Pattern).WithinM
		view.Ranked = append(view.Ranked, told)
	}
	return view, nil
}

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
