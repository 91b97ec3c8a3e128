package line

import (
	"fmt"
	"slices"
	"time"
	"unicode/utf8"

	"oldburrow/core/layout"
	"oldburrow/core/refuse"
)

// Pull is somebody's pulling of what stood at a set. It ends the make that stood there then; a later one tells only what became of what was left of
// the make in the ground. Rigs are how each came out: one of which nothing is said came home with its anchor. Done is what was done at the
// place before it was left.
type Pull struct {
	ID       string     `json:"id" db:"id"`
	LineID   string     `json:"lineId" db:"line_id"`
	Who      string     `json:"who,omitempty" db:"who"` // did it; blank for the owner, and for whoever is at the table
	MakeID   string     `json:"makeId" db:"make_id"`
	At       time.Time  `json:"at" db:"at"`
	Later    bool       `json:"later" db:"later"`
	Rigs     []RigOut   `json:"rigs" db:"-"`
	Done     []Chore    `json:"done" db:"-"`
	Note     string     `json:"note" db:"note"`
	UndoneAt *time.Time `json:"undoneAt" db:"undone_at" jsonschema:"nullable"`
}

// RigOut is what became of the trap in a slot and of its anchor. Sprung is that of a trap which is frozen in: one that can still fire is not pulled.
type RigOut struct {
	Slot   int       `json:"slot"`
	Trap   TrapOut   `json:"trap"`
	Sprung bool      `json:"sprung"`
	Anchor AnchorOut `json:"anchor"`
}

// TrapOut is what became of a trap when its set was pulled.
type TrapOut string

// AnchorOut is the same of an anchor.
type AnchorOut string

// What became of them.
const (
	TrapHome     TrapOut   = "home"
	TrapFrozenIn TrapOut   = "frozen_in"
	TrapLost     TrapOut   = "lost"
	AnchorOutOf  AnchorOut = "out"
	AnchorLeft   AnchorOut = "left" // on purpose, to be used again
	AnchorFrozen AnchorOut = "frozen_in"
)

// TrapOuts and AnchorOuts list it.
var (
	TrapOuts   = []TrapOut{TrapHome, TrapFrozenIn, TrapLost}
	AnchorOuts = []AnchorOut{AnchorOutOf, AnchorLeft, AnchorFrozen}
)

// Chore is what is done at a place before it is left.
type Chore string

// Chores lists them, in the order of the hands.
var Chores = []Chore{"traps_counted", "anchors_out", "scent_out", "hole_filled", "guides_off", "tracks_brushed", "tools_counted", "gate_shut"}

// Check refuses a pull of no make or at no time, what no rig comes out as, and one that leaves a trap which can still fire.
func (x Pull) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "makeId", x.MakeID)
	checkTime(&p, "at", x.At, "when was it pulled")
	for i, out := range x.Rigs {
		field := fmt.Sprintf("rigs[%d]", i)
		refuse.OneOf(&p, field+".trap", out.Trap, TrapOuts)
		refuse.OneOf(&p, field+".anchor", out.Anchor, AnchorOuts)
		if out.Trap == TrapFrozenIn && !out.Sprung {
			p.Add(field+".sprung", "must be so before it is left: a trap that can fire is not pulled, and stays due")
		}
		if slices.ContainsFunc(x.Rigs[:i], func(before RigOut) bool { return before.Slot == out.Slot }) {
			p.Add(field+".slot", "%d is there twice", out.Slot)
		}
	}
	for i, chore := range x.Done {
		refuse.OneOf(&p, fmt.Sprintf("done[%d]", i), chore, Chores)
	}
	if n := utf8.RuneCountInString(x.Note); n > mostNote {
		p.Add("note", "must be at most %d letters, not %d", mostNote, n)
	}
	return p.Err()
}

