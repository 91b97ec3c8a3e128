package tally_test

import (
	"fmt"

	"oldburrow/core/tally"
)

// A rate is catches per 100 trap-nights, with the exact Poisson interval after Garwood: of none in 100 nights up to −ln(0.025) = 3.69.
func ExampleRate() {
	in := tally.RateDefaults()
	in.TrapNights = 100
	out, err := tally.Rate(in)
	fmt.Printf("%.2f, from %.2f to %.2f, %v\n", out.Per100, out.Low, out.High, err)
	// Output:
	// 0.00, from 0.00 to 3.69, <nil>
}
