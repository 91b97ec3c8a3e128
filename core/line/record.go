package line

import (
	"cmp"
	"encoding/json"
	"maps"
	"slices"
	"strings"
	"time"

	"oldburrow/core/refuse"
	"oldburrow/core/tally"
)

// Ahead is how far the time of an act may lie ahead of the program's clock: two clocks never agree to the minute.
const Ahead = 10 * time.Minute

// Earliest is the oldest time that an act can be believed: what says to be older comes from a clock that had lost its time.
var Earliest = time.Date(2000, 1, 1, 0, 0, 0, 0, time.UTC)

// Noted is what was noted of a line, or of a span of it, in whatever order it arrived. Others are makes, by
// id, that stood in another span and are not among Makes: acts may name them all the same. Ends are when makes ended after it.
type Noted struct {
	Sets   []Set                `json:"sets"`
	Makes  []Make               `json:"makes"`
	Pulls  []Pull               `json:"pulls"`
	Visits []Visit              `json:"visits"`
	Others map[string]Make      `json:"others"`
	Ends   map[string]time.Time `json:"ends"`
}

// MarshalJSON tells of the others only what is known of them.
func (n Noted) MarshalJSON() ([]byte, error) {
	w := wireNoted{alone(n), map[string]other{}}
	for id, m := range n.Others {
		w.Others[id] = other{m.SetID, m.BuiltAt}
	}
	return json.Marshal(w)
}

// UnmarshalJSON reads it.
func (n *Noted) UnmarshalJSON(raw []byte) error {
	var w wireNoted
	if err := json.Unmarshal(raw, &w); err != nil {
		return err
	}
	*n = Noted(w.alone)
	n.Others = map[string]Make{}
	for id, m := range w.Others {
		n.Others[id] = Make{ID: id, SetID: m.SetID, BuiltAt: m.BuiltAt}
	}
	return nil
}

type alone Noted

type wireNoted struct {
	alone
	Others map[string]other `json:"others"`
}

type other struct {
	SetID   string    `json:"setId"`
	BuiltAt time.Time `json:"builtAt"`
}

// Within is of what was noted what belongs to a span of it: what was built or stood in it, the looks and pulls of its days, and the looks from
// before and after at what stood when it began or ended. Where the span has no end, what bears a time that cannot be is told with it.
func (n Noted) Within(span tally.Span) Noted {
	lost := time.Time{}
	if span.Until.IsZero() {
		lost = Earliest
	}
	holds := func(at time.Time) bool {
		return !at.Before(span.From) && (span.Until.IsZero() || at.Before(span.Until)) || at.Before(lost)
	}
	chain, _ := Chain(n.Makes, n.Pulls, n.Others)
	found := Noted{Sets: []Set{}, Makes: []Make{}, Pulls: []Pull{}, Visits: []Visit{}, Others: map[string]Make{}, Ends: map[string]time.Time{}}
	into, out, of := map[string]bool{}, map[string]bool{}, map[string]Make{}
	for id, m := range n.Others {
		of[id] = m
	}
	for _, m := range chain {
		of[m.ID] = m
		over := m.PulledAt != nil && m.PulledAt.Before(span.From)
		if (over || !span.Until.IsZero() && !m.BuiltAt.Before(span.Until)) && !m.BuiltAt.Before(lost) {
			continue
		}
		into[m.ID] = m.BuiltAt.Before(span.From) && !m.BuiltAt.Before(lost)
		if out[m.ID] = !span.Until.IsZero() && (m.PulledAt == nil || !m.PulledAt.Before(span.Until)); out[m.ID] && m.PulledAt != nil {
			found.Ends[m.ID] = *m.PulledAt
		}
		m.Follows, m.PulledAt, m.PulledBy, m.Outs = nil, nil, "", nil
		found.Makes = append(found.Makes, m)
	}
	sets := map[string]bool{}
	for _, m := range found.Makes {
		sets[m.SetID] = true
	}
	name := func(makeID string) {
		if _, have := into[makeID]; !have {
			m := of[makeID]
			found.Others[makeID] = Make{ID: m.ID, SetID: m.SetID, BuiltAt: m.BuiltAt}
			sets[m.SetID] = true
		}
	}
	for _, p := range n.Pulls {
		if holds(p.At) {
			found.Pulls = append(found.Pulls, p)
			name(p.MakeID)
		}
	}
	for _, v := range n.Visits {
		before := into[v.MakeID] && v.At.Before(span.From)
		after := out[v.MakeID] && !v.At.Before(span.Until)
		if holds(v.At) || before || after {
			found.Visits = append(found.Visits, v)
			name(v.MakeID)
		}
	}
	for _, s := range n.Sets {
		if sets[s.ID] {
			found.Sets = append(found.Sets, s)
		}
	}
	return found
}

