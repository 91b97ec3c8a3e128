package e2e

import (
	"crypto/tls"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/launcher/flags"
	"github.com/go-rod/rod/lib/proto"
	"github.com/oklog/ulid/v2"

	pages "oldburrow/core/page"
	"oldburrow/door"
	"oldburrow/server"
	"oldburrow/store"
	"oldburrow/web"
)

// house is the name under which the machine is found from elsewhere.
const house = "kettle.local"

// passphrase is that of the owner.
const passphrase = "four old fence posts"

// reached is a demo that other machines reach, with a browser of its own that trusts its root and nothing else beside what every browser does.
func reached(t *testing.T) (p *program, phone func(width, height int) *page) {
	t.Helper()
	file := filepath.Join(t.TempDir(), "demo.db")
	args := []string{"demo", "--data", file, "--host", house}
	withDemo(t, args)
	if _, wrong, status := command(t, passphrase+"\n", "passphrase", "--data", file); status != 0 {
		t.Fatalf("%s: %d", wrong, status)
	}
	p = run(t, args...)
	own := trusting(t, filepath.Join(filepath.Dir(file), "demo-door", "root.pem"))
	return p, func(width, height int) *page {
		incognito := own.MustIncognito()
		tab := incognito.MustPage("").Timeout(5 * time.Minute)
		tab.MustSetViewport(width, height, 1, width < 500)
		tab.MustEvalOnNewDocument(`try { localStorage.setItem('test-pace', '8') } catch {}`)
		tab.MustEvalOnNewDocument(`window.__errors = []; addEventListener('error', (e) => __errors.push(e.message)); addEventListener('unhandledrejection', (e) => __errors.push(String(e.reason)));`)
		tab.MustEvalOnNewDocument(counting)
		return &page{Page: tab, t: t, address: strings.Replace(p.address, "127.0.0.1", house, 1), secret: true}
	}
}

// trusting is a browser that trusts a root, and nothing else beside what every browser does.
func trusting(t *testing.T, root string) *rod.Browser {
	t.Helper()
	home := t.TempDir()
	trust := "sql:" + filepath.Join(home, ".pki", "nssdb")
	if err := os.MkdirAll(strings.TrimPrefix(trust, "sql:"), 0o700); err != nil {
		t.Fatal(err)
	}
	for _, args := range [][]string{{"-N", "--empty-password"}, {"-A", "-n", "kettle", "-t", "C,,", "-i", root}} {
		if out, err := exec.Command("certutil", append([]string{"-d", trust}, args...)...).CombinedOutput(); err != nil {
			t.Fatalf("certutil %v: %s %v", args, out, err)
		}
	}
	l := launcher.New().Bin("chromium-headless-shell").Leakless(false).Headless(true).NoSandbox(true).Env(append(os.Environ(), "HOME="+home)...)
	for _, flag := range []string{"disable-gpu", "disable-quic", "no-first-run", "disable-background-networking", "disable-component-update", "disable-sync", "disable-dev-shm-usage", "hide-scrollbars"} {
		l.Set(flags.Flag(flag))
	}
	l.Set("force-color-profile", "srgb").Set("lang", "en-GB").Set("host-resolver-rules", "MAP "+house+" 127.0.0.1, MAP * ~NOTFOUND , EXCLUDE 127.0.0.1")
	own := rod.New().ControlURL(l.MustLaunch()).MustConnect()
	t.Cleanup(func() {
		_ = own.Close()
		l.Cleanup()
	})
	return own
}

// letsIn makes somebody at the table who walks the round, and a code for him: the link that his phone scans.
func (w *page) letsIn(name string) (link string) {
	w.t.Helper()
	w.click("on the phone")
	w.see("Nobody but you.")
	w.fill("name", name)
	w.click("Add")
	w.see("walks the round")
	return w.codeFor(name)
}

// codeFor makes a code for somebody who helps, on the page where that is done.
func (w *page) codeFor(name string) (link string) {
	w.t.Helper()
	w.choose("for", name)
	w.choose("at", strings.Replace(w.address, "127.0.0.1", house, 1))
	w.click("Make a code")
	w.see("Scan it with the phone")
	return w.MustElement(".scan").MustEval(`() => this.getAttribute('aria-label').split(': ')[1]`).Str()
}

