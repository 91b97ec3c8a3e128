package e2e

import (
	"errors"
	"fmt"
	"io/fs"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

// demoFile is a data file with the demo line in it, that no program has open.
func demoFile(t *testing.T) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "demo.db")
	run(t, "demo", "--still", "--data", file).kill()
	return file
}

// does runs a command that is to succeed, and gives what it says.
func does(t *testing.T, args ...string) string {
	t.Helper()
	out, wrong, status := command(t, "", args...)
	if status != 0 || wrong != "" {
		t.Fatalf("%v: status %d, %s", args, status, wrong)
	}
	return out
}

// To another computer: all is saved to one file there, a new data file is begun here, and the saved one is opened in it: the same book.
func TestMovingToAnotherComputer(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 1280, 800)
	w.click("Book")
	w.click("what was caught")
	w.see("3.7 in 100 trap-nights")
	book := w.find(`//*[@aria-label="rates with their intervals"]`).MustText() + w.find(`//section[1]/ul`).MustText()
	w.click("how it goes")
	w.click("copies, and moving")
	w.see("No copies are kept of the demo")
	came := w.Browser().MustWaitDownload()
	w.click("Save all to one file")
	saved := filepath.Join(t.TempDir(), "all.zip")
	if err := os.WriteFile(saved, came(), 0o600); err != nil {
		t.Fatal(err)
	}
	w.see("saved as old-burrow-2026-12-04.zip")
	// Here it holds nothing that is not there.
	w.find(`//input[@id="saved"]`).MustSetFiles(saved)
	w.see("Everything in it is here already. Nothing was changed.")

	other := run(t, "demo", "--empty", "--still", "--data", filepath.Join(t.TempDir(), "new.db"))
	v := other.at("/", 1280, 800)
	v.see("This data file is empty")
	half := filepath.Join(t.TempDir(), "half.zip")
	whole, err := os.ReadFile(saved)
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(half, whole[:len(whole)/2], 0o600); err != nil {
		t.Fatal(err)
	}
	v.find(`//input[@id="saved"]`).MustSetFiles(half)
	v.see("The file is no archive of this program, or was cut off")
	v.find(`//input[@id="saved"]`).MustSetFiles(saved)
	v.see("looks, 55 traps and nine lures")
	v.click("leave it")
	v.see("This data file is empty")
	v.find(`//input[@id="saved"]`).MustSetFiles(saved)
	v.click("Take it in")
	v.see("24 sets to see by midnight")
	v.click("Book")
	v.click("what was caught")
	v.see("3.7 in 100 trap-nights")
	if same := v.find(`//*[@aria-label="rates with their intervals"]`).MustText() + v.find(`//section[1]/ul`).MustText(); same != book {
		t.Errorf("the book was\n%s\nand is\n%s", book, same)
	}
	// For others: what it lacks is said, and nothing of it stands there.
	came = w.Browser().MustWaitDownload()
	w.click("save it for others")
	theirs := filepath.Join(t.TempDir(), "others.zip")
	if err := os.WriteFile(theirs, came(), 0o600); err != nil {
		t.Fatal(err)
	}
	w.see("saved as old-burrow-for-others")
	third := run(t, "demo", "--empty", "--still", "--data", filepath.Join(t.TempDir(), "theirs.db"))
	u := third.at("/", 1280, 800)
	u.find(`//input[@id="saved"]`).MustSetFiles(theirs)
	u.see("It was saved for others, without places, names, permission and notes.")
	u.click("Take it in")
	u.see("Line 1")
	u.click("Ground")
	u.see("Spot 1")
	u.gone("Ditch mouth")
	for _, one := range []*page{w, v, u} {
		one.noErrors()
	}
}

