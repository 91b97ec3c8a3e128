package odds

import (
	"math"

	"gonum.org/v1/gonum/floats"
	"gonum.org/v1/gonum/stat"
)

// strata are the visits to a set, apart by the way in which they came: what was held of each block of them.
type strata []stratum

// stratum is one way in: its share of the visits, and, block by block, how many visits and the share of them that would be held.
type stratum struct {
	share        float64
	visits, held []float64
}

func (s stratum) mean() float64 {
	if floats.Sum(s.visits) == 0 {
		return 0
	}
	return stat.Mean(s.held, s.visits)
}

// mean is the share of all visits that would be held.
func (s strata) mean() float64 {
	sum := 0.0
	for _, one := range s {
		sum += one.share * one.mean()
	}
	return sum
}

// spread is the variance of the mean of some numbers; infinite where there are fewer than two.
func spread(of []float64) float64 {
	if len(of) < 2 {
		return math.Inf(1)
	}
	return stat.Variance(of, nil) / float64(len(of))
}

// worth is what a set catches in 100 set-nights: what its visits hold, times what the other links come to.
type worth struct {
	held  strata
	scale float64
	// frozen is the same if the year stood still at the first of the nights, as a share.
	frozen float64
}

func (w worth) mean() float64 { return w.scale * w.held.mean() }

// paired is by how much one set is worth more than another, and the standard error of that. Where both are come to in the same ways it is
// told on the same feet, block by block.
func paired(more, less worth) (by, standardError float64) {
	by = more.mean() - less.mean()
	if !alike(more.held, less.held) {
		return by, math.Sqrt(more.variance() + less.variance())
	}
	sum := 0.0
	for i, m := range more.held {
		apart := make([]float64, len(m.held))
		for k := range apart {
			apart[k] = more.scale*m.held[k] - less.scale*less.held[i].held[k]
		}
		sum += m.share * m.share * spread(apart)
	}
	return by, math.Sqrt(sum)
}

func (w worth) variance() float64 {
	sum := 0.0
	for _, s := range w.held {
		sum += w.scale * w.scale * s.share * s.share * spread(s.held)
	}
	return sum
}

// alike tells whether visits are apart in the same way.
func alike(a, b strata) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		if a[i].share != b[i].share || len(a[i].held) != len(b[i].held) {
			return false
		}
	}
	return true
}
