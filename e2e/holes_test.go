package e2e

import (
	"bytes"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"math/rand/v2"
	"net"
	"net/http"
	"net/http/httputil"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"sync/atomic"
	"testing"

	"github.com/jmoiron/sqlx"
)

// inHand opens the round on a phone, with the pages kept.
func (p *program) inHand(pace int) *page {
	p.t.Helper()
	hand := p.atPace("/", 390, 844, pace)
	hand.see("Before light")
	hand.until("the pages are kept in the browser", func() bool {
		return hand.MustEval(`() => navigator.serviceWorker.controller !== null`).Bool()
	})
	hand.click("Start the round")
	hand.see("Set 5")
	return hand
}

// grainyPhoto is a photo as large as a phone takes it, of which little can be left out.
func grainyPhoto(t *testing.T) string {
	t.Helper()
	rng := rand.New(rand.NewPCG(2, 4))
	picture := image.NewRGBA(image.Rect(0, 0, 3200, 2400))
	for i := range picture.Pix {
		picture.Pix[i] = uint8(rng.Uint32()) / 3
	}
	var raw bytes.Buffer
	if err := jpeg.Encode(&raw, picture, &jpeg.Options{Quality: 95}); err != nil {
		t.Fatal(err)
	}
	name := filepath.Join(t.TempDir(), "set5.jpg")
	if err := os.WriteFile(name, raw.Bytes(), 0o600); err != nil {
		t.Fatal(err)
	}
	if raw.Len() < 2<<20 {
		t.Fatalf("it has only %d bytes", raw.Len())
	}
	return name
}

type looked struct {
	Number  int
	Finding string
	Seen    string
}

// looksSince are the looks that stand in a file at one set, without those of the demo itself.
func looksSince(t *testing.T, file string, number int) []looked {
	t.Helper()
	return rows[looked](t, file, `
		SELECT s.number, v.finding, v.seen FROM visits v JOIN makes m ON m.id = v.make_id JOIN sets s ON s.id = m.set_id
		WHERE s.number = ? AND v.at >= '2026-12-04 12:00' AND v.undone_at IS NULL ORDER BY v.at`, number)
}

// A look with a photo, answered with no signal: the photo is made small before it is kept, and both are there afterwards. A photo that the
// program will not take stays here with its reason, and the look is in the file without it.
func TestAPhotoWithNoSignal(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "demo.db")
	p := run(t, "demo", "--still", "--data", file)
	hand := p.inHand(8)
	p.kill()
	photograph := func() {
		hand.click("Something came")
		hand.click("more to say first")
		hand.find(`//input[@type="file"]`).MustSetFiles(grainyPhoto(t))
		hand.find(`//img[contains(@alt, "as photographed")]`)
		hand.click("passed by")
	}
	photograph()
	hand.see("passed by, 05:50")
	hand.see("· kept on this device, not sent yet")
	p.start()
	hand.gone("not sent yet")
	hand.click("Next: set")
	p.kill()
	// The next photo is one that the program refuses.
	hand.MustEval(`() => {
		const ask = window.fetch;
		window.fetch = (to, how) => /photos/.test(String(to)) && how?.method === 'PUT'
			? ask('/healthz').then(() => new Response('{"title":"No","status":422,"detail":"The photo is broken."}', { status: 422, headers: { 'Old-Burrow': '1' } }))
			: ask(to, how);
	}`)
	hand.see("Set 1")
	photograph()
	hand.see("passed by, 05:50")
	p.start()
	hand.gone("not sent yet")
	hand.settled()
	hand.click("Next: set")
	hand.click("the whole round")
	hand.see("Not recorded: a photo of the set. The photo is broken.")
	hand.noErrors()
	p.kill()
	first, second := looksSince(t, file, 5), looksSince(t, file, 1)
	if len(first) != 1 || first[0].Finding != "passed" || strings.Contains(first[0].Seen, `"photoId":null`) {
		t.Errorf("the look with its photo: %+v", first)
	}
	if len(second) != 1 || second[0].Finding != "passed" || !strings.Contains(second[0].Seen, `"photoId":null`) {
		t.Errorf("the look without its photo: %+v", second)
	}
	if sizes := rows[int](t, file, `SELECT length(jpeg) FROM photos`); len(sizes) != 1 || sizes[0] > 400<<10 {
		t.Errorf("photos of %v bytes", sizes)
	}
}

