// Package e2e drives the program in a browser as a person would: the real binary, a real data file, headless Chromium.
package e2e

import (
	"bufio"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"runtime/debug"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/launcher/flags"
	"github.com/go-rod/rod/lib/proto"
	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"
)

const (
	patience = time.Minute
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

// madeDemo is a file with the demo line in it, without the weather and with it, made once: making it takes longer than most stories.
var madeDemo [2]struct {
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
	one := &madeDemo[0]
	if !slices.Contains(args, "--weather") {
		one = &madeDemo[1]
	}
	one.Do(func() { one.raw = makeDemo(t, one == &madeDemo[1]) })
	if err := os.WriteFile(file, one.raw, 0o644); err != nil {
		t.Fatal(err)
	}
	db, err := sqlx.Open("sqlite", file)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	db.MustExec(`UPDATE facts SET value = ? WHERE key IN ('id', 'epoch')`, ulid.Make().String())
}

// makeDemo has the program make the demo's file, with the weather where it is asked for and what was promised under it, and copies it whole.
func makeDemo(t testing.TB, weather bool) []byte {
	dir, err := os.MkdirTemp("", "oldburrow-demo")
	if err != nil {
		t.Fatal(err)
	}
	defer os.RemoveAll(dir)
	file := filepath.Join(dir, "demo.db")
	p := &program{t: t, args: []string{"demo", "--still", "--data", file}, address: freeAddress(t)}
	if !weather {
		p.args = append(p.args, "--weather", "")
	}
	p.start()
	for until := time.Now().Add(time.Minute); weather && !isPromised(t, file); time.Sleep(50 * time.Millisecond) {
		if time.Now().After(until) {
			t.Fatal("the demo's promises were not made out under its weather")
		}
	}
	p.kill()
	whole := filepath.Join(dir, "whole.db")
	if out, err := exec.Command(binary, "backup", "--data", file, whole).CombinedOutput(); err != nil {
		t.Fatalf("%s: %v", out, err)
	}
	raw, err := os.ReadFile(whole)
	if err != nil || len(raw) < 1<<20 {
		t.Fatalf("the demo's file has %d bytes, %v", len(raw), err)
	}
	return raw
}

// isPromised tells whether a file holds weather, and all that was promised under it.
func isPromised(t testing.TB, file string) bool {
	db, err := sqlx.Open("sqlite", file+"?_pragma=busy_timeout(5000)")
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	var is bool
	if err := db.Get(&is, `SELECT EXISTS (SELECT 1 FROM weather_hours WHERE NOT forecast) AND NOT EXISTS (SELECT 1 FROM promising WHERE marked < since OR since < '2026-12-04')`); err != nil {
		t.Fatal(err)
	}
	return is
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
	secret  bool // whether it is reached over TLS
	hasty   bool // whether it waits only a moment for what is to come
}

// patience is how long a page is given to say or to do something.
func (w *page) patience() time.Duration {
	if w.hasty {
		return 300 * time.Millisecond
	}
	return patience
}

// at opens a path of the program in a window of a size. Its browser keeps no pages for when the program is out of reach: making such a
// store ready takes half as long again as opening the page, and most stories never need it.
func (p *program) at(path string, width, height int) *page {
	p.t.Helper()
	return p.opened(path, width, height, `delete Navigator.prototype.serviceWorker`)
}

// keptAt is at with a browser that keeps the pages, as browsers do.
func (p *program) keptAt(path string, width, height int) *page {
	return p.opened(path, width, height, "")
}

// atPace is keptAt with a browser that waits so much less than usual before it tries or reads again.
func (p *program) atPace(path string, width, height, pace int) *page {
	p.t.Helper()
	return p.opened(path, width, height, fmt.Sprintf(`try { localStorage.setItem('test-pace', '%d') } catch {}`, pace))
}

// opened opens a path in a window of its own, with a script that runs before the page's.
func (p *program) opened(path string, width, height int, first string) *page {
	p.t.Helper()
	// What the browser cannot do fails this story: a panic would end all of them, and those that had not begun would never be told.
	fails := func(err any) { p.t.Fatalf("%v\n%s", err, debug.Stack()) }
	incognito := theBrowser(p.t).MustIncognito().WithPanic(fails)
	tab := incognito.MustPage("").Timeout(5 * time.Minute)
	p.t.Cleanup(func() { _ = incognito.Close() })
	if first != "" {
		tab.MustEvalOnNewDocument(first)
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
	scheme := "http://"
	if w.secret {
		scheme = "https://"
	}
	w.MustNavigate(scheme + w.address + path).MustWaitLoad()
}
