// Package hole computes what a dirt hole shows: lengths in mm, angles in degrees. The geometry is a line of sight from the
// eye over the near lip to the bottom of a slanting cylinder.
package hole

import (
	"math"

	"oldburrow/core/animal"
	"oldburrow/core/refuse"
)

// Input describes a hole. The angle is below horizontal.
type Input struct {
	HoleDiameterMm float64 `json:"holeDiameterMm"`
	HoleDepthMm    float64 `json:"holeDepthMm"`
	HoleAngleDeg   float64 `json:"holeAngleDeg"`
}

// Output is how far the forefeet stand from the mouth, mm, when the bottom first comes in sight: standing and crouched.
type Output struct {
	StandingMm float64 `json:"standingMm"`
	CrouchedMm float64 `json:"crouchedMm"`
}

const (
	flattestSightDeg = 3.0  // no animal looks along the ground flatter than this
	standingEye      = 0.75 // eye height as a share of the shoulder
	crouchedEye      = 0.35
	feetBehindEye    = 0.30 // forefeet behind the eye, as a share of the shoulder
)

// Standoff tells from how far the bottom of the hole can be seen. Smaller is better: the animal must come round and close.
// It refuses a hole that has no size or does not slant between 0 (excluded) and 90 degrees.
func Standoff(a animal.Animal, in Input) (Output, error) {
	var p refuse.Problems
	p.Within("holeDiameterMm", in.HoleDiameterMm, 1, 1000, " mm")
	p.Within("holeDepthMm", in.HoleDepthMm, 1, 2000, " mm")
	if !(in.HoleAngleDeg > 0 && in.HoleAngleDeg <= 90) {
		p.Add("holeAngleDeg", "must be above 0 and at most 90 degrees below horizontal, not %g", in.HoleAngleDeg)
	}
	if err := p.Err(); err != nil {
		return Output{}, err
	}
	across := math.Atan(in.HoleDiameterMm/in.HoleDepthMm) * 180 / math.Pi
	sight := math.Max(flattestSightDeg, in.HoleAngleDeg-across) * math.Pi / 180
	from := func(eye float64) float64 { return eye*a.ShoulderMm/math.Tan(sight) + feetBehindEye*a.ShoulderMm }
	return Output{StandingMm: from(standingEye), CrouchedMm: from(crouchedEye)}, nil
}
