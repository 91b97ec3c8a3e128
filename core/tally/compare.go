package tally

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"oldburrow/core/refuse"
)

// CompareInput are two numbers of catches in numbers of trap-nights.
type CompareInput struct {
	A Earned `json:"a"`
	B Earned `json:"b"`
}

// Earned is a number of catches (whole) in a number of trap-nights (halves allowed).
type Earned struct {
	Catches    float64 `json:"catches"`
	TrapNights float64 `json:"trapNights"`
}

// CompareOutput is the ratio of the rates, nil when the second caught none; how likely chance alone would set them at least so far apart;
// and about how many nights more, added to each, would tell them apart at these rates, nil where they are told apart already, or where
// they do not differ.
type CompareOutput struct {
	Ratio *float64 `json:"ratio" jsonschema:"nullable"`
	P     float64  `json:"p"`
	More  *int     `json:"more" jsonschema:"nullable"`
}

// MostNights is how many nights more are looked at: no season has as many.
const MostNights = 2000

const (
	toldApart   = .05
	moreStep    = 10
	tie         = 1e-9
	mostCatches = 10000
)

// Compare compares two rates by the exact conditional binomial test, two-sided: the sum of the outcomes that are no likelier than the one
// seen. It refuses what Rate refuses, and more catches than can be counted.
func Compare(in CompareInput) (CompareOutput, error) {
	var p refuse.Problems
	for _, of := range []struct {
		at string
		Earned
	}{{"a.", in.A}, {"b.", in.B}} {
		checkEarned(&p, of.at, of.Catches, of.TrapNights)
		if of.Catches > mostCatches {
			p.Add(of.at+"catches", "must be at most %d: outcomes are counted one by one", mostCatches)
		}
	}
	if err := p.Err(); err != nil {
		return CompareOutput{}, err
	}
	out := CompareOutput{P: chanceApart(in.A, in.B)}
	a, b := in.A.Catches/in.A.TrapNights, in.B.Catches/in.B.TrapNights
	if in.B.Catches > 0 {
		out.Ratio = new(a / b)
	}
	if out.P < toldApart || a == b {
		return out, nil
	}
	out.More = new(int(MostNights))
	for more := moreStep; more < MostNights; more += moreStep {
		if chanceApart(in.A.after(more), in.B.after(more)) < toldApart {
			out.More = &more
			break
		}
	}
	return out, nil
}

// after is what would be earned after so many nights more, at the same rate; catches are whole.
func (e Earned) after(more int) Earned {
	nights := e.TrapNights + float64(more)
	return Earned{math.Floor(e.Catches/e.TrapNights*nights + .5), nights}
}

// chanceApart is how likely the catches of both would be shared as unevenly as they are, if both caught at one rate.
func chanceApart(a, b Earned) float64 {
	n := a.Catches + b.Catches
	if n == 0 {
		return 1
	}
	of := distuv.Binomial{N: n, P: a.TrapNights / (a.TrapNights + b.TrapNights)}
	seen, sum := of.Prob(a.Catches), 0.0
	for k := 0.0; k <= n; k++ {
		if is := of.Prob(k); is <= seen+tie {
			sum += is
		}
	}
	return math.Min(1, sum)
}
