package odds

import (
	"slices"
	"time"

	"oldburrow/core/layout"
)

// seasonal are the smells that have a season, from a day of a year to one of the next: month and day. Judgements.
var seasonal = map[layout.SmellKind][2][2]int{
	layout.Gland: {{12, 15}, {3, 15}}, layout.Urine: {{12, 15}, {3, 15}}, layout.Bait: {{8, 1}, {1, 31}}, layout.FoodLure: {{8, 1}, {1, 31}},
}

// always are the smells that have none.
var always = []layout.SmellKind{layout.Curiosity, layout.Musk, layout.Call}

// SeasonOf is whether any of some classes of smell is in its season on a local day; blank where nothing is known of them.
func SeasonOf(classes []layout.SmellKind, on time.Time) string {
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
