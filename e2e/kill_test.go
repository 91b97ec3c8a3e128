package e2e

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"
	_ "modernc.org/sqlite" // to look into the data file

	"oldburrow/core/line"
	pages "oldburrow/core/page"
	"oldburrow/server"
)

// long tells whether there is time for what takes long: make long.
func long() bool { return os.Getenv("OLDBURROW_LONG") != "" }

// rows looks into a data file that no program has open.
func rows[T any](t *testing.T, file, query string, args ...any) []T {
	t.Helper()
	db, err := sqlx.Open("sqlite", file)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	var found []T
	if err := db.Select(&found, query, args...); err != nil {
		t.Fatal(err)
	}
	return found
}

// client writes to a program that dies and comes back, and sends each write again until it is answered.
type client struct {
	t       testing.TB
	address string
	stop    *atomic.Bool
	sent    int
	taken   map[string]string // what was acknowledged, under its table and id
	looks   []string          // the ids of own looks
	pending string            // the look that the act under way changes
}

// put sends a write, the same one again and again, until it is answered or it is time to stop.
func (c *client) put(path string, body any) bool {
	raw, err := json.Marshal(body)
	if err != nil {
		panic(err)
	}
	mutation := ulid.Make().String()
	for !c.stop.Load() {
		request, err := http.NewRequest("PUT", "http://"+c.address+"/api"+path, bytes.NewReader(raw))
		if err != nil {
			panic(err)
		}
		request.Header.Set("Mutation", mutation)
		request.Header.Set("Content-Type", "application/json")
		response, err := (&http.Client{Timeout: 5 * time.Second}).Do(request)
		c.sent++
		if err != nil {
			time.Sleep(10 * time.Millisecond)
			continue
		}
		answer, err := io.ReadAll(response.Body)
		response.Body.Close()
		if err != nil {
			continue
		}
		if response.StatusCode != http.StatusOK {
			c.t.Errorf("%s: %d %s", path, response.StatusCode, answer)
			return false
		}
		return true
	}
	return false
}

