package core_test

import (
	"go/ast"
	"go/build"
	"go/parser"
	"go/token"
	"io/fs"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

// Arrows go down only: the command to the server, the server to the archive, both to store, exchange, instruments and demo, and all to the core,
// which stands on the standard library, gonum and itself.
func TestArrowsGoDownOnly(t *testing.T) {
	floor := map[string]int{"cmd": 5, "server": 4, "archive": 3, "store": 2, "exchange": 2, "instrument": 2, "demo": 2, "web": 2, "core": 1}
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

// order is how the core's packages stand on each other: each may import only what comes before it.
var order = []string{
	"refuse", "plain", "seeds", // what is wrong, texts, and what tests draw
	"animal", "round", "tally", "learn", "scent", "ground", // what is simply so
	"pan", "hole", "mix", "bed", "weather", "footfall", "gauge", // what is computed of it
	"schools", "layout", "anchor", "odds", "line", // a set, and the record of a line
	"book", "outlook", "shed", "calc", // what the pages ask
	"worked", // the worked cases, for the tests of all of them
}

// The core's packages stand in a written order. None of them looks at a clock, a network or another program: what they say hangs on
// what they are told.
func TestTheCoreStandsInItsOrder(t *testing.T) {
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
