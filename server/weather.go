package server

import (
	"context"
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/asked"
	"oldburrow/core/line"
	"oldburrow/core/outlook"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/core/weather"
	"oldburrow/exchange"
	"oldburrow/store"
)

// WeatherView is the outlook of a line with where it is known from.
type WeatherView struct {
	outlook.Outlook
	Connected bool           `json:"connected"` // a service is asked
	StandIn   bool           `json:"standIn"`
	FetchedAt *time.Time     `json:"fetchedAt" jsonschema:"nullable"`
	Fetching  bool           `json:"fetching"` // it is being asked for; nothing waits for it
	Stale     bool           `json:"stale"`
	Trouble   string         `json:"trouble"`
	Unknown   []string       `json:"unknown"` // names in the service's hours that mean nothing here
	Readings  []line.Reading `json:"readings"`
}

const (
	freshFor     = 30 * time.Minute
	staleAfter   = 3 * time.Hour
	seasonBefore = 45 * 24 * time.Hour // frost needs the weeks before the first set
	longestAsked = 240 * 24 * time.Hour
	fetchFact    = "weather:"
)

func weatherView(r reading, _ *gin.Context) (any, error) {
	view := WeatherView{Connected: r.server.Weather != nil}
	if view.Connected && !r.server.isFresh(r.line.ID) {
		var rests bool
		view.Trouble, rests = r.server.office.standing(r.line.ID)
		view.Fetching = !rests
		r.server.office.wants()
	}
	drawn, err := r.outlookLine()
	if err != nil {
		return nil, err
	}
	if view.Outlook, err = outlook.Of(drawn); err != nil {
		return nil, err
	}
	view.Unknown = r.server.office.puzzling(r.line.ID)
	view.FetchedAt, view.StandIn = r.server.fetched(r.line.ID)
	view.Stale = view.FetchedAt != nil && drawn.Now.Sub(*view.FetchedAt) > staleAfter
	view.Readings = drawn.Readings
	return view, nil
}

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
		if !report.Issued.IsZero() && now.Sub(report.Issued) > staleAfter {
			now = report.Issued
		}
		mark := now.UTC().Format(time.RFC3339)
		if report.StandIn {
			mark += " stand-in"
		}
		err = s.Store.SetFact(fetchFact+l.ID, mark)
	}
	if err != nil {
		return "The weather could not be kept."
	}
	return ""
}

// askFrom is the hour from which the record still lacks something.
func (r reading) askFrom() (time.Time, error) {
	now := r.now
	from := now.Add(-seasonBefore)
	rec, err := r.record()
	if err != nil {
		return from, err
	}
	if len(rec.Makes) > 0 {
		from = rec.Makes[0].BuiltAt.Add(-seasonBefore)
	}
	hours, err := r.Hours(r.line.ID, false, from)
	if err != nil {
		return from, err
	}
	if n := len(hours); n > 0 && hours[0].At.Before(from.Add(time.Hour)) {
		from = hours[n-1].At.Add(-6 * time.Hour)
	}
	if now.Sub(from) > longestAsked {
		from = now.Add(-longestAsked)
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

// weatherFrom is from when on an outlook has to know the weather: frost begins anew each summer, south of the equator each
// January.
func (r reading) weatherFrom() time.Time {
	usual := line.Usual(r.now.Add(-seasonBefore), r.zone, r.line.LatDeg)
	from, err := time.ParseInLocation(time.DateOnly, usual.From, r.zone)
	if err != nil {
		return r.now.Add(-longestAsked)
	}
	return from
}

// outlookLine reads everything that an outlook is drawn from.
func (r reading) outlookLine() (o outlook.Line, err error) {
	rec, err := r.record()
	if err != nil {
		return o, err
	}
	o = outlook.Line{Line: r.line, Now: rec.Now, Zone: rec.Zone}
	for _, made := range rec.Standing() {
		o.Standing = append(o.Standing, outlook.Standing{Set: rec.Set(made.SetID), Make: made, Looks: rec.Looks(made.ID)})
	}
	slices.SortFunc(o.Standing, func(a, b outlook.Standing) int { return a.Set.Number - b.Set.Number })
	id, from := r.line.ID, r.weatherFrom()
	for _, read := range []func() error{
		func() error { o.Spots, err = r.Spots(id); return err },
		func() error { o.Features, err = r.Features(id); return err },
		func() error { o.Readings, err = r.Readings(id, from); return err },
		func() error { o.Observed, err = r.Hours(id, false, from); return err },
		func() error { o.Expected, err = r.Hours(id, true, time.Time{}); return err },
	} {
		if err := read(); err != nil {
			return o, err
		}
	}
	return o, nil
}

func (s *Server) placeIt(c *gin.Context) {
	var q outlook.Question
	if !decode(c, &q) {
		return
	}
	var drawn outlook.Line
	err := s.read(c.Request.Context(), c.Param("line"), func(r reading) (err error) {
		drawn, err = r.outlookLine()
		return err
	})
	var found outlook.Places
	if err == nil {
		found, err = outlook.Place(drawn, q)
	}
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, found)
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
	err := asked.Strict(raw, &b)
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
