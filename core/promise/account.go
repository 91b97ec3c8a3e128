package promise

import (
	"cmp"
	"slices"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/learn"
	"oldburrow/core/line"
	"oldburrow/core/tally"
)

// Account is what a line's drawings promised in a span, and what came: of all targets, of each, and of each at sets of a kind; and at which link animals
// were lost. Missing is for how many nights nothing is promised yet: these count neither way.
type Account struct {
	All     Came   `json:"all"`
	Targets []Came `json:"targets"`
	Kinds   []Came `json:"kinds"`
	Lost    []Lost `json:"lost"`
	Missing int    `json:"missing"`
}

// Came is what was promised and what came, of one target or of all, at sets of a kind or of any; what came says that the truth lies from Low to High,
// 95 times in 100, and Says whether that tells it apart from what was promised.
type Came struct {
	Animal string      `json:"animal"`
	Kind   layout.Kind `json:"kind"`
	learn.Sum
	Low  float64 `json:"low"`
	High float64 `json:"high"`
	Says Says    `json:"says"`
}

// Says is what a count says of what was promised: blank where chance alone could do it.
type Says string

// What it can say beside that.
const (
	Fewer Says = "fewer"
	More  Says = "more"
)

// SaysKeys lists them.
var SaysKeys = []Says{Fewer, More}

// Lost is at which link a target is lost, by the findings, and at which sets most are that are lost where the line leaks.
type Lost struct {
	Animal string           `json:"animal"`
	Links  learn.LinksFound `json:"links"`
	Told   learn.LeaksSeen  `json:"told"`
	At     []LostAt         `json:"at"`
}

// LostAt is how many were lost there at one set, by what findings weigh.
type LostAt struct {
	SetID  string  `json:"setId"`
	Number int     `json:"number"`
	Lost   float64 `json:"lost"`
}

// AccountOf writes that of a record.
func AccountOf(rec line.Record, made map[string]Make, known animal.Animals) (Account, error) {
	s := Of(rec, made, known)
	b := Account{Targets: []Came{}, Kinds: []Came{}, Lost: []Lost{}, Missing: s.Missing}
	learnt := s.At("")
	var err error
	if b.All, err = cameOf("", "", learnt.Line); err != nil {
		return b, err
	}
	for _, a := range known {
		of, ok := learnt.Animals[a.Key]
		if !ok {
			continue
		}
		c, err := cameOf(a.Key, "", of.Line)
		if err != nil {
			return b, err
		}
		b.Targets = append(b.Targets, c)
		for _, kind := range layout.Kinds {
			if sum, ok := of.Kinds[string(kind)]; ok {
				if c, err = cameOf(a.Key, kind, sum); err != nil {
					return b, err
				}
				b.Kinds = append(b.Kinds, c)
			}
		}
		if of.Links == nil {
			continue
		}
		lost, err := lostOf(a.Key, *of.Links, learnt)
		if err != nil {
			return b, err
		}
		lost.At = lostAt(ShowedOf(rec, made, a.Key), lost.Told.Leak)
		b.Lost = append(b.Lost, lost)
	}
	return b, nil
}

func cameOf(animal string, kind layout.Kind, sum learn.Sum) (Came, error) {
	in := tally.RateDefaults()
	in.Catches, in.TrapNights = float64(sum.Caught), 100 // of so many a hundredth is one: what is told is the count itself
	bounds, err := tally.Rate(in)
	came := Came{Animal: animal, Kind: kind, Sum: sum, Low: bounds.Low, High: bounds.High}
	switch {
	case sum.Expected > bounds.High:
		came.Says = Fewer
	case sum.Expected < bounds.Low:
		came.Says = More
	}
	return came, err
}

func lostOf(key string, links learn.LinksFound, learnt *learn.Learnt) (Lost, error) {
	by, err := learnt.Narrowest(key, "")
	if err != nil {
		return Lost{}, err
	}
	told, err := learn.See(learn.LeaksInput{Links: links, Factor: by.Factor})
	return Lost{Animal: key, Links: links, Told: told}, err
}

// mostLostAt is how many sets are named where animals are lost.
const mostLostAt = 3

// lostAt are the sets at which most of a target were lost at a link.
func lostAt(all []Showed, leak *string) []LostAt {
	found := []LostAt{}
	if leak == nil {
		return found
	}
	for _, one := range all {
		if kept, reached := one.Kept[*leak]; !reached || kept {
			continue
		}
		i := slices.IndexFunc(found, func(at LostAt) bool { return at.SetID == one.SetID })
		if i < 0 {
			i = len(found)
			found = append(found, LostAt{one.SetID, one.Number, 0})
		}
		found[i].Lost += one.Counts
	}
	slices.SortFunc(found, func(a, b LostAt) int { return cmp.Or(cmp.Compare(b.Lost, a.Lost), cmp.Compare(a.Number, b.Number)) })
	return found[:min(mostLostAt, len(found))]
}

// Showed is a finding that tells of a target's links: at which set it was found and when, for how many it stands, and of each link that it reached
// whether it was kept there.
type Showed struct {
	SetID   string          `json:"setId"`
	Number  int             `json:"number"`
	At      time.Time       `json:"at"`
	Finding line.Finding    `json:"finding"`
	Counts  float64         `json:"counts"`
	Kept    map[string]bool `json:"kept"`
}

// ShowedOf are those of a record, in their order in time.
func ShowedOf(rec line.Record, made map[string]Make, animal string) []Showed {
	found := []Showed{}
	for _, m := range rec.Makes {
		set := rec.Set(m.SetID)
		for _, one := range shownOf(rec, m, made[m.ID], animal) {
			showed := Showed{SetID: set.ID, Number: set.Number, At: one.at, Finding: one.Finding, Kept: map[string]bool{}}
			told := tellingOf([]shown{one})
			for key, of := range map[string]learn.Counted{"commits": told.Commits, "steps": told.Steps, "fires": told.Fires, "held": told.Held} {
				if of.Reached > 0 {
					showed.Counts, showed.Kept[key] = of.Reached, of.Kept > 0
				}
			}
			if len(showed.Kept) > 0 {
				found = append(found, showed)
			}
		}
	}
	slices.SortStableFunc(found, func(a, b Showed) int { return cmp.Or(a.At.Compare(b.At), cmp.Compare(a.Number, b.Number)) })
	return found
}
