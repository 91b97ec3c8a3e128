// Package line holds what a trapline is made of, one struct for each thing, and says what is wrong with one. Ids are ULIDs
// made by whoever creates the thing; times are instants (UTC in the store); places are WGS 84 degrees. Version is the number
// of the last change that the writer saw; the store counts it up.
package line

import (
	"cmp"
	"regexp"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/refuse"
	"oldburrow/core/round"
)

// Line is one trapline, with the place that its sun and its clock are taken from.
type Line struct {
	ID      string  `json:"id" db:"id"`
	Name    string  `json:"name" db:"name"`
	Zone    string  `json:"zone" db:"zone"`
	LatDeg  float64 `json:"latDeg" db:"lat_deg" must:"where does it lie"`
	LonDeg  float64 `json:"lonDeg" db:"lon_deg" must:"where does it lie"`
	Version int     `json:"version" db:"version"`
}

// Check refuses a line without a name, a clock or a place.
func (l Line) Check() error {
	var p refuse.Problems
	checkID(&p, "id", l.ID)
	p.Text("name", l.Name, 80)
	if _, err := round.Zone(l.Zone); err != nil {
		p = append(p, err.(refuse.Problems)...)
	}
	checkPlace(&p, l.LatDeg, l.LonDeg)
	return p.Err()
}

// Design is a set on the bench. SetID is nil until it has been built.
type Design struct {
	ID      string        `json:"id" db:"id"`
	LineID  string        `json:"lineId" db:"line_id"`
	SpotID  string        `json:"spotId" db:"spot_id"`
	SetID   *string       `json:"setId" db:"set_id" jsonschema:"nullable"`
	Target  string        `json:"target" db:"target"`
	Layout  layout.Layout `json:"layout" db:"-"`
	Version int           `json:"version" db:"version"`
}

// CheckDraft refuses a design without a spot or for an unknown target. Its parts may be as they are on the bench, where
// layout.Check says what is wrong with them; a make needs them right.
func (x Design) CheckDraft(known animal.Animals) error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "spotId", x.SpotID)
	refuse.OneOf(&p, "target", x.Target, known.TargetKeys())
	return p.Err()
}

// Pattern is a way of making a set under the user's own name, with what it begins with.
type Pattern struct {
	ID      string        `json:"id" db:"id"`
	LineID  string        `json:"lineId" db:"line_id"`
	Name    string        `json:"name" db:"name"`
	Target  string        `json:"target" db:"target"`
	Layout  layout.Layout `json:"layout" db:"-"`
	Deleted bool          `json:"deleted" db:"deleted"`
	Version int           `json:"version" db:"version"`
}

// Check refuses a pattern without a name, and one whose parts cannot be.
func (x Pattern) Check(known animal.Animals) error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	p.Text("name", x.Name, 60)
	refuse.OneOf(&p, "target", x.Target, known.TargetKeys())
	p.Under("layout", x.Layout.Check())
	return p.Err()
}

// Set is a place in the line with a number, given by the store and never reused.
type Set struct {
	ID     string `json:"id" db:"id"`
	LineID string `json:"lineId" db:"line_id"`
	SpotID string `json:"spotId" db:"spot_id"`
	Number int    `json:"number" db:"number"`
}

// Check refuses a set at no spot, or without a number.
func (x Set) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "spotId", x.SpotID)
	p.Within("number", float64(x.Number), 1, 1e6, "")
	return p.Err()
}

// ByNumber orders sets by number; those that have none yet come last.
func ByNumber(a, b Set) int {
	return cmp.Compare(uint(a.Number-1), uint(b.Number-1)) // of none, that is the greatest
}

// Make is a set as it was built or remade. Follows, the make that it remade, and PulledAt, when it ended, are what Chain makes
// of all that was noted at the set; they are not kept. Step and Fire stand in files from before: the chances, when it was
// built, that the target steps on a pan and fires it. Flags is what was odd when it arrived, as Flags joins it.
type Make struct {
	ID       string        `json:"id" db:"id"`
	LineID   string        `json:"lineId" db:"line_id"`
	Who      string        `json:"who,omitempty" db:"who"` // did it; blank for the owner, and for whoever is at the table
	SetID    string        `json:"setId" db:"set_id"`
	DesignID string        `json:"designId" db:"design_id"`
	Follows  *string       `json:"follows" db:"-" jsonschema:"nullable"`
	Target   string        `json:"target" db:"target"`
	Layout   layout.Layout `json:"layout" db:"-"`
	AsBuilt  *AsBuilt      `json:"asBuilt" db:"-" jsonschema:"nullable"` // nil where nobody said how it was built
	BuiltAt  time.Time     `json:"builtAt" db:"built_at"`
	PulledAt *time.Time    `json:"pulledAt" db:"-" jsonschema:"nullable"`
	PulledBy string        `json:"-" db:"-"` // whoever ended it, as Who has him
	Outs     []RigOut      `json:"-" db:"-"` // how its rigs came out
	Step     *float64      `json:"step" db:"step" jsonschema:"nullable"`
	Fire     *float64      `json:"fire" db:"fire" jsonschema:"nullable"`
	Flags    string        `json:"flags" db:"flags"`
	UndoneAt *time.Time    `json:"undoneAt" db:"undone_at" jsonschema:"nullable"`
}

// Check refuses a make that names no set or design, no time, or parts that cannot be.
func (x Make) Check(known animal.Animals) error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "setId", x.SetID)
	checkID(&p, "designId", x.DesignID)
	refuse.OneOf(&p, "target", x.Target, known.TargetKeys())
	checkTime(&p, "builtAt", x.BuiltAt, "when was it built")
	p.Under("layout", x.Layout.Check())
	x.AsBuilt.check(&p, x.Layout)
	return p.Err()
}

var ulid = regexp.MustCompile(`^[0-7][0-9A-HJKMNP-TV-Z]{25}$`)

// IsID tells whether a text is a ULID.
func IsID(id string) bool { return ulid.MatchString(id) }

func checkID(p *refuse.Problems, field, id string) {
	if id == "" {
		p.Add(field, "is missing: choose one")
	} else if !IsID(id) {
		p.Add(field, "%q is not an id: 26 letters and figures are wanted", id)
	}
}

func checkPlace(p *refuse.Problems, lat, lon float64) {
	p.Within("latDeg", lat, -90, 90, "°")
	p.Within("lonDeg", lon, -180, 180, "°")
}

// checkTime refuses a time that is missing, or that no clock of a device can show.
func checkTime(p *refuse.Problems, field string, at time.Time, asks string) {
	switch {
	case at.IsZero():
		p.Add(field, "is missing: %s", asks)
	default:
		checkYear(p, field, at)
	}
}

// checkYear refuses a time that no clock of a device can show.
func checkYear(p *refuse.Problems, field string, at time.Time) {
	if at.Year() < 1970 || at.Year() > 2199 {
		p.Add(field, "cannot be in the year %d: write a time such as 2026-12-04T13:10:00Z", at.Year())
	}
}

// checkPast is checkTime for something that was seen or done before it is written down.
func checkPast(p *refuse.Problems, field string, at, now time.Time, asks string) {
	n := len(*p)
	checkTime(p, field, at, asks)
	if len(*p) == n && at.After(now.Add(Ahead)) {
		p.Add(field, "lies in the future: give a time up to now")
	}
}

func checkNote(p *refuse.Problems, field, text string) {
	if n := len([]rune(text)); n > 2000 {
		p.Add(field, "is too long: at most 2000 characters, not %d", n)
	}
}
