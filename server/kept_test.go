package server

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/demo"
	"oldburrow/store"
)

// sent sends a request with headers of its own and gives what comes back.
func (x *site) sent(method, path string, body any, headers map[string]string) (*http.Response, string) {
	x.t.Helper()
	raw, err := json.Marshal(body)
	if err != nil {
		x.t.Fatal(err)
	}
	request, err := http.NewRequest(method, x.url+path, bytes.NewReader(raw))
	if err != nil {
		x.t.Fatal(err)
	}
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set("Mutation", id())
	for name, value := range headers {
		request.Header.Set(name, value)
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
	return response, string(answer)
}

// Every answer says that it is this program's, errors and streams included; and which file is open, after how many writes. What was meant for
// another file is not answered, also where this one lacks the line.
func TestEveryAnswerSaysWhose(t *testing.T) {
	x := newSite(t)
	made := x.built()
	var about Program
	x.get("/about", &about)
	stands, err := x.server.Store.Standing()
	if err != nil || stands.Writes == 0 {
		t.Fatalf("%+v, %v", stands, err)
	}
	for _, r := range x.routes() {
		response, _ := x.sent(r.method, r.path, map[string]any{}, nil)
		if response.Header.Get("Old-Burrow") != "1" || strings.HasPrefix(r.path, "/api") && response.Header.Get("File") != about.File {
			t.Errorf("%s %s: %v", r.method, r.path, response.Header)
		}
	}
	stream := fmt.Sprintf(`{"layout":%s,"target":"coyote","visits":100,"circumstances":{}}`, must(json.Marshal(made.Layout)))
	for _, c := range []struct{ method, path, body string }{
		{"GET", "/healthz", "null"}, {"GET", "/api/nothing", "null"}, {"DELETE", "/api/about", "null"}, {"POST", "/api/bench/best", stream}, {"POST", "/api/bench/following", stream},
	} {
		if response, _ := x.sent(c.method, c.path, json.RawMessage(c.body), nil); response.Header.Get("Old-Burrow") != "1" {
			t.Errorf("%s %s: %v", c.method, c.path, response.Header)
		}
	}

	stands, err = x.server.Store.Standing()
	if err != nil {
		t.Fatal(err)
	}
	before := stands.Writes
	response, _ := x.sent("PUT", "/api"+x.of("properties", id()), line.Property{Name: "A"}, map[string]string{"File": about.File})
	if response.StatusCode != 200 || response.Header.Get("Writes") != fmt.Sprint(before+1) {
		t.Errorf("a write is answered %d with %v", response.StatusCode, response.Header)
	}
	own, _, _ := strings.Cut(about.File, "/")
	const first = "00000000000000000000000000"
	for _, other := range []string{id() + "/" + id(), first + "/" + first, own + "/" + id(), own + "/" + first, own} {
		for _, c := range []struct{ method, path string }{
			{"PUT", "/api" + x.of("properties", id())}, {"PUT", "/api/lines/" + id() + "/properties/" + id()}, {"GET", "/api/lines/" + x.line}, {"POST", "/api/bench/best"},
		} {
			if response, answer := x.sent(c.method, c.path, line.Property{Name: "A"}, map[string]string{"File": other}); response.StatusCode != http.StatusMisdirectedRequest {
				t.Errorf("%s %s for the file %s: %d %s", c.method, c.path, other, response.StatusCode, answer)
			}
		}
	}
	if after, _ := x.server.Store.Standing(); after.Writes != before+1 {
		t.Errorf("%d writes, before %d", after.Writes, before)
	}
}

func must[T any](x T, err error) T {
	if err != nil {
		panic(err)
	}
	return x
}

// stamped answers a set as a phone does, whose clock shows that time.
func (x *site) stamped(v line.Visit, deviceAt time.Time) {
	x.t.Helper()
	response, answer := x.sent("PUT", "/api"+x.of("visits", v.ID), v, map[string]string{"Device-Time": deviceAt.UTC().Format(time.RFC3339)})
	if response.StatusCode != 200 {
		x.t.Fatalf("%d %s", response.StatusCode, answer)
	}
}

func (x *site) view() (view page.LineView) {
	x.t.Helper()
	x.get("/lines/"+x.line, &view)
	return view
}

// The program's clock was set back over the round: what the phone answered stands answered, is not asked again, and counts when the clock
// has passed it. What somebody typed for a time to come answers nothing. A phone that is a year ahead puts no look off.
func TestAClockThatWasSetBack(t *testing.T) {
	x := newSite(t)
	made := x.built()
	x.clock.at = x.clock.at.AddDate(0, 0, 1)
	morning := x.clock.at
	x.clock.at = morning.Add(-50 * time.Minute)
	if view := x.view(); view.Behind != nil || !view.Sets[0].Bead.Today {
		t.Fatalf("before the round: %+v", view.Sets[0])
	}
	x.put(x.of("visits", id()), line.Visit{MakeID: made.ID, At: morning, Found: line.Found{Finding: "quiet"}}, nil)
	if view := x.view(); !view.Sets[0].Bead.Today || view.Sets[0].Uncounted != nil {
		t.Errorf("typed for a time to come, it answers: %+v", view.Sets[0].Bead)
	}
	phone := line.Visit{ID: id(), MakeID: made.ID, At: morning, Found: line.Found{Finding: "looked"}}
	x.stamped(phone, morning)
	view := x.view()
	set := view.Sets[0]
	if set.Bead.Today || set.Bead.Late || set.LastVisit != nil || set.Uncounted == nil || set.Uncounted.Visit.ID != phone.ID || set.Uncounted.Why != line.WhyAhead {
		t.Errorf("stamped by the phone: %+v", set)
	}
	if due := set.Bead.Due; due == nil || due.Sub(x.clock.at) > 48*time.Hour || due.Before(x.clock.at.Add(20*time.Hour)) {
		t.Errorf("it is due by %v", due)
	}
	x.clock.at = morning.Add(time.Minute)
	if set := x.view().Sets[0]; set.Uncounted != nil || set.LastVisit == nil || set.Bead.Today {
		t.Errorf("when the clock has passed it: %+v", set)
	}

	// By a phone a year ahead it is answered for the day on which that came.
	x.clock.at = morning.AddDate(0, 0, 1)
	x.stamped(line.Visit{ID: id(), MakeID: made.ID, At: morning.AddDate(1, 0, 1), Found: line.Found{Finding: "quiet"}}, morning.AddDate(1, 0, 1))
	if set := x.view().Sets[0]; set.Bead.Today || set.Uncounted == nil {
		t.Errorf("a year ahead: %+v", set.Bead)
	}
	x.clock.at = morning.AddDate(0, 0, 2)
	if set := x.view().Sets[0]; !set.Bead.Today {
		t.Errorf("the day after: %+v", set.Bead)
	}

	// Put right, it counts for what it says then.
	var book page.BookView
	x.get("/lines/"+x.line+"/book", &book)
	var ahead line.Odd
	for _, odd := range book.Odd {
		if odd.Visit != nil && odd.Visit.ReceivedAt != nil {
			ahead = odd
		}
	}
	if ahead.Why != line.WhyAhead {
		t.Fatalf("in the book: %+v", book.Odd)
	}
	right := *ahead.Visit
	right.At = morning.AddDate(0, 0, 1)
	x.put(x.of("mends", id()), line.Mend{VisitID: ahead.ID, At: x.clock.at, Reason: "the phone was a year ahead", Visit: right}, nil)
	if set := x.view().Sets[0]; set.LastVisit == nil || !set.LastVisit.At.Equal(right.At) || set.LastVisit.ReceivedAt != nil || set.Uncounted != nil {
		t.Errorf("put right: %+v", set)
	}

	// Well behind its own newest act the program says so; by two minutes it does not.
	newest := x.clock.at
	x.clock.at = newest.Add(-2 * time.Minute)
	if view := x.view(); view.Behind != nil {
		t.Errorf("behind %v", view.Behind)
	}
	x.clock.at = newest.Add(-2*time.Minute - 2*time.Second)
	if view := x.view(); view.Behind == nil || view.Behind.Sub(newest).Abs() > time.Second {
		t.Errorf("behind %v, the newest act was at %v", view.Behind, newest)
	}
}

// A look that names traps which its set does not have is kept and flagged: the animal counts for the set, and for no trap. What cannot be so
// counts nothing, stands in the book with the reason, answers the set, and is told on its day.
func TestLooksThatCannotBeSo(t *testing.T) {
	x := newSite(t)
	made := x.built()
	x.clock.at = x.clock.at.AddDate(0, 0, 1)
	looked := func(v line.Visit) line.Visit {
		v.ID, v.MakeID, v.At = id(), made.ID, x.clock.at
		x.put(x.of("visits", v.ID), v, &v)
		return v
	}
	coyote := line.Catch{ID: id(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad", Rigs: []int{7}}
	caught := looked(line.Visit{Found: line.Found{Finding: "catch"}, Catches: []line.Catch{coyote}})
	if !strings.Contains(caught.Flags, line.FlagStrangeTrap) {
		t.Errorf("flags %q", caught.Flags)
	}
	var book page.BookView
	x.get("/lines/"+x.line+"/book", &book)
	set := x.view().Sets[0]
	if book.Total.Catches != 1 || len(book.Catches) != 1 || len(book.Odd) != 0 || set.Bead.State != line.Open {
		t.Errorf("it counts %+v, stands %+v", book.Total, set.Bead)
	}
	x.put(x.of("visits", caught.ID)+"/undo", Moment{At: x.clock.at}, nil)

	for why, v := range map[line.Why]line.Visit{
		line.WhyHolds: {Found: line.Found{Finding: "quiet"}, Rigs: []line.RigFound{{Slot: 0, State: "holding"}}},
		line.WhyFound: {Found: line.Found{Finding: "found"}, Catches: []line.Catch{{ID: id(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}}},
	} {
		v = looked(v)
		set := x.view().Sets[0]
		if set.Bead.Today || set.LastVisit != nil || set.Uncounted == nil || set.Uncounted.Visit.ID != v.ID || set.Uncounted.Why != why {
			t.Errorf("%s: %+v", why, set)
		}
		x.get("/lines/"+x.line+"/book", &book)
		if book.Total.Catches != 0 || len(book.Odd) != 1 || book.Odd[0].Why != why || book.Odd[0].Visit == nil {
			t.Errorf("%s in the book: %+v", why, book.Odd)
		}
		var day page.Day
		x.get("/lines/"+x.line+"/day/"+x.clock.at.In(must(time.LoadLocation(demo.Zone))).Format(time.DateOnly), &day)
		if len(day.Odd) != 1 || day.Odd[0].ID != v.ID || len(day.Sets[0].Looks) != 0 {
			t.Errorf("%s on its day: %+v", why, day.Odd)
		}
		right := v
		right.Finding, right.Rigs, right.Catches = "quiet", nil, nil
		x.put(x.of("mends", id()), line.Mend{VisitID: v.ID, At: x.clock.at, Reason: "a slip", Visit: right}, nil)
		if set := x.view().Sets[0]; set.Uncounted != nil || set.LastVisit == nil || set.LastVisit.ID != v.ID {
			t.Errorf("%s put right: %+v", why, set)
		}
		x.put(x.of("visits", v.ID)+"/undo", Moment{At: x.clock.at}, nil)
	}
	// Where it was gone it can be found, whichever of the two arrived first.
	found := line.Visit{ID: id(), MakeID: made.ID, At: x.clock.at.Add(2 * time.Minute), Found: line.Found{Finding: "found"}}
	x.put(x.of("visits", found.ID), found, nil)
	looked(line.Visit{Found: line.Found{Finding: "gone"}})
	if set := x.view().Sets[0]; set.Uncounted != nil || set.LastVisit == nil || set.LastVisit.ID != found.ID {
		t.Errorf("found after it was gone: %+v", set)
	}
}

// A mistyped year makes no season, in neither direction, unless it counts; one that is wrong all the same can be removed when nothing is
// left in it. The open season is the one that today lies in.
func TestAMistypedYear(t *testing.T) {
	x := newSite(t)
	made := x.built()
	seasons := func() string {
		var b page.BookView
		x.get("/lines/"+x.line+"/book", &b)
		said := ""
		for _, s := range b.Seasons {
			said += s.Name + " "
			if s.ID == b.Open {
				said += "open "
			}
		}
		return said
	}
	want := func(when, want string) {
		t.Helper()
		if got := seasons(); got != want {
			t.Errorf("%s: %q, want %q", when, got, want)
		}
	}
	want("at first", "2026/27 open ")
	for _, at := range []time.Time{x.clock.at.AddDate(100, 0, 0), x.clock.at.AddDate(1, 0, 0), x.clock.at.AddDate(-20, 0, 0)} {
		x.put(x.of("visits", id()), line.Visit{MakeID: made.ID, At: at, Found: line.Found{Finding: "quiet"}}, nil)
		x.put(x.of("pulls", id()), line.Pull{MakeID: made.ID, At: at}, nil)
	}
	ahead := made
	ahead.ID, ahead.BuiltAt = id(), x.clock.at.AddDate(0, 8, 0)
	x.put(x.of("makes", ahead.ID), ahead, nil)
	want("with looks of other years", "2026/27 open ")

	past := made
	past.ID, past.SetID, past.BuiltAt = id(), id(), x.clock.at.AddDate(-20, 0, 0)
	x.put(x.of("makes", past.ID), past, nil)
	want("with a set of other years", "2006/07 2026/27 open ")
	var b page.BookView
	x.get("/lines/"+x.line+"/book", &b)
	wrong := b.Seasons[0]
	wrong.Deleted = true
	x.refused("PUT", x.of("seasons", wrong.ID), id(), wrong, 422, "deleted")
	x.put(x.of("makes", past.ID)+"/undo", Moment{At: x.clock.at}, nil)
	x.get("/lines/"+x.line+"/book?season=all", &b)
	for _, r := range b.Odd {
		x.put(fmt.Sprintf("%s/undo", x.of(string(r.Kind)+"s", r.ID)), Moment{At: x.clock.at}, nil)
	}
	x.put(x.of("seasons", wrong.ID), wrong, &wrong)
	want("removed", "2026/27 open ")
	wrong.Deleted = false
	x.put(x.of("seasons", wrong.ID), wrong, nil)
	want("taken back", "2006/07 2026/27 open ")

	// Act within the week before a season begins: it opens it, and it is open when it has begun.
	x.clock.at = time.Date(2027, 6, 27, 12, 0, 0, 0, time.UTC)
	x.stamped(line.Visit{ID: id(), MakeID: made.ID, At: time.Date(2027, 7, 2, 12, 0, 0, 0, time.UTC), Found: line.Found{Finding: "quiet"}}, x.clock.at)
	want("within the week", "2006/07 2026/27 open 2027/28 ")
	x.clock.at = time.Date(2027, 7, 3, 12, 0, 0, 0, time.UTC)
	want("when it has begun", "2006/07 2026/27 2027/28 open ")
	x.clock.at = time.Date(2031, 7, 3, 12, 0, 0, 0, time.UTC)
	want("years after the last one", "2006/07 2026/27 2027/28 open ")
	x.clock.at = time.Date(2001, 7, 3, 12, 0, 0, 0, time.UTC)
	want("before any has begun", "2006/07 2026/27 2027/28 ")
	if view := x.view(); view.Season != nil {
		t.Errorf("the page shows %+v", view.Season)
	}
}

// What was answered 500 is refused in words, or answered.
func TestWhatFailedIsToldInWords(t *testing.T) {
	x := newSite(t)
	for _, day := range []string{"9999-12-31", "0001-01-01", "1969-12-31", "2200-01-01", "2026-02-30", ""} {
		x.refused("GET", "/lines/"+x.line+"/day/"+day, "", "", map[bool]int{true: 404, false: 422}[day == ""], "")
	}
	status, raw := x.do("POST", "/lines/"+x.line+"/import/preview", "", `<gpx><wpt lat="46.8" lon="-105.3"><time>9999-12-31T23:59:59-10:00</time><name>a</name></wpt></gpx>`)
	if status != 200 || strings.Contains(string(raw), `"time":"`) {
		t.Errorf("a preview of the year 9999: %d %s", status, raw)
	}
	x.refused("POST", "/lines/"+x.line+"/import/preview", "", "PK\x03\x04 doc.kml", 422, "file")
	for schema, says := range map[int]string{1: "was ever written", 0: "was ever written", 99: "newer program"} {
		old := strings.Replace(string(must(json.Marshal(laidOut(t, "hole")))), `"schema":2`, fmt.Sprintf(`"schema":%d`, schema), 1)
		p := x.refused("PUT", x.of("designs", id()), id(), json.RawMessage(fmt.Sprintf(`{"spotId":%q,"target":"coyote","layout":%s}`, id(), old)), 422, "layout.schema")
		if !strings.Contains(p.Detail, says) {
			t.Errorf("form %d: %s", schema, p.Detail)
		}
	}
	// Places that are doubtful are asked about, and taken when somebody is sure.
	far := `{"things":[{"form":"point","kind":"gate","type":"","name":"","note":"","known":false,"points":[[10,46.8]]%s}],"property":""}`
	x.refused("PUT", x.of("import", id()), id(), json.RawMessage(fmt.Sprintf(far, "")), 422, "things[0].points")
	x.put(x.of("import", id()), json.RawMessage(fmt.Sprintf(far, `,"sure":true`)), nil)
}

// A line on both sides of the date line has its middle there, and a receiver without a fix says nothing of it.
func TestTheMiddleOfAFile(t *testing.T) {
	x := newSite(t)
	for points, want := range map[string][2]float64{
		`[[179,-17],[-179,-17]]`:      {-17, 180},
		`[[179.5,10],[-179.7,12]]`:    {11, 179.9},
		`[[-105,46],[-106,47]]`:       {46.5, -105.5},
		`[[-105,46],[0,0],[-106,47]]`: {46.5, -105.5},
	} {
		var at struct{ LatDeg, LonDeg float64 }
		x.decode(&at)(x.do("POST", "/middle", "", `{"type":"LineString","coordinates":`+points+`}`))
		if off := turned(at.LonDeg - want[1]); at.LatDeg-want[0] > 1e-9 || off > 1e-9 || off < -1e-9 {
			t.Errorf("%s: %+v", points, at)
		}
	}
}

// While another program writes the file a write is told to wait, and it is done when it comes again.
func TestAFileInUseIsWaitedFor(t *testing.T) {
	if p := problemOf(fmt.Errorf("begin: %w", store.ErrBusy)); p.Status != http.StatusServiceUnavailable || p.Code != "busy" {
		t.Errorf("%+v", p)
	}
}

// A large line whose making was cut off is not taken for whole.
func TestALargeLineThatIsHalfMade(t *testing.T) {
	s, err := store.Open(filepath.Join(t.TempDir(), "large.db"))
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if err := s.SetFact(making, "large"); err != nil {
		t.Fatal(err)
	}
	small := demo.Large{Seasons: 1, Sets: 2}
	if err := LoadLarge(s, small); err != nil { // nothing was made yet
		t.Fatal(err)
	}
	if err := LoadLarge(s, small); err != nil {
		t.Errorf("whole: %v", err)
	}
	if err := s.SetFact(making, "large"); err != nil {
		t.Fatal(err)
	}
	for _, load := range []func() error{func() error { return LoadLarge(s, small) }, func() error { return LoadDemo(s) }} {
		if err := load(); !errors.Is(err, errHalfMade) {
			t.Errorf("half made: %v", err)
		}
	}
}

// Clients that never read, and streams that stand open, keep no look out; and who does not read is cut off.
func TestWhoNeverReads(t *testing.T) {
	before := readWithin
	readWithin = 300 * time.Millisecond
	t.Cleanup(func() { readWithin = before })
	x := newSite(t)
	made := x.built()
	// More than the system holds back for a reader.
	x.server.Dist = fstest.MapFS{"index.html": {}, "assets/large.js": {Data: make([]byte, 16<<20)}}
	address := strings.TrimPrefix(x.url, "http://")
	const ask = "GET /assets/large.js HTTP/1.1\r\nHost: localhost\r\n\r\n"
	conns := make([]net.Conn, 64)
	for i := range conns {
		conn, err := net.Dial("tcp", address)
		if err != nil {
			t.Fatal(err)
		}
		defer conn.Close()
		_ = conn.(*net.TCPConn).SetReadBuffer(4096)
		conns[i] = conn
		if _, err := io.WriteString(conn, ask); err != nil {
			t.Fatal(err)
		}
	}
	stream := fmt.Sprintf(`{"layout":%s,"target":"coyote","visits":300000,"circumstances":{}}`, must(json.Marshal(made.Layout)))
	for range 200 {
		conn, err := net.Dial("tcp", address)
		if err != nil {
			t.Fatal(err)
		}
		defer conn.Close()
		fmt.Fprintf(conn, "POST /api/bench/following HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: %d\r\n\r\n%s", len(stream), stream)
	}
	for range 5 {
		v := line.Visit{ID: id(), MakeID: made.ID, At: x.clock.at, Found: line.Found{Finding: "quiet"}}
		x.put(x.of("visits", v.ID), v, nil) // it is answered, or this fails
	}
	cut := func() (n int) {
		for _, conn := range conns {
			_ = conn.SetWriteDeadline(time.Now().Add(10 * time.Millisecond))
			if _, err := conn.Write([]byte("x")); err != nil {
				var late net.Error
				if !errors.As(err, &late) || !late.Timeout() {
					n++
				}
			}
		}
		return n
	}
	for end := time.Now().Add(30 * time.Second); cut() < len(conns); time.Sleep(200 * time.Millisecond) {
		if time.Now().After(end) {
			t.Fatalf("%d of %d are cut off", cut(), len(conns))
		}
	}
}

// One request too many waits for a place. When none comes, or too many wait already, it is told to come again, and that it is no fault of
// what it brought.
func TestRooms(t *testing.T) {
	gin.SetMode(gin.ReleaseMode)
	kind := newRoom(1, 1, 50*time.Millisecond)
	inside, leave := make(chan bool), make(chan bool)
	engine := gin.New()
	engine.GET("/", rooms{reads: kind}.enter, func(c *gin.Context) {
		inside <- true
		<-leave
	})
	asked := func() chan int {
		said := make(chan int, 1)
		go func() {
			recorder := httptest.NewRecorder()
			engine.ServeHTTP(recorder, httptest.NewRequest("GET", "/", nil))
			var p Problem
			if recorder.Code == http.StatusServiceUnavailable && (json.Unmarshal(recorder.Body.Bytes(), &p) != nil || p.Code != codeBusy || recorder.Header().Get("Retry-After") != "1") {
				t.Errorf("%s", recorder.Body)
			}
			said <- recorder.Code
		}()
		return said
	}
	first := asked()
	<-inside
	late := asked()
	if code := <-late; code != http.StatusServiceUnavailable {
		t.Errorf("nobody leaves, and it is answered %d", code)
	}
	kind.patience = 10 * time.Second
	second := asked()
	for len(kind.queue) == 0 {
		time.Sleep(time.Millisecond)
	}
	if code := <-asked(); code != http.StatusServiceUnavailable {
		t.Errorf("where one waits already another is answered %d", code)
	}
	leave <- true
	<-inside
	leave <- true
	if a, b := <-first, <-second; a != 200 || b != 200 {
		t.Errorf("%d, %d", a, b)
	}
}

// Whatever is written or previewed, two thousand times at random: nothing of it is answered that the program failed.
func TestRandomWritesFailNobody(t *testing.T) {
	if testing.Short() {
		t.Skip("long, and one thing at a time")
	}
	x := newSite(t)
	made := x.built()
	rng := rand.New(rand.NewPCG(24, 24))
	examples := map[string]any{
		x.of("visits", id()):                   line.Visit{MakeID: made.ID, At: x.clock.at, Found: line.Found{Finding: "catch"}, Catches: []line.Catch{{ID: id(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}}},
		x.of("makes", id()):                    made,
		x.of("pulls", id()):                    line.Pull{MakeID: made.ID, At: x.clock.at},
		x.of("signs", id()):                    line.Sign{SeenAt: x.clock.at, LatDeg: 46.8, LonDeg: -105.3, What: "tracks", Animal: "coyote", Age: "week", Holds: "well"},
		x.of("spots", id()):                    line.Spot{Name: "A", LatDeg: 46.8, LonDeg: -105.3},
		x.of("seasons", id()):                  line.Season{Name: "A", From: "2026-07-01", To: "2027-06-30"},
		x.of("mends", id()):                    line.Mend{VisitID: id(), At: x.clock.at, Reason: "a", Visit: line.Visit{MakeID: made.ID}},
		x.of("import", id()):                   json.RawMessage(`{"things":[{"form":"point","kind":"gate","time":"2026-12-04T05:50:00Z","points":[[-105.3,46.8]]}],"property":"A"}`),
		x.of("designs", id()):                  line.Design{Target: "coyote", Layout: made.Layout},
		"/lines/" + x.line + "/import/preview": json.RawMessage(`{"type":"FeatureCollection","features":[{"type":"Feature","geometry":{"type":"Point","coordinates":[1,2]},"properties":{"time":"2026-12-04T05:50:00Z"}}]}`),
		"/bench/compare":                       json.RawMessage(fmt.Sprintf(`{"first":{"layout":%[1]s,"target":"coyote","visits":10},"second":{"layout":%[1]s,"target":"coyote","visits":10}}`, must(json.Marshal(made.Layout)))),
	}
	paths := make([]string, 0, len(examples))
	for path := range examples {
		paths = append(paths, path)
	}
	values := []any{nil, 0, -1, 1e308, 1e-308, "", "x", true, []any{}, map[string]any{}, "9999-12-31T23:59:59-10:00", "0001-01-01T00:00:00Z", "2026-12-04T13:10:00Z", strings.Repeat("z", 700), []any{nil}, "\u0000", made.ID, x.line}
	n := 2000
	if testing.Short() {
		n = 200
	}
	for range n {
		path := paths[rng.IntN(len(paths))]
		var body any
		if err := json.Unmarshal(must(json.Marshal(examples[path])), &body); err != nil {
			t.Fatal(err)
		}
		for range 1 + rng.IntN(3) {
			body = spoiled(body, rng, values)
		}
		method := "PUT"
		if strings.HasSuffix(path, "preview") || strings.HasPrefix(path, "/bench") {
			method = "POST"
		}
		at := strings.ReplaceAll(path, "nothing", "")
		if parts := strings.Split(path, "/"); method == "PUT" {
			parts[len(parts)-1] = id()
			at = strings.Join(parts, "/")
		}
		if status, answer := x.do(method, at, id(), body); status >= 500 {
			t.Fatalf("%s %s %s: %d %s", method, at, must(json.Marshal(body)), status, answer)
		}
	}
	for _, page := range []string{"", "/ground", "/book", "/book?season=all", "/day/2026-12-04", "/rack", "/shelf", "/weather", "/kit/2026-12-05"} {
		x.get("/lines/"+x.line+page, nil)
	}
}

// spoiled puts another value somewhere into what was decoded from JSON.
func spoiled(x any, rng *rand.Rand, values []any) any {
	switch x := x.(type) {
	case map[string]any:
		keys := make([]string, 0, len(x))
		for key := range x {
			keys = append(keys, key)
		}
		if len(keys) > 0 && rng.IntN(12) > 0 {
			key := keys[rng.IntN(len(keys))]
			x[key] = spoiled(x[key], rng, values)
			return x
		}
	case []any:
		if len(x) > 0 && rng.IntN(12) > 0 {
			i := rng.IntN(len(x))
			x[i] = spoiled(x[i], rng, values)
			return x
		}
	}
	var fresh any
	_ = json.Unmarshal(must(json.Marshal(values[rng.IntN(len(values))])), &fresh)
	return fresh
}