// A copy is put in the file's place. What a phone did since, and what it could not send meanwhile, is offered there and lost nowhere.
func TestWhatAPhoneHoldsForTheFileBefore(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "demo.db")
	p := run(t, "demo", "--still", "--data", file)
	hand := p.inHand(8)
	backup := filepath.Join(t.TempDir(), "copy.db")
	does(t, "backup", "--data", file, backup) // while it runs
	hand.click("Quiet")
	hand.see("quiet, 05:50 · recorded")
	hand.settled()
	if _, wrong, status := command(t, "", "restore", "--data", file, backup); status != 2 || !strings.Contains(wrong, "stop the program first") {
		t.Fatalf("while it runs: %d, %s", status, wrong)
	}
	p.kill()
	hand.click("Next: set")
	hand.see("Set 1")
	hand.click("Quiet")
	hand.see("kept on this device, not sent yet")
	if said := does(t, "restore", "--data", file, backup); !strings.Contains(said, "is kept as") {
		t.Error(said)
	}
	p.start()
	hand.click("the whole round")
	hand.see("This file is older than what was sent from here. One act since")
	hand.see("one kept here for another data file, or for this one before it was restored")
	hand.click("send it again")
	hand.gone("This file is older")
	hand.click("send it here")
	hand.gone("for another data file")
	hand.until("both are in the file", func() bool { return len(looksSince(t, file, 5)) == 1 && len(looksSince(t, file, 1)) == 1 })
	hand.noErrors()
}

// Whatever cannot be done is refused with status 2 and one line, and changes nothing.
func TestCopiesAreRefused(t *testing.T) {
	t.Parallel()
	file := demoFile(t)
	dir := t.TempDir()
	in := func(name string) string { return filepath.Join(dir, name) }
	note := in("note.txt")
	if err := os.WriteFile(note, []byte(strings.Repeat("no file of ours\n", 400)), 0o600); err != nil {
		t.Fatal(err)
	}
	does(t, "export", "--data", file, in("all.zip"))
	does(t, "export", "--data", file, "--without", "names", in("others.zip"))
	does(t, "import", "--data", in("own.db"), in("all.zip"))
	if said := does(t, "import", "--data", in("own.db"), in("all.zip")); !strings.Contains(said, "nothing was changed") {
		t.Error(said)
	}
	if said := does(t, "import", "--data", in("tried.db"), "--dry-run", in("all.zip")); !strings.Contains(said, fmt.Sprintf("visits: %d new, 0 same", len(rows[string](t, file, `SELECT id FROM visits`)))) || !strings.Contains(said, "nothing was changed") {
		t.Error(said)
	}
	before := holding(t, file)
	for says, args := range map[string][]string{
		"is there already":            {"export", "--data", file, in("all.zip")},
		"is not there, or is empty":   {"export", "--data", in("none.db"), in("x.zip")},
		`"everything" is not known`:   {"export", "--data", file, "--without", "everything", in("x.zip")},
		"is not in the file":          {"export", "--data", file, "--line", "01BRYZ9CC02EH874XJ7HAR084K", in("x.zip")},
		"name an archive":             {"import", "--data", in("x.db"), in("none.zip")},
		"is no archive":               {"import", "--data", in("x.db"), note},
		"is opened in a new file":     {"import", "--data", in("own.db"), in("others.zip")},
		"is no data file":             {"import", "--data", note, in("all.zip")},
		"must be at least 1":          {"serve", "--data", in("x.db"), "--keep", "0"},
		"is no data file of this":     {"restore", "--data", in("x.db"), note},
		"required flag":               {"backup", in("x.db")},
		"accepts 1 arg":               {"backup", "--data", file},
		"lies in a folder that is no": {"backup", "--data", file, in("no/x.db")},
	} {
		if _, wrong, status := command(t, "", args...); status != 2 || !strings.Contains(wrong, says) || strings.Count(wrong, "\n") != 1 {
			t.Errorf("%v: status %d, %q, want %s", args, status, wrong, says)
		}
	}
	for _, name := range []string{"x.zip", "x.db", "tried.db", "x.zip.part", "tried.db.part"} {
		if _, err := os.Stat(in(name)); !errors.Is(err, fs.ErrNotExist) {
			t.Errorf("%s was made", name)
		}
	}
	if holding(t, file) != before {
		t.Error("the file was changed")
	}
}

// holding is how much stands in a data file, and whether it is sound.
func holding(t *testing.T, file string) string {
	t.Helper()
	counts := rows[struct {
		Visits, Makes, Catches, Hours, Photos int
	}](t, file, `SELECT (SELECT count(*) FROM visits) AS visits, (SELECT count(*) FROM makes) AS makes, (SELECT count(*) FROM catches) AS catches,
		(SELECT count(*) FROM weather_hours WHERE NOT forecast) AS hours, (SELECT count(*) FROM photos) AS photos`)
	return fmt.Sprint(counts, rows[string](t, file, `PRAGMA integrity_check`))
}

