package bed

import "testing"

func trap() Input {
	in := Defaults()
	in.FrameLengthMm, in.JawSpreadMm, in.SetHeightMm, in.PanDiameterMm = 170, 140, 40, 60
	return in
}

func of(t *testing.T, change func(*Input)) Output {
	t.Helper()
	in := trap()
	change(&in)
	out, err := Of(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func TestBedGrowsWithWhatLiesInIt(t *testing.T) {
	plain := of(t, func(*Input) {})
	for name, change := range map[string]func(*Input){
		"a larger trap":  func(in *Input) { in.FrameLengthMm += 20 },
		"a wider jaw":    func(in *Input) { in.JawSpreadMm += 20 },
		"more base":      func(in *Input) { in.BaseMm += 10 },
		"more cover":     func(in *Input) { in.CoverMm += 10 },
		"a wider margin": func(in *Input) { in.MarginMm += 10 },
	} {
		out := of(t, change)
		if out.DugL <= plain.DugL || out.FillL <= plain.FillL || out.SpoilL <= out.DugL {
			t.Errorf("%s: %+v beside %+v", name, out, plain)
		}
	}
}

func TestAnUndersizedBedNeedsNoNegativeFill(t *testing.T) {
	out := of(t, func(in *Input) { in.FrameLengthMm, in.JawSpreadMm, in.SetHeightMm = 60, 40, 15 })
	if out.FillL != 0 {
		t.Errorf("filled with %g litres", out.FillL)
	}
}

func TestRefusals(t *testing.T) {
	for name, change := range map[string]func(*Input){
		"frame":  func(in *Input) { in.FrameLengthMm = 0 },
		"jaws":   func(in *Input) { in.JawSpreadMm = 2000 },
		"height": func(in *Input) { in.SetHeightMm = -1 },
		"base":   func(in *Input) { in.BaseMm = -1 },
		"margin": func(in *Input) { in.MarginMm = -1 },
	} {
		in := trap()
		change(&in)
		if _, err := Of(in); err == nil {
			t.Errorf("%s is accepted", name)
		}
	}
}
