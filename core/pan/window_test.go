package pan

import (
	"errors"
	"math"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/refuse"
)

func window(t *testing.T, change func(*WindowInput)) WindowOutput {
	t.Helper()
	in := WindowDefaults()
	in.Targets = kinds("coyote")
	change(&in)
	out, err := Window(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// A heavier cover never raises either end, and another animal to spare never lowers the floor.
func TestWindowProperties(t *testing.T) {
	for _, target := range animal.TargetKeys() {
		last := WindowOutput{MinN: math.Inf(1), MaxN: math.Inf(1)}
		for cover := -1.0; cover < 30; cover += 1.5 {
			out := window(t, func(in *WindowInput) {
				in.Targets, in.Avoid, in.CoverN = kinds(target), kinds("skunk", "opossum"), cover
			})
			if out.MinN > last.MinN || out.MaxN >= last.MaxN || out.MinN < 0 {
				t.Errorf("%s under %g N: %+v after %+v", target, cover, out, last)
			}
			last = out
		}
		var avoid []string
		floor := 0.0
		for _, other := range animal.Keys() {
			if other == target {
				continue
			}
			avoid = append(avoid, other)
			out := window(t, func(in *WindowInput) { in.Targets, in.Avoid = kinds(target), kinds(avoid...) })
			if out.MinN < floor {
				t.Errorf("%s: sparing %s too lowers the floor to %g", target, other, out.MinN)
			}
			floor = out.MinN
		}
	}
}

// At the ends of the window the chances are what was asked for.
func TestWindowEndsHoldTheirChances(t *testing.T) {
	out := window(t, func(in *WindowInput) {
		in.Targets, in.Avoid, in.CoverN = kinds("coyote", "bobcat"), kinds("skunk"), 2
	})
	if a, b := fire(t, "bobcat", out.MaxN+2), fire(t, "coyote", out.MaxN+2); math.Abs(math.Min(a, b)-.95) > 1e-6 {
		t.Errorf("at the ceiling coyote %g, bobcat %g", b, a)
	}
	if c := fire(t, "skunk", out.MinN+2); math.Abs(c-.10) > 1e-6 {
		t.Errorf("at the floor skunk %g", c)
	}
	if frozen := window(t, func(in *WindowInput) { in.CoverN = 112 }); !frozen.Conflict || frozen.MaxN >= 0 || frozen.MinN != 0 {
		t.Errorf("under a frozen cover: %+v", frozen)
	}
}

// The curves of the trade-off cross the chances that were asked for where the window says so.
func TestCurvesAgreeWithTheWindow(t *testing.T) {
	out := window(t, func(in *WindowInput) { in.Targets, in.Avoid, in.CoverN = kinds("red_fox"), kinds("skunk"), 2 })
	if !out.Conflict {
		t.Fatalf("fox against skunk leaves room: %+v", out)
	}
	curves := Curves(kinds("red_fox", "skunk"), 2, false)
	for i, end := range []struct{ at, chance float64 }{{out.MaxN, .95}, {out.MinN, .10}} {
		c, last := curves[i], 1.0
		for k, chance := range c.Chance {
			if chance > last {
				t.Errorf("%s rises at %g N", c.Species, float64(k)*StepN)
			}
			if at := float64(k) * StepN; at < end.at && chance < end.chance || at > end.at && chance > end.chance {
				t.Errorf("%s fires in %g at %g N; the window ends at %g", c.Species, chance, at, end.at)
			}
			last = chance
		}
	}
}

func TestWindowRefusals(t *testing.T) {
	for field, change := range map[string]func(*WindowInput){
		"targets":      func(in *WindowInput) { in.Targets = nil },
		"avoid[1]":     func(in *WindowInput) { in.Avoid = kinds("skunk", "coyote") },
		"targetChance": func(in *WindowInput) { in.TargetChance = 1 },
		"avoidChance":  func(in *WindowInput) { in.AvoidChance = 0 },
		"coverN":       func(in *WindowInput) { in.CoverN = math.NaN() },
	} {
		in := WindowDefaults()
		in.Targets = kinds("coyote")
		change(&in)
		_, err := Window(in)
		var p refuse.Problems
		if !errors.As(err, &p) || p[0].Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// What the trade sets a pan to is not doubted under a cover that adds next to nothing, whatever the model gives; above it, or under a heavier
// cover, the model judges; and what is to be spared is told all the same.
func TestTheTradesFigureIsInside(t *testing.T) {
	for key, trade := range map[string]float64{"coyote": 17.8, "bobcat": 13.3, "red_fox": 8.9, "grey_fox": 8.9} {
		for cover := -1.0; cover < 6; cover += .25 {
			out := window(t, func(in *WindowInput) { in.Targets, in.CoverN, in.TradeN = kinds(key), cover, trade })
			fails := func(gauge float64) float64 { return 1 - fire(t, key, Effective(gauge, cover)) }
			for gauge := 2.0; gauge < 40; gauge += .5 {
				model := WindowOutput{MinN: out.MinN, MaxN: out.MaxN, Conflict: out.Conflict}.Verdict(gauge, fails(gauge))
				want := model
				if gauge <= trade && cover <= 1 {
					want = Inside
				}
				if got := out.Verdict(gauge, fails(gauge)); got != want {
					t.Errorf("%s at %g N under %g: %s, want %s", key, gauge, cover, got, want)
				}
			}
			plain := window(t, func(in *WindowInput) { in.Targets, in.CoverN = kinds(key), cover })
			if by := cover <= 1 && trade > plain.MaxN; out.ByTrade != by || by && out.MaxN != trade || !by && out.MaxN != plain.MaxN {
				t.Errorf("%s under %g: %+v, by the model alone %+v", key, cover, out, plain)
			}
		}
	}
	out := window(t, func(in *WindowInput) {
		in.Targets, in.Avoid, in.CoverN, in.TradeN = kinds("red_fox"), kinds("skunk"), .7, 8.9
	})
	if out.Verdict(8.9, .06) == Inside {
		t.Error("a fox pan that skunks fire is sound")
	}
}

// On the one dry footing an animal puts most of its weight on the foot: a pan may be set harder there.
func TestOnAFooting(t *testing.T) {
	for _, key := range animal.TargetKeys() {
		for tension := 5.0; tension < 60; tension += 5 {
			on, err := Fire(kind(key), tension, true)
			if err != nil || on < fire(t, key, tension) {
				t.Fatalf("%s at %g N: %g on a footing, %g else", key, tension, on, fire(t, key, tension))
			}
		}
		plain, footed := window(t, func(in *WindowInput) { in.Targets = kinds(key) }), window(t, func(in *WindowInput) { in.Targets, in.Footing = kinds(key), true })
		if footed.MaxN < 1.5*plain.MaxN {
			t.Errorf("%s: up to %g N on a footing, %g else", key, footed.MaxN, plain.MaxN)
		}
	}
}
