package e2e

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/oklog/ulid/v2"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/schools"
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
	w.fill("minutes it took", "35")
	w.find(`//form//*[@data-field="asBuilt.note"]`).MustInput("stony under the left jaw")
	w.find(`//*[@data-field="asBuilt.photoId"]//input`).MustSetFiles(grainyPhoto(t))
	w.find(`//img[contains(@alt, "as photographed")]`)
	w.click("bed and cover")
	w.fill("cover, thick", "1/2 in")
	w.sights("built")
	said := w.fieldsOf("asBuilt")
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
	if b := made.AsBuilt; b == nil || b.Minutes == nil || *b.Minutes != 35 || b.PhotoID == nil || b.Note != "stony under the left jaw" || !b.Frozen || made.Layout.Rigs[0].Cover[0].ThicknessMm != 12.7 {
		t.Errorf("built as %+v under %+v", b, made.Layout.Rigs[0].Cover)
	}
	if b := made.AsBuilt; b == nil || b.Designed == nil || b.Designed.Rigs[0].Pan.YMm == made.Layout.Rigs[0].Pan.YMm || b.ScentOnBed == nil || !*b.ScentOnBed || b.Landmark == "" || firm == nil || !*firm {
		t.Errorf("built as %+v, firm %v", b, firm)
	}
	second := makeOf(2)
	h := p.at("/line/"+second.LineID+"/round/"+second.SetID, 390, 844)
	h.click("Quiet")
	h.click("remade otherwise")
	h.see("It is remade")
	said = append(said, h.fieldsOf("asBuilt")...)
	for _, leaf := range leaves(reflect.TypeFor[line.AsBuilt](), "asBuilt") {
		own := strings.HasPrefix(leaf, "asBuilt.designed") || strings.HasSuffix(leaf, ".slot")
		if !own && !slices.Contains(said, leaf) {
			t.Errorf("%s cannot be said: %v", leaf, said)
		}
	}
	h.click("back")
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
	putRight(t, p, w, made)
	w.noErrors()
	h.noErrors()
}

// fieldsOf are the fields of a page that begin so, without what counts them.
func (w *page) fieldsOf(begin string) (found []string) {
	for _, field := range w.MustEval(`(begin) => [...document.querySelectorAll('[data-field^="' + begin + '"]')].map((e) => e.dataset.field)`, begin).Arr() {
		leaf := leafOf(field.Str())
		if list, one, ticked := strings.Cut(leaf, "renewed."); ticked && one != "" {
			leaf = list + "renewed[]"
		}
		found = append(found, leaf)
	}
	return found
}

// putRight corrects how a make stood once it was looked at: that needs a reason, what was said before stays, and the set's story shows its picture.
func putRight(t *testing.T, p *program, w *page, made line.Make) {
	look := line.Visit{MakeID: made.ID, At: p.lineNow().Now, Found: line.Found{Finding: line.FoundQuiet}}
	p.put("/lines/"+made.LineID+"/visits/"+ulid.Make().String(), look)
	w.open("/line/" + made.LineID + "/book/set/" + made.SetID)
	w.click("put right how it stood")
	w.fill("setback", "9 in")
	w.click("Save")
	w.see("Say why, so that it can be followed later")
	w.fill("why it is put right", "measured again at the set")
	w.sights("correct")
	w.click("Save")
	var corrections []line.Correction
	w.until("it is put right", func() bool {
		fetch(t, p.address, "/lines/"+made.LineID+"/makes/"+made.ID+"/corrections", &corrections)
		return len(corrections) == 1
	})
	before := corrections[0].Before
	if before == nil || before.Layout.Rigs[0].Pan.YMm != made.Layout.Rigs[0].Pan.YMm || corrections[0].Make.Layout.Rigs[0].Pan.YMm == made.Layout.Rigs[0].Pan.YMm {
		t.Errorf("put right: %+v", corrections[0])
	}
	w.open("/line/" + made.LineID + "/book/set/" + made.SetID)
	w.until("its picture is shown", func() bool {
		return w.MustEval(`() => document.querySelector('.gallery img')?.naturalWidth ?? 0`).Int() > 100
	})
	w.see(", as built")
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

// What was always there to be said is: soil carried off, low guides, two smells more; and the set is built so.
func TestASetIsBuiltWithItsParts(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	l, err := layout.New("tuft", layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	view := p.lineNow()
	design := line.Design{ID: ulid.Make().String(), LineID: view.Line.ID, SpotID: view.Spots[0].ID, Target: "coyote", Layout: l}
	p.put("/lines/"+view.Line.ID+"/designs/"+design.ID, design)
	w := p.at("/line/"+view.Line.ID+"/bench/"+design.ID, 1280, 900)
	w.weighed()
	w.click("2Kind and pattern")
	w.pressAt(`//*[@data-field="spoil"]//button[starts-with(., "carried")]`)
	w.click("2Kind and pattern")
	w.click("6Attractant")
	had := len(l.Attractors[0].Smells)
	w.click("one more smell")
	w.click("one more smell")
	w.until("two smells more stand there", func() bool {
		return len(w.MustElements(fmt.Sprintf(`[data-field="attractors[0].smells[%d].name"]`, had+1))) == 1
	})
	w.click("6Attractant")
	w.click("7Guides")
	w.click("add a stone")
	w.fill("how high", "2 in")
	w.click("7Guides")
	w.see("saved")
	w.sights("parts")
	w.choose("which trap?", w.find(`//*[@data-field="rigs[0].trapId"]/option[last()]`).MustText())
	w.click("Build it")
	w.see(" is built, ")
	var made *line.Make
	w.until("it stands", func() bool {
		for _, s := range p.lineNow().Sets {
			if s.Make.DesignID == design.ID {
				made = &s.Make
			}
		}
		return made != nil
	})
	if l := made.Layout; l.Spoil != "carried_off" || len(l.Attractors[0].Smells) != had+2 || l.Guides[0].HeightMm == nil || *l.Guides[0].HeightMm != 50.8 {
		t.Errorf("soil %q, %d smells, guides %+v", l.Spoil, len(l.Attractors[0].Smells), l.Guides)
	}
	w.noErrors()
}
