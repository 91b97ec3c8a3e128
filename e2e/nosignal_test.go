package e2e

import (
	"fmt"
	"path/filepath"
	"testing"
	"time"

	"oldburrow/server"
)

// A whole round with no signal: the program is stopped before the first answer and comes back after the last. Five sets, an
// answer taken back, a catch, a remake, a reload in the middle, and two taps on everything; then the record is right, each
// thing once, at the time of its tap.
func TestARoundWithNoSignal(t *testing.T) {
	t.Parallel()
	times, pace, away := 1, 8, 15*time.Second
	if long() {
		times, pace, away = 10, 1, 125*time.Second
	}
	for i := range times {
		t.Run(fmt.Sprint(i+1), func(t *testing.T) { roundWithNoSignal(t, pace, away) })
	}
}

func roundWithNoSignal(t *testing.T, pace int, away time.Duration) {
	file := filepath.Join(t.TempDir(), "demo.db")
	p := run(t, "demo", "--data", file)
	p.helperSees(6)
	hand := p.atPace("/", 390, 844, pace)
	hand.see("Before light")
	hand.until("the pages are kept in the browser", func() bool {
		return hand.MustEval(`() => navigator.serviceWorker.controller !== null`).Bool()
	})
	hand.takenAlong()
	var about server.Program
	fetch(t, p.address, "/about", &about)
	told := time.Now()
	hand.click("Start the round")
	hand.see("Set 5")
	p.kill()
	stopped := time.Now()

	type tap struct {
		set     int
		finding string
		undone  bool
		at      time.Time
	}
	var taps []tap
	answered := func(set int, finding string) {
		taps = append(taps, tap{set: set, finding: finding, at: about.Now.Add(time.Since(told))})
	}
	hand.twice(`//button[starts-with(normalize-space(.), "Quiet")]`)
	answered(5, "quiet")
	hand.see("· kept on this device, not sent yet")
	hand.settled()
	hand.twice(`//button[normalize-space(.)="undo"]`)
	taps[0].undone = true
	hand.see("Something came")
	hand.click("Something came")
	hand.settled()
	hand.twice(`//button[starts-with(normalize-space(.), "passed by")]`)
	answered(5, "passed")
	hand.see("passed by, 05:5")
	hand.settled()
	hand.twice(`//a[starts-with(normalize-space(.), "Next: set 1")]`)

	hand.see("Ditch mouth")
	hand.click("Caught")
	for _, choice := range []string{"coyote", "female", "right fore", "by the pad"} {
		hand.click(choice)
	}
	hand.twice(`//button[normalize-space(.)="Record the catch"]`)
	answered(1, "catch")
	hand.see("caught: coyote, female, right fore, by the pad")
	hand.settled()
	hand.twice(`//button[normalize-space(.)="remade as it was"]`)
	remade := about.Now.Add(time.Since(told))
	hand.see("remade, 05:5")

	hand.MustReload().MustWaitLoad()
	hand.see("Set 1")
	hand.see("remade, 05:5")
	hand.see("· kept on this device, not sent yet")
	hand.gone("late")
	hand.settled()
	hand.twice(`//a[starts-with(normalize-space(.), "Next: set 2")]`)
	hand.see("Stack yard")
	hand.settled()
	hand.twice(`//button[starts-with(normalize-space(.), "Quiet")]`)
	answered(2, "quiet")
	hand.see("quiet, 05:5")
	hand.settled()
	hand.twice(`//a[starts-with(normalize-space(.), "Next: set 3")]`)
	hand.see("Foot of the breaks")
	hand.settled()
	hand.twice(`//button[starts-with(normalize-space(.), "Trouble")]`)
	hand.settled()
	hand.twice(`//button[starts-with(normalize-space(.), "trap gone")]`)
	hand.settled()
	hand.twice(`//button[starts-with(normalize-space(.), "Search for it")]`)
	answered(3, "gone")
	hand.see("trap gone, 05:5")
	hand.settled()
	hand.twice(`//a[starts-with(normalize-space(.), "Next: set 4")]`)
	hand.see("Gate gap")
	hand.settled()
	hand.twice(`//button[starts-with(normalize-space(.), "It worked the set")]`)
	hand.settled()
	hand.twice(`//button[starts-with(normalize-space(.), "dug out")]`)
	answered(4, "dug")
	hand.see("dug out or flipped, 05:5")
	hand.settled()
	hand.click("Done, every set is seen")
	hand.see("Nothing is due before tomorrow.")
	hand.see("eight not sent yet, kept in this browser")
	hand.see("no answer; computed here, from 05:50")
	hand.click("Today")
	hand.see("Every set has been seen")
	hand.click("Book")
	hand.click("what was caught")
	hand.see("caught: coyote · kept here, not sent yet")

	time.Sleep(time.Until(stopped.Add(away)))
	p.start()
	hand.gone("not sent yet")
	hand.see("caught: coyote")
	hand.gone("no answer")
	hand.noErrors()
	p.kill()

	stands := rows[struct {
		Number   int
		Finding  string
		At       time.Time
		UndoneAt *time.Time `db:"undone_at"`
	}](t, file, `
		SELECT s.number, v.finding, v.at, v.undone_at FROM visits v JOIN makes m ON m.id = v.make_id JOIN sets s ON s.id = m.set_id
		WHERE v.at >= ? ORDER BY v.at`, about.Now.UTC())
	if len(stands) != len(taps) {
		t.Errorf("%d answers were given and %d stand: %+v", len(taps), len(stands), stands)
	}
	for i, v := range stands {
		if i >= len(taps) {
			break
		}
		tap := taps[i]
		if v.Number != tap.set || v.Finding != tap.finding || (v.UndoneAt != nil) != tap.undone {
			t.Errorf("answer %d was %+v and stands as %+v", i+1, tap, v)
		}
		if off := v.At.Sub(tap.at).Abs(); off > 3*time.Second {
			t.Errorf("answer %d stands %v off its tap", i+1, off)
		}
	}
	makes := rows[struct {
		Number  int
		BuiltAt time.Time `db:"built_at"`
	}](t, file, `SELECT s.number, m.built_at FROM makes m JOIN sets s ON s.id = m.set_id WHERE m.built_at >= ?`, about.Now.UTC())
	if len(makes) != 1 || makes[0].Number != 1 || makes[0].BuiltAt.Sub(remade).Abs() > 3*time.Second {
		t.Errorf("one set was remade at %v: %+v", remade, makes)
	}
	catches := rows[string](t, file, `SELECT c.species FROM catches c JOIN visits v ON v.id = c.visit_id WHERE v.at >= ?`, about.Now.UTC())
	if len(catches) != 1 || catches[0] != "coyote" {
		t.Errorf("catches: %v", catches)
	}
	clocks := rows[*int64](t, file, `SELECT offset_ms FROM mutations WHERE device_at IS NOT NULL`)
	if len(clocks) != len(taps)+2 || clocks[0] == nil {
		t.Errorf("what the device's clock showed: %v", clocks)
	}
}

