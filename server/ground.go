package server

import (
	"github.com/gin-gonic/gin"

	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/store"
)

// Ground is what is known of a line's land, and what can be drawn on it.
type Ground struct {
	Properties []line.Property `json:"properties"`
	Spots      []line.Spot     `json:"spots"`
	Signs      []line.Sign     `json:"signs"`
	Features   []line.Feature  `json:"features"`
	Falls      []line.Fall     `json:"falls"`
	// Unreadable is what stands in the file and cannot be read.
	Unreadable []store.Unreadable `json:"unreadable"`
}

func groundView(r reading, _ *gin.Context) (any, error) { return r.ground() }

func (r reading) ground() (g Ground, err error) {
	for _, read := range []func() error{
		func() error { g.Properties, err = r.Properties(r.line.ID); return err },
		func() error { g.Spots, err = r.Spots(r.line.ID); return err },
		func() error { g.Signs, err = r.Signs(r.line.ID); return err },
		func() error { g.Features, err = r.Features(r.line.ID); return err },
		func() error { g.Falls, err = r.Falls(r.line.ID); return err },
	} {
		if err := read(); err != nil {
			return g, err
		}
	}
	g.Unreadable = r.Unread()
	return g, nil
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
		return x.Check(s.Clock.Now())
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
