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
		// What turns the writing, to its first and last, and not what stands beside it.
		"\u202Aa\u202Eb\u2066c\u2069d\u200Ee\u200Ff": "abcdef",
		"\u2029a\u202Fb\u2065c\u206Ad\u200De\u2010f": "\u2029a\u202Fb\u2065c\u206Ad\u200De\u2010f",
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
		Named inner `json:"named"`
	}{Name: "a\x01b", List: []inner{{strings.Repeat("½", Most)}, {strings.Repeat("y", Most+1)}}, One: &inner{"\u202Dz"}, inner: inner{"w\x02"}, Named: inner{strings.Repeat("z", Most+1)}}
	long := CleanAll(&x)
	if x.Name != "ab" || x.One.Note != "z" || !slices.Equal(long, []string{"list[1].note", "named.note"}) {
		t.Errorf("%q, %q, too long: %v", x.Name, x.One.Note, long)
	}
}
