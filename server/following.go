package server

import (
	"context"
	"encoding/json"
	"log/slog"
	"net/http"

	"github.com/gin-gonic/gin"

	"oldburrow/core/odds"
	"oldburrow/core/refuse"
)

// streamed are the addresses whose answers come line by line as they are found; what gathers them to compress them would keep them back.
var streamed = []string{"/api/bench/following", "/api/bench/best", "/api/archive"}

// Following is one line of what follows the chain of a set: who else it would catch, one thing that would help, one that would spare
// others, and at last that this is all.
type Following struct {
	Company *odds.Company `json:"company,omitempty"`
	Remedy  *odds.Remedy  `json:"remedy,omitempty"`
	Sparing *odds.Sparing `json:"sparing,omitempty"`
	Done    bool          `json:"done,omitempty"`
}

// Progress is one line of a search for the best: how many designs of how many were tried, and at last what was found.
type Progress struct {
	Tried int              `json:"tried"`
	Of    int              `json:"of"`
	Best  *odds.BestPlaces `json:"best,omitempty"`
}

// Comparing asks how two designs of one line compare, each as the bench asks of it.
type Comparing struct {
	First  Question `json:"first"`
	Second Question `json:"second"`
}

// following answers what is computed after the chain, as it is found. It ends with the request: whoever asks anew leaves the old one.
func (s *Server) following(c *gin.Context) {
	s.stream(c, func(ctx context.Context, asked odds.Question, tell func(any)) error {
		company, err := odds.CompanyOf(ctx, asked)
		if err != nil {
			return err
		}
		tell(Following{Company: &company})
		if err := odds.Help(ctx, asked, func(found odds.Remedy) { tell(Following{Remedy: &found}) }); err != nil {
			return err
		}
		if err := odds.Spare(ctx, asked, func(found odds.Sparing) { tell(Following{Sparing: &found}) }); err != nil {
			return err
		}
		tell(Following{Done: true})
		return nil
	})
}

// best searches for the best places of a set's parts, and tells how far it is.
func (s *Server) best(c *gin.Context) {
	s.stream(c, func(ctx context.Context, asked odds.Question, tell func(any)) error {
		var last Progress
		found, err := odds.FindBest(ctx, asked, func(tried, of int) {
			if last = (Progress{Tried: tried, Of: of}); tried%tellEvery == 0 {
				tell(last)
			}
		})
		if err != nil {
			return err
		}
		last.Best = &found
		tell(last)
		return nil
	})
}

// tellEvery is after how many designs a search says how far it is.
const tellEvery = 10

// compare answers how two designs compare on the same feet.
func (s *Server) compare(c *gin.Context) {
	var q Comparing
	if !decode(c, &q) {
		return
	}
	found, err := q.compared(c.Request.Context(), s.brings())
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, found)
}

func (q Comparing) compared(ctx context.Context, with brings) (odds.Difference, error) {
	var p refuse.Problems
	first, err := q.First.weighed(with)
	p.Under("first", err)
	second, err := q.Second.weighed(with)
	p.Under("second", err)
	if err := p.Err(); err != nil {
		return odds.Difference{}, err
	}
	return odds.Compare(ctx, first, second)
}

// weighed is a question that asks for catches: its circumstances must be said.
func (q Question) weighed(with brings) (odds.Question, error) {
	target, err := q.target(with.animals)
	if err != nil {
		return odds.Question{}, err
	}
	if q.Circumstances == nil {
		return odds.Question{}, refuse.Field("circumstances", "are missing: what is caught hangs on the place and the night")
	}
	return q.forOdds(target, with)
}

// stream answers a question line by line.
func (s *Server) stream(c *gin.Context, compute func(ctx context.Context, asked odds.Question, tell func(any)) error) {
	var q Question
	if !decode(c, &q) {
		return
	}
	with := s.brings()
	lines(c, func(ctx context.Context, tell func(any)) error {
		asked, err := q.weighed(with)
		if err != nil {
			return err
		}
		return compute(ctx, asked, tell)
	})
}

// lines answers line by line, each a JSON value, as they are told. What goes wrong before the first line is answered as anywhere else; after
// that the answer only ends.
func lines(c *gin.Context, do func(ctx context.Context, tell func(any)) error) {
	ctx, leave := context.WithCancel(c.Request.Context())
	defer leave()
	began := false
	tell := func(line any) {
		if !began {
			began = true
			c.Header("Content-Type", "application/x-ndjson")
			c.Status(http.StatusOK)
		}
		if err := json.NewEncoder(c.Writer).Encode(line); err != nil {
			leave() // nobody takes it in
			return
		}
		c.Writer.Flush()
	}
	switch err := do(ctx, tell); {
	case err == nil:
	case ctx.Err() != nil:
		c.Abort()
	case !began:
		fail(c, err)
	default:
		slog.Error("answer broke off", "path", c.Request.URL.Path, "error", err)
	}
}
