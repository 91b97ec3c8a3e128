package demo

import (
	"slices"
	"strings"
	"testing"

	"oldburrow/core/line"
)

// The season that is kept has all that there is to show, and one that lacks something is told
// apart.
func TestTheSeasonFits(t *testing.T) {
	s := season(t)
	for _, lacks := range Fits(s) {
		t.Error(lacks)
	}
	without := func(is func(line.Visit) bool) []string {
		fewer := s
		fewer.Visits = slices.DeleteFunc(slices.Clone(s.Visits), is)
		return Fits(fewer)
	}
	for what, is := range map[string]func(line.Visit) bool{
		"no dog was held":                    func(v line.Visit) bool { return len(v.Catches) > 0 && v.Catches[0].Species == "dog" },
		"nothing was found lost":             func(v line.Visit) bool { return v.Finding == line.FoundLost },
		"what is gone was not searched for":  func(v line.Visit) bool { return v.Finding == line.FoundAgain && len(v.Catches) == 0 },
		"nothing stepped on the silent trap": func(v line.Visit) bool { return v.Finding == line.FoundStepped },
		"the rebuilt hole held no grey fox":  func(v line.Visit) bool { return len(v.Catches) > 0 && v.Catches[0].Species == "grey_fox" },
		"targets, not 25 to 40":              func(v line.Visit) bool { return len(v.Catches) > 0 },
	} {
		if lacks := without(is); !slices.ContainsFunc(lacks, func(l string) bool { return strings.HasSuffix(l, what) }) {
			t.Errorf("without it, %q is not among %q", what, lacks)
		}
	}
	for _, m := range s.Makes {
		for _, rig := range m.Layout.Rigs {
			if rig.TrapID == trapID(fouled) && m.BuiltAt.After(at(11, 14, 9, 0)) {
				t.Error("the fouled trap still stands")
			}
		}
	}
}
