package line

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/refuse"
)

// Visit is a person's look at a set: its main finding with whose it is, further findings beside it, how each rig was found, and
// what was caught. Flags is what was odd when it arrived, as Flags joins it.
type Visit struct {
	ID     string    `json:"id" db:"id"`
	LineID string    `json:"lineId" db:"line_id"`
	Who    string    `json:"who,omitempty" db:"who"` // did it; blank for the owner, and for whoever is at the table
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

// WithLists is a look with an empty list where nothing was said.
func (x Visit) WithLists() Visit {
	x.Also, x.Rigs = append([]Found{}, x.Also...), append([]RigFound{}, x.Rigs...)
	x.Prints = append([]Print{}, x.Prints...)
	x.Catches = append([]Catch{}, x.Catches...)
	for i := range x.Catches {
		c := &x.Catches[i]
		c.VisitID, c.Rigs, c.Were = x.ID, append([]int{}, c.Rigs...), append([]Condition{}, c.Were...)
	}
	slices.SortFunc(x.Catches, func(a, b Catch) int { return strings.Compare(a.ID, b.ID) })
	return x
}

// Seen is what else a look saw, each blank where it was not said: from which side the animal came, how the bed felt, where its prints
// stood on the set's plan, a photo, and what is known of a trap that is searched for or was found.
type Seen struct {
	Side    Side    `json:"side" db:"-"`
	Bed     BedFelt `json:"bed" db:"-"`
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

// Prints are those of an animal that were marked at a spot, in the order of the looks.
func (r Record) Prints(spotID, animal string) []Print {
	found := []Print{}
	for _, look := range r.Visits {
		if look.Animal == animal && r.sets[r.setOf[look.MakeID]].SpotID == spotID {
			found = append(found, look.Prints...)
		}
	}
	return found
}

// Search is what is known of a trap that is gone: which way it went and into what cover; once it is found how far off and on what it
// hung.
type Search struct {
	Toward Wind     `json:"toward"` // one of eight winds
	Cover  string   `json:"cover"`
	FarM   *float64 `json:"farM" jsonschema:"nullable"`
	HungOn string   `json:"hungOn"`
}

// Side is from where an animal came, as somebody sees it who stands where it would work the set.
type Side string

// Sides lists them.
var Sides = []Side{"front", "left", "right", "behind"}

// BedFelt is how a bed was found.
type BedFelt string

// How a bed can be found.
const (
	FeltDry     BedFelt = "dry"
	FeltDamp    BedFelt = "damp"
	FeltWet     BedFelt = "wet"
	FeltFlooded BedFelt = "flooded"
	FeltCrusted BedFelt = "crusted"
	FeltFrozen  BedFelt = "frozen"
	FeltSnowed  BedFelt = "snowed_under"
	FeltRocks   BedFelt = "rocks"
)

// BedsFelt lists them.
var BedsFelt = []BedFelt{FeltDry, FeltDamp, FeltWet, FeltFlooded, FeltCrusted, FeltFrozen, FeltSnowed, FeltRocks}

// Waters are those that tell how much water is in it.
var Waters = []BedFelt{FeltDry, FeltDamp, FeltWet, FeltFlooded}

// Locks are how a bed is found that a trap cannot have fired under.
var Locks = []BedFelt{FeltFrozen, FeltFlooded, FeltSnowed, FeltCrusted}

// Wind is one of the eight directions.
type Wind string

// Winds lists them.
var Winds = []Wind{"n", "ne", "e", "se", "s", "sw", "w", "nw"}

const (
	mostPrints = 6
	farthestM  = 5000 // a trap on a drag went
)

func (x Seen) check(p *refuse.Problems) {
	refuse.OneOfSaid(p, "side", x.Side, Sides)
	refuse.OneOfSaid(p, "bed", x.Bed, BedsFelt)
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
		refuse.OneOfSaid(p, "search.toward", x.Search.Toward, Winds)
		checkNote(p, "search.cover", x.Search.Cover)
		checkNote(p, "search.hungOn", x.Search.HungOn)
		if x.Search.FarM != nil {
			p.Within("search.farM", *x.Search.FarM, 0, farthestM, " m")
		}
	}
}

// Found is one thing that a look found: what, whose it is (blank cannot be told), and what says so.
type Found struct {
	Finding Finding  `json:"finding" db:"finding"`
	Animal  string   `json:"animal" db:"animal"`
	By      Evidence `json:"by" db:"told_by"`
}

// RigFound is how a look found one rig of a set, by its slot.
type RigFound struct {
	Slot  int      `json:"slot"`
	State RigState `json:"state"`
}

// Evidence is what says whose a finding is.
type Evidence string

// Evidences lists them.
var Evidences = []Evidence{"track", "scat", "hair", "seen"}

// RigState is how a rig was found.
type RigState string

// A rig that holds an animal, and one that is no longer there.
const (
	RigHolding RigState = "holding"
	RigGone    RigState = "gone"
)

// rigStates are how a rig can be found, each with the finding that says the same of a whole set.
var rigStates = []struct {
	state   RigState
	finding Finding
}{
	{rigSet, FoundQuiet}, {"fired", FoundSprung}, {RigHolding, FoundCatch}, {"locked", FoundLocked}, {RigGone, FoundGone},
}

const rigSet RigState = "set"

// RigStates are how a rig can be found.
var RigStates = func() (states []RigState) {
	for _, s := range rigStates {
		states = append(states, s.state)
	}
	return states
}()

// HasTime tells whether a look says by a clock when it was.
func (x Visit) HasTime() bool { return x.Timed == nil || *x.Timed }

// FoundAt is the finding as it goes for one rig: what was said of that rig; else, where animals were held, whether one was in it;
// else the finding of the whole set.
func (x Visit) FoundAt(slot int) Finding {
	for _, r := range x.Rigs {
		for _, s := range rigStates {
			if r.Slot == slot && r.State == s.state {
				if s.state == rigSet && !x.Finding.Facts().Half {
					return x.Finding // it stands set, and was passed or stepped over
				}
				return s.finding
			}
		}
	}
	if x.Finding == FoundCatch && slices.ContainsFunc(x.Catches, func(c Catch) bool { return len(c.Rigs) > 0 }) {
		if !slices.ContainsFunc(x.Catches, func(c Catch) bool { return slices.Contains(c.Rigs, slot) }) {
			return FoundQuiet
		}
	}
	return x.Finding
}

// holdsNothing tells whether a look says that a trap holds an animal and that none is held.
func (x Visit) holdsNothing() bool {
	return !x.Finding.Facts().Holds && slices.ContainsFunc(x.Rigs, func(r RigFound) bool { return r.State == RigHolding })
}

// StrangeTraps says in words that a look names traps that its make does not have; blank where it names none. What it says of them counts
// for no trap.
func (x Visit) StrangeTraps(m Make) string {
	strange := func(slot int) bool { return !slices.Contains(slotsOf(m), slot) }
	named := slices.ContainsFunc(x.Rigs, func(r RigFound) bool { return strange(r.Slot) })
	for _, c := range x.Catches {
		named = named || slices.ContainsFunc(c.Rigs, strange)
	}
	if named {
		return FlagStrangeTrap
	}
	return ""
}

// Catch is one animal, and by their slots the rigs that hold it; none is named where the set has one.
type Catch struct {
	ID      string `json:"id" db:"id"`
	VisitID string `json:"visitId" db:"visit_id"`
	Species string `json:"species" db:"species"`
	Sex     Sex    `json:"sex" db:"sex"`
	Foot    Foot   `json:"foot" db:"foot"`
	Hold    Hold   `json:"hold" db:"hold"`
	Rigs    []int  `json:"rigs" db:"-"`
	More
}

// More is what more is said of an animal that was caught, where somebody wants to: how it was, what it weighed, whether blood was left
// at the set, and of a pet who its owner is.
type More struct {
	Were    []Condition `json:"were" db:"-"`
	WeightG *float64    `json:"weightG" db:"-" jsonschema:"nullable"`
	Blood   *bool       `json:"blood" db:"-" jsonschema:"nullable"`
	Owner   string      `json:"owner,omitempty" db:"-"`
}

// Condition is how an animal was found to be.
type Condition string

// Conditions lists them.
var Conditions = []Condition{"prime", "rubbed", "mangy", "young", "in_heat"}

// Sex is what is asked of a target that was caught.
type Sex string

// Sexes lists them.
var Sexes = []Sex{"male", "female", "unknown"}

// Foot is the foot that a trap holds; blank where nobody looked.
type Foot string

// Feet lists them.
var Feet = []Foot{"left_fore", "right_fore", "left_hind", "right_hind"}

// Hold is how it holds it; blank where nobody looked.
type Hold string

// How a trap holds.
const (
	HeldByPad Hold = "pad"
	HeldByToe Hold = "toe"
)

// Holds lists them.
var Holds = []Hold{HeldByPad, HeldByToe}

// How much one look can find.
const (
	mostCatches = 10 // animals held
	mostAlso    = 10 // further findings
	mostRigs    = 10
)

// Check refuses a visit without a make, a time or a known finding, a catch that nothing is known of, and catches that the
// finding does not speak of.
func (x Visit) Check(known animal.Animals) error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "makeId", x.MakeID)
	checkTime(&p, "at", x.At, "when was the look")
	x.Found.check(&p, "", known)
	if len(x.Also) > mostAlso {
		p.Add("also", "are too many: at most %d further findings", mostAlso)
	}
	for i, also := range x.Also {
		also.check(&p, fmt.Sprintf("also[%d].", i), known)
		if also.Finding == FoundCatch {
			p.Add(fmt.Sprintf("also[%d].finding", i), "must be the main finding: an animal is held")
		}
	}
	x.checkRigs(&p)
	x.Seen.check(&p)
	checkNote(&p, "note", x.Note)
	if x.Finding == FoundCatch && len(x.Catches) == 0 {
		p.Add("catches", "is missing: what does the trap hold")
	}
	if !x.Finding.Facts().Holds && len(x.Catches) > 0 {
		p.Add("finding", "must be catch when an animal was caught, not %q", x.Finding)
	}
	if len(x.Catches) > mostCatches {
		p.Add("catches", "are too many: at most %d animals at one set", mostCatches)
	}
	for i, c := range x.Catches {
		p.Under(fmt.Sprintf("catches[%d]", i), c.check(known))
	}
	return p.Err()
}

