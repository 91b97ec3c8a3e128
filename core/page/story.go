package page

import (
	"oldburrow/core/book"
	"oldburrow/core/learn"
	"oldburrow/core/promise"
	"oldburrow/core/refuse"
)

// StoryView is the story of a set, with what each of its makes promised of all targets, night for night, and how many of them came.
type StoryView struct {
	book.Story
	Promised map[string]learn.Sum `json:"promised"` // by make
}

// story tells what became of a set in the season that is asked for.
func story(r Reading, q Asked) (any, error) {
	_, span, err := r.Season(q.Query["season"])
	if err != nil {
		return nil, err
	}
	rec, err := r.RecordOf(span)
	if err != nil {
		return nil, err
	}
	if rec.Set(q.Key).ID == "" {
		return nil, refuse.ErrUnknown
	}
	view := StoryView{book.StoryOf(rec, q.Key), map[string]learn.Sum{}}
	made, err := r.madeIn(rec)
	for _, m := range rec.At(q.Key) {
		view.Promised[m.ID] = promise.OfMake(rec, m, made, r.Animals)
	}
	return view, err
}
