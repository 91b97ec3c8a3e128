package page

import (
	"oldburrow/core/book"
	"oldburrow/core/line"
	"oldburrow/core/promise"
	"oldburrow/core/refuse"
)

// ApartView is a season's nights told apart, by what was held of one animal or of all targets.
type ApartView struct {
	book.Apart
	Animal  string        `json:"animal"`
	Season  *line.Season  `json:"season" jsonschema:"nullable"`
	Seasons []line.Season `json:"seasons"`
	Open    string        `json:"open"`
}

// apart tells the nights of the season that is asked for apart.
func apart(r Reading, q Asked) (any, error) {
	view := ApartView{Animal: q.Query["animal"]}
	rec, season, shed, err := r.askedNamed(q)
	if err != nil {
		return nil, err
	}
	view.Season = season
	if view.Seasons, err = r.Seasons(r.Of.ID); err != nil {
		return nil, err
	}
	view.Open = r.openOf(view.Seasons)
	view.Apart, err = book.ApartOf(rec, r.Animals, shed, view.Animal)
	return view, err
}

// askedNamed is the record of the season that is asked for, with what the shed calls what layouts name by its id.
func (r Reading) askedNamed(q Asked) (rec line.Record, season *line.Season, shed book.Shed, err error) {
	if rec, season, err = r.asked(q); err == nil {
		shed, err = r.named()
	}
	return rec, season, shed, err
}

// NightsView are the nights of one heap of them, make by make.
type NightsView struct {
	Makes []book.AtMake `json:"makes"`
}

// nightsOf opens one heap.
func nightsOf(r Reading, q Asked) (any, error) {
	rec, _, shed, err := r.askedNamed(q)
	if err != nil {
		return nil, err
	}
	makes, err := book.NightsOf(rec, r.Animals, shed, q.Query["animal"], book.ApartBy(q.Query["by"]), q.Query["key"])
	return NightsView{makes}, err
}

// ShowedView are the findings behind what is told of a target's links.
type ShowedView struct {
	Showed []promise.Showed `json:"showed"`
}

// showed lists them.
func showed(r Reading, q Asked) (any, error) {
	if _, err := r.Animals.ByKey(q.Key); err != nil {
		return nil, refuse.ErrUnknown
	}
	rec, _, err := r.asked(q)
	if err != nil {
		return nil, err
	}
	made, err := r.madeIn(rec)
	return ShowedView{promise.ShowedOf(rec, made, q.Key)}, err
}

// compare compares two groups of them.
func compare(r Reading, q Asked) (any, error) {
	rec, _, shed, err := r.askedNamed(q)
	if err != nil {
		return nil, err
	}
	return book.CompareOf(rec, r.Animals, shed, q.Query["animal"], book.ApartBy(q.Query["by"]), q.Query["a"], q.Query["b"])
}

// asked is the record of the season that is asked for; nil is all of them.
func (r Reading) asked(q Asked) (line.Record, *line.Season, error) {
	season, span, err := r.Season(q.Query["season"])
	if err != nil {
		return line.Record{}, nil, err
	}
	rec, err := r.RecordOf(span)
	if season.ID == "" {
		return rec, nil, err
	}
	return rec, &season, err
}

// named is what the shed calls what layouts name by its id.
func (r Reading) named() (book.Shed, error) {
	shed := book.Shed{Sizes: map[string]string{}, Classes: map[string]string{}}
	traps, err := r.Traps(r.Of.ID)
	if err != nil {
		return shed, err
	}
	for _, t := range traps {
		shed.Sizes[t.ID] = t.Size
	}
	poured, err := r.Poured(r.Of.ID, r.Now)
	for _, l := range poured {
		shed.Classes[l.Lure.ID] = string(l.Lure.Class)
	}
	return shed, err
}