// Record is what was done on a line until now, as it counts, in a span of time: the makes in the order in which they were built,
// each with the one that it remade and when it ended, and the looks at them in order. What stood when the span began is among
// them, with the looks at it from before. What cannot have been so is in Odd and nowhere else.
type Record struct {
	Now    time.Time
	Zone   *time.Location
	Span   tally.Span
	Sets   []Set
	Makes  []Make
	Visits []Visit
	Odd    []Odd

	sets   map[string]Set
	atSet  map[string][]int // makes, by set
	withID map[string][]int // likewise by trap
	looks  map[string][]Visit
	pulls  []Pull            // that can be believed, in order
	setOf  map[string]string // of a make

	uncounted map[string]*Uncounted // by make
}

// Odd is an act that is kept but has no effect on nights, dues and what stands, and why. Finding and Catches are a look's, and
// Visit is the look itself.
type Odd struct {
	Kind    OddKind   `json:"kind"`
	ID      string    `json:"id"`
	SetID   string    `json:"setId"`
	Number  int       `json:"number"` // of the set
	At      time.Time `json:"at"`
	Why     Why       `json:"why"`
	Finding Finding   `json:"finding,omitempty"`
	Catches []Catch   `json:"catches,omitempty"`
	Visit   *Visit    `json:"visit,omitempty"`
}

// OddKind is what kind of act is odd.
type OddKind string

// The acts that can be odd.
const (
	OddMake  OddKind = "make"
	OddPull  OddKind = "pull"
	OddVisit OddKind = "visit"
)

// OddKinds lists them.
var OddKinds = []OddKind{OddMake, OddPull, OddVisit}

// Why is why an act has no effect.
type Why string

// The reasons.
const (
	WhyAhead  Why = "ahead"  // it lies ahead of the program's clock
	WhyFarOff Why = "far"    // its clock had lost the time
	WhyBefore Why = "before" // it lies before the building
	WhyAfter  Why = "after"  // the make had been pulled or remade by then
	WhyHolds  Why = "holds"  // a trap is said to hold, and nothing to be caught
	WhyFound  Why = "found"  // a trap is said to be found or given up that was not gone
)

// Whys lists them.
var Whys = []Why{WhyAhead, WhyFarOff, WhyBefore, WhyAfter, WhyHolds, WhyFound}

