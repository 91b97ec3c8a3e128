package ground_test

import (
	"fmt"
	"slices"

	"oldburrow/core/ground"
)

// Frost goes down after Stefan, by the root of the degree-days below nought: four times as many days, twice as deep.
func ExampleFrost() {
	for _, days := range []int{5, 20} {
		out, err := ground.Frost(ground.FrostInput{
			Soil: "loam", Wetness: "moist", Surface: "bare", DailyMeanC: slices.Repeat([]float64{-8}, days), SnowCm: make([]float64, days),
		})
		fmt.Printf("%.0f degree-days, %.0f mm, %v\n", out.FreezingIndex, out.DepthMm, err)
	}
	// Output:
	// 36 degree-days, 183 mm, <nil>
	// 144 degree-days, 366 mm, <nil>
}
