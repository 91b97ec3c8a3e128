package server

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"strings"

	"github.com/gin-gonic/gin"

	"oldburrow/archive"
	"oldburrow/core/asked"
	"oldburrow/store"
)

// Problem is what the core says of a question too.
type Problem = asked.Problem

// codeNewer is the code of what a newer page sent.
const codeNewer = asked.NewerCode

// codeBusy is the code of what only has to wait.
const codeBusy = "busy"

// fail answers with the problem that an error is. What is nobody's mistake is logged and not told.
func fail(c *gin.Context, err error) {
	if errors.Is(err, context.Canceled) && c.Request.Context().Err() != nil {
		c.Abort() // nobody waits for it any more
		return
	}
	p := problemOf(err)
	switch p.Status {
	case http.StatusInternalServerError:
		slog.Error("request failed", "method", c.Request.Method, "path", c.Request.URL.Path, "error", err)
	case http.StatusNotFound:
		p.Detail += ": " + c.Request.URL.Path
	}
	answer(c, p)
}

// problemOf puts an error into words.
func problemOf(err error) Problem {
	var conflict store.Conflict
	var other archive.Other
	p := asked.ProblemOf(err)
	var taken store.Taken
	var damaged *store.Damaged
	err = store.InWords(err)
	switch {
	case errors.Is(err, store.ErrFull):
		p = Problem{Title: "The disk is full", Code: "disk_full", Status: http.StatusInsufficientStorage, Detail: "The disk is full: nothing more can be kept in the data file. What you entered stays in this browser; make room, and it is sent again."}
	case errors.Is(err, store.ErrFault):
		p = Problem{Title: "The disk does not keep it", Code: "disk_fault", Status: http.StatusInsufficientStorage, Detail: "The data file cannot be written: the disk has a fault, or is full. What you entered stays in this browser; make room, or see to the disk, and it is sent again."}
	case errors.Is(err, store.ErrReadOnly):
		p = Problem{Title: "The file may not be written", Code: "read_only", Status: http.StatusInsufficientStorage, Detail: "The data file may not be written and is only read. See to its rights and those of its folder, and start the program anew; what you entered stays in this browser until then."}
	case errors.Is(err, store.ErrGone):
		p = Problem{Title: "The file is gone", Code: "gone", Status: http.StatusInsufficientStorage, Detail: "The data file was moved or deleted while the program had it open. What you entered stays in this browser; put the file back and start the program anew."}
	case errors.Is(err, store.ErrBusy):
		p = Problem{Title: "The file is in use", Code: codeBusy, Status: http.StatusServiceUnavailable, Detail: "Another program is writing the data file. What you entered stays in this browser, and is sent again when that has ended."}
	case errors.As(err, &damaged):
		p = Problem{Title: "The file is damaged", Code: "damaged", Status: http.StatusInsufficientStorage, Detail: "The data file is damaged and is only read now: " + strings.Join(damaged.Says, "; ") + ". Export what can be read, put a sound copy in its place, and start the program anew; what you entered stays in this browser."}
	case errors.Is(err, store.ErrNotYours):
		p = Problem{Title: "Not yours", Code: codeRole, Status: http.StatusForbidden, Detail: "Somebody else did this, or it was done on another day. A helper changes what he did himself on the day that he did it."}
	case errors.As(err, &taken):
		p = Problem{Title: "Already used", Status: http.StatusConflict, Detail: "The id of this " + taken.What + " stands for something else that was kept before. Nothing was changed; enter it anew."}
	case errors.Is(err, errOtherFile):
		p = Problem{Title: "Another data file", Status: http.StatusMisdirectedRequest, Detail: "This was entered for another data file than the one that the program has open now, or for this one before it was restored."}
	case errors.As(err, &other):
		p = Problem{Title: "Other records", Status: http.StatusConflict, Detail: "T" + strings.TrimPrefix(other.Error(), "t") + "."}
	case errors.As(err, &conflict):
		p = Problem{Title: "Changed elsewhere", Status: http.StatusConflict, Detail: "This was changed by another window or person since you opened it.", Theirs: conflict.Theirs}
	case errors.Is(err, store.ErrUnknown):
		p = asked.ProblemOf(store.ErrUnknown)
	}
	return p
}

func answer(c *gin.Context, p Problem) {
	c.Header("Content-Type", "application/problem+json")
	c.AbortWithStatusJSON(p.Status, p)
}
