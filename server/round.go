package server

import (
	"slices"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/store"
)

// oddTime says in words when an act's time lies ahead of this clock; the act is kept all the same.
func (s *Server) oddTime(at time.Time) string {
	if at.After(s.Clock.Now().Add(line.Ahead)) {
		return "its clock was ahead of the program's"
	}
	return ""
}

// flags joins what was odd about an act when it arrived; blanks are nothing odd.
func flags(odd ...string) string {
	return strings.Join(slices.DeleteFunc(slices.Clone(odd), func(one string) bool { return one == "" }), "; ")
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
	if err := x.Check(); err != nil {
		fail(c, err)
		return
	}
	x.Flags = s.oddTime(x.At)
	s.write(c, func(t *store.Tx) (any, error) { return t.PutVisit(x) })
}

func (s *Server) undoVisit(c *gin.Context) {
	s.moment(c, func(t *store.Tx, at time.Time) (any, error) {
		return t.UndoVisit(theLine(c).ID, c.Param("id"), at)
	})
}

func (s *Server) putPull(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutPull, func(x *line.Pull) error {
		x.ID, x.LineID, x.UndoneAt = c.Param("id"), theLine(c).ID, nil
		return x.Check()
	})
}

func (s *Server) undoPull(c *gin.Context) {
	s.moment(c, func(t *store.Tx, at time.Time) (any, error) {
		return t.UndoPull(theLine(c).ID, c.Param("id"), at)
	})
}

func (s *Server) moment(c *gin.Context, act func(*store.Tx, time.Time) (any, error)) {
	var m Moment
	if !decode(c, &m) {
		return
	}
	if m.At.IsZero() {
		m.At = s.Clock.Now()
	}
	s.write(c, func(t *store.Tx) (any, error) { return act(t, m.At) })
}