// The owner comes in with the passphrase over a connection that the phone trusts; a helper with a code from the table page, walks the round
// with the program away and back, and all of it stands in the book under his name. He sees and does no more than he may; his session is ended,
// and his phone keeps nothing but what it had not sent.
func TestAHelperOnAPhone(t *testing.T) {
	t.Parallel()
	p, phone := reached(t)

	owner := phone(1280, 800)
	owner.open("/")
	owner.see("or the passphrase")
	owner.fill("or the passphrase", "four old fence post")
	owner.click("Come in as the owner")
	owner.see("is not the one that was chosen at the table")
	owner.fill("or the passphrase", passphrase)
	owner.click("Come in as the owner")
	owner.see("Before light")
	if owner.MustEval(`() => window.isSecureContext && document.cookie`).Str() != "" {
		t.Error("the session can be read by a script")
	}

	table := p.keptAt("/", 1280, 800)
	link := table.letsIn("Alva")

	hand := phone(390, 844)
	hand.MustNavigate(link)
	hand.see("Before light")
	if strings.Contains(hand.MustInfo().URL, "#") {
		t.Errorf("the code stands in the address: %s", hand.MustInfo().URL)
	}
	hand.gone("Book")
	hand.gone("Bench")
	hand.gone("Worth doing")
	hand.until("the pages are kept on the phone", func() bool {
		return hand.MustEval(`() => navigator.serviceWorker.controller !== null`).Bool()
	})
	hand.click("Start the round")
	hand.see("Set 5")
	p.kill()
	hand.twice(`//button[starts-with(normalize-space(.), "Quiet")]`)
	hand.see("not sent yet")
	hand.settled()
	hand.pressAt(`//a[starts-with(normalize-space(.), "Next: set ")]`)
	hand.see("It worked the set")
	hand.click("Caught")
	for _, choice := range []string{"coyote", "female", "right fore", "by the pad"} {
		hand.click(choice)
	}
	hand.twice(`//button[normalize-space(.)="Record the catch"]`)
	hand.see("caught: coyote, female, right fore, by the pad")
	hand.settled()
	p.start()
	hand.gone("not sent yet")

	var about server.Program
	fetch(t, p.address, "/about", &about)
	table.open("/line/" + about.Lines[0].ID + "/round?day=" + about.Now.In(time.FixedZone("", -7*3600)).Format(time.DateOnly))
	table.see("set 5, quiet · by Alva")
	table.open("/line/" + about.Lines[0].ID + "/book/caught")
	table.see("What was caught")
	table.see("by Alva")

	// What is not his he cannot do, whatever he sends.
	status := hand.MustEval(`async (line) => (await fetch('/api/lines/' + line + '/book')).status`, about.Lines[0].ID).Int()
	if status != 403 {
		t.Errorf("a helper reads the book: %d", status)
	}

	table.open("/line/" + about.Lines[0].ID + "/phone")
	table.see("Devices that are let in")
	// His phone has no signal, and something that it could not send.
	hand.signal(false)
	hand.open("/")
	hand.see("as read at")
	hand.click("Start the round")
	hand.see("It worked the set")
	hand.twice(`//button[starts-with(normalize-space(.), "Quiet")]`)
	hand.see("not sent yet")
	table.pressAt(`//li[contains(., "Alva") and contains(., "used")]//button[normalize-space(.)="end"]`)
	table.see("only with a new code")
	table.click("leave it")
	table.pressAt(`//li[contains(., "Alva") and contains(., "used")]//button[normalize-space(.)="end"]`)
	table.click("end it")
	table.until("it is ended", func() bool {
		return !table.MustHasX(`//li[contains(., "Alva") and contains(., "used")]`)
	})
	hand.signal(true)
	hand.see("One answer kept on this device. Sign in to send it.")
	kept := hand.MustEval(`async () => (await indexedDB.databases()).map((d) => d.name).join()`).Str()
	read := hand.MustEval(`() => new Promise((done) => {
		const open = indexedDB.open('old-burrow');
		open.onsuccess = () => { const get = open.result.transaction('read').objectStore('read').count(); get.onsuccess = () => { open.result.close(); done(get.result); }; };
		open.onerror = () => done(-1);
	})`).Int()
	if read != 0 {
		t.Errorf("the phone keeps %d of what it read, in %s", read, kept)
	}
	for _, w := range []*page{owner, table} {
		if wrong := w.MustEval(`() => __errors.join('; ')`).Str(); wrong != "" {
			t.Errorf("errors: %s", wrong)
		}
	}
	owner.open("/")
	owner.see("Before light")

	// With another code he comes in again, and what had waited is sent.
	hand.MustNavigate(table.codeFor("Alva"))
	hand.see("Before light")
	table.open("/line/" + about.Lines[0].ID + "/round?day=" + about.Now.In(time.FixedZone("", -7*3600)).Format(time.DateOnly))
	table.until("both of his looks are there", func() bool { return strings.Count(table.text(), "quiet · by Alva") == 2 })

	// Whoever is removed is let in no more, also after it was taken back, until he has another code.
	table.open("/line/" + about.Lines[0].ID + "/phone")
	table.see("Devices that are let in")
	table.click("remove")
	table.see("Alva is let in no more.")
	table.click("undo")
	table.see("walks the round")
	hand.MustReload()
	hand.see("or the passphrase")
}

