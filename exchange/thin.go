package exchange

import (
	"fmt"
	"slices"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/simplify"

	"oldburrow/core/ground"
)

const (
	mostOnALine = 5000 // points, as a line keeps them
	thinM       = 2.0  // off a line that is thinned, at the least
	atOnce      = 1000 // points are thinned at a time: a whole track of a season would take hours
)

// thin leaves out points of a long line or ring that lie on it all the same: none that is left out lies farther off than is said.
func (r *Report) thin(t *Thing) {
	if len(t.At) <= mostOnALine {
		return
	}
	had, within := len(t.At), thinM
	for t.At = thinned(t.At, within); len(t.At) > mostOnALine; t.At = thinned(t.At, within) {
		within *= 2
	}
	name := t.Name
	if name == "" {
		name = t.Form
	}
	r.Said = append(r.Said, fmt.Sprintf("%s had %d points and keeps %d: none that was left out lies more than %g m off", name, had, len(t.At), within))
}

func thinned(at [][2]float64, within float64) [][2]float64 {
	plane := ground.PlaneAbout(ground.Fix{LatDeg: at[0][1], LonDeg: at[0][0]})
	var kept [][2]float64
	for piece := range slices.Chunk(at, atOnce) {
		flat := make(orb.LineString, len(piece))
		of := map[orb.Point][2]float64{}
		for i, p := range piece {
			flat[i] = plane.At(ground.Fix{LatDeg: p[1], LonDeg: p[0]})
			of[flat[i]] = p
		}
		for _, p := range simplify.DouglasPeucker(within).LineString(flat) {
			kept = append(kept, of[p])
		}
	}
	return kept
}
