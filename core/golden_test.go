// Package core_test asks of all packages of the core what none of them can tell alone.
package core_test

import (
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"testing"

	"oldburrow/core/calc"
	"oldburrow/core/worked"
)

// Every worked case is run by the package that computes it, and every calculator has one.
func TestEveryWorkedCaseIsRun(t *testing.T) {
	cases, err := worked.In("testdata")
	if err != nil {
		t.Fatal(err)
	}
	files, err := filepath.Glob("*/*_test.go")
	if err != nil {
		t.Fatal(err)
	}
	var run []string
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		call := regexp.MustCompile(`worked\.Run\(t, (.*)\)`).FindSubmatch(text)
		if call == nil {
			continue
		}
		for _, name := range regexp.MustCompile(`"([a-z-]+)"`).FindAllSubmatch(call[1], -1) {
			run = append(run, string(name[1]))
		}
	}
	slices.Sort(run)
	if !slices.Equal(run, calc.Names()) {
		t.Errorf("the packages run the cases of %v, there are %v", run, calc.Names())
	}
	for _, c := range cases {
		if !slices.Contains(run, c.Calc) {
			t.Errorf("of %s there are cases, and no package runs them", c.Calc)
		}
	}
}
