package server

import (
	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/store"
)

func (s *Server) putPattern(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutPattern, func(x *line.Pattern) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check(s.with().Animals)
	})
}
