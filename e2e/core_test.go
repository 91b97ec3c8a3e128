package e2e

import (
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"io/fs"
	"maps"
	"math"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/go-rod/rod/lib/input"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/asked"
	"oldburrow/core/layout"
	"oldburrow/core/odds"
	pages "oldburrow/core/page"
	"oldburrow/core/schools"
	"oldburrow/core/worked"
	"oldburrow/server"
	"oldburrow/web"
)

// sent is a question for the core, wherever it is; what is answered line by line is one answer, the list of them.
type sent struct {
	Path string `json:"path"`
	Body any    `json:"body"`
}

// inTheBrowser asks the browser's core, for the program at its address does not answer; each answer as it came, or the problem.
func inTheBrowser(t *testing.T, questions []sent) (answers []json.RawMessage) {
	t.Helper()
	w, s := logic(t)
	s.says(func(s *scripted) { s.strange = true })
	raw := w.do(`async (questions) => {
		const answers = [];
		for (const { path, body } of questions) {
			const lines = [];
			const asked = path.endsWith('/following') ? L.follow(path, body, new AbortController().signal, (line) => lines.push(line)).then(() => lines) : L.ask(path, body);
			answers.push(await asked.catch((e) => e.problem ?? String(e)));
		}
		return answers;
	}`, questions)
	if err := json.Unmarshal([]byte(raw), &answers); err != nil || len(answers) != len(questions) {
		t.Fatalf("%d answers to %d questions, %v: %.300s", len(answers), len(questions), err, raw)
	}
	return answers
}

// atTheTable is what the program would answer to the same.
func atTheTable(t *testing.T, q sent) []byte {
	t.Helper()
	body, err := json.Marshal(q.Body)
	if err != nil {
		t.Fatal(err)
	}
	var lines []any
	found, err := asked.Answer(context.Background(), asked.Usual(), q.Path, body, func(line any) { lines = append(lines, line) })
	switch {
	case err != nil:
		found = asked.ProblemOf(err)
	case lines != nil:
		found = lines
	}
	raw, err := json.Marshal(found)
	if err != nil {
		t.Fatal(err)
	}
	return raw
}

// alike tells whether two answers are the same, but for the last digits of a number: this processor has an exponential of its own, which the
// browser's has not.
func alike(a, b any) bool {
	switch a := a.(type) {
	case float64:
		b, is := b.(float64)
		return is && math.Abs(a-b) <= 1e-12*math.Max(1, math.Abs(a))
	case []any:
		b, is := b.([]any)
		return is && slices.EqualFunc(a, b, alike)
	case map[string]any:
		b, is := b.(map[string]any)
		return is && maps.EqualFunc(a, b, alike)
	}
	return a == b
}

func decoded(t *testing.T, raw []byte) (x any) {
	t.Helper()
	if err := json.Unmarshal(raw, &x); err != nil {
		t.Fatalf("%v: %.200s", err, raw)
	}
	return x
}

// Every worked case, the chain of every pattern for every target, what would help some of them and who else they would catch, and what is wrong
// with a question: the core in the browser answers as the one at the table does.
func TestTheCoreInTheBrowser(t *testing.T) {
	t.Parallel()
	cases, err := worked.In("../core/testdata")
	if err != nil {
		t.Fatal(err)
	}
	var questions []sent
	for _, c := range cases {
		in := c.In
		if c.Calc == "footfall" || c.Calc == "pattern" { // by fewer feet than they were worked with: it is the same at the table
			in = fmt.Appendf(nil, `{"visits":3000,%s`, in[1:])
		}
		questions = append(questions, sent{"/calc/" + c.Calc, in})
	}
	for _, pattern := range layout.PatternKeys() {
		for _, target := range animal.Reference.TargetKeys() {
			a, err := animal.Reference.ByKey(target)
			if err != nil {
				t.Fatal(err)
			}
			begun, err := layout.New(pattern, layout.Begin{Target: a, Schools: schools.Usual()})
			if err != nil {
				t.Fatal(err)
			}
			q := asked.Question{
				Layout: begun, Target: target, Visits: 2000, Map: true, Ground: anchor.Soil{Kind: "loam", Wetness: "moist"},
				Circumstances: &odds.Circumstances{Sign: "days_3", WaysMeet: 1, Coverage: new(.4), Night: 1},
			}
			questions = append(questions, sent{"/bench", q})
			// Who else, and what would help, of those of which it takes longest; of all of them where there is time.
			if q.Visits = 3000; target == "coyote" && slices.Contains([]string{"hole", "trench", "trail_pair", "tuft_pair"}, pattern) || os.Getenv("OLDBURROW_LONG") != "" {
				questions = append(questions, sent{"/bench/following", q})
			}
		}
	}
	questions = append(questions, sent{"/coordinates", asked.Written{Place: "by the creek"}}, sent{"/bench", map[string]any{"target": "wolf", "visits": 0}}, sent{"/pan", map[string]any{"moon": 1}})
	for i, got := range inTheBrowser(t, questions) {
		if want := atTheTable(t, questions[i]); !alike(decoded(t, got), decoded(t, want)) {
			t.Errorf("%s: %.300s\nat the table %.300s", questions[i].Path, got, want)
		}
	}
}

