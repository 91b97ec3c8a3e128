package store

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/line"
)

var day = time.Date(2026, 12, 5, 10, 3, 0, 0, time.UTC)

// begun is a file with a line in it.
func begun(t *testing.T, dir string) (*Store, line.Line) {
	t.Helper()
	s := open(t, filepath.Join(dir, "line.db"))
	l := line.Line{Zone: "America/Denver", ID: ulid.Make().String(), Name: "Kettle Fork"}
	if err := put(t, s, l); err != nil {
		t.Fatal(err)
	}
	return s, l
}

// The copies of the nights: a new one is whole, known again, and counts what was written by then; those that are not kept are cleared away.
func TestCopiesOfTheNights(t *testing.T) {
	dir := t.TempDir()
	s, l := begun(t, dir)
	if _, has, err := s.LastCopy(); has || err != nil {
		t.Errorf("before any: %v, %v", has, err)
	}
	s.copies.Keep = 2
	for i := range 5 {
		l.Version, l.Name = i+1, fmt.Sprint("Night ", i)
		if err := put(t, s, l); err != nil {
			t.Fatal(err)
		}
		c, err := s.Copy(day.AddDate(0, 0, i))
		if err != nil || c.Writes != i+2 || c.Bytes == 0 || c.Rows["lines"] != 1 {
			t.Fatalf("%+v, %v", c, err)
		}
	}
	folder := filepath.Join(dir, "line-backups")
	want := []string{"line-20261205T100300Z.db", "line-20261208T100300Z.db", "line-20261209T100300Z.db"} // the first of the month, and the newest two
	if kept := copiesIn(t, folder); !slices.Equal(kept, want) {
		t.Errorf("kept %v, want %v", kept, want)
	}
	// One of another file, and one that is named for later and is none, are not taken for the last.
	if err := os.WriteFile(filepath.Join(folder, "line-20270101T000000Z.db"), []byte("no copy"), 0o600); err != nil {
		t.Fatal(err)
	}
	open(t, filepath.Join(folder, "line-20280101T000000Z.db")).Close()
	last, has, err := s.LastCopy()
	if err != nil || !has || !last.At.Equal(day.AddDate(0, 0, 4)) || last.Writes != 6 || filepath.Base(last.Path) != want[2] {
		t.Errorf("the last: %+v, %v, %v", last, has, err)
	}
	copied := open(t, last.Path)
	if lines, err := (View{q: copied.db}).Lines(); err != nil || lines[0].Name != "Night 4" {
		t.Errorf("it holds %+v, %v", lines, err)
	}
}

func TestWhichCopiesAreNoLongerKept(t *testing.T) {
	at := func(days ...string) (all []time.Time) {
		for _, text := range days {
			d, err := time.Parse(time.DateOnly, text)
			if err != nil {
				t.Fatal(err)
			}
			all = append(all, d)
		}
		return all
	}
	for _, c := range []struct {
		all            []time.Time
		newest, months int
		gone           []time.Time
	}{
		{at("2026-12-01"), 1, 0, nil},
		{nil, 1, 12, nil},
		{at("2026-12-02", "2026-12-01", "2026-12-03"), 2, 0, at("2026-12-01")},
		{at("2026-11-03", "2026-11-30", "2026-12-01", "2026-12-02"), 1, 12, at("2026-11-30")},
		{at("2026-10-03", "2026-11-30", "2026-12-01", "2026-12-02"), 1, 2, at("2026-10-03")},
		{at("2025-12-01", "2026-12-01", "2026-12-02"), 1, 12, nil}, // a year ago it was another month
	} {
		if gone := noLonger(c.all, c.newest, c.months); !slices.EqualFunc(gone, c.gone, time.Time.Equal) {
			t.Errorf("of %v %v are cleared away, want %v", c.all, gone, c.gone)
		}
	}
}

