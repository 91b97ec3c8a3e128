package e2e

import (
	"bufio"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// On which side of a way a set belongs is worked out with no program too, and the set that is drawn there; the program has both when it is back.
func TestPlaceItGoesToTheBench(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.atPace("/", 1280, 800, 4)
	w.see("Before light")
	w.takenAlong()
	p.kill()
	w.click("Ground")
	w.see("Choose something")
	w.see("no answer; computed here")
	w.see("night wind, last 10 nights")
	w.click("which side?")
	w.touch(.9, .05)
	w.see("That is not at a travel way: draw one, then point at it")
	w.touch(.30, .325)
	w.see("Stand it on the south side")
	w.see("of night hours, tonight")
	w.click("urine")
	w.see("facing north")
	w.fill("name of the spot", "Under the breaks")
	w.choose("property", "Upper Breaks pasture")
	w.click("Design a set here")
	w.see("A new set, Under the breaks")
	w.see("coyote; facing north")
	w.see("down in the ground") // nobody has said what soil it is, so nothing is said of its frost
	w.gone("frost by morning about")
	w.click("another pattern")
	w.see("How is it made?")
	w.click("cancel")
	w.weighed()
	told := w.caught()
	p.start()
	w.gone("no answer; ")
	w.gone("not sent")
	w.MustReload()
	w.see("coyote; facing north")
	w.weighed()
	if now := w.caught(); now != told {
		t.Errorf("the program says %s, it was %s with no program", now, told)
	}
	w.noErrors()
}

func TestOwnWeatherLogAndProbe(t *testing.T) {
	t.Parallel()
	own := run(t, "demo", "--still", "--weather", "", "--data", filepath.Join(t.TempDir(), "own.db"))
	w := own.at("/", 1280, 800)
	w.see("No weather is known for last night")
	w.click("Ground")
	w.see("Night wind is not known")
	w.click("which side?")
	w.touch(.30, .325)
	w.see("is not known for any night hour")
	w.click("Today")
	w.click("enter the weather")
	w.see("No weather service is asked")

	log := filepath.Join(t.TempDir(), "log.csv")
	rows := []string{"time,temp_c,wind_from_deg,wind_ms,rain_mm,snow_cm"}
	for hour := range 48 {
		rows = append(rows, fmt.Sprintf("2026-12-%02d %02d:00,-9,200,3,0,0", 2+hour/24, hour%24))
	}
	rows = append(rows, "2026-12-03 29:00,-9,200,3,0,0", "2026-12-04 01:00,minus nine,200,3,0,0", "2026-12-04 02:00,-11,200,3,0,0")
	if err := os.WriteFile(log, []byte(strings.Join(rows, "\n")), 0o600); err != nil {
		t.Fatal(err)
	}
	w.find(`//input[@id="log"]`).MustSetFiles(log)
	w.see("row 50, column time")
	w.see(`row 51, column temp_c: "minus nine" is no number`)
	w.see("49 hours, 2 Dec to 4 Dec; 2 rows are left out")
	w.click("Take in 49 hours")
	w.see("Taken in: 49 hours.")
	w.see("Ditch mouth about 3 ½ in") // Stefan's depth under grass in moist loam after two days at −9 °C

	w.choose("at the spot", "Ditch mouth")
	w.fill("deep", "4 in")
	w.click("Keep the reading")
	w.see("Ditch mouth by probe")
	w.see("frost 4 in deep at Ditch mouth")
	w.click("undo")
	w.gone("by probe")
	w.click("Today")
	w.see("Entered by hand")
	w.see("Wind south-south-west all night")
	w.noErrors()
}

// A weather log that the program has not got yet is not said to be taken in, and two taps send one.
func TestALogThatIsOnlyKept(t *testing.T) {
	t.Parallel()
	file := filepath.Join(t.TempDir(), "demo.db")
	p := run(t, "demo", "--still", "--data", file)
	w := p.keptAt("/", 1280, 800)
	w.see("Before light")
	w.click("weather, by hand")
	w.find(`//input[@id="log"]`).MustSetFiles(wetLog(t))
	w.find(`//button[normalize-space(.)="Take in 48 hours"]`)
	before := rows[string](t, file, `SELECT id FROM mutations`)
	p.kill()
	w.twice(`//button[normalize-space(.)="Take in 48 hours"]`)
	w.see("Kept in this browser until the program answers: the 48 hours of a log.")
	w.gone("Taken in")
	w.see("not sent yet, kept in this browser")
	p.start()
	w.gone("not sent yet")
	if after := rows[string](t, file, `SELECT id FROM mutations`); len(after) != len(before)+1 {
		t.Errorf("%d were sent", len(after)-len(before))
	}
	if hours := rows[int](t, file, `SELECT count(*) FROM weather_hours WHERE own`); hours[0] != 48 {
		t.Errorf("%d hours are in the file", hours[0])
	}
}

// What is corrected is dated by the program's clock: the demo's stands on a day of its own.
func TestACorrectionIsDatedByTheProgram(t *testing.T) {
	t.Parallel()
	w := demoLine(t).at("/", 1280, 800)
	w.see("Before light")
	w.click("Book")
	w.click("what was caught")
	w.click("correct")
	w.see("Everything done on this day")
	w.click("correct")
	w.fill("reason", "a slip of the pen")
	w.click("save")
	w.see("Corrected on Friday 4 December: a slip of the pen.")
}

func TestDeadWeatherServiceIsSaidToBeStale(t *testing.T) {
	t.Parallel()
	office := exec.Command(binary, "stand-in", "--listen", "127.0.0.1:0")
	out, err := office.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := office.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = office.Process.Kill() })
	said, err := bufio.NewReader(out).ReadString('\n')
	if err != nil {
		t.Fatal(err)
	}
	url := said[strings.Index(said, "http://"):]
	p := run(t, "demo", "--still", "--weather", strings.TrimSpace(url), "--data", filepath.Join(t.TempDir(), "own.db"))
	w := p.at("/", 1280, 800)
	w.see("Dry, to 9°F.")
	w.see("Set 4 will lock by morning")
	w.see("Made-up weather, from the stand-in service. Read 05:50 on 4 Dec.")
	_ = office.Process.Kill()
	_ = office.Wait()
	w.click("move on a night")
	w.see("Stale, read 05:50 on 4 Dec.")
	w.see("The weather service gives no usable answer")
	w.see("What stands here is from before.")
	w.noErrors()
}

// A probe reading scales the mornings to come.
func TestProbeChangesLaterMornings(t *testing.T) {
	t.Parallel()
	w := demoLine(t).at("/", 1280, 800)
	w.click("weather, by hand")
	w.see("Ditch mouth about 5 in 5 ½ in 6 in 6 ¼ in")
	w.click("Keep the reading")
	w.see("is missing: at which spot was it probed")
	w.choose("at the spot", "Ditch mouth")
	w.fill("deep", "2 1/2 in")
	w.click("Keep the reading")
	w.see("Ditch mouth by probe about 2 ½ in 2 ¾ in 3 ¼ in 3 ½ in") // half of the correction is forgotten in fourteen days
	w.see("Stack yard about 5 in 5 ½ in")
	w.noErrors()
}
