package server

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/animal"
	"oldburrow/core/ground"
	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/core/strict"
	"oldburrow/demo"
	"oldburrow/instrument/weather"
	"oldburrow/store"
)

// routes are all that the program answers, with real ids in their addresses.
func (x *site) routes() []struct{ method, path string } {
	x.t.Helper()
	var found []struct{ method, path string }
	for _, r := range x.server.engine().Routes() {
		path := strings.NewReplacer(":line", x.line, ":id", id(), ":day", "2026-12-05", ":format", "gpx", ":name", "fire", ":target", "coyote").Replace(r.Path)
		found = append(found, struct{ method, path string }{r.Method, path})
	}
	if len(found) < 40 {
		x.t.Fatalf("%d routes", len(found))
	}
	return found
}

// ask sends a request with headers of its own, the Host among them.
func (x *site) ask(method, path, body string, headers map[string]string) (int, string) {
	x.t.Helper()
	request, err := http.NewRequest(method, x.url+path, strings.NewReader(body))
	if err != nil {
		x.t.Fatal(err)
	}
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set("Mutation", id())
	for name, value := range headers {
		if name == "Host" {
			request.Host = value
		}
		request.Header.Set(name, value)
	}
	response, err := http.DefaultClient.Do(request)
	if err != nil {
		x.t.Fatal(err)
	}
	defer response.Body.Close()
	var answer bytes.Buffer
	if _, err := answer.ReadFrom(response.Body); err != nil {
		x.t.Fatal(err)
	}
	return response.StatusCode, answer.String()
}

// No page of another site reads or writes anything, whatever the route.
func TestForeignPagesAreRefused(t *testing.T) {
	x := newSite(t)
	for _, r := range x.routes() {
		for _, c := range []struct {
			headers map[string]string
			looks   bool // refused also where it only looks
			status  int
		}{
			{map[string]string{"Host": "evil.example"}, true, 403},
			{map[string]string{"Host": "evil.example:8417"}, true, 403},
			{map[string]string{"Host": "127.0.0.1.evil.example"}, true, 403},
			{map[string]string{"Host": "192.168.1.9:8417"}, true, 403},
			{map[string]string{"Origin": "http://evil.example"}, false, 403},
			{map[string]string{"Origin": "null"}, false, 403},
			{map[string]string{"Origin": "http://localhost:1"}, false, 403},
			{map[string]string{"Sec-Fetch-Site": "cross-site"}, false, 403},
			{map[string]string{"Sec-Fetch-Site": "same-site"}, false, 403},
			{map[string]string{"Content-Type": "text/plain"}, false, 415},
			{map[string]string{"Content-Type": "multipart/form-data; boundary=x"}, false, 415},
			{map[string]string{"Content-Type": "application/x-www-form-urlencoded"}, false, 415},
		} {
			if r.method == http.MethodGet && !c.looks {
				continue
			}
			if status, answer := x.ask(r.method, r.path, "{}", c.headers); status != c.status || !strings.Contains(answer, `"title"`) {
				t.Errorf("%s %s %v: %d %s", r.method, r.path, c.headers, status, answer)
			}
		}
	}
	_, port, _ := net.SplitHostPort(strings.TrimPrefix(x.url, "http://"))
	for _, host := range []string{"localhost:" + port, "127.0.0.1:" + port, "127.9.9.9", "[::1]:" + port, "[::1]", "LOCALHOST"} {
		headers := map[string]string{"Host": host, "Origin": "http://" + host, "Sec-Fetch-Site": "same-origin"}
		if status, answer := x.ask("POST", "/api/calc/fire", `{"species":"coyote","tensionN":9}`, headers); status != 200 {
			t.Errorf("%s: %d %s", host, status, answer)
		}
	}
}

