package e2e

import (
	"fmt"
	"net/http"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/oklog/ulid/v2"

	"oldburrow/core/line"
)

// A set is drawn anew on the bench: the bench says what stands and what is drawn, shows either, and the bead keeps what stands.
func TestWhatStandsAndWhatIsDrawn(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.bench(t)
	w.gone("Drawn here")
	bead := func() string {
		return w.MustEval(`() => document.querySelector('.string .bead circle').getAttribute('stroke-dasharray') ?? ''`).String()
	}
	if bead() != "" {
		t.Error("the bead of a set that is drawn as it stands is broken")
	}
	w.chooseDrawn("Trench down to the bait")
	w.see("Drawn here: trench down to the bait, not built.")
	w.see("Set 1: ")
	w.see("drawn, not built")
	w.until("the bead is broken", func() bool { return bead() != "" })
	if kind := p.setNow(1).Make.Layout.Kind; kind != "dirt_hole" {
		t.Errorf("what stands became a %s", kind)
	}
	w.click("see what stands")
	w.see("stands since")
	w.find(`//div[@inert]//*[local-name()='g' and starts-with(@aria-label, "hole,")]`)
	w.click("back to what is drawn")
	w.see("drawn, not built")
	w.MustReload()
	w.see("Drawn here: trench down to the bait, not built.")
	w.noErrors()
}

// A set with a trap of no rack asks which trap it is made with before it is built.
func TestWhichTrapBeforeItIsBuilt(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 1280, 800)
	w.click("Bench")
	w.see("On the bench")
	w.click("Creek crossing")
	w.see("which trap?")
	if disabled := w.find(`//button[starts-with(., "Build it")]`).MustProperty("disabled").Bool(); !disabled {
		t.Error("it can be built with nobody knows which trap")
	}
	w.field("which trap?").MustSelect("one that is not on the rack")
	w.gone("which trap?")
	w.click("Build it")
	w.see("is built")
	w.noErrors()
}

// A permission has ended while a set stands: it is said in the hand, on the bench and on the bead, as on Today.
func TestAPermissionThatHasEnded(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	view := p.lineNow()
	land := view.Properties[0]
	land.Until = "2026-12-01"
	p.put(fmt.Sprintf("/lines/%s/properties/%s", view.Line.ID, land.ID), land)
	var set int
	for _, s := range view.Sets {
		for _, spot := range view.Spots {
			if spot.ID == s.Set.SpotID && spot.PropertyID == land.ID {
				set = s.Set.Number
			}
		}
	}
	w := p.at("/", 1280, 800)
	says := land.Name + ", permission ended 1 Dec 2026"
	w.see(says)
	w.find(fmt.Sprintf(`//*[contains(@aria-label, "set %d, ") and contains(@aria-label, "permission ended")]`, set))
	s := p.setNow(set)
	w.open(fmt.Sprintf("/line/%s/bench/%s", view.Line.ID, s.Make.DesignID))
	w.see(says)
	w.open(fmt.Sprintf("/line/%s/round/%s", view.Line.ID, s.Set.ID))
	w.see(says)
	w.noErrors()
}

// In the hand one look takes several animals; of a dog its owner is asked, and not its foot; a foot that nobody looked at is none.
func TestTheHandTakesSeveralAnimals(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	hand := p.inHand(1)
	hand.click("Caught")
	hand.click("Record the catch")
	hand.see("Choose what was caught")
	hand.click("coyote")
	hand.click("male")
	hand.click("another animal")
	hand.see("Coyote male")
	hand.click("another")
	hand.click("dog")
	hand.gone("which foot")
	hand.fill("its owner, if known", "tag 12, by the road")
	hand.click("Record the catch")
	hand.see("caught: coyote and dog, male; owner tag 12, by the road, 05:50")
	hand.until("the program has it", func() bool { return p.setNow(5).LastVisit.Finding == "catch" })
	for _, c := range p.setNow(5).LastVisit.Catches {
		if c.Foot != "" || c.Hold != "" || (c.Species == "dog") != (c.Owner != "") {
			t.Errorf("it was kept as %+v", c)
		}
	}
	hand.settled()
	hand.click("Next: set")
	hand.click("Trouble")
	hand.click("snowed under")
	hand.see("locked, snowed under, 05:50")
	hand.noErrors()
}

// Dogs come by and the set would catch many: one sentence above the button says so, with what spares them, and nothing else does.
func TestDogsAreSaidBeforeASetIsBuilt(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.bench(t)
	w.see("who else comes")
	view := p.lineNow()
	spot := view.Spots[0]
	for _, s := range view.Spots {
		if s.Name == "Ditch mouth" {
			spot = s
		}
	}
	for i := range 5 {
		sign := line.Sign{
			ID: ulid.Make().String(), LineID: view.Line.ID, SpotID: &spot.ID, LatDeg: spot.LatDeg, LonDeg: spot.LonDeg, What: "tracks", Animal: "dog", Count: 1,
			Age: "last_night", Holds: "well", SeenAt: view.Now.Add(-time.Duration(1+24*i) * time.Hour),
		}
		p.put(fmt.Sprintf("/lines/%s/signs/%s", view.Line.ID, sign.ID), sign)
	}
	w.MustReload()
	w.see("Dogs and cats: about")
	w.see("were noted near here")
	w.click("spare dogs")
	w.until("the trap's pan spares dogs", func() bool {
		return slices.ContainsFunc(p.rack().Alike, func(t line.Trap) bool { return slices.Contains(t.Spares, "dog") })
	})
	w.noErrors()
}

