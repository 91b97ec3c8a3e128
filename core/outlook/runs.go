package outlook

import (
	"slices"

	"oldburrow/core/anchor"
	"oldburrow/core/layout"
)

// RunOf is how far the first of a set's drags runs in its cover, by the trade's habit and by what was found of the line's drags in such
// cover; nil without a drag, and where its cover is not said.
func (l Line) RunOf(set layout.Layout) (*anchor.Run, error) {
	for _, a := range set.Anchors {
		if !layout.Drags(a.Kind) || a.Cover == "" || a.Tied {
			continue
		}
		run, err := anchor.RunIn(a.Cover, l.foundIn(a.Cover))
		return &run, err
	}
	return nil, nil
}

// foundIn is how far off the traps were found that had run with a drag in a cover, m.
func (l Line) foundIn(cover layout.DragCover) []float64 {
	var far []float64
	for _, s := range l.Standing {
		if !slices.ContainsFunc(s.Make.Layout.Anchors, func(a layout.Anchor) bool { return a.Cover == cover }) {
			continue
		}
		for _, look := range s.Looks {
			if look.Search != nil && look.Search.FarM != nil {
				far = append(far, *look.Search.FarM)
			}
		}
	}
	return far
}
