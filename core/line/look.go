package line

import (
	"fmt"
	"slices"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/refuse"
)

// Visit is a person's look at a set: its main finding with whose it is, further findings beside it, how each rig was found, and
// what was caught. Flags says in words what was odd when it arrived.
type Visit struct {
	ID     string    `json:"id" db:"id"`
	LineID string    `json:"lineId" db:"line_id"`
	MakeID string    `json:"makeId" db:"make_id"`
	At     time.Time `json:"at" db:"at"`
	// Timed is false where only the day is known: At is then a time of its morning, for order and nights, that is shown nowhere.
	Timed *bool `json:"timed,omitempty" db:"timed" jsonschema:"nullable"`
	Found
	Also []Found    `json:"also" db:"-"`
	Rigs []RigFound `json:"rigs" db:"-"`
	Seen
	Note    string  `json:"note" db:"note"`
	Catches []Catch `json:"catches" db:"-"`
	Flags   string  `json:"flags" db:"flags"`
	// ReceivedAt is when it arrived, by the program's clock, where its device stamped it; nil for one whose time was typed.
	ReceivedAt *time.Time `json:"receivedAt,omitempty" db:"received_at" jsonschema:"nullable"`
	MendedAt   *time.Time `json:"mendedAt" db:"mended_at" jsonschema:"nullable"` // when it was last put right
	UndoneAt   *time.Time `json:"undoneAt" db:"undone_at" jsonschema:"nullable"`
}

// Seen is what else a look saw, each blank where it was not said: from which side the animal came, how the bed felt, where its prints
// stood on the set's plan, a photo, and what is known of a trap that is searched for or was found.
type Seen struct {
	Side    string  `json:"side" db:"-"`
	Bed     string  `json:"bed" db:"-"`
	Prints  []Print `json:"prints" db:"-"`
	PhotoID *string `json:"photoId" db:"-" jsonschema:"nullable"`
	Search  *Search `json:"search" db:"-" jsonschema:"nullable"`
	// What was done to the bed without making it anew: water bailed out, and so much put in against freezing, g.
	Bailed bool     `json:"bailed,omitempty" db:"-"`
	AgentG *float64 `json:"agentG,omitempty" db:"-"`
}

// Print is a foot's place on the set's plan, mm.
type Print struct {
	XMm float64 `json:"xMm"`
	YMm float64 `json:"yMm"`
}

// Search is what is known of a trap that is gone: which way it went and into what cover; once it is found how far off and on what it
// hung.
type Search struct {
	Toward string   `json:"toward"` // one of eight winds
	Cover  string   `json:"cover"`
	FarM   *float64 `json:"farM" jsonschema:"nullable"`
	HungOn string   `json:"hungOn"`
}

// Sides are from where an animal can come, as somebody sees it who stands where it would work the set.
func Sides() []string { return []string{"front", "left", "right", "behind"} }

// BedsFelt are how a bed can be found.
func BedsFelt() []string {
	return []string{"dry", "damp", "wet", "flooded", "crusted", "frozen", "snowed_under", "rocks"}
}

// Locks are how a bed is found that a trap cannot have fired under.
func Locks() []string { return []string{"frozen", "flooded", "snowed_under", "crusted"} }

// Winds are the eight directions.
func Winds() []string { return []string{"n", "ne", "e", "se", "s", "sw", "w", "nw"} }

const (
	mostPrints = 6
	farthestM  = 5000 // a trap on a drag went
)

func (x Seen) check(p *refuse.Problems) {
	oneOfSaid(p, "side", x.Side, Sides())
	oneOfSaid(p, "bed", x.Bed, BedsFelt())
	if len(x.Prints) > mostPrints {
		p.Add("prints", "are too many: at most %d", mostPrints)
	}
	for i, print := range x.Prints {
		p.Within(fmt.Sprintf("prints[%d].xMm", i), print.XMm, -2000, 2000, " mm")
		p.Within(fmt.Sprintf("prints[%d].yMm", i), print.YMm, -2000, 2000, " mm")
	}
	if x.PhotoID != nil {
		checkID(p, "photoId", *x.PhotoID)
	}
	if x.AgentG != nil {
		p.Within("agentG", *x.AgentG, 0, 5000, " g")
	}
	if x.Search != nil {
		oneOfSaid(p, "search.toward", x.Search.Toward, Winds())
		checkNote(p, "search.cover", x.Search.Cover)
		checkNote(p, "search.hungOn", x.Search.HungOn)
		if x.Search.FarM != nil {
			p.Within("search.farM", *x.Search.FarM, 0, farthestM, " m")
		}
	}
}

