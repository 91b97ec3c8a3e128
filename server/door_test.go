package server

import (
	"bytes"
	"crypto/x509"
	"encoding/json"
	"io"
	"net"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"testing"
	"time"

	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/door"
	"oldburrow/store"
)

const (
	chosen = "four old fence posts"
	athome = "192.168.1.7:8417"
)

// abroad is a site that is reached from other machines, over a connection that nobody reads.
type abroad struct {
	*site
	secret *httptest.Server
	now    time.Time
}

// newAbroad is one with its passphrase chosen.
func newAbroad(t *testing.T) *abroad {
	t.Helper()
	x := &abroad{site: newSite(t), now: time.Date(2026, 12, 4, 15, 0, 0, 0, time.UTC)}
	names := door.Names{Hosts: []string{"mudroom"}, Addresses: []net.IP{net.ParseIP("192.168.1.7"), net.ParseIP("127.0.0.1")}}
	authority, err := door.OpenAuthority(t.TempDir(), names, x.now)
	if err != nil {
		t.Fatal(err)
	}
	x.server.Door = &Door{Authority: authority, Names: func() door.Names { return names }, Port: "8417"}
	x.server.Now = func() time.Time { return x.now }
	kept, err := door.Keep(chosen)
	if err != nil {
		t.Fatal(err)
	}
	if err := x.server.Store.SetPassphrase(kept, ""); err != nil {
		t.Fatal(err)
	}
	x.secret = httptest.NewTLSServer(x.server.Handler())
	t.Cleanup(x.secret.Close)
	return x
}

// asks sends a request as a phone at home does, and gives the answer with its body read.
func (x *abroad) asks(method, path, body, cookie string, headers map[string]string) (*http.Response, string) {
	x.t.Helper()
	request, err := http.NewRequest(method, x.secret.URL+path, strings.NewReader(body))
	if err != nil {
		x.t.Fatal(err)
	}
	request.Host = athome
	request.Header.Set("Content-Type", "application/json")
	request.Header.Set("Mutation", id())
	if cookie != "" {
		request.Header.Set("Cookie", cookieName+"="+cookie)
	}
	for name, value := range headers {
		if request.Header.Set(name, value); name == "Host" {
			request.Host = value
		}
	}
	client := x.secret.Client()
	client.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }
	response, err := client.Do(request)
	if err != nil {
		x.t.Fatal(err)
	}
	defer response.Body.Close()
	raw, err := io.ReadAll(response.Body)
	if err != nil {
		x.t.Fatal(err)
	}
	return response, string(raw)
}

// comes signs in, and gives the secret of the session.
func (x *abroad) comes(path, body string) string {
	x.t.Helper()
	response, answer := x.asks("POST", path, body, "", nil)
	for _, c := range response.Cookies() {
		if c.Name == cookieName && c.Secure && c.HttpOnly && c.SameSite == http.SameSiteLaxMode && c.Path == "/" && c.Domain == "" {
			return c.Value
		}
	}
	x.t.Fatalf("%s: %d %s, no cookie", path, response.StatusCode, answer)
	return ""
}

func (x *abroad) owner() string {
	return x.comes("/api/sign-in", `{"passphrase":"`+chosen+`","device":"a phone"}`)
}

// person is somebody with a role, who came in with a code.
func (x *abroad) person(role line.Role, name string) (who, cookie string) {
	x.t.Helper()
	who = id()
	x.put("/people/"+who, line.Person{ID: who, Name: name, Role: role}, nil)
	var made CodeMade
	x.decode(&made)(x.do("POST", "/codes", "", CodeAsked{Who: who, Address: athome}))
	return who, x.comes("/api/code", `{"code":"`+made.Code+`","device":"`+name+`'s phone"}`)
}

func codeOf(answer string) string {
	var p Problem
	_ = json.Unmarshal([]byte(answer), &p)
	return p.Code
}

