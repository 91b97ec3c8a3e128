package shed

import (
	"cmp"
	"math"
	"slices"
	"time"

	"oldburrow/core/line"
)

// OnShelf is a lure with its bottles, what is left of it, and which spots have met it. Unaccounted are doses that the record
// used while no bottle was open.
type OnShelf struct {
	Lure        line.Lure `json:"lure"`
	Bottles     []Stock   `json:"bottles"`
	Left        float64   `json:"left"`
	DosesLeft   int       `json:"dosesLeft"`
	Low         bool      `json:"low"`
	Unaccounted float64   `json:"unaccounted"`
	Met         []Meeting `json:"met"`
}

// Stock is a bottle and what is left in it by the doses taken since it was opened or last looked at.
type Stock struct {
	Bottle    line.Bottle `json:"bottle"`
	Left      float64     `json:"left"`
	DosesLeft int         `json:"dosesLeft"`
	EmptyAt   *time.Time  `json:"emptyAt" jsonschema:"nullable"`
	Low       bool        `json:"low"`
	Ices      bool        `json:"ices"` // in the cold that is expected
}

// Meeting is how often a spot has met a lure, and when first and last.
type Meeting struct {
	SpotID string    `json:"spotId"`
	Times  int       `json:"times"`
	First  time.Time `json:"first"`
	Last   time.Time `json:"last"`
}

// Figures of the shelf, each a habit or a judgement.
const (
	fewDoses   = 3     // so many are left: it is time for another bottle
	spareC     = 3.0   // a mixture stands so much more than the coldest hour to come
	hardNightC = -20.0 // and this where that is not known
)

// ColdToStand is what cold a mixture should stand, °C, by the coldest hour to come; nil: it is not known.
func ColdToStand(coldestC *float64) float64 {
	if coldestC == nil {
		return hardNightC
	}
	return math.Min(0, math.Floor(*coldestC)-spareC)
}

// Shelf lists the lures by class and name. The coldest hour to come says what would freeze; nil: it is not known.
func (r Record) Shelf(coldestC *float64) []OnShelf {
	shelf := make([]OnShelf, 0, len(r.Lures))
	for _, l := range r.Lures {
		shelf = append(shelf, r.onShelf(l, coldestC))
	}
	order := line.LureClasses()
	slices.SortStableFunc(shelf, func(a, b OnShelf) int {
		return cmp.Or(cmp.Compare(slices.Index(order, a.Lure.Class), slices.Index(order, b.Lure.Class)), cmp.Compare(a.Lure.Name, b.Lure.Name))
	})
	return shelf
}

// use is something that happened to a lure: doses taken at a spot or nowhere, or a bottle's level seen.
type use struct {
	at     time.Time
	spotID string
	doses  float64
	level  *line.Level
}

func (r Record) onShelf(l line.Lure, coldestC *float64) OnShelf {
	found := OnShelf{Lure: l, Bottles: []Stock{}, Met: []Meeting{}}
	for _, b := range r.Bottles {
		if b.LureID == l.ID {
			found.Bottles = append(found.Bottles, Stock{Bottle: b, Left: b.Holds})
		}
	}
	// The one that was opened first is used first; one that is not open comes last.
	slices.SortStableFunc(found.Bottles, func(a, b Stock) int {
		switch x, y := a.Bottle.OpenedAt, b.Bottle.OpenedAt; {
		case x != nil && y != nil:
			return x.Compare(*y)
		case x != nil:
			return -1
		case y != nil:
			return 1
		}
		return cmp.Compare(a.Bottle.ID, b.Bottle.ID)
	})
	for _, u := range r.uses(l) {
		found.take(u)
	}
	for i := range found.Bottles {
		s := &found.Bottles[i]
		s.DosesLeft = dosesIn(s.Left, l.Dose)
		s.Low = s.DosesLeft <= fewDoses
		s.Ices = s.Left > 0 && s.Bottle.FreezesAtC != nil && coldestC != nil && *s.Bottle.FreezesAtC > *coldestC
		found.Left += s.Left
	}
	found.DosesLeft = dosesIn(found.Left, l.Dose)
	found.Low = found.DosesLeft <= fewDoses
	slices.SortStableFunc(found.Met, func(a, b Meeting) int { return cmp.Or(b.Times-a.Times, b.Last.Compare(a.Last)) })
	return found
}

// dosesIn counts whole doses, with a little mercy for what adds up to one.
func dosesIn(left, dose float64) int { return int(left/dose + 1e-6) }

// uses are the doses of a lure and the levels of its bottles, in order of time.
func (r Record) uses(l line.Lure) []use {
	spotOf := map[string]string{}
	for _, set := range r.Sets {
		spotOf[set.ID] = set.SpotID
	}
	var uses []use
	for _, made := range r.Makes {
		for _, id := range made.Layout.Attractant.ShelfIDs() {
			if id == l.ID {
				uses = append(uses, use{at: made.BuiltAt, spotID: spotOf[made.SetID], doses: 1})
			}
		}
	}
	for _, d := range r.Doses {
		if d.LureID != l.ID {
			continue
		}
		u := use{at: d.At, doses: d.Count}
		if d.SpotID != nil {
			u.spotID = *d.SpotID
		}
		uses = append(uses, u)
	}
	of := map[string]bool{}
	for _, b := range r.Bottles {
		of[b.ID] = b.LureID == l.ID
	}
	for _, level := range r.Levels {
		if of[level.BottleID] {
			uses = append(uses, use{at: level.At, level: &level})
		}
	}
	slices.SortStableFunc(uses, func(a, b use) int { return a.at.Compare(b.at) })
	return uses
}

// take lets something happen to a lure.
func (f *OnShelf) take(u use) {
	if u.level != nil {
		for i := range f.Bottles {
			if f.Bottles[i].Bottle.ID == u.level.BottleID {
				f.Bottles[i].put(u.level.Left, u.at)
			}
		}
		return
	}
	f.meet(u)
	wanted := u.doses * f.Lure.Dose
	for i := range f.Bottles {
		b := &f.Bottles[i]
		if b.Left <= 0 || b.Bottle.OpenedAt == nil || b.Bottle.OpenedAt.After(u.at) {
			continue
		}
		taken := min(wanted, b.Left)
		b.put(b.Left-taken, u.at)
		if wanted -= taken; wanted <= 1e-9 {
			return
		}
	}
	f.Unaccounted += wanted / f.Lure.Dose
}

func (s *Stock) put(left float64, at time.Time) {
	s.Left, s.EmptyAt = left, nil
	if left <= 1e-9 {
		s.Left, s.EmptyAt = 0, &at
	}
}

func (f *OnShelf) meet(u use) {
	if u.spotID == "" {
		return
	}
	i := slices.IndexFunc(f.Met, func(m Meeting) bool { return m.SpotID == u.spotID })
	if i < 0 {
		f.Met = append(f.Met, Meeting{SpotID: u.spotID, First: u.at})
		i = len(f.Met) - 1
	}
	f.Met[i].Times++
	f.Met[i].Last = u.at
}
