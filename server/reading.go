package server

import (
	"context"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/round"
	"oldburrow/store"
)

// reading is a line as it stood at one moment. What a page shows is read from one reading alone.
type reading struct {
	store.View
	server *Server
	line   line.Line
	now    time.Time
	zone   *time.Location
}

// read looks at a line in one transaction.
func (s *Server) read(ctx context.Context, lineID string, look func(reading) error) error {
	return s.Store.Read(ctx, func(v store.View) error {
		l, err := v.Line(lineID)
		if err != nil {
			return err
		}
		r, err := s.readingOf(v, l)
		if err != nil {
			return err
		}
		return look(r)
	})
}

func (s *Server) readingOf(v store.View, l line.Line) (reading, error) {
	zone, err := round.Zone(l.Zone)
	return reading{v, s, l, s.Clock.Now(), zone}, err
}

// show answers with what a page shows of the line.
func (s *Server) show(page func(reading, *gin.Context) (any, error)) gin.HandlerFunc {
	return func(c *gin.Context) {
		var found any
		err := s.read(c.Request.Context(), c.Param("line"), func(r reading) (err error) {
			found, err = page(r, c)
			return err
		})
		if err != nil {
			fail(c, err)
			return
		}
		reply(c, found)
	}
}

// record is what was done on the line until now, as it counts.
func (r reading) record() (line.Record, error) {
	sets, err := r.Sets(r.line.ID)
	if err != nil {
		return line.Record{}, err
	}
	makes, err := r.Makes(r.line.ID)
	if err != nil {
		return line.Record{}, err
	}
	pulls, err := r.Pulls(r.line.ID)
	if err != nil {
		return line.Record{}, err
	}
	visits, err := r.Visits(r.line.ID)
	if err != nil {
		return line.Record{}, err
	}
	return line.NewRecord(r.now, r.zone, sets, makes, pulls, visits), nil
}
