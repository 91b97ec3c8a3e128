package line

import (
	"slices"
	"time"

	"oldburrow/core/round"
	"oldburrow/core/tally"
)

// States of a make: it stands and works, it stands and works no more (sprung, holding, gone), or it was pulled.
const (
	Working = "working"
	Open    = "open"
	Down    = "down"
)

// Bead is how a make of a set stands now: the nights it has stood, when it was last seen and when it must be seen next. Last
// is its last look, or its building. What is open still has to be seen, until it is remade or pulled.
type Bead struct {
	State  string     `json:"state"`
	Nights int        `json:"nights"`
	Last   time.Time  `json:"last"`
	Due    *time.Time `json:"due" jsonschema:"nullable"`
	Late   bool       `json:"late"`
	Today  bool       `json:"today"` // late, or due before the local day is over
}

// BeadOf tells how a make stands at a time, by the looks at it in order. Without a rule card the habit is a look every
// calendar day.
func BeadOf(m Make, visits []Visit, now time.Time, zone *time.Location) Bead {
	bead := Bead{State: Working, Last: m.BuiltAt}
	for _, v := range Looks(m, visits) {
		bead.Last, bead.State = v.At, Working
		if finding(v.Finding).Ends {
			bead.State = Open
		}
	}
	if m.PulledAt != nil {
		bead.State, bead.Nights = Down, tally.Nights(m.BuiltAt, *m.PulledAt, zone)
		return bead
	}
	due := round.NextDay(bead.Last, zone)
	y, month, day := now.In(zone).Date()
	bead.Nights, bead.Due, bead.Late = tally.Nights(m.BuiltAt, now, zone), &due, now.After(due)
	bead.Today = !due.After(round.StartOfDay(y, month, day+1, zone))
	return bead
}

// TrapNights is what a make's trap earned until now, until it was pulled, or until the last look found that it works no more.
func TrapNights(m Make, visits []Visit, now time.Time, zone *time.Location) float64 {
	until := now
	if m.PulledAt != nil {
		until = *m.PulledAt
	}
	var looks []tally.Look
	ends := false
	for _, v := range Looks(m, visits) {
		found := finding(v.Finding)
		looks, ends = append(looks, tally.Look{At: v.At, Half: found.Half}), found.Ends
	}
	if ends {
		until = looks[len(looks)-1].At
	}
	return tally.TrapNights(m.BuiltAt, until, looks, zone)
}

// Looks are the visits to a make that were not taken back, in order of time.
func Looks(m Make, visits []Visit) []Visit {
	var kept []Visit
	for _, v := range visits {
		if v.MakeID == m.ID && v.UndoneAt == nil {
			kept = append(kept, v)
		}
	}
	slices.SortStableFunc(kept, func(a, b Visit) int { return a.At.Compare(b.At) })
	return kept
}
