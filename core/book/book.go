// Package book says what a line has caught and at what rate, in the span that a record tells of.
package book

import (
	"slices"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/tally"
)

// Book is what a line has caught, and at what rate.
type Book struct {
	Since   *time.Time `json:"since" jsonschema:"nullable"` // from which nights are counted; nil while nothing was built
	Total   Rate       `json:"total"`                       // target animals
	Others  int        `json:"others"`
	Sets    []Rate     `json:"sets"`
	Catches []Caught   `json:"catches"` // newest first
	Nights  []Night    `json:"nights"`  // every night, the last 400 at most
	Odd     []line.Odd `json:"odd"`     // what is kept and does not count, newest first
}

// Night is one night of the line, by the date of its evening: the traps that stood through it, and what was held in the morning.
type Night struct {
	Evening string `json:"evening"`
	Traps   int    `json:"traps"`
	Held    int    `json:"held"`
}

// Rate is target animals held in trap-nights, at one set or at all; Rate is nil while there are no nights.
type Rate struct {
	SetID      string            `json:"setId"`
	Number     int               `json:"number"`
	SpotID     string            `json:"spotId"`
	Kind       layout.Kind       `json:"kind"`
	Catches    int               `json:"catches"`
	TrapNights float64           `json:"trapNights"`
	Halved     float64           `json:"halved"` // nights that counted half although one look alone followed many of them
	Rate       *tally.RateOutput `json:"rate" jsonschema:"nullable"`
}

// Caught is a catch with its place in the record.
type Caught struct {
	line.Catch
	At     time.Time `json:"at"`
	Timed  bool      `json:"timed"` // false where only its day is known
	SetID  string    `json:"setId"`
	Number int       `json:"number"`
	Target bool      `json:"target"`
	Who    string    `json:"who,omitempty"` // found it; blank for the owner
}

// Of writes the book of a record, with the animals that the line knows.
func Of(r line.Record, known animal.Animals) (Book, error) {
	b := Book{Sets: []Rate{}, Catches: []Caught{}, Nights: nights(r), Odd: r.Odd}
	if len(r.Makes) > 0 {
		since := later(r.Makes[0].BuiltAt, r.Span.From)
		b.Since = &since
	}
	for _, set := range r.Sets {
		row, err := b.set(r, set, known)
		if err != nil {
			return b, err
		}
		b.Total.Catches += row.Catches
		b.Total.TrapNights += row.TrapNights
		b.Total.Halved += row.Halved
		b.Sets = append(b.Sets, row)
	}
	slices.SortStableFunc(b.Catches, func(x, y Caught) int { return y.At.Compare(x.At) })
	return b, b.Total.work()
}

// set counts what a set earned and caught.
func (b *Book) set(r line.Record, set line.Set, known animal.Animals) (Rate, error) {
	row := Rate{SetID: set.ID, Number: set.Number, SpotID: set.SpotID}
	for _, made := range r.At(set.ID) {
		row.Kind = made.Layout.Kind
		row.TrapNights += r.TrapNights(made)
		row.Halved += r.Halved(made)
		for _, look := range r.Looks(made.ID) {
			if !r.Span.Holds(look.At) {
				continue
			}
			for _, caught := range look.Catches {
				a, _ := known.ByKey(caught.Species) // one that is not known is none that the line is set for
				if a.Target {
					row.Catches++
				} else {
					b.Others++
				}
				b.Catches = append(b.Catches, Caught{caught, look.At, look.HasTime(), set.ID, set.Number, a.Target, look.Who})
			}
		}
	}
	return row, row.work()
}

// work computes the rate when there are nights to compute it from.
func (r *Rate) work() error {
	if r.TrapNights == 0 {
		return nil
	}
	in := tally.RateDefaults()
	in.Catches, in.TrapNights = float64(r.Catches), r.TrapNights
	rate, err := tally.Rate(in)
	r.Rate = &rate
	return err
}

// mostNights is how many nights are told one by one.
const mostNights = 400

// nights counts each night's traps, and what the looks of the day after it found held.
func nights(r line.Record) []Night {
	found := []Night{}
	if len(r.Makes) == 0 {
		return found
	}
	end := r.Now
	if !r.Span.Until.IsZero() && r.Span.Until.Before(end) {
		end = r.Span.Until
	}
	last := dayOf(end, r.Zone)
	first := dayOf(later(r.Makes[0].BuiltAt, r.Span.From), r.Zone)
	if bound := last.AddDate(0, 0, -mostNights); first.Before(bound) {
		first = bound
	}
	for day := first; day.Before(last); day = day.AddDate(0, 0, 1) {
		found = append(found, Night{Evening: day.Format(time.DateOnly)})
	}
	index := func(day time.Time) int { return int(day.Sub(first).Hours() / 24) }
	for _, made := range r.Makes {
		until := last
		if made.PulledAt != nil {
			until = dayOf(*made.PulledAt, r.Zone)
		}
		for i := max(0, index(dayOf(made.BuiltAt, r.Zone))); i < min(len(found), index(until)); i++ {
			found[i].Traps += len(made.Layout.Rigs)
		}
		for _, look := range r.Looks(made.ID) {
			if i := index(dayOf(look.At, r.Zone)) - 1; i >= 0 && i < len(found) {
				found[i].Held += len(look.Catches)
			}
		}
	}
	return found
}

// dayOf is the local day of a time, as midnight UTC, so that days can be counted.
func dayOf(at time.Time, zone *time.Location) time.Time {
	y, m, d := at.In(zone).Date()
	return time.Date(y, m, d, 0, 0, 0, 0, time.UTC)
}

func later(a, b time.Time) time.Time {
	if b.After(a) {
		return b
	}
	return a
}
