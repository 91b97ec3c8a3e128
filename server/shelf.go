package server

import (
	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/store"
)

func (s *Server) putLure(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutLure, func(x *line.Lure) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

func (s *Server) putBottle(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutBottle, func(x *line.Bottle) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

func (s *Server) putLevel(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutLevel, func(x *line.Level) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

func (s *Server) putDose(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutDose, func(x *line.Dose) error {
		x.ID, x.LineID, x.UndoneAt = c.Param("id"), theLine(c).ID, nil
		return x.Check()
	})
}

func (s *Server) putRecipe(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutRecipe, func(x *line.Recipe) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}

func (s *Server) putKitMark(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutKitMark, func(x *line.KitMark) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check()
	})
}
