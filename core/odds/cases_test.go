package odds_test

import (
	"testing"

	"oldburrow/core/worked"
)

// First among this package's tests, by the name of its file: they notice most of what can go wrong, in a second.
func TestWorkedCases(t *testing.T) { worked.Run(t, "pattern", "chain") }