// NewRecord puts together what was noted.
func NewRecord(now time.Time, zone *time.Location, span tally.Span, n Noted) Record {
	r := Record{Now: now, Zone: zone, Span: span, Sets: n.Sets, Odd: []Odd{}, sets: map[string]Set{}, uncounted: map[string]*Uncounted{}}
	for _, set := range n.Sets {
		r.sets[set.ID] = set
	}
	var counted []Make
	setOf := map[string]string{} // by make
	for id, m := range n.Others {
		setOf[id] = m.SetID
	}
	for _, m := range n.Makes {
		setOf[m.ID] = m.SetID
		if m.UndoneAt != nil {
			continue
		}
		if why := OddTime(m.BuiltAt, now); why != "" {
			r.odd(Odd{Kind: OddMake, ID: m.ID, SetID: m.SetID, At: m.BuiltAt, Why: why})
			continue
		}
		counted = append(counted, m)
	}
	var believed []Pull
	for _, p := range n.Pulls {
		if p.UndoneAt != nil {
			continue
		}
		if why := OddTime(p.At, now); why != "" {
			r.odd(Odd{Kind: OddPull, ID: p.ID, SetID: setOf[p.MakeID], At: p.At, Why: why})
			continue
		}
		believed = append(believed, p)
	}
	slices.SortFunc(believed, func(a, b Pull) int { return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.ID, b.ID)) })
	r.pulls, r.setOf = slices.Clone(believed), setOf
	for id, at := range n.Ends {
		if OddTime(at, now) == "" {
			believed = append(believed, Pull{MakeID: id, At: at})
		}
	}
	var idle map[string]Why
	others := maps.Clone(n.Others)
	maps.DeleteFunc(others, func(_ string, m Make) bool { return OddTime(m.BuiltAt, now) != "" })
	r.Makes, idle = Chain(counted, believed, others)
	for _, p := range believed {
		if why := idle[p.ID]; why != "" {
			r.odd(Odd{Kind: OddPull, ID: p.ID, SetID: setOf[p.MakeID], At: p.At, Why: why})
		}
	}
	r.group()
	r.look(n.Visits, setOf, others)
	slices.SortStableFunc(r.Odd, func(a, b Odd) int { return cmp.Or(b.At.Compare(a.At), cmp.Compare(a.ID, b.ID)) })
	return r
}

// group lets makes be found by their set and by their trap.
func (r *Record) group() {
	r.atSet, r.withID = map[string][]int{}, map[string][]int{}
	for i, m := range r.Makes {
		r.atSet[m.SetID] = append(r.atSet[m.SetID], i)
		for _, id := range m.Layout.TrapIDs() {
			r.withID[id] = append(r.withID[id], i)
		}
	}
}

func (r *Record) odd(x Odd) {
	x.Number = r.sets[x.SetID].Number
	r.Odd = append(r.Odd, x)
}

// look takes the visits that were made while their make stood.
func (r *Record) look(visits []Visit, setOf map[string]string, others map[string]Make) {
	standing := map[string]*Make{}
	for i := range r.Makes {
		standing[r.Makes[i].ID] = &r.Makes[i]
	}
	r.Visits, r.looks = []Visit{}, map[string][]Visit{}
	for _, v := range visits {
		if v.UndoneAt != nil {
			continue
		}
		why := OddTime(v.At, r.Now)
		m, ok := standing[v.MakeID]
		other, elsewhere := others[v.MakeID]
		switch {
		case why != "":
		case elsewhere && !v.At.Before(other.BuiltAt), ok && m.PulledAt != nil && v.At.After(*m.PulledAt):
			why = WhyAfter
		case !ok || v.At.Before(m.BuiltAt):
			why = WhyBefore
		case v.holdsNothing():
			why = WhyHolds
		default:
			r.Visits = append(r.Visits, v)
			continue
		}
		r.doubt(v, setOf[v.MakeID], why)
	}
	slices.SortFunc(r.Visits, func(a, b Visit) int { return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.ID, b.ID)) })
	away := map[string]bool{} // makes of which a trap is searched for
	r.Visits = slices.DeleteFunc(r.Visits, func(v Visit) bool {
		if v.Finding.Facts().Answer == AnswerSearch {
			if !away[v.MakeID] {
				r.doubt(v, setOf[v.MakeID], WhyFound)
				return true
			}
			away[v.MakeID] = false
		}
		gone := func(slot int) bool { return v.FoundAt(slot).Facts().Sought }
		if m := standing[v.MakeID]; slices.ContainsFunc(slotsOf(*m), gone) {
			away[v.MakeID] = true
		}
		r.looks[v.MakeID] = append(r.looks[v.MakeID], v)
		return false
	})
}

// doubt notes a look that does not count, and why.
func (r *Record) doubt(v Visit, setID string, why Why) {
	r.odd(Odd{Kind: OddVisit, ID: v.ID, SetID: setID, At: v.At, Why: why, Finding: v.Finding, Catches: v.Catches, Visit: &v})
	answers := why == WhyAhead && v.ReceivedAt != nil || why == WhyHolds || why == WhyFound
	if before := r.uncounted[v.MakeID]; answers && (before == nil || before.Visit.seenAt().Before(v.seenAt())) {
		r.uncounted[v.MakeID] = &Uncounted{v, why}
	}
}

