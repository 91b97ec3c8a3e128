package line

import (
	"time"

	"oldburrow/core/round"
	"oldburrow/core/tally"
)

// BeadState is how a set stands.
type BeadState string

// States of a make: it stands and works, it stands and works no more (sprung, holding, gone), or it was pulled.
const (
	Working BeadState = "working"
	Open    BeadState = "open"   // or one of its traps does not
	Sought  BeadState = "sought" // a trap of it is gone, and is searched for
	Down    BeadState = "down"
)

// BeadStates lists them.
var BeadStates = []BeadState{Working, Open, Sought, Down}

// Bead is how a make of a set stands now: the nights it has stood, when it was last seen and when it must be seen next. Last
// is its last look, or its building. What is open still has to be seen, until it is remade or pulled.
type Bead struct {
	State  BeadState  `json:"state"`
	Nights int        `json:"nights"`
	Last   time.Time  `json:"last"`
	Due    *time.Time `json:"due" jsonschema:"nullable"`
	Late   bool       `json:"late"`
	Today  bool       `json:"today"` // late, or due before the local day is over
}

// lastSeen is when a make was last seen by what counts: its last look, or its building.
// LastSeen is when a make was last looked at, or built.
func (r Record) LastSeen(m Make) time.Time { return lastSeen(m, r.looks[m.ID]) }

func lastSeen(m Make, looks []Visit) time.Time {
	if len(looks) == 0 {
		return m.BuiltAt
	}
	return looks[len(looks)-1].At
}

// beadOf tells how a make stands at a time, by the looks at it in order, and by one that answers it without counting. Without a rule
// card the habit is a look every calendar day.
func beadOf(m Make, looks []Visit, answer *Uncounted, now time.Time, zone *time.Location) Bead {
	bead := Bead{State: Working, Last: lastSeen(m, looks)}
	for _, v := range looks {
		bead.State = Working
		if v.Finding == FoundCatch {
			bead.State = Open // also where it is in no trap that the set has
		}
		for _, slot := range slotsOf(m) {
			switch found := v.FoundAt(slot).Facts(); {
			case found.Sought:
				bead.State = Sought
			case found.Ends && bead.State != Sought:
				bead.State = Open
			}
		}
	}
	if m.PulledAt != nil {
		bead.State, bead.Nights = Down, tally.Nights(m.BuiltAt, *m.PulledAt, zone)
		return bead
	}
	seen := bead.Last
	if answer != nil {
		seen = answer.Visit.seenAt()
	}
	due := round.NextDay(seen, zone)
	// It is late until it is found, or given up.
	searched := bead.State == Sought && (answer == nil || answer.Visit.Finding.Facts().Sought)
	if searched {
		due = bead.Last
	}
	y, month, day := now.In(zone).Date()
	bead.Nights, bead.Due, bead.Late = tally.Nights(m.BuiltAt, now, zone), &due, searched || now.After(due)
	bead.Today = !due.After(round.StartOfDay(y, month, day+1, zone))
	return bead
}

// slotsOf are the slots of a make's rigs.
func slotsOf(m Make) []int {
	slots := make([]int, len(m.Layout.Rigs))
	for i, rig := range m.Layout.Rigs {
		slots[i] = rig.Slot
	}
	return slots
}

// trapNights sums what each trap of a make earned.
func trapNights(m Make, visits []Visit, span tally.Span, now time.Time, zone *time.Location) float64 {
	nights := 0.0
	for _, slot := range slotsOf(m) {
		nights += rigNights(m, slot, visits, span, now, zone)
	}
	return nights
}

func rigNights(m Make, slot int, visits []Visit, span tally.Span, now time.Time, zone *time.Location) float64 {
	looks, until := earning(m, slot, visits, now)
	return tally.TrapNights(m.BuiltAt, until, looks, span, zone)
}

// earning are the looks that say what a rig's nights were worth, and until when it earned any.
func earning(m Make, slot int, visits []Visit, now time.Time) ([]tally.Look, time.Time) {
	until := now
	if m.PulledAt != nil {
		until = *m.PulledAt
	}
	var looks []tally.Look
	ends, away := false, false
	for _, v := range visits {
		found := v.FoundAt(slot).Facts()
		if away && (found.Sought || found.Answer == AnswerSearch) {
			continue // while it is searched for it earns nothing
		}
		looks, ends, away = append(looks, tally.Look{At: v.At, Half: found.Half}), found.Ends, found.Sought
	}
	// A look by a clock that is a little ahead tells of the nights before it all the same.
	if n := len(looks); n > 0 && (ends || looks[n-1].At.After(until)) {
		until = looks[n-1].At
	}
	return looks, until
}

// Worked is what each night of a make was worth, the first that in which it was built: one whole, half for one before a look that found it sprung,
// locked or with an animal, and nought when it did not work any more; on average over its traps. It is as long as the make has nights behind it.
func (r Record) Worked(m Make) []float64 {
	slots := slotsOf(m)
	total := make([]float64, tally.Nights(m.BuiltAt, r.until(m), r.Zone))
	for _, slot := range slots {
		for i, worth := range r.WorkedBy(m, slot) {
			total[i] += worth / float64(len(slots))
		}
	}
	return total
}

// WorkedBy is the same of one of its traps, by its slot.
func (r Record) WorkedBy(m Make, slot int) []float64 {
	total := make([]float64, tally.Nights(m.BuiltAt, r.until(m), r.Zone))
	looks, earns := earning(m, slot, r.looks[m.ID], r.Now)
	copy(total, tally.Each(m.BuiltAt, earns, looks, r.Zone))
	return total
}

// until is until when a make stood.
func (r Record) until(m Make) time.Time {
	if m.PulledAt != nil {
		return *m.PulledAt
	}
	return r.Now
}

// Midnight ends a night of a make, counted from the first.
func (r Record) Midnight(m Make, night int) time.Time {
	y, month, d := m.BuiltAt.In(r.Zone).Date()
	return round.StartOfDay(y, month, d+night+1, r.Zone)
}

// halved counts the nights of a make's traps in a span that counted half although one look alone followed so many of them: of some of these
// nobody knows whether the trap stood set.
func halved(m Make, visits []Visit, span tally.Span, now time.Time, zone *time.Location) float64 {
	nights := 0.0
	for _, slot := range slotsOf(m) {
		looks, until := earning(m, slot, visits, now)
		since := m.BuiltAt
		for _, look := range looks {
			if look.At.After(until) {
				break
			}
			if of := tally.TrapNights(since, look.At, nil, span, zone); look.Half && of >= manyNights {
				nights += of
			}
			since = look.At
		}
	}
	return nights
}

// manyNights are more than a night or two without a look, which the half is meant for.
const manyNights = 4
