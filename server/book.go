package server

import (
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/animal"
	"oldburrow/core/line"
	"oldburrow/core/round"
	"oldburrow/core/tally"
	"oldburrow/store"
)

// Book is what a line has caught, and at what rate.
type Book struct {
	Now     time.Time      `json:"now"`
	Since   *time.Time     `json:"since" jsonschema:"nullable"` // the first make; nil while nothing was built
	Total   RateRow        `json:"total"`                       // target animals
	Others  int            `json:"others"`
	Sets    []RateRow      `json:"sets"`
	Catches []CaughtAnimal `json:"catches"` // newest first
	Nights  []BookNight    `json:"nights"`  // every night since the first make
	Odd     []line.Odd     `json:"odd"`     // what is kept and does not count, newest first
	// Unreadable is what stands in the file and cannot be read.
	Unreadable []store.Unreadable `json:"unreadable"`
}

// BookNight is one night of the line, by the date of its evening: the traps that stood through it, and what was held in the
// morning.
type BookNight struct {
	Evening string `json:"evening"`
	Traps   int    `json:"traps"`
	Held    int    `json:"held"`
}

// RateRow is target animals held in trap-nights; Rate is nil while there are none.
type RateRow struct {
	SetID      string            `json:"setId"`
	Number     int               `json:"number"`
	Catches    int               `json:"catches"`
	TrapNights float64           `json:"trapNights"`
	Rate       *tally.RateOutput `json:"rate" jsonschema:"nullable"`
}

// CaughtAnimal is a catch with its place in the record.
type CaughtAnimal struct {
	line.Catch
	At     time.Time `json:"at"`
	SetID  string    `json:"setId"`
	Number int       `json:"number"`
	Target bool      `json:"target"`
}

func book(r reading, _ *gin.Context) (any, error) {
	rec, err := r.record()
	if err != nil {
		return nil, err
	}
	b, err := bookOf(rec)
	b.Unreadable = r.Unread()
	return b, err
}

func bookOf(r line.Record) (Book, error) {
	b := Book{Now: r.Now.UTC(), Sets: []RateRow{}, Catches: []CaughtAnimal{}, Nights: nightsOf(r), Odd: r.Odd}
	if len(r.Makes) > 0 {
		b.Since = &r.Makes[0].BuiltAt
	}
	for _, set := range r.Sets {
		row := RateRow{SetID: set.ID, Number: set.Number}
		for _, made := range r.Makes {
			if made.SetID != set.ID {
				continue
			}
			row.TrapNights += line.TrapNights(made, r.Visits, r.Now, r.Zone)
			for _, look := range line.Looks(made, r.Visits) {
				for _, caught := range look.Catches {
					a, err := animal.ByKey(caught.Species)
					if err != nil {
						return b, err
					}
					if a.Target {
						row.Catches++
					} else {
						b.Others++
					}
					b.Catches = append(b.Catches, CaughtAnimal{caught, look.At, set.ID, set.Number, a.Target})
				}
			}
		}
		if err := row.work(); err != nil {
			return b, err
		}
		b.Total.Catches += row.Catches
		b.Total.TrapNights += row.TrapNights
		b.Sets = append(b.Sets, row)
	}
	slices.SortStableFunc(b.Catches, func(x, y CaughtAnimal) int { return y.At.Compare(x.At) })
	return b, b.Total.work()
}

// work computes the row's rate when there are nights to compute it from.
func (r *RateRow) work() error {
	if r.TrapNights == 0 {
		return nil
	}
	in := tally.RateDefaults()
	in.Catches, in.TrapNights = float64(r.Catches), r.TrapNights
	rate, err := tally.Rate(in)
	r.Rate = &rate
	return err
}

// mostNights is how many nights are drawn one by one.
const mostNights = 400

// nightsOf counts each night's traps and what the next day's looks found held.
func nightsOf(r line.Record) []BookNight {
	nights := []BookNight{}
	if len(r.Makes) == 0 {
		return nights
	}
	first := r.Makes[0].BuiltAt
	if bound := r.Now.AddDate(0, 0, -mostNights); first.Before(bound) {
		first = bound
	}
	y, m, d := first.In(r.Zone).Date()
	for ; ; d++ {
		ends, after := round.StartOfDay(y, m, d+1, r.Zone), round.StartOfDay(y, m, d+2, r.Zone)
		if ends.After(r.Now) {
			return nights
		}
		night := BookNight{Evening: time.Date(y, m, d, 0, 0, 0, 0, time.UTC).Format(time.DateOnly)}
		for _, made := range r.Makes {
			if made.BuiltAt.Before(ends) && (made.PulledAt == nil || made.PulledAt.After(ends)) {
				night.Traps++
			}
			for _, look := range line.Looks(made, r.Visits) {
				if !look.At.Before(ends) && look.At.Before(after) {
					night.Held += len(look.Catches)
				}
			}
		}
		nights = append(nights, night)
	}
}
