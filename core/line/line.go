// Package line holds what a trapline is made of, one struct for each thing, and says what is wrong with one. Ids are ULIDs
// made by whoever creates the thing; times are instants (UTC in the store); places are WGS 84 degrees. Version is the number
// of the last change that the writer saw; the store counts it up.
package line

import (
	"fmt"
	"regexp"
	"slices"
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
func (x Design) CheckDraft() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "spotId", x.SpotID)
	p.OneOf("target", x.Target, animal.TargetKeys())
	return p.Err()
}

// Set is a place in the line with a number, given by the store and never reused.
type Set struct {
	ID     string `json:"id" db:"id"`
	LineID string `json:"lineId" db:"line_id"`
	SpotID string `json:"spotId" db:"spot_id"`
	Number int    `json:"number" db:"number"`
}

// Make is a set as it was built or remade. Follows, the make that it remade, and PulledAt, when it ended, are what Chain makes
// of all that was noted at the set; they are not kept. Fire is the chance, when it was built, that
// the target fires it at a visit in which it works the set.
type Make struct {
	ID       string        `json:"id" db:"id"`
	LineID   string        `json:"lineId" db:"line_id"`
	SetID    string        `json:"setId" db:"set_id"`
	DesignID string        `json:"designId" db:"design_id"`
	Follows  *string       `json:"follows" db:"-" jsonschema:"nullable"`
	Target   string        `json:"target" db:"target"`
	Layout   layout.Layout `json:"layout" db:"-"`
	BuiltAt  time.Time     `json:"builtAt" db:"built_at"`
	PulledAt *time.Time    `json:"pulledAt" db:"-" jsonschema:"nullable"`
	Step     float64       `json:"step" db:"step"`
	Fire     float64       `json:"fire" db:"fire"`
	Flags    string        `json:"flags" db:"flags"`
}

// Check refuses a make that names no set or design, no time, or parts that cannot be.
func (x Make) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "setId", x.SetID)
	checkID(&p, "designId", x.DesignID)
	p.OneOf("target", x.Target, animal.TargetKeys())
	checkTime(&p, "builtAt", x.BuiltAt, "when was it built")
	p.Under("layout", x.Layout.Check())
	return p.Err()
}

// Visit is a person's look at a set: one finding, and what was caught. Flags says in words what was odd when it arrived.
type Visit struct {
	ID       string     `json:"id" db:"id"`
	LineID   string     `json:"lineId" db:"line_id"`
	MakeID   string     `json:"makeId" db:"make_id"`
	At       time.Time  `json:"at" db:"at"`
	Finding  string     `json:"finding" db:"finding"`
	Note     string     `json:"note" db:"note"`
	Catches  []Catch    `json:"catches" db:"-"`
	Flags    string     `json:"flags" db:"flags"`
	UndoneAt *time.Time `json:"undoneAt" db:"undone_at" jsonschema:"nullable"`
}

// Finding is one thing a look can find: the answer of the round that leads to it, whether the nights since the set was last
// seen working count half, and whether it works no more until it is remade.
type Finding struct {
	Key    string
	Answer string
	Half   bool
	Ends   bool
}

// Findings lists what a look can find, in the order that the round asks.
var Findings = []Finding{
	{"quiet", "quiet", false, false},
	{"passed", "came", false, false},
	{"looked", "came", false, false},
	{"stood", "worked", false, false},
	{"stepped", "worked", false, false},
	{"dug", "worked", true, false},
	{"robbed", "worked", true, false},
	{"rolled", "worked", true, false},
	{"sprung", "worked", true, true},
	{"lost", "worked", true, true},
	{"catch", "holding", true, true},
	{"gone", "trouble", true, true},
	{"locked", "trouble", true, false},
	{"disturbed", "trouble", false, false},
	{"unable", "trouble", true, false},
	{"taken", "trouble", true, true},
}

// FindingKeys lists the keys of the findings.
func FindingKeys() []string {
	keys := make([]string, len(Findings))
	for i, f := range Findings {
		keys[i] = f.Key
	}
	return keys
}

// Answers are the answers of the round, in the order that it asks.
func Answers() []string {
	var answers []string
	for _, f := range Findings {
		if !slices.Contains(answers, f.Answer) {
			answers = append(answers, f.Answer)
		}
	}
	return answers
}

// FindingsOf lists the keys of the findings that an answer leads to.
func FindingsOf(answer string) []string {
	var keys []string
	for _, f := range Findings {
		if f.Answer == answer {
			keys = append(keys, f.Key)
		}
	}
	return keys
}

// finding gives what a key stands for; an unknown key is a finding that tells nothing.
func finding(key string) Finding {
	for _, f := range Findings {
		if f.Key == key {
			return f
		}
	}
	return Finding{Key: key}
}

// WantsRemake tells whether a set that was found so has to be built anew before it works as it should.
func WantsRemake(key string) bool { return finding(key).Half && key != "taken" }

// IsGone tells whether a look that found so says that the trap is no longer there.
func IsGone(key string) bool { return key == "gone" || key == "taken" }

// Catch is one animal in one trap.
type Catch struct {
	ID      string `json:"id" db:"id"`
	VisitID string `json:"visitId" db:"visit_id"`
	Species string `json:"species" db:"species"`
	Sex     string `json:"sex" db:"sex"`
	Foot    string `json:"foot" db:"foot"`
	Hold    string `json:"hold" db:"hold"`
}

// Sexes, Feet and Holds are what is asked of a catch.
func Sexes() []string { return []string{"male", "female", "unknown"} }

// Feet are the feet that a trap can hold.
func Feet() []string { return []string{"left_fore", "right_fore", "left_hind", "right_hind"} }

// Holds are how it holds them.
func Holds() []string { return []string{"pad", "toe"} }

// mostCatches is how many animals one look can find held.
const mostCatches = 10

// Check refuses a visit without a make, a time or a known finding, a catch that nothing is known of, and catches that the
// finding does not speak of.
func (x Visit) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "makeId", x.MakeID)
	checkTime(&p, "at", x.At, "when was the look")
	p.OneOf("finding", x.Finding, FindingKeys())
	checkNote(&p, "note", x.Note)
	if x.Finding == "catch" && len(x.Catches) == 0 {
		p.Add("catches", "is missing: what does the trap hold")
	}
	if x.Finding != "catch" && x.Finding != "gone" && len(x.Catches) > 0 {
		p.Add("finding", "must be catch when an animal is held, not %q", x.Finding)
	}
	if len(x.Catches) > mostCatches {
		p.Add("catches", "are too many: at most %d animals at one set", mostCatches)
	}
	for i, c := range x.Catches {
		p.Under(fmt.Sprintf("catches[%d]", i), c.check())
	}
	return p.Err()
}

func (c Catch) check() error {
	var p refuse.Problems
	checkID(&p, "id", c.ID)
	p.OneOf("species", c.Species, animal.Keys())
	p.OneOf("sex", c.Sex, Sexes())
	p.OneOf("foot", c.Foot, Feet())
	p.OneOf("hold", c.Hold, Holds())
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
	case at.Year() < 1970 || at.Year() > 2199:
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
