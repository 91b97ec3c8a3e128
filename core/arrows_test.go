package core_test

import (
	"go/build"
	"io/fs"
	"path/filepath"
	"strings"
	"testing"
)

// Arrows go down only: the command to the server, the server to store, exchange, instruments and demo, and all to the core,
// which stands on the standard library, gonum and itself.
func TestArrowsGoDownOnly(t *testing.T) {
	floor := map[string]int{"cmd": 4, "server": 3, "store": 2, "exchange": 2, "instrument": 2, "demo": 2, "web": 2, "core": 1}
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

func checkArrow(t *testing.T, path, room, imported string, floor map[string]int) {
	t.Helper()
	inner, ours := strings.CutPrefix(imported, "oldburrow/")
	if !ours {
		first, _, _ := strings.Cut(imported, "/")
		if room == "core" && strings.Contains(first, ".") && !strings.HasPrefix(imported, "gonum.org/") {
			t.Errorf("%s imports %s: core stands on the standard library and gonum", path, imported)
		}
		for _, banned := range []string{"net/http", "database/sql", "os"} {
			if room == "core" && imported == banned {
				t.Errorf("%s imports %s: core knows no network, store or files", path, imported)
			}
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
