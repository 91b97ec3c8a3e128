package hole_test

import (
	"fmt"

	"oldburrow/core/animal"
	"oldburrow/core/hole"
)

// From where the bottom of a hole comes in sight is where the line from the eye over the mouth's rim meets it.
func ExampleStandoff() {
	out, err := hole.Standoff(animal.Reference[0], hole.Input{HoleDiameterMm: 76, HoleDepthMm: 230, HoleAngleDeg: 45})
	fmt.Printf("standing %.0f mm, crouched %.0f mm, %v\n", out.StandingMm, out.CrouchedMm, err)
	// Output:
	// standing 1038 mm, crouched 577 mm, <nil>
}
