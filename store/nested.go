package store

import (
	"encoding/json"
	"errors"
	"reflect"

	"oldburrow/core/layout"
)

// A row of something of which parts are kept as JSON embeds it, and has a column for each such part: a text with the part's name in its tag
// `of`. Such a row is made of what it keeps, and read as that, by these two alone.

// rowOf is something as its row; a list of nothing is an empty one.
func rowOf[R, T any](x T) (row R, err error) {
	of, is := reflect.ValueOf(&row).Elem(), reflect.ValueOf(&x).Elem()
	for i, part := range parts(of.Type()) {
		if part == "" {
			continue
		}
		value := is.FieldByName(part)
		if value.Kind() == reflect.Slice && value.IsNil() {
			value.Set(reflect.MakeSlice(value.Type(), 0, 0))
		}
		raw, wrong := json.Marshal(value.Interface())
		err = errors.Join(err, wrong)
		of.Field(i).SetString(string(raw))
	}
	of.Field(0).Set(is)
	return row, err
}

// entityOf is what a row keeps.
func entityOf[R, T any](row R) (x T, err error) {
	of, is := reflect.ValueOf(row), reflect.ValueOf(&x).Elem()
	is.Set(of.Field(0))
	for i, part := range parts(of.Type()) {
		if part == "" {
			continue
		}
		value, raw := is.FieldByName(part), of.Field(i).String()
		if into, ok := value.Addr().Interface().(*layout.Layout); ok { // the same ones are read again and again
			var wrong error
			*into, wrong = layouts.of(raw)
			err = errors.Join(err, wrong)
			continue
		}
		if value.Kind() == reflect.Slice {
			value.Set(reflect.MakeSlice(value.Type(), 0, 0))
		}
		err = errors.Join(err, nested(raw, value.Addr().Interface()))
	}
	return x, err
}

var layouts = newDecoded[layout.Layout]()

// parts are the names of what each column of a row keeps as JSON; blank for those that keep something otherwise.
func parts(row reflect.Type) []string {
	names := make([]string, row.NumField())
	for i := range names {
		names[i] = row.Field(i).Tag.Get("of")
	}
	return names
}

// nested reads what is nested in a column; in most there is nothing.
func nested(raw string, into any) error {
	if raw == "[]" || raw == "{}" {
		return nil
	}
	return json.Unmarshal([]byte(raw), into)
}
