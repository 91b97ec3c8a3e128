package weather

import (
	"context"
	"errors"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"oldburrow/core/weather"
)

var now = time.Date(2026, 12, 4, 12, 50, 0, 0, time.UTC)

func cold(at time.Time) weather.Hour {
	return weather.Hour{At: at.UTC(), TempC: -10, WindFromDeg: 247, WindMs: 3}
}

func get(t *testing.T, url string) (Report, error) {
	t.Helper()
	return NewClient(url).Get(context.Background(), 46.8, -105.3, now.Add(-48*time.Hour), now)
}

func TestStandInIsRead(t *testing.T) {
	s, err := NewStandIn("127.0.0.1:0", cold)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	r, err := get(t, s.URL())
	if err != nil {
		t.Fatal(err)
	}
	if !r.StandIn || len(r.Observed) != 49 || len(r.Forecast) != 72 || r.Observed[48].At.After(now) || !r.Forecast[0].At.After(now) {
		t.Errorf("%d observed, %d forecast", len(r.Observed), len(r.Forecast))
	}
}

func TestOutOfReachIsTriedAgain(t *testing.T) {
	asked := 0
	service := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
		if asked++; asked < 3 {
			http.Error(w, "later", http.StatusServiceUnavailable)
			return
		}
		_, _ = w.Write([]byte(`{"observed":[{"at":"2026-12-04T12:00:00Z","tempC":1,"windFromDeg":270,"windMs":2}],"forecast":[]}`))
	}))
	defer service.Close()
	if r, err := get(t, service.URL); err != nil || asked != 3 || len(r.Observed) != 1 {
		t.Errorf("asked %d times: %v", asked, err)
	}
	service.Close()
	if _, err := get(t, service.URL); err == nil || errors.Is(err, errLying) {
		t.Errorf("a dead service: %v", err)
	}
}

func TestLyingRepliesAreRefusedAtOnce(t *testing.T) {
	hour := func(at, rest string) string { return `{"at":"` + at + `"` + rest + `}` }
	for name, reply := range map[string]string{
		"not JSON":           `<html>`,
		"cut off":            `{"observed":[`,
		"empty":              `{}`,
		"impossible cold":    `{"observed":[` + hour("2026-12-04T10:00:00Z", `,"tempC":-300`) + `]}`,
		"impossible wind":    `{"observed":[` + hour("2026-12-04T10:00:00Z", `,"windMs":-4`) + `]}`,
		"no time":            `{"observed":[{}]}`,
		"observed tomorrow":  `{"observed":[` + hour("2026-12-05T18:00:00Z", ``) + `]}`,
		"out of order":       `{"observed":[` + hour("2026-12-04T10:00:00Z", ``) + `,` + hour("2026-12-04T09:00:00Z", ``) + `]}`,
		"forecast for years": `{"forecast":[` + hour("2029-12-04T10:00:00Z", ``) + `]}`,
		"words for numbers":  `{"observed":[` + hour("2026-12-04T10:00:00Z", `,"tempC":"cold"`) + `]}`,
	} {
		asked := 0
		service := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) {
			asked++
			_, _ = w.Write([]byte(reply))
		}))
		if _, err := get(t, service.URL); !errors.Is(err, errLying) || asked != 1 {
			t.Errorf("%s: asked %d times, %v", name, asked, err)
		}
		service.Close()
	}
}

func TestStandInRefusesNonsense(t *testing.T) {
	s, err := NewStandIn("127.0.0.1:0", cold)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	for _, query := range []string{"", "?from=x&now=y", "?from=1900-01-01T00:00:00Z&now=2026-12-04T00:00:00Z"} {
		response, err := http.Get(s.URL() + "/hourly" + query)
		if err != nil {
			t.Fatal(err)
		}
		response.Body.Close()
		if response.StatusCode != http.StatusBadRequest {
			t.Errorf("%q: %s", query, response.Status)
		}
	}
	if !strings.HasPrefix(s.URL(), "http://127.0.0.1:") {
		t.Errorf("it listens at %s", s.URL())
	}
}

// Names that mean nothing here are told also when nothing that is needed is missing: rain may stand under one of them.
func TestUnknownNamesAreTold(t *testing.T) {
	r, err := decode([]byte(`{"observed":[{"at":"2026-12-04T11:00:00Z","tempC":1,"windFromDeg":270,"windMs":2,"rainIn":0.2},
		{"at":"2026-12-04T12:00:00Z","tempC":1,"windFromDeg":270,"windMs":2,"rainMm":1,"gust":4}]}`))
	if err != nil || strings.Join(r.Unknown, " ") != "gust rainIn" {
		t.Errorf("%q, %v", r.Unknown, err)
	}
}

// Whatever a service answers, nothing falls over, and what is taken are hours that can be.
func FuzzDecode(f *testing.F) {
	f.Add([]byte(`{"issued":"2026-12-04T12:00:00Z","observed":[{"at":"2026-12-04T11:20:00Z","tempC":1,"windFromDeg":270,"windMs":2}],"forecast":[]}`))
	f.Add([]byte(`{"observed":[{"at":"2026-12-04T08:00:00Z","tempC":1,"windFromDeg":350,"windMs":2},{"at":"2026-12-04T11:00:00Z","tempC":1,"windFromDeg":10,"windMs":2,"rainMm":3}]}`))
	f.Add([]byte(`{"observed":[{}]}`))
	f.Fuzz(func(t *testing.T, reply []byte) {
		r, err := decode(reply)
		if err != nil || check(r, now) != nil {
			return
		}
		for _, hours := range [][]weather.Hour{weather.Hourly(r.Observed), weather.Hourly(r.Forecast)} {
			if err := weather.Ordered(hours); err != nil {
				t.Errorf("%v of %s", err, reply)
			}
		}
	})
}