// A program that takes a question and never answers holds up the first alone: what is asked after it is asked of the core here at once. What is
// asked of it meanwhile finds it again.
func TestASilentProgramHoldsUpTheFirstAlone(t *testing.T) {
	t.Parallel()
	w, s := logic(t)
	s.says(func(s *scripted) { s.silent = true })
	ask := `async () => (await L.ask('/coordinates', { place: '46.8, -105.3' })).latDeg`
	for range 3 {
		if got := w.do(ask); got != "46.8" {
			t.Errorf("it answers %s", got)
		}
	}
	if got := s.taken(); got != "/api/coordinates" {
		t.Errorf("the program was asked %q", got)
	}
	s.says(func(s *scripted) {
		s.silent = false
		s.answer = func(string, map[string]any) (int, any) { return http.StatusOK, map[string]float64{"latDeg": 1} }
	})
	if got := w.do(ask); got != "46.8" {
		t.Errorf("before it was found again the program is asked: %s", got)
	}
	w.do(`() => L.get('/about')`)
	if got := w.do(ask); got != "1" {
		t.Errorf("after it was found again: %s", got)
	}
	// What nobody waits for any more is left, here and there, and what was asked beside it is answered.
	s.says(func(s *scripted) { s.silent = true })
	if got := w.do(`async () => {
		const leave = new AbortController();
		const left = L.ask('/bench/compare', {}, leave.signal).catch((e) => e.name);
		const other = L.ask('/coordinates', { place: '46.8, -105.3' });
		leave.abort();
		return [await left, (await other).latDeg];
	}`); got != `["AbortError",46.8]` {
		t.Errorf("who leaves, and who stays: %s", got)
	}
}

// A core that dies is begun anew and asked again, once; after that the question is not answered, and the next one is.
func TestACoreThatDiesIsBegunAnew(t *testing.T) {
	t.Parallel()
	w, s := logic(t)
	s.says(func(s *scripted) { s.strange = true })
	got := w.do(`async () => {
		const begun = [];
		window.Worker = class extends Worker { constructor(...args) { super(...args); begun.push(this); } };
		const dies = async (n) => {
			while (begun.length < n) await new Promise((go) => setTimeout(go, 1));
			begun[n - 1].onerror(new ErrorEvent('error'));
		};
		const ask = () => L.ask('/coordinates', { place: '46.8, -105.3' }).then((fix) => fix.latDeg, (e) => e.message);
		const one = ask();
		await dies(1);
		const said = [await one, begun.length];
		begun[1].onerror(new ErrorEvent('error')); // with nothing asked
		const other = ask();
		await dies(3);
		await dies(4);
		return [...said, await other, await ask(), begun.length];
	}`)
	if want := `[46.8,2,"The program does not answer.",46.8,5]`; got != want {
		t.Errorf("it answers %s, want %s", got, want)
	}
}

