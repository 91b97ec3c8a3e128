// Package e2e drives the program in a browser as a person would: the real binary, a real data file, headless Chromium.
package e2e

import (
	"bufio"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/launcher/flags"
	"github.com/go-rod/rod/lib/proto"
	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"
)

const (
	patience = 30 * time.Second
	stillFor = 50 * time.Millisecond // what has not moved for so long can be touched
)

var binary string

func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "oldburrow")
	if err != nil {
		panic(err)
	}
	binary = filepath.Join(dir, "oldburrow")
	if out, err := exec.Command("go", "build", "-o", binary, "oldburrow/cmd/oldburrow").CombinedOutput(); err != nil {
		panic(fmt.Sprintf("build: %s\n%s", err, out))
	}
	code := m.Run()
	writeWords()
	closeBrowser()
	os.RemoveAll(dir)
	os.Exit(code)
}

// program is a running Old Burrow.
type program struct {
	t       testing.TB
	args    []string
	address string
	cmd     *exec.Cmd
	// limit is how large a file of the program may grow at the most, in blocks of 1 KB; blank is without end.
	limit string
}

// run starts the program; its arguments lack the address. Each has a port of its own, and keeps it while it is dead: two tests
// run at a time.
func run(t *testing.T, args ...string) *program {
	t.Helper()
	return begun(t, args...)
}

// begun is run for whoever is no test alone.
func begun(t testing.TB, args ...string) *program {
	t.Helper()
	p := &program{t: t, args: args, address: freeAddress(t)}
	withDemo(t, args)
	p.start()
	t.Cleanup(p.kill)
	return p
}

// madeDemo is a file with the demo line in it, made once: making it takes longer than most stories.
var madeDemo struct {
	sync.Once
	raw []byte
}

// withDemo puts the demo's file where the program is about to make it, under an identity of its own.
func withDemo(t testing.TB, args []string) {
	t.Helper()
	at := slices.Index(args, "--data")
	if args[0] != "demo" || at < 0 || slices.ContainsFunc(args, func(a string) bool { return a == "--empty" || a == "--large" || a == "--fresh" }) {
		return
	}
	file := args[at+1]
	if _, err := os.Stat(file); err == nil {
		return
	}
	madeDemo.Do(func() { madeDemo.raw = makeDemo(t) })
	if err := os.WriteFile(file, madeDemo.raw, 0o644); err != nil {
		t.Fatal(err)
	}
	db, err := sqlx.Open("sqlite", file)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	db.MustExec(`UPDATE facts SET value = ? WHERE key IN ('id', 'epoch')`, ulid.Make().String())
}

// makeDemo has the program make the demo's file, without asking for the weather, and copies it whole.
func makeDemo(t testing.TB) []byte {
	dir, err := os.MkdirTemp("", "oldburrow-demo")
	if err != nil {
		t.Fatal(err)
	}
	defer os.RemoveAll(dir)
	p := &program{t: t, args: []string{"demo", "--still", "--weather", "", "--data", filepath.Join(dir, "demo.db")}, address: freeAddress(t)}
	p.start()
	p.kill()
	whole := filepath.Join(dir, "whole.db")
	if out, err := exec.Command(binary, "backup", "--data", filepath.Join(dir, "demo.db"), whole).CombinedOutput(); err != nil {
		t.Fatalf("%s: %v", out, err)
	}
	raw, err := os.ReadFile(whole)
	if err != nil || len(raw) < 1<<20 {
		t.Fatalf("the demo's file has %d bytes, %v", len(raw), err)
	}
	return raw
}

var lastPort atomic.Int32

// freeAddress is an address that nobody listens on, below those that the system gives out by itself.
func freeAddress(t testing.TB) string {
	t.Helper()
	lastPort.CompareAndSwap(0, int32(20000+os.Getpid()%5000))
	for range 2000 {
		address := fmt.Sprintf("127.0.0.1:%d", lastPort.Add(1))
		if l, err := net.Listen("tcp", address); err == nil {
			l.Close()
			return address
		}
	}
	t.Fatal("no port is free")
	return ""
}

// demo starts the demo line with a clock that stands.
func demoLine(t *testing.T) *program {
	return run(t, "demo", "--still", "--data", filepath.Join(t.TempDir(), "demo.db"))
}

