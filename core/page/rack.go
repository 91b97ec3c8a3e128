package page

import (
	"fmt"
	"slices"

	"oldburrow/core/line"
	"oldburrow/core/shed"
)

// Shed is everything of the line that the shed reads.
func (r Reading) Shed() (found shed.Record, err error) {
	if found.Record, err = r.Record(); err != nil {
		return found, err
	}
	id := r.Of.ID
	found.Animals, found.Schools = r.Animals, r.Schools
	for _, read := range []func() error{
		func() error { found.Designs, err = r.Designs(id, nil); return err },
		func() error { found.Traps, err = r.Traps(id); return err },
		func() error { found.Cards, err = r.Cards(id); return err },
		func() error { found.Gone, err = r.GoneBefore(id, found.Span.From); return err },
		func() error { found.StillIn, err = r.stillIn(found.Record); return err },
		func() error { found.Poured, err = r.Poured(id, r.Now); return err },
	} {
		if err := read(); err != nil {
			return found, err
		}
	}
	return found, nil
}

func rackView(r Reading, _ Asked) (any, error) {
	found := Rack{New: line.NewTrap(), Sizes: line.TrapSizes(), Reads: r.Around.Gauge, StandIn: r.Around.GaugeMadeUp}
	traps, err := r.Hung()
	if err != nil {
		return nil, err
	}
	found.hang(traps)
	calibrations, err := r.Calibrations(r.Of.ID)
	if err != nil {
		return nil, err
	}
	found.Gauges, err = shed.Gauges(traps, calibrations)
	return found, err
}

// Hung are the traps of the line as they stand, by number.
func (r Reading) Hung() ([]shed.Hung, error) {
	record, err := r.Shed()
	if err != nil {
		return nil, err
	}
	return record.Rack()
}

// OddTraps says why the traps of a make should not have gone out; the make is kept all the same, and each trap is where it
// was built last.
func (r Reading) OddTraps(x line.Make) (string, error) {
	if len(x.Layout.TrapIDs()) == 0 {
		return "", nil
	}
	record, err := r.Shed()
	if err != nil {
		return "", err
	}
	record.Traps = slices.DeleteFunc(slices.Clone(record.Traps), func(t line.Trap) bool {
		_, named := x.Layout.RigWith(t.ID)
		return !named
	})
	rack, err := record.Rack()
	if err != nil {
		return "", err
	}
	var odd []string
	for _, rig := range x.Layout.Rigs {
		if rig.TrapID != "" {
			odd = append(odd, oddTrap(rack, rig.TrapID, x.SetID))
		}
	}
	return line.Flags(odd...), nil
}

func oddTrap(rack []shed.Hung, trapID, setID string) string {
	i := slices.IndexFunc(rack, func(h shed.Hung) bool { return h.Trap.ID == trapID })
	if i < 0 {
		return line.FlagTrapUnlisted
	}
	switch rack[i].BarsFrom(setID) {
	case shed.BarsStands:
		return fmt.Sprintf("%s %d", line.FlagTrapStood, rack[i].Place.Number)
	case shed.BarsAway:
		return line.FlagTrapAway
	case shed.BarsFault:
		return line.FlagTrapFaulty
	}
	return ""
}
