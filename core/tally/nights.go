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

// TrapNights is what one trap earned from the time it was built until a time (now, or when it was pulled), given the looks
// at it in order. Nights since the last look count whole: nothing is known against them.
func TrapNights(built, until time.Time, looks []Look, zone *time.Location) float64 {
	total, since := 0.0, built
	for _, look := range looks {
		if look.At.After(until) {
			break
		}
		nights := float64(Nights(since, look.At, zone))
		if look.Half {
			nights /= 2
		}
		total += nights
		since = look.At
	}
	return total + float64(Nights(since, until, zone))
}

// dayNumber numbers the local calendar days.
func dayNumber(t time.Time, zone *time.Location) int {
	y, m, d := t.In(zone).Date()
	return int(time.Date(y, m, d, 0, 0, 0, 0, time.UTC).Unix() / 86400)
}
