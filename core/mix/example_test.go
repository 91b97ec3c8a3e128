package mix_test

import (
	"fmt"

	"oldburrow/core/mix"
)

// A total is shared out by parts: one of glycol to two of water, 750 ml in all.
func ExampleDilute() {
	out, err := mix.Dilute(mix.DiluteInput{Parts: []float64{1, 2}, TotalMl: 750})
	fmt.Println(out.Ml, err)
	// Output:
	// [250 500] <nil>
}
