// Package learn says what a line's record makes of the model's promises: by how much its catches are told, at which link it loses
// animals, where its animals stand, and how long a set stands before it catches. Everything is a share, a factor or a count; the
// priors are judgements. The distributions are the gamma, the beta and the normal with their conjugate priors, and Kaplan and Meier's.
package learn

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/mathext"
	"gonum.org/v1/gonum/stat/distuv"

	"oldburrow/core/refuse"
)

// Input is what was promised and caught, from the widest level to the narrowest.
type Input struct {
	Levels []Level `json:"levels"`
}

// Level is one level of a line's record: the catches that the chains promised there, uncorrected, those that came, and how firmly it
// is believed beforehand that they agree, as the shape of a gamma distribution.
type Level struct {
	Key      string  `json:"key"`
	Expected float64 `json:"expected"`
	Caught   float64 `json:"caught"`
	Shape    float64 `json:"shape"`
}

// Output is by how much a promise is told at each level, in the same order.
type Output struct {
	Levels []Factor `json:"levels"`
}

// Factor is by how much a promise is told, and between what it lies four times in five.
type Factor struct {
	Key    string  `json:"key"`
	Factor float64 `json:"factor"`
	Low    float64 `json:"low"`
	High   float64 `json:"high"`
	Shape  float64 `json:"-"` // of the gamma distribution that leaves it so
}

// LineShape is how firmly it is believed that a line without a record gives what is promised: 80 of 100 products of six links, each
// off by up to half, lie between the doubt that it leaves.
const LineShape = 2.0

// Bounds of four times in five.
const (
	lowShare  = .1
	highShare = .9
)

// Of tells every level by the one before it and by its own record. It refuses negative promises, catches that are broken or negative,
// shapes that are not above 0, and no level at all.
func Of(in Input) (Output, error) {
	if err := in.check(); err != nil {
		return Output{}, err
	}
	out := Output{}
	mean, doubt := 1.0, 0.0 // of the level before; 1/A
	for _, l := range in.Levels {
		shape := 1 / ((1+1/l.Shape)*(1+doubt) - 1)
		after := distuv.Gamma{Alpha: shape + l.Caught, Beta: shape/mean + l.Expected}
		factor := Factor{l.Key, after.Alpha / after.Beta, gammaPoint(after, lowShare), gammaPoint(after, highShare), after.Alpha}
		out.Levels = append(out.Levels, factor)
		mean, doubt = factor.Factor, 1/after.Alpha
	}
	return out, nil
}

func gammaPoint(of distuv.Gamma, share float64) float64 {
	return mathext.GammaIncRegInv(of.Alpha, share) / of.Beta
}

func (in Input) check() error {
	var p refuse.Problems
	if len(in.Levels) == 0 {
		p.Add("levels", "is missing: give at least one level")
	}
	for i, l := range in.Levels {
		at := fmt.Sprintf("levels[%d].", i)
		p.Within(at+"expected", l.Expected, 0, 1e9, "")
		if !(l.Caught >= 0 && l.Caught < 1e9) || l.Caught != math.Trunc(l.Caught) {
			p.Add(at+"caught", "must be a whole number, 0 or more, not %g", l.Caught)
		}
		if !(l.Shape > 0 && l.Shape < 1e9) {
			p.Add(at+"shape", "must be above 0, not %g", l.Shape)
		}
	}
	return p.Err()
}

// Unlearnt is the doubt of a line without a record: promises are told as they are, between this much less and this much more.
var Unlearnt = func() Factor {
	out, err := Of(Input{[]Level{{Key: "line", Shape: LineShape}}})
	if err != nil {
		panic(err) // the level is ours
	}
	return out.Levels[0]
}()