// This browser has no room left: the tap is not taken for kept, the screen stays, it is said, and once there is room the same tap is kept.
func TestABrowserThatIsFull(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "demo.db")
	p := run(t, "demo", "--still", "--data", file)
	hand := p.inHand(1)
	full := func(is bool) {
		hand.MustEval(`(is) => {
			const add = (window.__add ??= IDBObjectStore.prototype.add);
			IDBObjectStore.prototype.add = is ? function () { throw new DOMException('no room', 'QuotaExceededError'); } : add;
		}`, is)
	}
	full(true)
	hand.click("Quiet")
	hand.see("Not kept: set 5, quiet.")
	hand.see("It worked the set") // the screen has not moved on
	hand.gone("recorded")
	hand.click("throw away the pages that were read")
	hand.see("The pages that were read are thrown away.")
	hand.click("throw away what the file has already")
	hand.see("What the file has already is thrown away.")
	full(false)
	hand.click("Quiet")
	hand.see("quiet, 05:50 · recorded")
	hand.gone("Not kept")
	hand.noErrors()
	p.kill()
	if stands := looksSince(t, file, 5); len(stands) != 1 {
		t.Errorf("it stands as %+v", stands)
	}
}

// Another program answers at the address, with 200 and {} to everything: nothing is taken for sent, no page breaks, and it all goes when the
// program is back.
func TestAForeignServerInBetween(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "demo.db")
	p := run(t, "demo", "--still", "--data", file)
	hand := p.inHand(8)
	p.kill()
	listener, err := net.Listen("tcp", p.address)
	if err != nil {
		t.Fatal(err)
	}
	var asked atomic.Int32
	foreign := &http.Server{Handler: http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		asked.Add(1)
		w.Header().Set("Content-Type", "application/json")
		_, _ = io.WriteString(w, "{}")
	})}
	go func() { _ = foreign.Serve(listener) }()
	hand.click("Quiet")
	hand.see("quiet, 05:50")
	hand.see("· kept on this device, not sent yet")
	hand.click("Next: set")
	hand.see("Set 1")
	hand.MustReload().MustWaitLoad()
	hand.see("Set 1")
	hand.click("the whole round")
	hand.see("one not sent yet, kept in this browser")
	hand.see("no answer; as read at 05:50")
	hand.click("Book")
	hand.click("what was caught")
	hand.see("Caught in 100 trap-nights")
	hand.gone("could not be drawn")
	if asked.Load() == 0 {
		t.Error("the other program was not asked")
	}
	_ = foreign.Close()
	p.start()
	hand.gone("not sent yet")
	hand.noErrors()

	// What was read and cannot be drawn is dropped, with that alone; what was entered can be saved.
	p.kill()
	const spoil = `() => new Promise((done) => {
		const open = indexedDB.open('old-burrow');
		open.onsuccess = () => {
			const t = open.result.transaction('read', 'readwrite');
			const read = t.objectStore('read').get('client');
			read.onsuccess = () => {
				for (const q of read.result?.client.clientState.queries ?? []) if (q.queryKey.length === 2 && q.queryKey[0] === 'line') q.state.data = {};
				if (read.result) t.objectStore('read').put(read.result);
			};
			t.oncomplete = () => { open.result.close(); done(); };
		};
	})`
	// What is read is kept again and again: it is spoilt until a load has met it so.
	hand.until("the page cannot be drawn", func() bool {
		hand.MustEval(spoil)
		hand.MustReload().MustWaitLoad()
		hand.settled()
		return strings.Contains(hand.text(), "This page could not be drawn")
	})
	hand.see("Everything that you entered has been sent")
	hand.find(`//button[.="save what is not sent"]`)
	p.start()
	hand.click("Open it again")
	hand.see("What was caught")
	p.kill()
	if stands := looksSince(t, file, 5); len(stands) != 1 || stands[0].Finding != "quiet" {
		t.Errorf("it stands as %+v", stands)
	}
}

// An older copy of the file is put back: what was answered since is not in it, this browser says so, and sends it again.
func TestAnOlderCopyIsPutBack(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "demo.db")
	p := run(t, "demo", "--still", "--data", file)
	hand := p.inHand(8)
	p.kill()
	older, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	log, _ := os.ReadFile(file + "-wal")
	p.start()
	hand.gone("no answer")
	hand.click("Quiet")
	hand.see("quiet, 05:50 · recorded")
	hand.settled()
	hand.click("Next: set")
	hand.see("Set 1")
	hand.click("Quiet")
	hand.see("quiet, 05:50 · recorded")
	hand.settled()
	hand.click("Next: set")
	hand.see("Set 6")
	hand.click("the whole round")
	p.kill()
	if len(looksSince(t, file, 5)) != 1 {
		t.Fatal("it was not taken before")
	}
	_ = os.Remove(file + "-shm")
	if err := os.WriteFile(file, older, 0o600); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(file+"-wal", log, 0o600); err != nil {
		t.Fatal(err)
	}
	if len(looksSince(t, file, 5)) != 0 {
		t.Fatal("the copy is not older")
	}
	p.start()
	hand.see("This file is older than what was sent from here. Two acts since")
	hand.see("24 to see by midnight")
	hand.click("send them again")
	hand.gone("This file is older")
	hand.see("22 to see by midnight")
	hand.until("they are in the file again", func() bool { return len(looksSince(t, file, 5))+len(looksSince(t, file, 1)) == 2 })
	hand.noErrors()
	p.kill()
	for _, set := range []int{5, 1} {
		if stands := looksSince(t, file, set); len(stands) != 1 {
			t.Errorf("set %d: %+v", set, stands)
		}
	}
}

