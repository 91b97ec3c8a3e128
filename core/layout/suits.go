package layout

import (
	"math"
	"slices"
	"time"

	"oldburrow/core/animal"
)

// Site is what is known of the place where a set is to stand, on a day: how wide the travel way is there, how many of those that pass take
// this very way as the user says, what is near, whether it lies in cover, whether animals are shy there, how deep snow lies, and which kinds
// of set it has met often. Nil and blank are not known. Day is the local date.
type Site struct {
	Day      string   `json:"day"`
	WayMm    *float64 `json:"wayMm" jsonschema:"nullable"`
	Through  Through  `json:"through"`
	Near     []Nearby `json:"near"`
	InCover  *bool    `json:"inCover" jsonschema:"nullable"`
	Shy      bool     `json:"shy"`
	SnowMm   *float64 `json:"snowMm" jsonschema:"nullable"`
	KindsMet []Kind   `json:"kindsMet"`
}

// Nearby is something that a set may ask for, and how far off it lies, m; 0 where it was noted by hand.
type Nearby struct {
	Key string  `json:"key"`
	M   float64 `json:"m"`
}

// Suit is what a pattern makes of a place for an animal: whether it finds there what it asks for, and else the first of that; of a blind set,
// the share of those that pass which take this very way, else 1; how well the others show, 0 for a blind one; and what speaks for and
// against the others there, sorted.
type Suit struct {
	Stands  bool     `json:"stands"`
	Lacks   []string `json:"lacks"`
	Through float64  `json:"through"`
	Sight   float64  `json:"sight"`
	Terms   []Term   `json:"terms"`
}

// Ask is what a pattern asks of a place: one of some things within a distance, m, or snow.
type Ask struct {
	OneOf   []string
	WithinM float64
	Snow    bool
}

func within(m float64, oneOf ...string) Ask { return Ask{OneOf: oneOf, WithinM: m} }

var snowAsked = Ask{Snow: true}

// What a pattern is like, for what the place makes of it.
const (
	OpenHole = "open_hole"
	Food     = "food"
	Show     = "show"
	Close    = "close"
	Punched  = "punched"
	Mark     = "mark"
	TreeHole = "tree_hole"
	InWater  = "in_water"
	IsBlind  = "blind"

	BlindSecond = "blind_second" // its second trap lies blind on the way in
	Pinch       = "pinch"
)

// SnowyMm is snow that hides what does not stand out of it, and that sets are made of.
const SnowyMm = snowyCm * 10

// Robbed is near a set of which a look says that it was robbed; Cover is near a spot that was said to lie in cover.
const (
	Robbed = "robbed"
	Cover  = "cover"
)

// Through is how many of those that pass take the very way that a blind set lies in, as the user says.
type Through string

// Throughs lists them.
var Throughs = []Through{"nearly_all", "about_half", "few"}

// ThroughSaid is the share that such a word stands for. Judgements.
var ThroughSaid = map[Through]float64{"nearly_all": .9, "about_half": .5, "few": .2}

// What takes a way, where nobody says: the share of those that pass, by how wide it lies open, and how each animal keeps to ways.
// Judgements.
const (
	mostThrough    = .9
	pinchThrough   = .6
	unknownThrough = .4
	openThrough    = .05
)

var throughWays = []struct{ upToMm, share float64 }{{400, .7}, {700, .5}, {1200, .3}, {2500, .15}}

// season is a stretch of the year, both days in it: month and day.
type season struct{ from, to [2]int }

// Term is a key of what speaks for or against committing, by the place, the day or how a set is made.
type Term string

// placeSeasons are the terms that hang on the day, by the trait that they are about. Judgements.
var placeSeasons = []struct {
	term  Term
	trait string
	season
}{
	{"mark_season", Mark, season{[2]int{12, 15}, [2]int{3, 15}}},
	{"mark_early", Mark, season{[2]int{8, 1}, [2]int{12, 14}}},
	{"food_early", Food, season{[2]int{8, 1}, [2]int{11, 30}}},
	{"food_late", Food, season{[2]int{1, 1}, [2]int{3, 31}}},
}

func (s season) holds(day time.Time) bool {
	on := []int{int(day.Month()), day.Day()}
	after, before := slices.Compare(on, s.from[:]) >= 0, slices.Compare(on, s.to[:]) <= 0
	if slices.Compare(s.from[:], s.to[:]) > 0 { // over New Year
		return after || before
	}
	return after && before
}

// shyTerms are what a shy place has against sets of a trait.
var shyTerms = map[string]Term{Show: "shy_show", OpenHole: "shy_open_hole", Punched: "shy_punch_holes"}

// Suits is what a pattern makes of a place for an animal.
func Suits(pattern string, a animal.Animal, at Site) Suit {
	def := patternOf(pattern)
	found := Suit{Lacks: def.lacks(at), Through: 1, Terms: []Term{}}
	found.Stands = len(found.Lacks) == 0
	if def.blind() {
		found.Through = def.through(a, at)
		return found
	}
	found.Sight = def.sight(def.moves(at)).Share
	found.Terms = def.terms(at)
	return found
}

func (def PatternDef) is(trait string) bool { return slices.Contains(def.Traits, trait) }

func (def PatternDef) blind() bool { return def.is(IsBlind) }

