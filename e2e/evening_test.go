package e2e

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/oklog/ulid/v2"

	"oldburrow/core/line"
	pages "oldburrow/core/page"
	"oldburrow/server"
)

// get asks the program itself.
func (p *program) get(path string, into any) {
	p.t.Helper()
	answer, err := http.Get("http://" + p.address + "/api" + path)
	if err != nil {
		p.t.Fatal(err)
	}
	defer answer.Body.Close()
	if err := json.NewDecoder(answer.Body).Decode(into); err != nil {
		p.t.Fatal(err)
	}
}

// night moves the demo's clock to the next morning.
func (p *program) night() {
	p.t.Helper()
	answer, err := http.Post("http://"+p.address+"/api/demo/night", "application/json", strings.NewReader("{}"))
	if err != nil {
		p.t.Fatal(err)
	}
	defer answer.Body.Close()
	if said, _ := io.ReadAll(answer.Body); answer.StatusCode != http.StatusOK {
		p.t.Fatalf("the night: %s, %s", answer.Status, said)
	}
}

// helperSees has the helper look at every set from a number on, before the day begins: they are quiet.
func (p *program) helperSees(from int) {
	p.t.Helper()
	view := p.lineNow()
	for _, s := range view.Sets {
		if s.Set.Number < from {
			continue
		}
		look := line.Visit{ID: ulid.Make().String(), LineID: view.Line.ID, MakeID: s.Make.ID, At: view.Now.Add(-20 * time.Minute), Found: line.Found{Finding: "quiet"}, Catches: []line.Catch{}}
		p.put("/lines/"+view.Line.ID+"/visits/"+look.ID, look)
	}
}

// put writes something as a browser does.
func (p *program) put(path string, body any) {
	p.t.Helper()
	raw, err := json.Marshal(body)
	if err != nil {
		p.t.Fatal(err)
	}
	asked, err := http.NewRequest(http.MethodPut, "http://"+p.address+"/api"+path, bytes.NewReader(raw))
	if err != nil {
		p.t.Fatal(err)
	}
	asked.Header.Set("Content-Type", "application/json")
	asked.Header.Set("Mutation", ulid.Make().String())
	answer, err := http.DefaultClient.Do(asked)
	if err != nil {
		p.t.Fatal(err)
	}
	defer answer.Body.Close()
	if answer.StatusCode != http.StatusOK {
		said, _ := io.ReadAll(answer.Body)
		p.t.Fatalf("put %s: %s", path, said)
	}
}

// lineNow is the line as the program has it.
func (p *program) lineNow() (view pages.LineView) {
	p.t.Helper()
	var about server.Program
	p.get("/about", &about)
	p.get("/lines/"+about.Lines[0].ID, &view)
	return view
}

func (p *program) rack() (rack pages.Rack) {
	p.t.Helper()
	p.get("/lines/"+p.lineNow().Line.ID+"/rack", &rack)
	return rack
}