// The program is killed in the middle of a copy, of putting one back, of saving and of opening an archive: the old state stands, whole and
// readable, and nothing that is not whole has a whole one's name.
func TestKilledWhileCopying(t *testing.T) {
	t.Parallel()
	kills := 3
	if long() {
		kills = 20
	}
	file := demoFile(t)
	dir := t.TempDir()
	in := func(name string) string { return filepath.Join(dir, name) }
	does(t, "backup", "--data", file, in("copy.db"))
	does(t, "export", "--data", file, in("all.zip"))
	before := holding(t, file)
	rng := rand.New(rand.NewPCG(26, 3))
	for what, args := range map[string][]string{
		"backup":  {"backup", "--data", file, in("out.db")},
		"restore": {"restore", "--data", file, in("copy.db")},
		"export":  {"export", "--data", file, in("out.zip")},
		"import":  {"import", "--data", in("new.db"), in("all.zip")},
	} {
		cut := 0
		for i := range kills {
			cmd := exec.Command(binary, args...)
			if err := cmd.Start(); err != nil {
				t.Fatal(err)
			}
			most := map[string]int{"backup": 150, "restore": 200, "export": 250, "import": 1500}[what]
			time.Sleep(time.Duration(20+rng.IntN(most)) * time.Millisecond)
			_ = cmd.Process.Kill()
			if cmd.Wait() != nil {
				cut++
			}
			if is := holding(t, file); is != before {
				t.Errorf("%s, kill %d: %s, before %s", what, i, is, before)
			}
			for _, made := range []string{"out.db", "new.db"} {
				if _, err := os.Stat(in(made)); err == nil {
					if is := holding(t, in(made)); is != before {
						t.Errorf("%s, kill %d: %s holds %s", what, i, made, is)
					}
				}
			}
			if _, err := os.Stat(in("out.zip")); err == nil {
				does(t, "import", "--dry-run", "--data", in("whole.db"), in("out.zip"))
			}
			for _, made := range []string{"out.db", "new.db", "out.zip"} {
				_ = os.Remove(in(made))
			}
		}
		t.Logf("%s: %d of %d were cut off", what, cut, kills)
	}
	// Each goes on from there.
	does(t, "restore", "--data", file, in("copy.db"))
	does(t, "import", "--data", in("new.db"), in("all.zip"))
	if is := holding(t, in("new.db")); is != before {
		t.Errorf("at last %s, want %s", is, before)
	}
	p := run(t, "serve", "--data", file)
	w := p.at("/", 1280, 800)
	w.see("Worth doing")
}

// On a disk that is full, which is a limit to the size of files here, everything is refused in one line and stands as it stood.
func TestCopiesOnAFullDisk(t *testing.T) {
	t.Parallel()
	file := demoFile(t)
	dir := t.TempDir()
	in := func(name string) string { return filepath.Join(dir, name) }
	does(t, "backup", "--data", file, in("copy.db"))
	does(t, "export", "--data", file, in("all.zip"))
	before := holding(t, file)
	for what, args := range map[string][]string{
		"200": {"backup", "--data", file, in("out.db")}, "300": {"restore", "--data", file, in("copy.db")},
		"20": {"export", "--data", file, in("out.zip")}, "500": {"import", "--data", in("new.db"), in("all.zip")},
	} {
		cmd := exec.Command("bash", append([]string{"-c", fmt.Sprintf(`ulimit -f %s; exec "$0" "$@"`, what), binary}, args...)...)
		var wrong strings.Builder
		cmd.Stderr = &wrong
		err := cmd.Run()
		if status := cmd.ProcessState.ExitCode(); status != 2 || strings.Count(wrong.String(), "\n") != 1 || !strings.Contains(wrong.String(), "disk") {
			t.Errorf("%s: status %d, %v, %q", args[0], status, err, wrong.String())
		}
	}
	if is := holding(t, file); is != before {
		t.Errorf("%s, before %s", is, before)
	}
	left, err := filepath.Glob(in("*"))
	if err != nil || len(left) != 2 {
		t.Errorf("left: %v, %v", left, err)
	}
	if beside, _ := filepath.Glob(filepath.Join(filepath.Dir(file), "*")); len(beside) > 3 {
		t.Errorf("beside the file: %v", beside)
	}
}