// start starts the program, after a kill at the same address.
func (p *program) start() {
	p.t.Helper()
	p.cmd = exec.Command(binary, append(p.args, "--listen", p.address)...)
	if p.limit != "" {
		script := fmt.Sprintf(`ulimit -f %s; exec "$0" "$@"`, p.limit)
		p.cmd = exec.Command("bash", append([]string{"-c", script, binary}, append(p.args, "--listen", p.address)...)...)
	}
	p.cmd.Stderr = os.Stderr
	out, err := p.cmd.StdoutPipe()
	if err != nil {
		p.t.Fatal(err)
	}
	if err := p.cmd.Start(); err != nil {
		p.t.Fatal(err)
	}
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		if _, address, ok := strings.Cut(lines.Text(), "http://"); ok {
			p.address = address
			go func() {
				for lines.Scan() {
				}
			}()
			return
		}
	}
	p.t.Fatal("the program did not say where it is open")
}

// kill ends the program as a power cut would.
func (p *program) kill() {
	if p.cmd.ProcessState == nil {
		_ = p.cmd.Process.Signal(syscall.SIGKILL)
		_ = p.cmd.Wait()
	}
}

var browser struct {
	sync.Once
	*rod.Browser
	launcher *launcher.Launcher
}

func theBrowser(t testing.TB) *rod.Browser {
	browser.Do(func() {
		l := launcher.New().Bin("chromium-headless-shell").Leakless(false).Headless(true).NoSandbox(true)
		for _, flag := range []string{"disable-gpu", "disable-quic", "no-first-run", "disable-background-networking", "disable-component-update", "disable-sync", "disable-dev-shm-usage", "hide-scrollbars"} {
			l.Set(flags.Flag(flag))
		}
		l.Set("force-color-profile", "srgb").Set("lang", "en-GB").Set("host-resolver-rules", "MAP * ~NOTFOUND , EXCLUDE 127.0.0.1")
		browser.launcher = l
		browser.Browser = rod.New().ControlURL(l.MustLaunch()).MustConnect()
	})
	if browser.Browser == nil {
		t.Fatal("Chromium did not start")
	}
	return browser.Browser
}

func closeBrowser() {
	if browser.Browser != nil {
		_ = browser.Close()
		browser.launcher.Cleanup()
	}
}

// page is one window with its own storage.
type page struct {
	*rod.Page
	t       testing.TB
	address string
}

// at opens a path of the program in a window of a size.
func (p *program) at(path string, width, height int) *page { return p.atPace(path, width, height, 1) }

// atPace is at with a browser that waits so much less than usual before it tries or reads again.
func (p *program) atPace(path string, width, height, pace int) *page {
	p.t.Helper()
	incognito := theBrowser(p.t).MustIncognito()
	tab := incognito.MustPage("").Timeout(5 * time.Minute)
	p.t.Cleanup(func() { _ = incognito.Close() })
	if pace > 1 {
		tab.MustEvalOnNewDocument(fmt.Sprintf(`try { localStorage.setItem('test-pace', '%d') } catch {}`, pace))
	}
	tab.MustSetViewport(width, height, 1, false)
	// Nothing slides while it is clicked.
	still := proto.EmulationSetEmulatedMedia{Features: []*proto.EmulationMediaFeature{{Name: "prefers-reduced-motion", Value: "reduce"}}}
	if err := still.Call(tab); err != nil {
		p.t.Fatal(err)
	}
	tab.MustEvalOnNewDocument(`window.__errors = []; addEventListener('error', (e) => __errors.push(e.message)); addEventListener('unhandledrejection', (e) => __errors.push(String(e.reason)));`)
	tab.MustEvalOnNewDocument(counting)
	w := &page{Page: tab, t: p.t, address: p.address}

	w.open(path)
	p.t.Cleanup(func() {
		if p.t.Failed() {
			_ = os.WriteFile(filepath.Join(os.TempDir(), "oldburrow-failed-"+strings.ReplaceAll(p.t.Name(), "/", "-")+".png"), tab.MustScreenshot(), 0o644)
		}
	})
	return w
}

func (w *page) open(path string) {
	w.t.Helper()
	w.MustNavigate("http://" + w.address + path).MustWaitLoad()
}

// noErrors fails when a script of the page threw.
func (w *page) noErrors() {
	w.t.Helper()
	if thrown := w.MustEval(`() => JSON.stringify(window.__errors)`).String(); thrown != "[]" {
		w.t.Errorf("the page threw: %s", thrown)
	}
}

