// Package round computes when sets must be looked at, and the light to do it by.
package round

import (
	"math"
	"sync"
	"time"
	_ "time/tzdata" // the rules of every zone, on machines that have none

	"oldburrow/core/refuse"
)

// Modes of the look interval.
const (
	Hours       = "hours"
	CalendarDay = "calendar-day"
)

// DueInput is a last look (RFC 3339), the rule that holds, and the line's own time zone.
type DueInput struct {
	Mode  string  `json:"mode"`
	Hours float64 `json:"hours,omitempty"`
	Last  string  `json:"last"`
	Zone  string  `json:"zone"`
}

// DueOutput is when the next look must be done by, RFC 3339 in UTC.
type DueOutput struct {
	Due string `json:"due"`
}

// Due answers a DueInput; it refuses an unknown mode or zone, a last look that is no time, and hours out of range.
func Due(in DueInput) (DueOutput, error) {
	var p refuse.Problems
	refuse.OneOf(&p, "mode", in.Mode, []string{Hours, CalendarDay})
	last, err := time.Parse(time.RFC3339, in.Last)
	if err != nil {
		p.Add("last", "must be a time such as 2026-12-04T13:10:00Z, not %q", in.Last)
	}
	zone, err := Zone(in.Zone)
	if err != nil {
		p = append(p, err.(refuse.Problems)...)
	}
	if in.Mode == Hours {
		p.Within("hours", in.Hours, 0.5, 24*366, " hours")
	}
	if err := p.Err(); err != nil {
		return DueOutput{}, err
	}
	due := NextDay(last, zone)
	if in.Mode == Hours {
		due = last.Add(time.Duration(math.Round(in.Hours * float64(time.Hour))))
	}
	return DueOutput{Due: due.UTC().Format(time.RFC3339)}, nil
}

// Zone finds a time zone by its name, or refuses the field "zone".
func Zone(name string) (*time.Location, error) {
	if name == "" || name == "Local" {
		return nil, refuse.Field("zone", "is missing: name a time zone such as America/Denver")
	}
	if zone, ok := zones.Load(name); ok {
		return zone.(*time.Location), nil
	}
	zone, err := time.LoadLocation(name)
	if err != nil {
		return nil, refuse.Field("zone", "%q is not a time zone: name one such as America/Denver", name)
	}
	zones.Store(name, zone)
	return zone, nil
}

// zones are those that were found before: finding one reads the whole of its history.
var zones sync.Map

// NextDay is when a look every calendar day is next due: the local midnight that ends the day after the last look.
func NextDay(last time.Time, zone *time.Location) time.Time {
	y, m, d := last.In(zone).Date()
	return StartOfDay(y, m, d+2, zone)
}

// StartOfDay is the first instant of a local day, whatever the clocks do at its midnight.
func StartOfDay(y int, m time.Month, d int, zone *time.Location) time.Time {
	t := time.Date(y, m, d, 0, 0, 0, 0, zone)
	start, end := t.ZoneBounds()
	wall := time.Date(y, m, d, 0, 0, 0, 0, time.UTC)
	if t.Day() != wall.Day() { // midnight was skipped, and t lies before the skip
		return end
	}
	if t.Hour() != 0 { // it was skipped, and t lies after
		return start
	}
	if start.IsZero() {
		return t
	}
	_, offset := start.Add(-time.Nanosecond).Zone()
	if first := wall.Add(-time.Duration(offset) * time.Second).In(zone); first.Before(start) { // it comes twice
		return first
	}
	return t
}
