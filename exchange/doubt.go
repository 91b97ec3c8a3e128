package exchange

import (
	"fmt"

	"oldburrow/core/ground"
	"oldburrow/core/line"
)

// Reasons why the places of a thing are asked about before they are taken.
const (
	DoubtFar       = "far"       // far from the line
	DoubtNought    = "nought"    // at 0, 0, as a receiver without a fix says
	DoubtExchanged = "exchanged" // far from the line, and near it with latitude and longitude exchanged
	DoubtReference = "reference" // the file names another reference system than WGS 84
)

// farM is how far from the middle of a line its things lie at the most, as long as nobody says so.
const farM = 50_000.0

// Doubt gives every thing of which it is asked whether it lies where it says: why, and how that reads.
func (r *Report) Doubt(l line.Line) {
	for i := range r.Things {
		r.Things[i].doubt(l)
	}
}

// IsSure tells whether a thing may be taken: nothing is doubtful of its places, or somebody has said that they are right. Else it says
// in the thing what is.
func (t *Thing) IsSure(l line.Line) bool {
	t.doubt(l)
	return t.Sure || t.Doubt == ""
}

func (t *Thing) doubt(l line.Line) {
	if t.Doubt == DoubtReference {
		return // that was said by the file
	}
	t.Doubt, t.Says = "", ""
	middle := ground.Fix{LatDeg: l.LatDeg, LonDeg: l.LonDeg}
	off := 0.0
	for _, p := range t.At {
		off = max(off, ground.Metres(middle, ground.Fix{LatDeg: p[1], LonDeg: p[0]}))
		if p == [2]float64{} {
			t.Doubt, t.Says = DoubtNought, "lies at 0, 0, in the ocean: a receiver without a fix says so"
			return
		}
	}
	if off <= farM {
		return
	}
	t.Doubt, t.Says = DoubtFar, fmt.Sprintf("lies %s from the middle of the line", inKm(off))
	exchanged := 0.0
	for _, p := range t.At {
		if !onGlobe(p[1], p[0]) {
			return
		}
		exchanged = max(exchanged, ground.Metres(middle, ground.Fix{LatDeg: p[0], LonDeg: p[1]}))
	}
	if exchanged <= farM {
		t.Doubt = DoubtExchanged
		t.Says += fmt.Sprintf("; with latitude and longitude exchanged, %s", inKm(exchanged))
	}
}

func inKm(m float64) string {
	if m < 10_000 {
		return fmt.Sprintf("%.1f km", m/1000)
	}
	return fmt.Sprintf("%.0f km", m/1000)
}
