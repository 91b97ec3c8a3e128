package line

import (
	"time"

	"oldburrow/core/refuse"
)

// Mend puts a look right: what it says instead, and why. What stood before stays readable: Before is the look as it was, as the program
// found it.
type Mend struct {
	ID      string    `json:"id" db:"id"`
	LineID  string    `json:"lineId" db:"line_id"`
	VisitID string    `json:"visitId" db:"visit_id"`
	At      time.Time `json:"at" db:"at"`
	Reason  string    `json:"reason" db:"reason"`
	Visit   Visit     `json:"visit" db:"-"`
	Before  *Visit    `json:"before" db:"-" jsonschema:"nullable"`
}

// Check refuses a mend of no look, without a reason, or to what no look can say.
func (x Mend) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "visitId", x.VisitID)
	checkAt(&p, x.At)
	p.Text("reason", x.Reason, 400)
	p.Under("visit", x.Visit.Check())
	return p.Err()
}
