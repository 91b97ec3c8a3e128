package shed

import (
	"slices"

	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/pan"
	"oldburrow/core/refuse"
)

// FitsIn are the traps that can take the place of the one in a slot of a make, by number: such a device, free and sound, whose frame lies within the
// bed as it is dug, and whose pan was measured inside the window that the set asks for, or never. Wanted and Verdict are those of the set.
func (r Record) FitsIn(m line.Make, slot int) ([]Hung, error) {
	i := slices.IndexFunc(m.Layout.Rigs, func(rig layout.Rig) bool { return rig.Slot == slot })
	found := []Hung{}
	if i < 0 || m.Layout.Rigs[i].Jaws == nil {
		return found, nil
	}
	rig := m.Layout.Rigs[i]
	traps, err := r.Rack()
	if err != nil {
		return nil, err
	}
	for _, h := range traps {
		if !h.Fit() || !h.liesIn(rig) || h.Trap.Type != r.typeOf(rig.TrapID, h.Trap.Type) {
			continue
		}
		spares := slices.DeleteFunc(slices.Clone(h.Trap.Spares), func(key string) bool { return key == m.Target })
		wanted, err := WindowOf(r.Animals, m.Target, spares, rig.Cover, h.Trap.PanDiameterMm, m.Layout.OnFooting())
		if refuse.Known(err) != nil {
			return nil, err
		}
		if err != nil {
			continue // of an animal or a cover that is not known no window can be told
		}
		if h.Tension != nil {
			if h.Tension.Fails, err = failing(r.Animals, h.Tension.MeanN, wanted); err != nil {
				return nil, err
			}
		}
		h.Wanted, h.Verdict = &wanted, verdict(h.Tension, wanted)
		if h.Verdict == pan.Inside || h.Verdict == Unmeasured {
			found = append(found, h)
		}
	}
	return found, nil
}

// typeOf is what device a trap of the rack is, or the one that is taken for it where it hangs on none.
func (r Record) typeOf(trapID string, otherwise line.TrapType) line.TrapType {
	for _, t := range r.Traps {
		if t.ID == trapID {
			return t.Type
		}
	}
	return otherwise
}

// liesIn tells whether a trap with jaws lies in the bed of a rig as it is dug.
func (h Hung) liesIn(rig layout.Rig) bool {
	room := 2 * rig.Bed.MarginMm
	return line.HasJaws(h.Trap.Type) && h.Trap.FrameLengthMm <= rig.Jaws.FrameMm+room && h.Trap.JawSpreadMm <= rig.Jaws.SpreadMm+room
}