// settled waits until what follows an answer can be touched.
func (w *page) settled() { time.Sleep(800 * time.Millisecond) }

// What the program will not have is said to be so when it is so; the act is still there, over a reload too, and can be sent again.
func TestARefusedAnswerIsStillThere(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	hand := p.at("/", 390, 844)
	hand.click("Start the round")
	hand.see("Set 5")
	const asleep = `
		const ask = window.fetch;
		const refused = () => new Response('{"title":"No","status":422,"detail":"The trap is asleep."}', { status: 422, headers: { 'Content-Type': 'application/problem+json', 'Old-Burrow': '1' } });
		const asleep = (to, how) => how?.method === 'PUT' && /visits|makes/.test(to) && localStorage.getItem('asleep') === 'true';
		window.fetch = (to, how) => (asleep(String(to), how) ? Promise.resolve(refused()) : ask(to, how));`
	hand.MustEval(`(code) => { new Function(code)(); }`, asleep)
	hand.MustEvalOnNewDocument(asleep)
	refuse := func(does bool) { hand.MustEval(`(does) => localStorage.setItem('asleep', does)`, does) }
	refuse(true)
	hand.click("Quiet")
	hand.see("Not recorded: set 5, quiet. The trap is asleep.")
	hand.see("It worked the set") // and the set is still to be answered
	hand.MustReload().MustWaitLoad()
	hand.click("the whole round")
	hand.see("Not recorded: set 5, quiet. The trap is asleep.")
	hand.see("24 to see by midnight. One late.")
	refuse(false)
	hand.click("send again")
	hand.gone("Not accepted")
	hand.see("quiet 4 Dec 05:50")
	hand.gone("not sent yet")
	hand.see("23 to see by midnight, none late.")

	// A remake is announced when it is one.
	refuse(true)
	hand.click("5Two-track bend")
	hand.click("remade as it was")
	hand.see("Not recorded: set 5 remade. The trap is asleep.")
	hand.gone("remade, 05:50")
	hand.pressAt(`//div[contains(@class,"hand")]//button[.="throw away"]`)
	hand.gone("Not accepted")
	refuse(false)
	hand.click("remade as it was")
	hand.see("remade, 05:50 · recorded")
	hand.noErrors()
}
