package server

import (
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"testing"
	"testing/fstest"
	"time"

	"oldburrow/core/page"
	"oldburrow/core/round"
	"oldburrow/demo"
	"oldburrow/store"
)

// What was done in days and on a property: both days whole, by the line's own clock; nothing of another property.
func TestWhatWasDone(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	x := newDemo(t)
	at := "/lines/" + x.line
	zone, err := round.Zone(demo.Zone)
	if err != nil {
		t.Fatal(err)
	}
	done := func(query string) (view DoneView, days map[string]int) {
		x.get(at+"/done?"+query, &view)
		days = map[string]int{}
		for _, l := range view.Looks {
			days[l.Visit.At.In(zone).Format(time.DateOnly)]++
		}
		return view, days
	}
	all, every := done("")
	_, two := done("from=2026-12-02&to=2026-12-03")
	if len(two) != 2 || two["2026-12-02"] != every["2026-12-02"] || two["2026-12-03"] != every["2026-12-03"] || two["2026-12-03"] == 0 {
		t.Errorf("two days: %v, of %v", two, every)
	}
	if _, first := done("to=2026-11-01"); first["2026-11-01"] != every["2026-11-01"] || first["2026-11-02"] != 0 || first["2026-10-25"] == 0 {
		t.Errorf("up to a day: %v", first)
	}
	var ground page.Ground
	x.get(at+"/ground", &ground)
	spots, looks, makes := map[string]string{}, 0, 0
	for _, s := range ground.Spots {
		spots[s.ID] = s.PropertyID
	}
	of := map[string]string{}
	for _, s := range all.Sets {
		of[s.ID] = spots[s.SpotID]
	}
	for _, p := range ground.Properties {
		there, _ := done("property=" + p.ID)
		looks, makes = looks+len(there.Looks), makes+len(there.Makes)
		for _, l := range there.Looks {
			if of[l.Make.SetID] != p.ID {
				t.Errorf("%s: a look at set %s", p.Name, l.Make.SetID)
			}
		}
	}
	if looks != len(all.Looks) || makes != len(all.Makes) || looks < 700 {
		t.Errorf("%d looks and %d makes on all properties, %d and %d in all", looks, makes, len(all.Looks), len(all.Makes))
	}
	for query, field := range map[string]string{"from=tomorrow": "from", "to=2026-13-01": "to", "property=x": "property"} {
		x.refused("GET", at+"/done?"+query, "", "", http.StatusUnprocessableEntity, field)
	}
}

// The season that is asked for is the one that is told.
func TestTheSeasonThatIsAskedFor(t *testing.T) {
	s, err := store.Open(filepath.Join(t.TempDir(), "line.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	if err := LoadLarge(s, demo.Large{Seasons: 3, Sets: 3}); err != nil {
		t.Fatal(err)
	}
	server := &Server{Store: s, Clock: &stood{demo.Start()}, Dist: fstest.MapFS{}}
	h := httptest.NewServer(server.Handler())
	t.Cleanup(h.Close)
	x := &site{t: t, url: h.URL, server: server}
	var about Program
	x.get("/about", &about)
	var open page.BookView
	at := "/lines/" + about.Lines[0].ID
	x.get(at+"/book", &open)
	if len(open.Seasons) != 3 || open.Season == nil || open.Season.ID != open.Seasons[2].ID {
		t.Fatalf("%+v of %+v", open.Season, open.Seasons)
	}
	total := 0.0
	for _, season := range open.Seasons {
		var b page.BookView
		x.get(at+"/book?season="+season.ID, &b)
		total += b.Total.TrapNights
		if b.Season == nil || b.Season.ID != season.ID || b.Total.TrapNights == 0 || b.Since.Format(time.DateOnly) < season.From || b.Since.Format(time.DateOnly) > season.To {
			t.Errorf("%s: %+v since %v", season.Name, b.Season, b.Since)
		}
		var g page.Ground
		if x.get(at+"/ground?season="+season.ID, &g); g.Season == nil || g.Season.ID != season.ID {
			t.Errorf("%s on the ground: %+v", season.Name, g.Season)
		}
	}
	var all page.BookView
	if x.get(at+"/book?season=all", &all); all.Season != nil || all.Total.TrapNights != total {
		t.Errorf("all: %+v, %g trap-nights, %g in the seasons", all.Season, all.Total.TrapNights, total)
	}
	x.refused("GET", at+"/book?season="+id(), "", "", http.StatusNotFound, "")
}