// Whatever comes, the answer is a refusal in words or a whole answer: never a failure, and never an empty one that looks well.
func TestRandomBodies(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	x := newDemo(t)
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	rng := rand.New(rand.NewPCG(3, 3))
	made, _ := json.Marshal(view.Sets[0].Make)
	spot, _ := json.Marshal(view.Spots[0])
	seeds := []string{`{}`, `[]`, `null`, `""`, `{"at":"0000-01-01T00:00:00Z"}`, `{"at":"9999-12-31T23:59:59Z","finding":"quiet"}`, `{"name":"\u0000\u202e"}`, string(made), string(spot),
		`{"hours":[{"at":"2026-12-04T03:00:00Z","tempC":1,"windFromDeg":1,"windMs":1}]}`, `{"things":[{"form":"point","kind":"gate","points":[[]]}]}`, `{"traps":[{}]}`,
		`{"layout":` + string(made) + `,"target":"coyote","visits":10}`, `{"species":"coyote","tensionN":1e309}`, `{"seconds":1}`, strings.Repeat("[", 5000), `{"a":1} trailing`}
	routes := x.routes()
	for i := range 2000 {
		r := routes[rng.IntN(len(routes))]
		if strings.HasSuffix(r.path, "/place") && r.method == http.MethodGet || strings.HasSuffix(r.path, "/press") {
			continue // no receiver or gauge is connected, and none is asked for seconds
		}
		body := []byte(seeds[rng.IntN(len(seeds))])
		for range rng.IntN(4) {
			if len(body) > 0 {
				at := rng.IntN(len(body))
				switch rng.IntN(3) {
				case 0:
					body[at] = byte(rng.IntN(256))
				case 1:
					body = append(body[:at], body[min(len(body), at+rng.IntN(9)):]...)
				default:
					body = append(body[:at:at], append([]byte(fmt.Sprint(rng.IntN(1e6))), body[at:]...)...)
				}
			}
		}
		if r.method == http.MethodGet {
			body = nil
		}
		status, answer := x.ask(r.method, r.path, string(body), nil)
		if status >= 500 || status == 200 && answer == "" {
			t.Fatalf("%d: %s %s with %.300q: %d %s", i, r.method, r.path, body, status, answer)
		}
	}
	// And what was there is still there.
	var after page.LineView
	x.get("/lines/"+x.line, &after)
	if len(after.Sets) < len(view.Sets) {
		t.Errorf("%d sets are left", len(after.Sets))
	}
}

// What a record cannot do without is asked for, and no missing place becomes a place on the equator.
func TestMissingIsNotZero(t *testing.T) {
	x := newSite(t)
	spot := x.spot()
	var g page.Ground
	x.get("/lines/"+x.line+"/ground", &g)
	without := func(v any, field string) string {
		raw, _ := json.Marshal(v)
		var fields map[string]any
		_ = json.Unmarshal(raw, &fields)
		delete(fields, field)
		raw, _ = json.Marshal(fields)
		return string(raw)
	}
	x.refused("PUT", x.of("spots", id()), id(), without(g.Spots[0], "latDeg"), 422, "latDeg")
	x.refused("PUT", x.of("spots", id()), id(), without(g.Spots[0], "lonDeg"), 422, "lonDeg")
	x.refused("PUT", x.of("signs", id()), id(), without(sign(spot, x.clock.at), "latDeg"), 422, "latDeg")
	x.refused("PUT", "/lines/"+id(), id(), without(line.Line{Name: "A", Zone: demo.Zone}, "latDeg"), 422, "latDeg")
	x.refused("PUT", x.of("readings", id()), id(), without(line.Reading{Kind: line.FrostProbe, SpotID: &spot, At: x.clock.at}, "value"), 422, "value")
	for _, coordinates := range []string{`[]`, `[1]`, `[[1,2],[]]`, `[[1,2],[3]]`, `["1",2]`, `null`} {
		kind := "Point"
		if strings.HasPrefix(coordinates, "[[") {
			kind = "LineString"
		}
		x.refused("POST", "/lines/"+x.line+"/import/preview", "", `{"type":"Feature","properties":{},"geometry":{"type":"`+kind+`","coordinates":`+coordinates+`}}`, 422, "file")
	}
}

