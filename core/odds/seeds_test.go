package odds

import (
	"math"
	"testing"
)

// Visits are independent of each other: over forty seeds the share that fires a pan spreads as that of so many throws of one coin does, and
// not by a quarter more; and the mean over all of them is that of one long run.
func TestVisitsAreIndependent(t *testing.T) {
	t.Parallel()
	const visits, seeds = 2000, 40
	for _, pattern := range []string{"hole", "trail_pair", "tuft", "object"} {
		share := func(n int, seed uint64) float64 {
			a, err := Of(Question{Layout: set(t, pattern, "coyote"), Target: kind("coyote"), Visits: n, Seed: seed})
			if err != nil {
				t.Fatal(err)
			}
			return a.Feet.Fire
		}
		sum, square := 0.0, 0.0
		for seed := range uint64(seeds) {
			p := share(visits, 1000+seed)
			sum, square = sum+p, square+p*p
		}
		mean := sum / seeds
		spread := math.Sqrt((square - seeds*mean*mean) / (seeds - 1))
		coin := math.Sqrt(mean * (1 - mean) / visits)
		if spread > 1.25*coin || spread < .6*coin {
			t.Errorf("%s: fires %.3f, spread %.5f over %d seeds, a coin's is %.5f", pattern, mean, spread, seeds, coin)
		}
		if long := share(visits*seeds/2, 7); math.Abs(long-mean) > 4*coin/math.Sqrt(seeds)*1.8 {
			t.Errorf("%s: fires %.4f over all seeds, %.4f in one long run", pattern, mean, long)
		}
	}
}
