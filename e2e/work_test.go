package e2e

import (
	"os"
	"slices"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/line"
	pages "oldburrow/core/page"
)

// sights writes what a page shows where OLDBURROW_SIGHTS names a folder, to be looked at.
func (w *page) sights(name string) {
	if folder := os.Getenv("OLDBURROW_SIGHTS"); folder != "" {
		w.settled()
		_ = os.WriteFile(folder+"/"+name+".png", w.MustScreenshot(), 0o644)
	}
}

// A bent dog is found in the hand, another trap goes in, and the set is made again on the rim of its circle; the set is pulled with its trap frozen in,
// which is told to be fetched once the ground there is thawed, and comes out.
func TestWorkAtASet(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	set := p.lineNow().Sets[0]
	now := func() line.Make {
		for _, s := range p.lineNow().Sets {
			if s.Set.ID == set.Set.ID {
				return s.Make
			}
		}
		t.Fatal("the set is gone")
		return line.Make{}
	}
	axe, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil {
		t.Fatal(err)
	}
	h := p.at("/line/"+set.Make.LineID+"/round/"+set.Set.ID, 390, 844)
	h.click("ten-second look")
	h.see("Fingers outside the jaws")
	h.inspect(string(axe), "a ten-second look")
	h.sights("look")
	h.forThumbs("a ten-second look")
	h.pressAt(`//*[@data-field="items.dog"]//button[.="no"]`)
	h.pressAt(`//*[@data-field="items.latch"]//button[.="yes"]`)
	h.click("Save")
	h.see("A bent dog holds by luck.")
	h.click("Put another trap in")
	h.see("It is remade")
	fits := h.find(`//*[@data-field="layout.rigs[0].trapId"]/option[2]`).MustText()
	h.sights("remake")
	before := now()
	h.choose("another trap in its place", fits)
	h.pressAt(`//*[@data-field="asBuilt.form"]//button[starts-with(., "on the rim")]`)
	h.see("on the rim of its circle, and faces outward")
	h.fill("which way from the old anchor", "90")
	h.pressAt(`//*[@data-field="oldAnchor"]//button[.="left in"]`)
	h.click("nothing moves at all four")
	h.pressAt(`//*[@data-field="asBuilt.renewed.bait"]`)
	h.settled()
	h.sights("rim")
	h.forThumbs("a remake")
	h.inspect(string(axe), "a remake")
	h.click("It is remade")
	h.see("remade, ")
	h.until("it is sent", func() bool { return now().ID != before.ID })
	made := now()
	if b := made.AsBuilt; b == nil || b.Form != line.Rim || len(b.Renewed) != 1 || made.Layout.FacingDeg == nil || *made.Layout.FacingDeg != 90 || made.Layout.At == nil ||
		made.Layout.Rigs[0].TrapID == before.Layout.Rigs[0].TrapID || made.Layout.Rigs[0].Bed.Firm == nil || !*made.Layout.Rigs[0].Bed.Firm {
		t.Errorf("remade as %+v, facing %v, trap %s", made.AsBuilt, made.Layout.FacingDeg, made.Layout.Rigs[0].TrapID)
	}
	h.until("its old anchor is told", func() bool { return len(p.lineNow().StillIn) == 1 })

	for _, other := range p.lineNow().Sets {
		if other.Set.ID != set.Set.ID {
			p.put("/lines/"+made.LineID+"/pulls/"+ulid.Make().String(), line.Pull{MakeID: other.Make.ID, At: p.lineNow().Now})
		}
	}
	h.click("pulled")
	h.see("It is pulled")
	h.pressAt(`//*[@data-field="rigs[0].trap"]//button[.="frozen in"]`)
	h.see("A trap that can fire is not pulled.")
	h.sights("pull")
	h.forThumbs("a pull")
	h.inspect(string(axe), "a pull")
	h.pressAt(`//*[@data-field="rigs[0].sprung"]`)
	h.pressAt(`//*[@data-field="rigs[0].anchor"]//button[.="frozen in"]`)
	h.pressAt(`//*[@data-field="done.gate_shut"]`)
	h.click("It is pulled")
	h.see("pulled; it is down")
	h.see("Left open: traps counted, ")
	h.see("is frozen in, its ")
	h.sights("pulled")
	h.forThumbs("what was pulled")
	h.inspect(string(axe), "what was pulled")
	h.click("undo")
	h.gone("it is down")
	h.click("pulled")
	h.pressAt(`//*[@data-field="rigs[0].trap"]//button[.="frozen in"]`)
	h.pressAt(`//*[@data-field="rigs[0].sprung"]`)
	h.click("It is pulled")
	h.see("pulled; it is down")
	h.until("it is pulled", func() bool { return len(p.lineNow().StillIn) == 2 })
	trap := made.Layout.Rigs[0].TrapID
	w := p.at("/line/"+made.LineID+"/today", 1280, 800)
	w.see("No set is in the ground.")
	w.gone("the ground gives it back now")
	reading := line.Reading{Kind: line.FrostProbe, SpotID: &set.Set.SpotID, At: p.lineNow().Now.Add(time.Minute), Value: 0}
	p.put("/lines/"+made.LineID+"/readings/"+ulid.Make().String(), reading)
	w.until("the thaw is told", func() bool {
		for _, x := range p.lineNow().StillIn {
			if x.TrapID == trap && x.Due {
				return true
			}
		}
		return false
	})
	w.MustReload()
	w.see("and the ground gives it back now")
	w.sights("today")
	w.click("Round")
	w.see("No set is in the ground.")
	w.see("Still in the ground")
	w.sights("round")
	w.pressAt(`//li[contains(., "frozen in")]//button[.="fetched"]`)
	w.until("it is home", func() bool { return len(p.lineNow().StillIn) == 1 })
	w.gone("frozen in since")
	w.noErrors()
	h.noErrors()
}