// Uncounted is a look that does not count and answers its set all the same: somebody was there. It lies ahead of the program's clock by
// the clock of its device, or says what cannot be so.
type Uncounted struct {
	Visit Visit `json:"visit"`
	Why   Why   `json:"why"`
}

// seenAt is when somebody was at the set by the clock of the program: one that is ahead of it came no later than it arrived.
func (x Visit) seenAt() time.Time {
	if x.ReceivedAt != nil && x.ReceivedAt.Before(x.At) {
		return *x.ReceivedAt
	}
	return x.At
}

// Uncounted is the newest such look at a make since its last look that counts; nil where there is none.
func (r Record) Uncounted(m Make) *Uncounted {
	found := r.uncounted[m.ID]
	if found == nil || !found.Visit.seenAt().After(lastSeen(m, r.looks[m.ID])) {
		return nil
	}
	return found
}

// OddTime says why an act at a time cannot be believed now; blank where it can.
func OddTime(at, now time.Time) Why {
	switch {
	case at.After(now.Add(Ahead)):
		return WhyAhead
	case at.Before(Earliest):
		return WhyFarOff
	}
	return ""
}

// OddlyAhead is what is odd about an act whose time lies ahead of the program's clock when it arrives; blank where it does not.
func OddlyAhead(at, now time.Time) string {
	if at.After(now.Add(Ahead)) {
		return FlagClockAhead
	}
	return ""
}

// typedApart is by how much the time of an act that was stamped by its device may differ from what the device's clock showed.
const typedApart = 2 * time.Minute

// Stamped tells whether the time of an act is the one that its device's clock showed, as it was or as the program's clock was then, which
// was so many ms ahead of it; nil: that is not known.
func Stamped(at time.Time, device *time.Time, aheadMs *int64) bool {
	if device == nil {
		return false
	}
	if aheadMs != nil && at.Sub(device.Add(time.Duration(*aheadMs)*time.Millisecond)).Abs() <= typedApart {
		return true
	}
	return at.Sub(*device).Abs() <= typedApart
}

// What can be odd about an act when it arrives; the act is kept all the same.
const (
	FlagClockAhead   = "clock_ahead"      // of the program's
	FlagTrapStood    = "trap_stood"       // by the record, in the set whose number follows
	FlagTrapAway     = "trap_away"        // by the record it was lent, mending, lost or missing
	FlagTrapFaulty   = "trap_kept_home"   // by the shed check
	FlagTrapUnlisted = "trap_not_on_rack" // at all
	FlagStrangeTrap  = "trap_not_in_set"  // a look names one that the set did not have
)

// Flags joins what was odd about an act when it arrived; blanks are nothing odd. Files from before have sentences there.
func Flags(odd ...string) string {
	return strings.Join(slices.DeleteFunc(slices.Clone(odd), func(one string) bool { return one == "" }), "; ")
}

// Set finds a set by its id; the zero one where the record tells nothing of it.
func (r Record) Set(id string) Set { return r.sets[id] }

// At lists the makes at a set, in order.
func (r Record) At(setID string) []Make { return r.pick(r.atSet[setID]) }

// With lists the makes that a trap was in, in order.
func (r Record) With(trapID string) []Make { return r.pick(r.withID[trapID]) }

func (r Record) pick(at []int) []Make {
	found := make([]Make, len(at))
	for i, k := range at {
		found[i] = r.Makes[k]
	}
	return found
}

// NewestMake is the last make that was built at a set.
func (r Record) NewestMake(setID string) (Make, bool) { return r.last(r.atSet[setID]) }

// LastWith is the last make that a trap was built into: a trap is in one place only, and what was built last says where.
func (r Record) LastWith(trapID string) (Make, bool) { return r.last(r.withID[trapID]) }

