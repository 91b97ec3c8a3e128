package server

import (
	"bytes"
	"encoding/json"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"oldburrow/archive"
	"oldburrow/core/line"
	"oldburrow/core/page"
	"oldburrow/demo"
	"oldburrow/store"
)

// When a copy is due: once a night from three in the morning where something was written, at the start where the last one is old or there
// is none, and not within the hour after one that failed.
func TestWhenACopyIsDue(t *testing.T) {
	zone, err := time.LoadLocation(demo.Zone)
	if err != nil {
		t.Fatal(err)
	}
	at := func(day, hour, minute int) time.Time { return time.Date(2026, 12, day, hour, minute, 0, 0, zone) }
	copied := func(t time.Time) *keeper { return &keeper{has: true, last: store.Copied{At: t, Writes: 5}} }
	for name, c := range map[string]struct {
		keeper *keeper
		now    time.Time
		writes int
		starts bool
		due    bool
	}{
		"before three":                 {copied(at(4, 3, 0)), at(5, 2, 59), 6, false, false},
		"at three":                     {copied(at(4, 3, 0)), at(5, 3, 0), 6, false, true},
		"in the afternoon":             {copied(at(4, 12, 0)), at(5, 15, 0), 6, false, true},
		"once":                         {copied(at(5, 3, 0)), at(5, 15, 0), 6, false, false},
		"nothing was written":          {copied(at(1, 3, 0)), at(5, 15, 0), 5, true, false},
		"starts, yesterday's":          {copied(at(4, 16, 0)), at(5, 2, 0), 6, true, false},
		"starts, more than a day old":  {copied(at(4, 1, 0)), at(5, 2, 0), 6, true, true},
		"starts, none yet":             {&keeper{}, at(5, 2, 0), 1, true, true},
		"starts, an empty file":        {&keeper{}, at(5, 2, 0), 0, true, false},
		"none yet, begun today":        {&keeper{begun: at(4, 9, 0)}, at(4, 20, 0), 3, false, false},
		"none yet, begun yesterday":    {&keeper{begun: at(4, 9, 0)}, at(5, 3, 1), 3, false, true},
		"failed half an hour ago":      {&keeper{begun: at(4, 9, 0), failed: at(5, 3, 0)}, at(5, 3, 30), 3, false, false},
		"failed an hour ago":           {&keeper{begun: at(4, 9, 0), failed: at(5, 3, 0)}, at(5, 4, 0), 3, false, true},
		"the night the clocks go back": {copied(time.Date(2026, 10, 31, 20, 0, 0, 0, zone)), time.Date(2026, 11, 1, 3, 0, 0, 0, zone), 6, false, true},
	} {
		if due := c.keeper.due(c.now, zone, c.writes, c.starts); due != c.due {
			t.Errorf("%s: due %v", name, due)
		}
	}
}

// How the copies stand is told with what the program says of itself: the last with its age, what was written since, why one failed.
func TestHowTheCopiesStand(t *testing.T) {
	x := newSite(t)
	about := func() *Backup {
		var a Program
		x.get("/about", &a)
		return a.Backup
	}
	if b := about(); b != nil {
		t.Errorf("where none are kept: %+v", b)
	}
	x.refused("POST", "/backup", "", struct{}{}, http.StatusNotFound, "")
	x.server.Copies = true
	x.server.findCopies()
	if b := about(); b == nil || b.At != nil || b.Since != 1 || b.Why != "" {
		t.Errorf("before any: %+v", b)
	}
	var made Backup
	x.decode(&made)(x.do("POST", "/backup", "", struct{}{}))
	if made.At == nil || time.Since(*made.At) > time.Minute || made.Since != 0 || made.Bytes == 0 {
		t.Fatalf("made: %+v", made)
	}
	if _, err := os.Stat(made.Where); err != nil {
		t.Error(err)
	}
	x.spot()
	if b := about(); b.Since == 0 || !b.At.Equal(*made.At) {
		t.Errorf("written since: %+v", b)
	}
	// It is found again when the program starts anew.
	x.server.keeper = keeper{}
	x.server.findCopies()
	if b := about(); b.At == nil || b.Since == 0 || b.Where != made.Where {
		t.Errorf("found again: %+v", b)
	}
	folder := filepath.Dir(made.Where)
	if err := os.RemoveAll(folder); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(folder, nil, 0o600); err != nil {
		t.Fatal(err)
	}
	p := x.refused("POST", "/backup", "", struct{}{}, http.StatusInsufficientStorage, "")
	if b := about(); !strings.Contains(b.Why, "may not be made") || !strings.Contains(p.Detail, b.Why) || b.At == nil {
		t.Errorf("failed: %+v, %s", b, p.Detail)
	}
}

// moved asks for something that goes on for a while, and gives its last line.
func (x *site) moved(path, kind string, body io.Reader) (last Moving, status int) {
	x.t.Helper()
	response, err := http.Post(x.url+"/api"+path, kind, body)
	if err != nil {
		x.t.Fatal(err)
	}
	defer response.Body.Close()
	lines := json.NewDecoder(response.Body)
	for lines.More() {
		last = Moving{}
		if err := lines.Decode(&last); err != nil {
			x.t.Fatal(err)
		}
	}
	return last, response.StatusCode
}