// The same where no signal is: which traps fit and where the rim lies the core here says; what is done is kept over a reload, and sent once.
func TestWorkAtASetWithNoSignal(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	set := p.lineNow().Sets[0]
	h := p.keptAt("/line/"+set.Make.LineID+"/round/"+set.Set.ID, 390, 844)
	h.takenAlong()
	p.kill()
	h.click("ten-second look")
	h.pressAt(`//*[@data-field="items.dog"]//button[.="no"]`)
	h.click("Save")
	h.click("Put another trap in")
	h.see("It is remade")
	h.pressAt(`//*[@data-field="asBuilt.form"]//button[starts-with(., "on the rim")]`)
	h.see("on the rim of its circle, and faces outward")
	h.choose("another trap in its place", h.find(`//*[@data-field="layout.rigs[0].trapId"]/option[2]`).MustText())
	h.pressAt(`//*[@data-field="oldAnchor"]//button[.="left in"]`)
	h.click("It is remade")
	h.see("bed not felt since it was remade")
	h.click("pulled")
	h.pressAt(`//*[@data-field="rigs[0].trap"]//button[.="frozen in"]`)
	h.pressAt(`//*[@data-field="rigs[0].sprung"]`)
	h.click("It is pulled")
	h.see("pulled; it is down")
	h.see("is frozen in since")
	h.MustReload()
	h.see("pulled; it is down")
	h.see("is frozen in since")
	p.start()
	h.until("all of it is sent", func() bool { return len(p.lineNow().StillIn) == 2 })
	for _, s := range p.lineNow().Sets {
		if s.Set.ID == set.Set.ID && (s.Make.AsBuilt == nil || s.Make.AsBuilt.Form != line.Rim || s.Pull == nil || s.Pull.MakeID != s.Make.ID) {
			t.Errorf("it stands as %+v, pulled %+v", s.Make.AsBuilt, s.Pull)
		}
	}
	h.noErrors()
}

// A finding says what lies behind it; what somebody goes to see counts at once, and what is to be done leads to it. To leave it alone always stands there.
func TestWhatAFindingMeans(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	set := p.lineNow().Sets[1]
	h := p.at("/line/"+set.Make.LineID+"/round/"+set.Set.ID, 390, 844)
	h.click("It worked the set")
	h.click("dug out or flipped")
	h.see("dug out or flipped, ")
	h.see("What it may mean")
	h.see("Make it again as it was.")
	h.find(`//section[@aria-label="what it may mean"]`).MustScrollIntoView()
	h.sights("means")
	h.click("what else it may be")
	h.pressAt(`//li[contains(., "the bed moves under its foot")]//button[.="yes"]`)
	h.see("Likely, the bed moves under its foot, by how the bed was felt")
	h.see("Bed it anew.")
	h.pressAt(`//li[contains(., "the bed moves under its foot")]//button[.="no"]`)
	h.gone("Bed it anew.")
	h.pressAt(`//li[contains(., "the bed moves under its foot")]//button[.="yes"]`)
	h.see("Bed it anew.")
	h.sights("meant")
	h.forThumbs("what a finding means")
	h.click("make it so")
	h.see("It is remade")
	h.see("Bed it anew.")
	h.sights("mend")
	h.click("nothing moves at all four")
	h.click("It is remade")
	h.see("remade, ")
	h.until("it is made anew", func() bool {
		return slices.ContainsFunc(p.lineNow().Sets, func(s pages.SetView) bool {
			return s.Set.ID == set.Set.ID && s.Make.AsBuilt != nil && s.Make.AsBuilt.Form == line.NewBed && s.Make.Follows != nil
		})
	})
	p.night()
	next := p.at("/line/"+set.Make.LineID+"/round/"+set.Set.ID, 390, 844)
	next.click("Quiet")
	next.see("Made again after dug out or flipped with another bed.")
	next.see("that says nothing yet")
	next.sights("hand-quiet")
	next.noErrors()
	h.noErrors()
}

// What a finding asks for can be drawn too: the bench lies so then, once, and undo takes it back.
func TestAMendIsDrawn(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	set := p.lineNow().Sets[1]
	h := p.at("/line/"+set.Make.LineID+"/round/"+set.Set.ID, 390, 844)
	h.click("It worked the set")
	h.click("stepped on it, did not fire")
	h.see("What it may mean")
	h.pressAt(`//li[contains(., "soil lies under the pan")]//button[.="yes"]`)
	h.see("Put something under the pan.")
	h.find(`//a[starts-with(@aria-label, "draw it, put something under the pan")]`).MustClick()
	h.see("changed")
	under := func() string {
		var d line.Design
		fetch(t, p.address, "/lines/"+set.Make.LineID+"/designs/"+set.Make.DesignID, &d)
		return string(d.Layout.Rigs[0].Under)
	}
	h.until("it is drawn", func() bool { return under() == "polyfill" })
	h.click("undo")
	h.until("it is taken back", func() bool { return under() == "" })
	h.noErrors()
}
