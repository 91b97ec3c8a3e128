package line

import (
	"errors"
	"strings"
	"testing"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/refuse"
	"oldburrow/core/schools"
)

func holeMade(t *testing.T) Make {
	t.Helper()
	l, err := layout.New("hole", layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	const some = "01M5DW3X00ANC67KH4WQRGTHZD"
	return Make{ID: some, SetID: some, DesignID: some, Target: "coyote", Layout: l, BuiltAt: time.Date(2026, 11, 1, 15, 0, 0, 0, time.UTC)}
}

// What was said of how a make was built stands, with what was drawn kept, however often it is said; and nothing of another act does.
func TestAsBuilt(t *testing.T) {
	drawn := holeMade(t)
	if same := drawn.Stands(); same.Layout.Rigs[0].Bed.Firm != drawn.Layout.Rigs[0].Bed.Firm {
		t.Error("of a make of which nothing was said the bed is another")
	}
	said := drawn
	said.Layout = drawn.Layout.WithRigMoved(0, 0, 25)
	said.AsBuilt = &AsBuilt{}
	became, is := drawn.Became(said)
	if !is || became.Layout.Rigs[0].Bed.Firm != nil || became.AsBuilt.Designed.Rigs[0].YMm != drawn.Layout.Rigs[0].YMm || became.Layout.Rigs[0].YMm != drawn.Layout.Rigs[0].YMm+25 {
		t.Fatalf("%v: %+v", is, became.AsBuilt)
	}
	if drawn.Layout.Rigs[0].Bed.Firm == nil {
		t.Error("what was drawn has another bed")
	}
	again := said
	again.AsBuilt = &AsBuilt{Points: []PointsAt{{0, layout.Points{"still", "still", "still", "still"}}}}
	twice, _ := became.Became(again)
	if f := twice.Layout.Rigs[0].Bed.Firm; f == nil || !*f || twice.AsBuilt.Designed.Rigs[0].YMm != drawn.Layout.Rigs[0].YMm {
		t.Errorf("said again: firm %v, drawn %+v", f, twice.AsBuilt.Designed.Rigs[0])
	}
	for what, change := range map[string]func(*Make){
		"another set": func(m *Make) { m.SetID = "x" }, "another time": func(m *Make) { m.BuiltAt = m.BuiltAt.Add(time.Second) },
		"nothing": func(m *Make) { m.AsBuilt = nil }, "another target": func(m *Make) { m.Target = "bobcat" },
	} {
		other := said
		change(&other)
		if _, is := drawn.Became(other); is {
			t.Errorf("%s is how it was built", what)
		}
	}
	for field, wrong := range map[string]AsBuilt{
		"asBuilt.points[0].slot": {Points: []PointsAt{{Slot: 7}}}, "asBuilt.points[0].felt[2]": {Points: []PointsAt{{Felt: layout.Points{"", "", "wobbles"}}}},
		"asBuilt.minutes": {Minutes: new(-1.0)}, "asBuilt.landmark": {Landmark: strings.Repeat("x", 81)}, "asBuilt.note": {Note: strings.Repeat("x", 401)}, "asBuilt.form": {Form: "otherwise"},
	} {
		m := holeMade(t)
		m.AsBuilt = &wrong
		var problems refuse.Problems
		if err := m.Check(animal.Reference); !errors.As(err, &problems) || problems[0].Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
	fine := holeMade(t)
	fine.AsBuilt = &AsBuilt{Points: []PointsAt{{Felt: layout.Points{"still"}}}, Landmark: strings.Repeat("ö", 80), Minutes: new(0.0), Form: "same_bed"}
	if err := fine.Check(animal.Reference); err != nil {
		t.Error(err)
	}
}
