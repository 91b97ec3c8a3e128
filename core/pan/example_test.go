package pan_test

import (
	"fmt"

	"oldburrow/core/animal"
	"oldburrow/core/pan"
)

// A cover's strength is that of the plug that the pan shears, τπDt, less the weight on it: of 6.35 mm of waxed soil (0.8 kPa, 1300 kg/m³) over a pan of
// 54 mm, 0.862 − 0.185 N.
func ExampleCover() {
	out, err := pan.Cover(pan.CoverInput{Material: pan.WaxedSoil, ThicknessMm: 6.35, PanDiameterMm: 54})
	fmt.Printf("%.2f N, %v\n", out.AddsN, err)
	// Output:
	// 0.68 N, <nil>
}

// The chance that a foot fires a pan is P(mass · g · share > tension). At nought every foot fires it.
func ExampleFire() {
	coyote := animal.Reference[0]
	for _, tensionN := range []float64{0, 17.8, 60} {
		chance, err := pan.Fire(coyote, tensionN, false)
		fmt.Printf("%.2f %v\n", chance, err)
	}
	// Output:
	// 1.00 <nil>
	// 0.98 <nil>
	// 0.47 <nil>
}
