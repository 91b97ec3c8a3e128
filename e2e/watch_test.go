package e2e

import (
	"runtime"
	"testing"
)

// watched is a test that is expected to fail, and stops there as any other.
type watched struct {
	testing.TB
	failed bool
}

func (x *watched) Helper() {}

func (x *watched) Fatalf(string, ...any) {
	x.failed = true
	runtime.Goexit()
}

func (x *watched) Errorf(string, ...any) { x.failed = true }

// The eyes and hands of the stories: each fails where what it is to see or to do is not there. One that never fails makes every story worthless.
func TestEyesAndHandsFail(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 1280, 800)
	w.see("Before light")
	for name, does := range map[string]func(w *page){
		"see":      func(w *page) { w.see("Something that no page says") },
		"gone":     func(w *page) { w.gone("Before light") },
		"until":    func(w *page) { w.until("never", func() bool { return false }) },
		"find":     func(w *page) { w.find(`//nothing`) },
		"part":     func(w *page) { w.part("nothing") },
		"click":    func(w *page) { w.click("Something that no button says") },
		"pressAt":  func(w *page) { w.pressAt(`//nothing`) },
		"fill":     func(w *page) { w.fill("no such label", "x") },
		"choose":   func(w *page) { w.choose("no such label", "x") },
		"wrong":    func(w *page) { w.wrong("no such label", "x") },
		"noErrors": func(w *page) { w.MustEval(`() => __errors.push('it threw')`); w.noErrors() },
		"hold":     func(w *page) { w.hold("a sentence: with two: colons") },
	} {
		x := &watched{TB: t}
		done := make(chan struct{})
		go func() {
			defer close(done)
			does(&page{Page: w.Page, t: x, address: w.address, hasty: true})
		}()
		if <-done; !x.failed {
			t.Errorf("%s does not fail", name)
		}
	}
}
