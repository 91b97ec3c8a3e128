package e2e

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"reflect"
	"strings"
	"sync"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/schools"
	"oldburrow/server"
)

// scripted is a program made up for the tests: it serves the interface's logic by itself and answers writes as it is told.
type scripted struct {
	*httptest.Server
	lock   sync.Mutex
	got    []string // paths, with what came, in the order in which they were taken
	answer func(path string, body map[string]any) (int, any)
	done   map[string]any // what writes were answered
	// strange is something else that answers at this address; file and writes are what an answer says of the file.
	strange bool
	silent  bool // it takes what is asked, and never answers
	file    string
	writes  int
}

func (s *scripted) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if !strings.HasPrefix(r.URL.Path, "/api/") {
		if r.URL.Path == "/" {
			w.Header().Set("Content-Type", "text/html")
			io.WriteString(w, "<title>logic</title>")
			return
		}
		http.ServeFile(w, r, "../web/logic"+r.URL.Path)
		return
	}
	raw, _ := io.ReadAll(r.Body)
	var body map[string]any
	_ = json.Unmarshal(raw, &body)
	s.lock.Lock()
	defer s.lock.Unlock()
	if s.silent {
		s.got = append(s.got, r.URL.Path)
		s.lock.Unlock()
		<-r.Context().Done()
		s.lock.Lock()
		return
	}
	if s.strange {
		io.WriteString(w, "{}")
		return
	}
	w.Header().Set("Old-Burrow", "1")
	// As the program does, it has nothing to do with what is meant for another file, and takes the same write once, however often it comes.
	if meant := r.Header.Get("File"); meant != "" && s.file != "" && meant != s.file {
		w.Header().Set("File", s.file)
		w.WriteHeader(http.StatusMisdirectedRequest)
		return
	}
	write := r.Header.Get("Mutation") + string(raw)
	answer, before := s.done[write]
	status := http.StatusOK
	if !before {
		status, answer = s.answer(strings.TrimPrefix(r.URL.Path, "/api"), body)
	}
	if status == http.StatusOK && !before {
		s.got = append(s.got, fmt.Sprintf("%s %s", strings.TrimPrefix(r.URL.Path, "/api"), raw))
		s.done[write] = answer
		if r.Method == http.MethodPut {
			s.writes++
		}
	}
	if s.file != "" {
		w.Header().Set("File", s.file)
		w.Header().Set("Writes", fmt.Sprint(s.writes))
	}
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(answer)
}

func (s *scripted) taken() string {
	s.lock.Lock()
	defer s.lock.Unlock()
	return strings.Join(s.got, "\n")
}

// accept answers with what came.
func accept(_ string, body map[string]any) (int, any) { return http.StatusOK, body }

func problem(status int) (int, any) {
	return status, server.Problem{Title: "No", Status: status, Detail: "No."}
}

// logic opens a page that has the interface's logic and nothing else.
func logic(t *testing.T) (*page, *scripted) {
	t.Helper()
	s := &scripted{answer: accept, done: map[string]any{}}
	s.Server = httptest.NewServer(s)
	t.Cleanup(s.Close)
	p := &program{t: t, address: strings.TrimPrefix(s.URL, "http://")}
	w := p.atPace("/", 400, 400, 40)
	w.load()
	return w, s
}

// table reads a table of cases, at least so many, that the core and the interface share.
func table(t *testing.T, name string, cases any, least int) {
	t.Helper()
	raw, err := os.ReadFile("../core/testdata/" + name)
	if err == nil {
		err = json.Unmarshal(raw, cases)
	}
	if err != nil {
		t.Fatal(err)
	}
	if n := reflect.ValueOf(cases).Elem().Len(); n < least {
		t.Fatalf("%s holds %d cases", name, n)
	}
}

func (w *page) load() {
	w.t.Helper()
	w.MustEval(`() => import('/logic.js').then((m) => { window.logic = m; })`)
}

// do evaluates an expression that sees the logic as L, and gives it as JSON.
func (w *page) do(expression string, args ...any) string {
	w.t.Helper()
	raw, err := json.Marshal(append([]any{}, args...))
	if err != nil {
		w.t.Fatal(err)
	}
	return w.MustEval(`(args, f) => Promise.resolve(new Function('L', 'args', 'return (' + f + ')(...args)')(window.logic, args)).then((x) => JSON.stringify(x))`, json.RawMessage(raw), expression).String()
}

// Whatever the core says of a set in a key has words of its own.
func TestRemediesAndSightHaveWords(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	for _, key := range odds.RemedyKeys() {
		said := w.do(`(key) => L.remedyWords({ key, slot: 0, to: 'stone', xMm: 25.4 }, { rigs: [], attractors: [] }, 'us')`, key)
		if bare, _ := json.Marshal(strings.ReplaceAll(string(key), "_", " ")); said == string(bare) || strings.Contains(said, "undefined") {
			t.Errorf("%s is said as %s", key, said)
		}
	}
	for _, key := range layout.SightBys {
		said := w.do(`(key) => L.sightWords({ word: 'bold', share: .7, by: [key] })`, key)
		if strings.Contains(said, "_") || !strings.Contains(said, "70 of 100") {
			t.Errorf("%s is said as %s", key, said)
		}
	}
}

