package nights

import (
	"math"
	"math/rand/v2"

	"oldburrow/core/animal"
	"oldburrow/core/footfall"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
)

// Of what prints are told, judgements: a visit is drawn so often until it comes out as its night had it, and so far from the plan's middle and from
// one of its traps a foot comes down on ground that nobody smoothed, mm.
const (
	mostVisits = 64
	bedMm      = 700.0
)

// Prints are where the feet came down of a visitor that stood at a set or stepped there, on its plan; none of one that did neither. It takes the
// animal and the set that the night was drawn of, and is the same however often it is asked. It refuses what the layout has wrong.
func (e Event) Prints(a animal.Animal, l layout.Layout) ([]line.Print, error) {
	if e.Shows != line.FoundStood && e.Shows != line.FoundStepped {
		return nil, nil
	}
	ways, err := odds.Comings(l, a, 1)
	if err != nil || len(ways) == 0 {
		return nil, err
	}
	rng := rand.New(rand.NewPCG(e.feet, 0))
	at, way := rng.Float64(), ways[0]
	for _, way = range ways {
		if at -= way.Share; at < 0 {
			break
		}
	}
	way.Feet.Seed = e.feet
	for n := range uint64(mostVisits) {
		visit, err := footfall.VisitOf(a, way.Feet, n)
		if err != nil {
			return nil, err
		}
		if visit.Stepped == (e.Shows == line.FoundStepped) {
			return onBed(visit.Prints, l), nil
		}
	}
	return nil, nil
}

// onBed are those of prints that lie on the bed, to the millimetre.
func onBed(all []footfall.Print, l layout.Layout) (found []line.Print) {
	for _, p := range all {
		near := math.Hypot(p.XMm, p.YMm) <= bedMm
		for _, rig := range l.Rigs {
			near = near || math.Hypot(p.XMm-rig.XMm, p.YMm-rig.YMm) <= bedMm
		}
		if near {
			found = append(found, line.Print{XMm: math.Round(p.XMm), YMm: math.Round(p.YMm)})
		}
	}
	return found
}
