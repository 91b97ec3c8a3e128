package store

import (
	"errors"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"testing"
	"time"

	"github.com/jmoiron/sqlx"

	"oldburrow/core/line"
)

// A first start that is cut off wherever it was leaves a file that the next start finishes.
func TestAFirstStartThatWasCutOff(t *testing.T) {
	const steps = `CREATE TABLE goose_db_version (id INTEGER PRIMARY KEY AUTOINCREMENT, version_id INTEGER NOT NULL, is_applied INTEGER NOT NULL, tstamp TIMESTAMP DEFAULT (datetime('now')))`
	for name, statements := range map[string][]string{
		"nothing stands in it":    {`PRAGMA journal_mode = WAL`, `CREATE TABLE a (b)`, `DROP TABLE a`},
		"it is only known whose":  {`PRAGMA application_id = 1332494965`},
		"no step was done":        {`PRAGMA journal_mode = WAL`, steps, `INSERT INTO goose_db_version (version_id, is_applied) VALUES (0, 1)`},
		"nor known whose it is":   {steps, `INSERT INTO goose_db_version (version_id, is_applied) VALUES (0, 1)`},
		"some of the steps lack":  nil,
		"nobody named it as yet ": nil,
	} {
		path := filepath.Join(t.TempDir(), "line.db")
		switch name {
		case "some of the steps lack":
			open(t, path).Close()
			statements = []string{`ALTER TABLE mends DROP COLUMN who`, `DELETE FROM goose_db_version WHERE version_id > 11`, `ALTER TABLE visits DROP COLUMN received_at`,
				`ALTER TABLE visits DROP COLUMN timed`, `ALTER TABLE traps DROP COLUMN usual`,
				`DROP TABLE sessions`, `DROP TABLE people`, `ALTER TABLE visits DROP COLUMN who`, `ALTER TABLE makes DROP COLUMN who`, `ALTER TABLE makes DROP COLUMN as_built`, `ALTER TABLE pulls DROP COLUMN who`,
				`ALTER TABLE signs DROP COLUMN who`, `ALTER TABLE measurements DROP COLUMN who`, `ALTER TABLE shed_checks DROP COLUMN who`, `ALTER TABLE doses DROP COLUMN who`,
				`ALTER TABLE levels DROP COLUMN who`, `ALTER TABLE readings DROP COLUMN who`,
				`DROP TABLE corrections`, `DROP INDEX pulls_left`, `ALTER TABLE pulls DROP COLUMN later`, `ALTER TABLE pulls DROP COLUMN rigs`, `ALTER TABLE pulls DROP COLUMN done`,
				`ALTER TABLE pulls DROP COLUMN note`, `ALTER TABLE spots DROP COLUMN photo_id`, `ALTER TABLE properties DROP COLUMN paper_id`,
				`DROP INDEX seasons_line`, `ALTER TABLE seasons DROP COLUMN deleted`, `CREATE UNIQUE INDEX seasons_line ON seasons (line_id, from_day)`}
		case "nobody named it as yet ":
			open(t, path).Close()
			statements = []string{`DELETE FROM facts`, `PRAGMA application_id = 0`}
		}
		db, err := sqlx.Open("sqlite", path)
		if err != nil {
			t.Fatal(err)
		}
		if name == "some of the steps lack" {
			var triggers []string
			if err := db.Select(&triggers, `SELECT 'DROP TRIGGER ' || name FROM sqlite_master WHERE type = 'trigger'`); err != nil || len(triggers) < 15 {
				t.Fatal(len(triggers), err)
			}
			statements = slices.Concat(triggers, []string{`DROP TABLE promises`, `DROP TABLE promising`, `DROP TABLE weighed`}, statements)
		}
		for _, one := range statements {
			if _, err := db.Exec(one); err != nil {
				t.Fatalf("%s: %s: %v", name, one, err)
			}
		}
		db.Close()
		s, err := Open(path)
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		if stands, err := s.Standing(); err != nil || len(stands.File) != 53 {
			t.Errorf("%s: %+v, %v", name, stands, err)
		}
		if err := put(t, s, line.Line{ID: id(), Name: "A"}); err != nil {
			t.Errorf("%s: %v", name, err)
		}
		s.Close()
	}
}

