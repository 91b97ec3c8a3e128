package e2e

import (
	"strings"
	"testing"
)

// Every link of the chain opens to what it hangs on; what is not known is said; the wind of tonight is another; a fault is the weakest.
func TestEveryLinkOpens(t *testing.T) {
	t.Parallel()
	w := demoLine(t).bench(t)
	w.see("caught in 100 set-nights")
	for _, c := range []struct{ link, says string }{
		{"passes by", "by the best sign near"}, {"notices", "the scent lies across the way in"}, {"commits", "It is night 5 of its make"},
		{"steps on the pan", "a foot comes onto a pan in a firm bed"}, {"fires it", "against the pan and its cover"}, {"is caught", "the weakest anchor holds"},
	} {
		w.pressAt(`//*[@role="button" and starts-with(@aria-label, "` + c.link + `")]`)
		w.until(c.link+" says what it hangs on", func() bool { return strings.Contains(strings.ToLower(w.text()), strings.ToLower(c.says)) })
	}
	w.pressAt(`//*[@role="button" and starts-with(@aria-label, "passes by")]`)
	w.see("Not known: how fresh the sign is")
	usual := w.MustElement(".figure").MustText()
	w.click("tonight")
	w.until("tonight is another night", func() bool {
		return w.MustEval(`() => [...document.querySelectorAll('.figure')].at(-1).textContent`).String() != usual
	})
	// A pan far off is the weakest link, and the one before it was is again when it is taken back.
	weakest := func() string {
		return w.MustEval(`() => [...document.querySelectorAll('svg[aria-label="the odds, link by link"] [role=button]')].map((g) => g.getAttribute('aria-label')).find((name) => name.includes('weakest')) ?? ''`).String()
	}
	w.until("committing is the weakest", func() bool { return strings.HasPrefix(weakest(), "commits") })
	w.click("3Trap and pan")
	w.fill("setback, hole edge to pan", "18 in")
	w.until("stepping is", func() bool { return strings.HasPrefix(weakest(), "steps") })
	w.click("undo")
	w.until("committing is again", func() bool { return strings.HasPrefix(weakest(), "commits") })
	w.noErrors()
}
