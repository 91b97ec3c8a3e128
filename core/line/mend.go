package line

import (
	"strings"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/refuse"
)

// Mend puts a look right: what it says instead, and why, which may be blank on the day on which the look was entered. What stood before
// stays readable: Before is the look as it was, as the program found it.
type Mend struct {
	ID      string    `json:"id" db:"id"`
	LineID  string    `json:"lineId" db:"line_id"`
	Who     string    `json:"who,omitempty" db:"who"` // did it; blank for the owner, and for whoever is at the table
	VisitID string    `json:"visitId" db:"visit_id"`
	At      time.Time `json:"at" db:"at"`
	Reason  string    `json:"reason" db:"reason"`
	Visit   Visit     `json:"visit" db:"-"`
	Before  *Visit    `json:"before" db:"-" jsonschema:"nullable"`
}

// mostReason is how long a reason may be, characters.
const mostReason = 400

// Over is a look as it stands once it was put right.
func (x Mend) Over(before Visit) Visit {
	now, at := x.Visit, x.At.UTC()
	now.ID, now.LineID, now.MakeID, now.Flags, now.UndoneAt, now.Who = before.ID, before.LineID, before.MakeID, before.Flags, before.UndoneAt, before.Who
	now.At, now.MendedAt = now.At.UTC(), &at
	if now.ReceivedAt = nil; now.At.Equal(before.At) {
		now.ReceivedAt = before.ReceivedAt
	}
	return now.WithLists()
}

// Check refuses a mend of no look, without a reason on a later day than that of its entry in a zone, or to what no look can say.
func (x Mend) Check(zone *time.Location, known animal.Animals) error {
	var p refuse.Problems
	if x.Reason == "" && !x.sameDay(zone) {
		p.Text("reason", x.Reason, mostReason)
	}
	if err := x.CheckKept(known); err != nil {
		p = append(p, err.(refuse.Problems)...)
	}
	return p.Err()
}

// CheckKept is Check for one that was accepted already, on whichever day.
func (x Mend) CheckKept(known animal.Animals) error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "visitId", x.VisitID)
	checkAt(&p, x.At)
	if x.Reason != "" {
		p.Text("reason", x.Reason, mostReason)
	}
	p.Under("visit", x.Visit.Check(known))
	return p.Err()
}

// sameDay tells whether a look was put right on the day on which it was entered. Both ids were made by the devices when that was done.
func (x Mend) sameDay(zone *time.Location) bool {
	day := func(id string) string { return madeAt(id).In(zone).Format(time.DateOnly) }
	return IsID(x.ID) && IsID(x.VisitID) && day(x.ID) == day(x.VisitID)
}

// idLetters are the figures of an id, of five bits each; the first ten of them are when it was made, ms.
const idLetters = "0123456789ABCDEFGHJKMNPQRSTVWXYZ"

// madeAt is when an id was made, by the clock of the device that made it.
func madeAt(id string) time.Time {
	ms := int64(0)
	for _, letter := range id[:10] {
		ms = ms<<5 | int64(strings.IndexRune(idLetters, letter))
	}
	return time.UnixMilli(ms)
}
