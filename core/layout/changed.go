package layout

import "reflect"

// Changed are the parts of a set in which another differs, in the order in which they are spoken of.
func Changed(from, to Layout) []string {
	found := []string{}
	differs := func(part string, a, b any) {
		if !reflect.DeepEqual(a, b) {
			found = append(found, part)
		}
	}
	if from.Pattern != to.Pattern {
		return []string{"pattern"} // of another pattern all is another
	}
	differs("facing", from.FacingDeg, to.FacingDeg)
	differs("attractor", unsmelled(from.Attractors), unsmelled(to.Attractors))
	differs("smells", smells(from), smells(to))
	differs("trench", from.Trench, to.Trench)
	differs("way", from.Way, to.Way)
	differs("trap", each(from.Rigs, theTrap), each(to.Rigs, theTrap))
	differs("setback", each(from.Rigs, stands), each(to.Rigs, stands))
	differs("pan", each(from.Rigs, pressed), each(to.Rigs, pressed))
	differs("bed", each(from.Rigs, dug(to)), each(to.Rigs, dug(from)))
	differs("cover", each(from.Rigs, covered), each(to.Rigs, covered))
	differs("chain", each(from.Rigs, chained), each(to.Rigs, chained))
	differs("anchor", from.Anchors, to.Anchors)
	differs("guides", []any{from.Guides, each(from.Rigs, guarded)}, []any{to.Guides, each(to.Rigs, guarded)})
	differs("backing", from.Backing, to.Backing)
	differs("show", [2]any{from.Show, from.Lie}, [2]any{to.Show, to.Lie})
	differs("spoil", from.Spoil, to.Spoil)
	differs("hands", from.Hands, to.Hands)
	differs("place", from.At, to.At)
	return found
}

// Parts lists them.
var Parts = []string{
	"pattern", "facing", "attractor", "smells", "trench", "way", "trap", "setback", "pan", "bed", "cover", "chain", "anchor", "guides", "backing", "show",
	"spoil", "hands", "place",
}

func each[A, B any](of []A, what func(A) B) []B {
	found := make([]B, len(of))
	for i, one := range of {
		found[i] = what(one)
	}
	return found
}

func unsmelled(of []Attractor) []Attractor {
	return each(of, func(a Attractor) Attractor { a.Smells = nil; return a })
}

func smells(of Layout) [][]Smell {
	at := each(of.Attractors, func(a Attractor) []Smell { return append([]Smell{}, a.Smells...) })
	return append(at, append([]Smell{}, of.Aside...))
}

func guarded(r Rig) any { return r.Guard }

func theTrap(r Rig) any { return []any{r.TrapID, r.Device, r.Jaws, r.Loop} }

// stands is where a trap stands, and its pan in it.
func stands(r Rig) any {
	at := []float64{r.XMm, r.YMm, r.AxisDeg}
	if r.Pan != nil {
		at = append(at, r.Pan.XMm, r.Pan.YMm)
	}
	return at
}

// pressed is what a pan asks.
func pressed(r Rig) any {
	if r.Pan == nil {
		return nil
	}
	return []any{r.Pan.DiameterMm, r.Pan.GaugeN, r.Pan.HeightMm}
}

// dug is a rig's bed; whether it is firm speaks only where that is known of the other's too: not to have felt it is no change.
func dug(other Layout) func(Rig) Bed {
	return func(r Rig) Bed {
		for _, o := range other.Rigs {
			if o.Slot == r.Slot && o.Bed.Firm == nil {
				r.Bed.Firm = nil
			}
		}
		return r.Bed
	}
}

func covered(r Rig) any { return []any{append([]Layer{}, r.Cover...), r.Over, r.Under} }

func chained(r Rig) any { return []any{r.ChainMm, r.ChainLies, r.Swivels, r.Spring} }
