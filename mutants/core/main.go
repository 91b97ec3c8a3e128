// Command core asks of the core's tests, file by file, how many of 100 quiet wrong changes they notice, by gremlins, and keeps the
// answers in docs/mutants.tsv: those of files that are not asked stay as they were.
package main

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
)

const (
	kept  = "docs/mutants.tsv"
	floor = 80.0 // of 100

	// boundary is a change of < to <= and the like. Where a number is drawn or measured no test can tell them apart, so they are counted by
	// themselves; one that lives on a whole number or a time is killed, or has its reason in the list.
	boundary = "CONDITIONALS_BOUNDARY"
)

// tally is what became of the changes of a file. What stands in a constant or in the condition of a case is never counted as covered, and
// so not tried.
type tally struct{ killed, lived, uncovered, slow, edgeKilled, edgeLived int }

// survivor is a change that no test noticed: where, which, what stands there, and why it may live, where somebody wrote that.
type survivor struct{ file, change, text, reason string }

func (s survivor) key() string { return strings.Join([]string{s.file, s.change, s.text}, "\t") }

func main() {
	counts, reasons, survivors := read()
	failed := false
	for _, file := range named(os.Args[1:]) {
		found, lived, err := ask(file)
		if err != nil {
			fmt.Fprintf(os.Stderr, "%s: %v\n", file, err)
			failed = true
			continue
		}
		counts[file] = found
		survivors = slices.DeleteFunc(survivors, func(s survivor) bool { return s.file == file })
		for _, s := range lived {
			s.reason = reasons[s.key()]
			survivors = append(survivors, s)
		}
		fmt.Println(row(file, found))
		if err := write(counts, survivors); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(2)
		}
	}
	sum := told(counts)
	if failed || sum.per100() < floor || sum.slow*50 > sum.killed+sum.lived+sum.uncovered {
		os.Exit(1)
	}
}

// told says what each package came to, and which files were not reached, and gives the sum of all.
func told(counts map[string]tally) (sum tally) {
	for _, pkg := range all() {
		of, missing := whole(counts, pkg)
		for _, file := range missing {
			fmt.Println("not reached:", file)
		}
		if of != (tally{}) {
			fmt.Println(row(pkg, of))
		}
		sum = sum.and(of)
	}
	fmt.Println(row("all", sum))
	return sum
}

// whole is what a package came to, by its files; or, while some of them are missing, by a run that asked the package in one.
func whole(counts map[string]tally, pkg string) (of tally, missing []string) {
	for _, file := range files(pkg) {
		c, reached := counts[file]
		if of = of.and(c); !reached {
			missing = append(missing, file)
		}
	}
	if inOne, ok := counts[pkg]; ok && len(missing) > 0 {
		return inOne, nil
	}
	return of, missing
}

// named are the files of the core that compute, of the packages and among the files that are named; all of them where none is. One after
// another: a run that is broken off keeps what it has done.
func named(places []string) []string {
	if len(places) == 0 {
		places = all()
	}
	var found []string
	for _, place := range places {
		place = strings.TrimPrefix(filepath.ToSlash(filepath.Clean(place)), "./")
		if strings.HasSuffix(place, ".go") {
			found = append(found, place)
		} else {
			found = append(found, files(place)...)
		}
	}
	return found
}

// files are those of a package, without its tests.
func files(pkg string) []string {
	found, _ := filepath.Glob(pkg + "/*.go")
	for i := range found {
		found[i] = filepath.ToSlash(found[i])
	}
	return slices.DeleteFunc(found, func(file string) bool { return strings.HasSuffix(file, "_test.go") })
}

// aside are the packages that compute nothing: what tests stand on, and tables alone.
var aside = []string{"core/worked", "core/seeds", "core/schools"}

// all lists the packages of the core that compute.
func all() []string {
	found, _ := filepath.Glob("core/*/*.go")
	var packages []string
	for _, file := range found {
		if pkg := filepath.ToSlash(filepath.Dir(file)); !slices.Contains(aside, pkg) && !slices.Contains(packages, pkg) {
			packages = append(packages, pkg)
		}
	}
	return packages
}