// Every route, for everybody: who did not come in gets nothing, who came in what his role may, a page of another site nothing, and whoever
// sits at the table all.
func TestWhoMayAskForWhat(t *testing.T) {
	x := newAbroad(t)
	owner := x.owner()
	_, partner := x.person(line.Partner, "Partner")
	_, helper := x.person(line.Helper, "Helper")
	group := map[string]Group{}
	for _, r := range x.server.routes() {
		group[r.method+" "+r.path] = r.group
	}
	asked := 0
	for _, r := range x.server.engine().Routes() {
		path := strings.NewReplacer(":line", x.line, ":id", id(), ":day", "2026-12-05", ":date", "2026-12-05", ":format", "gpx", ":name", "fire", ":target", "coyote").Replace(r.Path)
		of := group[r.Method+" "+r.Path]
		if slices.Contains([]string{"/api/sign-out", "/api/devices/end", "/api/passphrase"}, r.Path) {
			continue // they end sessions; each has its own test
		}
		asked++
		for _, c := range []struct {
			who, cookie string
			headers     map[string]string
			may         []Group
			status      int
			code        string
		}{
			{"nobody", "", nil, []Group{Open}, 401, codeSession},
			{"who was signed out", "nothing", nil, []Group{Open}, 401, codeEnded},
			{"the helper", helper, nil, []Group{Open, Read, Enter}, 403, codeRole},
			{"the partner", partner, nil, []Group{Open, Read, Enter, Plan}, 403, codeRole},
			{"the owner", owner, nil, []Group{Open, Read, Enter, Plan, Own}, 0, ""},
			{"a foreign name", owner, map[string]string{"Host": "evil.example"}, nil, 403, ""},
			{"another machine's address", owner, map[string]string{"Host": "192.168.1.8:8417"}, nil, 403, ""},
			{"a foreign page", owner, map[string]string{"Origin": "https://evil.example"}, nil, 403, ""},
			{"somebody between", "", map[string]string{"Host": "127.0.0.1", "X-Forwarded-For": "203.0.113.9"}, []Group{Open}, 401, codeSession},
			{"the table", "", map[string]string{"Host": "127.0.0.1"}, []Group{Open, Read, Enter, Plan, Own}, 0, ""},
		} {
			if c.headers["Origin"] != "" && r.Method == http.MethodGet {
				continue // which shows it nothing
			}
			response, answer := x.asks(r.Method, path, "{}", c.cookie, c.headers)
			refused := response.StatusCode == 401 && codeOf(answer) != codeSession || response.StatusCode == 401 && of != Open || response.StatusCode == 403
			if may := slices.Contains(c.may, of); may == refused {
				t.Errorf("%s %s (%s) for %s: %d %s", r.Method, r.Path, of, c.who, response.StatusCode, answer)
			} else if !may && (response.StatusCode != c.status || codeOf(answer) != c.code) {
				t.Errorf("%s %s for %s: %d %s, want %d %s", r.Method, r.Path, c.who, response.StatusCode, answer, c.status, c.code)
			}
		}
		x.server.Door.guesses, x.now = door.Guesses{}, x.now.Add(time.Second)
	}
	if asked < 80 {
		t.Errorf("%d routes were asked", asked)
	}
}

// A page leads who did not come in to the door, which stands open with what it is drawn with.
func TestAPageLeadsToTheDoor(t *testing.T) {
	x := newAbroad(t)
	for _, path := range []string{"/", "/index.html", "/line/" + x.line + "/book"} {
		if response, _ := x.asks("GET", path, "", "", nil); response.StatusCode != http.StatusSeeOther || response.Header.Get("Location") != "/door/" {
			t.Errorf("%s: %d to %q", path, response.StatusCode, response.Header.Get("Location"))
		}
	}
	for _, path := range []string{"/door/", "/certificate", "/certificate/page.css", "/certificate/root.cer"} {
		if response, answer := x.asks("GET", path, "", "", nil); response.StatusCode != http.StatusOK && response.StatusCode != http.StatusServiceUnavailable { // not built
			t.Errorf("%s: %d %s", path, response.StatusCode, answer)
		}
	}
	if _, answer := x.asks("GET", "/healthz", "", "", nil); strings.TrimSpace(answer) != `{"ok":true}` {
		t.Errorf("healthz says %s", answer)
	}
	_, page := x.asks("GET", "/certificate", "", "", nil)
	if !strings.Contains(page, x.server.Door.Authority.Fingerprint()) {
		t.Errorf("the page has no fingerprint: %s", page)
	}
	_, root := x.asks("GET", "/certificate/root.cer", "", "", nil)
	if cert, err := x509.ParseCertificate([]byte(root)); err != nil || !cert.IsCA {
		t.Errorf("the root: %v", err)
	}
}

