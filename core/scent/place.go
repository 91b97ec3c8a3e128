package scent

import (
	"math"
	"sync"

	"oldburrow/core/refuse"
)

// Side is the best place for an attractor on one side of a way: where, how far off, which way the set faces, and which share
// of the hours its scent lies across the way.
type Side struct {
	Left      bool       `json:"left"` // of the way as it is drawn
	At        [2]float64 `json:"at"`
	OffM      float64    `json:"offM"`
	FacingDeg float64    `json:"facingDeg"` // from the attractor to the way, from north
	Record    float64    `json:"record"`
	Tonight   float64    `json:"tonight"`
}

// Search is what a place is looked for with: the way, a point on or near it, how far along it from there a place may lie,
// how far scent carries, and the plumes of the record and of tonight (none when there is no forecast).
type Search struct {
	Travel  [][2]float64
	Near    [2]float64
	AlongM  float64
	RangeM  float64
	Record  []Plume
	Tonight []Plume
}

// Offsets from the way's middle that are tried, metres, and how finely the way is gone along.
var offsets = []float64{1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 12, 15}

const (
	coarseM = 4.0
	fineM   = 1.0
)

// Best gives the best place on each side, by the record or, where there is none, by tonight. Among equals the one nearest to
// the point asked about, then nearest to the way, wins. It refuses a search without a way or without a wind.
func Best(s Search) ([]Side, error) {
	if len(s.Travel) < 2 {
		return nil, refuse.Field("travel", "must have at least two points, not %d", len(s.Travel))
	}
	if len(s.Record)+len(s.Tonight) == 0 {
		return nil, refuse.Field("wind", "is not known for any night hour")
	}
	pieces := Pieces(s.Travel)
	local := within(pieces, s.Near, s.AlongM+s.RangeM+offsets[len(offsets)-1])
	sides := make([]*Side, 2)
	var workers sync.WaitGroup
	for i, left := range []bool{true, false} {
		workers.Go(func() { sides[i] = s.side(local, left) })
	}
	workers.Wait()
	var found []Side
	for _, side := range sides {
		if side != nil {
			found = append(found, *side)
		}
	}
	if len(found) == 0 {
		return nil, refuse.Field("near", "is too far from the way: point at it")
	}
	return found, nil
}

// side looks first coarsely along the whole stretch, then finely about the best.
func (s Search) side(pieces [][2]float64, left bool) *Side {
	best := s.along(pieces, left, s.Near, s.AlongM, coarseM)
	if best == nil {
		return nil
	}
	if fine := s.along(pieces, left, foot(*best), coarseM, fineM); fine != nil && s.score(*fine) > s.score(*best) {
		best = fine
	}
	return best
}

// foot is the point of the way that a place stands off from.
func foot(s Side) [2]float64 {
	turn := s.FacingDeg * math.Pi / 180
	return [2]float64{s.At[0] + s.OffM*math.Sin(turn), s.At[1] + s.OffM*math.Cos(turn)}
}

func (s Search) score(x Side) float64 {
	if len(s.Record) > 0 {
		return x.Record + 1e-3*x.Tonight
	}
	return x.Tonight
}

// along tries places on one side, stepping along the way within some metres of a point.
func (s Search) along(pieces [][2]float64, left bool, near [2]float64, alongM, step float64) *Side {
	var best *Side
	bestScore, bestFar := -1.0, math.Inf(1)
	every := max(1, int(step))
	for i := 0; i < len(pieces); i += every {
		far := math.Hypot(pieces[i][0]-near[0], pieces[i][1]-near[1])
		if far > alongM {
			continue
		}
		dx, dy := direction(pieces, i)
		sign := -1.0
		if left {
			sign = 1
		}
		nx, ny := -dy*sign, dx*sign // to that side
		for _, off := range offsets {
			at := [2]float64{pieces[i][0] + nx*off, pieces[i][1] + ny*off}
			x := Side{Left: left, At: at, OffM: off, FacingDeg: math.Mod(math.Atan2(-nx, -ny)*180/math.Pi+360, 360)}
			x.Record, x.Tonight = share(at, pieces, s.RangeM, s.Record), share(at, pieces, s.RangeM, s.Tonight)
			if score := s.score(x); score > bestScore+1e-9 || score > bestScore-1e-9 && far+off < bestFar-1e-9 {
				best, bestScore, bestFar = &x, score, far+off
			}
		}
	}
	return best
}

func share(at [2]float64, pieces [][2]float64, rangeM float64, plumes []Plume) float64 {
	if len(plumes) == 0 {
		return 0
	}
	return Share(at, pieces, rangeM, plumes)
}

// direction is the way's direction at a piece, as a unit vector.
func direction(pieces [][2]float64, i int) (dx, dy float64) {
	a, b := pieces[max(0, i-1)], pieces[min(len(pieces)-1, i+1)]
	length := math.Hypot(b[0]-a[0], b[1]-a[1])
	if length == 0 {
		return 1, 0
	}
	return (b[0] - a[0]) / length, (b[1] - a[1]) / length
}

func within(pieces [][2]float64, near [2]float64, metres float64) [][2]float64 {
	var kept [][2]float64
	for _, p := range pieces {
		if math.Hypot(p[0]-near[0], p[1]-near[1]) <= metres {
			kept = append(kept, p)
		}
	}
	return kept
}
