package core_test

import (
	"go/ast"
	"go/build"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"
)

// Arrows go down only: the command to the server, the server to the archive, both to store, exchange, instruments and demo, and all to the core,
// which stands on the standard library, gonum and itself.
func TestArrowsGoDownOnly(t *testing.T) {
	floor := map[string]int{}
	floors := drawn(t, "rooms")
	for i, rooms := range floors {
		for _, room := range rooms {
			floor[room] = len(floors) - i
		}
	}
	err := filepath.WalkDir("..", func(path string, entry fs.DirEntry, err error) error {
		if err != nil || !entry.IsDir() {
			return err
		}
		if name := entry.Name(); name == "node_modules" || name == "e2e" || strings.HasPrefix(name, ".") && name != ".." {
			return filepath.SkipDir
		}
		pkg, err := build.ImportDir(path, 0)
		if err != nil {
			return nil // no Go here
		}
		room, _, _ := strings.Cut(filepath.ToSlash(strings.TrimPrefix(path, "../")), "/")
		for _, imported := range pkg.Imports {
			checkArrow(t, path, room, imported, floor)
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
}

// drawn reads one of the drawings of rooms in CONTRIBUTING.md: the rooms of each line, the topmost first.
func drawn(t *testing.T, name string) (floors [][]string) {
	t.Helper()
	raw, err := os.ReadFile("../CONTRIBUTING.md")
	if err != nil {
		t.Fatal(err)
	}
	_, after, found := strings.Cut(string(raw), "```"+name+"\n")
	drawing, _, ended := strings.Cut(after, "```")
	if !found || !ended {
		t.Fatalf("CONTRIBUTING.md has no drawing of %s", name)
	}
	for line := range strings.Lines(drawing) {
		rooms, _, _ := strings.Cut(line, "  ")
		floors = append(floors, strings.Fields(rooms))
	}
	return floors
}

// The interface has the rooms that are drawn, and eslint knows the pages among them.
func TestTheInterfaceHasItsRooms(t *testing.T) {
	floors := drawn(t, "web")
	entries, err := os.ReadDir("../web/src")
	if err != nil {
		t.Fatal(err)
	}
	var rooms []string
	for _, entry := range entries {
		if entry.IsDir() {
			rooms = append(rooms, entry.Name())
		}
	}
	all := slices.Sorted(slices.Values(slices.Concat(floors...)))
	if !slices.Equal(all, rooms) {
		t.Errorf("drawn are %v, there are %v", all, rooms)
	}
	rules, err := os.ReadFile("../web/eslint.config.js")
	if err != nil {
		t.Fatal(err)
	}
	if pages := "const pages = ['" + strings.Join(floors[0], "', '") + "'];"; !strings.Contains(string(rules), pages) {
		t.Errorf("eslint does not say %s", pages)
	}
}

// Every file that CONTRIBUTING.md names is there.
func TestFilesAreWhereTheyAreSaidToBe(t *testing.T) {
	raw, err := os.ReadFile("../CONTRIBUTING.md")
	if err != nil {
		t.Fatal(err)
	}
	named := regexp.MustCompile("`([\\w./-]+\\.(?:go|tsx?|tsv|json|js|md))`").FindAllStringSubmatch(string(raw), -1)
	if len(named) < 30 {
		t.Errorf("%d files are named", len(named))
	}
	for _, name := range named {
		there := false
		for _, from := range []string{"..", "../web/src"} {
			_, err := os.Stat(filepath.Join(from, name[1]))
			there = there || err == nil
		}
		if !there {
			t.Errorf("there is no %s", name[1])
		}
	}
}

// The core's packages stand in a written order. None of them looks at a clock, a network or another program: what they say hangs on
// what they are told.
func TestTheCoreStandsInItsOrder(t *testing.T) {
	order := slices.Concat(drawn(t, "core")...)
	slices.Reverse(order)
	entries, err := filepath.Glob("*/*.go")
	if err != nil || len(entries) == 0 {
		t.Fatalf("no packages: %v", err)
	}
	for _, path := range entries {
		name := filepath.Dir(path)
		at := slices.Index(order, name)
		if at < 0 && name != "testdata" {
			t.Errorf("%s has no place in the order", name)
			continue
		}
		file, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
		if err != nil {
			t.Fatal(err)
		}
		test := strings.HasSuffix(path, "_test.go")
		for _, imported := range file.Imports {
			to := strings.Trim(imported.Path.Value, `"`)
			if inner, ours := strings.CutPrefix(to, "oldburrow/core/"); ours && inner != name && slices.Index(order, inner) > at && !test {
				t.Errorf("%s imports %s, which stands on it", path, inner)
			}
			if first, _, _ := strings.Cut(to, "/"); !test && (first == "net" || to == "os/exec" || to == "os" && name != "worked" && name != "seeds") {
				t.Errorf("%s imports %s", path, to)
			}
		}
		ast.Inspect(file, func(n ast.Node) bool {
			call, ok := n.(*ast.SelectorExpr)
			if !ok || test {
				return true
			}
			if of, ok := call.X.(*ast.Ident); ok && of.Name == "time" && slices.Contains([]string{"Now", "Since", "Until", "After", "Tick", "Sleep"}, call.Sel.Name) {
				t.Errorf("%s looks at the clock: time.%s", path, call.Sel.Name)
			}
			return true
		})
	}
}

func checkArrow(t *testing.T, path, room, imported string, floor map[string]int) {
	t.Helper()
	inner, ours := strings.CutPrefix(imported, "oldburrow/")
	if !ours {
		first, _, _ := strings.Cut(imported, "/")
		if room == "core" && strings.Contains(first, ".") && !strings.HasPrefix(imported, "gonum.org/") {
			t.Errorf("%s imports %s: core stands on the standard library and gonum", path, imported)
		}
		if room == "core" && imported == "database/sql" {
			t.Errorf("%s imports %s: core knows no store", path, imported)
		}
		return
	}
	to, _, _ := strings.Cut(inner, "/")
	if floor[to] == 0 || floor[room] == 0 {
		t.Errorf("%s imports %s: a room without a floor", path, imported)
	}
	if room != to && floor[to] >= floor[room] {
		t.Errorf("%s imports %s: that arrow does not go down", path, imported)
	}
}
