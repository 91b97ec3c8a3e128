package e2e

import (
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

func (p *program) ground(t *testing.T) *page {
	w := p.at("/", 1280, 800)
	w.click("Ground")
	w.see("Choose something")
	return w
}

func TestPropertyAndTravelWayAreDrawnAndUndone(t *testing.T) {
	t.Parallel()
	w := demoLine(t).ground(t)
	w.click("a property")
	w.click("Save")
	w.wrong("name", "Give it a name")
	w.fill("name", "Salt Flat")
	w.setTime("permission asked on", "2026-11-20")
	w.setTime("permission ends", "2026-11-10")
	w.click("Save")
	w.wrong("permission ends", "lies before it was asked")
	w.setTime("permission ends", "2026-12-01")
	w.click("Save")
	w.see("permission ended 1 December, ask again; asked 20 November")

	w.choose(`draw`, "travel way")
	w.see("Touch the ground point by point")
	for _, at := range [][2]float64{{.1, .9}, {.3, .92}, {.5, .9}, {.55, .8}} {
		w.touch(at[0], at[1])
	}
	w.see("Done, 4 points")
	w.key(input.Backspace, 1)
	w.see("Done, 3 points")
	w.click("Done, 3 points")
	w.see("travel way; drag its points")
	w.fill("name", "flat trail")
	w.fill("wide", "5 ft")
	w.click("Save")
	w.see("undo: flat trail changed")
	w.part("flat trail")

	// A point is dragged, and the drag taken back.
	before := w.points()
	w.drag(w.part("move point 2"), 40, -60, func() {})
	w.until("the point has moved", func() bool { return w.points() != before })
	w.click("undo: travel way moved")
	w.until("the point is back", func() bool { return w.points() == before })
	w.click("undo: flat trail changed")
	w.see("undo: travel way drawn")
	w.click("undo: travel way drawn")
	w.see("undo: the property Salt Flat")
	if has, _, _ := w.HasX(`//*[@aria-label="flat trail"]`); has {
		t.Error("what was undone is still drawn")
	}
	w.click("undo: the property Salt Flat")
	w.gone("Salt Flat")
	w.noErrors()
}

// points is what the points field of the chosen thing holds.
func (w *page) points() string {
	w.t.Helper()
	return w.find(`//textarea`).MustProperty("value").String()
}

func TestSignByMouseAndByKeyboard(t *testing.T) {
	t.Parallel()
	w := demoLine(t).ground(t)
	w.click("Add sign")
	w.click("coyote")
	w.touch(.4, .3)
	w.see("Its place is marked")
	w.click("scat") // two touches: where, what
	w.see("Scat, coyote")
	w.see("undo: scat, coyote")

	// The same with the keyboard alone: the cross is moved, Enter marks, Tab leads to what.
	w.find(`//button[.="Add sign"]`).MustFocus()
	w.key(input.Enter, 1)
	w.see("Touch where it lies")
	w.find(`//div[contains(@class,"map")]/*[local-name()='svg']`).MustFocus()
	w.key(input.ArrowDown, 5)
	w.key(input.ArrowLeft, 4)
	w.key(input.Enter, 1)
	w.see("Its place is marked")
	w.find(`//button[.="hair"]`).MustFocus()
	w.key(input.Enter, 1)
	w.see("Hair, coyote")
	w.choose("whose sign", "not sure")
	w.click("bobcat")
	w.setTime("seen at", "2026-11-13T08:00")
	w.see("Hair, not sure")
	w.click("Save")
	w.see("seen 13 Nov 08:00")
	w.press(w.find(`//label[contains(., "younger than the snow of 12 Nov")]/input`))
	w.click("Save")
	w.see(", younger than the snow of 12 Nov")
	w.MustReload()
	w.see("Hair, not sure")
	w.noErrors()
}

func TestSliderReplaysSign(t *testing.T) {
	t.Parallel()
	w := demoLine(t).ground(t)
	drawn := func() int {
		return w.MustEval(`() => [...document.querySelectorAll('.map [role=button]')].filter((g) => /^(tracks|scat|scratched|gap|kill|den|hair|none),/.test(g.getAttribute('aria-label') ?? '')).length`).Int()
	}
	today := drawn()
	w.find(`//input[@type="range"]`).MustFocus()
	w.key(input.Home, 1)
	w.see("sign as it was on 22 Oct")
	if first := drawn(); first != 1 || today < 10 {
		t.Errorf("%d signs on the first day, %d today", first, today)
	}
	w.key(input.ArrowRight, 22)
	w.see("sign as it was on 13 Nov")
	if then := drawn(); then <= 1 || then >= today {
		t.Errorf("%d signs on 13 November, %d today", then, today)
	}
	w.click("add snow or rain")
	w.setTime("it stopped at", "2026-12-24T09:00")
	w.click("save")
	w.wrong("it stopped at", "lies in the future")
	w.setTime("it stopped at", "2026-12-01T04:00")
	w.click("save")
	w.see("undo: snow of 1 Dec")
	w.noErrors()
}

func TestWhereTheReceiverStands(t *testing.T) {
	t.Parallel()
	w := demoLine(t).ground(t)
	w.click("add a spot")
	w.fill("name", "By the receiver")
	w.choose("property", "Two Culverts")
	w.click("where the receiver stands")
	w.see("Reading; stand still")
	w.see("A made-up receiver,")
	w.see("fixes, spread")
	w.click("Mark the spot")
	w.see("By the receiver")
	w.see("Design a set here")
	w.click("change it")
	w.press(w.find(`//label[starts-with(., "wind swirls here")]`))
	w.fill("in sight of", "the mail carrier")
	w.click("something more was used here")
	w.fill("what it was", "a flat with a bone")
	w.click("Save")
	w.see("seen by the mail carrier")
	w.gone("something more was used here") // the form closes when it is kept
	w.see("Wind swirls here. Use a loud scent")
	w.see("other trapper’s set: a flat with a bone")
	w.click("change it")
	w.click("remove")
	w.see("Choose something")
	w.click("undo: By the receiver removed")
	w.see("By the receiver")
	w.click("Gate gap")
	w.click("change it")
	w.click("remove")
	w.see("cannot be: a set stands or stood here")
	w.noErrors()
}

func TestTableDoesWhatTheMapDoes(t *testing.T) {
	t.Parallel()
	w := demoLine(t).ground(t)
	w.click("as a table")
	w.choose("add", "culvert")
	w.fill("its name", "third culvert")
	points := w.find(`//*[@id="new-points"]`)
	points.MustInput("46.80 north")
	w.click("Add it")
	w.see("are not all places. Write one on each line")
	points.MustSelectAllText().MustInput("46.8012, -105.3045\n46.8013, -105.3")
	w.click("Add it")
	w.see("do not make a point: it takes one point, not 2")
	points.MustSelectAllText().MustInput("46.8012, -105.3045")
	w.click("Add it")
	w.see("46.80120, -105.30450")
	w.press(w.find(`//tr[contains(., "third culvert")]//a`))
	w.see("culvert; drag its points")
	w.find(`//textarea[starts-with(@id, "points-")]`).MustSelectAllText().MustInput("146, -105")
	w.click("Save")
	w.see("lie off the globe")
	w.click("as a map")
	w.noErrors()
}

func TestPhotoOfASign(t *testing.T) {
	t.Parallel()
	w := demoLine(t).ground(t)
	w.press(w.find(`//a[contains(., "Tracks, bobcat")]`))
	file := filepath.Join(t.TempDir(), "print.jpg")
	f, err := os.Create(file)
	if err != nil {
		t.Fatal(err)
	}
	if err := jpeg.Encode(f, image.NewRGBA(image.Rect(0, 0, 300, 200)), nil); err != nil {
		t.Fatal(err)
	}
	f.Close()
	broken := filepath.Join(t.TempDir(), "broken.jpg")
	if err := os.WriteFile(broken, []byte("no picture"), 0o600); err != nil {
		t.Fatal(err)
	}
	w.see("a photo")
	w.find(`//input[@type="file"]`).MustSetFiles(broken)
	w.see("This is no picture that can be read here")
	w.find(`//input[@type="file"]`).MustSetFiles(file)
	w.see("another photo")
	w.click("Save")
	w.until("the picture is shown", func() bool {
		return w.MustEval(`() => document.querySelector('img.photo')?.naturalWidth ?? 0`).Int() == 300
	})
	w.noErrors()
}

// A spot and the paper of a permission have their pictures, which stay.
func TestPicturesOfASpotAndAPaper(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.ground(t)
	shown := func() bool {
		return w.MustEval(`() => [...document.querySelectorAll('img.photo')].some((i) => i.naturalWidth > 100)`).Bool()
	}
	w.pressAt(`//h3/button[.="Alder Slough hayfield"]`)
	w.see("what was said")
	w.find(`//form//input[@type="file"]`).MustSetFiles(grainyPhoto(t))
	w.until("the paper is shown", shown)
	w.click("Save")
	w.until("it is kept", func() bool {
		for _, one := range p.lineNow().Properties {
			if one.PaperID != nil && one.Name == "Alder Slough hayfield" {
				return true
			}
		}
		return false
	})
	w.open("/line/" + p.lineNow().Line.ID + "/ground")
	w.click("Pit rim")
	w.click("change it")
	w.find(`//form//input[@type="file"]`).MustSetFiles(grainyPhoto(t))
	w.find(`//form//img`)
	w.click("Save")
	w.until("it is kept", func() bool {
		for _, one := range p.lineNow().Spots {
			if one.PhotoID != nil && one.Name == "Pit rim" {
				return true
			}
		}
		return false
	})
	w.MustReload()
	w.click("Pit rim")
	w.until("the spot is shown", shown)
	w.sights("spot")
	w.noErrors()
}

// A spot says what would work there, for whom one asks; the first of it is begun with one tap.
func TestWhatWouldWorkHere(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.ground(t)
	w.click("Gate gap")
	w.click("what would work here")
	w.pressAt(`//section[@aria-label="what would work here"]//button[.="coyote"]`)
	w.see("Two traps about a stick")
	w.see("For it, how many of those that pass take this very way.")
	w.sights("works")
	before := len(p.lineNow().Designs)
	w.click("begin it")
	w.see("A new set, Gate gap")
	w.see("Two traps about a stick; way narrowed")
	w.until("it is kept", func() bool { return len(p.lineNow().Designs) == before+1 })
	w.noErrors()
}

const scouting = `<?xml version="1.0"?><gpx version="1.1">
<wpt lat="46.8021" lon="-105.3051"><time>2026-11-02T14:00:00Z</time><name>old crossing</name><type>creek crossing</type></wpt>
<wpt lat="46.8035" lon="-105.3062"><name>pinch</name></wpt>
<trk><name>ridge walk</name><trkseg><trkpt lat="46.80" lon="-105.30"/><trkpt lat="46.81" lon="-105.31"/></trkseg></trk>
<wpt lat="x" lon="y"><name>nowhere</name></wpt></gpx>`

// bring chooses a file with a text on the import page.
func (w *page) bring(name, text string) {
	w.t.Helper()
	file := filepath.Join(w.t.TempDir(), name)
	if err := os.WriteFile(file, []byte(text), 0o600); err != nil {
		w.t.Fatal(err)
	}
	w.find(`//input[@id="file"]`).MustSetFiles(file)
}

func TestImportShowsWhatThingsBecome(t *testing.T) {
	t.Parallel()
	w := demoLine(t).ground(t)
	w.click("bring in a file")
	for name, bad := range map[string]struct{ text, says string }{
		"bomb.gpx":     {`<!DOCTYPE gpx [<!ENTITY a "b">]><gpx/>`, "declares a document type"},
		"cut.gpx":      {scouting[:200], "cannot be read as GPX"},
		"deep.geojson": {strings.Repeat(`{"a":`, 900), "nests too deeply"},
		"off.geojson":  {`{"type":"Point","coordinates":[900,1]}`, "nowhere on the globe"},
		"page.gpx":     {"<html></html>", "is a web page, most likely one that asks to sign in"},
		"none.txt":     {"hello", "cannot be read as GeoJSON"},
	} {
		w.bring(name, bad.text)
		w.see(bad.says)
		w.see("Nothing was changed.")
	}
	w.bring("scouting.gpx", scouting)
	w.see("a waypoint lies nowhere on the globe")
	w.see("1 × point · creek crossing")
	w.becomes("pinch", "lone tree")
	w.becomes("ridge walk", "breaks")
	w.click("Bring in 3 things")
	w.see("Brought in: three things on the map, no spots, no signs.")
	w.bring("scouting.gpx", scouting)
	w.see("One is on this line already")
	w.becomes("ridge walk", "leave out")
	w.click("Bring in 1 thing")
	w.see("Brought in: no things on the map, one spot, no signs.")
	w.click("See them on the ground")
	w.part("ridge walk")
	w.part("spot pinch")
	w.see("Brought in")
	w.noErrors()
}

// becomes says what one thing of an import becomes.
func (w *page) becomes(name, kind string) {
	w.t.Helper()
	w.find(fmt.Sprintf(`//select[@aria-label=%q]`, name+" becomes")).MustSelect(kind)
}

// What is exported and brought into an empty line comes out of that line the same.
func TestExportAndImportWithoutADifference(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	own := run(t, "demo", "--empty", "--still", "--data", filepath.Join(t.TempDir(), "own.db"))
	w := own.at("/", 1280, 800)
	beginLine(w)
	for _, format := range []string{"geojson"} {
		from := export(t, p, format)
		w.click("bring in a file")
		w.bring("ground."+format, from)
		w.click("Bring in")
		w.see("15 spots, 18 signs.")
		if to := export(t, own, format); to != from {
			t.Errorf("%s: %s", format, difference(from, to))
		}
		w.bring("ground."+format, from)
		w.see("are on this line already")
		w.find(`//button[.="Bring in 0 things" and @disabled]`)
	}
	w.bring("ground.gpx", export(t, p, "gpx"))
	w.find(`//button[.="Bring in 0 things" and @disabled]`)
	w.noErrors()
}

// difference shows where two texts part.
func difference(a, b string) string {
	left, right := strings.Split(a, "\n"), strings.Split(b, "\n")
	for i := range min(len(left), len(right)) {
		if left[i] != right[i] {
			return fmt.Sprintf("line %d: %q became %q", i+1, left[i], right[i])
		}
	}
	return fmt.Sprintf("%d lines became %d", len(left), len(right))
}

func export(t *testing.T, p *program, format string) string {
	t.Helper()
	w := p.at("/", 1280, 800)
	w.click("Ground")
	link := w.find(fmt.Sprintf(`//a[contains(@href, "/export/%s")]`, format)).MustProperty("href").String()
	response, err := http.Get(link)
	if err != nil {
		t.Fatal(err)
	}
	defer response.Body.Close()
	raw, err := io.ReadAll(response.Body)
	if err != nil || response.StatusCode != http.StatusOK {
		t.Fatalf("%s: status %d, %v", link, response.StatusCode, err)
	}
	return string(raw)
}

// The ground is panned and zoomed by mouse and keys, and shown whole again.
func TestGroundPansAndZooms(t *testing.T) {
	t.Parallel()
	w := demoLine(t).ground(t)
	svg := w.find(`//div[contains(@class,"map")]/*[local-name()='svg']`)
	where := func(el *rod.Element) string { return fmt.Sprint(el.MustShape().Box()) }
	before := where(w.part("spot Gate gap"))
	box := svg.MustShape().Box()
	w.Mouse.MustMoveTo(box.X+60, box.Y+40).MustDown(proto.InputMouseButtonLeft)
	w.Mouse.MustMoveTo(box.X+160, box.Y+90).MustMoveTo(box.X+180, box.Y+100).MustUp(proto.InputMouseButtonLeft)
	w.until("the ground has moved", func() bool { return where(w.part("spot Gate gap")) != before })
	w.see("Choose something") // a drag chooses nothing
	svg.MustFocus()
	w.key('+', 2)
	w.key(input.ArrowLeft, 1)
	w.see("200 yd")
	w.key('0', 1)
	w.until("it is whole again", func() bool { return where(w.part("spot Gate gap")) == before })
	w.Mouse.MustMoveTo(box.X+box.Width/2, box.Y+box.Height/2).MustScroll(0, -300)
	w.until("the wheel zooms", func() bool { return where(w.part("spot Gate gap")) != before })
	w.click("whole line")
	w.until("it is whole once more", func() bool { return where(w.part("spot Gate gap")) == before })
	w.noErrors()
}

// In the hand a sign is added where one stands.
func TestSignInTheHand(t *testing.T) {
	t.Parallel()
	hand := demoLine(t).at("/", 390, 844)
	hand.click("Ground")
	hand.click("Add sign")
	hand.click("where the receiver stands")
	hand.see("Its place is marked")
	hand.click("raccoon")
	hand.click("tracks")
	hand.see("Tracks, raccoon")
	hand.see("a photo")
	hand.noErrors()
}
