// Package core_test runs the worked cases of the calculations.
package core_test

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"slices"
	"testing"

	"oldburrow/core/calc"
)

type golden struct {
	Calc      string             `json:"calc"`
	In        json.RawMessage    `json:"in"`
	Out       map[string]any     `json:"out"`
	Tolerance map[string]float64 `json:"tolerance"`
}

// unbuilt are the calculators of which there are worked cases and nothing else yet.
var unbuilt = []string{"causes", "order", "judge", "wait", "work"}

func TestWorkedCases(t *testing.T) {
	var cases []golden
	for _, file := range []string{"testdata/calc.json", "testdata/shed.json"} {
		raw, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		var of []golden
		if err := json.Unmarshal(raw, &of); err != nil {
			t.Fatal(err)
		}
		cases = append(cases, of...)
	}
	ran := map[string]int{}
	for i, c := range cases {
		if slices.Contains(unbuilt, c.Calc) {
			continue
		}
		ran[c.Calc]++
		t.Run(fmt.Sprintf("%s_%d", c.Calc, i), func(t *testing.T) { c.run(t) })
	}
	for _, name := range calc.Names() {
		if ran[name] == 0 {
			t.Errorf("no worked case for %s", name)
		}
		if slices.Contains(unbuilt, name) {
			t.Errorf("%s is built: take it from the list", name)
		}
	}
}

func (c golden) run(t *testing.T) {
	in := c.In
	if c.Calc == "footfall" || c.Calc == "pattern" { // the cases were worked with this many
		in = append([]byte(`{"visits":300000,`), c.In[1:]...)
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
