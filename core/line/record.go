package line

import (
	"cmp"
	"slices"
	"time"

	"oldburrow/core/refuse"
)

// Ahead is how far the time of an act may lie ahead of the program's clock: two clocks never agree to the minute.
const Ahead = 10 * time.Minute

// earliest is the oldest time that an act can be believed: what says to be older comes from a clock that had lost its time.
var earliest = time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC)

// Pull is somebody's pulling of what stood at a set. It ends the make that stood there then.
type Pull struct {
	ID       string     `json:"id" db:"id"`
	LineID   string     `json:"lineId" db:"line_id"`
	MakeID   string     `json:"makeId" db:"make_id"`
	At       time.Time  `json:"at" db:"at"`
	UndoneAt *time.Time `json:"undoneAt" db:"undone_at" jsonschema:"nullable"`
}

// Record is what was done on a line until now, as it counts: the makes in the order in which they were built, each with the
// one that it remade and when it ended, and the looks at them in order. What cannot have been so is in Odd and nowhere else.
type Record struct {
	Now    time.Time
	Zone   *time.Location
	Sets   []Set
	Makes  []Make
	Visits []Visit
	Odd    []Odd
}

// Odd is an act that is kept but has no effect on nights, dues and what stands, and why. Finding and Catches are a look's.
type Odd struct {
	Kind    string    `json:"kind"`
	ID      string    `json:"id"`
	SetID   string    `json:"setId"`
	Number  int       `json:"number"` // of the set
	At      time.Time `json:"at"`
	Why     string    `json:"why"`
	Finding string    `json:"finding,omitempty"`
	Catches []Catch   `json:"catches,omitempty"`
}

// Kinds of acts that can be odd.
const (
	OddMake  = "make"
	OddPull  = "pull"
	OddVisit = "visit"
)

// Reasons why an act has no effect.
const (
	WhyAhead  = "ahead"  // it lies ahead of the program's clock
	WhyFarOff = "far"    // its clock had lost the time
	WhyBefore = "before" // it lies before the building
	WhyAfter  = "after"  // the make had been pulled or remade by then
)

// NewRecord puts together what was noted of a line, in whatever order it arrived.
func NewRecord(now time.Time, zone *time.Location, sets []Set, makes []Make, pulls []Pull, visits []Visit) Record {
	r := Record{Now: now, Zone: zone, Sets: sets, Odd: []Odd{}}
	var counted []Make
	setOf := map[string]string{} // by make
	for _, m := range makes {
		setOf[m.ID] = m.SetID
		if why := oddTime(m.BuiltAt, now); why != "" {
			r.odd(Odd{Kind: OddMake, ID: m.ID, SetID: m.SetID, At: m.BuiltAt, Why: why})
			continue
		}
		counted = append(counted, m)
	}
	var believed []Pull
	for _, p := range pulls {
		if p.UndoneAt != nil {
			continue
		}
		if why := oddTime(p.At, now); why != "" {
			r.odd(Odd{Kind: OddPull, ID: p.ID, SetID: setOf[p.MakeID], At: p.At, Why: why})
			continue
		}
		believed = append(believed, p)
	}
	var idle map[string]string
	r.Makes, idle = Chain(counted, believed)
	for _, p := range believed {
		if why := idle[p.ID]; why != "" {
			r.odd(Odd{Kind: OddPull, ID: p.ID, SetID: setOf[p.MakeID], At: p.At, Why: why})
		}
	}
	r.look(visits, setOf)
	slices.SortStableFunc(r.Odd, func(a, b Odd) int { return cmp.Or(b.At.Compare(a.At), cmp.Compare(a.ID, b.ID)) })
	return r
}

func (r *Record) odd(x Odd) {
	for _, set := range r.Sets {
		if set.ID == x.SetID {
			x.Number = set.Number
		}
	}
	r.Odd = append(r.Odd, x)
}

// look takes the visits that were made while their make stood.
func (r *Record) look(visits []Visit, setOf map[string]string) {
	standing := map[string]Make{}
	for _, m := range r.Makes {
		standing[m.ID] = m
	}
	r.Visits = []Visit{}
	for _, v := range visits {
		if v.UndoneAt != nil {
			continue
		}
		why := oddTime(v.At, r.Now)
		m, ok := standing[v.MakeID]
		switch {
		case why != "":
		case !ok || v.At.Before(m.BuiltAt):
			why = WhyBefore
		case m.PulledAt != nil && v.At.After(*m.PulledAt):
			why = WhyAfter
		default:
			r.Visits = append(r.Visits, v)
			continue
		}
		r.odd(Odd{Kind: OddVisit, ID: v.ID, SetID: setOf[v.MakeID], At: v.At, Why: why, Finding: v.Finding, Catches: v.Catches})
	}
	slices.SortFunc(r.Visits, func(a, b Visit) int { return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.ID, b.ID)) })
}

func oddTime(at, now time.Time) string {
	switch {
	case at.After(now.Add(Ahead)):
		return WhyAhead
	case at.Before(earliest):
		return WhyFarOff
	}
	return ""
}

// NewestMake is the last make that was built at a set.
func (r Record) NewestMake(setID string) (Make, bool) {
	for i := len(r.Makes) - 1; i >= 0; i-- {
		if r.Makes[i].SetID == setID {
			return r.Makes[i], true
		}
	}
	return Make{}, false
}

// Chain orders makes as they were built. At each set a make ends when the next one is built over it, or before that when it
// was pulled: a pull ends what stands at its set at its time. idle gives, by the id of a pull, why it ended nothing: it lies
// before the building of the make that it names, or nothing stood there any more. Neither hangs on the order of what is given.
func Chain(makes []Make, pulls []Pull) (chain []Make, idle map[string]string) {
	chain = slices.Clone(makes)
	slices.SortFunc(chain, func(a, b Make) int { return cmp.Or(a.BuiltAt.Compare(b.BuiltAt), cmp.Compare(a.ID, b.ID)) })
	atSet, named := map[string][]int{}, map[string]int{}
	for i := range chain {
		m := &chain[i]
		m.Follows, m.PulledAt = nil, nil
		named[m.ID] = i
		before := atSet[m.SetID]
		if n := len(before); n > 0 {
			last := &chain[before[n-1]]
			follows, ended := last.ID, m.BuiltAt
			m.Follows, last.PulledAt = &follows, &ended
		}
		atSet[m.SetID] = append(before, i)
	}
	idle = map[string]string{}
	pulls = slices.Clone(pulls)
	slices.SortFunc(pulls, func(a, b Pull) int { return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.ID, b.ID)) })
	pulled := map[int]bool{}
	for _, p := range pulls {
		i, ok := named[p.MakeID]
		if !ok || p.At.Before(chain[i].BuiltAt) {
			idle[p.ID] = WhyBefore
			continue
		}
		for _, later := range atSet[chain[i].SetID] {
			if !chain[later].BuiltAt.After(p.At) {
				i = later
			}
		}
		if pulled[i] {
			idle[p.ID] = WhyAfter
			continue
		}
		at := p.At
		chain[i].PulledAt, pulled[i] = &at, true
	}
	return chain, idle
}

// Check refuses a pull of no make or at no time.
func (x Pull) Check() error {
	var p refuse.Problems
	checkID(&p, "id", x.ID)
	checkID(&p, "makeId", x.MakeID)
	checkTime(&p, "at", x.At, "when was it pulled")
	return p.Err()
}
