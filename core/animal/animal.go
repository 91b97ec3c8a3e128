// Package animal holds the reference animals: masses in kg, lengths in mm, shares of body weight. Masses, pads and gaits are
// middling values of the ranges in mammal field guides; reach is 0.39 times the shoulder height, which gives back the
// setbacks that the trade uses, and it spreads by 0.10 of that height, since good trappers catch coyotes with pans from 6 to 10 in;
// what one begins with for an animal is the trade's habit; work, roam, mark and what it is like are judgements.
package animal

import (
	"fmt"
	"slices"

	"oldburrow/core/refuse"
)

// Spread is a normal distribution: mean and standard deviation in the unit of what it describes.
type Spread struct{ Mean, SD float64 }

// Habit is what the trade begins with for an animal: how far the pan lies from what it smells, how wide the jaws, at what the pan is set, N;
// and how wide a cable's loop is, and how high above the ground.
type Habit struct{ SetbackMm, JawsMm, PanN, LoopMm, LoopHighMm float64 }

// Rest is when an animal hardly leaves where it lies up.
type Rest string

// The ways to lie up.
const (
	NoRest    Rest = ""
	InCold    Rest = "cold"      // in a cold week
	Midwinter Rest = "midwinter" // by the calendar
)

// Nature is what an animal is like at a set, against every other.
type Nature struct {
	Wary     bool    // distrusts a new set, and what stands high beside a pan
	Crowded  bool    // is steered hard by guides, from both sides
	Fox      bool    // is anchored aside, and set for as a fox is
	Steer    float64 // how it keeps to ways
	Nose     float64 // of the scent that lies across its way, the share that it goes by
	Bent     float64 // how readily it commits to what it has noticed, a log of odds
	BentFed  float64 // likewise where there is food
	Unlooked float64 // how often a night it passes a set where nobody looked for its sign; 0 where that cannot be told without
	Rests    Rest
	Pet      bool // it belongs to somebody
}

// Mischief is what an animal does at a set that it noticed and does not commit to: the chances that it digs there, takes the food that lies
// there, or rolls on it. Judgements.
type Mischief struct{ Digs, Robs, Rolls float64 }

// Animal is one kind of adult animal as it behaves at a set.
type Animal struct {
	Key        string
	Name       string
	MassKg     Spread
	PadLength  float64 // forepad, mm
	PadWidth   float64 // forepad, mm
	ShoulderMm float64
	Reach      Spread  // forefoot to nose with the nose on a ground target, mm
	Half       Spread  // half the distance between the forefeet standing, mm
	Step       Spread  // along the trail from one forefoot print to the next, other side, mm
	Track      Spread  // half the distance across between left and right prints walking, mm
	Work       float64 // mean re-placings of a forefoot at an attractor
	Roam       float64 // mean stray prints about it
	Fore       float64 // mean share of body weight on the deciding forefoot
	MarkChance float64 // chance to turn and mark a post
	Mark       Spread  // distance of the hind foot from the post when it marks, mm
	Recess     float64 // share of the way a foot is drawn to a pan that lies low
	Target     bool    // what the line is set for; the others come to the same sets
	Habit      Habit   // of a target
	Nature
	Mischief
}

// ShareSD is the standard deviation of the share of body weight on a foot, for every animal.
const ShareSD = 0.15

// SmallestShare is the part of the mean mass below which no adult is drawn.
const SmallestShare = 0.3

// PadRadiusMm is the radius of a circle as large as the forepad.
func (a Animal) PadRadiusMm() float64 { return (a.PadLength + a.PadWidth) / 4 }

// Animals are those that a line knows. They are read once, and passed to whatever computes with them.
type Animals []Animal

const (
	inch  = 25.4
	pound = 4.448
)

