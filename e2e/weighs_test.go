package e2e

import (
	"encoding/json"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"oldburrow/core/anchor"
	"oldburrow/core/animal"
	"oldburrow/core/layout"
	"oldburrow/core/line"
	"oldburrow/core/odds"
	"oldburrow/core/outlook"
	"oldburrow/core/schools"
	"oldburrow/core/shed"
	span "oldburrow/core/tally"
	"oldburrow/core/weather"
)

// ofPattern are the computer's own leaves that are said all the same: by choosing the pattern.
var ofPattern = []string{"kind", "pattern", "attractors[].kind", "rigs[].device"}

var slotIn = regexp.MustCompile(`"(slot":\d+|key":"trap[^"]*"),?`)

// weighed is all that is computed of a layout, each by its name, as it is written.
func weighed(t *testing.T, l layout.Layout) map[string]string {
	t.Helper()
	found := map[string]string{}
	tell := func(name string, x any, err error) {
		raw, wrong := json.Marshal(x)
		if err != nil || wrong != nil {
			raw = []byte("refused")
		}
		found[name] = slotIn.ReplaceAllString(string(raw), "") // a slot only names
	}
	coyote := animal.Reference[0]
	frost, about := 20.0, 1.0
	scented := false
	around := odds.Circumstances{
		Sign: odds.AgeDays3, Signs: 2, WaysMeet: 1, Coverage: new(.4), Night: 6, ScentOnBed: &scented, Heaviest: "coyote", Pets: []string{"dog"},
		Site: layout.Site{Through: "few"}, Others: map[string]odds.Presence{"skunk": {Sign: odds.AgeDays3, Signs: 1, About: &about}},
	}
	q := odds.Question{
		Layout: l, Target: coyote, Animals: animal.Reference, Schools: schools.Usual(), Visits: 300, Circumstances: &around,
		Soil: anchor.Soil{Kind: "loam", Wetness: "moist", FrostMm: &frost, DeepestMm: &frost}, Underfoot: layout.Underfoot{Frozen: true},
	}
	answer, err := odds.Of(q)
	if err != nil {
		q.Circumstances.Site = layout.Site{}
		answer, err = odds.Of(q)
	}
	if err != nil {
		t.Fatal(err)
	}
	tell("chain and who else", []any{answer.Chain, answer.Whole, answer.Rigs, answer.Sight}, nil)
	tell("hold", []any{answer.Anchors, answer.Pets}, nil)
	tell("minutes", answer.Minutes, nil)
	reach, err := anchor.Reach(l, coyote)
	tell("circle", reach, err)
	now := time.Date(2026, 12, 4, 13, 0, 0, 0, time.UTC)
	spot := line.Spot{ID: "spot", Soil: "loam", Wetness: "moist", Surface: "grass"}
	var hours []weather.Hour
	for at := now.AddDate(0, 0, -9); at.Before(now); at = at.Add(time.Hour) {
		hours = append(hours, weather.Hour{At: at, TempC: 3 - float64(at.Hour()%9), RainMm: float64(at.Hour()%7) / 9, WindMs: 3, WindFromDeg: 250})
	}
	made := line.Make{ID: "m", SetID: "s", Layout: l, Target: "coyote", BuiltAt: now.AddDate(0, 0, -4)}
	drawn, err := outlook.Of(outlook.Line{
		Line: line.Line{LatDeg: 46.8, LonDeg: -105.3}, Now: now, Zone: time.UTC, Spots: []line.Spot{spot}, Observed: hours,
		Standing: []outlook.Standing{{Set: line.Set{ID: "s", SpotID: "spot", Number: 1}, Make: made}},
	})
	tell("water in the bed", drawn.Sets, err)
	record := shed.Record{
		Record: line.NewRecord(now, time.UTC, span.Span{}, line.Noted{}), Animals: animal.Reference, Schools: schools.Usual(),
		Designs: []line.Design{{ID: "d", SpotID: "spot", Target: "coyote", Layout: l}},
	}
	kit, err := record.KitFor("2026-12-05", nil, shed.Outside{})
	kit.Plan = shed.Plan{} // it has the layout in it
	tell("kit", kit, err)
	return found
}

