// Package seeds draws what tests try at random, so that a failure can be told again.
package seeds

import (
	"math/rand/v2"
	"os"
	"strconv"
	"testing"
)

// Each tries n times with random numbers of a seed each, until one fails, which is named. With OLDBURROW_SEED it begins at that seed: the
// one that failed, or others than are tried every day.
func Each(t *testing.T, n int, try func(rng *rand.Rand)) {
	t.Helper()
	first := uint64(1)
	if said := os.Getenv("OLDBURROW_SEED"); said != "" {
		var err error
		if first, err = strconv.ParseUint(said, 10, 64); err != nil {
			t.Fatalf("OLDBURROW_SEED must be a whole number: %v", err)
		}
	}
	for seed := first; seed < first+uint64(n) && !t.Failed(); seed++ {
		one(t, seed, try)
	}
}

// one says the seed also when the try ends the test.
func one(t *testing.T, seed uint64, try func(rng *rand.Rand)) {
	t.Helper()
	defer func() {
		if t.Failed() {
			t.Logf("told again by OLDBURROW_SEED=%d", seed)
		}
	}()
	try(rand.New(rand.NewPCG(seed, 0)))
}
