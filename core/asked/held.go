package asked

import (
	"context"
	"encoding/json"
	"strings"
	"time"

	"oldburrow/core/page"
)

// Held is a core that holds what a browser took along of a line's record, and answers from it what the program answers from the file.
type Held struct {
	taken, laid *page.Bundle
}

// Holding is what it is told to hold: a bundle, or the same as before where none is said, and what was entered since.
type Holding struct {
	Bundle *page.Bundle `json:"bundle"`
	Writes []page.Write `json:"writes"`
}

// OfLine asks something of the line: when, what stands behind the question mark, and the body of a question that has one.
type OfLine struct {
	Now   time.Time         `json:"now"`
	Query map[string]string `json:"query"`
	Body  json.RawMessage   `json:"body"`
}

const (
	holdPath  = "/hold"
	linesPath = "/lines/"
)

// Answer answers what is asked under a path: what only computes as the package does, what is asked of a line from what is held, with
// page.ErrNotHere where it does not say; and under /hold it is told what to hold.
func (h *Held) Answer(ctx context.Context, with With, path string, body []byte, tell func(any)) (any, error) {
	under, ofLine := strings.CutPrefix(path, linesPath)
	switch {
	case path == holdPath:
		return struct{}{}, h.hold(with, body)
	case ofLine:
		return h.ofLine(with, under, body)
	}
	return Answer(ctx, with, path, body, tell)
}

func (h *Held) hold(with With, body []byte) error {
	var told Holding
	if err := json.Unmarshal(body, &told); err != nil {
		return err
	}
	if told.Bundle != nil {
		h.taken = told.Bundle
	}
	if h.taken == nil || h.taken.Form != page.Form {
		h.taken, h.laid = nil, nil
		return page.ErrNotHere
	}
	h.laid = h.taken.Laid(told.Writes, with)
	return nil
}

func (h *Held) ofLine(with With, path string, body []byte) (any, error) {
	var q OfLine
	if err := json.Unmarshal(body, &q); err != nil {
		return nil, err
	}
	id, rest, _ := strings.Cut(path, "/")
	if rest != "" {
		rest = "/" + rest
	}
	if h.laid == nil || h.laid.Line.ID != id {
		return nil, page.ErrNotHere
	}
	one, key, err := page.Find(rest)
	if err != nil {
		return nil, err
	}
	r, err := page.Read(h.laid, h.laid.Line, q.Now, with, h.laid.Around)
	if err != nil {
		return nil, err
	}
	return one.Answered(r, page.Asked{Key: key, Query: q.Query, Body: q.Body})
}