// oneOfSaid refuses a word that is not known; a blank says nothing.
func oneOfSaid(p *refuse.Problems, field, word string, allowed []string) {
	if word != "" {
		p.OneOf(field, word, allowed)
	}
}

// Found is one thing that a look found: what, whose it is (blank cannot be told), and what says so.
type Found struct {
	Finding string `json:"finding" db:"finding"`
	Animal  string `json:"animal" db:"animal"`
	By      string `json:"by" db:"told_by"`
}

// RigFound is how a look found one rig of a set, by its slot.
type RigFound struct {
	Slot  int    `json:"slot"`
	State string `json:"state"`
}

// Evidence is what can say whose a finding is.
func Evidence() []string { return []string{"track", "scat", "hair", "seen"} }

// rigStates are how a rig can be found, each with the finding that says the same of a whole set.
var rigStates = []struct{ state, finding string }{
	{"set", "quiet"}, {"fired", "sprung"}, {"holding", "catch"}, {"locked", "locked"}, {"gone", "gone"},
}

// RigStates are how a rig can be found.
func RigStates() []string {
	states := make([]string, len(rigStates))
	for i, s := range rigStates {
		states[i] = s.state
	}
	return states
}

// HasTime tells whether a look says by a clock when it was.
func (x Visit) HasTime() bool { return x.Timed == nil || *x.Timed }

// FoundAt is the finding as it goes for one rig: what was said of that rig; else, where animals were held, whether one was in it;
// else the finding of the whole set.
func (x Visit) FoundAt(slot int) string {
	for _, r := range x.Rigs {
		for _, s := range rigStates {
			if r.Slot == slot && r.State == s.state {
				if s.state == "set" && !finding(x.Finding).Half {
					return x.Finding // it stands set, and was passed or stepped over
				}
				return s.finding
			}
		}
	}
	if x.Finding == "catch" && slices.ContainsFunc(x.Catches, func(c Catch) bool { return len(c.Rigs) > 0 }) {
		if !slices.ContainsFunc(x.Catches, func(c Catch) bool { return slices.Contains(c.Rigs, slot) }) {
			return "quiet"
		}
	}
	return x.Finding
}

// holdsNothing tells whether a look says that a trap holds an animal and that none is held.
func (x Visit) holdsNothing() bool {
	return !slices.Contains(animalHeld, x.Finding) && slices.ContainsFunc(x.Rigs, func(r RigFound) bool { return r.State == "holding" })
}

// animalHeld are the findings at which an animal can be in a trap.
var animalHeld = []string{"catch", "gone", "found"}

// StrangeTraps says in words that a look names traps that its make does not have; blank where it names none. What it says of them counts
// for no trap.
func (x Visit) StrangeTraps(m Make) string {
	strange := func(slot int) bool { return !slices.Contains(slotsOf(m), slot) }
	named := slices.ContainsFunc(x.Rigs, func(r RigFound) bool { return strange(r.Slot) })
	for _, c := range x.Catches {
		named = named || slices.ContainsFunc(c.Rigs, strange)
	}
	if named {
		return "it names a trap that the set did not have"
	}
	return ""
}

// Fired tells whether a rig found so had closed.
func Fired(key string) bool { return key == "catch" || key == "sprung" || key == "lost" }

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
	{"dug", "worked", true, true},
	{"robbed", "worked", true, false},
	{"rolled", "worked", true, false},
	{"sprung", "worked", true, true},
	{"lost", "worked", true, true},
	{"catch", "holding", true, true},
	{"gone", "trouble", true, true},
	{"locked", "trouble", true, false},
	{"disturbed", "trouble", false, false},
	{"unable", "trouble", true, true},
	{"taken", "trouble", true, true},
	{"found", "search", true, true},
	{"given_up", "search", true, true},
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
func IsGone(key string) bool { return key == "gone" || key == "taken" || key == "given_up" }

// IsSought tells whether a trap that was found so is to be searched for, until it is found or given up.
func IsSought(key string) bool { return key == "gone" }

// Catch is one animal, and by their slots the rigs that hold it; none is named where the set has one.
type Catch struct {
	ID      string `json:"id" db:"id"`
	VisitID string `json:"visitId" db:"visit_id"`
	Species string `json:"species" db:"species"`
	Sex     string `json:"sex" db:"sex"`
	Foot    string `json:"foot" db:"foot"`
	Hold    string `json:"hold" db:"hold"`
	Rigs    []int  `json:"rigs" db:"-"`
	Condition
}

// Condition is what more is said of an animal that was caught, where somebody wants to: how it was, what it weighed, whether blood was left
// at the set, and of a pet who its owner is.
type Condition struct {
	Were    []string `json:"were" db:"-"`
	WeightG *float64 `json:"weightG" db:"-" jsonschema:"nullable"`
	Blood   *bool    `json:"blood" db:"-" jsonschema:"nullable"`
	Owner   string   `json:"owner,omitempty" db:"-"`
}

