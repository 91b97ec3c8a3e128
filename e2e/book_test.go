package e2e

import (
	"strings"
	"testing"

	"github.com/oklog/ulid/v2"
)

// The book opens on how the season goes: what was caught, what the drawings had promised, and where animals are lost, of each target. From there to
// the sets at which most were, each with its story, night by night.
func TestTheBookOpensOnHowItGoes(t *testing.T) {
	t.Parallel()
	w := demoLine(t).at("/", 1280, 800)
	w.click("Book")
	w.see("targets in 841.5 trap-nights")
	w.see("The drawings promised")
	w.see("Red foxes are lost most here: of about")
	w.click("coyote")
	w.see("Coyotes are lost")
	w.click("red fox")
	w.see("Red foxes are lost")
	w.see("Most of them at")
	set := w.find(`//p[starts-with(normalize-space(.), "Most of them at")]//a`)
	name := set.MustText()
	w.press(set)
	w.see("The story of " + name)
	w.see("the drawing promised")
	w.MustReload().MustWaitLoad()
	w.see("The story of " + name)
	strips := w.MustElements(`main svg[role="img"]`)
	if len(strips) == 0 || !strings.Contains(*strips[0].MustAttribute("aria-label"), "night ") {
		t.Errorf("%d strips of nights", len(strips))
	}
	w.click("promised and came")
	w.see("Nights that count half are promised half")
	w.click("what was caught")
	w.see("What was caught")
	w.pressAt(`(//a[starts-with(normalize-space(.), "set ")])[1]`)
	w.see("The story of set")
	w.click("how it goes")
	w.see("Where this line loses animals")
	w.MustNavigate(w.MustInfo().URL + "/set/" + ulid.Make().String())
	w.see("No such set stood in this season.")
	w.noErrors()
}

// What a set is worth is told by the line's record, in one line with its levels; it can be told without, and then nothing on the page is told by it.
func TestTheBenchIsToldByTheRecord(t *testing.T) {
	t.Parallel()
	w := demoLine(t).bench(t)
	w.weighed()
	told := w.caught()
	w.see("By this line’s record,")
	w.click("its levels")
	w.see("the whole line, all targets: ")
	w.see("coyotes at this spot: ")
	w.click("tell it without the record")
	w.see("Told as it is drawn, without this line’s record.")
	w.gone("By this line’s record")
	w.until("the set is told otherwise", func() bool { return w.caught() != told })
	w.weighed()
	w.click("tell it with the record")
	w.until("it is told as before", func() bool { return w.caught() == told })
	w.noErrors()
}

// What catches is told apart in words: a heap opens to its nights, these lead to the set and to the place; two heaps are compared, with what else differs
// between them.
func TestWhatCatches(t *testing.T) {
	t.Parallel()
	w := demoLine(t).at("/", 1280, 800)
	w.click("Book")
	w.see("The drawings promised")
	w.click("what catches")
	w.see("One against another")
	w.see("How long a set stands before it catches")
	w.see("What else differs, in 100 nights of each")
	w.click("place")
	w.see(", told as ")
	w.click("Stack yard")
	w.see("set 2, Stack yard")
	w.click("bobcats")
	w.gone("8 in 85.5")
	w.choose("this", "Pond edge")
	w.choose("against this", "Two-track bend")
	w.see("Pond edge, none in 30")
	w.click("all targets")
	w.see("8 in 85.5")
	w.choose("this", "Gate gap")
	w.choose("against this", "Bone flat")
	w.see("Gate gap, 8 in")
	w.see("; Bone flat, ")
	w.choose("against this", "Gate gap")
	w.see("Choose two that differ.")
	w.click("bobcats")
	w.see("Stack yard")
	w.gone("8 in 85.5")
	w.see("1 in 85.5")
	w.click("all targets")
	w.click("set 2, Stack yard")
	w.see("The story of set 2, Stack yard")
	w.see("held coyote")
	w.click("the next fourteen nights")
	w.see("such fortnights it holds a coyote")
	w.click("The story of Stack yard")
	w.see("Set 7")
	w.click("what catches")
	w.click("month")
	w.see("October 2026")
	w.noErrors()
}

// From the book's leak to the set, to a change on the bench that says what it would gain, and mornings later to what it has done.
func TestALeakIsFollowedToItsMend(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 1280, 800)
	w.click("Book")
	w.see("lost most here")
	w.click("coyote")
	set := w.find(`//p[starts-with(normalize-space(.), "Most of them at")]//a`)
	name := set.MustText()
	w.press(set)
	w.see("The story of " + name)
	w.click("change it on the bench")
	w.weighed()
	w.see("more coyotes in 100 nights")
	w.click("try it")
	w.weighed()
	w.click("Remake it")
	w.see(" is built")
	for range 3 {
		p.night()
	}
	w.click("Book")
	w.see("The drawings promised")
	w.click("coyote")
	w.press(w.find(`//a[.="` + name + `"]`))
	w.see("The story of " + name)
	w.see("By the drawings")
	w.see("before that, and none in ")
	w.noErrors()
}
