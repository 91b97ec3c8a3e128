package learn

import (
	"slices"

	"oldburrow/core/refuse"
)

// Learnt is what a line's record says at the levels by which a set at a spot is told: of all targets, and of each by its key.
type Learnt struct {
	Line    Sum                 `json:"line"`
	Animals map[string]LearntOf `json:"animals"`
}

// LearntOf is what it says of one target: on the whole line, at sets of each kind, at the spot, and of the links of its chains.
type LearntOf struct {
	Line  Sum            `json:"line"`
	Kinds map[string]Sum `json:"kinds"`
	Spot  Sum            `json:"spot"`
	Links *LinksFound    `json:"links,omitempty"` // nil where no finding tells of them
	// Prints are those that were marked on the line.
	Prints Prints `json:"prints,omitzero"`
}

// Prints are where an animal's feet were marked, mm: how far from what it smells, at sets that it works, and from one to the next, along a way.
type Prints struct {
	Reach []float64 `json:"reach,omitempty"`
	Step  []float64 `json:"step,omitempty"`
}

// And is prints with more of them.
func (p Prints) And(more Prints) Prints {
	return Prints{append(slices.Clone(p.Reach), more.Reach...), append(slices.Clone(p.Step), more.Step...)}
}

// IsZero tells whether none were marked.
func (p Prints) IsZero() bool { return len(p.Reach)+len(p.Step) == 0 }

// Sum is how many catches were promised, and how many came.
type Sum struct {
	Expected float64 `json:"expected"`
	Caught   int     `json:"caught"`
}

// And is a sum with more promised and more caught.
func (s Sum) And(expected float64, caught int) Sum {
	return Sum{s.Expected + expected, s.Caught + caught}
}

// The levels by which a set is told, from the widest to the narrowest.
const (
	OfLine   = "line"
	OfTarget = "target"
	OfKind   = "kind"
	OfSpot   = "spot"
)

// LevelKeys lists them.
var LevelKeys = []string{OfLine, OfTarget, OfKind, OfSpot}

// How firmly it is believed that a level gives what the one before it does. Judgements.
const (
	targetShape = 2.0
	kindShape   = 3.0
	spotShape   = 4.0
)

// Levels are those of an animal at a set of some kind.
func (r *Learnt) Levels(animal, kind string) []Level {
	of := r.Animals[animal]
	level := func(key string, s Sum, shape float64) Level { return Level{key, s.Expected, float64(s.Caught), shape} }
	return []Level{
		level(OfLine, r.Line, LineShape), level(OfTarget, of.Line, targetShape), level(OfKind, of.Kinds[kind], kindShape), level(OfSpot, of.Spot, spotShape),
	}
}

// Told is what was promised and caught at a level, and by how much it is told there.
type Told struct {
	Sum
	Factor
}

// Told are the levels of an animal at a set of some kind, the narrowest last; none where nothing was promised on the line yet, or the record is not
// asked.
func (r *Learnt) Told(animal, kind string) ([]Told, error) {
	if r == nil || r.Line.Expected == 0 {
		return nil, nil
	}
	levels := r.Levels(animal, kind)
	out, err := Of(Input{levels})
	found := make([]Told, len(out.Levels))
	for i, f := range out.Levels {
		found[i] = Told{Sum{levels[i].Expected, int(levels[i].Caught)}, f}
	}
	return found, err
}

// Narrowest is by how much what is promised of an animal is told at a set of some kind: by the narrowest level, and as an unlearnt line is told where
// there is none.
func (r *Learnt) Narrowest(animal, kind string) (Factor, error) {
	levels, err := r.Told(animal, kind)
	if err != nil || len(levels) == 0 {
		return Unlearnt, err
	}
	return levels[len(levels)-1].Factor, nil
}

// Check refuses what cannot have been promised or caught.
func (r *Learnt) Check(p *refuse.Problems, field string) {
	if r == nil {
		return
	}
	for key := range r.Animals {
		for kind := range r.Animals[key].Kinds {
			p.Under(field, Input{r.Levels(key, kind)}.check())
		}
		p.Under(field, Input{r.Levels(key, "")}.check())
		if links := r.Animals[key].Links; links != nil {
			p.Under(field+".animals."+key+".links", links.check())
		}
		for what, prints := range map[string][]float64{"reach": r.Animals[key].Prints.Reach, "step": r.Animals[key].Prints.Step} {
			_, err := Stance(StanceInput{SDMm: 1, Prints: prints})
			p.Under(field+".animals."+key+".prints."+what, err)
		}
	}
}
