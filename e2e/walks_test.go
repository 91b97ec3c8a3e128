package e2e

import (
	"fmt"
	"path/filepath"
	"slices"
	"testing"

	"github.com/go-rod/rod/lib/input"

	"oldburrow/core/line"
	pages "oldburrow/core/page"
)

// onSheet opens the sheet of a day and puts the hand into the row of a set.
func (w *page) onSheet(lineID, day string, set int) {
	w.t.Helper()
	w.open(fmt.Sprintf("/line/%s/round?day=%s", lineID, day))
	w.see("Enter saves a row and goes to the next.")
	w.find(fmt.Sprintf(`//input[@aria-label="set %d, time"]`, set)).MustFocus()
}

// A catch of two is written up on the sheet with few keys, from the time in its row to the book.
func TestACatchOfTwoTakesFewKeys(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 1280, 800)
	view := p.lineNow()
	i := slices.IndexFunc(view.Sets, func(s pages.SetView) bool { return len(s.Make.Layout.Rigs) == 2 && !s.Bead.Late })
	set := view.Sets[i]
	w.onSheet(view.Line.ID, "2026-12-04", set.Set.Number)
	before := w.counted()
	w.write("530")
	w.tab("what was found")
	w.write("c")
	for k, animal := range []struct{ sex, foot, hold string }{{"m", "l", "b"}, {"f", "r", "b"}} {
		if k == 0 {
			w.tab("what was caught")
		} else {
			w.tab("another animal")
			w.key(input.Enter, 1)
			w.focusAt("what was caught")
		}
		w.write("c")
		w.tab("sex")
		w.write(animal.sex)
		w.tab("which foot")
		w.write(animal.foot)
		w.tab("by pad or toe")
		w.write(animal.hold)
		w.tab("which trap held it")
		w.key(input.ArrowDown, k+1)
	}
	w.key(input.Enter, 1)
	w.see("05:30 caught: two coyotes")
	w.tap("Book")
	w.tap("what was caught")
	w.see("caught: two coyotes")
	if took := w.counted().since(before); took.keys() > 32 {
		t.Errorf("it took %+v", took)
	}
	w.noErrors()
	last := p.setNow(set.Set.Number).LastVisit
	if last == nil || last.Animal != "coyote" || len(last.Catches) != 2 {
		t.Fatalf("it was kept as %+v", last)
	}
	for k, want := range []line.Catch{{Species: "coyote", Sex: "male", Foot: "left_fore", Hold: "pad"}, {Species: "coyote", Sex: "female", Foot: "right_fore", Hold: "pad"}} {
		at := slices.IndexFunc(last.Catches, func(c line.Catch) bool { return c.Sex == want.Sex })
		if at < 0 || last.Catches[at].Foot != want.Foot || last.Catches[at].Hold != want.Hold || !slices.Equal(last.Catches[at].Rigs, []int{set.Make.Layout.Rigs[k].Slot}) {
			t.Errorf("it was kept as %+v", last.Catches)
		}
	}
}

// Fourteen rows of all kinds, for a day that is over, of which nobody looked at a clock in between.
func TestFourteenRowsTakeFewKeys(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 1280, 800)
	w.click("move on a night")
	w.see("5 December, 05:50")
	view := p.lineNow()
	w.onSheet(view.Line.ID, "2026-12-04", 1)
	before := w.counted()
	rows := 0
	row := func(keys ...string) {
		t.Helper()
		for k, key := range keys {
			if k > 0 {
				w.key(input.Tab, 1)
			}
			w.write(key)
		}
		w.key(input.Enter, 1)
		rows++
		w.until("the row stands", func() bool { return len(w.MustElements(".noted")) == rows })
	}
	// 1, 6, 2, 7, 8, 24, 3, 20, 4, 18, 22, 9, 10, 11: as the sheet has them.
	row("7", "q")
	row("", "q")
	row("", "p", "c", "t")
	row("", "q")
	row("720", "c", "r", "u")
	row("", "q")
	row("", "rr", "r", "t", "l")
	row("", "q")
	row("", "loc", "fr")
	row("735", "st", "c", "t", "f")
	row("", "q")
	row("", "q")
	row("", "sp", "c", "t")
	row("8", "q")
	w.see("that morning quiet")
	if took := w.counted().since(before); took.keys() > 150 || took.Presses != 0 {
		t.Errorf("it took %+v", took)
	}
	w.noErrors()
	var found []string
	w.until("the program has them", func() bool {
		var day pages.Day
		p.get(fmt.Sprintf("/lines/%s/day/2026-12-04", view.Line.ID), &day)
		found = found[:0]
		last := day.From
		for _, s := range day.Sets {
			for _, look := range s.Looks {
				if look.At.Before(last) {
					t.Errorf("%s stands before the row above it", look.At)
				}
				last = look.At
				found = append(found, fmt.Sprintf("%s %s %s %s %v", look.Finding, look.Animal, look.By, look.Bed, look.HasTime()))
			}
		}
		return len(found) == 14
	})
	want := []string{
		"quiet    true", "quiet    false", "passed coyote track  false", "quiet    false", "catch red_fox seen  true", "quiet    false", "rolled red_fox track  false",
		"quiet    false", "locked   frozen false", "stood coyote track  true", "quiet    false", "quiet    false", "sprung coyote track  false", "quiet    true",
	}
	if !slices.Equal(found, want) {
		t.Errorf("%q", found)
	}
}

