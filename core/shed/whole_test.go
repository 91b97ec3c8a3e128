package shed

import (
	"maps"
	"slices"
	"testing"
	"time"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/schools"
	"oldburrow/core/tally"
)

// whole is a line's whole record as tests write it down, ungrouped. A make's PulledAt is a pull, but where it was remade then.
type whole struct {
	Schools      schools.Schools
	Now          time.Time
	Zone         *time.Location
	Sets         []line.Set
	Designs      []line.Design
	Makes        []line.Make
	Visits       []line.Visit
	Traps        []line.Trap
	TrapVersions []TrapVersion
	Checks       []line.ShedCheck
	Measurements []line.Measurement
	Lures        []line.Lure
	Bottles      []line.Bottle
	Levels       []line.Level
	Doses        []line.Dose
}

func of[T any](all []T, belongs func(T) bool) []T {
	return slices.DeleteFunc(slices.Clone(all), func(x T) bool { return !belongs(x) })
}

func (w whole) line() line.Record {
	n := line.Noted{Sets: w.Sets, Makes: w.Makes, Visits: w.Visits}
	for _, m := range w.Makes {
		remade := func(next line.Make) bool { return next.SetID == m.SetID && next.BuiltAt.Equal(*m.PulledAt) }
		if m.PulledAt != nil && !slices.ContainsFunc(w.Makes, remade) {
			n.Pulls = append(n.Pulls, line.Pull{ID: "pull " + m.ID, MakeID: m.ID, At: *m.PulledAt})
		}
	}
	return line.NewRecord(w.Now, w.Zone, tally.Span{}, n)
}

func (w whole) history(trapID string) History {
	h := History{Record: w.line()}
	h.Versions = of(w.TrapVersions, func(v TrapVersion) bool { return v.Trap.ID == trapID })
	h.Checks = of(w.Checks, func(c line.ShedCheck) bool { return c.TrapID == trapID })
	h.Measurements = of(w.Measurements, func(m line.Measurement) bool { return m.TrapID == trapID })
	return h
}

func (w whole) record() Record {
	r := Record{Record: w.line(), Animals: animal.Reference, Schools: w.Schools, Designs: of(w.Designs, func(d line.Design) bool { return d.SetID == nil }), Traps: w.Traps}
	r.Cards = map[string]Card{}
	for _, t := range w.Traps {
		h := w.history(t.ID)
		r.Cards[t.ID] = CardOf(h.Versions, h.Checks, h.Measurements)
	}
	for _, l := range w.Lures {
		r.Poured = append(r.Poured, w.pouring(l).Pour(w.Now))
	}
	return r
}

func (w whole) pouring(l line.Lure) Pouring {
	p := Pouring{Lure: l, Bottles: of(w.Bottles, func(b line.Bottle) bool { return b.LureID == l.ID })}
	p.Doses = of(w.Doses, func(d line.Dose) bool { return d.LureID == l.ID })
	p.Levels = of(w.Levels, func(x line.Level) bool {
		return slices.ContainsFunc(p.Bottles, func(b line.Bottle) bool { return b.ID == x.BottleID })
	})
	r := w.line()
	for _, m := range w.Makes {
		for _, id := range m.Layout.ShelfIDs() {
			if id == l.ID {
				p.Smells = append(p.Smells, Smell{At: m.BuiltAt, SpotID: r.Set(m.SetID).SpotID})
			}
		}
	}
	return p
}

func (w whole) Rack() ([]Hung, error) { return w.record().Rack() }

func (w whole) Shelf(coldestC *float64) []OnShelf { return Shelf(w.record().Poured, coldestC) }

func (w whole) History(trapID string) ([]Event, error) { return w.history(trapID).Story(trapID) }

func (w whole) KitFor(day string, marks []line.KitMark, o Outside) (Kit, error) {
	return w.record().KitFor(day, marks, o)
}

// Each thing in the story of a trap, and of a place, is told with who did it.
func TestWhoIsToldInStories(t *testing.T) {
	day := func(n int) time.Time { return time.Date(2026, 11, n, 7, 0, 0, 0, time.UTC) }
	made := line.Make{ID: "m", SetID: "s", Who: "builder", BuiltAt: day(1), Target: "coyote", Layout: layout.Layout{Pattern: "hole", Rigs: []layout.Rig{{TrapID: "t", Device: "jaws"}}}}
	n := line.Noted{
		Sets: []line.Set{{ID: "s", Number: 1}}, Makes: []line.Make{made},
		Visits: []line.Visit{{ID: "v", MakeID: "m", Who: "looker", At: day(3), Found: line.Found{Finding: "sprung"}}},
		Pulls:  []line.Pull{{ID: "p", MakeID: "m", Who: "puller", At: day(5)}},
	}
	r := line.NewRecord(day(6), time.UTC, tally.Span{}, n)
	h := History{
		Record: r, Checks: []line.ShedCheck{{TrapID: "t", Who: "checker", At: day(6)}},
		Measurements: []line.Measurement{{TrapID: "t", Who: "measurer", At: day(6), Presses: []float64{18, 18, 18}, Factor: 1}},
	}
	events, err := h.Story("t")
	if err != nil {
		t.Fatal(err)
	}
	told := map[EventKind]string{}
	for _, e := range events {
		told[e.Kind] = e.Who
	}
	if want := (map[EventKind]string{Built: "builder", Found: "looker", Pulled: "puller", Checked: "checker", Measured: "measurer"}); !maps.Equal(told, want) {
		t.Errorf("it is told as %v, want %v", told, want)
	}
	if stood := r.Stood(); len(stood) != 1 || stood[0].Who != "builder" {
		t.Errorf("the place: %+v", stood)
	}
}
