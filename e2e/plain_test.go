package e2e

import (
	"encoding/json"
	"strings"
	"testing"

	"oldburrow/core/refuse"
	"oldburrow/server"
)

// One and many are told by one function.
func TestOneAndMany(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	for _, c := range []struct {
		n    int
		noun string
		want string
	}{
		{0, "night", "no nights"}, {1, "night", "one night"}, {2, "night", "two nights"}, {13, "night", "13 nights"}, {1, "press", "one press"}, {3, "press", "three presses"},
		{2, "red fox", "two red foxes"}, {2, "catch", "two catches"}, {2, "property", "two properties"}, {2, "day", "two days"}, {21, "look", "21 looks"}, {1, "animal", "one animal"},
	} {
		if got := w.do(`(n, noun) => L.many(n, noun)`, c.n, c.noun); got != `"`+c.want+`"` {
			t.Errorf("%d %s: %s", c.n, c.noun, got)
		}
	}
	for want, caught := range map[string][]string{
		`"coyote"`: {"coyote"}, `"two coyotes"`: {"coyote", "coyote"}, `"coyote and raccoon"`: {"coyote", "raccoon"}, `"two red foxes and skunk"`: {"red_fox", "skunk", "red_fox"}, `""`: {},
	} {
		if got := w.do(`(of) => L.caughtWords(of.map((species) => ({ species })))`, caught); got != want {
			t.Errorf("%v: %s", caught, got)
		}
	}
}

// A time is read as it is written in a hurry, with or without a half of the day; what is none is none.
func TestATimeAsItIsWritten(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	for typed, want := range map[string]string{
		"7:05": "07:05", "705": "07:05", "0705": "07:05", "7": "07:00", "7.05": "07:05", "650": "06:50", "6:50 am": "06:50", "6:50AM": "06:50", "3:30 pm": "15:30", "330p": "15:30",
		"12 am": "00:00", "12:15 pm": "12:15", "12:05": "12:05", "11 p.m.": "23:00", "23:59": "23:59", " 9 ": "09:00",
		"24": "", "7:60": "", "13 pm": "", "0:30 pm": "", "25:00": "", "seven": "", "": "", "7:5": "", "12345": "",
	} {
		got := w.do(`(typed) => L.timeOf(typed)`, typed)
		if want == "" && got != "null" || want != "" && got != `"`+want+`"` {
			t.Errorf("%q is %s, want %q", typed, got, want)
		}
	}
	const now, zone = "2026-12-04T12:50:00Z", "America/Denver"
	for typed, want := range map[string]string{
		"5:50": `{"at":"2026-12-04T12:50:00.000Z","timed":true}`, "5:52": `{"at":"2026-12-04T12:52:00.000Z","timed":true}`,
		"5:53": `{"wrong":"05:53 still lies ahead, it is 05:50 on Friday 4 December. Write when the look was"}`,
		"soon": `{"wrong":"Write the time of the look, such as 7:05 or 3:30 pm"}`,
	} {
		if got := w.do(`(...args) => L.timeOn(...args)`, typed, "2026-12-04", zone, now); got != want {
			t.Errorf("%q: %s, want %s", typed, got, want)
		}
	}
	if got := w.do(`(...args) => L.timeOn(...args)`, "2:30", "2026-03-08", zone, now); !strings.Contains(got, "does not exist on that day") {
		t.Errorf("a time over which the clocks went ahead: %s", got)
	}
}

// A look without a time lies between its neighbours on the sheet that have one, and never where it cannot have been.
func TestThatMorning(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	type row map[string]any
	at := func(clock string, untimed ...bool) row {
		if len(untimed) > 0 {
			return row{"at": "2026-12-04T" + clock + ":00Z", "timed": false}
		}
		return row{"at": "2026-12-04T" + clock + ":00Z"}
	}
	sheet := func(looks ...[]row) map[string]any {
		var sets []map[string]any
		for i, of := range looks {
			if of == nil {
				of = []row{}
			}
			sets = append(sets, map[string]any{"setId": string(rune('a' + i)), "looks": of})
		}
		return map[string]any{"morning": "2026-12-04T13:54:00Z", "sets": sets}
	}
	stood := map[string]any{"builtAt": "2026-11-01T00:00:00Z", "pulledAt": nil}
	for name, c := range map[string]struct {
		day  any
		set  string
		make map[string]any
		now  string
		want string
	}{
		"nobody has a time":        {sheet(nil, nil, nil), "b", stood, "2026-12-05T00:00:00Z", "13:54"},
		"between above and below":  {sheet([]row{at("14:00")}, nil, []row{at("15:00")}), "b", stood, "2026-12-05T00:00:00Z", "14:30"},
		"the nearest of several":   {sheet([]row{at("13:00")}, []row{at("14:00"), at("14:20")}, nil, []row{at("15:00"), at("16:00")}), "c", stood, "2026-12-05T00:00:00Z", "14:40"},
		"only above":               {sheet([]row{at("15:10")}, nil), "b", stood, "2026-12-05T00:00:00Z", "15:10"},
		"only below":               {sheet(nil, []row{at("13:10")}), "a", stood, "2026-12-05T00:00:00Z", "13:10"},
		"one that has none itself": {sheet([]row{at("11:00", true)}, nil, []row{at("15:00")}), "b", stood, "2026-12-05T00:00:00Z", "15:00"},
		"no later than now":        {sheet(nil), "a", stood, "2026-12-04T12:50:00Z", "12:50"},
		"not before it was built":  {sheet(nil), "a", map[string]any{"builtAt": "2026-12-04T16:00:00Z", "pulledAt": nil}, "2026-12-05T00:00:00Z", "16:00"},
		"nor after it was pulled":  {sheet(nil), "a", map[string]any{"builtAt": "2026-11-01T00:00:00Z", "pulledAt": "2026-12-04T13:00:00Z"}, "2026-12-05T00:00:00Z", "13:00"},
	} {
		if got := w.do(`(...args) => L.thatMorning(...args)`, c.day, c.set, c.make, c.now); got != `"2026-12-04T`+c.want+`:00.000Z"` {
			t.Errorf("%s: %s, want %s", name, got, c.want)
		}
	}
	if got := w.do(`(look) => L.timeWords(look, 'America/Denver')`, at("14:00", true)); got != `"that morning"` {
		t.Errorf("it is shown as %s", got)
	}
}

