package tally

import "time"

// Look is one look at a trap: when, and whether the nights since it was last seen working count whole or half (found
// sprung, locked by weather or holding anything).
type Look struct {
	At   time.Time
	Half bool
}

// Nights counts the local midnights in (from, to]: a trap earns a night when it stood through the midnight that ends it.
func Nights(from, to time.Time, zone *time.Location) int {
	if !to.After(from) {
		return 0
	}
	return dayNumber(to, zone) - dayNumber(from, zone)
}

// Span is a stretch of time of which the nights are counted. A zero bound is none.
type Span struct {
	From  time.Time
	Until time.Time
}

// Holds tells whether a time lies in the span.
func (s Span) Holds(at time.Time) bool {
	return !at.Before(s.From) && (s.Until.IsZero() || at.Before(s.Until))
}

// nights counts those of a stretch that lie in the span.
func (s Span) nights(from, to time.Time, zone *time.Location) float64 {
	if from.Before(s.From) {
		from = s.From
	}
	if !s.Until.IsZero() && to.After(s.Until) {
		to = s.Until
	}
	return float64(Nights(from, to, zone))
}

// TrapNights is what one trap earned in a span, from the time it was built until a time (now, or when it was pulled), given the
// looks at it in order. Nights since the last look count whole: nothing is known against them.
func TrapNights(built, until time.Time, looks []Look, span Span, zone *time.Location) float64 {
	total, since := 0.0, built
	for _, look := range looks {
		if look.At.After(until) {
			break
		}
		nights := span.nights(since, look.At, zone)
		if look.Half {
			nights /= 2
		}
		total += nights
		since = look.At
	}
	return total + span.nights(since, until, zone)
}

// Each is what each night of a trap was worth, the first that in which it was built: one, half, or nought after the last that it earned. Their
// sum is what TrapNights counts of them all.
func Each(built, until time.Time, looks []Look, zone *time.Location) []float64 {
	worth := make([]float64, Nights(built, until, zone))
	at := 0
	for _, look := range looks {
		if look.At.After(until) {
			break
		}
		for seen := Nights(built, look.At, zone); at < seen; at++ {
			worth[at] = 1
			if look.Half {
				worth[at] = .5
			}
		}
	}
	for ; at < len(worth); at++ {
		worth[at] = 1
	}
	return worth
}

// dayNumber numbers the local calendar days.
func dayNumber(t time.Time, zone *time.Location) int {
	y, m, d := t.In(zone).Date()
	return int(time.Date(y, m, d, 0, 0, 0, 0, time.UTC).Unix() / 86400)
}