// lacks is the first of what the pattern asks for, where the place has none of it.
func (def PatternDef) lacks(at Site) []string {
	if def.Asks.Snow && !at.snowy() {
		return []string{"snow"}
	}
	for _, key := range def.Asks.OneOf {
		if slices.ContainsFunc(at.Near, func(n Nearby) bool { return n.Key == key && n.M <= def.Asks.WithinM }) {
			return []string{}
		}
	}
	return append([]string{}, def.Asks.OneOf[:min(1, len(def.Asks.OneOf))]...)
}

func (at Site) snowy() bool { return at.SnowMm != nil && *at.SnowMm >= SnowyMm }

// What tells which share of those that pass take a blind set's way.
const (
	BySaid  = "said"
	ByPinch = "pinch"
	ByWidth = "width"
	ByNone  = "unknown"
)

// ThroughBy is what tells which share of those that pass take the set's way.
func (l Layout) ThroughBy(at Site) string { return patternOf(l.Pattern).throughBy(at) }

func (def PatternDef) throughBy(at Site) string {
	_, said := ThroughSaid[at.Through]
	switch {
	case said:
		return BySaid
	case def.is(Pinch):
		return ByPinch
	case at.WayMm != nil:
		return ByWidth
	}
	return ByNone
}

func (def PatternDef) through(a animal.Animal, at Site) float64 {
	base := unknownThrough
	switch def.throughBy(at) {
	case BySaid:
		return ThroughSaid[at.Through]
	case ByPinch:
		base = pinchThrough
	case ByWidth:
		base = openThrough
		for _, way := range slices.Backward(throughWays) {
			if *at.WayMm <= way.upToMm {
				base = way.share
			}
		}
	}
	return math.Min(mostThrough, base*a.Steer)
}

// terms are what speaks for and against a set that is not blind.
func (def PatternDef) terms(at Site) []Term {
	found := []Term{}
	for _, trait := range def.Traits {
		switch trait {
		case Close, Show, TreeHole, InWater:
			found = append(found, Term(trait))
		}
		if term, ok := shyTerms[trait]; ok && at.Shy {
			found = append(found, term)
		}
	}
	if day, err := time.Parse(time.DateOnly, at.Day); err == nil {
		for _, s := range placeSeasons {
			if def.is(s.trait) && s.holds(day) {
				found = append(found, s.term)
			}
		}
	}
	slices.Sort(found)
	return found
}

// Blind tells whether a set lies in a way with nothing to come to, and asks for no commitment.
func (l Layout) Blind() bool { return patternOf(l.Pattern).blind() }

// Suits is what the set's pattern makes of a place for an animal.
func (l Layout) Suits(a animal.Animal, at Site) Suit { return Suits(l.Pattern, a, at) }

// AskedWithinM is the farthest that any pattern asks for something, m.
func AskedWithinM() float64 {
	most := 0.0
	for _, def := range patterns {
		most = max(most, def.Asks.WithinM)
	}
	return most
}

// Questions are all the things that patterns ask for.
func Questions() []string {
	var keys []string
	for _, def := range patterns {
		for _, key := range def.Asks.OneOf {
			if !slices.Contains(keys, key) {
				keys = append(keys, key)
			}
		}
	}
	slices.Sort(keys)
	return keys
}

// AsksWithin is what a pattern asks for and how near, m.
func AsksWithin(pattern string) Ask { return patternOf(pattern).Asks }

// Refusal is a kind of smell that a pattern never takes, and why.
type Refusal struct {
	Kind SmellKind `json:"kind"`
	Why  Why       `json:"why"`
}

// Why a pattern never takes a kind of smell.
const (
	OffTheHole Why = "off_the_hole" // it would take attention off the hole
	DigsInRing Why = "digs_in_ring" // food makes them dig within the ring
	NotAtPost  Why = "not_at_post"  // a post is marked and not eaten at
	NoScent    Why = "no_scent"     // nothing smells in it at all
	LuresAlone Why = "lures_alone"  // lure on wool, no bait
	Outside    Why = "outside_ring" // it makes them stand outside the ring
)

// Refuses is why the set's pattern never takes a kind of smell; blank where it may.
func (l Layout) Refuses(kind SmellKind) Why {
	for _, r := range patternOf(l.Pattern).Never {
		if r.Kind == kind || r.Kind == Bait && kind == FoodLure {
			return r.Why
		}
	}
	return ""
}

// Never lists the kinds of smell that the set's pattern never takes.
func (l Layout) Never() []Refusal { return append([]Refusal{}, patternOf(l.Pattern).Never...) }

// Why is why a pattern never takes a kind of smell.
type Why string

// Whys lists them.
var Whys = []Why{OffTheHole, DigsInRing, NotAtPost, NoScent, LuresAlone, Outside}

// Stays tells whether a trap belongs where it lies: one that is set blind on the way in is not brought to what smells.
func (l Layout) Stays(i int) bool { return i > 0 && patternOf(l.Pattern).is(BlindSecond) }

// OpenHole tells whether a hole gapes that an animal which knows of traps steers clear of.
func (l Layout) OpenHole() bool { return patternOf(l.Pattern).is(OpenHole) }

// OnFooting tells whether a foot comes onto the set's pan as onto the one dry footing, with most of its weight.
func (l Layout) OnFooting() bool { return patternOf(l.Pattern).is(InWater) }

// Tight tells whether an animal has to come between things that stand close about the pan.
func (l Layout) Tight() bool { return patternOf(l.Pattern).is(Close) }