func (x *site) saved(ask string) []byte {
	x.t.Helper()
	out, _ := x.moved("/archive", "application/json", strings.NewReader(ask))
	if out.ID == "" || !strings.HasSuffix(out.Name, ".zip") {
		x.t.Fatalf("%+v", out)
	}
	response, err := http.Get(x.url + "/api/archive/" + out.ID + "?name=" + out.Name)
	if err != nil {
		x.t.Fatal(err)
	}
	defer response.Body.Close()
	raw, err := io.ReadAll(response.Body)
	if err != nil || response.StatusCode != http.StatusOK || !strings.Contains(response.Header.Get("Content-Disposition"), out.Name) {
		x.t.Fatalf("%s %v %v", response.Status, response.Header, err)
	}
	return raw
}

const packedKind = "application/octet-stream"

// Everything goes out through the page and comes into another file: seen first, then taken in; taken in twice it changes nothing.
func TestMovingThroughThePage(t *testing.T) {
	x := newSite(t)
	made := x.built()
	raw := x.saved(`{"without":[]}`)
	if again, _ := x.moved("/archive/in", packedKind, bytes.NewReader(raw)); again.TakenIn == nil || !again.TakenIn.Already {
		t.Errorf("into itself: %+v", again)
	}
	s, err := store.Open(filepath.Join(t.TempDir(), "new.db"))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	old := x.server.Store
	x.server.Store = s // another computer
	seen, _ := x.moved("/archive/in", packedKind, bytes.NewReader(raw))
	if seen.TakenIn == nil || seen.TakenIn.Already || seen.ID == "" {
		t.Fatalf("seen: %+v", seen)
	}
	var about Program
	if x.get("/about", &about); len(about.Lines) != 0 {
		t.Fatalf("it was taken in before anybody said so: %+v", about)
	}
	took, _ := x.moved("/archive/in/"+seen.ID, "application/json", strings.NewReader("{}"))
	if took.TakenIn == nil || took.TakenIn.Records != seen.TakenIn.Records {
		t.Fatalf("taken in: %+v", took)
	}
	var view page.LineView
	x.get("/lines/"+x.line, &view)
	if len(view.Sets) != 1 || view.Sets[0].Make.ID != made.ID {
		t.Errorf("%+v", view.Sets)
	}
	if left, _ := filepath.Glob(filepath.Join(filepath.Dir(s.Path()), "*brought*")); len(left) > 0 {
		t.Errorf("left: %v", left)
	}
	if twice, _ := x.moved("/archive/in", packedKind, bytes.NewReader(raw)); twice.TakenIn == nil || !twice.TakenIn.Already {
		t.Errorf("twice: %+v", twice)
	}
	// Where other records stand it is refused, and says which.
	x.put(x.of("properties", id()), line.Property{Name: "Theirs"}, nil)
	x.server.Store = old
	x.put(x.of("properties", id()), line.Property{Name: "Ours"}, nil)
	raw = x.saved(`{"without":[]}`)
	x.server.Store = s
	other, _ := x.moved("/archive/in", packedKind, bytes.NewReader(raw))
	if other.Problem == nil || other.Problem.Status != http.StatusConflict || other.Problem.Detail != "This file holds other records (first: property Ours): open the archive in a new file." {
		t.Errorf("others: %+v", other.Problem)
	}
	x.server.Store = old
}

// What is no archive is refused in words and leaves nothing; what nobody fetches or takes in is let go.
func TestWhatIsNoArchive(t *testing.T) {
	x := newSite(t)
	for says, body := range map[string]string{"is no archive of this program": "PK no zip at all", "choose the whole file": ""} {
		last, status := x.moved("/archive/in", packedKind, strings.NewReader(body))
		if last.Problem == nil || last.Problem.Status != http.StatusUnprocessableEntity || !strings.Contains(last.Problem.Detail, says) || status != http.StatusOK {
			t.Errorf("%d %+v", status, last.Problem)
		}
	}
	if p, _ := x.moved("/archive", "application/json", strings.NewReader(`{"without":["everything"]}`)); p.Problem == nil || p.Problem.Fields[0].Field != "without" {
		t.Errorf("%+v", p)
	}
	for _, path := range []string{"/archive/" + id(), "/archive/x"} {
		x.refused("GET", path, "", "", http.StatusNotFound, "")
	}
	if p, _ := x.moved("/archive/in/"+id(), "application/json", strings.NewReader("{}")); p.Problem == nil || p.Problem.Status != http.StatusNotFound {
		t.Errorf("%+v", p)
	}
	x.saved(`{"without":["notes"]}`)
	left := func() []string {
		found, _ := filepath.Glob(filepath.Join(filepath.Dir(x.server.Store.Path()), "*.zip*"))
		return found
	}
	if n := len(left()); n != 1 {
		t.Errorf("%d wait", n)
	}
	x.server.clearWaiting(time.Now().Add(-time.Minute))
	if n := len(left()); n != 1 {
		t.Error("what was just saved is let go")
	}
	x.server.clearWaiting(time.Now().Add(time.Minute))
	if found := left(); len(found) != 0 {
		t.Errorf("%v are left", found)
	}
	if parts := archive.Parts(); len(parts) != 4 {
		t.Error(parts)
	}
}