// Reference lists the animals that every line knows, targets first, in the order the trade names them.
var Reference = Animals{
	{"coyote", "coyote", Spread{13.5, 2.5}, 65, 55, 580, Spread{226, 58}, Spread{72, 16}, Spread{380, 40}, Spread{50, 14}, 2, 0.5, .45, .5, Spread{280, 50}, .15, true,
		Habit{235, 5.5 * inch, 4 * pound, 255, 75}, Nature{Wary: true, Steer: .8, Nose: 1, Bent: .2, BentFed: .2}, Mischief{Digs: .04, Rolls: .03}},
	{"red_fox", "red fox", Spread{4.8, 0.8}, 57, 48, 380, Spread{148, 38}, Spread{50, 12}, Spread{330, 35}, Spread{40, 12}, 6, 2, .45, .6, Spread{200, 40}, .3, true,
		Habit{152, 4.75 * inch, 2 * pound, 180, 50}, Nature{Fox: true, Steer: .9, Nose: 1, Bent: 1.2, BentFed: 1.2}, Mischief{Digs: .1, Robs: .05}},
	{"grey_fox", "grey fox", Spread{4.2, 0.7}, 42, 36, 350, Spread{137, 35}, Spread{46, 11}, Spread{280, 30}, Spread{40, 12}, 5, 1.5, .45, .4, Spread{190, 40}, .05, true,
		Habit{146, 4.75 * inch, 2 * pound, 170, 50}, Nature{Fox: true, Steer: 1.1, Nose: 1, Bent: 1.3, BentFed: 1.3}, Mischief{Digs: .1, Robs: .05}},
	{"bobcat", "bobcat", Spread{9.5, 2.5}, 50, 51, 500, Spread{195, 50}, Spread{62, 14}, Spread{330, 35}, Spread{55, 14}, 3, 1, .45, .2, Spread{250, 50}, .2, true,
		Habit{203, 5.5 * inch, 3 * pound, 205, 60}, Nature{Crowded: true, Steer: 1.4, Nose: .5, Bent: .8, BentFed: .8}, Mischief{}}, // it hunts by eye
	{"raccoon", "raccoon", Spread{7, 2}, 65, 60, 250, Spread{98, 25}, Spread{60, 15}, Spread{260, 30}, Spread{60, 15}, 6, 6, .40, 0, Spread{}, .05, false,
		Habit{}, Nature{Steer: 1, Nose: 1, Bent: bentBare, BentFed: bentFed, Unlooked: .05, Rests: InCold}, Mischief{Digs: .25, Robs: .4}},
	{"skunk", "striped skunk", Spread{2.5, 0.8}, 30, 25, 150, Spread{59, 15}, Spread{35, 9}, Spread{130, 20}, Spread{35, 9}, 6, 6, .40, 0, Spread{}, .05, false,
		Habit{}, Nature{Steer: 1, Nose: 1, Bent: bentBare, BentFed: bentFed, Unlooked: .04, Rests: Midwinter}, Mischief{Digs: .25, Robs: .3}},
	{"opossum", "opossum", Spread{2.8, 0.9}, 40, 45, 170, Spread{66, 17}, Spread{40, 10}, Spread{150, 20}, Spread{40, 10}, 6, 5, .40, 0, Spread{}, .05, false,
		Habit{}, Nature{Steer: 1, Nose: 1, Bent: bentBare, BentFed: bentFed, Unlooked: .03, Rests: Midwinter}, Mischief{Robs: .3}},
	{"badger", "badger", Spread{8, 2}, 65, 60, 230, Spread{90, 23}, Spread{65, 15}, Spread{200, 25}, Spread{70, 15}, 6, 4, .40, 0, Spread{}, .05, false,
		Habit{}, Nature{Steer: 1, Nose: 1, Bent: .6, BentFed: .6, Unlooked: .01}, Mischief{Digs: .25}},
	{"dog", "dog", Spread{22, 8}, 75, 65, 560, Spread{218, 56}, Spread{80, 20}, Spread{400, 60}, Spread{60, 18}, 3, 2, .45, .4, Spread{270, 60}, .05, false,
		Habit{}, Nature{Steer: 1, Nose: 1, Bent: 1, BentFed: 1, Unlooked: .02, Pet: true}, Mischief{Rolls: .05}},
	{"cat", "house cat", Spread{4.2, 0.9}, 32, 32, 250, Spread{98, 25}, Spread{40, 10}, Spread{200, 25}, Spread{35, 10}, 3, 2, .45, 0, Spread{}, .05, false,
		Habit{}, Nature{Steer: 1, Nose: 1, Bent: .6, BentFed: .6, Unlooked: .03, Pet: true}, Mischief{}},
}

// What eats at sets commits by whether there is food.
const (
	bentBare = .4
	bentFed  = 1.4
)

// Keys lists the keys of all animals.
func (all Animals) Keys() []string { return all.keys(func(Animal) bool { return true }) }

// TargetKeys lists the keys of the animals that the line is set for.
func (all Animals) TargetKeys() []string { return all.keys(func(a Animal) bool { return a.Target }) }

// PetKeys lists the keys of the animals that belong to somebody.
func (all Animals) PetKeys() []string { return all.keys(func(a Animal) bool { return a.Pet }) }

func (all Animals) keys(want func(Animal) bool) []string {
	var found []string
	for _, a := range all {
		if want(a) {
			found = append(found, a.Key)
		}
	}
	return found
}

// ByKey finds an animal, or refuses the field "species" by name. What computes takes an animal; keys are for records, and for what
// comes in and goes out.
func (all Animals) ByKey(key string) (Animal, error) {
	var p refuse.Problems
	found := all.Named(&p, "species", key)
	return found, p.Err()
}

// Named finds an animal, or notes a problem with the field that named it.
func (all Animals) Named(p *refuse.Problems, field, key string) Animal {
	i := slices.IndexFunc(all, func(a Animal) bool { return a.Key == key })
	if i < 0 {
		refuse.OneOf(p, field, key, all.Keys())
		return Animal{}
	}
	return all[i]
}

// Listed finds several animals, or notes a problem with each place of the field that names none.
func (all Animals) Listed(p *refuse.Problems, field string, keys []string) []Animal {
	found := make([]Animal, len(keys))
	for i, key := range keys {
		found[i] = all.Named(p, fmt.Sprintf("%s[%d]", field, i), key)
	}
	return found
}
