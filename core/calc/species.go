package calc

import (
	"time"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/footfall"
	"oldburrow/core/hole"
	"oldburrow/core/layout"
	"oldburrow/core/odds"
	"oldburrow/core/pan"
	"oldburrow/core/refuse"
	"oldburrow/core/schools"
)

// The calculators compute with animals. Here, at their edge, an animal is named by its key.

type fireInput struct {
	Species  string  `json:"species"`
	TensionN float64 `json:"tensionN"`
	Footing  bool    `json:"footing,omitempty"`
}

type fireOutput struct {
	Chance float64 `json:"chance"`
}

func fireOf(in fireInput) (fireOutput, error) {
	a, err := animal.Reference.ByKey(in.Species)
	if err != nil {
		return fireOutput{}, err
	}
	chance, err := pan.Fire(a, in.TensionN, in.Footing)
	return fireOutput{chance}, err
}

type standoffInput struct {
	Species string `json:"species"`
	hole.Input
}

func standoffOf(in standoffInput) (hole.Output, error) {
	a, err := animal.Reference.ByKey(in.Species)
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
	a, err := animal.Reference.ByKey(in.Species)
	if err != nil {
		return footfall.Output{}, err
	}
	return footfall.Simulate(a, in.Input)
}

type patternInput struct {
	Pattern string `json:"pattern"`
	Species string `json:"species"`
	Visits  int    `json:"visits,omitempty"`
	Seed    uint64 `json:"seed,omitempty"`
}

func patternDefaults() patternInput { return patternInput{Visits: 300_000, Seed: 1} }

type patternOutput struct {
	Step     float64 `json:"step"`
	Fire     float64 `json:"fire"`
	PadShare float64 `json:"padShare"`
	Spooked  float64 `json:"spooked"`
}

// patternOf is what a pattern does as it begins for an animal, by the usual schools, with no guides but the one stick that lies across
// a way. It refuses a device, of which no footfall is claimed.
func patternOf(in patternInput) (patternOutput, error) {
	var p refuse.Problems
	a := animal.Reference.Named(&p, "species", in.Species)
	if len(p) == 0 {
		refuse.OneOf(&p, "species", in.Species, animal.Reference.TargetKeys())
	}
	if err := p.Err(); err != nil {
		return patternOutput{}, err
	}
	plain := schools.Usual()
	plain.Guides = "few"
	l, err := layout.New(in.Pattern, layout.Begin{Target: a, Schools: plain})
	if err != nil {
		return patternOutput{}, err
	}
	if !layout.Claims(in.Pattern) {
		return patternOutput{}, refuse.Field("pattern", "closes a loop: where feet fall says nothing of a device")
	}
	out, err := odds.Of(odds.Question{Layout: l.Unguided(), Target: a, Visits: in.Visits, Seed: in.Seed})
	if err != nil {
		return patternOutput{}, err
	}
	return patternOutput{out.Feet.Step, out.Feet.Fire, out.Feet.PadShare, out.Feet.Spooked}, nil
}

type windowInput struct {
	Targets []string `json:"targets"`
	Avoid   []string `json:"avoid,omitempty"`
	pan.WindowInput
}

func windowDefaults() windowInput { return windowInput{WindowInput: pan.WindowDefaults()} }

func windowOf(in windowInput) (pan.WindowOutput, error) {
	var p refuse.Problems
	in.WindowInput.Targets = animal.Reference.Listed(&p, "targets", in.Targets)
	in.WindowInput.Avoid = animal.Reference.Listed(&p, "avoid", in.Avoid)
	if err := p.Err(); err != nil {
		return pan.WindowOutput{}, err
	}
	return pan.Window(in.WindowInput)
}

type pullInput struct {
	Species string `json:"species"`
	anchor.PullInput
}

func pullOf(in pullInput) (anchor.PullOutput, error) {
	a, err := animal.Reference.ByKey(in.Species)
	if err != nil {
		return anchor.PullOutput{}, err
	}
	return anchor.Pull(a, in.PullInput)
}

type circleInput struct {
	Species string `json:"species"`
	anchor.CircleInput
}

func circleDefaults() circleInput { return circleInput{CircleInput: anchor.CircleDefaults()} }

func circleOf(in circleInput) (anchor.CircleOutput, error) {
	a, err := animal.Reference.ByKey(in.Species)
	if err != nil {
		return anchor.CircleOutput{}, err
	}
	return anchor.CircleOf(a, in.CircleInput)
}

type chainInput struct {
	Species string `json:"species"`
	odds.ChainInput
}

func chainDefaults() chainInput { return chainInput{ChainInput: odds.ChainDefaults()} }

func chainOf(in chainInput) (odds.ChainOutput, error) {
	a, err := animal.Reference.ByKey(in.Species)
	if err != nil {
		return odds.ChainOutput{}, err
	}
	return odds.Chain(a, in.ChainInput)
}

type suitsInput struct {
	Pattern  string          `json:"pattern"`
	Species  string          `json:"species"`
	Day      string          `json:"day"`
	WayMm    *float64        `json:"wayMm,omitempty" jsonschema:"nullable"`
	Through  *layout.Through `json:"through,omitempty" jsonschema:"nullable"`
	Features []string        `json:"features"`
	InCover  *bool           `json:"inCover,omitempty" jsonschema:"nullable"`
	Shy      bool            `json:"shy"`
	SnowMm   float64         `json:"snowMm"`
}

// suitsOf is what a pattern makes of a place where the features that are named lie within its reach.
func suitsOf(in suitsInput) (layout.Suit, error) {
	var p refuse.Problems
	refuse.OneOf(&p, "pattern", in.Pattern, layout.PatternKeys())
	a := animal.Reference.Named(&p, "species", in.Species)
	if _, err := time.Parse(time.DateOnly, in.Day); err != nil {
		p.Add("day", "%q is no date: write one such as 2026-12-04", in.Day)
	}
	at := layout.Site{Day: in.Day, WayMm: in.WayMm, InCover: in.InCover, Shy: in.Shy, SnowMm: &in.SnowMm}
	if in.WayMm != nil {
		p.Within("wayMm", *in.WayMm, 50, 20000, " mm")
	}
	if in.Through != nil {
		refuse.OneOf(&p, "through", *in.Through, layout.Throughs)
		at.Through = *in.Through
	}
	p.Within("snowMm", in.SnowMm, 0, 10000, " mm")
	for _, key := range in.Features {
		at.Near = append(at.Near, layout.Nearby{Key: key})
	}
	if err := p.Err(); err != nil {
		return layout.Suit{}, err
	}
	return layout.Suits(in.Pattern, a, at), nil
}
