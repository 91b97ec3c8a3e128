package demo

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/line"
)

// other is a set of the script beside the first dirt holes.
type other struct {
	spot, pattern, variant, target string
	built                          time.Time
	traps                          []int
}

func others() []other {
	day := func(m time.Month, day, hour int) time.Time { return at(m, day, hour, 20) }
	return []other{
		{"Ditch mouth", "pull_stick", "", "coyote", day(time.October, 25, 15), []int{33}},
		{"Stack yard", "tuft", "", "red_fox", day(time.October, 26, 10), []int{48}},
		{"Bale row", "trench", "", "red_fox", day(time.October, 27, 14), []int{49}},
		{"Breaks trail junction", "trail_pair", "", "coyote", day(time.November, 5, 14), []int{34, 35}},
		{"Breaks trail junction", "object", "", "coyote", day(time.October, 28, 16), []int{36}},
		{"Juniper edge", "old_scat", "", "bobcat", day(time.October, 29, 13), []int{37}},
		{"West saddle", "hole_dug_out", "", "coyote", day(time.October, 31, 11), []int{38}},
		{"Pit rim", "punch_holes", "", "coyote", day(time.November, 11, 14), []int{39}},
		{"Bone flat", "skull", "", "coyote", day(time.November, 1, 13), []int{9}},
		{"Bone flat", "tuft_pair", "", "coyote", day(time.November, 1, 15), []int{41}},
		{"South culvert", "culvert_pair", "", "bobcat", day(time.November, 2, 12), []int{42, 43}},
		{"South culvert", "hole_subtle", "", "grey_fox", day(time.November, 2, 15), []int{50}},
		{"Gate gap", "crawl_under", "", "red_fox", day(time.November, 3, 11), []int{52}},
		{"Pond edge", "pipe", "", "coyote", day(time.November, 3, 14), []int{44}},
		{"Foot of the breaks", "creek_pinch", "", "bobcat", day(time.November, 8, 13), []int{45, 46}},
		{"Two-track bend", "trench", "", "coyote", day(time.November, 6, 14), []int{47}},
		{"Gate gap", "three_stones", "", "red_fox", day(time.November, 7, 15), []int{53}},
		{"Juniper edge", "trench", "", "grey_fox", day(time.November, 8, 12), []int{54}},
		{"Bale row", "snow_post", "", "red_fox", day(time.November, 14, 15), []int{55}},
	}
}

// again is on which day a set of the script was rebuilt, as what and with which traps.
type again struct {
	day, pattern string
	traps        []int
}

// rebuilt is that by spot and pattern. The trap that stayed silent was swapped, and read at the gauge that afternoon; the hole that was robbed night
// after night was dug deeper, with a second trap.
var rebuilt = map[string]again{
	silent: {"2026-11-14", "skull", []int{40}},
	robbed: {"2026-11-17", "robbed_rebuild", []int{50, 51}},
}

// The sets of the two stories, and the one that the last night locked.
const (
	silent = "Bone flat, skull"
	robbed = "South culvert, hole_subtle"
	locked = "Gate gap, hole"
)

// fouled is the trap that stayed silent.
const fouled = 9

// spares are the traps that stand in for one that was stolen, by how far their jaws spread, mm.
var spares = map[float64][]int{139.7: {8, 1, 6, 4, 2}, 120.65: {25, 21, 10, 14, 23}}

// anotherTrap is a set with a spare in place of its first trap.
func (m *maker) anotherTrap(l layout.Layout) (layout.Layout, error) {
	l = l.Clone()
	rig := &l.Rigs[0]
	for _, number := range spares[rig.Jaws.SpreadMm] {
		if !slices.ContainsFunc(m.season.Makes, func(x line.Make) bool {
			return slices.ContainsFunc(x.Layout.Rigs, func(r layout.Rig) bool { return r.TrapID == trapID(number) })
		}) {
			rackTrap(number, rig)
			return l, nil
		}
	}
	return l, fmt.Errorf("no spare is left for trap %s", rig.Name)
}

// others builds the sets beside the first dirt holes. They are drawn from a source of their own, so that the others stay what they are.
func (m *maker) others() error {
	m.rng = rand.New(rand.NewPCG(2026, 24))
	for i, o := range others() {
		p, err := m.planned(o)
		if err != nil {
			return fmt.Errorf("%s, %s: %w", o.spot, o.pattern, err)
		}
		p.before = i + 5
		if err := m.set(p); err != nil {
			return fmt.Errorf("%s, %s: %w", o.spot, o.pattern, err)
		}
	}
	return nil
}

func (m *maker) planned(o other) (script, error) {
	p := script{target: o.target, built: o.built, lastLook: Start(), rebuilt: map[string]layout.Layout{}}
	for _, spot := range m.season.Spots {
		if spot.Name == o.spot {
			p.spot = spot
		}
	}
	var err error
	if p.layout, err = made(o.pattern, o.variant, o.target, p.spot, o.traps...); err != nil {
		return p, err
	}
	p.fouled, p.robber = p.key() == silent, p.key() == robbed
	if again, is := rebuilt[p.key()]; is {
		p.rebuilt[again.day], err = made(again.pattern, "", o.target, p.spot, again.traps...)
	}
	return p, err
}
