package e2e

import (
	"os"
	"strings"
	"testing"
)

// Nothing serious stands in the way of a screen reader or of weak eyes, on any page, in either theme.
func TestPagesAreAccessible(t *testing.T) {
	t.Parallel()
	axe, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil {
		t.Fatal(err)
	}
	p := demoLine(t)
	w := p.at("/", 1280, 800)
	for _, theme := range []string{"lamp", "day"} {
		for _, step := range []struct{ click, see string }{
			{"Today", "Before light"}, {"Ground", "Choose something"}, {"Gate gap", "What it has met"}, {"add a spot", "A new spot"}, {"Add sign", "or at a spot"}, {"as a table", "its points"}, {"bring in a file", "up to 20 MB"}, {"Today", "Dry, to"}, {"weather, by hand", "An own log"}, {"Bench", "Begin a set at"},
			{"1Ditch mouth", "What would spare others"}, {"pin it, to compare", "They are worth the same"}, {"find the best places", "of pan, sticks and stones at once"}, {"unpin it", "pin it"},
			{"3Trap and pan", "setback"}, {"4Anchor", "the whole pattern is churned up"}, {"as numbers", "jaws spread"}, {"another pattern", "How is it made?"}, {"Round", "The round"}, {"Book", "What was caught"}, {"Rules", "rule card"},
		} {
			w.click(step.click)
			w.see(step.see)
			w.inspect(string(axe), theme+", "+step.see)
		}
		if theme == "lamp" {
			w.click("lamp")
		}
	}
	hand := p.at("/", 390, 844)
	hand.click("Start the round")
	hand.see("It worked the set")
	hand.inspect(string(axe), "the hand")
}

func (w *page) inspect(axe, where string) {
	w.t.Helper()
	w.MustEval(`() => Promise.all(document.getAnimations().map((a) => a.finished.catch(() => {})))`)
	if w.MustEval(`() => typeof window.axe`).String() == "undefined" {
		w.MustEval("() => { " + axe + " ; window.axe = axe }")
	}
	found := w.MustEval(`() => axe.run(document, { resultTypes: ['violations'] }).then((r) => r.violations
		.filter((v) => v.impact === 'serious' || v.impact === 'critical')
		.flatMap((v) => v.nodes.map((n) => v.id + ': ' + n.html.slice(0, 160) + ' — ' + (n.any[0]?.message ?? '')))
		.slice(0, 8).join('\n'))`).String()
	if strings.TrimSpace(found) != "" {
		w.t.Errorf("%s:\n%s", where, found)
	}
}
