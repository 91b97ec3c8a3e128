package demo

import (
	"fmt"
	"slices"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/schools"
)

// kind finds an animal of the script.
func kind(key string) animal.Animal {
	a, err := animal.Reference.ByKey(key)
	if err != nil {
		panic(err) // the script names none other
	}
	return a
}

// sizes are what the line's trapper sets for each animal: how far back, with which jaws, how hard the pan, mm and N.
var sizes = map[string]struct{ setback, jaws, gauge float64 }{
	"coyote": {235, 139.7, 17.792}, "bobcat": {203, 139.7, 13.344}, "red_fox": {152, 120.65, 8.896}, "grey_fox": {146, 120.65, 8.896},
}

// dirtHole is a set as the line's trapper makes it: a hole under a stone, two stones and a clod about the trap, an earth anchor.
func dirtHole(target string) layout.Layout {
	size, firm := sizes[target], true
	aside := float64(int(size.jaws/2+.5)) + 45
	return layout.Layout{
		Schema: layout.Schema, Kind: "dirt_hole", Pattern: "hole", Show: "dug_out", Backing: "stone",
		Attractors: []layout.Attractor{{Kind: "hole", Hole: &layout.Hole{DiameterMm: 63.5, DepthMm: 203.2, AngleDeg: 60}, Plug: "wool", Smells: smells(target)}},
		Rigs: []layout.Rig{{
			Device: "jaws", YMm: size.setback,
			Jaws: &layout.Jaws{SpreadMm: size.jaws, FrameMm: size.jaws + 30, HeightMm: 40},
			Pan:  &layout.Pan{YMm: size.setback, DiameterMm: 60, GaugeN: size.gauge},
			Bed:  layout.Bed{MarginMm: 10, BaseMm: 12, Firm: &firm}, Cover: []layout.Layer{{Material: "waxed_soil", ThicknessMm: 6.35}},
			ChainMm: 457.2,
		}},
		Anchors: []layout.Anchor{{Kind: "cable", LengthMm: 457.2, YMm: size.setback}},
		Guides: []layout.Guide{
			{Kind: "stone", XMm: -aside, YMm: size.setback, RMm: 32},
			{Kind: "stone", XMm: aside, YMm: size.setback, RMm: 32},
			{Kind: "clod", YMm: size.setback + aside, RMm: 20},
		},
	}
}

// smells is what a set for a target takes from the shelf.
func smells(target string) []layout.Smell {
	lure, urine := "Old Fence", "coyote urine"
	switch target {
	case "red_fox", "grey_fox":
		urine = "fox urine"
	case "bobcat":
		lure = "Tin Cup"
	}
	return []layout.Smell{
		{Kind: "bait", Name: "Kettle bait", LureID: lureID("Kettle bait"), Place: "bottom"},
		{Kind: "lure", Name: lure, LureID: lureID(lure), Place: "lip"},
		{Kind: "urine", Name: urine, LureID: lureID(urine), Place: "backing"},
	}
}

// rackTrap puts a trap from the rack into a rig, under its number.
func rackTrap(number int, rig *layout.Rig) {
	for _, r := range rails() {
		if slices.Contains(r.numbers, number) {
			t := line.NewTrap()
			r.of(&t)
			rig.TrapID, rig.Name = trapID(number), fmt.Sprintf("trap %d", number)
			rig.Jaws.FrameMm, rig.Jaws.HeightMm = t.FrameLengthMm, t.SetHeightMm
		}
	}
}

// made is a set of a pattern as the trade begins it at a spot, with traps from the rack and smells from the shelf.
func made(pattern, variant, target string, spot line.Spot, traps ...int) (layout.Layout, error) {
	l, err := layout.New(pattern, layout.Begin{
		Target: kind(target), Schools: schools.Usual(), Variant: variant,
		Spot: layout.Spot{Soil: spot.Soil, Wetness: spot.Wetness, Shy: spot.Shy},
	})
	if err != nil {
		return l, err
	}
	if len(l.Rigs) != len(traps) {
		return l, fmt.Errorf("%s has %d traps, not %d", pattern, len(l.Rigs), len(traps))
	}
	for i := range l.Rigs {
		rackTrap(traps[i], &l.Rigs[i])
	}
	for i := range l.Attractors {
		for k := range l.Attractors[i].Smells {
			smell := &l.Attractors[i].Smells[k]
			smell.Name = bottleFor(smell.Kind, target)
			smell.LureID = lureID(smell.Name)
		}
	}
	return l, nil
}

// bottleFor is what the line's trapper takes from the shelf where a pattern asks for a kind of smell.
func bottleFor(kind layout.SmellKind, target string) string {
	switch kind {
	case layout.Bait:
		return "Kettle bait"
	case layout.Curiosity:
		return "Tin Cup"
	case layout.Musk:
		return "Creek musk"
	case layout.Urine:
		return smells(target)[2].Name
	}
	return smells(target)[1].Name
}
