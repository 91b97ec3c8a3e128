package footfall

import "oldburrow/core/animal"

// Print is where a foot came down, on the set's plan.
type Print struct{ XMm, YMm float64 }

// Visit is one visit of an animal: the prints of its forefeet that stand as its reach and its step say, in their order (not of the one that stands
// behind the other, nor of those of its way in), and whether one of its feet came on a pan.
type Visit struct {
	Prints  []Print
	Stepped bool
}

// VisitOf draws the visit of a number, by in.Seed. It refuses what Simulate refuses.
func VisitOf(a animal.Animal, in Input, number uint64) (Visit, error) {
	in.Visits, in.Map = 1, false
	if err := in.check(); err != nil {
		return Visit{}, err
	}
	w, sum := newWalker(a, in), newCount(in)
	w.rng.Seed(in.Seed, number)
	w.fate.Seed(in.Seed, fateStream|number)
	w.draw()
	w.outcome(sum)
	found := Visit{Stepped: sum.step > 0}
	for _, f := range w.onPlan() {
		if f.own {
			found.Prints = append(found.Prints, Print{f.x, f.y})
		}
	}
	return found, nil
}
