// Package store keeps lines in one SQLite file. A write is on the disk before it is acknowledged, and it carries a mutation
// id kept in its own transaction: a repeated write changes nothing and answers what the first one answered.
package store

import (
	"context"
	"database/sql"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"strconv"
	"sync/atomic"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"
	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the driver, without cgo

	"oldburrow/core/line"
	"oldburrow/core/refuse"
)

//go:embed migrations/*.sql
var migrations embed.FS

// ErrUnknown is returned for an id that the data file does not hold.
var ErrUnknown = refuse.ErrUnknown

// Conflict is returned when something editable was changed by another writer since it was read. Theirs is what stands.
type Conflict struct{ Theirs any }

func (Conflict) Error() string { return "changed by another since it was read" }

// Taken is returned for an id that stands for something else already: another act, or a record of another line.
type Taken struct{ What string }

func (t Taken) Error() string {
	return "the id of this " + t.What + " stands for something else already"
}

// Store is an open data file. Path is where it lies.
type Store struct {
	db     *sqlx.DB
	path   string
	copies Copies
	opened os.FileInfo
	barred atomic.Pointer[error]
	memory memory
}

// View is what the file holds at one moment. What of it cannot be read is noted and left out, and hides nothing else.
type View struct {
	q      sqlx.Queryer
	unread *[]Unreadable
	memory memory // none for a change under way
}

// Unreadable is a record that stands in the file and cannot be read, and why.
type Unreadable = line.Unreadable

// Unread lists what could not be read so far.
func (v View) Unread() []Unreadable {
	if v.unread == nil {
		return []Unreadable{}
	}
	return append([]Unreadable{}, *v.unread...)
}

// Read looks at the file as it stands now; nothing that is written meanwhile is seen.
func (s *Store) Read(ctx context.Context, look func(View) error) error {
	tx, err := s.db.BeginTxx(ctx, &sql.TxOptions{ReadOnly: true})
	if err != nil {
		return fmt.Errorf("begin to read: %w", err)
	}
	defer tx.Rollback()
	return look(View{asked{ctx, tx}, &[]Unreadable{}, s.memory})
}

// asked reads as long as somebody waits for it.
type asked struct {
	ctx context.Context
	tx  *sqlx.Tx
}

func (a asked) Query(query string, args ...any) (*sql.Rows, error) {
	return a.tx.QueryContext(a.ctx, query, args...)
}

func (a asked) Queryx(query string, args ...any) (*sqlx.Rows, error) {
	return a.tx.QueryxContext(a.ctx, query, args...)
}

func (a asked) QueryRowx(query string, args ...any) *sqlx.Row {
	return a.tx.QueryRowxContext(a.ctx, query, args...)
}

// Open opens a data file, makes it when it is not there, and brings it up to date. A file that is not the program's own, or that
// a newer program has written, is refused unchanged. One that may not be written, or in which something cannot be read, is opened
// only to be read, as far as it goes: Barred says why.
func Open(path string) (*Store, error) { return OpenWith(path, CopiesOf(path)) }

// OpenWith is Open for a file whose copies are kept elsewhere.
func OpenWith(path string, copies Copies) (*Store, error) {
	s, err := openFile(path, copies)
	if err != nil {
		return nil, fmt.Errorf("the data file %q %w", path, err)
	}
	return s, nil
}

func openFile(path string, copies Copies) (*Store, error) {
	if err := ours(path); err != nil {
		return nil, err
	}
	db, err := connect(path, url.Values{"_txlock": {"immediate"}}, "journal_mode(WAL)", "synchronous(FULL)", "foreign_keys(ON)")
	if err != nil {
		return nil, InWords(err)
	}
	s := &Store{db: db, path: path, copies: copies, memory: newMemory()}
	if err = InWords(s.prepare()); err != nil {
		db.Close()
		return openToRead(path, copies, err)
	}
	if s.opened, err = os.Stat(path); err != nil {
		db.Close()
		return nil, InWords(err)
	}
	return s, nil
}

func connect(path string, settings url.Values, pragmas ...string) (*sqlx.DB, error) {
	settings["_pragma"] = append([]string{"busy_timeout(5000)"}, pragmas...)
	settings.Set("_time_format", "sqlite")
	db, err := sqlx.Open("sqlite", "file:"+(&url.URL{Path: path}).EscapedPath()+"?"+settings.Encode())
	if err == nil {
		// Each holds pages of its own in memory: more at a time would be no quicker.
		db.SetMaxOpenConns(mostConns)
		db.SetMaxIdleConns(idleConns)
	}
	return db, err
}

const (
	mostConns = 24
	idleConns = 6
)

func (s *Store) prepare() error {
	if err := copyBefore(s.path, s.copies, time.Now()); err != nil {
		return err
	}
	// Before anything else: a first start that is cut off leaves a file that is known again.
	if _, err := s.db.Exec(fmt.Sprintf(`PRAGMA application_id = %d`, applicationID)); err != nil {
		return err
	}
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	steps, err := goose.NewProvider(goose.DialectSQLite3, s.db.DB, files)
	if err != nil {
		return err
	}
	if _, err := steps.Up(context.Background()); err != nil {
		return err
	}
	for _, key := range []string{"id", "epoch"} {
		if _, err := s.db.Exec(`INSERT OR IGNORE INTO facts (key, value) VALUES (?, ?)`, key, ulid.Make().String()); err != nil {
			return err
		}
	}
	if err := s.derive(); err != nil {
		return err
	}
	return s.shareRestored()
}

