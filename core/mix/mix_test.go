package mix

import (
	"errors"
	"math"
	"testing"

	"oldburrow/core/refuse"
)

func TestThereAndBack(t *testing.T) {
	for _, agent := range Agents {
		table := tables[agent]
		last := 1.0
		for percent := 0.0; percent <= table[len(table)-1].percent; percent += 0.7 {
			out, err := FreezePoint(FreezePointInput{agent, percent})
			if err != nil {
				t.Fatal(err)
			}
			if out.FreezesAtC >= last {
				t.Errorf("%s at %.1f %% freezes at %.2f °C, no lower than weaker", agent, percent, out.FreezesAtC)
			}
			last = out.FreezesAtC
			back, err := FreezeProtect(FreezeProtectInput{agent, out.FreezesAtC})
			if err != nil || math.Abs(back.Percent-percent) > 1e-9 {
				t.Errorf("%s: %.1f %% comes back as %.4f, %v", agent, percent, back.Percent, err)
			}
		}
		if out, err := FreezeProtect(FreezeProtectInput{agent, 4}); err != nil || out.Percent != 0 {
			t.Errorf("%s above freezing: %+v, %v", agent, out, err)
		}
	}
}

func TestHalfAndHalf(t *testing.T) {
	if got := GlycerinPercent(50, 50); math.Abs(got-55.3) > .05 {
		t.Errorf("volume halves are %.2f %%", got)
	}
	if GlycerinPercent(0, 0) != 0 {
		t.Error("nothing has a strength")
	}
}

func TestDiluteAddsUp(t *testing.T) {
	out, err := Dilute(DiluteInput{Parts: []float64{1, 2.5, 0, 7}, TotalMl: 333})
	if err != nil {
		t.Fatal(err)
	}
	sum := 0.0
	for _, ml := range out.Ml {
		sum += ml
	}
	if math.Abs(sum-333) > 1e-9 || out.Ml[2] != 0 || math.Abs(out.Ml[1]/out.Ml[0]-2.5) > 1e-9 {
		t.Errorf("%v", out.Ml)
	}
}

func TestRefusals(t *testing.T) {
	second := func(_ any, err error) error { return err }
	for field, err := range map[string]error{
		"agent":    second(FreezePoint(FreezePointInput{"tea", 5})),
		"percent":  second(FreezePoint(FreezePointInput{"salt", 24})),
		"toC":      second(FreezeProtect(FreezeProtectInput{"salt", -22})),
		"parts":    second(Dilute(DiluteInput{TotalMl: 5})),
		"parts[1]": second(Dilute(DiluteInput{Parts: []float64{1, -1}, TotalMl: 5})),
		"totalMl":  second(Dilute(DiluteInput{Parts: []float64{1}})),
	} {
		var p refuse.Problems
		if !errors.As(err, &p) || p[0].Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
	if err := second(Dilute(DiluteInput{Parts: []float64{0, 0}, TotalMl: 5})); err == nil {
		t.Error("a recipe of nothing is mixed")
	}
}
