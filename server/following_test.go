package server

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"io"
	"net/http"
	"net/http/httptest"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"oldburrow/core/anchor"
	"oldburrow/core/asked"
	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/nights"
	"oldburrow/core/odds"
	"oldburrow/core/page"
)

func weighable(t *testing.T, pattern string) asked.Question {
	return asked.Question{
		Layout: laidOut(t, pattern), Target: "coyote", Visits: 4000, Ground: anchor.Soil{Kind: "loam", Wetness: "moist"},
		Circumstances: &odds.Circumstances{Sign: "days_3", WaysMeet: 1, Coverage: new(.4), Night: 1},
	}
}

// streamedLines asks for a stream and gives its lines as they came, and how it was sent.
func streamedLines[T any](x *site, path string, q asked.Question) ([]T, http.Header) {
	x.t.Helper()
	raw, err := json.Marshal(q)
	if err != nil {
		x.t.Fatal(err)
	}
	request, err := http.NewRequest("POST", x.url+"/api"+path, bytes.NewReader(raw))
	if err != nil {
		x.t.Fatal(err)
	}
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set("Accept-Encoding", "gzip")
	response, err := http.DefaultClient.Do(request)
	if err != nil {
		x.t.Fatal(err)
	}
	defer response.Body.Close()
	var lines []T
	for scan := bufio.NewScanner(response.Body); scan.Scan(); {
		var line T
		if err := json.Unmarshal(scan.Bytes(), &line); err != nil {
			x.t.Fatalf("%v in %s", err, scan.Text())
		}
		lines = append(lines, line)
	}
	return lines, response.Header
}

// What follows the chain comes line by line and not pressed together: who else first, at last that this is all.
func TestWhatFollowsTheChain(t *testing.T) {
	x := newSite(t)
	lines, header := streamedLines[asked.Following](x, "/bench/following", weighable(t, "hole"))
	if header.Get("Content-Type") != "application/x-ndjson" || header.Get("Content-Encoding") != "" {
		t.Errorf("sent as %v", header)
	}
	if len(lines) < 4 || lines[0].Company == nil || len(lines[0].Company.Others) != 9 || lines[0].Company.Targets == nil || !lines[len(lines)-1].Done {
		t.Fatalf("%+v", lines)
	}
	keys := map[odds.RemedyKey]bool{}
	for _, l := range lines[1 : len(lines)-1] {
		if (l.Remedy == nil) == (l.Sparing == nil) {
			t.Fatalf("%+v", l)
		}
		if l.Remedy != nil {
			keys[l.Remedy.Key] = true
		}
	}
	if !keys[odds.Wait] || !keys[odds.OtherPattern] {
		t.Errorf("a new set that would be helped by %v", keys)
	}
}

// By too few visits no change can be weighed, and how many it takes hangs on how many ways lead to the set.
func TestTooFewVisitsToWeighBy(t *testing.T) {
	x := newSite(t)
	for pattern, ways := range map[string]int{"hole": 1, "tuft_pair": 3} {
		least := ways * 1000
		q := weighable(t, pattern)
		for _, path := range []string{"/bench/following", "/bench/best"} {
			q.Visits = least - 1
			x.refused("POST", path, "", q, 422, "visits")
		}
		q.Visits = least
		if lines, _ := streamedLines[asked.Following](x, "/bench/following", q); !lines[len(lines)-1].Done {
			t.Errorf("%s, which has %d ways to come to it, by %d visits: %+v", pattern, ways, least, lines)
		}
	}
}

func TestASearchSaysHowFarItIs(t *testing.T) {
	x := newSite(t)
	lines, _ := streamedLines[asked.Progress](x, "/bench/best", weighable(t, "trail_pair"))
	if len(lines) < 5 {
		t.Fatalf("%+v", lines)
	}
	for i, l := range lines {
		if last := i == len(lines)-1; (l.Best != nil) != last || l.Of <= 0 || i > 0 && l.Tried < lines[i-1].Tried {
			t.Errorf("line %d: %+v", i, l)
		}
	}
}

