package e2e

import (
	"testing"

	"oldburrow/core/line"
)

// A set is built an inch off, which is said in one pass: both are kept, and what that does is told. In the hand it is made again, and its bed felt with
// one tap; what moves is told.
func TestAsBuilt(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 1280, 900)
	w.click("Bench")
	w.see("On the bench")
	w.click("1Ditch mouth")
	w.weighed()
	w.click("Remake it")
	w.see(" is built, ")
	w.click("say how it stands")
	w.fill("setback", "90 in")
	w.click("Save")
	w.see("must be from ")
	w.fill("setback", "10 1/4 in")
	w.click("nothing moves at all four")
	w.click("some")
	w.fill("a landmark to find it by", "three paces from the leaning post")
	w.click("Save")
	w.see("scent on its bed")
	w.see("as drawn catches more, by ")
	makeOf := func(number int) line.Make {
		for _, s := range p.lineNow().Sets {
			if s.Set.Number == number {
				return s.Make
			}
		}
		t.Fatalf("there is no set %d", number)
		return line.Make{}
	}
	w.until("how it was built is sent", func() bool { return makeOf(1).AsBuilt != nil })
	made := makeOf(1)
	firm := made.Layout.Rigs[0].Bed.Firm
	if b := made.AsBuilt; b == nil || b.Designed == nil || b.Designed.Rigs[0].Pan.YMm == made.Layout.Rigs[0].Pan.YMm || b.ScentOnBed == nil || !*b.ScentOnBed || b.Landmark == "" || firm == nil || !*firm {
		t.Errorf("built as %+v, firm %v", b, firm)
	}
	second := makeOf(2)
	h := p.at("/line/"+second.LineID+"/round/"+second.SetID, 390, 844)
	h.click("Quiet")
	h.click("remade as it was")
	h.see("bed not felt since it was remade")
	h.click("it moves")
	h.click("sinks")
	h.click("Save")
	h.see("its bed moves")
	h.until("its bed is sent", func() bool { return makeOf(2).Layout.Rigs[0].Bed.Firm != nil })
	if firm := makeOf(2).Layout.Rigs[0].Bed.Firm; firm == nil || *firm {
		t.Errorf("a bed that sinks is firm: %v", firm)
	}
	h.click("feel it again")
	h.click("nothing moves at all four")
	h.click("Save")
	h.see("its bed was felt, nothing moves")
	if m := makeOf(2); m.AsBuilt == nil || m.AsBuilt.Form != "same_bed" || m.Layout.Rigs[0].Bed.Firm == nil || !*m.Layout.Rigs[0].Bed.Firm {
		t.Errorf("felt anew it is %+v", m.AsBuilt)
	}
	w.noErrors()
	h.noErrors()
}

// A program that took a look and never answers holds up nothing: the set is made again meanwhile, once, and both are sent when it answers again.
func TestARemakeDoesNotWaitForTheLookBeforeIt(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	set := p.lineNow().Sets[1]
	h := p.at("/line/"+set.Make.LineID+"/round/"+set.Set.ID, 390, 844)
	h.see("Quiet")
	h.MustEval(`() => {
		const send = window.fetch;
		window.fetch = (to, how) => how?.method === 'PUT' && String(to).includes('/visits/') ? new Promise(() => {}) : send(to, how);
	}`)
	h.click("Quiet")
	h.settled()
	h.twice(`//button[normalize-space(.)="remade as it was"]`)
	h.see("bed not felt since it was remade")
	h.MustReload()
	h.see("bed not felt since it was remade")
	h.until("look and remake are sent", func() bool { return p.lineNow().Sets[1].Make.ID != set.Make.ID })
	if m := p.lineNow().Sets[1].Make; m.Follows == nil || *m.Follows != set.Make.ID {
		t.Errorf("it was made again more than once: %+v follows %v", m.ID, m.Follows)
	}
	h.noErrors()
}
