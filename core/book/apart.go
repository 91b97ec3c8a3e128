package book

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/learn"
	"oldburrow/core/line"
	"oldburrow/core/refuse"
	"oldburrow/core/tally"
)

// ApartBy is by what nights are told apart.
type ApartBy string

// The ways in which they are. A lure's class is that of the shelf; a trap's size is what its owner calls it.
const (
	ByPlace   ApartBy = "place"
	ByKind    ApartBy = "kind"
	ByPattern ApartBy = "pattern"
	ByLure    ApartBy = "lure"
	ByClass   ApartBy = "class"
	ByTrap    ApartBy = "trap"
	ByAnchor  ApartBy = "anchor"
	ByMonth   ApartBy = "month"
	// ByChange tells the nights of a set before it was made another way from those since: its key is the make.
	ByChange ApartBy = "change"
)

// Bys lists those by which all nights of a line are told apart.
var Bys = []ApartBy{ByPlace, ByKind, ByPattern, ByLure, ByClass, ByTrap, ByAnchor, ByMonth}

// Shed is what stands in the shed of what a layout names by its id: what a trap's size is called, and of which class a lure is.
type Shed struct {
	Sizes   map[string]string
	Classes map[string]string
}

// Alike is the nights that are alike in something, and what was held in them; Rate is nil where there are none. Shrunk is a place's rate drawn toward
// the line's, the more the fewer nights stand behind it; nil of what is no place.
type Alike struct {
	Key        string            `json:"key"` // blank where it was not said
	Name       string            `json:"name,omitempty"`
	Catches    int               `json:"catches"`
	TrapNights float64           `json:"trapNights"`
	Rate       *tally.RateOutput `json:"rate" jsonschema:"nullable"`
	Shrunk     *float64          `json:"shrunk,omitempty" jsonschema:"nullable"`
}

// AtMake is what of such nights stood at one make: its set, when it was built, what the mornings after them found, and what they earned and held.
type AtMake struct {
	SetID      string         `json:"setId"`
	Number     int            `json:"number"`
	SpotID     string         `json:"spotId"`
	MakeID     string         `json:"makeId"`
	BuiltAt    time.Time      `json:"builtAt"`
	Nights     []line.Finding `json:"nights"`
	TrapNights float64        `json:"trapNights"`
	Catches    int            `json:"catches"`
}

// Apart are the nights of a line told apart in every way, and how long sets of each kind stood before they caught.
type Apart struct {
	Groups map[ApartBy][]Alike `json:"groups"`
	First  []First             `json:"first"`
}

// First is how long the makes of a kind stood before the first of the animals asked for was held in them.
type First struct {
	Kind layout.Kind `json:"kind"`
	Sets int         `json:"sets"`
	learn.FirstCatchOutput
}

// night is what a trap of a make earned in a night, and held in the morning after.
type night struct {
	make, n, rig int
	worth        float64
	held         int
}

// reading is a record as its nights are told apart: of one animal, or of all targets where none is named.
type reading struct {
	line.Record
	shed   Shed
	nights []night
	keys   [][]keyed // of each make
}

// keyed is what a make is in one way; Name is what it is called where its key is an id.
type keyed struct {
	ApartBy
	key, name string
}

// ApartOf tells the nights of a record apart, by what was held of an animal; of all targets where none is named. It refuses one that is not known.
func ApartOf(r line.Record, known animal.Animals, shed Shed, of string) (Apart, error) {
	read, err := readOf(r, known, shed, of)
	if err != nil {
		return Apart{}, err
	}
	found := Apart{Groups: map[ApartBy][]Alike{}, First: []First{}}
	for _, by := range Bys {
		if found.Groups[by], err = read.groups(by); err != nil {
			return found, err
		}
	}
	found.First, err = read.first()
	return found, err
}

// NightsOf are the nights that are alike in something, make by make in the order in which they were built. It refuses what nights are not told apart
// by.
func NightsOf(r line.Record, known animal.Animals, shed Shed, of string, by ApartBy, key string) ([]AtMake, error) {
	read, err := readOf(r, known, shed, of)
	if err != nil {
		return nil, err
	}
	if err := by.check(Bys); err != nil {
		return nil, err
	}
	some := make([][]night, len(r.Makes))
	for _, n := range read.nights {
		if read.is(n, by, key) {
			some[n.make] = append(some[n.make], n)
		}
	}
	found := []AtMake{}
	for i, m := range r.Makes {
		if len(some[i]) > 0 {
			found = append(found, read.atMake(m, some[i]))
		}
	}
	return found, nil
}

