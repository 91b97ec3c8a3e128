package e2e

import (
	"fmt"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

// click presses the button or link that reads so.
func (w *page) click(name string) {
	w.t.Helper()
	w.pressAt(fmt.Sprintf(`(//button | //a)[starts-with(normalize-space(.), %q) and not(@disabled)]`, name))
}

// hook takes a trap of the rack, or a bottle of the shelf, in the hand.
func (w *page) hook(name string) {
	w.t.Helper()
	w.pressAt(fmt.Sprintf(partNamed, name))
}

// pressAt clicks the element under an XPath, also when it is drawn anew meanwhile.
func (w *page) pressAt(xpath string) {
	w.t.Helper()
	w.clickOn(xpath, 1, w.restingAt(xpath))
}

// twice presses what stands under an XPath twice in quick succession, as cold fingers do.
func (w *page) twice(xpath string) {
	w.t.Helper()
	w.clickOn(xpath, 2, w.restingAt(xpath))
}

// restingAt tells where the element under an XPath stands, once it is still.
func (w *page) restingAt(xpath string) func() (*proto.RuntimeRemoteObject, error) {
	return func() (*proto.RuntimeRemoteObject, error) {
		return w.Timeout(w.patience()).Eval(`(xpath) => (`+atRest+`)(() => document.evaluate(xpath, document, null, XPathResult.FIRST_ORDERED_NODE_TYPE, null).singleNodeValue)`, xpath)
	}
}

// press clicks an element.
func (w *page) press(el *rod.Element) {
	w.t.Helper()
	w.clickOn("it", 1, func() (*proto.RuntimeRemoteObject, error) {
		return el.Timeout(w.patience()).Eval(`() => (` + atRest + `)(() => this)`)
	})
}

// atRest waits, for some seconds, until what is sought stands where it stood for two frames, and tells where it can be clicked, at its
// middle or near it, and whether there was anything. It notes whether the next click falls on it: under load a page can still grow between
// looking and pressing.
const atRest = `(seek) => new Promise((done) => {
	const until = performance.now() + 3000;
	let [before, stood] = ['', 0];
	const look = () => {
		const el = seek();
		const boxes = el?.isConnected ? [...el.getClientRects()].filter((b) => b.width > 0 && b.height > 0) : [];
		if (boxes.length > 0) {
			const now = JSON.stringify(boxes);
			stood = now === before ? stood + 1 : 0;
			before = now;
			if (stood >= 2) {
				for (const b of boxes)
					for (const [right, down] of [[.5, .5], [.25, .5], [.75, .5], [.5, .25], [.5, .75]]) {
						const [x, y] = [b.x + right * b.width, b.y + down * b.height];
						if (!el.contains(document.elementFromPoint(x, y))) continue;
						window.__missed = true;
						// It may have been drawn anew since.
						addEventListener('click', (e) => { if (el.contains(e.target) || seek()?.contains(e.target)) window.__missed = false; }, { capture: true, once: true });
						return done({ x, y, there: true });
					}
				// What a form ends with stands over it, or it is out of sight.
				el.scrollIntoView({ block: 'center', behavior: 'instant' });
			}
		}
		if (performance.now() > until) return done({ x: 0, y: 0, there: Boolean(el) });
		requestAnimationFrame(look);
	};
	look();
})`

// clickOn clicks where something stands so many times in quick succession, until the first of them fell on it.
func (w *page) clickOn(what string, times int, stands func() (*proto.RuntimeRemoteObject, error)) {
	w.t.Helper()
	why := "it was never still"
	for end := time.Now().Add(w.patience()); time.Now().Before(end); {
		at, err := stands()
		if err != nil { // the page is on its way to another
			why = err.Error()
			time.Sleep(60 * time.Millisecond)
			continue
		}
		if found := at.Value; !found.Get("there").Bool() {
			why = "it is not on the page"
		} else if x, y := found.Get("x").Num(), found.Get("y").Num(); x != 0 || y != 0 {
			clicked := w.Mouse.MoveTo(proto.NewPoint(x, y)) == nil
			for range times {
				clicked = clicked && w.Mouse.Click(proto.InputMouseButtonLeft, 1) == nil
			}
			hit, err := w.Eval(`() => window.__missed !== true`)
			if clicked && err == nil && hit.Value.Bool() {
				return
			}
			why = fmt.Sprint("the click fell beside it, ", err)
		}
	}
	w.t.Fatalf("click %s: %s\nit says: %.1500s", what, why, w.text())
}

// field finds the input under a label.
func (w *page) field(label string) *rod.Element {
	w.t.Helper()
	return w.find(fmt.Sprintf(`//*[(self::input or self::select) and (@id = //label[starts-with(normalize-space(.), %q)]/@for or @aria-label = %q)]`, label, label))
}

// fill writes into the field under a label and leaves it.
func (w *page) fill(label, value string) {
	w.t.Helper()
	el := w.field(label)
	el.MustEval(`() => new Promise((done) => {
		const ready = () => {
			if (this.disabled || this.readOnly) return requestAnimationFrame(ready);
			this.focus();
			this.select?.();
			done();
		};
		ready();
	})`)
	w.MustInsertText(value)
	el.MustBlur()
}

// choose picks an option of a select by what it reads.
func (w *page) choose(label, option string) {
	w.t.Helper()
	w.field(label).MustSelect(option)
}

// key presses a key on the element that has the focus.
func (w *page) key(k input.Key, times int) {
	for range times {
		w.Keyboard.MustType(k)
	}
}
