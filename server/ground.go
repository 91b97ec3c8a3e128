package server

import (
	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/tally"
	"oldburrow/store"
)

// spotStory is the sets that a place has met, over all seasons.
func spotStory(r reading, c *gin.Context) (any, error) {
	noted, err := r.view.NotedAtSpot(r.Of.ID, c.Param("id"))
	return line.NewRecord(r.Now, r.Zone, tally.Span{}, noted).Stood(), err
}

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
