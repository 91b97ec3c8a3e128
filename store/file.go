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
	"syscall"
	"time"

	"github.com/jmoiron/sqlx"
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
	ErrFault    = errors.New("cannot be read or written: the disk has a fault, or is full")
	ErrBusy     = errors.New("is being written by another program: stop that first")
	errCannot   = errors.New("cannot be opened or made: see to its rights and those of its folder")
	errCorrupt  = errors.New("is damaged: put a copy of it in its place, and keep this one")
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
	db, err := connectToRead(name)
	if err != nil {
		return InWords(err)
	}
	defer db.Close()
	var is struct{ ID, Facts, Steps, Others int }
	if err := db.Get(&is.ID, `PRAGMA application_id`); err != nil {
		return InWords(err)
	}
	if err := db.Get(&is, `
		SELECT count(*) FILTER (WHERE name = 'facts') AS facts, count(*) FILTER (WHERE name = 'goose_db_version') AS steps,
			count(*) FILTER (WHERE name NOT IN ('facts', 'goose_db_version') AND name NOT LIKE 'sqlite_%') AS others
		FROM sqlite_master WHERE type = 'table'`); err != nil {
		return InWords(err)
	}
	own := is.ID == 0 || is.ID == applicationID
	if own && is.Facts == 0 && is.Others == 0 {
		return nil // nothing stands in it yet: its first start was cut off
	}
	if !own || is.Facts == 0 || is.Steps == 0 {
		return errors.New("belongs to another program: it is left as it is")
	}
	version, err := formOf(db)
	if err != nil {
		return err
	}
	if newest := newestMigration(); version > newest {
		return fmt.Errorf("was written by a newer program (its form is %d, this one knows %d): open it with that one. It is left as it is", version, newest)
	}
	return nil
}

// formOf is the number of the last migration that a file has seen.
func formOf(db *sqlx.DB) (version int64, err error) {
	err = db.Get(&version, `SELECT max(version_id) FROM goose_db_version WHERE is_applied`)
	return version, InWords(err)
}

// connectToRead connects to a file without writing to it. In a folder that may not be written SQLite reads one only when it is
// told that nobody else writes it either, which is so where no log lies beside it.
//
// A table whose description is broken hides no other: that is what writable_schema does for one who reads.
func connectToRead(name string) (*sqlx.DB, error) {
	const tolerant = "writable_schema(ON)"
	db, err := connect(name, url.Values{"mode": {"ro"}}, tolerant)
	if err != nil {
		return nil, err
	}
	var pages int
	err = db.Get(&pages, `SELECT count(*) FROM sqlite_master`)
	if err == nil {
		return db, nil
	}
	db.Close()
	barred := code(err) == sqlite3.SQLITE_CANTOPEN || code(err) == sqlite3.SQLITE_READONLY
	if _, missing := os.Stat(name + "-wal"); barred && errors.Is(missing, fs.ErrNotExist) {
		return connect(name, url.Values{"mode": {"ro"}, "immutable": {"1"}}, tolerant)
	}
	return nil, err
}

// OpenToRead opens a file that is there only to be read, also while a program has it open, and changes nothing of it.
func OpenToRead(name string) (*Store, error) {
	db, err := existing(name)
	if err != nil {
		return nil, err
	}
	s := &Store{db: db, path: name, copies: CopiesOf(name), memory: newMemory()}
	s.bar(ErrReadOnly)
	if version, err := formOf(db); err != nil || version < newestMigration() {
		db.Close()
		return nil, fmt.Errorf("the data file %q was written by an older program: open it with serve once, so that it is brought up to date", name)
	}
	return s, nil
}

// openToRead opens a file that could not be opened to be written, for a reason.
func openToRead(name string, copies Copies, reason error) (*Store, error) {
	var uncopied noCopy
	switch {
	case errors.As(reason, &uncopied) && mayWrite(name):
		return nil, reason
	case errors.As(reason, &uncopied):
		reason = ErrReadOnly
	case errors.Is(reason, errCannot) && !mayWrite(name):
		reason = ErrReadOnly // on a disk that may only be read
	case errors.Is(reason, errCorrupt):
		reason = &Damaged{[]string{"a part of it cannot be read"}}
	case !errors.Is(reason, ErrReadOnly):
		return nil, reason
	}
	db, err := connectToRead(name)
	if err != nil {
		return nil, InWords(err)
	}
	s := &Store{db: db, path: name, copies: copies, memory: newMemory()}
	s.bar(reason)
	version, err := formOf(db)
	if err == nil && version < newestMigration() {
		err = errors.New("was written by an older program and may not be written now: see to its rights, so that it can be brought up to date")
	}
	if err == nil {
		_, err = s.Identity()
	}
	if err != nil {
		db.Close()
		return nil, InWords(err)
	}
	return s, nil
}

// mayWrite tells whether a file that is there may be written.
func mayWrite(name string) bool {
	f, err := os.OpenFile(name, os.O_RDWR, 0)
	if err == nil {
		f.Close()
	}
	return err == nil
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

// code is what kind of fault SQLite found; 0 when it was not SQLite that found it.
func code(err error) int {
	var says *sqlite.Error
	if !errors.As(err, &says) {
		return 0
	}
	return says.Code() & 0xFF
}

// InWords puts what SQLite says into the program's own words, where it knows them.
func InWords(err error) error {
	for _, full := range []error{syscall.ENOSPC, syscall.EFBIG, syscall.EDQUOT} {
		if errors.Is(err, full) {
			return ErrFull
		}
	}
	switch code(err) {
	case sqlite3.SQLITE_FULL:
		return ErrFull
	case sqlite3.SQLITE_READONLY:
		return ErrReadOnly
	case sqlite3.SQLITE_CANTOPEN, sqlite3.SQLITE_PERM, sqlite3.SQLITE_AUTH:
		return errCannot
	case sqlite3.SQLITE_NOTADB:
		return errors.New("is no data file of this program: it is left as it is")
	case sqlite3.SQLITE_CORRUPT:
		return errCorrupt
	case sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED:
		return ErrBusy
	case sqlite3.SQLITE_IOERR:
		return ErrFault
	}
	return err
}

// writable refuses to write to a file that is only read, or that is no longer where it was opened.
func (s *Store) writable() error {
	if why := s.Barred(); why != nil {
		return why
	}
	if now, err := os.Stat(s.path); err != nil || !os.SameFile(now, s.opened) {
		return ErrGone
	}
	return nil
}

// Barred says why the file is only read; nil while it is written too.
func (s *Store) Barred() error {
	if why := s.barred.Load(); why != nil {
		return *why
	}
	return nil
}

func (s *Store) bar(why error) { s.barred.Store(&why) }

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
		s.bar(&Damaged{says})
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

// Form says in which form this program keeps a file.
func Form() string { return fmt.Sprintf("%d-%s", newestMigration(), derivation) }

// FormNumber is that form as a file counts it.
func FormNumber() int64 { return newestMigration() }
