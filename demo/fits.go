package demo

import (
	"fmt"
	"maps"
	"slices"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/tally"
)

// Fits says what a season lacks that there is to show, in words; nothing where it fits. Who was unable to look, and who gives a search up, is for
// people to say: of these none is asked.
func Fits(s Season) []string {
	f := fitting{season: s, found: map[line.Finding]int{}, held: map[string]int{}, prints: map[string]int{}}
	f.read()
	targets, others := 0, 0
	for _, a := range animal.Reference {
		if a.Target {
			targets += f.held[a.Key]
			f.needs(f.held[a.Key] > 0, "no %s was held", a.Key)
		} else {
			others += f.held[a.Key]
		}
	}
	f.among("targets", targets, 25, 40)
	f.among("others", others, 6, 15)
	f.among("trap-nights", int(f.trapNights()), 640, 860)
	for _, key := range []string{"raccoon", "skunk", "dog"} {
		f.needs(f.held[key] > 0, "no %s was held", key)
	}
	for _, finding := range line.Findings {
		f.needs(f.found[finding] > 0 || finding == line.FoundUnable || finding == line.FoundGivenUp, "nothing was found %s", finding)
	}
	f.needs(f.found[line.FoundAgain] == f.found[line.FoundGone], "what is gone was not searched for")
	f.needs(f.brought > 0, "no search found what was held")
	f.needs(f.checked() == f.found[line.FoundLost], "a trap that lost what it caught was not checked")
	f.needs(f.beside > 0, "nothing was found beside something graver")
	f.needs(slices.Max(append(slices.Collect(maps.Values(f.prints)), 0)) >= 3, "no animal's prints were marked thrice")
	kinds := map[layout.Kind]int{}
	for _, first := range f.sets() {
		kinds[first.Layout.Kind]++
	}
	for kind, n := range kindsOfSets {
		f.needs(kinds[kind] == n, "%d sets are of the kind %s, not %d", kinds[kind], kind, n)
	}
	f.needs(!slices.ContainsFunc(f.season.Makes, func(m line.Make) bool {
		return m.SetID == f.sets()[0].SetID && m.Layout.Rigs[0].TrapID != trapID(firstTrap)
	}), "the first set was robbed of its trap")
	f.stories()
	return f.lacks
}

// firstTrap stands in the first set, which whoever looks at the demo opens first.
const firstTrap = 11

// kindsOfSets are how many sets of each kind the script builds.
var kindsOfSets = map[layout.Kind]int{"dirt_hole": 9, "flat": 4, "trench": 3, "trail": 4, "scent_post": 4}

// fitting is a season as it is looked through.
type fitting struct {
	season  Season
	lacks   []string
	found   map[line.Finding]int
	held    map[string]int // by species
	prints  map[string]int
	brought int // animals that a search found
	beside  int // findings beside graver ones
}

func (f *fitting) needs(is bool, lacks string, of ...any) {
	if !is {
		f.lacks = append(f.lacks, fmt.Sprintf(lacks, of...))
	}
}

func (f *fitting) among(what string, n, least, most int) {
	f.needs(n >= least && n <= most, "%d %s, not %d to %d", n, what, least, most)
}

// read counts what was found and held.
func (f *fitting) read() {
	for _, v := range f.season.Visits {
		f.found[v.Finding]++
		f.beside += len(v.Also)
		for _, c := range v.Catches {
			f.held[c.Species]++
		}
		if v.Finding == line.FoundAgain {
			f.brought += len(v.Catches)
		}
		if len(v.Prints) > 0 {
			f.prints[v.Animal] += len(v.Prints)
		}
	}
}

// checked counts the traps that were checked where something was lost.
func (f *fitting) checked() (n int) {
	for _, v := range f.season.Visits {
		if v.Finding == line.FoundLost && slices.ContainsFunc(f.season.Checks, func(c line.ShedCheck) bool { return c.At.After(v.At) && c.At.Before(v.At.Add(remakes)) }) {
			n++
		}
	}
	return n
}

// sets are the makes with which each set was first built, in their order.
func (f *fitting) sets() (first []line.Make) {
	for _, m := range f.season.Makes {
		if !slices.ContainsFunc(first, func(x line.Make) bool { return x.SetID == m.SetID }) {
			first = append(first, m)
		}
	}
	return first
}

func (f *fitting) trapNights() (nights float64) {
	r := line.NewRecord(Start(), Start().Location(), tally.Span{}, line.Noted{Makes: f.season.Makes, Visits: f.season.Visits})
	for _, m := range r.Makes {
		nights += r.TrapNights(m)
	}
	return nights
}

// stories asks for what two sets are there to tell: one that stayed silent, and caught when its fouled trap was swapped; and one that was robbed night
// after night, and held a grey fox when it was rebuilt.
func (f *fitting) stories() {
	count := func(looks []line.Visit, is func(line.Visit) bool) (n int) {
		for _, v := range looks {
			if is(v) {
				n++
			}
		}
		return n
	}
	caught := func(v line.Visit) bool { return len(v.Catches) > 0 }
	before, after := f.looksAt(silent)
	f.needs(count(before, func(v line.Visit) bool { return v.Finding == line.FoundStepped }) > 0, "nothing stepped on the silent trap")
	f.needs(count(before, caught) == 0, "the silent trap caught")
	f.needs(count(after, caught) > 0, "the silent set caught nothing when its trap was swapped")
	before, after = f.looksAt(robbed)
	byRaccoon := func(v line.Visit) bool { return v.Finding == line.FoundRobbed && v.Animal == "raccoon" }
	f.needs(count(before, func(v line.Visit) bool { return v.Finding == line.FoundRobbed }) > 2 && count(before, byRaccoon) > 0, "no raccoon robbed the hole night after night")
	f.needs(count(after, func(v line.Visit) bool { return caught(v) && v.Catches[0].Species == "grey_fox" }) > 0, "the rebuilt hole held no grey fox")
}

// looksAt are the looks at a set of the script, until it was rebuilt as that says, and after.
func (f *fitting) looksAt(key string) (before, after []line.Visit) {
	spots := map[string]string{} // the name of that of each design
	for _, d := range f.season.Designs {
		for _, s := range f.season.Spots {
			if s.ID == d.SpotID {
				spots[d.ID] = s.Name
			}
		}
	}
	of, set := map[string]bool{}, ""
	for _, m := range f.season.Makes {
		if set == "" && spots[m.DesignID]+", "+m.Layout.Pattern == key {
			set = m.SetID
		}
		of[m.ID] = set != "" && m.SetID == set
	}
	for _, v := range f.season.Visits {
		switch {
		case !of[v.MakeID]:
		case v.At.In(Start().Location()).Format(time.DateOnly) <= rebuilt[key].day:
			before = append(before, v)
		default:
			after = append(after, v)
		}
	}
	return before, after
}
