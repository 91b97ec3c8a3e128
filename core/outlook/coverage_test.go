package outlook

import (
	"math"
	"testing"

	"oldburrow/core/weather"
)

// Where no way is drawn a set's facing says on which side of the way it lies: in a wind from the north it is smelt from the way when that
// lies south of it. By a way that is drawn it lies where it lies.
func TestCoverageByFacing(t *testing.T) {
	o := someLine(t)
	south := 180.0
	set := o.Standing[2].Make.Layout
	set.FacingDeg = &south
	record, tonight, facings := o.Coverage(set, "far")
	if record == nil || tonight == nil || len(facings) != 8 {
		t.Fatalf("%v, %v, %v", record, tonight, facings)
	}
	for _, f := range facings {
		lee := f.FacingDeg == 180
		if lee && math.Abs(f.Coverage-*record) > 1e-12 || f.FacingDeg == 0 && f.Coverage > .2 || lee && f.Coverage < .8 {
			t.Errorf("facing %g: %g, as it lies %g", f.FacingDeg, f.Coverage, *record)
		}
	}
	if record, _, facings := o.Coverage(o.Standing[0].Make.Layout, "north"); record == nil || facings != nil {
		t.Errorf("by a way that is drawn: %v, %v", record, facings)
	}
	// A set that stands elsewhere is smelt from there: north of the way the wind brings it across, south of it not.
	for north, least := range map[float64]float64{10: .8, -10: 0} {
		at := middle.Fix([2]float64{0, north})
		own := o.Standing[0].Make.Layout
		own.At = &at
		if record, _, _ := o.Coverage(own, "far"); record == nil || *record < least || least == 0 && *record > .2 {
			t.Errorf("%g m north of the way: %v", north, *record)
		}
	}
	o.Spots[2].Swirls = true
	if record, tonight, facings := o.Coverage(set, "far"); record != nil || tonight != nil || facings != nil {
		t.Error("known where the wind swirls")
	}
}

// A week's mean is of the week before now, and of most of its hours, or it is not known.
func TestWeekC(t *testing.T) {
	o := someLine(t)
	o.Observed = append(hours(morning.AddDate(0, 0, -20), morning.AddDate(0, 0, -7), func(h *weather.Hour) { h.TempC = 30 }), hours(morning.AddDate(0, 0, -7), morning, func(*weather.Hour) {})...)
	o.Expected = hours(morning, morning.AddDate(0, 0, 3), func(h *weather.Hour) { h.TempC = 30 })
	if got := o.WeekC(); got == nil || math.Abs(*got+8) > .5 {
		t.Errorf("%v", got)
	}
	o.Observed = hours(morning.AddDate(0, 0, -3), morning, func(*weather.Hour) {})
	if got := o.WeekC(); got != nil {
		t.Errorf("of three days: %v", *got)
	}
}
