// Package anchor computes what holds a caught animal: how hard it pulls (N), what an anchor bears in a soil (N), how likely it holds,
// what lies within its reach (mm), and how far it runs with a drag (m). What a soil bears follows published methods that are named where
// they are used; how hard an animal pulls, and how drags run, are judgements.
package anchor

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/refuse"
)

// PullInput is a chain, and whether it has a shock spring.
type PullInput struct {
	ChainMm     float64 `json:"chainMm"`
	ShockSpring bool    `json:"shockSpring,omitempty"`
}

// PullOutput is how hard a heavy animal of its kind pulls, N.
type PullOutput struct {
	DemandN float64 `json:"demandN"`
}

// Figures of the pull; judgements.
const (
	heavySD    = 1.645 // one of twenty is heavier
	fastestV2  = 25.0  // m²/s²
	gathers    = 4.0   // m/s² over the run that the chain leaves
	runsChains = 1.6
	longestRun = 3.0 // m
	givesM     = 0.30
	springM    = 0.03
	leastTimes = 1.5 // its own weight
	gravity    = 9.81
	longestMm  = 10000
)

// Pull is the energy of a run to the end of the chain, taken up by a give that is linear. It refuses a chain that cannot be.
func Pull(a animal.Animal, in PullInput) (PullOutput, error) {
	var p refuse.Problems
	p.Within("chainMm", in.ChainMm, 0, longestMm, " mm")
	if err := p.Err(); err != nil {
		return PullOutput{}, err
	}
	m := heavyKg(a)
	v2 := math.Min(fastestV2, 2*gathers*math.Min(longestRun, runsChains*in.ChainMm/kilo))
	give := givesM
	if in.ShockSpring {
		give += springM
	}
	return PullOutput{math.Max(m*v2/give, leastTimes*m*gravity)}, nil
}

// Heavier tells whether an animal pulls harder than another on the same chain.
func Heavier(a, b animal.Animal) bool {
	return heavyKg(a) > heavyKg(b)
}

// heavyKg is the mass of a heavy animal of its kind, kg: what it pulls grows with that alone.
func heavyKg(a animal.Animal) float64 { return a.MassKg.Mean + heavySD*a.MassKg.SD }

// CircleInput is a trap on its chain and how far its anchor lies from what the animal came to.
type CircleInput struct {
	ChainMm             float64 `json:"chainMm"`
	TrapLengthMm        float64 `json:"trapLengthMm"`
	AnchorToAttractorMm float64 `json:"anchorToAttractorMm"`
}

// CircleOutput is the radius that is churned up, the radius within which the animal reaches a thing, and the share of the pattern, a disc
// about the attractor, that is churned up.
type CircleOutput struct {
	WearMm       float64 `json:"wearMm"`
	ReachMm      float64 `json:"reachMm"`
	PatternShare float64 `json:"patternShare"`
}

const patternMm = 300.0

// CircleDefaults are the length of a middling trap.
func CircleDefaults() CircleInput { return CircleInput{TrapLengthMm: 150} }

// CircleOf is what an animal held by a foot churns up and reaches about its anchor. It refuses lengths that cannot be.
func CircleOf(a animal.Animal, in CircleInput) (CircleOutput, error) {
	var p refuse.Problems
	p.Within("chainMm", in.ChainMm, 0, longestMm, " mm")
	p.Within("trapLengthMm", in.TrapLengthMm, 0, 1000, " mm")
	p.Within("anchorToAttractorMm", in.AnchorToAttractorMm, 0, longestMm, " mm")
	if err := p.Err(); err != nil {
		return CircleOutput{}, err
	}
	wear := in.ChainMm + in.TrapLengthMm + a.ShoulderMm/2
	return CircleOutput{wear, in.ChainMm + in.TrapLengthMm + a.ShoulderMm, covered(patternMm, wear, in.AnchorToAttractorMm)}, nil
}

// covered is the share of a disc of radius r that lies within another of radius R whose middle is d away.
func covered(r, R, d float64) float64 {
	switch {
	case d >= r+R:
		return 0
	case d <= R-r:
		return 1
	case d <= r-R:
		return R * R / (r * r)
	}
	a := r * r * math.Acos(clamp((d*d+r*r-R*R)/(2*d*r)))
	b := R * R * math.Acos(clamp((d*d+R*R-r*r)/(2*d*R)))
	c := .5 * math.Sqrt(math.Max(0, (-d+r+R)*(d+r-R)*(d-r+R)*(d+r+R)))
	return (a + b - c) / (math.Pi * r * r)
}

func clamp(x float64) float64 { return math.Max(-1, math.Min(1, x)) }

// spreadOf is how much what an anchor bears, and an animal asks, differ from what is computed: of the logarithm. A judgement.
const spreadOf = 0.35

// Chance is that an anchor which bears so much holds what asks so much.
func Chance(capacityN, demandN float64) float64 {
	switch {
	case demandN <= 0:
		return 1
	case capacityN <= 0:
		return 0
	}
	return distuv.LogNormal{Mu: math.Log(demandN), Sigma: spreadOf}.CDF(capacityN)
}

// Surety is how surely an anchor holds.
type Surety string

// Words for how an anchor holds.
const (
	Holds    Surety = "holds"
	Doubtful Surety = "doubtful"
	Fails    Surety = "fails"
)

// Sureties lists them.
var Sureties = []Surety{Holds, Doubtful, Fails}

// Word is what is said of an anchor: less than asked fails, less than half as much again is doubtful.
func Word(capacityN, demandN float64) Surety {
	switch {
	case capacityN < demandN:
		return Fails
	case capacityN < 1.5*demandN:
		return Doubtful
	}
	return Holds
}

// Run is how far an animal goes with a drag, m: in the middle of cases, and in all but one of twenty.
type Run struct {
	MedianM float64 `json:"medianM"`
	FarM    float64 `json:"farM"`
}

// covers are what a drag can hang in: how far it runs there, in the middle, and how likely it holds. Judgements.
var covers = map[layout.DragCover]struct{ medianM, hold float64 }{
	"thick_brush": {15, .97}, "timber": {28, .95}, "edge": {40, .9}, "open": {150, .6},
}

const (
	farTimes   = 3.0 // the median
	tiedHolds  = .99
	priorFinds = 5.0
)

// RunIn is how far a drag runs in a cover, by the trade's habit and by one's own finds there, m. It refuses a cover that is not known.
func RunIn(cover layout.DragCover, found []float64) (Run, error) {
	var p refuse.Problems
	if refuse.OneOf(&p, "cover", cover, layout.DragCovers); len(p) > 0 {
		return Run{}, p.Err()
	}
	sum, n := priorFinds*math.Log(covers[cover].medianM), priorFinds
	for _, m := range found {
		sum, n = sum+math.Log(math.Max(1, m)), n+1
	}
	median := math.Exp(sum / n)
	return Run{median, farTimes * median}, nil
}

// dragHolds is how likely what goes with the animal holds it.
func dragHolds(cover layout.DragCover, tied bool) *float64 {
	if tied {
		return new(tiedHolds)
	}
	if c, ok := covers[cover]; ok {
		return &c.hold
	}
	return nil
}
