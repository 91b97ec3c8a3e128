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
	for _, target := range animal.Reference.TargetKeys() {
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
		for _, other := range animal.Reference.Keys() {
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
	for _, key := range animal.Reference.TargetKeys() {
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

// Each verdict begins exactly where it is said to: a fifth and a twentieth that walk over the pan, the floor, the trade's figure and what a
// gauge may read above it.
func TestVerdictsBeginWhereTheyAreSaidTo(t *testing.T) {
	plain, crossed := WindowOutput{MinN: 10, MaxN: 20}, WindowOutput{MinN: 20, MaxN: 10, Conflict: true}
	trade := WindowOutput{MinN: 10, MaxN: 20, ByTrade: true}
	for _, c := range []struct {
		window       WindowOutput
		gaugeN, fail float64
		want         Verdict
	}{
		{plain, 15, .05, Inside}, {plain, 15, .0501, Doubted}, {plain, 15, .2, Doubted}, {plain, 15, .2001, Heavy},
		{plain, 10, 0, Inside}, {plain, 9.99, 0, Light}, {plain, 9.99, .1, Light}, {plain, 9.99, .3, Heavy},
		{crossed, 15, 0, Conflicted}, {crossed, 15, .2, Conflicted}, {crossed, 15, .21, Heavy},
		{trade, 20, .5, Inside}, {trade, 20.05, .5, Inside}, {trade, 20.06, .5, Heavy}, {trade, 9, .5, Light}, {plain, 20, .5, Heavy},
	} {
		if got := c.window.Verdict(c.gaugeN, c.fail); got != c.want {
			t.Errorf("%+v at %g N, walked over by %g: %s, want %s", c.window, c.gaugeN, c.fail, got, c.want)
		}
	}
}

// The trade's figure holds up to a cover of one newton, where it is the larger; a window of one setting is one, and so is one at nothing.
func TestTheWindowsEdges(t *testing.T) {
	own := window(t, func(*WindowInput) {}).MaxN
	for cover, want := range map[float64]bool{0: true, 1: true, 1.01: false} {
		if got := window(t, func(in *WindowInput) { in.CoverN, in.TradeN = cover, own+3 }); got.ByTrade != want || want && got.MaxN != own+3 {
			t.Errorf("under %g N: %+v", cover, got)
		}
	}
	if got := window(t, func(in *WindowInput) { in.TradeN = own }); got.ByTrade {
		t.Errorf("the trade's figure is no larger: %+v", got)
	}
	if got := window(t, func(in *WindowInput) { in.CoverN = own }); got.MaxN != 0 || got.Conflict {
		t.Errorf("a window at nothing: %+v", got)
	}
	floor := window(t, func(in *WindowInput) { in.Avoid = kinds("skunk") }).MinN
	if got := window(t, func(in *WindowInput) { in.Avoid, in.CoverN, in.TradeN = kinds("skunk"), 0, floor }); got.Conflict {
		t.Errorf("%+v", got)
	}
	for _, c := range []struct {
		given Material
		says  string
	}{{"", "material"}, {"mud", "material"}} {
		_, err := Cover(CoverInput{Material: c.given, ThicknessMm: 5, PanDiameterMm: 60})
		if p, ok := err.(refuse.Problems); !ok || p[0].Field != c.says {
			t.Errorf("a cover of %q: %v", c.given, err)
		}
	}
	shear := 1.0
	_, err := Cover(CoverInput{ShearKPa: &shear, ThicknessMm: 5, PanDiameterMm: 60})
	if p, ok := err.(refuse.Problems); !ok || len(p) != 1 || p[0].Field != "densityKgM3" {
		t.Errorf("a strength alone: %v", err)
	}
	dense := 1300.0
	given, err := Cover(CoverInput{ShearKPa: &shear, DensityKgM3: &dense, ThicknessMm: 5, PanDiameterMm: 60})
	if named, other := mustCover(t, "dry_soil"), mustCover(t, "sand"); err != nil || given == named || named == other {
		t.Errorf("by its figures %+v, named %+v and %+v (%v)", given, named, other, err)
	}
}

func mustCover(t *testing.T, material Material) CoverOutput {
	t.Helper()
	out, err := Cover(CoverInput{Material: material, ThicknessMm: 5, PanDiameterMm: 60})
	if err != nil {
		t.Fatal(err)
	}
	return out
}