// A newcomer's straight way on a file of one's own, by pointer and keyboard, from nothing to a set that was looked at, held an animal and was
// remade.
func TestANewcomersStraightWay(t *testing.T) {
	t.Parallel()
	p := run(t, "demo", "--empty", "--still", "--data", filepath.Join(t.TempDir(), "own.db"))
	w := p.at("/", 1280, 800)
	took := func(what string, since tally) tally {
		now := w.counted()
		t.Logf("%s: %+v", what, now.since(since))
		return now
	}
	w.focusAt("its name")
	before := w.counted()
	start := before
	w.write("My own line")
	w.tab("where it lies")
	w.write("46.8, -105.3")
	w.key(input.Enter, 1)
	w.see("A new spot")
	before = took("the line", before)

	w.focusAt("name")
	w.write("Willow crossing")
	w.tab("property")
	w.write("Home place")
	w.tab("permission, in your words")
	w.write("yes, by telephone")
	w.tab("permission ends")
	w.write("12312026") // as this browser has a date
	w.touch(0.4, 0.5)
	w.tap("east and west")
	w.tab("soil")
	w.write("firm c")
	w.key(input.Tab, 1)
	w.key(input.ArrowRight, 2)
	w.key(input.Space, 1)
	w.tap("Mark the spot")
	w.see("way runs east and west; moist firm clay")
	w.see("permission to 31 December")
	w.tap("add a spot")
	w.focusAt("name")
	w.write("Gate gap")
	w.touch(0.6, 0.5)
	w.tap("north and south")
	w.tab("soil")
	w.write("loam")
	w.key(input.Tab, 1)
	w.key(input.ArrowRight, 1)
	w.key(input.Space, 1)
	w.tap("Mark the spot")
	w.see("way runs north and south; dry loam")
	before = took("two spots", before)

	w.tap("Add sign")
	w.touch(0.61, 0.5)
	w.tap("coyote")
	w.tap("tracks")
	w.see("Tracks, coyote")
	before = took("a track", before)

	w.tap("Shed")
	w.focusAt("size, as you call it")
	w.write("2")
	w.tab("how many alike")
	w.write("3")
	w.key(input.Enter, 1)
	w.see("Three traps and devices")
	before = took("three traps", before)
	w.tap("shed check")
	w.see("Never measured, and taken as usual for its size")
	w.tap("the rest is ok")
	w.tap("Record the check")
	w.see("checked, all ok")
	w.tap("Measure it")
	w.see("no press yet")
	for _, press := range []string{"4", "4.1", "3.9"} {
		w.write(press)
		w.key(input.Enter, 1)
	}
	w.tap("Record it")
	w.see("three presses of my gauge")
	before = took("a check and a measurement", before)

	w.tap("Mixes")
	w.focusAt("your name for it")
	w.write("Slough lure")
	w.key(input.Enter, 1)
	w.see("a dose is")
	w.press(w.field("call it"))
	w.write("Winter urine")
	w.tap("Bottle it")
	w.see("stand on the shelf")
	before = took("a lure and a mix", before)

	w.tap("Bench")
	w.tap("Gate gap")
	w.see("which trap?")
	w.see("fires it")
	w.field("which trap?").MustSelect("Trap 1, size 2")
	w.tap("Build it")
	w.see("Set 1 is built")
	before = took("a set", before)

	w.tap("Round")
	w.see("Enter saves a row")
	w.tap("move on a night")
	w.see("5 December, 12:50")
	w.focusAt("set 1, time")
	w.key(input.Tab, 1)
	w.write("q")
	w.key(input.Enter, 1)
	w.see("12:50 quiet")
	before = took("a look", before)
	w.tap("move on a night")
	w.see("6 December, 12:50")
	w.focusAt("set 1, time")
	w.tab("what was found")
	w.write("c")
	w.tab("what was caught")
	w.write("c")
	w.tab("sex")
	w.write("m")
	w.key(input.Enter, 1)
	w.see("12:50 caught: coyote")
	before = took("a catch", before)
	w.press(w.find(`//a[@class="which"]`))
	w.settled()
	w.tap("remade as it was")
	w.see("remade, 12:50")
	took("a remake", before)
	if all := w.counted().since(start); all.Presses > 45 || all.Acts > 75 {
		t.Errorf("it took %+v", all)
	}
	w.noErrors()
	var made pages.SetView
	w.until("the program has the remake", func() bool { made = p.setNow(1); return made.Make.Follows != nil })
	view := p.lineNow()
	var book pages.BookView
	p.get("/lines/"+view.Line.ID+"/book", &book)
	if len(view.Spots) != 2 || len(view.Properties) != 1 || view.Properties[0].Until != "2026-12-31" || len(book.Catches) != 1 || book.Catches[0].Species != "coyote" || made.Make.Layout.Rigs[0].TrapID == "" {
		t.Errorf("it stands as %+v, %+v", view.Properties, made)
	}
}
