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
	for _, step := range []struct{ click, see string }{
		{"Today", "Before light"}, {"Ground", "Choose something"}, {"Gate gap", "Lures and sets used here"}, {"add a spot", "A new spot"}, {"Add sign", "or at a spot"}, {"as a table", "its points"}, {"bring in a file", "up to 20 MB"}, {"Today", "Dry, to"}, {"weather, by hand", "An own log"}, {"Bench", "On the bench"},
		{"1Ditch mouth", "what would spare others"}, {"what would spare others", "Stiffen the pan"}, {"who else comes", "Who else, in 100"}, {"its levels", "at this spot"}, {"the next fourteen nights", "a black spot caught"}, {"compare with", "They are worth the same"}, {"find the best places", "ways to place pan, sticks and stones"}, {"stop comparing", "compare with"},
		{"3Trap and pan", "setback"}, {"4Anchor", "tears up the whole set"}, {"all measures", "jaws spread"}, {"another pattern", "How is it made?"}, {"Round", "The round"}, {"the day before", "No time is needed"}, {"correct", "cancel"}, {"cancel", "another look"},
		{"Book", "Where this line loses animals"}, {"what was caught", "What was caught"}, {"by what they bring", "in running order"}, {"as CSV", "built or remade"}, {"Book", "Where this line loses animals"}, {"promised and came", "Nights that count half"}, {"what catches", "One against another"}, {"place", "told as"}, {"Stack yard", "set 2, Stack yard"}, {"set 2, Stack yard", "The story of set 2"}, {"The story of Stack yard", "Set 7"}, {"how it goes", "Where this line loses animals"}, {"copies, and moving", "Moving to another computer"}, {"on the phone", "Who helps"}, {"Shed", "At the rack"}, {"add a trap", "as usual for this size"}, {"Kit", "The plan"}, {"for this morning", "for tomorrow"}, {"Practice", "Made-up scenes"}, {"Rules", "rule card"},
	} {
		w.click(step.click)
		w.see(step.see)
		w.inspect(string(axe), step.see)
		// What it reads as is the same in the other theme: only its colours are others.
		was := w.MustEval(`() => document.documentElement.dataset.theme`).String()
		other := map[string]string{"day": "lamp", "lamp": "day"}[was]
		w.MustEval(`(theme) => { document.documentElement.dataset.theme = theme }`, other)
		w.inspect(string(axe), other+", "+step.see, "color-contrast")
		w.MustEval(`(theme) => { document.documentElement.dataset.theme = theme }`, was)
	}
	hand := p.at("/", 390, 844)
	hand.click("Start the round")
	hand.see("It worked the set")
	hand.inspect(string(axe), "the hand")
	for _, step := range []struct{ click, see string }{
		{"Caught", "Record the catch"}, {"Record the catch", "Choose what was caught"}, {"its condition", "blood left at the set"}, {"another", "house cat"}, {"dog", "its owner, if known"},
		{"back", "It worked the set"}, {"Trouble", "could not have fired"}, {"more to say first", "put in against freezing"}, {"trap gone", "it went toward"}, {"back", "could not have fired"}, {"back", "Something came"},
		{"Something came", "cannot tell"}, {"back", "It worked the set"},
	} {
		hand.click(step.click)
		hand.see(step.see)
		hand.inspect(string(axe), "the hand, "+step.see)
	}
}

// inspect asks for what is serious on the page as it stands, by some rules or by all.
func (w *page) inspect(axe, where string, rules ...string) {
	w.t.Helper()
	w.MustEval(`() => Promise.all(document.getAnimations().map((a) => a.finished.catch(() => {})))`)
	if w.MustEval(`() => typeof window.axe`).String() == "undefined" {
		w.MustEval("() => { " + axe + " ; window.axe = axe }")
	}
	found := w.MustEval(`(rules) => axe.run(document, { resultTypes: ['violations'], preload: false, selectors: false, runOnly: rules ?? ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'] }).then((r) => r.violations
		.filter((v) => v.impact === 'serious' || v.impact === 'critical')
		.flatMap((v) => v.nodes.map((n) => v.id + ': ' + n.html.slice(0, 160) + ' — ' + (n.any[0]?.message ?? '')))
		.slice(0, 8).join('\n'))`, rules).String()
	if strings.TrimSpace(found) != "" {
		w.t.Errorf("%s:\n%s", where, found)
	}
}