// A file counts what it took, once each, and knows the latest time of it whatever its clock said later; what was refused counts nothing.
func TestAFileCountsItsWrites(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "line.db"))
	write := func(asked Asked, at time.Time, fails error) {
		t.Helper()
		_, err := s.Write(asked, at, func(tx *Tx) (any, error) {
			if fails != nil {
				return nil, fails
			}
			return tx.PutLine(line.Line{ID: id(), Name: "A"})
		})
		if !errors.Is(err, fails) {
			t.Fatal(err)
		}
	}
	stands := func(writes int, newest time.Time) {
		t.Helper()
		is, err := s.Standing()
		if err != nil || is.Writes != writes || !is.Newest.Equal(newest) {
			t.Errorf("it stands at %+v, %v; want %d, %v", is, err, writes, newest)
		}
	}
	stands(0, time.Time{})
	first := Asked{ID: id()}
	write(first, noon, nil)
	stands(1, noon)
	write(first, noon.Add(time.Hour), nil) // said again
	stands(1, noon)
	write(Asked{ID: id()}, noon, errors.New("no"))
	stands(1, noon)
	write(Asked{ID: id()}, noon.Add(time.Hour), nil)
	stands(2, noon.Add(time.Hour))
	write(Asked{ID: id()}, noon.Add(-time.Hour), nil) // its clock was set back
	stands(3, noon.Add(time.Hour))
	for range 9 {
		write(Asked{ID: id()}, noon, nil)
	}
	stands(12, noon.Add(time.Hour))
}

// While another program writes, a write is told that the file is busy; it is no fault of what is written.
func TestAFileThatAnotherWrites(t *testing.T) {
	path := filepath.Join(t.TempDir(), "line.db")
	s := open(t, path)
	other, err := sqlx.Open("sqlite", path+"?_txlock=immediate")
	if err != nil {
		t.Fatal(err)
	}
	defer other.Close()
	tx, err := other.Beginx()
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.db.Exec(`PRAGMA busy_timeout = 20`); err != nil {
		t.Fatal(err)
	}
	s.db.SetMaxOpenConns(1)
	if err := put(t, s, line.Line{ID: id(), Name: "A"}); !errors.Is(InWords(err), ErrBusy) {
		t.Errorf("it says %v", err)
	}
	if err := tx.Rollback(); err != nil {
		t.Fatal(err)
	}
	if err := put(t, s, line.Line{ID: id(), Name: "A"}); err != nil {
		t.Errorf("afterwards: %v", err)
	}
}

// On a disk that may only be read a file is opened to be read.
func TestADiskThatMayOnlyBeRead(t *testing.T) {
	disk := t.TempDir()
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", "size=16m", "tmpfs", disk).CombinedOutput(); err != nil {
		t.Skipf("no disk can be made here: %s", out)
	}
	t.Cleanup(func() { _ = exec.Command("umount", "-l", disk).Run() })
	path := filepath.Join(disk, "line.db")
	s := open(t, path)
	if err := put(t, s, line.Line{ID: id(), Name: "Kettle Fork"}); err != nil {
		t.Fatal(err)
	}
	s.Close()
	if out, err := exec.Command("mount", "-o", "remount,ro", disk).CombinedOutput(); err != nil {
		t.Fatalf("%s", out)
	}
	if err := os.WriteFile(filepath.Join(disk, "x"), nil, 0o600); err == nil {
		t.Fatal("it can be written")
	}
	read, err := Open(path)
	if err != nil {
		t.Fatal(err)
	}
	defer read.Close()
	if !errors.Is(read.Barred(), ErrReadOnly) {
		t.Errorf("barred: %v", read.Barred())
	}
	if lines, err := (View{q: read.db}).Lines(); err != nil || len(lines) != 1 {
		t.Errorf("%+v, %v", lines, err)
	}
}
