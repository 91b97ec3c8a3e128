package asked

import (
	"errors"

	"oldburrow/core/calc"
	"oldburrow/core/page"
	"oldburrow/core/refuse"
	"oldburrow/core/strict"
)

// Problem is an error as RFC 9457 has it, with the fields that are wrong, and at a conflict the record as it stands.
type Problem struct {
	Title  string           `json:"title"`
	Code   string           `json:"code,omitempty"` // what can be waited for: not_here, disk_full, disk_fault, read_only, gone, damaged, busy, unknown_field; and at the door session, ended, role
	Status int              `json:"status"`         // as HTTP has them
	Detail string           `json:"detail"`
	Fields []refuse.Problem `json:"fields,omitempty"`
	Theirs any              `json:"theirs,omitempty"`
}

// NotHereCode is the code of what only the program can answer.
const NotHereCode = "not_here"

// NewerCode is the code of what a newer page sent.
const NewerCode = "unknown_field"

// ProblemOf puts into words what is wrong with what was asked; what is nobody's mistake is told as such, without why.
func ProblemOf(err error) Problem {
	var fields refuse.Problems
	switch {
	case errors.As(err, &fields):
		p := Problem{Title: "This cannot be accepted", Status: 422, Detail: fields.Error(), Fields: fields}
		if errors.As(err, &strict.Newer{}) {
			p.Code, p.Detail = NewerCode, "This page is newer than the program that runs: update the program. "+p.Detail
		}
		return p
	case errors.Is(err, page.ErrNotHere):
		return Problem{Title: "Not here", Code: NotHereCode, Status: 404, Detail: "This browser did not take that along: only the program has it."}
	case errors.Is(err, refuse.ErrUnknown), errors.Is(err, calc.ErrUnknown):
		return Problem{Title: "Not found", Status: 404, Detail: "There is nothing under this address"}
	}
	return Problem{Title: "Something went wrong here", Status: 500, Detail: "The program could not do this. What you entered is kept in this browser; try again."}
}
