package e2e

import (
	"encoding/json"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"oldburrow/server"
)

// command runs the program to its end.
func command(t *testing.T, stdin string, args ...string) (stdout, stderr string, status int) {
	t.Helper()
	cmd := exec.Command(binary, args...)
	var out, wrong strings.Builder
	cmd.Stdin, cmd.Stdout, cmd.Stderr = strings.NewReader(stdin), &out, &wrong
	if err := cmd.Run(); err != nil && cmd.ProcessState == nil {
		t.Fatal(err)
	}
	return out.String(), wrong.String(), cmd.ProcessState.ExitCode()
}

func TestCalcOnTheCommandLine(t *testing.T) {
	t.Parallel()
	out, _, status := command(t, `{"catches":3,"trapNights":120}`, "calc", "rate")
	var rate struct{ Per100 float64 }
	if err := json.Unmarshal([]byte(out), &rate); err != nil || status != 0 || rate.Per100 != 2.5 {
		t.Errorf("%s, status %d, %v", out, status, err)
	}
	for _, c := range []struct{ in, name, says string }{
		{`{"catches":-1,"trapNights":120}`, "rate", "catches"},
		{`nonsense`, "rate", "one JSON object"},
		{`{}`, "fly", "footfall"},
	} {
		out, wrong, status := command(t, c.in, "calc", c.name)
		if status != 2 || out != "" || strings.Count(wrong, "\n") != 1 || !strings.Contains(wrong, c.says) {
			t.Errorf("calc %s of %s: status %d, %q, %q", c.name, c.in, status, out, wrong)
		}
	}
}

func TestSchemaIsPrinted(t *testing.T) {
	t.Parallel()
	out, _, status := command(t, "", "schema")
	var schema struct {
		Defs map[string]any `json:"$defs"`
	}
	if err := json.Unmarshal([]byte(out), &schema); err != nil || status != 0 || schema.Defs["Make"] == nil {
		t.Errorf("status %d, %v, %d definitions", status, err, len(schema.Defs))
	}
}

func TestWrongCommandsAreRefused(t *testing.T) {
	t.Parallel()
	for _, args := range [][]string{
		{"serve"}, {"calc"}, {"fly"},
		{"serve", "--data", filepath.Join(t.TempDir(), "no", "such", "folder", "x.db")},
		{"serve", "--data", filepath.Join(t.TempDir(), "x.db"), "--listen", "nowhere"},
	} {
		if _, wrong, status := command(t, "", args...); status != 2 || strings.Count(wrong, "\n") != 1 {
			t.Errorf("%v: status %d, %q", args, status, wrong)
		}
	}
}

// It says what it is, and what it will not open, in one line.
func TestWhatItSaysOfItself(t *testing.T) {
	t.Parallel()
	if out, _, status := command(t, "", "--version"); status != 0 || !strings.Contains(out, "commit ") || !strings.Contains(out, "computation ") {
		t.Errorf("--version: %d %q", status, out)
	}
	notes := filepath.Join(t.TempDir(), "notes.txt")
	if err := os.WriteFile(notes, []byte(strings.Repeat("no data file\n", 500)), 0o644); err != nil {
		t.Fatal(err)
	}
	for data, says := range map[string]string{"": "is no file", ":memory:": "is no file", notes: "is no data file of this program"} {
		if _, wrong, status := command(t, "", "serve", "--data", data); status != 2 || !strings.Contains(wrong, says) || strings.Count(wrong, "\n") != 1 {
			t.Errorf("serve --data %q: %d %q", data, status, wrong)
		}
	}
}

// Told to stop while a body is still on its way, it stops all the same, and says so.
func TestStoppedWithABodyOpen(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	conn, err := net.Dial("tcp", p.address)
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close()
	fmt.Fprintf(conn, "PUT /api/lines/x HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: 100\r\n\r\n{")
	var about server.Program
	fetch(t, p.address, "/about", &about) // it has read the other's head by then
	if err := p.cmd.Process.Signal(syscall.SIGTERM); err != nil {
		t.Fatal(err)
	}
	if err := p.cmd.Wait(); err != nil {
		t.Errorf("it ends with %v", err)
	}
}

func TestFreshSetsTheOldDemoAside(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	data := filepath.Join(folder, "demo.db")
	first := run(t, "demo", "--data", data)
	first.kill()
	again := run(t, "demo", "--fresh", "--data", data)
	again.kill()
	kept, err := filepath.Glob(data + ".*.old")
	if err != nil || len(kept) != 1 {
		t.Errorf("kept aside: %v, %v", kept, err)
	}
}

// A demo started again goes on from where its clock was.
func TestDemoClockGoesOn(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 1280, 800)
	w.click("move on a night")
	w.see("Saturday 5 December, 05:50")
	w.see("24 sets to see by midnight, 24 of them late.")
	p.kill()
	p.start()
	w.open("/")
	w.see("Saturday 5 December, 05:50")
}

func TestServeHasNoDemo(t *testing.T) {
	t.Parallel()
	p := run(t, "serve", "--data", filepath.Join(t.TempDir(), "own.db"))
	w := p.at("/", 1280, 800)
	w.see("This data file is empty")
	w.fill("its name", "My line")
	w.fill("clock", "UTC")
	w.click("Begin the line")
	w.see("Paste its coordinates")
	w.fill("where it lies", "46° 48' N, 105° 18' W")
	w.see("46.8000° N, 105.3000° W")
	w.click("Begin the line")
	w.see("A new spot")
	w.gone("move on a night")
}