// ask has gremlins change a file, one thing at a time, and run the tests of its package.
func ask(file string) (tally, []survivor, error) {
	out := filepath.Join(os.TempDir(), "mutants.json")
	_ = os.Remove(out) // of a run that was broken off
	defer os.Remove(out)
	pkg := filepath.ToSlash(filepath.Dir(file))
	args := []string{"unleash", "--timeout-coefficient", "6", "--silent", "--output", out}
	for _, other := range files(pkg) {
		if other != file {
			args = append(args, "--exclude-files", "(^|/)"+regexp.QuoteMeta(filepath.Base(other))+"$")
		}
	}
	run := exec.Command("gremlins", append(args, "./"+pkg)...)
	run.Stderr = os.Stderr
	// What is long tells no more of one change, nor does a second test that fails; and how long a change may take is told by a run that is
	// not remembered.
	run.Env = append(os.Environ(), "GOFLAGS=-short -failfast -count=1")
	if err := run.Run(); err != nil {
		return tally{}, nil, err
	}
	raw, err := os.ReadFile(out)
	if errors.Is(err, os.ErrNotExist) {
		return tally{}, nil, nil // there is nothing in it to change
	}
	if err != nil {
		return tally{}, nil, err
	}
	var told struct {
		Files []struct {
			FileName  string `json:"file_name"`
			Mutations []struct {
				Line   int    `json:"line"`
				Type   string `json:"type"`
				Status string `json:"status"`
			} `json:"mutations"`
		} `json:"files"`
	}
	if err := json.Unmarshal(raw, &told); err != nil {
		return tally{}, nil, err
	}
	var c tally
	var lived []survivor
	for _, changed := range told.Files {
		source, err := os.ReadFile(file)
		if err != nil {
			return tally{}, nil, err
		}
		lines := strings.Split(string(source), "\n")
		for _, m := range changed.Mutations {
			c.count(m.Type, m.Status)
			if m.Status == "LIVED" || m.Status == "NOT COVERED" {
				lived = append(lived, survivor{file: file, change: strings.ToLower(m.Type + ", " + m.Status), text: strings.Join(strings.Fields(lines[m.Line-1]), " ")})
			}
		}
	}
	return c, lived, nil
}

func (c tally) and(other tally) tally {
	return tally{c.killed + other.killed, c.lived + other.lived, c.uncovered + other.uncovered, c.slow + other.slow, c.edgeKilled + other.edgeKilled, c.edgeLived + other.edgeLived}
}

func (c *tally) count(change, status string) {
	edge := change == boundary
	switch {
	case status == "TIMED OUT":
		c.slow++
	case status == "KILLED" && edge:
		c.edgeKilled++
	case status == "KILLED":
		c.killed++
	case status == "LIVED" && edge, status == "NOT COVERED" && edge:
		c.edgeLived++
	case status == "LIVED":
		c.lived++
	case status == "NOT COVERED":
		c.uncovered++
	}
}

// per100 is how many of 100 were noticed, those on a boundary and those that took too long left out.
func (c tally) per100() float64 {
	if n := c.killed + c.lived + c.uncovered; n > 0 {
		return 100 * float64(c.killed) / float64(n)
	}
	return 0
}

const head = "where\tkilled\tlived\tnot covered\ttimed out\tof 100\tboundary killed\tboundary lived"

func row(where string, c tally) string {
	return fmt.Sprintf("%s\t%d\t%d\t%d\t%d\t%.0f\t%d\t%d", where, c.killed, c.lived, c.uncovered, c.slow, c.per100(), c.edgeKilled, c.edgeLived)
}

// read gives what was kept before, and the reasons by what lives for them.
func read() (map[string]tally, map[string]string, []survivor) {
	counts, reasons, survivors := map[string]tally{}, map[string]string{}, []survivor{}
	raw, _ := os.ReadFile(kept)
	for line := range strings.Lines(string(raw)) {
		cells := strings.Split(strings.TrimRight(line, "\n"), "\t")
		switch {
		case len(cells) == 8 && cells[0] != "where" && cells[0] != "package":
			var c tally
			var share float64
			if _, err := fmt.Sscan(strings.Join(cells[1:], " "), &c.killed, &c.lived, &c.uncovered, &c.slow, &share, &c.edgeKilled, &c.edgeLived); err == nil {
				counts[cells[0]] = c
			}
		case len(cells) == 4 && cells[0] != "file":
			s := survivor{cells[0], cells[1], cells[2], cells[3]}
			survivors, reasons[s.key()] = append(survivors, s), s.reason
		}
	}
	return counts, reasons, survivors
}

func write(counts map[string]tally, survivors []survivor) error {
	lines := []string{head}
	for _, pkg := range all() {
		places := files(pkg)
		if slices.ContainsFunc(places, func(file string) bool { _, reached := counts[file]; return !reached }) {
			places = append([]string{pkg}, places...)
		}
		for _, place := range places {
			if c, ok := counts[place]; ok {
				lines = append(lines, row(place, c))
			}
		}
	}
	lines = append(lines, "", "file\tchange\tline\twhy it may live")
	slices.SortFunc(survivors, func(a, b survivor) int { return cmp.Compare(a.key(), b.key()) })
	for _, s := range survivors {
		lines = append(lines, s.key()+"\t"+s.reason)
	}
	return os.WriteFile(kept, []byte(strings.Join(lines, "\n")+"\n"), 0o644)
}
