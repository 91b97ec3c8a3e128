package e2e

import (
	"strings"
	"testing"
	"time"

	pages "oldburrow/core/page"
)

// weighed waits until what is worth doing on the demo's line is weighed.
func (p *program) weighed() {
	p.t.Helper()
	line := p.lineNow().Line.ID
	for range 300 {
		var is pages.JobsView
		if fetch(p.t, p.address, "/lines/"+line+"/jobs", &is); is.Of > 20 && is.Told == is.Of {
			return
		}
		time.Sleep(100 * time.Millisecond)
	}
	p.t.Fatal("it is not weighed")
}

// Today says what is worth doing most for the time it takes, and opens it; what is not for now is kept quiet, also after a reload. Tomorrow is planned with
// what there is: fewer hours hold less, what is left out makes room for another, and what is begun lies on the bench.
func TestWhatIsWorthDoing(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	line := p.lineNow().Line.ID
	p.weighed()
	w := p.at("/line/"+line, 1280, 800)
	w.gone("Being weighed")
	w.see("more")
	w.sights("today")
	first := w.find(`(//h2[.="Worth doing"]/following::ul[1]//b)[last()]`).MustText()
	w.pressAt(`//button[@aria-label="not now, ` + first + `"]`)
	w.click("three days")
	w.gone(first)
	w.MustReload()
	w.see("Worth doing")
	w.gone(first)
	w.pressAt(`//button[starts-with(., "and ") and contains(., " more")]`)
	w.click("what was not for now")
	w.see(first)

	w.open("/line/" + line + "/round")
	w.click("tomorrow with what I have")
	w.see("animals more than by leaving all as it is")
	w.sights("plan")
	many := func() int { return len(w.MustElements(".plan ol > li")) }
	whole := many()
	w.fill("hours", "0.25")
	w.until("less fits into it", func() bool { return many() < whole })
	out := w.find(`(//div[@class="plan"]//ol//b)[1]`).MustText()
	w.pressAt(`(//div[@class="plan"]//button[.="leave it out"])[1]`)
	w.until("it is left out", func() bool { return !strings.Contains(w.find(`//div[@class="plan"]`).MustText(), out) })
	w.click("put back what was left out")
	w.until("it is back", func() bool { return strings.Contains(w.find(`//div[@class="plan"]`).MustText(), out) })
	w.fill("hours", "30")
	w.see("Hours go from 0 to 24, nights from 0 to 366.")
	w.fill("hours", "4")
	w.gone("Hours go from 0 to 24")
	w.pressAt(`//div[@class="plan"]//button[starts-with(., "Build a")]`)
	w.see("not built yet")
	w.noErrors()
}