// A notebook is typed in at night, for three days that are over, by keyboard from row to row; one look is mended after, and one thing
// taken back after a reload.
func TestANotebookIsTypedIn(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.at("/", 1280, 800)
	for day := 5; day <= 7; day++ {
		w.click("move on a night")
		w.see(fmt.Sprintf("%d December, 05:50", day))
	}
	w.click("Round")
	w.see("Enter saves a row and goes to the next.")
	for i, found := range []string{"passed", "quiet", "quiet"} { // 6, 5 and 4 December
		w.click("the day before")
		w.see(fmt.Sprintf("%d December", 6-i))
		w.until("the day stands there", func() bool { return len(w.MustElementsX(`//input[contains(@aria-label, ", time")]`)) == 24 })
		w.find(`//input[@aria-label="set 1, time"]`).MustFocus()
		for _, number := range []int{1, 6, 2, 7, 8} {
			w.until(fmt.Sprintf("row %d has the hand", number), func() bool {
				return w.MustEval(`() => document.activeElement.getAttribute('aria-label')`).String() == fmt.Sprintf("set %d, time", number)
			})
			w.MustInsertText(fmt.Sprintf("7:%02d", 5*number))
			w.key(input.Tab, 1)
			w.MustInsertText("")                                 // the finding has the hand
			w.until("the keys have chosen "+found, func() bool { // letters that come slowly begin anew
				for _, r := range found {
					w.Keyboard.MustType(input.Key(r))
				}
				return w.MustEval(`() => document.activeElement.selectedOptions[0].textContent`).Str() == map[string]string{"passed": "passed by", "quiet": "quiet"}[found]
			})
			w.key(input.Enter, 1)
			w.see(fmt.Sprintf("07:%02d", 5*number))
		}
	}
	view := p.lineNow()
	for _, s := range view.Sets {
		if !slices.Contains([]int{1, 6, 2, 7, 8}, s.Set.Number) {
			continue
		}
		if s.LastVisit == nil || s.LastVisit.Finding != "passed" || s.LastVisit.At.Day() != 6 {
			t.Errorf("set %d was last found %+v", s.Set.Number, s.LastVisit)
		}
	}
	// What cannot be is said, and nothing is lost.
	w.click("another look")
	w.find(`//input[@aria-label="set 1, time"]`).MustInput("25")
	w.find(`//select[@aria-label="what was found"]`).MustSelect("quiet")
	w.click("save")
	w.see("Write the time of the look, such as 7:05 or 3:30 pm.")

	// A time that has not come yet is said before anything is kept, and the row keeps what was typed.
	w.open(fmt.Sprintf("/line/%s/round", view.Line.ID))
	w.find(`//input[@aria-label="set 3, time"]`).MustInput("6:52")
	w.find(`(//input[@aria-label="set 3, time"]/ancestor::div[@class="cells"]//select[@aria-label="what was found"])`).MustSelect("quiet")
	w.find(`//input[@aria-label="set 3, time"]`).MustFocus()
	w.key(input.Enter, 1)
	w.see("06:52 still lies ahead, it is 05:50 on Monday 7 December. Write when the look was")
	if typed := w.find(`//input[@aria-label="set 3, time"]`).MustProperty("value").String(); typed != "6:52" {
		t.Errorf("the row holds %q", typed)
	}
	w.find(`//input[@aria-label="set 3, time"]`).MustSelectAllText().MustInput("5:52") // two clocks never agree to the minute
	w.key(input.Enter, 1)
	w.see("05:52 quiet")
	w.open(fmt.Sprintf("/line/%s/round?day=2026-12-04", view.Line.ID))
	w.click("another look")
	w.find(`//input[@aria-label="set 1, time"]`).MustSelectAllText().MustInput("745")
	w.MustReload()
	w.see("another look")

	// One look is put right: the reason and what stood before stay to be read.
	w.click("the day before")
	w.see("Everything done on this day")
	w.open(fmt.Sprintf("/line/%s/round?day=2026-12-06", view.Line.ID))
	w.see("6 December")
	w.click("correct")
	w.find(`//*[contains(@class, "mend")]//select[@aria-label="what was found"]`).MustSelect("caught")
	w.find(`//select[@aria-label="what was caught"]`).MustSelect("raccoon")
	w.find(`//input[@aria-label="reason"]`).MustInput("I had turned two pages") // on the day of its entry it could be blank
	w.click("save")
	w.see("caught: raccoon")
	w.see("I had turned two pages. Before it said 07:05 passed by.")
	w.click("Book")
	w.click("what was caught")
	w.see("6 Dec 07:05")
	w.press(w.find(`//a[starts-with(@aria-label, "correct raccoon")]`))
	w.see("Everything done on this day")

	// What was entered long ago is not corrected without a reason, and the hand stands in the field that lacks it.
	w.open(fmt.Sprintf("/line/%s/round?day=2026-12-02", view.Line.ID))
	w.see("2 December")
	w.click("correct")
	w.click("save")
	w.see("Say why, so that it can be followed later")
	w.focusAt("reason")
	w.click("cancel")
	w.open(fmt.Sprintf("/line/%s/round?day=2026-12-06", view.Line.ID))
	w.see("6 December")

	// And one thing of the day is taken back, also after a reload.
	w.MustReload()
	w.press(w.find(`//button[@aria-label="undo: set 6, passed by"]`))
	w.until("it is struck out", func() bool { return len(w.MustElementsX(`//s[.="set 6, passed by"]`)) == 1 })
	w.until("the program has it", func() bool {
		for _, s := range p.lineNow().Sets {
			if s.Set.Number == 6 {
				return s.LastVisit.At.Day() == 5
			}
		}
		return false
	})
	w.noErrors()
}

