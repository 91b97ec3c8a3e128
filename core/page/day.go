package page

import (
	"slices"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
	"oldburrow/core/tally"
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
func dayView(r Reading, q Asked) (any, error) {
	var p refuse.Problems
	date := line.CheckDay(&p, "date", q.Key)
	if err := p.Err(); err != nil {
		return nil, err
	}
	y, m, d := date.Date()
	day := Day{Date: q.Key, From: round.StartOfDay(y, m, d, r.Zone).UTC(), Until: round.StartOfDay(y, m, d+1, r.Zone).UTC()}
	day.Morning = day.From.Add(12 * time.Hour)
	light, err := round.Daylight(day.Morning, r.Zone, r.Of.LatDeg, r.Of.LonDeg)
	if err != nil {
		return nil, err
	}
	if light.FirstLight != nil {
		day.Morning = *light.FirstLight
	}
	rec, err := r.RecordOf(tally.Span{From: day.From, Until: day.Until})
	if err != nil {
		return nil, err
	}
	spots, err := r.Spots(r.Of.ID)
	if err != nil {
		return nil, err
	}
	day.Sets = rec.Day(day.From, day.Until, line.Round(rec.Sets, spots, nil))
	day.Odd = slices.DeleteFunc(slices.Clone(rec.Odd), func(x line.Odd) bool { return x.Visit == nil || x.At.Before(day.From) || !x.At.Before(day.Until) })
	day.Acts, err = r.Acts(r.Of.ID, day.From, day.Until)
	return day, err
}
