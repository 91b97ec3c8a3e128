package demo

import (
	"fmt"
	"math/rand/v2"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/line"
)

// other is a set of the script beside the first dirt holes.
type other struct {
	spot, pattern, variant, target string
	built                          time.Time
	traps                          []int
	found                          map[string]line.Found
}

func others() []other {
	raccoon := line.Found{Finding: "robbed", Animal: "raccoon", By: "track"}
	day := func(m time.Month, day, hour int) time.Time { return at(m, day, hour, 20) }
	return []other{
		{"Ditch mouth", "pull_stick", "", "coyote", day(time.October, 25, 15), []int{33}, nil},
		{"Stack yard", "tuft", "", "red_fox", day(time.October, 26, 10), []int{48}, nil},
		{"Bale row", "trench", "", "red_fox", day(time.October, 27, 14), []int{49}, nil},
		{"Breaks trail junction", "trail_pair", "", "coyote", day(time.October, 28, 14), []int{34, 35}, map[string]line.Found{
			"2026-11-09": {Finding: "disturbed"}, "2026-11-30": {Finding: "stepped", Animal: "red_fox", By: "track"},
		}},
		{"Breaks trail junction", "object", "", "coyote", day(time.October, 28, 16), []int{36}, map[string]line.Found{"2026-11-18": {Finding: "rolled", Animal: "coyote", By: "hair"}}},
		{"Juniper edge", "old_scat", "", "bobcat", day(time.October, 29, 13), []int{37}, nil},
		{"West saddle", "hole_dug_out", "", "coyote", day(time.October, 31, 11), []int{38}, map[string]line.Found{"2026-11-25": {Finding: "dug", Animal: "coyote", By: "track"}}},
		{"Pit rim", "punch_holes", "", "coyote", day(time.November, 11, 14), []int{39}, nil},
		{"Bone flat", "skull", "", "coyote", day(time.November, 1, 13), []int{40}, nil},
		{"Bone flat", "tuft_pair", "", "coyote", day(time.November, 1, 15), []int{41}, map[string]line.Found{"2026-11-28": {Finding: "disturbed"}}},
		{"South culvert", "culvert_pair", "", "bobcat", day(time.November, 2, 12), []int{42, 43}, nil},
		// Robbed night after night, and rebuilt deeper with a second trap.
		{"South culvert", "hole_subtle", "", "grey_fox", day(time.November, 2, 15), []int{50}, map[string]line.Found{
			"2026-11-15": raccoon, "2026-11-16": raccoon, "2026-11-17": raccoon,
		}},
		{"Gate gap", "crawl_under", "", "red_fox", day(time.November, 3, 11), []int{52}, nil},
		{"Pond edge", "pipe", "", "coyote", day(time.November, 3, 14), []int{44}, nil},
		{"Foot of the breaks", "creek_pinch", "", "bobcat", day(time.November, 4, 13), []int{45, 46}, nil},
		{"Two-track bend", "trench", "", "coyote", day(time.November, 6, 14), []int{47}, map[string]line.Found{"2026-11-22": {Finding: "taken"}}},
		{"Gate gap", "three_stones", "", "red_fox", day(time.November, 7, 15), []int{53}, nil},
		{"Juniper edge", "trench", "", "grey_fox", day(time.November, 8, 12), []int{54}, nil},
		{"Bale row", "snow_post", "", "red_fox", day(time.November, 14, 15), []int{55}, nil},
	}
}

// rebuiltOn is when the robbed set at a spot was rebuilt, and with which traps.
var rebuiltOn = map[string]struct {
	day   string
	traps []int
}{"South culvert": {"2026-11-17", []int{50, 51}}}

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
	p := script{target: o.target, built: o.built, lastLook: Start(), found: o.found, rebuilt: map[string]layout.Layout{}}
	for _, spot := range m.season.Spots {
		if spot.Name == o.spot {
			p.spot = spot
		}
	}
	var err error
	if p.layout, err = made(o.pattern, o.variant, o.target, p.spot, o.traps...); err != nil {
		return p, err
	}
	if again, robbed := rebuiltOn[o.spot]; robbed && o.pattern == "hole_subtle" {
		p.rebuilt[again.day], err = made("robbed_rebuild", "", o.target, p.spot, again.traps...)
	}
	return p, err
}