// What a phone fetches before the first page, packed, and what the core weighs, packed and as it runs, in bytes.
func TestWhatTheScriptsWeigh(t *testing.T) {
	t.Parallel()
	only := func(pattern string) []byte {
		files, err := fs.Glob(web.Dist(), pattern)
		if err != nil || len(files) != 1 {
			t.Fatalf("%s: %v, %v", pattern, files, err)
		}
		raw, err := fs.ReadFile(web.Dist(), files[0])
		if err != nil {
			t.Fatal(err)
		}
		return raw
	}
	packed := only("assets/core-*.wasm.gz")
	reader, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		t.Fatal(err)
	}
	runs, err := io.Copy(io.Discard, reader)
	if err != nil {
		t.Fatal(err)
	}
	var first bytes.Buffer
	writer := gzip.NewWriter(&first)
	if _, err := writer.Write(only("assets/index-*.js")); err != nil || writer.Close() != nil {
		t.Fatal(err)
	}
	t.Logf("the core %d, packed %d; the first script, packed, %d", runs, len(packed), first.Len())
	if len(packed) > 2600<<10 || runs > 10<<20 || first.Len() > 250<<10 {
		t.Errorf("the core weighs %d, packed %d; the first script, packed, %d", runs, len(packed), first.Len())
	}
}

// keepsTheCore waits until this browser has the core for when the program is gone.
func (w *page) keepsTheCore() {
	w.t.Helper()
	w.until("the core is kept in this browser", func() bool {
		return w.MustEval(`async () => (await (await caches.open('core')).keys()).length`).Int() == 1
	})
}

// ahead opens what the next nights may bring, and reads it.
func (w *page) ahead() string {
	w.t.Helper()
	w.click("the next fourteen nights")
	w.see("such fortnights it holds a coyote")
	w.see("a black spot caught")
	return fold(w.find(`//section[@aria-label="the next fourteen nights"]`).MustText())
}

// With the program gone and the page opened anew, the bench answers as before: the chain while a pan is dragged, who else would be caught, and
// what would help; and with the program back it says the same.
func TestTheBenchWithNoProgram(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.atPace("/", 1280, 800, 4)
	w.click("Bench")
	w.see("On the bench")
	w.click("1Ditch mouth")
	w.weighed()
	told, nights := w.MustElement(helpList).MustText(), w.ahead()
	w.keepsTheCore()
	w.settled() // and what was read
	p.kill()
	w.MustReload()
	w.see("no answer; ")
	w.weighed()
	if again := w.MustElement(helpList).MustText(); again != told {
		t.Errorf("with no program it says %s\nbefore it said %s", again, told)
	}
	if again := w.ahead(); again != nights {
		t.Errorf("with no program the next nights are %s\nbefore they were %s", again, nights)
	}
	before := w.caught()
	w.part("pan").MustFocus()
	w.key(input.ArrowRight, 8)
	w.weighed()
	moved := w.caught()
	if moved == before {
		t.Error("the pan moved, and nothing was computed")
	}
	helps := w.MustElement(helpList).MustText()
	p.start()
	w.gone("no answer; ")
	w.MustReload()
	w.weighed()
	if again := w.caught(); again != moved {
		t.Errorf("the program says %s, the browser said %s", again, moved)
	}
	if again := w.MustElement(helpList).MustText(); again != helps {
		t.Errorf("the program would help with %s, the browser with %s", again, helps)
	}
	w.noErrors()
}

// takenAlong waits until this browser has the open season for when the program is gone, and the core to answer from it.
func (w *page) takenAlong() {
	w.t.Helper()
	w.keepsTheCore()
	w.until("the season is taken along", func() bool { return w.MustEval(rowsIn, "taken").Int() == 1 })
}

// rowsIn counts what this browser keeps of a kind.
const rowsIn = `(kind) => new Promise((done) => {
	const open = indexedDB.open('old-burrow');
	open.onsuccess = () => { const get = open.result.transaction(kind).objectStore(kind).count(); get.onsuccess = () => { open.result.close(); done(get.result); }; };
	open.onerror = () => done(-1);
})`

// forgets drops what this browser keeps of what was read of the line, from a page that is none of the program's own.
func (w *page) forgets() {
	w.t.Helper()
	w.open("/api/openapi.json")
	w.MustEval(`() => new Promise((done) => {
		const open = indexedDB.open('old-burrow');
		open.onsuccess = () => {
			const read = open.result.transaction('read', 'readwrite').objectStore('read');
			const get = read.get('client');
			get.onsuccess = () => {
				const row = get.result;
				row.client.clientState.queries = row.client.clientState.queries.filter((q) => q.queryKey[0] === 'about');
				read.put(row).onsuccess = () => { open.result.close(); done(true); };
			};
		};
	})`)
}