// The program's clock is set back over the round: what was answered stands answered in the hand, on Today and on the bead, and the header says
// so.
func TestTheProgramsClockIsSetBack(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "demo.db")
	p := run(t, "demo", "--still", "--data", file)
	hand := p.inHand(8)
	hand.click("Quiet")
	hand.see("quiet, 05:50 · recorded")
	p.kill()
	db, err := sqlx.Open("sqlite", file)
	if err != nil {
		t.Fatal(err)
	}
	db.MustExec(`UPDATE facts SET value = '2026-12-04T12:00:00Z' WHERE key = 'demo_clock'`)
	db.Close()
	p.start()
	hand.see("Answered 05:50 by the phone; the program’s clock says 05:00")
	hand.gone("It worked the set")
	hand.MustReload().MustWaitLoad()
	hand.see("Answered 05:50 by the phone; the program’s clock says 05:00")
	hand.click("Next: set 1")
	table := p.keptAt("/", 1280, 800)
	table.see("Set 5: answered 05:50 by the phone; the program’s clock says 05:00")
	table.see("the program’s clock went back, from 05:50 to 05:00")
	table.find(`//*[contains(@aria-label, "set 5, ") and contains(@aria-label, "answered 05:50")]`)
	table.see("23 sets to see by midnight")
	table.click("Book")
	table.click("what was caught")
	table.see("Kept, but not counted")
	table.see("in the future; not counted")
	table.pressAt(`//a[starts-with(@aria-label, "correct a look, quiet")]`)
	table.see("Friday 4 December")
	table.see("set 5, quiet; kept, but not counted: in the future; not counted")
	table.pressAt(`//div[@class="noted"]//button[.="correct"]`)
	table.fill("time, corrected", "4:50")
	table.fill("reason", "the phone was an hour ahead")
	table.click("save")
	table.gone("kept, but not counted")
	table.see("04:50 quiet")
	table.noErrors()
}

// The disk takes no more: what is answered stays in the browser, with the reason, and goes when there is room.
func TestADiskThatTakesNoMore(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "demo.db")
	p := run(t, "demo", "--still", "--data", file)
	hand := p.inHand(8)
	p.kill()
	_ = rows[struct{ Busy, Log, Checkpointed int }](t, file, `PRAGMA wal_checkpoint(TRUNCATE)`)
	p.limit = "40"
	p.start()
	hand.gone("no answer")
	hand.click("Quiet")
	hand.see("· kept on this device, not sent yet")
	hand.see("make room, or see to the disk, and it is sent again")
	hand.settled()
	hand.click("Next: set")
	hand.click("the whole round")
	hand.see("make room, or see to the disk, and it is sent again")
	hand.see("one not sent yet, kept in this browser")
	p.kill()
	p.limit = ""
	p.start()
	hand.gone("not sent yet")
	hand.gone("make room")
	hand.noErrors()
	p.kill()
	if stands := looksSince(t, file, 5); len(stands) != 1 {
		t.Errorf("it stands as %+v", stands)
	}
}

// The program was renewed: the first load still shows the page from before, says that a newer one is here, and opens it.
func TestANewerPageIsHere(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	to, err := url.Parse("http://" + p.address)
	if err != nil {
		t.Fatal(err)
	}
	var renewed atomic.Bool
	proxy := httputil.NewSingleHostReverseProxy(to)
	proxy.ModifyResponse = func(r *http.Response) error {
		if !renewed.Load() || r.Request.URL.Path != "/sw.js" {
			return nil
		}
		raw, err := io.ReadAll(r.Body)
		if err != nil {
			return err
		}
		raw = append(raw, []byte("\n// renewed\n")...)
		r.Body, r.ContentLength = io.NopCloser(bytes.NewReader(raw)), int64(len(raw))
		r.Header.Set("Content-Length", fmt.Sprint(len(raw)))
		r.Header.Del("Content-Encoding")
		return nil
	}
	listener, err := net.Listen("tcp", freeAddress(t))
	if err != nil {
		t.Fatal(err)
	}
	server := &http.Server{Handler: http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		r.Header.Del("Accept-Encoding")
		r.Header["X-Forwarded-For"] = nil // it stands in for the program itself, and not between
		proxy.ServeHTTP(w, r)
	})}
	go func() { _ = server.Serve(listener) }()
	t.Cleanup(func() { _ = server.Close() })
	through := &program{t: t, address: listener.Addr().String()}
	w := through.keptAt("/", 1280, 800)
	w.see("Before light")
	w.until("the pages are kept in the browser", func() bool {
		return w.MustEval(`() => navigator.serviceWorker.controller !== null`).Bool()
	})
	w.gone("a newer page is here")
	renewed.Store(true)
	w.MustReload().MustWaitLoad()
	w.see("a newer page is here")
	w.click("open it")
	w.see("Before light")
	w.gone("a newer page is here")
	w.noErrors()
}