// signal gives a phone its signal, or takes it away.
func (w *page) signal(is bool) {
	w.t.Helper()
	w.EnableDomain(&proto.NetworkEnable{}) // else it is not heard
	cut := proto.NetworkEmulateNetworkConditions{Offline: !is, DownloadThroughput: -1, UploadThroughput: -1}
	if err := cut.Call(w); err != nil {
		w.t.Fatal(err)
	}
}

// The program is killed again and again while a phone sends what it kept: everything is there, once, and as what he did who holds the phone.
func TestAPhoneSendsWhileTheProgramIsKilled(t *testing.T) {
	t.Parallel()
	acts, kills := 40, 2
	if long() {
		acts, kills = 200, 10
	}
	p, phone := reached(t)
	file := p.args[2]
	hand := phone(390, 844)
	hand.MustNavigate(p.keptAt("/", 1280, 800).letsIn("Alva"))
	hand.see("Before light")
	var about server.Program
	fetch(t, p.address, "/about", &about)
	var view pages.LineView
	fetch(t, p.address, "/lines/"+about.Lines[0].ID, &view)
	p.kill()
	keepActs(hand, about, view, acts)
	if n := waiting(hand); n != acts {
		t.Fatalf("%d acts wait", n)
	}
	p.start()
	hand.MustReload() // a page that is opened anew finds what is kept
	left := acts
	for n := range kills {
		hand.until("some more are sent", func() bool { return waiting(hand) < left-5 })
		p.kill()
		if left = waiting(hand); left == 0 {
			t.Fatalf("all are sent before kill %d", n+1)
		}
		p.start()
	}
	hand.until("all are sent", func() bool { return waiting(hand) == 0 })
	p.kill()
	people := rows[string](t, file, `SELECT id FROM people`)
	for _, table := range []string{"visits", "signs"} {
		if by := rows[int](t, file, `SELECT count(*) FROM `+table+` WHERE who = ?`, people[0]); by[0] != acts/2 {
			t.Errorf("%s: %d are there under the name of who sent them, want %d", table, by[0], acts/2)
		}
	}
	if again := rows[int](t, file, `SELECT count(*) - count(DISTINCT id) FROM visits`); again[0] != 0 {
		t.Errorf("%d stand twice", again[0])
	}
}

// keepActs has a phone keep looks and signs as if they had been entered there with no signal.
func keepActs(hand *page, about server.Program, view pages.LineView, n int) {
	makes, ids := []string{}, []map[string]string{}
	for _, s := range view.Sets {
		makes = append(makes, s.Make.ID)
	}
	for range n {
		ids = append(ids, map[string]string{"id": ulid.Make().String(), "mutation": ulid.Make().String()})
	}
	hand.MustEval(`(line, file, now, makes, ids) => new Promise((done, fail) => {
		const open = indexedDB.open('old-burrow');
		open.onerror = () => fail(open.error);
		open.onsuccess = () => {
			const change = open.result.transaction('writes', 'readwrite');
			ids.forEach(({ id, mutation }, i) => {
				const look = { id, makeId: makes[i % makes.length], at: now, finding: 'quiet' };
				const sign = { id, seenAt: now, latDeg: 46.8, lonDeg: -105.3, what: 'scat', animal: 'coyote', age: 'week', holds: 'well', version: 0 };
				const [path, body] = i % 2 ? ['visits', look] : ['signs', sign];
				change.objectStore('writes').add({ mutation, file, deviceAt: now, offsetMs: 0, path: '/lines/' + line + '/' + path + '/' + id, body, what: path + ' ' + i,
					set: '', sent: false, stalled: false, why: null, failed: 0, notBefore: 0, refused: null, takenAt: null, count: null, lost: false });
			});
			change.oncomplete = () => { open.result.close(); done(); };
			change.onerror = () => fail(change.error);
		};
	})`, about.Lines[0].ID, about.File, about.Now, makes, ids)
}