// Who comes over a connection that others read is sent to one that they do not, and nothing of a line is told there.
func TestNothingInTheOpen(t *testing.T) {
	x := newAbroad(t)
	client := &http.Client{CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}
	for _, c := range []struct {
		method, path string
		status       int
	}{
		{"GET", "/line/" + x.line + "?season=all", 308}, {"GET", "/api/about", 308}, {"POST", "/api/sign-in", 400}, {"PUT", "/api/lines/" + x.line, 400},
		{"GET", "/certificate", 200}, {"GET", "/certificate/root.cer", 200},
	} {
		request, _ := http.NewRequest(c.method, x.url+c.path, strings.NewReader("{}"))
		request.Host = athome
		request.Header.Set("Content-Type", "application/json")
		response, err := client.Do(request)
		if err != nil {
			t.Fatal(err)
		}
		response.Body.Close()
		if response.StatusCode != c.status || c.status == 308 && response.Header.Get("Location") != "https://"+athome+c.path {
			t.Errorf("%s %s: %d to %q", c.method, c.path, response.StatusCode, response.Header.Get("Location"))
		}
	}
	x.server.Door = nil
	if status, _ := x.ask("GET", "/api/about", "", map[string]string{"Host": "127.0.0.1", "Via": "1.1 between"}); status != http.StatusForbidden {
		t.Errorf("with no door, from between: %d", status)
	}
}

// Wrong passphrases are answered with a wait that grows from the third on; while one waits, the right one is not looked at either, and an open
// session is as quick as ever.
func TestWrongPassphrasesAreSlowed(t *testing.T) {
	x := newAbroad(t)
	session := x.owner()
	for i, want := range []string{"", "", "1", "2", "4"} {
		response, answer := x.asks("POST", "/api/sign-in", `{"passphrase":"wrong one","device":""}`, "", nil)
		if response.StatusCode != http.StatusUnauthorized || response.Header.Get("Retry-After") != want || !strings.Contains(answer, "passphrase") {
			t.Errorf("the wrong one, %d times: %d, wait %q, want %q: %s", i+1, response.StatusCode, response.Header.Get("Retry-After"), want, answer)
		}
		if want == "" {
			continue
		}
		response, _ = x.asks("POST", "/api/sign-in", `{"passphrase":"`+chosen+`","device":""}`, "", nil)
		if response.StatusCode != http.StatusTooManyRequests || response.Header.Get("Retry-After") != want {
			t.Errorf("the right one meanwhile: %d, wait %q", response.StatusCode, response.Header.Get("Retry-After"))
		}
		if response, _ := x.asks("GET", "/api/about", "", session, nil); response.StatusCode != http.StatusOK {
			t.Errorf("an open session meanwhile: %d", response.StatusCode)
		}
		x.now = x.now.Add(8 * time.Second)
	}
	x.owner()
	if response, _ := x.asks("POST", "/api/sign-in", `{"passphrase":"wrong one","device":""}`, "", nil); response.Header.Get("Retry-After") != "" {
		t.Error("the right one clears nothing")
	}
	for _, body := range []string{`{"passphrase":"","device":""}`, `{"passphrase":5}`, `{"passphrase":"` + strings.Repeat("a", 5000) + `","device":""}`} {
		if response, _ := x.asks("POST", "/api/sign-in", body, "", nil); response.StatusCode < 400 || response.StatusCode >= 500 {
			t.Errorf("%.40s: %d", body, response.StatusCode)
		}
	}
}

