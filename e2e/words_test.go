package e2e

import (
	"os"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
)

// said is every text that a page showed to the stories, or said to whoever cannot see it.
var said struct {
	sync.Mutex
	lines map[string]bool
}

// texts gives what a page shows and what its parts are called and described by, a line each.
const texts = `() => {
	const lines = new Set(document.body.innerText.split('\n'));
	for (const el of document.querySelectorAll('[aria-label], [title], [placeholder], [alt], option, text')) {
		for (const name of ['aria-label', 'title', 'placeholder', 'alt']) lines.add(el.getAttribute(name) ?? '');
		if (el.tagName === 'OPTION' || el.tagName === 'text') lines.add(el.textContent ?? '');
	}
	return [...lines].map((l) => l.replace(/\s+/g, ' ').trim()).filter(Boolean).join('\n');
}`

// hold notes what the page says, and holds every new line to the rules.
func (w *page) hold(texts string) {
	w.t.Helper()
	said.Lock()
	defer said.Unlock()
	if said.lines == nil {
		said.lines = map[string]bool{}
	}
	for line := range strings.Lines(texts) {
		line = strings.TrimSpace(line)
		if said.lines[line] {
			continue
		}
		said.lines[line] = true
		if why := badWords(line); why != "" {
			w.t.Errorf("on a page: %q: %s", line, why)
		}
	}
}

// retired are words that the pages no longer say, each with what they say instead.
var retired = map[string]string{
	"put it right": "correct", "leave it as it is": "cancel", "keep it so": "save", "take back": "undo", "let it go": "throw away", "not this one": "remove",
	"Not accepted": "not recorded", "field glass": "binoculars", "write something here": "what is missing, by its name", "To the bench": "design a set here",
	"nobody is spared": "no small animal is spared", "No others": "no non-targets", "Put right": "corrected",
}

var (
	clockTime  = regexp.MustCompile(`\b\d{1,2}:\d\d\b`)
	addresses  = regexp.MustCompile(`\S*(?:://|\[[0-9a-f:]+\])\S*|\S+:\d{4,5}\b`) // of machines
	sentences  = regexp.MustCompile(`[.!?](?:\s|$)`)
	onePlural  = regexp.MustCompile(`(?:^|[^.\w])(?:1|one) (?:[a-z]+-)?(?:nights|days|sets|animals|traps|looks|coyotes|foxes|bobcats|signs|spots|doses|presses|stakes|remakes|points|rows|hours|minutes|weeks|acts|swivels|others)\b`)
	pluralIs   = regexp.MustCompile(`(?i)\bset \d+ stand\b`)
	paths      = regexp.MustCompile(`[a-z]\[|\]\.`)
	underlined = regexp.MustCompile(`[A-Za-z]_[A-Za-z]`)
	humped     = regexp.MustCompile(`\b[a-z]+(?:[A-Z][a-z]+)*(?:Mm|Deg|Id|At|[a-z][GNC])\b`)
)

// columnsOfCSV are told by their names where a file is asked for or offered.
var columnsOfCSV = regexp.MustCompile(`CSV|(?i:column)`)

// badWords says what is wrong with a text on a page; blank where nothing is.
func badWords(text string) string {
	csv := columnsOfCSV.MatchString(text)
	switch {
	case (underlined.MatchString(text) || humped.MatchString(text)) && !csv:
		return "a key of the program"
	case paths.MatchString(text):
		return "a path of the program"
	case onePlural.MatchString(text):
		return "one before a plural"
	case pluralIs.MatchString(text):
		return "one thing, and the verb of many"
	}
	for word, instead := range retired {
		if strings.Contains(text, word) {
			return "say " + instead
		}
	}
	text = strings.ReplaceAll(text, "unknown: ", "unknown ") // what a newer program wrote, as it stands
	for _, sentence := range sentences.Split(clockTime.ReplaceAllString(addresses.ReplaceAllString(text, ""), ""), -1) {
		if strings.Count(sentence, ":") > 1 {
			return "two colons in a sentence"
		}
	}
	return ""
}

// A check that finds nothing wrong anywhere is no check.
func TestBadWordsAreFound(t *testing.T) {
	for text, bad := range map[string]bool{
		"Choose one of left_fore": true, "CSV, a row a trap: jaw_form": false, "catches[0].species is missing": true, "usual frameLengthMm, weightG": true, "Ditch mouthStack yard": false, "1 nights": true, "one night": false,
		"17 nights, one animals": true, "Set 6 stand at this spot too": true, "Sets 6 and 7 stand at this spot too": false, "leave it as it is": true,
		"Not recorded: set 5: quiet": true, "Not recorded: set 5, quiet. Why: the file is closed": false, "Look at 07:05: quiet": false, "11 nights": false, "21 days": false,
	} {
		if got := badWords(text); (got != "") != bad {
			t.Errorf("%q: %q", text, got)
		}
	}
}

// writeWords writes what the pages said to the file that OLDBURROW_WORDS names.
func writeWords() {
	file := os.Getenv("OLDBURROW_WORDS")
	if file == "" {
		return
	}
	lines := make([]string, 0, len(said.lines))
	for line := range said.lines {
		lines = append(lines, line)
	}
	slices.Sort(lines)
	_ = os.WriteFile(file, []byte(strings.Join(lines, "\n")+"\n"), 0o644)
}