// atMake is what some nights of a make were.
func (r *reading) atMake(m line.Make, some []night) AtMake {
	set, all := r.Set(m.SetID), madeOf(r.Record, m).Nights
	one := AtMake{SetID: set.ID, Number: set.Number, SpotID: set.SpotID, MakeID: m.ID, BuiltAt: m.BuiltAt}
	from, to := len(all), 0
	for _, n := range some {
		from, to = min(from, n.n), min(len(all), max(to, n.n+1))
		one.TrapNights, one.Catches = one.TrapNights+n.worth, one.Catches+n.held
	}
	one.Nights = all[min(from, to):to]
	return one
}

// is tells whether a night is of a key in one way.
func (r *reading) is(n night, by ApartBy, key string) bool {
	return slices.ContainsFunc(r.of(n, by), func(k keyed) bool { return k.key == key })
}

// check refuses what nights are not told apart by.
func (by ApartBy) check(among []ApartBy) error {
	if slices.Contains(among, by) {
		return nil
	}
	names := make([]string, len(among))
	for i, one := range among {
		names[i] = string(one)
	}
	return refuse.Field("by", "must be one of %s, not %q", strings.Join(names, ", "), by)
}

func readOf(r line.Record, known animal.Animals, shed Shed, of string) (*reading, error) {
	counts := func(species string) bool {
		a, _ := known.ByKey(species)
		return of == "" && a.Target || species == of
	}
	if _, err := known.ByKey(of); of != "" && err != nil {
		return nil, refuse.Field("animal", "is not known: %q", of)
	}
	read := &reading{Record: r, shed: shed}
	for i, m := range r.Makes {
		read.keys = append(read.keys, read.keysOf(m))
		held := read.heldAt(m, counts)
		for rig := range m.Layout.Rigs {
			worked := r.WorkedBy(m, m.Layout.Rigs[rig].Slot)
			for n := range max(1, len(worked)) { // what was held before the first midnight stands at that night, which earned nothing
				one := night{make: i, n: n, rig: rig, held: held[[2]int{rig, n}]}
				if n < len(worked) && r.Span.Holds(r.Midnight(m, n)) {
					one.worth = worked[n]
				}
				if one.worth > 0 || one.held > 0 {
					read.nights = append(read.nights, one)
				}
			}
		}
	}
	return read, nil
}

// heldAt is how many a make held, by the trap that held them and the night before they were found; where it was not said which trap held one, it counts
// for the first.
func (r *reading) heldAt(m line.Make, counts func(string) bool) map[[2]int]int {
	held, last := map[[2]int]int{}, max(0, len(r.Worked(m))-1)
	for _, look := range r.Looks(m.ID) {
		if !r.Span.Holds(look.At) {
			continue
		}
		n := min(last, max(0, tally.Nights(m.BuiltAt, look.At, r.Zone)-1))
		for _, c := range look.Catches {
			if !counts(c.Species) {
				continue
			}
			rig := 0
			if len(c.Rigs) > 0 {
				rig = max(0, slices.IndexFunc(m.Layout.Rigs, func(rig layout.Rig) bool { return rig.Slot == c.Rigs[0] }))
			}
			held[[2]int{rig, n}]++
		}
	}
	return held
}

// keysOf is what a make is, in each way that holds for all of its traps and nights.
func (r *reading) keysOf(m line.Make) []keyed {
	found := []keyed{{ByPlace, r.Set(m.SetID).SpotID, ""}, {ByKind, string(m.Layout.Kind), ""}, {ByPattern, m.Layout.Pattern, ""}}
	add := func(k keyed) {
		if !slices.Contains(found, k) {
			found = append(found, k)
		}
	}
	for _, attractor := range m.Layout.Attractors {
		for _, smell := range attractor.Smells {
			add(keyed{ByLure, cmp.Or(smell.LureID, strings.ToLower(smell.Name)), smell.Name})
			add(keyed{ByClass, cmp.Or(r.shed.Classes[smell.LureID], string(smell.Kind)), ""})
		}
	}
	for _, anchor := range m.Layout.Anchors {
		add(keyed{ByAnchor, string(anchor.Kind), ""})
	}
	return found
}

// of are the keys of a night in one way.
func (r *reading) of(n night, by ApartBy) (found []keyed) {
	switch by {
	case ByTrap:
		return []keyed{{by, r.shed.Sizes[r.Makes[n.make].Layout.Rigs[n.rig].TrapID], ""}}
	case ByMonth:
		return []keyed{{by, r.Midnight(r.Makes[n.make], n.n).AddDate(0, 0, -1).In(r.Zone).Format("2006-01"), ""}}
	}
	for _, k := range r.keys[n.make] {
		if k.ApartBy == by {
			found = append(found, k)
		}
	}
	if len(found) == 0 {
		return []keyed{{ApartBy: by}}
	}
	return found
}

