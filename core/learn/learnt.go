package learn

import "oldburrow/core/refuse"

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
}

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
	}
}