// A copy is whole when as many rows stand in it as in the file before, after, or between.
func TestRowsBetween(t *testing.T) {
	dir := t.TempDir()
	s, _ := begun(t, dir)
	c, err := Backup(s.path, filepath.Join(dir, "copy.db"))
	if err != nil {
		t.Fatal(err)
	}
	with := func(n int) map[string]int { return map[string]int{"lines": n} }
	for _, rows := range []struct {
		before, after int
		whole         bool
	}{{1, 1, true}, {0, 1, true}, {1, 2, true}, {0, 5, true}, {2, 0, true}, {2, 2, false}, {0, 0, false}, {2, 3, false}} {
		if _, err := foundWhole(c.Path, s.db, with(rows.before), with(rows.after)); (err == nil) != rows.whole {
			t.Errorf("%+v: %v", rows, err)
		}
	}
}

// A copy is made while the file is open and written; never over something, nor of something else.
func TestBackup(t *testing.T) {
	dir := t.TempDir()
	s, _ := begun(t, dir)
	out := filepath.Join(dir, "copy.db")
	if c, err := Backup(s.path, out); err != nil || c.Path != out || c.Writes != 1 {
		t.Fatalf("%+v, %v", c, err)
	}
	note := filepath.Join(dir, "note.txt")
	if err := os.WriteFile(note, []byte(strings.Repeat("a note ", 500)), 0o600); err != nil {
		t.Fatal(err)
	}
	for says, ask := range map[string][2]string{
		"is there already":                {s.path, out},
		"is not there, or is empty":       {filepath.Join(dir, "none.db"), filepath.Join(dir, "x.db")},
		"is no data file of this program": {note, filepath.Join(dir, "x.db")},
		"in a folder that is not there":   {s.path, filepath.Join(dir, "no", "x.db")},
	} {
		if _, err := Backup(ask[0], ask[1]); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v: %v, want %s", ask, err, says)
		}
	}
	if _, err := os.Stat(filepath.Join(dir, "x.db")); !errors.Is(err, fs.ErrNotExist) {
		t.Error("something was made")
	}
}

// A copy in the place of a file: what stood there is set aside whole, another life begins, what was answered before is known, and all that is
// editable is shared with the copy.
func TestRestore(t *testing.T) {
	dir := t.TempDir()
	s, l := begun(t, dir)
	out := filepath.Join(dir, "copy.db")
	if _, err := Backup(s.path, out); err != nil {
		t.Fatal(err)
	}
	before, err := s.Standing()
	if err != nil {
		t.Fatal(err)
	}
	l.Version, l.Name = 1, "After the copy"
	if err := put(t, s, l); err != nil {
		t.Fatal(err)
	}
	if _, err := Restore(s.path, out, day); err == nil || !strings.Contains(err.Error(), "stop the program first") {
		t.Errorf("while it is open: %v", err)
	}
	s.Close()
	r, err := Restore(s.path, out, day)
	if err != nil || r.Aside != filepath.Join(dir, "line.set-aside-20261205T100300Z.db") || r.Rows["lines"] != 1 {
		t.Fatalf("%+v, %v", r, err)
	}
	name := func(path string) string {
		s := open(t, path)
		defer s.Close()
		lines, err := View{q: s.db}.Lines()
		if err != nil || len(lines) != 1 {
			t.Fatal(lines, err)
		}
		return lines[0].Name
	}
	if is, was := name(s.path), name(r.Aside); is != "Kettle Fork" || was != "After the copy" {
		t.Errorf("%q stands, %q is set aside", is, was)
	}
	s = open(t, s.path)
	now, err := s.Standing()
	id, epoch, _ := strings.Cut(now.File, "/")
	if wasID, wasEpoch, _ := strings.Cut(before.File, "/"); err != nil || id != wasID || epoch == wasEpoch || now.Writes != before.Writes {
		t.Errorf("%+v, before %+v, %v", now, before, err)
	}
	var answers int
	if err := s.db.Get(&answers, `SELECT count(*) FROM mutations`); err != nil || answers != 1 {
		t.Errorf("%d answers are known, %v", answers, err)
	}
	known, err := View{q: s.db}.Known()
	content := kinds[slices.IndexFunc(kinds, func(k Kind) bool { return k.Table == "lines" })]
	of, wrong := content.Contents(View{q: s.db})
	if err != nil || wrong != nil || len(known) != 1 || known[l.ID] != of[l.ID] || len(known[l.ID]) != 16 {
		t.Errorf("shared: %v, of %v (%v, %v)", known, of, err, wrong)
	}
	// Again in the same second: what was set aside before is not written over.
	s.Close()
	again, err := Restore(s.path, out, day)
	if err != nil || again.Aside == r.Aside || name(r.Aside) != "After the copy" || name(again.Aside) != "Kettle Fork" || name(s.path) != "Kettle Fork" {
		t.Errorf("again %+v, %v", again, err)
	}
	for _, left := range []string{".part", ".part.whole", "-wal.part"} {
		if _, err := os.Stat(s.path + left); err == nil {
			t.Errorf("%s is left", left)
		}
	}
}

