package book

import (
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/tally"
)

// Story is what became of a set: its makes, in the order in which they were built.
type Story struct {
	SetID  string `json:"setId"`
	Number int    `json:"number"`
	SpotID string `json:"spotId"`
	Makes  []Made `json:"makes"`
}

// Made is a make with its nights, from the one in which it was built: what the look on the morning after found, blank where nobody looked then.
type Made struct {
	MakeID   string         `json:"makeId"`
	BuiltAt  time.Time      `json:"builtAt"`
	PulledAt *time.Time     `json:"pulledAt" jsonschema:"nullable"` // or remade
	Target   string         `json:"target"`
	Kind     layout.Kind    `json:"kind"`
	Pattern  string         `json:"pattern"`
	Nights   []line.Finding `json:"nights"`
	Caught   []string       `json:"caught"` // each animal, in order
}

// StoryOf tells the story of a set by a record.
func StoryOf(r line.Record, setID string) Story {
	set := r.Set(setID)
	s := Story{set.ID, set.Number, set.SpotID, []Made{}}
	for _, m := range r.At(setID) {
		s.Makes = append(s.Makes, madeOf(r, m))
	}
	return s
}

// madeOf is a make of a record with its nights.
func madeOf(r line.Record, m line.Make) Made {
	made := Made{m.ID, m.BuiltAt, m.PulledAt, m.Target, m.Layout.Kind, m.Layout.Pattern, make([]line.Finding, len(r.Worked(m))), []string{}}
	for _, look := range r.Looks(m.ID) {
		// Of two looks on a morning the second may find it quiet: what the first found was there.
		if night := tally.Nights(m.BuiltAt, look.At, r.Zone) - 1; night >= 0 && night < len(made.Nights) && (made.Nights[night] == "" || look.Finding != line.FoundQuiet) {
			made.Nights[night] = look.Finding
			if len(look.Catches) > 0 { // also what a search found, that had walked off with the trap
				made.Nights[night] = line.FoundCatch
			}
		}
		for _, c := range look.Catches {
			made.Caught = append(made.Caught, c.Species)
		}
	}
	return made
}
