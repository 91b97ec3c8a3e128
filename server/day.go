package server

import (
	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/round"
	"oldburrow/store"
)

func mends(r reading, c *gin.Context) (any, error) { return r.view.Mends(r.Of.ID, c.Param("id")) }

func (s *Server) putMend(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutMend, func(x *line.Mend) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		x.Visit.ID, x.Visit.LineID, x.Visit.UndoneAt = x.VisitID, x.LineID, nil
		zone, err := round.Zone(theLine(c).Zone)
		if err != nil {
			return err
		}
		return x.Check(zone, s.with().Animals)
	})
}

func corrections(r reading, c *gin.Context) (any, error) {
	return r.view.Corrections(r.Of.ID, c.Param("id"))
}

func (s *Server) putCorrection(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutCorrection, func(x *line.Correction) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		x.Make.ID, x.Make.LineID, x.Make.UndoneAt = x.MakeID, x.LineID, nil
		return x.Check(s.with().Animals)
	})
}

// undo takes an act back, at the moment that is said or now.
func (s *Server) undo(act store.Acts) gin.HandlerFunc {
	return func(c *gin.Context) {
		var m Moment
		if !decode(c, &m) {
			return
		}
		if m.At.IsZero() {
			m.At = s.Clock.Now()
		}
		s.write(c, func(t *store.Tx) (any, error) { return act.Undo(t, theLine(c).ID, c.Param("id"), m.At) })
	}
}
