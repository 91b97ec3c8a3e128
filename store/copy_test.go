package store

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"
)

func copiesIn(t *testing.T, folder string) []string {
	t.Helper()
	entries, err := os.ReadDir(folder)
	if err != nil {
		return nil
	}
	var names []string
	for _, e := range entries {
		names = append(names, e.Name())
	}
	return names
}

func rowsOf(t *testing.T, path string) map[string]int {
	t.Helper()
	db, err := sqlx.Open("sqlite", path)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	rows, err := rowsIn(db)
	if err != nil {
		t.Fatal(err)
	}
	return rows
}

// A file of an older form that holds data is copied whole before it is brought up to date, under a name that says when and of which form;
// opened again it is not copied again, nor is one that is new.
func TestAFileIsCopiedBeforeItIsChanged(t *testing.T) {
	dir := t.TempDir()
	path, folder := filepath.Join(dir, "line.db"), filepath.Join(dir, "line-backups")
	oldFile(t, path)
	before := rowsOf(t, path)
	open(t, path).Close()
	copies := copiesIn(t, folder)
	if len(copies) != 1 || !strings.HasPrefix(copies[0], "line-2") || !strings.HasSuffix(copies[0], "Z-form6.db") {
		t.Fatalf("copies: %v", copies)
	}
	after := rowsOf(t, filepath.Join(folder, copies[0]))
	for table, n := range before {
		if after[table] != n {
			t.Errorf("%s: %d rows in the copy, %d before", table, after[table], n)
		}
	}
	open(t, path).Close()
	open(t, filepath.Join(dir, "new.db")).Close()
	if again := copiesIn(t, folder); !slices.Equal(again, copies) {
		t.Errorf("opened again: %v", again)
	}
	if made := copiesIn(t, filepath.Join(dir, "new-backups")); made != nil {
		t.Errorf("of a new file: %v", made)
	}
	// The copy is a file of the program's own.
	s := open(t, filepath.Join(folder, copies[0]))
	lines, err := View{q: s.db}.Lines()
	if err != nil || len(lines) != 1 {
		t.Errorf("the copy holds %v, %v", lines, err)
	}
}

// Three copies are kept, the newest of them always; what a copy that broke off left is cleared away, and nothing that is another file's.
func TestOldCopiesAreSwept(t *testing.T) {
	dir := t.TempDir()
	path, folder := filepath.Join(dir, "line.db"), filepath.Join(dir, "line-backups")
	oldFile(t, path)
	if err := os.Mkdir(folder, 0o700); err != nil {
		t.Fatal(err)
	}
	for _, day := range []string{"20250101", "20250102", "20250103", "20250104"} {
		oldFile(t, filepath.Join(folder, "line-"+day+"T000000Z-form5.db"))
	}
	theirs := filepath.Join(folder, "line-20240101T000000Z-form5.db")
	open(t, theirs).Close() // another file, of the same name
	broken := filepath.Join(folder, "line-20250105T000000Z-form6.db.part")
	note := filepath.Join(folder, "note.txt")
	for _, name := range []string{broken, note} {
		if err := os.WriteFile(name, []byte("half a copy"), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	open(t, path).Close()
	var own []string
	for _, name := range copiesIn(t, folder) {
		if strings.HasSuffix(name, ".db") && name != filepath.Base(theirs) {
			own = append(own, name)
		}
	}
	if len(own) != 3 || own[0] != "line-20250103T000000Z-form5.db" || !strings.HasSuffix(own[2], "-form6.db") {
		t.Errorf("kept: %v", own)
	}
	for name, there := range map[string]bool{theirs: true, note: true, broken: false} {
		if _, err := os.Stat(name); (err == nil) != there {
			t.Errorf("%s is there: %v", filepath.Base(name), err == nil)
		}
	}
}

// Where no whole copy can be made the file is not changed, and the reason is said in words.
func TestWithoutACopyNothingIsChanged(t *testing.T) {
	dir := t.TempDir()
	path := filepath.Join(dir, "line.db")
	oldFile(t, path)
	before, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(filepath.Join(dir, "line-backups"), []byte("a file where the folder goes"), 0o600); err != nil {
		t.Fatal(err)
	}
	refused := func(why string) {
		t.Helper()
		_, err := Open(path)
		if err == nil || !strings.Contains(err.Error(), "not brought up to date") || !strings.Contains(err.Error(), why) || strings.Contains(err.Error(), "SQL") {
			t.Errorf("opened: %v", err)
		}
		after, err := os.ReadFile(path)
		if err != nil || string(after) != string(before) {
			t.Errorf("it was changed (%v)", err)
		}
	}
	refused("may not be made")
	if err := os.Remove(filepath.Join(dir, "line-backups")); err != nil {
		t.Fatal(err)
	}
	// A file-size limit is a disk that is full.
	var was syscall.Rlimit
	if err := syscall.Getrlimit(syscall.RLIMIT_FSIZE, &was); err != nil {
		t.Fatal(err)
	}
	if err := syscall.Setrlimit(syscall.RLIMIT_FSIZE, &syscall.Rlimit{Cur: 40960, Max: was.Max}); err != nil {
		t.Fatal(err)
	}
	func() {
		defer syscall.Setrlimit(syscall.RLIMIT_FSIZE, &was)
		refused("disk")
	}()
	if left := copiesIn(t, filepath.Join(dir, "line-backups")); len(left) != 0 {
		t.Errorf("half a copy was left: %v", left)
	}
	open(t, path).Close()
}

// A copy with a row less, or that is damaged, is no copy.
func TestACopyIsFoundWhole(t *testing.T) {
	dir := t.TempDir()
	path := filepath.Join(dir, "line.db")
	oldFile(t, path)
	db, err := connectToRead(path)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	had, err := rowsIn(db)
	if err != nil {
		t.Fatal(err)
	}
	for name, spoil := range map[string]string{
		"a look less": `PRAGMA foreign_keys = OFF; DELETE FROM visits WHERE id = (SELECT min(id) FROM visits)`, "another file": `UPDATE facts SET value = 'x' WHERE key = 'id'`,
	} {
		other := filepath.Join(dir, strings.ReplaceAll(name, " ", "")+".db")
		oldFile(t, other)
		spoilt, err := sqlx.Open("sqlite", other)
		if err != nil {
			t.Fatal(err)
		}
		spoilt.MustExec(spoil)
		spoilt.Close()
		if _, err := foundWhole(other, db, had, had); err == nil {
			t.Errorf("%s is taken for a copy", name)
		}
	}
	made, err := CopiesOf(path).add(db, path, "-form6", time.Date(2026, 12, 5, 10, 3, 0, 0, time.UTC))
	if err != nil || filepath.Base(made.Path) != "line-20261205T100300Z-form6.db" || made.Rows["visits"] != had["visits"] || made.Bytes == 0 {
		t.Errorf("%+v, %v", made, err)
	}
	raw, err := os.ReadFile(made.Path)
	if err != nil {
		t.Fatal(err)
	}
	for i := 4096 * 3; i < 4096*5; i++ {
		raw[i] ^= 0x5a
	}
	damaged := filepath.Join(dir, "damaged.db")
	if err := os.WriteFile(damaged, raw, 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := foundWhole(damaged, db, had, had); err == nil {
		t.Error(fmt.Errorf("a damaged copy is taken for one"))
	}
}