// What speaks for and against a set, what is not known of it, what a pattern asks for and never takes: each has words, and none is a key.
func TestThePlaceHasWords(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	says := func(expression, key string) {
		t.Helper()
		if said := w.do(expression, key); said == "null" || said == "" || strings.Contains(said, "_") || strings.Contains(said, "undefined") {
			t.Errorf("%s is said as %q", key, said)
		}
	}
	for _, key := range odds.TermKeys() {
		says(`(key) => L.terms[key] ?? null`, string(key))
	}
	for _, key := range odds.Unknowns {
		says(`(key) => L.unknown[key] ?? null`, string(key))
	}
	for _, key := range append(layout.Questions(), "snow") {
		says(`(key) => L.lacksWords(key, 5, 'us')`, key)
	}
	for _, why := range layout.Whys {
		says(`(why) => L.neverWords({ kind: 'bait', why })`, string(why))
	}
	for _, key := range line.CanBeThere() {
		says(`(key) => L.anyWord(key)`, key)
	}
	if said := w.do(`() => L.lacksWords('culvert', 5, 'metric')`); said != `"no culvert is drawn or noted within 5 m"` {
		t.Errorf("what it lacks is said as %s", said)
	}
	for _, pattern := range layout.PatternKeys() {
		l, err := layout.New(pattern, layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
		if err != nil {
			t.Fatal(err)
		}
		raw, _ := json.Marshal(l)
		said := w.do(`(l) => [L.patternWords(l), L.partWords(l).from, L.smellWords(l), L.guideWords(l)].join(' | ')`, json.RawMessage(raw))
		if strings.Contains(said, "undefined") || strings.Contains(said, "_") {
			t.Errorf("%s is said as %s", pattern, said)
		}
		if l.Kind != "dirt_hole" && pattern != "tree_hole" && strings.Contains(said, "hole edge") {
			t.Errorf("%s has a hole edge: %s", pattern, said)
		}
		if (pattern == "hollow") != strings.Contains(said, "nothing is put there to smell") && len(l.Attractors) > 0 && pattern != "creek_pinch" {
			t.Errorf("%s smells of %s", pattern, said)
		}
		if l.Trench != nil && strings.Contains(said, "anywhere") {
			t.Errorf("in a trench feet fall %s", said)
		}
	}
	three, err := layout.New("punch_holes", layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	raw, _ := json.Marshal(three)
	if said := w.do(`(l) => L.smellWords(l)`, json.RawMessage(raw)); said != `"gland lure, curiosity lure and musk"` {
		t.Errorf("three holes smell of %s", said)
	}
	for deg, want := range map[float64]string{0: "away from it", 90: "to its right", -90: "to its left", 180: "toward it", -180: "toward it", 50: "away, to its right", 359: "away from it"} {
		if said := w.do(`(deg) => L.dogWords(deg)`, deg); said != `"`+want+`"` {
			t.Errorf("a dog at %g° points %s, want %s", deg, said, want)
		}
	}
}

// Moved by hand a trap takes its anchor along as it does when the program moves it.
func TestATrapIsMovedAsTheProgramMovesIt(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	for _, pattern := range []string{"hole", "trail_pair", "robbed_rebuild", "cable_crawl"} {
		for _, far := range []float64{0, 200, 5000} {
			l, err := layout.New(pattern, layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
			if err != nil {
				t.Fatal(err)
			}
			l.Anchors[0].XMm += far
			if far == 200 && len(l.Anchors) > 1 {
				l.Anchors, l.Rigs[1].AnchorSlot = l.Anchors[:1], 0
			}
			raw, _ := json.Marshal(l)
			moved, err := layout.Decode([]byte(w.do(`(l, along) => L.moveRig(l, 0, { x: 30, y: -40 }, along)`, json.RawMessage(raw), l.Along())))
			if err != nil {
				t.Fatal(err)
			}
			want, _ := json.Marshal(l.WithRigMoved(0, 30, -40))
			if got, _ := json.Marshal(moved); string(got) != string(want) {
				t.Errorf("%s, its anchor %g mm off:\n%s, the program\n%s", pattern, far, got, want)
			}
		}
	}
}

// The bench's ruler, for every pattern: what is moved on the page is moved so far on the plan, along what the ruler tells; a place that is
// looked at from farther off stands in the middle of the room; what an attractor takes up lies beyond its own place, away from the nearest pan.
func TestTheBenchsRuler(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	turned := 0
	for _, pattern := range layout.PatternKeys() {
		l, err := layout.New(pattern, layout.Begin{Target: animal.Reference[0], Schools: schools.Usual()})
		if err != nil {
			t.Fatal(err)
		}
		raw, _ := json.Marshal(l)
		said := w.do(`(l) => {
			const v = L.viewOf(l, 1067, 600, 200, 420);
			const from = L.place(v, 40, -30), to = L.place(v, 40 + 130, -30 + 70);
			const back = L.moved(v, to.x - from.x, to.y - from.y);
			const [along, across] = v.turned ? [130, 70] : [70, 130];
			const right = to.x - from.x, down = to.y - from.y;
			const near = (a, b) => Math.abs(a - b) < 1e-6;
			const far = L.closeUp(v, { xMm: 900, yMm: -700 }, 4000, 500), middle = L.place(far, 900, -700);
			const mouth = l.attractors.filter((a) => a.hole).map((a) => L.mouthMm(a) / (a.hole.diameterMm / Math.sin((a.hole.angleDeg * Math.PI) / 180)));
			const away = l.attractors.map((a) => [a, L.beyond(l, a), l.rigs.filter((r) => r.pan).map((r) => Math.hypot(a.xMm - r.pan.xMm, a.yMm - r.pan.yMm))])
				.filter(([, , pans]) => Math.min(...pans) > 0)
				.map(([a, d, pans]) => Math.hypot(d.x, d.y) - 1 + Math.min(...l.rigs.filter((r) => r.pan).map((r) => Math.hypot(a.xMm + d.x - r.pan.xMm, a.yMm + d.y - r.pan.yMm))) - Math.min(...pans) - 1);
			return [v.turned, near(back.x, 130) && near(back.y, 70), near(right, along * v.scale), near(down, (v.turned ? across : -across) * v.scale),
				L.alongMm(v, { xMm: 170, yMm: 40 }) === (v.turned ? 170 : 40), near(middle.x, far.width / 2) && near(middle.y, v.planY) && far.scale <= v.scale,
				mouth.every((m) => near(m, 1)), away.every((d) => d > -1e-6 && d < 1e-6 || l.rigs.length > 1)];
		}`, json.RawMessage(raw))
		if strings.HasPrefix(said, "[true") {
			turned++
		}
		if want := `,true,true,true,true,true,true,true]`; !strings.HasSuffix(said, want) {
			t.Errorf("%s: %s", pattern, said)
		}
	}
	if turned < 3 {
		t.Errorf("%d drawings are turned", turned)
	}
}

func TestUnitsAndTimesAndWords(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	for _, c := range []struct {
		kind, typed, system string
		want                float64
	}{
		{"length", "9 1/4", "us", 234.95}, {"length", "9¼", "us", 234.95}, {"length", "9.25 in", "metric", 234.95}, {"length", "23 cm", "us", 230},
		{"length", "23,5", "metric", 235}, {"length", "9-1/4", "us", 234.95}, {"length", "9.25", "us", 234.95}, {"length", "9,25", "us", 234.95}, {"length", "1 ft 2", "us", 355.6}, {"length", "1' 2 1/2", "us", 368.3}, {"length", "1 ft 6 in", "us", 457.2}, {"force", "2 lb", "metric", 8.8964432}, {"force", "2 kg", "us", 19.6133},
		{"temperature", "20 °F", "metric", -6.6667}, {"volume", "1 qt", "us", 946.353}, {"weight", "1 lb", "us", 453.592},
	} {
		var got struct{ Value float64 }
		raw := w.do(`(kind, typed, system) => L.parse(kind, typed, system)`, c.kind, c.typed, c.system)
		if err := json.Unmarshal([]byte(raw), &got); err != nil || got.Value < c.want-.001 || got.Value > c.want+.001 {
			t.Errorf("%q is read as %s, want %g", c.typed, raw, c.want)
		}
	}
	for _, typed := range []string{"8-10", "8 to 10", "", "abc", "1/0", "9 furlongs", "9 2", "1 in 2"} {
		if raw := w.do(`(typed) => L.parse('length', typed, 'us')`, typed); !strings.Contains(raw, "error") {
			t.Errorf("%q is read as %s", typed, raw)
		}
	}
	for _, c := range []struct{ want, expression string }{
		{`"9 ¼ in"`, `() => L.show('length', 234.95, 'us')`},
		{`"23.5 cm"`, `() => L.show('length', 234.95, 'metric')`},
		{`"7 ⅛ in"`, `() => L.show('length', 180, 'us')`},
		{`"7 in"`, `() => L.showAbout('length', 180, 'us')`},
		{`"⅜ in"`, `() => L.showAbout('length', 9.5, 'us')`},
		{`"18 cm"`, `() => L.showAbout('length', 182, 'metric')`},
		{`"4 ft"`, `() => L.roughly(1200, 'us')`},
		{`"1.2 m"`, `() => L.roughly(1200, 'metric')`},
		{`"1 h 15 min"`, `() => L.duration(74)`},
		{`"2 h"`, `() => L.duration(118)`},
		{`"5 min"`, `() => L.duration(1)`},
		{`"just now"`, `() => L.ago('2026-12-04T12:50:00Z', '2026-12-04T12:50:20Z')`}, {`"just now"`, `() => L.ago('2026-12-04T13:00:00Z', '2026-12-04T12:50:00Z')`},
		{`"89 min ago"`, `() => L.ago('2026-12-04T12:00:00Z', '2026-12-04T13:29:00Z')`}, {`"2 h ago"`, `() => L.ago('2026-12-04T12:00:00Z', '2026-12-04T13:30:00Z')`},
		{`"47 h ago"`, `() => L.ago('2026-12-02T12:00:00Z', '2026-12-04T11:00:00Z')`}, {`"2 days ago"`, `() => L.ago('2026-12-02T12:00:00Z', '2026-12-05T11:59:00Z')`},
		{`"late since midnight"`, `() => L.dueWords('2026-12-04T07:00:00Z', '2026-12-04T12:50:00Z', 'America/Denver')`},
		{`"by midnight"`, `() => L.dueWords('2026-12-05T07:00:00Z', '2026-12-04T12:50:00Z', 'America/Denver')`},
		{`"by midnight tomorrow"`, `() => L.dueWords('2026-12-06T07:00:00Z', '2026-12-04T12:50:00Z', 'America/Denver')`},
		{`"2026-12-04T05:50"`, `() => L.localInput('2026-12-04T12:50:00Z', 'America/Denver')`},
		{`"2026-12-04T12:50:00.000Z"`, `() => new Date(L.instant('2026-12-04T05:50', 'America/Denver')).toISOString()`},
		// The morning after the clocks went back, and the one after they went ahead.
		{`"2026-11-01T10:30:00.000Z"`, `() => new Date(L.instant('2026-11-01T03:30', 'America/Denver')).toISOString()`},
		{`"2026-03-08T09:30:00.000Z"`, `() => new Date(L.instant('2026-03-08T03:30', 'America/Denver')).toISOString()`},
		{`null`, `() => L.instant('soon', 'America/Denver')`},
		{`"red foxes"`, `() => L.plural('red_fox')`},
		{`"no one 13"`, `() => [L.count(0), L.count(1), L.count(13)].join(' ')`},
		{`"a thing"`, `() => L.anyWord('a_thing')`},
		{`"sprung, animal lost"`, `() => L.findingWord('lost')`}, {`"lost"`, `() => L.awayWord('lost')`},
		{`"caught"`, `() => L.findingWord('catch')`}, {`"a catch"`, `() => L.metWord('catch')`}, {`"not said"`, `() => L.findingWord('')`},
		{`"constructor"`, `() => L.anyWord('constructor')`}, {`"unknown: constructor"`, `() => L.findingWord('constructor')`},
		{`"unknown: chewed"`, `() => L.findingWord('chewed')`}, {`"unknown: sprung"`, `() => L.awayWord('sprung')`},
	} {
		if got := w.do(c.expression); got != c.want {
			t.Errorf("%s = %s, want %s", c.expression, got, c.want)
		}
	}
}

// An act is stamped with the time of its tap by the program's clock, however wrong the device's own is.
func TestTheDevicesClock(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	for _, c := range []struct{ want, expression string }{
		// Asked at 1000, answered at 3000: the program said its time at 2000 of this device.
		{`{"offsetMs":58000,"stillMs":null}`, `() => L.learn('1970-01-01T00:01:00Z', false, 1000, 3000)`},
		{`65000`, `() => L.programTime(7000, { offsetMs: 58000, stillMs: null })`},
		{`7000`, `() => L.programTime(7000, { offsetMs: null, stillMs: null })`},
		{`60000`, `() => L.programTime(7000, L.learn('1970-01-01T00:01:00Z', true, 1000, 3000))`},
	} {
		if got := w.do(c.expression); got != c.want {
			t.Errorf("%s = %s, want %s", c.expression, got, c.want)
		}
	}
	// The device is twenty years behind, and time goes on between two taps.
	got := w.do(`async () => {
		L.heard(new Date(Date.now() + 20 * 365 * 864e5).toISOString(), false, Date.now());
		const first = L.nowISO();
		await new Promise((r) => setTimeout(r, 30));
		return [Date.parse(first) - Date.now() > 19 * 365 * 864e5, Date.parse(L.nowISO()) - Date.parse(first) >= 29];
	}`)
	if got != `[true,true]` {
		t.Errorf("ahead, and going on: %s", got)
	}
	// By more than two minutes it is worth saying; of a clock that stands nothing is.
	for ahead, want := range map[int]string{0: "null", 119: "null", -119: "null", 125: "125", -3000: "-3000"} {
		got := w.do(`(ahead) => {
			L.heard(new Date(Date.now() + ahead * 1000).toISOString(), false, Date.now());
			const apart = L.clocksApart();
			return apart && Math.round(apart / 1000);
		}`, ahead)
		if got != want {
			t.Errorf("%d s ahead: %s, want %s", ahead, got, want)
		}
	}
	if got := w.do(`() => { L.heard(new Date(Date.now() + 9e6).toISOString(), true, Date.now()); return L.clocksApart(); }`); got != "null" {
		t.Errorf("one that stands: %s", got)
	}
}

// laid lays acts over a made-up line of two sets and gives what is said of each.
func (w *page) laid(acts string) string {
	w.t.Helper()
	return w.do(`() => {
		const bead = (late) => ({ state: 'working', nights: 3, last: 't0', due: 't9', late, today: true });
		const set = (n, late) => ({ set: { id: 'S' + n, number: n, spotId: 'P' }, make: { id: 'M' + n, setId: 'S' + n, builtAt: 't0', designId: 'D' + n }, bead: bead(late), lastVisit: { id: 'V' + n, makeId: 'M' + n, finding: 'quiet', at: 't0', catches: [] } });
		const read = { askedMs: 100, line: { id: 'L' }, now: 't1', spots: [{ id: 'P', name: 'Gate' }], properties: [], round: [], worth: [], stillIn: [], designs: [{ id: 'D1', setId: 'S1' }, { id: 'D3', setId: null }], sets: [set(1, true), { ...set(2, false), designVersion: 7 }] };
		const kept = (path, body, more) => ({ path: '/lines/L/' + path, body, refused: null, takenAt: null, ...more });
		const look = (id, make, finding, more) => kept('visits/' + id, { id, makeId: make, finding, at: 't5', catches: [] }, more);
		const undo = (id) => kept('visits/' + id + '/undo', { at: 't6' });
		const before = JSON.stringify(read);
		const now = L.layLine(read, ` + acts + `);
		if (JSON.stringify(read) !== before) throw new Error('what was read was changed');
		if (now.designs.map((d) => d.id).join() !== 'D1,D2,D3') throw new Error('the designs are ' + now.designs.map((d) => d.id));
		if (now.designs[1].version !== 7 || now.designs[1].setId !== 'S2') throw new Error('the design told by its make: ' + JSON.stringify(now.designs[1]));
		return now.sets.map((s) => [s.set.number, s.lastVisit?.finding ?? 'none', s.make.id, s.bead.state, s.bead.today ? 'to see' : 'seen', s.bead.due ?? '-', s.answered ?? '-', s.waits ? 'waits' : '-'].join(' ')).join('; ') + now.spots.map((s) => '; ' + s.name).join('') + now.built.map((b) => '; built ' + b).join('');
	}`)
}

// What was entered here lies over what was read until that is read anew; no due, night or order is worked out.
func TestWhatIsLaidOverTheLine(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	const second = "2 quiet M2 working to see t9 - -; Gate"
	for acts, want := range map[string]string{
		`[]`:                          "1 quiet M1 working to see t9 - -; " + second,
		`[look('A', 'M1', 'passed')]`: "1 passed M1 working seen - looked waits; " + second,
		`[look('A', 'M1', 'sprung')]`: "1 sprung M1 working seen - looked waits; " + second,
		`[look('A', 'M9', 'passed')]`: "1 quiet M1 working to see t9 - -; " + second,
		`[look('A', 'M1', 'passed', { refused: {} })]`:                 "1 quiet M1 working to see t9 - -; " + second,
		`[look('A', 'M1', 'passed', { takenAt: 99 })]`:                 "1 quiet M1 working to see t9 - -; " + second,
		`[look('A', 'M1', 'passed', { takenAt: 101 })]`:                "1 passed M1 working seen - looked -; " + second,
		`[look('A', 'M1', 'passed'), undo('A')]`:                       "1 quiet M1 working to see t9 - -; " + second,
		`[look('A', 'M1', 'dug'), undo('A'), look('B', 'M1', 'gone')]`: "1 gone M1 working seen - looked waits; " + second,
		`[undo('V1')]`: "1 none M1 working to see t9 - -; " + second,
		`[kept('makes/N', { id: 'N', setId: 'S1', builtAt: 't5' })]`:                                      "1 quiet N working seen - remade waits; " + second,
		`[kept('makes/N', { id: 'N', setId: 'S1', builtAt: 't5' }), look('A', 'N', 'looked')]`:            "1 looked N working seen - looked waits; " + second,
		`[look('A', 'M1', 'catch'), kept('makes/N', { id: 'N', setId: 'S1' }), look('B', 'M1', 'quiet')]`: "1 quiet N working seen - looked waits; " + second,
		`[kept('makes/N', { id: 'N', setId: 'new', designId: 'D3' })]`:                                    "1 quiet M1 working to see t9 - -; " + second + "; built D3",
		`[kept('pulls/U', { id: 'U', makeId: 'M1' })]`:                                                    "1 quiet M1 down seen - pulled waits; " + second,
		`[kept('pulls/U', { id: 'U', makeId: 'M1', later: true, rigs: [{ slot: 0 }] })]`:                  "1 quiet M1 working to see t9 - -; " + second,
		`[kept('pulls/U', { id: 'U', makeId: 'M1' }), kept('pulls/U/undo', {})]`:                          "1 quiet M1 working to see t9 - -; " + second,
		`[kept('spots/P', { id: 'P', name: 'Gap' }), kept('spots/Q', { id: 'Q', name: 'Ditch' })]`:        "1 quiet M1 working to see t9 - -; 2 quiet M2 working to see t9 - -; Gap; Ditch",
		`[kept('spots/P', { id: 'P', name: 'Gate', deleted: true })]`:                                     "1 quiet M1 working to see t9 - -; 2 quiet M2 working to see t9 - -",
		`[{ ...look('A', 'M1', 'passed'), path: '/lines/other/visits/A' }]`:                               "1 quiet M1 working to see t9 - -; " + second,
	} {
		if got := w.laid(acts); got != `"`+want+`"` {
			t.Errorf("%s:\n%s, want\n%s", acts, got, want)
		}
	}
}

// What was kept before sets had patterns is read as the program reads it, out of its reach too: the two are held to the same pairs.
func TestWhatWasKeptBeforeIsLifted(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	var pairs []struct {
		Name string
		Old  json.RawMessage
		New  any
	}
	table(t, "lifts.json", &pairs, 18)
	for _, pair := range pairs {
		var got any
		lifted := w.do(`(layout) => L.lifted({ layout }).layout`, pair.Old)
		if err := json.Unmarshal([]byte(lifted), &got); err != nil || !reflect.DeepEqual(got, pair.New) {
			t.Errorf("%s: %s, want %v", pair.Name, lifted, pair.New)
		}
	}
	for body, want := range map[string]string{
		`{ finding: 'passed', catches: [] }`:              `{"animal":"","by":"","also":[],"rigs":[],"side":"","bed":"","prints":[],"photoId":null,"search":null,"mendedAt":null,"finding":"passed","catches":[]}`,
		`{ finding: 'catch', catches: [{ id: 'C' }] }`:    `{"animal":"","by":"","also":[],"rigs":[],"side":"","bed":"","prints":[],"photoId":null,"search":null,"mendedAt":null,"finding":"catch","catches":[{"rigs":[],"were":[],"weightG":null,"blood":null,"id":"C"}]}`,
		`{ makeId: 'M', at: 't', undoneAt: null }`:        `{"later":false,"rigs":[],"done":[],"note":"","makeId":"M","at":"t","undoneAt":null}`,
		`{ finding: 'dug', side: '', catches: [] }`:       `{"finding":"dug","side":"","catches":[]}`,
		`{ foot: '', hold: '', species: 'coyote' }`:       `{"rigs":[],"were":[],"weightG":null,"blood":null,"foot":"","hold":"","species":"coyote"}`,
		`{ number: 7, jaw: 'laminated' }`:                 `{"number":7,"jawForm":"","offset":null,"offsetMm":null,"laminated":true,"padded":null}`,
		`{ presses: [4], cover: { material: 'peat' } }`:   `{"presses":[4],"cover":[{"material":"peat"}]}`,
		`{ presses: [4], cover: [{ material: 'peat' }] }`: `{"presses":[4],"cover":[{"material":"peat"}]}`,
		`{ layout: { schema: 2, rigs: [] } }`:             `{"layout":{"schema":2,"rigs":[]}}`,
		`null`:                                            `null`,
	} {
		if got := w.do(`() => L.lifted(` + body + `)`); got != want {
			t.Errorf("%s: %s, want %s", body, got, want)
		}
	}
	// And so is a design that waits to be sent, where it is laid over the line; it is sent as it was written.
	got := w.do(`(layout) => {
		const kept = { path: '/lines/L/designs/D', body: { id: 'D', setId: null, spotId: 'P', layout }, refused: null, takenAt: null };
		const read = { askedMs: 100, line: { id: 'L' }, properties: [], spots: [], designs: [], sets: [], round: [], worth: [], stillIn: [] };
		return [L.layLine(read, [kept]).designs[0].layout.rigs[0].name, 'schema' in kept.body.layout];
	}`, pairs[0].Old)
	if got != `["No. 11",false]` {
		t.Errorf("laid over: %s", got)
	}
}

// The outbox: what is kept is sent in the order in which it was entered, once, and what the program will not have stands aside.
func TestTheOutbox(t *testing.T) {
	t.Parallel()
	w, s := logic(t)
	wait := func(what, taken string) {
		t.Helper()
		w.until(what, func() bool { return s.taken() == taken })
	}
	aside := func() string { return w.do(`() => L.keptNow().filter((k) => k.refused).map((k) => k.what)`) }

	// The order is the order of entering, though the device's clock goes back.
	w.do(`async () => {
		const now = Date.now;
		await L.act('/lines/L/visits/A', { n: 1 }, 'first');
		Date.now = () => now() - 864e5;
		await L.act('/lines/L/visits/B', { n: 2 }, 'second');
		Date.now = now;
	}`)
	wait("both are taken in order", "/lines/L/visits/A {\"n\":1}\n/lines/L/visits/B {\"n\":2}")

	// What always fails is not to blame: the rest goes on, and it is tried again by itself.
	s.lock.Lock()
	s.got, s.answer = nil, func(path string, body map[string]any) (int, any) {
		if strings.HasSuffix(path, "/bad") {
			return problem(http.StatusInternalServerError)
		}
		return accept(path, body)
	}
	s.lock.Unlock()
	w.do(`() => { void L.act('/lines/L/visits/bad', { n: 3 }, 'it fails'); void L.act('/lines/L/visits/C', { n: 4 }, 'it does not'); }`)
	wait("the other goes on", "/lines/L/visits/C {\"n\":4}")
	if got := aside(); got != `[]` {
		t.Errorf("set aside: %s", got)
	}
	w.until("only what fails waits", func() bool {
		return w.do(`() => L.keptNow().filter((k) => k.takenAt === null).map((k) => [k.what, k.why])`) == `[["it fails","No."]]`
	})
	s.lock.Lock()
	s.answer = accept
	s.lock.Unlock()
	wait("it is taken after all", "/lines/L/visits/C {\"n\":4}\n/lines/L/visits/bad {\"n\":3}")

	// An act that is refused stays; a form's write does not, for the form still holds it.
	s.lock.Lock()
	s.got, s.answer = nil, func(string, map[string]any) (int, any) { return problem(http.StatusUnprocessableEntity) }
	s.lock.Unlock()
	if got := w.do(`async () => [(await L.act('/lines/L/visits/D', {}, 'an act')).state, await L.write('/lines/L/spots/E', {}, 'a form').catch((e) => e.message)]`); got != `["refused","No."]` {
		t.Errorf("they become %s", got)
	}
	if got := aside(); got != `["an act"]` {
		t.Errorf("set aside: %s", got)
	}
	w.do(`() => L.dropPath('/lines/L/visits/D')`)

	// What is entered again under its own mutation, as a file taken in twice is, is answered again.
	s.lock.Lock()
	s.got, s.answer = nil, accept
	s.lock.Unlock()
	if got := w.do(`async () => [(await L.write('/lines/L/import/J', { n: 1 }, 'a file', { mutation: '01K8V7Z8R5Q6T9W3X1Y2Z4A5C9' })).state, (await L.write('/lines/L/import/J', { n: 1 }, 'a file', { mutation: '01K8V7Z8R5Q6T9W3X1Y2Z4A5C9' })).state]`); got != `["taken","taken"]` {
		t.Errorf("a file taken in twice: %s", got)
	}

	// On a full disk an act waits, the reason is known, and it is taken when there is room.
	s.lock.Lock()
	s.got, s.answer = nil, func(string, map[string]any) (int, any) {
		return http.StatusInsufficientStorage, server.Problem{Title: "Full", Status: http.StatusInsufficientStorage, Code: "disk_full", Detail: "The disk is full."}
	}
	s.lock.Unlock()
	if got := w.do(`async () => (await L.act('/lines/L/visits/F', { n: 5 }, 'on a full disk')).state`); got != `"kept"` {
		t.Errorf("on a full disk it is %s", got)
	}
	if got := w.do(`() => L.keptNow().filter((k) => k.takenAt === null).map((k) => [k.what, k.why, k.refused])`); got != `[["on a full disk","The disk is full.",null]]` {
		t.Errorf("on a full disk: %s", got)
	}
	s.lock.Lock()
	s.answer = accept
	s.lock.Unlock()
	wait("it is taken when there is room", "/lines/L/visits/F {\"n\":5}")

	// Changes of one thing go on from the version that each became; those of the hand at work are one.
	version := 6.0
	s.lock.Lock()
	s.got, s.answer = nil, func(path string, body map[string]any) (int, any) {
		if body["version"] != version {
			return http.StatusConflict, server.Problem{Title: "Stale", Status: 409, Detail: "Stale", Theirs: map[string]any{"version": version}}
		}
		version++
		return http.StatusOK, map[string]any{"version": version}
	}
	s.lock.Unlock()
	w.do(`async () => {
		await Promise.all([1, 2, 3].map((n) => L.write('/lines/L/spots/F', { n, version: 6 }, 'a change')));
		await L.write('/lines/L/spots/F', { n: 4, version: 6 }, 'made from an old reading');
		for (const n of [5, 6, 7]) await L.save('/lines/L/designs/G', { n, version: 10 }, 'a design');
	}`)
	w.until("the newest of the design is taken", func() bool { return strings.Contains(s.taken(), `designs/G {"n":7`) })
	if got, want := s.taken(), "/lines/L/spots/F {\"n\":1,\"version\":6}\n/lines/L/spots/F {\"n\":2,\"version\":7}\n/lines/L/spots/F {\"n\":3,\"version\":8}\n"+
		"/lines/L/spots/F {\"n\":4,\"version\":9}\n/lines/L/designs/G "; !strings.HasPrefix(got, want) || strings.Contains(got, `"n":5`) {
		t.Errorf("taken:\n%s\nwant\n%s", got, want)
	}

	// A conflict holds the newest of what was drawn here, and is settled with it.
	version = 20
	w.do(`async () => { await L.save('/lines/L/designs/G', { n: 8, version: 10 }, 'a design'); }`)
	w.until("it conflicts", func() bool { return aside() == `["a design"]` })
	w.do(`async () => { await L.save('/lines/L/designs/G', { n: 9, version: 10 }, 'a design'); }`)
	if got := w.do(`() => L.keptNow().filter((k) => k.path.endsWith('/G') && k.takenAt === null).map((k) => k.body.n)`); got != `[9]` {
		t.Errorf("kept of it: %s", got)
	}
	w.do(`async () => { const k = L.keptNow().find((k) => k.refused); await L.sendAgain(k.mutation, { mutation: '01K8V7Z8R5Q6T9W3X1Y2Z4A5B6', body: { ...k.body, version: 20 } }); }`)
	w.until("mine is over it", func() bool { return strings.HasSuffix(s.taken(), "designs/G {\"n\":9,\"version\":20}") })

	// What was meant for another file waits for that.
	s.lock.Lock()
	s.got, s.answer = nil, accept
	s.lock.Unlock()
	w.do(`async () => { L.setFile('one'); }`)
	s.lock.Lock()
	s.answer = func(string, map[string]any) (int, any) { return problem(http.StatusMisdirectedRequest) }
	s.lock.Unlock()
	w.do(`() => { void L.act('/lines/L/visits/H', { n: 1 }, 'for the first file'); }`)
	w.until("it is kept", func() bool { return w.do(`() => L.keptNow().some((k) => k.path.endsWith('/H'))`) == "true" })
	w.do(`() => L.setFile('two')`)
	s.lock.Lock()
	s.answer = accept
	s.lock.Unlock()
	w.do(`() => { void L.act('/lines/L/visits/I', { n: 2 }, 'for the second'); }`)
	w.until("what is for the second is taken", func() bool { return strings.Contains(s.taken(), "/visits/I ") })
	w.do(`async () => { L.setFile('one'); await L.flush(); }`)
	w.until("each is taken, once", func() bool {
		got := s.taken()
		return strings.Count(got, "/visits/H ") == 1 && strings.Count(got, "/visits/I ") == 1
	})
	w.until("none is left", func() bool { return w.do(`() => L.keptNow().filter((k) => k.takenAt === null).length`) == "0" })
}

// Two windows of one browser share what is kept: what one enters while the program is away, the other sends, once.
func TestTwoWindowsShareTheOutbox(t *testing.T) {
	t.Parallel()
	w, s := logic(t)
	s.lock.Lock()
	s.answer = func(string, map[string]any) (int, any) { return problem(http.StatusServiceUnavailable) }
	s.lock.Unlock()
	if got := w.do(`async () => (await L.act('/lines/L/visits/A', { n: 1 }, 'entered in the first')).state`); got != `"kept"` {
		t.Errorf("it is %s", got)
	}
	second := &page{Page: w.Browser().MustPage(s.URL).MustWaitLoad(), t: t, address: w.address}
	second.MustEval(`() => localStorage.setItem('test-pace', '40')`)
	second.load()
	second.until("the second sees it", func() bool { return second.do(`() => L.keptNow().length`) == "1" })
	s.lock.Lock()
	s.answer = accept
	s.lock.Unlock()
	w.until("it is taken", func() bool { return s.taken() != "" })
	for _, window := range []*page{w, second} {
		window.until("both know that it is taken", func() bool { return window.do(`() => L.keptNow().every((k) => k.takenAt !== null)`) == "true" })
	}
	if got := s.taken(); got != `/lines/L/visits/A {"n":1}` {
		t.Errorf("taken: %s", got)
	}
}

// What the first program kept in a browser is carried over: writes in their order, a pull as it is said now, and designs.
func TestWhatBrowsersKeepIsCarriedOver(t *testing.T) {
	t.Parallel()
	w, s := logic(t)
	w.MustNavigate(s.URL).MustWaitLoad()
	w.MustEval(`async () => {
		const databases = await indexedDB.databases();
		await Promise.all(databases.map((d) => new Promise((done) => { const r = indexedDB.deleteDatabase(d.name); r.onsuccess = r.onerror = done; })));
		const db = await new Promise((done) => {
			const open = indexedDB.open('old-burrow', 10);
			open.onupgradeneeded = () => open.result.createObjectStore('kept', { keyPath: 'mutation' });
			open.onsuccess = () => done(open.result);
		});
		const put = (row) => new Promise((done) => { const t = db.transaction('kept', 'readwrite'); t.objectStore('kept').put(row); t.oncomplete = done; });
		await put({ mutation: '01K8V7Z8R5Q6T9W3X1Y2Z4A5B7', path: '/lines/L/makes/M/pull', body: { at: '2026-12-04T13:00:00Z' }, what: 'a pull' });
		await put({ mutation: '01K8V7Z8R5Q6T9W3X1Y2Z4A5B6', path: '/lines/L/visits/V', body: { n: 1 }, what: 'a look' });
		await put({ mutation: '01K8V7Z8R5Q6T9W3X1Y2Z4A5B8', path: '/lines/L/visits/W', body: { n: 2 }, what: 'a refused look', refused: { detail: 'No.' } });
		db.close();
		localStorage.setItem('draft:D', JSON.stringify({ id: 'D', lineId: 'L', version: 3 }));
	}`)
	w.load()
	w.until("all is taken", func() bool { return strings.Count(s.taken(), "\n") == 2 })
	var pull line.Pull
	lines := strings.Split(s.taken(), "\n")
	path, raw, _ := strings.Cut(lines[1], " ")
	if err := json.Unmarshal([]byte(raw), &pull); err != nil || path != "/lines/L/pulls/"+pull.ID || pull.MakeID != "M" || pull.At.Hour() != 13 {
		t.Errorf("the pull is sent as %s %s", path, raw)
	}
	if lines[0] != `/lines/L/visits/V {"n":1}` || lines[2] != `/lines/L/designs/D {"id":"D","lineId":"L","version":3}` {
		t.Errorf("sent: %q", lines)
	}
	if got := w.do(`() => [L.keptNow().filter((k) => k.refused).map((k) => k.what), localStorage.getItem('draft:D')]`); got != `[["a refused look"],null]` {
		t.Errorf("left: %s", got)
	}
}
