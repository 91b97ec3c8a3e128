package server

import (
	"context"
	"encoding/json"
	"net/http"
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/asked"
	"oldburrow/core/line"
	"oldburrow/core/round"
	"oldburrow/core/tally"
	"oldburrow/store"
)

// reading is a line as it stood at one moment. What a page shows is read from one reading alone.
type reading struct {
	store.View
	server *Server
	line   line.Line
	now    time.Time
	zone   *time.Location
	read   *line.Record // of the open season, once it was asked for
	asked.With
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
	return reading{v, s, l, s.Clock.Now(), zone, &line.Record{}, s.with()}, err
}

// show answers with what a page shows of the line. Only so many pages are drawn up at a time: more at once would be no quicker, and each
// needs memory; how slowly somebody takes one in holds up nobody.
func (s *Server) show(page func(reading, *gin.Context) (any, error)) gin.HandlerFunc {
	return func(c *gin.Context) {
		raw, err := s.drawnUp(c, page)
		if err != nil {
			fail(c, err)
			return
		}
		c.Data(http.StatusOK, jsonKind, raw)
	}
}

func (s *Server) drawnUp(c *gin.Context, page func(reading, *gin.Context) (any, error)) ([]byte, error) {
	select {
	case s.drawing <- struct{}{}:
		defer func() { <-s.drawing }()
	case <-c.Request.Context().Done():
		return nil, c.Request.Context().Err()
	}
	var found any
	err := s.read(c.Request.Context(), c.Param("line"), func(r reading) (err error) {
		found, err = page(r, c)
		return err
	})
	if err != nil {
		return nil, err
	}
	return json.Marshal(found)
}

// with is what is computed with beside what was asked or noted: the animals that are known, and what the line's trapper goes by. It is read
// once a request.
func (s *Server) with() asked.With { return asked.Usual() }

// season gives the season that a request asks for, by its id: the open one when it asks for none, and none when it asks for all.
// The span is what belongs to it.
func (r reading) season(asked string) (line.Season, tally.Span, error) {
	seasons, err := r.Seasons(r.line.ID)
	if err != nil || asked == allSeasons {
		return line.Season{}, tally.Span{}, err
	}
	found, ok := seasons.Open(r.now, r.zone)
	if asked != "" {
		i := slices.IndexFunc(seasons, func(s line.Season) bool { return s.ID == asked })
		if i < 0 {
			return line.Season{}, tally.Span{}, store.ErrUnknown
		}
		found, ok = seasons[i], true
	}
	if !ok {
		return line.Season{}, tally.Span{}, nil
	}
	return found, seasons.Span(found.ID, r.zone), nil
}

// openOf is the id of the open one among seasons; blank while none has begun.
func (r reading) openOf(seasons line.Seasons) string {
	open, _ := seasons.Open(r.now, r.zone)
	return open.ID
}

// allSeasons is how a request asks for all of them.
const allSeasons = "all"

// record is what was done on the line in the open season until now, as it counts.
func (r reading) record() (line.Record, error) {
	if r.read.Now.IsZero() {
		_, span, err := r.season("")
		if err != nil {
			return line.Record{}, err
		}
		if *r.read, err = r.recordOf(span); err != nil {
			return line.Record{}, err
		}
	}
	return *r.read, nil
}

// recordOf is what was done in a span.
func (r reading) recordOf(span tally.Span) (line.Record, error) {
	noted, err := r.Noted(r.line.ID, span)
	return line.NewRecord(r.now, r.zone, span, noted), err
}
