package pan

import (
	"fmt"
	"math"
	"slices"
	"sync"

	"oldburrow/core/animal"
	"oldburrow/core/refuse"
)

// WindowInput asks between which gauge settings a pan fires for its targets and spares others, under a cover that adds
// CoverN. TargetChance is how often each target must fire it at least, AvoidChance how often each animal to avoid may at most.
type WindowInput struct {
	Targets      []animal.Animal `json:"-"`
	Avoid        []animal.Animal `json:"-"`
	CoverN       float64         `json:"coverN,omitempty"`
	TargetChance float64         `json:"targetChance,omitempty"`
	AvoidChance  float64         `json:"avoidChance,omitempty"`
	Footing      bool            `json:"footing,omitempty"` // the pan is the one dry footing
	// TradeN is what the trade sets for the targets, N; 0 where it is not asked for.
	TradeN float64 `json:"-"`
}

// thinCoverN is what a cover may add for the trade's own figure to hold as it stands. A judgement.
const thinCoverN = 1.0

// WindowDefaults are targets that fire in 95 of 100 and others in at most 10.
func WindowDefaults() WindowInput { return WindowInput{TargetChance: .95, AvoidChance: .10} }

// WindowOutput is the window of gauge settings in newtons; Conflict says that no setting does both, or that none works at
// all under this cover: then MaxN is below zero or below MinN.
type WindowOutput struct {
	MinN     float64 `json:"minN"`
	MaxN     float64 `json:"maxN"`
	Conflict bool    `json:"conflict"`
	// ByTrade says that MaxN is the trade's figure, which is larger than what the targets' chance gives.
	ByTrade bool `json:"byTrade,omitempty"`
}

// Window solves Fire for both chances and takes off what the cover adds. The floor is never below zero, and zero where
// nobody is to be avoided. Under a cover that adds next to nothing the ceiling is the trade's own figure where that is larger.
// It refuses a window without targets, an animal that is both, and chances outside 0–1.
func Window(in WindowInput) (WindowOutput, error) {
	var p refuse.Problems
	if len(in.Targets) == 0 {
		p.Add("targets", "is missing: name at least one animal")
	}
	for i, a := range in.Avoid {
		if slices.Contains(in.Targets, a) {
			p.Add(fmt.Sprintf("avoid[%d]", i), "%s is a target: it cannot be spared too", a.Key)
		}
	}
	p.Within("coverN", in.CoverN, -1000, 100000, " N")
	for _, chance := range []struct {
		field string
		is    float64
	}{{"targetChance", in.TargetChance}, {"avoidChance", in.AvoidChance}} {
		if !(chance.is > 0 && chance.is < 1) {
			p.Add(chance.field, "must lie between 0 and 1, not %g", chance.is)
		}
	}
	if err := p.Err(); err != nil {
		return WindowOutput{}, err
	}
	out := WindowOutput{MaxN: math.Inf(1)}
	for _, a := range in.Targets {
		out.MaxN = math.Min(out.MaxN, tensionFor(a, in.TargetChance, in.Footing)-in.CoverN)
	}
	if in.TradeN > out.MaxN && in.CoverN <= thinCoverN {
		out.MaxN, out.ByTrade = in.TradeN, true
	}
	for _, a := range in.Avoid {
		out.MinN = math.Max(out.MinN, tensionFor(a, in.AvoidChance, in.Footing)-in.CoverN)
	}
	out.Conflict = out.MinN > out.MaxN || out.MaxN < 0
	return out, nil
}

// Verdict is what is to be said of a pan at its setting.
type Verdict string

// Verdicts on a pan at a setting.
const (
	Inside     Verdict = "inside"
	Light      Verdict = "light"    // animals to spare fire it
	Doubted    Verdict = "doubt"    // some of the targets walk over it
	Heavy      Verdict = "heavy"    // too many of them do
	Conflicted Verdict = "conflict" // no setting does both
)

// Verdicts lists them.
var Verdicts = []Verdict{Inside, Light, Doubted, Heavy, Conflicted}

// The share of the targets that fail to fire a pan from which its setting is in doubt, and above which it is wrong.
const (
	doubtFrom = .05
	wrongFrom = .20

	// tradeSlackN is how far above the trade's figure a gauge that reads to the tenth of a pound may show it, N.
	tradeSlackN = .05
)

// Verdict judges a setting of the gauge by the share of the targets that would not fire it, and then by whom the pan should spare. What
// the trade sets is not doubted.
func (w WindowOutput) Verdict(gaugeN, fails float64) Verdict {
	if w.ByTrade && gaugeN <= w.MaxN+tradeSlackN {
		fails = 0
	}
	switch {
	case fails > wrongFrom:
		return Heavy
	case w.Conflict:
		return Conflicted
	case gaugeN < w.MinN:
		return Light
	case fails > doubtFrom:
		return Doubted
	}
	return Inside
}

// solved keeps the tensions that were solved for: they depend on nothing but the animal and the chance, and each takes
// dozens of integrals.
var solved sync.Map

type question struct {
	animal  animal.Animal
	chance  float64
	footing bool
}

// tensionFor is the effective tension that an animal fires with a chance; Fire falls steadily with the tension.
func tensionFor(a animal.Animal, chance float64, footing bool) float64 {
	if found, ok := solved.Load(question{a, chance, footing}); ok {
		return found.(float64)
	}
	low, high := 0.0, 2000.0
	for range 60 {
		if middle := (low + high) / 2; chanceAt(a, middle, footing) >= chance {
			low = middle
		} else {
			high = middle
		}
	}
	solved.Store(question{a, chance, footing}, low)
	return low
}

// chanceAt is Fire at a tension that is a number.
func chanceAt(a animal.Animal, tensionN float64, footing bool) float64 {
	chance, err := Fire(a, tensionN, footing)
	if err != nil {
		panic(err)
	}
	return chance
}

// Curve is how often an animal fires a pan at gauge settings 0, StepN, 2·StepN, …
type Curve struct {
	Species string    `json:"species"`
	Chance  []float64 `json:"chance"`
}

// Steps of the curves, newtons on the gauge.
const (
	StepN      = 0.5
	curveSteps = 90
)

// Curves draws the curve of each animal under a cover that adds coverN.
func Curves(animals []animal.Animal, coverN float64, footing bool) []Curve {
	curves := make([]Curve, len(animals))
	for i, a := range animals {
		curves[i] = Curve{a.Key, make([]float64, curveSteps+1)}
		for k := range curves[i].Chance {
			curves[i].Chance[k] = chanceAt(a, Effective(float64(k)*StepN, coverN), footing)
		}
	}
	return curves
}
