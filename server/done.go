package server

import (
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/core/tally"
	"oldburrow/exchange"
)

// DoneView is what was done on a line, or on one property of it, from a day to another: what goes out to be printed.
type DoneView struct {
	Looks []exchange.DoneLook `json:"looks"`
	Makes []DoneMake          `json:"makes"`
	Sets  []line.Set          `json:"sets"`
}

// DoneMake is a set built or remade, and what it earned until now.
type DoneMake struct {
	Make       line.Make `json:"make"`
	TrapNights float64   `json:"trapNights"`
}

// doneFiles are the lists that go out as CSV, by the name of the route.
var doneFiles = map[string]func(exchange.Done) ([]byte, error){
	"looks": exchange.WriteLooks, "catches": exchange.WriteCatches, "makes": exchange.WriteMakes,
}

func doneView(r reading, c *gin.Context) (any, error) {
	d, err := r.done(c)
	if err != nil {
		return nil, err
	}
	view := DoneView{Looks: d.Looks(), Makes: []DoneMake{}, Sets: d.Record.Sets}
	for _, m := range d.Makes() {
		view.Makes = append(view.Makes, DoneMake{m, d.Record.TrapNights(m)})
	}
	return view, nil
}

// done reads what was done in the days and on the property that are asked for; without a day it is open on that side.
func (r reading) done(c *gin.Context) (exchange.Done, error) {
	d := exchange.Done{PropertyID: c.Query("property"), Numbers: map[string]int{}}
	var p refuse.Problems
	day := func(name string, after int) (at time.Time) {
		if text := c.Query(name); text != "" {
			y, m, n := line.CheckDay(&p, name, text).Date()
			at = round.StartOfDay(y, m, n+after, r.Zone).UTC()
		}
		return at
	}
	d.Span = tally.Span{From: day("from", 0), Until: day("to", 1)}
	if d.PropertyID != "" && !line.IsID(d.PropertyID) {
		p.Add("property", "is no property of this line")
	}
	if err := p.Err(); err != nil {
		return d, err
	}
	var err error
	if d.Record, err = r.RecordOf(d.Span); err != nil {
		return d, err
	}
	if d.Spots, err = r.Spots(r.Of.ID); err != nil {
		return d, err
	}
	if d.Properties, err = r.Properties(r.Of.ID); err != nil {
		return d, err
	}
	traps, err := r.Traps(r.Of.ID)
	for _, t := range traps {
		d.Numbers[t.ID] = t.Number
	}
	return d, err
}
