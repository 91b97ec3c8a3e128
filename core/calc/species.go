package calc

import (
	"oldburrow/core/animal"
	"oldburrow/core/footfall"
	"oldburrow/core/hole"
	"oldburrow/core/pan"
	"oldburrow/core/refuse"
)

// The calculators compute with animals. Here, at their edge, an animal is named by its key.

type fireInput struct {
	Species  string  `json:"species"`
	TensionN float64 `json:"tensionN"`
}

type fireOutput struct {
	Chance float64 `json:"chance"`
}

func fireOf(in fireInput) (fireOutput, error) {
	a, err := animal.ByKey(in.Species)
	if err != nil {
		return fireOutput{}, err
	}
	chance, err := pan.Fire(a, in.TensionN)
	return fireOutput{chance}, err
}

type standoffInput struct {
	Species string `json:"species"`
	hole.Input
}

func standoffOf(in standoffInput) (hole.Output, error) {
	a, err := animal.ByKey(in.Species)
	if err != nil {
		return hole.Output{}, err
	}
	return hole.Standoff(a, in.Input)
}

type footfallInput struct {
	Species string `json:"species"`
	footfall.Input
}

func footfallDefaults() footfallInput { return footfallInput{Input: footfall.Defaults()} }

func footfallOf(in footfallInput) (footfall.Output, error) {
	a, err := animal.ByKey(in.Species)
	if err != nil {
		return footfall.Output{}, err
	}
	return footfall.Simulate(a, in.Input)
}

type windowInput struct {
	Targets []string `json:"targets"`
	Avoid   []string `json:"avoid,omitempty"`
	pan.WindowInput
}

func windowDefaults() windowInput { return windowInput{WindowInput: pan.WindowDefaults()} }

func windowOf(in windowInput) (pan.WindowOutput, error) {
	var p refuse.Problems
	in.WindowInput.Targets = animal.Listed(&p, "targets", in.Targets)
	in.WindowInput.Avoid = animal.Listed(&p, "avoid", in.Avoid)
	if err := p.Err(); err != nil {
		return pan.WindowOutput{}, err
	}
	return pan.Window(in.WindowInput)
}
