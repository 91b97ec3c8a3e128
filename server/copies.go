package server

import (
	"context"
	"fmt"
	"log/slog"
	"net/http"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"oldburrow/core/round"
	"oldburrow/store"
)

// Backup is the newest whole copy of the data file: when it was made (nil: there is none), where it lies, how large it is, how many writes the
// file has taken since, and why the last try to make one failed.
type Backup struct {
	At    *time.Time `json:"at" jsonschema:"nullable"`
	Where string     `json:"where"`
	Bytes int64      `json:"bytes"`
	Since int        `json:"since"`
	Why   string     `json:"why"`
}

const (
	seeToCopies = time.Minute
	copyAgain   = time.Hour // after one that failed
	oldCopy     = 24 * time.Hour
	nightlyHour = 3
)

// keeper knows how the copies of the file stand.
type keeper struct {
	lock   sync.Mutex
	last   store.Copied
	has    bool
	begun  time.Time
	failed time.Time
	why    string
}

// due tells whether a copy is to be made: once a night, from three in the morning, when something was written since the last one; when the
// program starts, when that one is more than a day old; after a failure not before an hour has passed.
func (k *keeper) due(now time.Time, zone *time.Location, writes int, starts bool) bool {
	k.lock.Lock()
	defer k.lock.Unlock()
	if writes == 0 || k.has && k.last.Writes == writes || now.Before(k.failed.Add(copyAgain)) {
		return false
	}
	if starts && (!k.has || now.Sub(k.last.At) > oldCopy) {
		return true
	}
	since := k.begun
	if k.has {
		since = k.last.At
	}
	return since.Before(lastNight(now, zone))
}

// lastNight is when it was last three in the morning.
func lastNight(now time.Time, zone *time.Location) time.Time {
	y, m, d := now.In(zone).Date()
	at := time.Date(y, m, d, nightlyHour, 0, 0, 0, zone)
	if at.After(now) {
		at = time.Date(y, m, d-1, nightlyHour, 0, 0, 0, zone)
	}
	return at
}

// keepCopies makes whole copies of the file, night by night, until it is told to stop.
func (s *Server) keepCopies(ctx context.Context) {
	starts := true
	s.every(ctx, seeToCopies, func() {
		stands, err := s.Store.Standing()
		if err == nil && s.keeper.due(time.Now(), s.nightZone(ctx), stands.Writes, starts) {
			_ = s.copyNow() // it is told and tried again
		}
		starts = false
	})
}

// nightZone is the zone of the first line, whose nights are the program's.
func (s *Server) nightZone(ctx context.Context) *time.Location {
	zone := time.UTC
	_ = s.Store.Read(ctx, func(v store.View) error {
		lines, err := v.Lines()
		if err != nil || len(lines) == 0 {
			return err
		}
		first := lines[0]
		for _, l := range lines {
			if l.ID < first.ID {
				first = l
			}
		}
		if found, err := round.Zone(first.Zone); err == nil {
			zone = found
		}
		return nil
	})
	return zone
}

// copyNow makes a whole copy, and notes what came of it.
func (s *Server) copyNow() error {
	s.copying.Lock()
	defer s.copying.Unlock()
	now := time.Now()
	made, err := s.Store.Copy(now)
	s.keeper.lock.Lock()
	defer s.keeper.lock.Unlock()
	if err != nil {
		slog.Warn("no whole copy of the data file could be made", "error", err)
		s.keeper.why, s.keeper.failed = err.Error(), now
		return err
	}
	s.keeper.last, s.keeper.has, s.keeper.why, s.keeper.failed = made, true, "", time.Time{}
	return nil
}

// findCopies looks for the newest copy that is kept.
func (s *Server) findCopies() {
	last, has, err := s.Store.LastCopy()
	s.keeper.lock.Lock()
	defer s.keeper.lock.Unlock()
	s.keeper.begun = time.Now()
	s.keeper.last, s.keeper.has = last, has
	if err != nil {
		s.keeper.why = fmt.Sprintf("the folder of the copies cannot be read: %s", err)
	}
}

// backup says how the copies stand; nil where none are kept.
func (s *Server) backup(writes int) *Backup {
	if !s.Copies {
		return nil
	}
	k := &s.keeper
	k.lock.Lock()
	defer k.lock.Unlock()
	b := &Backup{Why: k.why, Since: writes}
	if k.has {
		at := k.last.At
		b.At, b.Where, b.Bytes, b.Since = &at, k.last.Path, k.last.Bytes, max(0, writes-k.last.Writes)
	}
	return b
}

// makeCopy makes a copy at once.
func (s *Server) makeCopy(c *gin.Context) {
	if !s.Copies {
		answer(c, Problem{Title: "Not of the demo", Status: http.StatusNotFound, Detail: "No copies are kept of the demo: its line is made up."})
		return
	}
	if err := s.copyNow(); err != nil {
		answer(c, Problem{Title: "No copy was made", Status: http.StatusInsufficientStorage, Detail: "No whole copy could be made: " + err.Error() + "."})
		return
	}
	stands, err := s.Store.Standing()
	if err != nil {
		fail(c, err)
		return
	}
	reply(c, s.backup(stands.Writes))
}
