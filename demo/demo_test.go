package demo

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/line"
	"oldburrow/core/pan"
	"oldburrow/core/shed"
	"oldburrow/core/tally"
)

func season(t *testing.T) Season {
	t.Helper()
	s, err := Build()
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func TestDemoIsTheSameEverywhere(t *testing.T) {
	left, _ := json.Marshal(season(t))
	right, _ := json.Marshal(season(t))
	if !bytes.Equal(left, right) {
		t.Error("two builds differ")
	}
}

// Everything in the demo could have been entered by hand.
func TestDemoCanBe(t *testing.T) {
	s := season(t)
	check := func(what string, err error) {
		if err != nil {
			t.Errorf("%s: %v", what, err)
		}
	}
	for _, x := range s.Features {
		check("a feature", x.Check())
	}
	for _, x := range s.Signs {
		check("a sign", x.Check(Start(), animal.Reference))
	}
	for _, x := range s.Spots {
		check("a spot", x.Check())
	}
	for _, x := range s.Visits {
		check("a visit", x.Check(animal.Reference))
	}
	for _, x := range s.Traps {
		check(fmt.Sprintf("trap %d", x.Trap.Number), x.Trap.Check(animal.Reference))
	}
	for _, x := range s.Checks {
		check("a shed check", x.Check())
	}
	for _, x := range s.Measurements {
		check("a measurement", x.Check())
	}
	for _, x := range s.Lures {
		check(x.Name, x.Check())
	}
	for _, x := range s.Bottles {
		check("a bottle", x.Check())
	}
	for _, x := range s.KitMarks {
		check("a mark on the kit", x.Check())
	}
}

// The demo has what there is to show.
func TestDemoIsWorthLookingAt(t *testing.T) {
	s := season(t)
	if len(s.Spots) != 15 || len(s.Properties) != 4 {
		t.Errorf("%d spots on %d properties", len(s.Spots), len(s.Properties))
	}
	var traps []line.Trap
	for _, v := range s.Traps { // the newest of each stands last
		if i := slices.IndexFunc(traps, func(x line.Trap) bool { return x.ID == v.Trap.ID }); i >= 0 {
			traps[i] = v.Trap
		} else {
			traps = append(traps, v.Trap)
		}
	}
	var sets []line.Set
	for _, m := range s.Makes { // each is numbered when it is first built
		if !slices.ContainsFunc(sets, func(x line.Set) bool { return x.ID == m.SetID }) {
			sets = append(sets, line.Set{ID: m.SetID, Number: len(sets) + 1})
		}
	}
	unbuilt := slices.DeleteFunc(slices.Clone(s.Designs), func(d line.Design) bool { return d.SetID != nil })
	noted := line.Noted{Sets: sets, Makes: s.Makes, Visits: s.Visits}
	record := shed.Record{
		Record:  line.NewRecord(Start(), Start().Location(), tally.Span{}, noted),
		Animals: animal.Reference, Designs: unbuilt, Traps: traps, Cards: map[string]shed.Card{},
	}
	for _, trap := range traps {
		of := slices.DeleteFunc(slices.Clone(s.Checks), func(c line.ShedCheck) bool { return c.TrapID != trap.ID })
		measured := slices.DeleteFunc(slices.Clone(s.Measurements), func(m line.Measurement) bool { return m.TrapID != trap.ID })
		record.Cards[trap.ID] = shed.CardOf(nil, of, measured)
	}
	rack, err := record.Rack()
	if err != nil {
		t.Fatal(err)
	}
	places, verdicts, old, kept := map[shed.PlaceKind]int{}, map[pan.Verdict]int{}, 0, 0
	for _, h := range rack {
		places[h.Place.Kind]++
		verdicts[h.Verdict]++
		if h.Tension != nil && h.Tension.Old != "" {
			old++
		}
		if len(h.Faults) > 0 && h.Place.Kind == shed.Home {
			kept++
		}
	}
	if len(rack) != 55 || places[shed.InSet] != 28 || places[shed.Away] != 1 || kept != 3 || old == 0 {
		t.Errorf("%d traps, at %v, %d kept home, %d readings old", len(rack), places, kept, old)
	}
	for _, want := range []pan.Verdict{shed.Unmeasured, pan.Inside, pan.Light, pan.Heavy, pan.Conflicted} {
		if verdicts[want] == 0 {
			t.Errorf("no trap is %s: %v", want, verdicts)
		}
	}
}