// StillIn is what pulls left at a set in one slot: a trap that is frozen in or lost, or its anchor, since when. TrapID is blank where that came home,
// and Anchor is what holds, out where it was drawn.
type StillIn struct {
	MakeID   string            `json:"makeId"`
	SetID    string            `json:"setId"`
	Number   int               `json:"number"`
	SpotID   string            `json:"spotId"`
	Slot     int               `json:"slot"`
	TrapID   string            `json:"trapId"`
	Trap     TrapOut           `json:"trap"`
	Anchor   AnchorOut         `json:"anchor"`
	Kind     layout.AnchorKind `json:"kind"` // of the anchor
	LengthMm float64           `json:"lengthMm"`
	Since    time.Time         `json:"since"`
}

// Frozen tells whether something of it waits for the thaw.
func (x StillIn) Frozen() bool { return x.Trap == TrapFrozenIn || x.Anchor == AnchorFrozen }

// Leaves tells whether anything of it is not home.
func (x StillIn) Leaves() bool { return x.Trap != TrapHome || x.Anchor != AnchorOutOf }

// StillIn is what pulls have left until now, those before first: before is what had been left when the record began.
func (r Record) StillIn(before []StillIn) []StillIn {
	found := slices.Clone(before)
	for _, m := range r.Makes {
		for _, out := range m.Outs {
			if x := r.leftOf(m, out); x.Leaves() {
				found = append(found, x)
			}
		}
	}
	for _, p := range r.pulls {
		if !p.Later {
			continue
		}
		for _, out := range p.Rigs {
			found = r.told(found, p, out)
		}
	}
	for i, x := range found {
		if last, ok := r.LastWith(x.TrapID); ok && last.BuiltAt.After(x.Since) {
			found[i].Trap = TrapHome // nobody said so, and it was built with all the same
		}
	}
	return slices.DeleteFunc(found, func(x StillIn) bool { return !x.Leaves() })
}

// told goes on with what was left by what a later pull tells of one rig: of what is in already, or of a make that another stands for now.
func (r Record) told(found []StillIn, p Pull, out RigOut) []StillIn {
	i := slices.IndexFunc(found, func(x StillIn) bool { return x.MakeID == p.MakeID && x.Slot == out.Slot })
	switch m, ok := r.made(p.MakeID); {
	case i >= 0 && !p.At.Before(found[i].Since):
		found[i].Trap, found[i].Anchor = out.Trap, out.Anchor
	case i < 0 && ok && m.PulledAt != nil && !p.At.Before(*m.PulledAt):
		if x := r.leftOf(m, out); x.Leaves() {
			found = append(found, x)
		}
	}
	return found
}

// made is a make of the record by its id.
func (r Record) made(id string) (Make, bool) {
	i := slices.IndexFunc(r.Makes, func(m Make) bool { return m.ID == id })
	if i < 0 {
		return Make{}, false
	}
	return r.Makes[i], true
}

// Pulls are those of a set that can be believed, in order.
func (r Record) Pulls(setID string) []Pull {
	found := []Pull{}
	for _, p := range r.pulls {
		if r.setOf[p.MakeID] == setID {
			found = append(found, p)
		}
	}
	return found
}

// PullOf is the pull that ended a make; nil where none did.
func (r Record) PullOf(m Make) *Pull {
	for i, p := range r.pulls {
		if m.PulledAt != nil && !p.Later && p.At.Equal(*m.PulledAt) && r.setOf[p.MakeID] == m.SetID {
			return &r.pulls[i]
		}
	}
	return nil
}

// leftOf is what was left of a make in a slot when it was pulled.
func (r Record) leftOf(m Make, out RigOut) StillIn {
	set := r.Set(m.SetID)
	x := StillIn{MakeID: m.ID, SetID: set.ID, Number: set.Number, SpotID: set.SpotID, Slot: out.Slot, Trap: TrapHome, Anchor: AnchorOutOf}
	if m.PulledAt != nil {
		x.Since = *m.PulledAt
	}
	for _, rig := range m.Layout.Rigs {
		if rig.Slot == out.Slot {
			held, _ := m.Layout.AnchorOf(rig)
			x.TrapID, x.Trap, x.Anchor, x.Kind, x.LengthMm = rig.TrapID, out.Trap, out.Anchor, held.Kind, held.LengthMm
		}
	}
	return x
}
