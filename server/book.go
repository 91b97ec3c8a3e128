package server

import (
	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/store"
)

func (s *Server) putSeason(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutSeason, func(x *line.Season) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}
