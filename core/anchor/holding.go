package anchor

import (
	"math"

	"oldburrow/core/ground"
	"oldburrow/core/refuse"
)

// strength is what a soil is worth to an anchor: unit weight in kN/m³, the angle of friction at the few kPa of such depths, where dense
// or loose sand dilates, and cohesion in kPa: dry, moist, wet. Middling values of soil mechanics.
type strength struct {
	weight, phiDeg float64
	cohesion       [3]float64
}

var strengths = map[ground.Soil]strength{
	"loose_sand": {16, 36, [3]float64{0, 4, 0}},
	"firm_sand":  {17, 41, [3]float64{2, 8, 2}},
	"loam":       {17, 0, [3]float64{30, 25, 10}},
	"firm_clay":  {18, 0, [3]float64{90, 50, 20}},
	"soft_clay":  {17, 0, [3]float64{40, 20, 10}},
	"shale":      {19, 42, [3]float64{10, 10, 5}},
	"muck":       {11, 0, [3]float64{8, 6, 4}},
}

// Driven is a kind of anchor that is driven.
type Driven string

// The kinds.
const (
	Stake   Driven = "stake"
	Crossed Driven = "crossed"
	Plate   Driven = "plate"
)

// HoldingInput is an anchor driven into a soil: a stake with its diameter, its length in the ground and the angle above level at which it
// is pulled, or a plate on a cable with its size and depth.
type HoldingInput struct {
	Soil          ground.Soil    `json:"soil"`
	Wetness       ground.Wetness `json:"wetness"`
	Kind          Driven         `json:"kind"`
	DiameterMm    float64        `json:"diameterMm,omitempty"`
	LengthMm      float64        `json:"lengthMm,omitempty"`
	PullAngleDeg  float64        `json:"pullAngleDeg,omitempty"`
	PlateLengthMm float64        `json:"plateLengthMm,omitempty"`
	PlateWidthMm  float64        `json:"plateWidthMm,omitempty"`
	DepthMm       float64        `json:"depthMm,omitempty"`
}

// HoldingOutput is the pull that an anchor bears, N.
type HoldingOutput struct {
	CapacityN float64 `json:"capacityN"`
}

const (
	crossedBears = 3.0 // times one stake: two of them, interlocked
	waterLifts   = 6.0 // kN/m³ off the weight of wet soil
	stakeGrips   = 0.75
	kilo         = 1000.0
)

// HoldingDefaults are the angle at which a held animal pulls.
func HoldingDefaults() HoldingInput { return HoldingInput{PullAngleDeg: 30} }

// Holding is what an anchor bears: a stake by its skin and as a short pile pushed sideways (Broms), a plate by the soil over it (Meyerhof
// and Adams). It refuses unknown words and sizes that cannot be.
func Holding(in HoldingInput) (HoldingOutput, error) {
	var p refuse.Problems
	refuse.OneOf(&p, "soil", in.Soil, ground.Soils)
	refuse.OneOf(&p, "wetness", in.Wetness, ground.Wetnesses)
	refuse.OneOf(&p, "kind", in.Kind, []Driven{Stake, Crossed, Plate})
	if in.Kind == Plate {
		p.Within("plateLengthMm", in.PlateLengthMm, 20, 500, " mm")
		p.Within("plateWidthMm", in.PlateWidthMm, 5, 300, " mm")
		p.Within("depthMm", in.DepthMm, 50, 2000, " mm")
	} else {
		p.Within("diameterMm", in.DiameterMm, 3, 60, " mm")
		p.Within("lengthMm", in.LengthMm, 50, 2000, " mm")
		p.Within("pullAngleDeg", in.PullAngleDeg, 0, 90, "°")
	}
	if err := p.Err(); err != nil {
		return HoldingOutput{}, err
	}
	s := soilOf(in.Soil, in.Wetness)
	switch in.Kind {
	case Plate:
		return HoldingOutput{s.plate(in.PlateLengthMm/kilo, in.PlateWidthMm/kilo, in.DepthMm/kilo)}, nil
	case Crossed:
		return HoldingOutput{crossedBears * s.stake(in.DiameterMm/kilo, in.LengthMm/kilo, in.PullAngleDeg)}, nil
	}
	return HoldingOutput{s.stake(in.DiameterMm/kilo, in.LengthMm/kilo, in.PullAngleDeg)}, nil
}

