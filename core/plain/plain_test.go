package plain

import (
	"slices"
	"strings"
	"testing"
)

func TestClean(t *testing.T) {
	for was, want := range map[string]string{
		"Gate gap":            "Gate gap",
		"a\x00b\x1b[31mc\x7f": "ab[31mc",
		"two\nlines\tand":     "two\nlines\tand",
		"\u202Eexe.txt\u2066": "exe.txt",
		"\uFEFFbom":           "bom",
		"é, ½ in, 野":          "é, ½ in, 野",
		"\xffbroken":          "?broken",
	} {
		if got := Clean(was); got != want {
			t.Errorf("%q becomes %q, want %q", was, got, want)
		}
	}
}

func TestCleanAll(t *testing.T) {
	type inner struct {
		Note string `json:"note"`
	}
	x := struct {
		Name  string  `json:"name"`
		List  []inner `json:"list"`
		One   *inner  `json:"one"`
		Count int     `json:"count"`
		inner
	}{Name: "a\x01b", List: []inner{{"x"}, {strings.Repeat("y", Most+1)}}, One: &inner{"\u202Dz"}}
	long := CleanAll(&x)
	if x.Name != "ab" || x.One.Note != "z" || !slices.Equal(long, []string{"list[1].note"}) {
		t.Errorf("%q, %q, too long: %v", x.Name, x.One.Note, long)
	}
}
