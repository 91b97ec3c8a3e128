package server

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/animal"
	"oldburrow/core/asked"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/page"
	"oldburrow/core/schools"
	"oldburrow/demo"
	"oldburrow/store"
)

// stood is a clock that stands where it is put.
type stood struct{ at time.Time }

func (c *stood) Now() time.Time { return c.at }

// site is a server over a data file of its own, with one line.
type site struct {
	t      *testing.T
	url    string
	line   string
	clock  *stood
	server *Server
}

func newSite(t *testing.T) *site {
	t.Helper()
	s, err := store.Open(filepath.Join(t.TempDir(), "line.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	clock := &stood{demo.Start()}
	server := &Server{Store: s, Clock: clock, Dist: fstest.MapFS{"index.html": {Data: []byte("<title>Old Burrow</title>")}, "assets/core-1.wasm.gz": {Data: []byte("packed")}}}
	h := httptest.NewServer(server.Handler())
	t.Cleanup(h.Close)
	x := &site{t: t, url: h.URL, line: id(), clock: clock, server: server}
	x.put("/lines/"+x.line, line.Line{Name: "A line", Zone: demo.Zone, LatDeg: 46.8, LonDeg: -105.3}, nil)
	return x
}

func id() string { return ulid.Make().String() }

// do sends a request and gives its status and body.
func (x *site) do(method, path, mutation string, body any) (int, []byte) {
	x.t.Helper()
	raw, ok := body.(string)
	if !ok {
		encoded, err := json.Marshal(body)
		if err != nil {
			x.t.Fatal(err)
		}
		raw = string(encoded)
	}
	request, err := http.NewRequest(method, x.url+"/api"+path, strings.NewReader(raw))
	if err != nil {
		x.t.Fatal(err)
	}
	request.Header.Set("Content-Type", "application/json")
	if strings.Contains(path, "/photos/") {
		request.Header.Set("Content-Type", "application/octet-stream")
	}
	if mutation != "" {
		request.Header.Set("Mutation", mutation)
	}
	response, err := http.DefaultClient.Do(request)
	if err != nil {
		x.t.Fatal(err)
	}
	defer response.Body.Close()
	answer, err := io.ReadAll(response.Body)
	if err != nil {
		x.t.Fatal(err)
	}
	return response.StatusCode, answer
}

// put writes and wants it taken; the answer is decoded into answer when that is not nil.
func (x *site) put(path string, body, answer any) {
	x.t.Helper()
	x.decode(answer)(x.do("PUT", path, id(), body))
}

func (x *site) get(path string, answer any) {
	x.t.Helper()
	x.decode(answer)(x.do("GET", path, "", ""))
}

func (x *site) decode(answer any) func(int, []byte) {
	return func(status int, raw []byte) {
		x.t.Helper()
		if status != http.StatusOK {
			x.t.Fatalf("status %d: %s", status, raw)
		}
		if answer != nil {
			if err := json.Unmarshal(raw, answer); err != nil {
				x.t.Fatal(err)
			}
		}
	}
}

// refused wants a problem with a status that names a field.
func (x *site) refused(method, path, mutation string, body any, status int, field string) Problem {
	x.t.Helper()
	got, raw := x.do(method, path, mutation, body)
	var p Problem
	if err := json.Unmarshal(raw, &p); err != nil || got != status || p.Status != status || p.Detail == "" {
		x.t.Fatalf("%s %s: status %d, %s (%v)", method, path, got, raw, err)
	}
	if field != "" && (len(p.Fields) == 0 || p.Fields[0].Field != field) {
		x.t.Errorf("%s %s: %s, want it to name %s", method, path, raw, field)
	}
	return p
}

// ground marks a spot and gives its id.
func (x *site) spot() string {
	x.t.Helper()
	property, spot := id(), id()
	x.put(x.of("properties", property), line.Property{Name: "Alder Slough hayfield"}, nil)
	x.put(x.of("spots", spot), line.Spot{PropertyID: property, Name: "Gate", LatDeg: 46.8, LonDeg: -105.3, TravelWidthMm: new(600.0), WaysMeet: new(1), Soil: "loam", Wetness: "moist", Surface: "grass"}, nil)
	return spot
}

func (x *site) of(kind, id string) string { return fmt.Sprintf("/lines/%s/%s/%s", x.line, kind, id) }

// laidOut is a set for a coyote as it begins.
func laidOut(t *testing.T, pattern string) layout.Layout {
	t.Helper()
	l, err := layout.New(pattern, layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	return l
}

// built builds a coyote set at a new spot and gives its make.
func (x *site) built() line.Make {
	x.t.Helper()
	l := laidOut(x.t, "hole")
	design := line.Design{ID: id(), SpotID: x.spot(), Target: "coyote", Layout: l}
	x.put(x.of("designs", design.ID), design, nil)
	made := line.Make{ID: id(), SetID: id(), DesignID: design.ID, Target: "coyote", Layout: l, BuiltAt: x.clock.at}
	x.put(x.of("makes", made.ID), made, &made)
	return made
}

func TestFromSpotToCatch(t *testing.T) {
	x := newSite(t)
	made := x.built()
	x.clock.at = x.clock.at.AddDate(0, 0, 2)
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	if len(view.Sets) != 1 || view.Sets[0].Set.Number != 1 || !view.Sets[0].Bead.Late || view.Sets[0].Bead.Nights != 2 {
		t.Fatalf("the string: %+v", view.Sets)
	}
	// The design says what its make does and is not told again, until it is changed on the bench.
	var design line.Design
	x.get(x.of("designs", made.DesignID), &design)
	if design.SetID == nil || *design.SetID != made.SetID || len(view.Designs) != 0 || view.Sets[0].DesignVersion != design.Version {
		t.Errorf("the design does not know its set, or is told twice: %+v", view.Designs)
	}
	design.Layout.Rigs[0].Pan.GaugeN++
	x.put(x.of("designs", design.ID), design, nil)
	x.get("/lines/"+x.line, &view)
	if len(view.Designs) != 1 || view.Designs[0].Layout.Rigs[0].Pan.GaugeN != design.Layout.Rigs[0].Pan.GaugeN || view.Sets[0].DesignVersion != 0 {
		t.Errorf("the changed design: %+v", view.Designs)
	}
	visit := line.Visit{ID: id(), MakeID: made.ID, At: x.clock.at, Found: line.Found{Finding: "catch"}, Catches: []line.Catch{{ID: id(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}}}
	x.put(x.of("visits", visit.ID), visit, nil)
	remade := made
	x.clock.at = x.clock.at.Add(time.Hour)
	remade.ID, remade.BuiltAt = id(), x.clock.at
	x.put(x.of("makes", remade.ID), remade, nil)
	x.get("/lines/"+x.line, &view)
	if got := view.Sets[0].Make; got.ID != remade.ID || got.Follows == nil || *got.Follows != made.ID {
		t.Errorf("what stands: %+v", got)
	}
	var book page.BookView
	x.get("/lines/"+x.line+"/book", &book)
	if book.Total.Catches != 1 || book.Total.TrapNights != 1 || len(book.Catches) != 1 || book.Catches[0].Number != 1 || book.Total.Rate.Per100 != 100 {
		t.Errorf("the book: %+v", book)
	}
	if len(book.Nights) != 2 || book.Nights[1].Held != 1 || book.Nights[0].Traps != 1 {
		t.Errorf("its nights: %+v", book.Nights)
	}
	x.put(x.of("visits", visit.ID)+"/undo", Moment{At: x.clock.at}, nil)
	x.get("/lines/"+x.line+"/book", &book)
	if book.Total.Catches != 0 || len(book.Catches) != 0 {
		t.Errorf("a visit taken back still counts: %+v", book)
	}
	x.put(x.of("pulls", id()), line.Pull{MakeID: remade.ID, At: remade.BuiltAt}, nil)
	x.get("/lines/"+x.line, &view)
	if view.Sets[0].Bead.State != line.Down {
		t.Errorf("a pulled set: %+v", view.Sets[0].Bead)
	}
}

func TestRepeatedWritesChangeNothing(t *testing.T) {
	x := newSite(t)
	made := x.built()
	mutation, property := id(), id()
	_, first := x.do("PUT", x.of("properties", property), mutation, line.Property{Name: "First"})
	status, second := x.do("PUT", x.of("properties", property), mutation, line.Property{Name: "First"})
	if status != http.StatusOK || !bytes.Equal(first, second) {
		t.Errorf("a replay answers %d %s, the first answered %s", status, second, first)
	}
	// The same act under another mutation is the same act.
	x.put(x.of("makes", made.ID), made, nil)
	visit := line.Visit{ID: id(), MakeID: made.ID, At: x.clock.at, Found: line.Found{Finding: "quiet"}}
	x.put(x.of("visits", visit.ID), visit, nil)
	x.put(x.of("visits", visit.ID), visit, &visit)
	var book page.BookView
	x.get("/lines/"+x.line+"/book", &book)
	if len(book.Sets) != 1 || visit.Finding != "quiet" {
		t.Errorf("said twice: %+v", book.Sets)
	}
}

// An id that is used again for something else is refused in words, and what stood stays.
func TestAnIDStandsForOneThing(t *testing.T) {
	x := newSite(t)
	made := x.built()
	taken := func(path, mutation string, body any, what string) {
		t.Helper()
		if p := x.refused("PUT", path, mutation, body, 409, ""); !strings.Contains(p.Detail, what) || p.Theirs != nil {
			t.Errorf("%s: %q", path, p.Detail)
		}
	}
	mutation, property := id(), id()
	x.decode(nil)(x.do("PUT", x.of("properties", property), mutation, line.Property{Name: "First"}))
	taken(x.of("properties", property), mutation, line.Property{Name: "Second"}, "this write")
	taken(x.of("properties", id()), mutation, line.Property{Name: "First"}, "this write")
	again := made
	again.BuiltAt = made.BuiltAt.Add(time.Hour)
	taken(x.of("makes", made.ID), id(), again, "this make")
	caught := line.Catch{ID: id(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}
	visit := line.Visit{ID: id(), MakeID: made.ID, At: x.clock.at, Found: line.Found{Finding: "catch"}, Catches: []line.Catch{caught}}
	x.put(x.of("visits", visit.ID), visit, nil)
	other := visit
	other.Finding, other.Catches = "dug", nil
	taken(x.of("visits", visit.ID), id(), other, "this look")
	taken(x.of("visits", id()), id(), visit, "this catch") // the same animal at another look
	caught.Species = "bobcat"
	other.Finding, other.Catches = "catch", []line.Catch{caught}
	taken(x.of("visits", visit.ID), id(), other, "this look")
	pull := line.Pull{ID: id(), MakeID: made.ID, At: x.clock.at}
	x.put(x.of("pulls", pull.ID), pull, nil)
	pull.At = pull.At.Add(time.Minute)
	taken(x.of("pulls", pull.ID), id(), pull, "this pull")
	var book page.BookView
	x.get("/lines/"+x.line+"/book", &book)
	if len(book.Catches) != 1 || book.Catches[0].Species != "coyote" {
		t.Errorf("the catches: %+v", book.Catches)
	}
}

// Nothing of one line can be reached, changed or taken away through another.
func TestAnotherLinesRecordsCannotBeReached(t *testing.T) {
	x := newSite(t)
	made, trap := x.built(), x.trap(1)
	visit := line.Visit{ID: id(), MakeID: made.ID, At: x.clock.at, Found: line.Found{Finding: "quiet"}}
	x.put(x.of("visits", visit.ID), visit, nil)
	pattern := line.Pattern{ID: id(), Name: "My hole", Target: "coyote", Layout: made.Layout}
	x.put(x.of("patterns", pattern.ID), pattern, &pattern)
	var g page.Ground
	x.get("/lines/"+x.line+"/ground", &g)
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	export := func() string {
		_, ground := x.do("GET", "/lines/"+x.line+"/export/geojson", "", "")
		_, rack := x.do("GET", "/lines/"+x.line+"/export/traps", "", "")
		return string(ground) + string(rack)
	}
	before := export()

	var design line.Design
	x.get(x.of("designs", made.DesignID), &design)
	mine := x.line
	x.line = id()
	x.put("/lines/"+x.line, line.Line{Name: "Another", Zone: demo.Zone, LatDeg: 46.8, LonDeg: -105.3}, nil)
	spot, property := g.Spots[0], g.Properties[0]
	own := id()
	x.put(x.of("properties", own), line.Property{Name: "Mine"}, nil)
	spot.PropertyID = own
	for path, body := range map[string]any{
		x.of("properties", property.ID): property, x.of("spots", spot.ID): spot, x.of("traps", trap.ID): trap,
		x.of("patterns", pattern.ID): pattern,
	} {
		if p := x.refused("PUT", path, id(), body, 409, ""); p.Theirs != nil {
			t.Errorf("%s shows another line's record: %+v", path, p.Theirs)
		}
	}
	x.refused("PUT", x.of("designs", design.ID), id(), design, 422, "spotId")
	x.refused("PUT", x.of("makes", made.ID), id(), made, 422, "designId")
	x.refused("PUT", x.of("visits", visit.ID), id(), visit, 422, "makeId")
	x.refused("PUT", x.of("pulls", id()), id(), line.Pull{MakeID: made.ID, At: x.clock.at}, 422, "makeId")
	x.refused("PUT", x.of("visits", visit.ID)+"/undo", id(), Moment{At: x.clock.at}, 404, "")
	x.refused("GET", x.of("designs", design.ID), "", "", 404, "")
	x.refused("POST", "/lines/"+x.line+"/repattern", "", page.Repattern{Layout: made.Layout, Target: "coyote", SpotID: spot.ID, OwnID: pattern.ID}, 404, "")
	x.refused("POST", "/lines/"+x.line+"/repattern", "", page.Repattern{Layout: made.Layout, Target: "coyote", SpotID: made.ID, Pattern: "hole"}, 404, "")
	x.line = mine
	if export() != before {
		t.Error("the first line is not what it was")
	}
	var after page.LineView
	x.get("/lines/"+x.line, &after)
	if after.Sets[0].LastVisit == nil || after.Spots[0].Version != view.Spots[0].Version {
		t.Errorf("the first line is not what it was: %+v", after)
	}
}

// A write says which file it is meant for; what the device's clock showed is kept with it.
func TestWritesSayWhereTheyBelong(t *testing.T) {
	x := newSite(t)
	var about Program
	x.get("/about", &about)
	for _, c := range []struct {
		header, value string
		status        int
	}{
		{"File", about.File, 200}, {"File", id() + "/" + id(), 421},
		{"Device-Time", "2026-12-04T12:50:03.123Z", 200}, {"Device-Time", "soon", 422},
		{"Clock-Offset", "-2500", 200}, {"Clock-Offset", "a while", 422},
	} {
		request, _ := http.NewRequest("PUT", x.url+"/api"+x.of("properties", id()), strings.NewReader(`{"name":"A"}`))
		request.Header.Set("Mutation", id())
		request.Header.Set("Content-Type", "application/json")
		request.Header.Set(c.header, c.value)
		response, err := http.DefaultClient.Do(request)
		if err != nil {
			t.Fatal(err)
		}
		response.Body.Close()
		if response.StatusCode != c.status {
			t.Errorf("%s %s: %d, want %d", c.header, c.value, response.StatusCode, c.status)
		}
	}
}

func TestStaleVersionShowsBoth(t *testing.T) {
	x := newSite(t)
	property := id()
	var p line.Property
	x.put(x.of("properties", property), line.Property{Name: "First"}, &p)
	p.Name = "Second"
	x.put(x.of("properties", property), p, nil)
	p.Name = "Third"
	problem := x.refused("PUT", x.of("properties", property), id(), p, http.StatusConflict, "")
	theirs, ok := problem.Theirs.(map[string]any)
	if !ok || theirs["name"] != "Second" || theirs["version"] != 2.0 {
		t.Errorf("theirs is %v", problem.Theirs)
	}
	made := x.built()
	var design line.Design
	x.get(x.of("designs", made.DesignID), &design)
	x.put(x.of("designs", made.DesignID), design, nil)
	problem = x.refused("PUT", x.of("designs", made.DesignID), id(), design, http.StatusConflict, "")
	if theirs, ok := problem.Theirs.(map[string]any); !ok || theirs["layout"].(map[string]any)["kind"] != "dirt_hole" {
		t.Errorf("their design is %v", problem.Theirs)
	}
}

// Building does not make the design's own save stale, and a save that comes late does not undo the building.
func TestADesignSavedAfterItIsBuilt(t *testing.T) {
	x := newSite(t)
	made := x.built()
	var design line.Design
	x.get(x.of("designs", made.DesignID), &design)
	if design.SetID == nil || *design.SetID != made.SetID || design.Version != 1 {
		t.Fatalf("built: %+v", design)
	}
	design.SetID, design.Layout.Attractors[0].Smells[0].Name = nil, "beaver"
	x.put(x.of("designs", design.ID), design, nil)
	x.get(x.of("designs", made.DesignID), &design)
	if design.SetID == nil || *design.SetID != made.SetID || design.Layout.Attractors[0].Smells[0].Name != "beaver" {
		t.Errorf("saved late: %+v", design)
	}
}

func TestRefusalsNameTheField(t *testing.T) {
	x := newSite(t)
	made, spot := x.built(), x.spot()
	visit := line.Visit{MakeID: made.ID, At: x.clock.at, Found: line.Found{Finding: "catch"}, Catches: []line.Catch{{ID: id(), Sex: "male", Foot: "left_fore", Hold: "pad"}}}
	x.refused("PUT", x.of("visits", id()), id(), visit, 422, "catches[0].species")
	x.refused("PUT", x.of("visits", id()), "", visit, 422, "catches[0].species")
	visit.Finding, visit.Catches = "quiet", nil
	x.refused("PUT", x.of("visits", id()), "", visit, 422, "Mutation")
	visit.MakeID = id()
	x.refused("PUT", x.of("visits", id()), id(), visit, 422, "makeId")
	x.refused("PUT", x.of("signs", id()), id(), sign(spot, x.clock.at.Add(time.Hour)), 422, "seenAt")
	x.refused("PUT", x.of("signs", id()), id(), sign(id(), x.clock.at), 422, "spotId")
	bad := made
	bad.Layout = laidOut(t, "hole")
	bad.Layout.Attractors[0].Hole.AngleDeg = 5
	x.refused("PUT", x.of("makes", id()), id(), bad, 422, "layout.attractors[0].hole.angleDeg")
	x.refused("PUT", x.of("spots", id()), id(), `{"name":4}`, 422, "name")
	x.refused("PUT", x.of("spots", id()), id(), `{"name":`, 422, "body")
	x.refused("PUT", x.of("spots", id()), id(), `{"colour":"red"}`, 422, "body")
	x.refused("POST", "/bench", "", asked.Question{Layout: bad.Layout, Target: "coyote", Visits: 100}, 422, "attractors[0].hole.angleDeg")
	x.refused("POST", "/bench", "", asked.Question{Layout: made.Layout, Target: "coyote", Visits: 1 << 30}, 422, "visits")
	x.refused("GET", "/lines/"+x.line+"/defaults/skunk?spot="+x.spot(), "", "", 422, "target")
	x.refused("GET", "/lines/"+id(), "", "", 404, "")
	x.refused("GET", x.of("designs", id()), "", "", 404, "")
	x.refused("GET", "/nothing", "", "", 404, "")
	x.refused("POST", "/demo/night", "", "{}", 404, "")
	x.refused("PUT", x.of("spots", id()), id(), `{"name":"`+strings.Repeat("a", 2<<20)+`"}`, 413, "")
}

// Acts are kept and flagged when odd, never thrown away.
func TestOddActsAreKept(t *testing.T) {
	x := newSite(t)
	made := x.built()
	x.clock.at = x.clock.at.AddDate(0, 0, 2)
	x.put(x.of("pulls", id()), line.Pull{MakeID: made.ID, At: x.clock.at}, nil)
	for _, at := range []time.Time{x.clock.at.Add(3 * time.Hour), made.BuiltAt.Add(-time.Minute), time.Date(1985, 1, 1, 0, 0, 0, 0, time.UTC)} {
		visit := line.Visit{MakeID: made.ID, At: at, Found: line.Found{Finding: "quiet"}}
		x.put(x.of("visits", id()), visit, &visit)
		if ahead := strings.Contains(visit.Flags, line.FlagClockAhead); ahead != at.After(x.clock.at) {
			t.Errorf("flags of %v are %q", at, visit.Flags)
		}
	}
	x.clock.at = x.clock.at.AddDate(0, 0, 1)
	late := line.Visit{MakeID: made.ID, At: x.clock.at, Found: line.Found{Finding: "catch"}, Catches: []line.Catch{{ID: id(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}}}
	x.put(x.of("visits", id()), late, nil)
	var book page.BookView
	x.get("/lines/"+x.line+"/book", &book)
	why := ""
	for _, odd := range book.Odd {
		why += string(odd.Why) + " "
	}
	if why != "after after before far " || book.Odd[0].Catches[0].Species != "coyote" || book.Odd[0].Number != 1 {
		t.Errorf("odd: %s, %+v", why, book.Odd)
	}
	if book.Total.TrapNights != 2 || len(book.Catches) != 0 {
		t.Errorf("they count: %+v", book.Total)
	}
}

// Whatever a view is read from, nothing that is written meanwhile comes between.
func TestAViewIsOfOneMoment(t *testing.T) {
	x := newSite(t)
	made := x.built()
	err := x.server.read(t.Context(), x.line, func(r reading) error {
		first, err := r.Record()
		if err != nil {
			return err
		}
		visit := line.Visit{ID: id(), MakeID: made.ID, At: x.clock.at, Found: line.Found{Finding: "quiet"}}
		x.put(x.of("visits", visit.ID), visit, nil)
		second, err := r.Record()
		if err == nil && (len(first.Visits) != 0 || len(second.Visits) != 0) {
			t.Errorf("%d looks, then %d", len(first.Visits), len(second.Visits))
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
}

func TestCalculatorsOverHTTP(t *testing.T) {
	x := newSite(t)
	var out map[string]float64
	x.decode(&out)(x.do("POST", "/calc/fire", "", `{"species":"coyote","tensionN":0}`))
	if out["chance"] != 1 {
		t.Errorf("%v", out)
	}
	x.refused("POST", "/calc/fire", "", `{"species":"coyote"}`, 422, "tensionN")
	x.refused("POST", "/calc/fly", "", `{}`, 404, "")
}

func TestFrontEndAndHeaders(t *testing.T) {
	x := newSite(t)
	for path, want := range map[string]int{"/assets/core-1.wasm": 200, "/assets/core-2.wasm": 404} {
		request, _ := http.NewRequest("GET", x.url+path, nil)
		request.Header.Set("Accept-Encoding", "gzip")
		response, err := http.DefaultTransport.RoundTrip(request)
		if err != nil {
			t.Fatal(err)
		}
		raw, _ := io.ReadAll(response.Body)
		response.Body.Close()
		if response.StatusCode != want {
			t.Errorf("%s: %d, want %d", path, response.StatusCode, want)
		}
		h := response.Header
		if want == 200 && (h.Get("Content-Type") != "application/wasm" || h.Get("Content-Encoding") != "gzip" || !strings.Contains(h.Get("Cache-Control"), "immutable") || string(raw) != "packed") {
			t.Errorf("%s: %v %q", path, h, raw)
		}
	}
	for path, want := range map[string]int{"/": 200, "/line/x/bench": 200, "/api/none": 404} {
		response, err := http.Get(x.url + path)
		if err != nil {
			t.Fatal(err)
		}
		response.Body.Close()
		if response.StatusCode != want {
			t.Errorf("%s: %d, want %d", path, response.StatusCode, want)
		}
		if csp := response.Header.Get("Content-Security-Policy"); !strings.Contains(csp, "default-src 'self'") || strings.Contains(strings.Replace(csp, "script-src 'self' 'wasm-unsafe-eval';", "", 1), "unsafe") { // the core runs in the page too
			t.Errorf("%s: policy %q", path, csp)
		}
	}
}

// sign is a coyote's tracks at a spot.
func sign(spot string, seen time.Time) line.Sign {
	return line.Sign{SpotID: &spot, What: "tracks", Animal: "coyote", Age: "week", Holds: "well", SeenAt: seen}
}

func TestImportIsAllOrNothingAndBounded(t *testing.T) {
	x := newSite(t)
	preview := "/lines/" + x.line + "/import/preview"
	x.refused("POST", preview, "", "<html/>", 422, "file")
	x.refused("POST", preview, "", strings.Repeat("<", 21<<20), 413, "")
	point := `{"form":"point","kind":"gate","type":"","name":"a","note":"","known":false,"points":[[-105.3,46.8]]}`
	lineOf := strings.Replace(point, "gate", "fence", 1)
	bring := func(things string) string { return `{"things":[` + things + `],"property":"Home"}` }
	x.refused("PUT", x.of("import", id()), id(), bring(point+","+lineOf), 422, "things[1].points")
	x.refused("PUT", x.of("import", id()), id(), bring(""), 422, "things")
	x.refused("PUT", x.of("import", id()), id(), bring(strings.Replace(point, "gate", "moat", 1)), 422, "things[0].kind")
	var g page.Ground
	x.get("/lines/"+x.line+"/ground", &g)
	if len(g.Features) != 0 {
		t.Errorf("half an import stays: %+v", g.Features)
	}
	var brought Brought
	mutation, path := id(), x.of("import", id())
	for range 2 { // the second is a repeat of the first
		x.decode(&brought)(x.do("PUT", path, mutation, bring(point+","+strings.Replace(point, "gate", "spot", 1)+","+strings.Replace(point, "gate", "sign", 1))))
	}
	x.get("/lines/"+x.line+"/ground", &g)
	if brought != (Brought{1, 1, 1}) || len(g.Features) != 1 || len(g.Spots) != 1 || len(g.Signs) != 1 || g.Properties[0].Name != "Home" {
		t.Errorf("brought %+v, there are %+v", brought, g)
	}
}

func TestPlaceAndPhotoRefusals(t *testing.T) {
	x := newSite(t)
	x.refused("GET", "/place?seconds=1", "", "", 404, "")
	x.server.GPS = &Receiver{Address: "127.0.0.1:1"}
	x.refused("GET", "/place?seconds=99", "", "", 422, "seconds")
	x.refused("GET", "/place?seconds=1", "", "", 404, "")
	x.refused("PUT", x.of("photos", id()), id(), "no picture", 422, "photo")
	x.refused("GET", x.of("photos", id()), "", "", 404, "")
	x.refused("GET", "/lines/"+x.line+"/export/kml", "", "", 404, "")
}

func TestWhatIsUsedIsNotDeleted(t *testing.T) {
	x := newSite(t)
	x.built()
	var g page.Ground
	x.get("/lines/"+x.line+"/ground", &g)
	property, spot := g.Properties[0], g.Spots[0]
	property.Deleted, spot.Deleted = true, true
	x.refused("PUT", x.of("properties", property.ID), id(), property, 422, "deleted")
	x.refused("PUT", x.of("spots", spot.ID), id(), spot, 422, "deleted")
	way := line.Feature{MadeAt: demo.Start(), Kind: "travel_way", Points: [][2]float64{{-105.3, 46.8}, {-105.2, 46.8}}}
	way.ID = id()
	x.put(x.of("features", way.ID), way, &way)
	way.Deleted = true
	x.put(x.of("features", way.ID), way, &way)
	x.get("/lines/"+x.line+"/ground", &g)
	if len(g.Features) != 0 || way.Version != 2 {
		t.Errorf("deleted: %+v", way)
	}
	way.Deleted = false // taken back
	x.put(x.of("features", way.ID), way, nil)
	x.get("/lines/"+x.line+"/ground", &g)
	if len(g.Features) != 1 {
		t.Error("what was taken back is not there again")
	}
}

// BenchmarkBringTenThousand takes a file of ten thousand waypoints from preview to the data file.
func BenchmarkBringTenThousand(b *testing.B) {
	var things strings.Builder
	for i := range 10000 {
		fmt.Fprintf(&things, `,{"form":"point","kind":"gate","type":"","name":"point %d","note":"","known":false,"points":[[-105.3,%f]]}`, i, 46+float64(i)/1e6)
	}
	body := `{"things":[` + things.String()[1:] + `],"property":"Home"}`
	for b.Loop() {
		b.StopTimer()
		s, err := store.Open(filepath.Join(b.TempDir(), "line.db"))
		if err != nil {
			b.Fatal(err)
		}
		h := (&Server{Store: s, Clock: &stood{demo.Start()}, Dist: fstest.MapFS{}}).Handler()
		l := id()
		if _, err := s.Write(store.Asked{ID: id()}, demo.Start(), func(t *store.Tx) (any, error) { return t.PutLine(line.Line{ID: l, Name: "A", Zone: demo.Zone}) }); err != nil {
			b.Fatal(err)
		}
		request := httptest.NewRequest("PUT", "/api/lines/"+l+"/import/"+id(), strings.NewReader(body))
		request.Header.Set("Mutation", id())
		request.Header.Set("Content-Type", "application/json")
		request.Host = "localhost"
		answer := httptest.NewRecorder()
		b.StartTimer()
		h.ServeHTTP(answer, request)
		b.StopTimer()
		if answer.Code != http.StatusOK {
			b.Fatal(answer.Body)
		}
		s.Close()
		b.StartTimer()
	}
}

// A season opens with the first act after the last one's end. Pages show the open one, and earlier ones when they are asked for.
func TestSeasons(t *testing.T) {
	x := newSite(t)
	old := x.built()
	first := x.clock.at
	x.put(x.of("visits", id()), line.Visit{MakeID: old.ID, At: first, Found: line.Found{Finding: "catch"}, Catches: []line.Catch{{ID: id(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}}}, nil)
	sign := line.Sign{SeenAt: first, LatDeg: 46.8, LonDeg: -105.3, What: "tracks", Animal: "coyote", Age: "week", Holds: "well"}
	x.put(x.of("signs", id()), sign, nil)
	at := "/lines/" + x.line
	var b page.BookView
	var g page.Ground
	var view page.LineView
	x.get(at+"/book", &b)
	if len(b.Seasons) != 1 || b.Season == nil || b.Season.Name != "2026/27" || len(b.Catches) != 1 {
		t.Fatalf("the first season: %+v", b)
	}
	season := *b.Season

	// The next winter: nothing is new until something is done.
	x.clock.at = first.AddDate(1, 0, 0)
	x.get(at, &view)
	if view.Season.ID != season.ID || len(view.Sets) != 1 {
		t.Errorf("before anything is done: %+v", view.Season)
	}
	sign.SeenAt = x.clock.at
	x.put(x.of("signs", id()), sign, nil)
	x.get(at+"/book", &b)
	if len(b.Seasons) != 2 || b.Season.Name != "2027/28" || len(b.Catches) != 0 || b.Total.TrapNights != 0 || len(b.Nights) == 0 {
		t.Errorf("the second season: %+v", b)
	}
	x.get(at, &view)
	if view.Season.Name != "2027/28" || len(view.Sets) != 1 || view.Sets[0].LastVisit == nil || view.Sets[0].Bead.State != line.Open {
		t.Errorf("what still stands: %+v", view.Sets)
	}
	x.get(at+"/ground", &g)
	if len(g.Signs) != 1 || g.Season.Name != "2027/28" {
		t.Errorf("its sign: %+v", g.Signs)
	}
	x.get(at+"/book?season="+season.ID, &b)
	if b.Season.ID != season.ID || len(b.Catches) != 1 {
		t.Errorf("the first one asked for: %+v", b)
	}
	x.get(at+"/ground?season=all", &g)
	if len(g.Signs) != 2 || g.Season != nil || len(g.Seasons) != 2 {
		t.Errorf("all sign: %+v", g)
	}
	var stood []line.Stood
	x.get(at+"/spots/"+view.Sets[0].Set.SpotID+"/story", &stood)
	if len(stood) != 1 || stood[0].Caught != 1 || stood[0].Until != nil {
		t.Errorf("the spot's story: %+v", stood)
	}

	// Its name and days are the user's; no two seasons have a day in common.
	season.Name, season.To = "the long winter", "2027-03-31"
	x.put(x.of("seasons", season.ID), season, &season)
	if season.Version != 2 {
		t.Errorf("%+v", season)
	}
	wrong := season
	wrong.To = "2027-07-01"
	x.refused("PUT", x.of("seasons", season.ID), id(), wrong, 422, "to")
	stale := season
	stale.Version = 1
	x.refused("PUT", x.of("seasons", season.ID), id(), stale, 409, "")
	x.refused("GET", at+"/book?season="+id(), "", "", 404, "")
	mine := x.line
	x.line = id()
	x.put("/lines/"+x.line, line.Line{Name: "Another", Zone: demo.Zone, LatDeg: 46.8, LonDeg: -105.3}, nil)
	x.refused("PUT", x.of("seasons", season.ID), id(), season, 409, "")
	x.refused("GET", "/lines/"+x.line+"/book?season="+season.ID, "", "", 404, "")
	x.get("/lines/"+x.line+"/spots/"+view.Sets[0].Set.SpotID+"/story", &stood)
	if len(stood) != 0 {
		t.Errorf("another line's spot tells %+v", stood)
	}
	x.line = mine

	// An act of long ago belongs to its own time, and one whose clock is years ahead opens nothing.
	sign.SeenAt = first.AddDate(-3, 0, 0)
	x.put(x.of("signs", id()), sign, nil)
	x.put(x.of("visits", id()), line.Visit{MakeID: old.ID, At: first.AddDate(9, 0, 0), Found: line.Found{Finding: "quiet"}}, nil)
	x.get(at+"/book", &b)
	if names := b.Seasons[0].Name + " " + b.Seasons[len(b.Seasons)-1].Name; len(b.Seasons) != 3 || names != "2023/24 2027/28" || len(b.Odd) != 1 {
		t.Errorf("%s, %+v", names, b.Odd)
	}
}

// What an older page of the browser sends is read as what it says: a design and a make in the form of then, a look that does not say
// whose it was, a trap with one word on its jaws.
func TestWhatAnOlderPageSends(t *testing.T) {
	x := newSite(t)
	raw, err := os.ReadFile("../core/testdata/lifts.json")
	if err != nil {
		t.Fatal(err)
	}
	var lifts []struct {
		Old json.RawMessage
		New layout.Layout
	}
	if err := json.Unmarshal(raw, &lifts); err != nil {
		t.Fatal(err)
	}
	spot, designID, makeID, trapID := x.spot(), id(), id(), id()
	design := fmt.Sprintf(`{"id":%q,"lineId":%q,"spotId":%q,"setId":null,"target":"coyote","layout":%s,"version":0}`, designID, x.line, spot, lifts[0].Old)
	var kept line.Design
	x.put(x.of("designs", designID), json.RawMessage(design), &kept)
	if !reflect.DeepEqual(kept.Layout, lifts[0].New) {
		t.Errorf("kept as %+v", kept.Layout)
	}
	made := fmt.Sprintf(`{"id":%q,"lineId":%q,"setId":%q,"designId":%q,"follows":null,"target":"coyote","layout":%s,"builtAt":%q,"pulledAt":null,"step":0,"fire":0,"flags":""}`,
		makeID, x.line, id(), designID, lifts[0].Old, x.clock.at.Format(time.RFC3339))
	x.put(x.of("makes", makeID), json.RawMessage(made), nil)
	x.put(x.of("makes", makeID), json.RawMessage(made), nil) // and again
	look := fmt.Sprintf(`{"id":"","lineId":%q,"makeId":%q,"at":%q,"finding":"catch","note":"","flags":"","undoneAt":null,
		"catches":[{"id":%q,"visitId":"","species":"coyote","sex":"male","foot":"left_fore","hold":"pad"}]}`, x.line, makeID, x.clock.at.Format(time.RFC3339), id())
	x.put(x.of("visits", id()), json.RawMessage(look), nil)
	trap := fmt.Sprintf(`{"id":%q,"lineId":%q,"number":7,"size":"five","type":"coil_spring","jaw":"laminated","jawSpreadMm":140,"frameLengthMm":170,"setHeightMm":40,
		"panDiameterMm":60,"weightG":900,"swivels":3,"chainMm":450,"shockSpring":false,"tag":"","meantFor":"coyote","spares":[],"away":"","note":"","deleted":false,"version":0}`, trapID, x.line)
	var hung line.Trap
	x.put(x.of("traps", trapID), json.RawMessage(trap), &hung)
	if hung.Laminated == nil || !*hung.Laminated || hung.Padded != nil {
		t.Errorf("%+v", hung)
	}
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	if s := view.Sets[0]; s.LastVisit == nil || len(s.LastVisit.Catches) != 1 || s.LastVisit.Animal != "" || s.DesignVersion == 0 {
		t.Errorf("%+v", s)
	}
	x.refused("PUT", x.of("designs", designID), id(), json.RawMessage(strings.Replace(design, `"hole":`, `"cellar":1,"hole":`, 1)), 422, "layout")
}

// A set begins for the ground of its spot, in the pattern that is asked for.
func TestASetBeginsOnItsGround(t *testing.T) {
	x := newSite(t)
	spot := x.spot()
	var l layout.Layout
	x.get("/lines/"+x.line+"/defaults/coyote?spot="+spot, &l)
	if l.Pattern != "hole" || l.Check() != nil || l.Anchors[0].Kind != "stake" {
		t.Errorf("in firm ground: %+v", l)
	}
	x.get("/lines/"+x.line+"/defaults/bobcat?pattern=trail_pair&spot="+spot, &l)
	if l.Pattern != "trail_pair" || len(l.Rigs) != 2 {
		t.Errorf("a trail: %+v", l)
	}
	x.get("/lines/"+x.line+"/defaults/coyote?pattern=object&variant=in_trail&spot="+spot, &l)
	if l.Pattern != "object" || l.Way == nil {
		t.Errorf("an object in a trail: %+v", l)
	}
	x.refused("GET", "/lines/"+x.line+"/defaults/coyote?pattern=object&variant=upside_down&spot="+spot, "", "", 422, "variant")
	x.refused("GET", "/lines/"+x.line+"/defaults/coyote?pattern=pit&spot="+spot, "", "", 422, "pattern")
	x.refused("GET", "/lines/"+x.line+"/defaults/coyote?spot="+id(), "", "", 404, "")
}

// The list of patterns, another pattern for a design, and one of the user's own.
func TestPatterns(t *testing.T) {
	x := newSite(t)
	spot := x.spot()
	at := "/lines/" + x.line
	var found page.PatternsView
	x.get(at+"/patterns/red_fox?spot="+spot, &found)
	if len(found.Patterns) != 36 || len(found.Own) != 0 || found.Patterns[0].Key != "hole" || found.Patterns[0].Minutes != 20 {
		t.Fatalf("%d patterns", len(found.Patterns))
	}
	q := page.Repattern{Layout: laidOut(t, "hole"), Target: "coyote", SpotID: spot, Pattern: "tuft"}
	var other page.Repatterned
	x.decode(&other)(x.do("POST", at+"/repattern", "", q))
	if other.Layout.Pattern != "tuft" || len(other.Dropped) != 2 {
		t.Errorf("%+v", other)
	}
	own := line.Pattern{ID: id(), Name: "My low post", Target: "coyote", Layout: other.Layout}
	own.Layout.Attractors[0].HeightMm = 222
	x.put(x.of("patterns", own.ID), own, &own)
	x.get(at+"/patterns/coyote?spot="+spot, &found)
	if len(found.Own) != 1 || found.Own[0].Name != "My low post" || found.Own[0].Version != 1 {
		t.Errorf("%+v", found.Own)
	}
	q.OwnID = own.ID
	x.decode(&other)(x.do("POST", at+"/repattern", "", q))
	if other.Layout.Attractors[0].HeightMm != 222 {
		t.Errorf("%+v", other.Layout)
	}
	own.Deleted = true
	x.put(x.of("patterns", own.ID), own, nil)
	x.refused("POST", at+"/repattern", "", q, 404, "")
	q.OwnID, q.Pattern = "", "pit"
	x.refused("POST", at+"/repattern", "", q, 422, "pattern")
	x.refused("PUT", x.of("patterns", id()), id(), line.Pattern{Target: "coyote", Layout: other.Layout}, 422, "name")
}

// A device is built and looked at as any set, and nobody says how often it would be stepped on.
func TestADeviceClaimsNoFootfall(t *testing.T) {
	x := newSite(t)
	l := laidOut(t, "cable_crawl")
	var found odds.Answer
	x.decode(&found)(x.do("POST", "/bench", "", asked.Question{Layout: l, Target: "coyote", Visits: 500, Map: true}))
	if found.Feet != nil || len(found.Chain) != 6 || found.Weakest != "" || found.Minutes != 10 {
		t.Errorf("%+v", found)
	}
	design := line.Design{ID: id(), SpotID: x.spot(), Target: "coyote", Layout: l}
	x.put(x.of("designs", design.ID), design, nil)
	made := line.Make{ID: id(), SetID: id(), DesignID: design.ID, Target: "coyote", Layout: l, BuiltAt: x.clock.at}
	x.put(x.of("makes", made.ID), made, &made)
	x.clock.at = x.clock.at.AddDate(0, 0, 1)
	look := line.Visit{ID: id(), MakeID: made.ID, At: x.clock.at, Found: line.Found{Finding: "catch"}, Catches: []line.Catch{{ID: id(), Species: "coyote", Sex: "unknown", Foot: "left_fore", Hold: "pad"}}}
	x.put(x.of("visits", look.ID), look, nil)
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	if len(view.Sets) != 1 || view.Sets[0].Make.Layout.Rigs[0].Loop == nil {
		t.Errorf("%+v", view.Sets)
	}
	for _, page := range []string{"/book", "/rack", "/kit/2026-12-05", "/weather"} {
		if status, raw := x.do("GET", "/lines/"+x.line+page, "", ""); status != http.StatusOK {
			t.Errorf("%s: %d, %s", page, status, raw)
		}
	}
}

// A look with all that it can say comes back so; a make with two traps is told of both that should not have gone out.
func TestALookKnowsItsAnimal(t *testing.T) {
	x := newSite(t)
	made := x.built()
	pair := laidOut(t, "robbed_rebuild")
	pair.Rigs[0].TrapID, pair.Rigs[1].TrapID = id(), id()
	made.ID, made.Layout, made.BuiltAt = id(), pair, x.clock.at.Add(time.Minute)
	x.put(x.of("makes", made.ID), made, &made)
	if strings.Count(made.Flags, line.FlagTrapUnlisted) != 2 {
		t.Errorf("flags: %q", made.Flags)
	}
	look := line.Visit{
		MakeID: made.ID, At: made.BuiltAt.Add(time.Hour), Found: line.Found{Finding: "catch", Animal: "coyote", By: "seen"},
		Also: []line.Found{{Finding: "looked", Animal: "red_fox", By: "scat"}}, Rigs: []line.RigFound{{Slot: 0, State: "holding"}, {Slot: 1, State: "holding"}},
		Catches: []line.Catch{{ID: id(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad", Rigs: []int{0, 1}}},
	}
	x.clock.at = x.clock.at.AddDate(0, 0, 1)
	x.put(x.of("visits", id()), look, nil)
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	last := view.Sets[0].LastVisit
	if last == nil || last.Found != look.Found || !reflect.DeepEqual(last.Also, look.Also) || !reflect.DeepEqual(last.Rigs, look.Rigs) || !reflect.DeepEqual(last.Catches[0].Rigs, []int{0, 1}) {
		t.Errorf("%+v, want %+v", last, look)
	}
	var book page.BookView
	x.get("/lines/"+x.line+"/book", &book)
	if book.Total.Catches != 1 {
		t.Errorf("one coyote in two traps counts %d times", book.Total.Catches)
	}
	look.Animal = "yeti"
	x.refused("PUT", x.of("visits", id()), id(), look, 422, "animal")
}

// A look is put right by its own line only, with a reason; what was done on a day is told and taken back, one thing at a time.
func TestADayIsWrittenUpAndMended(t *testing.T) {
	x := newSite(t)
	made := x.built()
	x.clock.at = x.clock.at.AddDate(0, 0, 1)
	look := line.Visit{MakeID: made.ID, At: x.clock.at, Found: line.Found{Finding: "quiet"}}
	lookID := "01K8V7Z8R5Q6T9W3X1Y2Z4A5B6" // it was entered long ago
	x.put(x.of("visits", lookID), look, &look)
	right := look
	right.Finding, right.Animal = "passed", "bobcat"
	mend := line.Mend{VisitID: lookID, At: x.clock.at, Reason: "its track was in the way", Visit: right}
	x.refused("PUT", x.of("mends", id()), id(), line.Mend{VisitID: lookID, At: x.clock.at, Visit: right}, 422, "reason")
	x.refused("PUT", x.of("mends", id()), id(), line.Mend{VisitID: id(), At: x.clock.at, Reason: "no such look", Visit: right}, 404, "")
	x.put(x.of("mends", id()), mend, nil)
	var mends []line.Mend
	x.get(x.of("visits", lookID)+"/mends", &mends)
	if len(mends) != 1 || mends[0].Before.Finding != "quiet" {
		t.Errorf("%+v", mends)
	}
	var day page.Day
	at := fmt.Sprintf("/lines/%s/day/", x.line)
	x.get(at+x.clock.at.Format(time.DateOnly), &day)
	if len(day.Sets) != 1 || day.Sets[0].Looks[0].Finding != "passed" || len(day.Acts) != 1 || day.Acts[0].Kind != "look" {
		t.Errorf("%+v", day)
	}
	if light := day.Morning.In(x.clock.at.Location()); light.Before(day.From) || !light.Before(day.From.Add(12*time.Hour)) {
		t.Errorf("first light is at %s", light)
	}
	x.refused("GET", at+"yesterday", "", "", 422, "date")
	// What was done on it goes out, by dates and property.
	done := func(query string) (view DoneView) {
		t.Helper()
		x.get("/lines/"+x.line+"/done?"+query, &view)
		return view
	}
	on := x.clock.at.Format(time.DateOnly)
	if view := done(""); len(view.Looks) != 1 || view.Looks[0].Visit.Animal != "bobcat" || len(view.Makes) != 1 || view.Makes[0].TrapNights != 1 {
		t.Errorf("%+v", view)
	}
	if view := done("from=" + on + "&to=" + on); len(view.Looks) != 1 || len(view.Makes) != 0 {
		t.Errorf("of its day: %+v", view)
	}
	if view := done("property=" + id()); len(view.Looks) != 0 || len(view.Makes) != 0 {
		t.Errorf("of other land: %+v", view)
	}
	if _, raw := x.do("GET", "/lines/"+x.line+"/export/looks?from="+on, "", ""); strings.Count(string(raw), "\n") != 2 || !strings.Contains(string(raw), ",passed,bobcat,") {
		t.Errorf("%s", raw)
	}
	x.refused("GET", "/lines/"+x.line+"/done?from=soon", "", "", 422, "from")
	x.refused("GET", "/lines/"+x.line+"/export/makes?property=everything", "", "", 422, "property")
	x.refused("PUT", x.of("makes", made.ID)+"/undo", id(), Moment{At: x.clock.at}, 422, "undoneAt")
	x.put(x.of("visits", lookID)+"/undo", Moment{At: x.clock.at}, nil)
	x.put(x.of("makes", made.ID)+"/undo", Moment{At: x.clock.at}, nil)
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	if len(view.Sets) != 0 || len(view.Designs) != 1 || view.Designs[0].SetID != nil {
		t.Errorf("a make that was taken back stands: %+v, %+v", view.Sets, view.Designs)
	}
	sign := line.Sign{LatDeg: 46.8, LonDeg: -105.3, What: "tracks", Animal: "coyote", Age: "last_night", Holds: "well", SeenAt: x.clock.at}
	signID := id()
	x.put(x.of("signs", signID), sign, nil)
	x.put(x.of("signs", signID)+"/undo", Moment{}, nil)
	x.get(at+x.clock.at.Format(time.DateOnly), &day)
	for _, a := range day.Acts {
		if !a.Undone {
			t.Errorf("it is not taken back: %+v", a)
		}
	}
}

func TestAPlaceAsPeopleWriteIt(t *testing.T) {
	x := newSite(t)
	var fix ground.Fix
	x.decode(&fix)(x.do("POST", "/coordinates", "", asked.Written{Place: "46° 48' N, 105° 18' W"}))
	if fix.LatDeg != 46.8 || fix.LonDeg != -105.3 {
		t.Errorf("%+v", fix)
	}
	x.refused("POST", "/coordinates", "", asked.Written{Place: "by the creek"}, 422, "place")
}

// What lies in reach of a set is of its own line, and is asked with a layout that can be.
func TestReachIsOfItsOwnLine(t *testing.T) {
	x := newDemo(t)
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	first := view.Sets[0]
	asked := page.ReachAsked{Layout: first.Make.Layout, Target: "coyote", SpotID: first.Set.SpotID, SetID: first.Set.ID}
	var found page.ReachView
	x.decode(&found)(x.do("POST", "/lines/"+x.line+"/reach", "", asked))
	if found.Own || len(found.Sets) != 1 || found.Sets[0].M != nil || found.Sets[0].Number != 6 {
		t.Errorf("%+v", found)
	}
	spot := view.Spots[0]
	asked.Layout.At = &ground.Fix{LatDeg: spot.LatDeg, LonDeg: spot.LonDeg}
	x.decode(&found)(x.do("POST", "/lines/"+x.line+"/reach", "", asked))
	if !found.Own || len(found.Sets) != 1 || found.Sets[0].M == nil || !found.Sets[0].Meets {
		t.Errorf("with a place of its own: %+v", found)
	}
	x.refused("POST", "/lines/"+x.line+"/reach", "", page.ReachAsked{Layout: first.Make.Layout, Target: "yeti", SpotID: spot.ID}, 422, "target")
	if status, _ := x.do("POST", "/lines/"+x.line+"/reach", "", page.ReachAsked{Layout: first.Make.Layout, Target: "coyote", SpotID: id()}); status != http.StatusNotFound {
		t.Errorf("a spot of another line: %d", status)
	}
}
