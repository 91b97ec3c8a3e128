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
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/oklog/ulid/v2"
	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the driver, without cgo
)

//go:embed migrations/*.sql
var migrations embed.FS

// ErrUnknown is returned for an id that the data file does not hold.
var ErrUnknown = errors.New("no such record")

// Conflict is returned when something editable was changed by another writer since it was read. Theirs is what stands.
type Conflict struct{ Theirs any }

func (Conflict) Error() string { return "changed by another since it was read" }

// Store is an open data file.
type Store struct{ db *sqlx.DB }

// Open opens a data file, makes it when it is not there, and brings it up to date.
func Open(path string) (*Store, error) {
	settings := url.Values{
		"_pragma":      {"busy_timeout(5000)", "journal_mode(WAL)", "synchronous(FULL)", "foreign_keys(ON)"},
		"_time_format": {"sqlite"},
		"_txlock":      {"immediate"},
	}
	db, err := sqlx.Open("sqlite", "file:"+(&url.URL{Path: path}).EscapedPath()+"?"+settings.Encode())
	if err != nil {
		return nil, fmt.Errorf("open %s: %w", path, err)
	}
	s := &Store{db: db}
	if err := s.prepare(); err != nil {
		db.Close()
		return nil, fmt.Errorf("open %s: %w", path, err)
	}
	return s, nil
}

func (s *Store) prepare() error {
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
	return nil
}

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

// SetFact keeps such a note.
func (s *Store) SetFact(key, value string) error {
	_, err := s.db.Exec(`INSERT INTO facts (key, value) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET value = excluded.value`, key, value)
	return err
}

// Write does a change in one transaction and keeps its answer under the mutation id. A mutation that was done before
// changes nothing and answers what it answered then. now is when the write is done.
func (s *Store) Write(mutation string, now time.Time, change func(*Tx) (any, error)) (json.RawMessage, error) {
	tx, err := s.db.Beginx()
	if err != nil {
		return nil, fmt.Errorf("begin: %w", err)
	}
	defer tx.Rollback()
	var before string
	err = tx.Get(&before, `SELECT answer FROM mutations WHERE id = ?`, mutation)
	if err == nil {
		return json.RawMessage(before), nil
	}
	if !errors.Is(err, sql.ErrNoRows) {
		return nil, fmt.Errorf("look for the mutation: %w", err)
	}
	result, err := change(newTx(tx))
	if err != nil {
		return nil, err
	}
	answer, err := json.Marshal(result)
	if err != nil {
		return nil, fmt.Errorf("encode the answer: %w", err)
	}
	if _, err := tx.Exec(`INSERT INTO mutations (id, answer, done_at) VALUES (?, ?, ?)`, mutation, string(answer), now.UTC()); err != nil {
		return nil, fmt.Errorf("keep the mutation: %w", err)
	}
	if err := tx.Commit(); err != nil {
		return nil, fmt.Errorf("commit: %w", err)
	}
	return answer, nil
}

// Tx is a change under way.
type Tx struct {
	tx         *sqlx.Tx
	statements map[string]*sqlx.NamedStmt // that write to a table, by its name; they end with the change
	finds      map[string]*sqlx.Stmt      // likewise those that find a row by its id
}

func newTx(tx *sqlx.Tx) *Tx { return &Tx{tx, map[string]*sqlx.NamedStmt{}, map[string]*sqlx.Stmt{}} }
