package bed

import (
	"math"
	"math/rand/v2"
	"testing"

	"oldburrow/core/ground"
	"oldburrow/core/pan"
	"oldburrow/core/seeds"
)

func stands(t *testing.T, in WaterInput) WaterOutput {
	t.Helper()
	out, err := Water(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

// More rain never leaves less water, more salt never freezes sooner, and no bed is drier than dry.
func TestWaterGoesTheRightWay(t *testing.T) {
	seeds.Each(t, 300, func(rng *rand.Rand) {
		in := WaterInput{
			Shelter: Shelters[rng.IntN(3)], Cover: []pan.Material{"peat", "waxed_soil", "dry_soil"}[rng.IntN(3)], Soil: ground.Soils[rng.IntN(7)],
			Drain: Drains[rng.IntN(3)], AreaM2: .04, Agent: "salt", AgentG: 200 * rng.Float64(),
		}
		for range 8 {
			in.RainMm, in.MeanC = append(in.RainMm, 20*rng.Float64()), append(in.MeanC, 12*rng.Float64()-5)
		}
		was := stands(t, in)
		more := in
		more.RainMm = append([]float64{}, in.RainMm...)
		more.RainMm[rng.IntN(8)] += 10
		salted := in
		salted.AgentG += 50
		if w := stands(t, more).WaterMm; w < was.WaterMm-1e-9 || was.WaterMm < 0 {
			t.Errorf("%+v: %g mm, with more rain %g", in, was.WaterMm, w)
		}
		if s := stands(t, salted); s.FreezesAtC > was.FreezesAtC+1e-9 || s.WaterMm != was.WaterMm {
			t.Errorf("%+v: freezes at %g, with more salt at %g", in, was.FreezesAtC, s.FreezesAtC)
		}
	})
	if _, err := Water(WaterInput{RainMm: []float64{1}, Shelter: "open", Cover: "peat", Soil: "loam", Drain: "none", AreaM2: .04}); err == nil {
		t.Error("a day without its temperature is answered")
	}
}

// Of several layers the one that sheds the most counts.
func TestLayersShed(t *testing.T) {
	if got := Sheds([]pan.Material{"dry_soil", "waxed_soil", "peat"}); got != "waxed_soil" {
		t.Errorf("the rain meets %s", got)
	}
}

// Rain that falls in frost waits for the thaw.
func TestSnowWaitsForTheThaw(t *testing.T) {
	in := WaterInput{RainMm: []float64{10, 0}, MeanC: []float64{-4, -4}, Shelter: "open", Cover: "dry_soil", Soil: "firm_clay", Drain: "none", AreaM2: .04}
	if w := stands(t, in).WaterMm; w != 0 {
		t.Errorf("%g mm stand in frost", w)
	}
	in.MeanC[1] = 1
	if w := stands(t, in).WaterMm; math.Abs(w-(12-3-.6)) > 1e-9 {
		t.Errorf("%g mm stand after the thaw", w)
	}
}

// What a bed wants is said in a word; the salt that it is told to take makes it stand the cold.
func TestWhatABedWants(t *testing.T) {
	in := WaterInput{Shelter: "open", Cover: "peat", Soil: "firm_clay", Drain: "none", AreaM2: .04, Agent: "salt", AgentG: 20}
	for _, c := range []struct {
		rain, coldest float64
		word          Word
	}{{0, 5, Sound}, {7, 5, Soft}, {16, 5, Bail}, {16, -6, WillLock}, {0, -30, Sound}} {
		in.RainMm, in.MeanC = []float64{c.rain}, []float64{2}
		if word, _ := stands(t, in).Stands(in, []pan.Material{in.Cover}, c.coldest); word != c.word {
			t.Errorf("%g mm of rain, %g to come: %s, want %s", c.rain, c.coldest, word, c.word)
		}
	}
	in.RainMm = []float64{16}
	out := stands(t, in)
	_, renew := out.Stands(in, nil, -6)
	again := in
	again.RainMm, again.MeanC, again.StandsMm, again.AgentG = nil, nil, out.WaterMm, out.AgentG+renew
	if after := stands(t, again); math.Abs(after.FreezesAtC-(-8)) > .01 {
		t.Errorf("with %g g more it freezes at %g", renew, after.FreezesAtC)
	} else if word, _ := after.Stands(again, []pan.Material{"peat"}, -6); word == WillLock {
		t.Error("it still locks")
	}
	in.Cover, in.RainMm = "damp_packed", []float64{0}
	if word, _ := stands(t, in).Stands(in, []pan.Material{"damp_packed", "waxed_soil"}, -20); word != WillLock {
		t.Errorf("damp cover in hard cold: %s", word)
	}
}

// Part of a day runs off and dries by its share, and so do two days at once; at the freezing point itself it thaws.
func TestPartOfADay(t *testing.T) {
	in := WaterInput{RainMm: []float64{0}, MeanC: []float64{3}, StandsMm: 20, Shelter: "open", Cover: "peat", Soil: "firm_clay", Drain: "none", AreaM2: .04}
	lost := func(hours ...float64) float64 {
		in.Hours = hours
		return 20 - stands(t, in).WaterMm
	}
	whole := lost()
	if half, day, two := lost(12), lost(24), lost(48); whole <= 0 || math.Abs(half-whole/2) > 1e-9 || math.Abs(day-whole) > 1e-9 || math.Abs(two-2*whole) > 1e-9 {
		t.Errorf("of a day %g goes, of half a day %g, of 24 h %g, of two days %g", whole, half, day, two)
	}
	in.Hours, in.MeanC = nil, []float64{0}
	at := stands(t, in)
	in.MeanC[0] = -.01
	if frozen := stands(t, in); at.WaterMm >= frozen.WaterMm {
		t.Errorf("at the freezing point %g mm stand, just under it %g", at.WaterMm, frozen.WaterMm)
	}
}

// Each word begins with the millimetre that it is said to begin with, and of layers that shed alike the first is told.
func TestWordsBeginWhereTheyAreSaidTo(t *testing.T) {
	for _, c := range []struct {
		water, freezes, coldest float64
		word                    Word
	}{
		{1.99, 0, 1, Sound}, {2, 0, 1, Soft}, {7.99, 0, 1, Soft}, {8, 0, 1, Bail},
		{.99, 0, -1, Sound}, {1, 0, -1, WillLock}, {1, 0, 0, Sound}, {1, -5, -5, Sound}, {9, -5, -5.01, WillLock}, {9, -5, -5, Bail},
	} {
		if word, _ := (WaterOutput{WaterMm: c.water, FreezesAtC: c.freezes}).Stands(WaterInput{}, []pan.Material{"peat"}, c.coldest); word != c.word {
			t.Errorf("%g mm that freeze at %g, %g to come: %s, want %s", c.water, c.freezes, c.coldest, word, c.word)
		}
	}
	if a, b := Sheds([]pan.Material{"dry_soil", "sand"}), Sheds([]pan.Material{"sand", "dry_soil"}); lets(a) == lets(b) && (a != "dry_soil" || b != "sand") {
		t.Errorf("of layers that shed alike %s and %s are told", a, b)
	}
}
