package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// An anchor in wet clay fails and is crossed; a fence lies in the circle until the anchor is moved; what is not said is asked for.
func TestAnAnchorInWetClay(t *testing.T) {
	t.Parallel()
	w := demoLine(t).at("/", 1280, 800)
	w.click("Bench")
	w.see("On the bench")
	w.click("Creek crossing")
	w.see("steps on the pan")
	w.click("4Anchor")
	w.click("one stake")
	w.fill("down in the ground", "18 in")
	w.see("At the thaw it may fail")
	w.see("tears up the whole set")
	w.press(w.find(`//ul[@aria-label="what would hold better"]//button[starts-with(., "cross it with a second stake")]`))
	w.see("18 in double-staked")
	w.gone("At the thaw it may fail")
	// A pull with the scale says more than soil mechanics.
	w.fill("pulled by hand, scale read", "1000 lb")
	w.see("by your pull")
	w.fill("swivels in it", "3")
	w.see("three swivels")

	// The land about it is told, and drawn where it is said which way the set faces.
	w.click("1Spot and target")
	w.fill("direction, degrees from north", "172")
	w.fill("distance from the spot", "17 ft")
	w.click("4Anchor")
	w.see("In reach: stream")
	w.see("It is drawn when it is said which way the set faces.")
	w.click("1Spot and target")
	w.fill("faces (degrees)", "180")
	w.click("4Anchor")
	w.find(`//*[local-name()="svg" and @aria-label="the set drawn to scale"]//*[local-name()="text" and .="stream"]`)

	w.chooseDrawn("Fence crawl-under")
	w.see("In reach: the fence, which it could hang itself on")
	w.see("The fence is in reach")
	w.see("Build it all the same")
	w.click("4Anchor")
	w.click("4Anchor")
	w.fill("and to the side", "60 in")
	w.gone("In reach: the fence")
	w.gone("all the same")
	w.see("saved")
	w.click("log drag")
	w.see("Say what it can hang in")
	w.choose("it can hang in", "timber")
	w.see("Runs about 31 yd, seldom over 92 yd")
	w.see("A drag runs to the")
	w.noErrors()
}

// Where two sets of a spot stand is asked for; said, it tells whether two held animals reach each other.
func TestTwoSetsThatMeet(t *testing.T) {
	t.Parallel()
	w := demoLine(t).bench(t)
	w.click("4Anchor")
	w.see("Set 6 stands at this spot too")
	w.click("1Spot and target")
	w.fill("distance from the spot", "4 ft")
	w.click("4Anchor")
	w.see("An animal held in set 6")
	w.see("About the place of the set itself")
	w.click("1Spot and target")
	w.fill("distance from the spot", "40 ft")
	w.click("4Anchor")
	w.see("Nothing that is drawn on the ground lies in its reach.")
	w.noErrors()
}

// wetLog is a log of two days of rain before the demo's day, at three degrees.
func wetLog(t *testing.T) string {
	rows := []string{"time,temp_c,wind_from_deg,wind_ms,rain_mm,snow_cm"}
	for hour := range 48 {
		rows = append(rows, fmt.Sprintf("2026-12-%02d %02d:00,3,200,3,2,0", 2+hour/24, hour%24))
	}
	log := filepath.Join(t.TempDir(), "log.csv")
	if err := os.WriteFile(log, []byte(strings.Join(rows, "\n")), 0o600); err != nil {
		t.Fatal(err)
	}
	return log
}

// Two days of rain stand in a bed in wet clay: it will lock by morning. A little salt is not enough, and it says how much is; bailed
// and salted it is sound.
func TestABedThatWillLock(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 1280, 800)
	w.see("Before light")
	w.click("weather, by hand")
	w.find(`//input[@id="log"]`).MustSetFiles(wetLog(t))
	w.click("Take in 48 hours")
	w.see("Taken in: 48 hours.")
	w.click("Today")
	w.see("16, 17, 19, 20")
	w.see("will lock by morning; bail them, and put dry peat or waxed soil over")
	w.part("set 16,").MustFocus()
	w.until("its bead says so", func() bool { return strings.Contains(w.label(w.part("set 16,")), "will lock") })

	hand := p.at("/", 390, 844)
	hand.click("the whole round")
	hand.click("16")
	hand.see("Will lock by morning")
	hand.click("Quiet")
	hand.see("quiet, 05:50 · recorded")
	hand.click("look again")
	hand.click("Something came")
	hand.click("more to say first")
	hand.fill("put in against freezing", "1 oz")
	hand.click("passed by")
	hand.see("passed by, 05:50 · recorded")
	w.MustReload().MustWaitLoad()
	w.see("of water stands in its bed; renew the salt, about")

	hand.click("look again")
	hand.click("Something came")
	hand.click("more to say first")
	hand.press(hand.find(`//label[.="bailed"]`))
	hand.fill("put in against freezing", "8 oz")
	hand.click("passed by")
	hand.see("passed by, 05:50 · recorded")
	w.MustReload().MustWaitLoad()
	w.see("Wind")
	w.gone("Set 16 will lock")
	w.noErrors()
	hand.noErrors()
}

// Without a forecast nothing is said of the morning to come: two days of rain want bailing.
func TestABedThatWantsBailing(t *testing.T) {
	t.Parallel()
	w := run(t, "demo", "--still", "--weather", "", "--data", filepath.Join(t.TempDir(), "own.db")).at("/", 1280, 800)
	w.click("enter the weather")
	w.see("No weather service is asked")
	w.find(`//input[@id="log"]`).MustSetFiles(wetLog(t))
	w.click("Take in 48 hours")
	w.see("Taken in: 48 hours.")
	w.click("Today")
	w.see("want bailing, water stands in their beds")
	w.gone("will lock")
	w.noErrors()
}
