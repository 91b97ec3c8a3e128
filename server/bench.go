package server

import (
	"context"
	"strings"

	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"

	"oldburrow/core/asked"
	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/store"
)

// runs keeps the latest answers by the whole of what was asked: it is asked again and again while a hand goes back and forth.
type runs struct{ cache *lru.Cache[string, any] }

func newRuns() *runs {
	cache, err := lru.New[string, any](256)
	if err != nil {
		panic(err) // only a size below one is refused
	}
	return &runs{cache}
}

// of gives what was answered before, or answers anew. What it hangs on beside the question is the same as long as the program runs.
func (r *runs) of(path string, raw []byte, answer func() (any, error)) (any, error) {
	key := path + " " + string(raw)
	if found, ok := r.cache.Get(key); ok {
		return found, nil
	}
	found, err := answer()
	if err == nil {
		r.cache.Add(key, found)
	}
	return found, err
}

// answers answers what only computes, at once or line by line. It ends with the request: whoever asks anew leaves the old one.
func (s *Server) answers(one asked.Route) gin.HandlerFunc {
	return func(c *gin.Context) {
		raw, ok := body(c, largestBody, "request")
		if !ok {
			return
		}
		path, with := strings.TrimPrefix(c.Request.URL.Path, "/api"), s.with()
		if one.Lines {
			lines(c, func(ctx context.Context, tell func(any)) error {
				_, err := asked.Answer(ctx, with, path, raw, tell)
				return err
			})
			return
		}
		found, err := s.runs.of(path, raw, func() (any, error) { return asked.Answer(c.Request.Context(), with, path, raw, nil) })
		if err != nil {
			fail(c, err)
			return
		}
		reply(c, found)
	}
}

// putDesign saves a design as it stands on the bench, also one that cannot be built as it is: the bench says what is wrong.
func (s *Server) putDesign(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutDesign, func(x *line.Design) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.CheckDraft(s.with().Animals)
	})
}

func (s *Server) putMake(c *gin.Context) {
	var x line.Make
	if !decode(c, &x) {
		return
	}
	x.ID, x.LineID, x.UndoneAt = c.Param("id"), theLine(c).ID, nil
	if err := x.Check(s.with().Animals); err != nil {
		fail(c, err)
		return
	}
	s.write(c, func(t *store.Tx) (any, error) {
		r, err := page.Read(t.View, theLine(c), s.Clock.Now(), s.with(), page.Around{})
		if err != nil {
			return nil, err
		}
		odd, err := r.OddTraps(x)
		if err != nil {
			return nil, err
		}
		x.Flags = line.Flags(line.OddlyAhead(x.BuiltAt, s.Clock.Now()), odd)
		return t.PutMake(x)
	})
}
