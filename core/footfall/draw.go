package footfall

import (
	"math"
	"math/rand/v2"

	"gonum.org/v1/gonum/stat/distuv"

	"oldburrow/core/animal"
)

// stream draws random numbers. Its source is held by value and called straight: a visit takes dozens.
type stream struct{ rand.PCG }

// uniform draws evenly from 0 to 1, without 1.
func (s *stream) uniform() float64 { return float64(s.Uint64()>>11) / (1 << 53) }

// side is one of both sides, -1 or 1.
func (s *stream) side() float64 {
	if s.Uint64()&1 == 0 {
		return -1
	}
	return 1
}

// normal draws N(mean, sd), cut at 3 sd as if it were redrawn outside.
func (s *stream) normal(of animal.Spread) float64 {
	at := s.Uint64()
	bin, within := at>>(64-quantileBits), float64(at<<quantileBits>>11)/(1<<53)
	return of.Mean + of.SD*(quantiles[bin]+within*(quantiles[bin+1]-quantiles[bin]))
}

const quantileBits = 12

// quantiles are those of the normal distribution cut at 3 sd, at even steps of chance. Between two of them it is as good as straight,
// and looking a draw up takes half the time of making one.
var quantiles = func() (z [1<<quantileBits + 1]float64) {
	outside := distuv.UnitNormal.CDF(-3)
	for i := range z {
		z[i] = distuv.UnitNormal.Quantile(outside + (1-2*outside)*float64(i)/(1<<quantileBits))
	}
	return z
}()

// sincos is that of an angle, radians, from a table: within 3e-7, which is less than a thousandth of a millimetre at a set. Computing it
// would take a fifth of a run.
func sincos(angle float64) (sin, cos float64) {
	at := angle * (circleSteps / (2 * math.Pi))
	step := math.Floor(at)
	within := at - step
	a, b := &circle[int(step)&(circleSteps-1)], &circle[int(step)&(circleSteps-1)+1]
	return a.sin + within*(b.sin-a.sin), a.cos + within*(b.cos-a.cos)
}

const circleSteps = 1 << 12

// circle is sine and cosine at even steps of a turn.
var circle = func() (of [circleSteps + 1]struct{ sin, cos float64 }) {
	for i := range of {
		of[i].sin, of[i].cos = math.Sincos(2 * math.Pi * float64(i) / circleSteps)
	}
	return of
}()

// poisson draws by multiplying uniform numbers (Knuth), which is quick for the small means met here. none is e^-mean.
func (s *stream) poisson(none float64) int {
	n, product := 0, s.uniform()
	for product > none {
		n++
		product *= s.uniform()
	}
	return n
}