// A trap is gone; the set stays late while it is searched for, and it is found with its animal the next morning.
func TestATrapIsSearchedFor(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	hand := p.at("/", 390, 844)
	hand.see("Before light")
	hand.click("the whole round")
	hand.click("2Stack yard")
	hand.see("On a drag: ")
	hand.click("Trouble")
	hand.click("trap gone")
	hand.click("north-west")
	hand.fill("cover there", "cattails along the slough")
	hand.click("Search for it")
	hand.see("trap gone, 05:50 · recorded")
	hand.see("In such cover it lies as often as not within")
	hand.see("Ask for help where it is not found before dark")
	hand.find(`//section[@aria-label="where to search"]`).MustScrollIntoView()
	hand.sights("search")
	hand.open("/")
	hand.click("the whole round")
	hand.see("late")
	set := func() (found pages.SetView) {
		for _, s := range p.lineNow().Sets {
			if s.Set.Number == 2 {
				found = s
			}
		}
		return found
	}
	if s := set(); s.Bead.State != line.Sought || !s.Bead.Late {
		t.Errorf("it stands as %+v", s.Bead)
	}
	p.night()
	hand.open("/")
	hand.see("5 December")
	hand.click("the whole round")
	hand.click("2Stack yard")
	hand.see("It went toward the north-west; cattails along the slough.")
	hand.click("Found")
	hand.fill("how far off", "150 ft")
	hand.fill("on what it hung", "a fence post")
	hand.click("Found, with an animal")
	hand.click("coyote")
	hand.click("male")
	hand.click("left fore")
	hand.click("by the pad")
	hand.click("its condition")
	hand.click("prime")
	hand.click("Record the catch")
	hand.see("trap found again: coyote, male, left fore, by the pad, 05:50 · recorded")
	s := set()
	if s.Bead.State != line.Open || s.LastVisit.Search == nil || *s.LastVisit.Search.FarM != 45.72 || s.LastVisit.Search.HungOn != "a fence post" || s.LastVisit.Catches[0].Were[0] != "prime" {
		t.Errorf("it stands as %+v, %+v", s.Bead, s.LastVisit)
	}
	hand.noErrors()
}

// The first day on a file of one's own: Today says what to do next, until the first set stands; nothing is taken for known.
func TestTheFirstDay(t *testing.T) {
	t.Parallel()
	p := run(t, "demo", "--empty", "--still", "--data", filepath.Join(t.TempDir(), "own.db"))
	w := p.at("/", 1280, 800)
	beginLine(w)
	w.click("Today")
	w.see("First mark a spot")
	w.click("First mark a spot")
	w.click("add a spot")
	w.fill("name", "Willow crossing")
	w.touch(0.5, 0.5)
	w.click("Mark the spot")
	w.see("way not known; soil not known")
	w.click("Today")
	w.see("Then lay out a set")
	w.click("Then lay out a set")
	w.see("On the bench")
	w.click("Willow crossing")
	w.see("which way the way runs is not known")
	w.see("fires it")
	w.click("Today")
	w.click("Then build it")
	w.click("Build it")
	w.see("Set 1 is built")
	w.click("Today")
	w.gone("First mark a spot")
	spot := p.lineNow().Spots[0]
	if spot.Soil != "" || spot.TravelBearingDeg != nil || spot.WaysMeet != nil || !strings.Contains("land not named yet", p.lineNow().Properties[0].Name) {
		t.Errorf("it is taken for known: %+v", spot)
	}
	w.noErrors()
}
