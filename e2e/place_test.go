package e2e

import (
	"strings"
	"testing"
)

// Sign that two touches kept has no age until it is said; a spot says what is there, and the ways of making a set say what they lack there.
func TestAPlaceIsSaid(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.ground(t)
	w.click("Add sign")
	w.click("coyote")
	w.touch(.4, .3)
	w.see("Its place is marked")
	w.click("scat")
	w.see("Scat, coyote")
	if age := w.field("how old").MustEval(`() => this.selectedOptions[0].text`).String(); age != "not said" {
		t.Errorf("it is %s old", age)
	}
	w.click("Bone flat")
	w.see("way runs")
	w.click("change it")
	w.click("few")
	w.click("culvert")
	w.click("Save")
	w.see("few that pass take this way; with culvert")
	w.MustReload()
	w.see("few that pass take this way; with culvert")
	w.click("Bench")
	w.see("On the bench")
	w.click("14Bone flat")
	w.see("caught in 100 set-nights")
	w.click("another pattern")
	w.see("Culvert mouth, two traps")
	lacks := func(title string) string {
		return w.MustEval(`(title) => [...document.querySelectorAll('.pattern-list button')].find((b) => b.innerText.startsWith(title))?.innerText ?? ''`, title).String()
	}
	if said := lacks("Culvert mouth"); said == "" || strings.Contains(said, "culvert is") {
		t.Errorf("with a culvert noted: %s", said)
	}
	if said := lacks("Creek pinch"); !strings.Contains(said, "no creek crossing is drawn or noted within 16 yd") {
		t.Errorf("of a creek: %s", said)
	}
	if said := lacks("Mound of snow"); !strings.Contains(said, "too little lies here") {
		t.Errorf("of snow: %s", said)
	}
	w.click("cancel")
	w.chooseDrawn("Creek pinch, two traps and a rag")
	w.see("No creek crossing is drawn or noted within 16 yd.")
	w.noErrors()
}

// A permission that ends while sets stand there is told on Today, with its sets, until none does; before that nothing is said of it.
func TestAPermissionEnds(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 1280, 800)
	w.see("Dry, to 9°F")
	w.gone("Quarry Road section, permission")
	for range 9 {
		p.night()
	}
	w.MustReload()
	w.see("Quarry Road section, permission ends 20 Dec 2026. Sets 5, 21, 13, 14 and 15 stand there. Pull them, or ask anew.")
	for range 8 {
		p.night()
	}
	w.MustReload()
	w.see("Quarry Road section, permission ended 20 Dec 2026")
	w.noErrors()
}

// The sheet says how each set is rigged and since when; whose a finding was and what says so is asked when something was found.
func TestTheSheetSaysHowASetIsRigged(t *testing.T) {
	t.Parallel()
	w := demoLine(t).at("/", 1280, 800)
	w.click("Round")
	w.see("to see by midnight")
	w.see("earth anchor, 18 in down, on 18 in of chain · since 30 Nov")
	w.see("drag, 6 ft of chain")
	asked := func() int {
		return w.MustEval(`() => document.querySelectorAll('.sheet select[aria-label="whose it was"]').length`).Int()
	}
	if asked() != 0 {
		t.Errorf("before anything was found %d rows ask whose it was", asked())
	}
	found := w.find(`(//select[@aria-label="what was found"])[1]`)
	for finding, n := range map[string]int{"quiet": 0, "passed by": 1, "locked": 0} {
		found.MustSelect(finding)
		w.until(finding+" asks for so much", func() bool { return asked() == n })
	}
	w.noErrors()
}