func TestDesignsAreCompared(t *testing.T) {
	x := newSite(t)
	q := asked.Comparing{First: weighable(t, "hole"), Second: weighable(t, "trench")}
	var found odds.Difference
	x.decode(&found)(x.do("POST", "/bench/compare", "", q))
	if found.Second <= 0 || found.First <= found.Second || !found.Sure { // a coyote does not like to come between
		t.Errorf("%+v", found)
	}
	q.Second.Circumstances = nil
	x.refused("POST", "/bench/compare", "", q, 422, "second.circumstances")
	q = asked.Comparing{First: weighable(t, "cable_crawl"), Second: weighable(t, "hole")}
	x.refused("POST", "/bench/compare", "", q, 422, "pattern")
}

func TestTheNextNightsAreDrawn(t *testing.T) {
	x := newSite(t)
	q := weighable(t, "hole")
	var found, again nights.Next
	x.decode(&found)(x.do("POST", "/bench/nights", "", q))
	x.decode(&again)(x.do("POST", "/bench/nights", "", q))
	if !reflect.DeepEqual(found, again) || found.Nights != 14 || len(found.Mornings) != 5 || found.None <= 0 || found.One <= 0 {
		t.Errorf("%+v and %+v", found, again)
	}
	x.refused("POST", "/bench/nights", "", weighable(t, "cable_crawl"), 422, "layout.pattern")
	q.Circumstances = nil
	x.refused("POST", "/bench/nights", "", q, 422, "circumstances")
}

// What is wrong with a question is answered as anywhere else, and not as a stream.
func TestAStreamRefusesByField(t *testing.T) {
	x := newSite(t)
	for field, change := range map[string]func(*asked.Question){
		"circumstances":                  func(q *asked.Question) { q.Circumstances = nil },
		"circumstances.others.wolf":      func(q *asked.Question) { q.Circumstances.Others = map[string]odds.Presence{"wolf": {}} },
		"circumstances.others.dog.sign":  func(q *asked.Question) { q.Circumstances.Others = map[string]odds.Presence{"dog": {Sign: "fresh"}} },
		"circumstances.others.dog.about": func(q *asked.Question) { q.Circumstances.Others = map[string]odds.Presence{"dog": {About: new(3.0)}} },
		"circumstances.facings":          func(q *asked.Question) { q.Circumstances.Facings = make([]odds.Facing, 99) },
		"circumstances.facings[0].facingDeg": func(q *asked.Question) {
			q.Circumstances.Facings = []odds.Facing{{FacingDeg: 400}}
		},
		"visits":                      func(q *asked.Question) { q.Visits = 0 },
		"attractors[0].hole.angleDeg": func(q *asked.Question) { q.Layout.Attractors[0].Hole.AngleDeg = 5 },
		"target":                      func(q *asked.Question) { q.Target = "wolf" },
		"spares[0]":                   func(q *asked.Question) { q.Spares = []string{"wolf"} },
	} {
		q := weighable(t, "hole")
		change(&q)
		x.refused("POST", "/bench/following", "", q, 422, field)
	}
	x.refused("POST", "/bench/best", "", weighable(t, "cable_crawl"), 422, "pattern")
	x.refused("POST", "/bench/best", "", `{"visits":`, 422, "body")
}