// waiting is how many acts a phone keeps that the program has not taken.
func waiting(hand *page) int {
	return hand.MustEval(`() => new Promise((done) => {
		const open = indexedDB.open('old-burrow');
		open.onsuccess = () => {
			const all = open.result.transaction('writes').objectStore('writes').getAll();
			all.onsuccess = () => { open.result.close(); done(all.result.filter((w) => w.takenAt === null).length); };
		};
	})`).Int()
}

// The machine's certificate is made anew while a page is open: the page goes on, over a connection that was there and over one that was not,
// and nobody has to come in again.
func TestTheCertificateIsRenewedUnderAPage(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	file := filepath.Join(folder, "demo.db")
	withDemo(t, []string{"demo", "--data", file})
	s, err := store.Open(file)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	kept, err := door.Keep(passphrase)
	if err != nil {
		t.Fatal(err)
	}
	if err := s.SetPassphrase(kept, ""); err != nil {
		t.Fatal(err)
	}
	plain, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	_, port, _ := net.SplitHostPort(plain.Addr().String())
	names := door.Names{Hosts: []string{house}, Addresses: []net.IP{net.IPv4(127, 0, 0, 1)}}
	now := time.Now().AddDate(0, 0, -61) // so that what was made then runs out in 29 days
	authority, err := door.OpenAuthority(filepath.Join(folder, "door"), names, now)
	if err != nil {
		t.Fatal(err)
	}
	program := &server.Server{Store: s, Clock: server.WallClock{}, Dist: web.Dist(), Door: &server.Door{Authority: authority, Names: func() door.Names { return names }, Port: port}}
	site := &http.Server{Handler: program.Handler()}
	go func() {
		_ = site.Serve(door.OnePort(plain, &tls.Config{GetCertificate: authority.Certificate, NextProtos: []string{"http/1.1"}}))
	}()
	defer site.Close()
	tab := trusting(t, filepath.Join(folder, "door", "root.pem")).MustPage("").Timeout(2 * time.Minute)
	w := &page{Page: tab, t: t, address: house + ":" + port, secret: true}
	w.open("/")
	w.fill("or the passphrase", passphrase)
	w.click("Come in as the owner")
	w.see("Kettle Fork line")
	serial := func() string {
		leaf, err := authority.Certificate(nil)
		if err != nil {
			t.Fatal(err)
		}
		return leaf.Leaf.SerialNumber.String()
	}
	asks := func(when string) {
		t.Helper()
		if status := w.MustEval(`async () => (await fetch('/api/about', { cache: 'no-store' }).catch(() => ({ status: 0 }))).status`).Int(); status != http.StatusOK {
			t.Errorf("%s: %d", when, status)
		}
	}
	first := serial()
	asks("before")
	if err := authority.Renew(names, time.Now()); err != nil {
		t.Fatal(err)
	}
	if serial() == first {
		t.Fatal("nothing was made anew")
	}
	asks("over the connection from before")
	site.SetKeepAlivesEnabled(false)
	asks("the last over that connection")
	site.SetKeepAlivesEnabled(true)
	asks("over a new one")
	w.MustReload()
	w.see("Kettle Fork line")
}

// Beyond its own machine the program listens only with a passphrase, and says how one is chosen.
func TestNoDoorWithoutAPassphrase(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "line.db")
	out, wrong, status := command(t, "", "serve", "--data", file, "--listen", "0.0.0.0:0")
	if status != 2 || !strings.Contains(wrong, "oldburrow passphrase --data "+file) {
		t.Errorf("%d: %s%s", status, out, wrong)
	}
	for _, said := range []string{"short\n", ""} {
		if _, wrong, status := command(t, said, "passphrase", "--data", file); status != 2 || !strings.Contains(wrong, "must be from 8 to 256 characters long") {
			t.Errorf("%q: %d %s", said, status, wrong)
		}
	}
	if out, wrong, status := command(t, passphrase, "passphrase", "--data", file); status != 0 || strings.Contains(out+wrong, passphrase) || strings.TrimSpace(out) == "" {
		t.Errorf("%d: %s%s", status, out, wrong)
	}
	if raw, err := os.ReadFile(file); err != nil || strings.Contains(string(raw), passphrase) {
		t.Errorf("the passphrase stands in the file: %v", err)
	}
}
