package line

import (
	"time"

	"oldburrow/core/refuse"
)

// Reading is the weather as somebody saw it, over what a service says: the frost at a spot by a probe (mm), the depth of
// snow (cm), or where tonight's wind will come from (degrees).
type Reading struct {
	ID      string      `json:"id" db:"id"`
	LineID  string      `json:"lineId" db:"line_id"`
	Who     string      `json:"who,omitempty" db:"who"` // did it; blank for the owner, and for whoever is at the table
	Kind    ReadingKind `json:"kind" db:"kind"`
	SpotID  *string     `json:"spotId" db:"spot_id" jsonschema:"nullable"`
	At      time.Time   `json:"at" db:"at"`
	Value   float64     `json:"value" db:"value" must:"what was read"`
	Deleted bool        `json:"deleted" db:"deleted"`
	Version int         `json:"version" db:"version"`
}

// ReadingKind is what can be read by hand.
type ReadingKind string

// The readings.
const (
	FrostProbe ReadingKind = "frost_probe"
	SnowDepth  ReadingKind = "snow_depth"
	WindShift  ReadingKind = "wind_shift"
)

// ReadingKinds lists them.
var ReadingKinds = []ReadingKind{FrostProbe, SnowDepth, WindShift}

// Check refuses an unknown kind, a value that cannot be, a probe at no spot, and a time after now.
func (x Reading) Check(now time.Time) error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	refuse.OneOf(&p, "kind", x.Kind, ReadingKinds)
	switch x.Kind {
	case FrostProbe:
		p.Within("value", x.Value, 0, 3000, " mm")
		if x.SpotID == nil {
			p.Add("spotId", "is missing: at which spot was it probed")
		}
	case SnowDepth:
		p.Within("value", x.Value, 0, 500, " cm")
	case WindShift:
		p.Within("value", x.Value, 0, 360, "°")
	}
	if x.SpotID != nil {
		checkID(&p, "spotId", *x.SpotID)
	}
	checkPast(&p, "at", x.At, now, "when was it read")
	return p.Err()
}
