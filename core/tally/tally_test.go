package tally

import (
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"gonum.org/v1/gonum/stat/distuv"

	"oldburrow/core/seeds"
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

// Whatever the clocks do about a midnight, and wherever the machine stands, a night is one midnight of the line's own clock.
func TestNightsAroundChangesOfTheClock(t *testing.T) {
	for name, days := range map[string][][2]int{
		"America/Denver": {{3, 8}, {11, 1}}, "America/Havana": {{3, 8}, {11, 1}}, "Australia/Lord_Howe": {{4, 5}, {10, 4}}, "Africa/Cairo": {{4, 24}, {10, 30}}, "Asia/Kathmandu": {{1, 1}},
	} {
		zone, err := time.LoadLocation(name)
		if err != nil {
			t.Fatal(err)
		}
		for _, d := range days {
			for hours := -30; hours < 30; hours++ {
				from := time.Date(2026, time.Month(d[0]), d[1], 0, 0, 0, 0, time.UTC).Add(time.Duration(hours) * time.Hour)
				for _, later := range []time.Duration{20 * time.Minute, time.Hour, 23 * time.Hour, 25 * time.Hour} {
					to := from.Add(later)
					want := 0
					for at := from; at.Before(to); at = at.Add(10 * time.Minute) {
						if at.Add(10*time.Minute).In(zone).YearDay() != at.In(zone).YearDay() {
							want++
						}
					}
					if got := Nights(from.UTC(), to.UTC(), zone); got != want {
						t.Errorf("%s, %v for %v: %d nights, want %d", name, from.In(zone), later, got, want)
					}
				}
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
	// Cut anywhere, the nights of the parts are those of the whole; a half night stays half on either side.
	looks := []Look{{at(11, 1, 7), true}, {at(11, 4, 7), false}, {at(11, 9, 7), true}}
	for hours := -10; hours < 300; hours++ {
		cut := built.Add(time.Duration(hours) * time.Hour)
		before, after := TrapNights(built, at(11, 12, 7), looks, Span{Until: cut}, zone), TrapNights(built, at(11, 12, 7), looks, Span{From: cut}, zone)
		if before+after != 9.5 || before < 0 || after < 0 {
			t.Fatalf("cut at %s: %g and %g", cut, before, after)
		}
	}
	if got := TrapNights(built, at(11, 12, 7), looks, Span{From: at(11, 5, 12), Until: at(11, 11, 12)}, zone); got != 4 {
		t.Errorf("in a span of six days: %g", got)
	}
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
		if got := TrapNights(built, c.until, c.looks, Span{}, zone); got != c.want {
			t.Errorf("%s: %g, want %g", c.name, got, c.want)
		}
	}
}

// Two rates compare as one draws them: the chance is that of a share as uneven or more so. Which comes first does not matter, and what is
// told apart needs no more nights.
func TestCompare(t *testing.T) {
	of := func(a, b Earned) CompareOutput {
		out, err := Compare(CompareInput{a, b})
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	for _, c := range []struct{ a, b Earned }{{Earned{3, 40}, Earned{9, 55.5}}, {Earned{0, 30}, Earned{4, 60}}, {Earned{7, 20}, Earned{7, 80}}} {
		there, back := of(c.a, c.b), of(c.b, c.a)
		if math.Abs(there.P-back.P) > 1e-9 || (there.More == nil) != (back.More == nil) || there.More != nil && *there.More != *back.More {
			t.Errorf("%+v, the other way round %+v", there, back)
		}
		if (there.More == nil) != (there.P < .05) {
			t.Errorf("%+v", there)
		}
	}
	if _, err := Compare(CompareInput{Earned{mostCatches, 100}, Earned{0, 1}}); err != nil {
		t.Errorf("the most that are counted: %v", err)
	}
	if _, err := Compare(CompareInput{Earned{mostCatches + 1, 100}, Earned{0, 1}}); err == nil {
		t.Error("more than are counted are taken")
	}
	// By one coin in two nights each: one caught at one of them is no news, five at one of them hardly.
	if one := of(Earned{1, 2}, Earned{0, 2}); math.Abs(one.P-1) > 1e-9 {
		t.Errorf("one of one: %+v", one)
	}
	if five := of(Earned{5, 2}, Earned{0, 2}); math.Abs(five.P-.0625) > 1e-9 || five.Ratio != nil {
		t.Errorf("five of five: %+v", five)
	}
	if same := of(Earned{2, 10}, Earned{4, 20}); same.More != nil || *same.Ratio != 1 {
		t.Errorf("alike: %+v", same)
	}
	if none := of(Earned{0, 10}, Earned{0, 20}); none.P != 1 || none.More != nil || none.Ratio != nil {
		t.Errorf("none at all: %+v", none)
	}
	if hair := of(Earned{10, 1000}, Earned{10, 1001}); hair.More == nil || *hair.More != 2000 {
		t.Errorf("by a hair: %+v", hair)
	}
	if _, err := Compare(CompareInput{Earned{10000, 10}, Earned{1, 10}}); err != nil {
		t.Errorf("as many as are counted: %v", err)
	}
	for _, in := range []CompareInput{{Earned{10001, 10}, Earned{1, 10}}, {Earned{1.5, 10}, Earned{1, 10}}, {Earned{1, 10}, Earned{1, 0}}, {Earned{1e6, 10}, Earned{1, 10}}} {
		if _, err := Compare(in); err == nil {
			t.Errorf("%+v is compared", in)
		}
	}
}

// What each night was worth sums to what they are worth together, however they were looked at.
func TestEachNightOfAll(t *testing.T) {
	zone, err := time.LoadLocation("America/Denver")
	if err != nil {
		t.Fatal(err)
	}
	seeds.Each(t, 300, func(rng *rand.Rand) {
		built := time.Date(2026, 10, 20, rng.IntN(24), rng.IntN(60), 0, 0, zone)
		until := built.Add(time.Duration(rng.IntN(40*24)) * time.Hour)
		var looks []Look
		for at := built; ; {
			if at = at.Add(time.Duration(1+rng.IntN(90)) * time.Hour); at.After(until.Add(48 * time.Hour)) {
				break
			}
			looks = append(looks, Look{at, rng.IntN(3) == 0})
		}
		each := Each(built, until, looks, zone)
		sum := 0.0
		for _, worth := range each {
			if worth != 1 && worth != .5 {
				t.Fatalf("a night is worth %g", worth)
			}
			sum += worth
		}
		if want := TrapNights(built, until, looks, Span{}, zone); sum != want || len(each) != Nights(built, until, zone) {
			t.Fatalf("%v sum to %g, want %g", each, sum, want)
		}
	})
}