// vocabularies are the lists of words that a page knows.
func vocabularies(t *testing.T) (lists [][]string) {
	raw, err := os.ReadFile("../web/src/lib/lists.gen.ts")
	if err != nil {
		t.Fatal(err)
	}
	for _, found := range regexp.MustCompile(`= (\[".*\]) as const`).FindAllStringSubmatch(string(raw), -1) {
		var words []string
		if err := json.Unmarshal([]byte(found[1]), &words); err != nil {
			t.Fatal(err)
		}
		lists = append(lists, words)
	}
	return lists
}

// moved are the layouts in which a leaf, at a path, is a tenth more, a tenth less, another word, or the other of two: those that can be.
func moved(t *testing.T, l layout.Layout, path string, lists [][]string) (found []layout.Layout) {
	t.Helper()
	raw, err := json.Marshal(l)
	if err != nil {
		t.Fatal(err)
	}
	try := func(to any) {
		var whole any
		if err := json.Unmarshal(raw, &whole); err != nil {
			t.Fatal(err)
		}
		put(whole, path, to)
		changed, err := json.Marshal(whole)
		if err != nil {
			t.Fatal(err)
		}
		var next layout.Layout
		if json.Unmarshal(changed, &next) == nil && next.Check() == nil {
			found = append(found, next)
		}
	}
	var whole any
	if err := json.Unmarshal(raw, &whole); err != nil {
		t.Fatal(err)
	}
	switch is := flat(whole, "", map[string]any{})[path].(type) {
	case float64:
		for _, by := range []float64{1.1, .9} {
			if try(is * by); is == 0 {
				try(20.0)
			}
		}
	case bool:
		try(!is)
	case string:
		for _, words := range lists {
			for _, word := range words {
				if len(found) < 6 && word != is && (slices.Contains(words, is) || is == "") {
					try(word)
				}
			}
		}
		try(is + " otherwise")
	}
	return found
}

// put puts a value in the place of a leaf.
func put(whole any, path string, to any) {
	steps := strings.Split(strings.ReplaceAll(path, "[", ".["), ".")
	for i, step := range steps {
		last := i == len(steps)-1
		switch x := whole.(type) {
		case map[string]any:
			if last {
				x[step] = to
			}
			whole = x[step]
		case []any:
			k, _ := strconv.Atoi(strings.Trim(step, "[]"))
			if last {
				x[k] = to
			}
			whole = x[k]
		}
	}
}

// Which leaves of a layout weigh is found, by moving each of five layouts and asking all that is computed: none of them is among those that nobody says.
func TestWhatWeighsCanBeSaid(t *testing.T) {
	t.Parallel()
	lists := vocabularies(t)
	weighs := map[string]string{}
	for _, l := range spoken(t)[:5] {
		raw, err := json.Marshal(l)
		if err != nil {
			t.Fatal(err)
		}
		var whole any
		if err := json.Unmarshal(raw, &whole); err != nil {
			t.Fatal(err)
		}
		before := weighed(t, l)
		for path := range flat(whole, "", map[string]any{}) {
			leaf := leafOf(path)
			if weighs[leaf] != "" {
				continue
			}
			for _, next := range moved(t, l, path, lists) {
				for name, is := range weighed(t, next) {
					if is != before[name] {
						weighs[leaf] = name
					}
				}
			}
		}
	}
	for leaf, moves := range weighs {
		if slices.Contains(ownLeaves, leaf) && !slices.Contains(ofPattern, leaf) {
			t.Errorf("%s moves %s, and no page lets one say it", leaf, moves)
		}
	}
	for _, leaf := range []string{"spoil", "hands", "guides[].rMm", "guides[].lengthMm", "rigs[].bed.firm", "rigs[].chainMm", "anchors[].lengthMm", "rigs[].cover[].thicknessMm", "show", "rigs[].pan.gaugeN"} {
		if weighs[leaf] == "" {
			t.Errorf("%s moves nothing", leaf)
		}
	}
	if len(weighs) < 40 {
		t.Errorf("%d leaves weigh: %v", len(weighs), weighs)
	}
}
