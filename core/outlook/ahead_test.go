package outlook

import (
	"testing"
	"time"

	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/weather"
)

// The nights to come are told as far as the service tells of them: rain, frost and snow of each that is known for most of its hours.
func TestTheNightsToCome(t *testing.T) {
	now := time.Date(2026, 12, 4, 12, 0, 0, 0, time.UTC)
	hours := func(nights int, change func(night int, h *weather.Hour)) (found []weather.Hour) {
		for i := range nights * 24 {
			h := weather.Hour{At: now.Add(time.Duration(i+1) * time.Hour), TempC: 3}
			change(i/24, &h)
			found = append(found, h)
		}
		return found
	}
	l := Line{Now: now, Zone: time.UTC}
	if got := l.Ahead(); got != nil {
		t.Errorf("nothing is expected: %+v", got)
	}
	l.Expected = hours(5, func(night int, h *weather.Hour) {
		switch night {
		case 0:
			h.RainMm = .5
		case 1:
			h.TempC = -4
		case 2:
			h.SnowCm, h.TempC = .2, -1
		case 3:
			h.RainMm = 9 // beyond what is told
		}
	})
	got := l.Ahead()
	if got == nil || got.Nights != 3 || got.Rain != 1 || got.RainMm != 7 || got.Frost != 2 || got.Snow != 1 || got.SnowCm < 2.7 || got.SnowCm > 2.9 {
		t.Errorf("%+v", got)
	}
	l.Expected = l.Expected[:10] // it breaks off at ten in the evening
	if got := l.Ahead(); got != nil {
		t.Errorf("of a night that is hardly known: %+v", got)
	}
}

// What is drawn near a spot is told with its name, the nearest first; what lies farther off is not.
func TestThingsNear(t *testing.T) {
	spot := line.Spot{LatDeg: 46.8, LonDeg: -105.3}
	at := func(kind ground.FeatureKind, name string, northM float64) line.Feature {
		return line.Feature{Kind: kind, Name: name, Points: [][2]float64{{-105.3, 46.8 + northM/111_195}}}
	}
	l := Line{Line: line.Line{LatDeg: 46.8, LonDeg: -105.3}, Features: []line.Feature{at("lone_tree", "the far one", 60), at("lone_tree", "Old cottonwood", 40), at("spring", "", 10), at("boundary", "the pasture", 5)}}
	got := l.ThingsNear(spot, 50)
	if len(got) != 2 || got[0].Kind != "spring" || got[1].Name != "Old cottonwood" || got[1].M < 39 || got[1].M > 41 {
		t.Errorf("%+v", got)
	}
}