func TestWordsThatComeFromOutside(t *testing.T) {
	x := newSite(t)
	property := line.Property{Name: "A\u202egate\x00", Permission: "mine\nall of it"}
	x.put(x.of("properties", id()), property, &property)
	if property.Name != "Agate" || property.Permission != "mine\nall of it" {
		t.Errorf("kept as %q, %q", property.Name, property.Permission)
	}
	x.refused("PUT", x.of("properties", id()), id(), `{"name":"A"} {"name":"B"}`, 422, "body")
	x.refused("PUT", x.of("properties", id()), id(), `{"name":"A"}]`, 422, "body")
	p := x.refused("PUT", x.of("visits", id()), id(), `{"at":"noon"}`, 422, "body")
	if strings.Contains(p.Detail, "2006") || !strings.Contains(p.Detail, "2026-12-04T13:10:00Z") {
		t.Errorf("a time that is none: %s", p.Detail)
	}
	long := line.Design{ID: id(), SpotID: x.spot(), Target: "coyote"}
	long.Layout = laidOut(t, "hole")
	long.Layout.Attractors[0].Smells[1].Name = strings.Repeat("a", 5000)
	x.refused("PUT", x.of("designs", long.ID), id(), long, 422, "layout.attractors[0].smells[1].name")
	if p := x.refused("PUT", x.of("spots", id()), id(), line.Spot{Soil: ground.Soil(strings.Repeat("s", 3000))}, 422, ""); len(p.Detail) > 6000 {
		t.Errorf("what came is sent back: %d bytes", len(p.Detail))
	}
	cell := strings.Repeat("x", 3<<20)
	status, raw := x.do("POST", "/lines/"+x.line+"/rack/preview", "", "number,size,"+cell+"\n1,"+cell+",b\n"+cell+",c,d\n")
	if status != 200 || len(raw) > 5000 {
		t.Errorf("a huge cell: %d, %d bytes come back", status, len(raw))
	}
	log := "time,temp_c,wind_from_deg,wind_ms\n2026-03-08 02:30,1,1,1\n"
	x.clock.at = time.Date(2026, 4, 1, 12, 0, 0, 0, time.UTC)
	var preview LogPreview
	x.decode(&preview)(x.do("POST", "/lines/"+x.line+"/weather/preview", "", log))
	if len(preview.Wrong) != 1 || !strings.Contains(preview.Wrong[0].Says, "clocks went ahead") {
		t.Errorf("a time that does not exist: %+v", preview)
	}
}

func TestWhatIsNotThere(t *testing.T) {
	x := newSite(t)
	for path, want := range map[string]int{"/assets/gone-abc.js": 404, "/favicon.ico": 404, "/line/x/today": 200, "/healthz": 200, "/api/nothing": 404} {
		if status, answer := x.ask("GET", path, "", nil); status != want {
			t.Errorf("%s: %d %s", path, status, answer)
		}
	}
	if status, answer := x.ask("DELETE", "/api/about", "", nil); status != http.StatusMethodNotAllowed {
		t.Errorf("DELETE: %d %s", status, answer)
	}
}

// A body that trickles in is given up, and the program answers others meanwhile.
func TestSlowBodies(t *testing.T) {
	before := longestBody
	longestBody = 300 * time.Millisecond
	t.Cleanup(func() { longestBody = before })
	x := newSite(t)
	conn, err := net.Dial("tcp", strings.TrimPrefix(x.url, "http://"))
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close()
	fmt.Fprintf(conn, "PUT /api%s HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nMutation: %s\r\nContent-Length: 100\r\n\r\n{", x.of("properties", id()), id())
	var about Program
	x.get("/about", &about)
	response, err := http.ReadResponse(bufio.NewReader(conn), nil)
	if err != nil {
		t.Fatal(err)
	}
	defer response.Body.Close()
	if response.StatusCode != http.StatusRequestTimeout {
		t.Errorf("it is answered %s", response.Status)
	}
}