func (r Record) last(at []int) (Make, bool) {
	if len(at) == 0 {
		return Make{}, false
	}
	return r.Makes[at[len(at)-1]], true
}

// Standing lists the makes that were neither pulled nor remade, in the order in which they were built.
func (r Record) Standing() []Make {
	var found []Make
	for _, m := range r.Makes {
		if m.PulledAt == nil {
			found = append(found, m)
		}
	}
	return found
}

// Looks lists the looks at a make that count, in order.
func (r Record) Looks(makeID string) []Visit { return r.looks[makeID] }

// LastLook is the last of them; nil while nobody has looked.
func (r Record) LastLook(makeID string) *Visit {
	looks := r.looks[makeID]
	if len(looks) == 0 {
		return nil
	}
	return &looks[len(looks)-1]
}

// Bead tells how a make stands now.
func (r Record) Bead(m Make) Bead { return beadOf(m, r.looks[m.ID], r.Uncounted(m), r.Now, r.Zone) }

// TrapNights is what a make's traps earned in the span, each until now, until it was pulled, or until the last look found that it
// works no more.
func (r Record) TrapNights(m Make) float64 {
	return trapNights(m, r.looks[m.ID], r.Span, r.Now, r.Zone)
}

// Halved counts the nights of a make's traps in the span that counted half although one look alone followed at least four of them.
func (r Record) Halved(m Make) float64 { return halved(m, r.looks[m.ID], r.Span, r.Now, r.Zone) }

// MayDelete refuses to delete a trap that stands in a set.
func (r Record) MayDelete(x Trap) error {
	if made, ok := r.LastWith(x.ID); ok && made.PulledAt == nil {
		return refuse.Field("deleted", "cannot be: it stands in set %d; pull that first", r.Set(made.SetID).Number)
	}
	return nil
}

// Chain orders makes as they were built. At each set a make ends when the next one is built over it, or before that when it
// was pulled: a pull ends what stands at its set at its time. others are makes that pulls may name and that are not among these.
// idle gives, by the id of a pull, why it ended nothing: it lies before the building of the make that it names, or
// nothing stood there any more. Neither hangs on the order of what is given.
func Chain(makes []Make, pulls []Pull, others map[string]Make) (chain []Make, idle map[string]Why) {
	chain = slices.Clone(makes)
	slices.SortFunc(chain, func(a, b Make) int { return cmp.Or(a.BuiltAt.Compare(b.BuiltAt), cmp.Compare(a.ID, b.ID)) })
	atSet, named := map[string][]int{}, map[string]int{}
	for i := range chain {
		m := &chain[i]
		m.Follows, m.PulledAt, m.PulledBy, m.Outs = nil, nil, "", nil
		named[m.ID] = i
		before := atSet[m.SetID]
		if n := len(before); n > 0 {
			last := &chain[before[n-1]]
			follows, ended := last.ID, m.BuiltAt
			m.Follows, last.PulledAt, last.PulledBy = &follows, &ended, m.Who
		}
		atSet[m.SetID] = append(before, i)
	}
	idle = map[string]Why{}
	pulls = slices.Clone(pulls)
	slices.SortFunc(pulls, func(a, b Pull) int { return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.ID, b.ID)) })
	pulled := map[int]bool{}
	for _, p := range pulls {
		if p.Later {
			continue
		}
		i, ok := named[p.MakeID]
		made, elsewhere := others[p.MakeID]
		if ok {
			made = chain[i]
		} else {
			i = -1
		}
		if !ok && !elsewhere || p.At.Before(made.BuiltAt) {
			idle[p.ID] = WhyBefore
			continue
		}
		for _, later := range atSet[made.SetID] {
			if !chain[later].BuiltAt.After(p.At) {
				i = later
			}
		}
		if i < 0 || pulled[i] {
			idle[p.ID] = WhyAfter
			continue
		}
		at := p.At
		chain[i].PulledAt, chain[i].PulledBy, chain[i].Outs, pulled[i] = &at, p.Who, p.Rigs, true
	}
	return chain, idle
}
