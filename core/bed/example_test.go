package bed_test

import (
	"fmt"

	"oldburrow/core/bed"
)

// A bed is as long as the trap's frame with the margin on both sides, and as deep as base, trap and cover together: 170 + 2 · 10, 12 + 40 + 10.
func ExampleOf() {
	in := bed.Defaults()
	in.FrameLengthMm, in.JawSpreadMm, in.SetHeightMm, in.PanDiameterMm = 170, 140, 40, 54
	out, err := bed.Of(in)
	fmt.Printf("%.0f mm long, %.0f mm deep, %v\n", out.LengthMm, out.DepthMm, err)
	// Output:
	// 190 mm long, 62 mm deep, <nil>
}
