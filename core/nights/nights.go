// Package nights draws single nights at a set: who comes in which order, at which link of the chain each is lost, and what the morning
// shows of it on that ground. Chances are shares of one, hours count from dusk, mm is of rain and snow. How often each thing is done at a
// set, and how well each ground tells of it, are judgements.
//
// A night is drawn from PCG(seed and set, night) in the order of this page: the same seed gives the same night on every machine, whatever
// the nights before it gave.
package nights

import (
	"cmp"
	"math"
	"math/rand/v2"
	"slices"

	"oldburrow/core/line"
	"oldburrow/core/odds"
)

// Set is a set with all who may come to it; where it is not said which of its traps they fire, there is one.
type Set struct {
	Visitors []odds.Comer
	Loose    bool // its bed gives
	Scented  bool // scent lies on its bed
	Drag     bool // what it holds can walk off with the trap
}

// Night is what a night is like at a set: how long one may come, from dusk until an hour after sunrise; from which hour on its bed is locked,
// nil where it never is; how well its ground tells what happened, whether the cover lies as a crust over a free pan, and what fell.
type Night struct {
	Hours   float64
	LocksAt *float64
	Tells   Tells
	Crusted bool
	RainMm  float64
	SnowMm  float64
}

// Tells is how well ground tells what happened on it.
type Tells int

// From the worst to the best: hard, frozen or overgrown; sand, loam or damp soil; snow, mud or dust.
const (
	Hardly Tells = iota
	Some
	Well
)

// Of all that happened, which share a ground shows. Judgements.
var (
	tellsPassed = [...]float64{Hardly: .02, Some: .3, Well: .7}
	tellsLooked = [...]float64{Hardly: .1, Some: .35, Well: .6}
	tellsStood  = [...]float64{Hardly: .15, Some: .5, Well: .8}
	tellsWho    = [...]float64{Hardly: .2, Some: .6, Well: .9}
)

// More judgements of what becomes of a visit, and of what is seen of it.
const (
	tellsStepped  = .9 // on any ground: it is the sifted cover that tells
	tellsOnCrust  = .3
	tellsDoer     = .5  // who sprang, lost, dug, robbed or rolled
	looseTempts   = 3   // so many times as many dig
	scentTempts   = 4   // so many times as many roll
	tearsLoose    = .4  // itself, of those that a trap did not hold though its anchor did; the others only sprang it
	walksOff      = .5  // of those that a drag holds
	foundThatDay  = .9  // of those
	surest        = .98 // no link is surer
	mostComings   = 3
	lastNights    = 3 // prints last so long
	wipedByRainMm = 2.0
	wipedBySnowMm = 5.0
	nobody        = -1
)

// Event is what one visitor did: when, how far through the chain it came (blank where it met nothing that works), what the morning shows of
// it, and whether that tells who it was.
type Event struct {
	HourH   float64
	Visitor int // by its place among the set's; -1 for the weather
	Through odds.LinkKey
	Shows   line.Finding
	Known   bool
	Trap    int  // that it fired; -1 where it fired none
	Found   bool // it is gone with the trap, and is found the same day

	feet uint64 // by which its prints are drawn
}

// Stand is what the nights before have left of a set. The zero value is a set that nobody came to yet.
type Stand struct {
	Open  bool // its bed was dug open, or rolled on
	Food  bool // lies there
	fired uint64
	left  []trace
}

// trace is what can still be seen of an event, and how many nights it is old.
type trace struct {
	Event
	nights int
}

// Made is a set as it was just built or remade.
func Made(food bool) Stand { return Stand{Food: food} }

type stream struct{ rand.PCG }

func (s *stream) uniform() float64 { return float64(s.Uint64()>>11) / (1 << 53) }

// is draws whether something with a chance happens.
func (s *stream) is(chance float64) bool { return s.uniform() < chance }

