package outlook

import (
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/weather"
)

// nightBefore is the night that ended on the morning of a time; nil where nothing is known of its weather.
func (w *sky) nightBefore(at time.Time) *weather.Night {
	last, _ := w.nights(at)
	return weather.NightOf(w.hours, last[0], last[1])
}

// CoveredBefore is over which share of the hours of the night before a time the scent of a set at a spot lay across its way; nil where that is not known.
func (l Line) CoveredBefore(set layout.Layout, spotID string, at time.Time) *float64 {
	a, ok := l.across(set, spotID)
	if !ok {
		return nil
	}
	night := a.nightBefore(at)
	if night == nil {
		return nil
	}
	return a.share(set.FacingDeg, []weather.Night{*night})
}

// LockedBefore tells whether the weather of the night before a time locked a set; nil where it is not known.
func (l Line) LockedBefore(set layout.Layout, at time.Time) *bool {
	night := l.sky().nightBefore(at)
	if night == nil {
		return nil
	}
	return new(locked(set, *night) != "")
}

// RainBetween is what fell from a time until another, mm; nil where most of those hours are not known.
func (l Line) RainBetween(from, to time.Time) *float64 {
	sum, known := 0.0, 0
	for _, h := range l.sky().hours {
		if !h.At.Before(from) && h.At.Before(to) {
			sum, known = sum+h.RainMm, known+1
		}
	}
	if float64(known) < to.Sub(from).Hours()/2 {
		return nil
	}
	return &sum
}