// earth is a soil as it lies: effective unit weight, kN/m³, friction, radians, and cohesion, kPa.
type earth struct{ weight, phi, cohesion float64 }

func soilOf(soil ground.Soil, wetness ground.Wetness) earth {
	s := strengths[soil]
	e := earth{s.weight, s.phiDeg * math.Pi / 180, 0}
	for i, w := range ground.Wetnesses {
		if w == wetness {
			e.cohesion = s.cohesion[i]
		}
	}
	if wetness == "wet" {
		e.weight -= waterLifts
	}
	return e
}

// stake is what a stake bears, N: sizes in m, the angle above level.
func (e earth) stake(d, l, angleDeg float64) float64 {
	sin, cos := math.Sincos(angleDeg * math.Pi / 180)
	bears := math.Inf(1)
	if sin > 1e-9 {
		bears = e.axial(d, l) / sin
	}
	if cos > 1e-9 {
		bears = math.Min(bears, e.lateral(d, l)/cos)
	}
	return kilo * bears
}

// axial is what it takes to draw a stake out along itself, kN.
func (e earth) axial(d, l float64) float64 {
	alpha := 1.0 // of the cohesion that sticks to iron
	if e.cohesion > 25 {
		alpha = math.Max(.5, 1-(e.cohesion-25)/90)
	}
	return math.Pi * d * l * (alpha*e.cohesion + e.weight*l/2*math.Tan(stakeGrips*e.phi))
}

// lateral is what it takes to lay a stake over, kN: Broms' short pile with a free head, pulled at the surface.
func (e earth) lateral(d, l float64) float64 {
	sum := 0.0
	if g := l - 1.5*d; e.cohesion > 0 && g > 0 {
		f := math.Sqrt((g+3*d)*(g+3*d)+g*g) - (g + 3*d)
		sum += 9 * e.cohesion * d * f
	}
	if e.phi > 0 {
		kp := math.Pow(math.Tan(math.Pi/4+e.phi/2), 2)
		sum += .5 * e.weight * d * l * l * kp
	}
	return sum
}

// breakouts are, by the angle of friction, to how many widths deep the soil over a plate breaks out to the surface, and how its side
// friction grows with depth (Meyerhof and Adams).
var breakouts = []struct{ phiDeg, critical, m float64 }{
	{20, 2.5, .05}, {25, 3, .10}, {30, 4, .15}, {35, 5, .25}, {40, 7, .35}, {45, 9, .50},
}

// plate is what a plate bears, N: long, wide and deep in m.
func (e earth) plate(long, wide, deep float64) float64 {
	fq := 1.0
	if e.phi > 0 {
		critical, m := breakout(e.phi * 180 / math.Pi)
		r := math.Min(deep/wide, critical)
		fq = 1 + ((1+2*m*r)*wide/long+1)*r*.95*math.Tan(e.phi)
	}
	return kilo * long * wide * (e.cohesion*math.Min(9, 2*deep/wide) + e.weight*deep*fq)
}

func breakout(phiDeg float64) (critical, m float64) {
	last := len(breakouts) - 1
	for i := range last {
		a, b := breakouts[i], breakouts[i+1]
		if phiDeg <= b.phiDeg {
			share := math.Max(0, (phiDeg-a.phiDeg)/(b.phiDeg-a.phiDeg))
			return a.critical + share*(b.critical-a.critical), a.m + share*(b.m-a.m)
		}
	}
	return breakouts[last].critical, breakouts[last].m
}
