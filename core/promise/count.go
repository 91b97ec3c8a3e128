package promise

import (
	"cmp"
	"math"
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/learn"
	"oldburrow/core/line"
	"oldburrow/core/nights"
	"oldburrow/core/tally"
)

// Count is how many of an animal were promised at the sets of one kind at a spot, and how many came.
type Count struct {
	Animal   string      `json:"animal"`
	Kind     layout.Kind `json:"kind"`
	SpotID   string      `json:"spotId"`
	Expected float64     `json:"expected"`
	Caught   int         `json:"caught"`
}

// Season is what a season's record says of its promises: the counts, and what its findings tell of the links of each target. Missing is for how many
// nights nothing is promised yet: these count neither way.
type Season struct {
	Counts  []Count                   `json:"counts"`
	Links   map[string]nights.Telling `json:"links"`
	Prints  map[string]learn.Prints   `json:"prints"`
	Missing int                       `json:"missing"`
}

// Of counts a record by what was promised of its makes, by their ids.
func Of(rec line.Record, made map[string]Make, known animal.Animals) Season {
	s := Season{Counts: []Count{}, Links: map[string]nights.Telling{}, Prints: map[string]learn.Prints{}}
	sums := map[place]learn.Sum{}
	for _, m := range rec.Makes {
		said, worked := made[m.ID], rec.Worked(m)
		for night := range worked {
			if !rec.Span.Holds(rec.Midnight(m, night)) {
				worked[night] = 0
			} else if night >= said.Nights() {
				s.Missing++
			}
		}
		for _, a := range known {
			if _, comes := said.Of[a.Key]; !comes {
				continue
			}
			at := place{a.Key, m.Layout.Kind, rec.Set(m.SetID).SpotID}
			sums[at] = sums[at].And(said.expected(a.Key, worked), s.came(rec, m, said, a.Key))
			if marked := marked(rec, m, a.Key); !marked.IsZero() {
				s.Prints[a.Key] = s.Prints[a.Key].And(marked)
			}
		}
	}
	for at, sum := range sums {
		if sum != (learn.Sum{}) {
			s.Counts = append(s.Counts, Count{at.animal, at.kind, at.spot, math.Round(sum.Expected*finely) / finely, sum.Caught})
		}
	}
	slices.SortFunc(s.Counts, func(a, b Count) int {
		return cmp.Or(cmp.Compare(a.Animal, b.Animal), cmp.Compare(a.Kind, b.Kind), cmp.Compare(a.SpotID, b.SpotID))
	})
	return s
}

// finely is how finely promises are counted: far finer than anybody knows.
const finely = 1e4

// place is what a count is of.
type place struct {
	animal string
	kind   layout.Kind
	spot   string
}

// expected is how many of an animal a make promised over its nights, each of some worth.
func (m Make) expected(key string, worked []float64) (sum float64) {
	for night, worth := range worked {
		if promised, _, ok := m.On(key, night); ok {
			sum += worth * catches(promised)
		}
	}
	return sum
}

// came counts how many of an animal the looks at a make found held, and adds what they tell of the links: each tells of the night before it.
func (s *Season) came(rec line.Record, m line.Make, said Make, key string) (caught int) {
	looks, link := rec.Looks(m.ID), s.Links[key]
	for i, look := range looks {
		promised, tells, ok := said.On(key, tally.Nights(m.BuiltAt, look.At, rec.Zone)-1)
		if !ok || !rec.Span.Holds(look.At) {
			continue
		}
		crusted := look.Bed == line.FeltCrusted
		for _, c := range look.Catches {
			if c.Species == key {
				caught++
				link.Add(line.FoundCatch, tells, crusted, promised)
			}
		}
		for _, found := range append([]line.Found{look.Found}, look.Also...) {
			// What walked off with the trap and was found with it is among what was caught.
			later := found.Finding == line.FoundGone && slices.ContainsFunc(looks[i+1:], func(v line.Visit) bool {
				return v.Finding.Facts().Answer == line.AnswerSearch && len(v.Catches) > 0
			})
			if found.Animal == key && found.Finding != line.FoundCatch && !later {
				link.Add(found.Finding, tells, crusted, promised)
			}
		}
	}
	if link != (nights.Telling{}) {
		s.Links[key] = link
	}
	return caught
}

// marked are the prints of an animal that looks at a make marked on its plan; not those of what it caught: they say where the pan was. At a set that is
// worked they lie so far from its first attractor along its axis; along a way each lies so far from the one before it.
func marked(rec line.Record, m line.Make, key string) (found learn.Prints) {
	for _, look := range rec.Looks(m.ID) {
		if look.Animal != key || look.Finding.Facts().Holds || !rec.Span.Holds(look.At) {
			continue
		}
		l := m.Layout
		if !l.Blind() && len(l.Attractors) > 0 {
			for _, print := range look.Prints {
				found.Reach = append(found.Reach, math.Round(print.YMm-l.Attractors[0].YMm))
			}
			continue
		}
		if l.Way == nil {
			continue
		}
		along := make([]float64, len(look.Prints))
		sin, cos := math.Sincos(l.Way.BearingDeg * math.Pi / 180)
		for i, print := range look.Prints {
			along[i] = print.XMm*cos + print.YMm*sin
		}
		slices.Sort(along)
		for i := range len(along) - 1 {
			found.Step = append(found.Step, math.Round(along[i+1]-along[i]))
		}
	}
	return found
}

// OfMake is what one make promised of all targets, and how many came.
func OfMake(rec line.Record, m line.Make, made map[string]Make, known animal.Animals) (sum learn.Sum) {
	rec.Makes = []line.Make{m}
	for _, c := range Of(rec, made, known).Counts {
		sum = sum.And(c.Expected, c.Caught)
	}
	return sum
}

// With is what two seasons say together.
func (s Season) With(other Season) Season {
	found := Season{Counts: append(slices.Clone(s.Counts), other.Counts...), Links: map[string]nights.Telling{}, Prints: map[string]learn.Prints{}, Missing: s.Missing + other.Missing}
	for _, of := range []Season{s, other} {
		for key, prints := range of.Prints {
			found.Prints[key] = found.Prints[key].And(prints)
		}
		for key, link := range of.Links {
			found.Links[key] = found.Links[key].With(link)
		}
	}
	return found
}

// At is what they say at the levels by which a set at a spot is told.
func (s Season) At(spotID string) *learn.Learnt {
	found := learn.Learnt{Animals: map[string]learn.LearntOf{}}
	for _, c := range s.Counts {
		of, ok := found.Animals[c.Animal]
		if !ok {
			of.Kinds = map[string]learn.Sum{}
		}
		found.Line, of.Line = found.Line.And(c.Expected, c.Caught), of.Line.And(c.Expected, c.Caught)
		of.Kinds[string(c.Kind)] = of.Kinds[string(c.Kind)].And(c.Expected, c.Caught)
		if c.SpotID == spotID {
			of.Spot = of.Spot.And(c.Expected, c.Caught)
		}
		found.Animals[c.Animal] = of
	}
	for key, link := range s.Links {
		of := found.Animals[key]
		told := link.Found()
		of.Links = &told
		found.Animals[key] = of
	}
	for key, prints := range s.Prints {
		of := found.Animals[key]
		of.Prints = prints
		found.Animals[key] = of
	}
	return &found
}
