package layout

import (
	"fmt"
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/ground"
	"oldburrow/core/refuse"
	"oldburrow/core/schools"
)

// PatternDef is a way of making a set, as data: its plan mark, what to begin with, what is special about its limits, which parts it
// has, how animals come to it, how long it keeps them, how long it takes to build in open ground, how well it shows, what it asks of a
// place and what it is like there, what it never takes, how else it is made, and for which animals it is poor.
type PatternDef struct {
	Key      string
	Kind     Kind
	Begin    func(Begin) Layout
	Limits   []Limit
	Wants    Wants
	Comings  comings
	Lingers  func(Layout) float64
	Minutes  float64
	Sight    string // its word as it begins; blank for a blind set
	Asks     Ask
	Traits   []string
	Never    []Refusal // what it is never scented with
	Variants []Variant
	PoorFor  []string
}

// Variant is another way of making a set of a pattern.
type Variant struct {
	Key  string
	Made func(Begin, Layout) Layout
}

// Wants is which parts a pattern has: the fewest and the most attractors, rigs, ways and trenches, and whether its rigs close loops
// and not jaws.
type Wants struct {
	Attractors, Rigs [2]int
	Way, Trench      [2]int
	Loops            bool
}

func (w Wants) check(p *refuse.Problems, l Layout) {
	counted := func(field string, n int, want [2]int) {
		if n < want[0] || n > want[1] {
			p.Add(field, "must be from %d to %d of them in this pattern, not %d", want[0], want[1], n)
		}
	}
	counted("attractors", len(l.Attractors), w.Attractors)
	counted("rigs", len(l.Rigs), w.Rigs)
	counted("anchors", len(l.Anchors), [2]int{1, max(1, len(l.Rigs))})
	for i, r := range l.Rigs {
		if (r.Device == "jaws") == w.Loops {
			p.Add(fmt.Sprintf("rigs[%d].device", i), "cannot be %q in this pattern", r.Device)
		}
	}
	there := func(field string, is bool, want [2]int) {
		if want[0] == 1 && !is {
			p.Add(field, "is missing: this pattern has one")
		} else if is && want[1] == 0 {
			p.Add(field, "cannot be: this pattern has none")
		}
	}
	there("way", l.Way != nil, w.Way)
	there("trench", l.Trench != nil, w.Trench)
}

const (
	inch  = 25.4
	pound = 4.448
)

// PatternKeys lists the patterns in the order in which they are offered.
func PatternKeys() []string {
	keys := make([]string, len(patterns))
	for i, def := range patterns {
		keys[i] = def.Key
	}
	return keys
}

// VariantKeys lists the other ways of making a set of a pattern.
func VariantKeys(pattern string) []string {
	keys := []string{}
	for _, v := range patternOf(pattern).Variants {
		keys = append(keys, v.Key)
	}
	return keys
}

// patternOf finds a pattern. Of one that is not known nothing is claimed.
func patternOf(key string) PatternDef {
	for _, def := range patterns {
		if def.Key == key {
			return def
		}
	}
	return PatternDef{Key: key, Begin: Begin.nothing, Wants: Wants{Loops: true}, Comings: unclaimed, Lingers: asUsual}
}

// Claims tells whether a pattern says where feet fall: a device that closes a loop does not.
func Claims(pattern string) bool { return !patternOf(pattern).Wants.Loops }

// Poor tells whether the set's pattern is poor for an animal.
func (l Layout) Poor(a animal.Animal) bool {
	return slices.Contains(patternOf(l.Pattern).PoorFor, a.Key)
}

// Begin is what a new set begins from: the animal that it is made for, what its maker goes by, what is known of the spot, and which
// variant of the pattern it is.
type Begin struct {
	Target  animal.Animal
	Schools schools.Schools
	Spot    Spot
	Variant string // blank for the pattern's first
}

// Spot is the ground that a set begins on. Blank or nil is not known; FrostMm is how deep it is, or will be, frozen.
type Spot struct {
	Soil    ground.Soil
	Wetness ground.Wetness
	FrostMm *float64
	Shy     bool
}

// New lays out a set of a pattern as it begins. It refuses a pattern or a variant that is not known and an animal that no line is set
// for.
func New(pattern string, b Begin) (Layout, error) {
	var p refuse.Problems
	refuse.OneOf(&p, "pattern", pattern, PatternKeys())
	if !b.Target.Target {
		p.Add("target", "must be an animal that a line is set for")
	}
	if b.Variant != "" && len(p) == 0 {
		refuse.OneOf(&p, "variant", b.Variant, VariantKeys(pattern))
	}
	if err := p.Err(); err != nil {
		return Layout{}, err
	}
	def := patternOf(pattern)
	l := def.Begin(b)
	for _, v := range def.Variants {
		if v.Key == b.Variant {
			l = v.Made(b, l)
		}
	}
	return l, nil
}

// Instead are the patterns that a set could be made after instead, on the same ground, for an animal for which they are not poor: those
// that find what they ask for at the place, and in a way only for one that lies in a way. Of a device no footfall is claimed.
func (l Layout) Instead(a animal.Animal, at Site) []string {
	var found []string
	for _, def := range patterns {
		switch {
		case def.Key == l.Pattern, slices.Contains(def.PoorFor, a.Key), def.Wants.Loops, len(def.lacks(at)) > 0:
		case def.Wants.Way[0] == 1 && l.Way == nil:
		default:
			found = append(found, def.Key)
		}
	}
	return found
}
