package store

import (
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
)

// Copies says where copies of a file are kept, and how many of those that are made night by night; of these the first of each of the last
// twelve months is kept beside them.
type Copies struct {
	Folder string
	Keep   int
}

// UsualKeep is how many of those that are made night by night are kept where nothing else is said.
const UsualKeep = 14

const (
	keptForms  = 3 // copies from before a change of form
	keptMonths = 12
)

// CopiesOf is where the copies of a file are kept where nothing else is said: in a folder beside it.
func CopiesOf(name string) Copies {
	return Copies{filepath.Join(filepath.Dir(name), stemOf(name)+"-backups"), UsualKeep}
}

// stemOf is how the names of a file's copies begin.
func stemOf(name string) string { return strings.TrimSuffix(filepath.Base(name), filepath.Ext(name)) }

// Copied is a copy of a file that was found whole: when it was made, how large it is, how many writes the file had taken by then, and how
// many rows stand in each of its tables.
type Copied struct {
	Path   string
	At     time.Time
	Bytes  int64
	Writes int
	Rows   map[string]int
}

// copyBefore copies a file that holds data whole, before it is brought to a newer form. It does nothing for a file that is new, or that has
// the newest form. Without a copy that was found whole nothing may be changed.
func copyBefore(name string, copies Copies, now time.Time) error {
	if info, err := os.Stat(name); errors.Is(err, fs.ErrNotExist) || err == nil && info.Size() == 0 {
		return nil
	}
	db, err := connectToRead(name)
	if err != nil {
		return InWords(err)
	}
	defer db.Close()
	if holds, err := holdsData(db); err != nil || !holds {
		return err
	}
	form, err := formOf(db)
	if err != nil || form >= newestMigration() {
		return err
	}
	if _, err = copies.add(db, name, fmt.Sprintf("-form%d", form), now); err != nil {
		return noCopy{InWords(err)}
	}
	return nil
}

// noCopy says why a file was not brought up to date: no whole copy of it could be made first.
type noCopy struct{ why error }

func (n noCopy) Error() string {
	return fmt.Sprintf("is not brought up to date: no whole copy of it could be made first (%s). It is left as it is", n.why)
}

func (n noCopy) Unwrap() error { return n.why }

// holdsData tells whether a line was ever begun in the file.
func holdsData(db *sqlx.DB) (bool, error) {
	var lines, tables int
	if err := db.Get(&tables, `SELECT count(*) FROM sqlite_master WHERE type = 'table' AND name = 'lines'`); err != nil || tables == 0 {
		return false, InWords(err)
	}
	err := db.Get(&lines, `SELECT count(*) FROM lines`)
	return lines > 0, InWords(err)
}

// add makes a copy of a file under the name that says when it was made, and what for, and clears away those that are no longer kept.
func (c Copies) add(db *sqlx.DB, name, what string, now time.Time) (Copied, error) {
	if err := os.MkdirAll(c.Folder, 0o700); err != nil {
		return Copied{}, fmt.Errorf("the folder %s may not be made", c.Folder)
	}
	stem := stemOf(name)
	made, err := wholeCopy(db, filepath.Join(c.Folder, stem+now.UTC().Format(copyTime)+what+".db"))
	if err != nil {
		return made, err
	}
	return made, c.sweep(db, stem)
}

// copyTime is how the name of a copy says when it was made.
const copyTime = "-20060102T150405Z"

// wholeCopy writes a copy under a name that is no copy's, finds it whole, and only then gives it its own.
func wholeCopy(db *sqlx.DB, to string) (c Copied, err error) {
	part := to + ".part"
	if err := os.Remove(part); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return c, err
	}
	defer os.Remove(part) // it is no longer there where all went well
	before, err := rowsIn(db)
	if err != nil {
		return c, err
	}
	if _, err := db.Exec(`VACUUM INTO ?`, part); err != nil {
		return c, err
	}
	after, err := rowsIn(db)
	if err != nil {
		return c, err
	}
	if c, err = foundWhole(part, db, before, after); err != nil {
		return c, err
	}
	if err := synced(part); err != nil {
		return c, err
	}
	if err := os.Rename(part, to); err != nil {
		return c, err
	}
	c.Path = to
	return c, synced(filepath.Dir(to))
}

