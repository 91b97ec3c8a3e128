package e2e

import (
	"fmt"
	"path/filepath"
	"strconv"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

// One set from sign to catch, by a newcomer with an empty data file.
func TestFromSignToCatch(t *testing.T) {
	t.Parallel()
	p := run(t, "demo", "--empty", "--still", "--data", filepath.Join(t.TempDir(), "own.db"))
	w := p.keptAt("/", 1280, 800)
	beginLine(w)
	markSpot(w)
	addSign(w)
	designFox(w)
	buildOnce(w)

	w.click("move on a night")
	w.see("Saturday 5 December, 05:50")
	w.see("2 · late")
	hand := p.keptAt("/", 390, 844)
	hand.see("One set to see by midnight, and it is late.")
	catchFox(hand)

	w.open("/")
	w.click("Book")
	w.click("what was caught")
	w.see("caught: red fox")
	w.see("female, left fore, by the pad")
	w.see("1 in 1")
	w.see("100 in 100 trap-nights")

	p.kill()
	p.start()
	w.open("/")
	w.click("Book")
	w.click("what was caught")
	w.see("caught: red fox")
	w.click("Ground")
	w.see("Willow crossing")
	w.click("Bench")
	w.see("Willow crossing · red fox")
	w.noErrors()
	hand.noErrors()
}

func beginLine(w *page) {
	w.t.Helper()
	w.see("This data file is empty")
	w.click("Begin the line")
	w.wrong("its name", "Give your line a name")
	w.fill("its name", "My own line")
	w.fill("clock", "America/Denver")
	w.click("Begin the line")
	w.see("Paste its coordinates, or take this device’s place")
	w.fill("where it lies", "46.8 N, 205.3 W")
	w.see("lies off the globe")
	w.fill("where it lies", "46° 48' N, 105° 18' W")
	w.see("46.8000° N, 105.3000° W")
	w.click("Begin the line")
	w.see("A new spot")
}

func markSpot(w *page) {
	w.t.Helper()
	w.click("Mark the spot")
	w.wrong("name", "Give the spot a name")
	w.see("Touch its place on the map")
	w.fill("name", "Willow crossing")
	w.fill("property", "Home place")
	w.fill("permission, in your words", "mine")
	w.click("east and west")
	w.fill("travel way, wide", "4 ft 6 in")
	w.choose("soil", "firm clay")
	w.open(w.MustInfo().URL[len("http://"+w.address):]) // what was typed outlives a reload
	w.until("the form is as it was left", func() bool { return w.field("name").MustProperty("value").String() == "Willow crossing" })
	w.touch(0.5, 0.5)
	w.click("Mark the spot")
	w.see("way runs east and west, about 4.5 ft wide; firm clay")
	w.see("mine")
}

func addSign(w *page) {
	w.t.Helper()
	w.click("Add sign")
	w.click("tracks")
	w.see("Where is it?")
	w.choose("or at a spot", "Willow crossing")
	w.see("Its place is marked")
	w.click("red fox")
	w.click("tracks")
	w.see("Tracks, red fox")
	w.setTime("seen at", "2026-12-05T09:00")
	w.click("Save")
	w.wrong("seen at", "lies in the future")
	w.setTime("seen at", "2026-12-03T16:30")
	w.fill("note", "into the willows")
	w.click("Save")
	w.see("seen 3 Dec 16:30")
	w.click("Willow crossing")
	w.see("into the willows")
}

// touch clicks on the ground, at shares of its width and height.
func (w *page) touch(x, y float64) {
	w.t.Helper()
	ground := w.find(`//div[contains(@class,"map")]/*[local-name()='svg']`)
	if err := ground.Timeout(w.patience()).WaitStable(stillFor); err != nil {
		w.t.Fatalf("the map does not stand still: %v", err)
	}
	box := ground.MustShape().Box()
	w.Mouse.MustMoveTo(box.X+x*box.Width, box.Y+y*box.Height)
	w.Mouse.MustClick(proto.InputMouseButtonLeft)
}

// setTime writes into a date and time field.
func (w *page) setTime(label, value string) {
	w.t.Helper()
	w.field(label).MustEval(`(v) => { Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(this, v); this.dispatchEvent(new Event('input', { bubbles: true })) }`, value)
}

func designFox(w *page) {
	w.t.Helper()
	w.click("Design a set here")
	w.see("A new set, Willow crossing")
	w.see("not built yet")
	w.click("1Spot and target")
	w.click("red fox")
	w.see("Pan, jaws and guides are those for red fox now")
	w.see("pan at 2 lb")
	w.gone("measured")
	w.click("3Trap and pan")

	w.fill("setback", "8-10")
	w.wrong("setback", "That is a range: write a length such as 9 1/4, 9.25 in or 23 cm")
	if got := w.field("setback").MustProperty("value").String(); got != "8-10" {
		w.t.Errorf("what was typed became %q", got)
	}
	for typed, shown := range map[string]string{"9 1/4": "9 ¼ in", "9.25 in": "9 ¼ in", "23 cm": "9 in", "5¾": "5 ¾ in", "1 ft": "12 in", "146 mm": "5 ¾ in"} {
		w.fill("setback", typed)
		w.until(typed+" is read as "+shown, func() bool { return w.field("setback").MustProperty("value").String() == shown })
	}
	for _, nonsense := range []string{"", "abc", "9 furlongs", "1/0", "9 1/4 in 3"} {
		w.fill("setback", nonsense)
		w.wrong("setback", "write a length such as")
	}
	w.fill("setback", "5 3/4")
	w.click("2Kind and pattern")
	w.fill("angle, down from level", "10")
	w.wrong("angle, down from level", "must be from 20° to 85°, not 10°")
	w.see("Correct what is marked above")
	w.fill("angle, down from level", "55")
	w.gone("must be from 20°")
	w.fill("hole, across", "12")
	w.wrong("hole, across", "must be from 1 in to 5 ⅞ in, not 12 in")
	w.fill("hole, across", "2 1/2")
	w.click("5Bed and cover")
	w.fill("bed's middle, setback", "10 in")
	w.see("outside the bed: bring it back, or move the bed with it")
	w.fill("bed's middle, setback", "5 3/4")
	w.gone("outside the bed")
	w.see("saved")
}

func buildOnce(w *page) {
	w.t.Helper()
	w.click("built at another time")
	w.setTime("built at", "2026-12-30T09:00")
	w.see("This lies in the future, it is 05:50 on Friday 4 December")
	w.setTime("built at", "2026-12-03T17:15")
	w.gone("This lies in the future")
	w.twice(`//button[normalize-space(.)="Build it"]`)
	w.see("Set 1 is built, 17:15 on Thursday 3 December.")
	w.see("1 · by midnight")
	var makes int
	w.MustEval(`() => fetch('/api' + location.pathname.replace('/line/', '/lines/').replace(/\/bench.*/, '')).then((r) => r.json()).then((v) => v.sets.length)`).Unmarshal(&makes)
	if makes != 1 {
		w.t.Errorf("a double click built %d sets", makes)
	}
	w.click("Book")
	w.click("what was caught")
	w.see("0 in 1")
}

func catchFox(w *page) {
	w.t.Helper()
	w.click("Start the round")
	w.see("Fixed: ")
	w.click("Caught")
	w.see("Approach from the far side of its circle")
	w.click("female")
	w.click("Record the catch")
	w.see("Choose what was caught")
	w.click("red fox")
	w.click("left fore")
	w.click("by the pad")
	w.click("Record the catch")
	w.see("caught: red fox, female, left fore, by the pad, 05:50 · recorded")
	w.click("remade as it was")
	w.see("remade, 05:50 · recorded")
	w.click("Done, every set is seen")
	w.see("Nothing is due before tomorrow.")
}

// figure reads the chance of a link of the chain.
func (w *page) figure(link string) float64 {
	w.t.Helper()
	name := w.label(w.find(fmt.Sprintf(`//*[@role="button" and starts-with(@aria-label, %q)]`, link)))
	_, value, _ := strings.Cut(name, ": ")
	value, _, _ = strings.Cut(value, ", ")
	inHundred, said := strings.CutSuffix(value, " in 100")
	f, err := strconv.ParseFloat(inHundred, 64)
	if !said || err != nil {
		w.t.Fatalf("%s is not so many in 100: %v", name, err)
	}
	return f / 100
}

// drag moves the pointer from the middle of an element by some pixels, in steps, and calls during at each.
func (w *page) drag(el *rod.Element, dx, dy float64, during func()) {
	w.t.Helper()
	box := el.MustShape().Box()
	x, y := box.X+box.Width/2, box.Y+box.Height/2
	w.Mouse.MustMoveTo(x, y).MustDown(proto.InputMouseButtonLeft)
	for i := 1; i <= 8; i++ {
		w.Mouse.MustMoveTo(x+dx*float64(i)/8, y+dy*float64(i)/8)
		during()
	}
	w.Mouse.MustUp(proto.InputMouseButtonLeft)
}

func (p *program) bench(t *testing.T) *page { return p.at("/", 1280, 800).atTheBench() }

func (w *page) atTheBench() *page {
	w.click("Bench")
	w.see("On the bench")
	w.click("1Ditch mouth")
	w.see("steps on the pan")
	w.see("skunk")
	return w
}

func TestBenchFollowsTheHand(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.bench(t)
	setback := func() float64 { return p.lineNow().Designs[0].Layout.Rigs[0].Pan.YMm }
	before := w.figure("steps on the pan")
	// The pan is dragged away from the feet: quick runs follow it, and when the hand rests the full run settles what they said.
	var read float64
	moves := 0
	w.drag(w.part("pan,"), 90, -30, func() {
		if moves++; moves == 8 {
			w.until("the chance follows the pan", func() bool { read = w.figure("steps on the pan"); return read < before-.1 })
		}
	})
	w.until("the full run settles near what the quick ones said", func() bool {
		settled := w.figure("steps on the pan")
		return settled > read-0.08 && settled < read+0.08
	})
	label := w.label(w.part("pan,"))
	if !strings.Contains(label, "to the right") {
		t.Errorf("after dragging up and away: %s", label)
	}
	// The arrow keys nudge by a quarter of an inch, with shift by an inch.
	w.part("pan,").MustFocus()
	w.key(input.ArrowLeft, 3)
	w.until("three nudges are three quarters", func() bool { return w.label(w.part("pan,")) != label })
	pan := w.label(w.part("pan,"))
	w.Keyboard.MustType(input.ArrowUp)
	w.until("the pan goes to the right", func() bool { return w.label(w.part("pan,")) != pan })
	stone := w.label(w.part("stone 1"))
	w.drag(w.part("stone 1"), 40, 10, func() {})
	w.until("the stone has moved", func() bool { return w.label(w.part("stone 1")) != stone })
	// When the hole moves away, the pan lies farther back.
	back := w.label(w.part("pan,"))
	w.drag(w.part("hole,"), -30, 0, func() {})
	w.until("the setback is longer", func() bool { return w.label(w.part("pan,")) != back })
	w.until("the program has it", func() bool {
		return strings.HasPrefix(w.label(w.part("pan,")), fmt.Sprintf("pan, %d ", int(setback()/25.4+1.0/16)))
	})
	moved := w.label(w.part("pan,"))
	w.MustReload().MustWaitLoad()
	w.see("skunk")
	if got := w.label(w.part("pan,")); got != moved {
		t.Errorf("after a reload %q, it was %q", got, moved)
	}
	w.noErrors()
}

func TestBenchNumbersMatter(t *testing.T) {
	t.Parallel()
	w := demoLine(t).bench(t)
	before := w.figure("fires it")
	w.click("3Trap and pan")
	w.fill("pan tension", "15 lb")
	w.until("a heavy pan fires less", func() bool { return w.figure("fires it") < before-0.1 })
	w.fill("pan tension", "4")
	w.click("5Bed and cover")
	// What weather makes of a cover is not offered as one.
	if offered := w.field("cover").MustEval(`() => [...this.options].map((o) => o.text).join()`).String(); strings.Contains(offered, "frozen") || strings.Contains(offered, "crust") || !strings.Contains(offered, "damp soil, packed") {
		t.Errorf("covers that are offered: %s", offered)
	}
	w.choose("cover", "damp soil, packed")
	w.fill("cover, thick", "1 1/2")
	w.until("a thick damp cover holds the pan", func() bool { return w.figure("fires it") < before-0.05 })
	w.choose("cover", "waxed soil")
	w.fill("cover, thick", "1/4")
	w.press(w.find(`//label[starts-with(., "firm:")]`))
	w.see("feel the bed give and leave")
	w.press(w.find(`//label[starts-with(., "firm:")]`))
	w.click("computed from")
	w.see("20,000 visits of a coyote")
	w.click("7Guides")
	w.see("2 stones and one clod")
	w.click("add a stone")
	w.see("3 stones and one clod")
	w.click("US units")
	w.see("23.5 cm")
	w.click("lamp")
	if theme := w.MustEval(`() => document.documentElement.dataset.theme`).String(); theme != "lamp" {
		t.Errorf("the theme is %s", theme)
	}
	w.noErrors()
}

func TestTwoWindowsShowBoth(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	first, second := p.bench(t), p.bench(t)
	first.click("6Attractant")
	first.fill("bait", "mouse bait")
	first.see("saved")
	second.click("6Attractant")
	second.fill("bait", "beaver bait")
	second.see("This design was changed in another window")
	second.click("Keep what is here")
	second.see("beaver bait under wool")
	second.see("saved")
	second.MustReload()
	second.see("beaver bait under wool")
	first.fill("bait", "fish bait")
	first.see("This design was changed in another window")
	first.click("take the other")
	first.see("beaver bait under wool")
}

func TestADeadProgramLosesNothing(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	hand := p.keptAt("/", 390, 844)
	hand.click("Start the round")
	bench := p.bench(t)
	bench.click("6Attractant")
	hand.see("It worked the set")
	p.kill()
	hand.click("It worked the set")
	hand.click("sprung, empty")
	hand.see("kept on this device, not sent yet")
	bench.fill("lure", "my own lure")
	bench.see("kept in this browser, not saved yet")
	time.Sleep(300 * time.Millisecond)
	p.start()
	hand.see("sprung, empty, 05:50 · recorded")
	bench.see("changed · saved")
	bench.MustReload()
	bench.see("my own lure on the lip")
	hand.click("Next: set 1")
	hand.click("Quiet")
	hand.see("quiet, 05:50 · recorded")
	hand.click("undo")
	hand.see("Something came")
	hand.click("the whole round")
	hand.see("sprung, empty 4 Dec 05:50; remake or pull it")
	hand.noErrors()
}

// A finding is the animal's by two touches more, and nobody's by none.
func TestALookKnowsItsAnimal(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	hand := p.at("/", 390, 844)
	hand.click("Start the round")
	hand.see("It worked the set")
	hand.click("Something came")
	hand.see("cannot tell")
	hand.click("passed by")
	hand.see("passed by, 05:50 · recorded")
	hand.click("look again")
	hand.click("Something came")
	hand.click("grey fox")
	hand.click("its scat")
	hand.click("looked, stood off")
	hand.see("looked, stood off: grey fox, by its scat, 05:50 · recorded")
	hand.click("look again")
	hand.click("It worked the set")
	hand.click("another")
	hand.click("badger")
	hand.click("dug out or flipped")
	hand.see("dug out or flipped: badger, by its track, 05:50 · recorded")
	hand.MustReload()
	hand.see("dug out or flipped: badger, by its track")
	hand.click("Next: set 1")
	hand.click("the whole round")
	hand.see("dug out or flipped, badger 4 Dec 05:50")
	hand.noErrors()
}

func TestTwoQuickTapsAnswerOneSet(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	hand := p.at("/", 390, 844)
	hand.click("Start the round")
	hand.see("Set 5")
	hand.see("late since midnight")
	hand.settled()
	hand.twice(`//button[starts-with(normalize-space(.), "Quiet")]`)
	hand.see("quiet, 05:50 · recorded")
	hand.click("Next: set 1")
	hand.click("the whole round")
	hand.see("23 to see by midnight, none late.")
}

func TestUnknownAddressesSaySo(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/line/01K8V7Z8R5Q6T9W3X1Y2Z4A5B6/today", 1280, 800)
	w.see("This line is not in the file")
	w.click("See which lines there are")
	w.see("Before light")
	base := strings.TrimSuffix(w.MustInfo().URL[len("http://"+p.address):], "/today")
	for path, says := range map[string]string{
		"/bench/01K8V7Z8R5Q6T9W3X1Y2Z4A5B6":      "This design is not in the file",
		"/round/01K8V7Z8R5Q6T9W3X1Y2Z4A5B6":      "No set stands under this address",
		"/shed/gauge/01K8V7Z8R5Q6T9W3X1Y2Z4A5B6": "No trap with a pan stands under this address",
		"/practice":                              "Made-up scenes",
		"/rules":                                 "Your rule card",
		"/else":                                  "No such page",
	} {
		w.open(base + path)
		w.see(says)
	}
	w.noErrors()
}

// A save whose answer is lost on the way is sent again as the same save, and is no conflict with itself; what was written
// meanwhile is saved after it.
func TestALostAnswerIsNoConflict(t *testing.T) {
	t.Parallel()
	w := demoLine(t).bench(t)
	var lost, back atomic.Int32
	router := w.HijackRequests()
	router.MustAdd("*/designs/*", func(ctx *rod.Hijack) {
		switch {
		case ctx.Request.Method() != "PUT" || back.Load() > 0:
			ctx.ContinueRequest(&proto.FetchContinueRequest{})
		case lost.Add(1) == 1: // it is written, and nobody hears of it
			ctx.MustLoadResponse()
			ctx.Response.Fail(proto.NetworkErrorReasonConnectionReset)
		default: // no signal until the words have been read, however slow the machine is
			ctx.Response.Fail(proto.NetworkErrorReasonConnectionReset)
		}
	})
	go router.Run()
	defer router.MustStop()
	w.click("6Attractant")
	w.fill("bait", "mouse bait")
	w.see("kept in this browser, not saved yet")
	w.fill("lure", "my own lure")
	w.see("mouse bait under wool, my own lure on the lip")
	back.Store(1)
	w.see("changed · saved")
	w.gone("changed in another window")
	w.MustReload()
	w.see("mouse bait under wool, my own lure on the lip")
	if lost.Load() < 1 {
		t.Error("no answer was lost")
	}
}
