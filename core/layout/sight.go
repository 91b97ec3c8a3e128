package layout

import (
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/schools"
)

// Sight is how well a set shows: its word, the share of animals passing that would see it, and what makes it show otherwise than a set of
// its pattern as that begins, on bare open ground. Judgements of the trade.
type Sight struct {
	Word  string    `json:"word"`
	Share float64   `json:"share"`
	By    []SightBy `json:"by"`
}

// What makes a set show more or less.
const (
	ByDugOut     SightBy = "dug_out"
	BySubtle     SightBy = "subtle"
	ByDarkOnSnow SightBy = "dark_on_snow"
	ByBareGrass  SightBy = "bare_on_grass"
	ByStirs      SightBy = "stirs"
	ByUnderSnow  SightBy = "under_snow"
	ByInGrass    SightBy = "in_grass"
	ByInCover    SightBy = "in_cover"
)

// SightBy is what makes a set show more or less.
type SightBy string

// SightBys lists them.
var SightBys = []SightBy{ByDugOut, BySubtle, ByDarkOnSnow, ByBareGrass, ByStirs, ByUnderSnow, ByInGrass, ByInCover}

// A set that lies blind in a way is not to be seen: an animal that passes there comes upon it.
const trailWord = "trail"

// sights are those of which a set can show more or less.
var sights = []Sight{{Word: "hidden", Share: .1}, {Word: "normal", Share: .4}, {Word: "bold", Share: .7}}

// What stirs, and what lies hidden, mm.
const (
	stirsMm    = 200.0
	lowGrassMm = 100.0 // hides nothing
)

// move is something that makes a set show by one more, or by one less.
type move struct {
	by SightBy
	up int
}

// sight is the pattern's word after all its moves, held within hidden and bold.
func (def PatternDef) sight(moves []move) Sight {
	if def.blind() {
		return Sight{Word: trailWord, By: []SightBy{}}
	}
	at, by := slices.IndexFunc(sights, func(s Sight) bool { return s.Word == def.Sight }), []SightBy{}
	for _, m := range moves {
		at, by = at+m.up, append(by, m.by)
	}
	found := sights[min(len(sights)-1, max(0, at))]
	found.By = by
	return found
}

// moves are those of the place.
func (def PatternDef) moves(at Site) []move {
	var found []move
	if at.InCover != nil && *at.InCover {
		found = append(found, move{ByInCover, -1})
	}
	switch {
	case !at.snowy() || def.Asks.Snow:
	case def.is(Show):
		found = append(found, move{ByDarkOnSnow, 1})
	default:
		found = append(found, move{ByUnderSnow, -1})
	}
	return found
}

// Sight is how well the set shows to an animal at a place. Its pattern has a word for it as it begins; what the place does, and digging it
// out or blending it in, what it stands against, what stirs over it and the grass that it lies in move that up or down by one each.
func (l Layout) Sight(a animal.Animal, at Site) Sight {
	def := patternOf(l.Pattern)
	return def.sight(append(def.moves(at), l.moves(l.begun(a))...))
}

// moves are those of what is otherwise at the set than its pattern begins.
func (l Layout) moves(begun Layout) []move {
	var found []move
	switch {
	case l.Show == begun.Show:
	case l.Show == "dug_out":
		found = append(found, move{ByDugOut, 1})
	default:
		found = append(found, move{BySubtle, -1})
	}
	if l.Show == "dug_out" && l.Lie.GrassMm != nil && *l.Lie.GrassMm > 0 {
		found = append(found, move{ByBareGrass, 1})
	}
	if l.stirs() && !begun.stirs() {
		found = append(found, move{ByStirs, 1})
	}
	if l.inGrass() {
		found = append(found, move{ByInGrass, -1})
	}
	return found
}

// stirs tells whether something moves in the wind over the set, high enough.
func (l Layout) stirs() bool {
	return slices.ContainsFunc(l.Attractors, func(a Attractor) bool { return !a.Fixed && a.HeightMm > stirsMm })
}

// inGrass tells whether the set lies in grass taller than all that stands there.
func (l Layout) inGrass() bool {
	high := lowGrassMm
	for _, a := range l.Attractors {
		high = max(high, a.HeightMm)
	}
	return l.Lie.GrassMm != nil && *l.Lie.GrassMm > high
}

var coyote = animal.Reference[0]

// begun is the set as its pattern begins for an animal; for one that no line is set for, as for a coyote.
func (l Layout) begun(a animal.Animal) Layout {
	if !a.Target {
		a = coyote
	}
	return patternOf(l.Pattern).Begin(Begin{Target: a, Schools: schools.Usual()})
}
