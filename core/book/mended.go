package book

import (
	"cmp"
	"slices"
	"strings"

	"gonum.org/v1/gonum/mathext"
	"gonum.org/v1/gonum/stat"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/tally"
)

// Cure is what became of a trouble where sets were made again after it in one way: how many makes, how many findings reached the link since that had
// failed, how many came through it, and between which shares that leaves it 95 times in 100. Part is in what they were otherwise, blank where they were
// made as before.
type Cure struct {
	After   line.Finding `json:"after"`
	Part    string       `json:"part"`
	Makes   int          `json:"makes"`
	Reached int          `json:"reached"`
	Kept    int          `json:"kept"`
	Low     float64      `json:"low"`
	High    float64      `json:"high"`
}

const cureTail = .025 // on each side

// CuresOf are the cures of a record after each kind of trouble, those of most makes first. Findings of others than the targets tell nothing.
func CuresOf(rec line.Record, known animal.Animals) []Cure {
	found := []Cure{}
	at := func(after line.Finding, part string) *Cure {
		i := slices.IndexFunc(found, func(c Cure) bool { return c.After == after && c.Part == part })
		if i < 0 {
			found = append(found, Cure{After: after, Part: part})
			i = len(found) - 1
		}
		return &found[i]
	}
	for _, m := range rec.Makes {
		before, last := madeBefore(rec, m)
		if last == nil || last.Finding == line.FoundQuiet || last.Finding.Facts().Failed == "" || m.Layout.Pattern != before.Layout.Pattern {
			continue
		}
		reached, kept := cameThrough(rec, m, last.Finding.Facts().Failed, known)
		parts := layout.Changed(before.Layout, m.Layout)
		if len(parts) == 0 {
			parts = []string{""}
		}
		for _, part := range parts {
			c := at(last.Finding, part)
			c.Makes, c.Reached, c.Kept = c.Makes+1, c.Reached+reached, c.Kept+kept
		}
	}
	for i := range found {
		c := &found[i]
		c.High = 1
		if c.Kept > 0 {
			c.Low = mathext.InvRegIncBeta(float64(c.Kept), float64(c.Reached-c.Kept+1), cureTail)
		}
		if c.Kept < c.Reached {
			c.High = mathext.InvRegIncBeta(float64(c.Kept+1), float64(c.Reached-c.Kept), 1-cureTail)
		}
	}
	slices.SortStableFunc(found, func(a, b Cure) int {
		return cmp.Or(cmp.Compare(slices.Index(line.Findings, a.After), slices.Index(line.Findings, b.After)), cmp.Compare(b.Makes, a.Makes), strings.Compare(a.Part, b.Part))
	})
	return found
}

// madeBefore is the make that another was made after, and what it was last found as; nil where it was the first, or nobody looked.
func madeBefore(rec line.Record, m line.Make) (line.Make, *line.Visit) {
	at := rec.At(m.SetID)
	i := slices.IndexFunc(at, func(x line.Make) bool { return x.ID == m.ID })
	if i < 1 {
		return line.Make{}, nil
	}
	return at[i-1], rec.LastLook(at[i-1].ID)
}

// cameThrough counts the findings at a make that reached a link, and those that came through it, without those of others than the targets.
func cameThrough(rec line.Record, m line.Make, link odds.LinkKey, known animal.Animals) (reached, kept int) {
	return line.Through(slices.DeleteFunc(slices.Clone(rec.Looks(m.ID)), func(look line.Visit) bool {
		a, err := known.ByKey(look.Animal)
		return err == nil && !a.Target
	}), link)
}

// LureBrought is a lure with what it brought over the nights that it lay: how often a set with it was dug, rolled on, robbed or stood at, and what was
// caught there, targets and others. Digs tells that it makes them dig: more than the line's other lures do, for certain.
type LureBrought struct {
	LureID string  `json:"lureId"`
	Name   string  `json:"name"`
	Nights float64 `json:"nights"`
	Dug    int     `json:"dug"`
	Rolled int     `json:"rolled"`
	Robbed int     `json:"robbed"`
	Stood  int     `json:"stood"`
	Others int     `json:"others"`
	Caught int     `json:"caught"`
	Digs   bool    `json:"digs"`
}

