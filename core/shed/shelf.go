package shed

import (
	"cmp"
	"math"
	"slices"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/schools"
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

// newAgain is after how long a lure is new to a place that has met it. A judgement of the trade.
const newAgain = 365 * 24 * time.Hour

// At is the lure as it stands to a spot: by the record of the season, and not new where it lay there in another one within a year.
func (o OnShelf) At(spotID string, rec line.Record) odds.ShelfLure {
	is := odds.ShelfLure{LureID: o.Lure.ID, Name: o.Lure.Name, Class: o.Lure.Class, Doses: o.DosesLeft, Stands: rec.LureAt(spotID, o.Lure.ID)}
	met := slices.ContainsFunc(o.Met, func(m Meeting) bool { return m.SpotID == spotID && rec.Now.Sub(m.Last) < newAgain })
	if met && is.Stands == odds.LuresNew {
		is.Stands = ""
	}
	return is
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

// Shelf lists lures, as they were poured, by class and name. The coldest hour to come says what would freeze; nil: it is not known.
func Shelf(poured []OnShelf, coldestC *float64) []OnShelf {
	shelf := slices.Clone(poured)
	for i := range shelf {
		shelf[i].Bottles = slices.Clone(shelf[i].Bottles)
		for k := range shelf[i].Bottles {
			s := &shelf[i].Bottles[k]
			s.Ices = s.Left > 0 && s.Bottle.FreezesAtC != nil && coldestC != nil && *s.Bottle.FreezesAtC > *coldestC
		}
	}
	order := line.LureClasses
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

// Smell is a set that was built with a lure: as bait, and whether it was a remake of one that had it.
type Smell struct {
	At     time.Time `db:"at"`
	SpotID string    `db:"spot_id"`
	Bait   bool      `db:"bait"`
	Again  bool      `db:"again"`
}

// Pouring is everything that was noted of a lure: its bottles, what was seen to be left in them, doses by hand, and the sets that
// were built with it. Where Base is said it is only what was noted since the lure stood so.
type Pouring struct {
	Schools schools.Schools `json:"-"`
	Base    *Stood          `json:"base"`
	Lure    line.Lure       `json:"lure"`
	Bottles []line.Bottle   `json:"bottles"`
	Levels  []line.Level    `json:"levels"`
	Doses   []line.Dose     `json:"doses"`
	Smells  []Smell         `json:"-"`
}

// Stood is how a lure stood at a time: what was left in each of its bottles, which spots had met it, and what nobody accounts for.
type Stood struct {
	Bottles     []StoodBottle `json:"bottles"`
	Met         []Meeting     `json:"met"`
	Unaccounted float64       `json:"unaccounted"`
}

// StoodBottle is a bottle then, by its ID and how much it held when it was full.
type StoodBottle struct {
	ID      string     `json:"id"`
	Holds   float64    `json:"holds"`
	Left    float64    `json:"left"`
	EmptyAt *time.Time `json:"emptyAt,omitempty"`
}

// Since cuts everything that was noted of a lure at a time.
func (p Pouring) Since(from, now time.Time) Pouring {
	earlier, later := p, p
	older := func(at time.Time) bool { return at.Before(from) }
	newer := func(at time.Time) bool { return !at.Before(from) }
	earlier.Levels, later.Levels = p.levels(older), p.levels(newer)
	earlier.Doses, later.Doses = p.doses(older), p.doses(newer)
	earlier.Smells, later.Smells = p.smells(older), p.smells(newer)
	base := earlier.Pour(now)
	later.Base = &Stood{Bottles: make([]StoodBottle, len(base.Bottles)), Met: base.Met, Unaccounted: base.Unaccounted}
	for i, s := range base.Bottles {
		later.Base.Bottles[i] = StoodBottle{ID: s.Bottle.ID, Holds: s.Bottle.Holds, Left: s.Left, EmptyAt: s.EmptyAt}
	}
	return later
}

func (p Pouring) levels(in func(time.Time) bool) []line.Level {
	return slices.DeleteFunc(slices.Clone(p.Levels), func(x line.Level) bool { return !in(x.At) })
}

func (p Pouring) doses(in func(time.Time) bool) []line.Dose {
	return slices.DeleteFunc(slices.Clone(p.Doses), func(x line.Dose) bool { return !in(x.At) })
}

func (p Pouring) smells(in func(time.Time) bool) []Smell {
	return slices.DeleteFunc(slices.Clone(p.Smells), func(x Smell) bool { return !in(x.At) })
}

// begun is how a lure stood before anything was noted of it that is among this.
func (p Pouring) begun() OnShelf {
	found := OnShelf{Lure: p.Lure, Bottles: []Stock{}, Met: []Meeting{}}
	before := map[string]StoodBottle{}
	if p.Base != nil {
		found.Met, found.Unaccounted = append(found.Met, p.Base.Met...), p.Base.Unaccounted
		for _, s := range p.Base.Bottles {
			before[s.ID] = s
		}
	}
	for _, b := range p.Bottles {
		is := Stock{Bottle: b, Left: b.Holds}
		if was, ok := before[b.ID]; ok && was.Holds == b.Holds {
			is.Left, is.EmptyAt = was.Left, was.EmptyAt
		}
		found.Bottles = append(found.Bottles, is)
	}
	return found
}

// Pour says how a lure stands after all that. A set whose time cannot be believed yet takes nothing.
func (p Pouring) Pour(now time.Time) OnShelf {
	found := p.begun()
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
	for _, u := range p.uses(now) {
		found.take(u)
	}
	for i := range found.Bottles {
		s := &found.Bottles[i]
		s.DosesLeft = dosesIn(s.Left, p.Lure.Dose)
		s.Low = s.DosesLeft <= fewDoses
		found.Left += s.Left
	}
	found.DosesLeft = dosesIn(found.Left, p.Lure.Dose)
	found.Low = found.DosesLeft <= fewDoses
	slices.SortStableFunc(found.Met, func(a, b Meeting) int { return cmp.Or(b.Times-a.Times, b.Last.Compare(a.Last)) })
	return found
}

// Waits is when the first of the sets whose time lies ahead can be believed, and the lure has to be poured anew; nil: none does.
func (p Pouring) Waits(now time.Time) *time.Time {
	var first *time.Time
	for _, s := range p.Smells {
		if at := s.At.Add(-line.Ahead); line.OddTime(s.At, now) == line.WhyAhead && (first == nil || at.Before(*first)) {
			first = &at
		}
	}
	return first
}

// uses are the doses of a lure and the levels of its bottles, in order of time.
func (p Pouring) uses(now time.Time) []use {
	var uses []use
	for _, s := range p.Smells {
		if line.OddTime(s.At, now) == "" {
			u := use{at: s.At, spotID: s.SpotID, doses: 1}
			if s.Again && !s.Bait && p.Schools.Renew != "everything" {
				u.doses = 0 // the catch's smell does the rest
			}
			uses = append(uses, u)
		}
	}
	for _, d := range p.Doses {
		u := use{at: d.At, doses: d.Count}
		if d.SpotID != nil {
			u.spotID = *d.SpotID
		}
		uses = append(uses, u)
	}
	for _, level := range p.Levels {
		uses = append(uses, use{at: level.At, level: &level})
	}
	slices.SortStableFunc(uses, func(a, b use) int { return a.at.Compare(b.at) })
	return uses
}

// dosesIn counts whole doses, with a little mercy for what adds up to one.
func dosesIn(left, dose float64) int { return int(left/dose + 1e-6) }

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
		f.Met = append(f.Met, Meeting{SpotID: u.spotID})
		i = len(f.Met) - 1
	}
	f.Met[i].Times++
	f.Met[i].Last = u.at
}
