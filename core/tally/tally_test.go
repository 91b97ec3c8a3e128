package tally

import (
	"math"
	"testing"
	"time"

	"gonum.org/v1/gonum/stat/distuv"
)

// The interval's bounds are where the Poisson tails hold 2.5 % each.
func TestRateBoundsAreExact(t *testing.T) {
	for _, k := range []float64{0, 1, 3, 19, 140} {
		out, err := Rate(RateInput{Catches: k, TrapNights: 100, Confidence: .95})
		if err != nil {
			t.Fatal(err)
		}
		if upper := (distuv.Poisson{Lambda: out.High}).CDF(k); math.Abs(upper-.025) > 1e-6 {
			t.Errorf("%g catches: the upper bound leaves %g below", k, upper)
		}
		if k > 0 {
			if lower := 1 - (distuv.Poisson{Lambda: out.Low}).CDF(k-1); math.Abs(lower-.025) > 1e-6 {
				t.Errorf("%g catches: the lower bound leaves %g above", k, lower)
			}
		}
	}
}

func TestTrapNights(t *testing.T) {
	zone, err := time.LoadLocation("America/Denver")
	if err != nil {
		t.Fatal(err)
	}
	at := func(month time.Month, day, hour int) time.Time {
		return time.Date(2026, month, day, hour, 0, 0, 0, zone)
	}
	built := at(10, 30, 15)
	for _, c := range []struct {
		name  string
		until time.Time
		looks []Look
		want  float64
	}{
		{"the same day", at(10, 30, 23), nil, 0},
		{"through midnight", at(10, 31, 0), nil, 1},
		{"over the clocks' change", at(11, 2, 7), nil, 3},
		{"a half night", at(11, 1, 7), []Look{{at(10, 31, 7), true}}, 1.5},
		{"two halves, then whole", at(11, 3, 7), []Look{{at(11, 1, 7), true}, {at(11, 2, 7), false}}, 3},
		{"a look after the end", at(10, 31, 8), []Look{{at(11, 1, 7), true}}, 1},
		{"before it was built", at(10, 29, 8), nil, 0},
	} {
		if got := TrapNights(built, c.until, c.looks, zone); got != c.want {
			t.Errorf("%s: %g, want %g", c.name, got, c.want)
		}
	}
}
