package weather

import (
	"math"
	"testing"
	"time"

	"oldburrow/core/refuse"
)

var dusk = time.Date(2026, 12, 3, 23, 0, 0, 0, time.UTC)

// night is fifteen hours from dusk on.
func night(change func(i int, h *Hour)) []Hour {
	hours := make([]Hour, 15)
	for i := range hours {
		hours[i] = Hour{At: dusk.Add(time.Duration(i) * time.Hour), TempC: -3, WindFromDeg: 350, WindMs: 2}
		change(i, &hours[i])
	}
	return hours
}

func sum(hours []Hour) Night { return *NightOf(hours, dusk, dusk.Add(15*time.Hour)) }

func TestNight(t *testing.T) {
	n := sum(night(func(i int, h *Hour) {
		h.TempC = 2 - float64(i)
		if i%2 == 0 {
			h.WindFromDeg = 10
		}
		if i == 3 {
			h.RainMm, h.SnowCm = 1.5, 2
		}
	}))
	if len(n.Hours) != 15 || n.ColdestC != -12 || !n.FrozeAgain || n.RainMm != 1.5 || n.SnowCm != 2 {
		t.Errorf("%+v", n)
	}
	if math.Abs(math.Mod(n.WindFromDeg+180, 360)-180) > 2 || n.WindSteady < .95 {
		t.Errorf("wind about north is %g°, steady %g", n.WindFromDeg, n.WindSteady)
	}
	if NightOf(nil, dusk, dusk.Add(time.Hour)) != nil {
		t.Error("a night is made of nothing")
	}
	rose := Rose([]Night{n})
	if rose[0] != 15 || len(rose) != Sectors {
		t.Errorf("rose %v", rose)
	}
	still := sum(night(func(_ int, h *Hour) { h.WindMs = 0.1 }))
	if r := Rose([]Night{still}); r[0]+r[15] != 0 || still.WindSteady != 0 {
		t.Errorf("still air has a direction: %v", r)
	}
}

func TestLocks(t *testing.T) {
	cold := sum(night(func(int, *Hour) {}))
	wet := sum(night(func(i int, h *Hour) { h.TempC, h.RainMm = 3-float64(i), 0.4 }))
	snowy := sum(night(func(_ int, h *Hour) { h.SnowCm = .5 }))
	mild := sum(night(func(_ int, h *Hour) { h.TempC = 6 }))
	for _, c := range []struct {
		cover string
		night Night
		want  string
	}{
		{"damp_packed", cold, "frozen"}, {"wet_soil", cold, "frozen"}, {"waxed_soil", cold, ""}, {"peat", cold, ""}, {"dry_soil", cold, ""},
		{"dry_soil", wet, "crusted"}, {"peat", wet, "crusted"}, {"waxed_soil", wet, ""}, {"waxed_soil", snowy, "snowed_under"}, {"damp_packed", mild, ""},
	} {
		if got := Locks(c.cover, c.night); got != c.want {
			t.Errorf("%s: %q, want %q", c.cover, got, c.want)
		}
	}
}

func TestDaysAndCorrections(t *testing.T) {
	hours := night(func(i int, h *Hour) { h.TempC, h.SnowDepthCm = float64(-i), 4 })
	days := Days(hours, time.UTC)
	if len(days) != 2 || days[0].Hours != 1 || days[0].MeanC != 0 || days[1].Hours != 14 || days[1].MeanC != -7.5 || days[1].SnowCm != 4 {
		t.Errorf("%+v", days)
	}
	deeper := Deepen(hours, dusk.Add(5*time.Hour+20*time.Minute), 10)
	if deeper[4].SnowDepthCm != 4 || deeper[5].SnowDepthCm != 10 || deeper[14].SnowDepthCm != 10 || hours[9].SnowDepthCm != 4 {
		t.Errorf("%+v", deeper[4:6])
	}
	if bare := Deepen(hours, dusk, 0); bare[14].SnowDepthCm != 0 {
		t.Error("snow that was swept away still lies")
	}
}

func TestChecks(t *testing.T) {
	for name, change := range map[string]func(*Hour){
		"at": func(h *Hour) { h.At = time.Time{} }, "tempC": func(h *Hour) { h.TempC = 99 }, "windFromDeg": func(h *Hour) { h.WindFromDeg = -1 },
		"windMs": func(h *Hour) { h.WindMs = math.NaN() }, "rainMm": func(h *Hour) { h.RainMm = -1 }, "snowCm": func(h *Hour) { h.SnowCm = 99 },
		"snowDepthCm": func(h *Hour) { h.SnowDepthCm = -2 },
	} {
		h := Hour{At: dusk}
		change(&h)
		p, ok := h.Check().(refuse.Problems)
		if !ok || p[0].Field != name {
			t.Errorf("%s: %v", name, h.Check())
		}
	}
	if err := Ordered([]Hour{{At: dusk}, {At: dusk}}); err == nil {
		t.Error("the same hour twice is in order")
	}
}
