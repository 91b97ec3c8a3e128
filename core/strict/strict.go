// Package strict decodes JSON that came from outside: it takes nothing that it does not know.
package strict

import (
	"bytes"
	"encoding/json"
	"errors"
	"io"
	"oldburrow/core/plain"
	"oldburrow/core/refuse"
	"reflect"
	"strings"
	"time"
)

// Decode decodes JSON, and refuses what it does not know, what a record cannot do without, and texts that are too long, by their fields.
func Decode(raw []byte, into any) error {
	reader := json.NewDecoder(bytes.NewReader(raw))
	reader.DisallowUnknownFields()
	err := reader.Decode(into)
	var wrong *json.UnmarshalTypeError
	var at *time.ParseError
	var said refuse.Problems
	switch {
	case errors.As(err, &said):
		return said
	case err == nil && !ended(reader):
		return refuse.Field("body", "goes on after its end: one JSON object is wanted and nothing after it")
	case err == nil:
		return whole(raw, into)
	case errors.As(err, &at):
		return refuse.Field("body", "holds %q where a time is wanted: write one such as 2026-12-04T13:10:00Z", at.Value)
	case errors.As(err, &wrong):
		return refuse.Field(wrong.Field, "cannot be %s", strings.ReplaceAll(wrong.Value, "string", "a text"))
	case errors.Is(err, io.EOF):
		return refuse.Field("body", "is missing: one JSON object is wanted")
	}
	if unknown, ok := strings.CutPrefix(err.Error(), "json: unknown field "); ok {
		return Newer{refuse.Field("body", "has a field %s, which is not known here", unknown)}
	}
	return refuse.Field("body", "is not JSON, or is cut off: one JSON object is wanted")
}

// Newer is what is wrong with a record that a newer program's page may well have made: it waits for the program to be brought up to date.
type Newer struct{ error }

// Unwrap gives what is wrong.
func (e Newer) Unwrap() error { return e.error }

// ended tells whether nothing comes after what was read.
func ended(reader *json.Decoder) bool {
	_, err := reader.Token()
	return errors.Is(err, io.EOF)
}

// whole cleans the texts of what was decoded, and refuses those that are too long and what a record cannot do without: a place
// or a measure that was not said is not nought.
func whole(raw []byte, into any) error {
	var p refuse.Problems
	for _, path := range plain.CleanAll(into) {
		p.Add(path, "is too long: at most %d characters", plain.Most)
	}
	var said map[string]json.RawMessage
	if json.Unmarshal(raw, &said) == nil {
		of := reflect.TypeOf(into).Elem()
		if of.Kind() != reflect.Struct {
			return p.Err()
		}
		for i := range of.NumField() {
			field := of.Field(i)
			name, _, _ := strings.Cut(field.Tag.Get("json"), ",")
			if says := field.Tag.Get("must"); says != "" && (said[name] == nil || string(said[name]) == "null") {
				p.Add(name, "is missing: %s", says)
			}
		}
	}
	return p.Err()
}