// From a cold start with no program, and nothing kept of what was read, every page says what it said: worked out here, from the season that was
// taken along. What is entered then counts at once, and when the program is back both say the same.
func TestNothingOfTheSeasonNeedsTheProgram(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	p.weighed() // what is made out in the background comes along as it is then
	w := p.atPace("/", 1280, 800, 4)
	w.see("Before light")
	var about server.Program
	fetch(t, p.address, "/about", &about)
	var view pages.LineView
	fetch(t, p.address, "/lines/"+about.Lines[0].ID, &view)
	base := "/line/" + about.Lines[0].ID
	first := view.Sets[0]
	shown := map[string]string{
		"/today": "Dry, to", "/ground": "Sign, newest first", "/shed": "At the rack", "/shed/gauge/" + p.rack().Traps[0].ID: "19 of 20", "/shed/mixes": "Mixing table", "/shed/kit": "Always along",
		"/round": "The round", "/round/" + view.Sets[1].Set.ID: "It worked the set", "/round?day=2026-12-03": "Thursday", "/book": "Where this line loses animals", "/book/caught": "What was caught", "/book/came": "Nights that count", "/book/apart": "One against another", "/book/apart?by=kind&heap=dirt_hole": "set 2, Stack yard", "/book/set/" + first.Set.ID: "The story of set", "/book/place/" + first.Set.SpotID: "The story of", "/bench": "On the bench", "/weather": "An own log",
	}
	// says opens a page, and gives what it says once it is still, or once it is what is wanted.
	says := func(path, want string, still time.Duration) (said string) {
		t.Helper()
		w.open(base + path)
		w.see(shown[path])
		last := time.Now()
		for end := time.Now().Add(10 * time.Second); time.Now().Before(end) && (want == "" && time.Since(last) < still || want != "" && said != want); time.Sleep(100 * time.Millisecond) {
			if now := fold(w.MustEval(`() => document.body.innerText.replace(document.querySelector('.state')?.innerText ?? '', '')`).Str()); now != said {
				said, last = now, time.Now()
			}
		}
		return said
	}
	all := func(when string, want map[string]string) map[string]string {
		t.Helper()
		said := map[string]string{}
		for path := range shown {
			if said[path] = says(path, want[path], 500*time.Millisecond); want != nil && said[path] != want[path] {
				t.Errorf("%s, %s:\n%s", when, path, firstApart(want[path], said[path]))
			}
		}
		return said
	}
	w.takenAlong()
	told := all("", nil)
	w.forgets()
	p.kill()
	all("with no program", told)

	// A set is answered: what follows is worked out at once.
	w.open(base + "/round/" + first.Set.ID)
	w.see("no answer; computed here, from 05:50")
	w.click("Quiet")
	w.see("kept on this device, not sent yet")
	alone := map[string]string{}
	for _, path := range []string{"/today", "/round", "/book", "/shed/kit"} {
		if alone[path] = says(path, "", 3*time.Second); alone[path] == told[path] {
			t.Errorf("a look changes nothing on %s: %s", path, alone[path])
		}
		alone[path] = strings.NewReplacer(", not sent yet", "", " · seen, not sent", " · tomorrow").Replace(alone[path])
	}
	p.start()
	w.open(base + "/today")
	w.gone("no answer; ")
	w.gone("not sent")
	for path, want := range alone {
		if said := says(path, want, 0); said != want {
			t.Errorf("with the program back, %s:\n%s", path, firstApart(want, said))
		}
	}
	w.noErrors()
}

// What the program took after the season was taken along, a moment before it was gone, stands after a cold start: the set was seen to.
func TestWhatTheProgramTookSinceIsNotLost(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	view := p.lineNow()
	base := "/line/" + view.Line.ID
	w := p.atPace("/", 1280, 800, 4)
	w.see("Before light")
	w.takenAlong()
	w.open(base + "/round")
	w.see("24 to see by midnight")
	w.open(base + "/round/" + view.Sets[0].Set.ID)
	w.see("It worked the set")
	// From here on the season is not taken along anew: what stands in this browser is from before the act.
	w.MustEval(`() => { const fast = window.fetch; window.fetch = (what, how) => String(what).endsWith('/bundle') ? Promise.reject(new TypeError('not now')) : fast(what, how) }`)
	w.click("Quiet")
	w.until("the program has it", func() bool {
		now := p.lineNow()
		return now.Sets[0].LastVisit != nil && now.Sets[0].LastVisit.Finding == "quiet" && !now.Sets[0].Bead.Today
	})
	w.gone("not sent")
	w.settled()
	w.forgets()
	p.kill()
	w.open(base + "/round")
	w.see("no answer; computed here")
	w.see("23 to see by midnight")
	w.noErrors()
}

