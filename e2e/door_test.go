package e2e

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/launcher/flags"

	"oldburrow/server"
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
	home := t.TempDir()
	trust := "sql:" + filepath.Join(home, ".pki", "nssdb")
	if err := os.MkdirAll(strings.TrimPrefix(trust, "sql:"), 0o700); err != nil {
		t.Fatal(err)
	}
	for _, args := range [][]string{{"-N", "--empty-password"}, {"-A", "-n", "kettle", "-t", "C,,", "-i", filepath.Join(filepath.Dir(file), "demo-door", "root.pem")}} {
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

	table := p.at("/", 1280, 800)
	table.click("on the phone")
	table.see("Nobody but you.")
	table.fill("name", "Alva")
	table.click("Add")
	table.see("walks the round")
	table.choose("for", "Alva")
	table.choose("at", strings.Replace(p.address, "127.0.0.1", house, 1))
	table.click("Make a code")
	table.see("Scan it with the phone")
	link := table.MustElement(".scan").MustEval(`() => this.getAttribute('aria-label').split(': ')[1]`).Str()

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
	p.start()
	hand.gone("not sent yet")

	var about server.Program
	fetch(t, p.address, "/about", &about)
	table.open("/line/" + about.Lines[0].ID + "/round?day=" + about.Now.In(time.FixedZone("", -7*3600)).Format(time.DateOnly))
	table.see("set 5, quiet · by Alva")

	// What is not his he cannot do, whatever he sends.
	status := hand.MustEval(`async (line) => (await fetch('/api/lines/' + line + '/book')).status`, about.Lines[0].ID).Int()
	if status != 403 {
		t.Errorf("a helper reads the book: %d", status)
	}

	table.open("/line/" + about.Lines[0].ID + "/phone")
	table.see("Devices that are let in")
	table.MustElementX(`//li[contains(., "Alva") and contains(., "used")]//button[normalize-space(.)="end"]`).MustClick()
	table.until("it is ended", func() bool {
		return !table.MustHasX(`//li[contains(., "Alva") and contains(., "used")]`)
	})
	hand.MustReload()
	hand.see("or the passphrase")
	kept := hand.MustEval(`async () => (await indexedDB.databases()).map((d) => d.name).join()`).Str()
	read := hand.MustEval(`() => new Promise((done) => {
		const open = indexedDB.open('old-burrow');
		open.onsuccess = () => { const get = open.result.transaction('read').objectStore('read').count(); get.onsuccess = () => done(get.result); };
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