// A code lets in once, within ten minutes, whom it was made for; five wrong ones end all that are open.
func TestACodeLetsInOnce(t *testing.T) {
	x := newAbroad(t)
	made := func() (code CodeMade) {
		x.decode(&code)(x.do("POST", "/codes", "", CodeAsked{Address: athome}))
		return code
	}
	comes := func(code string) int {
		response, _ := x.asks("POST", "/api/code", `{"code":"`+code+`","device":""}`, "", nil)
		return response.StatusCode
	}
	one := made()
	if len(one.Code) != 8 || one.Link != "https://"+athome+"/door/#"+one.Code || len(one.Rows) < 21 || len(one.Rows) != len(one.Rows[0]) {
		t.Errorf("%+v", one)
	}
	if got := comes(strings.ToLower(one.Code[:4] + "-" + one.Code[4:])); got != http.StatusOK {
		t.Errorf("as it was typed by hand: %d", got)
	}
	if got := comes(one.Code); got != http.StatusUnauthorized {
		t.Errorf("a second time: %d", got)
	}
	late := made()
	x.now = x.now.Add(store.CodeLasts + time.Second)
	if got := comes(late.Code); got != http.StatusUnauthorized {
		t.Errorf("after ten minutes: %d", got)
	}
	x.server.Door.guesses, x.now = door.Guesses{}, x.now.Add(time.Hour)
	x.server.Door.codes.Store(0)
	open := made()
	for range 4 {
		comes("AAAAAAAA")
		x.server.Door.guesses, x.now = door.Guesses{}, x.now.Add(time.Minute)
	}
	if got := comes(open.Code); got != http.StatusOK {
		t.Errorf("after four wrong ones: %d", got)
	}
	x.server.Door.codes.Store(0)
	open = made()
	for range 5 {
		comes("AAAAAAAA")
		x.server.Door.guesses, x.now = door.Guesses{}, x.now.Add(time.Minute)
	}
	if got := comes(open.Code); got != http.StatusUnauthorized {
		t.Errorf("after five wrong ones: %d", got)
	}
	x.refused("POST", "/codes", "", CodeAsked{Address: "evil.example:8417"}, http.StatusUnprocessableEntity, "address")
	x.refused("POST", "/codes", "", CodeAsked{Who: id(), Address: athome}, http.StatusUnprocessableEntity, "who")
}

// Sessions are listed and ended one by one or all at once; they last ninety days from their last use, and four hundred from when they were made.
func TestSessionsEnd(t *testing.T) {
	x := newAbroad(t)
	a, b, c := x.owner(), x.owner(), x.owner()
	is := func(cookie string) int {
		response, _ := x.asks("GET", "/api/about", "", cookie, nil)
		return response.StatusCode
	}
	_, answer := x.asks("GET", "/api/door", "", a, nil)
	var view DoorView
	if err := json.Unmarshal([]byte(answer), &view); err != nil || len(view.Devices) != 3 || view.Devices[0].Device != "a phone" || !view.Open || !view.Passphrase || !slices.Contains(view.Addresses, athome) {
		t.Fatalf("%v: %s", err, answer)
	}
	for _, d := range view.Devices {
		if d.Asks != (d.Key == digest(a)) {
			t.Errorf("which of them asks: %+v", d)
		}
	}
	if strings.Contains(answer, a) || strings.Contains(answer, "argon") {
		t.Error("it tells a secret")
	}
	x.asks("POST", "/api/devices/"+digest(b)+"/end", "{}", a, nil)
	if is(a) != 200 || is(b) != 401 || is(c) != 200 {
		t.Errorf("one ended: %d, %d, %d", is(a), is(b), is(c))
	}
	x.asks("POST", "/api/devices/end", "{}", a, nil)
	if is(a) != 200 || is(c) != 401 {
		t.Errorf("all but one's own ended: %d, %d", is(a), is(c))
	}
	if x.asks("POST", "/api/sign-out", "{}", a, nil); is(a) != 401 {
		t.Error("signed out, and still in")
	}
	long, unused := x.owner(), x.owner()
	for range 5 {
		x.now = x.now.AddDate(0, 0, 79)
		if got := is(long); got != 200 {
			t.Fatalf("used every 79 days: %d", got)
		}
	}
	if is(unused) != 401 {
		t.Error("unused for more than ninety days, and still in")
	}
	if x.now = x.now.AddDate(0, 0, 6); is(long) != 401 {
		t.Error("after more than four hundred days it is still in")
	}
	last, other := x.owner(), x.owner()
	choose := func(passphrase string) (int, string) {
		response, answer := x.asks("POST", "/api/passphrase", `{"passphrase":"`+passphrase+`"}`, last, nil)
		return response.StatusCode, answer
	}
	if status, answer := choose("short"); status != http.StatusUnprocessableEntity || !strings.Contains(answer, "from 8 to 256 characters") || is(other) != 200 {
		t.Errorf("too short: %d %s", status, answer)
	}
	if status, answer := choose("another passphrase"); status != 200 || is(last) != 200 || is(other) != 401 {
		t.Errorf("with another passphrase: %d %s, %d, %d", status, answer, is(last), is(other))
	}
	if response, _ := x.asks("POST", "/api/sign-in", `{"passphrase":"`+chosen+`","device":""}`, "", nil); response.StatusCode != 401 {
		t.Errorf("with the one from before: %d", response.StatusCode)
	}
	x.comes("/api/sign-in", `{"passphrase":"another passphrase","device":""}`)
}

