package e2e

import (
	"fmt"
	"strings"
	"time"

	"github.com/go-rod/rod"
)

// noErrors fails when a script of the page threw.
func (w *page) noErrors() {
	w.t.Helper()
	if thrown := w.MustEval(`() => JSON.stringify(window.__errors)`).String(); thrown != "[]" {
		w.t.Errorf("the page threw: %s", thrown)
	}
}

// find waits for the element under an XPath.
func (w *page) find(xpath string) *rod.Element {
	w.t.Helper()
	el, err := w.Timeout(w.patience()).ElementX(xpath)
	if err != nil {
		w.t.Fatalf("not on the page: %s\nit says: %.1500s", xpath, w.text())
	}
	return el.CancelTimeout()
}

func (w *page) text() string { return w.MustEval(`() => document.body.innerText`).String() }

// see waits until the page says a text, and holds all that it says then to the rules.
func (w *page) see(text string) {
	w.t.Helper()
	for end := time.Now().Add(w.patience()); time.Now().Before(end); {
		said, err := w.Timeout(w.patience()).Eval(`(text) => (`+saying+`)(text).then((says) => says && (`+texts+`)())`, fold(text))
		switch {
		case err != nil: // the page is on its way to another
			time.Sleep(60 * time.Millisecond)
		case said.Value.Val() != false: // which is what it says where it did not see it
			w.hold(said.Value.Str())
			return
		}
	}
	w.t.Fatalf("waited in vain until the page says %s\nit says: %.2500s", text, w.text())
}

// saying waits, for some seconds, until the page says a text, and looks again as soon as something on it has changed.
const saying = `(text) => new Promise((done) => {
	const until = performance.now() + 5000;
	let [changed, last] = [true, 0];
	const watch = new MutationObserver(() => { changed = true; });
	watch.observe(document, { subtree: true, childList: true, characterData: true, attributes: true });
	const end = (says) => { watch.disconnect(); done(says); };
	const look = () => {
		if (changed || performance.now() > last + 500) {
			[changed, last] = [false, performance.now()];
			// A frame later what was drawn also listens.
			if (document.body.innerText.split(/\s+/).join(' ').includes(text)) return requestAnimationFrame(() => setTimeout(() => end(true)));
		}
		if (performance.now() > until) return end(false);
		setTimeout(look, 20);
	};
	look();
})`

// gone waits until the page does not say a text.
func (w *page) gone(text string) {
	w.t.Helper()
	w.until("the page no longer says "+text, func() bool { return !strings.Contains(fold(w.text()), fold(text)) })
}

func fold(s string) string { return strings.Join(strings.Fields(s), " ") }

func (w *page) until(what string, done func() bool) {
	w.t.Helper()
	for end := time.Now().Add(w.patience()); ; time.Sleep(60 * time.Millisecond) {
		if done() {
			return
		}
		if time.Now().After(end) {
			w.t.Fatalf("waited in vain until %s\nit says: %.2500s", what, w.text())
		}
	}
}

// wrong waits for the objection under a field.
func (w *page) wrong(label, says string) {
	w.t.Helper()
	el := w.field(label)
	w.until(label+" is objected to: "+says, func() bool {
		id := el.MustAttribute("aria-describedby")
		if id == nil {
			return false
		}
		has, objection, err := w.Has(`[id="` + *id + `"]`)
		return err == nil && has && strings.Contains(fold(objection.MustText()), says)
	})
}

// partNamed is where the part of a drawing stands whose name begins so.
const partNamed = `//*[local-name()='g' and starts-with(@aria-label, %q)]`

// part finds a part of the bench's drawing by how its name begins.
func (w *page) part(name string) *rod.Element {
	w.t.Helper()
	return w.find(fmt.Sprintf(partNamed, name))
}

func (w *page) label(el *rod.Element) string {
	name := el.MustAttribute("aria-label")
	if name == nil {
		return ""
	}
	return *name
}