// synced has the disk keep what was written to a file or a folder.
func synced(name string) error {
	f, err := os.Open(name)
	if err != nil {
		return err
	}
	return errors.Join(f.Sync(), f.Close())
}

// foundWhole opens a copy and finds it whole, with as many rows in every table as what it was copied from had before, or after, or between.
func foundWhole(name string, db *sqlx.DB, before, after map[string]int) (c Copied, err error) {
	found, err := connect(name, url.Values{"mode": {"ro"}})
	if err != nil {
		return c, err
	}
	defer found.Close()
	if err := isSound(found); err != nil {
		return c, err
	}
	var loose, tornBefore int
	if err := errors.Join(found.Get(&loose, `SELECT count(*) FROM pragma_foreign_key_check`), db.Get(&tornBefore, `SELECT count(*) FROM pragma_foreign_key_check`)); err != nil {
		return c, err
	}
	if loose != tornBefore {
		return c, fmt.Errorf("the copy names %d things that are not there, the file %d", loose, tornBefore)
	}
	if whose(found) != whose(db) {
		return c, errors.New("the copy is not of this file")
	}
	is, err := rowsIn(found)
	if err != nil {
		return c, err
	}
	for table, n := range before {
		if is[table] < min(n, after[table]) || is[table] > max(n, after[table]) {
			return c, fmt.Errorf("the copy holds %d rows of %s, the file %d", is[table], table, n)
		}
	}
	if c, err = copied(name, found); err == nil {
		c.Rows = is
	}
	return c, err
}

// isSound reads through a whole file.
func isSound(db *sqlx.DB) error {
	var says []string
	if err := db.Select(&says, `PRAGMA integrity_check`); err != nil {
		return err
	}
	if !slices.Equal(says, []string{"ok"}) {
		return fmt.Errorf("the copy is damaged: %s", strings.Join(says[:min(len(says), mostSaid)], "; "))
	}
	return nil
}

// copied is what a copy says of itself.
func copied(name string, db *sqlx.DB) (c Copied, err error) {
	info, err := os.Stat(name)
	if err != nil {
		return c, err
	}
	c.Path, c.Bytes = name, info.Size()
	var writes string
	if err := db.Get(&writes, `SELECT coalesce(max(value), '0') FROM facts WHERE key = 'writes'`); err != nil {
		return c, err
	}
	c.Writes, err = strconv.Atoi(writes)
	return c, err
}

// rowsIn counts the rows of every table.
func rowsIn(db *sqlx.DB) (map[string]int, error) {
	var tables []string
	if err := db.Select(&tables, `SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'`); err != nil {
		return nil, err
	}
	found := map[string]int{}
	for _, table := range tables {
		n := 0
		if err := db.Get(&n, fmt.Sprintf(`SELECT count(*) FROM "%s"`, table)); err != nil {
			return nil, err
		}
		found[table] = n
	}
	return found, nil
}

// whose is the identity that stands in a file; blank where none can be read.
func whose(db *sqlx.DB) string {
	var id string
	if err := db.Get(&id, `SELECT group_concat(key || '=' || value) FROM (SELECT key, value FROM facts WHERE key IN ('id', 'epoch') ORDER BY key)`); err != nil {
		return ""
	}
	return id
}

// named is how the names of copies go on after the name of their file: when they were made, and of which form where that was the reason.
var named = regexp.MustCompile(`^(-\d{8}T\d{6}Z)(-form\d+)?\.db$`)

// copyNamed reads the name of a copy of a file.
func copyNamed(stem, name string) (at time.Time, form, ok bool) {
	rest, ours := strings.CutPrefix(name, stem)
	parts := named.FindStringSubmatch(rest)
	if !ours || parts == nil {
		return at, false, false
	}
	at, err := time.Parse(copyTime, parts[1])
	return at, parts[2] != "", err == nil
}

