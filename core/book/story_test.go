package book

import (
	"slices"
	"testing"
	"time"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/tally"
)

// Each night of a make is what the look on the morning after found; of several looks on a morning what one of them found stands, and a morning on which
// nobody looked is blank.
func TestTheStoryOfASet(t *testing.T) {
	on := func(day, hour int) time.Time { return time.Date(2026, 11, day, hour, 0, 0, 0, time.UTC) }
	look := func(day, hour int, of string, finding line.Finding, caught ...string) line.Visit {
		v := line.Visit{ID: time.Duration(day*24+hour).String() + of, MakeID: of, At: on(day, hour), Found: line.Found{Finding: finding}}
		for _, c := range caught {
			v.Catches = append(v.Catches, line.Catch{Species: c})
		}
		return v
	}
	made := func(id string, day int) line.Make {
		return line.Make{ID: id, SetID: "S", BuiltAt: on(day, 16), Target: "coyote", Layout: layout.Layout{Kind: "flat", Pattern: "object", Rigs: []layout.Rig{{}}}}
	}
	r := line.NewRecord(on(9, 12), time.UTC, tally.Span{}, line.Noted{
		Sets: []line.Set{{ID: "S", Number: 4, SpotID: "gate"}}, Makes: []line.Make{made("a", 1), made("b", 5)},
		Visits: []line.Visit{look(2, 7, "a", line.FoundQuiet), look(3, 6, "a", line.FoundPassed), look(3, 9, "a", line.FoundQuiet), look(5, 7, "a", line.FoundCatch, "bobcat"), look(8, 7, "b", line.FoundLocked)},
	})
	s := StoryOf(r, "S")
	if s.Number != 4 || s.SpotID != "gate" || len(s.Makes) != 2 {
		t.Fatalf("%+v", s)
	}
	for i, want := range [][]line.Finding{{"quiet", "passed", "", "catch"}, {"", "", "locked", ""}} {
		if got := s.Makes[i].Nights; !slices.Equal(got, want) {
			t.Errorf("make %d: %q, want %q", i, got, want)
		}
	}
	if !slices.Equal(s.Makes[0].Caught, []string{"bobcat"}) || s.Makes[0].PulledAt == nil || s.Makes[1].PulledAt != nil {
		t.Errorf("%+v", s.Makes)
	}
}
