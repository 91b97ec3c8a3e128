package server

import (
	"github.com/gin-gonic/gin"

	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/tally"
	"oldburrow/store"
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
	Unreadable []store.Unreadable `json:"unreadable"`
}

// groundView is the ground with the sign of the season that is asked for.
func groundView(r reading, c *gin.Context) (any, error) {
	season, span, err := r.season(c.Query("season"))
	if err != nil {
		return nil, err
	}
	g, err := r.ground(span)
	g.Open = r.openOf(g.Seasons)
	if season.ID != "" {
		g.Season = &season
	}
	return g, err
}

// ground is the land with the sign of a span.
func (r reading) ground(span tally.Span) (g Ground, err error) {
	for _, read := range []func() error{
		func() error { g.Seasons, err = r.Seasons(r.line.ID); return err },
		func() error { g.Properties, err = r.Properties(r.line.ID); return err },
		func() error { g.Spots, err = r.Spots(r.line.ID); return err },
		func() error { g.Signs, err = r.Signs(r.line.ID, span); return err },
		func() error { g.Features, err = r.Features(r.line.ID); return err },
		func() error { g.Falls, err = r.Falls(r.line.ID, span); return err },
	} {
		if err := read(); err != nil {
			return g, err
		}
	}
	g.Unreadable = r.Unread()
	return g, nil
}

// spotStory is the sets that a place has met, over all seasons.
func spotStory(r reading, c *gin.Context) (any, error) {
	noted, err := r.NotedAtSpot(r.line.ID, c.Param("id"))
	return line.NewRecord(r.now, r.zone, tally.Span{}, noted).Stood(), err
}

// kinds lists what can be drawn.
func (s *Server) kinds(c *gin.Context) { reply(c, ground.Kinds) }

func (s *Server) putLine(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutLine, func(x *line.Line) error {
		x.ID = c.Param("line")
		return x.Check()
	})
}

func (s *Server) putProperty(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutProperty, func(x *line.Property) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

func (s *Server) putSpot(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutSpot, func(x *line.Spot) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

func (s *Server) putSign(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutSign, func(x *line.Sign) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check(s.Clock.Now(), s.with().Animals)
	})
}

func (s *Server) putFeature(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutFeature, func(x *line.Feature) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		if x.MadeAt.IsZero() {
			x.MadeAt = s.Clock.Now()
		}
		return x.Check()
	})
}

func (s *Server) putFall(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutFall, func(x *line.Fall) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check(s.Clock.Now())
	})
}
