package anchor_test

import (
	"fmt"

	"oldburrow/core/anchor"
)

// What a stake bears is the skin of what is driven and its stand as a short pile (Broms), for a pull at an angle.
func ExampleHolding() {
	for _, lengthMm := range []float64{450, 610} {
		in := anchor.HoldingDefaults()
		in.Soil, in.Wetness, in.Kind, in.DiameterMm, in.LengthMm = "loam", "moist", "stake", 12.7, lengthMm
		out, err := anchor.Holding(in)
		fmt.Printf("%.0f N %v\n", out.CapacityN, err)
	}
	// Output:
	// 554 N <nil>
	// 772 N <nil>
}
