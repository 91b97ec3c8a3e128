package e2e

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"unicode"
)

// What a page says before it is touched is what the work asks for, and no more: so many words at most. What has nothing to say has no line.
func TestPagesAreQuiet(t *testing.T) {
	t.Parallel()
	w := demoLine(t).at("/", 1280, 800)
	for _, page := range []struct {
		click, see, of string
		most           int
	}{
		{"Today", "Dry, to", "main", 350},
		{"Book", "Where this line loses animals", "main", 350},
		{"Bench", "On the bench", "body", 400}, {"1Ditch mouth", "what would spare others", ".page.bench", 450},
	} {
		w.click(page.click)
		w.see(page.see)
		if page.of == ".page.bench" {
			w.weighed()
		}
		w.MustWaitIdle()
		said := w.MustEval(`(of) => document.querySelector(of).innerText`, page.of).Str()
		words := slices.DeleteFunc(strings.Fields(said), func(w string) bool {
			return !strings.ContainsFunc(w, func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) })
		})
		if n := len(words); n > page.most || n < 50 {
			t.Errorf("%s says %d words, at most %d:\n%s", page.click, n, page.most, said)
		}
	}
	w.click("Today")
	w.see("Dry, to")
	if over := w.MustEval(`() => document.documentElement.scrollHeight - innerHeight`).Int(); over > 0 {
		t.Errorf("Today is %d px higher than the window", over)
	}
	if of := w.MustElements("main h2"); len(of) != 4 { // what needs somebody has one line here
		t.Errorf("Today has %d paragraphs", len(of))
	}
	// Late and on a drag they stand by name, the others as a row a property, until that is touched.
	rows := func() string {
		return fmt.Sprint(len(w.MustElements("main section:first-child ul.rows > li")))
	}
	if got := rows(); got != "6" {
		t.Errorf("%s rows are to be seen", got)
	}
	w.click("Two Culverts")
	w.see("Pond edge")
	if got := rows(); got != "9" {
		t.Errorf("opened, %s rows are to be seen", got)
	}
	w.noErrors()
}
