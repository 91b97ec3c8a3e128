package page

import (
	"time"

	"oldburrow/core/book"
	"oldburrow/core/line"
	"oldburrow/core/promise"
)

// BookView is what a line has caught in a season, and at what rate. Season is nil for all of them.
type BookView struct {
	book.Book
	Now     time.Time     `json:"now"`
	Season  *line.Season  `json:"season" jsonschema:"nullable"`
	Seasons []line.Season `json:"seasons"`
	// Promised is what the drawings promised in it, and what came; Anew says that some of it is being told anew.
	Promised promise.Account `json:"promised"`
	Anew     bool            `json:"anew"`
	ToldTo   *time.Time      `json:"toldTo" jsonschema:"nullable"` // as far as it has been told, while it is told anew; nil where none of it has
	Open     string          `json:"open"`                         // the season that is shown where none is asked for; blank while none has begun
	// Unreadable is what stands in the file and cannot be read.
	Unreadable []line.Unreadable `json:"unreadable"`
}

// bookView is the book of the season that is asked for.
func bookView(r Reading, q Asked) (any, error) {
	b := BookView{Now: r.Now.UTC()}
	rec, season, err := r.asked(q)
	if err != nil {
		return nil, err
	}
	b.Season = season
	if b.Seasons, err = r.Seasons(r.Of.ID); err != nil {
		return nil, err
	}
	b.Open = r.openOf(b.Seasons)
	if b.Book, err = book.Of(rec, r.Animals); err != nil {
		return nil, err
	}
	made, err := r.madeIn(rec)
	if err != nil {
		return nil, err
	}
	b.Promised, err = promise.AccountOf(rec, made, r.Animals)
	if b.Anew = r.Around.Anew || b.Promised.Missing > 0; b.Anew {
		b.ToldTo = r.Around.ToldTo
	}
	b.Unreadable = r.Unread()
	return b, err
}