// comings is Poisson, with a limit.
func (s *stream) comings(mean float64) int {
	if mean <= 0 {
		return 0
	}
	n, product, none := 0, s.uniform(), math.Exp(-mean)
	for product > none && n < mostComings {
		n++
		product *= s.uniform()
	}
	return n
}

const golden = 0x9E3779B97F4A7C15 // spreads the numbers of sets over all that there are

// Draw draws a night at a set, and leaves in the stand what the morning can see. Events come in the order of their hours, at the end of
// those of earlier nights' in the slice that they are added to.
func (s *Stand) Draw(into []Event, set Set, night Night, seed, number uint64, n int) []Event {
	var rng stream
	rng.Seed(seed^number*golden, uint64(n))
	s.ages(night)
	first := len(into)
	for i, v := range set.Visitors {
		for range rng.comings(v.Passes) {
			into = append(into, Event{HourH: night.Hours * rng.uniform(), Visitor: i, Trap: nobody})
		}
	}
	came := into[first:]
	slices.SortStableFunc(came, func(a, b Event) int { return cmp.Compare(a.HourH, b.HourH) })
	for i := range came {
		came[i].feet = (seed^number*golden)*golden + uint64(n)<<8 + uint64(i)
		s.visit(&came[i], set, night, &rng)
	}
	if night.LocksAt != nil {
		into = append(into, Event{HourH: *night.LocksAt, Visitor: nobody, Shows: line.FoundLocked, Trap: nobody})
	}
	for _, e := range into[first:] {
		if e.Shows != line.FoundQuiet {
			s.left = append(s.left, trace{e, 0})
		}
	}
	return into
}

// ages lets go of what a night's weather wipes out, and of prints that are too old.
func (s *Stand) ages(night Night) {
	wiped := night.RainMm >= wipedByRainMm || night.SnowMm >= wipedBySnowMm
	kept := s.left[:0]
	for _, t := range s.left {
		if t.nights++; !isPrint(t.Shows) || !wiped && t.nights < lastNights {
			kept = append(kept, t)
		}
	}
	s.left = kept
}

// isPrint tells whether a finding is read from prints alone.
func isPrint(f line.Finding) bool {
	return f == line.FoundPassed || f == line.FoundLooked || f == line.FoundStood || f == line.FoundStepped
}

// visit draws what becomes of one visitor, link by link.
func (s *Stand) visit(e *Event, set Set, night Night, rng *stream) {
	v := set.Visitors[e.Visitor]
	works := s.works(v)
	if s.Open || works == 0 || night.LocksAt != nil && e.HourH >= *night.LocksAt {
		s.only(e, night, rng)
		return
	}
	e.Through = odds.Passes
	if !rng.is(sure(v.Notices)) {
		s.passed(e, night, rng)
		return
	}
	e.Through = odds.Notices
	if !rng.is(sure(v.Commits)) {
		s.declined(e, set, night, rng)
		return
	}
	e.Through = odds.Commits
	if !rng.is(sure(v.Steps) * works) {
		e.shows(line.FoundStood, tellsStood[night.Tells], tellsWho[night.Tells], rng)
		return
	}
	e.Through = odds.Steps
	if !rng.is(sure(v.Fires)) {
		tells := tellsStepped
		if night.Crusted {
			tells = tellsOnCrust
		}
		e.shows(line.FoundStepped, tells, tellsWho[night.Tells], rng)
		return
	}
	e.Through = odds.Fires
	e.Trap = s.fires(v, rng)
	s.held(e, v, set, rng)
}

func sure(chance float64) float64 { return math.Min(surest, chance) }

var oneTrap = []float64{1}

func trapsOf(v odds.Comer) []float64 {
	if v.Traps == nil {
		return oneTrap
	}
	return v.Traps
}

// works is which share of those that a visitor would fire of the set's traps is still set.
func (s *Stand) works(v odds.Comer) (share float64) {
	for trap, fires := range trapsOf(v) {
		if s.fired&(1<<trap) == 0 {
			share += fires
		}
	}
	return share
}

