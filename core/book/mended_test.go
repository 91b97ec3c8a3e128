package book

import (
	"math"
	"testing"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/schools"
	"oldburrow/core/tally"
)

var built = time.Date(2026, 11, 1, 14, 0, 0, 0, time.UTC)

// noted is a set of holes with what the mornings found, by the day: each is made again on the days that are said, as it was or with another pan.
type noted struct {
	makes  []line.Make
	visits []line.Visit
}

func (n *noted) builds(set string, day int, change func(*layout.Layout)) {
	l, err := layout.New("hole", layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
	if err != nil {
		panic(err)
	}
	if change != nil {
		change(&l)
	}
	n.makes = append(n.makes, line.Make{ID: set + string(rune('a'+len(n.makes))), SetID: set, Target: "coyote", Layout: l, BuiltAt: built.AddDate(0, 0, day)})
}

func (n *noted) found(day int, f line.Finding, who string) {
	m := n.makes[len(n.makes)-1]
	n.visits = append(n.visits, line.Visit{ID: string(rune('A' + len(n.visits))), MakeID: m.ID, At: built.AddDate(0, 0, day).Add(-time.Hour), Found: line.Found{Finding: f, Animal: who}})
}

func (n *noted) record(until int) line.Record {
	return line.NewRecord(built.AddDate(0, 0, until), time.UTC, tally.Span{}, line.Noted{Sets: []line.Set{{ID: "s", SpotID: "x", Number: 1}, {ID: "t", SpotID: "y", Number: 2}}, Makes: n.makes, Visits: n.visits})
}

// What was done about a trouble is told by what it was, beside making it again as it was, with what came to the link that had failed since; another's
// findings tell nothing.
func TestCures(t *testing.T) {
	lighter := func(l *layout.Layout) { l.Rigs[0].Pan.GaugeN = 8 }
	var n noted
	n.builds("s", 0, nil)
	n.found(3, line.FoundStepped, "coyote")
	n.builds("s", 3, lighter)
	n.found(5, line.FoundSprung, "coyote")
	n.found(6, line.FoundStepped, "skunk")
	n.builds("s", 7, lighter) // after what is no trouble of a link of ours: the skunk's
	n.found(9, line.FoundStepped, "coyote")
	n.builds("t", 10, nil)
	n.found(12, line.FoundStepped, "")
	n.builds("t", 12, nil)
	n.found(15, line.FoundStepped, "coyote")
	cures := CuresOf(n.record(90), animal.Reference)
	by := map[string]Cure{}
	for _, c := range cures {
		if c.After != line.FoundStepped {
			t.Errorf("after %s", c.After)
		}
		by[c.Part] = c
	}
	if c := by["pan"]; c.Makes != 1 || c.Reached != 1 || c.Kept != 1 || math.Abs(c.Low-.025) > 1e-9 || c.High != 1 {
		t.Errorf("a lighter pan: %+v", c)
	}
	if c := by[""]; c.Makes != 2 || c.Reached != 2 || c.Kept != 0 || c.Low != 0 || math.Abs(c.High-(1-math.Sqrt(.025))) > 1e-9 {
		t.Errorf("as it was: %+v", c)
	}
	if len(cures) != 2 {
		t.Errorf("%+v", cures)
	}
}

// Each lure is told with what it brought where it lay; it makes them dig only where that is more than the others do for certain.
func TestWhatLuresBrought(t *testing.T) {
	smells := func(name string) func(*layout.Layout) {
		return func(l *layout.Layout) { l.Attractors[0].Smells = []layout.Smell{{Kind: "gland", Name: name}} }
	}
	var n noted
	n.builds("s", 0, smells("Old Fence"))
	for day := range 8 {
		n.found(2*day+1, line.FoundPassed, "")
		n.found(2*day+2, line.FoundDug, "")
		n.builds("s", 2*day+2, smells("Old Fence"))
	}
	n.builds("t", 0, smells("Dark Post"))
	for day := range 20 {
		n.found(day+1, line.FoundQuiet, "")
	}
	n.visits[len(n.visits)-1].Found = line.Found{Finding: line.FoundCatch}
	n.visits[len(n.visits)-1].Catches = []line.Catch{{Species: "coyote"}, {Species: "skunk"}}
	lures, err := LuresOf(n.record(20), animal.Reference)
	if err != nil || len(lures) != 2 {
		t.Fatalf("%+v, %v", lures, err)
	}
	for _, l := range lures {
		switch l.Name {
		case "Old Fence":
			if l.Dug != 8 || !l.Digs || l.Caught != 0 || l.Nights < 8 {
				t.Errorf("%+v", l)
			}
		case "Dark Post":
			if l.Dug != 0 || l.Digs || l.Caught != 1 || l.Others != 1 || l.Nights < 19 {
				t.Errorf("%+v", l)
			}
		}
	}
}

// A circuit is the median of the gaps between the nights in which an animal came, from four on; a gap of over three weeks is none, and where they are too
// unlike nothing is told.
func TestCircuits(t *testing.T) {
	at := func(days ...int) []Circuit {
		var n noted
		n.builds("s", 0, nil)
		for _, day := range days {
			n.found(day, line.FoundPassed, "coyote")
		}
		return CircuitsOf(n.record(90), animal.Reference)
	}
	if got := at(5, 12, 19); len(got) != 0 {
		t.Errorf("of three passes: %+v", got)
	}
	if got := at(5, 12, 19, 25, 25, 60, 67); len(got) != 1 || got[0].Nights != 7 || got[0].Passes != 6 || !got[0].Known || got[0].Within > .5 {
		t.Errorf("every week, and once away: %+v", got)
	}
	if got := at(1, 2, 20, 21, 39); len(got) != 1 || got[0].Known {
		t.Errorf("now and then: %+v", got)
	}
}