// groups tells the nights apart in one way, those first that stand behind most nights; months in their order.
func (r *reading) groups(by ApartBy) ([]Alike, error) {
	found, at := []Alike{}, map[string]int{}
	for _, n := range r.nights {
		for _, k := range r.of(n, by) {
			i, known := at[k.key]
			if !known {
				i = len(found)
				at[k.key] = i
				found = append(found, Alike{Key: k.key, Name: k.name})
			}
			found[i].add(n)
		}
	}
	var whole Alike
	for _, n := range r.nights {
		whole.Catches, whole.TrapNights = whole.Catches+n.held, whole.TrapNights+n.worth
	}
	for i := range found {
		g := &found[i]
		if err := g.work(); err != nil {
			return nil, err
		}
		if by == ByPlace && whole.TrapNights > 0 {
			g.Shrunk = new(shrunk(*g, whole))
		}
	}
	slices.SortStableFunc(found, func(a, b Alike) int {
		if by == ByMonth {
			return cmp.Compare(a.Key, b.Key)
		}
		return cmp.Or(cmp.Compare(b.TrapNights, a.TrapNights), cmp.Compare(a.Key, b.Key))
	})
	return found, nil
}

// add adds a night.
func (g *Alike) add(n night) {
	g.Catches, g.TrapNights = g.Catches+n.held, g.TrapNights+n.worth
}

func (g *Alike) work() error {
	if g.TrapNights == 0 {
		return nil
	}
	in := tally.RateDefaults()
	in.Catches, in.TrapNights = float64(g.Catches), g.TrapNights
	rate, err := tally.Rate(in)
	g.Rate = &rate
	return err
}

// placeShape is how firmly it is believed that a place gives what the line does: as firmly as that a spot gives what its kind of set does. A judgement.
const placeShape = 4.0

// shrunk is a place's catches per 100 trap-nights, with what the line gives as what is known beforehand (the mean of a gamma distribution of that
// shape).
func shrunk(g, whole Alike) float64 {
	mean := (float64(whole.Catches) + .5) / whole.TrapNights // half a catch, so that a line that caught nothing is not sure to catch none
	return 100 * (placeShape + float64(g.Catches)) / (placeShape/mean + g.TrapNights)
}

// first is how long the makes of each kind stood before they caught.
func (r *reading) first() ([]First, error) {
	stood := make([]learn.Stood, len(r.Makes))
	for _, n := range r.nights {
		switch s := &stood[n.make]; {
		case s.Caught && n.n+1 > s.Nights:
		case n.held > 0:
			*s = learn.Stood{Nights: n.n + 1, Caught: true}
		case !s.Caught:
			s.Nights = max(s.Nights, n.n+1)
		}
	}
	found := []First{}
	for _, kind := range layout.Kinds {
		var in learn.FirstCatchInput
		for i, s := range stood {
			if s.Nights > 0 && r.Makes[i].Layout.Kind == kind {
				in.Sets = append(in.Sets, s)
			}
		}
		if len(in.Sets) == 0 {
			continue
		}
		out, err := learn.FirstCatch(in)
		if err != nil {
			return nil, err
		}
		found = append(found, First{kind, len(in.Sets), out})
	}
	return found, nil
}

// Compared is how the nights of two groups differ in what they held, and in what else they differ.
type Compared struct {
	A Alike `json:"a"`
	B Alike `json:"b"`
	tally.CompareOutput
	// Nil where one of them has no nights: then nothing is compared.
	Known bool `json:"known"`
	// Beyond tells that more nights than any season has would tell them apart.
	Beyond bool     `json:"beyond"`
	Differ []Differ `json:"differ"`
}

// Differ is something else in which two groups differ: which share of the nights of each was so.
type Differ struct {
	By   ApartBy `json:"by"`
	Key  string  `json:"key"`
	Name string  `json:"name,omitempty"`
	A    float64 `json:"a"`
	B    float64 `json:"b"`
}

// What else differed is said from so far apart on, shares of their nights, and so many of it. Judgements.
const (
	farApart   = .25
	mostDiffer = 3
)

