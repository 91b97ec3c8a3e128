package page

import (
	"oldburrow/core/line"
	"oldburrow/core/tally"
)

// Ground is what is known of a line's land and the sign that was seen in a season. Season is nil for all of them.
type Ground struct {
	Season     *line.Season    `json:"season" jsonschema:"nullable"`
	Seasons    []line.Season   `json:"seasons"`
	Open       string          `json:"open"` // as in the book
	Properties []line.Property `json:"properties"`
	Spots      []line.Spot     `json:"spots"`
	Signs      []line.Sign     `json:"signs"`
	Features   []line.Feature  `json:"features"`
	Falls      []line.Fall     `json:"falls"`
	// Unreadable is what stands in the file and cannot be read.
	Unreadable []line.Unreadable `json:"unreadable"`
}

// groundView is the ground with the sign of the season that is asked for.
func groundView(r Reading, q Asked) (any, error) {
	season, span, err := r.Season(q.Query["season"])
	if err != nil {
		return nil, err
	}
	g, err := r.Ground(span)
	g.Open = r.openOf(g.Seasons)
	if season.ID != "" {
		g.Season = &season
	}
	return g, err
}

// Ground is the land with the sign of a span.
func (r Reading) Ground(span tally.Span) (g Ground, err error) {
	for _, read := range []func() error{
		func() error { g.Seasons, err = r.Seasons(r.Of.ID); return err },
		func() error { g.Properties, err = r.Properties(r.Of.ID); return err },
		func() error { g.Spots, err = r.Spots(r.Of.ID); return err },
		func() error { g.Signs, err = r.Signs(r.Of.ID, span); return err },
		func() error { g.Features, err = r.Features(r.Of.ID); return err },
		func() error { g.Falls, err = r.Falls(r.Of.ID, span); return err },
	} {
		if err := read(); err != nil {
			return g, err
		}
	}
	g.Unreadable = r.Unread()
	return g, nil
}
