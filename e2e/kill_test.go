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
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"
	_ "modernc.org/sqlite" // to look into the data file

	"oldburrow/core/line"
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
	t       *testing.T
	address string
	stop    *atomic.Bool
	sent    int
	taken   map[string]string // what was acknowledged: the finding, by the look's id
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

// Three clients write while the program is killed again and again as by a power cut: what was acknowledged is there, once.
func TestKilledAgainAndAgain(t *testing.T) {
	t.Parallel()
	kills := 12
	if long() {
		kills = 200
	}
	file := filepath.Join(t.TempDir(), "demo.db")
	p := run(t, "demo", "--still", "--data", file)
	var about server.About
	fetch(t, p.address, "/about", &about)
	var view server.LineView
	fetch(t, p.address, "/lines/"+about.Lines[0].ID, &view)
	before := len(rows[string](t, file, `SELECT id FROM visits`))

	var stop atomic.Bool
	var workers sync.WaitGroup
	clients := make([]*client, 3)
	for i := range clients {
		c := &client{t: t, address: p.address, stop: &stop, taken: map[string]string{}}
		clients[i] = c
		rng := rand.New(rand.NewPCG(uint64(i), 1))
		workers.Go(func() {
			for !stop.Load() {
				made := view.Sets[rng.IntN(len(view.Sets))].Make
				keys := line.FindingKeys()
				v := line.Visit{ID: ulid.Make().String(), MakeID: made.ID, At: view.Now, Found: line.Found{Finding: keys[rng.IntN(len(keys))]}}
				if v.Finding == "catch" {
					v.Catches = []line.Catch{{ID: ulid.Make().String(), Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}}
				}
				if c.put("/lines/"+made.LineID+"/visits/"+v.ID, v) {
					c.taken[v.ID] = v.Finding
				}
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

	stands := map[string]string{}
	all := rows[struct{ ID, Finding string }](t, file, `SELECT id, finding FROM visits`)
	for _, v := range all {
		stands[v.ID] = v.Finding
	}
	taken, sent, catches := 0, 0, 0
	for _, c := range clients {
		taken, sent = taken+len(c.taken), sent+c.sent
		for id, finding := range c.taken {
			if stands[id] != finding {
				t.Errorf("an acknowledged look is lost: %s, %q stands", finding, stands[id])
			}
			if finding == "catch" {
				catches++
			}
		}
	}
	// A write under way at the end may be done without having been acknowledged: one a client at the most.
	if extra := len(all) - before - taken; extra < 0 || extra > len(clients) || len(stands) != len(all) {
		t.Errorf("%d looks stand for %d acknowledged", len(all)-before, taken)
	}
	if held := len(rows[string](t, file, `SELECT c.id FROM catches c JOIN visits v ON v.id = c.visit_id WHERE v.at = (SELECT max(at) FROM visits)`)); held < catches {
		t.Errorf("%d catches stand for %d acknowledged", held, catches)
	}
	if whole := rows[string](t, file, `PRAGMA integrity_check`); len(whole) != 1 || whole[0] != "ok" {
		t.Errorf("the file: %v", whole)
	}
	t.Logf("%d kills, %d requests, %d looks acknowledged", kills, sent, taken)
}

// fetch reads from the program.
func fetch(t *testing.T, address, path string, into any) {
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