// Whoever asks anew leaves the old question: the program stops working on it, and never finishes it.
func TestAClosedQuestionEnds(t *testing.T) {
	x := newSite(t)
	raw, err := json.Marshal(weighable(t, "trail_pair"))
	if err != nil {
		t.Fatal(err)
	}
	for _, path := range []string{"/bench/best", "/bench/following"} {
		ended := make(chan string, 1)
		inner := x.server.Handler()
		watched := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			kept := &keeping{ResponseWriter: w}
			inner.ServeHTTP(kept, r)
			ended <- kept.all.String()
		}))
		defer watched.Close()
		ctx, leave := context.WithCancel(t.Context())
		request, err := http.NewRequestWithContext(ctx, "POST", watched.URL+"/api"+path, bytes.NewReader(raw))
		if err != nil {
			t.Fatal(err)
		}
		request.Header.Set("Content-Type", "application/json")
		response, err := http.DefaultClient.Do(request)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := bufio.NewReader(response.Body).ReadString('\n'); err != nil && err != io.EOF {
			t.Fatal(err)
		}
		leave()
		response.Body.Close()
		if said := <-ended; said == "" || strings.Contains(said, `"best"`) || strings.Contains(said, `"done"`) {
			t.Errorf("%s went on to its end: %s", path, said)
		}
	}
}

// keeping keeps what is written through it.
type keeping struct {
	http.ResponseWriter
	all bytes.Buffer
}

func (k *keeping) Write(b []byte) (int, error) {
	k.all.Write(b)
	return k.ResponseWriter.Write(b)
}

func (k *keeping) Flush() { k.ResponseWriter.(http.Flusher).Flush() }

// A set's circumstances are its place's: sign that was noted there or lies near, and that of the others; its night and whether it has
// caught. Of another line's spot nothing is said.
func TestCircumstancesAreThePlaces(t *testing.T) {
	x := newSite(t)
	made := x.built()
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	spot := view.Spots[0]
	asked := page.CircumstancesAsked{Layout: made.Layout, Target: "coyote", SpotID: view.Sets[0].Set.SpotID, SetID: made.SetID}
	at := "/lines/" + x.line + "/circumstances"
	of := func() (found page.CircumstancesView) {
		x.decode(&found)(x.do("POST", at, "", asked))
		return found
	}
	if c := of().Usual; c.Sign != "" || c.Night != 1 || c.CaughtBefore || len(c.Others) != 9 || c.Others["dog"].Sign != "" || *c.Others["dog"].About != 1 || c.Others["raccoon"].About != nil {
		t.Errorf("of nothing known: %+v", c)
	}
	metre := 1 / 111200.0
	note := func(animal string, north float64, spotID *string) {
		seen := line.Sign{SpotID: spotID, What: "tracks", Animal: animal, Age: "last_night", Holds: "well", SeenAt: x.clock.at, LatDeg: spot.LatDeg + north*metre, LonDeg: spot.LonDeg}
		x.put(x.of("signs", id()), seen, nil)
	}
	note("coyote", 60, nil)
	note("badger", 40, nil)
	note("dog", 60, &asked.SpotID)
	if c := of().Usual; c.Sign != "" || c.Others["badger"].Sign != "today" || c.Others["dog"].Sign != "today" {
		t.Errorf("sixty metres off, forty metres off, and noted at the spot: %+v", c)
	}
	// A set with a place of its own goes by what lies about that.
	asked.Layout.At = &ground.Fix{LatDeg: spot.LatDeg + 70*metre, LonDeg: spot.LonDeg}
	if c := of().Usual; c.Sign != "today" || c.Others["badger"].Sign != "today" {
		t.Errorf("about its own place: %+v", c)
	}
	x.clock.at = x.clock.at.AddDate(0, 0, 2)
	look := line.Visit{ID: id(), MakeID: made.ID, At: x.clock.at, Found: line.Found{Finding: "catch"}, Catches: []line.Catch{{ID: id(), Species: "coyote", Sex: "unknown", Foot: "left_fore", Hold: "pad"}}}
	x.put(x.of("visits", look.ID), look, nil)
	if c := of().Usual; c.Night != 3 || !c.CaughtBefore || c.Sign != "today" || c.Left != odds.MostLeft() || c.LeftTo != "" {
		t.Errorf("two nights and a catch later: %+v", c)
	}
	// The dog and what was caught are near; the fox set of a line must hold the coyote, and a dog bars nothing.
	asked.Target = "red_fox"
	if c := of().Usual; c.Heaviest != "coyote" || !slices.Equal(c.Pets, []string{"dog"}) || c.CaughtBefore {
		t.Errorf("for a fox: %+v", c)
	}
	// A permission that ends before the season ends the nights that are left.
	var property line.Property
	x.get("/lines/"+x.line, &view)
	property = view.Properties[0]
	property.Until = x.clock.at.AddDate(0, 0, 4).Format(time.DateOnly)
	x.put(x.of("properties", property.ID), property, nil)
	if c := of().Usual; c.Left != 5 || c.LeftTo != odds.LeftToPermission {
		t.Errorf("till the permission ends: %d to %s", c.Left, c.LeftTo)
	}
	asked.SpotID = id()
	x.refused("POST", at, "", asked, 404, "")
	asked.Layout.Attractors[0].Hole.AngleDeg = 1
	x.refused("POST", at, "", asked, 422, "attractors[0].hole.angleDeg")
}

