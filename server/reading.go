package server

import (
	"context"
	"encoding/json"
	"net/http"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/asked"
	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/store"
)

// reading is a line as it stood at one moment, and the file that it stood in then.
type reading struct {
	page.Reading
	view store.View
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
	around := s.around(l.ID)
	told, anew, err := v.Promising(l.ID, page.PromiseForm)
	if err != nil {
		return reading{}, err
	}
	if around.Anew = anew; !told.IsZero() {
		around.ToldTo = &told
	}
	r, err := page.Read(v, l, s.Clock.Now(), s.with(), around)
	return reading{r, v}, err
}

// behindBy is by how much the program's clock may be behind what it wrote itself: it is set right by so much again and again.
const behindBy = 2 * time.Minute

// around is what stands about the record of a line.
func (s *Server) around(lineID string) page.Around {
	a := page.Around{GPS: s.GPS != nil, Gauge: s.Gauge != nil, GaugeMadeUp: s.Gauge != nil && s.Gauge.StandIn, Office: s.officeOf(lineID)}
	if stands, err := s.Store.Standing(); err == nil && stands.Newest.After(s.Clock.Now().Add(behindBy)) {
		a.Behind = &stands.Newest
	}
	if why := s.Store.Barred(); why != nil {
		a.Trouble = problemOf(why).Detail
	}
	return a
}

// asks has a page's question answered, as the core does.
func asks(one page.Route) func(reading, *gin.Context) (any, error) {
	return func(r reading, c *gin.Context) (any, error) {
		q := page.Asked{Query: map[string]string{}}
		for _, name := range one.Asks {
			q.Query[name] = c.Query(name)
		}
		if stem, name, keyed := strings.Cut(one.Path, ":"); keyed && stem != "" {
			q.Key = c.Param(name)
		}
		if raw, ok := c.Get(questionBody); ok {
			q.Body = raw.([]byte)
		}
		return one.Answered(r.Reading, q)
	}
}

// questionBody is where a question's body lies that was taken in before the record is read: how slowly it comes holds up nobody.
const questionBody = "question"

// wantsWeather has the weather fetched that a page misses.
func (s *Server) wantsWeather(c *gin.Context) {
	if s.Weather != nil && !s.isFresh(c.Param("line")) {
		s.office.wants()
	}
}

// show answers with what a page shows of the line. Only so many pages are drawn up at a time: more at once would be no quicker, and each
// needs memory; how slowly somebody takes one in holds up nobody.
func (s *Server) show(draw func(reading, *gin.Context) (any, error)) gin.HandlerFunc {
	return func(c *gin.Context) {
		raw, err := s.drawnUp(c, draw)
		if err != nil {
			fail(c, err)
			return
		}
		c.Data(http.StatusOK, jsonKind, raw)
	}
}

func (s *Server) drawnUp(c *gin.Context, draw func(reading, *gin.Context) (any, error)) ([]byte, error) {
	select {
	case s.drawing <- struct{}{}:
		defer func() { <-s.drawing }()
	case <-c.Request.Context().Done():
		return nil, c.Request.Context().Err()
	}
	var found any
	err := s.read(c.Request.Context(), c.Param("line"), func(r reading) (err error) {
		found, err = draw(r, c)
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