// firstApart is where two texts first differ, with what stands about it.
func firstApart(was, is string) string {
	at := 0
	for at < min(len(was), len(is)) && was[at] == is[at] {
		at++
	}
	from := max(0, at-60)
	return fmt.Sprintf("was …%s\nis  …%s", was[from:min(len(was), at+120)], is[from:min(len(is), at+120)])
}

// A program that takes requests and never answers is waited for once. From then on every page is worked out here, and only what looks for the
// program asks it anything, until it answers again.
func TestAProgramThatNeverAnswersIsWaitedForOnce(t *testing.T) {
	t.Parallel()
	p := demoLine(t)
	w := p.atPace("/", 1280, 800, 4)
	w.see("Before light")
	w.takenAlong()
	w.MustEvalOnNewDocument(`const fast = window.fetch; window.__asked = [];
		window.fetch = (what, how) => { __asked.push(String(what.url ?? what).replace(location.origin, '')); return fast(what, how); };`)
	var about server.Program
	fetch(t, p.address, "/about", &about)
	w.forgets()
	if err := p.cmd.Process.Signal(syscall.SIGSTOP); err != nil {
		t.Fatal(err)
	}
	w.open("/line/" + about.Lines[0].ID + "/today")
	w.see("no answer; computed here, from 05:50")
	w.see("Dry, to")
	before := w.MustEval(`() => __asked.length`).Int()
	for _, step := range [][2]string{
		{"Round", "The round"}, {"Shed", "At the rack"}, {"Gauge", "Which trap’s pan"}, {"Mixes", "Mixing table"}, {"Kit", "Always along"}, {"Ground", "Sign, newest first"},
		{"Gate gap", "Lures and sets used here"}, {"Book", "Where this line loses animals"}, {"what was caught", "What was caught"}, {"Bench", "On the bench"}, {"1Ditch mouth", "what would spare others"}, {"Today", "Dry, to"},
	} {
		w.click(step[0])
		w.see(step[1])
	}
	var asked []string
	for _, path := range strings.Split(w.MustEval(`(from) => __asked.slice(from).join(' ')`, before).Str(), " ") {
		// What looks for the program, and what nobody took along.
		if path != "" && path != "/api/about" && !strings.Contains(path, "/story") && !strings.HasSuffix(path, "/bundle") && !strings.HasPrefix(path, "/assets/") {
			asked = append(asked, path)
		}
	}
	if len(asked) > 0 {
		t.Errorf("a program that is silent is asked %v", asked)
	}
	if err := p.cmd.Process.Signal(syscall.SIGCONT); err != nil {
		t.Fatal(err)
	}
	w.gone("no answer; ")
	w.noErrors()
}

// Records that were drawn, acts laid over a bundle from before them: the browser's core answers what the same core answered on this machine.
func TestDrawnRecordsInTheBrowsersCore(t *testing.T) {
	t.Parallel()
	drawn, err := filepath.Glob("drawn/*.json")
	if err != nil || len(drawn) < 1 {
		t.Fatalf("%d records are drawn, %v: run  make drawn", len(drawn), err)
	}
	w, _ := logic(t)
	for _, name := range drawn {
		raw, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		var record []struct {
			Path         string
			Body, Answer json.RawMessage
		}
		if err := json.Unmarshal(raw, &record); err != nil || len(record) < 10 {
			t.Fatalf("%s: %d questions, %v", name, len(record), err)
		}
		var questions []sent
		for _, r := range record {
			questions = append(questions, sent{r.Path, r.Body})
		}
		for i, told := range w.ofTheSeason(questions) {
			if want := record[i]; !alike(decoded(t, told), decoded(t, want.Answer)) {
				t.Errorf("%s, %s: the browser says\n%.400s\nthis machine\n%.400s", name, want.Path, told, want.Answer)
			}
		}
	}
}