// What is no whole copy is not put anywhere; a file that is not there is made.
func TestRestoreRefuses(t *testing.T) {
	dir := t.TempDir()
	s, _ := begun(t, dir)
	out := filepath.Join(dir, "copy.db")
	if _, err := Backup(s.path, out); err != nil {
		t.Fatal(err)
	}
	s.Close()
	raw, err := os.ReadFile(out)
	if err != nil {
		t.Fatal(err)
	}
	damaged, short := slices.Clone(raw), raw[:len(raw)/2]
	for i := 4096 * 3; i < 4096*9; i++ {
		damaged[i] ^= 0x5a
	}
	was, err := os.ReadFile(s.path)
	if err != nil {
		t.Fatal(err)
	}
	for says, content := range map[string][]byte{"": nil, "is not taken": damaged, "d": short, "is no data file of this program": []byte(strings.Repeat("a note ", 500))} {
		in := filepath.Join(dir, "in.db")
		if err := os.WriteFile(in, content, 0o600); err != nil {
			t.Fatal(err)
		}
		if _, err := Restore(s.path, in, day); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, want %q", err, says)
		}
	}
	if _, err := Restore(s.path, s.path, day); err == nil || !strings.Contains(err.Error(), "is the data file itself") {
		t.Errorf("itself: %v", err)
	}
	if is, err := os.ReadFile(s.path); err != nil || string(is) != string(was) {
		t.Errorf("the file was changed (%v)", err)
	}
	if aside, _ := filepath.Glob(filepath.Join(dir, "*set-aside*")); len(aside) > 0 {
		t.Errorf("set aside: %v", aside)
	}
	fresh := filepath.Join(dir, "new.db")
	if r, err := Restore(fresh, out, day); err != nil || r.Aside != "" {
		t.Fatalf("%+v, %v", r, err)
	}
	if lines, err := (View{q: open(t, fresh).db}).Lines(); err != nil || len(lines) != 1 {
		t.Errorf("%v, %v", lines, err)
	}
}

// A damaged file is set aside as it is, with its log.
func TestRestoreOverADamagedFile(t *testing.T) {
	dir := t.TempDir()
	s, _ := begun(t, dir)
	out := filepath.Join(dir, "copy.db")
	if _, err := Backup(s.path, out); err != nil {
		t.Fatal(err)
	}
	s.Close()
	raw, err := os.ReadFile(s.path)
	if err != nil {
		t.Fatal(err)
	}
	for i := 4096 * 2; i < len(raw); i++ {
		raw[i] ^= 0x5a
	}
	if err := os.WriteFile(s.path, raw, 0o600); err != nil {
		t.Fatal(err)
	}
	r, err := Restore(s.path, out, day)
	if err != nil {
		t.Fatal(err)
	}
	if aside, err := os.ReadFile(r.Aside); err != nil || len(aside) != len(raw) {
		t.Errorf("%d bytes are set aside, want %d (%v)", len(aside), len(raw), err)
	}
	if lines, err := (View{q: open(t, s.path).db}).Lines(); err != nil || len(lines) != 1 {
		t.Errorf("%v, %v", lines, err)
	}
}
