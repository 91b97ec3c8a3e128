package round_test

import (
	"fmt"

	"oldburrow/core/round"
)

// A look every calendar day is due by the midnight after the next day, by the line's own clock.
func ExampleDue() {
	out, err := round.Due(round.DueInput{Mode: round.CalendarDay, Last: "2026-12-04T13:30:00Z", Zone: "America/Denver"})
	fmt.Println(out.Due, err)
	// Output:
	// 2026-12-06T07:00:00Z <nil>
}
