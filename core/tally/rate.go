// Package tally counts what a line earned: nights that traps stood working, and catches per hundred of them with the
// interval that the record leaves open.
package tally

import (
	"math"

	"gonum.org/v1/gonum/mathext"

	"oldburrow/core/refuse"
)

// RateInput is a number of catches (whole) in a number of trap-nights (halves allowed), and the confidence wanted.
type RateInput struct {
	Catches    float64 `json:"catches"`
	TrapNights float64 `json:"trapNights"`
	Confidence float64 `json:"confidence,omitempty"`
}

// RateDefaults is a confidence of 95 %.
func RateDefaults() RateInput { return RateInput{Confidence: 0.95} }

// RateOutput is catches per 100 trap-nights and the bounds of its interval.
type RateOutput struct {
	Per100 float64 `json:"per100"`
	Low    float64 `json:"low"`
	High   float64 `json:"high"`
}

// Rate gives the exact Poisson interval after Garwood. It refuses broken or negative catches, no nights at all, and a
// confidence outside 0–1.
func Rate(in RateInput) (RateOutput, error) {
	var p refuse.Problems
	checkEarned(&p, "", in.Catches, in.TrapNights)
	if !(in.Confidence > 0 && in.Confidence < 1) {
		p.Add("confidence", "must lie between 0 and 1, not %g", in.Confidence)
	}
	if err := p.Err(); err != nil {
		return RateOutput{}, err
	}
	tail := (1 - in.Confidence) / 2
	per100 := 100 / in.TrapNights
	out := RateOutput{Per100: in.Catches * per100, High: mathext.GammaIncRegInv(in.Catches+1, 1-tail) * per100}
	if in.Catches > 0 {
		out.Low = mathext.GammaIncRegInv(in.Catches, tail) * per100
	}
	return out, nil
}

func checkEarned(p *refuse.Problems, at string, catches, trapNights float64) {
	if catches < 0 || catches != math.Trunc(catches) || math.IsInf(catches, 0) {
		p.Add(at+"catches", "must be a whole number, 0 or more, not %g", catches)
	}
	if !(trapNights > 0) || math.IsInf(trapNights, 0) {
		p.Add(at+"trapNights", "must be more than 0, not %g", trapNights)
	}
}
