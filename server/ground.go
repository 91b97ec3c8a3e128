package server

import (
	"net/http"

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
}

func (s *Server) ground(c *gin.Context) {
	g, err := s.groundOf(theLine(c).ID)
	if err != nil {
		fail(c, err)
		return
	}
	c.JSON(http.StatusOK, g)
}

func (s *Server) groundOf(lineID string) (g Ground, err error) {
	if g.Properties, err = s.Store.Properties(lineID); err != nil {
		return g, err
	}
	if g.Spots, err = s.Store.Spots(lineID); err != nil {
		return g, err
	}
	if g.Signs, err = s.Store.Signs(lineID); err != nil {
		return g, err
	}
	if g.Features, err = s.Store.Features(lineID); err != nil {
		return g, err
	}
	g.Falls, err = s.Store.Falls(lineID)
	return g, err
}

// kinds lists what can be drawn.
func (s *Server) kinds(c *gin.Context) { c.JSON(http.StatusOK, ground.Kinds) }

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