// fires draws which of the traps that are still set is fired.
func (s *Stand) fires(v odds.Comer, rng *stream) int {
	at, last := rng.uniform()*s.works(v), nobody
	for trap, fires := range trapsOf(v) {
		if s.fired&(1<<trap) != 0 {
			continue
		}
		last = trap
		if at -= fires; at < 0 {
			break
		}
	}
	s.fired |= 1 << last
	return last
}

// only is a visitor that meets nothing which works: it looks, or passes.
func (s *Stand) only(e *Event, night Night, rng *stream) {
	if e.shows(line.FoundLooked, tellsLooked[night.Tells], tellsWho[night.Tells], rng); e.Shows == line.FoundQuiet {
		s.passed(e, night, rng)
	}
}

func (s *Stand) passed(e *Event, night Night, rng *stream) {
	e.shows(line.FoundPassed, tellsPassed[night.Tells], tellsWho[night.Tells], rng)
}

// shows says what the morning shows of an event, by chance, and whether it tells who it was.
func (e *Event) shows(f line.Finding, chance, who float64, rng *stream) {
	e.Shows = line.FoundQuiet
	if rng.is(chance) {
		e.Shows, e.Known = f, rng.is(who)
	}
}

// declined is a visitor that noticed the set and did not commit to it: the first that comes true of digging, robbing and rolling, or it only
// looks.
func (s *Stand) declined(e *Event, set Set, night Night, rng *stream) {
	does := set.Visitors[e.Visitor].Animal.Mischief
	digs, rolls := does.Digs, does.Rolls
	if set.Loose || set.Scented {
		digs = math.Min(1, digs*looseTempts)
	}
	if set.Scented {
		rolls = math.Min(1, rolls*scentTempts)
	}
	switch {
	case rng.is(digs):
		s.Open = true
		e.does(line.FoundDug, rng)
	case s.Food && rng.is(does.Robs):
		s.Food = false
		e.does(line.FoundRobbed, rng)
	case rng.is(rolls):
		s.Open = true
		e.does(line.FoundRolled, rng)
	default:
		s.only(e, night, rng)
	}
}

// does is something that the morning shows for certain, though half the time not whose it was.
func (e *Event) does(f line.Finding, rng *stream) { e.Shows, e.Known = f, rng.is(tellsDoer) }

// held draws what becomes of a visitor that fired a trap.
func (s *Stand) held(e *Event, v odds.Comer, set Set, rng *stream) {
	if held := sure(v.Held); !rng.is(held) {
		switch {
		case rng.is((1 - sure(v.AnchorHold)) / (1 - held)):
			e.does(line.FoundGone, rng)
		case rng.is(tearsLoose):
			e.does(line.FoundLost, rng)
		default:
			e.does(line.FoundSprung, rng)
		}
		return
	}
	e.Through = odds.Held
	e.Shows, e.Known = line.FoundCatch, true
	if set.Drag && rng.is(walksOff) {
		e.Shows, e.Found = line.FoundGone, rng.is(foundThatDay)
		e.Known = e.Found
	}
}

// gravest is in which order a look tells what it found.
var gravest = []line.Finding{
	line.FoundGone, line.FoundCatch, line.FoundLost, line.FoundSprung, line.FoundDug, line.FoundRobbed, line.FoundRolled, line.FoundStepped,
	line.FoundStood, line.FoundLooked, line.FoundPassed, line.FoundLocked,
}

// Look is what can be seen of all since the set was last looked at, the gravest first; none where it lies quiet. What was seen is told once.
func (s *Stand) Look() []Event {
	found := make([]Event, len(s.left))
	for i, t := range s.left {
		found[i] = t.Event
	}
	s.left = s.left[:0]
	slices.SortStableFunc(found, func(a, b Event) int {
		return cmp.Compare(slices.Index(gravest, a.Shows), slices.Index(gravest, b.Shows))
	})
	return found
}
