package gauge_test

import (
	"fmt"

	"oldburrow/core/gauge"
)

// Presses are multiplied by what their gauge's calibration says, and their spread is their standard deviation as a share of their mean: 0.4 of 18.
func ExampleMeasure() {
	m, err := gauge.Measure([]float64{17.6, 18.0, 18.4}, 1)
	fmt.Printf("%.1f N, spread %.3f, %v\n", m.MeanN, m.Spread, err)
	// Output:
	// 18.0 N, spread 0.022, <nil>
}