// does one act of some kind and notes what it is to stand as once it is acknowledged. What was under way when time was up may be done or
// not.
func (c *client) does(rng *rand.Rand, view pages.LineView) {
	made := view.Sets[rng.IntN(len(view.Sets))].Make
	own := ""
	if len(c.looks) > 0 {
		own = c.looks[rng.IntN(len(c.looks))]
	}
	id := ulid.Make().String()
	at := "/lines/" + made.LineID
	look := line.Visit{ID: id, MakeID: made.ID, At: view.Now, Found: line.Found{Finding: line.Findings[rng.IntN(len(line.Findings))]}}
	if look.Finding == "catch" {
		look.Catches = []line.Catch{{ID: ulid.Make().String(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}}
	}
	key, path, stands := "visits "+id, at+"/visits/"+id, string(look.Finding)
	var body any = look
	switch kind := rng.IntN(60); { // a make takes as long as thirty looks
	case kind == 0:
		remade := made
		remade.ID, remade.BuiltAt = id, view.Now
		key, path, body, stands = "makes "+id, at+"/makes/"+id, remade, made.Target
	case kind <= 5:
		key, path, body, stands = "pulls "+id, at+"/pulls/"+id, line.Pull{MakeID: made.ID, At: view.Now}, made.ID
	case kind <= 10:
		key, path, stands = "signs "+id, at+"/signs/"+id, "scat"
		body = line.Sign{SeenAt: view.Now, LatDeg: 46.8, LonDeg: -105.3, What: "scat", Animal: "coyote", Age: "week", Holds: "well"}
	case kind <= 15 && own != "":
		c.pending = "visits " + own
		mended := line.Visit{MakeID: made.ID, At: view.Now, Found: line.Found{Finding: "passed"}}
		key, path, body, stands = "mends "+id, at+"/mends/"+id, line.Mend{VisitID: own, At: view.Now, Reason: "a slip", Visit: mended}, "a slip"
	case kind <= 20 && own != "":
		c.pending = "visits " + own
		key, path, body, stands = "", at+"/visits/"+own+"/undo", server.Moment{At: view.Now}, ""
	}
	if !c.put(path, body) {
		return
	}
	if stands != "" {
		c.taken[key] = stands
	}
	switch undone := strings.HasSuffix(path, "/undo"); {
	case strings.HasPrefix(key, "visits"):
		c.looks = append(c.looks, id)
	case undone && !strings.HasSuffix(c.taken[c.pending], " undone"):
		c.taken[c.pending] += " undone"
	case strings.HasPrefix(key, "mends"):
		_, was, _ := strings.Cut(c.taken[c.pending], " ")
		c.taken[c.pending] = strings.TrimSpace("passed " + was)
	}
	c.pending = ""
}

// standing is everything that was done by a data file, each under its table and id.
func standing(t *testing.T, file string) map[string]string {
	found := map[string]string{}
	for _, row := range rows[struct{ Key, Stands string }](t, file, `
		SELECT 'visits ' || id AS key, finding || CASE WHEN undone_at IS NULL THEN '' ELSE ' undone' END AS stands FROM visits
		UNION ALL SELECT 'makes ' || id, target FROM makes UNION ALL SELECT 'pulls ' || id, make_id FROM pulls
		UNION ALL SELECT 'signs ' || id, what FROM signs UNION ALL SELECT 'mends ' || id, reason FROM mends`) {
		if found[row.Key] != "" {
			t.Errorf("%s stands twice", row.Key)
		}
		found[row.Key] = row.Stands
	}
	return found
}

// Three clients do things of every kind while the program is killed again and again as by a power cut: what was acknowledged is there, once.
func TestKilledAgainAndAgain(t *testing.T) {
	t.Parallel()
	kills := 12
	if long() {
		kills = 200
	}
	file := filepath.Join(t.TempDir(), "demo.db")
	p := run(t, "demo", "--still", "--data", file)
	var about server.Program
	fetch(t, p.address, "/about", &about)
	var view pages.LineView
	fetch(t, p.address, "/lines/"+about.Lines[0].ID, &view)
	before := standing(t, file)

	var stop atomic.Bool
	var workers sync.WaitGroup
	clients := make([]*client, 3)
	for i := range clients {
		c := &client{t: t, address: p.address, stop: &stop, taken: map[string]string{}}
		clients[i] = c
		rng := rand.New(rand.NewPCG(uint64(i), 1))
		workers.Go(func() {
			for !stop.Load() {
				c.does(rng, view)
			}
		})
	}
	rng := rand.New(rand.NewPCG(9, 9))
	for range kills {
		time.Sleep(time.Duration(20+rng.IntN(180)) * time.Millisecond)
		p.kill()
		p.start()
	}
	time.Sleep(200 * time.Millisecond)
	stop.Store(true)
	workers.Wait()
	p.kill()

	after := standing(t, file)
	taken, sent := 0, 0
	for _, c := range clients {
		taken, sent = taken+len(c.taken), sent+c.sent
		for key, stands := range c.taken {
			if key != c.pending && after[key] != stands {
				t.Errorf("what was acknowledged is lost: %s as %q, %q stands", key, stands, after[key])
			}
		}
	}
	// A write under way at the end may be done without having been acknowledged: one a client at the most.
	if extra := len(after) - len(before) - taken; extra < 0 || extra > len(clients) {
		t.Errorf("%d things stand for %d acknowledged", len(after)-len(before), taken)
	}
	if whole := rows[string](t, file, `PRAGMA integrity_check`); len(whole) != 1 || whole[0] != "ok" {
		t.Errorf("the file: %v", whole)
	}
	t.Logf("%d kills, %d requests, %d things acknowledged", kills, sent, taken)
}

// The program is killed while it makes a new file: the next start finishes it.
func TestKilledDuringTheFirstStart(t *testing.T) {
	t.Parallel()
	kills := 8
	if long() {
		kills = 60
	}
	rng := rand.New(rand.NewPCG(6, 31))
	begun := 0
	for i := range kills {
		file := filepath.Join(t.TempDir(), "line.db")
		cmd := exec.Command(binary, "serve", "--data", file, "--listen", freeAddress(t))
		if err := cmd.Start(); err != nil {
			t.Fatal(err)
		}
		time.Sleep(time.Duration(5+rng.IntN(60)) * time.Millisecond)
		if err := cmd.Process.Kill(); err != nil {
			t.Fatal(err)
		}
		_ = cmd.Wait()
		if _, err := os.Stat(file); err == nil {
			begun++
		}
		p := run(t, "serve", "--data", file)
		var about server.Program
		fetch(t, p.address, "/about", &about)
		if p.kill(); len(about.File) != 53 || len(about.Lines) != 0 {
			t.Errorf("kill %d: %+v", i, about)
		}
	}
	t.Logf("%d kills, %d of a file that was begun", kills, begun)
}

// fetch reads from the program.
func fetch(t testing.TB, address, path string, into any) {
	t.Helper()
	response, err := http.Get("http://" + address + "/api" + path)
	if err != nil {
		t.Fatal(err)
	}
	defer response.Body.Close()
	if response.StatusCode != http.StatusOK {
		t.Fatal(fmt.Errorf("%s: %s", path, response.Status))
	}
	if err := json.NewDecoder(response.Body).Decode(into); err != nil {
		t.Fatal(err)
	}
}

// The program is killed while it copies a file of an older form and while it brings it up to date: whatever it was doing, the file then opens
// with everything in it, and every copy under a copy's name is whole.
func TestKilledInCopyAndMigration(t *testing.T) {
	t.Parallel()
	kills := 3
	if long() {
		kills = 20
	}
	packed, err := os.Open("../store/testdata/before-patterns.db.gz")
	if err != nil {
		t.Fatal(err)
	}
	defer packed.Close()
	reader, err := gzip.NewReader(packed)
	if err != nil {
		t.Fatal(err)
	}
	old, err := io.ReadAll(reader)
	if err != nil {
		t.Fatal(err)
	}
	counted := func(file string) string {
		return fmt.Sprint(rows[int](t, file, `SELECT count(*) FROM visits`), rows[int](t, file, `SELECT count(*) FROM makes`), rows[int](t, file, `SELECT count(*) FROM catches`), rows[string](t, file, `PRAGMA integrity_check`))
	}
	rng := rand.New(rand.NewPCG(4, 7))
	copied := 0
	for i := range kills {
		folder := t.TempDir()
		file := filepath.Join(folder, "line.db")
		if err := os.WriteFile(file, old, 0o600); err != nil {
			t.Fatal(err)
		}
		want := counted(file)
		cmd := exec.Command(binary, "serve", "--data", file, "--listen", freeAddress(t))
		if err := cmd.Start(); err != nil {
			t.Fatal(err)
		}
		time.Sleep(time.Duration(10+rng.IntN(150)) * time.Millisecond)
		if err := cmd.Process.Kill(); err != nil {
			t.Fatal(err)
		}
		_ = cmd.Wait()
		p := run(t, "serve", "--data", file)
		p.kill()
		if got := counted(file); got != want {
			t.Errorf("kill %d: %s, before %s", i, got, want)
		}
		copies, err := filepath.Glob(filepath.Join(folder, "line-backups", "*.db"))
		if err != nil || len(copies) == 0 {
			t.Errorf("kill %d: no copy was made (%v)", i, err)
		}
		for _, one := range copies {
			copied++
			if got := counted(one); got != want {
				t.Errorf("kill %d: the copy %s holds %s, want %s", i, filepath.Base(one), got, want)
			}
		}
		if left, _ := filepath.Glob(filepath.Join(folder, "line-backups", "*.part")); len(left) > 0 {
			t.Errorf("kill %d: half a copy is left: %v", i, left)
		}
	}
	t.Logf("%d kills, %d copies, all whole", kills, copied)
}
