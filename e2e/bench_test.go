package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
)

// chooseDrawn takes a pattern of the list, and goes on where something was left out.
func (w *page) chooseDrawn(title string) {
	w.t.Helper()
	w.click("another pattern")
	w.see("How is it made?")
	w.pressAt(fmt.Sprintf(`//button[b[.=%q]]`, title))
	w.until("the set is drawn", func() bool {
		return w.MustEval(`() => {
			const on = [...document.querySelectorAll('.patterns button')].find((b) => b.textContent === 'Go on');
			on?.click();
			return document.querySelector('.patterns') === null;
		}`).Bool()
	})
}

// Every pattern of the list is drawn, small and at full size, for a target, and no two drawings are alike.
func TestNoTwoPatternsAreDrawnAlike(t *testing.T) {
	t.Parallel()
	w := demoLine(t).bench(t)
	w.click("another pattern")
	w.see("Foot snare in a trail")
	small := map[string]string{}
	for _, el := range w.MustElements(".pattern-list button") {
		title, drawn := el.MustElement("b").MustText(), el.MustElement("svg").MustEval(`() => this.innerHTML`).String()
		if other, ok := small[drawn]; ok {
			t.Errorf("%s is drawn as %s", title, other)
		}
		small[drawn] = title
	}
	if len(small) != 36 {
		t.Errorf("%d patterns and variants are drawn", len(small))
	}
	w.click("leave it as it is")
	large := map[string]string{}
	for drawn, title := range small {
		_ = drawn
		w.chooseDrawn(title)
		svg := w.MustElement(`svg[aria-label="the set drawn to scale"]`).MustEval(`() => this.innerHTML`).String()
		if strings.Contains(svg, "NaN") || strings.Contains(svg, "undefined") {
			t.Errorf("%s is drawn with what is no number", title)
		}
		if other, ok := large[svg]; ok {
			t.Errorf("%s is drawn large as %s", title, other)
		}
		large[svg] = title
	}
	w.noErrors()
}

// A set becomes a creek pinch: its trap is dragged, nudged and typed, taken back and done again, also after a reload.
func TestAPatternUnderADesign(t *testing.T) {
	t.Parallel()
	w := demoLine(t).bench(t)
	w.chooseDrawn("Creek pinch, two traps and a rag")
	w.see("Creek pinch, two traps and a rag; bank behind; way narrowed to 7 ⅛ in")
	w.see("Second trap and pan")
	w.see("passing either way")
	w.see("with a second trap beyond the stick")
	second := w.label(w.part("pan 2"))
	w.drag(w.part("pan 2"), 30, 12, func() {})
	w.until("the second pan has moved", func() bool { return w.label(w.part("pan 2")) != second })
	dragged := w.label(w.part("pan 2"))
	w.part("pan 2").MustFocus()
	w.key(input.ArrowLeft, 2)
	w.until("it is nudged", func() bool { return w.label(w.part("pan 2")) != dragged })
	nudged := w.label(w.part("pan 2"))
	w.click("2Kind and pattern")
	w.fill("way narrowed to", "9 in")
	w.see("way narrowed to 9 in")
	w.click("undo")
	w.see("way narrowed to 7 ⅛ in")
	w.click("undo")
	w.click("undo")
	w.until("the nudges are taken back", func() bool { return w.label(w.part("pan 2")) == dragged })
	w.see("saved")
	w.MustReload().MustWaitLoad()
	w.see("passing either way")
	w.click("redo")
	w.click("redo")
	w.until("they are done again after a reload", func() bool { return w.label(w.part("pan 2")) == nudged })
	// By the keyboard alone: the list, and a pattern of it.
	w.find(`//button[normalize-space(.)="another pattern"]`).MustFocus()
	w.Keyboard.MustType(input.Enter)
	w.see("How is it made?")
	w.find(`//button[b[.="Trench down to the bait"]]`).MustFocus()
	w.Keyboard.MustType(input.Enter)
	w.see("Left out:")
	w.see("a trap, an anchor and the guides")
	w.click("Go on")
	w.see("Trench down to the bait")
	w.see("about 1 h 15 min to build in frozen ground")
	w.gone("Second trap and pan")
	w.part("pan,").MustFocus()
	w.Keyboard.MustType(input.ArrowRight)
	w.MustEval(`() => document.activeElement.blur()`)
	w.Keyboard.Press(input.ControlLeft)
	w.Keyboard.MustType(input.KeyZ)
	w.Keyboard.Release(input.ControlLeft)
	w.until("the nudge is taken back by keys", func() bool { return strings.Contains(w.label(w.part("pan,")), "9 ¼ in back") })
	// A trench too narrow is remarked on beside its part.
	w.click("2Kind and pattern")
	w.fill("trench, wide", "5 in")
	w.see("wider than the trench")
	w.click("undo")
	w.gone("wider than the trench")
	w.noErrors()
}

// Whatever has a number can be typed in one table; what was made so is kept under a name of one's own.
func TestNumbersAndAPatternOfMyOwn(t *testing.T) {
	t.Parallel()
	w := demoLine(t).bench(t)
	w.chooseDrawn("Gap between two tufts")
	w.click("as numbers")
	w.fill("jaws frame", "7 in")
	w.click("3Trap and pan")
	w.choose("over the pan", "waxed paper")
	w.fill("levers turned from across", "45")
	w.see("saved")
	w.click("2Kind and pattern")
	w.click("keep this under a name of mine")
	w.fill("name of your own", "Two posts at the gate")
	w.click("keep it")
	w.see("Kept as Two posts at the gate")
	w.chooseDrawn("Three punched holes about the trap")
	w.see("Three punched holes about the trap")
	w.chooseDrawn("Two posts at the gate")
	w.see("Gap between two tufts")
	w.MustReload().MustWaitLoad()
	w.see("Gap between two tufts")
	w.click("another pattern")
	w.click("take it off the list")
	w.see("undo: Two posts at the gate taken off")
	w.gone("yours, after gap")
	w.click("undo: Two posts at the gate taken off")
	w.see("yours, after gap")
	w.click("leave it as it is")
	// Of a cable no footfall is claimed, and it is said who has to be asked.
	w.chooseDrawn("Cable at a crawl-under")
	w.see("No footfall is claimed of a loop")
	w.see("Ask your agency before you hang one")
	w.click("3Loop")
	w.fill("loop, across", "9 in")
	w.see("cable loop, 9 in across")
	w.chooseDrawn("Hole in a tree")
	w.see("Poor for coyotes: few of them commit to a hole in a tree")
	w.noErrors()
}