// sweep removes the copies of a file that are no longer kept, and what a copy that broke off left behind; never the newest, and nothing of
// another file.
func (c Copies) sweep(db *sqlx.DB, stem string) error {
	entries, err := os.ReadDir(c.Folder)
	if err != nil {
		return err
	}
	var nightly, forms []time.Time
	names := map[time.Time][]string{}
	for _, entry := range entries {
		whole := strings.TrimSuffix(entry.Name(), ".part")
		at, form, ok := copyNamed(stem, whole)
		path := filepath.Join(c.Folder, entry.Name())
		if ok && whole != entry.Name() {
			os.Remove(path)
			continue
		}
		if !ok {
			continue
		}
		if _, ours := copyAt(db, path); !ours {
			continue
		}
		names[at] = append(names[at], path)
		if form {
			forms = append(forms, at)
		} else {
			nightly = append(nightly, at)
		}
	}
	for _, at := range append(noLonger(nightly, c.Keep, keptMonths), noLonger(forms, keptForms, 0)...) {
		for _, path := range names[at] {
			if err := os.Remove(path); err != nil {
				return err
			}
		}
	}
	return nil
}

// noLonger are the times of copies that are neither among the newest so many nor the first of one of the last so many months that have any.
func noLonger(at []time.Time, newest, months int) []time.Time {
	at = slices.Clone(at)
	slices.SortFunc(at, time.Time.Compare)
	first := map[string]time.Time{}
	var had []string
	for _, t := range at {
		month := t.Format("2006-01")
		if _, ok := first[month]; !ok {
			first[month] = t
			had = append(had, month)
		}
	}
	var kept []time.Time
	for _, month := range had[max(0, len(had)-months):] {
		kept = append(kept, first[month])
	}
	old := at[:max(0, len(at)-newest)]
	return slices.DeleteFunc(slices.Clone(old), func(t time.Time) bool { return slices.Contains(kept, t) })
}

// Copy makes a copy of the file among those that are kept night by night.
func (s *Store) Copy(now time.Time) (Copied, error) {
	db, err := connectToRead(s.path)
	if err != nil {
		return Copied{}, InWords(err)
	}
	defer db.Close()
	c, err := s.copies.add(db, s.path, "", now)
	c.At = now.UTC()
	return c, InWords(err)
}

// LastCopy is the newest whole copy of the file that is kept; false where there is none.
func (s *Store) LastCopy() (newest Copied, ok bool, err error) {
	entries, err := os.ReadDir(s.copies.Folder)
	if errors.Is(err, fs.ErrNotExist) {
		return newest, false, nil
	}
	if err != nil {
		return newest, false, err
	}
	for _, entry := range entries {
		at, _, named := copyNamed(stemOf(s.path), entry.Name())
		if !named || !at.After(newest.At) {
			continue
		}
		if c, ours := copyAt(s.db, filepath.Join(s.copies.Folder, entry.Name())); ours {
			newest, ok = c, true
			newest.At = at
		}
	}
	return newest, ok, nil
}

// Backup writes a copy of a data file to a path where nothing is yet, also while a program has the file open.
func Backup(data, out string) (Copied, error) {
	if err := mayBeMade(out); err != nil {
		return Copied{}, err
	}
	db, err := existing(data)
	if err != nil {
		return Copied{}, err
	}
	defer db.Close()
	c, err := wholeCopy(db, out)
	if err != nil {
		return c, fmt.Errorf("no whole copy of %q could be made: %w", data, InWords(err))
	}
	return c, nil
}

// existing connects to a data file of the program that is there, to read it.
func existing(data string) (*sqlx.DB, error) {
	wrong := func(err error) error { return fmt.Errorf("the data file %q %w", data, err) }
	if err := ours(data); err != nil {
		return nil, wrong(err)
	}
	if info, err := os.Stat(data); err != nil || info.Size() == 0 {
		return nil, wrong(errors.New("is not there, or is empty"))
	}
	db, err := connectToRead(data)
	if err != nil {
		return nil, wrong(InWords(err))
	}
	return db, nil
}

// mayBeMade refuses a path where something lies already, or that lies in no folder.
func mayBeMade(path string) error {
	if _, err := os.Lstat(path); err == nil {
		return fmt.Errorf("%q is there already: name a file that is not", path)
	}
	if folder, err := os.Stat(filepath.Dir(path)); err != nil || !folder.IsDir() {
		return fmt.Errorf("%q lies in a folder that is not there", path)
	}
	return nil
}

// copyAt reads what a copy says of itself; false for one that is not of this file.
func copyAt(db *sqlx.DB, name string) (Copied, bool) {
	found, err := connectToRead(name)
	if err != nil {
		return Copied{}, false
	}
	defer found.Close()
	if whose(found) != whose(db) {
		return Copied{}, false
	}
	c, err := copied(name, found)
	return c, err == nil
}
