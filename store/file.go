package store

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path"
	"strings"
	"time"

	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// applicationID is written into every data file: it says whose it is.
const applicationID = 0x4F6C4275

// Reasons for which nothing can be written now. What was to be written can be sent again.
var (
	ErrFull     = errors.New("the disk is full")
	ErrReadOnly = errors.New("the file may not be written")
	ErrGone     = errors.New("the file was moved or deleted while the program had it open")
)

// Damaged is what a check found broken in the file. It is still read, and no longer written.
type Damaged struct{ Says []string }

func (d *Damaged) Error() string { return "the file is damaged: " + strings.Join(d.Says, "; ") }

// ours refuses what is no data file of this program, or one of a newer program; it changes nothing.
func ours(name string) error {
	if name == "" || name == ":memory:" || strings.HasPrefix(name, "file:") {
		return errors.New("is no file: name one such as line.db")
	}
	info, err := os.Stat(name)
	switch {
	case errors.Is(err, fs.ErrNotExist):
		if folder, err := os.Stat(path.Dir(name)); err != nil || !folder.IsDir() {
			return errors.New("lies in a folder that is not there")
		}
		return nil
	case err != nil:
		return errors.New("may not be read: see to its rights")
	case info.IsDir():
		return errors.New("is a folder: name a file in it")
	case info.Size() == 0:
		return nil
	}
	db, err := connect(name, url.Values{"mode": {"ro"}})
	if err != nil {
		return InWords(err)
	}
	defer db.Close()
	var id, tables int
	if err := db.Get(&id, `PRAGMA application_id`); err != nil {
		return InWords(err)
	}
	if err := db.Get(&tables, `SELECT count(*) FROM sqlite_master WHERE type = 'table' AND name IN ('facts', 'goose_db_version')`); err != nil {
		return InWords(err)
	}
	if id != 0 && id != applicationID || tables != 2 {
		return errors.New("belongs to another program: it is left as it is")
	}
	var version int64
	if err := db.Get(&version, `SELECT max(version_id) FROM goose_db_version WHERE is_applied`); err != nil {
		return InWords(err)
	}
	if newest := newestMigration(); version > newest {
		return fmt.Errorf("was written by a newer program (its form is %d, this one knows %d): open it with that one. It is left as it is", version, newest)
	}
	return nil
}

func newestMigration() int64 {
	files, err := fs.Glob(migrations, "migrations/*.sql")
	if err != nil {
		panic(err) // the pattern is ours
	}
	var newest int64
	for _, file := range files {
		var version int64
		if _, err := fmt.Sscanf(path.Base(file), "%d_", &version); err == nil {
			newest = max(newest, version)
		}
	}
	return newest
}

// InWords puts what SQLite says into the program's own words, where it knows them.
func InWords(err error) error {
	var says *sqlite.Error
	if !errors.As(err, &says) {
		return err
	}
	switch says.Code() & 0xFF {
	case sqlite3.SQLITE_FULL:
		return ErrFull
	case sqlite3.SQLITE_READONLY:
		return ErrReadOnly
	case sqlite3.SQLITE_CANTOPEN, sqlite3.SQLITE_PERM, sqlite3.SQLITE_AUTH:
		return errors.New("cannot be opened or made: see to its rights and those of its folder")
	case sqlite3.SQLITE_NOTADB:
		return errors.New("is no data file of this program: it is left as it is")
	case sqlite3.SQLITE_CORRUPT:
		return errors.New("is damaged: put a copy of it in its place, and keep this one")
	case sqlite3.SQLITE_BUSY:
		return errors.New("is being written by another program: stop that first")
	case sqlite3.SQLITE_IOERR:
		return errors.New("cannot be read or written: the disk has a fault, or is full")
	}
	return err
}

// writable refuses to write to a file that is damaged, or that is no longer where it was opened.
func (s *Store) writable() error {
	if found := s.damaged.Load(); found != nil {
		return found
	}
	if now, err := os.Stat(s.path); err != nil || !os.SameFile(now, s.opened) {
		return ErrGone
	}
	return nil
}

// Damage is what the last check found broken; nil while nothing was.
func (s *Store) Damage() *Damaged { return s.damaged.Load() }

// mostSaid is how many faults of a file are told.
const mostSaid = 5

// Check looks through the whole file for damage. From then on a damaged one is read only.
func (s *Store) Check(ctx context.Context) error {
	var says []string
	if err := s.db.SelectContext(ctx, &says, fmt.Sprintf(`PRAGMA quick_check(%d)`, mostSaid)); err != nil {
		if ctx.Err() != nil {
			return ctx.Err()
		}
		says = []string{InWords(err).Error()}
	}
	if len(says) == 1 && says[0] == "ok" {
		says = nil
	}
	var loose []struct {
		Table, Parent string
	}
	if err := s.db.SelectContext(ctx, &loose, `SELECT DISTINCT "table", parent FROM pragma_foreign_key_check LIMIT 5`); err == nil {
		for _, l := range loose {
			says = append(says, fmt.Sprintf("a %s names a %s that is not there", things[l.Table], things[l.Parent]))
		}
	}
	if len(says) > 0 {
		s.damaged.Store(&Damaged{says})
	}
	return nil
}

// Prune forgets what writes were answered before a time. An act that comes again after that is still known by its own id.
func (s *Store) Prune(before time.Time) error {
	if err := s.writable(); err != nil {
		return err
	}
	_, err := s.db.Exec(`DELETE FROM mutations WHERE done_at < ?`, before.UTC())
	return err
}
