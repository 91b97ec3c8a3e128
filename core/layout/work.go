package layout

import "oldburrow/core/animal"

// Underfoot is how the ground is underfoot on the day that a set is made or looked at.
type Underfoot struct {
	Frozen bool `json:"frozen,omitempty"`
	Snow   bool `json:"snow,omitempty"`
}

// Frost that has to be chopped, and snow that has to be cleared: judgements of the trade.
const (
	frozenMm = 25.0
	snowyCm  = 3.0
)

// On is how the ground is under so much frost and snow; what is not known of them counts as none.
func On(frostMm, snowCm *float64) Underfoot {
	return Underfoot{Frozen: frostMm != nil && *frostMm >= frozenMm, Snow: snowCm != nil && *snowCm >= snowyCm}
}

// How much longer a set takes to build than in open ground, and how much shorter a remake in the same bed is. Habits of the trade.
const (
	frozenTakes = 3.0
	snowTakes   = 1.5
	bakedTakes  = 2.0
	remakeTakes = 1 / 3.0
)

// Minutes is about how long the set takes to build on such a day; ground that is baked hard is said by its lie.
func (l Layout) Minutes(on Underfoot) float64 {
	minutes := patternOf(l.Pattern).Minutes
	if on.Frozen {
		minutes *= frozenTakes
	} else if l.Lie.Baked != nil && *l.Lie.Baked {
		minutes *= bakedTakes
	}
	if on.Snow {
		minutes *= snowTakes
	}
	return minutes
}

// RemakeMinutes is about how long it takes to make the set again in the same bed.
func (l Layout) RemakeMinutes(on Underfoot) float64 { return l.Minutes(on) * remakeTakes }

// Sight is how well a set shows: its word, and the share of animals passing that would see it. Judgements of the trade.
type Sight struct {
	Word  string  `json:"word"`
	Share float64 `json:"share"`
}

var (
	hiddenSight = Sight{"hidden", .1}
	normalSight = Sight{"normal", .4}
	boldSight   = Sight{"bold", .7}
	trailSight  = Sight{"trail", 1} // an animal that passes need not see it
)

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

// Sight is how well the set shows to an animal on such a day, by its pattern.
func (l Layout) Sight(a animal.Animal, on Underfoot) Sight { return patternOf(l.Pattern).Sight(a, on) }
