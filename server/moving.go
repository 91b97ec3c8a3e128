package server

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/oklog/ulid/v2"

	"oldburrow/archive"
	"oldburrow/core/line"
	"oldburrow/store"
)

// Moving is how far an archive has gone out or come in. At the end ID is that of what waits to be fetched, or to be taken in, and TakenIn what
// came of it, or would; Problem is what went wrong.
type Moving struct {
	Done    int              `json:"done"`
	Of      int              `json:"of"`
	ID      string           `json:"id,omitempty"`
	Name    string           `json:"name,omitempty"`
	TakenIn *archive.TakenIn `json:"takenIn,omitempty"`
	Problem *Problem         `json:"problem,omitempty"`
}

// Saving is what is asked for when all is saved to one file: what others need not see.
type Saving struct {
	Without []string `json:"without"`
}

const (
	largestArchive  = 512 << 20
	longestArchive  = 15 * time.Minute // in which an upload has to be here
	archivesWaitFor = time.Hour
)

// moveStream answers line by line how far something is, and at the end what came of it or what went wrong.
func moveStream(c *gin.Context, do func(ctx context.Context, tell archive.Progress) (Moving, error)) {
	lines(c, func(ctx context.Context, tell func(any)) error {
		told := time.Now()
		last, err := do(ctx, func(done, of int) {
			if time.Since(told) > tellMovingEvery {
				told = time.Now()
				tell(Moving{Done: done, Of: of})
			}
		})
		if ctx.Err() != nil {
			return ctx.Err() // it was stopped
		}
		if err != nil {
			problem := problemOf(err)
			if problem.Status == http.StatusInternalServerError {
				slog.Error("request failed", "path", c.Request.URL.Path, "error", err)
			}
			last = Moving{Problem: &problem}
		}
		tell(last)
		return nil
	})
}

const tellMovingEvery = 200 * time.Millisecond

// waiting is where archives lie that wait to be fetched or to be taken in: beside the file, on its disk.
func (s *Server) waiting(id, what string) string {
	name := s.Store.Path()
	return strings.TrimSuffix(name, filepath.Ext(name)) + "-" + what + "-" + id + ".zip"
}

// clearWaiting lets go of archives that nobody has fetched or taken in; at the start of all.
func (s *Server) clearWaiting(before time.Time) {
	for _, what := range []string{saved, brought} {
		found, _ := filepath.Glob(s.waiting("*", what) + "*")
		for _, path := range found {
			if info, err := os.Stat(path); err == nil && info.ModTime().Before(before) {
				_ = os.Remove(path)
			}
		}
	}
}

const (
	saved   = "saved"
	brought = "brought"
)

// saveAll saves all that the file holds to one archive, which then waits to be fetched.
func (s *Server) saveAll(c *gin.Context) {
	var q Saving
	if !decode(c, &q) {
		return
	}
	s.clearWaiting(time.Now().Add(-archivesWaitFor))
	moveStream(c, func(ctx context.Context, tell archive.Progress) (Moving, error) {
		id := ulid.Make().String()
		now := s.Clock.Now()
		m, err := archive.SaveAs(ctx, s.Store, s.waiting(id, saved), archive.Ask{Without: q.Without, Program: s.Version, At: now}, tell)
		name := "old-burrow-" + now.Format(time.DateOnly) + ".zip"
		if len(m.LeftOut) > 0 {
			name = "old-burrow-for-others-" + now.Format(time.DateOnly) + ".zip"
		}
		return Moving{ID: id, Name: name}, err
	})
}

// fetchSaved hands out an archive that was saved.
func (s *Server) fetchSaved(c *gin.Context) {
	id := c.Param("id")
	if !line.IsID(id) {
		fail(c, store.ErrUnknown)
		return
	}
	if _, err := os.Stat(s.waiting(id, saved)); err != nil {
		fail(c, store.ErrUnknown)
		return
	}
	name := c.Query("name")
	if !strings.HasPrefix(name, "old-burrow-") || strings.ContainsAny(name, `/\"`) {
		name = "old-burrow.zip"
	}
	c.FileAttachment(s.waiting(id, saved), name)
}

// bringArchive takes an archive up, and says what would come of it; it then waits to be taken in.
func (s *Server) bringArchive(c *gin.Context) {
	s.clearWaiting(time.Now().Add(-archivesWaitFor))
	id := ulid.Make().String()
	path := s.waiting(id, brought)
	if err := s.receive(c, path); err != nil {
		os.Remove(path)
		var large *http.MaxBytesError
		if errors.As(err, &large) {
			c.Header("Connection", "close")
			answer(c, Problem{Title: "Too large", Status: http.StatusRequestEntityTooLarge, Detail: fmt.Sprintf("An archive that is opened here may be at most %d MB; oldburrow import on the command line takes larger ones.", largestArchive>>20)})
			return
		}
		fail(c, store.InWords(err))
		return
	}
	moveStream(c, func(ctx context.Context, tell archive.Progress) (Moving, error) {
		report, err := s.takeArchive(ctx, id, true, tell)
		if err != nil || report.Already {
			os.Remove(path)
		}
		return Moving{ID: id, TakenIn: &report}, err
	})
}

// receive writes what is sent to a file, without holding it in memory.
func (s *Server) receive(c *gin.Context, path string) error {
	f, err := os.OpenFile(path, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return err
	}
	_, err = io.Copy(f, http.MaxBytesReader(c.Writer, c.Request.Body, largestArchive))
	return errors.Join(err, f.Close())
}

func (s *Server) takeArchive(ctx context.Context, id string, try bool, tell archive.Progress) (r archive.TakenIn, err error) {
	f, err := os.Open(s.waiting(id, brought))
	if err != nil {
		return r, store.ErrUnknown
	}
	defer f.Close()
	info, err := f.Stat()
	if err != nil {
		return r, err
	}
	a, err := archive.Open(f, info.Size(), store.FormNumber())
	if err != nil {
		return r, err
	}
	// Taken in twice it changes nothing: the file's own id is that of the change.
	defer s.wakes()
	return archive.Take(ctx, s.Store, a, store.Asked{ID: id}, s.Clock.Now(), try, tell)
}

// openArchive takes in an archive that waits.
func (s *Server) openArchive(c *gin.Context) {
	id := c.Param("id")
	if !line.IsID(id) {
		fail(c, store.ErrUnknown)
		return
	}
	moveStream(c, func(ctx context.Context, tell archive.Progress) (Moving, error) {
		report, err := s.takeArchive(ctx, id, false, tell)
		if err == nil {
			os.Remove(s.waiting(id, brought))
		}
		return Moving{TakenIn: &report}, err
	})
}
