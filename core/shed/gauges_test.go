package shed

import (
	"fmt"
	"testing"

	"oldburrow/core/gauge"
	"oldburrow/core/line"
)

func TestGauges(t *testing.T) {
	by := func(name string) Hung {
		return Hung{Tension: &Tension{Measured: gauge.Measured{}, Measurement: line.Measurement{Gauge: name}}}
	}
	found, err := Gauges([]Hung{by("scale"), {}, by("scale"), by("other")}, []line.Calibration{
		{Gauge: "other", At: day(0), KnownN: 20, ReadN: 19}, {Gauge: "third", At: day(1), KnownN: 10, ReadN: 10}, {Gauge: "other", At: day(2), KnownN: 20, ReadN: 16},
	})
	if err != nil || len(found) != 3 || found[0].Name != "scale" || found[0].Factor != 1 || found[0].CalibratedAt != nil {
		t.Fatalf("%+v, %v", found, err)
	}
	if g := found[1]; g.Name != "other" || g.Factor != 20/16.0 || !g.CalibratedAt.Equal(day(2)) {
		t.Errorf("the newest calibration holds: %+v", g)
	}
}

func TestCompare(t *testing.T) {
	have := []line.Trap{trap(1, nil), trap(2, nil), trap(3, nil)}
	changed, fresh, spares := trap(2, func(t *line.Trap) { t.Note = "new springs" }), trap(4, func(t *line.Trap) { t.ID = "" }), trap(3, func(t *line.Trap) { t.Spares = nil })
	d := Compare(have, []line.Trap{trap(1, nil), changed, fresh, spares})
	if got := fmt.Sprint(d.Adds, d.Changes, d.Same, len(d.Traps)); got != "[4] [2 3] 1 3" {
		t.Errorf("%s: %+v", got, d)
	}
}

func TestWhatBarsATrap(t *testing.T) {
	fault := []line.CheckItem{{Key: "dog"}}
	for _, c := range []struct {
		h         Hung
		any, here Bar // for any set, and for set s1
	}{
		{Hung{Place: Place{Kind: Home}}, "", ""},
		{Hung{Place: Place{Kind: Home}, Faults: fault}, BarsFault, BarsFault},
		{Hung{Place: Place{Kind: InSet, SetID: "s1"}}, BarsStands, ""},
		{Hung{Place: Place{Kind: InSet, SetID: "s1"}, Faults: fault}, BarsStands, BarsFault},
		{Hung{Place: Place{Kind: InSet, SetID: "s2"}}, BarsStands, BarsStands},
		{Hung{Place: Place{Kind: Missing, SetID: "s1"}}, BarsAway, BarsAway},
		{Hung{Place: Place{Kind: Away}}, BarsAway, BarsAway},
	} {
		if any, here := c.h.bars(), c.h.BarsFrom("s1"); any != c.any || here != c.here {
			t.Errorf("%+v: %q and %q, want %q and %q", c.h.Place, any, here, c.any, c.here)
		}
	}
}
