package server

import (
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/store"
)

// Moment is when something was done.
type Moment struct {
	At time.Time `json:"at"`
}

func (s *Server) putVisit(c *gin.Context) {
	var x line.Visit
	if !decode(c, &x) {
		return
	}
	x.ID, x.LineID, x.UndoneAt = c.Param("id"), theLine(c).ID, nil
	if err := x.Check(s.with().Animals); err != nil {
		fail(c, err)
		return
	}
	x.Flags, x.ReceivedAt = line.OddlyAhead(x.At, s.Clock.Now()), nil
	if stamped(c, x.At) {
		now := s.Clock.Now().UTC()
		x.ReceivedAt = &now
	}
	s.write(c, func(t *store.Tx) (any, error) { return t.PutVisit(x) })
}

// stamped tells whether the time of an act was stamped by its device.
func stamped(c *gin.Context, at time.Time) bool {
	asked, err := clocksOf(c)
	return err == nil && line.Stamped(at, asked.DeviceAt, asked.OffsetMs)
}

func (s *Server) putPull(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutPull, func(x *line.Pull) error {
		x.ID, x.LineID, x.UndoneAt = c.Param("id"), theLine(c).ID, nil
		return x.Check()
	})
}
