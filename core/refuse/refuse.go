// Package refuse says what is wrong with an input, field by field, and what would be right. Every calculator and every
// entity answers bad input with a Problems, so that the screen can put each sentence at its own field.
package refuse

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
)

// ErrUnknown is returned for an id, or an address, under which there is nothing.
var ErrUnknown = errors.New("no such record")

// Problem is one field that cannot be accepted. Field is a path as it stands in the JSON ("pans[0].diameterMm"), Says is a
// sentence for the person who typed it and names what would be right.
type Problem struct {
	Field string `json:"field"`
	Says  string `json:"says"`
	// unknown is a word that is not known here: a newer program can have written it.
	unknown bool
}

// Problems collects what is wrong. The zero value is ready to use; Err gives nil while nothing is wrong.
type Problems []Problem

// Error joins the problems on one line.
func (p Problems) Error() string {
	said := make([]string, len(p))
	for i, one := range p {
		said[i] = one.Field + ": " + one.Says
	}
	return strings.Join(said, "; ")
}

// Err is the collected problems as an error, or nil when there are none.
func (p Problems) Err() error {
	if len(p) == 0 {
		return nil
	}
	return p
}

// Add notes a problem with the field; format and args make the sentence.
func (p *Problems) Add(field, format string, args ...any) {
	*p = append(*p, Problem{Field: field, Says: short(fmt.Sprintf(format, args...))})
}

// mostSaid is how long a sentence may be: what somebody sent is not sent back to him whole.
const mostSaid = 400

func short(says string) string {
	if runes := []rune(says); len(runes) > mostSaid {
		return string(runes[:mostSaid]) + " …"
	}
	return says
}

// Within notes a problem when v is not a number from low to high inclusive; unit is written after each number.
func (p *Problems) Within(field string, v, low, high float64, unit string) {
	if !(v >= low && v <= high) || math.IsInf(v, 0) {
		p.Add(field, "must be from %[1]g%[4]s to %[2]g%[4]s, not %[3]g%[4]s", low, high, v, unit)
	}
}

// OneOf notes a problem when v is not among the allowed words.
func OneOf[T ~string](p *Problems, field string, v T, allowed []T) {
	if slices.Contains(allowed, v) {
		return
	}
	known := make([]string, len(allowed))
	for i, one := range allowed {
		known[i] = string(one)
	}
	choose := "choose one of " + strings.Join(known, ", ")
	if v == "" {
		p.Add(field, "is missing: %s", choose)
		return
	}
	p.Add(field, "%q is not known: %s", v, choose)
	(*p)[len(*p)-1].unknown = true
}

// Known is what an error refuses beside words that are not known; nil where that is all. A form has to say what is known; what a file brings
// is kept, and shown as not known.
func Known(err error) error {
	problems, ok := err.(Problems)
	if !ok {
		return err
	}
	return slices.DeleteFunc(slices.Clone(problems), func(p Problem) bool { return p.unknown }).Err()
}

// OneOfSaid is OneOf for a word that may be left out: a blank says nothing.
func OneOfSaid[T ~string](p *Problems, field string, v T, allowed []T) {
	if v != "" {
		OneOf(p, field, v, allowed)
	}
}

// Text notes a problem when v is blank or longer than most characters.
func (p *Problems) Text(field, v string, most int) {
	if strings.TrimSpace(v) == "" {
		p.Add(field, "is missing: write something here")
	} else if n := len([]rune(v)); n > most {
		p.Add(field, "is too long: at most %d characters, not %d", most, n)
	}
}

// Under puts the problems of a nested value under its own path.
func (p *Problems) Under(path string, err error) {
	if err == nil {
		return
	}
	inner, ok := err.(Problems)
	if !ok {
		p.Add(path, "%s", err)
		return
	}
	for _, one := range inner {
		one.Field = path + "." + one.Field
		*p = append(*p, one)
	}
}

// Field is a single problem as an error.
func Field(field, format string, args ...any) error {
	var p Problems
	p.Add(field, format, args...)
	return p
}
