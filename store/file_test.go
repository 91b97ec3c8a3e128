package store

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"

	"oldburrow/core/line"
	"oldburrow/core/tally"
)

// What is no data file of this program is refused in words, and not a byte of it is changed.
func TestWhatIsNotOursIsLeftAlone(t *testing.T) {
	dir := t.TempDir()
	made := func(name string, statements ...string) string {
		path := filepath.Join(dir, name)
		db, err := sqlx.Open("sqlite", path)
		if err != nil {
			t.Fatal(err)
		}
		defer db.Close()
		for _, s := range statements {
			if _, err := db.Exec(s); err != nil {
				t.Fatalf("%s: %v", s, err)
			}
		}
		return path
	}
	text := filepath.Join(dir, "notes.txt")
	if err := os.WriteFile(text, []byte(strings.Repeat("notes of the season\n", 100)), 0o644); err != nil {
		t.Fatal(err)
	}
	newer := filepath.Join(dir, "newer.db")
	open(t, newer).Close()
	db, err := sqlx.Open("sqlite", newer)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := db.Exec(`INSERT INTO goose_db_version (version_id, is_applied) VALUES (999, 1)`); err != nil {
		t.Fatal(err)
	}
	db.Close()
	for path, says := range map[string]string{
		"":                                    "is no file",
		":memory:":                            "is no file",
		"file:x?mode=memory":                  "is no file",
		dir:                                   "is a folder",
		filepath.Join(dir, "none", "line.db"): "folder that is not there",
		text:                                  "is no data file",
		newer:                                 "newer program",
		made("other.db", `CREATE TABLE songs (name TEXT)`):                                                                "another program",
		made("id.db", `CREATE TABLE facts (key TEXT)`, `CREATE TABLE goose_db_version (a)`, `PRAGMA application_id = 77`): "another program",
	} {
		before, _ := os.ReadFile(path)
		s, err := Open(path)
		if err == nil {
			s.Close()
			t.Errorf("%q is opened", path)
			continue
		}
		if !strings.Contains(err.Error(), says) || strings.Contains(err.Error(), "SQL") {
			t.Errorf("%q: %v, want it to say %q", path, err, says)
		}
		if after, _ := os.ReadFile(path); !bytes.Equal(before, after) {
			t.Errorf("%q was changed", path)
		}
	}
	for _, left := range []string{":memory:", "file:x?mode=memory"} {
		if _, err := os.Stat(left); err == nil {
			t.Errorf("%s was made", left)
		}
	}
}

// A disk that is full is called a full disk; nothing of the write stays, and it is taken once there is room.
func TestAFullDisk(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "line.db"))
	s.db.SetMaxOpenConns(1)
	var pages int
	if err := s.db.Get(&pages, `PRAGMA page_count`); err != nil {
		t.Fatal(err)
	}
	if _, err := s.db.Exec(fmt.Sprintf(`PRAGMA max_page_count = %d`, pages+2)); err != nil {
		t.Fatal(err)
	}
	l := line.Line{ID: id(), Name: strings.Repeat("a", 80), Zone: "America/Denver"}
	asked := Asked{ID: id()}
	big := func(tx *Tx) (any, error) {
		if _, err := tx.PutLine(l); err != nil {
			return nil, err
		}
		_, err := tx.PutPhoto(line.Photo{ID: id(), LineID: l.ID}, make([]byte, 200_000))
		return nil, err
	}
	if _, err := s.Write(asked, noon, big); !errors.Is(InWords(err), ErrFull) {
		t.Fatalf("it says %v", err)
	}
	if lines, err := (View{q: s.db}).Lines(); err != nil || len(lines) != 0 {
		t.Errorf("half of it stays: %+v, %v", lines, err)
	}
	if _, err := s.db.Exec(`PRAGMA max_page_count = 100000`); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Write(asked, noon, big); err != nil {
		t.Errorf("with room again: %v", err)
	}
}