// What somebody records is his, whatever he sends; a helper takes back and changes what he did himself on that day, and nothing else. Whoever is
// removed, or may do other things than before, has to come in anew.
func TestWhoDidIt(t *testing.T) {
	x := newAbroad(t)
	set := x.built()
	who, helper := x.person(line.Helper, "Helper")
	_, partner := x.person(line.Partner, "Partner")
	look := func(cookie string) (string, line.Visit) {
		visit := line.Visit{ID: id(), MakeID: set.ID, At: x.server.Clock.Now(), Who: "somebody else", Found: line.Found{Finding: "quiet"}}
		raw, _ := json.Marshal(visit)
		response, answer := x.asks("PUT", "/api"+x.of("visits", visit.ID), string(raw), cookie, nil)
		if response.StatusCode != http.StatusOK {
			t.Fatalf("%d %s", response.StatusCode, answer)
		}
		var kept line.Visit
		if err := json.NewDecoder(bytes.NewReader([]byte(answer))).Decode(&kept); err != nil {
			t.Fatal(err)
		}
		return visit.ID, kept
	}
	mine, kept := look(helper)
	if kept.Who != who {
		t.Errorf("it is %q's, want %q's", kept.Who, who)
	}
	theirs, _ := look(partner)
	undo := func(visit, cookie string) int {
		response, _ := x.asks("PUT", "/api"+x.of("visits", visit)+"/undo", "{}", cookie, nil)
		return response.StatusCode
	}
	if got := undo(theirs, helper); got != http.StatusForbidden {
		t.Errorf("a helper takes back another's: %d", got)
	}
	if got := undo(mine, helper); got != http.StatusOK {
		t.Errorf("a helper takes back his own: %d", got)
	}
	sign := line.Sign{ID: id(), LatDeg: 46.8, LonDeg: -105.3, What: "tracks", Animal: "coyote", Holds: "well", SeenAt: x.server.Clock.Now()}
	x.put(x.of("signs", sign.ID), sign, &sign)
	sign.Note = "not so"
	raw, _ := json.Marshal(sign)
	if response, answer := x.asks("PUT", "/api"+x.of("signs", sign.ID), string(raw), helper, nil); response.StatusCode != http.StatusForbidden {
		t.Errorf("a helper changes another's sign: %d %s", response.StatusCode, answer)
	}
	x.put("/people/"+who, line.Person{ID: who, Name: "Helper", Role: line.Partner, Version: 1}, nil)
	if response, answer := x.asks("GET", "/api/about", "", helper, nil); response.StatusCode != http.StatusUnauthorized || codeOf(answer) != codeEnded {
		t.Errorf("who may do other things now: %d %s", response.StatusCode, answer)
	}
	var day page.Day
	x.get("/lines/"+x.line+"/day/"+x.server.Clock.Now().In(time.UTC).Format(time.DateOnly), &day)
	var about Program
	if x.get("/about", &about); about.Helpers[who] != "Helper" || about.Role != line.Owner {
		t.Errorf("%+v", about)
	}
}

// What a page sends that is newer than the program is told so: it waits there, and is not set aside.
func TestANewerPageIsTold(t *testing.T) {
	x := newSite(t)
	p := x.refused("PUT", x.of("spots", id()), id(), `{"name":"Ditch mouth","moon":"full"}`, http.StatusUnprocessableEntity, "body")
	if p.Code != codeNewer || !strings.Contains(p.Detail, "update the program") || !strings.Contains(p.Detail, "moon") {
		t.Errorf("%+v", p)
	}
	if p := x.refused("PUT", x.of("spots", id()), id(), `{"name":5}`, http.StatusUnprocessableEntity, "name"); p.Code != "" {
		t.Errorf("what is simply wrong: %+v", p)
	}
}
