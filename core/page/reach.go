package page

import (
	"slices"

	"oldburrow/core/anchor"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/outlook"
	"oldburrow/core/refuse"
)

// ReachAsked asks what a held animal would reach about a set that lies so at a spot. SetID leaves out the set itself.
type ReachAsked struct {
	Layout layout.Layout `json:"layout"`
	Target string        `json:"target"`
	SpotID string        `json:"spotId"`
	SetID  string        `json:"setId"`
}

// ReachView is what lies in reach of a set: of the land, and of other sets. Own tells whether the set has a place of its own; else it is
// taken to stand at its spot. SeenBy is who would see a held animal there.
type ReachView struct {
	Own    bool               `json:"own"`
	Land   []anchor.InLand    `json:"land"`
	Sets   []anchor.Neighbour `json:"sets"`
	SeenBy string             `json:"seenBy"`
	Run    *anchor.Run        `json:"run" jsonschema:"nullable"` // of its drag, by one's own finds too
}

// reach answers a ReachAsked.
func reach(r Reading, q ReachAsked) (any, error) {
	var p refuse.Problems
	target := r.Animals.Named(&p, "target", q.Target)
	err := p.Err()
	if err == nil {
		err = q.Layout.Check()
	}
	if err != nil {
		return nil, err
	}
	found := ReachView{Own: q.Layout.At != nil, Sets: []anchor.Neighbour{}}
	drawn, err := r.outlookLine()
	if err != nil {
		return found, err
	}
	i := slices.IndexFunc(drawn.Spots, func(s line.Spot) bool { return s.ID == q.SpotID })
	if i < 0 {
		return found, refuse.ErrUnknown
	}
	spot := drawn.Spots[i]
	found.SeenBy = spot.SeenBy
	plane := ground.PlaneAbout(ground.Fix{LatDeg: r.Of.LatDeg, LonDeg: r.Of.LonDeg})
	at := plane.At(spot.PlaceOf(q.Layout))
	reachMm, err := anchor.Reach(q.Layout, target)
	if err != nil {
		return found, err
	}
	if found.Run, err = drawn.RunOf(q.Layout); err != nil {
		return found, err
	}
	found.Land = anchor.Land(at, reachMm, found.Run, thingsOf(drawn.Features, plane))
	for _, other := range drawn.Standing {
		if other.Set.ID == q.SetID {
			continue
		}
		one, near, err := r.neighbour(q, other, drawn.Spots, plane, at, reachMm)
		if err != nil {
			return found, err
		}
		if near {
			found.Sets = append(found.Sets, one)
		}
	}
	return found, nil
}

// neighbour is another set where it is near enough to be told of: in reach, or at the same spot with no place of its own.
func (r Reading) neighbour(q ReachAsked, other outlook.Standing, spots []line.Spot, plane ground.Plane, at [2]float64, reachMm float64) (anchor.Neighbour, bool, error) {
	one := anchor.Neighbour{Number: other.Set.Number}
	if other.Set.SpotID == q.SpotID && q.Layout.At == nil && other.Make.Layout.At == nil {
		return one, true, nil
	}
	i := slices.IndexFunc(spots, func(s line.Spot) bool { return s.ID == other.Set.SpotID })
	a, err := r.Animals.ByKey(other.Make.Target)
	if i < 0 || err != nil {
		return one, false, nil // of an animal of one's own nothing is known yet
	}
	theirs, err := anchor.Reach(other.Make.Layout, a)
	if err != nil {
		return one, false, err
	}
	m := ground.Apart(at, plane.At(spots[i].PlaceOf(other.Make.Layout)))
	one.M, one.Meets = &m, reachMm > 0 && theirs > 0 && m*1000 <= reachMm+theirs
	return one, one.Meets, nil
}

func thingsOf(features []line.Feature, plane ground.Plane) []anchor.Thing {
	var things []anchor.Thing
	for _, f := range features {
		t := anchor.Thing{Kind: string(f.Kind), Name: f.Name}
		for _, p := range f.Points {
			t.Points = append(t.Points, plane.At(ground.Fix{LatDeg: p[1], LonDeg: p[0]}))
		}
		if k, ok := ground.KindOf(f.Kind); ok && k.Form == ground.Area && len(t.Points) > 0 {
			t.Points = append(t.Points, t.Points[0])
		}
		things = append(things, t)
	}
	return things
}
