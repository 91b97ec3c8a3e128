package server

import (
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/core/tally"
	"oldburrow/store"
)

// Day is a day of the line as it is written up: what stood on it and what was found, along the way round, and everything that was done.
type Day struct {
	Date  string    `json:"date"`
	From  time.Time `json:"from"`
	Until time.Time `json:"until"`
	// Morning is when a look is taken to have been of which only the day is known and nothing beside it: first light, or noon where there is none.
	Morning time.Time    `json:"morning"`
	Sets    []line.OfDay `json:"sets"`
	Acts    []line.Act   `json:"acts"`
	Odd     []line.Odd   `json:"odd"` // looks of the day that are kept and not counted
}

// dayView is a day by its local date ("2026-12-04"), whatever season it lies in.
func dayView(r reading, c *gin.Context) (any, error) {
	var p refuse.Problems
	date := line.CheckDay(&p, "date", c.Param("date"))
	if err := p.Err(); err != nil {
		return nil, err
	}
	y, m, d := date.Date()
	day := Day{Date: c.Param("date"), From: round.StartOfDay(y, m, d, r.zone).UTC(), Until: round.StartOfDay(y, m, d+1, r.zone).UTC()}
	day.Morning = day.From.Add(12 * time.Hour)
	light, err := round.Daylight(day.Morning, r.zone, r.line.LatDeg, r.line.LonDeg)
	if err != nil {
		return nil, err
	}
	if light.FirstLight != nil {
		day.Morning = *light.FirstLight
	}
	rec, err := r.recordOf(tally.Span{From: day.From, Until: day.Until})
	if err != nil {
		return nil, err
	}
	spots, err := r.Spots(r.line.ID)
	if err != nil {
		return nil, err
	}
	day.Sets = rec.Day(day.From, day.Until, line.Round(rec.Sets, spots, nil))
	day.Odd = slices.DeleteFunc(slices.Clone(rec.Odd), func(x line.Odd) bool { return x.Visit == nil || x.At.Before(day.From) || !x.At.Before(day.Until) })
	day.Acts, err = r.Acts(r.line.ID, day.From, day.Until)
	return day, err
}

func mends(r reading, c *gin.Context) (any, error) { return r.Mends(r.line.ID, c.Param("id")) }

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
