package line

import (
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/refuse"
)

// Correction puts right how a make stood, once it was looked at: what stands instead, and why. Before is the make as it was, as the program found it.
type Correction struct {
	ID     string    `json:"id" db:"id"`
	LineID string    `json:"lineId" db:"line_id"`
	Who    string    `json:"who,omitempty" db:"who"` // did it; blank for the owner, and for whoever is at the table
	MakeID string    `json:"makeId" db:"make_id"`
	At     time.Time `json:"at" db:"at"`
	Reason string    `json:"reason" db:"reason"`
	Make   Make      `json:"make" db:"-"`
	Before *Make     `json:"before" db:"-" jsonschema:"nullable"`
}

// Check refuses a correction of no make, without a reason, and to what no make can be.
func (x Correction) Check(known animal.Animals) error {
	var p refuse.Problems
	if x.Reason == "" {
		p.Text("reason", x.Reason, mostReason)
	}
	if err := x.CheckKept(known); err != nil {
		p = append(p, err.(refuse.Problems)...)
	}
	return p.Err()
}

// CheckKept is Check for one that was accepted already: its reason may have been taken out of what is meant for others.
func (x Correction) CheckKept(known animal.Animals) error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "makeId", x.MakeID)
	checkAt(&p, x.At)
	if x.Reason != "" {
		p.Text("reason", x.Reason, mostReason)
	}
	p.Under("make", x.Make.Check(known))
	return p.Err()
}

// Over is a make as it stands once it was put right; false where that speaks of another.
func (x Correction) Over(before Make) (Make, bool) {
	said := x.Make
	said.ID = x.MakeID
	return before.Became(said)
}
