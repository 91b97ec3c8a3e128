// Package page draws up what the pages show of a line, and answers what they ask of it, from its record as it stood at one moment: the file's,
// or the season that a browser has taken along. Lengths in mm, temperatures in °C, times in UTC.
package page

import (
	"errors"
	"slices"
	"time"

	"oldburrow/core/advice"
	"oldburrow/core/animal"
	"oldburrow/core/book"
	"oldburrow/core/line"
	"oldburrow/core/outlook"
	"oldburrow/core/promise"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/core/schools"
	"oldburrow/core/shed"
	"oldburrow/core/tally"
	"oldburrow/core/weather"
)

// Source is what is read of a line: what is not deleted, and was not taken back where nothing else is said. What it does not hold it answers with
// ErrNotHere, and never as if there were nothing. What it gives is shared: nobody changes it.
type Source interface {
	Seasons(lineID string) (line.Seasons, error)
	Properties(lineID string) ([]line.Property, error)
	Spots(lineID string) ([]line.Spot, error)
	Features(lineID string) ([]line.Feature, error)
	Signs(lineID string, span tally.Span) ([]line.Sign, error)
	Falls(lineID string, span tally.Span) ([]line.Fall, error)
	Design(lineID, id string) (line.Design, error)
	// Designs are those that are not built, and those of some sets.
	Designs(lineID string, sets []line.Set) ([]line.Design, error)
	Patterns(lineID string) ([]line.Pattern, error)
	Pattern(lineID, id string) (line.Pattern, error)
	Noted(lineID string, span tally.Span) (line.Noted, error)
	// Acts are what was done from a time until another; what was taken back is among them.
	Acts(lineID string, from, until time.Time) ([]line.Act, error)
	Readings(lineID string, from time.Time) ([]line.Reading, error)
	Hours(lineID string, forecast bool, from time.Time) ([]weather.Hour, error)
	Traps(lineID string) ([]line.Trap, error)
	Cards(lineID string) (map[string]shed.Card, error)
	// GoneBefore are the traps that were found gone before a time and that nothing was built with since.
	GoneBefore(lineID string, before time.Time) (map[string]shed.Gone, error)
	// StillInBefore is what pulls before a time had left at the sets.
	StillInBefore(lineID string, before time.Time) ([]line.StillIn, error)
	Calibrations(lineID string) ([]line.Calibration, error)
	Poured(lineID string, now time.Time) ([]shed.OnShelf, error)
	Recipes(lineID string) ([]line.Recipe, error)
	KitMarks(lineID, from string) ([]line.KitMark, error)
	// Promises are what was promised by makes that stood in a span, as far as it has been made out.
	Promises(lineID string, span tally.Span) ([]promise.Make, error)
	// Weighed is what was weighed of a line's sets and spots, as far as it has been.
	Weighed(lineID string) ([]advice.Kept, error)
	Unread() []line.Unreadable
}

// ErrNotHere is returned for what a source does not hold, though it may well be.
var ErrNotHere = errors.New("this is not here: only the program has it")

// With is what is computed with beside what is asked or noted: the animals that are known, and what the line's trapper goes by.
type With struct {
	Animals animal.Animals
	Schools schools.Schools
	// Forbids is what their rule card forbids; nil where they have none.
	Forbids advice.Forbids
}

// Usual is what is computed with where nobody said otherwise.
func Usual() With { return With{Animals: animal.Reference, Schools: schools.Usual()} }

// Around is what stands about the program that has the record, and is not in it: its instruments, its weather office, and its file.
type Around struct {
	GPS         bool   `json:"gps"`
	Gauge       bool   `json:"gauge"`
	GaugeMadeUp bool   `json:"gaugeMadeUp"`
	Office      Office `json:"office"`
	// Anew says that what was promised on the line is being told anew: something has moved it.
	Anew bool `json:"anew"`
	// ToldTo is as far as it has been told; nil while none of it has.
	ToldTo *time.Time `json:"toldTo" jsonschema:"nullable"`
	// Behind is the program's own newest act, when its clock is well behind that; nil while it is not.
	Behind *time.Time `json:"behind" jsonschema:"nullable"`
	// Trouble says why nothing can be written to the file; blank while it can.
	Trouble string `json:"trouble"`
}

// Office is how the weather service stands that the program asks.
type Office struct {
	Connected bool       `json:"connected"` // a service is asked
	StandIn   bool       `json:"standIn"`
	FetchedAt *time.Time `json:"fetchedAt" jsonschema:"nullable"`
	Fetching  bool       `json:"fetching"` // it is being asked for; nothing waits for it
	Trouble   string     `json:"trouble"`
	Unknown   []string   `json:"unknown"` // names in the service's hours that mean nothing here
}

// Reading is a line as it stood at one moment. What a page shows is read from one reading alone.
type Reading struct {
	Source
	Of   line.Line
	Now  time.Time
	Zone *time.Location
	With
	Around Around
	season *ofSeason
}

// ofSeason is what was read of the open season once it was asked for: its record, what its lures brought, what was promised in it and
// before, and what an outlook is drawn from.
type ofSeason struct {
	record   line.Record
	brought  []book.LureBrought
	promised *promise.Season
	drawn    *outlook.Line
}

// Read reads a line as it stands now in a source. It refuses a line in a zone that is not known.
func Read(from Source, of line.Line, now time.Time, with With, around Around) (Reading, error) {
	zone, err := round.Zone(of.Zone)
	return Reading{from, of, now, zone, with, around, &ofSeason{}}, err
}

// All is how a request asks for all seasons.
const All = "all"

// Season gives the season that a request asks for, by its id: the open one when it asks for none, and none when it asks for all.
// The span is what belongs to it.
func (r Reading) Season(asked string) (line.Season, tally.Span, error) {
	seasons, err := r.Seasons(r.Of.ID)
	if err != nil || asked == All {
		return line.Season{}, tally.Span{}, err
	}
	found, ok := seasons.Open(r.Now, r.Zone)
	if asked != "" {
		i := slices.IndexFunc(seasons, func(s line.Season) bool { return s.ID == asked })
		if i < 0 {
			return line.Season{}, tally.Span{}, refuse.ErrUnknown
		}
		found, ok = seasons[i], true
	}
	if !ok {
		return line.Season{}, tally.Span{}, nil
	}
	return found, seasons.Span(found.ID, r.Zone), nil
}

// openOf is the id of the open one among seasons; blank while none has begun.
func (r Reading) openOf(seasons line.Seasons) string {
	open, _ := seasons.Open(r.Now, r.Zone)
	return open.ID
}

// Record is what was done on the line in the open season until now, as it counts.
func (r Reading) Record() (line.Record, error) {
	if r.season.record.Now.IsZero() {
		_, span, err := r.Season("")
		if err != nil {
			return line.Record{}, err
		}
		if r.season.record, err = r.RecordOf(span); err != nil {
			return line.Record{}, err
		}
	}
	return r.season.record, nil
}

// RecordOf is what was done in a span.
func (r Reading) RecordOf(span tally.Span) (line.Record, error) {
	noted, err := r.Noted(r.Of.ID, span)
	return line.NewRecord(r.Now, r.Zone, span, noted), err
}
