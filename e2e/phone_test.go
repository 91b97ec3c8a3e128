package e2e

import (
	"fmt"
	"strings"
	"testing"
)

// forThumbs holds a page of a phone to it that what is touched is as high as a fingertip, and that no word of a drawing is smaller than 11 px.
// A box to tick is touched by its words.
func (w *page) forThumbs(where string) {
	w.t.Helper()
	low := w.MustEval(`() => [...document.querySelectorAll('button, a[href], input, select, summary, textarea')]
		.filter((e) => e.getClientRects().length > 0 && !e.closest('svg'))
		.map((e) => [e, (e.matches('[type=checkbox], [type=radio], [type=file]') ? e.labels[0] : e).getBoundingClientRect().height])
		.filter(([, high]) => high < 43.5).map(([e, high]) => high + ' ' + (e.textContent.trim() || e.outerHTML).slice(0, 60)).join('; ')`).Str()
	if low != "" {
		w.t.Errorf("%s, lower than a fingertip: %.500s", where, low)
	}
	small := w.MustEval(`() => [...document.querySelectorAll('svg text')].filter((e) => e.getClientRects().length > 0 && e.textContent.trim() !== '')
		.map((e) => [e, parseFloat(getComputedStyle(e).fontSize) * Math.hypot(e.getScreenCTM().a, e.getScreenCTM().b)])
		.filter(([, high]) => high < 10.9).map(([e, high]) => high.toFixed(1) + ' ' + e.textContent).join('; ')`).Str()
	if small != "" {
		w.t.Errorf("%s, smaller than can be read: %.500s", where, small)
	}
}

// On the map of a whole line marks give way to each other: each set's number is there, and lies over no other.
func TestTheWholeLineOnAPhonesMap(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 390, 844)
	w.click("Ground")
	w.see("Sign, newest first")
	for _, name := range []string{"whole line", "Add sign"} { // as it comes, and with a form over it
		w.click(name)
		said := w.MustEval(`() => {
			const numbers = [...document.querySelectorAll('.map text.numeral')].map((e) => [e.textContent, e.getBBox(), e.getCTM()]).map(([text, b, m]) => ({ text, x: b.x + m.e, y: b.y + m.f, w: b.width, h: b.height }));
			const over = numbers.flatMap((a, i) => numbers.slice(i + 1).filter((b) => a.x < b.x + b.w - 1 && b.x < a.x + a.w - 1 && a.y + 4 < b.y + b.h - 4 && b.y + 4 < a.y + a.h - 4).map((b) => a.text + ' over ' + b.text));
			const all = numbers.flatMap((n) => n.text.split(', ')).map(Number).sort((a, b) => a - b);
			return all.join() + ' ' + over.join();
		}`).Str()
		var all []string
		for n := range 24 {
			all = append(all, fmt.Sprint(n+1))
		}
		if want := strings.Join(all, ","); strings.TrimSpace(said) != want {
			t.Errorf("%s: %s, want %s", name, said, want)
		}
	}
}
