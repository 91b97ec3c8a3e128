package e2e

import (
	"fmt"
	pages "oldburrow/core/page"
	"strings"

	"github.com/go-rod/rod/lib/input"
)

// counting counts, in every page of a window, what a hand does there: a press of the pointer, a Tab and a list that is opened are acts, what
// is typed is counted apart. It outlives a load of the page.
const counting = `(() => {
	const key = '__acts';
	const counts = JSON.parse(sessionStorage.getItem(key) ?? '{"presses":0,"acts":0,"typed":0}');
	const count = (of) => { for (const one of of) counts[one]++; try { sessionStorage.setItem(key, JSON.stringify(counts)); } catch {} };
	window.__counts = counts;
	let typedInto = null;
	addEventListener('pointerdown', (e) => { if (e.isTrusted) count(['presses', 'acts']); }, true);
	addEventListener('keydown', (e) => {
		if (!e.isTrusted) return;
		if (e.key === 'Tab') count(['acts']);
		else if (e.key === 'F4' || (e.altKey && e.key === 'ArrowDown')) count(['acts']);
		else { count(['typed']); typedInto = e.target; }
	}, true);
	// A list from which something was chosen without typing it was opened.
	addEventListener('change', (e) => { if (e.target.tagName === 'SELECT' && typedInto !== e.target) count(['acts']); }, true);
})()`

// tally is what a hand did.
type tally struct{ Presses, Acts, Typed int }

// keys are all of them together.
func (t tally) keys() int { return t.Acts + t.Typed }

func (t tally) since(before tally) tally {
	return tally{t.Presses - before.Presses, t.Acts - before.Acts, t.Typed - before.Typed}
}

func (w *page) counted() (found tally) {
	w.t.Helper()
	w.MustEval(`() => window.__counts`).Unmarshal(&found)
	return found
}

// write types into whatever has the focus, key by key.
func (w *page) write(text string) {
	w.t.Helper()
	for _, letter := range text {
		w.Keyboard.MustType(input.Key(letter))
	}
}

// tab goes on to the next field, which is the one that a label begins with.
func (w *page) tab(label string) {
	w.t.Helper()
	w.Keyboard.MustType(input.Tab)
	w.focusAt(label)
}

// focused is how what has the focus is called.
const focused = `() => {
	const el = document.activeElement;
	return el.getAttribute('aria-label') ?? el.labels?.[0]?.innerText ?? el.innerText ?? '';
}`

// focusAt waits until the field with a label has the focus.
func (w *page) focusAt(label string) {
	w.t.Helper()
	w.until("the focus is at "+label, func() bool {
		return strings.HasPrefix(fold(w.MustEval(focused).String()), label)
	})
}

// tap presses what an XPath finds, where a hand would press it: at its middle, once.
func (w *page) tap(name string) {
	w.t.Helper()
	w.pressAt(fmt.Sprintf(`(//button | //a | //summary | //label)[starts-with(normalize-space(.), %q) and not(@disabled)]`, name))
}

// setNow is a set as the program has it.
func (p *program) setNow(number int) (found pages.SetView) {
	p.t.Helper()
	for _, s := range p.lineNow().Sets {
		if s.Set.Number == number {
			found = s
		}
	}
	return found
}