// LuresOf are the lures of a record, those of most nights first.
func LuresOf(rec line.Record, known animal.Animals) ([]LureBrought, error) {
	found := map[string]*LureBrought{}
	for _, m := range rec.Makes {
		seen := map[string]bool{}
		for _, smell := range m.Layout.Smells() {
			key := cmp.Or(smell.LureID, smell.Name)
			if key == "" || seen[key] || smell.IsBait() || smell.Kind == layout.Urine || smell.Kind == layout.Scat {
				continue
			}
			seen[key] = true
			if found[key] == nil {
				found[key] = &LureBrought{LureID: smell.LureID, Name: smell.Name}
			}
			found[key].add(rec, m, known)
		}
	}
	all := []LureBrought{}
	for _, l := range found {
		all = append(all, *l)
	}
	for i := range all {
		digs, err := all[i].digsMore(all)
		if err != nil {
			return nil, err
		}
		all[i].Digs = digs
	}
	slices.SortFunc(all, func(a, b LureBrought) int {
		return cmp.Or(cmp.Compare(b.Nights, a.Nights), strings.Compare(a.Name, b.Name), strings.Compare(a.LureID, b.LureID))
	})
	return all, nil
}

func (l *LureBrought) add(rec line.Record, m line.Make, known animal.Animals) {
	for _, worth := range rec.Worked(m) {
		l.Nights += worth
	}
	for _, look := range rec.Looks(m.ID) {
		for _, f := range append([]line.Found{look.Found}, look.Also...) {
			switch f.Finding {
			case line.FoundDug:
				l.Dug++
			case line.FoundRolled:
				l.Rolled++
			case line.FoundRobbed:
				l.Robbed++
			case line.FoundStood:
				l.Stood++
			}
		}
		for _, c := range look.Catches {
			if a, err := known.ByKey(c.Species); err == nil && a.Target {
				l.Caught++
			} else {
				l.Others++
			}
		}
	}
}

// surelyMore is how seldom chance alone tells two apart so far.
const surelyMore = .05

// digsMore tells whether sets with a lure are dug more often than those with the others, by their nights.
func (l LureBrought) digsMore(all []LureBrought) (bool, error) {
	dug, nights := 0, 0.0
	for _, other := range all {
		if other.LureID != l.LureID || other.Name != l.Name {
			dug, nights = dug+other.Dug, nights+other.Nights
		}
	}
	if l.Nights <= 0 || nights <= 0 {
		return false, nil
	}
	out, err := tally.Compare(tally.CompareInput{A: tally.Earned{Catches: float64(l.Dug), TrapNights: l.Nights}, B: tally.Earned{Catches: float64(dug), TrapNights: nights}})
	return err == nil && out.P < surelyMore && float64(l.Dug)/l.Nights > float64(dug)/nights, err
}

// Circuit is how often an animal comes by a spot: the median of the gaps between the nights that it was known to have come in, and half of how far their
// quartiles lie apart; Known is false where that is farther than the median, and nothing is told.
type Circuit struct {
	SpotID string  `json:"spotId"`
	Animal string  `json:"animal"`
	Passes int     `json:"passes"`
	Nights float64 `json:"nights"`
	Within float64 `json:"within"`
	Known  bool    `json:"known"`
}

// Figures of circuits; judgements.
const (
	longestGap = 21 // nights: a longer one is none
	fewPasses  = 4
)

// CircuitsOf are those of a record, of each target at each spot that was known to come often enough.
func CircuitsOf(rec line.Record, known animal.Animals) []Circuit {
	type who struct{ spot, animal string }
	nights := map[who][]int{}
	for _, m := range rec.Makes {
		for _, look := range rec.Looks(m.ID) {
			for _, f := range append([]line.Found{look.Found}, look.Also...) {
				if a, err := known.ByKey(f.Animal); err == nil && a.Target && f.Finding.Facts().Reached != "" {
					at := who{rec.Set(m.SetID).SpotID, f.Animal}
					nights[at] = append(nights[at], tally.Nights(line.Earliest, look.At, rec.Zone))
				}
			}
		}
	}
	found := []Circuit{}
	for at, came := range nights {
		slices.Sort(came)
		came = slices.Compact(came)
		if len(came) < fewPasses {
			continue
		}
		var gaps []float64
		for i := 1; i < len(came); i++ {
			if gap := came[i] - came[i-1]; gap <= longestGap {
				gaps = append(gaps, float64(gap))
			}
		}
		if len(gaps) < fewPasses-1 {
			continue
		}
		slices.Sort(gaps)
		quantile := func(p float64) float64 { return stat.Quantile(p, stat.LinInterp, gaps, nil) }
		c := Circuit{SpotID: at.spot, Animal: at.animal, Passes: len(came), Nights: quantile(.5), Within: (quantile(.75) - quantile(.25)) / 2}
		c.Known = 2*c.Within <= c.Nights
		found = append(found, c)
	}
	slices.SortFunc(found, func(a, b Circuit) int {
		return cmp.Or(cmp.Compare(b.Passes, a.Passes), strings.Compare(a.SpotID, b.SpotID), strings.Compare(a.Animal, b.Animal))
	})
	return found
}
