package line

import (
	"slices"
	"time"

	"oldburrow/core/layout"
)

// Stood is a set as its place has met it: what it smelled of, from when until when it stood (nil: it stands), and how many
// animals it caught.
type Stood struct {
	SetID  string      `json:"setId"`
	Number int         `json:"number"`
	Kind   layout.Kind `json:"kind"`
	Smells []string    `json:"smells"`
	From   time.Time   `json:"from"`
	Until  *time.Time  `json:"until" jsonschema:"nullable"`
	Caught int         `json:"caught"`
	Who    string      `json:"who,omitempty"` // built it; blank for the owner
}

// Stood lists the sets of the record that were built, the newest first.
func (r Record) Stood() []Stood {
	found := []Stood{}
	for _, set := range r.Sets {
		makes := r.At(set.ID)
		if len(makes) == 0 {
			continue
		}
		last := makes[len(makes)-1]
		one := Stood{SetID: set.ID, Number: set.Number, Kind: last.Layout.Kind, Smells: []string{}, From: makes[0].BuiltAt, Until: last.PulledAt, Who: makes[0].Who}
		for _, m := range makes {
			for _, smell := range m.Layout.Smells() {
				if smell.Name != "" && !slices.Contains(one.Smells, smell.Name) {
					one.Smells = append(one.Smells, smell.Name)
				}
			}
			for _, look := range r.Looks(m.ID) {
				one.Caught += len(look.Catches)
			}
		}
		found = append(found, one)
	}
	slices.SortStableFunc(found, func(a, b Stood) int { return b.From.Compare(a.From) })
	return found
}
