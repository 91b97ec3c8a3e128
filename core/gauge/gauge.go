// Package gauge says what presses of a force gauge at a pan's centre are worth: newtons, shares of one. A pan's tension is
// the most that it bears before it gives way; it is taken by several presses, with the trap latched as it will stand.
package gauge

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/stat"

	"oldburrow/core/pan"
	"oldburrow/core/refuse"
)

// Figures of measuring, each a habit or a judgement.
const (
	FewPresses  = 3    // fewer have no spread, and are said to be few
	mostPresses = 20   //
	MostN       = 150  // more than any pan or hand-held gauge
	WideSpread  = 0.15 // of the mean: presses this far apart say that the pan or the hand is not steady
	creep       = 0.15 // of the mean: presses that only rise, or only fall, by so much
	leastFactor = 0.7  // a gauge farther off is broken, not out of calibration
	mostFactor  = 1.4
)

// Measured is what some presses come to. Spread is the standard deviation as a share of the mean; Creeps says that each press
// read higher (or each lower) than the last, as a drifting gauge or a settling pan does.
type Measured struct {
	MeanN  float64 `json:"meanN"`
	SDN    float64 `json:"sdN"`
	Spread float64 `json:"spread"`
	Wide   bool    `json:"wide"`
	Creeps bool    `json:"creeps"`
	Few    bool    `json:"few"` // too few to tell how they spread
}

// Measure takes the presses as the gauge read them, and what its calibration multiplies them by. It refuses none, more than twenty,
// and presses that no pan bears.
func Measure(pressesN []float64, factor float64) (Measured, error) {
	var p refuse.Problems
	if n := len(pressesN); n < 1 || n > mostPresses {
		p.Add("presses", "must be from one to %d presses, not %d: three are the advice, since their spread matters as much as their mean", mostPresses, n)
	}
	for i, n := range pressesN {
		if !(n > 0 && n <= MostN) {
			p.Add(fmt.Sprintf("presses[%d]", i), "must be above 0 N and at most %g N, not %g N", float64(MostN), n)
		}
	}
	p.Within("factor", factor, leastFactor, mostFactor, "")
	if err := p.Err(); err != nil {
		return Measured{}, err
	}
	mean, sd := stat.MeanStdDev(pressesN, nil)
	if len(pressesN) == 1 {
		sd = 0 // one does not spread
	}
	m := Measured{MeanN: mean * factor, SDN: sd * factor, Spread: sd / mean, Few: len(pressesN) < FewPresses}
	m.Wide = m.Spread > WideSpread
	m.Creeps = creeps(pressesN, creep*mean)
	return m, nil
}

// creeps tells whether presses only rise, or only fall, and by more than a bound altogether.
func creeps(pressesN []float64, bound float64) bool {
	rising, falling := true, true
	for i, n := range pressesN[1:] {
		rising, falling = rising && n > pressesN[i], falling && n < pressesN[i]
	}
	return (rising || falling) && math.Abs(pressesN[len(pressesN)-1]-pressesN[0]) > bound
}

// Calibrate gives what a gauge's readings have to be multiplied by, from one known weight and what the gauge read under it. It
// refuses a gauge that is farther off than any calibration mends.
func Calibrate(knownN, readN float64) (float64, error) {
	var p refuse.Problems
	p.Within("knownN", knownN, 1, MostN, " N")
	p.Within("readN", readN, 1, MostN, " N")
	if len(p) == 0 && (knownN/readN < leastFactor || knownN/readN > mostFactor) {
		p.Add("readN", "is too far from the %g N that hung on it: a gauge so far off is broken, or the weight is another", knownN)
	}
	if err := p.Err(); err != nil {
		return 0, err
	}
	return knownN / readN, nil
}

// Turning is which way to turn a pan.
type Turning string

// Ways that a pan's screw is turned.
const (
	Tighter Turning = "tighter"
	Looser  Turning = "looser"
)

// Turnings lists them.
var Turnings = []Turning{Tighter, Looser}

// Turn is which way to turn a pan and about how far: ToEdgeN until it is inside its window, ToMiddleN until the middle of it.
// Way is blank for a pan that is inside, and where no setting does.
type Turn struct {
	Way       Turning `json:"way"`
	ToEdgeN   float64 `json:"toEdgeN"`
	ToMiddleN float64 `json:"toMiddleN"`
}

// TurnTo compares a measured tension with a window.
func TurnTo(meanN float64, w pan.WindowOutput) Turn {
	middle := (w.MinN + w.MaxN) / 2
	switch {
	case w.Conflict:
		return Turn{}
	case meanN < w.MinN:
		return Turn{Tighter, w.MinN - meanN, middle - meanN}
	case meanN > w.MaxN:
		return Turn{Looser, meanN - w.MaxN, meanN - middle}
	}
	return Turn{}
}

// MeasureInput is presses and what the gauge's calibration multiplies them by.
type MeasureInput struct {
	Presses []float64 `json:"presses"`
	Factor  float64   `json:"factor,omitempty"`
}

// MeasureDefaults are a gauge that reads true.
func MeasureDefaults() MeasureInput { return MeasureInput{Factor: 1} }

// Of is Measure for one input.
func Of(in MeasureInput) (Measured, error) { return Measure(in.Presses, in.Factor) }
