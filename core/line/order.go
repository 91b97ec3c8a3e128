package line

import "slices"

// Stop is one place on the way round: a set, a design that is not built, or a spot where nothing stands. What it is not is blank.
type Stop struct {
	SetID      string `json:"setId"`
	DesignID   string `json:"designId"`
	SpotID     string `json:"spotId"`
	PropertyID string `json:"propertyId"`
}

// Round is the way round: sets by their number, those of one spot together, spots where nothing stands, designs that are not built;
// those of one property together, in the order in which properties are first met.
func Round(sets []Set, spots []Spot, designs []Design) []Stop {
	propertyOf, taken := map[string]string{}, map[string]bool{}
	for _, spot := range spots {
		propertyOf[spot.ID] = spot.PropertyID
	}
	stops := []Stop{}
	for _, set := range bySpot(sets) {
		taken[set.SpotID] = true
		stops = append(stops, Stop{SetID: set.ID, SpotID: set.SpotID, PropertyID: propertyOf[set.SpotID]})
	}
	for _, d := range designs {
		taken[d.SpotID] = true
	}
	for _, spot := range spots {
		if !taken[spot.ID] {
			stops = append(stops, Stop{SpotID: spot.ID, PropertyID: spot.PropertyID})
		}
	}
	for _, d := range designs {
		if d.SetID == nil {
			stops = append(stops, Stop{DesignID: d.ID, SpotID: d.SpotID, PropertyID: propertyOf[d.SpotID]})
		}
	}
	met := map[string]int{}
	for _, s := range stops {
		if _, ok := met[s.PropertyID]; !ok {
			met[s.PropertyID] = len(met)
		}
	}
	slices.SortStableFunc(stops, func(a, b Stop) int { return met[a.PropertyID] - met[b.PropertyID] })
	return stops
}

// bySpot puts the sets of one spot beside its first.
func bySpot(sets []Set) []Set {
	first := map[string]int{}
	for i, set := range sets {
		if _, ok := first[set.SpotID]; !ok {
			first[set.SpotID] = i
		}
	}
	sorted := slices.Clone(sets)
	slices.SortStableFunc(sorted, func(a, b Set) int { return first[a.SpotID] - first[b.SpotID] })
	return sorted
}

// WorthKind is what is worth doing.
type WorthKind string

// Kinds of what is worth doing.
const (
	Remake WorthKind = "remake" // a set works no more
	Build  WorthKind = "build"  // a design is not in the ground
	Begin  WorthKind = "begin"  // a spot is marked and nothing stands there
)

// WorthKinds lists them.
var WorthKinds = []WorthKind{Remake, Build, Begin}

// Worth is one thing that is worth doing: at a set, with a design, or at one of some spots.
type Worth struct {
	Kind     WorthKind `json:"kind"`
	SetID    string    `json:"setId"`
	DesignID string    `json:"designId"`
	SpotIDs  []string  `json:"spotIds"`
}

// WorthDoing is what the record itself asks for, along the way round.
func (r Record) WorthDoing(stops []Stop) []Worth {
	found, build := []Worth{}, []Worth{}
	begin := Worth{Kind: Begin}
	for _, s := range stops {
		switch {
		case s.SetID != "":
			if made, ok := r.NewestMake(s.SetID); ok && r.Bead(made).State == Open {
				found = append(found, Worth{Kind: Remake, SetID: s.SetID, SpotIDs: []string{s.SpotID}})
			}
		case s.DesignID != "":
			build = append(build, Worth{Kind: Build, DesignID: s.DesignID, SpotIDs: []string{s.SpotID}})
		default:
			begin.SpotIDs = append(begin.SpotIDs, s.SpotID)
		}
	}
	found = append(found, build...)
	if len(begin.SpotIDs) > 0 {
		found = append(found, begin)
	}
	return found
}