// find waits for the element under an XPath.
func (w *page) find(xpath string) *rod.Element {
	w.t.Helper()
	el, err := w.Timeout(patience).ElementX(xpath)
	if err != nil {
		w.t.Fatalf("not on the page: %s\nit says: %.1500s", xpath, w.text())
	}
	return el.CancelTimeout()
}

func (w *page) text() string { return w.MustEval(`() => document.body.innerText`).String() }

// see waits until the page says a text, and holds all that it says then to the rules.
func (w *page) see(text string) {
	w.t.Helper()
	for end := time.Now().Add(patience); time.Now().Before(end); {
		said, err := w.Timeout(patience).Eval(`(text) => (`+saying+`)(text).then((says) => says && (`+texts+`)())`, fold(text))
		switch {
		case err != nil: // the page is on its way to another
			time.Sleep(60 * time.Millisecond)
		case said.Value.Str() != "":
			w.hold(said.Value.Str())
			return
		}
	}
	w.t.Fatalf("waited in vain until the page says %s\nit says: %.2500s", text, w.text())
}

// saying waits, for some seconds, until the page says a text, and looks again as soon as something on it has changed.
const saying = `(text) => new Promise((done) => {
	const until = performance.now() + 5000;
	let [changed, last] = [true, 0];
	const watch = new MutationObserver(() => { changed = true; });
	watch.observe(document, { subtree: true, childList: true, characterData: true, attributes: true });
	const end = (says) => { watch.disconnect(); done(says); };
	const look = () => {
		if (changed || performance.now() > last + 500) {
			[changed, last] = [false, performance.now()];
			// A frame later what was drawn also listens.
			if (document.body.innerText.split(/\s+/).join(' ').includes(text)) return requestAnimationFrame(() => setTimeout(() => end(true)));
		}
		if (performance.now() > until) return end(false);
		setTimeout(look, 20);
	};
	look();
})`

// gone waits until the page does not say a text.
func (w *page) gone(text string) {
	w.t.Helper()
	w.until("the page no longer says "+text, func() bool { return !strings.Contains(fold(w.text()), fold(text)) })
}

func fold(s string) string { return strings.Join(strings.Fields(s), " ") }

func (w *page) until(what string, done func() bool) {
	w.t.Helper()
	for end := time.Now().Add(patience); ; time.Sleep(60 * time.Millisecond) {
		if done() {
			return
		}
		if time.Now().After(end) {
			w.t.Fatalf("waited in vain until %s\nit says: %.2500s", what, w.text())
		}
	}
}

// click presses the button or link that reads so.
func (w *page) click(name string) {
	w.t.Helper()
	w.pressAt(fmt.Sprintf(`(//button | //a)[starts-with(normalize-space(.), %q) and not(@disabled)]`, name))
}

// hook takes a trap of the rack, or a bottle of the shelf, in the hand.
func (w *page) hook(name string) {
	w.t.Helper()
	w.pressAt(fmt.Sprintf(partNamed, name))
}

// pressAt clicks the element under an XPath, also when it is drawn anew meanwhile.
func (w *page) pressAt(xpath string) {
	w.t.Helper()
	w.clickOn(xpath, func() (*proto.RuntimeRemoteObject, error) {
		return w.Timeout(patience).Eval(`(xpath) => (`+atRest+`)(() => document.evaluate(xpath, document, null, XPathResult.FIRST_ORDERED_NODE_TYPE, null).singleNodeValue)`, xpath)
	})
}

// press clicks an element.
func (w *page) press(el *rod.Element) {
	w.t.Helper()
	w.clickOn("it", func() (*proto.RuntimeRemoteObject, error) {
		return el.Timeout(patience).Eval(`() => (` + atRest + `)(() => this)`)
	})
}

