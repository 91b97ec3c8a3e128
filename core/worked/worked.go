// Package worked runs the worked cases of the calculations, each in the tests of the package that computes it.
package worked

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"oldburrow/core/calc"
)

// Case is an input and the output that was worked out for it. A number may be off by the tolerance of its field, or of "*".
type Case struct {
	Calc      string             `json:"calc"`
	In        json.RawMessage    `json:"in"`
	Out       map[string]any     `json:"out"`
	Tolerance map[string]float64 `json:"tolerance"`
}

// In reads the cases that lie in a folder.
func In(folder string) ([]Case, error) {
	var cases []Case
	for _, file := range []string{"calc.json", "shed.json"} {
		raw, err := os.ReadFile(filepath.Join(folder, file))
		if err != nil {
			return nil, err
		}
		var of []Case
		if err := json.Unmarshal(raw, &of); err != nil {
			return nil, fmt.Errorf("%s: %w", file, err)
		}
		cases = append(cases, of...)
	}
	return cases, nil
}

// Run runs the cases of some calculators, in a test of a package that stands beside their folder.
func Run(t *testing.T, calculators ...string) {
	t.Helper()
	cases, err := In("../testdata")
	if err != nil {
		t.Fatal(err)
	}
	ran := map[string]int{}
	for _, c := range cases {
		if slices.Contains(calculators, c.Calc) {
			ran[c.Calc]++
			t.Run(fmt.Sprintf("%s_%d", c.Calc, ran[c.Calc]), func(t *testing.T) { c.run(t) })
		}
	}
	for _, name := range calculators {
		if ran[name] == 0 {
			t.Errorf("no worked case for %s", name)
		}
	}
}

func (c Case) run(t *testing.T) {
	in := c.In
	if c.Calc == "footfall" || c.Calc == "pattern" { // the cases were worked with this many; a third is as good within their tolerance
		visits := 300000
		if testing.Short() {
			visits /= 3
		}
		in = fmt.Appendf(nil, `{"visits":%d,%s`, visits, c.In[1:])
	}
	raw, err := calc.Run(c.Calc, in)
	if err != nil {
		t.Fatal(err)
	}
	var out map[string]any
	if err := json.Unmarshal(raw, &out); err != nil {
		t.Fatal(err)
	}
	for field, want := range c.Out {
		tolerance, ok := c.Tolerance[field]
		if !ok {
			tolerance = c.Tolerance["*"] // every number, at any depth
		}
		near(t, field, out[field], want, tolerance)
	}
}

// near compares numbers within the tolerance, lists element by element, objects field by field, anything else for equality.
func near(t *testing.T, field string, got, want any, tolerance float64) {
	t.Helper()
	switch want := want.(type) {
	case float64:
		if v, ok := got.(float64); !ok || math.Abs(v-want) > tolerance {
			t.Errorf("%s = %v, want %v within %v", field, got, want, tolerance)
		}
	case []any:
		list, ok := got.([]any)
		if !ok || len(list) != len(want) {
			t.Fatalf("%s = %v, want %v", field, got, want)
		}
		for i := range want {
			near(t, fmt.Sprintf("%s[%d]", field, i), list[i], want[i], tolerance)
		}
	case map[string]any:
		object, ok := got.(map[string]any)
		if !ok {
			t.Fatalf("%s = %v, want %v", field, got, want)
		}
		for key := range want {
			near(t, field+"."+key, object[key], want[key], tolerance)
		}
	default:
		if got != want {
			t.Errorf("%s = %v, want %v", field, got, want)
		}
	}
}
