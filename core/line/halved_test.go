package line

import (
	"testing"

	"oldburrow/core/layout"
	"oldburrow/core/tally"
)

// Nights are halved by the look that follows them; where one look follows many it is told how many.
func TestHalved(t *testing.T) {
	zone := day(1, 0).Location()
	made := Make{ID: "M", SetID: "S", BuiltAt: day(1, 16), Layout: layout.Layout{Rigs: []layout.Rig{{Slot: 0}, {Slot: 1}}}}
	look := func(d int, finding Finding) Visit {
		return Visit{ID: string(finding), MakeID: "M", At: day(d, 7), Found: Found{Finding: finding}}
	}
	gone := look(9, "robbed")
	gone.Rigs = []RigFound{{0, "locked"}, {1, "set"}}
	for name, c := range map[string]struct {
		looks []Visit
		span  tally.Span
		want  float64
	}{
		"nobody looked":             {nil, tally.Span{}, 0},
		"two nights":                {[]Visit{look(3, "robbed")}, tally.Span{}, 0},
		"three nights":              {[]Visit{look(4, "robbed")}, tally.Span{}, 0},
		"four nights, of two traps": {[]Visit{look(5, "robbed")}, tally.Span{}, 8},
		"whole ones":                {[]Visit{look(9, "passed")}, tally.Span{}, 0},
		"a look in between":         {[]Visit{look(5, "quiet"), look(7, "robbed")}, tally.Span{}, 0},
		"one trap of two":           {[]Visit{look(2, "quiet"), gone}, tally.Span{}, 7},
		"in part of the span":       {[]Visit{look(9, "robbed")}, tally.Span{From: day(4, 0)}, 2 * 5},
		"what came later is whole":  {[]Visit{look(9, "robbed"), look(20, "quiet")}, tally.Span{}, 16},
	} {
		r := NewRecord(day(21, 9), zone, c.span, Noted{Makes: []Make{made}, Visits: c.looks})
		if got := r.Halved(made); got != c.want {
			t.Errorf("%s: %g, want %g", name, got, c.want)
		}
	}
}

// Each size has measures of its own that a trap of it can have, and the middling one is as a form begins.
func TestTrapSizes(t *testing.T) {
	seen := map[float64]bool{}
	for _, s := range TrapSizes() {
		x := NewTrap()
		x.ID, x.Number, x.Size = "01K8V7Z8R5Q6T9W3X1Y2Z4A5B6", 1, s.Size
		x.JawSpreadMm, x.FrameLengthMm, x.SetHeightMm, x.PanDiameterMm, x.WeightG = s.JawSpreadMm, s.FrameLengthMm, s.SetHeightMm, s.PanDiameterMm, s.WeightG
		if err := x.Check(animals); err != nil || seen[s.JawSpreadMm] {
			t.Errorf("size %s: %v", s.Size, err)
		}
		seen[s.JawSpreadMm] = true
		if s.Size == "2" && (s.JawSpreadMm != NewTrap().JawSpreadMm || s.WeightG != NewTrap().WeightG) {
			t.Errorf("the middling size is %+v", s)
		}
	}
	x := NewTrap()
	x.ID, x.Number, x.Size, x.Usual = "01K8V7Z8R5Q6T9W3X1Y2Z4A5B6", 1, "2", []string{"tag"}
	if err := x.Check(animals); err == nil {
		t.Error("a tag is no measure")
	}
}
