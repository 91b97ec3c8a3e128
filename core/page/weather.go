package page

import (
	"slices"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/outlook"
)

// WeatherView is the outlook of a line with where it is known from.
type WeatherView struct {
	outlook.Outlook
	Office
	Stale    bool           `json:"stale"`
	Readings []line.Reading `json:"readings"`
}

const (
	// StaleAfter is after how long a forecast is old.
	StaleAfter = 3 * time.Hour
	// SeasonBefore is from how long before the first set on the weather has to be known: frost needs the weeks before it.
	SeasonBefore = 45 * 24 * time.Hour
	// LongestAsked is how much of it is asked for at the most.
	LongestAsked = 240 * 24 * time.Hour
)

func weatherView(r Reading, _ Asked) (any, error) {
	drawn, err := r.outlookLine()
	if err != nil {
		return nil, err
	}
	view := WeatherView{Office: r.Around.Office, Readings: drawn.Readings}
	view.Outlook, err = outlook.Of(drawn)
	view.Stale = view.FetchedAt != nil && drawn.Now.Sub(*view.FetchedAt) > StaleAfter
	return view, err
}

// weatherFrom is from when on an outlook has to know the weather: frost begins anew each summer, south of the equator each
// January.
func (r Reading) weatherFrom() time.Time {
	usual := line.Usual(r.Now.Add(-SeasonBefore), r.Zone, r.Of.LatDeg)
	from, err := time.ParseInLocation(time.DateOnly, usual.From, r.Zone)
	if err != nil {
		return r.Now.Add(-LongestAsked)
	}
	return from
}

// outlookLine reads everything that an outlook is drawn from.
func (r Reading) outlookLine() (o outlook.Line, err error) {
	if r.season.drawn != nil {
		return *r.season.drawn, nil
	}
	rec, err := r.Record()
	if err != nil {
		return o, err
	}
	o = outlook.Line{Line: r.Of, Now: rec.Now, Zone: rec.Zone}
	for _, made := range rec.Standing() {
		o.Standing = append(o.Standing, outlook.Standing{Set: rec.Set(made.SetID), Make: made, Looks: rec.Looks(made.ID)})
	}
	slices.SortFunc(o.Standing, func(a, b outlook.Standing) int { return line.ByNumber(a.Set, b.Set) })
	id, from := r.Of.ID, r.weatherFrom()
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
	r.season.drawn = &o
	return o, nil
}

func place(r Reading, q outlook.Question) (any, error) {
	drawn, err := r.outlookLine()
	if err != nil {
		return nil, err
	}
	return outlook.Place(drawn, q)
}
