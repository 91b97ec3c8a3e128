// Command mutants applies quiet wrong changes, a row each in rows.tsv, and runs the tests that must notice them: file, what stands there,
// what it becomes, and the arguments of the go test that must fail. A row whose text is not found, or found twice, is not run, and counts as
// one that lived: who moves the text moves the row.
package main

import (
	"bufio"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"
)

type row struct{ file, was, becomes, test string }

func main() {
	rows, err := read("mutants/rows.tsv")
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(2)
	}
	wanted := os.Args[1:]
	lived, ran := 0, 0
	for i, r := range rows {
		if len(wanted) > 0 && !strings.HasPrefix(r.file, wanted[0]) {
			continue
		}
		ran++
		begun := time.Now()
		came := r.apply()
		if came != "killed" {
			lived++
		}
		fmt.Printf("%d\t%s\t%s\t%s\t%s\n", i+1, came, r.file, short(r.was), time.Since(begun).Round(time.Second))
	}
	fmt.Printf("%d of %d killed\n", ran-lived, ran)
	if ran == 0 || lived*5 > ran {
		os.Exit(1) // fewer than 80 of 100
	}
}

func read(name string) ([]row, error) {
	f, err := os.Open(name)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	var rows []row
	for lines := bufio.NewScanner(f); lines.Scan(); {
		if text := lines.Text(); text != "" && !strings.HasPrefix(text, "#") {
			cells := strings.Split(text, "\t")
			if len(cells) != 4 {
				return nil, fmt.Errorf("%d cells: %s", len(cells), text)
			}
			rows = append(rows, row{cells[0], unfold(cells[1]), unfold(cells[2]), cells[3]})
		}
	}
	return rows, nil
}

// unfold reads a line break, a tab and a backslash as they are written in a cell.
func unfold(cell string) string {
	return strings.NewReplacer(`\\`, `\`, `\n`, "\n", `\t`, "\t").Replace(cell)
}

func (r row) apply() string {
	raw, err := os.ReadFile(r.file)
	if err != nil || strings.Count(string(raw), r.was) != 1 {
		return "not run"
	}
	changed := strings.Replace(string(raw), r.was, r.becomes, 1)
	if strings.HasPrefix(r.file, "web/") {
		return r.inPlace(raw, changed)
	}
	dir, err := os.MkdirTemp("", "mutant")
	if err != nil {
		return "not run"
	}
	defer os.RemoveAll(dir)
	file, err := filepath.Abs(r.file)
	if err != nil {
		return "not run"
	}
	mutant, overlay := filepath.Join(dir, "mutant"), filepath.Join(dir, "overlay.json")
	said, err := json.Marshal(map[string]any{"Replace": map[string]string{file: mutant}})
	if err != nil || os.WriteFile(mutant, []byte(changed), 0o600) != nil || os.WriteFile(overlay, said, 0o600) != nil {
		return "not run"
	}
	args := strings.Fields(r.test)
	if out, err := exec.Command("go", "vet", "-overlay", overlay, args[0]).CombinedOutput(); err != nil {
		return "not run: " + short(string(out))
	}
	return failed(exec.Command("go", append([]string{"test", "-count=1", "-overlay", overlay}, args...)...))
}

// inPlace is for what is built from its folder: the file is put back whatever happens but a kill.
func (r row) inPlace(raw []byte, changed string) string {
	defer func() {
		if err := os.WriteFile(r.file, raw, 0o644); err != nil {
			panic(err)
		}
	}()
	if err := os.WriteFile(r.file, []byte(changed), 0o644); err != nil {
		return "not run"
	}
	if out, err := exec.Command("npm", "--prefix", "web", "run", "--silent", "logic").CombinedOutput(); err != nil {
		return "not run: " + short(string(out))
	}
	return failed(exec.Command("go", append([]string{"test", "-count=1"}, strings.Fields(r.test)...)...))
}

func failed(test *exec.Cmd) string {
	out, err := test.CombinedOutput()
	switch {
	case err == nil && strings.Contains(string(out), "no tests to run"):
		return "not run: no such test"
	case err == nil:
		return "lived"
	}
	return "killed"
}

func short(text string) string {
	text = strings.Join(strings.Fields(text), " ")
	if len(text) > 60 {
		return text[:60] + "…"
	}
	return text
}
