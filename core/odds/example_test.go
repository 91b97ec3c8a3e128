package odds_test

import (
	"fmt"

	"oldburrow/core/animal"
	"oldburrow/core/odds"
)

// The links of a chain multiply: what passes, notices, commits, steps on the pan, fires it and is held.
func ExampleChain() {
	out, err := odds.Chain(animal.Reference[1], odds.ChainInput{
		Sign: odds.AgeDays3, Signs: 2, WaysMeet: 1, Coverage: .5, Sight: .3, About: 1, Night: 9, CaughtBefore: true, Steps: .5, Fires: .9, AnchorHold: .97, PadShare: .9,
	})
	fmt.Printf("%.3f a night pass, %.2f notice, %.2f commit: %.2f in 100 set-nights, %v\n", out.Passes, out.Notices, out.Commits, out.Per100, err)
	// Output:
	// 0.200 a night pass, 0.65 notice, 0.77 commit: 4.19 in 100 set-nights, <nil>
}
