package layout

import (
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/schools"
)

// Sight is how well a set shows: its word, the share of animals passing that would see it, and what makes it show otherwise than a set of
// its pattern as that begins, on bare ground. Judgements of the trade.
type Sight struct {
	Word  string   `json:"word"`
	Share float64  `json:"share"`
	By    []string `json:"by"`
}

// What makes a set show more or less.
const (
	ByDugOut     = "dug_out"
	BySubtle     = "subtle"
	ByDarkOnSnow = "dark_on_snow"
	ByBareGrass  = "bare_on_grass"
	ByStirs      = "stirs"
	ByUnderSnow  = "under_snow"
	ByInGrass    = "in_grass"
)

// SightBys lists them.
func SightBys() []string {
	return []string{ByDugOut, BySubtle, ByDarkOnSnow, ByBareGrass, ByStirs, ByUnderSnow, ByInGrass}
}

var (
	hiddenSight = Sight{Word: "hidden", Share: .1}
	normalSight = Sight{Word: "normal", Share: .4}
	boldSight   = Sight{Word: "bold", Share: .7}
	trailSight  = Sight{Word: "trail", Share: 1} // an animal that passes need not see it
)

// sights are those of which a set can show more or less.
var sights = []Sight{hiddenSight, normalSight, boldSight}

func hidden(animal.Animal, Underfoot) Sight  { return hiddenSight }
func normal(animal.Animal, Underfoot) Sight  { return normalSight }
func bold(animal.Animal, Underfoot) Sight    { return boldSight }
func onTrail(animal.Animal, Underfoot) Sight { return trailSight }

// onSnow shows otherwise on snow than on bare ground.
func onSnow(bare, snow func(animal.Animal, Underfoot) Sight) func(animal.Animal, Underfoot) Sight {
	return func(a animal.Animal, on Underfoot) Sight {
		if on.Snow {
			return snow(a, on)
		}
		return bare(a, on)
	}
}

// toCats shows otherwise to an animal that hunts by eye.
func toCats(others, cats func(animal.Animal, Underfoot) Sight) func(animal.Animal, Underfoot) Sight {
	return func(a animal.Animal, on Underfoot) Sight {
		if a.Key == "bobcat" {
			return cats(a, on)
		}
		return others(a, on)
	}
}

// What stirs and what lies hidden, mm.
const (
	stirsMm    = 200.0
	snowMm     = snowyCm * 10
	lowGrassMm = 100.0 // hides nothing
)

// Sight is how well the set shows to an animal on such a day. Its pattern has a word for it as it begins; digging it out or blending it
// in, what it stands against, what stirs over it and what it lies under move that up or down by one each.
func (l Layout) Sight(a animal.Animal, on Underfoot) Sight {
	found := patternOf(l.Pattern).Sight(a, on)
	at := slices.IndexFunc(sights, func(s Sight) bool { return s.Word == found.Word })
	if at < 0 {
		found.By = []string{}
		return found
	}
	begun := l.begun(a)
	was := begun.standsOut(Underfoot{})
	by := []string{}
	switch {
	case l.Show == begun.Show:
	case l.Show == "dug_out":
		by, at = append(by, ByDugOut), at+1
	default:
		by, at = append(by, BySubtle), at-1
	}
	more := slices.DeleteFunc(l.standsOut(on), func(key string) bool { return slices.Contains(was, key) })
	if len(more) > 0 {
		by, at = append(by, more...), at+1
	}
	if under := l.under(on); under != "" {
		by, at = append(by, under), at-1
	}
	found = sights[min(len(sights)-1, max(0, at))]
	found.By = by
	return found
}

// begun is the set as its pattern begins for an animal; for one that no line is set for, as for a coyote.
func (l Layout) begun(a animal.Animal) Layout {
	if _, ok := habits[a.Key]; !ok {
		a, _ = animal.ByKey("coyote")
	}
	return patternOf(l.Pattern).Begin(Begin{Target: a, Schools: schools.Usual()})
}

// standsOut is what draws the eye to a set: soil that was thrown out on snow or grass, and what stirs high enough.
func (l Layout) standsOut(on Underfoot) []string {
	var by []string
	if l.Show == "dug_out" && on.Snow {
		by = append(by, ByDarkOnSnow)
	} else if l.Show == "dug_out" && l.Lie.GrassMm != nil && *l.Lie.GrassMm > 0 {
		by = append(by, ByBareGrass)
	}
	if slices.ContainsFunc(l.Attractors, func(a Attractor) bool { return !a.Fixed && a.HeightMm > stirsMm }) {
		by = append(by, ByStirs)
	}
	return by
}

// under is what hides a set: snow over what is blended in, or grass taller than all that stands there; blank where nothing does.
func (l Layout) under(on Underfoot) string {
	high := 0.0
	for _, a := range l.Attractors {
		high = max(high, a.HeightMm)
	}
	switch {
	case on.Snow && l.Show != "dug_out" && high < snowMm:
		return ByUnderSnow
	case l.Lie.GrassMm != nil && *l.Lie.GrassMm > max(high, lowGrassMm):
		return ByInGrass
	}
	return ""
}
