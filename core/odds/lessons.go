package odds

import (
	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/schools"
)

// Lesson is one thing that a trail set teaches, and how often a foot comes on a pan in a pass.
type Lesson struct {
	Key  string  `json:"key"`
	Step float64 `json:"step"`
}

// openWayMm is a way that nobody narrowed, about two feet.
const openWayMm = 610

// Lessons are what a trail set teaches of an animal, each with what was learnt before: one pan in an open way, a stick to step over,
// the way narrowed, and a second trap. A foot falls every step, not everywhere. It refuses an animal that no line is set for.
func Lessons(a animal.Animal, visits int) ([]Lesson, error) {
	set, err := layout.New("trail_pair", layout.Begin{Target: a, Schools: schools.Usual()})
	if err != nil {
		return nil, err
	}
	pair, narrow := set, *set.Way
	set.Rigs, set.Anchors, set.Guides, set.Way = set.Rigs[1:], set.Anchors[1:], nil, &layout.Way{WidthMm: openWayMm}
	var learnt []Lesson
	for _, step := range []struct {
		key    string
		change func()
	}{
		{"open", func() {}},
		{"stick", func() { set.Guides = pair.Guides }},
		{"narrow", func() { set.Way = &narrow }},
		{"pair", func() { set = pair }},
	} {
		step.change()
		ways, err := Comings(set, a, visits)
		if err != nil {
			return nil, err
		}
		feet, err := walk(Question{Target: a}, ways)
		if err != nil {
			return nil, err
		}
		learnt = append(learnt, Lesson{step.key, feet.Step})
	}
	return learnt, nil
}
