package e2e

import (
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
)

// Everything that can be written in a length is read, and shown in the system that is chosen.
func TestLengthsAsPeopleWriteThem(t *testing.T) {
	t.Parallel()
	w := demoLine(t).bench(t)
	w.click("3Trap and pan")
	value := func() string { return w.field("setback").MustProperty("value").String() }
	for _, c := range []struct{ typed, us, metric string }{
		{"9 1/4", "9 ¼ in", "23.5 cm"},
		{"9-1/4", "9 ¼ in", "23.5 cm"},
		{"9¼", "9 ¼ in", "23.5 cm"},
		{"9.25 in", "9 ¼ in", "23.5 cm"},
		{"9.25\"", "9 ¼ in", "23.5 cm"},
		{"23 cm", "9 in", "23 cm"},
		{"23,5 cm", "9 ¼ in", "23.5 cm"},
		{"235 mm", "9 ¼ in", "23.5 cm"},
		{".75 ft", "", ""},
		{"0.75 ft", "9 in", "22.9 cm"},
		{"1 ft 1 1/2 in", "13 ½ in", "34.3 cm"},
		{"15/2 in", "7 ½ in", "19.1 cm"},
		{"8 to 10", "", ""},
		{"8–10", "", ""},
		{"9 lb", "", ""},
	} {
		w.fill("setback", c.typed)
		if c.us == "" {
			w.wrong("setback", "write a length such as")
			continue
		}
		w.until(c.typed+" is read as "+c.us, func() bool { return value() == c.us })
		w.click("US units")
		w.until(c.typed+" is shown as "+c.metric, func() bool { return value() == c.metric })
		w.click("metric")
	}
	w.fill("pan tension", "2 kg")
	w.until("kilograms are read", func() bool { return w.field("pan tension").MustProperty("value").String() == "4.4 lb" })
	w.fill("offset", "-1 1/2")
	w.see("1 ½ in to the left")
	w.fill("setback", "30 in")
	w.wrong("setback", "must be from 1 ⅛ in to 23 ⅝ in, not 30 in")
	w.noErrors()
}

func TestStringIsWalkedWithTheArrows(t *testing.T) {
	t.Parallel()
	w := demoLine(t).at("/", 1280, 800)
	w.part("set 1,").MustFocus()
	w.key(input.ArrowRight, 3)
	w.key(input.ArrowLeft, 1)
	if got := w.MustEval(`() => document.activeElement.getAttribute('aria-label')`).String(); !strings.HasPrefix(got, "set 2,") {
		t.Errorf("the focus is on %q", got)
	}
	w.key(input.Enter, 1)
	w.see("Set 2, Stack yard")
	w.see("Drag on 6 ft of chain")
	w.part("spot North culvert").MustFocus()
	w.key(input.Enter, 1)
	w.see("in and out of the north pipe")
	w.click("Round")
	w.see("Light enough from")
	w.see("Enter saves a row")
	w.settled() // the sheet takes the focus when it is there
	w.part("set 4,").MustFocus()
	w.key(input.Enter, 1)
	w.see("It worked the set")
	w.noErrors()
}

// Each of the five answers leads to its findings, and every one is written down.
func TestFiveAnswers(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	p.helperSees(6)
	hand := p.at("/", 390, 844)
	hand.click("the whole round")
	for _, c := range []struct{ set, answer, finding, recorded string }{
		{"5", "Quiet", "", "quiet"},
		{"1", "Something came", "looked, stood off", "looked, stood off"},
		{"2", "It worked the set", "stood there, missed the pan", "stood there, missed the pan"},
		{"3", "Trouble", "frozen", "locked, frozen"},
		{"4", "Trouble", "trap gone", "trap gone"},
	} {
		hand.click(c.set)
		hand.see("Set " + c.set)
		if c.set == "2" {
			hand.see("On a drag: 6 ft of chain. If the trap is gone, follow the drag from here")
		}
		hand.click(c.answer)
		if c.finding != "" {
			hand.click("back")
			hand.click(c.answer)
			hand.click(c.finding)
		}
		if c.finding == "trap gone" {
			hand.see("The set stays on the round, late, until the trap is found or given up.")
			hand.click("Search for it")
		}
		hand.see(c.recorded + ", 05:50 · recorded")
		if c.finding == "trap gone" {
			hand.click("pulled")
			hand.click("It is pulled")
			hand.see("pulled; it is down · recorded")
		}
		hand.open(strings.TrimSuffix(hand.MustInfo().URL[len("http://"+p.address):], hand.setID()))
		hand.see(c.recorded + " 4 Dec 05:50")
	}
	hand.see("Nothing is due before tomorrow.")
	hand.see("down")
	hand.noErrors()
}

// setID is the last part of the address.
func (w *page) setID() string {
	url := w.MustInfo().URL
	return url[strings.LastIndex(url, "/"):]
}

// On a phone the bench shows its drawing first, to look at, and every page fits the width.
func TestPagesInTheHand(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	hand := p.at("/", 390, 844)
	for _, step := range []struct{ click, see string }{
		{"Today", "Before light"}, {"Ground", "Alder Slough hayfield"}, {"add a spot", "A new spot"}, {"Round", "The round"}, {"Book", "Where this line loses animals"}, {"what was caught", "What was caught"},
		{"Bench", "On the bench"}, {"1Ditch mouth", "steps on the pan"}, {"3Trap and pan", "setback"},
	} {
		hand.click(step.click)
		hand.see(step.see)
		if wide := hand.MustEval(`() => document.documentElement.scrollWidth`).Int(); wide > 390 {
			t.Errorf("%s is %d px wide", step.see, wide)
		}
	}
	drawing := hand.MustElement(".drawing")
	if !drawing.MustVisible() || drawing.MustShape().Box().Y > hand.find(`//*[@role="button" and starts-with(@aria-label, "fires it")]`).MustShape().Box().Y {
		t.Error("the drawing does not come first on a phone")
	}
	before := hand.figure("fires it")
	hand.fill("pan tension", "15 lb")
	hand.until("the odds follow", func() bool { return hand.figure("fires it") < before-.1 })
}