// check refuses a finding that is not known, an animal that is not, and something that says whose it is without saying whose.
func (f Found) check(p *refuse.Problems, at string, known animal.Animals) {
	refuse.OneOf(p, at+"finding", f.Finding, Findings)
	refuse.OneOfSaid(p, at+"animal", f.Animal, known.Keys())
	refuse.OneOfSaid(p, at+"by", f.By, Evidences)
	if f.By != "" && f.Animal == "" {
		p.Add(at+"animal", "is missing: whose %s was it", f.By)
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
		refuse.OneOf(p, at+"state", r.State, RigStates)
		if slices.ContainsFunc(x.Rigs[:i], func(before RigFound) bool { return before.Slot == r.Slot }) {
			p.Add(at+"slot", "%d is there twice", r.Slot)
		}
	}
}

func checkSlot(p *refuse.Problems, field string, slot int) {
	p.Within(field, float64(slot), 0, 99, "")
}

func (c Catch) check(known animal.Animals) error {
	var p refuse.Problems
	checkID(&p, "id", c.ID)
	a := known.Named(&p, "species", c.Species)
	asked := refuse.OneOfSaid[Sex] // of an animal that the line is not set for its kind is enough
	if a.Target {
		asked = refuse.OneOf[Sex]
	}
	asked(&p, "sex", c.Sex, Sexes)
	refuse.OneOfSaid(&p, "foot", c.Foot, Feet)
	refuse.OneOfSaid(&p, "hold", c.Hold, Holds)
	if len([]rune(c.Owner)) > 200 {
		p.Add("owner", "is too long: at most 200 characters")
	}
	for i, was := range c.Were {
		refuse.OneOf(&p, fmt.Sprintf("were[%d]", i), was, Conditions)
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