// What was done goes out by property and dates, to be printed and as CSV.
func TestTheRecordGoesOut(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 1280, 800)
	w.click("Book")
	w.click("what was caught")
	w.see("What was caught")
	w.click("as CSV")
	w.see("built or remade")
	w.choose("property", "Quarry Road section")
	w.see("Quarry Road section")
	w.setTime("from", "2026-12-01")
	w.see("from 1 Dec 2026")
	w.gone("Nov 2026")
	for _, list := range []string{"looks", "catches", "makes"} {
		link := w.find(fmt.Sprintf(`//a[.=%q]`, list)).MustProperty("href").String()
		answer, err := http.Get(link)
		if err != nil || answer.StatusCode != http.StatusOK || !strings.HasPrefix(answer.Header.Get("Content-Type"), "text/csv") {
			t.Fatalf("%s: %v, %v", list, answer, err)
		}
		answer.Body.Close()
	}
	w.click("Ground")
	w.click("Quarry Road section")
	w.click("print")
	w.see("Quarry Road section")
	w.noErrors()
}

// What nobody measured of a trap stands pale, as usual for its size, until it is written; the first shed check asks for the rest.
func TestWhatNobodyMeasuredOfATrap(t *testing.T) {
	t.Parallel()
	p := run(t, "demo", "--empty", "--still", "--data", filepath.Join(t.TempDir(), "own.db"))
	w := p.at("/", 1280, 800)
	beginLine(w)
	w.click("Shed")
	w.see("as usual for this size")
	shown := func(label string) string { return w.field(label).MustProperty("value").String() }
	for size, jaws := range map[string]string{"3": "6 in", "1.5": "4 ⅞ in", "1¾": "5 ¼ in", "fox": "5 ¼ in"} {
		if size == "fox" {
			continue // what is no size of the trade leaves what stands
		}
		w.fill("size, as you call it", size)
		w.until(size+" opens "+jaws, func() bool { return shown("jaw spread") == jaws })
	}
	w.fill("size, as you call it", "3")
	w.fill("weight", "45 oz")
	pale := func() int { return len(w.MustElements(".usual .form-control")) }
	w.until("what was written is not pale", func() bool { return pale() == 6 })
	w.click("Save")
	w.see("not all measured yet")
	w.click("shed check")
	w.see("Never measured, and taken as usual for its size")
	w.see("13 of 13 to answer")
	w.fill("jaw spread", "5 7/8")
	w.click("the rest is ok")
	w.click("Record the check")
	w.see("checked, all ok")
	trap := func() line.Trap { return p.rack().Alike[0] }
	w.until("the program has it", func() bool { return len(trap().Usual) == 5 })
	if got := trap(); got.JawSpreadMm != 149.225 || got.FrameLengthMm != 182.4 || strings.Contains(strings.Join(got.Usual, " "), "weightG") {
		t.Errorf("it was kept as %+v", got)
	}
	w.noErrors()
}

// What is typed at the gauge is typed, whatever gauge is connected, and can be of another time.
func TestPressesThatWereTypedLater(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.shed("Gauge", "Which trap’s pan")
	w.click("Trap 22")
	w.see("no press yet")
	w.Keyboard.MustType(input.Digit2, input.Enter, input.Digit2, input.Period, input.Digit1, input.Enter)
	w.until("two presses", func() bool { return w.presses() == 2 })
	w.click("measured at another time")
	w.setTime("measured at", "2026-12-30T09:00")
	w.see("This lies in the future")
	w.setTime("measured at", "2026-12-01T18:30")
	w.gone("This lies in the future")
	w.click("Record it")
	w.see("two presses of")
	w.noErrors()
	w.until("the program has it", func() bool {
		for _, h := range p.rack().Traps {
			if m := h.Tension; h.Number == 22 && m != nil && m.Presses == 2 {
				if m.StandIn || m.Gauge == "made-up gauge" || !m.At.Equal(time.Date(2026, 12, 2, 1, 30, 0, 0, time.UTC)) {
					t.Errorf("it was kept as %+v", m)
				}
				return true
			}
		}
		return false
	})
}

// A look that the program refused is mended where it would have been written, and what was mended takes its refusal away.
func TestARefusedLookIsMended(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	hand := p.inHand(8)
	hand.MustEval(`() => {
		const ask = window.fetch;
		window.fetch = (to, how) => /visits/.test(String(to)) && how?.method === 'PUT' && !window.__mended
			? Promise.resolve(new Response('{"title":"No","status":422,"detail":"x","fields":[{"field":"catches[0].sex","says":"is missing: choose one of male, female"}]}', { status: 422, headers: { 'Content-Type': 'application/problem+json', 'Old-Burrow': '1' } }))
			: ask(to, how);
	}`)
	hand.click("Quiet")
	hand.see("Not recorded: set 5, quiet. Choose its sex, or unknown")
	hand.MustEval(`() => { window.__mended = true; }`)
	hand.MustSetViewport(1280, 800, 1, false)
	hand.click("mend it")
	hand.see("Enter saves a row")
	hand.gone("Not recorded")
	if found := hand.find(`//input[@aria-label="set 5, time"]/ancestor::div[@class="cells"]//select[@aria-label="what was found"]`).MustProperty("value").String(); found != "quiet" {
		t.Errorf("the row holds %q", found)
	}
	hand.press(hand.find(`//input[@aria-label="set 5, time"]/ancestor::div[@class="cells"]//button[.="save"]`))
	hand.see("05:50 quiet")
	hand.until("the program has it", func() bool { return p.setNow(5).LastVisit != nil && p.setNow(5).LastVisit.At.Day() == 4 })
	hand.noErrors()
}
