package shed

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/seeds"
)

// Whatever is built, pulled and found, in whatever order, a trap is in one place: the set that was built with it last, while
// that make stands and nobody found it gone; and no two sets hold it.
func TestEveryTrapIsInOnePlace(t *testing.T) {
	seeds.Each(t, 60, func(rng *rand.Rand) {
		r := whole{Zone: zone, Traps: []line.Trap{trap(1, nil), trap(2, nil), trap(3, nil)}}
		for set := range 3 {
			r.Sets = append(r.Sets, line.Set{ID: fmt.Sprint("s", set), SpotID: fmt.Sprint("spot", set), Number: set + 1})
		}
		at := day(0)
		for step := range 25 {
			at = at.Add(time.Duration(1+rng.IntN(9)) * time.Hour)
			act(t, &r, rng, step, at)
		}
		r.Now = at.Add(time.Hour)
		for _, h := range mustRack(t, r) {
			known := slices.ContainsFunc(r.Makes, func(m line.Make) bool { return m.Layout.Rigs[0].TrapID == h.Trap.ID })
			switch h.Place.Kind {
			case Home:
				if made, ok := r.line().LastWith(h.Trap.ID); ok && made.PulledAt == nil && !goneFrom(r.line(), made) {
					t.Fatalf("trap %d hangs on the rack and stands in %s", h.Trap.Number, made.SetID)
				}
			case InSet, Missing:
				made, _ := r.line().LastWith(h.Trap.ID)
				if !known || made.SetID != h.Place.SetID || h.Place.Number == 0 || h.Place.Since.After(r.Now) {
					t.Fatalf("trap %d in %+v, built last in %s", h.Trap.Number, h.Place, made.SetID)
				}
				if (h.Place.Kind == Missing) != goneFrom(r.line(), made) {
					t.Fatalf("trap %d is %s", h.Trap.Number, h.Place.Kind)
				}
			}
		}
		for _, x := range r.Traps {
			if events, err := r.History(x.ID); err != nil || !slices.IsSortedFunc(events, func(a, b Event) int { return b.At.Compare(a.At) }) {
				t.Fatalf("the story of trap %d is out of order, %v", x.Number, err)
			}
		}
	})
}

// act builds a set with some trap, pulls one, or looks at one.
func act(t *testing.T, r *whole, rng *rand.Rand, step int, at time.Time) {
	standing := -1
	for i, m := range r.Makes {
		if m.PulledAt == nil && rng.IntN(2) == 0 {
			standing = i
		}
	}
	switch what := rng.IntN(3); {
	case what == 0 || standing < 0:
		set := fmt.Sprint("s", rng.IntN(3))
		for i := range r.Makes {
			if r.Makes[i].SetID == set && r.Makes[i].PulledAt == nil {
				r.Makes[i].PulledAt = &at
			}
		}
		l := layoutFor(t, "coyote", r.Traps[rng.IntN(3)].ID)
		r.Makes = append(r.Makes, line.Make{ID: fmt.Sprint("m", step), SetID: set, Target: "coyote", Layout: l, BuiltAt: at})
	case what == 1:
		r.Makes[standing].PulledAt = &at
	default:
		finding := line.Findings[rng.IntN(len(line.Findings))]
		r.Visits = append(r.Visits, line.Visit{ID: fmt.Sprint("v", step), MakeID: r.Makes[standing].ID, At: at, Found: line.Found{Finding: finding}})
	}
}

// goneFrom tells whether the last look at a make found its trap gone.
func goneFrom(r line.Record, made line.Make) bool {
	last := r.LastLook(made.ID)
	return last != nil && last.Finding.Facts().Away
}

func mustRack(t *testing.T, r whole) []Hung {
	t.Helper()
	rack, err := r.Rack()
	if err != nil {
		t.Fatal(err)
	}
	return rack
}

// No bottle holds less than nothing or more than it did, and what was poured out is accounted for to the drop.
func TestNothingIsLostOnTheShelf(t *testing.T) {
	seeds.Each(t, 200, func(rng *rand.Rand) {
		dose := 1 + 4*rng.Float64()
		r := whole{Now: day(60), Zone: zone, Lures: []line.Lure{{ID: "l", Name: "Old Fence", Class: "gland", By: "volume", Dose: dose}}}
		held := 0.0
		for i := range 1 + rng.IntN(3) {
			b := line.Bottle{ID: fmt.Sprint("b", i), LureID: "l", Holds: 5 + 40*rng.Float64()}
			if opened := day(rng.IntN(10)); rng.IntN(4) > 0 {
				b.OpenedAt = &opened
			}
			held += b.Holds
			r.Bottles = append(r.Bottles, b)
		}
		used := 0.0
		for i := range rng.IntN(30) {
			d := line.Dose{ID: fmt.Sprint("d", i), LureID: "l", At: day(rng.IntN(50)), Count: float64(1 + rng.IntN(2))}
			used += d.Count
			r.Doses = append(r.Doses, d)
		}
		f := r.Shelf(nil)[0]
		left := 0.0
		for _, s := range f.Bottles {
			if s.Left < 0 || s.Left > s.Bottle.Holds+1e-9 {
				t.Fatalf("%g left in a bottle of %g", s.Left, s.Bottle.Holds)
			}
			if s.Bottle.OpenedAt == nil && s.Left != s.Bottle.Holds {
				t.Fatalf("something was poured from a closed bottle")
			}
			if (s.EmptyAt != nil) != (s.Left <= 1e-9) {
				t.Fatalf("%g left, empty since %v", s.Left, s.EmptyAt)
			}
			left += s.Left
		}
		if math.Abs(left-f.Left) > 1e-9 || math.Abs(left+(used-f.Unaccounted)*dose-held) > 1e-6 {
			t.Fatalf("held %g, %g doses of %g used, %g of them from nowhere, %g left", held, used, dose, f.Unaccounted, left)
		}
	})
}