// CompareOf compares two groups. ApartBy a change it is one make's key a, with what its set was before against what it has been since. It refuses what
// nights are not told apart by, and keys of which there are none.
func CompareOf(r line.Record, known animal.Animals, shed Shed, of string, by ApartBy, a, b string) (Compared, error) {
	read, err := readOf(r, known, shed, of)
	if err != nil {
		return Compared{}, err
	}
	in, err := read.sides(by, a, b)
	if err != nil {
		return Compared{}, err
	}
	c := Compared{Differ: []Differ{}}
	for side, g := range []*Alike{&c.A, &c.B} {
		for _, n := range in[side] {
			g.add(n)
		}
		if err := g.work(); err != nil {
			return c, err
		}
	}
	if by != ByChange {
		c.A.Key, c.B.Key = a, b
		c.A.Name, c.B.Name = read.nameOf(by, a), read.nameOf(by, b)
	}
	if c.Known = c.A.TrapNights > 0 && c.B.TrapNights > 0; !c.Known {
		return c, nil
	}
	earned := func(g Alike) tally.Earned { return tally.Earned{Catches: float64(g.Catches), TrapNights: g.TrapNights} }
	if c.CompareOutput, err = tally.Compare(tally.CompareInput{A: earned(c.A), B: earned(c.B)}); err != nil {
		return c, err
	}
	c.Beyond = beyond(c.CompareOutput)
	c.Differ = read.differ(by, in)
	return c, nil
}

// beyond tells whether no season has as many nights as would tell two apart.
func beyond(c tally.CompareOutput) bool { return c.More != nil && *c.More >= tally.MostNights }

// sides are the nights of the two.
func (r *reading) sides(by ApartBy, a, b string) (in [2][]night, err error) {
	if by == ByChange {
		i := slices.IndexFunc(r.Makes, func(m line.Make) bool { return m.ID == a })
		if i < 0 {
			return in, refuse.ErrUnknown
		}
		since := r.Makes[i]
		for _, n := range r.nights {
			if m := r.Makes[n.make]; m.SetID == since.SetID && m.BuiltAt.Before(since.BuiltAt) {
				in[0] = append(in[0], n)
			} else if m.SetID == since.SetID {
				in[1] = append(in[1], n)
			}
		}
		return in, nil
	}
	if err := by.check(append(slices.Clone(Bys), ByChange)); err != nil {
		return in, err
	}
	if a == b {
		return in, refuse.Field("b", "must be another than a: they are both %q", a)
	}
	for side, key := range []string{a, b} {
		for _, n := range r.nights {
			if r.is(n, by, key) {
				in[side] = append(in[side], n)
			}
		}
		if len(in[side]) == 0 {
			return in, refuse.Field([]string{"a", "b"}[side], "has no nights in this season: %q", key)
		}
	}
	return in, nil
}

func (r *reading) nameOf(by ApartBy, key string) string {
	for _, n := range r.nights {
		for _, k := range r.of(n, by) {
			if k.key == key {
				return k.name
			}
		}
	}
	return ""
}

// within tells whether one way to tell nights apart follows from another: a pattern is of one kind, a lure of one class.
func within(a, b ApartBy) bool {
	pair := func(x, y ApartBy) bool { return a == x && b == y || a == y && b == x }
	return a == b || pair(ByKind, ByPattern) || pair(ByLure, ByClass)
}

// differ is in what else the nights of two groups differ, the farthest apart first; of each way only what differs most.
func (r *reading) differ(by ApartBy, in [2][]night) []Differ {
	found := []Differ{}
	for _, other := range Bys {
		if within(by, other) || slices.ContainsFunc(found, func(d Differ) bool { return within(d.By, other) }) {
			continue
		}
		shares, order := map[string]*Differ{}, []string{}
		for side, some := range in {
			whole := 0.0
			for _, n := range some {
				whole += n.worth
			}
			for _, n := range some {
				for _, k := range r.of(n, other) {
					d := shares[k.key]
					if d == nil {
						d = &Differ{By: other, Key: k.key, Name: k.name}
						shares[k.key], order = d, append(order, k.key)
					}
					*[]*float64{&d.A, &d.B}[side] += n.worth / whole
				}
			}
		}
		var most *Differ
		for _, key := range order {
			if d := shares[key]; most == nil || d.apart() > most.apart() {
				most = d
			}
		}
		if most != nil && most.apart() >= farApart {
			found = append(found, *most)
		}
	}
	slices.SortStableFunc(found, func(a, b Differ) int { return cmp.Compare(b.apart(), a.apart()) })
	return found[:min(mostDiffer, len(found))]
}

func (d Differ) apart() float64 { return max(d.A-d.B, d.B-d.A) }
