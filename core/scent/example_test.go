package scent_test

import (
	"fmt"

	"oldburrow/core/scent"
)

// Scent covers a way in the share of the hours whose wind carries it there: here one hour of two.
func ExampleCoverage() {
	out, err := scent.Coverage(scent.Input{
		Travel: [][2]float64{{-50, 10}, {50, 10}}, RangeM: 30, FromHour: 20, ToHour: 6,
		Wind: []scent.Wind{{Hour: 22, FromDeg: 180, SpeedMs: 3}, {Hour: 23, FromDeg: 0, SpeedMs: 3}},
	})
	fmt.Printf("%.2f %v\n", out.Coverage, err)
	// Output:
	// 0.50 <nil>
}
