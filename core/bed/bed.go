// Package bed computes the hole that a trap is bedded in: mm, and litres of soil dug, needed to fill, and to carry away.
package bed

import (
	"math"

	"oldburrow/core/refuse"
)

// Input describes the trap as it stands set and how it is bedded. FrameLengthMm includes the levers. The bed is as wide as the trap
// with its margins and as deep as base, trap and cover take, where it is not said to be dug otherwise.
type Input struct {
	FrameLengthMm float64  `json:"frameLengthMm"`
	JawSpreadMm   float64  `json:"jawSpreadMm"`
	SetHeightMm   float64  `json:"setHeightMm"`
	PanDiameterMm float64  `json:"panDiameterMm"`
	BaseMm        float64  `json:"baseMm,omitempty"`
	CoverMm       float64  `json:"coverMm,omitempty"`
	MarginMm      float64  `json:"marginMm,omitempty"`
	WidthMm       *float64 `json:"widthMm,omitempty"`
	DepthMm       *float64 `json:"depthMm,omitempty"`
}

// Defaults are the base under the trap, the cover over it and the margin about it that hold when nothing is said.
func Defaults() Input { return Input{BaseMm: 12, CoverMm: 10, MarginMm: 10} }

// Output is the bed's size and its soil.
type Output struct {
	LengthMm float64 `json:"lengthMm"`
	WidthMm  float64 `json:"widthMm"`
	DepthMm  float64 `json:"depthMm"`
	DugL     float64 `json:"dugL"`   // out of the ground
	FillL    float64 `json:"fillL"`  // back in, under, about and over the trap
	SpoilL   float64 `json:"spoilL"` // loose, on the mat
}

const (
	cornersLeft  = 0.9  // a bed's corners stay rounded
	steelL       = 0.25 // the trap's own volume
	underPanMm   = 15   // left clear under the pan
	looseSpoil   = 1.25 // dug soil takes more room
	litrePerMm3  = 1e-6
	largestBedMm = 1000
)

// Litres is what a layer of a bed holds; the corners stay rounded.
func Litres(lengthMm, widthMm, depthMm float64) float64 {
	return cornersLeft * lengthMm * widthMm * depthMm * litrePerMm3
}

// Of sizes the bed. It refuses lengths that no trap has.
func Of(in Input) (Output, error) {
	var p refuse.Problems
	p.Within("frameLengthMm", in.FrameLengthMm, 1, largestBedMm, " mm")
	p.Within("jawSpreadMm", in.JawSpreadMm, 1, largestBedMm, " mm")
	p.Within("setHeightMm", in.SetHeightMm, 1, largestBedMm, " mm")
	p.Within("panDiameterMm", in.PanDiameterMm, 1, largestBedMm, " mm")
	p.Within("baseMm", in.BaseMm, 0, largestBedMm, " mm")
	p.Within("coverMm", in.CoverMm, 0, largestBedMm, " mm")
	p.Within("marginMm", in.MarginMm, 0, largestBedMm, " mm")
	said := func(field string, mm *float64) {
		if mm != nil {
			p.Within(field, *mm, 1, largestBedMm, " mm")
		}
	}
	said("widthMm", in.WidthMm)
	said("depthMm", in.DepthMm)
	if err := p.Err(); err != nil {
		return Output{}, err
	}
	out := Output{
		LengthMm: in.FrameLengthMm + 2*in.MarginMm,
		WidthMm:  in.JawSpreadMm + 2*in.MarginMm,
		DepthMm:  in.BaseMm + in.SetHeightMm + in.CoverMm,
	}
	if in.WidthMm != nil {
		out.WidthMm = *in.WidthMm
	}
	if in.DepthMm != nil {
		out.DepthMm = *in.DepthMm
	}
	clear := math.Pi * in.PanDiameterMm * in.PanDiameterMm / 4 * underPanMm * litrePerMm3
	out.DugL = Litres(out.LengthMm, out.WidthMm, out.DepthMm)
	out.FillL = math.Max(0, out.DugL-steelL-clear)
	out.SpoilL = looseSpoil * out.DugL
	return out, nil
}
