package promise

import (
	"maps"
	"math"
	"slices"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/learn"
	"oldburrow/core/line"
	"oldburrow/core/nights"
	"oldburrow/core/odds"
	"oldburrow/core/tally"
)

// Season is what a season's record says of its promises: the counts of each animal, what its findings tell of the links of each target, and where
// its feet were marked. Missing is for how many nights nothing is promised yet: these count neither way.
type Season struct {
	Counts  map[string]Counts         `json:"counts"`
	Links   map[string]nights.Telling `json:"links"`
	Prints  map[string]learn.Prints   `json:"prints"`
	Missing int                       `json:"missing"`
}

// Counts is how many of an animal were promised, and how many came: at the sets of each kind, and at each spot.
type Counts struct {
	Kinds map[layout.Kind]learn.Sum `json:"kinds"`
	Spots map[string]learn.Sum      `json:"spots"`
}

// add adds what was promised and came at sets of a kind at a spot.
func (c *Counts) add(kind layout.Kind, spot string, sum learn.Sum) {
	if sum == (learn.Sum{}) {
		return
	}
	if c.Kinds == nil {
		*c = Counts{map[layout.Kind]learn.Sum{}, map[string]learn.Sum{}}
	}
	c.Kinds[kind] = c.Kinds[kind].And(sum.Expected, sum.Caught)
	c.Spots[spot] = c.Spots[spot].And(sum.Expected, sum.Caught)
}

// Of counts a record by what was promised of its makes, by their ids.
func Of(rec line.Record, made map[string]Make, known animal.Animals) Season {
	s := blank()
	for _, m := range rec.Makes {
		said := made[m.ID]
		worked, missing := workedIn(rec, m, said)
		s.Missing += missing
		for _, a := range known {
			if _, comes := said.Of[a.Key]; !comes {
				continue
			}
			shown := shownOf(rec, m, said, a.Key)
			counts := s.Counts[a.Key]
			counts.add(m.Layout.Kind, rec.Set(m.SetID).SpotID, learn.Sum{Expected: said.expected(a.Key, worked), Caught: caught(shown)})
			if counts.Kinds != nil {
				s.Counts[a.Key] = counts
			}
			if told := tellingOf(shown); told != (nights.Telling{}) {
				s.Links[a.Key] = s.Links[a.Key].With(told)
			}
			if marked := marked(rec, m, a.Key); !marked.IsZero() {
				s.Prints[a.Key] = s.Prints[a.Key].And(marked)
			}
		}
	}
	for _, counts := range s.Counts {
		finely(counts.Kinds)
		finely(counts.Spots)
	}
	return s
}

func blank() Season {
	return Season{Counts: map[string]Counts{}, Links: map[string]nights.Telling{}, Prints: map[string]learn.Prints{}}
}

// workedIn is what each night of a make is worth, 0 for those outside its record's span, and of how many within it nothing is promised yet.
func workedIn(rec line.Record, m line.Make, said Make) (worked []float64, missing int) {
	worked = rec.Worked(m)
	for night := range worked {
		if !rec.Span.Holds(rec.Midnight(m, night)) {
			worked[night] = 0
		} else if night >= said.Nights() {
			missing++
		}
	}
	return worked, missing
}

// finely rounds what was promised far finer than anybody knows it.
func finely[K comparable](of map[K]learn.Sum) {
	for key, sum := range of {
		sum.Expected = math.Round(sum.Expected*1e4) / 1e4
		of[key] = sum
	}
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

// shown is something that a look found of an animal, on ground that tells so, where the make's chain had promised it so for the night before.
type shown struct {
	line.Found
	at       time.Time
	tells    nights.Tells
	crusted  bool
	promised odds.Comer
}

// shownOf is all that the looks at a make found of an animal in its record's span, of nights that were promised; one for each that was caught.
func shownOf(rec line.Record, m line.Make, said Make, key string) (all []shown) {
	looks := rec.Looks(m.ID)
	for i, look := range looks {
		promised, tells, ok := said.On(key, tally.Nights(m.BuiltAt, look.At, rec.Zone)-1)
		if !ok || !rec.Span.Holds(look.At) {
			continue
		}
		add := func(found line.Found) {
			all = append(all, shown{found, look.At, tells, look.Bed == line.FeltCrusted, promised})
		}
		for _, c := range look.Catches {
			if c.Species == key {
				add(line.Found{Finding: line.FoundCatch, Animal: key})
			}
		}
		for _, found := range append([]line.Found{look.Found}, look.Also...) {
			// What walked off with the trap and was found with it is among what was caught.
			later := found.Finding == line.FoundGone && slices.ContainsFunc(looks[i+1:], func(v line.Visit) bool {
				return v.Finding.Facts().Answer == line.AnswerSearch && len(v.Catches) > 0
			})
			if found.Animal == key && found.Finding != line.FoundCatch && !later {
				add(found)
			}
		}
	}
	return all
}

// caught is how many of them were caught.
func caught(all []shown) (n int) {
	for _, one := range all {
		if one.Finding == line.FoundCatch {
			n++
		}
	}
	return n
}

// tellingOf is what they tell of the links.
func tellingOf(all []shown) (told nights.Telling) {
	for _, one := range all {
		told.Add(one.Finding, one.tells, one.crusted, one.promised)
	}
	return told
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
func OfMake(rec line.Record, m line.Make, said Make) (sum learn.Sum) {
	worked, _ := workedIn(rec, m, said)
	for _, key := range slices.Sorted(maps.Keys(said.Of)) {
		sum = sum.And(said.expected(key, worked), caught(shownOf(rec, m, said, key)))
	}
	return sum
}

// With is what two seasons say together.
func (s Season) With(other Season) Season {
	found := blank()
	found.Missing = s.Missing + other.Missing
	for _, of := range []Season{s, other} {
		for key, counts := range of.Counts {
			both := found.Counts[key]
			found.Counts[key] = Counts{with(both.Kinds, counts.Kinds), with(both.Spots, counts.Spots)}
		}
		for key, prints := range of.Prints {
			found.Prints[key] = found.Prints[key].And(prints)
		}
		for key, link := range of.Links {
			found.Links[key] = found.Links[key].With(link)
		}
	}
	return found
}

func with[K comparable](a, b map[K]learn.Sum) map[K]learn.Sum {
	both := map[K]learn.Sum{}
	maps.Copy(both, a)
	for key, sum := range b {
		both[key] = both[key].And(sum.Expected, sum.Caught)
	}
	return both
}

// At is what they say at the levels by which a set at a spot is told.
func (s Season) At(spotID string) *learn.Learnt {
	found := learn.Learnt{Animals: map[string]learn.LearntOf{}}
	for _, key := range slices.Sorted(maps.Keys(s.Counts)) { // in one order, so that sums come out alike
		of, counts := learn.LearntOf{Kinds: map[string]learn.Sum{}}, s.Counts[key]
		for _, kind := range slices.Sorted(maps.Keys(counts.Kinds)) {
			sum := counts.Kinds[kind]
			of.Kinds[string(kind)] = sum
			of.Line = of.Line.And(sum.Expected, sum.Caught)
		}
		of.Spot = counts.Spots[spotID]
		found.Line = found.Line.And(of.Line.Expected, of.Line.Caught)
		found.Animals[key] = of
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
