package learn

import (
	"fmt"
	"math"
	"slices"

	"oldburrow/core/refuse"
)

// StanceInput is how far from what it smells an animal's forefeet come down by the model, mm, and prints that were marked there.
type StanceInput struct {
	MeanMm float64   `json:"meanMm"`
	SDMm   float64   `json:"sdMm"`
	Prints []float64 `json:"prints"`
}

// StanceOutput is the same by model and prints together, and how many prints were used.
type StanceOutput struct {
	MeanMm float64 `json:"meanMm"`
	SDMm   float64 `json:"sdMm"`
	N      int     `json:"n"`
}

// PrintsWorth is how many prints the model is worth. A judgement.
const PrintsWorth = 12.0

// Stance corrects mean and spread by prints, the conjugate way. It refuses a spread that is not above 0 and prints that are none.
func Stance(in StanceInput) (StanceOutput, error) {
	var p refuse.Problems
	p.Within("meanMm", in.MeanMm, -10000, 10000, " mm")
	if !(in.SDMm > 0 && in.SDMm <= 10000) {
		p.Add("sdMm", "must be above 0 mm, not %g", in.SDMm)
	}
	n, sum := float64(len(in.Prints)), 0.0
	for i, x := range in.Prints {
		p.Within(fmt.Sprintf("prints[%d]", i), x, -10000, 10000, " mm")
		sum += x
	}
	if err := p.Err(); err != nil {
		return StanceOutput{}, err
	}
	if n == 0 {
		return StanceOutput{in.MeanMm, in.SDMm, 0}, nil
	}
	middle, square := sum/n, 0.0
	for _, x := range in.Prints {
		square += (x - middle) * (x - middle)
	}
	worth := PrintsWorth + n
	off := middle - in.MeanMm
	return StanceOutput{
		MeanMm: (PrintsWorth*in.MeanMm + sum) / worth,
		SDMm:   math.Sqrt((PrintsWorth*in.SDMm*in.SDMm + square + PrintsWorth*n/worth*off*off) / worth),
		N:      len(in.Prints),
	}, nil
}

// FirstCatchInput is how long sets stood: until they caught, or until they were remade or pulled before that.
type FirstCatchInput struct {
	Sets []Stood `json:"sets"`
}

// Stood is how many nights a set stood, and whether it then caught.
type Stood struct {
	Nights int  `json:"nights"`
	Caught bool `json:"caught"`
}

// FirstCatchOutput is the share of sets that have not caught after each night with a catch, and the first night after which no more
// than half have not; nil where more than half never did.
type FirstCatchOutput struct {
	Steps  []Step `json:"steps"`
	Median *int   `json:"median" jsonschema:"nullable"`
}

// Step is a night with catches: how many sets stood through it without one before, how many caught, and the share still without.
type Step struct {
	Night  int     `json:"night"`
	AtRisk int     `json:"atRisk"`
	Caught int     `json:"caught"`
	Still  float64 `json:"still"`
}

// FirstCatch is Kaplan and Meier's. It refuses sets that stood no night.
func FirstCatch(in FirstCatchInput) (FirstCatchOutput, error) {
	var p refuse.Problems
	nights := []int{}
	for i, s := range in.Sets {
		p.Within(fmt.Sprintf("sets[%d].nights", i), float64(s.Nights), 1, 100000, "")
		if s.Caught && !slices.Contains(nights, s.Nights) {
			nights = append(nights, s.Nights)
		}
	}
	if err := p.Err(); err != nil {
		return FirstCatchOutput{}, err
	}
	slices.Sort(nights)
	out, still := FirstCatchOutput{Steps: []Step{}}, 1.0
	for _, night := range nights {
		step := Step{Night: night}
		for _, s := range in.Sets {
			if s.Nights >= night {
				step.AtRisk++
			}
			if s.Caught && s.Nights == night {
				step.Caught++
			}
		}
		still *= 1 - float64(step.Caught)/float64(step.AtRisk)
		step.Still = still
		out.Steps = append(out.Steps, step)
		if out.Median == nil && still <= .5+1e-9 {
			out.Median = &step.Night
		}
	}
	return out, nil
}
