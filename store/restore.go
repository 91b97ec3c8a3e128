package store

import (
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"
)

// Restored is what came of putting a copy in a file's place: where the file that was there lies now; blank where there was none.
type Restored struct {
	Copied
	Aside string
}

// Restore puts a copy in the place of a data file, which no program may have open. The file that was there is set aside under another name,
// and never deleted. What stands there then begins another life: what was meant for the file as it was is known to have been.
func Restore(data, in string, now time.Time) (r Restored, err error) {
	if err := ours(data); err != nil && !errors.Is(err, errCorrupt) { // one that is damaged is what a copy is for
		return r, fmt.Errorf("the data file %q %w", data, err)
	}
	if same, err := os.Stat(in); err == nil {
		if is, err := os.Stat(data); err == nil && os.SameFile(same, is) {
			return r, fmt.Errorf("%q is the data file itself: name a copy of it", in)
		}
	}
	from, err := existing(in)
	if err != nil {
		return r, err
	}
	defer from.Close()
	if err := isSound(from); err != nil {
		return r, fmt.Errorf("%q is not taken: %w", in, InWords(err))
	}
	release, err := Alone(data)
	if err != nil {
		return r, err
	}
	defer release()
	part := data + ".part"
	defer os.Remove(part)
	if r.Copied, err = reborn(from, part); err != nil {
		return r, fmt.Errorf("%q could not be put in the place of %q, which is as it was: %w", in, data, InWords(err))
	}
	if r.Aside, err = setAside(data, now); err != nil {
		return r, fmt.Errorf("%q could not be set aside, and is as it was: %w", data, err)
	}
	if err := os.Rename(part, data); err != nil {
		if _, gone := os.Lstat(data); gone != nil && r.Aside != "" {
			err = errors.Join(err, os.Rename(r.Aside, data))
		}
		return r, fmt.Errorf("%q could not be put in the place of %q: %w", in, data, err)
	}
	r.Path = data
	return r, synced(filepath.Dir(data))
}

// Become closes a file and gives it another name, under which nothing lies.
func (s *Store) Become(name string) error {
	if err := errors.Join(s.Close(), synced(s.path)); err != nil {
		return err
	}
	if err := os.Rename(s.path, name); err != nil {
		return err
	}
	return synced(filepath.Dir(name))
}

// Alone makes sure that nobody has a data file open, brings what lies in its log into it, and keeps others out until it is released.
func Alone(data string) (release func(), err error) {
	if info, err := os.Stat(data); err != nil || info.Size() == 0 {
		return func() {}, nil
	}
	db, err := connect(data, url.Values{"_txlock": {"exclusive"}})
	if err != nil {
		return nil, InWords(err)
	}
	db.SetMaxOpenConns(1)
	release = func() { db.Close() }
	// Only one who is alone with a file may do without its log.
	_, err = db.Exec(`PRAGMA busy_timeout = 500; PRAGMA journal_mode = DELETE`)
	if err == nil {
		var tx *sqlx.Tx
		if tx, err = db.Beginx(); err == nil {
			return func() { tx.Rollback(); db.Close() }, nil
		}
	}
	switch err = InWords(err); {
	case errors.Is(err, errCorrupt): // it is set aside as it is
		return release, nil
	case errors.Is(err, ErrBusy):
		err = errors.New("is open in a program: stop the program first")
	}
	release()
	return nil, fmt.Errorf("the data file %q %w", data, err)
}

// reborn writes a copy that is another life of the file it was made of: nobody is signed in there, and all that it holds is shared.
func reborn(from *sqlx.DB, to string) (c Copied, err error) {
	if c, err = wholeCopy(from, to+".whole"); err != nil {
		return c, err
	}
	if err := os.Rename(c.Path, to); err != nil {
		os.Remove(c.Path)
		return c, err
	}
	db, err := connect(to, url.Values{}, "journal_mode(DELETE)", "synchronous(FULL)")
	if err != nil {
		return c, err
	}
	defer db.Close()
	if err := signedOut(db); err != nil {
		return c, err
	}
	_, err = db.Exec(`INSERT OR REPLACE INTO facts (key, value) VALUES ('epoch', ?), (?, ?)`, ulid.Make().String(), known, asRestored)
	return c, err
}

// setAside gives a data file, with its log, another name, and leaves it under its own until something else is put there.
func setAside(data string, now time.Time) (aside string, err error) {
	if _, err := os.Stat(data); errors.Is(err, fs.ErrNotExist) {
		return "", nil
	}
	name := strings.TrimSuffix(data, filepath.Ext(data)) + ".set-aside" + now.UTC().Format(copyTime)
	aside = name + ".db"
	// Another one of the same second is not written over.
	for n := 2; ; n++ {
		if _, err := os.Lstat(aside); errors.Is(err, fs.ErrNotExist) {
			break
		} else if err != nil {
			return "", err
		}
		aside = fmt.Sprintf("%s-%d.db", name, n)
	}
	for _, part := range []string{"", "-wal"} {
		err := os.Link(data+part, aside+part)
		if errors.Is(err, fs.ErrNotExist) {
			continue
		}
		if err != nil { // a disk that cannot have one file under two names
			err = os.Rename(data+part, aside+part)
		}
		if err != nil {
			return "", err
		}
	}
	// What is put there has no log of this one's.
	for _, part := range []string{"-wal", "-shm"} {
		if err := os.Remove(data + part); err != nil && !errors.Is(err, fs.ErrNotExist) {
			return "", err
		}
	}
	return aside, synced(filepath.Dir(data))
}
