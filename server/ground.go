package server

import (
	"net/http"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/store"
)

// Ground is what is known of a line's land.
type Ground struct {
	Properties []line.Property `json:"properties"`
	Spots      []line.Spot     `json:"spots"`
	Signs      []line.Sign     `json:"signs"`
}

func (s *Server) ground(c *gin.Context) {
	id := theLine(c).ID
	var g Ground
	var err error
	if g.Properties, err = s.Store.Properties(id); err == nil {
		if g.Spots, err = s.Store.Spots(id); err == nil {
			g.Signs, err = s.Store.Signs(id)
		}
	}
	if err != nil {
		fail(c, err)
		return
	}
	c.JSON(http.StatusOK, g)
}

func (s *Server) putLine(c *gin.Context) {
	var x line.Line
	if !read(c, &x) {
		return
	}
	x.ID = c.Param("line")
	if err := x.Check(); err != nil {
		fail(c, err)
		return
	}
	s.write(c, func(t *store.Tx) (any, error) { return t.PutLine(x) })
}

func (s *Server) putProperty(c *gin.Context) {
	var x line.Property
	if !read(c, &x) {
		return
	}
	x.ID, x.LineID = c.Param("id"), theLine(c).ID
	if err := x.Check(); err != nil {
		fail(c, err)
		return
	}
	s.write(c, func(t *store.Tx) (any, error) { return t.PutProperty(x) })
}

func (s *Server) putSpot(c *gin.Context) {
	var x line.Spot
	if !read(c, &x) {
		return
	}
	x.ID, x.LineID = c.Param("id"), theLine(c).ID
	if err := x.Check(); err != nil {
		fail(c, err)
		return
	}
	s.write(c, func(t *store.Tx) (any, error) { return t.PutSpot(x) })
}

func (s *Server) putSign(c *gin.Context) {
	var x line.Sign
	if !read(c, &x) {
		return
	}
	x.ID, x.LineID = c.Param("id"), theLine(c).ID
	if err := x.Check(s.Clock.Now()); err != nil {
		fail(c, err)
		return
	}
	s.write(c, func(t *store.Tx) (any, error) { return t.PutSign(x) })
}
