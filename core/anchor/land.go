package anchor

import (
	"cmp"
	"math"
	"slices"

	"oldburrow/core/ground"
)

// Thing is something on the land: its kind, its name, and its points on the local plane, m, with the first again at the end of an area.
type Thing struct {
	Kind   string
	Name   string
	Points [][2]float64
}

// InLand is something on the land that a held animal reaches from an anchor, or one that runs with a drag: how far it lies, m, in which
// direction, from north, and within what: reach, the middle run, the far run, or sight.
type InLand struct {
	Kind      string  `json:"kind"`
	Name      string  `json:"name"`
	M         float64 `json:"m"`
	TowardDeg float64 `json:"towardDeg"`
	Within    string  `json:"within"`
}

// Within what something lies.
const (
	InReach = "reach"
	InRun   = "run"
	InFar   = "far"
	InSight = "seen" // of where people see it from
)

// seenM is from how far a held animal is seen over open ground, m. A judgement.
const seenM = 200.0

// What a fixed animal must not reach, and what one on a drag must not run to. Open ground is what no cover was drawn on.
var (
	reached = []string{"fence", "road", "public_road", "two_track", "stream", "breaks", "pond", "culvert", "bridge", "lone_tree", "peoples_trail", "deep_water", "steep_bank", "machinery_lane", "livestock", "dwelling", "others_set"}
	runTo   = []string{"boundary", "road", "public_road", "stream", "pond", "deep_water", "livestock", "dwelling", "peoples_trail"}
)

// Land is what lies in reach of a set at a place, m on the plane, whose anchors reach so far, mm, and in the way of its drags, the nearest
// first.
func Land(at [2]float64, reachMm float64, run *Run, things []Thing) []InLand {
	found := []InLand{}
	for _, t := range things {
		if len(t.Points) == 0 {
			continue
		}
		to := ground.Nearest(at, t.Points)
		m := ground.Apart(at, to)
		one := InLand{Kind: t.Kind, Name: t.Name, M: m, TowardDeg: math.Mod(math.Atan2(to[0]-at[0], to[1]-at[1])*180/math.Pi+360, 360)}
		switch {
		case t.Kind == "seen_from" && m <= seenM:
			one.Within = InSight
		case slices.Contains(reached, t.Kind) && m*kilo <= reachMm:
			one.Within = InReach
		case run != nil && slices.Contains(runTo, t.Kind) && m <= run.MedianM:
			one.Within = InRun
		case run != nil && slices.Contains(runTo, t.Kind) && m <= run.FarM:
			one.Within = InFar
		default:
			continue
		}
		found = append(found, one)
	}
	slices.SortFunc(found, func(a, b InLand) int { return cmp.Compare(a.M, b.M) })
	return found
}

// Neighbour is another set near by: how far it stands, m, nil where neither has a place of its own at one spot; and whether two held
// animals could reach each other.
type Neighbour struct {
	Number int      `json:"number"`
	M      *float64 `json:"m" jsonschema:"nullable"`
	Meets  bool     `json:"meets"`
}
