package e2e

import (
	"os"
	"path/filepath"
	"testing"
	"time"
)

// TestShots takes the pictures of docs/screenshots into the folder that OLDBURROW_SHOTS names.
func TestShots(t *testing.T) {
	folder := os.Getenv("OLDBURROW_SHOTS")
	if folder == "" {
		t.Skip("OLDBURROW_SHOTS names no folder")
	}
	p := demoLine(t)
	shotOfTheDoor(t, folder)
	shoot := func(w *page, name string) {
		time.Sleep(1200 * time.Millisecond) // transitions and full runs
		if err := os.WriteFile(filepath.Join(folder, name+".png"), w.MustScreenshot(), 0o644); err != nil {
			t.Fatal(err)
		}
		w.noErrors()
	}
	table := p.at("/", 1280, 800)
	table.see("Dry, to 9°F")
	shoot(table, "today")
	table.click("Ground")
	table.see("Choose something")
	shoot(table, "ground-map")
	table.click("Pit rim")
	table.see("an open hole, pulled")
	shoot(table, "spot")
	table.click("which side?")
	table.touch(.30, .325)
	table.see("Stand it on the")
	shoot(table, "ground-wind")
	table.click("Bench")
	table.see("On the bench")
	table.click("1Ditch mouth")
	table.weighed()
	shoot(table, "bench-dirt-hole")
	table.scrollTo(helpList)
	shoot(table, "bench-helps")
	for _, one := range []struct{ title, picture string }{
		{"Creek pinch, two traps and a rag", "bench-trail"}, {"One tuft, dug in", "bench-scent-post"},
	} {
		table.chooseDrawn(one.title)
		table.see("saved")
		table.weighed()
		shoot(table, one.picture)
	}
	table.click("4Anchor")
	table.see("tears up the whole set")
	shoot(table, "build-rig")
	table.click("4Anchor")
	table.click("another pattern")
	table.see("Foot snare in a trail")
	shoot(table, "bench-patterns")
	table.click("Culvert, log or tree, blind")
	table.click("Done")
	table.weighed()
	table.see("pit for chain and swivels")
	table.pressAt(`//button[.//h3[.="Bed and cover"]]`)
	table.settled()
	shoot(table, "build-step")
	table.click("Shed")
	table.see("At the rack")
	table.hook("Trap 9,")
	table.see("fouled with wax")
	shoot(table, "shed-rack")
	table.click("Mixes")
	table.see("Coldest hour of the forecast")
	table.hook("fox urine,")
	table.see("Where it was used")
	shoot(table, "shed-mixes")
	table.click("Book")
	table.see("Where this line loses animals")
	shoot(table, "book-leaks")
	table.click("what catches")
	table.see("One against another")
	table.click("place")
	table.see("told as")
	shoot(table, "book-rates")
	table.click("Round")
	table.see("to see by midnight")
	shoot(table, "round")

	hand := p.at("/", 390, 844)
	hand.see("Before light")
	hand.click("Start the round")
	hand.see("It worked the set")
	shoot(hand, "hand-quiet")
	hand.click("Caught")
	hand.see("which foot")
	shoot(hand, "hand-catch")
}

// shotOfTheDoor is what the table page shows of the way onto a phone.
func shotOfTheDoor(t *testing.T, folder string) {
	p, _ := reached(t)
	table := p.at("/", 1280, 800)
	table.letsIn("Alva")
	if err := os.WriteFile(filepath.Join(folder, "phone.png"), table.MustScreenshot(), 0o644); err != nil {
		t.Fatal(err)
	}
	table.noErrors()
}