// atRest waits, for some seconds, until what is sought stands where it stood for two frames, and tells where it can be clicked, at its
// middle or near it, and whether there was anything. It notes whether the next click falls on it: under load a page can still grow between
// looking and pressing.
const atRest = `(seek) => new Promise((done) => {
	const until = performance.now() + 3000;
	let [before, stood] = ['', 0];
	const look = () => {
		const el = seek();
		const boxes = el?.isConnected ? [...el.getClientRects()].filter((b) => b.width > 0 && b.height > 0) : [];
		if (boxes.length > 0) {
			const now = JSON.stringify(boxes);
			stood = now === before ? stood + 1 : 0;
			before = now;
			if (stood >= 2) {
				for (const b of boxes)
					for (const [right, down] of [[.5, .5], [.25, .5], [.75, .5], [.5, .25], [.5, .75]]) {
						const [x, y] = [b.x + right * b.width, b.y + down * b.height];
						if (!el.contains(document.elementFromPoint(x, y))) continue;
						window.__missed = true;
						// It may have been drawn anew since.
						addEventListener('click', (e) => { if (el.contains(e.target) || seek()?.contains(e.target)) window.__missed = false; }, { capture: true, once: true });
						return done({ x, y, there: true });
					}
				// What a form ends with stands over it, or it is out of sight.
				el.scrollIntoView({ block: 'center', behavior: 'instant' });
			}
		}
		if (performance.now() > until) return done({ x: 0, y: 0, there: Boolean(el) });
		requestAnimationFrame(look);
	};
	look();
})`

// clickOn clicks where something stands, until a click fell on it.
func (w *page) clickOn(what string, stands func() (*proto.RuntimeRemoteObject, error)) {
	w.t.Helper()
	why := "it was never still"
	for end := time.Now().Add(patience); time.Now().Before(end); {
		at, err := stands()
		if err != nil { // the page is on its way to another
			why = err.Error()
			time.Sleep(60 * time.Millisecond)
			continue
		}
		if found := at.Value; !found.Get("there").Bool() {
			why = "it is not on the page"
		} else if x, y := found.Get("x").Num(), found.Get("y").Num(); x != 0 || y != 0 {
			if w.Mouse.MustMoveTo(x, y).Click(proto.InputMouseButtonLeft, 1) == nil && w.MustEval(`() => window.__missed !== true`).Bool() {
				return
			}
			why = "the click fell beside it"
		}
	}
	w.t.Fatalf("click %s: %s\nit says: %.1500s", what, why, w.text())
}

// tapTwice presses the same place twice in quick succession, as cold fingers do.
func (w *page) tapTwice(el *rod.Element) {
	w.t.Helper()
	box := el.MustScrollIntoView().MustShape().Box()
	w.Mouse.MustMoveTo(box.X+box.Width/2, box.Y+box.Height/2)
	w.Mouse.MustClick(proto.InputMouseButtonLeft)
	w.Mouse.MustClick(proto.InputMouseButtonLeft)
}

// field finds the input under a label.
func (w *page) field(label string) *rod.Element {
	w.t.Helper()
	return w.find(fmt.Sprintf(`//*[(self::input or self::select) and (@id = //label[starts-with(normalize-space(.), %q)]/@for or @aria-label = %q)]`, label, label))
}

// fill writes into the field under a label and leaves it.
func (w *page) fill(label, value string) {
	w.t.Helper()
	el := w.field(label)
	el.MustEval(`() => new Promise((done) => {
		const ready = () => {
			if (this.disabled || this.readOnly) return requestAnimationFrame(ready);
			this.focus();
			this.select?.();
			done();
		};
		ready();
	})`)
	w.MustInsertText(value)
	el.MustBlur()
}

// choose picks an option of a select by what it reads.
func (w *page) choose(label, option string) {
	w.t.Helper()
	w.field(label).MustSelect(option)
}

// wrong waits for the objection under a field.
func (w *page) wrong(label, says string) {
	w.t.Helper()
	el := w.field(label)
	w.until(label+" is objected to: "+says, func() bool {
		id := el.MustAttribute("aria-describedby")
		if id == nil {
			return false
		}
		has, objection, err := w.Has(`[id="` + *id + `"]`)
		return err == nil && has && strings.Contains(fold(objection.MustText()), says)
	})
}

// key presses a key on the element that has the focus.
func (w *page) key(k input.Key, times int) {
	for range times {
		w.Keyboard.MustType(k)
	}
}

// partNamed is where the part of a drawing stands whose name begins so.
const partNamed = `//*[local-name()='g' and starts-with(@aria-label, %q)]`

// part finds a part of the bench's drawing by how its name begins.
func (w *page) part(name string) *rod.Element {
	w.t.Helper()
	return w.find(fmt.Sprintf(partNamed, name))
}

func (w *page) label(el *rod.Element) string {
	name := el.MustAttribute("aria-label")
	if name == nil {
		return ""
	}
	return *name
}
