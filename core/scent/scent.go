// Package scent computes where the smell of an attractor drifts: metres east and north on a local plane, wind in m/s and
// degrees that it comes from, hours of the local clock.
package scent

import (
	"fmt"
	"math"

	"oldburrow/core/refuse"
)

// Wind is the wind of one hour.
type Wind struct {
	FromDeg float64 `json:"fromDeg"`
	SpeedMs float64 `json:"speedMs"`
	Hour    int     `json:"hour"`
}

// Input is an attractor, the travel way past it, how far its scent carries, and the wind of some hours of which those from
// FromHour to ToHour count: over midnight when from is later than to, all when they are equal.
type Input struct {
	Attractor [2]float64   `json:"attractor"`
	Travel    [][2]float64 `json:"travel"`
	RangeM    float64      `json:"rangeM"`
	Wind      []Wind       `json:"wind"`
	FromHour  int          `json:"fromHour"`
	ToHour    int          `json:"toHour"`
}

// Output is the share of the hours whose plume meets the travel way.
type Output struct {
	Coverage float64 `json:"coverage"`
}

// Ranges is how far scent carries by class, metres.
var Ranges = map[string]float64{"urine": 8, "gland": 25, "food": 40, "bait": 40, "curiosity": 40, "musk": 40, "call": 200}

const (
	strongMs    = 8.0 // above this the plume is torn
	tornShare   = 0.6
	stillMs     = 0.5 // below this scent pools about the attractor
	poolShare   = 0.25
	halfAngle   = 20.0
	plumeEdgeM  = 1.0
	fewestMet   = 3 // pieces of about a metre
	mostPieces  = 200000
	longestWind = 24 * 400
)

// Coverage is the share of the hours in the window whose plume meets at least three pieces of the travel way, each leg cut
// in as many equal pieces as it has metres, taken at their middles. It refuses a way of fewer than two points, an hour
// outside 0–23, and a window without an hour.
func Coverage(in Input) (Output, error) {
	if err := in.check(); err != nil {
		return Output{}, err
	}
	pieces := Pieces(in.Travel)
	plumes := Plumes(in.Wind, in.FromHour, in.ToHour)
	if len(plumes) == 0 {
		return Output{}, refuse.Field("wind", "has no hour from %d to %d", in.FromHour, in.ToHour)
	}
	return Output{Coverage: Share(in.Attractor, pieces, in.RangeM, plumes)}, nil
}

func (in Input) check() error {
	var p refuse.Problems
	if len(in.Travel) < 2 {
		p.Add("travel", "must have at least two points, not %d", len(in.Travel))
	}
	length := 0.0
	for i, at := range in.Travel {
		if bad(at[0]) || bad(at[1]) {
			p.Add(fmt.Sprintf("travel[%d]", i), "must be two numbers of metres")
		}
		if i > 0 {
			length += math.Hypot(at[0]-in.Travel[i-1][0], at[1]-in.Travel[i-1][1])
		}
	}
	if length > mostPieces {
		p.Add("travel", "is too long: at most %d m", mostPieces)
	}
	if bad(in.Attractor[0]) || bad(in.Attractor[1]) {
		p.Add("attractor", "must be two numbers of metres")
	}
	p.Within("rangeM", in.RangeM, 0.1, 5000, " m")
	p.Within("fromHour", float64(in.FromHour), 0, 23, "")
	p.Within("toHour", float64(in.ToHour), 0, 23, "")
	if len(in.Wind) > longestWind {
		p.Add("wind", "is too long: at most %d hours", longestWind)
	}
	for i, w := range in.Wind {
		p.Within(fmt.Sprintf("wind[%d].fromDeg", i), w.FromDeg, 0, 360, "°")
		p.Within(fmt.Sprintf("wind[%d].speedMs", i), w.SpeedMs, 0, 100, " m/s")
		p.Within(fmt.Sprintf("wind[%d].hour", i), float64(w.Hour), 0, 23, "")
	}
	return p.Err()
}

func bad(v float64) bool { return math.IsNaN(v) || math.Abs(v) > 1e6 }

// Pieces cuts each leg of a way in pieces of at most a metre and gives their middles.
func Pieces(travel [][2]float64) [][2]float64 {
	var pieces [][2]float64
	for i := 1; i < len(travel); i++ {
		a, b := travel[i-1], travel[i]
		n := math.Ceil(math.Hypot(b[0]-a[0], b[1]-a[1]))
		for k := 0.0; k < n; k++ {
			t := (k + 0.5) / n
			pieces = append(pieces, [2]float64{a[0] + t*(b[0]-a[0]), a[1] + t*(b[1]-a[1])})
		}
	}
	return pieces
}

// Plume is how scent drifts in one hour: the direction it goes to, or pooling when the air is still.
type Plume struct {
	east, north float64
	reach       float64 // share of the range
	still       bool
}

// Plumes are those of the hours in a window.
func Plumes(wind []Wind, fromHour, toHour int) []Plume {
	var plumes []Plume
	for _, w := range wind {
		if !InWindow(w.Hour, fromHour, toHour) {
			continue
		}
		to := (w.FromDeg + 180) * math.Pi / 180
		p := Plume{east: math.Sin(to), north: math.Cos(to), reach: 1, still: w.SpeedMs < stillMs}
		if w.SpeedMs > strongMs {
			p.reach = tornShare
		}
		plumes = append(plumes, p)
	}
	return plumes
}

// InWindow tells whether an hour lies in a window that may run over midnight.
func InWindow(h, from, to int) bool {
	switch {
	case from > to:
		return h >= from || h < to
	case from < to:
		return h >= from && h < to
	}
	return true
}

// Share is the share of plumes that meet the way. Pieces out of reach of every plume are passed over before any is tried.
func Share(attractor [2]float64, pieces [][2]float64, rangeM float64, plumes []Plume) float64 {
	tan := math.Tan(halfAngle * math.Pi / 180)
	farthest := math.Hypot(rangeM, rangeM*tan+plumeEdgeM)
	near := make([][2]float64, 0, 256)
	for _, p := range pieces {
		dx, dy := p[0]-attractor[0], p[1]-attractor[1]
		if dx*dx+dy*dy <= farthest*farthest {
			near = append(near, [2]float64{dx, dy})
		}
	}
	if len(near) < fewestMet {
		return 0
	}
	met := 0
	for _, plume := range plumes {
		if plume.meets(near, rangeM, tan) {
			met++
		}
	}
	return float64(met) / float64(len(plumes))
}

func (p Plume) meets(near [][2]float64, rangeM, tan float64) bool {
	found, reach, pool := 0, rangeM*p.reach, rangeM*poolShare
	for _, at := range near {
		if p.still {
			if at[0]*at[0]+at[1]*at[1] > pool*pool {
				continue
			}
		} else {
			along := at[0]*p.east + at[1]*p.north
			if along <= 0 || along > reach || math.Abs(at[0]*p.north-at[1]*p.east) > along*tan+plumeEdgeM {
				continue
			}
		}
		if found++; found == fewestMet {
			return true
		}
	}
	return false
}
