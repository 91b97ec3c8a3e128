package learn_test

import (
	"fmt"

	"oldburrow/core/learn"
)

// What a line has caught of what was promised corrects the promise by (shape + caught) / (shape + expected): 4 and 2 beside 4 and 6 is six tenths.
func ExampleOf() {
	out, err := learn.Of(learn.Input{Levels: []learn.Level{{Key: "line", Expected: 6, Caught: 2, Shape: 4}}})
	fmt.Printf("told by %.2f, %v\n", out.Levels[0].Factor, err)
	// Output:
	// told by 0.60, <nil>
}
