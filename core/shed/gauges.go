package shed

import (
	"reflect"
	"slices"
	"time"

	"oldburrow/core/gauge"
	"oldburrow/core/line"
)

// Gauge is a gauge by its name, what its newest calibration multiplies it by, and when that was.
type Gauge struct {
	Name         string     `json:"name"`
	Factor       float64    `json:"factor"`
	CalibratedAt *time.Time `json:"calibratedAt" jsonschema:"nullable"`
}

// Gauges lists the gauges that measured what hangs on the rack, and those that were calibrated; calibrations in order of time.
func Gauges(rack []Hung, calibrations []line.Calibration) ([]Gauge, error) {
	found := []Gauge{}
	known := func(name string) *Gauge {
		i := slices.IndexFunc(found, func(g Gauge) bool { return g.Name == name })
		if i < 0 {
			i = len(found)
			found = append(found, Gauge{Name: name, Factor: 1})
		}
		return &found[i]
	}
	for _, h := range rack {
		if h.Tension != nil {
			known(h.Tension.Measurement.Gauge)
		}
	}
	for i, one := range calibrations {
		factor, err := gauge.Calibrate(one.KnownN, one.ReadN)
		if err != nil {
			return nil, err
		}
		g := known(one.Gauge)
		g.Factor, g.CalibratedAt = factor, &calibrations[i].At
	}
	return found, nil
}

// Difference is what taking in some traps would do to a rack: the traps that would be new or changed, the numbers of either, and
// how many would stay as they are.
type Difference struct {
	Traps   []line.Trap `json:"traps"`
	Adds    []int       `json:"adds"`
	Changes []int       `json:"changes"`
	Same    int         `json:"same"`
}

// Compare tells what of the traps of a file differs from those on the rack; new ones have no id.
func Compare(have, file []line.Trap) Difference {
	d := Difference{Traps: []line.Trap{}, Adds: []int{}, Changes: []int{}}
	for _, t := range file {
		switch {
		case t.ID == "":
			d.Adds = append(d.Adds, t.Number)
		case slices.ContainsFunc(have, func(x line.Trap) bool { return sameTrap(x, t) }):
			d.Same++
			continue
		default:
			d.Changes = append(d.Changes, t.Number)
		}
		d.Traps = append(d.Traps, t)
	}
	return d
}

func sameTrap(a, b line.Trap) bool {
	spares := slices.Equal(a.Spares, b.Spares)
	a.Spares, b.Spares = nil, nil
	return spares && reflect.DeepEqual(a, b)
}