// Conditions are how an animal can be found to be.
func Conditions() []string { return []string{"prime", "rubbed", "mangy", "young", "in_heat"} }

// Sexes are what is asked of a target that was caught.
func Sexes() []string { return []string{"male", "female", "unknown"} }

// Feet are the feet that a trap can hold; blank where nobody looked.
func Feet() []string { return []string{"left_fore", "right_fore", "left_hind", "right_hind"} }

// Holds are how it holds them; blank where nobody looked.
func Holds() []string { return []string{"pad", "toe"} }

// How much one look can find.
const (
	mostCatches = 10 // animals held
	mostAlso    = 10 // further findings
	mostRigs    = 10
)

// Check refuses a visit without a make, a time or a known finding, a catch that nothing is known of, and catches that the
// finding does not speak of.
func (x Visit) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "makeId", x.MakeID)
	checkTime(&p, "at", x.At, "when was the look")
	x.Found.check(&p, "")
	if len(x.Also) > mostAlso {
		p.Add("also", "are too many: at most %d further findings", mostAlso)
	}
	for i, also := range x.Also {
		also.check(&p, fmt.Sprintf("also[%d].", i))
		if also.Finding == "catch" {
			p.Add(fmt.Sprintf("also[%d].finding", i), "must be the main finding: an animal is held")
		}
	}
	x.checkRigs(&p)
	x.Seen.check(&p)
	checkNote(&p, "note", x.Note)
	if x.Finding == "catch" && len(x.Catches) == 0 {
		p.Add("catches", "is missing: what does the trap hold")
	}
	if !slices.Contains(animalHeld, x.Finding) && len(x.Catches) > 0 {
		p.Add("finding", "must be catch when an animal was caught, not %q", x.Finding)
	}
	if len(x.Catches) > mostCatches {
		p.Add("catches", "are too many: at most %d animals at one set", mostCatches)
	}
	for i, c := range x.Catches {
		p.Under(fmt.Sprintf("catches[%d]", i), c.check())
	}
	return p.Err()
}

// check refuses a finding that is not known, an animal that is not, and something that says whose it is without saying whose.
func (f Found) check(p *refuse.Problems, at string) {
	p.OneOf(at+"finding", f.Finding, FindingKeys())
	if f.Animal != "" {
		p.OneOf(at+"animal", f.Animal, animal.Keys())
	}
	if f.By != "" {
		p.OneOf(at+"by", f.By, Evidence())
		if f.Animal == "" {
			p.Add(at+"animal", "is missing: whose %s was it", f.By)
		}
	}
}

func (x Visit) checkRigs(p *refuse.Problems) {
	if len(x.Rigs) > mostRigs {
		p.Add("rigs", "are too many: at most %d in one set", mostRigs)
		return
	}
	for i, r := range x.Rigs {
		at := fmt.Sprintf("rigs[%d].", i)
		checkSlot(p, at+"slot", r.Slot)
		p.OneOf(at+"state", r.State, RigStates())
		if slices.ContainsFunc(x.Rigs[:i], func(before RigFound) bool { return before.Slot == r.Slot }) {
			p.Add(at+"slot", "%d is there twice", r.Slot)
		}
	}
}

func checkSlot(p *refuse.Problems, field string, slot int) {
	p.Within(field, float64(slot), 0, 99, "")
}

func (c Catch) check() error {
	var p refuse.Problems
	checkID(&p, "id", c.ID)
	a := animal.Named(&p, "species", c.Species)
	asked := oneOfSaid // of an animal that the line is not set for its kind is enough
	if a.Target {
		asked = (*refuse.Problems).OneOf
	}
	asked(&p, "sex", c.Sex, Sexes())
	oneOfSaid(&p, "foot", c.Foot, Feet())
	oneOfSaid(&p, "hold", c.Hold, Holds())
	if len([]rune(c.Owner)) > 200 {
		p.Add("owner", "is too long: at most 200 characters")
	}
	for i, was := range c.Were {
		p.OneOf(fmt.Sprintf("were[%d]", i), was, Conditions())
	}
	if c.WeightG != nil {
		p.Within("weightG", *c.WeightG, 1, 100000, " g")
	}
	if len(c.Rigs) > mostRigs {
		p.Add("rigs", "are too many: at most %d hold one animal", mostRigs)
	}
	for i, slot := range c.Rigs {
		checkSlot(&p, fmt.Sprintf("rigs[%d]", i), slot)
	}
	return p.Err()
}
