package page

import (
	"time"

	"oldburrow/core/book"
	"oldburrow/core/layout"
	"oldburrow/core/learn"
	"oldburrow/core/line"
	"oldburrow/core/promise"
	"oldburrow/core/refuse"
)

// StoriesView are the stories of sets in the season that is asked for; Season is nil for all of them.
type StoriesView struct {
	Stories []StoryView   `json:"stories"`
	Season  *line.Season  `json:"season" jsonschema:"nullable"`
	Seasons []line.Season `json:"seasons"`
	Open    string        `json:"open"`
	Anew    bool          `json:"anew"`
}

// StoryView is the story of a set, with what each of its makes promised of all targets and how many of them came, and what became of each change that
// was made to it.
type StoryView struct {
	book.Story
	Promised map[string]learn.Sum   `json:"promised"` // by make
	Changes  map[string]MadeAnother `json:"changes"`  // by the make that was another than the one before it
	Pulls    []line.Pull            `json:"pulls"`
	Pictures []Pictured             `json:"pictures"` // in order of time
}

// MadeAnother is in which parts a make was another, how the nights before it compare with those since, and what the drawings promised in 100 nights of each
// kind; nil where there were none.
type MadeAnother struct {
	Parts []string `json:"parts"`
	book.Compared
	PromisedBefore *float64 `json:"promisedBefore" jsonschema:"nullable"`
	PromisedSince  *float64 `json:"promisedSince" jsonschema:"nullable"`
}

// story tells what became of a set.
func story(r Reading, q Asked) (any, error) {
	rec, season, err := r.asked(q)
	if err != nil {
		return nil, err
	}
	if rec.Set(q.Key).ID == "" {
		return nil, refuse.ErrUnknown
	}
	return r.stories(rec, season, []string{q.Key})
}

// storiesAt tells what became of all sets at a spot.
func storiesAt(r Reading, q Asked) (any, error) {
	rec, season, err := r.asked(q)
	if err != nil {
		return nil, err
	}
	spots, err := r.Spots(r.Of.ID)
	if err != nil {
		return nil, err
	}
	known, sets := false, []string{}
	for _, spot := range spots {
		known = known || spot.ID == q.Key
	}
	if !known {
		return nil, refuse.ErrUnknown
	}
	for _, set := range rec.Sets {
		if set.SpotID == q.Key {
			sets = append(sets, set.ID)
		}
	}
	return r.stories(rec, season, sets)
}

func (r Reading) stories(rec line.Record, season *line.Season, sets []string) (any, error) {
	view := StoriesView{Stories: []StoryView{}, Season: season}
	var err error
	if view.Seasons, err = r.Seasons(r.Of.ID); err != nil {
		return nil, err
	}
	view.Open = r.openOf(view.Seasons)
	made, err := r.madeIn(rec)
	if err != nil {
		return nil, err
	}
	view.Anew = r.Around.Anew || promise.Of(rec, made, r.Animals).Missing > 0
	for _, id := range sets {
		one, err := r.storyOf(rec, made, id)
		if err != nil {
			return nil, err
		}
		view.Stories = append(view.Stories, one)
	}
	return view, nil
}

// Pictured is a picture of a set: as it was built, or at a look.
type Pictured struct {
	PhotoID string       `json:"photoId"`
	At      time.Time    `json:"at"`
	Finding line.Finding `json:"finding"` // blank as it was built
}

func picturesOf(rec line.Record, setID string) []Pictured {
	found := []Pictured{}
	for _, m := range rec.At(setID) {
		if m.AsBuilt != nil && m.AsBuilt.PhotoID != nil {
			found = append(found, Pictured{*m.AsBuilt.PhotoID, m.BuiltAt, ""})
		}
		for _, look := range rec.Looks(m.ID) {
			if look.PhotoID != nil {
				found = append(found, Pictured{*look.PhotoID, look.At, look.Finding})
			}
		}
	}
	return found
}

func (r Reading) storyOf(rec line.Record, made map[string]promise.Make, id string) (StoryView, error) {
	view := StoryView{book.StoryOf(rec, id), map[string]learn.Sum{}, map[string]MadeAnother{}, rec.Pulls(id), picturesOf(rec, id)}
	makes := rec.At(id)
	rec.Makes = makes // what it is compared by is its own
	for i, m := range makes {
		view.Promised[m.ID] = promise.OfMake(rec, m, made[m.ID])
		if i == 0 {
			continue
		}
		parts := layout.Changed(makes[i-1].Layout, m.Layout)
		if len(parts) == 0 {
			continue
		}
		compared, err := book.CompareOf(rec, r.Animals, book.Shed{}, "", book.ByChange, m.ID, "")
		if err != nil {
			return view, err
		}
		change := MadeAnother{Parts: parts, Compared: compared}
		change.PromisedBefore = r.promisedIn100(rec, makes[:i], made)
		change.PromisedSince = r.promisedIn100(rec, makes[i:], made)
		view.Changes[m.ID] = change
	}
	return view, nil
}

// promisedIn100 is what makes promised of all targets in 100 of the nights that they worked; nil where they worked none of which anything is promised.
func (r Reading) promisedIn100(rec line.Record, makes []line.Make, made map[string]promise.Make) *float64 {
	promised, nights := 0.0, 0.0
	for _, m := range makes {
		promised += promise.OfMake(rec, m, made[m.ID]).Expected
		for n, worth := range rec.Worked(m) {
			if n < made[m.ID].Nights() && rec.Span.Holds(rec.Midnight(m, n)) {
				nights += worth
			}
		}
	}
	if nights == 0 {
		return nil
	}
	return new(100 * promised / nights)
}
