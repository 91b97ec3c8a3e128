package weather

import (
	"encoding/json"
	"math"
	"strings"
	"testing"
	"time"

	"oldburrow/core/pan"
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
		cover pan.Material
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

// Readings that come more often or more seldom are brought to hours; what fell stays the same in sum.
func TestHourly(t *testing.T) {
	at := time.Date(2026, 12, 4, 6, 0, 0, 0, time.UTC)
	read := func(minutes int, c, rain float64) Hour {
		return Hour{At: at.Add(time.Duration(minutes) * time.Minute), TempC: c, WindMs: 2, RainMm: rain}
	}
	for _, c := range []struct {
		name     string
		readings []Hour
		temps    []float64
	}{
		{"every hour", []Hour{read(0, -1, 1), read(60, -2, 0)}, []float64{-1, -2}},
		{"every quarter", []Hour{read(0, 0, .2), read(15, -1, .2), read(30, -2, .2), read(45, -3, .4), read(60, -4, 0)}, []float64{-1.5, -4}},
		{"every third", []Hour{read(0, -3, 0), read(180, 0, 3)}, []float64{-3, -2, -1, 0}},
		{"a gap of a day", []Hour{read(0, -3, 0), read(24*60, 0, 1)}, []float64{-3, 0}},
	} {
		hours, before, after := Hourly(c.readings), 0.0, 0.0
		for _, r := range c.readings {
			before += r.RainMm
		}
		for i, h := range hours {
			after += h.RainMm
			if i >= len(c.temps) || math.Abs(h.TempC-c.temps[i]) > 1e-9 {
				t.Errorf("%s: hour %d is %g °C", c.name, i, h.TempC)
			}
		}
		if len(hours) != len(c.temps) || math.Abs(before-after) > 1e-9 {
			t.Errorf("%s: %d hours, %g of %g mm", c.name, len(hours), after, before)
		}
	}
}

func TestAnHourSaysItsWeather(t *testing.T) {
	var h Hour
	if err := json.Unmarshal([]byte(`{"at":"2026-12-04T06:00:00Z","tempC":0,"windFromDeg":0,"windMs":0}`), &h); err != nil || h.At.Hour() != 6 {
		t.Errorf("%+v, %v", h, err)
	}
	for _, raw := range []string{`{}`, `{"at":"2026-12-04T06:00:00Z"}`, `{"at":"2026-12-04T06:00:00Z","temp":3,"windFromDeg":0,"windMs":0}`, `{"at":"2026-12-04T06:00:00Z","tempC":null,"windFromDeg":0,"windMs":0}`} {
		if err := json.Unmarshal([]byte(raw), &h); err == nil || !strings.Contains(err.Error(), "is missing") {
			t.Errorf("%s: %v", raw, err)
		}
	}
	if days := EveryDay([]Day{{Date: "2026-10-30", Hours: 24}, {Date: "2026-11-02", Hours: 24}}); len(days) != 4 || days[1].Date != "2026-10-31" || days[2].Hours != 0 {
		t.Errorf("every day: %+v", days)
	}
}
