package server

import (
	"context"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/core/strict"
	"oldburrow/core/weather"
	"oldburrow/exchange"
	"oldburrow/store"
)

const (
	freshFor  = 30 * time.Minute
	fetchFact = "weather:"
)

// refresh asks the service when what is kept is no longer fresh. What it cannot get is said in words; the last good weather
// stays.
func (s *Server) refresh(ctx context.Context, l line.Line) string {
	now := s.Clock.Now()
	var from time.Time
	err := s.read(ctx, l.ID, func(r reading) (err error) {
		from, err = r.askFrom()
		return err
	})
	if err != nil {
		return "The weather kept in the file cannot be read."
	}
	report, err := s.Weather.Get(ctx, l.LatDeg, l.LonDeg, from, now)
	if err != nil {
		return "The weather service gives no usable answer: " + err.Error()
	}
	s.office.puzzled(l.ID, report.Unknown)
	err = s.Store.Keep(func(t *store.Tx) error {
		if err := t.PutHours(l.ID, report.Observed, false); err != nil {
			return err
		}
		return t.PutForecast(l.ID, report.Forecast)
	})
	if err == nil {
		// What was said long ago is as old as it was then.
		if !report.Issued.IsZero() && now.Sub(report.Issued) > page.StaleAfter {
			now = report.Issued
		}
		mark := now.UTC().Format(time.RFC3339)
		if report.StandIn {
			mark += " stand-in"
		}
		err = s.Store.SetFact(fetchFact+l.ID, mark)
		s.wakes()
	}
	if err != nil {
		return "The weather could not be kept."
	}
	return ""
}

// askFrom is the hour from which the record still lacks something.
func (r reading) askFrom() (time.Time, error) {
	now := r.Now
	from := now.Add(-page.SeasonBefore)
	rec, err := r.Record()
	if err != nil {
		return from, err
	}
	if len(rec.Makes) > 0 {
		from = rec.Makes[0].BuiltAt.Add(-page.SeasonBefore)
	}
	hours, err := r.Hours(r.Of.ID, false, from)
	if err != nil {
		return from, err
	}
	if n := len(hours); n > 0 && hours[0].At.Before(from.Add(time.Hour)) {
		from = hours[n-1].At.Add(-6 * time.Hour)
	}
	if now.Sub(from) > page.LongestAsked {
		from = now.Add(-page.LongestAsked)
	}
	return from, nil
}

// fetched is when the service was last read with success, and whether it was a stand-in.
func (s *Server) fetched(lineID string) (*time.Time, bool) {
	mark, err := s.Store.Fact(fetchFact + lineID)
	if err != nil || len(mark) < len("2006-01-02T15:04:05Z") {
		return nil, false
	}
	at, err := time.Parse(time.RFC3339, mark[:20])
	if err != nil {
		return nil, false
	}
	return &at, len(mark) > 20
}

func (s *Server) putReading(c *gin.Context) {
	putOne(s, c, (*store.Tx).PutReading, func(x *line.Reading) error {
		x.ID, x.LineID = c.Param("id"), theLine(c).ID
		return x.Check(s.Clock.Now())
	})
}

// LogPreview is what a weather log holds: the hours that can be taken, and what is wrong with which rows.
type LogPreview struct {
	Hours []weather.Hour      `json:"hours"`
	Wrong []exchange.WrongRow `json:"wrong"`

	Written exchange.Written `json:"written"`
}

// previewLog reads an own weather log; nothing is changed.
func (s *Server) previewLog(c *gin.Context) {
	raw, ok := body(c, largestUpload, "log")
	if !ok {
		return
	}
	zone, err := round.Zone(theLine(c).Zone)
	if err != nil {
		fail(c, err)
		return
	}
	preview, err := readLog(raw, c.Query("encoding"), zone, s.Clock.Now())
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, preview)
}

// Log are the hours of an own log that are to be taken in.
type Log struct {
	Hours []weather.Hour `json:"hours"`
}

// BroughtHours says how many were.
type BroughtHours struct {
	Hours int `json:"hours"`
}

// bringLog takes in the hours of an own log over a service's.
func (s *Server) bringLog(c *gin.Context) {
	raw, ok := body(c, largestUpload, "log")
	if !ok {
		return
	}
	var b Log
	err := strict.Decode(raw, &b)
	if err == nil && len(b.Hours) == 0 {
		err = refuse.Field("hours", "are missing: the log holds none that can be taken")
	}
	if err == nil {
		err = weather.Ordered(b.Hours)
	}
	if n := len(b.Hours); err == nil && b.Hours[n-1].At.After(s.Clock.Now()) {
		err = refuse.Field("hours", "go on into the future: a log tells what was")
	}
	if err != nil {
		fail(c, err)
		return
	}
	s.write(c, func(t *store.Tx) (any, error) {
		return BroughtHours{len(b.Hours)}, t.PutHours(theLine(c).ID, b.Hours, true)
	})
}
