package server

import (
	"bytes"
	"encoding/json"
	"math"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"testing"
	"testing/fstest"
	"time"

	"oldburrow/core/asked"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/page"
	"oldburrow/core/round"
	"oldburrow/core/shed"
	"oldburrow/demo"
	"oldburrow/store"
)

// newDemo is a site with the demo line and its own clock.
func newDemo(t *testing.T) *site { return demoAt(t, filepath.Join(t.TempDir(), "demo.db")) }

// demoAt is newDemo in a data file, which may be there already.
// promised has all that is not made out yet of what the sets promised made out.
func (x *site) promised() {
	x.t.Helper()
	if err := tellPromises(x.t.Context(), x.server.Store, x.server.Clock.Now(), x.server.with()); err != nil {
		x.t.Fatal(err)
	}
}

func demoAt(t *testing.T, path string) *site {
	t.Helper()
	s, err := store.Open(path)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	for range 2 { // a second start changes nothing
		if err := LoadDemo(s); err != nil {
			t.Fatal(err)
		}
	}
	zone, err := round.Zone(demo.Zone)
	if err != nil {
		t.Fatal(err)
	}
	clock, err := NewDemoClock(s, demo.Start(), zone, true)
	if err != nil {
		t.Fatal(err)
	}
	server := &Server{Store: s, Clock: clock, Demo: clock, Dist: fstest.MapFS{"index.html": {Data: []byte("x")}}}
	h := httptest.NewServer(server.Handler())
	t.Cleanup(h.Close)
	x := &site{t: t, url: h.URL, server: server}
	withWeather(t, x)
	x.server.FetchWeather(t.Context())
	var about Program
	x.get("/about", &about)
	if !about.Demo || !about.Still || len(about.Lines) == 0 || !about.Now.Equal(demo.Start()) {
		t.Fatalf("%+v", about)
	}
	x.line = about.Lines[0].ID
	return x
}

// Every page of the demo is answered, and tells what its script holds.
func TestEveryPageOfTheDemo(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	x := newDemo(t)
	at := "/lines/" + x.line
	var view page.LineView
	x.get(at, &view)
	late := 0
	for _, s := range view.Sets {
		if s.Bead.Late {
			late++
		}
		if s.LastVisit == nil && view.Now.Sub(s.Make.BuiltAt) > 24*time.Hour || s.LastVisit != nil && s.LastVisit.At.After(view.Now) {
			t.Errorf("set %d was last seen %+v", s.Set.Number, s.LastVisit)
		}
	}
	if len(view.Sets) != 24 || late != 1 || len(view.Spots) != 15 || view.Light.Sunrise.Before(view.Now) {
		t.Errorf("%d sets, %d late, %d spots, sunrise %v", len(view.Sets), late, len(view.Spots), view.Light.Sunrise)
	}
	var book page.BookView
	x.get(at+"/book", &book)
	if book.Total.Catches < 4 || book.Total.Rate.Low >= book.Total.Rate.Per100 || book.Total.Rate.High <= book.Total.Rate.Per100 {
		t.Errorf("the book: %+v", book.Total)
	}
	var g page.Ground
	x.get(at+"/ground", &g)
	if len(g.Features) == 0 || len(g.Signs) == 0 || len(g.Properties) != 4 {
		t.Errorf("the ground: %d features, %d signs", len(g.Features), len(g.Signs))
	}
	if v := x.weather(); !v.Known || !v.StandIn {
		t.Errorf("the weather: %+v", v)
	}
	if r := x.rack(); len(r.Traps) != 55 || len(r.Gauges) == 0 {
		t.Errorf("the rack: %d traps, gauges %+v", len(r.Traps), r.Gauges)
	}
	for _, h := range takenDown(x.rack()) {
		var events []shed.Event
		x.get(x.of("traps", h.Trap.ID)+"/history", &events)
		if len(events) == 0 || events[len(events)-1].Kind != shed.Added {
			t.Errorf("the story of trap %d: %+v", h.Trap.Number, events)
		}
	}
	for _, format := range []string{"gpx", "geojson", "traps"} {
		if status, raw := x.do("GET", at+"/export/"+format, "", ""); status != http.StatusOK || len(raw) < 1000 {
			t.Errorf("export as %s: %d, %d bytes", format, status, len(raw))
		}
	}
}

// A question asked again is answered from memory, with the same words.
func TestTheBenchAnswersTheSameTwice(t *testing.T) {
	x := newDemo(t)
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	q := asked.Question{Layout: view.Sets[0].Make.Layout, Target: view.Sets[0].Make.Target, Visits: 2000, Map: true}
	_, first := x.do("POST", "/bench", "", q)
	status, second := x.do("POST", "/bench", "", q)
	if status != http.StatusOK || !bytes.Equal(first, second) {
		t.Errorf("%d, %.200s", status, second)
	}
	var found odds.Answer
	x.decode(&found)(x.do("POST", "/bench", "", q))
	if found.Feet.Step <= 0 || found.Feet.Fire <= 0 || found.Feet.Fire > found.Feet.Step || *found.Rigs[0].OfBest < .5 {
		t.Errorf("%+v", found)
	}
	q.Underfoot = layout.Underfoot{Frozen: true}
	var frozen odds.Answer
	x.decode(&frozen)(x.do("POST", "/bench", "", q))
	if math.Abs(frozen.Minutes-3*found.Minutes) > 1e-9 {
		t.Errorf("%g minutes, frozen %g", found.Minutes, frozen.Minutes)
	}
	var lessons []odds.Lesson
	x.get("/bench/lessons/bobcat", &lessons)
	if len(lessons) != 4 || lessons[0].Step >= lessons[3].Step {
		t.Errorf("%+v", lessons)
	}
	x.refused("GET", "/bench/lessons/skunk", "", "", 422, "target")
}

func TestNightsMoveOn(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	x := newDemo(t)
	var before page.LineView
	x.get("/lines/"+x.line, &before)
	var moved Moment
	x.decode(&moved)(x.do("POST", "/demo/night", "", "{}"))
	if want := demo.Start().AddDate(0, 0, 1); !moved.At.Equal(want) {
		t.Errorf("moved to %v, not %v", moved.At, want)
	}
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	if view.Sets[0].Bead.Nights != before.Sets[0].Bead.Nights+1 {
		t.Errorf("set 1 stands %d nights", view.Sets[0].Bead.Nights)
	}
	// The clock outlives the program, and does not go back.
	again, err := NewDemoClock(x.server.Store, demo.Start(), time.UTC, true)
	if err != nil || !again.Now().Equal(moved.At) {
		t.Errorf("after a start it shows %v, %v", again.Now(), err)
	}
	running, err := NewDemoClock(x.server.Store, demo.Start(), time.UTC, false)
	if err != nil || running.Now().Before(moved.At) || running.Keep() != nil {
		t.Errorf("a running one shows %v, %v", running.Now(), err)
	}
}

// Snow and rain that somebody saw are kept beside the service's.
func TestFallsAreKept(t *testing.T) {
	x := newDemo(t)
	fall := line.Fall{Kind: "snow", Ended: demo.Start().Add(-time.Hour)}
	x.put(x.of("falls", id()), fall, &fall)
	x.refused("PUT", x.of("falls", id()), id(), line.Fall{Kind: "frogs", Ended: demo.Start()}, 422, "kind")
	var g page.Ground
	x.get("/lines/"+x.line+"/ground", &g)
	raw, _ := json.Marshal(g.Falls)
	if !bytes.Contains(raw, []byte(fall.ID)) {
		t.Errorf("falls: %s", raw)
	}
}
