package odds

import (
	"slices"
	"time"
)

// seasonal are the smells that have a season, from a day of a year to one of the next: month and day. Judgements.
var seasonal = map[string][2][2]int{
	"gland": {{12, 15}, {3, 15}}, "urine": {{12, 15}, {3, 15}}, "bait": {{8, 1}, {1, 31}}, "food": {{8, 1}, {1, 31}},
}

// always are the smells that have none.
var always = []string{"curiosity", "musk", "call"}

// SeasonOf is whether any of some classes of smell is in its season on a local day; blank where nothing is known of them.
func SeasonOf(classes []string, on time.Time) string {
	known := false
	for _, class := range classes {
		if slices.Contains(always, class) {
			return InSeason
		}
		span, ok := seasonal[class]
		if !ok {
			continue
		}
		known = true
		if overNewYear(on, span) {
			return InSeason
		}
	}
	if known {
		return OutSeason
	}
	return ""
}

// overNewYear tells whether a local day lies between a day late in one year and a day early in the next: month and day.
func overNewYear(on time.Time, span [2][2]int) bool {
	day := [2]int{int(on.Month()), on.Day()}
	return slices.Compare(day[:], span[0][:]) >= 0 || slices.Compare(day[:], span[1][:]) <= 0
}