// The form asks for what the program asks for.
func TestTheFormAsksForWhatTheProgramAsksFor(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	var cases []struct {
		Look   json.RawMessage
		Fields []string
	}
	table(t, "missing.json", &cases, 10)
	for _, c := range cases {
		want, _ := json.Marshal(c.Fields)
		if got := w.do(`(look) => L.missingOf(look).map((p) => p.field)`, c.Look); got != string(want) {
			t.Errorf("%s lacks %s, want %s", c.Look, got, want)
		}
	}
}

// What the program objects to is told without its keys, with what would be right.
func TestRefusalsInWords(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	for want, p := range map[string]refuse.Problem{
		"Choose the foot, or not looked at":                                     {Field: "catches[0].foot", Says: "is missing: choose one of left_fore, right_fore"},
		"Give the gauge a name, so that its readings can be compared":           {Field: "gauge", Says: "is missing: write something here"},
		"Setback must be from 2 in to 23 ⅝ in, not 39 ⅜ in":                     {Field: "layout.setbackMm", Says: "must be from 50 mm to 600 mm, not 1000 mm"},
		"Caught \"yeti\" is not known: choose one of coyote, red fox, grey fox": {Field: "catches[1].species", Says: "\"yeti\" is not known: choose one of coyote, red_fox, grey_fox"},
		"Pan diameter must be from 1 in to 4 in, not ⅜ in":                      {Field: "panDiameterMm", Says: "must be from 25.4 mm to 101.6 mm, not 9.5 mm"},
	} {
		var got string
		if err := json.Unmarshal([]byte(w.do(`(p) => L.problemWords(p, 'us')`, p)), &got); err != nil || got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
	got := w.do(`(p) => L.refusalWords(p, 'us')`, server.Problem{Detail: "x", Fields: []refuse.Problem{{Field: "sex", Says: "is missing: choose one of male"}, {Field: "by", Says: "is missing: choose one of track"}}})
	if got != `"Choose its sex, or unknown. Choose what says so"` {
		t.Errorf("several: %s", got)
	}
}

// A sketch is what stands until a part of it is another, whatever order its words are kept in.
func TestASketchThatWasChanged(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	const stands = `{"kind":"dirt_hole","rigs":[{"slot":0,"name":"","pan":{"xMm":0,"yMm":230}}]}`
	for sketch, same := range map[string]bool{
		stands: true, `{"rigs":[{"pan":{"yMm":230,"xMm":0},"slot":0}],"kind":"dirt_hole"}`: true,
		`{"kind":"dirt_hole","rigs":[{"slot":0,"pan":{"xMm":0,"yMm":231}}]}`: false, `{"kind":"trench","rigs":[{"slot":0,"pan":{"xMm":0,"yMm":230}}]}`: false,
	} {
		got := w.do(`(sketch, stands) => [L.asBuilt({ target: 'coyote', layout: sketch }, { target: 'coyote', layout: stands }), L.asBuilt({ target: 'bobcat', layout: sketch }, { target: 'coyote', layout: stands })]`, json.RawMessage(sketch), json.RawMessage(stands))
		if want := map[bool]string{true: "[true,false]", false: "[false,false]"}[same]; got != want {
			t.Errorf("%s: %s", sketch, got)
		}
	}
}

// What the beds of a set ask for, of which the one that asks for the most, and how much water stands where: as the table has it.
func TestWhatBedsAskFor(t *testing.T) {
	t.Parallel()
	w, _ := logic(t)
	var cases []struct {
		Beds                        json.RawMessage
		Short, Together, US, Metric string
	}
	table(t, "beds.json", &cases, 10)
	for _, c := range cases {
		want, _ := json.Marshal([]string{c.Short, c.Together, c.US, c.Metric})
		got := w.do(`(beds) => { const bed = L.bedOf({ sets: [{ setId: 'other', beds: [{ word: 'will_lock' }] }, { setId: 's', beds }] }, 's');
			return [L.bedShort(bed), bed ? L.bedsSay(bed) : '', L.bedSays(bed, 'us'), L.bedSays(bed, 'metric')] }`, c.Beds)
		if got != string(want) {
			t.Errorf("%s ask for\n%s, want\n%s", c.Beds, got, want)
		}
	}
	if got := w.do(`() => [L.bedOf(undefined, 's') ?? 'none', L.bedOf({ sets: [] }, 's') ?? 'none']`); got != `["none","none"]` {
		t.Errorf("where nothing is known: %s", got)
	}
}
