// Package plain makes what people and files wrote fit to be kept and shown: it takes out what is not to be read, and finds what
// is too long.
package plain

import (
	"reflect"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"
)

// Most is how many characters any text may have; a field's own limit may be lower.
const Most = 4000

// Clean takes out control characters (but for line breaks and tabs) and what turns the direction of writing: they can make a text
// look like another. What is no UTF-8 becomes a question mark.
func Clean(s string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case r == '\n' || r == '\t':
			return r
		case unicode.IsControl(r), r >= 0x202A && r <= 0x202E, r >= 0x2066 && r <= 0x2069, r == 0x200E, r == 0x200F, r == 0xFEFF:
			return -1
		case r == utf8.RuneError:
			return '?'
		}
		return r
	}, s)
}

// CleanAll cleans every text in what a pointer points at, and gives the paths, as they stand in the JSON, of those that are too
// long.
func CleanAll(pointer any) (long []string) {
	clean(reflect.ValueOf(pointer), "", &long)
	return long
}

func clean(v reflect.Value, path string, long *[]string) {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			clean(v.Elem(), path, long)
		}
	case reflect.String:
		if v.CanSet() {
			v.SetString(Clean(v.String()))
		}
		if utf8.RuneCountInString(v.String()) > Most {
			*long = append(*long, path)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			field := v.Type().Field(i)
			if !field.IsExported() {
				continue
			}
			name, _, _ := strings.Cut(field.Tag.Get("json"), ",")
			if field.Anonymous && name == "" {
				clean(v.Field(i), path, long)
				continue
			}
			clean(v.Field(i), join(path, name), long)
		}
	case reflect.Slice, reflect.Array:
		for i := range v.Len() {
			clean(v.Index(i), path+"["+strconv.Itoa(i)+"]", long)
		}
	}
}

func join(path, name string) string {
	if path == "" {
		return name
	}
	return path + "." + name
}
