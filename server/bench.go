package server

import (
	"encoding/json"
	"fmt"
	"net/http"

	"github.com/gin-gonic/gin"
	lru "github.com/hashicorp/golang-lru/v2"

	"oldburrow/core/calc"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/refuse"
	"oldburrow/core/shed"
	"oldburrow/store"
)

// Question is what the bench asks of a layout: for which target, by how many visits, with the chance map or without.
type Question struct {
	Layout layout.Layout `json:"layout"`
	Target string        `json:"target"`
	Visits int           `json:"visits"`
	Map    bool          `json:"map"`
}

const mostVisits = 300000

// runs keeps the latest simulations by their whole input and the computation's version.
type runs struct{ cache *lru.Cache[string, any] }

func newRuns() *runs {
	cache, err := lru.New[string, any](256)
	if err != nil {
		panic(err) // only a size below one is refused
	}
	return &runs{cache}
}

func (r *runs) of(kind string, q Question, compute func() (any, error)) (any, error) {
	raw, err := json.Marshal(struct {
		Kind    string
		Version int
		Question
	}{kind, odds.Version, q})
	if err != nil {
		return nil, err
	}
	if found, ok := r.cache.Get(string(raw)); ok {
		return found, nil
	}
	found, err := compute()
	if err == nil {
		r.cache.Add(string(raw), found)
	}
	return found, err
}

func (s *Server) bench(c *gin.Context) {
	s.ask(c, "target", func(q Question) (any, error) { return odds.Of(q.Layout, q.Target, q.Visits, q.Map) })
}

func (s *Server) others(c *gin.Context) {
	s.ask(c, "others", func(q Question) (any, error) { return odds.Others(q.Layout, q.Target, q.Visits) })
}

func (s *Server) ask(c *gin.Context, kind string, compute func(Question) (any, error)) {
	var q Question
	if !decode(c, &q) {
		return
	}
	var p refuse.Problems
	p.Within("visits", float64(q.Visits), 1, mostVisits, "")
	err := p.Err()
	var found any
	if err == nil {
		found, err = s.runs.of(kind, q, func() (any, error) { return compute(q) })
	}
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, found)
}

func (s *Server) defaults(c *gin.Context) {
	l, err := layout.For(c.Param("target"))
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, l)
}

func (s *Server) calc(c *gin.Context) {
	raw, ok := body(c, largestBody, "request")
	if !ok {
		return
	}
	out, err := calc.Run(c.Param("name"), raw)
	if err != nil {
		fail(c, err)
		return
	}
	c.Data(http.StatusOK, "application/json", out)
}

func design(r reading, c *gin.Context) (any, error) { return r.Design(r.line.ID, c.Param("id")) }

// putDesign saves a design as it stands on the bench, also one that cannot be built as it is: the bench says what is wrong.
func (s *Server) putDesign(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutDesign, func(x *line.Design) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.CheckDraft()
	})
}

func (s *Server) putMake(c *gin.Context) {
	var x line.Make
	if !decode(c, &x) {
		return
	}
	x.ID, x.LineID = c.Param("id"), theLine(c).ID
	err := x.Check()
	var found odds.Answer
	if err == nil {
		found, err = odds.Of(x.Layout, x.Target, 20000, false)
	}
	if err != nil {
		fail(c, err)
		return
	}
	x.Step, x.Fire = found.Step, found.Fire
	s.write(c, func(t *store.Tx) (any, error) {
		r, err := s.readingOf(t.View, theLine(c))
		if err != nil {
			return nil, err
		}
		odd, err := r.oddTrap(x)
		if err != nil {
			return nil, err
		}
		x.Flags = flags(s.oddTime(x.BuiltAt), odd)
		return t.PutMake(x)
	})
}

// oddTrap says in words why the trap of a make should not have gone out; the make is kept all the same, and the trap is
// where it was built last.
func (r reading) oddTrap(x line.Make) (string, error) {
	if x.Layout.Trap.ID == "" {
		return "", nil
	}
	record, err := r.shedRecord()
	if err != nil {
		return "", err
	}
	rack, err := record.Rack()
	if err != nil {
		return "", err
	}
	for _, h := range rack {
		if h.Trap.ID != x.Layout.Trap.ID {
			continue
		}
		switch h.BarsFrom(x.SetID) {
		case shed.BarsStands:
			return fmt.Sprintf("its trap stood in set %d by the record", h.Place.Number), nil
		case shed.BarsAway:
			return "its trap was not on the rack by the record", nil
		case shed.BarsFault:
			return "its trap was kept home by the shed check", nil
		}
		return "", nil
	}
	return "its trap is not on the rack", nil
}
