package server

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/layout"
	"oldburrow/core/line"
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
	server := &Server{Store: s, Clock: clock, Dist: fstest.MapFS{"index.html": {Data: []byte("<title>Old Burrow</title>")}}}
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
	x.put(x.of("spots", spot), line.Spot{PropertyID: property, Name: "Gate", LatDeg: 46.8, LonDeg: -105.3, TravelWidthMm: 600, WaysMeet: 1, Soil: "loam", Wetness: "moist", Surface: "grass"}, nil)
	return spot
}

func (x *site) of(kind, id string) string { return fmt.Sprintf("/lines/%s/%s/%s", x.line, kind, id) }

// built builds a coyote set at a new spot and gives its make.
func (x *site) built() line.Make {
	x.t.Helper()
	l, err := layout.For("coyote")
	if err != nil {
		x.t.Fatal(err)
	}
	design := line.Design{ID: id(), SpotID: x.spot(), Target: "coyote", Layout: l}
	x.put(x.of("designs", design.ID), design, nil)
	made := line.Make{ID: id(), SetID: id(), DesignID: design.ID, Target: "coyote", Layout: l, BuiltAt: x.clock.at}
	x.put(x.of("makes", made.ID), made, &made)
	return made
}

func TestFromSpotToCatch(t *testing.T) {
	x := newSite(t)
	made := x.built()
	if made.Fire <= 0 || made.Step <= made.Fire {
		t.Errorf("a make keeps its odds: %+v", made)
	}
	x.clock.at = x.clock.at.AddDate(0, 0, 2)
	var view LineView
	x.get("/lines/"+x.line, &view)
	if len(view.Sets) != 1 || view.Sets[0].Set.Number != 1 || !view.Sets[0].Bead.Late || view.Sets[0].Bead.Nights != 2 {
		t.Fatalf("the string: %+v", view.Sets)
	}
	if d := view.Designs[0]; d.SetID == nil || *d.SetID != made.SetID {
		t.Error("the design does not know its set")
	}
	visit := line.Visit{ID: id(), MakeID: made.ID, At: x.clock.at, Finding: "catch", Catches: []line.Catch{{ID: id(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}}}
	x.put(x.of("visits", visit.ID), visit, nil)
	remade := made
	remade.ID, remade.BuiltAt = id(), x.clock.at.Add(time.Hour)
	x.put(x.of("makes", remade.ID), remade, &remade)
	if remade.Follows == nil || *remade.Follows != made.ID {
		t.Errorf("the remake follows %v", remade.Follows)
	}
	var book Book
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
	x.put(x.of("makes", remade.ID)+"/pull", Moment{At: remade.BuiltAt}, nil)
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
	status, second := x.do("PUT", x.of("properties", property), mutation, line.Property{Name: "Second"})
	if status != http.StatusOK || !bytes.Equal(first, second) {
		t.Errorf("a replay answers %d %s, the first answered %s", status, second, first)
	}
	again := made
	again.BuiltAt = made.BuiltAt.Add(time.Hour)
	x.put(x.of("makes", made.ID), again, &again)
	if !again.BuiltAt.Equal(made.BuiltAt) {
		t.Error("a recorded make was overwritten")
	}
	visit := line.Visit{ID: id(), MakeID: made.ID, At: x.clock.at, Finding: "quiet"}
	x.put(x.of("visits", visit.ID), visit, nil)
	visit.Finding = "dug"
	x.put(x.of("visits", visit.ID), visit, &visit)
	if visit.Finding != "quiet" {
		t.Error("a recorded visit was overwritten")
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
	design.SetID, design.Layout.Attractant.Bait = nil, "beaver"
	x.put(x.of("designs", design.ID), design, nil)
	x.get(x.of("designs", made.DesignID), &design)
	if design.SetID == nil || *design.SetID != made.SetID || design.Layout.Attractant.Bait != "beaver" {
		t.Errorf("saved late: %+v", design)
	}
}

func TestRefusalsNameTheField(t *testing.T) {
	x := newSite(t)
	made, spot := x.built(), x.spot()
	visit := line.Visit{MakeID: made.ID, At: x.clock.at, Finding: "catch", Catches: []line.Catch{{ID: id(), Sex: "male", Foot: "left_fore", Hold: "pad"}}}
	x.refused("PUT", x.of("visits", id()), id(), visit, 422, "catches[0].species")
	x.refused("PUT", x.of("visits", id()), "", visit, 422, "catches[0].species")
	visit.Finding, visit.Catches = "quiet", nil
	x.refused("PUT", x.of("visits", id()), "", visit, 422, "Mutation")
	visit.MakeID = id()
	x.refused("PUT", x.of("visits", id()), id(), visit, 404, "")
	x.refused("PUT", x.of("signs", id()), id(), sign(spot, x.clock.at.Add(time.Hour)), 422, "seenAt")
	x.refused("PUT", x.of("signs", id()), id(), sign(id(), x.clock.at), 422, "spotId")
	bad := made
	bad.Layout.Hole.AngleDeg = 5
	x.refused("PUT", x.of("makes", id()), id(), bad, 422, "layout.hole.angleDeg")
	x.refused("PUT", x.of("spots", id()), id(), `{"name":4}`, 422, "name")
	x.refused("PUT", x.of("spots", id()), id(), `{"name":`, 422, "body")
	x.refused("PUT", x.of("spots", id()), id(), `{"colour":"red"}`, 422, "body")
	x.refused("POST", "/bench", "", Question{Layout: bad.Layout, Target: "coyote", Visits: 100}, 422, "hole.angleDeg")
	x.refused("POST", "/bench", "", Question{Layout: made.Layout, Target: "coyote", Visits: 1 << 30}, 422, "visits")
	x.refused("GET", "/defaults/skunk", "", "", 422, "target")
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
	x.put(x.of("makes", made.ID)+"/pull", Moment{At: x.clock.at}, nil)
	visit := line.Visit{MakeID: made.ID, At: x.clock.at.Add(3 * time.Hour), Finding: "quiet"}
	x.put(x.of("visits", id()), visit, &visit)
	if !strings.Contains(visit.Flags, "ahead") || !strings.Contains(visit.Flags, "pulled") {
		t.Errorf("flags are %q", visit.Flags)
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
	for path, want := range map[string]int{"/": 200, "/line/x/bench": 200, "/api/none": 404} {
		response, err := http.Get(x.url + path)
		if err != nil {
			t.Fatal(err)
		}
		response.Body.Close()
		if response.StatusCode != want {
			t.Errorf("%s: %d, want %d", path, response.StatusCode, want)
		}
		if csp := response.Header.Get("Content-Security-Policy"); !strings.Contains(csp, "default-src 'self'") || strings.Contains(csp, "unsafe") {
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
	var g Ground
	x.get("/lines/"+x.line+"/ground", &g)
	if len(g.Features) != 0 {
		t.Errorf("half an import stays: %+v", g.Features)
	}
	var brought Brought
	mutation := id()
	for range 2 { // the second is a repeat of the first
		x.decode(&brought)(x.do("PUT", x.of("import", id()), mutation, bring(point+","+strings.Replace(point, "gate", "spot", 1)+","+strings.Replace(point, "gate", "sign", 1))))
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
	var g Ground
	x.get("/lines/"+x.line+"/ground", &g)
	property, spot := g.Properties[0], g.Spots[0]
	property.Deleted, spot.Deleted = true, true
	x.refused("PUT", x.of("properties", property.ID), id(), property, 422, "deleted")
	x.refused("PUT", x.of("spots", spot.ID), id(), spot, 422, "deleted")
	way := line.Feature{Kind: "travel_way", Points: [][2]float64{{-105.3, 46.8}, {-105.2, 46.8}}}
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
		if _, err := s.Write(id(), demo.Start(), func(t *store.Tx) (any, error) { return t.PutLine(line.Line{ID: l, Name: "A", Zone: demo.Zone}) }); err != nil {
			b.Fatal(err)
		}
		request := httptest.NewRequest("PUT", "/api/lines/"+l+"/import/"+id(), strings.NewReader(body))
		request.Header.Set("Mutation", id())
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