// A file that was taken away from under the program is not written any more.
func TestAFileThatIsGone(t *testing.T) {
	for name, take := range map[string]func(path string) error{
		"deleted": os.Remove,
		"moved":   func(path string) error { return os.Rename(path, path+".old") },
		"replaced": func(path string) error {
			if err := os.Remove(path); err != nil {
				return err
			}
			return os.WriteFile(path, nil, 0o644)
		},
	} {
		path := filepath.Join(t.TempDir(), "line.db")
		s := open(t, path)
		if err := take(path); err != nil {
			t.Fatal(err)
		}
		if err := put(t, s, line.Line{ID: id(), Name: "A"}); !errors.Is(err, ErrGone) {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// Damage is found, told in words, and the file is only read from then on.
func TestDamage(t *testing.T) {
	path := filepath.Join(t.TempDir(), "line.db")
	s := open(t, path)
	l := line.Line{ID: id(), Name: "Kettle Fork", Zone: "America/Denver"}
	if err := put(t, s, l); err != nil {
		t.Fatal(err)
	}
	if err := s.Check(t.Context()); err != nil || s.Barred() != nil {
		t.Fatalf("a sound file: %v, %v", err, s.Barred())
	}
	// A property of a line that is not there, as a fault of the disk could leave it.
	if _, err := s.db.Exec(`PRAGMA foreign_keys = OFF`); err != nil {
		t.Fatal(err)
	}
	s.db.SetMaxOpenConns(1)
	if _, err := s.db.Exec(`PRAGMA foreign_keys = OFF`); err != nil {
		t.Fatal(err)
	}
	if _, err := s.db.Exec(`INSERT INTO properties (id, line_id, name, permission, version) VALUES ('P', 'gone', 'A', '', 1)`); err != nil {
		t.Fatal(err)
	}
	if err := s.Check(t.Context()); err != nil || s.Barred() == nil || !strings.Contains(s.Barred().Error(), "a property names a line that is not there") {
		t.Fatalf("a loose end: %v, %v", err, s.Barred())
	}
	var damaged *Damaged
	if err := put(t, s, l); !errors.As(err, &damaged) {
		t.Errorf("it is still written: %v", err)
	}
	if lines, err := (View{q: s.db}).Lines(); err != nil || len(lines) != 1 {
		t.Errorf("what can be read is not: %v", err)
	}
	s.Close()

	// Pages that were overwritten.
	raw, err := os.ReadFile(path)
	if err != nil {
		t.Fatal(err)
	}
	for i := 4096 * 3; i < len(raw); i += 3 {
		raw[i] ^= 0x5A
	}
	if err := os.WriteFile(path, raw, 0o644); err != nil {
		t.Fatal(err)
	}
	s, err = Open(path)
	if err == nil {
		defer s.Close()
		if err := s.Check(t.Context()); err != nil || s.Barred() == nil {
			t.Errorf("overwritten pages are not found: %v", err)
		}
	} else if !strings.Contains(err.Error(), "damaged") {
		t.Errorf("it says %v", err)
	}
}

// One row that cannot be read hides no other, and is told.
func TestUnreadableRows(t *testing.T) {
	s := open(t, olderFile(t, newestMigration(),
		`INSERT INTO lines VALUES ('L', 'Kettle Fork', 'America/Denver', 46.8, -105.3, 1)`,
		`INSERT INTO properties (id, line_id, name, permission, version) VALUES ('P', 'L', 'A', '', 1)`,
		`INSERT INTO spots (id, line_id, property_id, name, lat_deg, lon_deg, soil, wetness, version, met) VALUES
			('S', 'L', 'P', 'Gate', 46.8, -105.3, 'loam', 'dry', 1, '[]'), ('T', 'L', 'P', 'Gap', 46.8, -105.3, 'loam', 'dry', 1, '{broken')`,
		`INSERT INTO signs (id, line_id, lat_deg, lon_deg, what, animal, age, seen_at, note, version) VALUES
			('1', 'L', 46.8, -105.3, 'tracks', 'coyote', 'week', '2026-11-03 12:00:00+00:00', '', 1),
			('2', 'L', 46.8, -105.3, 'tracks', 'coyote', 'week', 'yesterday', '', 1),
			('3', 'L', 46.8, -105.3, 'tracks', 'coyote', 'week', '12026-11-03 12:00:00+00:00', '', 1),
			('4', 'L', 46.8, -105.3, 'tracks', 'coyote', 'week', '0000-01-01 12:00:00+00:00', '', 1)`,
	))
	err := s.Read(t.Context(), func(v View) error {
		spots, err := v.Spots("L")
		if err != nil || len(spots) != 1 || spots[0].ID != "S" {
			t.Errorf("spots: %+v, %v", spots, err)
		}
		signs, err := v.Signs("L", tally.Span{})
		if err != nil || len(signs) != 1 || signs[0].ID != "1" {
			t.Errorf("sign: %+v, %v", signs, err)
		}
		told := ""
		for _, u := range v.Unread() {
			told += u.What + " " + u.ID + ": " + u.Why + "; "
		}
		for _, want := range []string{"spot T: ", "sign 2: ", "sign 3: ", "sign 4: "} {
			if !strings.Contains(told, want) {
				t.Errorf("told is %s, not of %s", told, want)
			}
		}
		return nil
	})
	if err != nil {
		t.Fatal(err)
	}
}

// Answers are forgotten after their time; an act that comes again after that is still done once.
func TestOldAnswersAreForgotten(t *testing.T) {
	s, l, _, trap := twoLines(t)
	check := line.ShedCheck{ID: id(), LineID: l.ID, TrapID: trap.ID, At: noon, Items: []line.CheckItem{{Key: "dog", Sound: true}}}
	asked := Asked{ID: id(), Digest: "d"}
	do := func() error {
		_, err := s.Write(asked, noon, func(tx *Tx) (any, error) { return tx.PutShedCheck(check) })
		return err
	}
	if err := do(); err != nil {
		t.Fatal(err)
	}
	if err := s.Prune(noon.Add(time.Hour)); err != nil {
		t.Fatal(err)
	}
	var n int
	if err := s.db.Get(&n, `SELECT count(*) FROM mutations WHERE id = ?`, asked.ID); err != nil || n != 0 {
		t.Errorf("%d answers are kept, %v", n, err)
	}
	if err := do(); err != nil {
		t.Error(err)
	}
	if checks, err := (View{q: s.db}).ShedChecks(trap.ID); err != nil || len(checks) != 1 {
		t.Errorf("it stands %d times, %v", len(checks), err)
	}
}

// asAnother does something as one who has to heed a file's rights, which root has not.
func asAnother(t *testing.T, do func()) {
	t.Helper()
	done := make(chan struct{})
	go func() {
		defer close(done)
		if os.Geteuid() == 0 {
			runtime.LockOSThread() // and never given back: the thread ends with this
			if _, _, errno := syscall.Syscall(syscall.SYS_SETFSUID, 65534, 0, 0); errno != 0 {
				t.Error(errno)
				return
			}
		}
		do()
	}()
	<-done
}

func lines(t *testing.T, s *Store) (found []line.Line) {
	t.Helper()
	err := s.Read(t.Context(), func(v View) (err error) {
		found, err = v.Lines()
		return err
	})
	if err != nil {
		t.Error(err)
	}
	return found
}

// A file that may not be written is read all the same, and so is one with a broken part; the reason is said.
func TestAFileIsReadThoughItCannotBeWritten(t *testing.T) {
	home := line.Line{ID: id(), Name: "Upper"}
	made := func(t *testing.T, spoil func(db *sqlx.DB)) string {
		dir := t.TempDir()
		path := filepath.Join(dir, "line.db")
		s := open(t, path)
		if err := put(t, s, home); err != nil {
			t.Fatal(err)
		}
		spoil(s.db)
		for _, e := range []error{s.Close(), os.Chmod(path, 0o444), os.Chmod(dir, 0o555), os.Chmod(filepath.Dir(dir), 0o755)} {
			if e != nil {
				t.Fatal(e)
			}
		}
		t.Cleanup(func() { _ = os.Chmod(dir, 0o755) })
		return path
	}
	nothing := func(*sqlx.DB) {}
	t.Run("no rights", func(t *testing.T) {
		path := made(t, nothing)
		asAnother(t, func() {
			s, err := Open(path)
			if err != nil {
				t.Error(err)
				return
			}
			defer s.Close()
			if !errors.Is(s.Barred(), ErrReadOnly) {
				t.Errorf("barred: %v", s.Barred())
			}
			if err := put(t, s, line.Line{ID: id(), Name: "B"}); !errors.Is(err, ErrReadOnly) {
				t.Errorf("a write: %v", err)
			}
			if got := lines(t, s); len(got) != 1 || got[0].Name != "Upper" {
				t.Errorf("read: %+v", got)
			}
		})
	})
	t.Run("an older form", func(t *testing.T) {
		path := made(t, func(db *sqlx.DB) {
			db.MustExec(`DELETE FROM goose_db_version WHERE version_id = (SELECT max(version_id) FROM goose_db_version)`)
		})
		asAnother(t, func() {
			if _, err := Open(path); err == nil || !strings.Contains(err.Error(), "older program") {
				t.Errorf("%v", err)
			}
		})
	})
	t.Run("a table's description is broken", func(t *testing.T) {
		path := made(t, func(db *sqlx.DB) {
			db.SetMaxOpenConns(1)
			db.MustExec(`PRAGMA writable_schema = ON`)
			db.MustExec(`UPDATE sqlite_master SET sql = 'CREATE TABLE features (' WHERE name = 'features'`)
		})
		s, err := Open(path)
		if err != nil {
			t.Fatal(err)
		}
		defer s.Close()
		var damaged *Damaged
		if !errors.As(s.Barred(), &damaged) {
			t.Errorf("barred: %v", s.Barred())
		}
		err = s.Read(t.Context(), func(v View) error {
			if got, err := v.Lines(); err != nil || len(got) != 1 {
				t.Errorf("lines: %+v, %v", got, err)
			}
			if got, err := v.Features(home.ID); err != nil || len(got) != 0 {
				t.Errorf("features: %+v, %v", got, err)
			}
			if told := v.Unread(); len(told) != 1 || told[0].What != things["features"] || told[0].ID != "" {
				t.Errorf("told: %+v", told)
			}
			return nil
		})
		if err != nil {
			t.Fatal(err)
		}
	})
}