// ofTheSeason asks the core that holds the season; each answer as it came, or the problem.
func (w *page) ofTheSeason(questions []sent) (told []json.RawMessage) {
	w.t.Helper()
	if err := json.Unmarshal([]byte(w.do(`async (questions) => {
		const answers = [];
		for (const { path, body } of questions) answers.push(await L.pageCore.ask(path, body).catch((e) => e.problem ?? String(e)));
		return answers;
	}`, questions)), &told); err != nil || len(told) != len(questions) {
		w.t.Fatalf("%d answers to %d questions, %v", len(told), len(questions), err)
	}
	return told
}

// However much is asked of them, neither the core that holds a season of sixty sets nor the one that follows the hand grows over what a phone has.
func TestWhatTheCoresTakeUp(t *testing.T) {
	t.Parallel()
	times := 1
	if long() {
		times = 60
	}
	p := run(t, "demo", "--still", "--large", "--seasons", "1", "--sets", "60", "--weather", "", "--data", filepath.Join(t.TempDir(), "large.db"))
	view := p.lineNow()
	at := "/lines/" + view.Line.ID
	answer, err := http.Post("http://"+p.address+"/api"+at+"/bundle", "application/json", strings.NewReader("{}"))
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	var parts server.BundleView
	if err := json.NewDecoder(answer.Body).Decode(&parts); err != nil || len(parts.Parts) < 20 {
		t.Fatalf("%d parts, %v", len(parts.Parts), err)
	}
	bundle, rows := map[string]any{}, map[string]any{}
	for name, part := range parts.Parts {
		if name != "head" {
			rows[name] = part.Is
		} else if err := json.Unmarshal(part.Is, &bundle); err != nil {
			t.Fatal(err)
		}
	}
	bundle["rows"] = rows
	make := view.Sets[0].Make
	spot := view.Sets[0].Set.SpotID
	of := pages.CircumstancesAsked{Layout: make.Layout, Target: make.Target, SpotID: spot, SetID: make.SetID}
	var mixed []sent
	asks := func(path string, query map[string]string, body any) {
		raw, err := json.Marshal(body)
		if err != nil {
			t.Fatal(err)
		}
		mixed = append(mixed, sent{at + path, asked.OfLine{Now: view.Now, Query: query, Body: raw}})
	}
	for _, path := range []string{"", "/ground", "/book", "/day/2026-12-04", "/day/2026-12-01", "/weather", "/rack", "/shelf", "/kit/2026-12-05", "/designs/" + make.DesignID} {
		asks(path, nil, nil)
	}
	asks("/patterns/red_fox", map[string]string{"spot": spot}, nil)
	asks("/defaults/bobcat", map[string]string{"spot": spot}, nil)
	asks("/circumstances", nil, of)
	asks("/reach", nil, pages.ReachAsked(of))
	asks("/repattern", nil, pages.Repattern{Layout: of.Layout, Target: of.Target, SpotID: of.SpotID, Pattern: "object"})
	hold := sent{"/hold", map[string]any{"bundle": bundle, "writes": []any{}}}
	bench := sent{"/bench", asked.Question{Layout: make.Layout, Target: make.Target, Visits: 2000, Map: true}}

	w, s := logic(t)
	s.says(func(s *scripted) { s.strange = true })
	var took [2]float64
	if err := json.Unmarshal([]byte(w.do(`async (hold, mixed, bench, times) => {
		for (let k = 0; k < times; k++) {
			await L.pageCore.ask(hold.path, hold.body);
			for (const { path, body } of mixed) await L.pageCore.ask(path, body);
			for (let i = 0; i <= mixed.length; i++) await L.benchCore.ask(bench.path, bench.body);
		}
		return [L.pageCore.bytes, L.benchCore.bytes];
	}`, hold, mixed, bench, times)), &took); err != nil {
		t.Fatal(err)
	}
	t.Logf("after %d questions to each they take up %.0f and %.0f MB", times*(len(mixed)+1), took[0]/1e6, took[1]/1e6)
	for _, bytes := range took {
		if bytes < 5e6 || bytes > 150e6 {
			t.Errorf("a core takes up %.0f bytes", bytes)
		}
	}
}
