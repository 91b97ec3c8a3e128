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
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
)

// keptCopies is how many copies from before a change of form are kept beside a file.
const keptCopies = 3

// copyBefore copies a file that holds data whole into the folder of its copies, before it is brought to a newer form, and reads the copy
// back. It does nothing for a file that is new, or that has the newest form. Without a copy that was found whole nothing may be changed.
func copyBefore(name string, now time.Time) error {
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
	to, err := wholeCopy(db, name, form, now)
	if err != nil {
		return noCopy{InWords(err)}
	}
	return sweep(db, to)
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

// copiesOf is the folder in which the copies of a file lie, and how their names begin.
func copiesOf(name string) (folder, stem string) {
	stem = strings.TrimSuffix(filepath.Base(name), filepath.Ext(name))
	return filepath.Join(filepath.Dir(name), stem+"-backups"), stem
}

// wholeCopy writes a copy under a name that is no copy's, finds it whole, and only then gives it its own.
func wholeCopy(db *sqlx.DB, name string, form int64, now time.Time) (string, error) {
	folder, stem := copiesOf(name)
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return "", fmt.Errorf("the folder %s may not be made", folder)
	}
	to := filepath.Join(folder, fmt.Sprintf("%s-%s-form%d.db", stem, now.UTC().Format("20060102T150405Z"), form))
	part := to + ".part"
	if err := os.Remove(part); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return "", err
	}
	if _, err := db.Exec(`VACUUM INTO ?`, part); err != nil {
		os.Remove(part)
		return "", err
	}
	if err := sameRows(db, part); err != nil {
		os.Remove(part)
		return "", err
	}
	if err := synced(part); err != nil {
		return "", err
	}
	if err := os.Rename(part, to); err != nil {
		return "", err
	}
	return to, synced(folder)
}

// synced has the disk keep what was written to a file or a folder.
func synced(name string) error {
	f, err := os.Open(name)
	if err != nil {
		return err
	}
	return errors.Join(f.Sync(), f.Close())
}

// sameRows opens a copy and finds it whole, with as many rows in every table as what it was copied from.
func sameRows(db *sqlx.DB, name string) error {
	found, err := connect(name, url.Values{"mode": {"ro"}})
	if err != nil {
		return err
	}
	defer found.Close()
	var says []string
	if err := found.Select(&says, `PRAGMA integrity_check`); err != nil {
		return err
	}
	if !slices.Equal(says, []string{"ok"}) {
		return fmt.Errorf("the copy is damaged: %s", strings.Join(says, "; "))
	}
	var loose, tornBefore int
	if err := errors.Join(found.Get(&loose, `SELECT count(*) FROM pragma_foreign_key_check`), db.Get(&tornBefore, `SELECT count(*) FROM pragma_foreign_key_check`)); err != nil {
		return err
	}
	if loose != tornBefore {
		return fmt.Errorf("the copy names %d things that are not there, the file %d", loose, tornBefore)
	}
	if whose(found) != whose(db) {
		return errors.New("the copy is not of this file")
	}
	was, err := rowsIn(db)
	if err != nil {
		return err
	}
	is, err := rowsIn(found)
	if err != nil {
		return err
	}
	for table, n := range was {
		if is[table] != n {
			return fmt.Errorf("the copy holds %d rows of %s, the file %d", is[table], table, n)
		}
	}
	return nil
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

// formed is how the name of a copy from before a change of form ends: when, of which form.
var formed = regexp.MustCompile(`-\d{8}T\d{6}Z-form\d+\.db$`)

// sweep removes the oldest copies of a file beyond those that are kept, and what a copy that broke off left behind; never the newest, and
// nothing of another file.
func sweep(db *sqlx.DB, newest string) error {
	folder, base := filepath.Split(newest)
	stem := base[:formed.FindStringIndex(base)[0]]
	entries, err := os.ReadDir(folder)
	if err != nil {
		return err
	}
	var copies []string
	for _, entry := range entries {
		name := entry.Name()
		whole := strings.TrimSuffix(name, ".part")
		at := formed.FindStringIndex(whole)
		if at == nil || whole[:at[0]] != stem {
			continue
		}
		switch {
		case whole != name:
			os.Remove(filepath.Join(folder, name))
		case isOf(db, filepath.Join(folder, name)):
			copies = append(copies, name)
		}
	}
	slices.Sort(copies) // by the time that they name
	for _, old := range copies[:max(0, len(copies)-keptCopies)] {
		if err := os.Remove(filepath.Join(folder, old)); err != nil {
			return err
		}
	}
	return nil
}

// isOf tells whether a copy is one of a file.
func isOf(db *sqlx.DB, name string) bool {
	found, err := connectToRead(name)
	if err != nil {
		return false
	}
	defer found.Close()
	return whose(found) == whose(db)
}