// What is said of a spot by hand is kept with it, and the ways of making a set there say what they lack; of a word that is not known it is
// refused by field.
func TestWhatASpotHas(t *testing.T) {
	x := newSite(t)
	x.built()
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	spot := view.Spots[0]
	lacks := func() map[string][]string {
		var found page.PatternsView
		x.get("/lines/"+x.line+"/patterns/coyote?spot="+spot.ID, &found)
		all := map[string][]string{}
		for _, p := range found.Patterns {
			all[p.Key] = p.Lacks
			if p.Key == "culvert_pair" && p.WithinM != 5 {
				t.Errorf("a culvert is asked for within %g m", p.WithinM)
			}
		}
		return all
	}
	if found := lacks(); !slices.Equal(found["culvert_pair"], []string{"culvert"}) || len(found["hole"]) != 0 || !slices.Equal(found["snow_post"], []string{"snow"}) {
		t.Errorf("of a bare spot: %v", found)
	}
	spot.There, spot.Through, spot.Met = []string{"culvert", "cover"}, "few", []line.Met{{What: "others_set", Kind: "dirt_hole"}}
	x.put(x.of("spots", spot.ID), spot, &spot)
	x.get("/lines/"+x.line, &view)
	if kept := view.Spots[0]; !slices.Equal(kept.There, spot.There) || kept.Through != "few" || kept.Met[0].Kind != "dirt_hole" {
		t.Errorf("kept: %+v", kept)
	}
	if found := lacks(); len(found["culvert_pair"]) != 0 {
		t.Errorf("with a culvert: %v", found)
	}
	var around page.CircumstancesView
	asked := page.CircumstancesAsked{Layout: laidOut(t, "culvert_pair"), Target: "coyote", SpotID: spot.ID}
	x.decode(&around)(x.do("POST", "/lines/"+x.line+"/circumstances", "", asked))
	if site := around.Usual.Site; site.Through != "few" || site.InCover == nil || !*site.InCover {
		t.Errorf("its place: %+v", site)
	}
	for field, change := range map[string]func(*line.Spot){
		"there[0]":    func(s *line.Spot) { s.There = []string{"volcano"} },
		"through":     func(s *line.Spot) { s.Through = "many" },
		"met[0].kind": func(s *line.Spot) { s.Met = []line.Met{{What: "others_set", Kind: "pit"}} },
	} {
		wrong := spot
		change(&wrong)
		x.refused("PUT", x.of("spots", spot.ID), id(), wrong, 422, field)
	}
	// Sign of which nobody said how old it is, is kept so.
	seen := line.Sign{SpotID: &spot.ID, What: "scat", Animal: "coyote", Holds: "unknown", SeenAt: x.clock.at, LatDeg: spot.LatDeg, LonDeg: spot.LonDeg}
	x.put(x.of("signs", id()), seen, nil)
	x.decode(&around)(x.do("POST", "/lines/"+x.line+"/circumstances", "", asked))
	if around.Usual.Sign != odds.AgeUnsaid || around.Usual.Signs != 1 {
		t.Errorf("sign without an age: %q, %d", around.Usual.Sign, around.Usual.Signs)
	}
}