// Path is where the file lies.
func (s *Store) Path() string { return s.path }

// Close closes the file.
func (s *Store) Close() error { return s.db.Close() }

// Fact reads a note that the program keeps about the file itself; blank when there is none.
func (s *Store) Fact(key string) (string, error) {
	var value string
	err := s.db.Get(&value, `SELECT value FROM facts WHERE key = ?`, key)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	return value, err
}

// Identity names the file and which of its lives this is: one that was restored begins another.
func (s *Store) Identity() (string, error) {
	stands, err := s.Standing()
	return stands.File, err
}

// Standing is which file this is, how many writes it has taken in all, and the latest time at which it took one. A copy of it from
// before has taken fewer.
type Standing struct {
	File   string
	Writes int
	Newest time.Time
}

// Standing reads that.
func (s *Store) Standing() (Standing, error) {
	var facts []struct{ Key, Value string }
	if err := s.db.Select(&facts, `SELECT key, value FROM facts WHERE key IN ('id', 'epoch', 'writes', 'newest')`); err != nil {
		return Standing{}, fmt.Errorf("read which file it is: %w", err)
	}
	said := map[string]string{}
	for _, f := range facts {
		said[f.Key] = f.Value
	}
	writes, _ := strconv.Atoi(said["writes"]) // none while nothing was written
	newest, _ := time.Parse(time.RFC3339, said["newest"])
	return Standing{said["id"] + "/" + said["epoch"], writes, newest}, nil
}

// SetFact keeps such a note.
func (s *Store) SetFact(key, value string) error {
	_, err := s.db.Exec(`INSERT INTO facts (key, value) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value`, key, value)
	return err
}

// Asked is a write as it was asked for: its mutation id, a digest of the whole request, and, where the device told it, what its
// clock showed when it was asked for and by how much the program's was ahead of that.
type Asked struct {
	ID       string     `db:"id"`
	Digest   string     `db:"digest"`
	DeviceAt *time.Time `db:"device_at"`
	OffsetMs *int64     `db:"offset_ms"`
	By       By         `db:"-"`
}

// Write does a change in one transaction and keeps its answer under the mutation id. A mutation that was done before
// changes nothing and answers what it answered then; its id used again for something else is Taken. now is when the write is
// done.
func (s *Store) Write(asked Asked, now time.Time, change func(*Tx) (any, error)) (json.RawMessage, error) {
	if err := s.writable(); err != nil {
		return nil, err
	}
	tx, err := s.db.Beginx()
	if err != nil {
		return nil, fmt.Errorf("begin: %w", err)
	}
	defer tx.Rollback()
	var before struct{ Answer, Digest string }
	err = one(tx, &before, `SELECT answer, digest FROM mutations WHERE id = ?`, asked.ID)
	if err == nil {
		// Those of the program's first versions have no digest.
		if before.Digest != "" && before.Digest != asked.Digest {
			return nil, Taken{"write"}
		}
		return json.RawMessage(before.Answer), nil
	}
	if !errors.Is(err, ErrUnknown) {
		return nil, fmt.Errorf("look for the mutation: %w", err)
	}
	t := newTx(tx, now)
	t.by = asked.By
	result, err := change(t)
	if err == nil {
		err = t.finish()
	}
	if err != nil {
		return nil, err
	}
	answer, err := json.Marshal(result)
	if err != nil {
		return nil, fmt.Errorf("encode the answer: %w", err)
	}
	row := struct {
		Asked
		Answer string    `db:"answer"`
		DoneAt time.Time `db:"done_at"`
	}{asked, string(answer), now.UTC()}
	if _, err := tx.NamedExec(`
		INSERT INTO mutations (id, digest, device_at, offset_ms, answer, done_at)
		VALUES (:id, :digest, :device_at, :offset_ms, :answer, :done_at)`, row); err != nil {
		return nil, fmt.Errorf("keep the mutation: %w", err)
	}
	if err := counted(tx, now); err != nil {
		return nil, fmt.Errorf("count the write: %w", err)
	}
	if err := tx.Commit(); err != nil {
		return nil, fmt.Errorf("commit: %w", err)
	}
	return answer, nil
}

// counted notes one write more, and when it was done if no other was later.
func counted(tx *sqlx.Tx, now time.Time) error {
	_, err := tx.Exec(`
		INSERT INTO facts (key, value) VALUES ('writes', '1'), ('newest', ?)
		ON CONFLICT (key) DO UPDATE SET value = CASE key WHEN 'writes' THEN CAST(CAST(value AS INTEGER) + 1 AS TEXT) ELSE max(value, excluded.value) END`,
		now.UTC().Format(time.RFC3339))
	return err
}

// Tx is a change under way. It sees what it has changed.
type Tx struct {
	View
	tx         *sqlx.Tx
	statements map[string]*sqlx.NamedStmt // that write to a table, by their text; they end with the change
	finds      map[string]*sqlx.Stmt      // likewise those that find a row of a line by its id
	now        time.Time
	by         By
	seasons    map[string]line.Seasons // by line, as far as they were read
	touched    map[string]string       // lures that something happened to, with their lines
}

func newTx(tx *sqlx.Tx, now time.Time) *Tx {
	return &Tx{
		View: View{q: tx, unread: &[]Unreadable{}}, tx: tx, statements: map[string]*sqlx.NamedStmt{}, finds: map[string]*sqlx.Stmt{}, now: now,
		seasons: map[string]line.Seasons{}, touched: map[string]string{},
	}
}
