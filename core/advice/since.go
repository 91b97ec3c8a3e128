package advice

import (
	"slices"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
)

// Since is what the record says since a set was made otherwise after a finding: what is otherwise, which link that finding had failed at, over how many
// nights, and how many findings reached that link since and came through it.
type Since struct {
	After   line.Finding `json:"after"`
	Parts   []string     `json:"parts"`
	Link    odds.LinkKey `json:"link"`
	Nights  float64      `json:"nights"`
	Reached int          `json:"reached"`
	Kept    int          `json:"kept"`
	Says    SinceSays    `json:"says"`
}

// SinceSays is whether the record agrees with a change.
type SinceSays string

// What it can say.
const (
	NotYet   SinceSays = "not_yet"
	Agrees   SinceSays = "agrees"
	Disagree SinceSays = "disagrees"
)

// SaysKeys lists it.
var SaysKeys = []SinceSays{NotYet, Agrees, Disagree}

// fewReached are too few to say that a change did not help. A judgement.
const fewReached = 3

// Since says that of the set that was looked at; nil where it stands as it did before.
func (s Seen) Since() *Since {
	at := s.Record.At(s.Make.SetID)
	i := slices.IndexFunc(at, func(m line.Make) bool { return m.ID == s.Make.ID })
	if i < 1 || s.Make.Follows == nil || at[i-1].ID != *s.Make.Follows {
		return nil
	}
	before := at[i-1]
	last := s.Record.LastLook(before.ID)
	parts := otherwise(before, s.Make)
	if last == nil || len(parts) == 0 {
		return nil
	}
	failed := last.Finding.Facts().Failed
	if last.Finding == line.FoundQuiet || failed == "" {
		return nil
	}
	found := Since{After: last.Finding, Parts: parts, Link: failed, Says: NotYet}
	for _, worth := range s.Record.Worked(s.Make) {
		found.Nights += worth
	}
	reached, kept := s.cameTo([]line.Make{s.Make}, failed)
	found.Reached, found.Kept = int(reached), int(kept)
	switch {
	case found.Kept > 0:
		found.Says = Agrees
	case found.Reached >= fewReached:
		found.Says = Disagree
	}
	return &found
}

// otherwise are the parts in which a make is another than the one before it: also a bed that was dug anew as it was drawn, and soil and cover.
func otherwise(before, now line.Make) []string {
	parts := layout.Changed(before.Layout, now.Layout)
	add := func(part string, is bool) {
		if is && !slices.Contains(parts, part) {
			parts = append(parts, part)
		}
	}
	if now.AsBuilt != nil {
		add("bed", now.AsBuilt.Form == line.NewBed)
		add("cover", slices.Contains(now.AsBuilt.Renewed, line.CircleSoil))
	}
	return parts
}