// A service that hangs holds no page up, is asked one question at a time, and rests after it failed; its key is told to nobody.
func TestAServiceThatHangs(t *testing.T) {
	x := newSite(t)
	x.built()
	asked, let := make(chan bool, 100), make(chan bool)
	service := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		asked <- true
		select {
		case <-let:
		case <-r.Context().Done():
		}
		hijacked, _, _ := w.(http.Hijacker).Hijack()
		hijacked.Close()
	}))
	t.Cleanup(service.Close)
	x.server.Weather = weather.NewClient(service.URL + "/secret-key")
	fetched := make(chan bool)
	go func() {
		x.server.FetchWeather(t.Context())
		close(fetched)
	}()
	<-asked
	for _, path := range []string{"/weather", "/shelf", "/kit/2026-12-05", "/rack", ""} { // while the service hangs
		x.get("/lines/"+x.line+path, nil)
	}
	var v page.WeatherView
	x.get("/lines/"+x.line+"/weather", &v)
	if !v.Fetching || v.Known || v.Trouble != "" {
		t.Errorf("while it hangs: %+v", v)
	}
	close(let)
	<-fetched
	x.get("/lines/"+x.line+"/weather", &v)
	if v.Fetching || !strings.Contains(v.Trouble, "hung up") || strings.Contains(v.Trouble, "secret") {
		t.Errorf("after it hung up: %+v", v.Trouble)
	}
	n := len(asked)
	x.server.FetchWeather(t.Context())
	if len(asked) != n {
		t.Error("it is not let rest")
	}
}

// What the store cannot do is told for what it is, so that the browser keeps the act and waits.
func TestWhatCannotBeKeptIsToldForWhatItIs(t *testing.T) {
	gin.SetMode(gin.ReleaseMode)
	for _, c := range []struct {
		err  error
		code string
	}{
		{fmt.Errorf("write: %w", store.ErrFull), "disk_full"}, {store.ErrFault, "disk_fault"}, {store.ErrReadOnly, "read_only"}, {store.ErrGone, "gone"},
		{&store.Damaged{Says: []string{"page 7"}}, "damaged"},
	} {
		recorder := httptest.NewRecorder()
		context, _ := gin.CreateTestContext(recorder)
		context.Request = httptest.NewRequest("PUT", "/", nil)
		fail(context, c.err)
		var p Problem
		if err := json.Unmarshal(recorder.Body.Bytes(), &p); err != nil || recorder.Code != http.StatusInsufficientStorage || p.Code != c.code {
			t.Errorf("%v: %d %s", c.err, recorder.Code, recorder.Body)
		}
	}
	if says := problemOf(&store.Damaged{Says: []string{"page 7"}}).Detail; !strings.Contains(says, "page 7") {
		t.Errorf("what is damaged is not told: %s", says)
	}
}

func FuzzDesignJSON(f *testing.F) {
	f.Add([]byte(`{"id":"01K8V7Z8R5Q6T9W3X1Y2Z4A5B6","layout":{"kind":"dirt_hole","guides":[{}]}}`))
	f.Fuzz(func(t *testing.T, raw []byte) {
		var x line.Design
		if strict.Decode(raw, &x) == nil {
			_ = x.CheckDraft(animal.Reference)
			_ = x.Layout.Check()
			if _, err := json.Marshal(x); err != nil {
				t.Errorf("%q was taken and cannot be written: %v", raw, err)
			}
		}
	})
}

func FuzzWeatherLog(f *testing.F) {
	f.Add([]byte("time,temp_c,wind_from_deg,wind_ms\n2026-12-03 17:00,-4,180,2\n"))
	f.Fuzz(func(t *testing.T, raw []byte) {
		preview, err := readLog(raw, "", demo.Start().Location(), demo.Start())
		for _, h := range preview.Hours {
			if err != nil || h.Check() != nil || h.At.After(demo.Start()) {
				t.Errorf("%q was taken for %+v", raw, h)
			}
		}
	})
}
