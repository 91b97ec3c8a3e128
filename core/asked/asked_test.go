package asked

import (
	"bytes"
	"encoding/json"
	"errors"
	"os"
	"testing"

	"oldburrow/core/animal"
	"oldburrow/core/calc"
	"oldburrow/core/ground"
	"oldburrow/core/layout"
	"oldburrow/core/refuse"
	"oldburrow/core/schools"
	"oldburrow/core/strict"
)

func answered(t *testing.T, path, body string) any {
	t.Helper()
	found, err := Answer(t.Context(), Usual(), path, []byte(body), func(any) { t.Errorf("%s is told line by line", path) })
	if err != nil {
		t.Fatalf("%s: %v", path, err)
	}
	return found
}

// A path is answered by its own route, one that ends in a key by that key, and no other path by any.
func TestPaths(t *testing.T) {
	if got, want := answered(t, "/coordinates", `{"place":"46.8, -105.3"}`), (ground.Fix{LatDeg: 46.8, LonDeg: -105.3}); got != want {
		t.Errorf("%v, want %v", got, want)
	}
	raw, err := os.ReadFile("../testdata/calc.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []struct {
		Calc string
		In   json.RawMessage
	}
	if err := json.Unmarshal(raw, &cases); err != nil || len(cases) < 100 {
		t.Fatalf("%d worked cases, %v", len(cases), err)
	}
	met := map[string]bool{}
	for _, c := range cases {
		want, err := calc.Run(c.Calc, c.In)
		if err != nil || met[c.Calc] {
			continue
		}
		met[c.Calc] = true
		if got := answered(t, "/calc/"+c.Calc, string(c.In)).(json.RawMessage); !bytes.Equal(got, want) {
			t.Errorf("%s: %s, want %s", c.Calc, got, want)
		}
	}
	if len(met) < len(calc.Names())/2 {
		t.Errorf("%d calculators were asked", len(met))
	}
	for _, path := range []string{"", "/", "/bench/", "/calc", "/calc/", "/calc/hole/deep", "/bench/lessons/", "/lines/L", "/bench/compare/"} {
		if found, err := Answer(t.Context(), Usual(), path, []byte(`{}`), nil); !errors.Is(err, refuse.ErrUnknown) {
			t.Errorf("%q: %v, %v", path, found, err)
		}
	}
	if _, err := Answer(t.Context(), Usual(), "/calc/nothing", []byte(`{}`), nil); !errors.Is(err, calc.ErrUnknown) {
		t.Errorf("an unknown calculator: %v", err)
	}
}

// Whatever is sent to whichever route: what is wrong with it is named by its field, and what a newer page sends is told from what is simply wrong.
func TestWhatIsWrongIsNamed(t *testing.T) {
	for _, r := range Routes() {
		if r.Body == nil {
			continue
		}
		for body, newer := range map[string]bool{``: false, `{`: false, `[]`: false, `{} {}`: false, `{"moon":"full"}`: true} {
			_, err := Answer(t.Context(), Usual(), r.Path, []byte(body), func(any) { t.Errorf("%s tells of %q", r.Path, body) })
			var p refuse.Problems
			if !errors.As(err, &p) || len(p) == 0 || p[0].Says == "" {
				t.Errorf("%s %q: %v", r.Path, body, err)
			}
			if errors.As(err, &strict.Newer{}) != newer {
				t.Errorf("%s %q is of a newer page: %v", r.Path, body, !newer)
			}
		}
	}
	for field, body := range map[string]string{"target": `{"target":"wolf","visits":100}`, "visits": `{"target":"coyote","visits":0}`} {
		_, err := Answer(t.Context(), Usual(), "/bench", []byte(body), nil)
		var p refuse.Problems
		if !errors.As(err, &p) || p[0].Field != field {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// A set's own numbers come at once; who else it would catch and what would help come line by line, and at last that this is all.
func TestAtOnceAndLineByLine(t *testing.T) {
	coyote, err := animal.Reference.ByKey("coyote")
	if err != nil {
		t.Fatal(err)
	}
	begun, err := layout.New("hole", layout.Begin{Target: coyote, Schools: schools.Usual()})
	if err != nil {
		t.Fatal(err)
	}
	raw, err := json.Marshal(map[string]any{"layout": begun, "target": "coyote", "visits": 300, "map": false})
	if err != nil {
		t.Fatal(err)
	}
	chain, err := json.Marshal(answered(t, "/bench", string(raw)))
	if err != nil || !bytes.Contains(chain, []byte(`"chain"`)) {
		t.Errorf("%.200s, %v", chain, err)
	}
	_, err = Answer(t.Context(), Usual(), "/bench/following", raw, nil)
	var p refuse.Problems
	if !errors.As(err, &p) || p[0].Field != "circumstances" {
		t.Errorf("without its place: %v", err)
	}
}
