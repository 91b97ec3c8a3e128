package footfall_test

import (
	"fmt"

	"oldburrow/core/animal"
	"oldburrow/core/footfall"
)

// Feet of many visits are walked over a pan; the same seed gives the same feet.
func ExampleSimulate() {
	in := footfall.Defaults()
	in.Approach, in.Pans, in.JawSpreadMm, in.Visits, in.Seed = footfall.Stand, []footfall.Pan{{YMm: 235, DiameterMm: 54}}, 140, 2000, 1
	out, err := footfall.Simulate(animal.Reference[0], in)
	fmt.Printf("%.2f of the visits step on it, %v\n", out.Step, err)
	// Output:
	// 0.22 of the visits step on it, <nil>
}
