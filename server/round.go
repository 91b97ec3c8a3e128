package server

import (
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/store"
)

// oddTime says when an act's time lies ahead of this clock; the act is kept all the same.
func (s *Server) oddTime(at time.Time) string {
	if at.After(s.Clock.Now().Add(line.Ahead)) {
		return line.FlagClockAhead
	}
	return ""
}

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
	x.Flags, x.ReceivedAt = s.oddTime(x.At), nil
	if stamped(c, x.At) {
		now := s.Clock.Now().UTC()
		x.ReceivedAt = &now
	}
	s.write(c, func(t *store.Tx) (any, error) { return t.PutVisit(x) })
}

// typedApart is by how much the time of an act that was stamped by its device may differ from what the device's clock showed.
const typedApart = 2 * time.Minute

// stamped tells whether the time of an act is the one that its device's clock showed, as it was or as the program's clock was then.
func stamped(c *gin.Context, at time.Time) bool {
	asked, err := clocksOf(c)
	if err != nil || asked.DeviceAt == nil {
		return false
	}
	device := *asked.DeviceAt
	if asked.OffsetMs != nil && at.Sub(device.Add(time.Duration(*asked.OffsetMs)*time.Millisecond)).Abs() <= typedApart {
		return true
	}
	return at.Sub(device).Abs() <= typedApart
}

func (s *Server) putPull(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutPull, func(x *line.Pull) error {
		x.ID, x.LineID, x.UndoneAt = c.Param("id"), theLine(c).ID, nil
		return x.Check()
	})
}
