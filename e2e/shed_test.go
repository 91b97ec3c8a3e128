package e2e

import (
	"bytes"
	"io"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

// shed opens a page of the demo's shed.
func (p *program) shed(page, see string) *page {
	p.t.Helper()
	w := p.at("/", 1280, 800)
	w.click("Shed")
	w.see("At the rack")
	if page != "" {
		w.click(page)
	}
	w.see(see)
	return w
}

// madeUp tells the made-up gauge what to do.
func (w *page) madeUp(pan, acts string) {
	w.t.Helper()
	w.fill("the pan gives at", pan)
	w.choose("the gauge", acts)
}

func (w *page) presses() int {
	return len(w.MustElementsX(`//ol[@aria-label="presses so far"]//button`))
}

func (w *page) readPress() {
	w.t.Helper()
	before := w.presses()
	w.click("Read the gauge")
	w.until("one more press is read", func() bool { return w.presses() == before+1 })
}

func TestMeasuringAPan(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.shed("Gauge", "Which trap’s pan will be measured?")
	w.click("Trap 18")
	w.see("no press yet")
	w.see("4 to 5.5 lb: 19 of 20 coyotes fire it, skunks and opossums mostly do not")
	w.press(w.find(`//summary`))

	// A stuck gauge gives no reading, a drifting one none that counts.
	w.madeUp("6.4 lb", "sticks")
	w.click("Read the gauge")
	w.see("it is stuck, and this is no reading")
	w.madeUp("6.4 lb", "drifts")
	w.click("Read the gauge")
	w.see("The gauge drifts, at rest it reads")
	w.see("no press yet")
	w.madeUp("6.4 lb", "reads well")
	w.click("zero it and press again")
	w.until("the zeroed press counts", func() bool { return w.presses() == 1 })
	w.see("one press is taken as one; three are the advice")
	w.readPress()
	w.readPress()
	w.see("Looser, about")
	w.see("to the middle of the window")
	w.see("coyotes 9") // ninety-some of a hundred
	w.click("Record it")
	w.see("Recorded: 6.")
	w.see("three presses of the made-up gauge")
	w.click("back to the rack")
	w.see("in 100 coyotes would not fire it")
	w.see("(a made-up gauge)")

	// Two quarter turns looser it lies inside; what a turn does is remembered.
	w.click("Measure it")
	w.see("It last read 6.")
	w.press(w.find(`//summary`))
	w.madeUp("4.7 lb", "reads well")
	for range 3 {
		w.readPress()
	}
	w.fill("quarter turns of the pan bolt since the last reading", "-2")
	w.see("Inside its window.")
	w.click("Record it")
	w.see("Recorded: 4.")
	w.click("back to the rack")
	w.see("after 2 quarter turns looser")
	w.gone("in 100 coyotes would not fire it")
	w.click("Measure it")
	w.press(w.find(`//summary`))
	w.madeUp("6.6 lb", "reads well")
	for range 3 {
		w.readPress()
	}
	w.see("A quarter turn moved it 0.")
	w.noErrors()
}

// Presses by the large keys, by the keyboard and by hand; a reading that was taken back; a gauge that reads too much.
func TestPressesByKeys(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.shed("Gauge", "Which trap’s pan will be measured?")
	w.click("Trap 28")
	w.see("no press yet")
	for _, key := range []string{"1", ".", "5", "add the press"} {
		w.press(w.find(`//div[@aria-label="type a press"]//button[normalize-space(.)="` + key + `"]`))
	}
	w.until("the large keys are read", func() bool { return w.presses() == 1 })
	w.Keyboard.MustType(input.Digit1, input.Period, input.Digit6, input.Enter)
	w.until("the keyboard is read", func() bool { return w.presses() == 2 })
	w.Keyboard.MustType(input.Digit9, input.Enter)
	w.until("a third", func() bool { return w.presses() == 3 })
	w.see("The presses lie far apart")
	w.Keyboard.MustType(input.Backspace)
	w.until("the last is taken back", func() bool { return w.presses() == 2 })
	// What is at the gauge outlives a reload.
	w.MustReload().MustWaitLoad()
	w.see("1.6 lb")
	w.MustEval(`() => document.activeElement.blur()`)
	w.Keyboard.MustType(input.Digit1, input.Period, input.Digit4, input.Enter)
	w.until("a third again", func() bool { return w.presses() == 3 })
	w.fill("gauge", "hook gauge")
	w.see("what it reads is multiplied by 0.98")
	w.click("try it")
	w.fill("a weight of", "5 lb")
	w.fill("it reads", "2 lb")
	w.click("use this correction")
	w.wrong("it reads", "is too far from the 5 lb")
	w.fill("it reads", "4.5 lb")
	w.click("use this correction")
	w.see("multiplied by 1.111")
	w.see("1.7 lb")
	w.choose("cover, as it will be", "damp soil, packed")
	w.fill("cover, thick", "6 in")
	w.see("No setting fires under damp soil, packed.")
	w.choose("cover, as it will be", "waxed soil")
	w.fill("cover, thick", "1/4 in")
	w.press(w.find(`//div[@aria-label="its pan should spare"]//button[.="skunk"]`))
	w.see("No setting does both")
	w.see("Choose by the drawing what you give up")
	w.Keyboard.MustType(input.KeyD) // done
	w.see("Recorded: 1.7 lb, three presses of the hook gauge.")
	w.click("undo")
	w.gone("Recorded:")
	w.click("Rack")
	w.hook("Trap 28,")
	w.see("undone")
	w.see("Never measured")
	w.noErrors()
}

func TestABentDogStaysHome(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.shed("", "55 traps and devices, 28 in sets, three kept home, two missing, one away.")
	w.hook("Trap 3, five")
	w.see("It hangs on the rack")
	w.see("chain 18 in, now 24 in")
	w.click("shed check")
	w.press(w.find(`//span[@aria-label="dog"]/button[.="fault"]`))
	w.find(`//input[@aria-label="what is wrong: dog"]`).MustInput("bent")
	// Half a check outlives a reload.
	w.MustReload().MustWaitLoad()
	w.click("shed check")
	w.click("the rest is ok")
	w.twice(`//button[.="Keep it home"]`)
	w.see("Kept home: dog, bent.")
	w.see("dog faulty, bent")
	w.see("four kept home")
	if n := len(w.MustElementsX(`//li[contains(., "dog faulty, bent")]`)); n != 1 {
		t.Errorf("two quick taps recorded %d checks", n)
	}
	// It is not among the traps that the bench offers, nor one that stands in a set.
	w.click("Bench")
	w.click("Creek crossing")
	w.click("3Trap and pan")
	options := w.field("which trap").MustEval(`() => this.innerText + [...this.options].map((o) => o.text).join('\n')`).String()
	if strings.Contains(options, "Trap 3,") || strings.Contains(options, "Trap 12,") || !strings.Contains(options, "Trap 6,") {
		t.Errorf("the bench offers %s", options)
	}
	w.choose("which trap", "Trap 4, five and a half, 2.4 lb")
	w.see("Trap 4: 2.4 lb is too light to spare skunks.")
	w.see("pan at 2.4 lb, measured")
	w.see("saved")
	// A design that names a trap which then breaks cannot be built with it.
	w.click("Shed")
	w.hook("Trap 4, five")
	w.click("shed check")
	w.press(w.find(`//span[@aria-label="springs"]/button[.="fault"]`))
	w.click("Keep it home")
	w.see("Kept home: springs.")
	w.click("Bench")
	w.click("Creek crossing")
	w.wrong("which trap", "is kept home (springs faulty). Choose another, or mend it")
	w.see("Correct what is marked above, then it can be built.")
	w.choose("which trap", "Trap 6,")
	w.gone("is kept home")
	w.click("Build it")
	w.see("Set 25 is built")
	w.see("stands no night yet · saved") // though it was built before the change of trap was saved
	w.see("Set 25 is built")
	w.click("Shed")
	w.hook("Trap 6, five")
	w.see("It stands in set 25, Creek crossing")
	w.see("out to set 25, Creek crossing")
	w.noErrors()
}

// A trap that is bent is changed and its story keeps what it was; another of the same number is refused; it is undone.
func TestChangingTheRack(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.shed("", "At the rack")
	w.click("add a trap")
	w.fill("number", "7")
	w.click("Save")
	w.wrong("size, as you call it", "Say its size")
	w.fill("size, as you call it", "borrowed")
	w.fill("jaw spread", "20 in")
	w.click("Save")
	w.wrong("jaw spread", "must be from 3 in to 9 ⅞ in, not 20 in")
	w.fill("jaw spread", "5 in")
	w.click("Save")
	w.wrong("number", "7 is on the rack already: choose another")
	w.MustReload().MustWaitLoad()
	w.click("add a trap")
	w.until("the form is as it was left", func() bool { return w.field("size, as you call it").MustProperty("value").String() == "borrowed" })
	w.fill("number", "60")
	w.click("Save")
	w.see("Trap 60, borrowed")
	w.see("56 traps and devices")
	w.click("change")
	w.fill("pan, across", "2 1/2 in")
	w.choose("where it is, if not here", "mending")
	w.click("Save")
	w.see("pan 2 ⅜ in, now 2 ½ in")
	w.see("It is not on the rack, mending.")
	w.click("undo: trap 60 changed")
	w.see("pan 2 ½ in, now 2 ⅜ in")
	w.click("change")
	w.click("remove")
	w.see("55 traps and devices")
	w.hook("Trap 11,")
	w.click("change")
	w.click("remove")
	w.see("It cannot be: it stands in set 1; pull that first")
	w.noErrors()
}

func TestRackGoesOutAndComesIn(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.shed("", "At the rack")
	raw := p.download(w, "traps")
	rows := strings.Split(strings.TrimSpace(string(raw)), "\n")
	if len(rows) != 56 || !strings.HasPrefix(rows[0], "number,size,type,jaw_form,offset,offset_mm,laminated,padded,jaw_spread_mm") || !strings.Contains(string(raw), "set 1,17.8") {
		t.Fatalf("%d rows: %.400s", len(rows), raw)
	}
	bring := func(w *page, content string) {
		file := filepath.Join(t.TempDir(), "rack.csv")
		if err := os.WriteFile(file, []byte(content), 0o600); err != nil {
			t.Fatal(err)
		}
		w.find(`//input[@id="rack-file"]`).MustSetFiles(file)
	}
	// The same rack changes nothing; a changed row changes one trap, and a broken one is named.
	w.click("bring in CSV")
	bring(w, string(raw))
	w.see("As they are already: 55.")
	bring(w, "size,jaw\nfox,offset\n")
	w.see(`The file lacks the column "number"`)
	w.see("Nothing was changed.")
	changed := regexp.MustCompile(`(?m)^5,five and a half,`).ReplaceAllString(string(raw), "5,five and a quarter,") + "70,long one,long_spring,square\n71,,coil_spring\n"
	bring(w, changed)
	w.see("row 58, column size is missing")
	w.see("New on the rack: trap 70.")
	w.see("Changed: trap 5.")
	w.click("Take in two traps")
	w.see("Brought in: two traps.")
	w.click("see the rack")
	w.hook("Trap 5, five and a quarter")
	w.see("size five and a half, now five and a quarter")

	// Into an empty file the whole rack comes as it went.
	own := run(t, "demo", "--empty", "--still", "--data", filepath.Join(t.TempDir(), "own.db"))
	v := own.at("/", 1280, 800)
	beginLine(v)
	v.click("Shed")
	v.see("The rack is empty")
	v.click("bring in CSV")
	bring(v, string(raw))
	v.see("Columns not read: place, tension_n, measured_at.")
	v.click("Take in 55 traps")
	v.see("Brought in: 55 traps.")
	v.click("see the rack")
	v.see("55 traps and devices, one away.")
	again := own.download(v, "traps")
	strip := regexp.MustCompile(`(?m),[^,]*,[^,]*,[^,\n]*$`) // what the rack says is not what a trap is
	if got, want := strip.ReplaceAllString(string(again), ""), strip.ReplaceAllString(string(raw), ""); got != want {
		t.Errorf("out again it is another rack:\n%s\n---\n%s", got, want)
	}
	w.noErrors()
	v.noErrors()
}

// download fetches an export of the page's line.
func (p *program) download(w *page, format string) []byte {
	p.t.Helper()
	line := regexp.MustCompile(`/line/([^/?]+)`).FindStringSubmatch(w.MustInfo().URL)[1]
	reply, err := w.GetResource("http://" + p.address + "/api/lines/" + line + "/export/" + format)
	if err == nil {
		return reply
	}
	raw := w.MustEval(`(path) => fetch(path).then((r) => r.text())`, "/api/lines/"+line+"/export/"+format).String()
	return []byte(raw)
}

func TestMixingUrineForTheCold(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.shed("Mixes", "Mixing table")
	w.see("Coldest hour of the forecast: 9°F")
	w.click("US units")
	w.see("Freezes at −29°C: 55.3 % glycerin by weight")
	w.fill("parts", "3") // of urine to one of glycerin
	w.fill("coldest it must stay liquid at", "-25 C")
	w.see("It freezes before −25°C.")
	w.click("mix it so that it does")
	w.see("Freezes at −25°C: 51.7 % glycerin by weight")
	w.see("It stays liquid to −25°C.")
	w.fill("in all", "500 ml")
	w.see("268 ml")
	w.see("232 ml")
	w.fill("coldest it must stay liquid at", "-60")
	w.see("Must be from −46°C, the most that glycerin stands")
	w.fill("coldest it must stay liquid at", "-25")
	w.click("for a number of sets")
	w.fill("sets", "12")
	w.fill("a dose", "20 ml")
	w.fill("in reserve, in 100", "50")
	w.see("360 ml in all.")
	w.click("Bottle it")
	w.wrong("call it", "Give it a name")
	w.fill("call it", "cold urine")
	w.click("Bottle it")
	w.see("360 ml of cold urine stand on the shelf.")
	w.hook("cold urine,")
	w.see("About 360 ml left, 18 doses.")
	w.see("freezes at −25°C")
	w.see("Nowhere yet, it is new on the whole line.")

	// Other mixtures: oil has no freezing point, a recipe can be kept, bedding takes so much by weight.
	w.choose("recipe", "skunk essence in oil")
	w.see("Nothing watery in it")
	w.click("total amount")
	w.fill("in all", "480 ml")
	w.see("30 ml")
	w.see("450 ml")
	w.click("save this recipe")
	w.fill("under the name", "Loud oil")
	w.click("save")
	w.until("the recipe is chosen", func() bool { return strings.Contains(w.field("recipe").MustText(), "Loud oil") })
	w.click("antifreeze in bedding")
	w.fill("bedding", "2 l")
	w.choose("with", "salt")
	w.fill("coldest it must stay loose at", "-16.5")
	w.see("112 g of salt. Mix it into 2 l of moist loam")
	w.noErrors()
}

func TestABottleRunsEmpty(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.shed("Mixes", "On the shelf")
	w.click("put a new lure on the shelf")
	w.fill("your name for it", "Last drop")
	w.fill("a dose, for one set", "1/2 oz")
	w.click("Save")
	w.see("No bottle of it stands on the shelf yet.")
	w.click("put a bottle of it on the shelf")
	w.fill("it holds", "1 oz")
	w.click("Open it now")
	w.see("About 1 oz left, two doses.")
	w.choose("used elsewhere, a dose at", "Bale row")
	w.click("use a dose")
	w.see("one dose.")
	w.see("Bale row once, last 4 Dec")
	// The set that is built with it takes the last dose, and the bench says so beforehand.
	w.click("Bench")
	w.click("Creek crossing")
	w.click("6Attractant")
	w.fill("lure, on lip or plug", "Last drop")
	w.see("Last drop: new here; one dose left.")
	w.see("saved")
	w.field("which trap?").MustSelect("one that is not on the rack")
	w.click("Build it")
	w.see("Set 25 is built")
	w.see("none left")
	w.click("Shed")
	w.click("Mixes")
	w.see("Last drop none is left")
	w.hook("Last drop,")
	w.see("empty since 4 Dec")
	w.see("Creek crossing once")
	w.click("another bottle of it")
	w.click("save it closed")
	w.see("not open")
	w.click("say what is left")
	w.fill("left, by eye", "0.75 oz")
	w.click("save what is left")
	w.see("0.75 oz of 1 oz")
	w.click("put it away")
	w.click("undo: a bottle of Last drop put away")
	w.see("0.75 oz of 1 oz")
	w.noErrors()
}

func TestKitIsTickedAndPrinted(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.shed("Kit", "37 of 37 still to pack.")
	w.see("Trap 1, five and a half for Creek crossing")
	w.see("pliers · forgot last time")
	w.see("waxed soil: 2.6 qt, 7.2 lb")
	w.see("4 × pan cover 4 ½ in across")
	w.see("Kettle bait: three doses")
	w.see("24 looks, and three remakes more to expect")
	tick := func(w *page, name string) {
		w.press(w.find(`//label[starts-with(normalize-space(.), "` + name + `")]`))
	}
	tick(w, "pliers")
	tick(w, "waxed soil")
	w.see("35 of 37 still to pack.")
	w.press(w.find(`//li[starts-with(normalize-space(.), "trowel")]//button`))
	w.see("trowel · forgot last time")
	w.find(`//input[@aria-label="a thing of your own"]`).MustInput("thermos")
	w.click("always take it")
	w.see("36 of 38 still to pack.")
	w.click("later")
	w.see("Later: Creek crossing")
	w.gone("for Creek crossing")
	w.gone("driver nut")
	w.click("do it")
	w.see("Trap 1, five and a half for Creek crossing")

	// What is ticked while the program is dead is ticked, and is still when it is back.
	p.kill()
	tick(w, "sifter")
	w.see("not sent yet, kept in this browser")
	w.see("35 of 38 still to pack.")
	p.start()
	w.gone("not sent yet")
	w.MustReload().MustWaitLoad()
	w.see("35 of 38 still to pack.")

	w.MustEval(`() => { window.print = () => { window.__printed = true } }`)
	w.click("Print the list")
	if !w.MustEval(`() => window.__printed === true`).Bool() {
		t.Error("nothing is printed")
	}
	pdf, err := w.PDF(&proto.PagePrintToPDF{})
	if err != nil {
		t.Fatal(err)
	}
	raw, err := io.ReadAll(pdf)
	if pages := bytes.Count(raw, []byte("/Type /Page\n")); err != nil || pages != 1 {
		t.Errorf("the list is printed on %d pages, %v", pages, err)
	}

	// On the next evening what was forgotten and packed since is not said again; what was only forgotten is.
	w.click("move on a night")
	w.see("Sunday 6 December")
	w.see("trowel · forgot last time")
	w.see("pliers")
	w.gone("pliers · forgot")
	w.see("38 of 38 still to pack.")
	w.noErrors()
}

// The shed in the hand fits its width, and its pages can be read with weak eyes and by a screen reader.
func TestShedInTheHandAndByEar(t *testing.T) {
	t.Parallel()
	axe, err := os.ReadFile("../web/node_modules/axe-core/axe.min.js")
	if err != nil {
		t.Fatal(err)
	}
	p := demoLine(t)
	steps := []struct{ click, see string }{
		{"Shed", "At the rack"}, {"Trap 9", "fouled with wax"}, {"shed check", "Safety in while you look"}, {"cancel", "Its story"}, {"change", "Trap 9, changed"}, {"Gauge", "Which trap’s pan"},
		{"Trap 22", "No setting does both"}, {"Mixes", "Mixing table"}, {"fox urine", "Where it was used"}, {"Kit", "The plan"},
	}
	for _, size := range [][2]int{{1280, 800}, {390, 844}} {
		w := p.at("/", size[0], size[1])
		if size[0] > 800 {
			w.click("lamp")
		}
		for _, step := range steps {
			w.click(step.click)
			w.see(step.see)
			if wide := w.MustEval(`() => document.documentElement.scrollWidth`).Int(); wide > size[0] {
				t.Errorf("%s is %d px wide", step.see, wide)
			}
			w.inspect(string(axe), step.see)
			if step.click == "Trap 22" {
				w.readPress() // nothing lies over the button
			}
		}
		w.noErrors()
	}
}

// What two people do to one trap is said to the second, and both stand in its story.
func TestTwoHandsAtOneTrap(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	first, second := p.shed("", "At the rack"), p.shed("", "At the rack")
	for _, w := range []*page{first, second} {
		w.hook("Trap 5, five")
		w.click("change")
	}
	first.fill("tag", "shed wall")
	first.click("Save")
	first.see("tag shed wall")
	second.fill("chain", "24 in")
	second.twice(`//button[.="Save"]`)
	second.see("It was changed elsewhere since you opened it. Save again to put yours over that")
	second.click("Save")
	second.see("24 in of chain")
	second.see("chain 18 in, now 24 in")
	second.see("shed wall, now KF line, made up") // the second put his over the first, and it can be read
	if n := len(second.MustElementsX(`//li[contains(., "now 24 in")]`)); n != 1 {
		t.Errorf("the change stands %d times in the story", n)
	}
	first.noErrors()
	second.noErrors()
}

// With the program dead the shed is still looked through, measured by hand and counted out; a double tap is one.
func TestTheShedWithoutTheProgram(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	gauge, check, shelf := p.shed("Gauge", "Which trap’s pan"), p.shed("", "At the rack"), p.shed("Mixes", "Mixing table")
	gauge.press(gauge.find(`//a[.="Trap 2"]`))
	gauge.see("It last read 4.9 lb")
	check.hook("Trap 6, five")
	check.click("shed check")
	shelf.hook("Tin Cup,")
	shelf.see("27 doses")
	shelf.choose("used elsewhere, a dose at", "Pit rim")
	shelf.twice(`//button[.="use a dose"]`)
	shelf.until("one is taken off", func() bool { return strings.Contains(shelf.text(), "left, 26 doses") })
	shelf.see("One dose taken off.")
	shelf.see("Pit rim 2 times, last 4 Dec")

	p.kill()
	gauge.click("Read the gauge")
	gauge.see("The program does not answer. Write the press instead.")
	for range 3 {
		gauge.Keyboard.MustType(input.Digit5)
		gauge.click("add the press")
	}
	gauge.until("three presses are written", func() bool { return gauge.presses() == 3 })
	gauge.click("Record it")
	gauge.see("not sent yet, kept in this browser")
	check.press(check.find(`//span[@aria-label="chain"]/button[.="fault"]`))
	check.click("Keep it home")
	check.see("not sent yet, kept in this browser")
	time.Sleep(700 * time.Millisecond) // the button rests after a dose
	shelf.click("use a dose")
	shelf.see("not sent yet, kept in this browser")

	p.start()
	for _, w := range []*page{gauge, check, shelf} {
		w.gone("not sent yet")
	}
	check.see("Kept home: chain.")
	shelf.see("left, 25 doses")
	gauge.click("Rack")
	gauge.hook("Trap 2,")
	gauge.see("4.9 lb, spread 0 %, three presses of the hook gauge")
	gauge.noErrors()
}

// An own line without a gauge: everything is typed, and the program says so.
func TestShedOfAnEmptyLine(t *testing.T) {
	t.Parallel()
	p := run(t, "serve", "--data", filepath.Join(t.TempDir(), "own.db"))
	w := p.at("/", 1280, 800)
	beginLine(w)
	w.click("Shed")
	w.see("The rack is empty")
	w.click("Gauge")
	w.see("No trap with a pan hangs on the rack")
	w.click("Mixes")
	w.see("No forecast is known. Say yourself how cold it will be")
	w.click("Kit")
	w.see("No set stands to be looked at")
	w.see("No new set is designed")
	w.click("Rack")
	w.fill("number", "1")
	w.fill("size, as you call it", "my own")
	w.click("Save")
	w.see("One trap or device.")
	w.click("Measure it")
	w.see("No gauge is connected. Type what yours reads")
	w.open("/line/x/shed/gauge")
	w.see("This line is not in the file")
	w.noErrors()
}
