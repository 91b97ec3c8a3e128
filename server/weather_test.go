package server

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/outlook"
	"oldburrow/core/page"
	"oldburrow/demo"
	"oldburrow/instrument/weather"
)

// withWeather joins a site to a stand-in of its own.
func withWeather(t *testing.T, x *site) *weather.StandIn {
	t.Helper()
	service, err := weather.NewStandIn("127.0.0.1:0", demo.Hour)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { service.Close() })
	x.server.Weather = weather.NewClient(service.URL())
	x.server.FetchWeather(t.Context())
	return service
}

func (x *site) weather() page.WeatherView {
	x.t.Helper()
	if x.server.Weather != nil {
		x.server.FetchWeather(x.t.Context())
	}
	var v page.WeatherView
	x.get("/lines/"+x.line+"/weather", &v)
	return v
}

func TestWithoutASourceNothingIsKnown(t *testing.T) {
	x := newSite(t)
	x.built()
	v := x.weather()
	if v.Known || v.Connected || v.LastNight != nil || len(v.Spots) != 0 || len(v.Sets) != 0 {
		t.Errorf("%+v", v)
	}
	x.refused("POST", "/lines/"+x.line+"/place", "", outlook.Question{LatDeg: 46.8, LonDeg: -105.3, Class: "gland"}, 422, "latDeg")
	way := line.Feature{MadeAt: demo.Start(), Kind: "travel_way", Points: [][2]float64{{-105.302, 46.8}, {-105.298, 46.8}}}
	x.put(x.of("features", id()), way, nil)
	x.refused("POST", "/lines/"+x.line+"/place", "", outlook.Question{LatDeg: 46.8, LonDeg: -105.3, Class: "gland"}, 422, "wind")
	x.refused("POST", "/lines/"+x.line+"/place", "", outlook.Question{LatDeg: 46.8, LonDeg: -105.3, Class: "roses"}, 422, "class")
}

func TestWeatherIsKeptWhenTheServiceDies(t *testing.T) {
	x := newSite(t)
	x.built()
	service := withWeather(t, x)
	v := x.weather()
	if !v.Known || !v.StandIn || v.Stale || v.Trouble != "" || v.Nights != 10 || v.LastNight.ColdestC > -8 {
		t.Fatalf("%+v", v)
	}
	if frost := v.Spots[0]; frost.DepthMm < 80 || len(frost.Mornings) < 3 || frost.Mornings[0].DepthMm <= frost.DepthMm {
		t.Errorf("frost %+v", frost)
	}
	service.Close()
	x.clock.at = x.clock.at.Add(4 * time.Hour)
	v = x.weather()
	if !v.Known || !v.Stale || !strings.Contains(v.Trouble, "no usable answer") || v.LastNight == nil {
		t.Errorf("after the service died: %+v", v)
	}
}

func TestWhatAServiceSaysInOtherWordsIsTold(t *testing.T) {
	x := newSite(t)
	service := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		_, _ = w.Write([]byte(`{"observed":[{"at":"` + x.clock.at.Add(-time.Hour).UTC().Format(time.RFC3339) + `","tempC":1,"windFromDeg":270,"windMs":2,"rainIn":0.2}]}`))
	}))
	t.Cleanup(service.Close)
	x.server.Weather = weather.NewClient(service.URL)
	if v := x.weather(); len(v.Unknown) != 1 || v.Unknown[0] != "rainIn" || v.Trouble != "" {
		t.Errorf("%q, %q", v.Unknown, v.Trouble)
	}
}

func TestReadingsByHandGoOverTheService(t *testing.T) {
	x := newSite(t)
	made := x.built()
	withWeather(t, x)
	before := x.weather()
	spot := before.Spots[0].SpotID
	now := x.clock.at
	x.refused("PUT", x.of("readings", id()), id(), line.Reading{Kind: line.FrostProbe, At: now, Value: 60}, 422, "spotId")
	x.refused("PUT", x.of("readings", id()), id(), line.Reading{Kind: "mood", At: now}, 422, "kind")
	x.put(x.of("readings", id()), line.Reading{Kind: line.FrostProbe, SpotID: &spot, At: now, Value: before.Spots[0].DepthMm / 2}, nil)
	after := x.weather()
	if !after.Spots[0].Probed || after.Spots[0].DepthMm > .51*before.Spots[0].DepthMm || after.Spots[0].Mornings[1].DepthMm > .6*before.Spots[0].Mornings[1].DepthMm {
		t.Errorf("before %+v, after a probe %+v", before.Spots[0], after.Spots[0])
	}
	x.put(x.of("readings", id()), line.Reading{Kind: line.WindShift, At: now, Value: 90}, nil)
	if v := x.weather(); v.TonightBy[4] != len(v.Tonight.Hours) {
		t.Errorf("tonight's wind was shifted to the east: %v", v.TonightBy)
	}
	x.put(x.of("readings", id()), line.Reading{Kind: line.SnowDepth, At: now, Value: 30}, nil)
	if v := x.weather(); v.Spots[0].Mornings[2].DepthMm >= after.Spots[0].Mornings[2].DepthMm {
		t.Errorf("snow keeps no frost out: %+v", v.Spots[0])
	}
	if made.Layout.FacingDeg != nil {
		t.Error("a set that was not placed has a facing")
	}
}

