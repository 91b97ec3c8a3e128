package page

import (
	"oldburrow/core/book"
	"oldburrow/core/line"
)

// MendedView is what a season tells of what was done about trouble, of what each lure brought, and of how often the targets come by.
type MendedView struct {
	Cures    []book.Cure        `json:"cures"`
	Lures    []book.LureBrought `json:"lures"`
	Circuits []book.Circuit     `json:"circuits"`
	Season   *line.Season       `json:"season" jsonschema:"nullable"`
	Seasons  []line.Season      `json:"seasons"`
	Open     string             `json:"open"`
}

// mended tells the season that is asked for.
func mended(r Reading, q Asked) (any, error) {
	rec, season, err := r.asked(q)
	if err != nil {
		return nil, err
	}
	view := MendedView{Cures: book.CuresOf(rec, r.Animals), Circuits: book.CircuitsOf(rec, r.Animals), Season: season}
	if view.Lures, err = book.LuresOf(rec, r.Animals); err != nil {
		return nil, err
	}
	if view.Seasons, err = r.Seasons(r.Of.ID); err != nil {
		return nil, err
	}
	view.Open = r.openOf(view.Seasons)
	return view, nil
}
