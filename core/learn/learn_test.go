package learn

import (
	"errors"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"gonum.org/v1/gonum/stat/distuv"

	"oldburrow/core/refuse"
)

func level(expected, caught float64) Level {
	return Level{Key: "line", Expected: expected, Caught: caught, Shape: LineShape}
}

func factorOf(t *testing.T, levels ...Level) Factor {
	t.Helper()
	out, err := Of(Input{levels})
	if err != nil {
		t.Fatal(err)
	}
	return out.Levels[len(out.Levels)-1]
}

// Without a record promises are told as they are, with the doubt of six links each off by up to half: four products in five lie between.
func TestTheDoubtOfALineWithoutARecord(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	var products []float64
	for range 40000 {
		product := 1.0
		for range 6 {
			product *= .5 + rng.Float64()
		}
		products = append(products, product)
	}
	slices.Sort(products)
	within := 0
	for _, p := range products {
		if p >= Unlearnt.Low && p <= Unlearnt.High {
			within++
		}
	}
	if share := float64(within) / float64(len(products)); Unlearnt.Factor != 1 || math.Abs(share-.8) > .04 {
		t.Errorf("%+v holds %.3f of them", Unlearnt, share)
	}
}

// A catch more never lowers what is told, a barren night more never raises it; with more behind it, it is told more narrowly; and a level
// under another begins where that one ended.
func TestWhatARecordDoes(t *testing.T) {
	last := 0.0
	for caught := range 30 {
		f := factorOf(t, level(20, float64(caught)))
		if f.Factor <= last || f.Low >= f.Factor || f.High <= f.Factor {
			t.Fatalf("%d caught of 20: %+v after %g", caught, f, last)
		}
		last = f.Factor
	}
	if a, b := factorOf(t, level(10, 3)), factorOf(t, level(11, 3)); b.Factor >= a.Factor {
		t.Errorf("a night more: %+v after %+v", b, a)
	}
	if wide, narrow := factorOf(t, level(4, 2)), factorOf(t, level(40, 20)); narrow.High/narrow.Low >= wide.High/wide.Low {
		t.Errorf("%+v is no narrower than %+v", narrow, wide)
	}
	line := factorOf(t, level(40, 12))
	under := factorOf(t, level(40, 12), Level{Key: "spot", Shape: 4})
	if math.Abs(under.Factor-line.Factor) > 1e-12 || under.High-under.Low <= line.High-line.Low {
		t.Errorf("a spot without a record: %+v, its line %+v", under, line)
	}
}

// The four times in five are what they are called: the distribution that the record leaves holds a tenth on either side.
func TestFourTimesInFive(t *testing.T) {
	f := factorOf(t, level(17, 5))
	after := distuv.Gamma{Alpha: 2 + 5, Beta: 2 + 17}
	if math.Abs(after.CDF(f.Low)-.1) > 1e-9 || math.Abs(after.CDF(f.High)-.9) > 1e-9 {
		t.Errorf("%+v", f)
	}
}

func TestLeaks(t *testing.T) {
	even := LinkFound{Model: .5, Reached: 20, Kept: 10}
	of := func(change func(*LinksFound)) LeaksOutput {
		links := LinksFound{even, even, even, even}
		change(&links)
		out, err := Leaks(LeaksInput{links, 1})
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	if out := of(func(*LinksFound) {}); out.Leak != nil || out.Sure || out.Passes != 1 {
		t.Errorf("where all is as promised: %+v", out)
	}
	out := of(func(l *LinksFound) { l.Fires.Kept = 2 })
	if out.Leak == nil || *out.Leak != "fires" || !out.Sure || out.Links.Fires.Factor >= 1 || out.Passes <= 1 {
		t.Errorf("pans that are not fired: %+v", out)
	}
	if small := of(func(l *LinksFound) { l.Fires.Kept, l.Fires.Size = 2, new(3.0) }); *small.Leak != "fires" || small.Sure {
		t.Errorf("by three findings: %+v", small)
	}
	if held := of(func(l *LinksFound) { l.Held.Kept, l.Steps.Kept = 19, 19 }); held.Leak != nil {
		t.Errorf("where more is kept than promised: %+v", held)
	}
	if never := of(func(l *LinksFound) { l.Fires.Reached, l.Fires.Kept = 0, 0 }); never.Leak != nil {
		t.Errorf("where a link was never reached: %+v", never)
	}
	// The bounds are where the binomial's tails hold 2.5 % each.
	told := out.Links.Fires
	if tail := 1 - (distuv.Binomial{N: 20, P: told.Low}).CDF(1); math.Abs(tail-.025) > 1e-6 {
		t.Errorf("the lower bound leaves %g", tail)
	}
	if tail := (distuv.Binomial{N: 20, P: told.High}).CDF(2); math.Abs(tail-.025) > 1e-6 {
		t.Errorf("the upper bound leaves %g", tail)
	}
	if many := of(func(l *LinksFound) { l.Commits.Kept, l.Steps.Kept, l.Fires.Kept = 0, 0, 0 }); many.Passes != mostPassing {
		t.Errorf("passes take all: %g", many.Passes)
	}
}

func TestStanceAndFirstCatch(t *testing.T) {
	near, err := Stance(StanceInput{229, 61, []float64{180, 180, 180}})
	many, _ := Stance(StanceInput{229, 61, slices.Repeat([]float64{180}, 300)})
	if err != nil || near.MeanMm >= 229 || near.MeanMm <= many.MeanMm || math.Abs(many.MeanMm-180) > 3 || many.SDMm >= near.SDMm {
		t.Errorf("three prints %+v, three hundred %+v, %v", near, many, err)
	}
	none, err := FirstCatch(FirstCatchInput{})
	if err != nil || none.Median != nil || len(none.Steps) != 0 {
		t.Errorf("of no set: %+v, %v", none, err)
	}
	half, err := FirstCatch(FirstCatchInput{[]Stood{{4, true}, {9, false}}})
	if err != nil || half.Median == nil || *half.Median != 4 || half.Steps[0].Still != .5 {
		t.Errorf("half of them on the fourth night: %+v, %v", half, err)
	}
}

func TestRefusals(t *testing.T) {
	link := LinkFound{Model: .5, Reached: 4, Kept: 2}
	leak := func(change func(*LeaksInput)) error {
		in := LeaksInput{LinksFound{link, link, link, link}, 1}
		change(&in)
		_, err := Leaks(in)
		return err
	}
	of := func(levels ...Level) error {
		_, err := Of(Input{levels})
		return err
	}
	for field, err := range map[string]error{
		"levels":              of(),
		"levels[0].expected":  of(level(-1, 0)),
		"levels[0].caught":    of(level(1, .5)),
		"levels[1].shape":     of(level(1, 1), Level{Shape: 0}),
		"links.steps.kept":    leak(func(in *LeaksInput) { in.Links.Steps.Kept = 5 }),
		"links.commits.model": leak(func(in *LeaksInput) { in.Links.Commits.Model = 0 }),
		"links.held.size":     leak(func(in *LeaksInput) { in.Links.Held.Size = new(-1.0) }),
		"factor":              leak(func(in *LeaksInput) { in.Factor = 0 }),
		"sdMm":                second(Stance(StanceInput{1, 0, nil})),
		"prints[1]":           second(Stance(StanceInput{1, 1, []float64{1, math.NaN()}})),
		"sets[0].nights":      second(FirstCatch(FirstCatchInput{[]Stood{{0, true}}})),
	} {
		var p refuse.Problems
		if !errors.As(err, &p) || p[0].Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
}

func second[T any](_ T, err error) error { return err }