func TestPlacement(t *testing.T) {
	x := newSite(t)
	withWeather(t, x)
	x.weather()
	way := line.Feature{MadeAt: demo.Start(), Kind: "travel_way", Points: [][2]float64{{-105.3, 46.795}, {-105.3, 46.805}}} // south to north
	x.put(x.of("features", id()), way, nil)
	var found outlook.Places
	x.decode(&found)(x.do("POST", "/lines/"+x.line+"/place", "", outlook.Question{LatDeg: 46.8, LonDeg: -105.30005, Class: "gland"}))
	best, far := found.Sides[0], found.Sides[1]
	if best.CompassDeg < 250 || best.CompassDeg > 290 || best.FacingDeg < 70 || best.FacingDeg > 110 {
		t.Errorf("the wind comes from west-south-west; stand it on the west side facing east: %+v", best)
	}
	if best.Record < .8 || far.Record > .3 || best.LonDeg >= -105.3 || found.Nights != 10 {
		t.Errorf("best %+v, far %+v", best, far)
	}
}

func TestOwnLog(t *testing.T) {
	x := newSite(t)
	log := "time,temp_c,wind_from_deg,wind_ms,rain_mm\n" +
		"2026-12-03 17:00,-4,180,2,\n2026-12-03 18:00,-5,180,2,0.2\n2026-12-03 18:30,-5,180,2,\n2026-12-03 19:00,cold,180,2,\n2026-12-03 20:00,-5,400,2,\n" +
		"2027-01-01 20:00,-5,4,2,\nyesterday,-5,4,2,\n2026-12-04T03:00:00Z,-6,170,1\n"
	var preview LogPreview
	x.decode(&preview)(x.do("POST", "/lines/"+x.line+"/weather/preview", "", log))
	if len(preview.Hours) != 3 || len(preview.Wrong) != 5 {
		t.Fatalf("%+v", preview)
	}
	for i, want := range []struct {
		row  int
		says string
	}{{4, "twice"}, {5, "no number"}, {6, "400"}, {7, "future"}, {8, "no time"}} {
		if got := preview.Wrong[i]; got.Row != want.row || !strings.Contains(got.Says, want.says) {
			t.Errorf("row %d: %+v", want.row, got)
		}
	}
	x.put(x.of("weather", id()), map[string]any{"hours": preview.Hours}, nil)
	if v := x.weather(); !v.Known || v.LastNight == nil || len(v.LastNight.Hours) != 3 || v.LastNight.ColdestC != -6 {
		t.Errorf("after the log: %+v", v)
	}
	withWeather(t, x)
	if v := x.weather(); v.LastNight.Hours[0].WindFromDeg != 180 || len(v.LastNight.Hours) < 12 {
		t.Errorf("the service overwrote the own log: %+v", v.LastNight.Hours[:2])
	}
	x.refused("POST", "/lines/"+x.line+"/weather/preview", "", "a,b\n1,2\n", 422, "file")
	x.refused("POST", "/lines/"+x.line+"/weather/preview", "", "", 422, "file")
	x.refused("PUT", x.of("weather", id()), id(), `{"hours":[]}`, 422, "hours")
	x.refused("PUT", x.of("weather", id()), id(), `{"hours":[{"at":"2026-12-04T03:00:00Z","tempC":-600,"windFromDeg":1,"windMs":1}]}`, 422, "hours[0].tempC")
	x.refused("PUT", x.of("weather", id()), id(), `{"hours":[{"at":"2026-12-04T03:00:00Z","windFromDeg":1,"windMs":1}]}`, 422, "tempC")
	x.refused("PUT", x.of("weather", id()), id(), `{"hours":[{"at":"2027-12-04T03:00:00Z","tempC":-6,"windFromDeg":1,"windMs":1}]}`, 422, "hours")
	x.refused("POST", "/lines/"+x.line+"/weather/preview", "", "time,temp_c,temp_c,wind_from_deg,wind_ms\n", 422, "file")
}

// The demo's season has every hour, the snow, the thaw, the rain and the hard frost that it tells of.
func TestDemoWeatherIsWhole(t *testing.T) {
	zone := demo.Start().Location()
	snow, thaw, rain, frost := 0.0, 0.0, 0.0, 0.0
	for at := time.Date(2026, 10, 1, 0, 0, 0, 0, zone); at.Before(time.Date(2026, 12, 21, 0, 0, 0, 0, zone)); at = at.Add(time.Hour) {
		h := demo.Hour(at)
		if err := h.Check(); err != nil {
			t.Fatalf("%s: %v", at, err)
		}
		switch at.Format("01-02") {
		case "11-12":
			snow += h.SnowCm
		case "11-18":
			thaw = max(thaw, h.TempC)
		case "11-20":
			rain += h.RainMm
		case "12-03":
			frost = min(frost, h.TempC)
		}
	}
	if snow < 5 || thaw < 5 || rain < 5 || frost > -10 {
		t.Errorf("snow %.1f cm, thaw %.1f °C, rain %.1f mm, frost %.1f °C", snow, thaw, rain, frost)
	}
}
