package store

import (
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"

	"oldburrow/core/line"
)

// By is who asks for a write: a person's id, blank for the owner; and whether that person may change nothing but what is his.
type By struct {
	Who     string
	OwnOnly bool
}

// ErrNotYours is returned when somebody who may change only what is his asks for something else.
var ErrNotYours = errors.New("is somebody else's")

// may tells whether what somebody did may be changed.
func (by By) may(who string) bool { return !by.OwnOnly || by.Who == who }

// whose tells who did something that stands in a table of acts of a line.
func (t *Tx) whose(table, lineID, id string) (who string, err error) {
	return who, one(t.tx, &who, `SELECT who FROM `+table+` WHERE id = ? AND line_id = ?`, id, lineID)
}

// People lists who helps on the lines of the file, and who did.
func (v View) People() ([]line.Person, error) {
	return all[line.Person](v, "people", `SELECT * FROM people ORDER BY name, id`)
}

// PutPerson keeps a new person, or a change to one. Whoever is removed, or may do other things, has to come in anew.
func (t *Tx) PutPerson(x line.Person) (line.Person, error) {
	var stands line.Person
	switch err := one(t.tx, &stands, `SELECT * FROM people WHERE id = ?`, x.ID); {
	case errors.Is(err, ErrUnknown):
		x.Version = 1
		return x, insert(t, "people", x)
	case err != nil:
		return x, fmt.Errorf("look for the person: %w", err)
	case stands.Version != x.Version:
		return x, Conflict{Theirs: stands}
	}
	x.Version++
	if err := update(t, "people", x); err != nil || x.Role == stands.Role && !x.Deleted {
		return x, err
	}
	_, err := t.tx.Exec(`DELETE FROM sessions WHERE person_id = ?`, x.ID)
	return x, err
}

// Session is a device that may come in, or a code with which one may. The secret itself is nowhere; ID is its digest. PersonID is nil for the
// owner.
type Session struct {
	ID       string    `db:"id"`
	Kind     string    `db:"kind"`
	PersonID *string   `db:"person_id"`
	Device   string    `db:"device"`
	MadeAt   time.Time `db:"made_at"`
	SeenAt   time.Time `db:"seen_at"`
	EndsAt   time.Time `db:"ends_at"`
}

// The kinds of session.
const (
	OfDevice = "session"
	OfCode   = "code"
)

// CodeLasts is how long a code can be used.
const CodeLasts = 10 * time.Minute

// How long a session lasts: so long from when it was last used, and no longer than that from when it was made.
const (
	unusedFor = 90 * 24 * time.Hour
	atMost    = 400 * 24 * time.Hour
	noteAfter = time.Hour // it is noted no oftener that one was used
)

// AddSession keeps a session or a code from now on.
func (s *Store) AddSession(x Session, now time.Time) error {
	now = now.UTC()
	x.MadeAt, x.SeenAt, x.EndsAt = now, now, now.Add(unusedFor)
	if x.Kind == OfCode {
		x.EndsAt = now.Add(CodeLasts)
	}
	_, err := s.db.NamedExec(`INSERT INTO sessions (id, kind, person_id, device, made_at, seen_at, ends_at) VALUES (:id, :kind, :person_id, :device, :made_at, :seen_at, :ends_at)`, x)
	return err
}

// TakeCode ends a code and begins a session for whom it was: once, and while it lasts. Else ErrUnknown.
func (s *Store) TakeCode(code, session, device string, now time.Time) error {
	tx, err := s.db.Beginx()
	if err != nil {
		return err
	}
	defer tx.Rollback()
	var is Session
	if err := one(tx, &is, `SELECT * FROM sessions WHERE id = ? AND kind = ? AND ends_at > ?`, code, OfCode, now.UTC()); err != nil {
		return err
	}
	if _, err := tx.Exec(`DELETE FROM sessions WHERE id = ?`, code); err != nil {
		return err
	}
	if _, err := tx.Exec(`INSERT INTO sessions (id, kind, person_id, device, made_at, seen_at, ends_at) VALUES (?, ?, ?, ?, ?, ?, ?)`,
		session, OfDevice, is.PersonID, device, now.UTC(), now.UTC(), now.UTC().Add(unusedFor)); err != nil {
		return err
	}
	return tx.Commit()
}

// Session finds the session of a device, with whose it is, and notes that it was used; ErrUnknown where there is none that lasts.
func (s *Store) Session(id string, now time.Time) (Session, line.Person, error) {
	var is Session
	person := line.Person{Role: line.Owner}
	now = now.UTC()
	if err := one(s.db, &is, `SELECT * FROM sessions WHERE id = ? AND kind = ? AND ends_at > ?`, id, OfDevice, now); err != nil {
		return is, person, err
	}
	if is.PersonID != nil {
		if err := one(s.db, &person, `SELECT * FROM people WHERE id = ? AND NOT deleted`, *is.PersonID); err != nil {
			return is, person, err
		}
	}
	if now.Sub(is.SeenAt) < noteAfter {
		return is, person, nil
	}
	is.SeenAt, is.EndsAt = now, now.Add(unusedFor)
	if last := is.MadeAt.Add(atMost); is.EndsAt.After(last) {
		is.EndsAt = last
	}
	_, err := s.db.Exec(`UPDATE sessions SET seen_at = ?, ends_at = ? WHERE id = ?`, is.SeenAt, is.EndsAt, id)
	return is, person, err
}

// Sessions lists the devices that may come in, those that were used last first.
func (s *Store) Sessions(now time.Time) ([]Session, error) {
	found := []Session{}
	err := s.db.Select(&found, `SELECT * FROM sessions WHERE kind = ? AND ends_at > ? ORDER BY seen_at DESC, id`, OfDevice, now.UTC())
	return found, err
}

// EndSession ends one.
func (s *Store) EndSession(id string) error {
	_, err := s.db.Exec(`DELETE FROM sessions WHERE id = ?`, id)
	return err
}

// EndSessions ends all devices' but one, which may be blank.
func (s *Store) EndSessions(but string) error {
	_, err := s.db.Exec(`DELETE FROM sessions WHERE kind = ? AND id <> ?`, OfDevice, but)
	return err
}

// EndCodes ends all codes, and forgets what has run out.
func (s *Store) EndCodes(now time.Time) error {
	_, err := s.db.Exec(`DELETE FROM sessions WHERE kind = ? OR ends_at <= ?`, OfCode, now.UTC())
	return err
}

// Passphrase is what was kept of the passphrase, blank where there is none.
func (s *Store) Passphrase() (string, error) { return s.Fact(passphrase) }

// SetPassphrase keeps another passphrase, derived, and ends all sessions but one, which may be blank.
func (s *Store) SetPassphrase(derived, but string) error {
	if err := s.SetFact(passphrase, derived); err != nil {
		return err
	}
	return s.EndSessions(but)
}

const passphrase = "passphrase"

// signedOut leaves nobody signed in to a file that is another life of one.
func signedOut(db *sqlx.DB) error {
	_, err := db.Exec(`DELETE FROM sessions`)
	return err
}
